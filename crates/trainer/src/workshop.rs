//! What stands around the engine of an exercise: the bench, the meter, and the library with its limits.

use crate::case::Case;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::library::{Limit, LimitEntry};
use cobaltine_core::tests::bench::{BenchKind, BenchSetup, Entry};
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_engines::technician::library;
use uuid::Uuid;

/// What the made-up library says of the return flow of a warm engine.
pub fn return_limit(case: &Case) -> Option<Limit> {
    case.job.return_limit.map(|upper| Limit {
        upper_ml_min: upper,
        from_c: Some(65.0),
        to_c: Some(95.0),
        source: library::SOURCE.to_owned(),
        revision: 1,
    })
}

/// The limit of the made-up library for a check, and the instrument that it is read with.
pub fn sheet_with(case: &Case, check: EngineTest) -> (Option<LimitEntry>, Option<Instrument>) {
    let ohms = check == EngineTest::CoilResistance;
    let limit = if ohms { library::coil_limit(case.job.engine.fuel) } else { None };
    (limit, ohms.then(meter))
}

/// The bench of an exercise, with the family of its injectors as the made-up library has it.
pub fn bench_setup(case: &Case) -> BenchSetup {
    let fuel = case.job.engine.fuel;
    let kind = BenchKind::of(fuel);
    BenchSetup {
        kind,
        bench: None,
        overdue: false,
        graduation: if kind == BenchKind::Doser { 2.0 } else { 0.2 },
        capacity_ml: 500.0,
        entry: Entry::Volume,
        points: library::points(kind),
        families: vec![library::family(fuel)],
        rules: Vec::new(),
    }
}

/// A bridge with four wires: what a coil of any kind can be read with.
fn meter() -> Instrument {
    Instrument {
        id: Uuid::from_u128(0x0E7E_2000),
        name: "made-up meter".to_owned(),
        kind: InstrumentKind::Meter,
        resolution: 0.001,
        accuracy_pct: 1.0,
        accuracy_digits: 0.0,
        lead_ohm: None,
        capacity_ml: None,
        calibration_due: None,
        certificate: String::new(),
        revision: 1,
    }
}
