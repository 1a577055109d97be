//! `residual_fuel`: fuel pulsed into a standing cylinder against its clearance volume.
//!
//! `injected = static·pulses·pulse·runs/60000` ml; clearance = V_swept/(CR − 1) with
//! V_swept = π/4·bore²·stroke. `stop` at a fraction of 0.20, `caution` at 0.02: liquid does not
//! compress, and the film washes the bore long before. Accumulates over all tests of a cylinder
//! until it is cleared.
//!
//! # Source
//! Geometry; the two fractions are house rules on the safe side.
//!
//! ```
//! use cobaltine_core::calc::residual_fuel::{FuelLevel, ResidualFuelInput, residual_fuel};
//! let out = residual_fuel(&ResidualFuelInput {
//!     static_ml_min: 473.5, pulses: 50.0, pulse_ms: 2.726, runs: 4.0, bore_mm: 70.7, stroke_mm: 66.1,
//!     compression_ratio: 17.4,
//! }).unwrap();
//! assert_eq!(out.level, FuelLevel::Stop);
//! ```

use super::{CalcError, exceeds, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Fraction of the clearance volume at which nothing more is pulsed in (house rule).
pub const STOP: f64 = 0.20;
/// Fraction that asks for caution (house rule).
pub const CAUTION: f64 = 0.02;

/// What went into one cylinder.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ResidualFuelInput {
    /// Static flow of the injector, ml/min.
    pub static_ml_min: f64,
    /// Pulses of a run.
    pub pulses: f64,
    /// Length of a pulse, ms.
    pub pulse_ms: f64,
    /// Runs since the cylinder was last cleared.
    pub runs: f64,
    /// Bore, mm.
    pub bore_mm: f64,
    /// Stroke, mm.
    pub stroke_mm: f64,
    /// Compression ratio, above 1.
    pub compression_ratio: f64,
}

/// How near it is to a lock.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FuelLevel {
    /// Little.
    Ok,
    /// Clear-flood before starting.
    Caution,
    /// No more; clear the cylinder first.
    Stop,
}

/// The budget of the cylinder.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ResidualFuelOutput {
    /// ml.
    pub injected_ml: f64,
    /// Space above the piston at the top, ml.
    pub clearance_ml: f64,
    /// Injected over clearance.
    pub fraction: f64,
    /// What it means.
    pub level: FuelLevel,
}

/// The fuel in a standing cylinder.
///
/// # Errors
/// Any input not above zero; a compression ratio not above 1.
pub fn residual_fuel(input: &ResidualFuelInput) -> Result<ResidualFuelOutput, CalcError> {
    let flow = positive("the static flow", input.static_ml_min)?;
    let pulses = positive("the pulses", input.pulses)?;
    let pulse = positive("the pulse width", input.pulse_ms)?;
    let runs = positive("the runs", input.runs)?;
    let bore = positive("the bore", input.bore_mm)?;
    let stroke = positive("the stroke", input.stroke_mm)?;
    let ratio = finite("the compression ratio", input.compression_ratio)?;
    if ratio <= 1.0 {
        return Err(CalcError::Contradiction(words::compression_ratio_must_above(ratio)));
    }
    let injected_ml = finite("the fuel injected", flow / 60_000.0 * pulses * pulse * runs)?;
    let swept_ml = std::f64::consts::FRAC_PI_4 * bore * bore * stroke / 1000.0;
    let clearance_ml = positive("the clearance volume", swept_ml / (ratio - 1.0))?;
    let fraction = finite("the fraction", injected_ml / clearance_ml)?;
    let level = if !exceeds(STOP, fraction) {
        FuelLevel::Stop
    } else if !exceeds(CAUTION, fraction) {
        FuelLevel::Caution
    } else {
        FuelLevel::Ok
    };
    Ok(ResidualFuelOutput { injected_ml, clearance_ml, fraction, level })
}
