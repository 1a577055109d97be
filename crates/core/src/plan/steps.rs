//! The steps that a plan is made from: the codes, every test on the engine in the order of its
//! registry, and what follows from them.

use super::{PlanStep, StepId, StepState};
use crate::caution::{self, Caution, Work};
use crate::engine::FuelSystem;
use crate::plan::words;
use crate::record::Intake;
use crate::tests::complaint::{Complaint, Why, why};
use crate::tests::engine::{EngineTest, Outcome};
use crate::work::{FaultCodes, Stage};

/// Names one step.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Step {
    /// What the control unit stored.
    Codes,
    /// A test on the engine.
    Test(EngineTest),
    /// Two injectors change places.
    Swap,
    /// Off the engine.
    Bench,
}

impl Step {
    /// Every step, in the order of the trade.
    pub fn all() -> impl Iterator<Item = Self> {
        let tests = EngineTest::ALL.iter().copied().map(Self::Test);
        [Self::Codes].into_iter().chain(tests).chain([Self::Swap, Self::Bench])
    }

    /// As written in the database.
    pub fn name(self) -> &'static str {
        match self {
            Self::Codes => "codes",
            Self::Test(test) => test.name(),
            Self::Swap => "swap",
            Self::Bench => "bench",
        }
    }

    /// Its name in a plan.
    pub fn id(self) -> StepId {
        StepId(self.name().to_owned())
    }

    /// It means something on such an engine.
    pub fn fits(self, fuel: FuelSystem) -> bool {
        match self {
            Self::Test(test) => test.fits(fuel),
            Self::Codes | Self::Swap | Self::Bench => true,
        }
    }

    /// The check that it opens.
    pub fn check(self) -> Option<EngineTest> {
        match self {
            Self::Test(test) => Some(test).filter(|test| test.by_cells()),
            Self::Codes | Self::Swap | Self::Bench => None,
        }
    }
}

/// The step as planned from the complaint alone; none when it has no place in this job.
pub(super) fn planned(step: Step, intake: &Intake) -> Option<PlanStep> {
    let fuel = intake.fuel_system;
    let Why { says: reason, spared_by } = why_of(step, fuel, &Complaint::of(intake))?;
    let (title, stage, minutes, tools, cautions) = words(step, fuel);
    let read = intake.story.fault_codes;
    let done = step == Step::Codes && read != FaultCodes::NotRead;
    Some(PlanStep {
        id: step.id(),
        title,
        stage,
        check: step.check(),
        minutes,
        tools,
        cautions,
        why: reason.to_owned(),
        spared_by: spared_by.to_owned(),
        state: if done { StepState::Done } else { StepState::Open },
        says: match (done, read) {
            (true, FaultCodes::Stored) => format!("Stored: {}", intake.story.codes),
            (true, FaultCodes::None | FaultCodes::NotRead) => {
                words::NONE_STORED_MECHANICAL_FAULT.to_owned()
            }
            (false, _) => String::new(),
        },
        found: Outcome::Open,
    })
}

/// Title, stage, minutes, tools, cautions.
fn words(step: Step, fuel: FuelSystem) -> (String, Stage, u32, String, Vec<Caution>) {
    let (title, stage, minutes, tools, cautions) = match step {
        Step::Codes => (
            words::READ_FAULT_CODES_STORED,
            Stage::TakeIn,
            5,
            words::SCAN_TOOL_SUPPORT_CHARGER,
            Vec::new(),
        ),
        Step::Test(test) => {
            let form = test.form(Some(fuel));
            return (form.title, form.stage, form.minutes, form.tools, form.cautions);
        }
        Step::Swap => (
            words::SWAP_TWO_INJECTORS_REPEAT,
            Stage::OnEngine,
            40,
            words::NEW_SEALING_WASHERS_SEALS,
            caution::with(&[caution::DEPRESSURISE, caution::JET], &Work::Swap.cautions(fuel)),
        ),
        Step::Bench => (
            words::BENCH_LEAK_SPRAY_FLOW,
            Stage::Bench,
            60,
            words::BENCH_FILTER_BASKETS_SEALS,
            vec![caution::JET, caution::VAPOUR, caution::WASTE],
        ),
    };
    (title.to_owned(), stage, minutes, tools.to_owned(), cautions)
}

/// Why the step is in this plan, and what would make it unnecessary.
fn why_of(step: Step, fuel: FuelSystem, c: &Complaint<'_>) -> Option<Why> {
    match step {
        Step::Codes => why(words::TAKES_FIVE_MINUTES_WRITE, words::FAULT_CODES_READ_ELSEWHERE),
        Step::Test(test) => test.why(c).filter(|_| test.fits(fuel)),
        Step::Swap => why(words::TELLS_INJECTOR_LINE_WIRING, words::NOTHING_FOLLOW_CAUSE_PROVEN),
        Step::Bench => why(
            if c.clean { words::CHECK_CLEAN_BENCH_WORK } else { words::ONLY_BENCH_SHOWS_SPRAY },
            words::CAUSE_FOUND_OUTSIDE_INJECTOR,
        ),
    }
}
