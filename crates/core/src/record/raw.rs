//! What an instrument showed while a run or a check was taken, in stretches: each is kept as soon as it
//! is full, so that a power cut costs the last few seconds at most.

use super::Signed;
use crate::connection::ShownBy;
use crate::instrument_link::Quantity;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// A stretch of it. Times since the run began, ms.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RawStretch {
    /// Identity.
    pub id: Uuid,
    /// Which instrument.
    pub shown_by: ShownBy,
    /// What it showed.
    pub quantity: Quantity,
    /// Time of the first point.
    pub from_ms: u32,
    /// Time of the last point.
    pub to_ms: u32,
    /// Points that are in it.
    pub points: u32,
    /// Where it showed nothing that could be read.
    pub gaps: Vec<Gap>,
    /// The points ([`crate::raw`]); empty where only the rest is shown.
    pub packed: String,
    /// Who and when.
    pub signed: Signed,
}

/// A time without readings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Gap {
    /// Last point before it, ms.
    pub from_ms: u32,
    /// First point after it, ms.
    pub to_ms: u32,
    /// Why.
    pub why: String,
}
