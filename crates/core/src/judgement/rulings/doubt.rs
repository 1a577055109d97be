//! What is measured again before anything is decided.

use super::super::cause::Action;
use super::super::finding::Finding;
use super::{Case, EVEN, INJECTOR, Ruling, SPEAKS, Why};
use crate::judgement::rulings::words;
use crate::said::{Code, Lack};
use crate::work::Decision;

/// Doubts that have a name of their own.
pub(super) const DOUBTS: [(Code, Why); 6] = [
    (Code::CONTRADICTORY, Why::RepeatDiffers),
    (Code::SHIM_AGAINST, Why::ShimAgainst),
    (Code::ALL_ALIKE_OFF, Why::AllAlikeOff),
    (Code::RUN_ODD, Why::RunOdd),
    (Code::CANNOT_DECIDE, Why::CannotDecide),
    (Code::FEW_RUNS, Why::MoreRuns),
];

/// Too near a line, or a set at odds with itself: the same means once more carry the same error, and another
/// check settles it, or the odds do.
const SAME_ERROR: [Code; 2] = [Code::TOO_CLOSE, Code::NO_REFERENCE];

/// A reading here cannot carry a decision, and no better one does.
pub(super) fn doubt(case: &Case<'_>) -> Option<Ruling> {
    let proven = INJECTOR.iter().any(|a| case.act(*a) && case.own(*a).is_some());
    if proven {
        return None;
    }
    let compares =
        |check: &str| case.weights.checks().iter().any(|row| row.id == check && row.compares);
    let pressing = [
        Code::CONTRADICTORY,
        Code::SHIM_AGAINST,
        Code::ALL_ALIKE_OFF,
        Code::RUN_ODD,
        Code::CANNOT_DECIDE,
    ];
    let told = case.here.counted.iter().map(|one| one.finding);
    let newest = told.filter(|f| compares(&f.check)).map(|f| f.at).max();
    let open = case.here.open.iter().rev().find(|f| {
        let anew = [Code::CONTRADICTORY, Code::RUN_ODD].contains(&f.code);
        let few = f.lacks.iter().any(|lack| matches!(lack, Lack::OneRun | Lack::FewRuns));
        let same = SAME_ERROR.contains(&f.code) && !few;
        let again = anew || !(same || case.tired.contains(&f.check.as_str()));
        let slip = f.lacks.contains(&Lack::LikeSlip);
        let pressing = slip || again && pressing.contains(&f.code);
        pressing || (again && compares(&f.check) && newest.is_none_or(|newest| f.at >= newest))
    })?;
    let ruling = cannot_carry(case, open, words::DOUBTFUL_READING_REPEATED);
    Some(Ruling { asks: Some(open.check.clone()), ..ruling })
}

/// What a reading says that cannot carry a decision, and what would settle it.
fn cannot_carry(case: &Case<'_>, open: &Finding, would: &str) -> Ruling {
    let named = DOUBTS.iter().find(|(code, _)| *code == open.code);
    let why = named.map_or(Why::Doubtful, |(_, why)| *why);
    let slip = open.lacks.contains(&Lack::LikeSlip);
    let settles = if slip { words::UNIT_OR_DECIMAL } else { open.would.as_str() };
    let says = format!("{} {settles}", open.says);
    case.ruling(why, Decision::MeasureAgain, says, would)
}

/// What would condemn is itself not finished: more runs are asked for before money is spent.
pub(super) fn more_runs(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Renew).then_some(())?;
    let own = case.own(Action::Renew)?;
    let few = own.finding.lacks.iter().any(|lack| matches!(lack, Lack::OneRun | Lack::FewRuns));
    let others = case.own_readings(Action::Renew).filter(|one| one.check != own.check);
    (few && others.count() == 0).then_some(())?;
    let says = words::enough_suspect_not_yet(&own.finding.says);
    let ruling = case.ruling(Why::MoreRuns, Decision::MeasureAgain, says, words::MISSING_RUNS);
    Some(Ruling { asks: Some(own.finding.check.clone()), ..ruling })
}

/// One reading of a coil or a tube alone: once more costs minutes, an injector costs money.
pub(super) fn once_more(case: &Case<'_>) -> Option<Ruling> {
    case.act(Action::Renew).then_some(())?;
    let own = case.own(Action::Renew)?;
    let cause = case.cause_of(Action::Renew);
    let (check, _) = case.weights.check(own.check);
    let quick = check.minutes <= QUICK_MINUTES && !case.tired.contains(&check.id.as_str());
    // What is open or leaks through is no slip of a meter.
    let slips = own.finding.sigmas.is_some();
    let alone =
        case.here.counted.iter().all(|one| {
            one.check == own.check || case.weights.factor(one.finding.code, cause) < SPEAKS
        });
    // A return test asks for runs of its own.
    let by_runs = check.id == "return_test" || check.id == "return_level";
    (quick && slips && alone && !by_runs).then_some(())?;
    let says = words::one_reading_once_more(&own.finding.says);
    let ruling = case.ruling(Why::MoreRuns, Decision::MeasureAgain, says, words::SAME_CHECK_AGAIN);
    Some(Ruling { asks: Some(own.finding.check.clone()), ..ruling })
}

/// A check of at most so many minutes is made again before an injector is bought (house rule).
const QUICK_MINUTES: f64 = 15.0;

pub(super) fn not_enough(case: &Case<'_>) -> Ruling {
    // The same again settles nothing: another check does, or nothing that is at hand.
    if let (true, Some(open)) = (case.here.counted.is_empty(), case.here.open.last()) {
        let ruling = cannot_carry(case, open, "");
        return Ruling { asks: case.next.map(|(id, _)| id.to_owned()), ..ruling };
    }
    let (first, p) = case.belief.first();
    let (why, sentence) = if case.here.counted.is_empty() {
        (Why::NothingMeasured, words::NOTHING_MEASURED_HERE_YET.to_owned())
    } else if case.belief.sound() > p.max(EVEN) {
        let says = words::most_likely_sound_but(100.0 * case.belief.sound());
        (Why::NotEnough, says)
    } else if p < 0.5 {
        let says = words::no_leading_cause_likeliest(
            case.word(first),
            100.0 * p,
            100.0 * case.weights.act(),
        );
        (Why::NotEnough, says)
    } else {
        let says = words::not_enough_evidence_likely(
            case.word(first),
            100.0 * p,
            100.0 * case.weights.act(),
            case.says(first),
        );
        (Why::NotEnough, says)
    };
    let last = case.here.open.last().or(case.here.counted.last().map(|one| &one.finding));
    let same = last.is_some_and(|last| case.tired.contains(&last.check.as_str()));
    let would = match (last, case.next) {
        (_, Some(_)) => "",
        (Some(last), None) if SAME_ERROR.contains(&last.code) => last.would.as_str(),
        (_, None) if same => words::SAME_AGAIN_CANNOT,
        (_, None) => "",
    };
    let ruling = case.ruling(why, Decision::MeasureAgain, sentence, would);
    Ruling {
        asks: case.next.map(|(id, _)| id.to_owned()).filter(|_| !case.here.counted.is_empty()),
        ..ruling
    }
}
