//! `pulse_rescale`: the pulse that gives the same quantity after a change of injector.
//!
//! `pulse' = (pulse − old offset)·old static/new static + new offset`, ms. Valid in the linear
//! range of both injectors, at one pressure, and at the supply voltage that both offsets were
//! measured at; where an offset at that voltage is unknown, the result is a guess.
//!
//! # Source
//! SAE J1832 (linear range, dead time or offset).
//!
//! ```
//! use cobaltine_core::calc::pulse_rescale::{PulseRescaleInput, pulse_rescale};
//! let out = pulse_rescale(&PulseRescaleInput {
//!     pulse_ms: 5.0, old_static_ml_min: 200.0, old_offset_ms: 1.0, new_static_ml_min: 400.0, new_offset_ms: 0.8,
//! }).unwrap();
//! assert!((out.pulse_ms - 2.8).abs() < 1e-12);
//! ```

use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Both injectors and the pulse of the old one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PulseRescaleInput {
    /// Pulse with the old injector, ms.
    pub pulse_ms: f64,
    /// Static flow of the old injector, ml/min.
    pub old_static_ml_min: f64,
    /// Dead time of the old injector, ms.
    pub old_offset_ms: f64,
    /// Static flow of the new injector, ml/min.
    pub new_static_ml_min: f64,
    /// Dead time of the new injector, ms.
    pub new_offset_ms: f64,
}

/// The pulse with the new injector.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PulseRescaleOutput {
    /// ms.
    pub pulse_ms: f64,
}

/// Rescales a pulse.
///
/// # Errors
/// Pulse or flows not above zero, a negative offset, a pulse no longer than the old offset.
pub fn pulse_rescale(input: &PulseRescaleInput) -> Result<PulseRescaleOutput, CalcError> {
    let pulse = positive("the pulse width", input.pulse_ms)?;
    let old = positive(words::STATIC_FLOW_OLD_INJECTOR, input.old_static_ml_min)?;
    let new = positive(words::STATIC_FLOW_NEW_INJECTOR, input.new_static_ml_min)?;
    let old_offset = non_negative(words::DEAD_TIME_OLD_INJECTOR, input.old_offset_ms)?;
    let new_offset = non_negative(words::DEAD_TIME_NEW_INJECTOR, input.new_offset_ms)?;
    if !exceeds(pulse, old_offset) {
        return Err(CalcError::Contradiction(words::pulse_ms_no_longer(pulse, old_offset)));
    }
    let rescaled = (pulse - old_offset) * old / new + new_offset;
    Ok(PulseRescaleOutput { pulse_ms: finite("the pulse width", rescaled)? })
}
