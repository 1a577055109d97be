//! The sentences of `flow`, and nothing else.

use std::fmt::Display;

// drawn

pub(super) const OFF_LIMIT_LIKE_ALL: &str =
    "Off its limit like all the others: wear or dirt in all of them is unlikely.";
pub(super) const PRESSURE_FLUID_FAMILY_MASTER: &str =
    "Pressure, fluid, family, then a master injector on the bench.";
pub(super) const LOW_ONE_REGIME_HIGH: &str = "Low in one regime and high in another.";
pub(super) const REGIMES_AGAIN_PULSE_SWEEP: &str = "The regimes again, then the pulse sweep.";
pub(super) const LOW_SHORT_PULSES_ONLY: &str =
    "Low at short pulses only: opens late rather than flows too little.";
pub(super) const PULSE_SWEEP_SEE_DEAD: &str = "The pulse sweep: see dead time and first spray.";
pub(super) const FLOWS_LESS_OTHERS_RESTRICTED: &str = "Flows less than the others: restricted.";
pub(super) const CLEAN_SAME_REGIMES_AGAIN: &str = "Clean, and the same regimes again.";
pub(super) const HIGH_SHORT_PULSES_ONLY: &str =
    "High at short pulses only: closes late or opens early.";
pub(super) const PULSE_SWEEP_SPRING_SEAT: &str = "The pulse sweep; the spring and the seat.";
pub(super) const FLOWS_MORE_OTHERS_WORN: &str = "Flows more than the others: worn, or other part.";
pub(super) const PART_NUMBER_FIRST_CLEANING: &str =
    "Part number first; cleaning does not reduce flow.";
pub(super) const IMPLAUSIBLE_READING: &str = "Implausible reading.";
pub(super) const TUBE_AGAIN: &str = "That tube again.";
pub(super) const READINGS_INCONCLUSIVE: &str = "These readings are inconclusive.";
pub(super) const LONGER_RUN_KNOWN_GOOD: &str = "A longer run, or a known good injector beside it.";
pub(super) const TOO_CLOSE_TOLERANCE_TUBES: &str = "Too close to the tolerance for these tubes.";
pub(super) const LONGER_RUN_TWICE_VOLUME: &str =
    "A longer run: twice the volume halves the uncertainty.";
pub(super) const LINE_OTHERS_EVERY_REGIME: &str = "In line with the others in every regime read.";
pub(super) const CORRECTED_WORKSHOP_REFERENCE: &str = "Corrected to workshop reference";

// position

pub(super) fn position_reads_whichever_injector(
    position: impl Display,
    share: impl Display,
) -> String {
    format!(
        "Position {position} reads {share} whichever injector is there: check the rail and the tube, not the injector."
    )
}

// rows

pub(super) fn compared_per_pulse(
    own: impl Display,
    name: impl Display,
    verb: impl Display,
) -> String {
    format!("{own}, {name}: {verb}; compared per pulse.")
}

pub(super) fn held_open_s(s: impl Display) -> String {
    format!("held open for {s} s")
}

pub(super) fn others_decimal_point_slipped(how: impl Display) -> String {
    format!("{how} the others: decimal point slipped?")
}

pub(super) fn more_ml_tube_holds(capacity_ml: impl Display) -> String {
    format!("more than the {capacity_ml} ml that a tube holds")
}

pub(super) fn read_s_after_run(waited: impl Display, settle: impl Display) -> String {
    format!("read {waited:.0} s after the run, before the foam settles ({settle} s)")
}

pub(super) const ABOUT_TWICE_OTHERS_TUBE: &str =
    "about twice the others: was the tube emptied first?";
pub(super) const SAME_NUMBER_ROW_BEFORE: &str =
    "same number as the row before, while the others moved: read twice?";

// flow

pub(super) const REGIME_REGIME_ALL_TUBES: &str = "Regime by regime, all tubes together. Empty them before each, and wait until the foam has settled.";
pub(super) fn compared_measured_nothing_corrected(missing: impl Display) -> String {
    format!(
        "Compared as measured: {missing}, so nothing was corrected to the reference and no limit applies."
    )
}

pub(super) fn corrected_limits_own_conditions(factor: impl Display) -> String {
    format!("; corrected to the limit's own conditions, × {factor:.4}")
}

pub(super) fn all_off_their_limit(alike_off: impl Display) -> String {
    format!("All {alike_off} off their limit alike: check pressure, fluid, family and bench first.")
}

pub(super) fn read_again(read_again: impl Display) -> String {
    format!("{read_again} to be read again.")
}

pub(super) const READ_LEAST_TWO_TUBES: &str = "Read at least two tubes of one regime.";
pub(super) const FAR_SET: &str = "So far the set is";
pub(super) fn spread(
    set: impl Display,
    grade: impl Display,
    share: impl Display,
    name: impl Display,
) -> String {
    format!("{set} {grade}: spread {share} % at {name}.")
}

pub(super) fn stated_readings_spread_highest(
    said: impl Display,
    widest: impl Display,
    name: impl Display,
) -> String {
    format!(
        "Stated as {said}; the readings spread by {widest} % at {name}. (highest − lowest) ÷ mean, not ± of it."
    )
}

pub(super) fn too_little_flow(who: impl Display) -> String {
    format!("{who}: too little flow.")
}

pub(super) fn too_much_flow(who: impl Display) -> String {
    format!("{who}: too much flow.")
}
