//! What goes over the wire of codes.

use cobaltine_core::caution::Caution;
use cobaltine_core::codes::{BenchCode, Capture, Coding, SlotCode};
use cobaltine_core::library::CodePattern;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// How the codes of a job stand.
#[derive(Debug, Serialize, ToSchema)]
pub struct CodesView {
    /// Slot by slot.
    pub coding: Coding,
    /// The pattern of the family, where one is known.
    pub pattern: Option<CodePattern>,
    /// A control unit is set up.
    pub unit: bool,
    /// It is the stand-in, which has knobs.
    pub stand_in: bool,
    /// Codes from the bench that are not the captured ones.
    pub bench: Vec<BenchCode>,
    /// Before anything is written.
    pub cautions: Vec<Caution>,
    /// The newest writing of this run of the program.
    pub writing: Option<WritingView>,
}

/// A writing, going on or over.
#[derive(Debug, Clone, Default, Serialize, ToSchema)]
pub struct WritingView {
    /// Still going on.
    pub running: bool,
    /// The cylinder that is written now.
    pub cylinder: Option<u32>,
    /// Percent of it.
    pub percent: u32,
    /// Cylinders that were written.
    pub done: usize,
    /// Of so many.
    pub of: usize,
    /// Read back, and everything is as it has to be.
    pub good: bool,
    /// The end in words.
    pub says: String,
}

/// A code as typed, scanned or pasted.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CodeTyped {
    /// As it came in.
    pub typed: String,
}

/// The code of an injector.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CaptureRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The injector.
    pub injector: Uuid,
    /// As it came in.
    pub typed: String,
    /// The second time; needed when it was typed by hand.
    pub again: Option<String>,
    /// How.
    pub how: Capture,
}

/// What is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WriteWhat {
    /// What belongs there.
    Plan,
    /// What was there before the newest writing.
    PutBack,
}

/// Writes codes, as they were looked at.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WriteRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// What.
    pub what: WriteWhat,
    /// What was shown, so that nothing else is written.
    pub writes: Vec<SlotCode>,
}

/// A knob of the stand-in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KnobRequest {
    /// `ignition`, `engine`, `volts`, `fault`, `drive`.
    pub what: String,
    /// `on`, `off`, a number, or a fault.
    pub to: String,
}
