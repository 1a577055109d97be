//! Who comes in, in the second population, and what its library holds.
//!
//! # Source
//! The file `second.toml`, row by row with its reason; spreads of sound parts are a model of our own.

use crate::draw::Draw;
use crate::engine::MadeEngine;
use crate::fault::{At, Fault};
use crate::injector::nominal;
use crate::population::{
    Count, CountRow, LibraryRow, MadeJob, PersonRow, PopulationError, Put, SizeRow, SystemRow,
    World,
};
use crate::reading::MAP_POINTS;
use crate::technician::library::{FAMILY, around, coil_limit, family_kind, limit};
use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::intake::Story;
use cobaltine_core::library::{FamilyDetail, LimitCheck, LimitEntry};
use cobaltine_core::tests::bench::FamilyThen;
use cobaltine_core::work::{FaultCodes, Suffers, Symptom};
use serde::Deserialize;

/// mm³ a stroke that a sound one delivers at each point of a map; none standing.
pub(super) const MAP_MM3: [f64; 5] = [6.4, 2.6, 19.0, 64.0, 0.0];
/// mm³ a stroke that a sound one gives back at each point.
pub(super) const MAP_RETURN_MM3: [f64; 5] = [24.0, 30.0, 34.0, 60.0, 44.0];
/// ml/min held open, port and direct.
pub(super) const FLOW_ML_MIN: [f64; 2] = [265.0, 640.0];
/// ml that a doser gives in a minute at 900 kPa.
pub(super) const DOSED_ML: f64 = 142.0;

/// The second population.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Second {
    system: Vec<SystemRow>,
    count: Vec<CountRow>,
    fault: Vec<ToldRow>,
    shared: Vec<ToldRow>,
    size: SizeRow,
    library: LibraryRow,
    /// Who does what is named.
    pub person: PersonRow,
    /// Who errs.
    pub erring: PersonRow,
}

/// A fault, and what is told of it.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
struct ToldRow {
    of: Fault,
    share: f64,
    tells: Vec<Symptom>,
    reason: String,
}

/// What brings people in when nothing of it is wrong.
const ELSEWHERE: [Symptom; 6] = [
    Symptom::CheckAndClean,
    Symptom::CheckAndClean,
    Symptom::LowPower,
    Symptom::RoughIdle,
    Symptom::HighConsumption,
    Symptom::LongCrankCold,
];

impl Second {
    /// As it ships.
    ///
    /// # Errors
    /// A file that cannot be used, which a test rules out.
    pub fn shipped() -> Result<Self, PopulationError> {
        toml::from_str(include_str!("../../second.toml")).map_err(PopulationError::from)
    }

    /// The job of this seed.
    pub fn job(&self, seed: u64) -> MadeJob {
        let draw = &mut Draw::new(seed, 77);
        let system = &self.system[draw.weighted(self.system.iter().map(|row| row.share))];
        let cylinders = system.cylinders[draw.below(system.cylinders.len())];
        let layout = Layout {
            cylinders,
            banks: if cylinders > 6 { 2 } else { 1 },
            first_at: EngineEnd::Flywheel,
            numbering: BankNumbering::BankByBank,
        };
        let mut engine = MadeEngine::sound(system.of, layout);
        made(&mut engine, draw);
        let faults = self.faults(&engine, draw);
        for put in &faults {
            put.fault.put(&mut engine, put.cylinder, put.size);
        }
        engine.warm_c = draw.between(70.0, 88.0);
        let symptoms = self.told(&faults, draw);
        let story = story(&engine, &faults, draw);
        let in_library = draw.happens(self.library.limit);
        let wrong = draw.happens(self.library.wrong_family);
        let sound = super::Shows(&engine).usual_return();
        let return_limit = (in_library && engine.is_diesel()).then(|| {
            let other = if wrong { draw.between(0.7, 1.5) } else { 1.0 };
            (sound * self.library.limit_over_sound * other).round()
        });
        let (world, hours) = (World::Second, draw.between(300.0, 9_000.0));
        MadeJob { seed, world, engine, faults, symptoms, story, hours, in_library, return_limit }
    }

    fn faults(&self, engine: &MadeEngine, draw: &mut Draw) -> Vec<Put> {
        let count = self.count[draw.weighted(self.count.iter().map(|row| row.share))].faults;
        let (rows, many) = match count {
            Count::None => return Vec::new(),
            Count::One => (&self.fault, 1),
            Count::More => (&self.fault, 2),
            Count::Shared => (&self.shared, 1),
        };
        let share = |row: &ToldRow| if row.of.fits(engine.fuel) { row.share } else { 0.0 };
        let mut found: Vec<Put> = Vec::new();
        for _ in 0..many.min(engine.seats.len()) {
            let fault = rows[draw.weighted(rows.iter().map(share))].of;
            let taken = |at: usize| found.iter().any(|put| put.cylinder == at);
            let free: Vec<usize> = (0..engine.seats.len()).filter(|at| !taken(*at)).collect();
            let cylinder = free[draw.below(free.len())];
            let size = draw.log_normal(self.size.median, self.size.spread).clamp(0.15, 1.4);
            found.push(Put { fault, cylinder, size });
        }
        found
    }

    /// Told by the fault itself: whoever drives knows nothing of pressures.
    fn told(&self, faults: &[Put], draw: &mut Draw) -> Vec<Symptom> {
        let mut told: Vec<Symptom> = Vec::new();
        for put in faults {
            let rows = self.fault.iter().chain(&self.shared).filter(|row| row.of == put.fault);
            for symptom in rows.flat_map(|row| &row.tells) {
                let chance = (0.15 + 0.55 * put.size).min(0.8);
                if draw.happens(chance) && !told.contains(symptom) {
                    told.push(*symptom);
                }
            }
        }
        if told.is_empty() {
            told.push(ELSEWHERE[draw.below(ELSEWHERE.len())]);
        }
        told.truncate(3);
        told
    }
}

/// As made and as aged.
fn made(engine: &mut MadeEngine, draw: &mut Draw) {
    let usual = nominal(engine.fuel).dead.usual_ms;
    for one in &mut engine.injectors {
        one.holes = draw.between(0.97, 1.03);
        one.late_ms = usual * draw.between(-0.03, 0.03);
        one.guide_um += draw.between(-0.3, 0.3);
        one.coil_ohm *= draw.between(0.98, 1.02);
        one.stack_uf *= draw.between(0.96, 1.04);
        one.lift = draw.between(0.97, 1.03);
        one.seat_mg_min = 0.3 * draw.share();
        one.body_mohm = draw.between(40.0, 900.0);
    }
    for place in &mut engine.places {
        place.leak_mm2 += draw.between(-0.2, 0.3);
        place.leg_ohm += 0.06 * draw.share();
    }
}

/// Who suffers, which cylinder is named, and what the unit stored.
fn story(engine: &MadeEngine, faults: &[Put], draw: &mut Draw) -> Story {
    let all = engine.seats.len();
    let mut story = Story::default();
    let Some(worst) = faults.iter().max_by(|a, b| a.size.total_cmp(&b.size)) else { return story };
    if worst.fault.at() == At::All {
        story.suffers = if draw.happens(0.4) { Suffers::All } else { Suffers::NotKnown };
        return story;
    }
    let wrong = draw.happens(0.1);
    let cylinder = if wrong { draw.below(all) } else { worst.cylinder } as u32 + 1;
    let plain = worst.size > 0.5 && all > 1;
    if plain && draw.happens(0.3) {
        story.suffers = if faults.len() > 1 { Suffers::Several } else { Suffers::One };
        story.cylinders = vec![cylinder];
    }
    let electric =
        matches!(worst.fault, Fault::Wire | Fault::CoilOpen | Fault::CoilShort | Fault::Driver);
    if plain && draw.happens(if electric { 0.5 } else { 0.2 }) {
        story.fault_codes = FaultCodes::Stored;
        story.codes =
            if electric { format!("P02{cylinder:02}") } else { format!("P03{cylinder:02}") };
    }
    story
}

/// The family as the second library has it.
pub(crate) fn library(fuel: FuelSystem) -> FamilyThen {
    let mut limits: Vec<LimitEntry> = coil_limit(fuel).into_iter().collect();
    match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => {
            for (row, (name, _, pulse, _)) in MAP_POINTS.into_iter().enumerate() {
                let mm3 = MAP_MM3[row];
                // Wider than those of the first, wide for small quantities.
                let half = if mm3 < 10.0 { 0.35 } else { 0.11 };
                limits.push(if pulse > 0.0 {
                    let (low, high) = (Some(mm3 * (1.0 - half)), Some(mm3 * (1.0 + half)));
                    limit(LimitCheck::Delivered, name, low, high)
                } else {
                    limit(LimitCheck::Returned, name, None, Some(MAP_RETURN_MM3[row] * 0.9))
                });
            }
        }
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => {
            let direct = fuel == FuelSystem::PetrolDirect;
            let kpa = if direct { 6_000.0 } else { 300.0 };
            // From white spirit to the house's density.
            let flow = FLOW_ML_MIN[usize::from(direct)] * (780.0_f64 / 684.0).sqrt();
            let held = around(LimitCheck::StaticFlow, flow, 0.08);
            limits.push(LimitEntry { from_kpa: Some(kpa), to_kpa: Some(kpa), ..held });
        }
        FuelSystem::ExhaustDoser => {
            limits.push(around(LimitCheck::DoserVolume, DOSED_ML, 0.1));
            limits.push(limit(LimitCheck::LeakVolume, "", None, Some(0.5)));
        }
    }
    let detail = FamilyDetail { kind: family_kind(fuel), ..FamilyDetail::default() };
    FamilyThen { name: FAMILY.to_owned(), detail, limits }
}
