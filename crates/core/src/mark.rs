//! The state of one injector, as the strip draws it: needle over seat.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What the mark says. Outline, word and colour follow from it in every view.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Mark {
    /// Needle seated: inside.
    Inside,
    /// Needle lifted, a drop under it: passes too much.
    TooMuch,
    /// Needle barred: passes too little.
    TooLittle,
    /// Needle in outline: look closer.
    Look,
    /// Needle dashed: this measurement cannot tell.
    Undecided,
    /// A lone point: the reading itself is questioned.
    Questioned,
    /// The bare seat: not measured.
    #[default]
    NotMeasured,
}

impl Mark {
    /// Whether a person still has to act on it.
    pub fn is_open(self) -> bool {
        match self {
            Self::Inside => false,
            Self::TooMuch
            | Self::TooLittle
            | Self::Look
            | Self::Undecided
            | Self::Questioned
            | Self::NotMeasured => true,
        }
    }
}
