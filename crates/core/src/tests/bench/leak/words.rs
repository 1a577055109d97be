//! The sentences of `leak`, and nothing else.

use std::fmt::Display;

pub(super) const CLOSED_UNDER_PRESSURE_COUNT: &str =
    "Closed and under pressure: count the drops of each over the same time.";
pub(super) const ENTER_LONG_DROPS_WATCHED: &str = "Enter how long the drops were watched.";
pub(super) const DRIPS_MORE_LIMIT_ALLOWS: &str = "Drips more than the limit allows.";
pub(super) const WITHIN_LIMIT: &str = "Within the limit.";
pub(super) const TOO_CLOSE_LIMIT_SHORT: &str = "Too close to the limit for so short a watch.";
pub(super) fn most_drops_min_workshop(limit: impl Display) -> String {
    format!("At most {limit} drops/min (workshop rule)")
}

pub(super) fn watched_s(seconds: impl Display) -> String {
    format!("Watched for {seconds:.0} s.")
}

pub(super) const CLEANED_WATCHED_AGAIN_DIRT: &str =
    "Cleaned and watched again: dirt on the seat leaks too.";
pub(super) const COUNT_DROPS_EACH: &str = "Count the drops of each.";
pub(super) const NO_LEAK_ANY_WATCHED: &str = "No leak at any that were watched.";
pub(super) fn inconclusive_watch_longer(unsure: impl Display) -> String {
    format!("{unsure}: inconclusive. Watch longer.")
}

pub(super) const PRESSURE_NOT_NOTED_LEAK: &str = "Pressure not noted: a leak grows with it.";
