//! The sentences of `low_pressure`, and nothing else.

use crate::units::PRESSURE;
use std::fmt::Display;

pub(super) const GAUGE_TEST_PORT_IDLING: &str = "Gauge at the test port: idling, then under load or at raised speed, then five minutes after stopping.";
pub(super) const LOW_PRESSURE_GAUGE_ADAPTER: &str = "Low-pressure gauge with its adapter, rags";
pub(super) const STARVED_PUMP_MAKES_GOOD: &str = "A starved pump makes good injectors look bad.";
pub(super) const RAIL_PRESSURE_REACHED_HELD: &str = "Rail pressure reached and held.";
pub(super) const READ_FUEL_SUPPLY_PRESSURE: &str = "Read the fuel supply pressure at idle.";
pub(super) const SAVED_NOT_ASSESSED_ENTER: &str = "Saved, not assessed: enter the maker's figures.";
pub(super) const TOO_LOW_PUMP_FILTER: &str =
    "too low: pump, filter, line or regulator before any injector";
pub(super) const TOO_HIGH_REGULATOR_BLOCKED: &str =
    "too high: regulator or blocked return line before any injector";
pub(super) const INCONCLUSIVE_GAUGE: &str = "inconclusive with this gauge";
pub(super) fn kpa(value: impl Display, word: impl Display, says: impl Display) -> String {
    format!("{value} {PRESSURE} {word} is {says}.")
}

pub(super) const FUEL_SUPPLY_OUT_LIMITS: &str =
    "Fuel supply out of limits: fix it before judging what it feeds.";
pub(super) const FUEL_SUPPLY_INCONCLUSIVE_TOO: &str =
    "Fuel supply inconclusive: too close to its limit.";
pub(super) fn fuel_supply_pressure_within(numbers: impl Display) -> String {
    format!("Fuel supply pressure within limits: {numbers}.")
}

pub(super) const WEAK_PUMP_SHOWS_UNDER: &str = "A weak pump shows under load: read it there too.";
pub(super) fn falls_kpa_five_minutes(after: impl Display) -> String {
    format!(
        "Falls to {after} {PRESSURE} in five minutes: a leak back or a leaking injector tip; expect poor hot starting."
    )
}
