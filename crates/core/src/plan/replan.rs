//! What results do to the plan: a step is done, made to wait, or made unnecessary.

use super::steps::Step;
use super::{Known, PlanStep, PutRight, StepState};
use crate::mark::Mark;
use crate::plan::words;
use crate::record::Intake;
use crate::standing::Test;
use crate::tests::Verdict;
use crate::tests::complaint::Complaint;
use crate::tests::electrical::{Named, Place};
use crate::tests::engine::{EngineTest, Outcome};
use crate::tests::swap::SwapSays;
use crate::words::list;
use crate::work::{Lately, Suffers};

/// Cylinders that this verdict names as bad.
fn named(lanes: impl Iterator<Item = (u32, Mark)>) -> Vec<u32> {
    let bad = lanes.filter(|(_, mark)| matches!(mark, Mark::TooMuch | Mark::TooLittle));
    let mut named: Vec<u32> = bad.map(|(cylinder, _)| cylinder).collect();
    named.sort_unstable();
    named
}

fn of_sheet(verdict: &Verdict) -> Vec<u32> {
    named(verdict.lanes.iter().map(|lane| (lane.place, lane.mark)))
}

impl<'a> Known<'a> {
    fn sheet(&self, id: EngineTest) -> Option<&'a Verdict> {
        let found = self.sheets.iter().rfind(|(check, _)| *check == id).map(|(_, v)| *v);
        found.filter(|v| v.outcome != Outcome::Open)
    }

    fn fault(&self, id: EngineTest) -> Option<&'a Verdict> {
        self.sheet(id).filter(|v| v.outcome == Outcome::Fault)
    }

    /// Cylinders that a comparison on the engine names by what counts now, and which one did.
    fn compared(&self) -> Option<(&'static str, Vec<u32>)> {
        let named = |test: EngineTest| {
            let of = self
                .stood
                .iter()
                .filter(|one| one.test == Test::Engine(test) && one.here.counts() && one.is_bad());
            let mut named: Vec<u32> = of.filter_map(|one| one.cylinder).collect();
            named.sort_unstable();
            named
        };
        // The test that says most leads: those later in the order of work.
        let cells = EngineTest::sheets().rev().filter(|id| id.follows().is_some());
        let by = cells.map(|id| (id.title(), named(id)));
        let returned = [("return test", named(EngineTest::ReturnTest))];
        returned.into_iter().chain(by).find(|(_, named)| !named.is_empty())
    }
}

/// Works the results into the plan.
pub(super) fn by_results(steps: &mut [PlanStep], intake: &Intake, known: Known<'_>) {
    let returned = Step::Test(EngineTest::ReturnTest).id();
    for step in steps.iter_mut() {
        if let Some(verdict) = step.check.and_then(|id| known.sheet(id)) {
            step.state = StepState::Done;
            step.says = verdict.headline.clone();
            step.found = verdict.outcome;
        }
        if let Some(verdict) = known.returned.filter(|_| step.id == returned) {
            step.found = verdict.outcome;
        }
    }
    let mut set = |step: Step, state: StepState, says: String| {
        let id = step.id();
        if let Some(step) = steps.iter_mut().find(|s| s.id == id && s.state == StepState::Open) {
            step.state = state;
            step.says = says;
        }
    };
    if let Some(verdict) = known.returned {
        set(Step::Test(EngineTest::ReturnTest), StepState::Done, verdict.headline.clone());
    }
    if let Some(swap) = known.swaps.last() {
        set(Step::Swap, StepState::Done, swap.headline.clone());
    }
    if let Some(says) = known.bench {
        set(Step::Bench, StepState::Done, says.to_owned());
    }
    if let Some((word, cylinders)) = known.compared() {
        let says = words::already_points(word, list(&cylinders));
        set(Step::Test(EngineTest::Cutout), StepState::Spared, says);
    } else {
        set(Step::Swap, StepState::Waits, words::UNTIL_COMPARISON_POINTS_ONE.to_owned());
    }
    if intake.story.suffering(intake.layout.cylinders) == Suffers::One
        && !intake.story.lately.contains(&Lately::RefuelledElsewhere)
    {
        let says = words::ONE_CYLINDER_AFFECTED_BAD.to_owned();
        set(Step::Test(EngineTest::FuelSample), StepState::Spared, says);
    }
    if let (Some(SwapSays::Stays), None) = (known.swaps.last().map(|swap| swap.says), known.bench) {
        set(Step::Bench, StepState::Spared, words::SWAP_SHOWS_NOT_INJECTOR.to_owned());
    }
    if let Some(SwapSays::Follows) = known.swaps.last().map(|swap| swap.says) {
        let bench = Step::Bench.id();
        for step in steps.iter_mut().filter(|s| s.state == StepState::Open && s.id != bench) {
            step.state = StepState::Spared;
            words::SWAP_SHOWS_INJECTOR.clone_into(&mut step.says);
        }
    }
    if put_right_first(intake, known).is_some() {
        // What it waits for is said once, over the plan.
        let open = steps.iter_mut().filter(|s| s.state == StepState::Open);
        open.for_each(|step| step.state = StepState::Waits);
    }
}

/// A cause off the injector that was found: all share it, or a leg, or the cylinder itself.
pub(super) fn put_right_first(intake: &Intake, known: Known<'_>) -> Option<PutRight> {
    let one = intake.story.suffering(intake.layout.cylinders) == Suffers::One;
    let fault = EngineTest::ALL
        .iter()
        .copied()
        .filter(|id| id.comes_first())
        // Bad fuel does not excuse the one cylinder that suffers alone.
        .filter(|id| !(one && *id == EngineTest::FuelSample))
        .find_map(|id| Some((id, known.fault(id)?)));
    if let Some((id, fault)) = fault {
        return Some(PutRight { check: id, stage: id.stage(), says: fault.headline.clone() });
    }
    let wired = |named: &&Named| match named.place {
        Place::Fuse | Place::Signal | Place::Leg | Place::Plug | Place::Driver => true,
        Place::Injector => false,
    };
    if let Some(electrical) = known.electrical.filter(|e| e.named.iter().any(|n| wired(&n))) {
        let check = if known.fault(EngineTest::Supply).is_some() {
            EngineTest::Supply
        } else {
            EngineTest::Indicator
        };
        let says = electrical.headline.clone();
        return Some(PutRight { check, stage: check.stage(), says });
    }
    // Weak in a comparison and weak in compression: the same cylinder, and not its injector.
    let weak = known.fault(EngineTest::Compression).map(of_sheet)?;
    let (_, compared) = known.compared()?;
    compared.iter().all(|c| weak.contains(c)).then(|| PutRight {
        check: EngineTest::Compression,
        stage: EngineTest::Compression.stage(),
        says: words::low_compression_mechanical_not(list(&compared)),
    })
}

/// What the complaint and the results say about where to look, in a sentence or two.
pub(super) fn steer(intake: &Intake, known: Known<'_>) -> String {
    let complaint = Complaint::of(intake);
    if let Some(first) = put_right_first(intake, known) {
        // A leg or one cylinder excuses its own place, what all share excuses every injector.
        let own = [EngineTest::Supply, EngineTest::Indicator, EngineTest::Compression];
        let waits = if own.contains(&first.check) { "" } else { words::JUDGE_NO_INJECTOR_BEFORE };
        return words::fix_first_repeat_check(&first.says, waits);
    }
    if let Some(swap) = known.swaps.last() {
        return format!("{} {}", swap.headline, swap.next);
    }
    if let Some((word, cylinders)) = known.compared() {
        return words::points_swap_tell_injector(word, list(&cylinders));
    }
    let says = match (complaint.shared, intake.story.suffering(intake.layout.cylinders)) {
        _ if complaint.clean => words::NO_COMPLAINT_MEASURE_BEFORE,
        (true, _) => words::ALL_CYLINDERS_AFFECTED_LAST,
        (false, Suffers::One) => words::ONE_CYLINDER_AFFECTED_SUSPECT,
        (false, Suffers::Several) if !complaint.start => words::SEVERAL_AFFECTED,
        (false, _) if complaint.start => words::HARD_STARTING_CHECK_FUEL,
        (false, _) => words::AFFECTED_CYLINDERS_UNKNOWN_CHEAP,
    };
    says.to_owned()
}
