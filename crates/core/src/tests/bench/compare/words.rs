//! The sentences of `compare`, and nothing else.

use std::fmt::Display;

pub(super) const NO_OTHER_FAMILY_SESSION: &str = "No other of its family in the session.";
pub(super) const SET_SPLITS_INTO_TWO: &str =
    "The set splits into two groups: comparison cannot say which is right.";
pub(super) const TOO_FEW_AGREE_EACH: &str = "Too few agree with each other to compare.";
pub(super) fn agreeing_others_mean_line(mean: impl Display, tolerance: impl Display) -> String {
    format!("Agreeing others, mean {mean}; in line within {tolerance} %")
}
