//! The sentences of `parts`, and nothing else.

use std::fmt::Display;

pub(super) const PARTS_RENEWED_COIL_EACH: &str =
    "Parts renewed, and the coil of each: a rebuilt set needs matching coils.";
pub(super) fn coil_against_others(renewed: impl Display, share: impl Display) -> String {
    format!("{renewed}; coil {share} against the others.")
}

pub(super) const READ_COILS_SET_MATCH: &str = "Read the coils of the set to match them.";
pub(super) const COILS_SET_MATCH: &str = "The coils of the set match.";
pub(super) fn coil_does_not_match(off: impl Display) -> String {
    format!("{off}: coil does not match the set.")
}
