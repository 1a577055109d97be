//! The rules of the injector job and its computation.
//!
//! This crate knows no file, no network, no clock and no screen: everything it
//! needs is passed in, and the same input always gives the same answer. The map:
//!
//! - [`quantity`]: numbers with a unit in their type, and how they are shown.
//! - [`units`]: the units that the workshop reads, chosen once.
//! - [`typed`]: what people type (`43,5`, `1:56`, `180 F`) turned into canonical quantities.
//! - [`calc`]: one file per computation and the one registry of them all.
//! - [`calculators`]: computations with their fields and formulas, usable without a job.
//! - [`role`]: who may do what.
//! - [`rules`]: every default of the trade that a workshop may change.
//! - [`instrument`]: meters, gauges, bottles, benches and timers, and what they are worth.
//! - [`connection`]: where an instrument is reached that speaks the protocol.
//! - [`raw`]: what an instrument showed, point by point, packed.
//! - [`library`]: families, limits, engines and test plans.
//! - [`engine`]: cylinders, banks and the physical order that the strip is drawn in.
//! - [`mark`]: the state of one injector as the strip shows it.
//! - [`caution`]: hazard, action and who, for every step.
//! - [`said`]: what one lane says, as a code that rules read.
//! - [`standing`]: what counts now, of every reading of a job.
//! - [`start`]: what has to be so before a run.
//! - [`mod@tests`]: every test of engine and bench, from what was read to a verdict with its because.
//! - [`judgement`]: likely causes, the next check, the decision and what it costs.
//! - [`matching`]: sets from a shelf of tested injectors, on several features at once.
//! - [`customer`]: who brings the machines, and nothing else about them.
//! - [`profile`]: the workshop itself, for the head of its reports.
//! - [`limits`]: what may be typed may be imported.
//! - [`mod@entry`]: the log of a job and of a session, and how they follow from it.
//! - [`job`]: what a person may do to a job, and the one place that refuses.
//! - [`catching`]: what an instrument shows while a run is taken, and what is read of it.
//! - [`record`]: what is kept of a job, as stored, exported and sent.
//! - [`labels`]: the word of everything that the program names, each list once.
//! - [`work`]: the vocabulary of a job (stages, decisions, symptoms) and what it waits for.

pub mod calc;
pub mod calculators;
pub mod catching;
pub mod caution;
pub mod codes;
pub mod connection;
pub mod customer;
pub mod engine;
pub mod entry;
pub mod exercise;
pub mod fitting;
pub mod fuelling;
pub mod instrument;
pub mod instrument_link;
pub mod intake;
pub mod job;
pub mod judged;
pub mod judgement;
pub mod labels;
pub mod library;
pub mod limits;
pub mod mark;
pub mod matching;
pub mod moment;
mod named;
pub mod passport;
pub mod places;
pub mod plain;
pub mod plan;
pub mod profile;
pub mod proving;
pub mod quantity;
pub mod raw;
pub mod record;
pub mod role;
pub mod rules;
pub mod said;
#[cfg(test)]
mod sample;
pub mod shelf;
pub mod signal;
pub mod standing;
pub mod start;
mod stats;
pub mod tests;
pub mod trace;
pub mod typed;
pub mod unit_link;
pub mod units;
pub mod words;
pub mod work;
