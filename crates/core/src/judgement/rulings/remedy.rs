//! What is done to an injector whose own fault was shown.

use super::super::cause::{Action, Cause};
use super::{Case, EVEN, INJECTOR, Ruling, Why};
use crate::judgement::INSULATION;
use crate::judgement::evidence::Reading;
use crate::judgement::rulings::words;
use crate::said::Lack;
use crate::tests::outcomes;
use crate::work::Decision;

/// A reading that knows too much or too little from the other injectors alone.
fn by_others(own: &Reading<'_>) -> bool {
    own.finding.lacks.contains(&Lack::ByOthers) || own.finding.code == outcomes::DROP_HIGH
}

/// At least half of the other injectors are as they should be by the same check.
fn others_alike(case: &Case<'_>, own: &Reading<'_>) -> bool {
    let (check, _) = case.weights.check(own.check);
    let others = case.findings.iter().filter(|one| {
        one.of_injector && one.check == own.finding.check && one.injector != own.finding.injector
    });
    let (all, alike) = others.fold((0, 0), |(all, alike), one| {
        (all + 1, alike + usize::from(check.alike.contains(&one.code)))
    });
    2 * alike >= all
}

pub(super) fn renew(case: &Case<'_>) -> Option<Ruling> {
    let spent = case.here.has(&[
        outcomes::NO_MORE_CYCLES,
        outcomes::CLEANED_WORSE,
        outcomes::DOSER_STILL_LOW,
        outcomes::DOSER_WORSE,
    ]);
    let own = case.read(Action::Clean) && case.own(Action::Clean).is_some();
    if let Some(spent) = spent.filter(|_| own) {
        let says = words::restricted_cleaning_no_longer(&spent.says);
        let would = words::RECONDITIONING_INSTEAD_AVAILABLE;
        return Some(case.ruling(Why::CleaningSpent, Decision::Replace, says, would));
    }
    case.act(Action::Renew).then_some(())?;
    let own = case.own(Action::Renew)?;
    let cause = case.cause_of(Action::Renew);
    let found = case.says(cause);
    if cause == Cause::Worn && by_others(own) && (case.opposite || !others_alike(case, own)) {
        let says = words::too_much_while_others_too_little(case.word(cause), &found);
        let would = words::COMPARED_AGAIN_AFTER_CLEANING;
        return Some(case.ruling(Why::OppositeInSet, Decision::MeasureAgain, says, would));
    }
    if matches!(cause, Cause::CoilOpen | Cause::CoilOff) {
        let says = words::electrically_dead(case.word(cause), &found);
        let would = words::READING_AGAIN_LEADS_ZEROED;
        return Some(case.ruling(Why::CoilDead, Decision::Replace, says, would));
    }
    if let Some(last) = case.here.has(&[outcomes::WORN_AFTER_CLEANING]) {
        let says = words::likely_no_further_cycle(case.word(cause), &last.says);
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
        let says = words::likely_recondition_map_valve(case.word(cause), &found);
        return Some(case.ruling(Why::MapWorn, Decision::Adjust, says, ""));
    }
    Some(case.ruling(
        Why::Worn,
        Decision::Replace,
        format!("Likely {}.{found}", case.word(cause)),
        "",
    ))
}

/// It was cleaned, and what is found now is what cleaning left.
pub(super) fn cleaned(case: &Case<'_>) -> bool {
    let response = [
        outcomes::CAME_BACK,
        outcomes::WAS_GOOD,
        outcomes::STILL_RESTRICTED,
        outcomes::NO_MORE_CYCLES,
        outcomes::CLEANED_WORSE,
        outcomes::WORN_AFTER_CLEANING,
    ];
    let all = case.here.counted.iter().chain(&case.here.besides);
    case.cleaned || all.into_iter().any(|one| response.contains(&one.finding.code))
}

pub(super) fn clean(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Clean).then_some(())?;
    case.own(Action::Clean)?;
    let cause = case.cause_of(Action::Clean);
    let found = case.says(cause);
    let again = cleaned(case);
    // What another cleaning cannot help is bought.
    (!again || case.read(Action::Clean)).then_some(())?;
    // What takes nothing at all is seldom dirt: the last electrical check comes before the bath.
    let mut here = case.here.counted.iter().chain(&case.here.besides).map(|one| one.finding);
    let nothing = here.find(|finding| finding.code == outcomes::DI_NONE);
    if let Some(nothing) = nothing.filter(|_| case.insulation_open && !again) {
        let says = words::takes_nothing_insulation(&nothing.says);
        let ruling = case.ruling(Why::NeedsOwnEvidence, Decision::MeasureAgain, says, "");
        return Some(Ruling { asks: Some(INSULATION.to_owned()), ..ruling });
    }
    Some(match (cause, again) {
        (Cause::TipLeak, true) => {
            let says = words::still_leaks_tip_after(&found);
            case.ruling(Why::TipLeakAgain, Decision::Replace, says, words::LEAK_CHECK_AGAIN)
        }
        (Cause::TipLeak, false) => {
            let says = words::leaks_tip_dirt_seat(&found);
            case.ruling(Why::TipLeak, Decision::Clean, says, words::LEAK_CHECK_AFTER_CLEANING)
        }
        (Cause::Slow, true) => {
            let says = words::still_opens_late_after(&found);
            case.ruling(Why::SlowAgain, Decision::Replace, says, words::PULSE_SWEEP_AGAIN)
        }
        (Cause::Slow, false) => {
            let says = words::opens_late_varnish_cleaned(&found);
            case.ruling(Why::Slow, Decision::Clean, says, words::PULSE_SWEEP_AFTER_CLEANING)
        }
        (_, _) => {
            let source = if case.opposite { words::OTHERS_SET_FLOW_TOO } else { "" };
            let says = words::restricted_cleaning_help(&found, source);
            let would = words::RETEST_AFTER_CLEANING_DIRT;
            case.ruling(Why::Restricted, Decision::Clean, says, would)
        }
    })
}

pub(super) fn adjust(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Adjust).then_some(())?;
    case.own(Action::Adjust)?;
    let cause = case.cause_of(Action::Adjust);
    let says = words::opens_late_armature_spring(case.says(cause));
    Some(case.ruling(Why::Slow, Decision::Adjust, says, words::MAP_AFTER_WORK))
}

/// Most likely dirt, seen or measured on this injector, and no check is left that would tell more: surely the
/// injector, or nothing at all is left to ask. A cleaning costs least, and its retest tells.
pub(super) fn cleaning_tells(case: &Case<'_>) -> Option<Ruling> {
    let surely = case.belief.any(&INJECTOR, case.fuel) >= case.weights.act();
    let dirt = case.belief.action(Action::Clean);
    let last = case.own_next.is_none() && !cleaned(case) && (surely || case.next.is_none());
    let own = case.own(Action::Clean).is_some() || case.good(outcomes::SEEN_DIRTY).is_some();
    (last && dirt >= EVEN && own).then_some(())?;
    let cause = case.cause_of(Action::Clean);
    let says = words::cleaning_tells(case.word(cause), 100.0 * dirt, case.says(cause));
    Some(case.ruling(Why::Restricted, Decision::Clean, says, words::RETEST_AFTER_CLEANING_DIRT))
}

/// Surely the injector, without a reading that measures what is wrong with it, or not yet clear
/// in which way: the check that tells comes before money.
pub(super) fn unproven(case: &Case<'_>) -> Option<Ruling> {
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
        Some((id, title)) => (Some(id.to_owned()), words::shows(title)),
        None => (None, String::new()),
    };
    let source = if case.opposite { words::OTHERS_SET_OFF_OTHER } else { "" };
    let (why, says) = if single {
        let says = words::injector_most_likely_but(case.word(first), case.says(first), &tells);
        (Why::NeedsOwnEvidence, says)
    } else {
        let says = words::injector_fault_not_yet(
            case.word(first),
            case.word(second),
            case.says(first),
            &tells,
            source,
        );
        (if case.opposite { Why::OppositeInSet } else { Why::InjectorUnclear }, says)
    };
    let ruling = case.ruling(why, Decision::MeasureAgain, says, "");
    Some(Ruling { asks: check, ..ruling })
}
