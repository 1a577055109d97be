//! Fuel that pulsing in place leaves in a cylinder, added up over all runs until it is cleared.
//!
//! By [`crate::calc::residual_fuel`] from the static flow and the engine's measures as typed. What
//! nobody typed is assumed on the safe side: a large injector ([`RuleId::ResidualFlow`]) on a small
//! clearance ([`RuleId::ResidualClearance`]), so that the stop comes early and not never. The house
//! rule can only make the stop earlier.

mod words;

use super::Sheet;
use crate::calc::CalcError;
use crate::calc::residual_fuel::{FuelLevel, ResidualFuelInput, STOP, residual_fuel};
use crate::rules::{RuleId, Rules};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What lies on the piston of one cylinder.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Residual {
    /// Cylinder number.
    pub cylinder: u32,
    /// Injected since it was last cleared, ml.
    pub injected_ml: f64,
    /// Share of the clearance volume.
    pub fraction: f64,
    /// Share of what the house stops at; 1 is the stop.
    pub of_stop: f64,
    /// What it asks for.
    pub level: FuelLevel,
    /// Measures of injector or engine were not typed, and a small budget was assumed.
    #[serde(default)]
    pub assumed: bool,
}

/// An engine of this clearance volume in ml: its measures do not matter, its clearance does.
fn of_clearance(ml: f64) -> (f64, f64, f64) {
    // A bore and a stroke of one swept volume, and the ratio that leaves this clearance of it.
    const BORE_MM: f64 = 70.0;
    const STROKE_MM: f64 = 70.0;
    let swept_ml = std::f64::consts::PI / 4.0 * BORE_MM * BORE_MM * STROKE_MM / 1000.0;
    (BORE_MM, STROKE_MM, 1.0 + swept_ml / ml)
}

/// The fuel in each cylinder that was pulsed; a small budget is assumed where measures are missing.
pub(super) fn residual(sheet: &Sheet) -> Result<Vec<Residual>, CalcError> {
    let of = |name| sheet.of_set(name);
    let flow = of("static");
    let engine = of("bore").zip(of("stroke")).zip(of("ratio"));
    let assumed = flow.is_none() || engine.is_none();
    let static_ml_min = flow.unwrap_or_else(|| sheet.rules.get(RuleId::ResidualFlow));
    let (bore_mm, stroke_mm, compression_ratio) = match engine {
        Some(((bore, stroke), ratio)) => (bore, stroke, ratio),
        None => of_clearance(sheet.rules.get(RuleId::ResidualClearance)),
    };
    sheet
        .pulsed_s
        .iter()
        .filter(|(_, seconds)| *seconds > 0.0)
        .map(|(cylinder, seconds)| {
            let out = residual_fuel(&ResidualFuelInput {
                static_ml_min,
                pulses: 1.0,
                pulse_ms: seconds * 1000.0,
                runs: 1.0,
                bore_mm,
                stroke_mm,
                compression_ratio,
            })?;
            Ok(Residual {
                cylinder: *cylinder,
                injected_ml: out.injected_ml,
                fraction: out.fraction,
                of_stop: out.fraction / sheet.rules.share(RuleId::ResidualStop).min(STOP),
                level: house_level(out.level, out.fraction, &sheet.rules),
                assumed,
            })
        })
        .collect()
}

/// The level by the rules of the house, which can only be stricter than the trade.
pub(crate) fn house_level(trade: FuelLevel, fraction: f64, rules: &Rules) -> FuelLevel {
    let stop = fraction >= rules.share(RuleId::ResidualStop);
    let caution = fraction >= rules.share(RuleId::ResidualCaution);
    match trade {
        FuelLevel::Stop => FuelLevel::Stop,
        FuelLevel::Caution | FuelLevel::Ok if stop => FuelLevel::Stop,
        FuelLevel::Caution => FuelLevel::Caution,
        FuelLevel::Ok if caution => FuelLevel::Caution,
        FuelLevel::Ok => FuelLevel::Ok,
    }
}

/// What the fuel on the pistons asks for, before the next pulse.
pub(super) fn says(residual: &[Residual]) -> Option<String> {
    let worst = residual.iter().max_by(|a, b| a.fraction.total_cmp(&b.fraction))?;
    let assumed = if worst.assumed { words::ASSUMING_SMALL_ENGINE } else { "" };
    let share = words::clearance_volume(100.0 * worst.fraction, assumed);
    match worst.level {
        FuelLevel::Ok => None,
        FuelLevel::Caution => Some(words::fuel_piston_cylinder_clear(worst.cylinder, &share)),
        FuelLevel::Stop => Some(words::stop_cylinder_holds_not(worst.cylinder, &share)),
    }
}
