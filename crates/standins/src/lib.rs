//! Made-up devices: what a workshop has beside it, as small programs that speak open text protocols.
//!
//! They are no models of anybody's device. They keep the manners of real ones, the bad ones too, so
//! that the program can be built and tried without any.

pub mod unit;

mod serve;

pub use serve::serve_unit;
