//! The sentences of a return test: they are made from the same numbers as the verdict.

mod finding;
mod next;
mod reasons;
mod schools;

use super::{Reading, ReturnTest};
use crate::calc::return_flow::{Grade, LaneOutput};
use crate::library::Limit;
use crate::mark::Mark;
use crate::quantity::{Celsius, shown, signed_percent, trimmed};
use crate::said::{Code, Lack, Said};
use crate::tests::{Because, Lane};
use crate::words::cylinders;
use crate::work::Regime;

/// The set, as the sentences need it.
pub(super) struct Set<'a> {
    pub test: &'a ReturnTest,
    /// The limit that the verdict follows.
    pub limit: Option<&'a Limit>,
    /// The limit that holds here, whether the verdict follows it or not.
    pub holds: Option<&'a Limit>,
    pub settled: bool,
    pub upper_camp_from: Option<f64>,
    pub readings: &'a [Reading<'a>],
}

impl Set<'_> {
    fn marked(&self, mark: Mark) -> Vec<u32> {
        let hits = self.readings.iter().filter(|r| r.mark == mark);
        let mut cylinders: Vec<u32> = hits.map(|r| r.cylinder).collect();
        cylinders.sort_unstable();
        cylinders
    }

    fn measured(&self) -> impl Iterator<Item = (&Reading<'_>, &LaneOutput)> {
        self.readings.iter().filter_map(|r| r.lane.map(|lane| (r, lane)))
    }

    /// One injector with its words.
    pub(super) fn lane(&self, reading: &Reading<'_>) -> Lane {
        let lane = reading.lane;
        let number = lane.map(|l| shown(l.rate_ml_min, l.u_ml_min)).unwrap_or_default();
        Lane {
            place: reading.cylinder,
            mark: reading.mark,
            said: self.said(reading),
            word: word(reading).to_owned(),
            shown: number,
            value: lane.map(|l| l.rate_ml_min),
            u: lane.map(|l| l.u_ml_min),
            at_least: lane.is_some_and(|l| l.at_least),
            share: lane.and_then(|l| l.vs_reference),
            sentence: self.sentence(reading),
            because: self.because_with_conditions(reading),
            would_change: self.would_change(reading),
            ..Lane::default()
        }
    }

    /// The code, how far off, and what the reading lacks.
    fn said(&self, reading: &Reading<'_>) -> Said {
        let Some(lane) = reading.lane else { return Said::new(reading.code) };
        let limit = self.limit.map(|limit| lane.rate_ml_min - limit.upper_ml_min);
        let share = lane.vs_reference.filter(|_| self.settled);
        let others = share.map(|share| lane.rate_ml_min - lane.rate_ml_min / (1.0 + share));
        let cold = match (self.test.regime, self.test.temperature_c) {
            (Regime::IdleOnly | Regime::Stepped, Some(Celsius(c))) => {
                c < self.test.rules.warm_from_c
            }
            (Regime::IdleOnly | Regime::Stepped, None) | (Regime::Cranking, _) => false,
        };
        let (runs, wanted) = (reading.runs.len() as u32, self.test.rules.runs_to_replace);
        Said::new(reading.code)
            .off(limit.or(others).unwrap_or(f64::NAN), lane.u_ml_min)
            .lacking(Lack::StartConditions, !self.test.unticked.is_empty())
            .lacking(Lack::Cold, cold)
            .lacking(Lack::OneRun, runs == 1 && wanted > 1)
            .lacking(Lack::FewRuns, runs > 1 && runs < wanted)
            .lacking(Lack::Overdue, self.test.overdue)
    }

    /// The reasons, and the start conditions that were missing.
    fn because_with_conditions(&self, reading: &Reading<'_>) -> Vec<Because> {
        let mut because = self.because(reading);
        if reading.lane.is_some() {
            let open = self.test.unticked.iter().map(|open| open.because.as_str());
            because.extend(open.map(Because::says));
        }
        because
    }

    fn sentence(&self, reading: &Reading<'_>) -> String {
        let Some(lane) = reading.lane else { return "Not measured.".to_owned() };
        let number = shown(lane.rate_ml_min, lane.u_ml_min);
        let least = if lane.at_least { "at least " } else { "" };
        let share = lane.vs_reference.filter(|_| self.settled);
        let compared = share.map(|share| format!("{} against the others", signed_percent(share)));
        match (reading.mark, self.limit, compared) {
            (Mark::Questioned, _, _) if reading.code == Code::RUN_ODD => self.odd_run(reading),
            (Mark::Questioned, Some(limit), _) if reading.code == Code::ALL_ALIKE_OFF => format!(
                "{number} ml/min, over the limit of {} like all the others: seldom wear in all of them.",
                trimmed(limit.upper_ml_min)
            ),
            (Mark::Questioned, _, Some(compared)) if lane.grade != Grade::Question => format!(
                "{number} ml/min, {compared}: hose kinked or off, not firing, or the others are all high."
            ),
            (Mark::Undecided, None, _) if self.settled && !lane.at_least => format!(
                "{number} ml/min: either these are all high, or the one far below is doubtful."
            ),
            (Mark::Questioned, _, _) => format!(
                "{number} ml/min is too little to be believed: hose kinked or off, blocked, or not firing."
            ),
            (Mark::TooMuch, Some(limit), _) => format!(
                "Returns {least}{number} ml/min, above the limit of {} whichever way the reading errs.",
                trimmed(limit.upper_ml_min)
            ),
            (Mark::Undecided, Some(limit), _) if !lane.at_least => format!(
                "{number} ml/min is too close to the limit of {} to call with this measurement.",
                trimmed(limit.upper_ml_min)
            ),
            (Mark::Undecided, _, _) if lane.at_least => {
                format!("The bottle overflowed: at least {number} ml/min is all that is known.")
            }
            (Mark::Undecided, _, _) => {
                format!("{number} ml/min, and no reference that the set agrees on.")
            }
            (_, Some(limit), Some(compared)) => format!(
                "{number} ml/min, inside the limit of {}; {compared}.",
                trimmed(limit.upper_ml_min)
            ),
            (_, Some(limit), None) => {
                format!("{number} ml/min, inside the limit of {}.", trimmed(limit.upper_ml_min))
            }
            (_, None, Some(compared)) => format!("Returns {least}{number} ml/min, {compared}."),
            (_, None, None) => format!("Returns {least}{number} ml/min."),
        }
    }
}

impl Set<'_> {
    /// The run that is out of line, beside what the others gave.
    fn odd_run(&self, reading: &Reading<'_>) -> String {
        let odd = reading.runs.iter().find(|(run, ..)| Some(*run) == reading.odd_run);
        let even: Vec<f64> = reading
            .runs
            .iter()
            .filter(|(run, ..)| Some(*run) != reading.odd_run)
            .map(|(.., rate)| rate.rate)
            .collect();
        let mean = even.iter().sum::<f64>() / even.len().max(1) as f64;
        let (run, rate) = odd.map_or((0, 0.0), |(run, _, rate)| (*run, rate.rate));
        format!(
            "Run {run} gave {rate:.1} ml/min, the others {mean:.1}: that run is doubtful, and is not averaged in."
        )
    }
}

fn word(reading: &Reading<'_>) -> &'static str {
    match (reading.mark, reading.lane.map(|lane| lane.grade)) {
        (Mark::Inside, Some(Grade::Low)) => "tight",
        (Mark::Inside, _) => "inside",
        (Mark::TooMuch, _) => "too much",
        (Mark::TooLittle, _) => "too little",
        (Mark::Look, _) => "look closer",
        (Mark::Undecided, _) => "undecided",
        (Mark::Questioned, _) => "in question",
        (Mark::NotMeasured, _) => "not read",
    }
}

fn source(limit: &Limit) -> String {
    if limit.revision == 0 {
        return limit.source.clone();
    }
    format!("{}, revision {}", limit.source, limit.revision)
}

/// An uncertainty in two significant digits.
fn two_digits(u: f64) -> String {
    if u <= 0.0 {
        return "0".to_owned();
    }
    let decimals = (1.0 - u.log10().floor()).clamp(0.0, 6.0) as usize;
    format!("{u:.decimals$}")
}
