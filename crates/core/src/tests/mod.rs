//! Tests: from what was read to a verdict with its because.
//!
//! A test is one file of [`mod@engine`] (read cylinder by cylinder) or [`mod@bench`] (read round
//! after round): its cells, its words, its outcomes and how it is judged; the table of its outcomes
//! lies beside it. One line of the registry makes it known to the plan, to judgement and to every
//! view. What needs several tests (a swap, the electrical conclusion, two tests side by side) stands
//! here.

mod because;
pub mod bench;
pub mod can_decide;
pub(crate) mod cell;
pub mod coded;
pub mod complaint;
pub mod electrical;
pub mod engine;
pub mod house_reference;
pub mod preset;
pub(crate) mod property;
mod registry;
pub mod side_by_side;
pub(crate) mod slip;
pub mod swap;
mod verdict;
mod words;

pub use because::{Because, Proposal, School};
pub use cell::{CellForm, ReadCell};
pub use engine::Outcome;
pub use verdict::{Lane, Row, SweepLine, Verdict};

use crate::said::Code;
use bench::BenchTest;
use engine::EngineTest;

/// What the lanes of all tests say, by name.
pub(crate) mod outcomes {
    pub(crate) use super::bench::outcomes::*;
    pub(crate) use super::coded::outcomes::*;
    pub(crate) use super::engine::outcomes::*;
    pub(crate) use super::swap::outcomes::*;
}

/// Every outcome that stands in a table.
pub fn codes() -> impl Iterator<Item = Code> {
    let engine = EngineTest::ALL.iter().flat_map(|test| test.outcomes());
    let bench = BenchTest::ALL.iter().flat_map(|test| test.outcomes());
    let across = swap::outcomes::ALL.iter().chain(coded::outcomes::ALL);
    engine.chain(bench).chain(across).copied()
}

/// The tables of outcomes, each as the file beside its test.
pub(crate) fn tables() -> impl Iterator<Item = &'static str> {
    let engine = EngineTest::ALL.iter().map(|test| test.table());
    let bench = BenchTest::ALL.iter().map(|test| test.table());
    engine.chain([swap::TABLE, coded::TABLE]).chain(bench)
}
