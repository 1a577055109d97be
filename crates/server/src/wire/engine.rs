//! What goes over the wire of the work on the engine: checks and their cells, events, traces, and
//! what a test needs before it.

use super::DecisionRequest;
use cobaltine_core::caution::Caution;
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::record::Event;
use cobaltine_core::start::StartForm;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::Regime;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Something that happened besides readings.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EventRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// What.
    pub event: Event,
    /// The decision that it rests on, where none of the kind was made before.
    #[serde(default)]
    pub decision: Option<DecisionRequest>,
}

/// A pressure trace as a CSV text.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TraceRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Name of the file.
    pub name: String,
    /// Time and pressure, with or without a heading that names their units.
    pub text: String,
    /// Cylinders in the order in which they were pulsed.
    pub order: Vec<u32>,
}

/// A sound or a current of one injector.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RecordingRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Listening takes a WAV file, the current ramp a CSV file of time and current.
    pub check: EngineTest,
    /// The cylinder that it was recorded at.
    pub cylinder: u32,
    /// Name of the file.
    pub name: String,
    /// What drove it, as typed: engine speed in rpm for a sound (a pulse each second turn), supply
    /// voltage for a current, which may be empty, the firing order for the current of the starter.
    pub drive: String,
    /// The file, base64; empty where an instrument takes it.
    pub file: String,
    /// The microphone or the clamp that takes it now.
    #[serde(default)]
    pub connection: Option<Uuid>,
}

/// What a return test of one regime needs before it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReturnForm {
    /// Engine regime.
    pub regime: Regime,
    /// What has to be so before a run.
    pub start: Vec<StartForm>,
    /// Cautions, before the step.
    pub cautions: Vec<Caution>,
}

/// The question for earlier jobs of a machine.
#[derive(Debug, Deserialize, IntoParams)]
pub struct EarlierParams {
    /// As written in the job.
    pub machine: String,
    /// The job that asks.
    pub but: Option<Uuid>,
}

/// For which engine forms are asked for.
#[derive(Debug, Deserialize, IntoParams)]
pub struct FormsParams {
    /// Its fuel system: the cautions depend on it.
    pub fuel: Option<FuelSystem>,
}

/// A check to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginSheetRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Which check.
    pub check: EngineTest,
    /// What it is read with, when it is an instrument of the workshop.
    pub instrument: Option<Uuid>,
}

/// A cell as it was left.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CellRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The check that it belongs to.
    pub check: EngineTest,
    /// Name of the cell.
    pub cell: String,
    /// Cylinder; none for a cell of the whole set.
    pub cylinder: Option<u32>,
    /// As typed; empty to take the reading back.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// The reading of an instrument that it was taken from; none where a person read and typed it.
    #[serde(default)]
    pub shown: Option<Uuid>,
}
