//! A step of a way through a case.

use cobaltine_core::exercise::SharedPart;
use cobaltine_core::tests::engine::EngineTest;

/// One step of a way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Step {
    /// A check that is read cell by cell.
    Check(EngineTest),
    /// What all share is put right.
    PutRight(SharedPart),
    /// The engine is warmed up.
    WarmUp,
    /// A return test of three runs.
    Returns,
    /// Codes are read.
    Codes,
    /// The bench.
    Bench,
}
