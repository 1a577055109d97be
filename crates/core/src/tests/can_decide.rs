//! `can_decide`: before a test, whether an instrument can carry a limit at all, and what would.
//!
//! Every value that the instrument could show is tried with the same [`decide`] that judges the
//! reading later, so what is promised here holds there: the readings that would come out inside,
//! and the readings that would come out outside. Between them nothing can be called. For a volume
//! over a time u follows the length of the run; repeats do not make marks finer.
//!
//! # Source
//! JCGM 106 (guarded acceptance; capability (upper − lower)/(4u)); JCGM 100 for u. "Narrow" below
//! half of the window, or with a guard above a fifth of a single limit, is a house rule.

use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::calc::{CalcError, positive};
use crate::instrument::{Instrument, InstrumentKind};
use crate::quantity::trimmed;
use crate::tests::words;
use crate::units::{self, ML_MIN};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Steps in which the values of an instrument are tried.
const STEPS: usize = 400;
/// A longer run than this is not proposed.
const LONGEST_RUN_S: f64 = 1800.0;

/// What is to be judged with what.
#[derive(Debug, Clone, PartialEq)]
pub struct Question<'a> {
    /// The instrument.
    pub instrument: &'a Instrument,
    /// Lower limit, in the unit of the readings (ml/min for a volume over a time).
    pub lower: Option<f64>,
    /// Upper limit.
    pub upper: Option<f64>,
    /// Length of a run, s, and the standard uncertainty of its timing, for a volume over a time.
    pub run: Option<(f64, f64)>,
    /// Confidence of the guard.
    pub confidence: f64,
}

/// How far the instrument carries.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Carries {
    /// Most readings can be called.
    Well,
    /// Only a part of the window can be called inside.
    Narrow,
    /// No reading can come out inside.
    Not,
}

/// The answer, before anything is measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CanDecide {
    /// How far it carries.
    pub carries: Carries,
    /// One sentence.
    pub sentence: String,
    /// What would carry it, or carry it better.
    pub would: Vec<String>,
    /// The limits that were asked about.
    pub lower: Option<f64>,
    /// Upper limit.
    pub upper: Option<f64>,
    /// Readings that come out inside, from and to.
    pub inside: Option<[f64; 2]>,
    /// Readings above this come out above.
    pub above_from: Option<f64>,
    /// Standard uncertainty in the middle of the window, or at the limit.
    pub u: f64,
    /// Window over four u, for two limits.
    pub capability: Option<f64>,
    /// The unit of all of it.
    pub unit: String,
}

impl Question<'_> {
    fn unit(&self) -> &'static str {
        if self.run.is_some() { ML_MIN } else { self.instrument.kind.unit() }
    }

    /// u of one reading of this value.
    fn u(&self, value: f64) -> f64 {
        match self.run {
            Some((seconds, timer_u)) => {
                let volume = value * seconds / 60.0;
                60.0 / seconds * self.instrument.u(volume).hypot(volume / seconds * timer_u)
            }
            None => self.instrument.u(value),
        }
    }

    fn state(&self, value: f64) -> Result<LimitState, CalcError> {
        let input = DecideInput {
            value,
            u: self.u(value),
            lower: self.lower,
            upper: self.upper,
            confidence: Some(self.confidence),
            ..DecideInput::default()
        };
        Ok(decide(&input)?.state)
    }

    /// The middle of the window, or the one limit.
    fn middle(&self) -> f64 {
        match (self.lower, self.upper) {
            (Some(lower), Some(upper)) => 0.5 * (lower + upper),
            (one, other) => one.or(other).unwrap_or(0.0),
        }
    }

    /// What is tried: from zero, or well below the window, to well above it.
    fn range(&self) -> (f64, f64) {
        let top = self.upper.or(self.lower).unwrap_or(1.0);
        let reach = 6.0 * self.u(top);
        (0.0, top + reach.max(top * 0.5))
    }

    fn inside(&self) -> Result<Option<[f64; 2]>, CalcError> {
        let (low, high) = self.range();
        // Limits themselves are tried too: a window can be narrower than a step.
        let steps = (0..=STEPS).map(|i| low + (high - low) * i as f64 / STEPS as f64);
        let window = self.lower.zip(self.upper);
        let fine = window.into_iter().flat_map(|(lower, upper)| {
            (0..=STEPS).map(move |i| lower + (upper - lower) * i as f64 / STEPS as f64)
        });
        let mut found: Option<[f64; 2]> = None;
        for value in steps.chain(fine) {
            if self.state(value)? == LimitState::Within {
                found = Some(found.map_or([value; 2], |[a, b]| [a.min(value), b.max(value)]));
            }
        }
        Ok(found)
    }

    /// The least value that comes out above; `decide` is monotone there.
    fn above_from(&self) -> Result<Option<f64>, CalcError> {
        let Some(upper) = self.upper else { return Ok(None) };
        let (mut low, mut high) = (upper, upper.max(self.u(upper)));
        for _ in 0..60 {
            if self.state(high)? == LimitState::Above {
                break;
            }
            high *= 2.0;
        }
        if self.state(high)? != LimitState::Above {
            return Ok(None);
        }
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if self.state(middle)? == LimitState::Above { high = middle } else { low = middle }
        }
        Ok(Some(high))
    }

    fn carries(&self, inside: Option<[f64; 2]>) -> Carries {
        let Some([from, to]) = inside else { return Carries::Not };
        let share = match (self.lower, self.upper) {
            (Some(lower), Some(upper)) => (to - from) / (upper - lower) / 0.5,
            (None, Some(upper)) => to / upper / 0.8,
            (Some(lower), None) => lower / from / 0.8,
            (None, None) => 1.0,
        };
        if share >= 1.0 { Carries::Well } else { Carries::Narrow }
    }

    /// The rate at which a bottle overflows within the run.
    fn overflow(&self) -> Option<f64> {
        let (seconds, _) = self.run?;
        self.instrument.capacity_ml.map(|capacity| 60.0 * capacity / seconds)
    }
}

/// Whether the instrument can carry the limits.
///
/// # Errors
/// No limit, limits that contradict each other, a run not above zero; a volume over a time
/// without the length of the run.
pub fn can_decide(question: &Question<'_>) -> Result<CanDecide, CalcError> {
    if let Some((seconds, _)) = question.run {
        positive(words::LENGTH_RUN, seconds)?;
    }
    let inside = question.inside()?;
    let above_from = question.above_from()?;
    let carries = question.carries(inside);
    let middle = question.middle();
    let u = question.u(middle);
    let capability = question.lower.zip(question.upper).map(|(low, high)| (high - low) / (4.0 * u));
    let canonical = question.unit();
    let unit = units::unit(canonical);
    let digits = |value: f64| units::carried(value, u, canonical);
    let trimmed = |value: f64| units::number(value, canonical);
    let limits = match (question.lower, question.upper) {
        (Some(lower), Some(upper)) => format!("{} to {} {unit}", trimmed(lower), trimmed(upper)),
        (None, Some(upper)) => format!("at most {} {unit}", trimmed(upper)),
        (Some(lower), None) => format!("at least {} {unit}", trimmed(lower)),
        (None, None) => String::new(),
    };
    let name = &question.instrument.name;
    let sentence = match (carries, inside) {
        (Carries::Not, _) | (_, None) => words::cannot_decide_u_no(
            name,
            &limits,
            trimmed_u(units::difference(u, canonical)),
            unit,
        ),
        (Carries::Narrow, Some([from, to])) => {
            words::decides_only_part_called(name, &limits, span(question, from, to, &digits))
        }
        (Carries::Well, Some([from, to])) => {
            words::decide_called_within(name, &limits, span(question, from, to, &digits))
        }
    };
    let mut would = Vec::new();
    if carries != Carries::Well {
        would = remedies(question)?;
    }
    if let Some(full) = question.overflow()
        && let Some(above) = above_from.filter(|above| full < *above)
    {
        would.push(words::overflowing_bottle_says_least(digits(full), digits(above)));
    }
    Ok(CanDecide {
        lower: question.lower,
        upper: question.upper,
        carries,
        sentence,
        would,
        inside,
        above_from,
        u,
        capability,
        unit: unit.to_owned(),
    })
}

fn span(question: &Question<'_>, from: f64, to: f64, digits: &dyn Fn(f64) -> String) -> String {
    match (question.lower, question.upper) {
        (Some(_), Some(_)) => format!("readings from {} to {}", digits(from), digits(to)),
        (None, _) => format!("readings up to {}", digits(to)),
        (Some(_), None) => format!("readings from {}", digits(from)),
    }
}

fn trimmed_u(u: f64) -> String {
    let decimals = (1.0 - u.max(1e-9).log10().floor()).clamp(0.0, 6.0) as usize;
    format!("{u:.decimals$}")
}

/// What would carry the limits well: each proposal is tried before it is made.
fn remedies(question: &Question<'_>) -> Result<Vec<String>, CalcError> {
    let well = |other: &Question<'_>| -> Result<bool, CalcError> {
        Ok(other.carries(other.inside()?) == Carries::Well)
    };
    let mut would = Vec::new();
    if let Some((seconds, timer_u)) = question.run {
        let top = question.upper.or(question.lower).unwrap_or(0.0);
        let capacity = question.instrument.capacity_ml.unwrap_or(f64::INFINITY);
        let mut longer = (seconds / 5.0).floor() * 5.0 + 5.0;
        while longer <= LONGEST_RUN_S {
            let other = Question { run: Some((longer, timer_u)), ..question.clone() };
            if well(&other)? {
                break;
            }
            longer += if longer < 300.0 { 5.0 } else { 30.0 };
        }
        if longer <= LONGEST_RUN_S {
            let volume = top * longer / 60.0;
            let clock = format!("{}:{:02}", longer as u64 / 60, longer as u64 % 60);
            would.push(if volume <= capacity {
                words::run_enough(&clock)
            } else {
                words::run_enough_bottles_ml(&clock, volume)
            });
        }
    }
    let mut finer = question.instrument.clone();
    for _ in 0..12 {
        finer.resolution = match finer.kind {
            // Digits of a meter go by tens, marks by one, two and five.
            InstrumentKind::Meter | InstrumentKind::Timer => finer.resolution / 10.0,
            InstrumentKind::Gauge | InstrumentKind::Bottles | InstrumentKind::Bench => {
                next_finer(finer.resolution)
            }
        };
        if well(&Question { instrument: &finer, ..question.clone() })? {
            let what = match finer.kind {
                InstrumentKind::Bottles | InstrumentKind::Bench => "marks every",
                InstrumentKind::Meter | InstrumentKind::Gauge | InstrumentKind::Timer => {
                    words::LAST_DIGIT
                }
            };
            would.push(words::enough(
                what,
                units::number(finer.resolution, finer.kind.unit()),
                units::unit(finer.kind.unit()),
            ));
            break;
        }
    }
    if would.is_empty() {
        would.push(words::neither_longer_run_nor(trimmed(question.instrument.accuracy_pct)));
    }
    for text in &mut would {
        if let Some(first) = text.get(..1) {
            let upper = first.to_uppercase();
            text.replace_range(..1, &upper);
        }
    }
    Ok(would)
}

/// The next of … 5, 2, 1, 0.5 … below.
fn next_finer(resolution: f64) -> f64 {
    let decade = 10.0_f64.powf(resolution.log10().floor());
    let lead = resolution / decade;
    let next = if lead > 5.0 * 1.000_001 {
        5.0
    } else if lead > 2.0 * 1.000_001 {
        2.0
    } else if lead > 1.000_001 {
        1.0
    } else {
        0.5
    };
    // Powers of ten of small resolutions are a hair off; twelve digits are enough for any meter.
    (next * decade * 1e12).round() / 1e12
}

#[cfg(test)]
mod tests;
