//! Taking a reading: an instrument that is as good as its certificate, in the hand of a person who slips
//! now and then. Every slip is kept as truth beside what was written down.
//!
//! # Source
//! Rates of the population file; resolutions and accuracies as they stand with each reading.

mod bench;
mod on_engine;
mod returns;

pub use bench::{BenchRead, FLOW_POINTS, MAP_POINTS, STROKES_MIN};
pub(crate) use bench::{DROP_MG, LIFT_UM};
pub use on_engine::after_pulses;
pub(crate) use on_engine::meter;
pub use returns::{CAPACITY_ML, MARK_ML, ReturnRun, RunLevel};

use crate::draw::Draw;
use crate::engine::MadeEngine;
use crate::population::{MadeJob, PersonRow, World};
use crate::second::SecondHand;
use cobaltine_core::tests::engine::EngineTest;

/// What went wrong while something was read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Slip {
    /// The engine was cold.
    Cold,
    /// A hose was not purged.
    Unpurged,
    /// Two values changed over.
    ChangedOver,
    /// A decimal slipped.
    Decimal,
    /// A run was disturbed.
    Disturbed,
    /// Foam had not settled.
    NotSettled,
    /// Start pressures differed.
    UnequalStart,
}

/// A check that was read cell by cell.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct SheetRead {
    /// Of the set: cell and value.
    pub set: Vec<(&'static str, f64)>,
    /// Of each: cell, cylinder from 1, value.
    pub each: Vec<(&'static str, u32, f64)>,
}

/// Whoever takes readings from an engine: each the nth time, from 0.
pub trait Reads {
    /// A run of a return test: idling for so many seconds, or cranking.
    fn returned(&mut self, nth: u64, seconds: f64, cranking: bool) -> ReturnRun;
    /// A check cell by cell, at the cylinders that it was asked for where it is made at one; none for a check
    /// that is not read so.
    fn sheet(&mut self, check: EngineTest, nth: u64, asked: &[u32]) -> Option<SheetRead>;
    /// Everything that a bench of this kind reads.
    fn on_bench(&mut self, nth: u64) -> Vec<BenchRead>;
    /// Trim codes: what the control unit holds for each cylinder, and what stands on each body.
    fn codes(&self) -> (Vec<String>, Vec<String>);
}

/// Who reads an engine of this job.
pub fn hand<'a>(
    job: &MadeJob,
    engine: &'a MadeEngine,
    person: &'a PersonRow,
) -> Box<dyn Reads + 'a> {
    match job.world {
        World::First => Box::new(Hand::new(engine, person, job.seed)),
        World::Second => Box::new(SecondHand::new(engine, person, job.seed)),
    }
}

/// A person with the instruments of a workshop, before an engine.
#[derive(Debug, Clone)]
pub struct Hand<'a> {
    engine: &'a MadeEngine,
    person: &'a PersonRow,
    seed: u64,
    /// What went wrong so far.
    pub slips: Vec<Slip>,
}

impl<'a> Hand<'a> {
    /// Before this engine; the seed is that of the job.
    pub fn new(engine: &'a MadeEngine, person: &'a PersonRow, seed: u64) -> Self {
        Self { engine, person, seed, slips: Vec::new() }
    }

    /// Draws of one reading: the same for everyone who takes it as the nth time.
    fn draws(&self, what: u64, nth: u64) -> Draw {
        Draw::new(self.seed, 1000 + what * 64 + nth.min(63))
    }

    fn cylinders(&self) -> std::ops::Range<usize> {
        0..self.engine.seats.len()
    }

    fn slips(&mut self, draw: &mut Draw, rate: f64, slip: Slip) -> bool {
        let happens = draw.happens(rate);
        if happens {
            self.slips.push(slip);
        }
        happens
    }

    /// What anybody does to a row of numbers now and then.
    fn written(&mut self, draw: &mut Draw, values: &mut [f64]) {
        if values.len() > 1 && self.slips(draw, self.person.changed_over, Slip::ChangedOver) {
            let at = draw.below(values.len() - 1);
            values.swap(at, at + 1);
        }
        if self.slips(draw, self.person.decimal, Slip::Decimal) {
            let at = draw.below(values.len());
            values[at] *= if draw.happens(0.5) { 10.0 } else { 0.1 };
        }
    }

    /// Takes a check the nth time, from 0; none for one that is not read so.
    pub fn sheet(&mut self, check: EngineTest, nth: u64) -> Option<SheetRead> {
        Reads::sheet(self, check, nth, &[])
    }
}

impl Reads for Hand<'_> {
    fn returned(&mut self, nth: u64, seconds: f64, cranking: bool) -> ReturnRun {
        returns::returned(self, nth, seconds, cranking)
    }

    fn on_bench(&mut self, nth: u64) -> Vec<BenchRead> {
        bench::on_bench(self, nth)
    }

    fn codes(&self) -> (Vec<String>, Vec<String>) {
        let own = |seat: usize| {
            let bits = Draw::new(self.seed, 900 + seat as u64).bits();
            format!("C{:07X}", bits as u32 & 0x0FFF_FFFF)
        };
        let stored = |cylinder: usize| {
            let seat = self.engine.seats[cylinder];
            // Another injector's code: of one that sat here before.
            own(if self.engine.injectors[seat].code_mm3 == 0.0 { seat } else { seat + 64 })
        };
        (
            self.cylinders().map(stored).collect(),
            (0..self.engine.injectors.len()).map(own).collect(),
        )
    }

    fn sheet(&mut self, check: EngineTest, nth: u64, asked: &[u32]) -> Option<SheetRead> {
        let draw = &mut self.draws(check as u64, nth);
        on_engine::sheet(self, check, asked, draw)
    }
}

/// As an instrument shows it: gain and offset of its certificate, then its last digit.
fn shown(draw: &mut Draw, value: f64, accuracy: f64, digit: f64) -> f64 {
    let with = value * (1.0 + draw.normal(0.0, accuracy / 2.0));
    (with / digit).round() * digit
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fault::Fault;
    use crate::population::Population;
    use cobaltine_core::engine::FuelSystem;

    fn careful() -> PersonRow {
        let mut person = Population::shipped().unwrap().person;
        person.changed_over = 0.0;
        person.decimal = 0.0;
        person.disturbed = 0.0;
        person.cold = 0.0;
        person.unpurged = 0.0;
        person.not_settled = 0.0;
        person.unequal_start = 0.0;
        person
    }

    #[test]
    fn four_equal_ones_read_equal_within_noise_and_one_with_twice_the_gap_stands_out() {
        let person = careful();
        let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
        let rates = |engine: &MadeEngine| {
            let run = Hand::new(engine, &person, 4).returned(0, 120.0, false);
            run.levels
                .iter()
                .map(|level| match level {
                    RunLevel::Level(ml) => *ml,
                    RunLevel::FullAfter(seconds) => 100.0 * 120.0 / seconds,
                })
                .collect::<Vec<f64>>()
        };
        let alike = rates(&engine);
        let mean = alike.iter().sum::<f64>() / 4.0;
        assert!(alike.iter().all(|ml| (ml / mean - 1.0).abs() < 0.12), "{alike:?}");
        engine.injectors[1].guide_um = 5.2;
        let worn = rates(&engine);
        assert!(worn[1] > 1.8 * worn[0], "{worn:?}");
    }

    #[test]
    fn the_same_reading_is_the_same_for_everyone_and_the_next_one_is_another() {
        let people = Population::shipped().unwrap();
        let engine = MadeEngine::four(FuelSystem::PetrolPort);
        let read = |nth| Hand::new(&engine, &people.person, 9).sheet(EngineTest::Cutout, nth);
        assert_eq!(read(0), read(0));
        assert_ne!(read(0), read(1));
    }

    #[test]
    fn every_check_that_fits_can_be_read_and_is_read_as_its_form_asks() {
        let person = careful();
        for fuel in FuelSystem::ALL {
            let mut engine = MadeEngine::four(fuel);
            Fault::Wire.put(&mut engine, 1, 0.5);
            for check in EngineTest::ALL.iter().copied().filter(|one| one.by_cells()) {
                // What a customer complains of is no reading of an engine that nobody drives.
                if !check.fits(fuel) || check == EngineTest::ComplaintFigure {
                    continue;
                }
                let read = Hand::new(&engine, &person, 3).sheet(check, 0);
                let read = read.unwrap_or_else(|| panic!("{check:?} of {fuel:?} is not read"));
                for (cell, value) in &read.set {
                    let typed = check.read(cell, false, &value.to_string());
                    assert!(matches!(typed, Some(Ok(_))), "{check:?} {cell} {value}");
                }
                for (cell, _, value) in &read.each {
                    let typed = check.read(cell, true, &value.to_string());
                    assert!(matches!(typed, Some(Ok(_))), "{check:?} {cell} {value}");
                }
            }
        }
    }
}
