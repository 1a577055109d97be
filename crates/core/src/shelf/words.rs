//! The sentences of `shelf`, and nothing else.

use std::fmt::Display;

// sets

pub(super) const SAVED_SET: &str = "In a saved set.";
pub(super) fn not_refitted(held: impl Display) -> String {
    format!("Not refitted. {held}")
}

pub(super) fn measured_differently_others(
    feature: impl Display,
    condition: impl Display,
    condition2: impl Display,
) -> String {
    format!("Its {feature} was measured differently: {condition}; the others: {condition2}.")
}

pub(super) const MATCHED_BEYOND_BENCH_ERROR: &str = "Matched, beyond bench error.";
pub(super) fn within_tolerance_read_but(open: impl Display) -> String {
    format!("Within tolerance as read, but inside the bench error: {open}.")
}

pub(super) fn no_set_within_tolerances(size: impl Display) -> String {
    format!("No set of {size} within these tolerances.")
}

pub(super) fn nothing_left_over(n: impl Display, size: impl Display) -> String {
    format!("{n} of {size}, nothing left over.")
}

pub(super) fn left_over(n: impl Display, size: impl Display, left: impl Display) -> String {
    format!("{n} of {size}, {left} left over.")
}

pub(super) fn stopped_early_up_possible(most: impl Display) -> String {
    format!(" Stopped early: up to {most} possible.")
}

pub(super) fn up_possible_gap(most: impl Display, gap: impl Display) -> String {
    format!(" Up to {most} possible, a gap of {gap:.1} %.")
}

pub(super) const NO_MORE_POSSIBLE: &str = " No further set is possible.";

// tested

pub(super) const DECIDED_REPLACE: &str = "Decided: replace.";
