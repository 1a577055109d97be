//! The sentences of `di_balance`, and nothing else.

pub(super) const BALANCE_SCAN_TOOL: &str = "Balance from the scan tool";
pub(super) const SCAN_TOOL_DISABLES_EACH: &str = "The scan tool disables each injector in turn and records a pressure change: enter what it shows, in any unit.";
pub(super) const SCAN_TOOL_COMPARES_WITHOUT: &str =
    "The scan tool compares without opening a line.";
pub(super) const TOOL_CANNOT_ENGINE: &str = "A tool that cannot do it on this engine.";
pub(super) fn takes_nothing(says: impl std::fmt::Display) -> String {
    format!("{says} It takes nothing: wire, driver or coil before any cleaning.")
}
pub(super) const LOOK_CLOSER: &str = "look closer";
pub(super) fn look_closer(says: &str) -> String {
    format!("{says} Not enough to call it off: look closer.")
}
pub(super) fn within_the_others(percent: impl std::fmt::Display) -> String {
    format!("Each within ±{percent} % of the mean of the others")
}
pub(super) fn within_the_mean(percent: impl std::fmt::Display) -> String {
    format!("Each within ±{percent} % of the mean of all")
}
pub(super) const OTHERS_DO_NOT_AGREE: &str = "The others do not agree.";
