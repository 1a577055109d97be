//! Flow through an orifice, and two of them one after the other.
//!
//! # Source
//! Bernoulli with a discharge coefficient: Q = C_d·A·√(2Δp/ρ). In series the same flow passes both and
//! the pressure drops add up: 1/A² = 1/A₁² + 1/A₂².

/// What passes, ml/min: area in mm², pressure drop in kPa, density in kg/m³.
///
/// ```
/// // C_d·A = 0.14 mm² at 300 kPa and 745 kg/m³: √(2·300000/745) = 28.38 m/s, times 1.4e-7 m² = 3.973e-6 m³/s.
/// let flow = cobaltine_engines::physics::orifice_ml_min(0.14, 300.0, 745.0);
/// assert!((flow - 238.4).abs() < 0.1, "{flow}");
/// ```
pub fn orifice_ml_min(effective_mm2: f64, drop_kpa: f64, density: f64) -> f64 {
    if drop_kpa <= 0.0 {
        return 0.0;
    }
    let speed = libm::sqrt(2.0 * drop_kpa * 1000.0 / density);
    effective_mm2 * 1e-6 * speed * 6e7
}

/// The one area that passes what these two pass one after the other.
pub fn series_area(one_mm2: f64, other_mm2: f64) -> f64 {
    if one_mm2 <= 0.0 || other_mm2 <= 0.0 {
        return 0.0;
    }
    let inverse = 1.0 / (one_mm2 * one_mm2) + 1.0 / (other_mm2 * other_mm2);
    1.0 / libm::sqrt(inverse)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn flow_goes_with_the_root_of_the_pressure_and_two_equal_ones_pass_the_root_of_a_half() {
        let at = |kpa| orifice_ml_min(0.2, kpa, 780.0);
        assert!((at(400.0) / at(100.0) - 2.0).abs() < 1e-12);
        assert!((series_area(1.0, 1.0) - libm::sqrt(0.5)).abs() < 1e-12);
        assert!((series_area(1.0, 1e6) - 1.0).abs() < 1e-9, "a wide one takes nothing away");
        assert_eq!((at(-1.0), series_area(0.0, 1.0)), (0.0, 0.0));
    }
}
