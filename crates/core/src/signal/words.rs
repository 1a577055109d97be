//! The sentences of `signal`, and nothing else.

use std::fmt::Display;

pub(super) const TRACE_TOO_LONG: &str = "the trace is too long: 2,000,000 points at most";
pub(super) const TRACE_HOLDS_NO_NUMBER: &str = "the trace holds something that is not a number";
pub(super) const TRACE_TIMES_DO_NOT_RISE: &str = "the times of the trace do not rise";
pub(super) const TRACE_HAS_A_GAP: &str = "the trace has a gap: record it again in one piece";
pub(super) const SOUND_HOLDS_NO_NUMBER: &str = "the sound holds something that is not a number";
pub(super) const DRIVE_OF_OTHER_LENGTH: &str = "the drive signal is not as long as the sound";
pub(super) const NO_PULSE_IN_TRACE: &str =
    "no whole pulse in this trace: start before the pulse and stop after it";
pub(super) const NO_CRANKING_IN_TRACE: &str =
    "no cranking in this trace: at least two turns of the engine are needed";

pub(super) fn sound_rate(low: impl Display, high: impl Display) -> String {
    format!("the sample rate of a sound must be {low} to {high} Hz")
}
pub(super) fn sound_length(low: impl Display, high: impl Display) -> String {
    format!("a sound must be {low} to {high} s long")
}
pub(super) fn tick_rate(low: impl Display, high: impl Display) -> String {
    format!("the rate to expect must be {low} to {high} ticks a second")
}
