//! What a check says as a whole: the worst of its lanes, where it does not say otherwise itself.

use super::Lane;
use crate::mark::Mark;
use crate::said::{Code, Said};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a check as a whole says, for the plan and the list of checks.
#[derive(
    Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum Outcome {
    /// Not read yet.
    #[default]
    Open,
    /// Nothing speaks against it.
    Clear,
    /// Something to look at, or that cannot be called.
    Hint,
    /// A fault.
    Fault,
}

impl Outcome {
    /// The worst mark of a set.
    pub(super) fn of(lanes: &[Lane]) -> Self {
        Self::worst(lanes.iter().map(|lane| lane.mark))
    }

    /// What a check of all cylinders says: nothing while it is open.
    pub(super) fn said(self, fault: Code, hint: Code, clear: Code) -> Option<Said> {
        match self {
            Self::Open => None,
            Self::Fault => Some(fault.into()),
            Self::Hint => Some(hint.into()),
            Self::Clear => Some(clear.into()),
        }
    }

    /// The worst of these marks.
    pub(crate) fn worst(marks: impl Iterator<Item = Mark>) -> Self {
        marks
            .map(|mark| match mark {
                Mark::NotMeasured => Self::Open,
                Mark::Inside => Self::Clear,
                Mark::Look | Mark::Undecided | Mark::Questioned => Self::Hint,
                Mark::TooMuch | Mark::TooLittle => Self::Fault,
            })
            .max()
            .unwrap_or_default()
    }
}
