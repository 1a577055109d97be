//! The sentences of `pressure_drop`, and nothing else.

use crate::units::PRESSURE;
use std::fmt::Display;

// order

pub(super) fn first_one_repeated_moved(share: impl Display) -> String {
    format!(
        "The first one, repeated, moved by {share:.0} % of the whole spread: drift. Let the rail settle and repeat the set."
    )
}

pub(super) const READINGS_CREEP_TEST_ORDER: &str =
    "Readings creep in test order, but the first repeated the same: no drift.";
pub(super) fn cylinder_alone_stands_out(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder} alone stands out, at one end of the test order: repeat the first one to rule out drift."
    )
}

pub(super) fn readings_test_order_possible(way: impl Display) -> String {
    format!("Readings {way} in test order: possible drift. Repeat the first one.")
}

pub(super) const CORRECTED_DRIFT_NOTHING_LEFT: &str =
    "Corrected for drift, nothing is left to compare with.";
pub(super) fn corrected_drift_against_others(share: impl Display) -> String {
    format!("Corrected for drift: {share} against the others.")
}

pub(super) fn plain_comparison_disagrees_repeat(says: impl Display) -> String {
    format!("{says} The plain comparison disagrees: repeat.")
}

pub(super) const READINGS_DRIFTED_DURING_TEST: &str =
    "Readings drifted during the test: no injector condemned.";
pub(super) fn readings_drifted_test_still(out: impl Display) -> String {
    format!("Readings drifted in the test; still out after correction: {out}.")
}

// pressure drop

pub(super) const BALANCE_PRESSURE_DROP: &str = "Balance by pressure drop";
pub(super) const PRIME_SAME_START_PRESSURE: &str = "Prime to the same start pressure, pulse one injector a fixed number of times, note start and end. Repeat the first one at the end.";
pub(super) const FUEL_PRESSURE_GAUGE_PULSER: &str = "Fuel pressure gauge, pulser, rags";
pub(super) const RAIL_LEAK_DOWN_PER: &str = "Rail leak-down, per second";
pub(super) const FIRST_ONE_REPEATED_START: &str = "First one repeated, start";
pub(super) const FIRST_ONE_REPEATED_END: &str = "First one repeated, end";
pub(super) const STATIC_FLOW_ONE: &str = "Static flow of one";
pub(super) const COMPARES_EACH_INJECTORS_FLOW: &str =
    "Compares each injector's flow with the others, in place.";
pub(super) const SET_GOING_BENCH_ANYWAY: &str = "The set is going to the bench anyway.";
pub(super) const STATIC_FLOW_BORE_STROKE: &str = "Static flow, bore, stroke or compression ratio missing: fuel on the pistons is counted against a small budget.";
pub(super) const ENTER_MANY_PULSES_LENGTH: &str =
    "Enter how many pulses of which length each injector gets.";
pub(super) const READ_START_END_LEAST: &str =
    "Read start and end of at least two injectors to compare them.";
pub(super) const SET_SPLITS_INTO_TWO: &str =
    "The set splits into two groups: comparison cannot say which is right.";
pub(super) const TOO_FEW_AGREE_EACH: &str = "Too few agree with each other to compare.";
pub(super) fn all_drops_line(tests: impl Display) -> String {
    format!("All {tests} drops in line.")
}

pub(super) fn too_much_flow(high: impl Display) -> String {
    format!("{high}: too much flow.")
}

pub(super) fn too_little_flow(low: impl Display) -> String {
    format!("{low}: too little flow.")
}

pub(super) fn too_much_flow_too(high: impl Display, low: impl Display) -> String {
    format!("{high}: too much flow. {low}: too little flow.")
}

pub(super) const HALF_DO_NOT_OPEN: &str = "Half of them or more do not open: check pulser, supply and wires, then repeat. Beside them a sound one seems to flow too much.";
pub(super) fn does_not_open(share: impl Display) -> String {
    format!(
        "Drop {share} against the others: it does not open. Wire, driver or coil before any cleaning."
    )
}
pub(super) const TWO_OFF_OPPOSITE_WAYS: &str = "Two off in opposite ways: find the source of contamination (tank, filter, rail) before fitting new parts.";
pub(super) fn start_pressure_differs_prime(off: impl Display) -> String {
    format!("{off}: start pressure differs. Prime again and repeat.")
}

pub(super) fn end_kpa_above_start(end_kpa: impl Display, start_kpa: impl Display) -> String {
    format!(
        "End of {end_kpa} {PRESSURE} is above start of {start_kpa} {PRESSURE}: typed the wrong way round?"
    )
}

pub(super) const PULSE_ONLY_LOWER_PRESSURE: &str = "A pulse can only lower the pressure.";
pub(super) const START_END_CORRECTED_ONE: &str =
    "Start and end corrected, or this one pulsed again.";
pub(super) const MANY_SHORT_PULSES_SHOW: &str = "Many short pulses show opening as well as flow: a slow opener looks restricted here; one long pulse tells them apart.";
pub(super) const ONE_LONG_PULSE_SHOWS: &str =
    "One long pulse shows flow alone: a slow opener looks good here; many short pulses show it.";
pub(super) fn constant_within_others(tolerance: impl Display) -> String {
    format!("Constant within {tolerance} % of the others")
}

pub(super) const OTHERS_NOT_AGREE: &str = "The others do not agree.";
pub(super) const SAME_CORRECTED_DRIFT: &str = "Same, corrected for drift";
pub(super) fn drop_against_others(share: impl Display) -> String {
    format!("Drop {share} against the others.")
}

pub(super) fn against_others(share: impl Display) -> String {
    format!("{share} against the others.")
}

pub(super) const START_PRESSURE_DIFFERS_OTHERS: &str = "Start pressure differs from the others.";
pub(super) const COMPARISON_INCONCLUSIVE: &str = "Comparison is inconclusive.";
pub(super) const CONSTANT_INDEPENDENT_START_PRESSURE: &str =
    "The constant, independent of start pressure";
pub(super) const PRIME_SAME_START_PRESSURE_REPEAT: &str =
    "Prime to the same start pressure and repeat this one.";
pub(super) const LEAK_CHECK_DRIPPING_INJECTOR: &str =
    "The leak check: a dripping injector also shows too much flow here.";
pub(super) const SWAP_NEIGHBOUR_FOLLOWS_INJECTOR: &str =
    "A swap with a neighbour: if it follows, it is the injector.";
pub(super) const SAME_SET_AGAIN_BENCH: &str = "The same set again, or the bench.";
