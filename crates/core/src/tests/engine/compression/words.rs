//! The sentences of `compression`, and nothing else.

use crate::units::PRESSURE;
use std::fmt::Display;

pub(super) const ALL_SPARK_PLUGS_INJECTORS: &str = "All spark plugs or injectors out, throttle open, battery charged: the same number of turns for each. Or the relative figures of a cranking test.";
pub(super) const COMPRESSION_GAUGE_ADAPTER_CURRENT: &str =
    "Compression gauge with the adapter, or a current clamp and a scope";
pub(super) const CRANKING_CURRENT_SPEED: &str = "cranking current or speed";
pub(super) const MECHANICAL_FAULT_MIMIC_WEAK: &str = "A mechanical fault can mimic a weak injector. Cranking current first; only the gauge is proof.";
pub(super) const EVEN_CRANKING_FIGURES_EVEN: &str =
    "Even cranking figures and an even cut-out test.";
pub(super) const RELATIVE_COMPRESSION_QUICK_BUT: &str = "Relative compression is quick but no proof: plugs and injectors stay in for it; confirm by gauge before deciding.";
pub(super) const LOW_COMPRESSION_DOES_NOT: &str = "Low compression does not point to the injector. Any other finding on the same injector still counts.";
pub(super) fn cylinders_neighbours_both_low(one: impl Display, other: impl Display) -> String {
    format!(
        "Cylinders {one} and {other} are neighbours and both low: check the gasket between them first."
    )
}

pub(super) fn kpa_lower_two_groups(value: impl Display) -> String {
    format!("{value} {PRESSURE}, in the lower of two groups.")
}

pub(super) fn kpa_upper_two_groups(value: impl Display) -> String {
    format!("{value} {PRESSURE}, in the upper of two groups.")
}

pub(super) fn far_below_others(low: impl Display) -> String {
    format!("{low}: far below the others.")
}

pub(super) fn kpa_below_required_kpa(value: impl Display, least: impl Display) -> String {
    format!("{value} {PRESSURE}, below the required {least} {PRESSURE}.")
}

pub(super) const CANNOT_START: &str = " It cannot start on that.";
pub(super) fn all_below_kpa_low(
    low: impl Display,
    least: impl Display,
    start: impl Display,
) -> String {
    format!(
        "All {low} below {least} {PRESSURE}: valve timing and cranking speed first, then a gauge that reads low.{start}"
    )
}

pub(super) fn compression_too_low(low: impl Display) -> String {
    format!("{low}: compression too low.")
}

pub(super) fn other_unit(highest: impl Display) -> String {
    format!(
        "Highest is {highest}: no engine compresses so little. Enter the unit that the gauge reads in."
    )
}

pub(super) const FIRING_ORDER_FROM_FIRST_PEAK: &str = "Firing order, from the first peak";
