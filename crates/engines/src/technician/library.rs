//! What a workshop's library holds of a made-up family, and the plans that its benches run.
//!
//! # Source
//! Windows as plans of the trade have them, around what a nominal injector delivers.

use crate::injector::{Injector, nominal};
use crate::physics::{Fluid, Liquid};
use crate::population::{MadeJob, World};
use crate::reading::{FLOW_POINTS, MAP_POINTS};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::library::{FamilyDetail, FamilyKind, LimitCheck, LimitEntry};
use cobaltine_core::tests::bench::{BenchKind, FamilyThen, Point};
use uuid::Uuid;

/// What the made-up library calls the family.
pub const FAMILY: &str = "made-up family";
/// Where its limits stand.
pub const SOURCE: &str = "made-up library";
/// Half a window of what a point delivers, share of the nominal, as plans of the trade have them: wide for
/// a pilot, an eighth at part load, a tenth at full load.
fn half_window(point: &str) -> f64 {
    match point {
        "pilot" => 0.5,
        "full load" => 0.10,
        _ => 0.125,
    }
}
/// Density that flows are brought to, kg/m³: the house's reference as it ships.
const HOUSE_DENSITY: f64 = 684.0;
/// What may flow back standing still, against a sound one.
const STANDING: f64 = 2.2;

/// A limit of the made-up library.
pub(crate) fn limit(
    check: LimitCheck,
    condition: &str,
    lower: Option<f64>,
    upper: Option<f64>,
) -> LimitEntry {
    LimitEntry {
        id: Uuid::from_u128(0x0E7E_3000 + ((check as u128) << 8) + condition.len() as u128),
        family: FAMILY.to_owned(),
        check,
        condition: condition.to_owned(),
        revision: 1,
        lower,
        upper,
        typed: String::new(),
        from_c: None,
        to_c: None,
        from_kpa: None,
        to_kpa: None,
        source: SOURCE.to_owned(),
        approved: None,
    }
}

/// Around a nominal figure, by a share of it.
pub(crate) fn around(check: LimitCheck, nominal: f64, share: f64) -> LimitEntry {
    limit(check, "", Some(nominal * (1.0 - share)), Some(nominal * (1.0 + share)))
}

/// What a coil may have at 20 °C, a tenth to either side; none for a stack.
pub fn coil_limit(fuel: FuelSystem) -> Option<LimitEntry> {
    let ohm = nominal(fuel).coil_ohm;
    (ohm > 0.0).then(|| around(LimitCheck::CoilResistance, ohm, 0.10))
}

/// The family as the library of this job has it.
pub(crate) fn family_of(job: &MadeJob) -> FamilyThen {
    match job.world {
        World::First => family(job.engine.fuel),
        World::Second => crate::second::library(job.engine.fuel),
    }
}

/// The family as a bench plan has it: windows around what a nominal injector delivers.
pub fn family(fuel: FuelSystem) -> FamilyThen {
    let (kind, new) = (nominal(fuel), Injector::new(fuel));
    let fluid = Fluid::new(Liquid::CalibrationFluid);
    let mut limits = Vec::new();
    if matches!(fuel, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo) {
        for (name, kpa, pulse, _) in MAP_POINTS {
            if pulse == 0.0 {
                let back = new.standing_ml_min(kpa, &fluid, 40.0) / crate::reading::STROKES_MIN;
                let most = back * 1000.0 * STANDING;
                limits.push(limit(LimitCheck::Returned, name, None, Some(most)));
                continue;
            }
            let pulse = pulse * kind.idle_ms / 0.55;
            let mm3 = new.delivered_mm3(pulse, kind.dead.volts, kpa, fluid.density(40.0));
            let half = half_window(name);
            let (low, high) = (mm3 * (1.0 - half), mm3 * (1.0 + half));
            limits.push(limit(LimitCheck::Delivered, name, Some(low), Some(high)));
        }
    }
    if fuel == FuelSystem::DieselSolenoid {
        limits.push(around(LimitCheck::Lift, crate::reading::LIFT_UM, 0.07));
    }
    if matches!(fuel, FuelSystem::PetrolPort | FuelSystem::PetrolDirect) {
        let flow = new.static_ml_min(kind.idle_kpa, HOUSE_DENSITY);
        let held = around(LimitCheck::StaticFlow, flow, 0.07);
        limits.push(LimitEntry {
            from_kpa: Some(kind.idle_kpa),
            to_kpa: Some(kind.idle_kpa),
            ..held
        });
    }
    if fuel == FuelSystem::ExhaustDoser {
        let density = Fluid::new(Liquid::Diesel).density(30.0);
        limits.push(around(LimitCheck::DoserVolume, new.static_ml_min(610.0, density), 0.08));
        limits.push(limit(LimitCheck::LeakVolume, "", None, Some(0.5)));
    }
    let detail = FamilyDetail { kind: family_kind(fuel), ..FamilyDetail::default() };
    FamilyThen { name: FAMILY.to_owned(), detail, limits }
}

pub(crate) fn family_kind(fuel: FuelSystem) -> FamilyKind {
    match fuel {
        FuelSystem::PetrolPort => FamilyKind::PetrolPortHigh,
        FuelSystem::PetrolDirect => FamilyKind::PetrolDirectSolenoid,
        FuelSystem::DieselSolenoid => FamilyKind::DieselSolenoid,
        FuelSystem::DieselPiezo => FamilyKind::DieselPiezo,
        FuelSystem::ExhaustDoser => FamilyKind::ExhaustDoser,
    }
}

/// Rows of the plan that a bench of this kind runs.
pub fn points(kind: BenchKind) -> Vec<Point> {
    match kind {
        BenchKind::Petrol => FLOW_POINTS
            .iter()
            .enumerate()
            .map(|(at, (pulse_ms, amount))| Point {
                name: format!("regime {}", at + 1),
                pulse_ms: *pulse_ms,
                count: pulse_ms.map(|_| *amount),
                seconds: if pulse_ms.is_none() { Some(*amount) } else { None },
                ..Point::default()
            })
            .collect(),
        BenchKind::Diesel => MAP_POINTS
            .iter()
            .map(|(name, kpa, pulse, strokes)| Point {
                name: (*name).to_owned(),
                pulse_ms: (*pulse > 0.0).then_some(*pulse),
                count: Some(*strokes),
                rail_kpa: Some(*kpa),
                temperature_c: Some(40.0),
                ..Point::default()
            })
            .collect(),
        BenchKind::Doser => Vec::new(),
    }
}
