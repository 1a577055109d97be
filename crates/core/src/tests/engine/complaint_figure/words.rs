//! Sentences of the figure of the complaint.

pub(super) const TITLE: &str = "Figure of the complaint";
pub(super) const IDLE_SWINGS: &str = "Idle speed swings by";
pub(super) const READ_BEFORE_AND_AFTER: &str = "What the customer complains of, as a number: before the work, and again after it under the same conditions.";
pub(super) const WHATEVER_SHOWS_IT: &str = "smoke meter, scan tool, or the tank and a meter";
pub(super) const ENTER_FIGURE: &str = "Enter the figure that is complained of.";
pub(super) const READ_IT_AGAIN: &str =
    "Measure it again after the work under the same conditions: that is the proof.";

pub(super) fn figure(word: &str, value: &str, unit: &str) -> String {
    format!("{} {value} {unit}", word.to_lowercase())
}

pub(super) fn recorded(read: &[String]) -> String {
    format!("Recorded: {}.", read.join(", "))
}
