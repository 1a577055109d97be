//! The sentences of `passport`, and nothing else.

use std::fmt::Display;

// stay

pub(super) const CLOSED_PROVEN: &str = "Closed as proven.";
pub(super) const CLOSED_EXCEPTIONS: &str = "Closed with exceptions.";
pub(super) const NOT_CLOSED: &str = "Not closed.";

// trend

pub(super) fn measured_once(feature: impl Display) -> String {
    format!("{feature}: measured once.")
}

pub(super) fn no_change_instruments_resolve(
    feature: impl Display,
    shown: impl Display,
    shown2: impl Display,
    unit: impl Display,
) -> String {
    format!("{feature}: {shown} to {shown2} {unit}, no change that these instruments can resolve.")
}

pub(super) fn by_from_to(
    feature: impl Display,
    way: impl Display,
    percent: impl Display,
    shown: impl Display,
    shown2: impl Display,
    unit: impl Display,
) -> String {
    format!("{feature}: {way} by {percent:.0} %, from {shown} to {shown2} {unit}.")
}

// passport

pub(super) const NO_HISTORY_INJECTOR: &str = "No history of this injector.";
pub(super) const CAME_BACK_ONCE: &str = " It came back once.";
pub(super) fn came_back_times(n: impl Display) -> String {
    format!(" It came back {n} times.")
}

pub(super) fn cancelled(reason: impl Display) -> String {
    format!("Cancelled: {reason}")
}
