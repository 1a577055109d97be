//! What is felt of an engine, and what of it is told at the counter.

use super::{Feeling, MadeJob, Population, Put, SymptomRow, World};
use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use crate::fault::At;
use cobaltine_core::intake::Story;
use cobaltine_core::work::{ComplaintNow, Suffers, Symptom};
use std::sync::LazyLock;

impl Population {
    /// What is felt of an engine.
    fn felt(engine: &MadeEngine, feeling: Feeling) -> f64 {
        let all = |running| -> Vec<f64> {
            (0..engine.seats.len()).map(|cylinder| engine.pulls(cylinder, running)).collect()
        };
        let spread = |running| {
            let mut pulls = all(running);
            pulls.sort_by(f64::total_cmp);
            let middle = pulls[pulls.len() / 2];
            pulls.iter().map(|pull| (pull - middle).abs()).fold(0.0, f64::max)
        };
        let most = |of: &dyn Fn(usize) -> f64| {
            (0..engine.seats.len()).map(of).fold(f64::NEG_INFINITY, f64::max)
        };
        match feeling {
            Feeling::IdleSpread => spread(Running::Idle),
            Feeling::LoadSpread => spread(Running::Load),
            Feeling::LoadLoss => {
                let pulls = all(Running::Load);
                1.0 - pulls.iter().sum::<f64>() / pulls.len() as f64
            }
            Feeling::Rich => most(&|c| {
                let over = engine.share(c, Running::Load) - 1.0;
                over + 0.3 * engine.injector(c).spray_bad() - engine.shared.mixture * 0.2
            }),
            Feeling::Unburnt => most(&|c| {
                let lost = engine.share(c, Running::Idle).min(1.0) - engine.pulls(c, Running::Idle);
                lost + engine.shared.water * 0.4 + engine.injector(c).drips_mg_min() * 0.01
            }),
            Feeling::StartLost => 1.0 - engine.start_pressure(),
            Feeling::Drips => most(&|c| engine.injector(c).drips_mg_min()),
            Feeling::Air => engine.shared.air,
        }
    }

    pub(super) fn told(&self, engine: &MadeEngine, draw: &mut Draw) -> Vec<Symptom> {
        let mut told: Vec<Symptom> = Vec::new();
        for row in &self.symptom {
            let chance = rises(Self::felt(engine, row.felt), row.from, row.to, row.most);
            if draw.happens(chance) && !told.contains(&row.of) {
                told.push(row.of);
            }
        }
        if told.is_empty() {
            let at = draw.weighted(self.elsewhere.iter().map(|row| row.share));
            told.push(self.elsewhere[at].of);
        }
        told.truncate(3);
        told
    }

    pub(super) fn story(&self, engine: &MadeEngine, faults: &[Put], draw: &mut Draw) -> Story {
        let pulls: Vec<f64> =
            (0..engine.seats.len()).map(|c| engine.pulls(c, Running::Idle)).collect();
        let mean = pulls.iter().sum::<f64>() / pulls.len() as f64;
        let weak: Vec<usize> = (0..pulls.len()).filter(|c| pulls[*c] < mean - 0.2).collect();
        let shared = faults.iter().any(|put| put.fault.at() == At::All);
        let suffers = match (weak.len(), shared) {
            (_, true) if draw.happens(0.5) => Suffers::All,
            (1, false) if draw.happens(0.6) => Suffers::One,
            (2.., false) if draw.happens(0.6) => Suffers::Several,
            _ => Suffers::NotKnown,
        };
        let worst = (0..pulls.len()).min_by(|a, b| pulls[*a].total_cmp(&pulls[*b])).unwrap_or(0);
        let out = mean - pulls[worst];
        let named = &self.named;
        let mut cylinders = Vec::new();
        if pulls.len() > 1 && draw.happens(rises(out, named.from, named.to, named.most)) {
            let at = if draw.happens(named.wrong) { draw.below(pulls.len()) } else { worst };
            cylinders.push(at as u32 + 1);
        }
        Story { suffers, cylinders, ..Story::default() }
    }
}

impl SymptomRow {
    /// How often it is told of such an engine.
    fn chance(&self, engine: &MadeEngine) -> f64 {
        rises(Population::felt(engine, self.felt), self.from, self.to, self.most)
    }
}

/// Where what is told is felt, as shipped: no shift changes it.
static FELT: LazyLock<Vec<SymptomRow>> =
    LazyLock::new(|| Population::shipped().map(|people| people.symptom).unwrap_or_default());

/// Of a complaint: under which share it is called gone, and up to which share better (model of our own).
const LEFT: (f64, f64) = (0.2, 0.8);

impl MadeJob {
    /// What became of the complaint on the engine as it is now: by how it runs, in the second population by the
    /// faults that are left.
    pub fn complaint_now(&self, engine: &MadeEngine) -> ComplaintNow {
        let (now, before): (f64, f64) = match self.world {
            World::First => FELT.iter().filter(|row| self.symptoms.contains(&row.of)).fold(
                (0.0, 0.0),
                |(now, before), row| {
                    let was = row.chance(&self.engine);
                    let is = if was > 0.0 { row.chance(engine) } else { 0.0 };
                    (now + is, before + was)
                },
            ),
            World::Second => self.faults.iter().fold((0.0, 0.0), |(now, before), put| {
                let left = if self.put_right(put, engine) { 0.0 } else { put.size };
                (now + left, before + put.size)
            }),
        };
        match now {
            _ if before == 0.0 => ComplaintNow::Same,
            now if now < LEFT.0 * before => ComplaintNow::Gone,
            now if now < LEFT.1 * before => ComplaintNow::Better,
            _ => ComplaintNow::Same,
        }
    }

    /// This fault is no longer in the engine.
    fn put_right(&self, put: &Put, engine: &MadeEngine) -> bool {
        let at = put.cylinder;
        match put.fault.at() {
            At::All => engine.shared != self.engine.shared,
            At::Injector => engine.injectors[at] != self.engine.injectors[at],
            At::Place => engine.places[at] != self.engine.places[at],
        }
    }
}

/// A chance that rises in a line.
fn rises(value: f64, from: f64, to: f64, most: f64) -> f64 {
    most * ((value - from) / (to - from)).clamp(0.0, 1.0)
}
