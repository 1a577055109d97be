//! `return_flow`: one run of a diesel return (leak-off) test.
//!
//! Per lane rate = 60·V/t and u = 60/t·√((graduation/√12)² + (V/t·timer_u)²). A bottle
//! that overflowed gives a *lower bound* of its rate. Lanes are compared with the
//! reference set (see [`super::compare_set`]) and, when there is one, with the absolute
//! limit (see [`super::decide`]). A return near zero is questioned, never praised:
//! hose kinked or off, blocked, or not firing.
//!
//! # Source
//! House rule (look 15 %, suspect 30 %, question below −80 %); uncertainty by JCGM 100.
//!
//! ```
//! use cobaltine_core::calc::return_flow::{Grade, Lane, ReturnFlowInput, return_flow};
//! let lane = |cylinder, volume: f64| Lane { cylinder, volume_ml: Some(volume), seconds: Some(120.0), overflow_s: None };
//! let out = return_flow(&ReturnFlowInput {
//!     lanes: vec![lane(1, 24.0), lane(2, 60.0), lane(3, 25.0), lane(4, 1.0)],
//!     graduation_ml: 2.0, capacity_ml: 100.0,
//!     timer_u_s: None, look: None, suspect: None, limit_ml_min: None,
//! }).unwrap();
//! let grades: Vec<_> = out.lanes.iter().map(|l| l.grade).collect();
//! assert_eq!(grades, [Grade::Normal, Grade::Suspect, Grade::Normal, Grade::Question]);
//! ```

use super::compare_set::{against, is_split, reference_set};
use super::decide::{DEFAULT_CONFIDENCE, DecideInput, LimitState, decide};
use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use crate::stats::Spread;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Standard uncertainty of starting and stopping by hand, in seconds (house rule).
pub const TIMER_U_S: f64 = 0.3;
/// Share above the reference that asks for a closer look (house rule).
pub const LOOK: f64 = 0.15;
/// Share above the reference that makes a lane suspect (house rule).
pub const SUSPECT: f64 = 0.30;
/// Share below the reference beyond which a return is questioned.
const QUESTION: f64 = 0.80;

/// One injector's bottle: a volume over a time, or the time at which it was full.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Lane {
    /// Cylinder number.
    pub cylinder: u32,
    /// Level read, in ml.
    pub volume_ml: Option<f64>,
    /// Length of the run, in s.
    pub seconds: Option<f64>,
    /// Time after which the bottle was full, in s, instead of a level.
    pub overflow_s: Option<f64>,
}

/// One run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReturnFlowInput {
    /// At least two lanes.
    pub lanes: Vec<Lane>,
    /// Distance between two marks of a bottle, in ml.
    pub graduation_ml: f64,
    /// What a bottle holds, in ml.
    pub capacity_ml: f64,
    /// Default 0.3 s.
    pub timer_u_s: Option<f64>,
    /// Default 0.15.
    pub look: Option<f64>,
    /// Default 0.30.
    pub suspect: Option<f64>,
    /// Absolute limit, if there is one.
    pub limit_ml_min: Option<f64>,
}

/// What comparison with the others says of a lane.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Grade {
    /// Near zero: hose kinked or off, blocked, not firing.
    Question,
    /// Comparison cannot tell.
    Undecided,
    /// Far above the others.
    Suspect,
    /// Above the others: look closer.
    Look,
    /// Well below the others: tight, fine in itself.
    Low,
    /// As the others.
    Normal,
}

/// One lane judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LaneOutput {
    /// Cylinder number.
    pub cylinder: u32,
    /// Return flow in ml/min.
    pub rate_ml_min: f64,
    /// Its standard uncertainty.
    pub u_ml_min: f64,
    /// The rate is a lower bound.
    pub at_least: bool,
    /// Against the mean of all others, minus 1.
    pub loo: Option<f64>,
    /// Against the reference members other than itself, minus 1.
    pub vs_reference: Option<f64>,
    /// Member of the reference set.
    pub reference: bool,
    /// Verdict by comparison.
    pub grade: Grade,
    /// Verdict by the absolute limit, `None` without one.
    pub limit_state: Option<LimitState>,
}

/// One run judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReturnFlowOutput {
    /// In the order of the input.
    pub lanes: Vec<LaneOutput>,
    /// Two camps among the lanes that return anything.
    pub split: bool,
    /// Comparison carries a verdict.
    pub settled: bool,
}

/// A return flow with its uncertainty, from one run or from several averaged.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct LaneRate {
    pub cylinder: u32,
    pub rate: f64,
    pub u: f64,
    pub dof: Option<f64>,
    pub at_least: bool,
}

/// What the rates are judged by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Bounds {
    pub look: f64,
    pub suspect: f64,
    pub limit: Option<f64>,
    pub confidence: f64,
}

/// Judges one run.
///
/// # Errors
/// Fewer than two lanes, a time not above zero, a volume below zero or above the
/// bottle, a lane with both a volume and an overflow or with neither.
pub fn return_flow(input: &ReturnFlowInput) -> Result<ReturnFlowOutput, CalcError> {
    let bottle = Bottle {
        graduation: positive("the graduation", input.graduation_ml)?,
        capacity: positive("the bottle capacity", input.capacity_ml)?,
        timer_u: non_negative("the timer uncertainty", input.timer_u_s.unwrap_or(TIMER_U_S))?,
    };
    let bounds = Bounds {
        look: input.look.unwrap_or(LOOK),
        suspect: input.suspect.unwrap_or(SUSPECT),
        limit: input.limit_ml_min,
        confidence: DEFAULT_CONFIDENCE,
    };
    let rates = input.lanes.iter().map(|lane| bottle.rate(lane)).collect::<Result<Vec<_>, _>>()?;
    judge(&rates, bounds)
}

/// What the level is read in and against which clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Bottle {
    pub graduation: f64,
    pub capacity: f64,
    pub timer_u: f64,
}

impl Bottle {
    /// The rate of one lane of one run.
    pub(crate) fn rate(self, lane: &Lane) -> Result<LaneRate, CalcError> {
        let name = |what: &str| format!("the {what} of cylinder {}", lane.cylinder);
        lane.seconds.map(|seconds| positive(name("time"), seconds)).transpose()?;
        let (volume, seconds, at_least) = match (lane.volume_ml, lane.seconds, lane.overflow_s) {
            (None, _, Some(full)) => (self.capacity, positive(name("overflow time"), full)?, true),
            (Some(volume), Some(seconds), None) => {
                (non_negative(name("volume"), volume)?, seconds, false)
            }
            (Some(_), _, Some(_)) => {
                return Err(CalcError::Contradiction(words::cylinder_both_level_overflow(
                    lane.cylinder,
                )));
            }
            (Some(_), None, None) | (None, _, None) => {
                return Err(CalcError::Contradiction(words::cylinder_needs_level_time(
                    lane.cylinder,
                )));
            }
        };
        if exceeds(volume, self.capacity) {
            return Err(CalcError::Contradiction(words::cylinder_ml_more_bottle(
                lane.cylinder,
                volume,
                self.capacity,
            )));
        }
        let rate = finite(name("rate"), 60.0 * volume / seconds)?;
        let marks = self.graduation / 12.0_f64.sqrt();
        let u = 60.0 / seconds * marks.hypot(volume / seconds * self.timer_u);
        let u = finite(name("uncertainty"), u)?;
        Ok(LaneRate { cylinder: lane.cylinder, rate, u, dof: None, at_least })
    }
}

/// Judges rates against each other and against the limit.
pub(crate) fn judge(lanes: &[LaneRate], bounds: Bounds) -> Result<ReturnFlowOutput, CalcError> {
    if lanes.len() < 2 {
        return Err(CalcError::TooFew { what: "lanes", least: 2, got: lanes.len() });
    }
    positive("the look level", bounds.look)?;
    positive("the suspect level", bounds.suspect)?;
    bounds.limit.map(|limit| finite("the limit", limit)).transpose()?;
    let rates: Vec<f64> = lanes.iter().map(|lane| lane.rate).collect();
    finite(words::SUM_RATES, rates.iter().sum())?;

    let everyone: Vec<usize> = (0..lanes.len()).collect();
    let measured = everyone.iter().copied().filter(|&i| !lanes[i].at_least && rates[i] > 0.0);
    let measured: Vec<usize> = measured.collect();
    let comparable = measured.len() >= 2;
    let starters = if comparable { &measured } else { &everyone };
    let reference = reference_set(&rates, starters, bounds.suspect);
    let running: Vec<f64> = rates.iter().copied().filter(|rate| *rate > 0.0).collect();
    let split = is_split(&running, bounds.suspect);
    let settled = comparable && reference.settled && !split;
    let loo = against(&rates, &everyone);
    let vs_reference = against(&rates, &reference.members);

    let lanes = everyone
        .iter()
        .map(|&i| {
            let grade = grade(&lanes[i], vs_reference[i], settled, bounds);
            Ok(LaneOutput {
                cylinder: lanes[i].cylinder,
                rate_ml_min: lanes[i].rate,
                u_ml_min: lanes[i].u,
                at_least: lanes[i].at_least,
                loo: loo[i],
                vs_reference: vs_reference[i],
                reference: reference.members.contains(&i),
                grade,
                limit_state: limit_state(&lanes[i], grade, bounds)?,
            })
        })
        .collect::<Result<Vec<_>, CalcError>>()?;
    Ok(ReturnFlowOutput { lanes, split, settled })
}

/// A lane with no other beside it: only a limit can say anything.
pub(crate) fn judge_alone(lane: &LaneRate, bounds: Bounds) -> Result<LaneOutput, CalcError> {
    let grade = if lane.rate == 0.0 { Grade::Question } else { Grade::Undecided };
    Ok(LaneOutput {
        cylinder: lane.cylinder,
        rate_ml_min: lane.rate,
        u_ml_min: lane.u,
        at_least: lane.at_least,
        loo: None,
        vs_reference: None,
        reference: false,
        grade,
        limit_state: limit_state(lane, grade, bounds)?,
    })
}

fn grade(lane: &LaneRate, vs_reference: Option<f64>, settled: bool, bounds: Bounds) -> Grade {
    let far_below = vs_reference.is_some_and(|share| exceeds(-share, QUESTION));
    if lane.rate == 0.0 || (far_below && !lane.at_least) {
        return Grade::Question;
    }
    let Some(share) = vs_reference.filter(|_| settled) else {
        return Grade::Undecided;
    };
    if exceeds(share, bounds.suspect) {
        Grade::Suspect
    } else if exceeds(share, bounds.look) {
        Grade::Look
    } else if lane.at_least {
        Grade::Undecided
    } else if exceeds(-share, bounds.suspect) {
        Grade::Low
    } else {
        Grade::Normal
    }
}

fn limit_state(
    lane: &LaneRate,
    grade: Grade,
    bounds: Bounds,
) -> Result<Option<LimitState>, CalcError> {
    let Some(limit) = bounds.limit else { return Ok(None) };
    if grade == Grade::Question {
        return Ok(Some(LimitState::Undecided));
    }
    if lane.at_least {
        let guard = Spread::Normal.quantile(bounds.confidence) * lane.u;
        let above = exceeds(lane.rate, limit + guard);
        return Ok(Some(if above { LimitState::Above } else { LimitState::Undecided }));
    }
    let verdict = decide(&DecideInput {
        value: lane.rate,
        u: lane.u,
        upper: Some(limit),
        confidence: Some(bounds.confidence),
        dof: lane.dof,
        ..DecideInput::default()
    })?;
    Ok(Some(verdict.state))
}
