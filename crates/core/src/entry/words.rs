//! The sentences of `entry`, and nothing else.

use std::fmt::Display;

// check

pub(super) const TRACE_TOO_LONG_MORE: &str =
    "Trace too long: it has more points than can be saved.";

// file

pub(super) fn version_version_needed(
    format: impl Display,
    version: impl Display,
    job_format: impl Display,
    job_version: impl Display,
) -> String {
    format!("This is \"{format}\" version {version}; {job_format} version {job_version} is needed.")
}

pub(super) fn found_maximum(count: impl Display, bound: impl Display) -> String {
    format!("{count} found; maximum {bound}.")
}

pub(super) const ENTER_ONE_INJECTOR_EACH: &str = "Enter one injector for each cylinder.";
pub(super) const INJECTOR_APPEARS_TWICE: &str = "An injector appears twice.";
pub(super) const SESSION_HOLDS_NO_INJECTOR: &str = "A session holds no injector of this job.";
pub(super) const ID_USED_TWICE: &str = "This id is used twice.";
pub(super) const LOG_POSITIONS_MUST_RISE: &str = "Log positions must rise from row to row.";
pub(super) fn signed_who_not_list(by: impl Display) -> String {
    format!("Signed by {by}, who is not on the list of people.")
}

pub(super) fn rows_cannot_put_order(torn: impl Display) -> String {
    format!("The rows cannot be put in order: {torn}.")
}

// entry

pub(super) const LOG_DOES_NOT_START: &str = "the log does not start with its job or session";
pub(super) fn entry_refers_something_not(what: impl Display) -> String {
    format!("entry {what} refers to something that is not there before it")
}

pub(super) fn entry_does_not_belong(what: impl Display) -> String {
    format!("entry {what} does not belong in this log")
}
