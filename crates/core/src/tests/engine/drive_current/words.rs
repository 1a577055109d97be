//! The sentences of `drive_current`, and nothing else.

use std::fmt::Display;

pub(super) const CLAMP_ON_ONE_WIRE: &str = "Current clamp on one wire of each injector, engine warm and idling. Record five pulses or more.";
pub(super) const CLAMP_AND_SCOPE: &str = "Current clamp and a scope that exports CSV";
pub(super) const RECORD_EACH: &str = "Record each injector in turn, or choose a CSV file of it.";
pub(super) const NO_CURRENT_ANYWHERE: &str =
    "No current at any injector: not driven, or the clamp is switched off.";
pub(super) const TRY_THE_CLAMP: &str =
    "Zero the clamp and try it on a wire that surely carries current.";
pub(super) const THREE_TO_COMPARE: &str = "Record at least three injectors to compare them.";
pub(super) const NO_CURRENT_HERE: &str = "No current: driver, wire, connector or winding is open.";
pub(super) const NO_KINK_HERE: &str = "Current flows and nothing moves: the pintle is stuck.";
pub(super) const ALIKE_HERE: &str =
    "Rises and moves like the others; how much it flows is not known.";
pub(super) const DRIVEN_HERE: &str =
    "Driven like the others; movement does not show on this drive.";
pub(super) const PEAK_AGAINST: &str =
    "Peak against the median of the others, at least 80 % (workshop rule)";
pub(super) const CURRENT_PROVES_DRIVE: &str =
    "Current proves the drive, a kink proves movement. Neither says how much flows.";
pub(super) const EXCHANGE_CONNECTORS: &str =
    "Repeat with the connector of a neighbour: current that stays odd is in the injector.";

pub(super) fn all_alike(count: impl Display) -> String {
    format!("All {count} driven alike; it proves movement, not flow.")
}
pub(super) fn those_read_alike(read: usize, all: usize) -> String {
    format!("{read} of {all} recorded, driven alike; it proves movement, not flow.")
}
pub(super) fn unlike(who: impl Display) -> String {
    format!("{who}: current unlike the others.")
}
pub(super) fn no_current(who: impl Display) -> String {
    format!("{who}: no current.")
}
pub(super) fn weak(own: impl Display, others: impl Display) -> String {
    format!("Weak: {own} A where the others draw {others} A. Wire, driver or winding.")
}
pub(super) fn late(ms: impl Display) -> String {
    format!("Opens {ms} ms later than the others: it sticks, or is driven weakly.")
}
pub(super) fn kink_against(limit: impl Display) -> String {
    format!("Kink less the median of the others, {limit} ms at most (workshop rule)")
}
