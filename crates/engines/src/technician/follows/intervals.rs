//! Numbers that were stated with their uncertainty, against what they are.
//!
//! # Source
//! JCGM 100: an expanded uncertainty with coverage factor 2 is to hold some 95 of 100 values. What a person
//! slipped in is part of what is stated: the share that it costs is what the figure shows.

use super::Desk;
use crate::engine::Running;
use crate::injector::nominal;
use crate::physics::{Fluid, Liquid};
use crate::population::World;
use crate::reading::MAP_POINTS;
use crate::technician::{Interval, Quantity};
use cobaltine_core::judged::Judged;
use cobaltine_core::tests::bench::BenchTest;
use cobaltine_core::tests::engine::EngineTest;

/// Coverage factor of what is stated.
const K: f64 = 2.0;

fn interval(quantity: Quantity, value: Option<f64>, u: Option<f64>, is: f64) -> Option<Interval> {
    let (value, u) = (value?, u?);
    let comparable = value.is_finite() && is.is_finite() && u > 0.0;
    comparable.then(|| Interval { quantity, holds: (value - is).abs() <= K * u })
}

impl Desk<'_> {
    /// Everything that the program states with its uncertainty and that can be compared: nothing was moved
    /// or put right in between.
    pub(super) fn intervals(&self, judged: &Judged) -> Vec<Interval> {
        let moved = self.file.events.iter().any(|one| one.event.moves());
        let cleaned = self.file.bench.iter().any(|session| session.rounds.len() > 1);
        let known = self.job.world == World::First;
        if !known || moved || cleaned || !self.work.repaired.is_empty() {
            return Vec::new();
        }
        let at = |place: u32| place as usize - 1;
        let mut found = Vec::new();
        let kpa = self.engine.rail_kpa(Running::Idle);
        let idle = self.file.return_tests.iter().zip(&judged.verdicts);
        for (_, verdict) in idle.filter(|(test, _)| test.setup.regime != CRANKS) {
            found.extend(verdict.lanes.iter().filter_map(|lane| {
                let warm = self.engine.warm_c;
                let is = self.engine.returned_at(at(lane.place), Running::Idle, kpa, warm);
                interval(Quantity::Return, lane.value, lane.u, is)
            }));
        }
        for (sheet, verdict) in self.file.sheets.iter().zip(&judged.sheets) {
            let Some(verdict) = verdict.as_ref().ok() else { continue };
            if sheet.check == EngineTest::CoilResistance {
                found.extend(verdict.lanes.iter().filter_map(|lane| {
                    let is = self.engine.injector(at(lane.place)).coil_ohm;
                    interval(Quantity::Coil, lane.value, lane.u, is)
                }));
            }
        }
        let (kind, fluid) = (nominal(self.engine.fuel), Fluid::new(Liquid::CalibrationFluid));
        let maps = judged.benches.iter().flat_map(|bench| &bench.verdicts);
        for held in maps.filter(|held| held.test == BenchTest::Map) {
            for row in held.verdict.iter().flat_map(|verdict| &verdict.rows) {
                let Some((_, kpa, pulse, _)) = MAP_POINTS.get(at(row.row)) else { continue };
                let pulse = pulse * kind.idle_ms / MAP_POINTS[0].2;
                found.extend(row.lanes.iter().filter(|_| pulse > 0.0).filter_map(|lane| {
                    let one = self.engine.injector(at(lane.place));
                    let is = one.delivered_mm3(pulse, kind.dead.volts, *kpa, fluid.density(40.0));
                    interval(Quantity::Map, lane.value, lane.u, is)
                }));
            }
        }
        found
    }
}

/// A cranking test has a pressure of its own.
const CRANKS: cobaltine_core::work::Regime = cobaltine_core::work::Regime::Cranking;
