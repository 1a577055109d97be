//! The sentences of `trim_code`, and nothing else.

use std::fmt::Display;

pub(super) const MADE_FINAL_MAP_CAPTURED: &str =
    "Made from the final map, or captured from the body, typed as printed.";
pub(super) const TRIM_CODE_BODY: &str = "Trim code on body";
pub(super) const READ_FINAL_MAP_ENTER: &str =
    "Read the final map, or enter the trim code from the body.";
pub(super) fn no_valid_trim_code(none: impl Display) -> String {
    format!("{none}: no valid trim code yet.")
}

pub(super) const NOT_FINAL_ROUND_MAKE: &str =
    "Not from the final round: make a trim code only after the full plan has passed.";
pub(super) const LIBRARY_NO_PATTERN_FAMILY: &str =
    "The library has no pattern for this family: saved as typed.";
pub(super) const FULL_PLAN_AGAIN_AFTER: &str =
    "The full plan again after the adjustment, then the trim code.";
pub(super) fn steps_mm_middle_limits(step: impl Display) -> String {
    format!("Steps of {step} mm³ from the middle of the limits")
}

pub(super) const MADE_MAP: &str = "Made from this map.";
pub(super) fn out_limits_trim_code(not_released: impl Display) -> String {
    format!("Out of limits at {not_released}: a trim code cannot fix that.")
}

pub(super) const RECONDITION_FULL_PLAN_AGAIN: &str = "Recondition, then the full plan again.";
pub(super) fn more_steps_beyond_range(out_of_range: impl Display) -> String {
    format!("More than 15 steps at {out_of_range}: beyond the range of a trim code.")
}

pub(super) const ADJUST_CLOSER_MIDDLE_FULL: &str =
    "Adjust closer to the middle, then the full plan again.";
pub(super) const LIFT_OUT_LIMITS_SET: &str =
    "Lift is out of limits: set it before making a trim code.";
pub(super) const MAP_READ_BEFORE_LAST: &str =
    "The map was read before the last shim change: retest before making a trim code.";
pub(super) const FITS_PATTERN_FAMILY: &str = "Fits the pattern of its family.";
pub(super) fn does_not_fit_pattern(says: impl Display) -> String {
    format!("Does not fit the pattern: {says}.")
}

pub(super) const READ_OFF_BODY_AGAIN: &str =
    "Read it off the body again: O and 0, I and 1, B and 8.";
pub(super) fn would_fit(suggested: impl Display) -> String {
    format!("{suggested} would fit.")
}
