//! Exercises on made-up engines.
//!
//! A [`case`] is an engine with a known truth. Whoever learns works on it in an ordinary job; what they read
//! there comes from the engine as it is by then ([`bay`], [`readings`]). What it takes is counted ([`spent`]),
//! what goes wrong on the way is noticed ([`mistakes`]), and at the end it is marked against the truth and
//! against the best way through it ([`marks`], [`best`]).
//!
//! Everything follows from the case and from the log of the job: nothing is kept besides. The crate knows the
//! records and verdicts of the core, and nothing of its judgement: whoever is taught by the program is not
//! marked by what the program thinks.

pub mod bay;
pub mod best;
mod came_out;
pub mod case;
mod learner;
pub mod marks;
pub mod mistakes;
pub mod readings;
mod remedy;
pub mod spent;
mod step;
mod tables;
mod words;
pub mod workshop;

pub use came_out::CameOut;
pub use learner::{Learner, Stumble};
pub use step::Step;

#[cfg(test)]
mod tests;
