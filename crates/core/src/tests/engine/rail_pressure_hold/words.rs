//! The sentences of `rail_pressure_hold`, and nothing else.

use crate::units::PRESSURE;
use std::fmt::Display;

pub(super) const RAIL_PRESSURE_AFTER_SWITCHING: &str = "Rail pressure after switching off";
pub(super) const SWITCH_OFF_LEAVE_RAIL: &str = "Switch off and leave it: rail pressure at once, then after each of these minutes. Many diesel rails release their pressure by design; then only the maker's limit counts.";
pub(super) const SCAN_TOOL_GAUGE_TEST: &str =
    "Scan tool, or a gauge at the test port that stays on";
pub(super) const RAIL_EMPTIES_WHILE_PARKED: &str =
    "A rail that empties while parked causes a long crank, whichever part lets it go.";
pub(super) const CRANK_JUST_LONG_AFTER: &str = "Crank just as long after standing only a minute.";
pub(super) const READ_RAIL_PRESSURE_SWITCH: &str = "Read the rail pressure at switch-off.";
pub(super) const READ_SWITCH_OFF_AGAIN: &str =
    "Read it at switch-off, and again after some minutes.";
pub(super) fn kpa_after_more_before(
    pair: impl Display,
    pair2: impl Display,
    pair3: impl Display,
) -> String {
    format!(
        "{pair} {PRESSURE} after {pair2} is more than the {pair3} before: was it switched on again?"
    )
}

pub(super) fn held_kpa(kept: impl Display) -> String {
    format!("Held, in {PRESSURE}: {kept}.")
}

pub(super) const PRESSURE_LOST_BUT_NOT: &str = "Pressure is lost, but not shown where: pump valve, relief valve and return, then the injector tips, one after the other.";
pub(super) fn limit_read(minute: impl Display) -> String {
    format!("The limit is for {minute}: read it then.")
}

pub(super) fn kpa_after_required_rail(
    kept: impl Display,
    after: impl Display,
    least: impl Display,
) -> String {
    format!("{kept} {PRESSURE} after {after}; {least} required: the rail loses its pressure.")
}

pub(super) fn kpa_after_inconclusive_too(
    kept: impl Display,
    after: impl Display,
    least: impl Display,
) -> String {
    format!("{kept} {PRESSURE} after {after}: inconclusive, too close to {least} for this gauge.")
}

pub(super) fn kpa_after_required(kept: impl Display, after: impl Display) -> String {
    format!("{kept} {PRESSURE} after {after}: as required.")
}

pub(super) const PRESSURE_FALLS_FIRST_HOLDS: &str =
    "Pressure falls at first, then holds: the valves close.";
pub(super) const PRESSURE_HOLDS: &str = "Pressure holds.";
pub(super) const PRESSURE_FALLS_ANOTHER_READING: &str =
    "Pressure falls; another reading some minutes later shows whether it goes on.";
pub(super) fn still_falling_min_end(last: impl Display) -> String {
    format!("Still falling, {last:.0} %/min at the end: a leak, not a valve that closes late.")
}

pub(super) const FALLING_MORE_SLOWLY_NOW: &str =
    "Falling more slowly now: read again some minutes later.";
