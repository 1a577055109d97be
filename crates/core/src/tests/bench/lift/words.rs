//! The sentences of `lift`, and nothing else.

use std::fmt::Display;

pub(super) const ENTER_FITTED_SHIM_LIFT: &str =
    "Enter the fitted shim and its lift; pick the next shim from stock. One shim change per round.";
pub(super) const TARGET_LIFT_NOT_LIBRARY: &str = "Target lift, if not in library";
pub(in super::super) const NOT_IN_STOCK: &str = "not in stock";
pub(in super::super) const CLOSE_POSSIBLE: &str = "as close as possible";
pub(super) fn lift_moved_against_shim(against: impl Display) -> String {
    format!(
        "{against}: the lift moved against its shim. Check this shim change before the next one."
    )
}

pub(super) fn does_not_converge_stop(stuck: impl Display) -> String {
    format!("{stuck}: does not converge. Stop and find the cause.")
}

pub(super) fn lift_not_set_yet(outside: impl Display) -> String {
    format!("{outside}: lift not set yet.")
}

pub(super) fn set_lift_within_limits(set: impl Display) -> String {
    format!("{set} set: lift within limits.")
}

pub(super) const ENTER_FITTED_SHIM_LIFT_GIVES: &str =
    "Enter the fitted shim and the lift it gives.";
pub(super) const REPEAT_POINTS_AFFECTS_FULL: &str =
    "Repeat the points this affects, then the full plan.";
pub(super) const LIBRARY_NO_LIFT_FAMILY: &str = "The library has no lift for this family.";
pub(super) const ENTER_TARGET_LIFT_TOLERANCE: &str = "Enter the target lift and its tolerance.";
pub(super) const SHIM_CHANGES_FAR: &str = "Shim changes so far";
pub(super) fn lift_within_limits_after(n: impl Display) -> String {
    format!("Lift within limits after {n}.")
}

pub(super) const MEASURE_FITTED_SHIM_ZERO: &str =
    "Measure the fitted shim, zero the gauge, measure the same lift again.";
pub(super) const TWO_SHIM_CHANGES_ROW: &str = "Two shim changes in a row brought it no closer.";
pub(super) const DIRT_UNDER_SHIM_BURR: &str =
    "Dirt under the shim, a burr or a sticking gauge: clean, then measure the same lift twice.";
pub(super) const NO_SHIMS_STOCK: &str = "No shims in stock.";
pub(super) const SHIMS_STOCK_ENTERED_HERE: &str = "Shims in stock, entered here.";
pub(super) fn m_shim_moved_lift(
    at: impl Display,
    at2: impl Display,
    lift: impl Display,
    lift2: impl Display,
) -> String {
    format!("{at} → {at2} µm of shim moved the lift from {lift} to {lift2} µm: against the shim.")
}

pub(super) fn gain_m_lift_per(gain: impl Display) -> String {
    format!("Gain: {gain} µm of lift per µm of shim")
}

pub(super) fn m_lift_becomes_m(
    at: impl Display,
    target: impl Display,
    lift: impl Display,
    gain: impl Display,
    ideal_um: impl Display,
    fit_um: impl Display,
    predicted_lift_um: impl Display,
) -> String {
    format!(
        "{at} + ({target} − {lift}) ÷ {gain} = {ideal_um} µm; with {fit_um} the lift becomes {predicted_lift_um} µm"
    )
}

pub(super) fn fit_m_giving_m(
    side: impl Display,
    fit: impl Display,
    predicted_lift_um: impl Display,
) -> String {
    format!("{side}: fit {fit} µm, giving {predicted_lift_um:.0} µm of lift.")
}

pub(super) const SHIM_CHANGE_LIFT_NEW: &str = "The shim change, then its lift in a new round.";
pub(super) fn but_within_less_uncertainty(side: impl Display, fit: impl Display) -> String {
    format!(
        "{side}, but within by less than its uncertainty; nothing in stock comes closer than the fitted {fit} µm."
    )
}

pub(super) const LIFT_MEASURED_AGAIN_OTHERWISE: &str =
    "The lift measured again; otherwise the exact size, ordered.";
pub(super) fn needs_m_nearest_stock(
    side: impl Display,
    ideal_um: impl Display,
    fit: impl Display,
    predicted_lift_um: impl Display,
) -> String {
    format!(
        "{side}: needs {ideal_um} µm; nearest in stock is {fit} µm, giving {predicted_lift_um:.0} µm."
    )
}

pub(super) const SIZE_ORDERED_TWO_SHIMS: &str =
    "That size ordered, or two shims that add up to it.";
pub(super) fn m_lift_per_degree(gain: impl Display, n: impl Display) -> String {
    format!("{gain} µm of lift per degree; maximum {n} ° at once")
}

pub(super) fn turn_nut_measure(side: impl Display, n: impl Display) -> String {
    format!("{side}: turn the nut by {n}, then measure.")
}
