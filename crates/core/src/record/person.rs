//! People of the workshop: who signs, who left, and which two entries of the list are one person.

use super::{JobFile, Signed};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Someone of the workshop.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Person {
    /// Identity.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
    /// Not chosen any more; what this person signed stays signed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub retired: Option<Retired>,
}

/// Since when a person is not chosen any more.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Retired {
    /// ISO 8601, UTC.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// The person under whose other name this one goes on; none for someone who left.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub same_as: Option<Uuid>,
}

impl Person {
    /// Someone who can be chosen.
    pub fn new(id: Uuid, name: impl Into<String>) -> Self {
        Self { id, name: name.into(), retired: None }
    }
}

impl JobFile {
    /// The person behind an earlier signature, as known when this one was given. Names that were merged
    /// later do not reach back: what was allowed then stays allowed.
    pub(super) fn person_behind(&self, by: Uuid, seen: Signed) -> Uuid {
        let merged = self.people.iter().find(|one| one.id == by).and_then(|one| one.retired);
        merged.filter(|one| one.at <= seen.at).and_then(|one| one.same_as).unwrap_or(by)
    }
}
