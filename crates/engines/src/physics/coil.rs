//! Resistance of a coil over its temperature.
//!
//! # Source
//! IEC 60228 for copper: α = 0.00393 per kelvin at 20 °C.

/// Of copper, for a kelvin.
pub const COPPER_PER_K: f64 = 0.003_93;

/// At this temperature, Ω.
///
/// ```
/// // 14 Ω at 20 °C, 60 K warmer: 14 · 1.2358 = 17.30 Ω.
/// assert!((cobaltine_engines::physics::resistance_ohm(14.0, 80.0) - 17.301).abs() < 0.001);
/// ```
pub fn resistance_ohm(at_20: f64, celsius: f64) -> f64 {
    at_20 * (1.0 + COPPER_PER_K * (celsius - 20.0))
}
