//! What a set of runs says of one lane, as a code.

use super::{ReturnTest, outcomes};
use crate::calc::decide::LimitState;
use crate::calc::return_flow::{
    Bottle, Grade, Lane as Caught, LaneOutput, LaneRate, ReturnFlowOutput,
};
use crate::calc::uncertainty::{UncertaintyInput, UncertaintyOutput, uncertainty};
use crate::calc::{CalcError, exceeds};
use crate::mark::Mark;
use crate::said::Code;
use crate::work::{Phase, Regime};

/// What the set as a whole makes of a lane that would otherwise stand for itself.
pub(super) struct SeenSet {
    /// A limit leads.
    limited: bool,
    /// All over the limit, and alike.
    all_over: bool,
    /// Share below the others that questions a reading.
    far_low: f64,
    /// Comparison carries a verdict.
    settled: bool,
    /// One lies far below, and the others return more than a set usually does.
    upper_doubtful: bool,
    /// One bottle fills while the others stay empty: empty is a bound as well, and the ratio decides.
    one_full: bool,
    /// All alike, and together more than a set usually returns: the level is not known.
    level_unknown: bool,
    /// What a set usually returns at idle, where it has to serve for want of anything better.
    usual: Option<f64>,
}

impl SeenSet {
    pub fn of(test: &ReturnTest, judged: Option<&ReturnFlowOutput>, limited: bool) -> Self {
        let lanes = judged.map(|j| j.lanes.as_slice()).unwrap_or_default();
        let settled = judged.is_some_and(|j| j.settled);
        let over = |lane: &LaneOutput| lane.limit_state == Some(LimitState::Above);
        let alike = settled && lanes.iter().all(|lane| lane.reference);
        let far_low = test.rules.far_low;
        let far = |lane: &&LaneOutput| {
            lane.grade != Grade::Question && lane.vs_reference.is_some_and(|s| exceeds(-s, far_low))
        };
        let members: Vec<f64> =
            lanes.iter().filter(|lane| lane.reference).map(|lane| lane.rate_ml_min).collect();
        let mean = members.iter().sum::<f64>() / members.len().max(1) as f64;
        let raised = test.runs.iter().any(|run| run.phase == Some(Phase::Raised));
        let cranks = test.regime == Regime::Cranking;
        let speaks = !limited && !raised && !cranks;
        let usual = test.rules.usual_ml_min;
        let sure = |lane: &LaneOutput| lane.rate_ml_min - CLEAR * lane.u_ml_min > usual;
        let even = lanes.len() >= 3 && settled && lanes.iter().all(|lane| lane.reference);
        Self {
            one_full: one_full(lanes),
            level_unknown: speaks && test.limit.is_none() && even && lanes.iter().all(sure),
            usual: Some(usual).filter(|_| speaks && !settled && lanes.len() >= 3),
            limited,
            all_over: limited && lanes.len() >= 3 && alike && lanes.iter().all(over),
            far_low,
            settled,
            upper_doubtful: !limited
                && !raised
                && settled
                && lanes.iter().any(|lane| far(&lane))
                && exceeds(mean, test.rules.usual_ml_min),
        }
    }

    pub fn says(&self, lane: &LaneOutput, mark: Mark) -> (Mark, Code) {
        let share = lane.vs_reference.filter(|_| self.settled);
        let far = share.is_some_and(|share| exceeds(-share, self.far_low));
        if self.one_full && !self.limited {
            return if lane.rate_ml_min > 0.0 {
                (Mark::TooMuch, outcomes::RETURN_HIGH)
            } else {
                (Mark::Inside, outcomes::RETURN_ALIKE)
            };
        }
        // Above the others by less than its own runs scatter says nothing.
        let apart = share.map(|share| lane.rate_ml_min - lane.rate_ml_min / (1.0 + share));
        let scatters = apart.is_some_and(|apart| apart < CLEAR * lane.u_ml_min);
        match mark {
            Mark::TooMuch if scatters && !self.limited && !lane.at_least => {
                (Mark::Undecided, Code::TOO_CLOSE)
            }
            Mark::TooMuch if self.all_over => (Mark::Questioned, Code::ALL_ALIKE_OFF),
            Mark::Inside | Mark::Undecided if far && !lane.at_least => {
                (Mark::Questioned, Code::DOUBTFUL)
            }
            Mark::Inside if self.level_unknown => (Mark::Undecided, Code::NO_REFERENCE),
            Mark::Inside | Mark::Look if self.upper_doubtful => {
                (Mark::Undecided, Code::NO_REFERENCE)
            }
            Mark::TooMuch => (mark, outcomes::RETURN_HIGH),
            Mark::Look => (mark, outcomes::RETURN_RAISED),
            Mark::Inside if lane.grade == Grade::Low => (mark, outcomes::RETURN_LOW),
            Mark::Inside => (mark, outcomes::RETURN_ALIKE),
            Mark::Undecided if self.limited => (mark, Code::TOO_CLOSE),
            Mark::Undecided => (mark, self.by_the_usual(lane)),
            Mark::TooLittle | Mark::Questioned => (mark, Code::DOUBTFUL),
            Mark::NotMeasured => (mark, Code::NOT_READ),
        }
    }
}

impl SeenSet {
    /// Where comparison cannot say which is right, the usual value says which is likelier: it condemns nobody.
    fn by_the_usual(&self, lane: &LaneOutput) -> Code {
        let guard = CLEAR * lane.u_ml_min;
        match self.usual {
            Some(usual) if lane.rate_ml_min - guard > usual => outcomes::RETURN_OVER_USUAL,
            Some(usual) if lane.rate_ml_min + guard < usual && !lane.at_least => {
                outcomes::RETURN_USUAL
            }
            Some(_) | None => Code::NO_REFERENCE,
        }
    }
}

/// One lane of at least three returns many times what the empty bottles of all others can have hidden.
fn one_full(lanes: &[LaneOutput]) -> bool {
    let (full, empty): (Vec<_>, Vec<_>) = lanes.iter().partition(|lane| lane.rate_ml_min > 0.0);
    let [full] = full.as_slice() else { return false };
    let hidden = empty.iter().map(|lane| CLEAR * lane.u_ml_min).fold(0.0, f64::max);
    empty.len() >= 2 && full.rate_ml_min >= FULL_TIMES * hidden
}

/// So many times what an empty bottle can hide is no slip of a mark (house rule).
const FULL_TIMES: f64 = 10.0;
/// Standard uncertainties from a line at which a reading is clearly on one side: 95 %, one-sided.
const CLEAR: f64 = 1.645;

/// The one run of three or more that is out of line with the others of its lane, where those agree.
pub(super) fn odd_run(runs: &[(u32, &Caught, LaneRate)], test: &ReturnTest) -> Option<u32> {
    if runs.len() < 3 {
        return None;
    }
    let odd = runs.iter().find(|(run, _, rate)| {
        let others = runs.iter().filter(|(other, ..)| other != run).map(|(.., r)| r.rate);
        let (low, high) =
            others.clone().fold((f64::INFINITY, 0.0_f64), |(l, h), v| (l.min(v), h.max(v)));
        let mean = others.sum::<f64>() / (runs.len() - 1) as f64;
        let agree = low > 0.0 && !exceeds(high / low - 1.0, test.rules.look);
        // Two marks read otherwise are no odd run.
        let apart = (rate.rate - mean).abs() > 2.0 * CLEAR * rate.u;
        agree && apart && exceeds((rate.rate / mean - 1.0).abs(), test.rules.suspect)
    });
    odd.map(|(run, ..)| *run)
}

/// The mean of a lane over its runs; `None` without a reading.
pub(super) fn average(
    runs: &[(u32, &Caught, LaneRate)],
    bottle: Bottle,
    test: &ReturnTest,
) -> Result<Option<(LaneRate, UncertaintyOutput)>, CalcError> {
    let Some((_, _, first)) = runs.first() else { return Ok(None) };
    let n = runs.len() as f64;
    let seconds = |lane: &Caught| lane.overflow_s.or(lane.seconds).unwrap_or(f64::NAN);
    let mean = |part: &dyn Fn(&Caught, &LaneRate) -> f64| {
        runs.iter().map(|(_, lane, rate)| part(lane, rate)).sum::<f64>() / n
    };
    let spread = uncertainty(&UncertaintyInput {
        readings: runs.iter().map(|(_, _, rate)| rate.rate).collect(),
        resolution: mean(&|lane, _| 60.0 * bottle.graduation / seconds(lane)),
        calibration_u: Some(mean(&|lane, rate| {
            let timing = rate.rate * bottle.timer_u / seconds(lane);
            let marks = test.accuracy_digits * 60.0 * bottle.graduation / seconds(lane);
            timing.hypot((test.accuracy_pct / 100.0 * rate.rate + marks) / 3.0_f64.sqrt())
        })),
        prior_repeatability: None,
    })?;
    let rate = LaneRate {
        cylinder: first.cylinder,
        rate: spread.mean,
        u: spread.u,
        dof: spread.dof,
        at_least: runs.iter().any(|(_, _, rate)| rate.at_least),
    };
    Ok(Some((rate, spread)))
}

/// The absolute limit leads where there is one; comparison then only asks for a closer look.
pub(super) fn mark(grade: Grade, limit: Option<LimitState>) -> Mark {
    match (grade, limit) {
        (Grade::Question, _) => Mark::Questioned,
        (_, Some(LimitState::Above)) | (Grade::Suspect, None) => Mark::TooMuch,
        (_, Some(LimitState::Undecided)) | (Grade::Undecided, None) => Mark::Undecided,
        (Grade::Suspect | Grade::Look, Some(LimitState::Within | LimitState::Below))
        | (Grade::Look, None) => Mark::Look,
        (
            Grade::Normal | Grade::Low | Grade::Undecided,
            Some(LimitState::Within | LimitState::Below),
        )
        | (Grade::Normal | Grade::Low, None) => Mark::Inside,
    }
}
