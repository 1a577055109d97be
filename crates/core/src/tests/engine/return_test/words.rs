//! The sentences of a return test: they are made from the same numbers as the verdict.

mod finding;
mod next;
mod reasons;
mod schools;

use super::{Reading, ReturnTest, outcomes};
use crate::calc::return_flow::{Grade, LaneOutput};
use crate::library::Limit;
use crate::mark::Mark;
use crate::quantity::{Celsius, signed_percent};
use crate::said::{Code, Lack, Said};
use crate::tests::{Because, Lane};
use crate::units::{self, FLOW, ML_MIN};
use crate::words::cylinders;
use crate::work::Regime;
use std::fmt::Display;

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

    /// One lies far below the others.
    fn any_far(&self) -> bool {
        self.readings.iter().any(|one| one.mark == Mark::Questioned)
    }

    /// One injector with its words.
    pub(super) fn lane(&self, reading: &Reading<'_>) -> Lane {
        let lane = reading.lane;
        let number =
            lane.map(|l| units::carried(l.rate_ml_min, l.u_ml_min, ML_MIN)).unwrap_or_default();
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
            sentence: self.with_odd_run(reading),
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
        let over = limit.is_some_and(|over| over > 0.0);
        let high = reading.code == outcomes::RETURN_HIGH && !over;
        let times = share.filter(|_| high).map_or(f64::INFINITY, |s| s / self.test.rules.suspect);
        // Well inside of what a set usually returns, a high one is no more than at the line.
        let usual = self.test.limit.is_none()
            && self.test.regime != Regime::Cranking
            && lane.rate_ml_min + 2.0 * lane.u_ml_min < self.test.rules.usual_ml_min;
        let beyond = if usual { times.min(1.0 + times / 6.0) } else { times };
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
            .beyond(beyond)
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

    /// What is said of a lane, and of its run that was not averaged in.
    fn with_odd_run(&self, reading: &Reading<'_>) -> String {
        let says = self.sentence(reading);
        match reading.odd_run.filter(|_| reading.code != Code::RUN_ODD) {
            Some(run) => format!("{says} Run {run} does not fit and is not averaged in."),
            None => says,
        }
    }

    fn sentence(&self, reading: &Reading<'_>) -> String {
        let Some(lane) = reading.lane else { return "Not measured.".to_owned() };
        let number = units::carried(lane.rate_ml_min, lane.u_ml_min, ML_MIN);
        let least = if lane.at_least { "at least " } else { "" };
        let share = lane.vs_reference.filter(|_| self.settled);
        let compared = share.map(|share| format!("{} against the others", signed_percent(share)));
        if reading.code == outcomes::RETURN_LOW && self.test.confirmed.contains(&reading.cylinder) {
            return format!("{number} {FLOW}: low. Hose and firing were confirmed.");
        }
        match (reading.mark, self.limit, compared) {
            (Mark::Questioned, _, _) if reading.code == Code::RUN_ODD => self.odd_run(reading),
            (Mark::Questioned, Some(limit), _) if reading.code == Code::ALL_ALIKE_OFF => format!(
                "{number} {FLOW}, over the limit of {} like all the others: wear in all of them is unlikely.",
                units::number(limit.upper_ml_min, ML_MIN)
            ),
            (Mark::Questioned, _, Some(compared)) if lane.grade != Grade::Question => format!(
                "{number} {FLOW}, {compared}: hose kinked or off, not firing, or the others are all high."
            ),
            (Mark::Undecided, None, Some(compared)) if reading.code == Code::TOO_CLOSE => {
                format!("{number} {FLOW}, {compared}: its runs scatter too much to tell.")
            }
            (Mark::Undecided, None, Some(compared))
                if reading.code == Code::NO_REFERENCE && !self.any_far() =>
            {
                format!(
                    "{number} {FLOW}, {compared}, and all of them above what a set usually returns ({}, workshop rule): the level is not known.",
                    units::number(self.test.rules.usual_ml_min, ML_MIN)
                )
            }
            (Mark::Undecided, None, _) if self.settled && !lane.at_least => format!(
                "{number} {FLOW}: either these are all high, or the one far below is doubtful."
            ),
            (Mark::Questioned, _, _) => format!(
                "{number} {FLOW} is implausibly low: hose kinked or off, blocked, or not firing."
            ),
            (Mark::TooMuch, Some(limit), _) => format!(
                "Leak-off {least}{number} {FLOW}: over the limit of {} even allowing for error.",
                units::number(limit.upper_ml_min, ML_MIN)
            ),
            (Mark::Undecided, Some(limit), _) if !lane.at_least => format!(
                "{number} {FLOW}: inconclusive, too close to the limit of {}.",
                units::number(limit.upper_ml_min, ML_MIN)
            ),
            (Mark::Undecided, _, _) if lane.at_least => {
                format!("Bottle overflowed: at least {number} {FLOW} is all that is known.")
            }
            (Mark::Undecided, _, _) => {
                let usual = units::number(self.test.rules.usual_ml_min, ML_MIN);
                let by_usual = match reading.code {
                    outcomes::RETURN_OVER_USUAL => {
                        format!(" More than a set usually returns ({usual}, workshop rule).")
                    }
                    outcomes::RETURN_USUAL => {
                        format!(" Not more than a set usually returns ({usual}, workshop rule).")
                    }
                    _ => String::new(),
                };
                format!("{number} {FLOW}; the set gives no agreed reference.{by_usual}")
            }
            (_, Some(limit), Some(compared)) => format!(
                "{number} {FLOW}, within the limit of {}; {compared}.",
                units::number(limit.upper_ml_min, ML_MIN)
            ),
            (_, Some(limit), None) => {
                format!(
                    "{number} {FLOW}, within the limit of {}.",
                    units::number(limit.upper_ml_min, ML_MIN)
                )
            }
            (Mark::TooMuch, None, None) => {
                format!("Leak-off {least}{number} {FLOW}, while the other bottles stayed empty.")
            }
            (_, None, Some(compared)) => format!("Leak-off {least}{number} {FLOW}, {compared}."),
            (_, None, None) => format!("Leak-off {least}{number} {FLOW}."),
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
        let [rate, mean] = [rate, mean].map(|flow| units::fixed(flow, 1, ML_MIN));
        format!(
            "Run {run} gave {rate} {FLOW}, the others {mean}: that run is doubtful and not averaged in."
        )
    }
}

fn word(reading: &Reading<'_>) -> &'static str {
    match (reading.mark, reading.lane.map(|lane| lane.grade)) {
        (Mark::Inside, Some(Grade::Low | Grade::Question)) => "tight",
        (Mark::Inside, _) => "within",
        (Mark::TooMuch, _) => "too high",
        (Mark::TooLittle, _) => "too low",
        (Mark::Look, _) => "look closer",
        (Mark::Undecided, _) => "inconclusive",
        (Mark::Questioned, _) => "doubtful",
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

// phases

pub(super) fn only_raised_speed_leak(only: impl Display) -> String {
    format!(
        "{only}: only at raised speed. A leak that opens with pressure; an idle-only test would have missed it."
    )
}

pub(super) fn same_idle_raised_speed(both: impl Display) -> String {
    format!("{both}: same at idle and at raised speed.")
}

pub(super) const STEPPED_TEST_NEEDS_READINGS: &str =
    "A stepped test needs readings at idle and raised speed.";
pub(super) fn idle_changed_first_last(moved: impl Display) -> String {
    format!(
        "Idle changed by {moved:+.0} % from the first to the last phase: the engine was still warming up."
    )
}

pub(super) const ONLY_ONE_BANK_READ: &str =
    "Only one bank is read: run the other under the same conditions.";
pub(super) fn second_bank_whole_first(share: impl Display) -> String {
    format!(
        "The second bank as a whole is {share:+.0} % from the first. They were run one after the other: temperature or order may be why. Compare within a bank first."
    )
}

pub(super) fn total_leak_off_ml(total_shown: impl Display) -> String {
    format!("Total leak-off {total_shown} {FLOW}; enter the pump's spare capacity to assess it.")
}

pub(super) fn total_leak_off_ml_min(total_shown: impl Display, spare: impl Display) -> String {
    format!(
        "Total leak-off {total_shown} {FLOW}, pump's spare capacity {spare}: leak-off takes the rail pressure, so it does not start."
    )
}

pub(super) fn total_leak_off_ml_min_pumps(
    total_shown: impl Display,
    spare: impl Display,
) -> String {
    format!(
        "Total leak-off {total_shown} {FLOW}, pump's spare capacity {spare}: inconclusive, too close."
    )
}

pub(super) fn total_leak_off_ml_min_pumps_spare(
    total_shown: impl Display,
    spare: impl Display,
) -> String {
    format!(
        "Total leak-off {total_shown} {FLOW}, pump's spare capacity {spare}: if pressure is lost, it is lost elsewhere."
    )
}

pub(super) const ALL_ALIKE_TOGETHER_MORE: &str =
    "All alike, and together more than the pump can spare.";
pub(super) const FUEL_TEMPERATURE_PUMPS_FIGURE: &str = "Fuel, its temperature and the pump's figure first; then an absolute limit, or one known good injector.";
pub(super) const TEMPERATURE_NOT_MEASURED_TEST: &str =
    "Temperature not measured: this test cannot be compared with one of another day.";
pub(super) fn cold_test_c_warm(t: impl Display, warm_from_c: impl Display) -> String {
    format!(
        "Cold test at {t}, warm is from {warm_from_c} (workshop rule): thick fuel hides wear, so a good result proves little."
    )
}

// return test

pub(super) const EACH_INJECTOR_LEAKS_OFF: &str =
    "What each injector leaks off, caught in its own bottle over the same time.";
pub(super) const BOTTLES_HOSES_BLANKS_RETURN: &str =
    "Bottles and hoses, blanks for the return rail, thermometer, rags";
pub(super) const CRANK_TEST_LEAK_OFF: &str =
    "Crank test: leak-off can take the rail pressure needed to start.";
pub(super) const RAIL_PRESSURE_REACHED_WHILE: &str = "Rail pressure reached while cranking.";
pub(super) const UNDER_LOAD_STEPPED_SOME: &str =
    "Under load: stepped, as some leak only at higher pressure.";
pub(super) const ALL_OTHER_CAUSES_PROVEN: &str = "All other causes proven.";
pub(super) const INTERNAL_WEAR_SHOWS_LEAK: &str =
    "Internal wear shows as leak-off; idle only, to compare.";
pub(super) const SHARED_CAUSE_FIXED_COMPLAINT: &str =
    "A shared cause fixed, and the complaint gone.";
pub(super) const RETURN_TEST_ASSESSED_RUNS: &str = "a return test is assessed from its runs";
pub(super) fn engine_no_cylinder(cylinder: impl Display) -> String {
    format!("this engine has no cylinder {cylinder}")
}
