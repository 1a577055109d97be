//! `duty`: the share of the time that an injector is open at a speed.
//!
//! `period = 120000/rpm` ms for a four-stroke, `60000/rpm` for a two-stroke, over the firings
//! per cycle; `duty = pulse/period` as a fraction; `always_open` when the pulse fills the period.
//!
//! # Source
//! Kinematics of the working cycle; SAE J1832 for the terms.
//!
//! ```
//! use cobaltine_core::calc::duty::{DutyInput, duty};
//! let input = DutyInput { rpm: 6000.0, pulse_ms: 10.0, stroke_cycle: None, firings_per_cycle: None };
//! assert_eq!(duty(&input).unwrap().duty, 0.5);
//! ```

use super::{CalcError, exceeds, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A pulse at a speed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DutyInput {
    /// Engine speed.
    pub rpm: f64,
    /// Length of the pulse, ms.
    pub pulse_ms: f64,
    /// 4 (default) or 2.
    pub stroke_cycle: Option<f64>,
    /// Pulses in each working cycle; default 1.
    pub firings_per_cycle: Option<f64>,
}

/// How full the time is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DutyOutput {
    /// Time from one pulse to the next, ms.
    pub period_ms: f64,
    /// Share of the period that the injector is open.
    pub duty: f64,
    /// The pulse fills the period: more cannot be injected.
    pub always_open: bool,
}

/// The duty of a pulse at a speed.
///
/// # Errors
/// Speed, pulse or firings not above zero; a stroke cycle other than 2 or 4.
pub fn duty(input: &DutyInput) -> Result<DutyOutput, CalcError> {
    let rpm = positive("the speed", input.rpm)?;
    let pulse = positive("the pulse", input.pulse_ms)?;
    let firings = positive(words::FIRINGS_PER_CYCLE, input.firings_per_cycle.unwrap_or(1.0))?;
    let cycle = match input.stroke_cycle.unwrap_or(4.0) {
        4.0 => 120_000.0,
        2.0 => 60_000.0,
        other => {
            return Err(CalcError::Contradiction(words::engine_four_stroke_two(other)));
        }
    };
    let period_ms = positive("the period", finite("the period", cycle / rpm / firings)?)?;
    Ok(DutyOutput {
        period_ms,
        duty: finite("the duty", pulse / period_ms)?,
        always_open: !exceeds(period_ms, pulse),
    })
}
