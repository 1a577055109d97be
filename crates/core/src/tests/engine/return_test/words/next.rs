//! What would change a verdict, and what is proposed.

use super::Set;
use crate::calc::decide::{DecideInput, decide, repeats_to_settle};
use crate::calc::return_flow::LaneOutput;
use crate::library::Limit;
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::engine::return_test::Reading;

/// Fullest that a bottle is planned to get.
const FULL_SHARE: f64 = 0.9;

impl Set<'_> {
    pub(super) fn would_change(&self, reading: &Reading<'_>) -> Vec<String> {
        let Some(lane) = reading.lane else {
            return vec!["Its level, or the time at which its bottle was full.".to_owned()];
        };
        match reading.mark {
            Mark::Questioned if reading.code == Code::RUN_ODD => vec![
                "That run again under the same conditions, or excluded with a reason.".to_owned(),
            ],
            Mark::Questioned if reading.code == Code::ALL_ALIKE_OFF => vec![
                "Temperature, family in the library, fluid and bottles first; then the same test again."
                    .to_owned(),
            ],
            Mark::Questioned => vec![
                "Hose pushed home, no kink, injector firing; then one more run.".to_owned(),
            ],
            Mark::Undecided if lane.at_least => self.sooner(reading),
            Mark::Undecided => match self.limit {
                Some(limit) => self.sharper(reading, lane, limit),
                None => vec![
                    "An absolute limit for this family, or one known good injector fitted in its place.".to_owned(),
                ],
            },
            Mark::TooMuch | Mark::Look | Mark::Inside => {
                let mut hints = self.near_a_line(lane);
                if hints.is_empty() {
                    hints.push(match reading.mark {
                        Mark::Inside => "Nothing is open here.".to_owned(),
                        Mark::TooMuch | Mark::Look | Mark::TooLittle | Mark::Undecided
                        | Mark::Questioned | Mark::NotMeasured => {
                            "A swap with a neighbour: if the fault follows, it is the injector.".to_owned()
                        }
                    });
                }
                hints
            }
            Mark::TooLittle | Mark::NotMeasured => Vec::new(),
        }
    }

    /// An overflow hides the rate: measure for a shorter time.
    fn sooner(&self, reading: &Reading<'_>) -> Vec<String> {
        let full = reading.runs.iter().filter_map(|(_, lane, _)| lane.overflow_s).reduce(f64::min);
        full.map(|full| {
            vec![format!(
                "A run of {} or less, or a larger bottle, avoids an overflow.",
                clock(full * FULL_SHARE * 0.8)
            )]
        })
        .unwrap_or_default()
    }

    /// What would carry a value out of the guard band.
    fn sharper(&self, reading: &Reading<'_>, lane: &LaneOutput, limit: &Limit) -> Vec<String> {
        let distance = (lane.rate_ml_min - limit.upper_ml_min).abs();
        let Some(u) = &reading.u else { return Vec::new() };
        let input = DecideInput {
            value: lane.rate_ml_min,
            u: u.u,
            upper: Some(limit.upper_ml_min),
            confidence: Some(self.test.rules.confidence),
            dof: u.dof,
            ..DecideInput::default()
        };
        let mut hints = Vec::new();
        if reading.runs.len() > 1
            && let Ok(Some(times)) = repeats_to_settle(&input, u.u_repeat)
        {
            let runs = times as usize * reading.runs.len();
            hints.push(format!("{runs} runs in all, if the mean stays the same."));
        }
        let guard = decide(&input).map_or(0.0, |out| out.guard);
        let seconds = reading.runs.iter().filter_map(|(_, lane, _)| lane.seconds).reduce(f64::max);
        if let Some(seconds) = seconds.filter(|_| distance > 0.0 && u.u_repeat == 0.0) {
            let needed = seconds * guard / distance;
            let volume = lane.rate_ml_min * needed / 60.0;
            hints.push(if volume <= FULL_SHARE * self.test.capacity_ml.0 {
                format!(
                    "A run of {} with these bottles, if the rate stays the same.",
                    clock((needed / 5.0).ceil() * 5.0)
                )
            } else {
                format!(
                    "No run with these bottles is enough: it would take {:.0} ml. Use a finer or a larger bottle.",
                    volume
                )
            });
        }
        if hints.is_empty() {
            hints.push("Repeats alone are not enough; use a finer or a larger bottle.".to_owned());
        }
        hints
    }

    /// Says when a lane's own uncertainty reaches across a line of the house rules.
    fn near_a_line(&self, lane: &LaneOutput) -> Vec<String> {
        let Some(share) = lane.vs_reference.filter(|_| self.settled) else { return Vec::new() };
        let relative_u = lane.u_ml_min * (1.0 + share) / lane.rate_ml_min;
        [(self.test.rules.look, "closer look"), (self.test.rules.suspect, "suspect")]
            .into_iter()
            .filter(|(line, _)| (share - line).abs() < 2.0 * relative_u && !lane.at_least)
            .map(|(line, name)| {
                format!(
                    "The reading is good to about ±{:.0} %, and the level for \"{name}\" is {:.0} %: more runs or a longer run would place it.",
                    (200.0 * relative_u).max(1.0),
                    line * 100.0
                )
            })
            .collect()
    }
}

/// Minutes and seconds: `1:56`.
fn clock(seconds: f64) -> String {
    let whole = seconds.round().max(0.0) as u64;
    format!("{}:{:02}", whole / 60, whole % 60)
}
