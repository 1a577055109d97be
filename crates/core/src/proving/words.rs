//! The sentences of `proving`, and nothing else.

use std::fmt::Display;

// learn

pub(super) const IDLE_WARM_ALL_LOADS: &str = "idle, warm, all loads off, one minute each";
pub(super) fn steady(from: f64, to: f64, unit: &str) -> String {
    format!("steady {from} to {to} {unit} in the second-highest gear, one minute each")
}
pub(super) fn coast(from: f64, to: f64, unit: &str) -> String {
    format!("coast in gear from {from} down to {to} {unit}, foot off")
}
pub(super) fn follow_makers_procedure(other: impl Display) -> String {
    format!("{other}: follow the maker's procedure")
}

// proof

pub(super) const NO_CODE_TOUCHED: &str =
    "No injector was moved, replaced or recoded: the stored trim codes stay.";
pub(super) const CODES_READ_BACK: &str =
    "Read back: every cylinder that was worked on holds the trim code of its injector.";
pub(super) const SAY_WHAT_WAS_SEEN: &str = "Enter what was seen: a tick alone is no proof.";

pub(super) const DONE_BEFORE_WORK_BEGAN: &str =
    "Done before this work began, or before injectors moved again: repeat.";
pub(super) const CLEARED_READ_BACK_EVERY: &str = "Cleared and read back: every value is zero.";
pub(super) const CLEARED_BUT_VALUES_READ: &str =
    "Cleared, but the values read back are not zero. Repeat.";
pub(super) const EVERY_RELEARN_COUNTER_FULL: &str = "Every relearn counter is full.";
pub(super) fn runs_still_missing(left: impl Display) -> String {
    format!("Runs still missing: {left}.")
}

pub(super) fn not_decided_yet(undecided: impl Display) -> String {
    format!("{undecided} not decided yet.")
}

pub(super) fn still_open_complete_skip(open: impl Display) -> String {
    format!("Still open: {open}. Complete, or skip with a reason.")
}

pub(super) const CLOSED_PROVEN: &str = "Closed as proven.";
pub(super) fn closed_exceptions_not_proven(left: impl Display) -> String {
    format!("Closed with exceptions, not as proven: {left}.")
}

pub(super) fn proven_next(
    settled: impl Display,
    items: impl Display,
    title: impl Display,
) -> String {
    format!("{settled} of {items} proven. Next: {title}.")
}

pub(super) const EVERYTHING_PROVEN_CLOSE_JOB: &str = "Everything is proven. Close the job.";
pub(super) const JOB_CLOSED_EXCEPTIONS_NOT: &str =
    "The job can be closed with exceptions, not as proven.";

// figure

pub(super) fn figure_not_repeated(name: &str, was: &str, unit: &str) -> String {
    format!("{name}: {was} {unit} before the work, not read since.")
}

pub(super) fn figure_better(name: &str, was: &str, is: &str, unit: &str) -> String {
    format!("{name}: {was} {unit} before the work, {is} {unit} after.")
}

pub(super) fn figure_worse(name: &str, was: &str, is: &str, unit: &str) -> String {
    format!("{name}: worse, {was} {unit} before the work, {is} {unit} after.")
}

pub(super) fn figure_same(name: &str, was: &str, is: &str, unit: &str) -> String {
    format!("{name}: inconclusive, {was} {unit} before the work, {is} {unit} after.")
}

// repeat

pub(super) const NO_TEST_HAD_FAILED: &str = "No test had failed, so there is none to repeat.";
pub(super) fn failed_not_repeated_since(test: impl Display, failed: impl Display) -> String {
    format!("{test}: {failed} failed. Not repeated since.")
}

pub(super) fn repeated_within_limits(test: impl Display, failed: impl Display) -> String {
    format!("{test} repeated under the same conditions: {failed} within limits, failed before.")
}

pub(super) fn compared_within_limits(test: impl Display, failed: impl Display) -> String {
    format!(
        "{test}: {failed} failed before; the new part was compared on the engine, within limits."
    )
}

pub(super) const NOTHING_MEASURED_NOTHING_PROVEN: &str =
    "Nothing was measured, so nothing can be proven. Measure, or skip with a reason.";
pub(super) const NOTHING_MEASURED_SINCE: &str =
    "Nothing was measured since the job came back. Measure, or skip with a reason.";
pub(super) fn never_measured(who: impl Display) -> String {
    format!("{who}: never measured before the work. Nothing proves the repair; skip with a reason.")
}
pub(super) fn on_bench(test: &str) -> String {
    format!("Bench, {}", test.to_lowercase())
}

pub(super) fn repeated_within_limits_but(test: impl Display) -> String {
    format!("{test} repeated and within limits, but under other conditions: no proof.")
}

pub(super) fn repeated_inconclusive_retest(test: impl Display, doubt: impl Display) -> String {
    format!("{test} repeated: {doubt} inconclusive. Retest.")
}

pub(super) fn restarted_not_read_yet(test: impl Display, unread: impl Display) -> String {
    format!("{test} restarted: {unread} not read yet.")
}

pub(super) fn repeated_failed_fault_not(test: impl Display, bad: impl Display) -> String {
    format!("{test} repeated: {bad} failed. The fault is not fixed.")
}

pub(super) const ANOTHER_INJECTOR_FITTED_COMPARED: &str =
    "Another injector was fitted: compared on the engine instead of the bench.";
pub(super) const SAME_CHECK_READ_SAME: &str = "The same check, read the same way.";
