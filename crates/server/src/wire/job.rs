//! A job as it goes over the wire: what every view of it draws from.

use cobaltine_core::calc::CalcError;
use cobaltine_core::judged::OnBench;
use cobaltine_core::judgement::{NextStep, Overtaken};
use cobaltine_core::plan::Plan;
use cobaltine_core::record::{
    ClockStep, Current, IntakeStep, JobFile, Reopened, Seat, SheetRecord, Signed, TestRecord, Timer,
};
use cobaltine_core::standing::{Now, Single, singles};
use cobaltine_core::tests::Verdict;
use cobaltine_core::tests::electrical::Electrical;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::tests::side_by_side::SideBySide;
use cobaltine_core::tests::swap::SwapVerdict;
use cobaltine_core::units;
use cobaltine_core::work::{Stage, Symptom};
use cobaltine_store::JobState;
use jiff::Timestamp;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A job with its verdicts: what every view of a job draws from.
#[derive(Debug, Serialize, ToSchema)]
pub struct JobView {
    /// What holds now: which readings stand, how far each run is, what the next one would be.
    pub current: Current,
    /// Everything that is kept.
    pub file: JobFile,
    /// Cylinders as the strip draws them, pulley end left, bank by bank.
    pub banks: Vec<Vec<u32>>,
    /// One for each return test, in the same order.
    pub verdicts: Vec<Verdict>,
    /// Temperature of each return test as it is said, in the same order; none where it was not read.
    pub temperatures: Vec<Option<String>>,
    /// Labels of the injectors as they sat when each return test was last read, by cylinder, in the
    /// same order: what was read of one never stands under another.
    pub labels_then: Vec<BTreeMap<u32, String>>,
    /// Hours or distance as told, with the workshop's own unit beside it.
    pub usage: String,
    /// One for each check that is read cell by cell, in the same order.
    pub sheets: Vec<SheetView>,
    /// What the electrical checks say together.
    pub electrical: Option<Electrical>,
    /// Conclusions of swaps, oldest first.
    pub swaps: Vec<SwapVerdict>,
    /// The last two return tests, when there are two.
    pub side_by_side: Option<SideBySide>,
    /// Where each injector sits now.
    pub seats: Vec<Seat>,
    /// Timers that run or rang.
    pub timers: Vec<Timer>,
    /// The plan as it stands.
    pub plan: Plan,
    /// The one next step, as board, plan, Decide and report name it.
    pub step: NextStep,
    /// Decisions whose ground changed since they were signed.
    pub overtaken: Vec<Overtaken>,
    /// What the newest bench session says of these injectors.
    pub bench: Option<OnBench>,
    /// Single readings that were corrected, excluded, averaged, or are not of now.
    pub singles: Vec<Single>,
    /// What is complained of now: after a comeback, what it came back with.
    pub symptoms: Vec<Symptom>,
    /// Mark and sentence of each place by now, and the one headline.
    pub now: Now,
    /// The checks that mean something on this fuel system.
    pub fits: Vec<EngineTest>,
    /// A return test means something on it.
    pub has_return: bool,
    /// Who took it in from a file, and when: what it says was signed elsewhere.
    pub imported: Option<ImportedBy>,
    /// Who closed it, and when: until it is opened again nothing is kept.
    pub closed: Option<Signed>,
    /// Why it is not gone on with; empty where it is open or was closed by its proof.
    pub cancelled: String,
    /// Why it is open again after it was closed.
    pub reopened: Option<Reopened>,
    /// Changes of the intake, oldest first.
    pub history: Vec<IntakeStep>,
    /// Where the clock of the machine stepped back.
    pub clock: Vec<ClockStep>,
}

/// Who took a job in from a file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ImportedBy {
    /// As called in the workshop.
    pub name: String,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
}

/// The verdict on a check, or why there is none.
#[derive(Debug, Serialize, ToSchema)]
pub struct SheetView {
    /// The stage that it belongs to.
    pub stage: Stage,
    /// The verdict.
    pub verdict: Option<Verdict>,
    /// What cannot be worked with, in words.
    pub refused: Option<String>,
}

fn labels_then(file: &JobFile, test: &TestRecord) -> BTreeMap<u32, String> {
    let readings = test.runs.iter().flat_map(|run| &run.readings);
    let read = readings.map(|reading| reading.signed.moment()).max();
    let seats = file.seats(Some(read.unwrap_or_else(|| test.signed.moment())));
    seats.into_iter().map(|seat| (seat.cylinder, seat.label)).collect()
}

fn temperature(test: &TestRecord) -> Option<String> {
    test.setup.temperature_c.map(|celsius| units::said(celsius.0, units::C))
}

/// The file as a view needs it: what an instrument showed is fetched when somebody wants it.
fn without_points(file: &JobFile) -> JobFile {
    let mut file = file.clone();
    let runs = file.return_tests.iter_mut().flat_map(|test| &mut test.runs);
    let of_runs = runs.flat_map(|run| &mut run.raw);
    for stretch in of_runs.chain(file.sheets.iter_mut().flat_map(|sheet| &mut sheet.raw)) {
        stretch.packed.clear();
    }
    file
}

impl JobView {
    /// A job with what the rules say of it.
    pub(crate) fn of(
        held: &JobState,
        imported: Option<ImportedBy>,
    ) -> Result<Self, crate::ApiError> {
        let (file, opinion) = (&held.file, held.opinion()?);
        let judged = &opinion.judged;
        let sheet = |(sheet, verdict): (&SheetRecord, &Result<Verdict, CalcError>)| {
            let stage = sheet.check.stage();
            match verdict {
                Ok(verdict) => SheetView { stage, verdict: Some(verdict.clone()), refused: None },
                Err(error) => {
                    SheetView { stage, verdict: None, refused: Some(format!("{error}.")) }
                }
            }
        };
        let intake = &file.job.intake;
        let fuel = intake.fuel_system;
        Ok(Self {
            banks: intake.layout.strip(),
            verdicts: judged.verdicts.clone(),
            temperatures: file.return_tests.iter().map(temperature).collect(),
            labels_then: file.return_tests.iter().map(|test| labels_then(file, test)).collect(),
            usage: intake.usage_said(),
            sheets: file.sheets.iter().zip(&judged.sheets).map(sheet).collect(),
            electrical: judged.electrical.clone(),
            swaps: judged.swaps.clone(),
            side_by_side: judged.side_by_side.clone(),
            seats: judged.seats.clone(),
            timers: judged.timers.clone(),
            plan: judged.plan.clone(),
            step: opinion.step.clone(),
            overtaken: opinion.overtaken.clone(),
            bench: judged.bench.clone(),
            singles: judged.with_verdicts(|verdicts| singles(file, verdicts, &judged.stood)),
            symptoms: file.told().symptoms,
            now: judged.now.clone(),
            fits: EngineTest::sheets().filter(|check| check.fits(fuel)).collect(),
            has_return: fuel.has_return(),
            imported,
            current: file.current(),
            closed: file.closed().map(|closed| closed.signed),
            cancelled: file
                .closed()
                .and_then(|closed| closed.cancelled)
                .unwrap_or_default()
                .to_owned(),
            reopened: file.reopened(),
            history: file.intake_history(),
            clock: file.clock_steps(),
            file: without_points(file),
        })
    }
}
