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

mod doubt;
mod own;
mod place;
mod remedy;
mod words;

use super::cause::{Action, Cause};
use super::evidence::Gathered;
use super::finding::{Finding, NewReads};
use super::posterior::Belief;
use super::rank::{Moved, Ranked};
use super::weights::Weights;
use crate::engine::FuelSystem;
use crate::named::named;
use crate::said::Code;
use crate::tests::outcomes;
use crate::work::Decision;
use doubt::{doubt, more_runs, not_enough, once_more};
use place::{contradiction, lift, place};
use remedy::{adjust, clean, cleaning_tells, renew, unproven};
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
        RepeatDiffers = repeat_differs,
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
        ComplaintGone = complaint_gone,
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
    /// Every chance of a cause times this is what it would be without the complaint.
    pub without: f64,
    pub ranked: &'a [Ranked],
    pub here: &'a Gathered<'a>,
    /// A fault that all share was found by its own check, and is to be fixed first.
    pub fault: Option<&'a Finding>,
    /// Some of the set pass too much while others pass too little.
    pub opposite: bool,
    /// Everything that was found in the job.
    pub findings: &'a [Finding],
    /// Nothing was read yet of the insulation here, and it can be.
    pub insulation_open: bool,
    /// The check that could show what the complaint suggests here, and was not made.
    pub could_show: Option<(&'a str, &'a str)>,
    /// No spark was exchanged here yet, and it can be.
    pub spark_open: bool,
    /// The complaint is gone since something that all share was put right.
    pub gone: bool,
    /// The injector was cleaned in this job.
    pub cleaned: bool,
    /// Checks that said the same twice here: once more settles nothing.
    pub tired: &'a [&'a str],
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
    once_more,
    renew,
    clean,
    adjust,
    cleaning_tells,
    unproven,
    uncoded,
    nothing_against,
    gone,
];

/// Decides.
pub(super) fn rule(case: &Case<'_>) -> Ruling {
    let found = RULES.iter().find_map(|rule| rule(case));
    let mut ruling = found.unwrap_or_else(|| not_enough(case));
    if ruling.would_change.is_empty() {
        // What it waits for is what would settle it.
        let waits = case.weights.checks().iter().find(|row| Some(&row.id) == ruling.asks.as_ref());
        let title = waits.map(|row| row.title.as_str()).or(case.next.map(|(_, title)| title));
        ruling.would_change =
            title.map_or_else(|| words::CHECK_INJECTOR_ALONE.to_owned(), words::best_next);
    }
    ruling.beside = case.beside(&ruling);
    ruling.afterwards = words::afterwards(ruling.decision, case.fuel);
    ruling
}

impl Case<'_> {
    fn act(&self, action: Action) -> bool {
        match action {
            Action::Renew | Action::Adjust => self.read(action),
            Action::Leave
            | Action::Clean
            | Action::Recode
            | Action::Harness
            | Action::Place
            | Action::Shared => self.belief.action(action) >= self.weights.act(),
        }
    }

    /// Likely enough by what was read alone: an injector is bought or reconditioned by readings, and that
    /// something has to be behind a complaint is none.
    fn read(&self, action: Action) -> bool {
        self.belief.action(action) * self.without >= self.weights.act()
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
        Ruling {
            decision,
            why,
            rule: rule_word(why).to_owned(),
            sentence: sentence.into().trim_end().to_owned(),
            would_change: would.to_owned(),
            asks: None,
            beside: Vec::new(),
            afterwards: Vec::new(),
        }
    }

    /// Work on the injector that is proven although something else is decided first.
    fn beside(&self, ruling: &Ruling) -> Vec<String> {
        if ruling.why == Why::SharedFault {
            return self.also_here();
        }
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
        if !decided {
            return Vec::new();
        }
        [Action::Renew, Action::Clean, Action::Adjust]
            .into_iter()
            .filter(|action| self.act(*action) && self.own(*action).is_some())
            .map(|action| {
                let cause = self.cause_of(action);
                words::also_injector(self.word(cause), self.says(cause))
            })
            .collect()
    }
}

impl Case<'_> {
    /// What was found at this place alone, behind a fault that all share.
    fn also_here(&self) -> Vec<String> {
        let odd = self.here.counted.iter().chain(&self.here.besides).filter(|one| {
            one.view != super::evidence::View::Cylinder
                && INJECTOR.iter().any(|action| self.points_to(*action, one.finding.code))
        });
        let newest = odd.map(|one| one.finding).max_by_key(|finding| finding.at);
        newest.map(|finding| words::also_check_again(&finding.says)).into_iter().collect()
    }

    /// A reading of this code speaks for a cause with this action.
    fn points_to(&self, action: Action, code: Code) -> bool {
        Cause::ALL.iter().any(|cause| {
            cause.action(self.fuel) == action && self.weights.factor(code, *cause) >= SPEAKS
        })
    }

    /// Something that was read points to this cause, and not the story alone.
    fn pointed(&self, cause: Cause) -> bool {
        let here = self.here.counted.iter().map(|one| one.finding);
        let of_all = self.findings.iter().filter(|f| f.cylinder.is_none() && f.injector.is_none());
        here.chain(of_all).any(|finding| self.weights.factor(finding.code, cause) >= SPEAKS)
    }
}

/// The trim codes among the checks.
const CODED: &str = "coded";
/// How much likelier than with nothing there a reading is that speaks for a cause (house rule).
const SPEAKS: f64 = 3.0;
/// As likely as not.
const EVEN: f64 = 0.5;
/// Work on the injector itself.
const INJECTOR: [Action; 3] = [Action::Clean, Action::Renew, Action::Adjust];

fn all_share(case: &Case<'_>) -> Option<Ruling> {
    // What its own check found at fault is a fact, whatever was believed before.
    let cause = case.cause_of(Action::Shared);
    let likely = case.act(Action::Shared) && case.pointed(cause) && !rail_alone(case);
    (likely || case.fault.is_some()).then_some(())?;
    let found = case.fault.map_or_else(|| case.says(cause), |fault| format!(" {}", fault.says));
    let says = words::shared_cause_not_one(case.word(cause), &found);
    let would = words::SAME_CHECKS_AFTER_FIX;
    Some(case.ruling(Why::SharedFault, Decision::LookElsewhere, says, would))
}

/// A rail that stays low is lost by leak-off as well as by its pump: which of them is not known before any
/// return was read.
fn rail_alone(case: &Case<'_>) -> bool {
    let read = |codes: &[Code]| case.findings.iter().any(|one| codes.contains(&one.code));
    let returned = [
        outcomes::RETURN_HIGH,
        outcomes::RETURN_RAISED,
        outcomes::RETURN_ALIKE,
        outcomes::RETURN_LOW,
    ];
    let others =
        [outcomes::FEED_OFF, outcomes::AIR_DRAWN, outcomes::FUEL_BAD, outcomes::RELIEF_RUNS];
    let low = read(&[outcomes::RAIL_FAR_BELOW, outcomes::RAIL_NOT_REACHED]);
    case.fuel.has_return() && low && !read(&returned) && !read(&others)
}

fn as_before(case: &Case<'_>) -> Option<Ruling> {
    let mut counted = case.here.counted.iter().map(|one| one.finding);
    let (new, reads) = counted.find_map(|one| Some((one, one.as_before?)))?;
    let says = match reads {
        NewReads::Alike => words::new_injector_reads_like(&new.says),
        NewReads::Worse => words::new_injector_reads_worse(&new.says),
    };
    let would = words::PART_COMPARED_FAMILY_SWAP;
    Some(case.ruling(Why::NewAsBad, Decision::MeasureAgain, says, would))
}

fn uncoded(case: &Case<'_>) -> Option<Ruling> {
    let mirrored = case.here.open.iter().find(|one| one.check == CODED);
    if let Some(held) = mirrored {
        let ruling = case.ruling(Why::Doubtful, Decision::MeasureAgain, &*held.says, &held.would);
        return Some(Ruling { asks: Some(CODED.to_owned()), ..ruling });
    }
    let fact = case.here.has(&[outcomes::MOVED_UNCODED, outcomes::NEW_UNCODED]);
    (fact.is_some() || case.act(Action::Recode)).then_some(())?;
    let found = fact.map_or_else(|| case.says(Cause::WrongCode), |f| format!(" {}", f.says));
    let says = words::stored_trim_code_not(&found);
    let would = words::STORED_TRIM_CODE_READ;
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
    if let Some((id, title)) = case.could_show {
        let says = words::could_show(100.0 * case.belief.sound(), title);
        let ruling = case.ruling(Why::NotEnough, Decision::MeasureAgain, says, "");
        return Some(Ruling { asks: Some(id.to_owned()), ..ruling });
    }
    let says = words::no_measurement_counts_against(&compared.says);
    Some(case.ruling(Why::NothingAgainst, Decision::Leave, says, ""))
}

/// The complaint went with what all share, and nothing that was read speaks against this one.
fn gone(case: &Case<'_>) -> Option<Ruling> {
    let here = case.here.counted.iter().map(|one| one.finding.code);
    let odd = here
        .chain(case.here.open.iter().map(|one| one.code))
        .any(|code| code.departs() || code.is_open());
    (case.gone && !odd).then(|| {
        case.ruling(Why::ComplaintGone, Decision::Leave, words::COMPLAINT_GONE, words::COMES_BACK)
    })
}
