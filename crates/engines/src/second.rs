//! A second population, which nobody tunes on: other engines, other people, other complaints.
//!
//! What is wrong with an engine is described as in the first ([`crate::fault`]), and so is what puts it right.
//! Everything between that and a number on a form is another code path: how a fault shows is a table of
//! straight lines instead of flows and films, readings scatter otherwise, complaints come from the fault
//! itself instead of from how the engine runs. A judgement that does as well here was not fitted to the first.
//!
//! # Source
//! Model of our own: `shows.rs` for effects, `people.rs` for who comes in, `second.toml` for shares and slips.

mod off_engine;
mod on_engine;
mod people;
mod shows;

pub use people::Second;
pub(crate) use people::library;

use crate::draw::Draw;
use crate::engine::MadeEngine;
use crate::population::PersonRow;
use crate::reading::{BenchRead, CAPACITY_ML, MARK_ML, Reads, ReturnRun, RunLevel, SheetRead};
use cobaltine_core::tests::engine::EngineTest;
use shows::Shows;

/// Another person with other instruments before an engine.
#[derive(Debug, Clone)]
pub struct SecondHand<'a> {
    engine: &'a MadeEngine,
    person: &'a PersonRow,
    seed: u64,
}

impl<'a> SecondHand<'a> {
    /// Before this engine; the seed is that of the job.
    pub fn new(engine: &'a MadeEngine, person: &'a PersonRow, seed: u64) -> Self {
        Self { engine, person, seed }
    }

    /// Draws of one reading, on streams of their own.
    fn draws(&self, what: u64, nth: u64) -> Draw {
        Draw::new(self.seed ^ 0x5EC0, 70_000 + what * 97 + nth.min(90))
    }

    /// What stays with an engine or an injector for the whole job: its own level, a bias that no repeat takes away.
    fn lasting(&self, what: u64, sd: f64) -> f64 {
        Draw::new(self.seed ^ 0x5EC0, 40_000 + what).normal(1.0, sd)
    }

    fn shows(&self) -> Shows<'_> {
        Shows(self.engine)
    }

    fn count(&self) -> usize {
        self.engine.seats.len()
    }

    /// A value for each cylinder, with what a person makes of a row now and then.
    fn each(&self, draw: &mut Draw, of: impl Fn(usize, &mut Draw) -> f64) -> Vec<f64> {
        let mut values: Vec<f64> = (0..self.count()).map(|cylinder| of(cylinder, draw)).collect();
        if values.len() > 1 && draw.happens(self.person.changed_over) {
            // Two lines of the note, any two.
            let (one, other) = (draw.below(values.len()), draw.below(values.len()));
            values.swap(one, other);
        }
        if draw.happens(self.person.decimal) {
            let at = draw.below(values.len());
            values[at] *= if draw.happens(0.5) { 0.1 } else { 10.0 };
        }
        values
    }
}

/// To the nearest so much.
fn to(value: f64, digit: f64) -> f64 {
    (value / digit).round() * digit
}

impl Reads for SecondHand<'_> {
    /// Bottles that are read to a whole mark, engines that were warmed less.
    fn returned(&mut self, nth: u64, seconds: f64, cranking: bool) -> ReturnRun {
        let draw = &mut self.draws(1 + u64::from(cranking), nth);
        let shows = self.shows();
        let usual = shows.usual_return() * if cranking { 0.22 } else { 1.0 };
        let warm = if draw.happens(self.person.cold) { 0.6 } else { 1.0 };
        let short = draw.happens(self.person.unpurged).then(|| draw.below(self.count()));
        let odd = draw.happens(self.person.disturbed).then(|| draw.below(self.count()));
        let pressed = if cranking { shows.start_pressure() } else { 1.0 };
        let full = CAPACITY_ML;
        let levels = (0..self.count()).map(|cylinder| {
            let bias = self.lasting(200 + self.engine.seats[cylinder] as u64, 0.03);
            let mut rate = usual * shows.returns(cylinder) * bias * warm * pressed;
            rate *= draw.normal(1.0, 0.02);
            if odd == Some(cylinder) {
                rate *= draw.between(0.65, 1.4);
            }
            let timed = seconds + draw.between(-2.0, 2.0) * self.person.stopwatch_s;
            let ml = rate * timed / 60.0 - if short == Some(cylinder) { 2.5 } else { 0.0 };
            if ml > full {
                let after = (60.0 * full / rate + draw.between(-1.0, 1.0)).clamp(1.0, seconds);
                return RunLevel::FullAfter(after.round());
            }
            RunLevel::Level(to(ml.max(0.0), MARK_ML / 2.0).min(full))
        });
        let levels = levels.collect();
        ReturnRun { seconds: seconds.round(), celsius: self.engine.warm_c.round(), levels }
    }

    fn sheet(&mut self, check: EngineTest, nth: u64, asked: &[u32]) -> Option<SheetRead> {
        self.on_engine(check, nth, asked)
    }

    fn on_bench(&mut self, nth: u64) -> Vec<BenchRead> {
        self.off_engine(nth)
    }

    fn codes(&self) -> (Vec<String>, Vec<String>) {
        let code =
            |of: u64| format!("K{:06X}", Draw::new(self.seed, 60_000 + of).bits() as u32 >> 8);
        let own = (0..self.engine.injectors.len() as u64).map(code).collect();
        let stored = self.engine.seats.iter().map(|seat| {
            // Somebody else's code, or this one's.
            let foreign = self.engine.injectors[*seat].code_mm3 != 0.0;
            code(*seat as u64 + if foreign { 500 } else { 0 })
        });
        (stored.collect(), own)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::exam::{Exam, Results, Whose};
    use crate::fault::Fault;
    use cobaltine_core::engine::FuelSystem;

    #[test]
    fn every_check_that_fits_is_read_as_its_form_asks() {
        let people = Second::shipped().unwrap();
        for fuel in FuelSystem::ALL {
            let mut engine = MadeEngine::four(fuel);
            Fault::Wire.put(&mut engine, 1, 0.5);
            for check in EngineTest::ALL.iter().copied().filter(|one| one.by_cells()) {
                if !check.fits(fuel) || check == EngineTest::ComplaintFigure {
                    continue;
                }
                let read = SecondHand::new(&engine, &people.person, 3).sheet(check, 0, &[]);
                let read = read.unwrap_or_else(|| panic!("{check:?} of {fuel:?} is not read"));
                let set = read.set.iter().map(|(cell, value)| (cell, false, value));
                let each = read.each.iter().map(|(cell, _, value)| (cell, true, value));
                for (cell, of_each, value) in set.chain(each) {
                    let typed = check.read(cell, of_each, &value.to_string());
                    assert!(matches!(typed, Some(Ok(_))), "{check:?} {cell} {value}");
                }
            }
        }
    }

    #[test]
    fn it_reads_otherwise_than_the_first_and_the_same_way_each_time() {
        let person = Second::shipped().unwrap().person;
        let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
        Fault::Guide.put(&mut engine, 2, 0.8);
        let run = || SecondHand::new(&engine, &person, 4).returned(0, 120.0, false);
        let first = crate::reading::Hand::new(&engine, &person, 4).returned(0, 120.0, false);
        assert_eq!(run(), run());
        assert_ne!(run().levels, first.levels);
        let ml = |level: &RunLevel| match level {
            RunLevel::Level(ml) => *ml,
            RunLevel::FullAfter(seconds) => CAPACITY_ML * 120.0 / seconds,
        };
        let levels: Vec<f64> = run().levels.iter().map(ml).collect();
        assert!(levels[2] > 1.5 * levels[0], "a worn guide stands out: {levels:?}");
    }

    #[test]
    fn what_was_not_tuned_on_is_found_all_the_same_and_nobody_good_is_condemned() {
        for whose in [Whose::Second, Whose::SecondErring] {
            let exam = Exam::new(&whose, "").unwrap();
            let mut all = Results::of(exam.names().len());
            for seed in (0..250).map(|nth| Exam::seed(612, nth)) {
                let marked = exam.job(seed).unwrap();
                all.add(&marked.scores, &marked.calibration);
            }
            let ours = all.tallies[0];
            let best = all.tallies[1..].iter().map(|one| one.found_pct()).fold(0.0, f64::max);
            assert!(ours.found_pct() > 1.5 * best, "{whose:?}: {} {best}", ours.found_pct());
            assert!(ours.condemned_pct() < 0.5 && ours.sum.unsafe_steps == 0, "{whose:?}");
        }
    }
}
