//! Many plausible jobs, for load: the same seed makes the same workshop.

use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use cobaltine_core::library::{FamilyKind, LimitCheck, LimitRow};
use cobaltine_core::quantity::{Celsius, Millilitre, Rpm, Second};
use cobaltine_core::record::{
    Injector, Intake, JOB_FORMAT, JOB_VERSION, Job, JobFile, Person, Reading, ReadingKind,
    RunRecord, Signed, Story, TestRecord, TestSetup,
};
use cobaltine_core::tests::engine::return_test::HouseRules;
use cobaltine_core::work::{Regime, Symptom};
use cobaltine_store::{Act, Store};
use jiff::{SignedDuration, Timestamp};
use uuid::Uuid;

/// Jobs of one transaction.
const BATCH: u32 = 500;
/// Generated jobs are numbered from here, away from the written ones.
const FIRST_NUMBER: u64 = 100_000;

/// Numbers without chance: a 64-bit linear congruential generator (Knuth's constants).
struct Seeded(u64);

impl Seeded {
    fn below(&mut self, n: u32) -> u32 {
        self.0 =
            self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((self.0 >> 33) % u64::from(n.max(1))) as u32
    }

    fn pick<'a>(&mut self, from: &[&'a str]) -> &'a str {
        from[self.below(from.len() as u32) as usize]
    }

    fn id(&mut self) -> Uuid {
        Uuid::from_u64_pair(
            0x7000 | (u64::from(self.below(u32::MAX)) << 16),
            0x8000_0000_0000_0000
                | (u64::from(self.below(u32::MAX)) << 24)
                | u64::from(self.below(1 << 24)),
        )
    }
}

/// Adds generated jobs in batches, telling how far it is.
pub(crate) async fn fill(store: &Store, jobs: u32) -> anyhow::Result<()> {
    let Some(person) = store.people().await?.into_iter().next().filter(|_| jobs > 0) else {
        return Ok(());
    };
    let now = Timestamp::now();
    let mut seeded = Seeded(u64::from(jobs) + 17);
    let mut made = 0;
    while made < jobs {
        let batch = BATCH.min(jobs - made);
        let files: Vec<JobFile> =
            (made..made + batch).map(|n| job(&mut seeded, n, &person, now)).collect();
        store.load_jobs(&files).await?;
        made += batch;
        println!("generated {made} of {jobs} jobs");
    }
    Ok(())
}

/// Adds generated limits, ten to a family, in one import.
pub(crate) async fn library(store: &Store, limits: u32) -> anyhow::Result<()> {
    let mut seeded = Seeded(7);
    let mut rows = Vec::with_capacity(limits as usize);
    for n in 0..limits {
        let make = ["Kettra", "Tarve", "Ostrel", "Sollay", "Hask"][(n / 10 % 5) as usize];
        let check = LimitCheck::ALL[(n % 10) as usize];
        let lower = 5.0 + f64::from(seeded.below(400));
        let row = LimitRow {
            family: format!("{make} generated {}", n / 10 + 100),
            kind: FamilyKind::ALL[(n / 10 % 7) as usize].name().to_owned(),
            check: check.name().to_owned(),
            condition: ["", "idle", "full load"][seeded.below(3) as usize].to_owned(),
            lower: lower.to_string(),
            upper: (lower * 1.2).to_string(),
            source: format!("generated sheet {}", n % 97),
            ..LimitRow::default()
        };
        rows.push(row.read().map_err(|problems| anyhow::anyhow!("{problems:?}"))?);
    }
    if !rows.is_empty() {
        store.import_library(&Act::own(), &[], &rows, &[], None).await?;
    }
    Ok(())
}

fn job(seeded: &mut Seeded, n: u32, person: &Person, now: Timestamp) -> JobFile {
    let at = now - SignedDuration::from_mins(i64::from(n) * 37 + 600);
    let signed = Signed::new(person.id, at);
    let cylinders = [3, 4, 4, 4, 6, 6, 8][seeded.below(7) as usize];
    let layout = Layout {
        cylinders,
        banks: if cylinders == 8 { 2 } else { 1 },
        first_at: if seeded.below(3) == 0 { EngineEnd::Flywheel } else { EngineEnd::Pulley },
        numbering: BankNumbering::BankByBank,
    };
    let where_from = seeded.pick(&["Harbour", "Hill", "Mill", "Dyke", "Island", "Marsh", "Quarry"]);
    let what = seeded.pick(&["pump", "baler", "winch", "genset", "loader", "sprayer", "dredger"]);
    let test = TestRecord {
        id: seeded.id(),
        setup: TestSetup {
            regime: Regime::IdleOnly,
            temperature_c: Some(Celsius(80.0)),
            speed_rpm: Some(Rpm(820.0)),
            capacity_ml: Millilitre(100.0),
            graduation_ml: Millilitre(2.0),
            planned_s: Second(120.0),
            rules: HouseRules::default(),
            timer_u_s: None,
            accuracy_pct: 0.0,
            accuracy_digits: 0.0,
            instruments: Vec::new(),
            limit: None,
            mark_ml: None,
            pump_spare_ml_min: None,
        },
        runs: vec![run(seeded, cylinders, signed)],
        signed,
    };
    let injectors = (1..=cylinders)
        .map(|cylinder| Injector { id: seeded.id(), cylinder, label: String::new() })
        .collect();
    JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job: Job {
            exercise: None,
            id: seeded.id(),
            number: FIRST_NUMBER + u64::from(n),
            revision: 1,
            intake: Intake {
                customer_id: None,
                plate: String::new(),
                promised: None,
                customer: format!("{where_from} farm {}", n % 90 + 1),
                machine: format!("{where_from} {what} {}", n % 400 + 1),
                usage: format!("{} h", 300 + seeded.below(9000)),
                engine: format!("Test engine {cylinders}"),
                fuel_system: FuelSystem::DieselSolenoid,
                layout,
                family_id: None,
                symptoms: vec![
                    [Symptom::RoughIdle, Symptom::LongCrankHot, Symptom::BlackSmoke]
                        [seeded.below(3) as usize],
                ],
                complaint: String::new(),
                story: Story::default(),
            },
            injectors,
            taken_in: signed,
        },
        changes: Vec::new(),
        return_tests: if seeded.below(5) == 0 { Vec::new() } else { vec![test] },
        sheets: Vec::new(),
        bench: Vec::new(),
        events: Vec::new(),
        decisions: Vec::new(),
        notes: Vec::new(),
        people: vec![person.clone()],
        family: None,
    }
}

fn run(seeded: &mut Seeded, cylinders: u32, signed: Signed) -> RunRecord {
    let mut reading = |kind, cylinder, value: f64| Reading {
        id: seeded.id(),
        cylinder,
        kind,
        value,
        mark_ml: None,
        typed: value.to_string(),
        corrects: None,
        why: None,
        shown_by: None,
        signed,
    };
    let mut readings = vec![reading(ReadingKind::RunTime, None, 120.0)];
    for cylinder in 1..=cylinders {
        readings.push(reading(ReadingKind::Level, Some(cylinder), 0.0));
    }
    for reading in readings.iter_mut().skip(1) {
        let worn = seeded.below(9) == 0;
        reading.value = f64::from(20 + seeded.below(6) + if worn { 30 } else { 0 });
        reading.typed = reading.value.to_string();
    }
    RunRecord {
        id: seeded.id(),
        number: 1,
        started_at: None,
        readings,
        set_aside: None,
        asides: Vec::new(),
        caught_by: None,
        raw: Vec::new(),
        phase: None,
        bank: None,
        ticked: None,
        signed,
    }
}
