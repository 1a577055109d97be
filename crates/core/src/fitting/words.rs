//! The sentences of `fitting`, and nothing else.

use std::fmt::Display;

// card

pub(super) const NO_INJECTOR_REMOVED_NONE: &str =
    "No injector was removed, so there is none to fit. Tap a cylinder whose injector was out.";
pub(super) const EVERY_REMOVED_INJECTOR_FITTED: &str =
    "Every removed injector is fitted, step by step.";
pub(super) fn fit_open(open: impl Display, left: impl Display, left2: impl Display) -> String {
    format!("{open} to fit: {left} {left2} open.")
}

// tightening

pub(super) fn entered_job(source: impl Display) -> String {
    format!("Entered for this job, from: {source}")
}

pub(super) fn library(name: impl Display) -> String {
    format!("From the library: {name}.")
}

pub(super) const NO_FIGURES_FILE_ENTER: &str = "No figures on file: enter the maker's.";
