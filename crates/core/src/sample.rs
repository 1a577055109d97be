//! One made-up job for tests, to be changed where a test needs it.

use crate::calc::return_flow::TIMER_U_S;
use crate::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};
use crate::passport::{Life, Passport};
use crate::quantity::{Celsius, Millilitre, Second};
use crate::record::{
    CellReading, Event, EventRecord, Injector, Intake, JOB_FORMAT, JOB_VERSION, Job, JobFile,
    Reading, ReadingKind, RunRecord, SheetRecord, Signed, Story, TestRecord, TestSetup,
};
use crate::start::StartId;
use crate::tests::engine::EngineTest;
use crate::tests::engine::return_test::HouseRules;
use crate::work::{Regime, Symptom};
use jiff::Timestamp;
use uuid::Uuid;

/// This minute of the made-up day.
pub(crate) fn at(minute: i64) -> Signed {
    let at = Timestamp::from_second(1_900_000_000 + 60 * minute).unwrap();
    Signed::new(Uuid::nil(), at)
}

/// A job of four cylinders in a row.
pub(crate) fn job(fuel_system: FuelSystem, symptoms: &[Symptom]) -> JobFile {
    let layout = Layout {
        cylinders: 4,
        banks: 1,
        first_at: EngineEnd::Pulley,
        numbering: BankNumbering::BankByBank,
    };
    JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job: Job {
            id: Uuid::nil(),
            number: 1,
            revision: 1,
            intake: Intake {
                customer: String::new(),
                customer_id: None,
                plate: String::new(),
                promised: None,
                machine: "Sample".to_owned(),
                usage: String::new(),
                engine: String::new(),
                fuel_system,
                layout,
                family_id: None,
                symptoms: symptoms.to_vec(),
                complaint: String::new(),
                story: Story::default(),
            },
            injectors: (1..=4)
                .map(|cylinder| Injector {
                    id: Uuid::from_u128(u128::from(cylinder)),
                    cylinder,
                    label: format!("L{cylinder}"),
                })
                .collect(),
            exercise: None,
            taken_in: at(0),
        },
        changes: Vec::new(),
        return_tests: Vec::new(),
        sheets: Vec::new(),
        bench: Vec::new(),
        events: Vec::new(),
        decisions: Vec::new(),
        notes: Vec::new(),
        people: Vec::new(),
        family: None,
    }
}

/// A return test of runs of 120 s with bottles of 100 ml marked every 2 ml; each run's levels in
/// the order of the cylinders. All start conditions are ticked.
pub(crate) fn return_test(celsius: f64, runs: &[&[f64]]) -> TestRecord {
    let reading = |cylinder, kind, value| Reading {
        id: Uuid::now_v7(),
        cylinder,
        kind,
        value,
        mark_ml: None,
        typed: String::new(),
        corrects: None,
        why: None,
        shown_by: None,
        signed: at(1),
    };
    TestRecord {
        id: Uuid::now_v7(),
        setup: TestSetup {
            regime: Regime::IdleOnly,
            temperature_c: Some(Celsius(celsius)),
            speed_rpm: None,
            capacity_ml: Millilitre(100.0),
            graduation_ml: Millilitre(2.0),
            planned_s: Second(120.0),
            rules: HouseRules::default(),
            timer_u_s: Some(Second(TIMER_U_S)),
            accuracy_pct: 0.0,
            accuracy_digits: 0.0,
            instruments: Vec::new(),
            limit: None,
            mark_ml: None,
            pump_spare_ml_min: None,
        },
        runs: runs
            .iter()
            .enumerate()
            .map(|(i, levels)| RunRecord {
                id: Uuid::now_v7(),
                number: i as u32 + 1,
                started_at: None,
                readings: std::iter::once(reading(None, ReadingKind::RunTime, 120.0))
                    .chain(levels.iter().zip(1..).map(|(level, cylinder)| {
                        reading(Some(cylinder), ReadingKind::Level, *level)
                    }))
                    .collect(),
                set_aside: None,
                asides: Vec::new(),
                caught_by: None,
                raw: Vec::new(),
                phase: None,
                bank: None,
                ticked: Some(StartId::ALL.to_vec()),
                signed: at(1),
            })
            .collect(),
        signed: at(1),
    }
}

/// A check with cells of the set and of each cylinder, read at this minute.
pub(crate) fn sheet(
    check: EngineTest,
    minute: i64,
    set: &[(&str, f64)],
    each: &[(&str, &[f64])],
) -> SheetRecord {
    let cell = |name: &str, cylinder: Option<u32>, value: f64| CellReading {
        id: Uuid::now_v7(),
        cell: name.to_owned(),
        cylinder,
        value: Some(value),
        typed: value.to_string(),
        corrects: None,
        shown_by: None,
        signed: at(minute),
    };
    let set = set.iter().map(|(name, value)| cell(name, None, *value));
    let each = each.iter().flat_map(|(name, values)| {
        values.iter().zip(1..).map(|(value, cylinder)| cell(name, Some(cylinder), *value))
    });
    SheetRecord {
        id: Uuid::now_v7(),
        check,
        limit: None,
        instrument: None,
        overdue: false,
        rules: Vec::new(),
        asks_start: false,
        readings: set.chain(each).collect(),
        traces: Vec::new(),
        recordings: Vec::new(),
        raw: Vec::new(),
        signed: at(minute),
    }
}

/// Something that happened at this minute.
pub(crate) fn event(minute: i64, event: Event) -> EventRecord {
    EventRecord { id: Uuid::now_v7(), event, signed: at(minute) }
}

/// Draws the same on every machine (splitmix64).
pub(crate) struct Draw(pub u64);

impl Draw {
    pub(crate) fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        z ^ (z >> 31)
    }

    pub(crate) fn below(&mut self, n: usize) -> usize {
        (self.next() % n as u64) as usize
    }

    pub(crate) fn one<'a, T>(&mut self, of: &'a [T]) -> &'a T {
        &of[self.below(of.len())]
    }
}

/// The passport of an injector from these jobs: the very one in each, or one of the same label.
pub(crate) fn passport(id: Uuid, label: &str, files: &[JobFile]) -> Passport {
    let label = label.trim().to_lowercase();
    let lives = files.iter().filter_map(|file| {
        let same = |one: &&Injector| one.label.trim().to_lowercase() == label;
        let held = file.injector(id).or_else(|| file.every_injector().find(same))?;
        Some(Life::of(file, &file.judged().unwrap(), held).unwrap())
    });
    crate::passport::passport(id, &label, lives.collect())
}
