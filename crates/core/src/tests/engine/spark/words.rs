//! The sentences of `spark`, and nothing else.

use std::fmt::Display;

pub(super) const SPARK_SWAPPED_NEIGHBOUR: &str = "Spark swapped with a neighbour";
pub(super) const IGNITION_OFF_WAITED_SWAP: &str = "Ignition off and waited: swap the coil, then the spark plug, of the misfiring cylinder with a neighbour. Run it again.";
pub(super) const SPARK_PLUG_SPANNER_INSULATED: &str = "Spark plug spanner, insulated gloves";
pub(super) const MOVED_COIL_SPARK_PLUG: &str = "moved with coil or spark plug";
pub(super) const SINGLE_PETROL_MISFIRE_MAY: &str =
    "A single petrol misfire may be spark: a swap takes minutes, an injector costs money.";
pub(super) const MISFIRE_SHARED_ALL_CYLINDERS: &str = "A misfire shared by all cylinders.";
pub(super) const SWAP_COIL_SPARK_PLUG: &str =
    "Swap coil or spark plug of the misfiring cylinder, and run it.";
pub(super) const MISFIRE_STAYED_NOT_SPARK: &str = "The misfire stayed: not the spark.";
pub(super) fn spark_not_injector(moved: impl Display) -> String {
    format!("{moved}: spark, not its injector.")
}

pub(super) const MISFIRE_MOVED_COIL_SPARK: &str = "The misfire moved with the coil or spark plug.";
pub(super) const MISFIRE_STAYED: &str = "The misfire stayed where it was.";
pub(super) const FAULT_MOVES_PART_PART: &str = "A fault that moves with a part is in that part.";
pub(super) const SWAP_REVERSED_SPARK_PLUG: &str =
    "The swap reversed, and the spark plug inspected.";
