//! The sentences of `rail_relief`, and nothing else.

use crate::units::PRESSURE;
use std::fmt::Display;

pub(super) const RELIEF_LINE_INTO_CLEAR: &str = "Relief line into a clear jar, cranking or idling; wanted and actual rail pressure from the scan tool.";
pub(super) const CLEAR_JAR_HOSE_SCAN: &str = "Clear jar and hose, scan tool";
pub(super) const LEAKING_RELIEF_VALVE_LOSES: &str =
    "A leaking relief valve loses rail pressure whatever the injectors do.";
pub(super) const RAIL_PRESSURE_REACHED: &str = "Rail pressure reached.";
pub(super) const RELIEF_LINE_DRIPS_VALVE: &str =
    "Relief line drips: the valve does not close, or was opened too often.";
pub(super) const RELIEF_LINE_FLOWS_RAIL: &str =
    "Relief line flows: rail pressure is lost there, not at an injector.";
pub(super) const PUT_RELIEF_LINE_CLEAR: &str = "Put the relief line in a clear jar and look.";
pub(super) const RELIEF_LINE_STAYS_DRY: &str = "Relief line stays dry.";
pub(super) fn rail_pressure_reached(numbers: impl Display) -> String {
    format!("Rail pressure reached: {numbers}.")
}

pub(super) fn rail_pressure_not_reached(
    numbers: impl Display,
    n: impl Display,
    sheet: impl Display,
) -> String {
    format!("Rail pressure not reached: {numbers}, {n:.0} % required (workshop rule). {sheet}")
}
pub(super) const RELIEF_VALVE_DRY_PRESSURE: &str =
    "Relief valve dry, so pressure is lost elsewhere: pump, or injector leak-off.";
pub(super) const CHECK_RELIEF_LINE_BEFORE: &str =
    "Check the relief line before suspecting leak-off.";
pub(super) fn of_wanted(reached: impl Display, wanted: impl Display, percent: f64) -> String {
    format!("{reached} of {wanted} {PRESSURE}, {percent:.0} %")
}
