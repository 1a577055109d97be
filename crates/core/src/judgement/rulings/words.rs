//! Words of decisions: what a rule is called, what a decision is called among several, and what
//! the practice adds to the work.

use super::Why;
use crate::engine::FuelSystem;
use crate::work::Decision;

/// The rule in a few words.
pub(in crate::judgement) fn rule_word(why: Why) -> &'static str {
    match why {
        Why::SharedFault => "what all share first",
        Why::NewAsBad => "a new part that reads like the old",
        Why::Contradiction => "resolve the contradiction",
        Why::HarnessLeg => "its leg of the harness",
        Why::Mechanical => "mechanical",
        Why::Driver => "driver",
        Why::Ignition => "ignition",
        Why::LineRestricted => "its line",
        Why::SeatGas => "its seat",
        Why::PlaceUnclear => "the place",
        Why::LiftOff => "lift",
        Why::ShimAgainst => "question the fit",
        Why::AllAlikeOff => "all alike is seldom wear",
        Why::RunOdd => "question the run",
        Why::CannotDecide => "the instrument cannot decide",
        Why::Doubtful => "doubt",
        Why::MoreRuns => "proof before money",
        Why::CoilDead => "coil",
        Why::Worn | Why::WornAfterCleaning | Why::MapWorn => "worn",
        Why::CleaningSpent => "cleaning is spent",
        Why::Restricted => "dirt",
        Why::TipLeak | Why::TipLeakAgain => "leak",
        Why::Slow | Why::SlowAgain => "slow",
        Why::NeedsOwnEvidence => "evidence of its own first",
        Why::InjectorUnclear => "the injector",
        Why::OppositeInSet => "find the source first",
        Why::Uncoded => "code",
        Why::NothingAgainst => "nothing against it",
        Why::NothingMeasured => "not measured",
        Why::NotEnough => "not enough",
    }
}

/// What a decision is called in a sentence about several.
pub(in crate::judgement) fn verb(decision: Decision) -> &'static str {
    match decision {
        Decision::Leave => "leave",
        Decision::Clean => "clean",
        Decision::Adjust => "recondition",
        Decision::Recode => "recode",
        Decision::Match => "match",
        Decision::Replace => "replace or recondition",
        Decision::RepairHarness => "repair the harness of",
        Decision::LookElsewhere => "look elsewhere for",
        Decision::MeasureAgain => "measure again",
    }
}

/// What belongs to the work besides.
pub(super) fn afterwards(decision: Decision, fuel: FuelSystem) -> Vec<String> {
    let says = |lines: &[&str]| lines.iter().map(|line| (*line).to_owned()).collect();
    let fitted = "Clean rail, bore and seat; new seals and washers; leak check before the start and running.";
    let coding =
        "Write its trim code, read it back, clear learned values and do the relearn drive.";
    let rough = "Rough running before coding and relearning is to be expected.";
    match decision {
        Decision::Replace | Decision::Adjust if fuel.coded() => says(&[fitted, coding, rough]),
        Decision::Replace | Decision::Adjust => says(&[fitted]),
        Decision::Clean => says(&[fitted, "Repeat the same test under the same conditions."]),
        Decision::Recode => says(&[rough]),
        Decision::Leave
        | Decision::Match
        | Decision::RepairHarness
        | Decision::LookElsewhere
        | Decision::MeasureAgain => Vec::new(),
    }
}
