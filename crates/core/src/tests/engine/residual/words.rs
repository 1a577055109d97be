//! The sentences of `residual`, and nothing else.

use std::fmt::Display;

pub(super) const ASSUMING_SMALL_ENGINE: &str = ", assuming a small engine";
pub(super) fn clearance_volume(fraction: impl Display, assumed: impl Display) -> String {
    format!("{fraction:.1} % of its clearance volume{assumed}")
}

pub(super) fn fuel_piston_cylinder_clear(cylinder: impl Display, share: impl Display) -> String {
    format!(
        "Fuel on the piston, cylinder {cylinder}: {share}. Clear-flood crank, spark plugs out, before starting."
    )
}

pub(super) fn stop_cylinder_holds_not(cylinder: impl Display, share: impl Display) -> String {
    format!(
        "Stop: cylinder {cylinder} holds {share}. Do not pulse it again until cleared: risk of hydraulic lock."
    )
}
