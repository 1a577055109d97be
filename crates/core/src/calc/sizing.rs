//! `sizing`: the static flow that an engine's power asks of each injector.
//!
//! `static = power·bsfc/(injectors·max_duty·60)` in g/min, with power in kW and brake-specific
//! consumption in g/kWh; in ml/min with the density in kg/m³.
//!
//! # Source
//! Definition of brake-specific fuel consumption; the duty to plan for is a house rule.
//!
//! ```
//! use cobaltine_core::calc::sizing::{SizingInput, sizing};
//! let out = sizing(&SizingInput {
//!     power_kw: 55.0, bsfc_g_per_kwh: 378.0, injectors: 6.0, max_duty: 0.8, density_kg_per_m3: 843.2,
//! }).unwrap();
//! assert!((out.static_ml_min - 85.611_361_480_075_89).abs() < 1e-9);
//! ```

use super::{CalcError, exceeds, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What the engine needs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SizingInput {
    /// Power, kW.
    pub power_kw: f64,
    /// Fuel for it, g/kWh.
    pub bsfc_g_per_kwh: f64,
    /// Injectors that share it.
    pub injectors: f64,
    /// Highest share of the time that an injector may be open, up to 1.
    pub max_duty: f64,
    /// Density of the fuel.
    pub density_kg_per_m3: f64,
}

/// What each injector must flow when open.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SizingOutput {
    /// By mass, g/min.
    pub static_g_min: f64,
    /// By volume, ml/min.
    pub static_ml_min: f64,
}

/// Sizes injectors.
///
/// # Errors
/// Any input not above zero; a duty above 1.
pub fn sizing(input: &SizingInput) -> Result<SizingOutput, CalcError> {
    let power = positive("the power", input.power_kw)?;
    let bsfc = positive("the specific consumption", input.bsfc_g_per_kwh)?;
    let injectors = positive(words::NUMBER_INJECTORS, input.injectors)?;
    let duty = positive("the duty", input.max_duty)?;
    let density = positive("the density", input.density_kg_per_m3)?;
    if exceeds(duty, 1.0) {
        return Err(CalcError::Contradiction(words::injector_cannot_open_more(duty)));
    }
    let grams = finite("the flow", power * bsfc / (injectors * duty * 60.0))?;
    Ok(SizingOutput {
        static_g_min: grams,
        static_ml_min: finite("the flow", grams * 1000.0 / density)?,
    })
}
