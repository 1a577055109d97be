//! The sentences of `cleaning`, and nothing else.

use std::fmt::Display;

// compared

pub(super) fn count_time_not_noted(name: impl Display) -> String {
    format!("count or time of {name} not noted both times")
}

pub(super) fn run_another_pulse_width(name: impl Display) -> String {
    format!("{name} was run at another pulse width")
}

pub(super) fn one_rounds(missing: impl Display) -> String {
    format!("{missing} in one of the rounds")
}

pub(super) fn different_conditions_before_after(says: impl Display, says2: impl Display) -> String {
    format!(
        "Different conditions before and after; both corrected to the reference, an estimate: before {says}, after {says2}."
    )
}

pub(super) const MIDDLE_LIMIT: &str = "the middle of its limit";
pub(super) const OTHERS_AFTER_CLEANING: &str = "the others after cleaning";

// cleaning

pub(super) const STEP_STEP_COIL_PULSED: &str = "Step by step, coil pulsed in the bath; then repeat the same tests. Only the repeat shows the effect.";
pub(super) const NOT_RESTORED_CLEANING: &str = "not restored by cleaning";
pub(super) const TOO_MUCH_FLOW_WORN: &str = "too much flow: worn, not dirty";
pub(super) fn before_after_cannot_compared(refused: impl Display) -> String {
    format!("Before and after cannot be compared: {refused}.")
}

pub(super) const REPEAT_SAME_REGIMES_SEE: &str =
    "Repeat the same regimes to see what cleaning did.";
pub(super) const NO_RESTRICTION_BEFORE_AFTER: &str = "No restriction before or after.";
pub(super) fn not_clean_says_library(not_to: impl Display) -> String {
    format!("Do not clean, says the library: {not_to}.")
}

pub(super) const PULSED_BATH_NO_DRIVER: &str =
    "Pulsed in the bath with no driver chosen: see the driver check.";
pub(super) const LOOSENED_DIRT_STILL_INSIDE: &str = "Loosened dirt is still inside: back-flush.";
pub(super) const FIT_NEW_BASKETS_AFTER: &str =
    "Fit new baskets after the flush, before the flow test.";
pub(super) const NOT_CLEANED: &str = "Not cleaned.";
pub(super) const NO_REFERENCE_AFTER_CLEANING: &str = "No reference after the cleaning.";
pub(super) fn flows_against_others_not(now: impl Display) -> String {
    format!("Flows {now} against the others, which were not cleaned: no proof of wear.")
}

pub(super) const OTHERS_CLEANED_TOO_LIMIT: &str =
    "The others cleaned too, or a limit for this family.";
pub(super) fn flows_against_more_new(now: impl Display, against: impl Display) -> String {
    format!("Flows {now} against {against}: more than new. Cleaning does not reduce flow.")
}

pub(super) const NO_FURTHER_CYCLE_MATCH: &str = "No further cycle: match it, or replace it.";
pub(super) fn recovered(pair: impl Display, now: impl Display, cycle: impl Display) -> String {
    format!("Recovered from {pair} to {now} in {cycle}.")
}

pub(super) const LINE_OTHERS_BEFORE_NOW: &str = "In line with the others before and now.";
pub(super) fn still_last_cycle_lost(now: impl Display, gain: impl Display) -> String {
    format!(
        "Still {now} and the last cycle lost {gain}: stop cleaning. Loosened dirt blocks it, or it is damaged."
    )
}

pub(super) const NO_FURTHER_CYCLE_REPLACE: &str =
    "No further cycle: replace it, or have it reconditioned.";
pub(super) fn still_last_cycle_gained(now: impl Display, gain: impl Display) -> String {
    format!("Still {now} and the last cycle gained {gain}: dirt would have cleared.")
}

pub(super) fn still_after_maximum_here(
    now: impl Display,
    cycle: impl Display,
    most: impl Display,
) -> String {
    format!("Still {now} after {cycle}: maximum {most} here.")
}

pub(super) const REPLACE_CHANGE_WORKSHOP_RULE: &str =
    "Replace it, or change the workshop rule with a reason.";
pub(super) fn improving_repeat(pair: impl Display, now: impl Display) -> String {
    format!("From {pair} to {now}: improving. Repeat.")
}

pub(super) const ANOTHER_CYCLE_SAME_REGIMES: &str = "Another cycle, then the same regimes again.";
pub(super) fn gain_cycle(regime: impl Display) -> String {
    format!("Gain of this cycle at {regime}")
}

pub(super) fn against_first_now(
    against: impl Display,
    pair: impl Display,
    percent: impl Display,
) -> String {
    format!("Against {against}: {pair} at first, {percent} now.")
}

pub(super) const AGE_SHIFTS_ODDS_BETWEEN: &str =
    "Its age shifts the odds between wear and dirt; it decides nothing (workshop rule)";
pub(super) fn h_odds(run: impl Display, life: impl Display, odds: impl Display) -> String {
    format!("{run} of {life} h: odds {odds:.2} to 1")
}

pub(super) const RECOVERED: &str = "recovered";
pub(super) const STILL_RESTRICTED_REPEAT: &str = "still restricted, repeat";
pub(super) const SOLVENT_BATH_NEVER_HEATED: &str =
    "Solvent in the bath: keep it cold, its vapour catches fire.";
pub(super) const ACID_ATTACKS_METAL: &str =
    "Acid: check the metal first, neutralise, rinse, then test again.";
