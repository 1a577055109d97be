//! What goes over the wire of instruments that are read over the network.

use cobaltine_core::connection::Connection;
use cobaltine_core::instrument_link::Quantity;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A connection to keep: as it is kept.
pub type ConnectionRequest = Connection;

/// A connection with what it showed last.
#[derive(Debug, Serialize, ToSchema)]
pub struct ConnectionView {
    /// Where it is.
    pub connection: Connection,
    /// What it measures; nothing of one that takes recordings.
    pub measures: Vec<Quantity>,
    /// It pulses injectors and measures what they give: it stands at no engine.
    pub bench: bool,
    /// What it showed last, since the program was started.
    pub last: Option<ShownView>,
}

/// What an instrument showed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShownView {
    /// By this id a cell names what it was read from, for some minutes.
    pub id: Uuid,
    /// The connection.
    pub connection: Uuid,
    /// What the instrument said that it is.
    pub identity: String,
    /// What it measures.
    pub quantity: Quantity,
    /// Channel by channel.
    pub values: Vec<f64>,
    /// The same as they are typed into a cell.
    pub typed: Vec<String>,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
}

/// What a scan tool shows of the memory of the control unit.
#[derive(Debug, Serialize, ToSchema)]
pub struct FaultCodesView {
    /// The codes; empty where none is stored.
    pub codes: Vec<String>,
    /// What the scan tool said that it is.
    pub identity: String,
}

/// How a test of a connection went.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct TestedConnection {
    /// What it says that it is, where it answers and is of the right kind.
    pub identity: Option<String>,
    /// What it shows.
    pub shown: Option<ShownView>,
    /// What is wrong with it, in words.
    pub wrong: Option<String>,
    /// How long that took, ms.
    pub took_ms: u32,
}

/// A reading to take.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadRequest {
    /// What.
    pub quantity: Quantity,
    /// The cylinder that its lead is at, where it has to know that.
    pub cylinder: Option<u32>,
}

/// A run of a bench to begin, as typed; what is empty stays as the bench is set.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchRunRequest {
    /// Length of a pulse, ms.
    pub pulse: String,
    /// Pulses or strokes.
    pub count: String,
    /// Pressure, kPa.
    pub pressure: String,
}

/// What is looked at.
#[derive(Debug, Deserialize, IntoParams)]
pub struct LiveParams {
    /// The first that such an instrument measures when missing.
    pub quantity: Option<Quantity>,
}

/// A trace to take.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CatchRequest {
    /// The instrument.
    pub connection: Uuid,
}

/// The end of a trace.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EndTraceRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Cylinders in the order in which they were pulsed.
    pub order: Vec<u32>,
}

/// Of which run or check the raw trace is.
#[derive(Debug, Deserialize, IntoParams)]
pub struct RawParams {
    /// The run or the check.
    pub of: Uuid,
}
