//! The checks of a job: from readings to a verdict with its because.

mod because;
pub mod can_decide;
pub mod house_reference;
pub mod return_test;
pub mod sheet;

pub use because::{Because, Limit, Proposal, School};
