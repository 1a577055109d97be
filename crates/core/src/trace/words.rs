//! The sentences of `trace`, and nothing else.

use std::fmt::Display;

pub(super) const TRACE_HOLDS_SOMETHING_NOT: &str = "the trace holds something that is not a number";
pub(super) const TIMES_TRACE_NOT_RISE: &str = "the times of the trace do not rise";
pub(super) const PRESSURE_NEVER_FALLS_TRACE: &str = "the pressure never falls in this trace";
pub(super) fn drops_found_noise_not(drops: impl Display) -> String {
    format!("{drops} drops found; that is noise, not a balance test")
}
