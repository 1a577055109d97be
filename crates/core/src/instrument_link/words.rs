//! The sentences of `instrument_link`, and nothing else.

use std::fmt::Display;

pub(super) const OUT_OF_RANGE: &str = "The instrument cannot be set to this value.";
pub(super) const OVERLOAD: &str =
    "The instrument shows an overload. Nothing saved. Check its range.";

pub(super) fn not_understood(line: impl Display) -> String {
    format!("The answer was not understood: \"{line}\". Nothing saved.")
}
pub(super) fn another_kind(wanted: &str, is: &str) -> String {
    format!("This is a {}. A {} is needed here.", is.to_lowercase(), wanted.to_lowercase())
}
pub(super) fn another_unit(unit: impl Display) -> String {
    format!(
        "The instrument shows {unit}, not the unit that is needed. Nothing saved. Set its unit."
    )
}
pub(super) fn impossible(value: impl Display) -> String {
    format!("The instrument shows {value}, which cannot be. Nothing saved. Check its lead.")
}
pub(super) fn stale(age_s: impl Display) -> String {
    format!("Measured {age_s} s ago: too old. Nothing saved. Check the instrument.")
}
