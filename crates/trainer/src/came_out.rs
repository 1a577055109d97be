//! How a cylinder came out of an exercise.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How a cylinder came out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CameOut {
    /// The fault was found, with its remedy.
    Found,
    /// A fault was found, with a remedy that does not put it right.
    OtherRemedy,
    /// A fault was left.
    Missed,
    /// A sound part was thrown away or worked on.
    Condemned,
    /// Wire or cylinder were named that are sound.
    Blamed,
    /// Sound, and left.
    Right,
    /// Nothing was decided, or to measure again.
    Undecided,
    /// Serviceable by the wider tolerance: it counts for nothing.
    Marginal,
}
