//! The sentences of `instrument`, and nothing else.

use std::fmt::Display;

pub(super) const ENTER_NAME_CHARACTERS: &str = "Enter a name of 1 to 80 characters.";
pub(super) const MAXIMUM_CHARACTERS: &str = "Maximum 400 characters.";
pub(super) fn enter_number(least: impl Display) -> String {
    format!("Enter a number {least}.")
}

pub(super) const ENTER_BOTTLE_TUBE_HOLDS: &str = "Enter what a bottle or tube holds.";
pub(super) const MARKS_FURTHER_APART_LARGE: &str = "The marks are further apart than it is large.";
