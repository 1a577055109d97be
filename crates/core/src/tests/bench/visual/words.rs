//! The sentences of `visual`, and nothing else.

use std::fmt::Display;

pub(super) const BLACK_COMBUSTION_GAS: &str = "black from combustion gas";
pub(super) const ERODED_TIP_CLEANING_DOES: &str =
    "Eroded tip: cleaning does not restore it. Nozzle or injector.";
pub(super) const WET_SEAT_LEAKS_LEAK: &str = "Wet seat: leaks. The leak check shows how much.";
pub(super) const SEAL_LEFT_BORE_REMOVE: &str =
    "Seal left in the bore: remove it before fitting anything.";
pub(super) const OVAL_HOLES_SPRAY_OFF: &str =
    "Oval holes: spray off target and too much flow. Worn, not dirty.";
pub(super) const COMBUSTION_GAS_PASSED_SEAT: &str =
    "Combustion gas passed the seat: clean bore and seat, new washer, correct torque.";
pub(super) const HEAVY_CORROSION_WATER_CHECK: &str =
    "Heavy corrosion: water. Check the fuel before fitting the next set.";
pub(super) const NO_FILTER_BASKET_DIRT: &str =
    "No filter basket: dirt in the fuel goes straight in.";
pub(super) const CARBON_TIP_CLEAN_LOOK: &str = "Carbon on the tip: clean, then look again.";
pub(super) const VARNISH_TIP_SOAK_PULSE: &str = "Varnish on the tip: soak, then pulse in the bath.";
pub(super) const MARKED_SEAT_LEAK_CHECK: &str = "Marked seat: the leak check decides.";
pub(super) const HARD_SEALS_RENEW: &str = "Hard seals: renew.";
pub(super) const SEAL_MISSING: &str = "A seal is missing.";
pub(super) const DIRTY_BASKET_RENEW: &str = "Dirty basket: renew.";
pub(super) const TORN_BASKET_RENEW_BACK: &str =
    "Torn basket: renew, and back-flush what came through it.";
pub(super) const LIGHT_CORROSION_NOTE_CHECK: &str = "Light corrosion: note it, check the fuel.";
pub(super) const BLOCKED_HOLES_CLEAN_CHECK: &str = "Blocked holes: clean, then check the spray.";
pub(super) const SAME_PART_NUMBER_REVISION: &str = "Same part number and revision across the set; then tip, seat, seals, basket, corrosion and holes, before any cleaning.";
pub(super) const HOURS_KM_RUN: &str = "Hours or 1000 km run";
pub(super) const NO_FAULT_SEEN: &str = "No fault seen.";
pub(super) const NOTHING_INSPECTED_YET: &str = "Nothing inspected yet.";
pub(super) const NO_FAULT_SEEN_SET: &str = "No fault seen in the set.";
pub(super) fn clean_renew_parts_first(work: impl Display) -> String {
    format!("{work}: clean or renew parts first.")
}

pub(super) fn look_closer_before_measuring(seen: impl Display) -> String {
    format!("{seen}: look closer before measuring.")
}

pub(super) const NO_COMMON_PART_NUMBER: &str = "no common part number in the set";
