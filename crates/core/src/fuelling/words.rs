//! The sentences of `fuelling`, and nothing else.

use std::fmt::Display;

pub(super) const LEAN_FULL_LOAD: &str = "lean at full load";
pub(super) const RICH_FULL_LOAD: &str = "rich at full load";
pub(super) const HOT_PISTON_KNOCK_NOT: &str =
    "Hot piston and knock: do not run at full load like this.";
pub(super) const SOOT_WASHED_BORE_DILUTED: &str = "Soot, washed bore, diluted oil.";
pub(super) const MISFIRE_HESITATION_LIGHT_LOAD: &str = "Misfire and hesitation at light load.";
pub(super) const ROUGH_IDLE_FOULED_SPARK: &str = "Rough idle, fouled spark plug.";
pub(super) const TOO_CLOSE_READINGS_MORE: &str =
    "Too close for these readings: use more pulses or a longer run.";
pub(super) fn rpm_duty_above_leaves(
    limit_rpm: impl Display,
    duty: impl Display,
    reserve: impl Display,
    at_limit: impl Display,
) -> String {
    format!(
        "At {limit_rpm} rpm the duty is {duty:.0} %, above the {reserve:.0} % that leaves a reserve{at_limit}"
    )
}

pub(super) const DEAD_TIMES_COME_ONE: &str =
    "Dead times come from one short pulse; a pulse sweep shows them better.";
pub(super) const PULSE_SWEEP_ONE: &str = "the pulse sweep, where there is one";
pub(super) fn ms_set_injects_nothing(ms: impl Display) -> String {
    format!("at {ms} ms this set injects nothing")
}

pub(super) fn inconclusive_readings(open: impl Display) -> String {
    format!("{open}: inconclusive with these readings.")
}

pub(super) const NO_CYLINDER_RUNS_LEAN: &str = "No cylinder runs lean or rich.";
pub(super) const SET_MATCHES_ECU_EXPECTS: &str = "The set matches what the ECU expects.";
pub(super) fn without_changing_ecu_idle(share: impl Display, share2: impl Display) -> String {
    format!("Without changing the ECU: {share} at idle, {share2} at full load.")
}
pub(super) const INJECTOR_NEVER_CLOSES_CANNOT: &str =
    ": the injector never closes and cannot deliver more.";
pub(super) const FIT_LARGER_INJECTORS_LOWER: &str = ": fit larger injectors, or lower the limit.";
