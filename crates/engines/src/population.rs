//! Who comes in: engines, faults, what is told of them. All from one readable file and a seed.

mod ordered;
mod told;

pub use ordered::Order;

use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use crate::fault::{At, Fault};
use crate::injector::nominal;
use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::intake::Story;
use cobaltine_core::work::Symptom;
use serde::Deserialize;
use std::collections::BTreeMap;
use thiserror::Error;

/// The file that ships with the program.
pub const SHIPPED: &str = include_str!("../population.toml");

/// A file that cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("population file: {0}")]
pub struct PopulationError(String);

impl From<toml::de::Error> for PopulationError {
    fn from(error: toml::de::Error) -> Self {
        Self(error.to_string())
    }
}

/// What comes in.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Population {
    system: Vec<SystemRow>,
    count: Vec<CountRow>,
    fault: Vec<FaultRow>,
    shared: Vec<FaultRow>,
    size: SizeRow,
    made: MadeRow,
    symptom: Vec<SymptomRow>,
    elsewhere: Vec<ElsewhereRow>,
    named: NamedRow,
    /// What libraries hold.
    pub library: LibraryRow,
    /// How often a person slips.
    pub person: PersonRow,
}

macro_rules! rows {
    ($($(#[$doc:meta])* $row:ident { $($(#[$fdoc:meta])* $field:ident: $of:ty,)* })*) => {
        $($(#[$doc])* #[derive(Debug, Clone, PartialEq, Deserialize)]
        #[serde(deny_unknown_fields)]
        pub struct $row {
            $($(#[$fdoc])* pub $field: $of,)*
            /// Why it stands so.
            pub reason: String,
        })*
    };
}

rows! {
    /// How many of a fuel system.
    SystemRow {
        /// Fuel system.
        of: FuelSystem,
        /// Of a hundred.
        share: f64,
        /// Cylinders, each as likely as the others.
        cylinders: Vec<u32>,
    }
    /// How many faults.
    CountRow {
        /// How many.
        faults: Count,
        /// Of a hundred.
        share: f64,
    }
    /// How many have this fault.
    FaultRow {
        /// Fault.
        of: Fault,
        /// By fuel system; none where it is not named.
        share: BTreeMap<String, f64>,
    }
    /// How large faults are.
    SizeRow {
        /// Median.
        median: f64,
        /// Deviation of the logarithm.
        spread: f64,
    }
    /// How injectors and cylinders differ as they are made.
    MadeRow {
        /// Share of the area.
        holes: f64,
        /// Share of the dead time.
        late: f64,
        /// µm.
        guide_um: f64,
        /// Share.
        coil: f64,
        /// Share.
        lift: f64,
        /// mg/min.
        seat_mg_min: f64,
        /// At most, of holes, in an old set.
        aged_dirt: f64,
        /// mm².
        compression_mm2: f64,
    }
    /// What is told of what is felt.
    SymptomRow {
        /// Symptom.
        of: Symptom,
        /// What is felt.
        felt: Feeling,
        /// From where it may be told.
        from: f64,
        /// Above which it is told most often.
        to: f64,
        /// How often at most.
        most: f64,
    }
    /// A complaint without its cause.
    ElsewhereRow {
        /// Symptom.
        of: Symptom,
        /// Of a hundred.
        share: f64,
    }
    /// Whether the cylinder is named.
    NamedRow {
        /// From where it may be named.
        from: f64,
        /// Above which it is named most often.
        to: f64,
        /// How often at most.
        most: f64,
        /// How often it is the wrong one.
        wrong: f64,
    }
    /// What libraries hold.
    LibraryRow {
        /// Share with a limit.
        limit: f64,
        /// Share with the wrong family.
        wrong_family: f64,
        /// The limit of a return flow against a sound one.
        limit_over_sound: f64,
    }
    /// How often a person slips.
    PersonRow {
        /// Reading error, marks.
        half_mark: f64,
        /// Stopwatch, s.
        stopwatch_s: f64,
        /// Foam not settled.
        not_settled: f64,
        /// Start pressure not equal.
        unequal_start: f64,
        /// Engine cold and nobody noticed.
        cold: f64,
        /// A hose not purged.
        unpurged: f64,
        /// Two values changed over.
        changed_over: f64,
        /// A decimal slipped.
        decimal: f64,
        /// A run disturbed.
        disturbed: f64,
        /// Another step is done than the one that was named.
        wanders: f64,
    }
}

/// How many faults are true at once.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Count {
    /// None.
    None,
    /// One, of a place.
    One,
    /// Two or three, of places.
    More,
    /// One, of what all share.
    Shared,
}

/// What is felt of an engine.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Feeling {
    /// How far the cylinder that pulls most otherwise stands from the middle, idling.
    IdleSpread,
    /// The same under load.
    LoadSpread,
    /// Power that is missing under load.
    LoadLoss,
    /// Fuel too much in the fullest cylinder, with a bad spray.
    Rich,
    /// Fuel that does not burn while idling.
    Unburnt,
    /// Start pressure that is missing.
    StartLost,
    /// Fuel that drips past the seats, mg/min.
    Drips,
    /// Air in the fuel.
    Air,
}

/// A fault that was put in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Put {
    /// Fault.
    pub fault: Fault,
    /// Cylinder, counted from 0.
    pub cylinder: usize,
    /// Size.
    pub size: f64,
}

/// Which population a job is of, and so how it is read.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum World {
    /// [`Population`].
    #[default]
    First,
    /// [`crate::second::Second`].
    Second,
}

/// A job that comes in: what is told, and what is true.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeJob {
    /// Its seed.
    pub seed: u64,
    /// Which population it is of.
    pub world: World,
    /// The engine.
    pub engine: MadeEngine,
    /// What is wrong with it.
    pub faults: Vec<Put>,
    /// What is told.
    pub symptoms: Vec<Symptom>,
    /// The story around it.
    pub story: Story,
    /// Hours run.
    pub hours: f64,
    /// The library knows the family, with limits.
    pub in_library: bool,
    /// The limit of the library for a return flow, ml/min.
    pub return_limit: Option<f64>,
}

/// Numbers that jobs may have in a workshop, one less: a prime, so that seeds spread over all of them.
const NUMBERS: u64 = 999_999_937;

impl MadeJob {
    /// Its number in a workshop's file: short, as a seed is not.
    pub fn number(&self) -> u64 {
        self.seed % NUMBERS + 1
    }
}

/// Changes of the population for a run: chances of faults by a factor, people three times as sloppy.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct Shift {
    /// By fault: its share times this.
    pub faults: BTreeMap<String, f64>,
    /// Slips of people times this.
    pub people: f64,
}

impl Default for Shift {
    fn default() -> Self {
        Self { faults: BTreeMap::new(), people: 1.0 }
    }
}

impl Population {
    /// The shipped one.
    ///
    /// # Errors
    /// A file that cannot be used, which a test rules out.
    pub fn shipped() -> Result<Self, PopulationError> {
        toml::from_str(SHIPPED).map_err(PopulationError::from)
    }

    /// The same, shifted.
    pub fn shifted(mut self, by: &Shift) -> Self {
        for row in self.fault.iter_mut().chain(&mut self.shared) {
            let name = named(&row.of);
            if let Some(times) = by.faults.get(&name) {
                row.share.values_mut().for_each(|share| *share *= times);
            }
        }
        let p = &mut self.person;
        for rate in [
            &mut p.not_settled,
            &mut p.unequal_start,
            &mut p.cold,
            &mut p.unpurged,
            &mut p.changed_over,
            &mut p.decimal,
            &mut p.disturbed,
        ] {
            *rate = (*rate * by.people).min(0.5);
        }
        p.stopwatch_s *= by.people;
        self
    }

    /// The job of this seed.
    pub fn job(&self, seed: u64) -> MadeJob {
        let draw = &mut Draw::new(seed, 0);
        let system = &self.system[draw.weighted(self.system.iter().map(|row| row.share))];
        let cylinders = system.cylinders[draw.below(system.cylinders.len())];
        let layout = Layout {
            cylinders,
            banks: if cylinders > 6 { 2 } else { 1 },
            first_at: EngineEnd::Pulley,
            numbering: BankNumbering::BankByBank,
        };
        let mut engine = MadeEngine::sound(system.of, layout);
        let hours = draw.log_normal(4200.0, 0.7);
        self.make(&mut engine, draw, hours);
        let faults = self.faults(&engine, draw);
        for put in &faults {
            put.fault.put(&mut engine, put.cylinder, put.size);
        }
        engine.warm_c = draw.between(76.0, 90.0);
        let symptoms = self.told(&engine, draw);
        let story = self.story(&engine, &faults, draw);
        let limit = draw.happens(self.library.limit);
        let wrong = draw.happens(self.library.wrong_family);
        let return_limit = (limit && engine.is_diesel()).then(|| {
            let new = MadeEngine::sound(engine.fuel, engine.layout);
            let sound = new.returned_at(0, Running::Idle, new.wanted_kpa(Running::Idle), 80.0);
            let other = if wrong { draw.between(0.6, 1.7) } else { 1.0 };
            (sound * self.library.limit_over_sound * other).round()
        });
        let (world, in_library) = (World::First, limit);
        MadeJob { seed, world, engine, faults, symptoms, story, hours, in_library, return_limit }
    }

    /// As made and as aged together.
    fn make(&self, engine: &mut MadeEngine, draw: &mut Draw, hours: f64) {
        let made = &self.made;
        let kind = nominal(engine.fuel);
        let old = (hours / 12_000.0).min(1.0);
        for one in &mut engine.injectors {
            one.holes = draw.normal(1.0, made.holes);
            one.late_ms = draw.normal(0.0, made.late * kind.dead.usual_ms);
            one.guide_um = (one.guide_um + draw.normal(0.0, made.guide_um)).max(1.6);
            one.coil_ohm *= draw.normal(1.0, made.coil);
            one.stack_uf *= draw.normal(1.0, 2.0 * made.coil);
            one.lift = draw.normal(1.0, made.lift);
            one.seat_mg_min = draw.normal(0.0, made.seat_mg_min).abs();
            one.body_mohm = draw.log_normal(300.0, 0.8);
            one.dirt.holes = draw.share() * made.aged_dirt * old;
        }
        for place in &mut engine.places {
            place.leak_mm2 = (place.leak_mm2 + draw.normal(0.0, made.compression_mm2)).max(0.1);
            place.leg_ohm += draw.share() * 0.08;
        }
    }

    fn faults(&self, engine: &MadeEngine, draw: &mut Draw) -> Vec<Put> {
        let count = self.count[draw.weighted(self.count.iter().map(|row| row.share))].faults;
        let (rows, many) = match count {
            Count::None => return Vec::new(),
            Count::One => (&self.fault, 1),
            Count::More => (&self.fault, 2 + usize::from(draw.happens(0.3))),
            Count::Shared => (&self.shared, 1),
        };
        let system = named(&engine.fuel);
        let share = |row: &FaultRow| {
            let fits = row.of.fits(engine.fuel);
            if fits { row.share.get(&system).copied().unwrap_or(0.0) } else { 0.0 }
        };
        let mut free: Vec<usize> = (0..engine.seats.len()).collect();
        let mut found: Vec<Put> = Vec::new();
        let same = draw.happens(0.6);
        for _ in 0..many {
            if free.is_empty() {
                break;
            }
            let fault = match found.first() {
                // What wears, wears at more than one place of a set.
                Some(first) if same => first.fault,
                _ => rows[draw.weighted(rows.iter().map(share))].of,
            };
            let cylinder = free.swap_remove(draw.below(free.len()));
            let size = draw.log_normal(self.size.median, self.size.spread);
            found.push(Put { fault, cylinder, size: size.clamp(0.12, 1.4) });
            if fault.at() == At::All {
                break;
            }
        }
        found
    }
}

/// The name of something as files have it.
fn named(of: &impl serde::Serialize) -> String {
    toml::Value::try_from(of)
        .ok()
        .and_then(|value| value.as_str().map(str::to_owned))
        .unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::truth::{State, truth};

    #[test]
    fn every_row_has_a_reason_and_every_fault_of_an_engine_can_come() {
        let people = Population::shipped().unwrap();
        let reasons = people.fault.iter().chain(&people.shared).map(|row| &row.reason);
        assert!(reasons.clone().all(|reason| reason.len() > 5));
        let known: Vec<Fault> = people.fault.iter().chain(&people.shared).map(|r| r.of).collect();
        for fault in Fault::ALL {
            assert!(known.contains(&fault), "{fault:?} never comes in");
        }
        for row in people.fault.iter().chain(&people.shared) {
            for system in row.share.keys() {
                let known = FuelSystem::ALL.iter().find(|one| named(*one) == *system);
                assert!(row.of.fits(*known.unwrap()), "{:?} on {system}", row.of);
            }
        }
    }

    #[test]
    fn a_third_is_healthy_sound_injectors_are_sound_and_the_same_seed_is_the_same_job() {
        let people = Population::shipped().unwrap();
        assert_eq!(people.job(5), people.job(5));
        let jobs: Vec<MadeJob> = (0..2000).map(|seed| people.job(seed)).collect();
        let healthy = jobs.iter().filter(|job| job.faults.is_empty()).count();
        assert!((600..800).contains(&healthy), "{healthy}");
        let of_sound = jobs.iter().filter(|job| job.faults.is_empty());
        let states: Vec<State> =
            of_sound.flat_map(|job| &job.engine.injectors).map(|one| truth(one).state).collect();
        let faulty = states.iter().filter(|state| **state == State::Faulty).count();
        assert_eq!(faulty, 0, "nothing that is made is faulty of itself");
        let sound = states.iter().filter(|state| **state == State::Sound).count();
        assert!(sound as f64 / states.len() as f64 > 0.93, "{sound} of {}", states.len());
    }
}
