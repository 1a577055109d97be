//! What goes over the wire of fitting and proving.

use super::typed::{Reader, torque};
use cobaltine_core::library::TorqueStage;
use cobaltine_core::proving::Proof;
use cobaltine_core::record::FieldProblem;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// How the clamp is tightened, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TighteningRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Stages one after the other, such as `8; 12; 90°`: N·m unless a unit follows.
    pub typed: String,
    /// Where the figures are from.
    pub source: String,
}

impl TighteningRequest {
    /// Stage by stage, or what cannot be read.
    pub(crate) fn stages(&self) -> Result<Vec<TorqueStage>, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let stages = torque(&mut reader, "typed", &self.typed);
        reader.done(stages)
    }
}

/// Does a step that needs nothing but an id.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StepRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
}

/// How the proof of a job stands.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProofView {
    /// Item by item.
    pub proof: Proof,
    /// A control unit is set up.
    pub unit: bool,
    /// It is the stand-in, which has knobs.
    pub stand_in: bool,
}
