//! The id under which each request may be asked again.

use super::{
    AccountRequest, AsideRequest, BeginRoundRequest, BeginRunRequest, BeginSessionRequest,
    BeginSheetRequest, BenchCellRequest, BenchFileRequest, CaptureRequest, CatchRequest,
    CellRequest, ChangeIntakeRequest, ConnectionRequest, DecideRequest, EndTraceRequest,
    EventRequest, FamilyRequest, InstrumentRequest, KeepSetRequest, LearnedRequest, LibraryText,
    NoteRequest, PersonRequest, PinRequest, PlanRequest, PresetRequest, ProfileRequest,
    ReadingRequest, RecordingRequest, RuleRequest, SetUpRequest, ShimMoveRequest, StepRequest,
    TakeInRequest, TakeUpRequest, TighteningRequest, TraceRequest, TrainerActRequest,
    TrainerReadRequest, WeightRowRequest, WeightsRequest, WriteRequest,
};
use crate::extract::Asked;
use cobaltine_core::customer::Customer;
use cobaltine_core::library::LibraryItem;
use cobaltine_core::record::{JobFile, Person};
use cobaltine_core::role::Right;
use uuid::Uuid;

/// What is made under an id of its own: that is the id of the act as well.
macro_rules! makes {
    ($($request:ty),* $(,)?) => {$(
        impl Asked for $request {
            fn id(&self) -> Option<Uuid> {
                Some(self.id)
            }
        }
    )*};
}

/// What changes something that is there already: the id of the act comes with the request, or the
/// act is one that cannot be told apart from another.
macro_rules! changes {
    ($($request:ty),* $(,)?) => {$(
        impl Asked for $request {
            fn id(&self) -> Option<Uuid> {
                None
            }
        }
    )*};
}

makes!(
    BeginRoundRequest,
    BeginRunRequest,
    BeginSessionRequest,
    BeginSheetRequest,
    BenchCellRequest,
    BenchFileRequest,
    CaptureRequest,
    CellRequest,
    EndTraceRequest,
    KeepSetRequest,
    LearnedRequest,
    NoteRequest,
    Person,
    ReadingRequest,
    SetUpRequest,
    ShimMoveRequest,
    StepRequest,
    TakeInRequest,
    TighteningRequest,
    RecordingRequest,
    TraceRequest,
    TrainerActRequest,
    TrainerReadRequest,
    WriteRequest,
);

changes!(
    AccountRequest,
    AsideRequest,
    CatchRequest,
    ChangeIntakeRequest,
    ConnectionRequest,
    Customer,
    FamilyRequest,
    InstrumentRequest,
    JobFile,
    LibraryItem,
    LibraryText,
    RuleRequest,
    ProfileRequest,
    PersonRequest,
    PinRequest,
    PlanRequest,
    PresetRequest,
    WeightRowRequest,
    WeightsRequest,
);

/// Each kind of event takes a right of its own.
impl Asked for EventRequest {
    fn id(&self) -> Option<Uuid> {
        Some(self.id)
    }

    fn right(&self) -> Option<Right> {
        Some(self.event.right())
    }
}

/// Decisions of one moment are one act, known by the first.
impl Asked for DecideRequest {
    fn id(&self) -> Option<Uuid> {
        self.decisions.first().map(|one| one.id)
    }
}

impl Asked for TakeUpRequest {
    fn id(&self) -> Option<Uuid> {
        Some(self.id)
    }

    // Who sets a case for somebody else reads what came of it.
    fn right(&self) -> Option<Right> {
        self.learner.map(|_| Right::Sign)
    }
}
