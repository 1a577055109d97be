//! The sentences of `conditions`, and nothing else.

pub(super) const PRESSURE_FLUID_NOT_NOTED: &str = "pressure and fluid not noted";
