//! The sentences of `listening`, and nothing else.

use std::fmt::Display;

pub(super) const MICROPHONE_SAME_PLACE: &str =
    "Microphone on each body in the same place, engine warm and idling. Record five seconds each.";
pub(super) const MICROPHONE_OR_RECORDER: &str = "Microphone with a probe, or a recorder";
pub(super) const RECORD_EACH: &str = "Record each injector in turn, or choose a sound file of it.";
pub(super) const NOTHING_TICKS: &str =
    "No ticks at any injector: not driven, or the microphone hears nothing.";
pub(super) const MICROPHONE_ON_A_GOOD_ONE: &str =
    "Try the microphone on a part that surely moves before you conclude anything.";
pub(super) const THREE_TO_COMPARE: &str = "Record at least three injectors to compare loudness.";
pub(super) const PROVE_THE_DRIVE: &str =
    "Prove that it is driven before you condemn it: noid light or current clamp.";
pub(super) const TICKS_LIKE_OTHERS: &str = "Ticks like the others; how much it flows is not known.";
pub(super) const SAYS_THAT_IT_MOVES: &str =
    "A tick proves movement, not flow. It counts once together with noid light and stethoscope.";
pub(super) const CANNOT_TELL_IN_NOISE: &str =
    "Inconclusive: a tick like the others' would not be heard in this noise.";
pub(super) const RECORD_AGAIN: &str = "Record again at the same place, with less noise around.";

/// Unit of the columns.
pub(super) const OF_OTHERS: &str = "% loud";
pub(super) fn of_the_ticks(heard: f64) -> String {
    format!("{heard:.0} % ticks")
}
pub(super) fn all_tick(count: impl Display) -> String {
    format!("All {count} tick alike; it proves movement, not flow.")
}
pub(super) fn tick_unlike(who: impl Display) -> String {
    format!("{who}: sound unlike the others.")
}
pub(super) fn no_tick(who: impl Display) -> String {
    format!("{who}: no tick.")
}
pub(super) fn silent(heard: impl Display) -> String {
    format!("Silent: {heard} % of the ticks. Not driven, open or stuck.")
}
pub(super) fn neighbour(db: impl Display) -> String {
    format!("Silent: {db} dB below the others, which is a neighbour heard through the metal.")
}
pub(super) fn misses(heard: impl Display) -> String {
    format!("Misses strokes: {heard} % of the ticks heard. It sticks, or its drive breaks off.")
}
pub(super) fn softer(db: impl Display) -> String {
    format!("Softer than the others by {db} dB: sticking, or driven weakly.")
}
pub(super) fn louder(db: impl Display) -> String {
    format!("Louder than the others by {db} dB: hard blow, worn or dry.")
}
pub(super) fn later(ms: impl Display) -> String {
    format!("Later than the others by {ms} ms after the drive.")
}
pub(super) fn loudness_against(limit: impl Display) -> String {
    format!("Loudness less the median of the others; ± {limit} dB is alike (workshop rule)")
}
pub(super) fn ticks_of_expected(least: impl Display) -> String {
    format!("Ticks heard of those to expect, at least {least} % (workshop rule)")
}
