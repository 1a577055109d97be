//! The sentences of `spray`, and nothing else.

use std::fmt::Display;

pub(super) const DROP_AFTER_CLOSING: &str = "a drop after closing";
pub(super) const NO_SPRAY_PROVE_DRIVEN: &str =
    "No spray: prove that it is driven before condemning it.";
pub(super) const KEEPS_RUNNING_AFTER_CLOSING: &str =
    "Keeps running after closing: the seat does not close.";
pub(super) const SOLID_JET_BLOCKED_HOLES: &str = "Solid jet: blocked holes or plate.";
pub(super) const STREAKS_DEPOSITS_HOLES: &str = "Streaks: deposits at the holes.";
pub(super) const ONE_SIDE_BLOCKED_HOLES: &str = "To one side: blocked holes, or a damaged tip.";
pub(super) const NARROW_CONE_LOW_PRESSURE: &str = "Narrow cone: low pressure, or deposits.";
pub(super) const WIDE_CONE_WORN_TIP: &str = "Wide cone: a worn tip, or too much pressure.";
pub(super) const THICK_CORE_LARGE_DROPS: &str = "Thick core: large drops instead of mist.";
pub(super) const RAGGED_EDGE_DEPOSITS: &str = "Ragged edge: deposits.";
pub(super) const DROP_AFTER_CLOSING_LEAK: &str = "Drop after closing: do the leak check.";
pub(super) const BEHIND_SHIELD_OPERATING_PRESSURE: &str =
    "Behind the shield, at operating pressure: describe the spray of each.";
pub(super) const NO_FAULT_SEEN_SPRAY: &str = "No fault seen in the spray.";
pub(super) const CLEANED_SPRAYED_AGAIN_SAME: &str =
    "Cleaned, then sprayed again at the same pressure.";
pub(super) const NO_SPRAY_RECORDED_YET: &str = "No spray recorded yet.";
pub(super) const EVEN_SPRAY_EVERY_ONE: &str = "Even spray on every one recorded.";
pub(super) fn spray_fault(bad: impl Display) -> String {
    format!("{bad}: spray fault.")
}
