//! Dead time: what passes between the start of the pulse and the opening.
//!
//! # Source
//! Model of our own: the current rises slower at a lower voltage, and fuel pressure holds the needle down:
//! t = t₀·(V₀/V)ⁿ·(1 + k·Δp), with n from 1.2 to 1.6.

/// How an injector opens.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct DeadTime {
    /// At its usual voltage and pressure, ms.
    pub usual_ms: f64,
    /// Usual voltage, V.
    pub volts: f64,
    /// Usual pressure, kPa.
    pub kpa: f64,
    /// Power of the voltage.
    pub power: f64,
    /// Share for a MPa above the usual pressure.
    pub per_mpa: f64,
}

impl DeadTime {
    /// At this voltage and pressure, ms.
    ///
    /// ```
    /// use cobaltine_engines::physics::DeadTime;
    /// let port = DeadTime { usual_ms: 0.9, volts: 14.0, kpa: 300.0, power: 1.4, per_mpa: 0.3 };
    /// // (14/10)^1.4 = 1.6017, so 1.4415 ms.
    /// assert!((port.at(10.0, 300.0) - 1.4415).abs() < 1e-3);
    /// ```
    pub fn at(&self, volts: f64, kpa: f64) -> f64 {
        let held = 1.0 + self.per_mpa * (kpa - self.kpa) / 1000.0;
        self.usual_ms * libm::pow(self.volts / volts.max(4.0), self.power) * held.max(0.2)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_weak_battery_and_more_pressure_open_it_later() {
        let port = DeadTime { usual_ms: 0.9, volts: 14.0, kpa: 300.0, power: 1.4, per_mpa: 0.3 };
        assert!((port.at(14.0, 300.0) - 0.9).abs() < 1e-12);
        assert!(port.at(11.0, 300.0) > port.at(12.0, 300.0));
        assert!((port.at(14.0, 500.0) / 0.9 - 1.06).abs() < 1e-12);
    }
}
