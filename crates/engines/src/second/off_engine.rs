//! Off the engine, as the second bench reads it.
//!
//! # Source
//! [`super::shows`] on nominal figures of the second library; scatter is a model of our own.

use super::people::{DOSED_ML, FLOW_ML_MIN, MAP_MM3, MAP_RETURN_MM3};
use super::{SecondHand, shows, to};
use crate::draw::Draw;
use crate::injector::Injector;
use crate::reading::{BenchRead, FLOW_POINTS, LIFT_UM, MAP_POINTS};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::tests::bench::BenchTest;

/// The bench's readings as they are written down one after the other.
struct Notes(Vec<BenchRead>);

impl Notes {
    fn set(&mut self, test: BenchTest, cell: &'static str, value: f64) {
        self.0.push(BenchRead { test, cell, row: None, tag: None, value });
    }

    fn each(&mut self, test: BenchTest, cell: &'static str, tag: usize, value: f64) {
        let tag = Some(tag as u32 + 1);
        self.0.push(BenchRead { test, cell, row: None, tag, value });
    }

    fn rows(&mut self, test: BenchTest, cell: &'static str, row: usize, values: Vec<f64>) {
        let row = Some(row as u32 + 1);
        self.0.extend(values.into_iter().enumerate().map(|(tag, value)| BenchRead {
            test,
            cell,
            row,
            tag: Some(tag as u32 + 1),
            value,
        }));
    }
}

impl SecondHand<'_> {
    pub(super) fn off_engine(&self, nth: u64) -> Vec<BenchRead> {
        let draw = &mut self.draws(50, nth);
        let all: Vec<Injector> = (0..self.count()).map(|c| *self.engine.injector(c)).collect();
        let mut notes = Notes(Vec::new());
        for (tag, one) in all.iter().enumerate() {
            let sees = |draw: &mut Draw, there: bool| f64::from(there && draw.happens(0.7));
            notes.each(BenchTest::Visual, "tip", tag, sees(draw, one.dirt.holes > 0.12));
            let gas = sees(draw, one.gas_mm2 > 0.7);
            let wet = shows::drips(one) > 3.0 && draw.happens(0.5);
            notes.each(BenchTest::Visual, "seat", tag, if wet { 2.0 } else { gas });
            notes.each(BenchTest::Visual, "holes", tag, 2.0 * sees(draw, one.holes > 1.16));
            notes.each(BenchTest::Visual, "bore", tag, gas);
            notes.each(BenchTest::Visual, "basket", tag, sees(draw, one.dirt.basket > 0.75));
        }
        match self.engine.fuel {
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => {
                self.map(&all, &mut notes, draw)
            }
            FuelSystem::PetrolPort | FuelSystem::PetrolDirect => self.flow(&all, &mut notes, draw),
            FuelSystem::ExhaustDoser => doser(&all, &mut notes, draw),
        }
        if self.engine.fuel != FuelSystem::ExhaustDoser {
            notes.set(
                BenchTest::Leak,
                "pressure",
                if self.shows().diesel() { 30_000.0 } else { 300.0 },
            );
            notes.set(BenchTest::Leak, "seconds", 240.0);
            for (tag, one) in all.iter().enumerate() {
                // A drop of ten milligrams, now and then one that was not seen.
                let drops = (shows::drips(one) * 4.0 / 10.0).floor() - f64::from(draw.happens(0.1));
                notes.each(BenchTest::Leak, "drops", tag, drops.max(0.0));
            }
        }
        notes.0
    }

    fn map(&self, all: &[Injector], notes: &mut Notes, draw: &mut Draw) {
        for (row, (_, _, pulse, strokes)) in MAP_POINTS.into_iter().enumerate() {
            let ml = strokes / 1000.0;
            let long = row == 3;
            if pulse > 0.0 {
                let given = self.each(draw, |tag, d| {
                    let one = &all[tag];
                    let share = if long {
                        shows::flow(one) * (0.5 + 0.5 * one.lift)
                    } else {
                        shows::short(one)
                    };
                    let mm3 = if shows::opens(one) { MAP_MM3[row] * share } else { 0.0 };
                    to(mm3 * ml * d.normal(1.0, 0.006), 0.05)
                });
                notes.rows(BenchTest::Map, "delivered", row, given);
            }
            let back = self.each(draw, |tag, d| {
                let one = &all[tag];
                let works = if pulse > 0.0 && shows::opens(one) { 0.65 } else { 0.0 };
                to(
                    MAP_RETURN_MM3[row] * (shows::standing(one) + works) * ml * d.normal(1.0, 0.01),
                    0.05,
                )
            });
            notes.rows(BenchTest::Map, "returned", row, back);
        }
        for (tag, one) in
            all.iter().enumerate().filter(|_| self.engine.fuel == FuelSystem::DieselSolenoid)
        {
            // Opened and measured where the first point is short.
            if shows::short(one) < 0.9 {
                notes.each(BenchTest::Lift, "shim", tag, 1000.0);
                notes.each(
                    BenchTest::Lift,
                    "lift",
                    tag,
                    to(LIFT_UM * one.lift + draw.normal(0.0, 0.9), 1.0),
                );
            }
        }
    }

    fn flow(&self, all: &[Injector], notes: &mut Notes, draw: &mut Draw) {
        let flow = FLOW_ML_MIN[usize::from(self.engine.fuel == FuelSystem::PetrolDirect)];
        notes.set(
            BenchTest::Flow,
            "pressure",
            if self.engine.fuel == FuelSystem::PetrolPort { 300.0 } else { 6_000.0 },
        );
        notes.set(BenchTest::Flow, "fluid", 2.0);
        for (row, (pulse, amount)) in FLOW_POINTS.into_iter().enumerate() {
            let tubes = self.each(draw, |tag, d| {
                let one = &all[tag];
                let seconds = pulse.map_or(amount, |ms| (ms - 1.0) / 1000.0 * amount);
                let share = match pulse {
                    Some(ms) if ms < 3.5 => shows::short(one),
                    Some(_) | None => shows::flow(one),
                };
                let ml = if shows::opens(one) { flow * share * seconds / 60.0 } else { 0.0 };
                to(ml * d.normal(1.0, 0.008), 0.5)
            });
            notes.rows(BenchTest::Flow, "volume", row, tubes);
        }
        for (tag, one) in all.iter().enumerate() {
            let bad = shows::spray(one) + draw.normal(0.0, 0.08);
            let pattern = if bad > 0.6 { 2.0 } else { f64::from(bad > 0.32) };
            notes.each(BenchTest::Spray, "pattern", tag, pattern);
            notes.each(
                BenchTest::Spray,
                "dribble",
                tag,
                f64::from(shows::drips(one) > 5.0 && draw.happens(0.75)),
            );
        }
    }
}

fn doser(all: &[Injector], notes: &mut Notes, draw: &mut Draw) {
    for (cell, value) in
        [("pressure", 900.0), ("seconds", 60.0), ("capped", 1.0), ("tip", 0.0), ("leak_marks", 0.2)]
    {
        notes.set(BenchTest::Doser, cell, value);
    }
    for (tag, one) in all.iter().enumerate() {
        notes.each(
            BenchTest::Doser,
            "leak",
            tag,
            to(shows::drips(one) / 800.0 + 0.03 * draw.share(), 0.1),
        );
        for cell in ["run_1", "run_2", "run_3"] {
            let given = if shows::opens(one) { DOSED_ML * shows::flow(one) } else { 0.0 };
            notes.each(BenchTest::Doser, cell, tag, to(given * draw.normal(1.0, 0.01), 1.0));
        }
    }
}
