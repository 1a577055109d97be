//! The sentences of a return test: they are made from the same numbers as the verdict.

use super::{LaneVerdict, Reading, ReturnTest, RunRate};
use crate::calc::decide::{DecideInput, LimitState, decide, repeats_to_settle};
use crate::calc::exceeds;
use crate::calc::return_flow::{Grade, Lane, LaneOutput};
use crate::checks::{Because, Limit, Proposal, School};
use crate::mark::Mark;
use crate::quantity::{shown, signed_percent, trimmed};
use crate::work::{Decision, join};

/// Fullest that a bottle is planned to get.
const FULL_SHARE: f64 = 0.9;

/// Whether a limit says anything at this temperature. One without a window always does;
/// one with a window needs the temperature to be known.
pub(super) fn limit_holds(limit: &Limit, temperature_c: Option<f64>) -> bool {
    match (limit.from_c, limit.to_c, temperature_c) {
        (None, None, _) => true,
        (_, _, None) => false,
        (from, to, Some(t)) => from.is_none_or(|from| t >= from) && to.is_none_or(|to| t <= to),
    }
}

/// The set, as the sentences need it.
pub(super) struct Set<'a> {
    pub test: &'a ReturnTest,
    pub limit: Option<&'a Limit>,
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

    /// The finding, and what else to know or do next.
    pub(super) fn sentences(&self) -> (String, String) {
        if self.measured().count() < 2 {
            return (
                "Nothing to compare yet.".to_owned(),
                "At least two columns have to be read.".to_owned(),
            );
        }
        let findings: Vec<String> = [
            self.says_too_much(),
            self.says_split(),
            self.says_questioned(),
            self.says_undecided(),
            self.says_look(),
        ]
        .into_iter()
        .flatten()
        .collect();
        let mut findings = findings.into_iter();
        let headline = findings.next().unwrap_or_else(|| self.says_inside());
        let mut rest: Vec<String> = findings.collect();
        let unread = self.marked(Mark::NotMeasured);
        if !unread.is_empty() {
            rest.push(format!("{} not read.", cylinders(&unread)));
        }
        rest.extend(self.next_step());
        (headline, rest.join(" "))
    }

    fn says_too_much(&self) -> Option<String> {
        let high = self.marked(Mark::TooMuch);
        let who = cylinders(&high);
        let first = self.measured().find(|(r, _)| high.first() == Some(&r.cylinder))?.1;
        let returns = if high.len() == 1 { "returns" } else { "return" };
        let share = first.vs_reference.filter(|share| self.settled && *share > 0.0);
        Some(match (share, self.limit) {
            (Some(share), _) if high.len() == 1 => {
                let least = if first.at_least { "at least " } else { "" };
                format!("{who} {returns} {least}{:.0} % more than the others.", share * 100.0)
            }
            (_, Some(limit)) => {
                format!(
                    "{who} {returns} more than the limit of {} ml/min.",
                    trimmed(limit.upper_ml_min)
                )
            }
            (_, None) => format!("{who} {returns} far more than the others."),
        })
    }

    /// Two camps, named; only where no limit decides.
    fn says_split(&self) -> Option<String> {
        let from = self.upper_camp_from.filter(|_| self.limit.is_none())?;
        let camp = |upper: bool| {
            let lanes = self.measured().filter(|(_, l)| l.rate_ml_min > 0.0);
            let mut camp: Vec<u32> = lanes
                .filter(|(_, l)| (l.rate_ml_min >= from) == upper)
                .map(|(r, _)| r.cylinder)
                .collect();
            camp.sort_unstable();
            join(&camp)
        };
        Some(format!(
            "Two camps, {} against {}: comparison cannot say which is right.",
            camp(false),
            camp(true)
        ))
    }

    fn says_questioned(&self) -> Option<String> {
        let who = self.marked(Mark::Questioned);
        let verb = if who.len() == 1 { "returns" } else { "return" };
        (!who.is_empty())
            .then(|| format!("{} {verb} next to nothing: do not believe it yet.", cylinders(&who)))
    }

    fn says_undecided(&self) -> Option<String> {
        let who = self.marked(Mark::Undecided);
        if who.is_empty() || (self.upper_camp_from.is_some() && self.limit.is_none()) {
            return None;
        }
        let (are, they) = if who.len() == 1 { ("is", "it") } else { ("are", "them") };
        Some(if self.limit.is_some() {
            format!("{} {are} too close to the limit to call.", cylinders(&who))
        } else if self.settled {
            format!("{} overflowed: the lower bound cannot place {they}.", cylinders(&who))
        } else {
            "The set does not agree with itself: comparison cannot decide.".to_owned()
        })
    }

    fn says_look(&self) -> Option<String> {
        let who = self.marked(Mark::Look);
        let (r, lane) = self.measured().find(|(r, _)| who.first() == Some(&r.cylinder))?;
        let inside = if lane.limit_state.is_some() { "inside the limit, but " } else { "" };
        Some(match (who.len(), lane.vs_reference) {
            (1, Some(share)) => format!(
                "Cylinder {} is {inside}{:.0} % above the others: look closer.",
                r.cylinder,
                share * 100.0
            ),
            (_, _) => format!("{} stand above the others: look closer.", cylinders(&who)),
        })
    }

    fn says_inside(&self) -> String {
        let count = self.measured().count();
        match self.limit {
            Some(limit) => {
                format!(
                    "All {count} return less than the limit of {} ml/min.",
                    trimmed(limit.upper_ml_min)
                )
            }
            None => format!("All {count} return alike."),
        }
    }

    fn next_step(&self) -> Option<String> {
        if !self.settled && self.limit.is_none() {
            return Some(
                "An absolute limit or a known good injector in the set must decide.".to_owned(),
            );
        }
        // The most useful thing about "too close to call" is what would settle it.
        if let Some(reading) = self.readings.iter().find(|r| r.mark == Mark::Undecided) {
            return self.would_change(reading).into_iter().next();
        }
        let missing = self.test.rules.runs_to_replace.saturating_sub(self.test.runs.len() as u32);
        let high = self.marked(Mark::TooMuch);
        (missing > 0 && !high.is_empty()).then(|| {
            format!(
                "{} more {} before a replacement is decided (house rule).",
                if missing == 1 { "One".to_owned() } else { missing.to_string() },
                if missing == 1 { "run" } else { "runs" },
            )
        })
    }

    /// Why the library's limit is or is not used.
    pub(super) fn limit_note(&self) -> String {
        match (&self.test.limit, self.limit) {
            (_, Some(limit)) => {
                format!("Limit {} ml/min: {}.", trimmed(limit.upper_ml_min), source(limit))
            }
            (Some(limit), None) => {
                let window = match (limit.from_c, limit.to_c) {
                    (Some(from), Some(to)) => format!("{} to {} °C", trimmed(from), trimmed(to)),
                    (Some(from), None) => format!("{} °C and above", trimmed(from)),
                    (None, Some(to)) => format!("up to {} °C", trimmed(to)),
                    (None, None) => "any temperature".to_owned(),
                };
                let at = self.test.temperature_c.map_or_else(
                    || "the temperature of this test is not known".to_owned(),
                    |t| format!("this test was at {} °C", trimmed(t)),
                );
                format!(
                    "The limit of {} ml/min holds for {window}; {at}, so it is not applied.",
                    trimmed(limit.upper_ml_min)
                )
            }
            (None, None) => {
                "The library has no limit for this family: comparison decides.".to_owned()
            }
        }
    }

    /// What each house rule alone would have said.
    pub(super) fn schools(&self) -> Vec<School> {
        let rules = self.test.rules;
        let pick = |wanted: &dyn Fn(&LaneOutput) -> bool| {
            let mut hits: Vec<u32> =
                self.measured().filter(|(_, l)| wanted(l)).map(|(r, _)| r.cylinder).collect();
            hits.sort_unstable();
            hits
        };
        let believed = |l: &LaneOutput| l.grade != Grade::Question;
        let lowest = self
            .measured()
            .filter(|(_, l)| believed(l) && !l.at_least)
            .map(|(_, l)| l.rate_ml_min)
            .reduce(f64::min);
        vec![
            School {
                name: "Absolute limit".to_owned(),
                condemns: pick(&|l| l.limit_state == Some(LimitState::Above)),
                looks_at: pick(&|l| l.limit_state == Some(LimitState::Undecided)),
                silent: self.limit.is_none().then(|| self.limit_note()),
                leads: self.limit.is_some(),
            },
            School {
                name: format!(
                    "Against the others: look {:.0} %, suspect {:.0} %",
                    rules.look * 100.0,
                    rules.suspect * 100.0
                ),
                condemns: pick(&|l| l.grade == Grade::Suspect),
                looks_at: pick(&|l| l.grade == Grade::Look),
                silent: (!self.settled)
                    .then(|| "The others do not agree among themselves.".to_owned()),
                leads: self.limit.is_none(),
            },
            School {
                name: format!("More than {} × the lowest", trimmed(rules.lowest_multiple)),
                condemns: pick(&|l| {
                    lowest.is_some_and(|low| exceeds(l.rate_ml_min, rules.lowest_multiple * low))
                }),
                looks_at: Vec::new(),
                silent: lowest
                    .is_none()
                    .then(|| "No lane was read that can be the lowest.".to_owned()),
                leads: false,
            },
        ]
    }

    /// One injector with its words.
    pub(super) fn lane(&self, reading: &Reading<'_>) -> LaneVerdict {
        let lane = reading.lane;
        let number = lane.map(|l| shown(l.rate_ml_min, l.u_ml_min)).unwrap_or_default();
        LaneVerdict {
            cylinder: reading.cylinder,
            mark: reading.mark,
            word: word(reading).to_owned(),
            shown: number,
            rate_ml_min: lane.map(|l| l.rate_ml_min),
            u_ml_min: lane.map(|l| l.u_ml_min),
            at_least: lane.is_some_and(|l| l.at_least),
            vs_reference: lane.and_then(|l| l.vs_reference),
            loo: lane.and_then(|l| l.loo),
            grade: lane.map(|l| l.grade),
            limit_state: lane.and_then(|l| l.limit_state),
            runs: reading
                .runs
                .iter()
                .map(|(run, _, rate)| RunRate {
                    run: *run,
                    rate_ml_min: rate.rate,
                    at_least: rate.at_least,
                })
                .collect(),
            sentence: self.sentence(reading),
            because: self.because(reading),
            would_change: self.would_change(reading),
            proposal: self.proposal(reading),
        }
    }

    fn sentence(&self, reading: &Reading<'_>) -> String {
        let Some(lane) = reading.lane else { return "Not measured.".to_owned() };
        let number = shown(lane.rate_ml_min, lane.u_ml_min);
        let least = if lane.at_least { "at least " } else { "" };
        let share = lane.vs_reference.filter(|_| self.settled);
        let compared = share.map(|share| format!("{} against the others", signed_percent(share)));
        match (reading.mark, self.limit, compared) {
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

    fn because(&self, reading: &Reading<'_>) -> Vec<Because> {
        let Some(lane) = reading.lane else {
            return vec![Because::says("No level was read for this cylinder.")];
        };
        let mut steps: Vec<Because> = reading
            .runs
            .iter()
            .map(|(run, read, rate)| self.because_run(*run, read, rate.rate))
            .collect();
        let number = shown(lane.rate_ml_min, lane.u_ml_min);
        let u = two_digits(lane.u_ml_min);
        let runs = reading.runs.len();
        steps.push(if runs > 1 {
            Because::shows(
                format!(
                    "Mean of {runs} runs, with the scatter, the marks and the hand timing in u"
                ),
                format!("{number} ml/min, u = {u}"),
            )
        } else {
            Because::shows(
                format!(
                    "Marks every {} ml and timing by hand leave",
                    trimmed(self.test.graduation_ml)
                ),
                format!("{number} ml/min, u = {u}"),
            )
        });
        steps.push(self.because_compared(lane));
        steps.push(match self.limit {
            Some(limit) => because_limit(lane, limit, self.test.rules.confidence, reading),
            None => Because::says(self.limit_note()),
        });
        steps
    }

    fn because_run(&self, run: u32, read: &Lane, rate: f64) -> Because {
        let worked = |volume: f64, seconds: f64| {
            format!("60 × {} ÷ {} = {:.1} ml/min", trimmed(volume), trimmed(seconds), rate)
        };
        match (read.overflow_s, read.volume_ml, read.seconds) {
            (Some(full), _, _) => Because::shows(
                format!("Run {run}: bottle full after {} s, a lower bound", trimmed(full)),
                worked(self.test.capacity_ml, full),
            ),
            (None, Some(volume), Some(seconds)) => Because::shows(
                format!("Run {run}: {} ml in {} s", trimmed(volume), trimmed(seconds)),
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
                let mut who: Vec<u32> = others.iter().map(|(cylinder, _)| *cylinder).collect();
                who.sort_unstable();
                Because::shows(
                    format!("Others that agree ({}), mean {mean:.2} ml/min", join(&who)),
                    format!(
                        "{} ÷ {mean:.2} − 1 = {}",
                        shown(lane.rate_ml_min, lane.u_ml_min),
                        signed_percent(share)
                    ),
                )
            }
            (Some(_) | None, _) => Because::says(if self.upper_camp_from.is_some() {
                "The set falls into two camps of similar size. The mean of the others would blame one half at random."
            } else {
                "Too few of the others agree with each other to compare with."
            }),
        }
    }

    fn would_change(&self, reading: &Reading<'_>) -> Vec<String> {
        let Some(lane) = reading.lane else {
            return vec!["Read its level, or the time at which its bottle was full.".to_owned()];
        };
        match reading.mark {
            Mark::Questioned => vec![
                "Push the hose home, look for a kink, make sure that it fires; then one more run.".to_owned(),
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
                "A run of {} or less keeps this bottle below its brim; a larger bottle does too.",
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
            hints.push(format!(
                "{runs} runs in all would settle it, if the mean stays where it is."
            ));
        }
        let guard = decide(&input).map_or(0.0, |out| out.guard);
        let seconds = reading.runs.iter().filter_map(|(_, lane, _)| lane.seconds).reduce(f64::max);
        if let Some(seconds) = seconds.filter(|_| distance > 0.0 && u.u_repeat == 0.0) {
            let needed = seconds * guard / distance;
            let volume = lane.rate_ml_min * needed / 60.0;
            hints.push(if volume <= FULL_SHARE * self.test.capacity_ml {
                format!(
                    "A run of {} with these bottles would settle it, if the rate stays where it is.",
                    clock((needed / 5.0).ceil() * 5.0)
                )
            } else {
                format!(
                    "No run with these bottles can settle it: it would take {:.0} ml. A finer or a larger bottle can.",
                    volume
                )
            });
        }
        if hints.is_empty() {
            hints.push(
                "Repeats alone will not settle it; a finer or a larger bottle can.".to_owned(),
            );
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
                    "The reading is good to about ±{:.0} %, and the line for \"{name}\" is at {:.0} %: more runs or a longer run would say which side it is on.",
                    (200.0 * relative_u).max(1.0),
                    line * 100.0
                )
            })
            .collect()
    }

    fn proposal(&self, reading: &Reading<'_>) -> Proposal {
        let propose = |decision, reason: &str| Proposal { decision, reason: reason.to_owned() };
        let runs = reading.runs.len() as u32;
        match reading.mark {
            Mark::Inside => propose(Decision::Leave, "Nothing measured speaks against it."),
            Mark::TooMuch if runs < self.test.rules.runs_to_replace => Proposal {
                decision: Decision::MeasureAgain,
                reason: format!(
                    "{runs} of {} runs: enough to suspect, not yet to replace (house rule).",
                    self.test.rules.runs_to_replace
                ),
            },
            Mark::TooMuch => propose(
                Decision::Replace,
                "Returns too much in every run that counts: recondition or replace.",
            ),
            Mark::Look => {
                propose(Decision::MeasureAgain, "Above the others, but not enough to condemn.")
            }
            Mark::TooLittle => {
                propose(Decision::MeasureAgain, "Passes too little; find out why first.")
            }
            Mark::Undecided => {
                propose(Decision::MeasureAgain, "This measurement cannot carry a decision.")
            }
            Mark::Questioned => propose(
                Decision::MeasureAgain,
                "The reading itself is in question: check hose and firing, then repeat.",
            ),
            Mark::NotMeasured => propose(Decision::MeasureAgain, "Nothing was measured here."),
        }
    }
}

fn because_limit(
    lane: &LaneOutput,
    limit: &Limit,
    confidence: f64,
    reading: &Reading<'_>,
) -> Because {
    let number = shown(lane.rate_ml_min, lane.u_ml_min);
    let upper = trimmed(limit.upper_ml_min);
    let guard = decide(&DecideInput {
        value: lane.rate_ml_min,
        u: lane.u_ml_min,
        upper: Some(limit.upper_ml_min),
        confidence: Some(confidence),
        dof: reading.u.as_ref().and_then(|u| u.dof).filter(|_| !lane.at_least),
        ..DecideInput::default()
    });
    let says = format!("Limit {upper} ml/min ({})", source(limit));
    let Ok(out) = guard else { return Because::says(says) };
    let g = two_digits(out.guard);
    let inside = (out.p_conform * 100.0).clamp(0.1, 99.9);
    let arithmetic = match lane.limit_state {
        Some(LimitState::Above) => format!("{number} > {upper} + {g}: above"),
        Some(LimitState::Within | LimitState::Below) => format!("{number} ≤ {upper} − {g}: inside"),
        Some(LimitState::Undecided) if lane.grade == Grade::Question => {
            "the reading is in question, so the limit says nothing".to_owned()
        }
        Some(LimitState::Undecided) if lane.at_least => {
            format!("at least {number}; {upper} + {g} is not passed for certain")
        }
        Some(LimitState::Undecided) | None => {
            format!(
                "{upper} − {g} < {number} < {upper} + {g}: {inside:.0} in 100 that it is inside"
            )
        }
    };
    Because::shows(format!("{says}, guard ±{g} at {:.0} %", confidence * 100.0), arithmetic)
}

fn source(limit: &Limit) -> String {
    format!("{}, revision {}", limit.source, limit.revision)
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

fn cylinders(numbers: &[u32]) -> String {
    let noun = if numbers.len() == 1 { "Cylinder" } else { "Cylinders" };
    format!("{noun} {}", join(numbers))
}

/// Minutes and seconds: `1:56`.
fn clock(seconds: f64) -> String {
    let whole = seconds.round().max(0.0) as u64;
    format!("{}:{:02}", whole / 60, whole % 60)
}

/// An uncertainty in two significant digits.
fn two_digits(u: f64) -> String {
    if u <= 0.0 {
        return "0".to_owned();
    }
    let decimals = (1.0 - u.log10().floor()).clamp(0.0, 6.0) as usize;
    format!("{u:.decimals$}")
}
