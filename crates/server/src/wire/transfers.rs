//! The whole workshop in and out in the background.

use super::*;
use cobaltine_core::record::FieldProblem;
use cobaltine_store::WorkshopImported;

/// What goes in or out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TransferWhat {
    /// A workshop file comes in.
    Import,
    /// The whole workshop goes out, a JSON object a line.
    Workshop,
    /// All readings go out, as CSV.
    Readings,
}

/// What is to go out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ExportRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Workshop or readings.
    pub what: TransferWhat,
}

/// How far an import or an export is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TransferState {
    /// The file is looked at whole; nothing of it is in.
    Checking,
    /// It is being switched in, and is brought to its end.
    Importing,
    /// It is being written.
    Exporting,
    /// Done.
    Done,
    /// Stopped: nothing came in, nothing can be fetched.
    Stopped,
    /// It cannot be done: nothing came in, nothing can be fetched.
    Refused,
}

/// An import or an export, at work or over.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct TransferView {
    /// Which.
    pub id: Uuid,
    /// What goes in or out.
    pub what: TransferWhat,
    /// Who asked for it.
    pub by: Uuid,
    /// How far.
    pub state: TransferState,
    /// Share of this step that is done, 0 to 1.
    pub done: f64,
    /// What came in.
    pub imported: Option<WorkshopImported>,
    /// Size of what can be fetched.
    pub bytes: Option<u64>,
    /// Why it cannot be done.
    pub problem: String,
    /// Where in the file.
    pub fields: Vec<FieldProblem>,
}
