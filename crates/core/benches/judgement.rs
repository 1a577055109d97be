//! The judgement of a job in which everything was read: twelve cylinders beside one, in one run.
//!
//! `cargo bench -p cobaltine-core --bench judgement` prints both; what is to hold is under 5 ms for
//! twelve, and the ratio says how it grows whatever the machine does besides.

#![allow(
    clippy::unwrap_used,
    missing_docs,
    reason = "a bench that cannot make its job has to stop"
)]

use cobaltine_core::judgement::{House, Weights, judge};
use cobaltine_core::passport::Counted;
use cobaltine_core::record::JobFile;
use cobaltine_core::rules::Rules;
use criterion::{Criterion, criterion_group, criterion_main};
use serde_json::{Value, json};
use std::hint::black_box;

fn id(n: &mut u32) -> String {
    *n += 1;
    format!("01c30077-0000-7000-8000-{n:012}")
}

fn signed(minute: u32) -> Value {
    json!({ "by": "01c30077-0000-7000-8000-000000000000", "at": format!("2031-05-20T{:02}:{:02}:00Z", 8 + minute / 60, minute % 60) })
}

/// One check with cells of the set and the same cell of every cylinder, one of them odd.
fn sheet(
    n: &mut u32,
    minute: u32,
    cylinders: u32,
    check: &str,
    set: &[(&str, f64)],
    each: Option<(&str, f64, f64)>,
) -> Value {
    let mut readings = Vec::new();
    let mut cell = |n: &mut u32, name: &str, cylinder: Option<u32>, value: f64| {
        readings.push(json!({ "id": id(n), "cell": name, "cylinder": cylinder, "value": value,
            "typed": value.to_string(), "corrects": null, "signed": signed(minute) }));
    };
    for (name, value) in set {
        cell(n, name, None, *value);
    }
    if let Some((name, usual, odd)) = each {
        for cylinder in 1..=cylinders {
            cell(n, name, Some(cylinder), if cylinder == 1 { odd } else { usual });
        }
    }
    json!({ "id": id(n), "check": check, "limit": null, "instrument": null, "overdue": false,
        "rules": [], "asks_start": false, "readings": readings, "traces": [], "signed": signed(minute) })
}

fn job(cylinders: u32) -> JobFile {
    let n = &mut 0;
    let sheets = vec![
        sheet(
            n,
            5,
            cylinders,
            "fuel_sample",
            &[("suffers", 0.0), ("look", 0.0), ("smell", 0.0), ("water", 0.0)],
            None,
        ),
        sheet(n, 10, cylinders, "suction_air", &[("running", 0.0), ("standing", 0.0)], None),
        sheet(
            n,
            15,
            cylinders,
            "low_pressure",
            &[("least", 300.0), ("idle", 400.0), ("load", 390.0)],
            None,
        ),
        sheet(
            n,
            20,
            cylinders,
            "rail_relief",
            &[("relief", 0.0), ("wanted", 30000.0), ("reached", 29500.0)],
            None,
        ),
        sheet(
            n,
            25,
            cylinders,
            "shared_causes",
            &[("intake", 1.0), ("exhaust", 1.0), ("ground", 1.0), ("signals", 1.0)],
            None,
        ),
        sheet(
            n,
            30,
            cylinders,
            "compression",
            &[("method", 0.0)],
            Some(("pressure", 2600.0, 2550.0)),
        ),
        sheet(n, 35, cylinders, "supply", &[], Some(("leg", 0.3, 0.3))),
        sheet(
            n,
            40,
            cylinders,
            "coil_resistance",
            &[("temperature", 20.0), ("leads", 0.05)],
            Some(("ohms", 2.1, 2.1)),
        ),
        sheet(n, 45, cylinders, "insulation", &[], Some(("megohms", 200.0, 180.0))),
        sheet(n, 50, cylinders, "cutout", &[("base", 800.0)], Some(("cut", 720.0, 792.0))),
        sheet(n, 55, cylinders, "di_balance", &[], Some(("change", 300.0, 420.0))),
    ];
    let runs: Vec<Value> = (1..=3)
        .map(|run| {
            let mut readings = vec![json!({ "id": id(n), "cylinder": null, "kind": "run_time", "value": 120.0,
                "typed": "2:00", "corrects": null, "why": null, "signed": signed(60 + run) })];
            for cylinder in 1..=cylinders {
                let level = if cylinder == 1 { 60.0 } else { 22.0 + f64::from(cylinder % 3) };
                readings.push(json!({ "id": id(n), "cylinder": cylinder, "kind": "level", "value": level,
                    "typed": level.to_string(), "corrects": null, "why": null, "signed": signed(60 + run) }));
            }
            json!({ "id": id(n), "number": run, "started_at": null, "readings": readings, "set_aside": null,
                "signed": signed(60 + run) })
        })
        .collect();
    let rules =
        serde_json::to_value(cobaltine_core::tests::engine::return_test::HouseRules::default());
    let test = json!({ "id": id(n), "setup": { "regime": "idle_only", "temperature_c": 82.0, "speed_rpm": null,
        "capacity_ml": 100.0, "graduation_ml": 2.0, "planned_s": 120.0, "rules": rules.unwrap(), "limit": null },
        "runs": runs, "signed": signed(60) });
    let injectors: Vec<Value> = (1..=cylinders)
        .map(|cylinder| json!({ "id": id(n), "cylinder": cylinder, "label": format!("B-{cylinder}") }))
        .collect();
    let banks = if cylinders > 6 { 2 } else { 1 };
    let file = json!({ "format": "cobaltine.job", "version": 1,
        "job": { "id": id(n), "number": 1, "revision": 1, "intake": { "customer": "", "machine": "Bench",
            "usage": "3,000 h", "engine": "", "fuel_system": "diesel_solenoid",
            "layout": { "cylinders": cylinders, "banks": banks, "first_at": "pulley", "numbering": "bank_by_bank" },
            "family_id": null, "symptoms": ["rough_idle"], "complaint": "",
            "story": { "when": [], "suffers": "not_known", "fault_codes": "not_read", "codes": "", "lately": [] } },
            "injectors": injectors, "taken_in": signed(0) },
        "return_tests": [test], "sheets": sheets, "events": [], "decisions": [], "notes": [], "people": [], "family": null });
    serde_json::from_value(file).unwrap()
}

fn judgement(c: &mut Criterion) {
    let weights = Weights::read("").unwrap();
    let rules = Rules::default();
    let house = House { weights: &weights, rules: &rules, tools: &[], counted: Counted::default() };
    let mut group = c.benchmark_group("judgement");
    group.sample_size(30);
    for cylinders in [1, 12] {
        let file = job(cylinders);
        let judged = file.judged().unwrap();
        assert!(judge(&file, &judged, house).findings.len() > cylinders as usize);
        group.bench_function(format!("{cylinders} cylinders, everything read"), |b| {
            b.iter(|| judge(black_box(&file), black_box(&judged), house));
        });
    }
    group.finish();
    c.bench_function("weights read and tables made", |b| {
        b.iter(|| Weights::read(black_box("")).unwrap())
    });
}

criterion_group!(benches, judgement);
criterion_main!(benches);
