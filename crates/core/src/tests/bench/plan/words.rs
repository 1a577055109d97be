//! The sentences of `plan`, and nothing else.

use std::fmt::Display;

pub(super) const SWEEP_UP_DOWN: &str = "sweep up and down";
pub(super) fn warm_up_part_load(c: impl Display) -> String {
    format!("Warm up at part load until the fluid reaches {c}.")
}

pub(super) fn at_rail(point: impl Display, pressure: impl Display) -> String {
    format!("{point} at {pressure}")
}

pub(super) const WARM_UP_PART_LOAD_UNTIL: &str =
    "Warm up at part load until the temperature is steady.";
