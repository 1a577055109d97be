//! How a code came in, and what a slot of the control unit holds.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How a code came in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Capture {
    /// By a scanner that types.
    Scanned,
    /// By a camera.
    Camera,
    /// Pasted as text.
    Pasted,
    /// Typed twice without seeing the first.
    TypedTwice,
    /// From the bench: captured or made there.
    Bench,
}

/// What was stored in one slot when it was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SlotCode {
    /// Cylinder.
    pub cylinder: u32,
    /// Its code; none when nothing is stored.
    pub code: Option<String>,
}
