//! The sentences of `doser`, and nothing else.

use std::fmt::Display;

pub(super) const DOSER_LEAK_FLOW: &str = "Doser: leak and flow";
pub(super) const TIP_CLEAN_COOLANT_PORTS: &str =
    "Tip clean, coolant ports capped: closed for the leak first, then timed runs.";
pub(super) const DOSING_LIMIT: &str = "dosing at its limit";
pub(super) const TIME_EACH_RUN: &str = "Time of each run";
pub(super) const LEAK_MINUTE: &str = "Leak, per minute";
pub(super) const RESET_COUNTERS_DOSER_IGNITION: &str =
    "Reset the doser counters with the scan tool, ignition on, engine off.";
pub(super) const STANDING_REGENERATION_RAISED_IDLE: &str =
    "Standing regeneration, outdoors or with hot-gas extraction, for as long as the maker says.";
pub(super) const LET_COOL_IDLE_MIN: &str = "Let it cool at idle, then drive it under load and read the temperatures before and after the catalyst.";
pub(super) const DOSER_ORDER_DOSING_LIMIT: &str =
    "Doser in order; \"dosing at its limit\" points downstream.";
pub(super) const LEAK_FLOW_WITHIN_LIMITS: &str = "Leak and flow within limits.";
pub(super) const MINUTE_CLOSED_THREE_RUNS: &str = "Closed for the leak first, then the timed runs.";
pub(super) const CATALYST_FACE_BLOCKED_TEMPERATURE: &str =
    "Catalyst face blocked, temperature probes swapped or slow, or exhaust leak: check those.";
pub(super) const COOLANT_PORTS_NOT_CAPPED: &str = "Coolant ports not capped: drips may be coolant.";
pub(super) const TIP_NOT_CLEANED_FIRST: &str =
    "Tip not cleaned first: low flow may be carbon alone.";
pub(super) fn timed_over_s_brought(seconds: impl Display) -> String {
    format!("Timed over {seconds} s and brought to a minute.")
}

pub(super) const LIMITS_DEPEND_PART_REVISION: &str =
    "Limits depend on the part revision: enter it.";
pub(super) const PRESSURE_NOT_NOTED: &str = "Pressure not noted.";
pub(super) const TIMED_RUNS_MISSING: &str = "Timed runs missing.";
pub(super) const LIBRARY_NO_VOLUME_DOSER: &str = "The library has no volume for this doser.";
pub(super) fn ml_chance_within(
    list: impl Display,
    runs: impl Display,
    u_ml: impl Display,
    u_ml2: impl Display,
    p_conform: impl Display,
) -> String {
    format!("({list}) ÷ {runs} = {u_ml} ± {u_ml2} ml; {p_conform:.0} % chance it is within")
}

pub(super) const ONE_RUN_DOES_NOT: &str = "One run does not fit the others: it is not averaged in.";
pub(super) const RUN_AGAIN_UNDER_SAME: &str = "That run again under the same conditions.";
pub(super) const OVER_LIMIT_FEWER_THREE: &str =
    "Over the limit in fewer than three runs: not replaced on this.";
pub(super) const MISSING_RUNS_TIP_CLEANED: &str =
    "The missing runs, tip cleaned, pressure and edition noted.";
pub(super) const DOSES_TOO_MUCH_REPLACE: &str = "Doses too much: replace it.";
pub(super) const CLEANING_DOES_NOT_REDUCE: &str = "Cleaning does not reduce flow.";
pub(super) const LOW_FEWER_THREE_RUNS: &str = "Low in fewer than three runs.";
pub(super) const MISSING_RUNS: &str = "The missing runs.";
pub(super) const LOWER_AFTER_SECOND_CLEANING: &str =
    "Lower after the second cleaning than before it: stop cleaning and replace it.";
pub(super) const NO_FURTHER_CYCLE: &str = "No further cycle.";
pub(super) const LOW_AFTER_CLEANING_REPLACE: &str = "Low after cleaning: replace it.";
pub(super) const LOW_CLEAN_TIP_REPEAT: &str = "Low: clean the tip, then repeat the runs.";
pub(super) const CLEANING_ROUND_SAME_RUNS: &str = "A cleaning round, then the same runs.";
pub(super) const WITHIN_FAR_MORE_RUNS: &str = "Within so far; more runs needed before release.";
pub(super) const DOSES_WITHIN_LIMIT: &str = "Doses within its limit.";
pub(super) const OVER_LIMIT_LESS_UNCERTAINTY: &str =
    "Over the limit by less than its uncertainty: no replacement on this.";
pub(super) const THREE_MORE_RUNS_TUBE: &str = "Three more runs, or a tube with finer marks.";
pub(super) const INCONCLUSIVE_TOO_CLOSE_LIMIT: &str = "Inconclusive: too close to a limit.";
pub(super) fn ml_minute_guard(leak: impl Display, u: impl Display, guard: impl Display) -> String {
    format!("{leak} ± {u} ml in a minute, guard {guard}")
}

pub(super) const LEAK_CLOSED_CLEAN_SEAT: &str = "Leak when closed: clean the seat and repeat once.";
pub(super) const MARKS_TOO_COARSE_LEAK: &str = "Marks too coarse for this leak limit.";
pub(super) const NARROW_TUBE_FIVE_MINUTES: &str = "A narrow tube, or five minutes instead of one.";
