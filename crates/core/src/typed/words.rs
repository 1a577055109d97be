//! The sentences of `typed`, and nothing else.

use std::fmt::Display;

pub(super) const ENTER_NUMBER: &str = "Enter a number.";
pub(super) fn not_number_digits_point(what: impl Display) -> String {
    format!("\"{what}\" is not a number. Use digits, with a point or comma for decimals.")
}

pub(super) fn not_date(what: impl Display) -> String {
    format!("\"{what}\" is not a date. Enter one such as 30 Jun 2031.")
}

pub(super) fn mean_type_one_you(
    text: impl Display,
    one: impl Display,
    two: impl Display,
) -> String {
    format!("\"{text}\" can mean {one} or {two}. Type the one you mean.")
}

pub(super) fn not_unit_leave_out(got: impl Display, canonical: impl Display) -> String {
    format!("\"{got}\" is not a unit for this. Leave it out for {canonical}.")
}

pub(super) const ENTER_VALUE_ABOVE_ZERO: &str = "Enter a value above zero.";
pub(super) const ENTER_VALUE_ZERO_MORE: &str = "Enter a value of zero or more.";
pub(super) fn must_between(low: impl Display, high: impl Display, unit: impl Display) -> String {
    format!("Must be between {low} and {high} {unit}.")
}
