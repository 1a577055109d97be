//! Why: each step with its arithmetic filled in.

use super::{Set, source, two_digits};
use crate::calc::decide::{DecideInput, LimitState, decide};
use crate::calc::return_flow::{Grade, Lane, LaneOutput};
use crate::library::Limit;
use crate::quantity::{signed_percent, trimmed};
use crate::tests::Because;
use crate::tests::engine::return_test::Reading;
use crate::units::{self, FLOW, ML_MIN};
use crate::words::list;

impl Set<'_> {
    pub(super) fn because(&self, reading: &Reading<'_>) -> Vec<Because> {
        let Some(lane) = reading.lane else {
            return vec![Because::says("No level was read for this cylinder.")];
        };
        let mut steps: Vec<Because> = reading
            .runs
            .iter()
            .map(|(run, read, rate)| self.because_run(*run, read, rate.rate))
            .collect();
        let number = units::carried(lane.rate_ml_min, lane.u_ml_min, ML_MIN);
        let u = two_digits(units::difference(lane.u_ml_min, ML_MIN));
        let runs = reading.runs.len();
        steps.push(if runs > 1 {
            Because::shows(
                format!(
                    "Mean of {runs} runs; scatter, marks and hand timing{} in u",
                    self.accuracy()
                ),
                format!("{number} {FLOW}, u = {u}"),
            )
        } else {
            Because::shows(
                format!(
                    "Marks every {} ml and hand timing{} leave",
                    trimmed(self.test.graduation_ml.0),
                    self.accuracy()
                ),
                format!("{number} {FLOW}, u = {u}"),
            )
        });
        steps.push(self.because_compared(lane));
        steps.push(match self.limit {
            Some(limit) => because_limit(lane, limit, self.test.rules.confidence, reading),
            None => Because::says(self.limit_note()),
        });
        steps.push(self.because_rules());
        steps
    }

    /// The bottles' own accuracy, where a certificate gives one.
    fn accuracy(&self) -> String {
        match (self.test.accuracy_pct, self.test.accuracy_digits) {
            (0.0, 0.0) => String::new(),
            (pct, digits) => {
                format!(", bottle accuracy ±({} % + {} marks)", trimmed(pct), trimmed(digits))
            }
        }
    }

    /// The rules by name, with the workshop's own reasons where it changed one.
    fn because_rules(&self) -> Because {
        let rules = &self.test.rules;
        let mut says = format!(
            "Assessed by look {} %, suspect {} %, guard band {} % ({})",
            trimmed(rules.look * 100.0),
            trimmed(rules.suspect * 100.0),
            trimmed(rules.confidence * 100.0),
            rules.named()
        );
        for reason in &rules.reasons {
            says += &format!(". {reason}");
        }
        Because::says(says)
    }

    fn because_run(&self, run: u32, read: &Lane, rate: f64) -> Because {
        let worked = |volume: f64, seconds: f64| {
            format!("60 × {} ÷ {} = {:.1} {FLOW}", trimmed(volume), to_tenths(seconds), rate)
        };
        match (read.overflow_s, read.volume_ml, read.seconds) {
            (Some(full), _, _) => Because::shows(
                format!("Run {run}: bottle full after {} s, a lower bound", to_tenths(full)),
                worked(self.test.capacity_ml.0, full),
            ),
            (None, Some(volume), Some(seconds)) => Because::shows(
                format!("Run {run}: {} ml in {} s", trimmed(volume), to_tenths(seconds)),
                worked(volume, seconds),
            ),
            (None, _, _) => Because::says(format!("Run {run}: not read")),
        }
    }

    fn because_compared(&self, lane: &LaneOutput) -> Because {
        let others: Vec<(u32, f64)> = self
            .measured()
            .filter(|(_, other)| other.reference && other.cylinder != lane.cylinder)
            .map(|(_, other)| (other.cylinder, other.rate_ml_min))
            .collect();
        match (lane.vs_reference, self.settled) {
            (Some(share), true) => {
                let mean = others.iter().map(|(_, rate)| rate).sum::<f64>() / others.len() as f64;
                let mean = units::fixed(mean, 2, ML_MIN);
                let mut who: Vec<u32> = others.iter().map(|(cylinder, _)| *cylinder).collect();
                who.sort_unstable();
                Because::shows(
                    format!("Agreeing others ({}), mean {mean} {FLOW}", list(&who)),
                    format!(
                        "{} ÷ {mean} − 1 = {}",
                        units::carried(lane.rate_ml_min, lane.u_ml_min, ML_MIN),
                        signed_percent(share)
                    ),
                )
            }
            (Some(_) | None, _) => Because::says(if self.upper_camp_from.is_some() {
                "The set splits into two similar groups. The mean of the others would pick either at random."
            } else {
                "Too few of the others agree with each other to compare."
            }),
        }
    }
}

fn because_limit(
    lane: &LaneOutput,
    limit: &Limit,
    confidence: f64,
    reading: &Reading<'_>,
) -> Because {
    let number = units::carried(lane.rate_ml_min, lane.u_ml_min, ML_MIN);
    let upper = units::number(limit.upper_ml_min, ML_MIN);
    let guard = decide(&DecideInput {
        value: lane.rate_ml_min,
        u: lane.u_ml_min,
        upper: Some(limit.upper_ml_min),
        confidence: Some(confidence),
        dof: reading.u.as_ref().and_then(|u| u.dof).filter(|_| !lane.at_least),
        ..DecideInput::default()
    });
    let says = format!("Limit {upper} {FLOW} ({})", source(limit));
    let Ok(out) = guard else { return Because::says(says) };
    let g = two_digits(out.guard);
    let inside = (out.p_conform * 100.0).clamp(0.1, 99.9);
    let arithmetic = match lane.limit_state {
        Some(LimitState::Above) => format!("{number} > {upper} + {g}: above"),
        Some(LimitState::Within | LimitState::Below) => format!("{number} ≤ {upper} − {g}: inside"),
        Some(LimitState::Undecided) if lane.grade == Grade::Question => {
            "the reading is doubtful, so the limit says nothing".to_owned()
        }
        Some(LimitState::Undecided) if lane.at_least => {
            format!("at least {number}; {upper} + {g} not clearly exceeded")
        }
        Some(LimitState::Undecided) | None => {
            format!("{upper} − {g} < {number} < {upper} + {g}: {inside:.0} % chance it is within")
        }
    };
    Because::shows(format!("{says}, guard band ±{g} at {:.0} %", confidence * 100.0), arithmetic)
}

/// Seconds to the tenth: a hand on a button is no better.
fn to_tenths(seconds: f64) -> String {
    trimmed((seconds * 10.0).round() / 10.0)
}
