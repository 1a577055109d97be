//! The sentences of `supply_offset`, and nothing else.

use std::fmt::Display;

pub(super) const DEAD_TIME_AGAINST_SUPPLY: &str = "Dead time against supply";
pub(super) const TWO_WIDTHS_LINE_EACH: &str =
    "Two widths on the line at each supply voltage: the table used to tune an ECU.";
pub(super) const DEAD_TIME_GROWS_SUPPLY: &str =
    "Dead time grows with supply voltage: were two rows exchanged?";
pub(super) const BOTH_VOLTAGES_AGAIN: &str = "Both voltages again.";
pub(super) const DEAD_TIME_FALLS_SUPPLY: &str =
    "Dead time falls as supply voltage rises, as expected.";
pub(super) const ENTER_BOTH_WIDTHS_READ: &str =
    "Enter both widths, then read both tubes at each voltage.";
pub(super) const ONE_VOLTAGE_FAR_TABLE: &str = "One voltage so far; a table needs three or more.";
pub(super) fn dead_time_voltages_export(n: impl Display) -> String {
    format!("Dead time at {n} voltages: export the table as CSV.")
}
