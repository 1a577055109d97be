//! The sentences of `plain`, and nothing else.

use std::fmt::Display;

pub(super) const NOT_DONE_YET: &str = "Not done yet.";
pub(super) const WORK_NOT_FINISHED_YET: &str = "The work is not finished yet.";
pub(super) const FINDINGS_ONLY_NO_INJECTOR: &str = "Findings only; no injector work is recorded.";
pub(super) const CONTROL_UNIT_HOLDS_RIGHT: &str =
    "The control unit holds the right injector code for every cylinder; it was read back.";
pub(super) const NO_FUEL_JOINT_LEAKED: &str =
    "No fuel joint leaked under pressure with the engine off.";
pub(super) const NO_FUEL_JOINT_LEAKED_ENGINE: &str =
    "No fuel joint leaked with the engine running.";
pub(super) const LEARNED_VALUES_OLD_INJECTORS: &str =
    "Learned values for the old injectors were cleared.";
pub(super) const CONTROL_UNIT_RELEARNED_INJECTORS: &str =
    "The control unit has relearned the injectors.";
pub(super) const EXHAUST_COMPLETED_ONE_SELF: &str =
    "The exhaust completed one self-cleaning cycle.";
pub(super) const NO_FAULT_CODE_RETURNED: &str =
    "No fault code returned when the control unit was read again.";
pub(super) const ROAD_TESTED_UNDER_CONDITIONS: &str =
    "Road-tested under the conditions of the complaint.";
pub(super) fn cylinder_went(
    cylinder: impl Display,
    before: impl Display,
    after: impl Display,
    unit: impl Display,
) -> String {
    format!("cylinder {cylinder} went from {before} to {after}{unit}")
}

pub(super) fn repeated_under_same_conditions(test: impl Display, changed: impl Display) -> String {
    format!("{test} repeated under the same conditions: {changed}.")
}

pub(super) fn cylinder_fitted(
    cylinder: impl Display,
    kind: impl Display,
    label: impl Display,
    why: impl Display,
) -> String {
    format!("Cylinder {cylinder}: {kind}{label} was fitted{why}.")
}

pub(super) fn because(test: &str, shown: &str) -> String {
    let test = test.to_lowercase();
    match shown {
        "" => format!(", because the old one failed a test: {test}"),
        shown => format!(", because the old one failed a test: {test}, {shown}"),
    }
}

pub(super) fn came_back(reason: &str) -> String {
    format!("The machine came back: {reason}. The work goes on.")
}

pub(super) const CLEANED: &str = "cleaned.";
pub(super) const CLEAN_INJECTOR: &str = "clean the injector.";
pub(super) const LEFT_ALTHOUGH_OFF: &str =
    "left in place as decided, although its reading was off.";

pub(super) const REPLACE_INJECTOR: &str = "replace the injector.";
pub(super) const INJECTOR_RECONDITIONED_ADJUSTED: &str = "injector reconditioned and adjusted.";
pub(super) const REPAIR_WIRING_INJECTOR_STAYS: &str = "repair the wiring; the injector stays.";
pub(super) const INJECTOR_SOUND_CAUSE_LIES: &str = "injector sound; the cause lies elsewhere.";
pub(super) const NO_FAULT_FOUND_LEFT: &str = "no fault found; left in place.";
pub(super) const NOT_MEASURED_LEFT_PLACE: &str = "not measured; left in place.";
pub(super) fn one_cylinder(came_from: impl Display, cylinder: impl Display) -> String {
    format!("the one from cylinder {came_from} to {cylinder}")
}

pub(super) fn injectors_swapped(moved: impl Display) -> String {
    format!("Injectors swapped: {moved}.")
}

pub(super) fn injectors_fitted(
    out: impl Display,
    out2: impl Display,
    parts: impl Display,
) -> String {
    format!("The injectors of {out} {out2} were fitted{parts}.")
}

pub(super) fn injector_code_stored_control(stored: impl Display) -> String {
    format!("{stored}: injector code stored in the control unit.")
}
pub(super) const LEFT_INCONCLUSIVE: &str = "measured, without a clear result; left in place.";
