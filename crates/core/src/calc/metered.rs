//! `metered`: a volume caught in repeated runs (doser flow, leak volume) against limits.
//!
//! Mean, u and degrees of freedom by [`super::uncertainty`] with the tube's marks as resolution,
//! then [`super::decide`]. One run, or only equal runs, without a prior repeatability above zero
//! is always `undecided`: nothing says how well the next run would repeat. Volumes in ml.
//!
//! # Source
//! JCGM 100, JCGM 106; three runs averaged is a house rule.
//!
//! ```
//! use cobaltine_core::calc::decide::LimitState;
//! use cobaltine_core::calc::metered::{MeteredInput, metered};
//! let mut input = MeteredInput {
//!     runs_ml: vec![280.0], graduation_ml: 10.0, lower_ml: Some(205.0), upper_ml: Some(365.0),
//!     prior_repeatability_ml: None,
//! };
//! assert_eq!(metered(&input).unwrap().state, LimitState::Undecided);
//! input.prior_repeatability_ml = Some(3.0);
//! assert_eq!(metered(&input).unwrap().state, LimitState::Within);
//! ```

use super::decide::{DecideInput, LimitState, decide};
use super::uncertainty::{UncertaintyInput, uncertainty};
use super::{CalcError, non_negative, positive};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Runs of one quantity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MeteredInput {
    /// At least one run, ml.
    pub runs_ml: Vec<f64>,
    /// Distance between two marks, ml.
    pub graduation_ml: f64,
    /// Lower limit, ml.
    pub lower_ml: Option<f64>,
    /// Upper limit, ml.
    pub upper_ml: Option<f64>,
    /// Known standard deviation of a single run, ml.
    pub prior_repeatability_ml: Option<f64>,
}

/// The mean judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MeteredOutput {
    /// Mean of the runs, ml.
    pub mean_ml: f64,
    /// Its standard uncertainty, ml.
    pub u_ml: f64,
    /// Against the limits.
    pub state: LimitState,
    /// Probability that it is inside.
    pub p_conform: f64,
}

/// Judges the mean of the runs.
///
/// # Errors
/// No runs, a negative volume, graduation not above zero, no limit, limits that contradict.
pub fn metered(input: &MeteredInput) -> Result<MeteredOutput, CalcError> {
    for (run, volume) in input.runs_ml.iter().enumerate() {
        non_negative(format!("run {}", run + 1), *volume)?;
    }
    let of = uncertainty(&UncertaintyInput {
        readings: input.runs_ml.clone(),
        resolution: positive("the graduation", input.graduation_ml)?,
        calibration_u: None,
        prior_repeatability: input.prior_repeatability_ml,
    })?;
    let verdict = decide(&DecideInput {
        value: of.mean,
        u: of.u,
        lower: input.lower_ml,
        upper: input.upper_ml,
        dof: of.dof,
        ..DecideInput::default()
    })?;
    // One run and equal runs show no scatter; only a prior can stand in for it.
    let repeatability_known = of.u_repeat > 0.0;
    let state = if repeatability_known { verdict.state } else { LimitState::Undecided };
    Ok(MeteredOutput { mean_ml: of.mean, u_ml: of.u, state, p_conform: verdict.p_conform })
}
