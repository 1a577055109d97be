//! The sentences of `record`, and nothing else.

use std::fmt::Display;

pub(super) const INJECTORS_TAGGED_MAXIMUM: &str = "Injectors are tagged from 1. Maximum 16.";
pub(super) const SESSION_ROUNDS: &str = "A session has 1 to 24 rounds.";
pub(super) const ROUND_APPEARS_TWICE: &str = "A round appears twice.";
pub(super) const EACH_INJECTOR_NEEDS_ONE: &str =
    "Each injector needs one position, and each position holds one.";
pub(super) const READING_CORRECTS_ONE_NO: &str =
    "A reading corrects one that is no longer current.";
pub(super) fn no_cell(cell: impl Display) -> String {
    format!("No cell \"{cell}\" there.")
}

pub(super) const READING_NOT_NUMBER_APPEARS: &str =
    "A reading is not a number, appears twice, or corrects one that does not exist.";
pub(super) const ENTER_TUBE_HOLDS_FAR: &str =
    "Enter what a tube holds and how far apart its marks are.";
pub(super) const MARKS_FURTHER_APART_TUBE: &str =
    "The marks are further apart than the tube is large.";
pub(super) const MAXIMUM_ROWS: &str = "Maximum 40 rows.";
pub(super) fn enter_numbers_above_zero(name: impl Display) -> String {
    format!("\"{name}\": enter numbers above zero.")
}
