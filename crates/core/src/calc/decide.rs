//! `decide`: a measured value against limits, with a guard band.
//!
//! With D the distribution (Student t with `dof`, normal without) and the one-sided
//! guard `g = D⁻¹(confidence)·u` (0 for the `simple` rule): `above` if value > upper + g,
//! `below` if value < lower − g, `within` if lower + g ≤ value ≤ upper − g and, for
//! `guarded`, `p_conform ≥ confidence`; else `undecided`.
//! `p_conform = D((upper−value)/u) − D((lower−value)/u)`, `capability = (upper−lower)/(4u)`.
//!
//! *Undecided is a result of its own.* [`repeats_to_settle`] says what would settle it.
//!
//! # Source
//! JCGM 106 (guarded acceptance, conformance probability), ISO 14253-1 (decision rules).
//!
//! ```
//! use cobaltine_core::calc::decide::{DecideInput, LimitState, decide};
//! let close = DecideInput { value: 24.3, u: 0.6, upper: Some(24.0), ..DecideInput::default() };
//! assert_eq!(decide(&close).unwrap().state, LimitState::Undecided);
//! ```

use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use crate::stats::Spread;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Confidence when none is given (house rule).
pub const DEFAULT_CONFIDENCE: f64 = 0.95;
/// More repeats than this are not proposed to anyone.
const MOST_REPEATS: u32 = 30;

/// How a value near a limit is treated.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DecisionRule {
    /// The limit itself, whatever the uncertainty.
    Simple,
    /// The limit moved by the guard: nothing is called that the uncertainty can overturn.
    #[default]
    Guarded,
}

/// One value, its standard uncertainty and at least one limit, all in one unit.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecideInput {
    /// The measured value.
    pub value: f64,
    /// Its standard uncertainty, zero or more.
    pub u: f64,
    /// Lower limit.
    pub lower: Option<f64>,
    /// Upper limit.
    pub upper: Option<f64>,
    /// Default `guarded`.
    pub rule: Option<DecisionRule>,
    /// Between 0.5 and 1, default 0.95.
    pub confidence: Option<f64>,
    /// Effective degrees of freedom, infinite when missing.
    pub dof: Option<f64>,
}

/// Where a value stands against its limits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LimitState {
    /// Below the lower limit, whichever way the reading errs.
    Below,
    /// Inside, whichever way the reading errs.
    Within,
    /// Above the upper limit, whichever way the reading errs.
    Above,
    /// This measurement cannot tell.
    Undecided,
}

/// The verdict and what it rests on.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DecideOutput {
    /// The verdict.
    pub state: LimitState,
    /// Guard band, in the unit of the value.
    pub guard: f64,
    /// Probability that the true value is inside.
    pub p_conform: f64,
    /// Limit window over four standard uncertainties; `None` with one limit or u = 0.
    pub capability: Option<f64>,
}

/// Judges one value.
///
/// # Errors
/// Non-finite input, negative `u`, no limit at all, `lower` above `upper`,
/// confidence outside (0.5, 1), `dof` not above zero.
pub fn decide(input: &DecideInput) -> Result<DecideOutput, CalcError> {
    let value = finite("the value", input.value)?;
    let u = non_negative("the uncertainty", input.u)?;
    let lower = input.lower.map(|l| finite("the lower limit", l)).transpose()?;
    let upper = input.upper.map(|l| finite("the upper limit", l)).transpose()?;
    let confidence = finite("the confidence", input.confidence.unwrap_or(DEFAULT_CONFIDENCE))?;
    let dof = input.dof.map(|d| positive(words::DEGREES_FREEDOM, d)).transpose()?;
    if !(confidence > 0.5 && confidence < 1.0) {
        return Err(CalcError::Contradiction(words::confidence_must_lie_between(confidence)));
    }
    match (lower, upper) {
        (None, None) => {
            return Err(CalcError::Contradiction(words::ENTER_LOWER_LIMIT_UPPER.to_owned()));
        }
        (Some(low), Some(high)) if low > high => {
            return Err(CalcError::Contradiction(words::lower_limit_above_upper(low, high)));
        }
        (Some(_) | None, Some(_)) | (Some(_), None) => {}
    }

    let spread = Spread::with_dof(dof);
    let rule = input.rule.unwrap_or_default();
    let guard = match rule {
        DecisionRule::Simple => 0.0,
        DecisionRule::Guarded => finite("the guard band", spread.quantile(confidence) * u)?,
    };
    let p_conform = conformance(spread, value, u, lower, upper);
    let capability = match (lower, upper) {
        (Some(low), Some(high)) if u > 0.0 => {
            Some((high - low) / (4.0 * u)).filter(|c| c.is_finite())
        }
        (Some(_) | None, Some(_) | None) => None,
    };
    let above = upper.is_some_and(|limit| exceeds(value, limit + guard));
    let below = lower.is_some_and(|limit| exceeds(limit - guard, value));
    let inside = !upper.is_some_and(|limit| exceeds(value, limit - guard))
        && !lower.is_some_and(|limit| exceeds(limit + guard, value));
    let sure = match rule {
        DecisionRule::Simple => true,
        DecisionRule::Guarded => !exceeds(confidence, p_conform),
    };
    let state = if above {
        LimitState::Above
    } else if below {
        LimitState::Below
    } else if inside && sure {
        LimitState::Within
    } else {
        LimitState::Undecided
    };
    Ok(DecideOutput { state, guard, p_conform, capability })
}

fn conformance(spread: Spread, value: f64, u: f64, lower: Option<f64>, upper: Option<f64>) -> f64 {
    if u == 0.0 {
        let inside = !upper.is_some_and(|limit| exceeds(value, limit))
            && !lower.is_some_and(|limit| exceeds(limit, value));
        return f64::from(u8::from(inside));
    }
    let up_to_upper = upper.map_or(1.0, |limit| spread.cdf((limit - value) / u));
    let up_to_lower = lower.map_or(0.0, |limit| spread.cdf((limit - value) / u));
    (up_to_upper - up_to_lower).clamp(0.0, 1.0)
}

/// How many times as many readings would leave the guard band, if the mean stays
/// where it is: the smallest r ≥ 2 with `u(r) = √(u² − u_repeat² + u_repeat²/r)` that
/// decides. `None` when none up to 30 will: then only a longer run or a finer
/// instrument helps.
///
/// # Errors
/// As [`decide`], and a negative `u_repeat`.
pub fn repeats_to_settle(input: &DecideInput, u_repeat: f64) -> Result<Option<u32>, CalcError> {
    let u_repeat = non_negative("the repeatability", u_repeat)?.min(input.u);
    let fixed = input.u.powi(2) - u_repeat.powi(2);
    let decides = |r: u32| -> Result<bool, CalcError> {
        let u = (fixed + u_repeat.powi(2) / f64::from(r)).max(0.0).sqrt();
        Ok(decide(&DecideInput { u, ..input.clone() })?.state != LimitState::Undecided)
    };
    // Less doubt never turns certainty into doubt, so the first that decides is found by halving.
    if !decides(MOST_REPEATS)? {
        return Ok(None);
    }
    let (mut undecided, mut decided) = (1, MOST_REPEATS);
    while decided - undecided > 1 {
        let middle = undecided.midpoint(decided);
        if decides(middle)? {
            decided = middle;
        } else {
            undecided = middle;
        }
    }
    Ok(Some(decided))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn repeats_settle_scatter_but_never_a_coarse_bottle() {
        let close = DecideInput { value: 25.0, u: 1.0, upper: Some(24.0), ..Default::default() };
        // All scatter: u falls as 1/√r, and 1.645/√3 = 0.95 < 1 is the first that decides.
        assert_eq!(repeats_to_settle(&close, 1.0).unwrap(), Some(3));
        assert_eq!(repeats_to_settle(&close, 0.3).unwrap(), None, "the marks are too coarse");
    }

    #[test]
    fn a_value_on_the_bound_is_inside_and_no_reading_passes_an_impossible_window() {
        let on = DecideInput { value: 24.0, u: 0.0, upper: Some(24.0), ..Default::default() };
        assert_eq!(decide(&on).unwrap().state, LimitState::Within);
        let guard = decide(&DecideInput { u: 0.5, ..on.clone() }).unwrap().guard;
        let edge = DecideInput { value: 24.0 - guard, u: 0.5, ..on };
        assert_eq!(decide(&edge).unwrap().state, LimitState::Within, "on the guarded bound");
        // Capability below 0.98: the middle of the window is the best there is, and it is not enough.
        for (half, state) in [(1.95, LimitState::Undecided), (1.97, LimitState::Within)] {
            let middle = DecideInput {
                value: 0.0,
                u: 1.0,
                lower: Some(-half),
                upper: Some(half),
                ..Default::default()
            };
            assert_eq!(decide(&middle).unwrap().state, state, "window of ±{half} u");
        }
    }

    proptest! {
        #[test]
        fn a_lower_limit_is_an_upper_limit_in_the_mirror(
            value in -50.0..50.0_f64, u in 0.0..9.0_f64, limit in -50.0..50.0_f64, dof in prop::option::of(1.0..40.0_f64),
        ) {
            let upper = decide(&DecideInput { value, u, upper: Some(limit), dof, ..Default::default() }).unwrap();
            let lower =
                decide(&DecideInput { value: -value, u, lower: Some(-limit), dof, ..Default::default() }).unwrap();
            let mirrored = match upper.state {
                LimitState::Above => LimitState::Below,
                LimitState::Below => LimitState::Above,
                LimitState::Within => LimitState::Within,
                LimitState::Undecided => LimitState::Undecided,
            };
            prop_assert_eq!(lower.state, mirrored);
            prop_assert!((lower.p_conform - upper.p_conform).abs() < 1e-12);
        }

        #[test]
        fn more_doubt_never_turns_into_certainty(
            value in -50.0..50.0_f64, u in 0.01..9.0_f64, more in 0.0..9.0_f64,
            width in prop::option::of(0.0..60.0_f64), dof in prop::option::of(1.0..40.0_f64),
        ) {
            let lower = width.map(|width| -width);
            let at = |u| {
                decide(&DecideInput { value, u, lower, upper: Some(0.0), dof, ..Default::default() }).unwrap().state
            };
            prop_assert!(at(u) != LimitState::Undecided || at(u + more) == LimitState::Undecided);
        }

        #[test]
        fn moving_away_from_a_limit_never_makes_a_value_less_outside(
            limit in -1e3..1e3_f64, u in 0.0..50.0_f64, near in 0.0..100.0_f64, more in 0.0..100.0_f64,
        ) {
            let at = |value| decide(&DecideInput { value, u, upper: Some(limit), ..Default::default() }).unwrap();
            let (close, far) = (at(limit + near), at(limit + near + more));
            prop_assert!(close.state != LimitState::Above || far.state == LimitState::Above);
            prop_assert!(far.p_conform <= close.p_conform);
        }
    }
}
