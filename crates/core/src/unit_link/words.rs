//! The sentences of `unit_link`, and nothing else.

use std::fmt::Display;

pub(super) const ECU_BUSY_WAIT_MOMENT: &str = "ECU busy. Wait a moment, then try again.";
pub(super) const IGNITION_OFF_SWITCH_ENGINE: &str = "Ignition off. Switch it on, engine off.";
pub(super) const ENGINE_RUNNING_STOP_LEAVE: &str =
    "Engine running. Stop it; leave the ignition on.";
pub(super) const SUPPLY_VOLTAGE_TOO_LOW: &str =
    "Supply voltage too low to write safely. Connect a support charger first.";
pub(super) const ECU_NO_SUCH_CYLINDER: &str = "The ECU has no such cylinder.";
pub(super) const ECU_DOES_NOT_ACCEPT: &str = "The ECU does not accept this trim code.";
pub(super) const ECU_REFUSED_GAVE_NO: &str = "The ECU refused and gave no reason.";
pub(super) const WRITING_INTERRUPTED_INSIDE_ECU: &str = "Writing was interrupted inside the ECU.";
pub(super) const NO_VEHICLE_SESSION_OPEN: &str = "No vehicle session is open with the ECU.";
pub(super) const ECU_DID_NOT_UNDERSTAND: &str = "The ECU did not understand the request.";
pub(super) fn unexpected_answer_ecu(what: impl Display) -> String {
    format!("unexpected answer from the ECU: \"{what}\"")
}
