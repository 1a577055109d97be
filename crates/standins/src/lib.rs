//! Made-up devices: what a workshop has beside it, as small programs that speak open text protocols.
//!
//! They are no models of anybody's device. They keep the manners of real ones, the bad ones too, so
//! that the program can be built and tried without any. [`mod@unit`] is the control unit, [`mod@instrument`]
//! what people measure with, at an engine of `cobaltine-engines`, [`mod@world`] a workshop full of them.

pub mod instrument;
pub mod unit;
pub mod world;

mod serve;

pub use serve::{serve_device, serve_unit};
