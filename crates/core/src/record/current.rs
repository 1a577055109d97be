//! What of a job holds now: which readings stand, which decision is the newest, how far a run is,
//! what the next run would be. Views draw it and decide nothing of it.

use super::{Event, JobFile, Reading, RunRecord, TestRecord};
use crate::start::StartId;
use crate::tests::engine::EngineTest;
use crate::work::{Phase, Regime, Stage};
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// What holds now.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Current {
    /// Stages in which something was done, in the order of work.
    pub worked: Vec<Stage>,
    /// Every run of every return test, in the order of the file.
    pub runs: Vec<RunNow>,
    /// Cells of checks that stand, emptied ones included.
    pub cells: Vec<Uuid>,
    /// The newest decision of each cylinder.
    pub decisions: Vec<Uuid>,
    /// The newest swap.
    pub swapped: Option<Uuid>,
    /// The newest clearing of the cylinders that nobody undid.
    pub cleared: Option<Uuid>,
    /// What a run that is begun now would be; none without a return test.
    pub next_run: Option<NextRun>,
}

/// How far a run is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RunState {
    /// Its timer is going.
    Running,
    /// Bottles or its length are still to be read.
    Reading,
    /// Everything was read.
    Read,
    /// It does not count.
    Aside,
}

/// One run as it stands.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RunNow {
    /// The run.
    pub run: Uuid,
    /// How far it is.
    pub state: RunState,
    /// Cylinders of its bank, or all, as the strip shows them.
    pub covers: Vec<u32>,
    /// Those of them that were not read yet.
    pub unread: Vec<u32>,
    /// Readings that stand.
    pub readings: Vec<Uuid>,
    /// The reading that says how long it was.
    pub length: Option<Uuid>,
}

/// What the next run would be: the same again, another phase, the other bank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct NextRun {
    /// As it is counted, from 1.
    pub number: u32,
    /// The phase, in a stepped test.
    pub phase: Option<Phase>,
    /// The bank, where the last one was run alone.
    pub bank: Option<u32>,
    /// Start conditions that held before the last run and likely hold on; what has to be done anew
    /// is not among them.
    pub ticked: Vec<StartId>,
    /// Injectors moved, or were replaced, cleaned or set since the test was set up: the next run is of a
    /// test of its own, under the same conditions.
    pub again: bool,
}

impl RunRecord {
    /// It was not taken back before anything was read in it: one begun by mistake leaves nothing.
    fn left_something(&self) -> bool {
        self.set_aside.is_none() || !self.readings.is_empty() || !self.raw.is_empty()
    }
}

impl TestRecord {
    /// What the next run is counted as, from 1.
    pub(crate) fn next_number(&self) -> u32 {
        self.runs.iter().filter(|run| run.left_something()).count() as u32 + 1
    }
}

impl JobFile {
    /// What holds now.
    pub fn current(&self) -> Current {
        let newest = |wanted: &dyn Fn(&Event) -> bool| {
            self.happened().filter(|held| wanted(&held.event)).last().map(|held| held.id)
        };
        let undone = |id: Uuid| {
            let of_it =
                |event: &Event| matches!(event, Event::ClearingUndone { of, .. } if *of == id);
            self.events.iter().any(|held| of_it(&held.event))
        };
        let clearings = self.events.iter().rev();
        let mut clearings = clearings
            .filter(|held| matches!(held.event, Event::Cleared { .. }) && !undone(held.id));
        let decided: BTreeMap<u32, Uuid> =
            self.decisions.iter().map(|one| (one.cylinder, one.id)).collect();
        let runs = self.return_tests.iter().flat_map(|test| &test.runs);
        Current {
            worked: self.worked(),
            runs: runs.map(|run| self.run_now(run)).collect(),
            cells: self.sheets.iter().flat_map(|s| s.standing()).map(|cell| cell.id).collect(),
            decisions: decided.into_values().collect(),
            swapped: newest(&|event| matches!(event, Event::Swapped { .. })),
            cleared: clearings.next().map(|held| held.id),
            next_run: self.return_tests.last().map(|test| self.next_run(test)),
        }
    }

    fn worked(&self) -> Vec<Stage> {
        let mut stages = vec![Stage::TakeIn];
        stages.extend(self.notes.iter().map(|note| note.stage));
        stages.extend(self.sheets.iter().map(|sheet| sheet.check.stage()));
        stages.extend(self.events.iter().filter_map(|held| held.event.stage()));
        let some = [
            (Stage::OnEngine, self.return_tests.iter().any(|test| !test.runs.is_empty())),
            (Stage::Bench, !self.bench.is_empty()),
            (Stage::Decide, !self.decisions.is_empty()),
        ];
        stages.extend(some.into_iter().filter(|(_, there)| *there).map(|(stage, _)| stage));
        stages.sort_unstable();
        stages.dedup();
        stages
    }

    fn run_now(&self, run: &RunRecord) -> RunNow {
        let layout = &self.job.intake.layout;
        let standing: Vec<&Reading> = run.standing().collect();
        let read = |cylinder: &u32| standing.iter().any(|one| one.cylinder == Some(*cylinder));
        let banks = layout.strip();
        let bank = run.bank.and_then(|bank| banks.get(bank as usize)).cloned();
        let covers = bank.unwrap_or_else(|| banks.concat());
        let unread: Vec<u32> = covers.iter().copied().filter(|one| !read(one)).collect();
        let length = run.length();
        let state = if run.set_aside.is_some() {
            RunState::Aside
        } else if run.is_running() {
            RunState::Running
        } else if unread.is_empty() && length.is_some() {
            RunState::Read
        } else {
            RunState::Reading
        };
        RunNow {
            run: run.id,
            state,
            covers,
            unread,
            readings: standing.iter().map(|one| one.id).collect(),
            length: length.map(|one| one.id),
        }
    }

    fn next_run(&self, test: &TestRecord) -> NextRun {
        let last = test.counting().last();
        let banks = self.job.intake.layout.banks;
        let after = |phase: Option<Phase>| match phase {
            None | Some(Phase::IdleAgain) => Phase::Idle,
            Some(Phase::Idle) => Phase::Raised,
            Some(Phase::Raised) => Phase::IdleAgain,
        };
        let stepped = test.setup.regime == Regime::Stepped;
        let ticked = last.and_then(|run| run.ticked.clone()).unwrap_or_default();
        NextRun {
            number: test.next_number(),
            phase: stepped.then(|| after(last.and_then(|run| run.phase))),
            bank: last.and_then(|run| run.bank).filter(|_| banks > 1).map(|at| (at + 1) % banks),
            again: self.changed_since(test.signed.moment(), EngineTest::ReturnTest.property()),
            ticked: ticked.into_iter().filter(|one| *one != StartId::HosesPurged).collect(),
        }
    }
}

impl Event {
    /// The stage that it is work of, where it is of one.
    fn stage(&self) -> Option<Stage> {
        match self {
            Self::Fitted { .. }
            | Self::Replaced { .. }
            | Self::CodesRead { .. }
            | Self::CodeCaptured { .. }
            | Self::WriteBegun { .. } => Some(Stage::Refit),
            Self::Proved { .. } | Self::LearnedRead { .. } | Self::Closed { .. } => {
                Some(Stage::Prove)
            }
            Self::Swapped { .. }
            | Self::SwapUndone { .. }
            | Self::Placed { .. }
            | Self::FoundTrouble { .. }
            | Self::Tightening { .. }
            | Self::UnitNumbered { .. }
            | Self::WriteEnded(_)
            | Self::Reviewed { .. }
            | Self::Reopened { .. }
            | Self::Cancelled { .. }
            | Self::Exercise(_)
            | Self::ReturnConfirmed { .. }
            | Self::ComplaintAsked { .. }
            | Self::Cleared { .. }
            | Self::ClearingUndone { .. }
            | Self::TimerSet { .. }
            | Self::TimerOff { .. }
            | Self::StepAdded { .. }
            | Self::StepDone { .. }
            | Self::StepSkipped { .. }
            | Self::StepBack { .. }
            | Self::StepFirst { .. } => None,
        }
    }
}
