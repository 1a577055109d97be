//! Formulas of the made-up engine. Each file holds one, with its source and a worked number of our own
//! derivation as its test.

mod clearance;
mod coil;
mod compression;
mod dead_time;
mod fluid;
mod orifice;
mod rail;

pub use clearance::{Clearance, clearance_ml_min};
pub use coil::{COPPER_PER_K, resistance_ohm};
pub use compression::{Cylinder, compression_kpa};
pub use dead_time::DeadTime;
pub use fluid::{Fluid, Liquid};
pub use orifice::{orifice_ml_min, series_area};
pub use rail::{drained_kpa, settled_kpa};
