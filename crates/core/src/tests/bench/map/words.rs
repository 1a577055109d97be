//! The sentences of `map`, and nothing else.

use std::fmt::Display;

// drawn

pub(super) const WITHIN_ALL_LIMITS_READ: &str = "Within all limits read.";
pub(super) const TOO_CLOSE_LIMIT_BENCH: &str = "Too close to a limit for this bench.";
pub(super) const ABOVE_LIMITS_NO_PATTERN: &str = "Above limits; no pattern that names a part.";
pub(super) const BELOW_LIMITS_NO_PATTERN: &str = "Below limits; no pattern that names a part.";
pub(super) const LIBRARY_NO_LIMITS_POINTS: &str = "The library has no limits for these points.";
pub(super) const LIKE_OTHERS_EVERY_POINT: &str =
    "Like the others at every point read; the library has no limits for these points.";
pub(super) const OTHERS_DO_NOT_SETTLE: &str = "Inconclusive: too close, or the others do not agree. The library has no limits for these points.";
pub(super) fn against_others(says: impl Display) -> String {
    format!("{says} Against the others: the library has no limits for these points.")
}

pub(super) const MORE_STROKES_POINT_MEAN: &str =
    "More strokes at that point, or the mean of three.";

// patterns

pub(super) const LOW_EVERY_POINT: &str = "Low from the shortest pulse to full load.";
pub(super) const RESTRICTED_FEED_INLET_FILTER: &str =
    "restricted feed: inlet filter, too little lift, or bench rail pressure";
pub(super) const CHECK_INLET_FILTER_LIFT: &str =
    "Check inlet filter and lift first; use a master injector on the bench if others are low too.";
pub(super) const HIGH_EVERY_POINT: &str = "High at full load: it flows too much.";
pub(super) const TOO_MUCH_LIFT_WORN: &str = "too much lift, or a worn nozzle";
pub(super) const SET_LIFT_SHIMS_REPEAT: &str =
    "Set lift by shims, then repeat the map; renew a nozzle that stays high.";
pub(super) const HIGH_STATIC_LEAK_OFF: &str = "High static leak-off: it leaks when not driven.";
pub(super) const RENEW_LAP_VALVE_SEAT: &str =
    "Renew or lap valve seat and valve, then repeat static leak-off.";
pub(super) const LOW_ONLY_FULL_LOAD: &str = "low at full load";
pub(super) const LOW_FULL_LOAD_ONLY: &str =
    "Low at full load, not at short pulses: it opens but flows too little.";
pub(super) const NOZZLE_HOLES_COKED_TOO: &str = "nozzle holes coked, or too little needle lift";
pub(super) const CLEAN_NOZZLE_BATH_STILL: &str =
    "Clean the nozzle in the bath; if still low, renew it.";
pub(super) const LOW_FULL_LOAD_HIGH: &str = "low at full load, high leak-off";
pub(super) const LOW_FULL_LOAD_HIGH_LEAK: &str =
    "Low at full load with high leak-off: fuel meant for injection leaks off.";
pub(super) const CLEARANCE_CONTROL_PISTON_GUIDE: &str =
    "clearance of the control piston or its guide, or the valve seat";
pub(super) const RENEW_VALVE_SET_CLEARANCE: &str =
    "Renew the valve set; clearance cannot be adjusted away. The nozzle is not the first part.";
pub(super) const HIGH_IDLE_SHORT_PULSES: &str = "High at idle and short pulses: closes late.";
pub(super) const NOZZLE_SEAT_NEEDLE_TOO: &str = "nozzle seat or needle, or too large an air gap";
pub(super) const SET_AIR_GAP_SHIMS: &str =
    "Set the air gap by shims; renew the nozzle if it stays high.";
pub(super) const LOW_SHORT_PULSES: &str = "low at short pulses";
pub(super) const LOW_SHORT_PULSES_ONLY: &str =
    "Low at short pulses, not at full load: opens late or not at all.";
pub(super) const ARMATURE_STICKING_TOO_SMALL: &str = "armature sticking, or too small an air gap";
pub(super) const CLEAN_ARMATURE_GUIDE_SET: &str =
    "Clean armature and guide, set the air gap by shims.";
pub(super) const OPENING_DELAY_ABOVE_LIMIT: &str = "The opening delay is above its limit.";
pub(super) const ARMATURE_SPRING_AIR_GAP: &str = "armature, spring or air gap";
pub(super) const COIL_VALUE_AGAINST_SET: &str = "Coil value against the set, then the air gap.";
pub(super) const HIGH_LEAK_OFF_UNDER: &str = "high leak-off under load";
pub(super) const HIGH_LEAK_OFF_WHILE: &str = "High leak-off while working, not when static.";
pub(super) const CLEARANCE_CONTROL_PISTON_GUIDE_2: &str =
    "clearance of the control piston or its guide";
pub(super) const RENEW_VALVE_SET_CLEARANCE_CANNOT: &str =
    "Renew the valve set; clearance cannot be adjusted away.";

// map

pub(super) const POINT_POINT_DELIVERED_LEAKED: &str = "Point by point: delivered, leaked off, opening delay. Warm up first; count only once pressure and temperature are steady.";
pub(super) const MASTER_INJECTOR_BENCH_PRESSURE: &str =
    "A master injector on this bench, its pressure sensor and fluid temperature.";
pub(super) fn all_show_check_bench(seen: impl Display, word: impl Display) -> String {
    format!("All {seen} show: {word}. Check the bench first.")
}

pub(super) const READ_FIRST_POINT: &str = "Read the first point.";
pub(super) fn decimal_slipped(how: impl Display) -> String {
    format!("It is {how} the others: decimal point slipped? Read the tube again.")
}

pub(super) const ALIKE_NO_LIMITS: &str =
    "Nothing stands out from the others. The library has no limits for some points.";
pub(super) const ALL_POINTS_READ_WITHIN: &str = "All points read are within limits.";
pub(super) fn inconclusive_too_close_limit(unsure: impl Display) -> String {
    format!("{unsure}: inconclusive, too close to a limit.")
}

pub(super) fn out_limits(bad: impl Display) -> String {
    format!("{bad}: out of limits.")
}

pub(super) const ALL_ALIKE_SELDOM_WEAR: &str = "All alike is seldom wear: check pressure sensor, fluid temperature, and a master injector on this bench.";
pub(super) fn run_bar_plan_says(
    name: impl Display,
    kpa: impl Display,
    plan: impl Display,
) -> String {
    format!("{name} was run at {kpa}, the plan says {plan}: its limits do not apply.")
}

pub(super) fn run_c_plan_says(name: impl Display, c: impl Display, plan: impl Display) -> String {
    format!("{name} was run at {c}, the plan says {plan}: let it settle and read it again.")
}

pub(super) fn full_plan_needed_before(lacks: impl Display) -> String {
    format!("Full plan needed before release; not read on all: {lacks}.")
}

pub(super) fn one_point_idle_enough(tag: impl Display) -> String {
    format!("{tag}: one point at idle is enough for now")
}

pub(super) fn repeat_only_affects_full(says: impl Display) -> String {
    format!("Repeat only what this affects. {says}. The full plan before release.")
}
