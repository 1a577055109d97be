//! The sentences of `engine`, and nothing else.

use std::fmt::Display;

pub(super) fn engine_here_cylinders_got(
    most_cylinders: impl Display,
    what: impl Display,
) -> String {
    format!("an engine here has 1 to {most_cylinders} cylinders, got {what}")
}

pub(super) fn one_two_banks_got(what: impl Display) -> String {
    format!("one or two banks, got {what}")
}

pub(super) fn two_banks_need_even(what: impl Display) -> String {
    format!("two banks need an even number of cylinders, got {what}")
}
