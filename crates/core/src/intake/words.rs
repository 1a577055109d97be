//! The sentences of `intake`, and nothing else.

use std::fmt::Display;

pub(super) const ENTER_MACHINE_JOB_FOUND: &str = "Enter the machine so the job can be found.";
pub(super) const TAP_SYMPTOM_DESCRIBE: &str = "Tap a symptom or describe it.";
pub(super) const MORE_LABELS_CYLINDERS: &str = "More labels than cylinders.";
pub(super) fn two_injectors(label: impl Display) -> String {
    format!("\"{label}\" is on two injectors.")
}

pub(super) fn name_each_once(cylinders: impl Display) -> String {
    format!("Name each cylinder once, from 1 to {cylinders}.")
}
