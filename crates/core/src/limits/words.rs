//! The sentences of `limits`, and nothing else.

use std::fmt::Display;

pub(super) fn outside_years_workshop_signs(at: impl Display) -> String {
    format!("{at} is outside the years this workshop signs in (1990 to 2189): check the clock.")
}

pub(super) const NUMBER_CANNOT_SAVED: &str = "This number cannot be saved.";
pub(super) fn characters_maximum(length: impl Display, most: impl Display) -> String {
    format!("{length} characters; maximum {most}.")
}

pub(super) const ENTER_FEW_WORDS: &str = "Enter a few words.";
pub(super) fn maximum_one_job(most: impl Display, what: impl Display) -> String {
    format!("Maximum {most} {what} in one job.")
}
