//! The decision of one place: ordered rules on actions, evidence of its own, and doubt. The first
//! rule that fits decides; each says why in a sentence, and what would change it.
//!
//! Chances of states with the same remedy add up: what is decided is the action, not the cause. An
//! injector is replaced, reconditioned or cleaned only with evidence of its own: a good enough
//! reading of the property in question on this very injector that a better one does not contradict.
//!
//! # Source
//! House rule: what all share before one of them, the place before the injector, proof before
//! money, and no decision on a number that cannot carry one.

mod own;
mod words;

use super::cause::{Action, Cause};
use super::evidence::Gathered;
use super::finding::Finding;
use super::posterior::Belief;
use super::rank::{Moved, Ranked};
use super::weights::Weights;
use crate::engine::FuelSystem;
use crate::named::named;
use crate::said::{Code, Lack};
use crate::tests::outcomes;
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;
pub(super) use words::{rule_word, verb};

named! {
    /// Names why it was decided so: the code of the sentence.
    Why {
        SharedFault = shared_fault,
        NewAsBad = new_as_bad,
        Contradiction = contradiction,
        HarnessLeg = harness_leg,
        Mechanical = mechanical,
        Driver = driver,
        Ignition = ignition,
        LineRestricted = line_restricted,
        SeatGas = seat_gas,
        PlaceUnclear = place_unclear,
        LiftOff = lift_off,
        ShimAgainst = shim_against,
        AllAlikeOff = all_alike_off,
        RunOdd = run_odd,
        CannotDecide = cannot_decide,
        Doubtful = doubtful,
        MoreRuns = more_runs,
        CoilDead = coil_dead,
        Worn = worn,
        WornAfterCleaning = worn_after_cleaning,
        MapWorn = map_worn,
        CleaningSpent = cleaning_spent,
        Restricted = restricted,
        TipLeak = tip_leak,
        TipLeakAgain = tip_leak_again,
        Slow = slow,
        SlowAgain = slow_again,
        NeedsOwnEvidence = needs_own_evidence,
        InjectorUnclear = injector_unclear,
        OppositeInSet = opposite_in_set,
        Uncoded = uncoded,
        NothingAgainst = nothing_against,
        NothingMeasured = nothing_measured,
        NotEnough = not_enough,
    }
}

/// What is decided about one injector, by which rule, and why.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ruling {
    /// What to do.
    pub decision: Decision,
    /// Why, as a code.
    pub why: Why,
    /// The rule that decided, in a few words.
    pub rule: String,
    /// Why, in a sentence.
    pub sentence: String,
    /// What would change this.
    pub would_change: String,
    /// The check that the decision waits for, by its name in the weights.
    pub asks: Option<String>,
    /// What else is proven at this place, and is not hidden by the decision.
    pub beside: Vec<String>,
    /// What belongs to the work besides.
    pub afterwards: Vec<String>,
}

/// Everything that the rules look at.
pub(super) struct Case<'a> {
    pub weights: &'a Weights,
    pub fuel: FuelSystem,
    pub belief: &'a Belief,
    pub ranked: &'a [Ranked],
    pub here: &'a Gathered<'a>,
    /// A fault that all share was found by its own check, and is to be fixed first.
    pub fault: Option<&'a Finding>,
    /// Some of the set pass too much while others pass too little.
    pub opposite: bool,
    /// Its name and title: the check that would settle this place soonest.
    pub next: Option<(&'a str, &'a str)>,
    /// The check that would give evidence of its own here, in the same way.
    pub own_next: Option<(&'a str, &'a str)>,
}

type Rule = fn(&Case<'_>) -> Option<Ruling>;

/// In the order in which they are asked.
const RULES: &[Rule] = &[
    all_share,
    as_before,
    contradiction,
    place,
    lift,
    doubt,
    more_runs,
    renew,
    clean,
    adjust,
    unproven,
    uncoded,
    nothing_against,
];

/// Decides.
pub(super) fn rule(case: &Case<'_>) -> Ruling {
    let found = RULES.iter().find_map(|rule| rule(case));
    let mut ruling = found.unwrap_or_else(|| not_enough(case));
    ruling.beside = case.beside(&ruling);
    ruling.afterwards = words::afterwards(ruling.decision, case.fuel);
    ruling
}

impl Case<'_> {
    fn act(&self, action: Action) -> bool {
        self.belief.action(action) >= self.weights.act()
    }

    /// The likeliest cause with this action.
    fn cause_of(&self, action: Action) -> Cause {
        let of = Cause::ALL.iter().copied().filter(|cause| cause.action(self.fuel) == action);
        of.max_by(|one, other| self.belief.chance(*one).total_cmp(&self.belief.chance(*other)))
            .unwrap_or(Cause::Restricted)
    }

    fn word(&self, cause: Cause) -> &str {
        self.weights.word(cause)
    }

    /// What speaks loudest for a cause.
    fn says(&self, cause: Cause) -> String {
        let ranked = self.ranked.iter().find(|one| one.cause == Some(cause));
        let loudest = ranked.and_then(|one| {
            one.evidence
                .iter()
                .find(|e| e.counts && e.kind == Moved::Found && e.code.is_some() && e.factor > 1.0)
        });
        loudest.map_or_else(String::new, |e| format!(" {}", e.says))
    }

    fn ruling(
        &self,
        why: Why,
        decision: Decision,
        sentence: impl Into<String>,
        would: &str,
    ) -> Ruling {
        let would_change = match (would, self.next) {
            ("", Some((_, title))) => format!("{title} would tell most."),
            ("", None) => "A check of this injector alone.".to_owned(),
            (would, _) => would.to_owned(),
        };
        Ruling {
            decision,
            why,
            rule: rule_word(why).to_owned(),
            sentence: sentence.into().trim_end().to_owned(),
            would_change,
            asks: None,
            beside: Vec::new(),
            afterwards: Vec::new(),
        }
    }

    /// Work on the injector that is proven although something else is decided first.
    fn beside(&self, ruling: &Ruling) -> Vec<String> {
        let decided = match ruling.decision {
            Decision::LookElsewhere | Decision::RepairHarness => true,
            Decision::Leave
            | Decision::Clean
            | Decision::Adjust
            | Decision::Recode
            | Decision::Match
            | Decision::Replace
            | Decision::MeasureAgain => false,
        };
        if !decided || ruling.why == Why::SharedFault {
            return Vec::new();
        }
        [Action::Renew, Action::Clean, Action::Adjust]
            .into_iter()
            .filter(|action| self.act(*action) && self.own(*action).is_some())
            .map(|action| {
                let cause = self.cause_of(action);
                format!("Its injector besides: {}.{}", self.word(cause), self.says(cause))
            })
            .collect()
    }
}

/// As likely as not.
const EVEN: f64 = 0.5;
/// Work on the injector itself.
const INJECTOR: [Action; 3] = [Action::Clean, Action::Renew, Action::Adjust];

fn all_share(case: &Case<'_>) -> Option<Ruling> {
    // What its own check found at fault is a fact, whatever was believed before.
    (case.act(Action::Shared) || case.fault.is_some()).then_some(())?;
    let cause = case.cause_of(Action::Shared);
    let found = case.fault.map_or_else(|| case.says(cause), |fault| format!(" {}", fault.says));
    let says = format!(
        "Not one injector, but what all of them share: {}.{found} Fix that, then measure again; no injector is judged before.",
        case.word(cause)
    );
    let would = "The same checks after it was fixed.";
    Some(case.ruling(Why::SharedFault, Decision::LookElsewhere, says, would))
}

fn as_before(case: &Case<'_>) -> Option<Ruling> {
    let new = case.here.counted.iter().find(|one| one.finding.as_before)?;
    let says = format!(
        "The new injector reads as the old one did. {} Part number, washer and fitting first; then the place: line, wiring, compression.",
        new.finding.says
    );
    let would = "The part compared with its family, and a swap with a neighbour.";
    Some(case.ruling(Why::NewAsBad, Decision::MeasureAgain, says, would))
}

/// An open coil in a cylinder that works.
fn contradiction(case: &Case<'_>) -> Option<Ruling> {
    let open = case.here.has(&[outcomes::COIL_OPEN])?;
    let works = [
        outcomes::CUT_ALIKE,
        outcomes::MOVES,
        outcomes::DI_ALIKE,
        outcomes::FLOW_ALIKE,
        outcomes::DROP_ALIKE,
    ];
    let works = case.here.has(&works)?;
    let says = format!("Two readings contradict each other. {} But: {}", open.says, works.says);
    let would = "The coil again with leads zeroed and the connector cleaned, cold and warm.";
    let ruling = case.ruling(Why::Contradiction, Decision::MeasureAgain, says, would);
    Some(Ruling { asks: Some(open.check.clone()), ..ruling })
}

/// The place, not the injector.
fn place(case: &Case<'_>) -> Option<Ruling> {
    let harness = case.act(Action::Harness);
    let all = case.belief.any(&[Action::Harness, Action::Place], case.fuel);
    (all >= case.weights.act()).then_some(())?;
    let of = |action| case.belief.chance(case.cause_of(action));
    let cause = if harness || of(Action::Harness) > of(Action::Place) {
        case.cause_of(Action::Harness)
    } else {
        case.cause_of(Action::Place)
    };
    // One cause that leads is named; several that share it are not guessed between.
    let leads = case.belief.chance(cause) >= 0.6 * all;
    let found = case.says(cause);
    if !leads {
        let mut causes = [
            Cause::HarnessLeg,
            Cause::Driver,
            Cause::LineRestriction,
            Cause::Mechanical,
            Cause::Ignition,
            Cause::SeatGas,
        ];
        causes.sort_by(|a, b| case.belief.chance(*b).total_cmp(&case.belief.chance(*a)));
        let says = format!(
            "The place, not the injector: {} or {}.{found}",
            case.word(causes[0]),
            case.word(causes[1])
        );
        return Some(case.ruling(Why::PlaceUnclear, Decision::LookElsewhere, says, ""));
    }
    let elsewhere = Decision::LookElsewhere;
    let good = case.here.has(&[outcomes::COIL_GOOD, outcomes::STACK_GOOD]);
    let good = good.map_or("", |_| " Its coil is good.");
    let ruling = match cause {
        Cause::HarnessLeg => {
            let lit = case.here.has(&[outcomes::LIT]);
            let lit = lit.map_or("", |_| " That a lamp lights there is no proof.");
            let says = format!("The wire, not the injector.{found}{lit}");
            let would = "Supply under load, or the wires end to end, after the repair.";
            case.ruling(Why::HarnessLeg, Decision::RepairHarness, says, would)
        }
        Cause::Driver => {
            let says = format!(
                "It is not commanded: driver or control wire.{found}{good} The injector is not condemned for it."
            );
            let would = "A good injector plugged in there: silent as well, it is the driver.";
            case.ruling(Why::Driver, elsewhere, says, would)
        }
        Cause::Ignition => {
            let says = format!("Its spark, not its injector: coil, plug or lead.{found}");
            case.ruling(Why::Ignition, elsewhere, says, "The same test after the exchange.")
        }
        Cause::LineRestriction => {
            let says = format!("Its line or its rail port, not its injector.{found}");
            case.ruling(
                Why::LineRestricted,
                elsewhere,
                says,
                "Its flow after the line was cleared.",
            )
        }
        Cause::SeatGas => {
            let says = format!(
                "Combustion gas past its seat: bore and seat cleaned, a new washer, the right torque.{found}"
            );
            case.ruling(
                Why::SeatGas,
                elsewhere,
                says,
                "Compression and bore after it was fitted anew.",
            )
        }
        Cause::Mechanical
        | Cause::Restricted
        | Cause::Worn
        | Cause::TipLeak
        | Cause::Slow
        | Cause::ExcessReturn
        | Cause::CoilOpen
        | Cause::CoilOff
        | Cause::WrongCode
        | Cause::AirOrFuel
        | Cause::CommonSupply
        | Cause::HighPressure
        | Cause::SharedIgnition => {
            let says = format!(
                "Low compression or another mechanical fault.{found} The injector is not judged by what compression lacks."
            );
            let would = "Compression by gauge after the repair.";
            case.ruling(Why::Mechanical, elsewhere, says, would)
        }
    };
    Some(ruling)
}

/// A lift outside its window is set, whatever else is known.
fn lift(case: &Case<'_>) -> Option<Ruling> {
    let off = case.good(outcomes::LIFT_OFF)?;
    let says = format!(
        "Its lift is outside its window. {} Set it, then the full plan again; no trim code before.",
        off.says
    );
    Some(case.ruling(Why::LiftOff, Decision::Adjust, says, "The lift after the next fit."))
}

/// Doubts that have a name of their own.
const DOUBTS: [(Code, Why); 5] = [
    (Code::SHIM_AGAINST, Why::ShimAgainst),
    (Code::ALL_ALIKE_OFF, Why::AllAlikeOff),
    (Code::RUN_ODD, Why::RunOdd),
    (Code::CANNOT_DECIDE, Why::CannotDecide),
    (Code::FEW_RUNS, Why::MoreRuns),
];

/// A reading here cannot carry a decision, and no better one does.
fn doubt(case: &Case<'_>) -> Option<Ruling> {
    let proven = INJECTOR.iter().any(|a| case.act(*a) && case.own(*a).is_some());
    if proven {
        return None;
    }
    let compares =
        |check: &str| case.weights.checks().iter().any(|row| row.id == check && row.compares);
    let pressing = [Code::SHIM_AGAINST, Code::ALL_ALIKE_OFF, Code::RUN_ODD, Code::CANNOT_DECIDE];
    let told = case.here.counted.iter().map(|one| one.finding);
    let newest = told.filter(|f| compares(&f.check)).map(|f| f.at).max();
    let open = case.here.open.iter().rev().find(|f| {
        pressing.contains(&f.code)
            || (compares(&f.check) && newest.is_none_or(|newest| f.at >= newest))
    })?;
    let named = DOUBTS.iter().find(|(code, _)| *code == open.code);
    let why = named.map_or(Why::Doubtful, |(_, why)| *why);
    let says = format!("{} {}", open.says, open.would);
    let would = "The reading in doubt, taken again.";
    let ruling = case.ruling(why, Decision::MeasureAgain, says, would);
    Some(Ruling { asks: Some(open.check.clone()), ..ruling })
}

/// What would condemn is itself not finished: more runs are asked for before money is spent.
fn more_runs(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Renew).then_some(())?;
    let own = case.own(Action::Renew)?;
    let few = own.finding.lacks.iter().any(|lack| matches!(lack, Lack::OneRun | Lack::FewRuns));
    let others = case.own_readings(Action::Renew).filter(|one| one.check != own.check);
    (few && others.count() == 0).then_some(())?;
    let says = format!("{} Enough to suspect, not yet to replace: more runs.", own.finding.says);
    let ruling =
        case.ruling(Why::MoreRuns, Decision::MeasureAgain, says, "The runs that are missing.");
    Some(Ruling { asks: Some(own.finding.check.clone()), ..ruling })
}

fn renew(case: &Case<'_>) -> Option<Ruling> {
    let spent = case.here.has(&[
        outcomes::NO_MORE_CYCLES,
        outcomes::CLEANED_WORSE,
        outcomes::DOSER_STILL_LOW,
        outcomes::DOSER_WORSE,
    ]);
    let own = case.act(Action::Clean) && case.own(Action::Clean).is_some();
    if let Some(spent) = spent.filter(|_| own) {
        let says = format!("Restricted, and cleaning no longer moves it. {}", spent.says);
        let would = "Reconditioning instead, where it is offered.";
        return Some(case.ruling(Why::CleaningSpent, Decision::Replace, says, would));
    }
    case.act(Action::Renew).then_some(())?;
    case.own(Action::Renew)?;
    let cause = case.cause_of(Action::Renew);
    let found = case.says(cause);
    if matches!(cause, Cause::CoilOpen | Cause::CoilOff) {
        let says = format!("Electrically dead inside: {}.{found}", case.word(cause));
        let would = "The reading again with leads zeroed, at a known temperature.";
        return Some(case.ruling(Why::CoilDead, Decision::Replace, says, would));
    }
    if let Some(last) = case.here.has(&[outcomes::WORN_AFTER_CLEANING]) {
        let says = format!("It is {}. {} Not another cycle.", case.word(cause), last.says);
        return Some(case.ruling(Why::WornAfterCleaning, Decision::Replace, says, ""));
    }
    let mapped = [
        outcomes::MAP_RETURN_HIGH,
        outcomes::MAP_RETURN_LOAD,
        outcomes::MAP_LOW_FULL_RETURN,
        outcomes::MAP_HIGH,
        outcomes::MAP_HIGH_IDLE,
    ];
    if case.here.has(&mapped).is_some() {
        let says = format!(
            "It is {}.{found} Reconditioned on its map: valve, seat, lift; else replaced.",
            case.word(cause)
        );
        return Some(case.ruling(Why::MapWorn, Decision::Adjust, says, ""));
    }
    Some(case.ruling(
        Why::Worn,
        Decision::Replace,
        format!("It is {}.{found}", case.word(cause)),
        "",
    ))
}

/// It was cleaned, and what is found now is what cleaning left.
fn cleaned(case: &Case<'_>) -> bool {
    let response = [
        outcomes::CAME_BACK,
        outcomes::WAS_GOOD,
        outcomes::STILL_RESTRICTED,
        outcomes::NO_MORE_CYCLES,
        outcomes::CLEANED_WORSE,
        outcomes::WORN_AFTER_CLEANING,
    ];
    let all = case.here.counted.iter().chain(&case.here.besides);
    all.into_iter().any(|one| response.contains(&one.finding.code))
}

fn clean(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Clean).then_some(())?;
    let own = case.own(Action::Clean)?;
    let cause = case.cause_of(Action::Clean);
    let found = case.says(cause);
    let _ = own;
    let again = cleaned(case);
    Some(match (cause, again) {
        (Cause::TipLeak, true) => {
            let says = format!("It leaks at the tip after cleaning as well.{found}");
            case.ruling(Why::TipLeakAgain, Decision::Replace, says, "The leak check once more.")
        }
        (Cause::TipLeak, false) => {
            let says = format!(
                "It leaks at the tip: dirt on the seat can be cleaned away, wear cannot.{found}"
            );
            case.ruling(Why::TipLeak, Decision::Clean, says, "The leak check after cleaning.")
        }
        (Cause::Slow, true) => {
            let says = format!("It opens late after cleaning as well: spring or armature.{found}");
            case.ruling(Why::SlowAgain, Decision::Replace, says, "The pulse sweep once more.")
        }
        (Cause::Slow, false) => {
            let says = format!("It opens late: varnish can be cleaned away.{found}");
            case.ruling(Why::Slow, Decision::Clean, says, "The pulse sweep after cleaning.")
        }
        (_, _) => {
            let source = if case.opposite {
                " Others of the set pass too much: find what it was contaminated by before new parts go in."
            } else {
                ""
            };
            let says = format!("Restricted: cleaning can help.{found}{source}");
            let would = "The same test after cleaning: dirt clears, wear does not.";
            case.ruling(Why::Restricted, Decision::Clean, says, would)
        }
    })
}

fn adjust(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Adjust).then_some(())?;
    case.own(Action::Adjust)?;
    let cause = case.cause_of(Action::Adjust);
    let says = format!("It opens late: armature, spring or air gap.{}", case.says(cause));
    Some(case.ruling(Why::Slow, Decision::Adjust, says, "The map after the work."))
}

/// Surely the injector, without a reading that measures what is wrong with it, or not yet clear
/// in which way: the check that tells comes before money.
fn unproven(case: &Case<'_>) -> Option<Ruling> {
    (case.belief.any(&INJECTOR, case.fuel) >= case.weights.act()).then_some(())?;
    let single = INJECTOR.iter().any(|action| case.act(*action));
    let mut causes: Vec<Cause> = Cause::ALL
        .iter()
        .copied()
        .filter(|cause| INJECTOR.contains(&cause.action(case.fuel)))
        .collect();
    causes.sort_by(|a, b| case.belief.chance(*b).total_cmp(&case.belief.chance(*a)));
    let (first, second) = (causes[0], causes[1]);
    // Too much flow in place is wear or a leak: the leak check comes before the word "leaks".
    let drops = case.here.has(&[outcomes::DROP_HIGH]).is_some();
    let leak = case.weights.check_of(outcomes::BENCH_DRIPS).filter(|_| {
        drops && case.here.has(&[outcomes::BENCH_DRIPS, outcomes::BENCH_TIGHT]).is_none()
    });
    let leak = leak.map(|check| (check.id.as_str(), check.title.as_str()));
    let (check, tells) = match leak.or(case.own_next).or(case.next) {
        Some((id, title)) => (Some(id.to_owned()), format!(" {title} tells how.")),
        None => (None, String::new()),
    };
    let source = if case.opposite {
        " Others of the set are off the other way: find what contaminated them before new parts go in."
    } else {
        ""
    };
    let (why, says) = if single {
        let says = format!(
            "The injector, most likely {}, but nothing measured that on it.{}{tells}",
            case.word(first),
            case.says(first)
        );
        (Why::NeedsOwnEvidence, says)
    } else {
        let says = format!(
            "The injector, and not yet clear how: {} or {}.{}{tells}{source}",
            case.word(first),
            case.word(second),
            case.says(first)
        );
        (if case.opposite { Why::OppositeInSet } else { Why::InjectorUnclear }, says)
    };
    let ruling = case.ruling(why, Decision::MeasureAgain, says, "");
    Some(Ruling { asks: check, ..ruling })
}

fn uncoded(case: &Case<'_>) -> Option<Ruling> {
    let fact = case.here.has(&[outcomes::MOVED_UNCODED, outcomes::NEW_UNCODED]);
    (fact.is_some() || case.act(Action::Recode)).then_some(())?;
    let found = fact.map_or_else(|| case.says(Cause::WrongCode), |f| format!(" {}", f.says));
    let says = format!(
        "Its code is not its own.{found} Write it to its cylinder, then read back and compare."
    );
    let would = "The stored code read, and it is the one on the body.";
    Some(case.ruling(Why::Uncoded, Decision::Recode, says, would))
}

/// What was compared here says that it is as it should be.
fn compared<'a>(case: &'a Case<'_>) -> Option<&'a Finding> {
    let own = |one: &&super::evidence::Reading<'_>| {
        one.view != super::evidence::View::Cylinder
            && INJECTOR.iter().any(|action| {
                Cause::ALL.iter().any(|cause| {
                    cause.action(case.fuel) == *action
                        && case.weights.factor(one.finding.code, *cause) < 0.5
                })
            })
    };
    case.here
        .of(case.weights, |row| row.compares)
        .filter(own)
        .map(|one| one.finding)
        .max_by_key(|f| f.at)
}

fn nothing_against(case: &Case<'_>) -> Option<Ruling> {
    let compared = compared(case)?;
    // It is the injector that is left: what may be wrong with its place is another decision, until
    // it is likelier than not.
    let most = |actions: &[Action]| {
        actions.iter().map(|action| case.belief.action(*action)).fold(0.0, f64::max)
    };
    let injector = most(&[Action::Clean, Action::Renew, Action::Adjust, Action::Recode]);
    let place = most(&[Action::Harness, Action::Place]);
    (injector <= case.weights.leave() && place <= EVEN).then_some(())?;
    let says = format!("No measurement counts against it. {}", compared.says);
    Some(case.ruling(Why::NothingAgainst, Decision::Leave, says, ""))
}

fn not_enough(case: &Case<'_>) -> Ruling {
    let (first, p) = case.belief.first();
    let (why, sentence) = if case.here.counted.is_empty() {
        (
            Why::NothingMeasured,
            "Nothing that could carry a decision was measured here yet.".to_owned(),
        )
    } else if case.belief.sound() > p {
        let says = format!(
            "Likelier sound than anything else, {:.0} %, and not certain enough to leave it alone yet.",
            100.0 * case.belief.sound()
        );
        (Why::NotEnough, says)
    } else if p < 0.5 {
        let says = format!(
            "No cause leads: the likeliest is {} with {:.0} %, and {:.0} % are needed to act.",
            case.word(first),
            100.0 * p,
            100.0 * case.weights.act()
        );
        (Why::NotEnough, says)
    } else {
        let says = format!(
            "Not enough evidence: {}, likely {:.0} %; {:.0} % are needed to act.{}",
            case.word(first),
            100.0 * p,
            100.0 * case.weights.act(),
            case.says(first)
        );
        (Why::NotEnough, says)
    };
    let ruling = case.ruling(why, Decision::MeasureAgain, sentence, "");
    Ruling {
        asks: case.next.map(|(id, _)| id.to_owned()).filter(|_| !case.here.counted.is_empty()),
        ..ruling
    }
}
