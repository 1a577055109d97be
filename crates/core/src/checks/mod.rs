//! The checks of a job: from readings to a verdict with its because.

mod because;
pub mod return_test;

pub use because::{Because, Limit, Proposal, School};
