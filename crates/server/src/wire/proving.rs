//! What goes over the wire of fitting and proving.

use super::typed::{Reader, torque};
use crate::words;
use cobaltine_core::library::TorqueStage;
use cobaltine_core::proving::Proof;
use cobaltine_core::record::{Event, FieldProblem};
use cobaltine_core::typed::Field;
use cobaltine_core::work::{Counter, Learned};
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

/// A learned value of a cylinder as another scan tool shows it.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LearnedTyped {
    /// Cylinder.
    pub cylinder: u32,
    /// Percent; an empty one is left out.
    pub typed: String,
}

/// A relearn counter as another scan tool shows it; one without a name is left out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CounterTyped {
    /// The kind of run.
    pub band: String,
    /// Filled so far.
    pub done: String,
    /// Full at.
    pub needed: String,
}

/// What somebody saw on another scan tool.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LearnedRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// They were cleared just before.
    pub cleared: bool,
    /// Cylinder by cylinder.
    pub learned: Vec<LearnedTyped>,
    /// Counters of the relearn drive.
    pub counters: Vec<CounterTyped>,
}

impl LearnedRequest {
    /// The event, or what cannot be read.
    pub(crate) fn read(&self) -> Result<Event, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let mut learned = Vec::new();
        for one in &self.learned {
            let name = format!("learned {}", one.cylinder);
            let percent =
                reader.number(&name, Field::<f64>::signed("%", -100.0, 100.0), &one.typed);
            learned.extend(percent.map(|percent| Learned { cylinder: one.cylinder, percent }));
        }
        let mut counters = Vec::new();
        for one in self.counters.iter().filter(|one| !one.band.trim().is_empty()) {
            let band = one.band.trim().to_owned();
            let runs = Field::<f64>::from_zero("", 1000.0);
            let done = reader.needed(&format!("{band}, done"), runs, &one.done) as u32;
            let needed = reader.needed(&format!("{band}, all"), runs, &one.needed) as u32;
            counters.push(Counter { band, done, needed });
        }
        if reader.0.is_empty() && learned.is_empty() && counters.is_empty() {
            reader.0.push(FieldProblem::new("learned", words::NOTHING_TYPED));
        }
        let event = Event::LearnedRead { cleared: self.cleared, learned, counters, by_hand: true };
        reader.done(event)
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
