//! `return_plan`: how long a return run must be, before it is begun.
//!
//! The volume at which a difference of `discriminate` between two lanes shows with 90 % power at
//! 95 %: `(z(97.5 %) + z(90 %))·√2·(graduation/√12)/discriminate`; `seconds = 60·V/rate`. The
//! worst bottle (rate times `worst_ratio`) fills to 90 % in `worst_fills_s`; feasible if the run
//! ends before. When not, time each bottle at a mark or take larger ones.
//!
//! # Source
//! Two-sided comparison of two means with known spread (JCGM 100 for the marks); house rules for
//! the worst ratio and the 10 %.
//!
//! ```
//! use cobaltine_core::calc::return_plan::{ReturnPlanInput, return_plan};
//! let plan = return_plan(&ReturnPlanInput {
//!     graduation_ml: 2.0, capacity_ml: 100.0, expected_ml_min: 12.0, worst_ratio: None, discriminate: None,
//! }).unwrap();
//! assert!(!plan.feasible && plan.seconds > plan.worst_fills_s);
//! ```

use super::{CalcError, exceeds, finite, positive};
use crate::calc::words;
use crate::stats::Spread;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How many times the expected rate the worst injector may return (house rule).
pub const WORST_RATIO: f64 = 4.0;
/// Difference between two lanes that has to show (house rule).
pub const DISCRIMINATE: f64 = 0.10;
/// A bottle is called full here: the last tenth is not read well.
pub const FULL_SHARE: f64 = 0.9;

/// Bottles and what they should tell apart.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReturnPlanInput {
    /// Distance between two marks, ml.
    pub graduation_ml: f64,
    /// What a bottle holds, ml.
    pub capacity_ml: f64,
    /// Return flow of a healthy injector, ml/min.
    pub expected_ml_min: f64,
    /// Default 4.
    pub worst_ratio: Option<f64>,
    /// Default 0.10.
    pub discriminate: Option<f64>,
}

/// The run to make.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReturnPlanOutput {
    /// Level that a healthy bottle must reach, ml.
    pub volume_ml: f64,
    /// How long that takes, s.
    pub seconds: f64,
    /// When the worst bottle is nine tenths full, s.
    pub worst_fills_s: f64,
    /// The run ends before that.
    pub feasible: bool,
}

/// Plans a run.
///
/// # Errors
/// Any input not above zero.
pub fn return_plan(input: &ReturnPlanInput) -> Result<ReturnPlanOutput, CalcError> {
    let marks = positive("the graduation", input.graduation_ml)? / 12.0_f64.sqrt();
    let capacity = positive("the bottle capacity", input.capacity_ml)?;
    let rate = positive("the expected rate", input.expected_ml_min)?;
    let worst = positive("the worst ratio", input.worst_ratio.unwrap_or(WORST_RATIO))?;
    let difference = positive(words::DIFFERENCE_SHOW, input.discriminate.unwrap_or(DISCRIMINATE))?;
    let z = Spread::Normal.quantile(0.975) + Spread::Normal.quantile(0.9);
    let volume_ml = finite("the volume", z * std::f64::consts::SQRT_2 * marks / difference)?;
    let seconds = finite("the time", 60.0 * volume_ml / rate)?;
    let worst_fills_s =
        finite(words::TIME_WORST_BOTTLE, 60.0 * FULL_SHARE * capacity / (rate * worst))?;
    Ok(ReturnPlanOutput {
        volume_ml,
        seconds,
        worst_fills_s,
        feasible: !exceeds(seconds, worst_fills_s),
    })
}
