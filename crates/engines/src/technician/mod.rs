//! Technicians: each takes readings from a made-up engine until it decides, or its minutes are spent.
//!
//! One follows Cobaltine ([`follows`]); the others follow one school each ([`school`]), all with the same
//! hands, instruments and slips.

pub mod follows;
pub mod hazards;
pub mod library;
pub mod school;

use crate::engine::{MadeEngine, Shared};
use cobaltine_core::tests::engine::EngineTest;

/// What is decided about one injector and its place.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord)]
pub enum Call {
    /// It stays.
    Leave,
    /// Out and cleaned.
    Clean,
    /// Reconditioned or replaced.
    Renew,
    /// Set anew.
    Adjust,
    /// Its code written.
    Recode,
    /// Its wire repaired.
    Harness,
    /// Something else of this place.
    Elsewhere,
    /// Not decided.
    #[default]
    Undecided,
}

/// A cause that was named with its odds.
#[derive(Debug, Clone, PartialEq)]
pub struct Stated {
    /// Cylinder, counted from 0.
    pub cylinder: usize,
    /// The cause, as the technician calls it.
    pub cause: &'static str,
    /// Its odds, from 0 to 1.
    pub odds: f64,
}

/// What a check said at one place, as the technician reads it.
#[derive(Debug, Clone, PartialEq)]
pub struct Seen {
    /// The check, as the table of outcomes calls it.
    pub check: String,
    /// What was seen, in the same words.
    pub outcome: &'static str,
    /// Cylinder, counted from 0; none for what all share.
    pub cylinder: Option<usize>,
}

/// What is stated with its uncertainty.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Quantity {
    /// Return flow, ml/min.
    Return,
    /// Coil at 20 °C, Ω.
    Coil,
    /// Quantity of a stroke at the bench, mm³.
    Map,
}

/// A value that was stated as so much, give or take.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Interval {
    /// What it is.
    pub quantity: Quantity,
    /// The true value lies in it.
    pub holds: bool,
}

/// How a job was done.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Work {
    /// By the cylinder that each injector came in; an injector that moved keeps its own.
    pub calls: Vec<Call>,
    /// Faults of what all share that were put right, and whether they were there.
    pub repaired: Vec<(EngineTest, bool)>,
    /// Cylinders that were put right on the way, and what was called there.
    pub put_right: Vec<(usize, Call)>,
    /// Minutes, removal with them.
    pub minutes: f64,
    /// Checks in the order in which they were done.
    pub done: Vec<&'static str>,
    /// Odds that were stated at the end.
    pub stated: Vec<Stated>,
    /// Values that were stated with their uncertainty.
    pub intervals: Vec<Interval>,
    /// The rule behind each decision, by the cylinder that the injector came in; empty for a school.
    pub why: Vec<&'static str>,
    /// What was seen of injectors that sit where they came in.
    pub seen: Vec<Seen>,
    /// How often the one proposal that was made most often was made.
    pub proposed: u32,
    /// Steps that could hurt, each with why.
    pub unsafe_steps: Vec<String>,
}

/// Puts right what a check found that all share; whether there was anything to put right.
fn repair(engine: &mut MadeEngine, check: EngineTest) -> bool {
    let sound = Shared::sound();
    let before = engine.shared;
    let shared = &mut engine.shared;
    match check {
        EngineTest::FuelSample => (shared.foreign, shared.water) = (sound.foreign, sound.water),
        EngineTest::SuctionAir => shared.air = sound.air,
        // The low-pressure side: filter, pump, and lines that draw air.
        EngineTest::LowPressure => (shared.feed, shared.air) = (sound.feed, sound.air),
        EngineTest::SharedCauses => (shared.mixture, shared.power) = (sound.mixture, sound.power),
        EngineTest::RailRelief | EngineTest::RailPressureHold => shared.pump = sound.pump,
        EngineTest::Supply | EngineTest::Indicator => shared.power = sound.power,
        EngineTest::Compression
        | EngineTest::Spark
        | EngineTest::CoilResistance
        | EngineTest::PiezoStack
        | EngineTest::Insulation
        | EngineTest::Listening
        | EngineTest::DriveCurrent
        | EngineTest::Cutout
        | EngineTest::DiBalance
        | EngineTest::ReturnTest
        | EngineTest::ComplaintFigure
        | EngineTest::PressureDrop => {}
    }
    engine.shared != before
}
