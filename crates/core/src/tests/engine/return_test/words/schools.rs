//! What each house rule alone would have said, and whether the limit holds.

use super::{Set, source};
use crate::calc::decide::LimitState;
use crate::calc::exceeds;
use crate::calc::return_flow::{Grade, LaneOutput};
use crate::quantity::trimmed;
use crate::tests::School;
use crate::units::{self, C, FLOW, ML_MIN};

impl Set<'_> {
    /// What each house rule alone would have said.
    pub(in crate::tests::engine::return_test) fn schools(&self) -> Vec<School> {
        let rules = &self.test.rules;
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
                silent: self.holds.is_none().then(|| self.limit_note()),
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
                silent: (!self.settled).then(|| "The others do not agree.".to_owned()),
                leads: self.limit.is_none(),
            },
            School {
                name: format!("More than {} × the lowest", trimmed(rules.lowest_multiple)),
                condemns: pick(&|l| {
                    lowest.is_some_and(|low| exceeds(l.rate_ml_min, rules.lowest_multiple * low))
                }),
                looks_at: Vec::new(),
                silent: lowest.is_none().then(|| "No reading can serve as the lowest.".to_owned()),
                leads: false,
            },
        ]
    }

    /// Why the library's limit is or is not used.
    pub(in crate::tests::engine::return_test) fn limit_note(&self) -> String {
        match (&self.test.limit, self.holds) {
            (_, Some(limit)) if self.limit.is_none() => format!(
                "This workshop compares with the others ({}); the limit of {} {FLOW} ({}) is shown for reference.",
                self.test.rules.named(),
                units::number(limit.upper_ml_min, ML_MIN),
                source(limit)
            ),
            (_, Some(limit)) => {
                format!(
                    "Limit {} {FLOW}: {}.",
                    units::number(limit.upper_ml_min, ML_MIN),
                    source(limit)
                )
            }
            (Some(limit), None) => {
                let window = match (limit.from_c, limit.to_c) {
                    (Some(from), Some(to)) => {
                        format!("{} to {}", units::number(from, C), units::said(to, C))
                    }
                    (Some(from), None) => format!("{} and above", units::said(from, C)),
                    (None, Some(to)) => format!("up to {}", units::said(to, C)),
                    (None, None) => "any temperature".to_owned(),
                };
                let at = self.test.temperature_c.map_or_else(
                    || "temperature of this test not known".to_owned(),
                    |t| format!("this test was at {}", units::said(t.0, C)),
                );
                format!(
                    "The limit of {} {FLOW} applies at {window}; {at}, so it is not used.",
                    units::number(limit.upper_ml_min, ML_MIN)
                )
            }
            (None, None) => {
                "The library has no limit for this family: comparison decides.".to_owned()
            }
        }
    }
}
