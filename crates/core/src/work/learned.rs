//! What a control unit has learned, and how far its learning drive has come.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What the unit has learned of one cylinder.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Learned {
    /// Cylinder.
    pub cylinder: u32,
    /// Correction of its quantity, percent.
    pub percent: f64,
}

/// One counter of the learning drive.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Counter {
    /// The kind of run, as the unit calls it.
    pub band: String,
    /// Filled so far.
    pub done: u32,
    /// Full at.
    pub needed: u32,
}
