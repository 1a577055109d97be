//! One, several or all: what each choice costs with the workshop's own prices and comeback odds.
//!
//! `total = parts + labour + expected comebacks`; a comeback costs the first hours again, an
//! injector, and what the house reckons for the customer. The odds of what is left in are the one
//! number nobody knows well, so the break-even is shown: the odds at which the whole set pays.
//!
//! # Source
//! Expected value; house rules for every price and every chance.

use super::story::Age;
use crate::judgement::words;
use crate::passport::Counted;
use crate::quantity::trimmed;
use crate::rules::{RuleId, Rules};
use crate::words::{by_number, list};
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;

/// One way to deal with the set.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CostOption {
    /// As read.
    pub name: String,
    /// Injectors, cleaning, reconditioning.
    pub parts: f64,
    /// Labour to take out and fit.
    pub labour: f64,
    /// Comebacks to expect.
    pub comebacks: f64,
    /// What they cost.
    pub comeback_cost: f64,
    /// All together.
    pub total: f64,
    /// The same if nothing old that is left in came back: where its line begins.
    pub at_zero: f64,
    /// What the odds of 1 add to that: the slope of its line.
    pub for_odds: f64,
    /// The arithmetic.
    pub arithmetic: String,
}

/// The set decision.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Cost {
    /// Cheapest last: as decided, then all renewed.
    pub options: Vec<CostOption>,
    /// Chance that one that is left in comes back, as reckoned.
    pub odds: f64,
    /// Why so.
    pub odds_reason: String,
    /// At these odds both cost the same; none when one is cheaper whatever the odds.
    pub break_even: Option<f64>,
    /// In a sentence.
    pub says: String,
}

/// What one option needs.
struct Work {
    renewed: usize,
    cleaned: usize,
    reconditioned: usize,
    kept: usize,
}

struct Prices<'a>(&'a Rules);

impl Prices<'_> {
    fn get(&self, rule: RuleId) -> f64 {
        self.0.get(rule)
    }

    fn comeback(&self) -> f64 {
        self.get(RuleId::HoursFirst) * self.get(RuleId::CostHour)
            + self.get(RuleId::CostNew)
            + self.get(RuleId::CostComeback)
    }

    fn fixed(&self, work: &Work) -> (f64, f64) {
        let parts = work.renewed as f64 * self.get(RuleId::CostNew)
            + work.cleaned as f64 * self.get(RuleId::CostClean)
            + work.reconditioned as f64 * self.get(RuleId::CostRecondition);
        let out = work.renewed + work.cleaned + work.reconditioned;
        let more = out.saturating_sub(1) as f64 * self.get(RuleId::HoursMore);
        let hours = if out == 0 { 0.0 } else { self.get(RuleId::HoursFirst) + more };
        (parts, hours * self.get(RuleId::CostHour))
    }

    fn option(&self, name: String, work: &Work, kept_odds: f64) -> CostOption {
        let (parts, labour) = self.fixed(work);
        let new = self.0.share(RuleId::ComebackNew);
        let old = work.kept + work.cleaned;
        let fresh = work.renewed + work.reconditioned;
        let comebacks = fresh as f64 * new + old as f64 * kept_odds;
        let comeback_cost = comebacks * self.comeback();
        CostOption {
            arithmetic: format!(
                "{} parts + {} labour + ({fresh} × {} % + {old} × {} %) × {} = {}",
                trimmed(parts.round()),
                trimmed(labour.round()),
                trimmed((1000.0 * new).round() / 10.0),
                trimmed((1000.0 * kept_odds).round() / 10.0),
                trimmed(self.comeback().round()),
                trimmed((parts + labour + comeback_cost).round())
            ),
            name,
            parts,
            labour,
            comebacks,
            comeback_cost,
            total: parts + labour + comeback_cost,
            at_zero: parts + labour + fresh as f64 * new * self.comeback(),
            for_odds: old as f64 * self.comeback(),
        }
    }
}

/// The chance that an injector that is left in comes back: as counted here where enough of the family
/// were, else by its age.
fn kept_odds(rules: &Rules, age: Option<Age>, counted: Counted) -> (f64, String) {
    if let Some(odds) = counted.odds() {
        let Counted { left_in, comebacks } = counted;
        let noun = by_number(comebacks as usize, "comeback", "comebacks");
        let says = words::counted_here_family_left(comebacks, noun, left_in);
        return (odds, says);
    }
    let of = |rule: RuleId, why: &str| (rules.share(rule), format!("{why} (workshop rule)"));
    match age {
        Some(Age::Old) => of(RuleId::ComebackOld, words::OLD_KIND),
        Some(Age::Young) => of(RuleId::ComebackYoung, words::YOUNG_KIND),
        Some(Age::Middle) => of(RuleId::ComebackMiddle, "Medium age"),
        None => of(RuleId::ComebackMiddle, words::AGE_NOT_GIVEN_TREATED),
    }
}

/// What the choices cost; none when nothing is to be renewed or worked on.
pub(super) fn cost(
    rules: &Rules,
    age: Option<Age>,
    counted: Counted,
    decided: &[(u32, Decision)],
) -> Option<Cost> {
    let of = |decision: Decision| -> Vec<u32> {
        decided.iter().filter(|(_, d)| *d == decision).map(|(c, _)| *c).collect()
    };
    let (renewed, cleaned, adjusted) =
        (of(Decision::Replace), of(Decision::Clean), of(Decision::Adjust));
    let touched = renewed.len() + cleaned.len() + adjusted.len();
    if touched == 0 || decided.len() < 2 {
        return None;
    }
    let prices = Prices(rules);
    let (odds, odds_reason) = kept_odds(rules, age, counted);
    let kept = decided.len() - touched;
    let one = Work {
        renewed: renewed.len(),
        cleaned: cleaned.len(),
        reconditioned: adjusted.len(),
        kept,
    };
    let all = Work { renewed: decided.len(), cleaned: 0, reconditioned: 0, kept: 0 };
    let named = [("new", &renewed), ("cleaned", &cleaned), ("reconditioned", &adjusted)];
    let named: Vec<String> = named
        .into_iter()
        .filter(|(_, cylinders)| !cylinders.is_empty())
        .map(|(word, cylinders)| format!("{} {word}", list(cylinders)))
        .collect();
    let single = prices.option(format!("As decided: {}", named.join(", ")), &one, odds);
    let set = prices.option(format!("All {} new", decided.len()), &all, odds);
    // Both totals are straight lines over the odds of what is left in; that of the set is level.
    let break_even = Some((set.at_zero - single.at_zero) / single.for_odds)
        .filter(|share| share.is_finite() && *share > 0.0 && *share < 1.0);
    let cheaper = if single.total <= set.total { "As decided" } else { "The full set" };
    let apart = (single.total - set.total).abs();
    let says = match break_even {
        Some(at) => {
            words::cheaper_each_full_set(cheaper, trimmed(apart.round()), 100.0 * odds, 100.0 * at)
        }
        None if single.for_odds == 0.0 => words::NO_OLD_INJECTOR_LEFT.to_owned(),
        None => words::cheaper_whatever_odds(cheaper, trimmed(apart.round())),
    };
    Some(Cost { options: vec![single, set], odds, odds_reason, break_even, says })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::judgement::Weights;
    use crate::judgement::story::age_of;
    use crate::rules::RuleChange;

    fn costs(usage: &str, odds: Option<f64>, decided: &[Decision]) -> Option<Cost> {
        let change = |value| RuleChange {
            rule: RuleId::ComebackOld,
            value,
            reason: "counted".to_owned(),
            revision: 1,
        };
        let rules = Rules::after(odds.map(change));
        let decided: Vec<(u32, Decision)> = (1..).zip(decided.iter().copied()).collect();
        let weights = Weights::read("").unwrap();
        cost(&rules, age_of(&weights, usage, None), Counted::default(), &decided)
    }

    #[test]
    fn one_is_weighed_against_the_set_and_at_the_break_even_both_cost_the_same() {
        use Decision::{Clean, Leave, Replace};
        let old = costs("240,000 km", None, &[Leave, Replace, Leave, Leave]).unwrap();
        // 260 + 2 h × 80 + (1 × 1 % + 3 × 12 %) × (2 × 80 + 260 + 180).
        assert!((old.options[0].total - 642.0).abs() < 1e-9, "{:?}", old.options[0]);
        // 4 × 260 + (2 + 3 × 0.4) h × 80 + 4 × 1 % × 600.
        assert!((old.options[1].total - 1320.0).abs() < 1e-9, "{:?}", old.options[1]);
        let even = old.break_even.unwrap();
        let there =
            costs("240,000 km", Some(100.0 * even), &[Leave, Replace, Leave, Leave]).unwrap();
        assert!((there.options[0].total - there.options[1].total).abs() < 1e-6);
        assert!(old.odds > costs("20,000 km", None, &[Leave, Replace]).unwrap().odds);
        assert_eq!(costs("", None, &[Leave, Leave]), None, "nothing is to be paid for");
        let whole = costs("", None, &[Replace, Replace]).unwrap();
        assert_eq!(whole.break_even, None);
        assert!(whole.says.starts_with("No old injector is left in"), "{}", whole.says);
        // Counted here, the age says nothing any more.
        let decided = [(1, Leave), (2, Replace)];
        let counted = Counted { left_in: 98, comebacks: 4 };
        let held = cost(&Rules::default(), Some(Age::Old), counted, &decided).unwrap();
        assert!((held.odds - 0.05).abs() < 1e-12 && held.odds_reason.contains("4 comebacks"));
        let cleaned = costs("", None, &[Clean, Leave]).unwrap();
        assert!(cleaned.options[0].total < cleaned.options[1].total);
    }
}
