//! Everything that goes over the wire and is not a record of the core already. The
//! TypeScript types are generated from these; they are written nowhere else.

mod asked;
mod bench;
mod codes;
mod engine;
mod job;
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

pub use typed::{FamilyRequest, InstrumentRequest, PlanRequest, PresetRequest};

pub use bench::{
    BeginRoundRequest, BeginSessionRequest, BenchCellRequest, BenchFileRequest, BenchFileView,
    BenchFormParams, BenchParams, SessionView, ShimMoveRequest, TagRequest, TubeView,
};
pub use codes::{
    CaptureRequest, CodeTyped, CodesView, KnobRequest, WriteRequest, WriteWhat, WritingView,
};
pub use engine::{
    BeginSheetRequest, CellRequest, EarlierParams, EventRequest, FormsParams, RecordingRequest,
    ReturnForm, TraceRequest,
};
pub use job::{ImportedBy, JobView, SheetView};
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

use cobaltine_core::engine::Layout;
use cobaltine_core::entry::Entry;
use cobaltine_core::profile::Profile;
use cobaltine_core::record::{Intake, ReadingKind};
use cobaltine_core::start::StartId;
use cobaltine_core::work::{Decision, Phase, Stage, Tone};
use serde::{Deserialize, Serialize};
pub(crate) use set_up::LookedUp;
pub use set_up::SetUpRequest;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// What a command added to a job; the same again gets the same answer.
#[derive(Debug, Serialize, ToSchema)]
pub struct KeptView {
    /// The job.
    pub job: Uuid,
    /// The entries, with the places that they have in its log.
    #[schema(value_type = Vec<Object>)]
    pub entries: Vec<Entry>,
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

impl LayoutView {
    pub(crate) fn of(layout: Layout) -> Self {
        match layout.check() {
            Ok(()) => Self { banks: layout.strip(), problem: None },
            Err(error) => Self { banks: Vec::new(), problem: Some(error.to_string()) },
        }
    }
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
