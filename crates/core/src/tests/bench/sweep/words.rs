//! The sentences of `sweep`, and nothing else.

use crate::units::FLOW;
use std::fmt::Display;

pub(super) const NUMBER_PULSES_EACH_WIDTH: &str =
    "A number of pulses at each width, from the shortest up. A dry tube is a reading: 0.";
pub(super) fn late_dead_time_first(slow: impl Display) -> String {
    format!("{slow}: late by dead time and first spray, not by flow.")
}

pub(super) const READ_LEAST_THREE_WIDTHS: &str = "Read at least three widths that spray.";
pub(super) const ALL_SWEPT_OPEN_TOGETHER: &str = "All that were swept open together.";
pub(super) const INCONCLUSIVE_NO_DEAD_TIME: &str =
    "Inconclusive: no dead time of the set can be compared.";
pub(super) const LATE_OPENER_RUNS_CYLINDER: &str =
    "A late opener runs its cylinder lean at short pulses: idle and light load first.";
pub(super) const TWO_STROKE_SEIZES_RUNS: &str = "A two-stroke seizes if it runs lean: fit none of these until it opens like the others, whatever its static flow.";
pub(super) fn ms_off_line_others(tag: impl Display, ms: impl Display) -> String {
    format!("{tag}, {ms} ms: off the line of the others; probably misread.")
}

pub(super) fn first_spray_ms_others(own: impl Display, usual: impl Display) -> String {
    format!("First spray at {own} ms, the others at {usual} ms: opens late.")
}

pub(super) fn no_spray_any_width(usual: impl Display) -> String {
    format!("No spray at any width; the others spray from {usual} ms.")
}

pub(super) const MORE_WIDTHS_BETWEEN_SHORTEST: &str =
    "More widths between the shortest that sprays and fully open.";
pub(super) const NO_SPRAY_ANY_WIDTH_2: &str = "No spray at any width.";
pub(super) fn first_spray_ms_no(ms: impl Display) -> String {
    format!("First spray at {ms} ms; no line through these points.")
}

pub(super) fn dead_time_ms_static(
    offset: impl Display,
    u: impl Display,
    flow: impl Display,
    min_linear_ms: impl Display,
    first_spray_ms: impl Display,
) -> String {
    format!(
        "dead time {offset} ± {u} ms, static {flow} {FLOW}, linear from {min_linear_ms} ms, first spray at {first_spray_ms} ms"
    )
}

pub(super) const LINE_THROUGH_POINTS: &str = "Line through its points";
pub(super) const NO_OTHER_FAMILY_SESSION: &str = "No other of its family in the session.";
pub(super) const DEAD_TIMES_SET_NOT: &str = "Dead times of the set do not agree.";
pub(super) const KNOWN_GOOD_ONE_SWEPT: &str = "A known good one, swept beside them.";
pub(super) fn late_more_ms_workshop(step: impl Display) -> String {
    format!("Late is more than {step} ms (workshop rule) and more than the uncertainty")
}

pub(super) fn first_spray_ms_others_ms(
    first_spray_ms: impl Display,
    first: impl Display,
) -> String {
    format!("First spray at {first_spray_ms} ms; the others at {first} ms.")
}

pub(super) fn opens_ms_later_others(late: impl Display) -> String {
    format!("Opens {late} ms later than the others: lean at short pulses.")
}

pub(super) const CLEANED_SWEPT_AGAIN_STILL: &str =
    "Cleaned and swept again; still late means spring or armature, not dirt.";
pub(super) fn opens_later_than_the_other(late: impl Display) -> String {
    format!(
        "Opens {late} ms later than the other: lean at short pulses. Which of the two is right needs a limit."
    )
}
pub(super) fn opens_earlier_than_the_other(early: impl Display) -> String {
    format!("Opens {early} ms earlier than the other. Which of the two is right needs a limit.")
}
pub(super) const WHICH_OF_TWO: &str =
    "The dead time of this family, or a known good one swept beside them.";
pub(super) fn opens_ms_earlier_others(late: impl Display) -> String {
    format!("Opens {late} ms earlier than the others.")
}

pub(super) const PART_NUMBER_DRIVER_LEAK: &str =
    "Part number and driver, then the leak check: a weak spring opens early.";
pub(super) const INCONCLUSIVE_POINTS_SCATTER_TOO: &str =
    "Inconclusive: the points scatter too much.";
pub(super) const MORE_PULSES_EACH_WIDTH: &str = "More pulses at each width.";
pub(super) const OPENS_LIKE_OTHERS: &str = "Opens like the others.";
