//! Proof: what has to have happened before a job is closed as proven.
//!
//! Each item is good, open, failed, in doubt, or left out by someone with a reason: an exception
//! that is signed. What the program can see for itself (fitting, codes, learned values, the failed
//! test repeated) is seen, never ticked. A job is closed as proven only when nothing is open and
//! nothing was left out.
//!
//! # Source
//! House rule: bleed, leak check, start, learn, re-scan, road test, repeat the test that failed.

mod decided;
mod figure;
mod learn;
mod proof;
mod repeat;
mod words;

pub use crate::work::{Counter, Learned, ProveId, Told};
pub(crate) use decided::condemned_by;
pub use figure::FigureProof;
pub use learn::{Learning, band_word};
pub use proof::{Closing, ItemState, Proof, ProofItem, proof};
pub use repeat::{PlaceProof, PlaceState, Repeat, RepeatLane};

#[cfg(test)]
mod tests;
