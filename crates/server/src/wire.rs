//! Everything that goes over the wire and is not a record of the core already. The
//! TypeScript types are generated from these; they are written nowhere else.

mod asked;
mod bench;
mod codes;
mod engine;
mod live;
mod measuring;
mod people;
mod proving;
mod report;
mod set_up;
mod shelf;
mod sign_in;
mod trainer;
mod transfers;
mod typed;

use cobaltine_core::units;
pub use typed::{FamilyRequest, InstrumentRequest, PlanRequest, PresetRequest};

pub use bench::{
    BeginRoundRequest, BeginSessionRequest, BenchCellRequest, BenchFileRequest, BenchFileView,
    BenchFormParams, BenchParams, SessionView, ShimMoveRequest, TagRequest,
};
pub use codes::{
    CaptureRequest, CodeTyped, CodesView, KnobRequest, WriteRequest, WriteWhat, WritingView,
};
pub use engine::{
    BeginSheetRequest, CellRequest, EarlierParams, EventRequest, FormsParams, RecordingRequest,
    ReturnForm, TraceRequest,
};
pub use live::{
    BenchRunRequest, CatchRequest, ConnectionRequest, ConnectionView, EndTraceRequest,
    FaultCodesView, LiveParams, RawParams, ReadRequest, ShownView, TestedConnection,
};
pub use measuring::{
    CanDecideRequest, FamilyView, InstrumentView, ItemView, LibraryParams, LibraryPreview,
    LibraryText, Reference, RejudgeView, RowProblem, RuleHistory, RuleRequest, RuleView,
    SetUpPreview, TextFormat, WeightRowRequest, WeightsRequest,
};
pub use people::{PersonRequest, PersonView, PinRequest};
pub use proving::{LearnedRequest, ProofView, StepRequest, TighteningRequest};
pub use report::{FoundAt, LabelView, PassportParams, ReportView};
pub use shelf::{
    FeatureTyped, KeepSetRequest, MatchingRequest, MatchingState, MatchingView, PlacesRequest,
    PlacesView, ShelfFamilyParams, ShelfParams, ShelfView, WantTyped,
};
pub use sign_in::{
    AccountRequest, AccountView, BenchName, FreshRequest, JoinRequest, LinkView,
    NewPasswordRequest, PasswordRequest, SignInPinRequest, SignInView, SignedInView, TabletRequest,
    TabletView,
};
pub use trainer::{
    CaseView, ExerciseState, ExerciseView, ExercisesParams, PutRightView, TakeUpRequest,
    TrainerAct, TrainerActRequest, TrainerReadRequest, TrainerView,
};
pub use transfers::{ExportRequest, TransferState, TransferView, TransferWhat};

use cobaltine_core::calc::CalcError;
use cobaltine_core::engine::Layout;
use cobaltine_core::entry::Entry;
use cobaltine_core::judged::OnBench;
use cobaltine_core::judgement::{NextStep, Overtaken};
use cobaltine_core::plan::Plan;
use cobaltine_core::profile::Profile;
use cobaltine_core::record::{
    ClockStep, Current, Intake, IntakeStep, JobFile, ReadingKind, Reopened, Seat, SheetRecord,
    Signed, TestRecord, Timer,
};
use cobaltine_core::standing::Now;
use cobaltine_core::start::StartId;
use cobaltine_core::tests::Verdict;
use cobaltine_core::tests::electrical::Electrical;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::tests::side_by_side::SideBySide;
use cobaltine_core::tests::swap::SwapVerdict;
use cobaltine_core::work::{Decision, Phase, Stage, Tone};
use cobaltine_store::JobState;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
pub(crate) use set_up::LookedUp;
pub use set_up::SetUpRequest;
use std::collections::BTreeMap;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

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
    /// Decisions whose readings changed since they were signed.
    pub overtaken: Vec<Overtaken>,
    /// What the newest bench session says of these injectors.
    pub bench: Option<OnBench>,
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

/// What a command added to a job; the same again gets the same answer.
#[derive(Debug, Serialize, ToSchema)]
pub struct KeptView {
    /// The job.
    pub job: Uuid,
    /// The entries, with the places that they have in its log.
    #[schema(value_type = Vec<Object>)]
    pub entries: Vec<Entry>,
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

/// A job to take in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeInRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first.
    pub labels: Vec<String>,
}

/// A change of the intake.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ChangeIntakeRequest {
    /// The revision that was changed.
    pub revision: u64,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first.
    pub labels: Vec<String>,
}

/// The strip of a layout that is still being typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayoutView {
    /// Cylinders, pulley end left, bank by bank; empty while the layout cannot be.
    pub banks: Vec<Vec<u32>>,
    /// What is wrong with it.
    pub problem: Option<String>,
}

/// A run to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginRunRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Start the timer of the program now; otherwise the run was timed elsewhere.
    pub timer: bool,
    /// The phase, in a stepped test.
    #[serde(default)]
    pub phase: Option<Phase>,
    /// The bank that is run alone, counted from 0.
    #[serde(default)]
    pub bank: Option<u32>,
    /// Start conditions that were ticked.
    #[serde(default)]
    pub ticked: Option<Vec<StartId>>,
    /// The instrument that reads it; only with the timer of the program.
    #[serde(default)]
    pub connection: Option<Uuid>,
}

/// A reading, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadingRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// What was read.
    pub kind: ReadingKind,
    /// Cylinder; none for the length of the run.
    pub cylinder: Option<u32>,
    /// As typed. Nothing at all lets the running timer say the time.
    pub typed: Option<String>,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why.
    pub why: Option<String>,
}

/// Why a run does not count, or that it counts again.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AsideRequest {
    /// In a few words; not needed where it counts again.
    #[serde(default)]
    pub reason: String,
    /// It counts again.
    #[serde(default)]
    pub back: bool,
}

/// The workshop itself, written down anew.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ProfileRequest {
    /// The revision that was changed; 0 for the first.
    pub revision: u32,
    /// What it says now.
    pub profile: Profile,
}

/// What was decided about one injector.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecisionRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Cylinder.
    pub cylinder: u32,
    /// What to do.
    pub decision: Decision,
    /// Why.
    pub reason: String,
}

/// Decisions of one moment: all are kept or none.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecideRequest {
    /// At least one.
    pub decisions: Vec<DecisionRequest>,
}

/// A note on a stage.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NoteRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Where it belongs.
    pub stage: Stage,
    /// What was done or seen.
    pub text: String,
}

/// What an import did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportView {
    /// The job.
    pub id: Uuid,
    /// It was here already, the very same.
    pub already_here: bool,
}

/// The question for customers.
#[derive(Debug, Deserialize, IntoParams)]
pub struct CustomerParams {
    /// Words of the name or the telephone.
    #[serde(default)]
    pub q: String,
    /// From 0.
    #[serde(default)]
    pub page: u32,
}

/// The bench plan of a family.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchPlanView {
    /// None where the library has none.
    pub plan: Option<Uuid>,
}

/// The question to the board.
#[derive(Debug, Deserialize, IntoParams)]
pub struct BoardParams {
    /// Words to find.
    #[serde(default)]
    pub q: String,
    /// Only jobs that read so.
    pub tone: Option<Tone>,
    /// From 0.
    #[serde(default)]
    pub page: u32,
    /// At most 100; 20 when missing.
    pub per_page: Option<u32>,
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

impl LayoutView {
    pub(crate) fn of(layout: Layout) -> Self {
        match layout.check() {
            Ok(()) => Self { banks: layout.strip(), problem: None },
            Err(error) => Self { banks: Vec::new(), problem: Some(error.to_string()) },
        }
    }
}
