//! The decision of one place: ordered rules on causes, response to cleaning and doubt. The first
//! rule that fits decides; each says why in a sentence, and what would change it.
//!
//! # Source
//! House rule: what all share before one of them, the place before the injector, proof before
//! money, and no decision on a number that cannot carry one.

use super::cause::Cause;
use super::finding::{Code, Finding};
use super::rank::{Belief, Ranked};
use super::weights::Weights;
use crate::engine::FuelSystem;
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;

/// What is decided about one injector, by which rule, and why.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ruling {
    /// What to do.
    pub decision: Decision,
    /// The rule that decided, as named in the docs.
    pub rule: String,
    /// Why, in a sentence.
    pub sentence: String,
    /// What would change this.
    pub would_change: String,
    /// The check that the decision waits for, by its name in the weights.
    pub asks: Option<String>,
}

/// Everything that the rules look at.
pub(super) struct Case<'a> {
    pub weights: &'a Weights,
    pub fuel: FuelSystem,
    pub belief: &'a Belief,
    pub ranked: &'a [Ranked],
    /// Findings of this injector and its cylinder, oldest first.
    pub own: Vec<&'a Finding>,
    /// Anything was found that all share.
    pub shared: bool,
    /// Title of the most telling check that is left.
    pub next: Option<&'a str>,
}

/// Checks that compare what an injector passes or returns: the base of leaving it alone.
const COMPARES: &[&str] = &[
    "return_test",
    "pressure_drop",
    "cutout",
    "cutout_beside",
    "di_balance",
    "bench_flow",
    "bench_cleaning",
    "bench_map",
    "bench_doser",
];

type Rule = fn(&Case<'_>) -> Option<Ruling>;

/// In the order in which they are asked.
const RULES: &[(&str, Rule)] = &[
    ("what all share", all_share),
    ("its leg", leg),
    ("mechanical", mechanical),
    ("coil", coil),
    ("driver", driver),
    ("the place", place),
    ("doubt", doubt),
    ("proof before money", proof),
    ("worn", worn),
    ("dirt", dirt),
    ("leak", leak),
    ("slow", slow),
    ("code", code),
    ("the injector", injector),
    ("nothing against it", nothing_against),
];

/// Decides.
pub(super) fn rule(case: &Case<'_>) -> Ruling {
    let found = RULES.iter().find_map(|(name, rule)| {
        rule(case).map(|ruling| Ruling { rule: (*name).to_owned(), ..ruling })
    });
    found.unwrap_or_else(|| not_enough(case))
}

impl Case<'_> {
    fn act(&self, cause: Cause) -> bool {
        self.belief.of(cause) >= self.weights.act()
    }

    fn has(&self, codes: &[Code]) -> Option<&Finding> {
        self.own.iter().copied().rfind(|f| f.code.is_some_and(|code| codes.contains(&code)))
    }

    /// What speaks loudest for a cause.
    fn says(&self, cause: Cause) -> String {
        let ranked = self.ranked.iter().find(|one| one.cause == Some(cause));
        let loudest = ranked.and_then(|one| {
            one.evidence.iter().find(|e| e.counts && e.code.is_some() && e.factor > 1.0)
        });
        loudest.map_or_else(String::new, |e| format!(" {}", e.says))
    }

    /// The finding that speaks loudest for a cause.
    fn loudest(&self, cause: Cause) -> Option<&Finding> {
        let speaks = |f: &&&Finding| f.code.is_some_and(|c| self.weights.factor(c, cause) > 1.0);
        let weight = |f: &Finding| f.code.map_or(1.0, |code| self.weights.factor(code, cause));
        let mut own = self.own.iter().filter(speaks).copied().collect::<Vec<_>>();
        own.sort_by(|a, b| weight(a).total_cmp(&weight(b)));
        own.last().copied()
    }

    fn ruling(&self, decision: Decision, sentence: String, would: &str) -> Option<Ruling> {
        let would_change = match (would, self.next) {
            ("", Some(next)) => format!("{next} would tell most."),
            (would, _) => would.to_owned(),
        };
        Some(Ruling { decision, rule: String::new(), sentence, would_change, asks: None })
    }
}

const INJECTOR: [Cause; 7] = [
    Cause::Restricted,
    Cause::Worn,
    Cause::TipLeak,
    Cause::Slow,
    Cause::ExcessReturn,
    Cause::CoilOpen,
    Cause::CoilOff,
];
const PLACE: [Cause; 4] =
    [Cause::HarnessLeg, Cause::Driver, Cause::LineRestriction, Cause::Mechanical];

fn all_share(case: &Case<'_>) -> Option<Ruling> {
    let cause = [Cause::AirOrFuel, Cause::CommonSupply].into_iter().find(|one| case.act(*one))?;
    let says = format!(
        "Not one injector, but what all of them share: {}.{} Put that right, then measure again; no injector is judged before.",
        case.weights.word(cause),
        case.says(cause)
    );
    case.ruling(Decision::LookElsewhere, says, "The same checks after it was put right.")
}

fn leg(case: &Case<'_>) -> Option<Ruling> {
    let likelier = case.belief.of(Cause::HarnessLeg) >= case.belief.of(Cause::Driver);
    (case.act(Cause::HarnessLeg) && likelier).then_some(())?;
    let lit = case.has(&[Code::Lit]).map_or("", |_| " That a lamp lights there is no proof.");
    let says = format!("The wire, not the injector.{}{lit}", case.says(Cause::HarnessLeg));
    case.ruling(Decision::RepairHarness, says, "Supply under load after the repair.")
}

fn mechanical(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::Mechanical).then_some(())?;
    let says = format!(
        "A mechanical cylinder.{} Its injector is not blamed for what compression lacks.",
        case.says(Cause::Mechanical)
    );
    case.ruling(Decision::LookElsewhere, says, "Compression by gauge after the repair.")
}

fn coil(case: &Case<'_>) -> Option<Ruling> {
    let cause = [Cause::CoilOpen, Cause::CoilOff].into_iter().find(|one| case.act(*one))?;
    let says =
        format!("Electrically dead inside: {}.{}", case.weights.word(cause), case.says(cause));
    case.ruling(
        Decision::Replace,
        says,
        "The reading again with leads zeroed, at a known temperature.",
    )
}

fn driver(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::Driver).then_some(())?;
    let good = case.has(&[Code::CoilGood, Code::StackGood]).map_or("", |_| " Its coil is good.");
    let says = format!(
        "It is not commanded: driver or control wire.{}{good} The injector is not condemned for it.",
        case.says(Cause::Driver)
    );
    case.ruling(
        Decision::LookElsewhere,
        says,
        "A good injector plugged in there: silent as well, it is the driver.",
    )
}

fn place(case: &Case<'_>) -> Option<Ruling> {
    let sure = case.belief.any(PLACE) >= case.weights.act();
    let blamed = INJECTOR.iter().any(|cause| case.act(*cause));
    (sure && !blamed).then_some(())?;
    let mut causes = PLACE;
    causes.sort_by(|a, b| case.belief.of(*b).total_cmp(&case.belief.of(*a)));
    let says = format!(
        "The place, not the injector: {} or {}.{}",
        case.weights.word(causes[0]),
        case.weights.word(causes[1]),
        case.says(causes[0])
    );
    case.ruling(Decision::LookElsewhere, says, "")
}

/// The newest comparison cannot carry a decision, and nothing else is proven.
fn doubt(case: &Case<'_>) -> Option<Ruling> {
    let compares = |f: &&&Finding| COMPARES.contains(&f.check.as_str());
    let newest = case.own.iter().filter(compares).max_by_key(|f| f.at)?;
    let proven = INJECTOR.iter().any(|cause| case.act(*cause));
    (newest.code.is_none() && !proven).then_some(())?;
    let says = format!("{} {}", newest.says, newest.would);
    let ruling = case.ruling(Decision::MeasureAgain, says.trim_end().to_owned(), &newest.would)?;
    Some(Ruling { asks: Some(newest.check.clone()), ..ruling })
}

/// What would condemn is itself not finished: more runs are asked for before money is spent.
fn proof(case: &Case<'_>) -> Option<Ruling> {
    let cause = [Cause::Worn, Cause::ExcessReturn].into_iter().find(|one| case.act(*one))?;
    let loudest = case.loudest(cause)?;
    let others = case.own.iter().filter(|f| {
        f.check != loudest.check && f.code.is_some_and(|c| case.weights.factor(c, cause) > 3.0)
    });
    (!loudest.would.is_empty() && loudest.check == "return_test" && others.count() == 0)
        .then_some(())?;
    let says = format!("{} {}", loudest.says, loudest.would);
    let ruling = case.ruling(Decision::MeasureAgain, says, "The runs that are missing.")?;
    Some(Ruling { asks: Some(loudest.check.clone()), ..ruling })
}

fn worn(case: &Case<'_>) -> Option<Ruling> {
    let causes = [Cause::ExcessReturn, Cause::Worn];
    let cause = causes
        .into_iter()
        .filter(|one| case.act(*one))
        .max_by(|a, b| case.belief.of(*a).total_cmp(&case.belief.of(*b)))?;
    let cleaned = case.has(&[Code::WornAfterCleaning]);
    let mapped = case.has(&[Code::MapReturnHigh, Code::MapHigh]).is_some();
    let found = cleaned.map_or_else(|| case.says(cause), |last| format!(" {}", last.says));
    let (decision, then) = match (cleaned, mapped) {
        (Some(_), _) => (Decision::Replace, " Not another cycle."),
        (None, true) => {
            (Decision::Adjust, " Reconditioned on its map: valve, seat, lift; else replaced.")
        }
        (None, false) => (Decision::Replace, ""),
    };
    let says = format!("It is {}.{found}{then}", case.weights.word(cause));
    case.ruling(decision, says, "")
}

fn dirt(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::Restricted).then_some(())?;
    if let Some(last) = case.has(&[Code::NoMoreCycles]) {
        let says = format!("Restricted, and cleaning no longer moves it. {}", last.says);
        return case.ruling(
            Decision::Replace,
            says,
            "Reconditioning instead, where it is offered.",
        );
    }
    let says = format!("Restricted: cleaning can help.{}", case.says(Cause::Restricted));
    case.ruling(Decision::Clean, says, "The same test after cleaning: dirt moves, wear does not.")
}

fn cleaned(case: &Case<'_>) -> bool {
    case.own.iter().any(|f| f.check == "bench_cleaning")
}

fn leak(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::TipLeak).then_some(())?;
    let (decision, first) = if cleaned(case) {
        (Decision::Replace, "It leaks at the tip after cleaning as well.")
    } else {
        (Decision::Clean, "It leaks at the tip: dirt on the seat can be cleaned away, wear cannot.")
    };
    let says = format!("{first}{}", case.says(Cause::TipLeak));
    case.ruling(decision, says, "The leak check after cleaning.")
}

fn slow(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::Slow).then_some(())?;
    let (decision, first) = match (case.fuel, cleaned(case)) {
        (FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo, _) => {
            (Decision::Adjust, "It opens late: armature, spring or air gap.")
        }
        (_, true) => {
            (Decision::Replace, "It opens late after cleaning as well: spring or armature.")
        }
        (_, false) => (Decision::Clean, "It opens late: varnish can be cleaned away."),
    };
    let says = format!("{first}{}", case.says(Cause::Slow));
    case.ruling(decision, says, "The pulse sweep after the work.")
}

fn code(case: &Case<'_>) -> Option<Ruling> {
    case.act(Cause::WrongCode).then_some(())?;
    let says = format!(
        "Its code is not its own.{} Write it to its cylinder, then read back and compare.",
        case.says(Cause::WrongCode)
    );
    case.ruling(Decision::Recode, says, "The stored code read, and it is the one on the body.")
}

/// Surely the injector, not yet clear in which way: the bench tells before money is spent.
fn injector(case: &Case<'_>) -> Option<Ruling> {
    (case.belief.any(INJECTOR) >= case.weights.act()).then_some(())?;
    let mut causes = INJECTOR.map(|cause| (case.belief.of(cause), cause));
    causes.sort_by(|a, b| b.0.total_cmp(&a.0));
    let (first, second) = (causes[0].1, causes[1].1);
    let says = format!(
        "It is the injector, and not yet clear how: {} or {}.{}",
        case.weights.word(first),
        case.weights.word(second),
        case.says(first)
    );
    case.ruling(Decision::MeasureAgain, says, "")
}

fn nothing_against(case: &Case<'_>) -> Option<Ruling> {
    let (_, worst) = case.belief.first();
    let compared = case.own.iter().rfind(|f| {
        COMPARES.contains(&f.check.as_str())
            && f.code.is_some_and(|code| {
                INJECTOR.iter().any(|cause| case.weights.factor(code, *cause) < 0.5)
            })
    })?;
    (worst <= case.weights.leave()).then_some(())?;
    let says = format!("Nothing measured speaks against it. {}", compared.says);
    case.ruling(Decision::Leave, says, "")
}

fn not_enough(case: &Case<'_>) -> Ruling {
    let (first, p) = case.belief.first();
    let sentence = if case.own.iter().all(|f| f.code.is_none()) && !case.shared {
        "Nothing that could carry a decision was measured here yet.".to_owned()
    } else {
        format!(
            "Not enough evidence: {} is a question ({:.0} %; {:.0} % are acted upon).{}",
            case.weights.word(first),
            100.0 * p,
            100.0 * case.weights.act(),
            case.says(first)
        )
    };
    let would_change = case.next.map_or_else(
        || "A check that speaks of this injector alone.".to_owned(),
        |next| format!("{next} would tell most."),
    );
    Ruling {
        decision: Decision::MeasureAgain,
        rule: "not enough".to_owned(),
        sentence,
        would_change,
        asks: None,
    }
}
