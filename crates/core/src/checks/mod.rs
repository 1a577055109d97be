//! The checks of a job: from readings to a verdict with its because.

mod because;
pub mod can_decide;
pub(crate) mod cell;
pub mod electrical;
pub mod house_reference;
pub mod return_test;
pub mod sheet;
pub mod side_by_side;
pub(crate) mod slip;
pub mod swap;

pub use because::{Because, Limit, Proposal, School};
pub use cell::CellForm;
pub use sheet::Outcome;
