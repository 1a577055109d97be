//! The finding of the set in one sentence, and what else to know or to do next.

use super::{Set, cylinders};
use crate::calc::return_flow::Grade;
use crate::mark::Mark;
use crate::said::Code;
use crate::units::{self, FLOW, ML_MIN};
use crate::words::{by_number, list};

impl Set<'_> {
    /// The finding, and what else to know or do next.
    pub(in crate::tests::engine::return_test) fn sentences(&self) -> (String, Vec<String>) {
        if self.measured().count() < 2 && self.test.cylinders.len() > 1
            || self.measured().count() == 0
        {
            return (
                "Nothing to compare yet.".to_owned(),
                vec!["Read at least two bottles.".to_owned()],
            );
        }
        let findings: Vec<String> = [
            self.says_all_over(),
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
        (headline, rest)
    }

    fn says_too_much(&self) -> Option<String> {
        let high = self.marked(Mark::TooMuch);
        let who = cylinders(&high);
        let first = self.measured().find(|(r, _)| high.first() == Some(&r.cylinder))?.1;
        let share = first.vs_reference.filter(|share| self.settled && *share > 0.0);
        Some(match (share, self.limit) {
            (Some(share), _) if high.len() == 1 => {
                let least = if first.at_least { "at least " } else { "" };
                let (times, percent) = (1.0 + share, share * 100.0);
                // Past some fivefold a percentage is no longer felt.
                if share >= 5.0 {
                    format!("{who}: leak-off {least}{times:.0} times the others (+{percent:.0} %).")
                } else {
                    format!("{who}: leak-off {least}{percent:.0} % above the others.")
                }
            }
            (_, Some(limit)) => {
                format!(
                    "{who}: leak-off above the limit of {} {FLOW}.",
                    units::number(limit.upper_ml_min, ML_MIN)
                )
            }
            (_, None) => format!("{who}: leak-off far above the others."),
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
            list(&camp)
        };
        Some(format!(
            "Two groups, {} against {}: comparison cannot say which is right.",
            camp(false),
            camp(true)
        ))
    }

    /// All over the limit alike.
    fn says_all_over(&self) -> Option<String> {
        let all = self.coded(Code::ALL_ALIKE_OFF).len();
        let limit = self.limit.filter(|_| all > 0)?;
        Some(format!(
            "All {all} over the limit of {} {FLOW} alike: check temperature, family, fluid and bottles first.",
            units::number(limit.upper_ml_min, ML_MIN)
        ))
    }

    fn coded(&self, code: Code) -> Vec<u32> {
        let hits = self.readings.iter().filter(|r| r.code == code);
        let mut cylinders: Vec<u32> = hits.map(|r| r.cylinder).collect();
        cylinders.sort_unstable();
        cylinders
    }

    fn says_questioned(&self) -> Option<String> {
        let odd = self.coded(Code::RUN_ODD);
        if !odd.is_empty() {
            return Some(format!("{}: one run does not fit the others.", cylinders(&odd)));
        }
        let far: Vec<u32> = self
            .readings
            .iter()
            .filter(|r| r.code == Code::DOUBTFUL)
            .filter(|r| r.lane.is_some_and(|lane| lane.grade != Grade::Question))
            .map(|r| r.cylinder)
            .collect();
        if !far.is_empty() {
            return Some(format!(
                "{}: far below the others. Hose, firing, or the others are all high.",
                cylinders(&far)
            ));
        }
        let who: Vec<u32> = self
            .marked(Mark::Questioned)
            .into_iter()
            .filter(|c| !self.coded(Code::ALL_ALIKE_OFF).contains(c))
            .collect();
        (!who.is_empty())
            .then(|| format!("{}: almost no leak-off. Confirm it first.", cylinders(&who)))
    }

    fn says_undecided(&self) -> Option<String> {
        let who = self.marked(Mark::Undecided);
        if who.is_empty() || (self.upper_camp_from.is_some() && self.limit.is_none()) {
            return None;
        }
        let they = by_number(who.len(), "it", "them");
        Some(if self.limit.is_some() {
            format!("{}: inconclusive, too close to the limit.", cylinders(&who))
        } else if !self.coded(Code::TOO_CLOSE).is_empty() {
            format!("{}: the runs scatter too much to tell.", cylinders(&who))
        } else if self.settled && !self.any_far() && !self.coded(Code::NO_REFERENCE).is_empty() {
            format!("All {} alike and above the usual: the level is not known.", who.len())
        } else if self.settled && !self.coded(Code::NO_REFERENCE).is_empty() {
            format!("{}: all high, or the lower one is doubtful.", cylinders(&who))
        } else if self.settled {
            format!("{}: overflowed, and the lower bound cannot place {they}.", cylinders(&who))
        } else {
            "The injectors disagree: comparison cannot decide.".to_owned()
        })
    }

    fn says_look(&self) -> Option<String> {
        let who = self.marked(Mark::Look);
        let (r, lane) = self.measured().find(|(r, _)| who.first() == Some(&r.cylinder))?;
        let inside = if lane.limit_state.is_some() { "within the limit, but " } else { "" };
        Some(match (who.len(), lane.vs_reference) {
            (1, Some(share)) => format!(
                "Cylinder {}: {inside}{:.0} % above the others. Look closer.",
                r.cylinder,
                share * 100.0
            ),
            (_, _) => format!("{}: above the others. Look closer.", cylinders(&who)),
        })
    }

    fn says_inside(&self) -> String {
        let count = self.measured().count();
        match self.limit {
            Some(limit) => {
                format!(
                    "All {count} below the limit of {} {FLOW}.",
                    units::number(limit.upper_ml_min, ML_MIN)
                )
            }
            None => format!("All {count} in line."),
        }
    }

    fn next_step(&self) -> Option<String> {
        if !self.settled && self.limit.is_none() {
            return Some(
                "Needs an absolute limit, or a known good injector in the set.".to_owned(),
            );
        }
        // The most useful thing about "inconclusive" is what would settle it.
        if let Some(reading) = self.readings.iter().find(|r| r.mark == Mark::Undecided) {
            return self.would_change(reading).into_iter().next();
        }
        let missing = self.test.rules.runs_to_replace.saturating_sub(self.test.runs.len() as u32);
        let high = self.marked(Mark::TooMuch);
        (missing > 0 && !high.is_empty()).then(|| {
            format!(
                "{} more {} needed before replacing ({}).",
                if missing == 1 { "One".to_owned() } else { missing.to_string() },
                by_number(missing as usize, "run", "runs"),
                self.test.rules.named(),
            )
        })
    }
}
