//! The sentences of `cutout`, and nothing else.

use std::fmt::Display;

pub(super) const ENGINE_WARM_IDLING_IDLE: &str = "Engine warm and idling, idle control held if possible: note the speed, disable each cylinder in turn, note the speed again.";
pub(super) const SPEED_ONE_CUT: &str = "Speed, this one cut";
pub(super) const SHOWS_MINUTES_CYLINDER_WEAK: &str =
    "Shows in minutes which cylinder is weak, not why.";
pub(super) const ANOTHER_COMPARISON_ALREADY_POINTS: &str =
    "Another comparison that already points to one cylinder.";
pub(super) const NOTE_SPEED_ALL_CYLINDERS: &str = "Note the speed with all cylinders first.";
pub(super) const CUT_LEAST_TWO_CYLINDERS: &str = "Cut at least two cylinders to compare them.";
pub(super) const CYLINDERS_DISAGREE_COMPARISON_CANNOT: &str =
    "The cylinders disagree: comparison cannot say which are weak.";
pub(super) fn all_make_similar_difference(read: impl Display) -> String {
    format!("All {read} make a similar difference.")
}

pub(super) fn make_little_difference(some: impl Display, some2: impl Display) -> String {
    format!("{some} make{some2} little difference.")
}

pub(super) fn drop_against_others(share: impl Display, says: impl Display) -> String {
    format!("Its drop is {share} against the others. {says}")
}

pub(super) fn drop_against_others_2(share: impl Display) -> String {
    format!("Its drop is {share} against the others.")
}

pub(super) fn cutting_changes_nothing(rpm: impl Display) -> String {
    format!("Cutting it costs {rpm} rpm: this cylinder does no work, whatever the others do.")
}
pub(super) fn do_no_work(cylinders: impl Display) -> String {
    format!("{cylinders}: no work done there; the others cannot be compared further.")
}
pub(super) const COMPARISON_INCONCLUSIVE: &str = "Comparison is inconclusive.";
pub(super) const SPEED_LOST_CUTTING: &str = "Speed lost by cutting it";
pub(super) fn weak_below_against_agreeing(tolerance: impl Display) -> String {
    format!("Weak is below −{tolerance} % against the agreeing others (workshop rule)")
}

pub(super) fn compression_cylinder(sentence: impl Display) -> String {
    format!("Compression of this cylinder: {sentence}")
}

pub(super) const COMPRESSION_CYLINDER_SWAP_NEIGHBOUR: &str =
    "Compression of this cylinder, or a swap with a neighbour.";
pub(super) const SWAP_NEIGHBOUR_DOES_FOLLOW: &str =
    "A swap with a neighbour: does it follow the injector?";
pub(super) fn weak_fuel_weak_compression(cylinder: impl Display) -> String {
    format!(
        "Weak fuel or weak compression: measure compression of cylinder {cylinder} before suspecting its injector."
    )
}

pub(super) fn cylinder_low_compression_too(cylinder: impl Display) -> String {
    format!("Cylinder {cylinder} is low in compression too: mechanical fault, not its injector.")
}

pub(super) fn compression_cylinder_matches_others(cylinder: impl Display) -> String {
    format!("Compression of cylinder {cylinder} matches the others: its fuel or spark is weak.")
}

pub(super) fn cylinder_compression_inconclusive_retest(cylinder: impl Display) -> String {
    format!("Cylinder {cylinder} compression inconclusive: retest by gauge.")
}
