//! Compression of a cylinder that leaks.
//!
//! # Source
//! Model of our own: a tight cylinder compresses polytropically, p = p₀·εⁿ. What escapes while it is
//! squeezed goes with the leak area and with the time that a stroke takes; sonic flow through an orifice
//! lets a share of the charge out that goes as 1 − exp(−t/τ), with τ = V/(C·A·c).

/// A cylinder at cranking speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cylinder {
    /// Ratio of volumes.
    pub ratio: f64,
    /// Swept volume, cm³.
    pub swept_cm3: f64,
    /// What leaks past rings, valves and seats, mm².
    pub leak_mm2: f64,
}

/// Power of the polytrope while cranking: heat goes into the walls.
const POWER: f64 = 1.25;
/// Speed at which it leaks, m/s: sonic in the throat, with what the throat takes away.
const ESCAPES: f64 = 200.0;

/// At the end of the stroke, kPa above the atmosphere.
///
/// ```
/// use cobaltine_engines::physics::{Cylinder, compression_kpa};
/// let tight = Cylinder { ratio: 10.0, swept_cm3: 500.0, leak_mm2: 0.0 };
/// // 100 · 10^1.25 − 100 = 1678 kPa.
/// assert!((compression_kpa(&tight, 220.0) - 1678.3).abs() < 0.1);
/// ```
pub fn compression_kpa(of: &Cylinder, rpm: f64) -> f64 {
    // The last third of the stroke is where the pressure is and where it leaks.
    let seconds = 60.0 / rpm.max(60.0) / 2.0 / 3.0;
    let squeezed_m3 = of.swept_cm3 * 1e-6 / 3.0;
    let lost = seconds * of.leak_mm2 * 1e-6 * ESCAPES / squeezed_m3;
    100.0 * libm::pow(of.ratio, POWER) * libm::exp(-lost) - 100.0
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_leak_costs_more_the_slower_it_cranks() {
        let of = |leak_mm2, rpm| {
            compression_kpa(&Cylinder { ratio: 10.0, swept_cm3: 500.0, leak_mm2 }, rpm)
        };
        // 1 mm² at 200 rpm: 0.05 s, 1e-6 m² · 200 m/s · 0.05 s ÷ 1.667e-4 m³ = 0.06, so 1778·e^−0.06 − 100.
        assert!((of(1.0, 200.0) - 1574.8).abs() < 0.5, "{}", of(1.0, 200.0));
        assert!(of(3.0, 150.0) < of(3.0, 250.0));
        assert!(of(0.0, 150.0) == of(0.0, 250.0));
    }
}
