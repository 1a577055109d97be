//! Leakage between a piston and its guide.
//!
//! # Source
//! Laminar flow in an eccentric annulus: Q = π·d·h³·Δp/(12·μ·l)·(1 + 1.5·ε²). The cube of the gap makes
//! one worn injector stand far out of a set.

/// A guide: diameter and length in mm, radial gap in µm, eccentricity from 0 to 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Clearance {
    /// mm.
    pub diameter_mm: f64,
    /// mm.
    pub length_mm: f64,
    /// Radial, µm.
    pub gap_um: f64,
    /// 0 in the middle, 1 touching.
    pub eccentricity: f64,
}

/// What leaks, ml/min: pressure drop in kPa, dynamic viscosity in mPa·s.
///
/// ```
/// use cobaltine_engines::physics::{Clearance, clearance_ml_min};
/// let guide = Clearance { diameter_mm: 4.0, length_mm: 15.0, gap_um: 2.5, eccentricity: 0.0 };
/// // π·0.004·(2.5e-6)³·30e6 ÷ (12·0.0011·0.015) = 2.975e-8 m³/s = 1.785 ml/min.
/// assert!((clearance_ml_min(&guide, 30_000.0, 1.1) - 1.785).abs() < 0.001);
/// ```
pub fn clearance_ml_min(guide: &Clearance, drop_kpa: f64, viscosity_mpas: f64) -> f64 {
    let (d, l) = (guide.diameter_mm * 1e-3, guide.length_mm * 1e-3);
    let gap = guide.gap_um * 1e-6;
    let off = 1.0 + 1.5 * guide.eccentricity * guide.eccentricity;
    let resistance = 12.0 * viscosity_mpas * 1e-3 * l;
    let flow = core::f64::consts::PI * d * gap * gap * gap * drop_kpa.max(0.0) * 1e3 / resistance;
    flow * off * 6e7
}

#[cfg(test)]
mod tests {
    use super::super::fluid::{Fluid, Liquid};
    use super::*;

    const GUIDE: Clearance =
        Clearance { diameter_mm: 4.0, length_mm: 15.0, gap_um: 4.0, eccentricity: 0.4 };

    #[test]
    fn half_the_gap_takes_seven_eighths_away() {
        let half = Clearance { gap_um: 2.0, ..GUIDE };
        let ratio =
            clearance_ml_min(&half, 30_000.0, 1.1) / clearance_ml_min(&GUIDE, 30_000.0, 1.1);
        assert!((ratio - 0.125).abs() < 1e-12);
    }

    #[test]
    fn warmer_fuel_leaks_more_by_the_ratio_of_viscosities() {
        let diesel = Fluid::new(Liquid::Diesel);
        let at = |t| clearance_ml_min(&GUIDE, 30_000.0, diesel.viscosity_mpas(t));
        let ratio = at(85.0) / at(25.0);
        let viscosities = diesel.viscosity_mpas(25.0) / diesel.viscosity_mpas(85.0);
        assert!((ratio / viscosities - 1.0).abs() < 1e-12);
        assert!((2.5..3.5).contains(&ratio), "near three times: {ratio}");
    }
}
