//! Every computation on its first worked case, and a job of eight injectors with all of its
//! checks. Beside each stands what only reading its input takes, in the same run: machines are
//! noisy, ratios are not.

#![allow(
    clippy::unwrap_used,
    missing_docs,
    reason = "a bench that cannot read its cases has to stop"
)]

use cobaltine_core::calc::bench_map::bench_map;
use cobaltine_core::calc::coil::coil;
use cobaltine_core::calc::compare_set::compare_set;
use cobaltine_core::calc::cutout::cutout;
use cobaltine_core::calc::drift::drift;
use cobaltine_core::calc::match_sets::match_sets;
use cobaltine_core::calc::metered::metered;
use cobaltine_core::calc::pressure_drop::pressure_drop;
use cobaltine_core::calc::pulse_sweep::pulse_sweep;
use cobaltine_core::calc::residual_fuel::residual_fuel;
use cobaltine_core::calc::return_flow::Lane;
use cobaltine_core::calc::supply::supply;
use cobaltine_core::calc::trim::trim;
use cobaltine_core::calc::{CalcError, CalcId, run};
use cobaltine_core::library::Limit;
use cobaltine_core::quantity::{Celsius, Millilitre, Second};
use cobaltine_core::record::JobFile;
use cobaltine_core::tests::engine::return_test::{HouseRules, ReturnTest, Run, judge};
use cobaltine_core::work::Regime;
use criterion::{Criterion, criterion_group, criterion_main};
use serde::de::DeserializeOwned;
use serde_json::{Value, json};
use std::hint::black_box;
use std::time::Duration;

fn first_case(id: CalcId) -> String {
    let path = format!("{}/tests/vectors/{}.jsonl", env!("CARGO_MANIFEST_DIR"), id.name());
    let text = std::fs::read_to_string(path).unwrap();
    let case: Value = serde_json::from_str(text.lines().next().unwrap()).unwrap();
    case["input"].to_string()
}

fn calcs(c: &mut Criterion) {
    for id in CalcId::ALL.iter().copied() {
        let text = first_case(id);
        let mut group = c.benchmark_group(id.name());
        group.bench_function("read only", |b| {
            b.iter(|| serde_json::from_str::<Value>(black_box(&text)).unwrap());
        });
        group.bench_function("read and run", |b| {
            b.iter(|| run(id, serde_json::from_str(black_box(&text)).unwrap()).unwrap());
        });
        group.finish();
    }
}

/// Three runs of eight bottles against a limit, as the program judges them.
fn return_test() -> ReturnTest {
    let lane = |run: u32, cylinder: u32| Lane {
        cylinder,
        volume_ml: Some(f64::from(
            22 + (cylinder * 3 + run) % 5 + if cylinder == 5 { 30 } else { 0 },
        )),
        seconds: Some(120.0),
        overflow_s: None,
    };
    ReturnTest {
        cylinders: (1..=8).collect(),
        banks: vec![(1..=8).collect()],
        unticked: Vec::new(),
        overdue: false,
        regime: Regime::IdleOnly,
        pump_spare_ml_min: None,
        graduation_ml: Millilitre(2.0),
        capacity_ml: Millilitre(100.0),
        timer_u_s: Second(0.3),
        accuracy_pct: 0.5,
        accuracy_digits: 0.0,
        flags: Vec::new(),
        confirmed: Vec::new(),
        temperature_c: Some(Celsius(82.0)),
        rules: HouseRules::default(),
        limit: Some(Limit {
            upper_ml_min: 24.0,
            from_c: Some(70.0),
            to_c: Some(95.0),
            source: "sheet".to_owned(),
            revision: 2,
        }),
        runs: (1..=3)
            .map(|n| Run {
                number: n,
                phase: None,
                bank: None,
                lanes: (1..=8).map(|c| lane(n, c)).collect(),
            })
            .collect(),
    }
}

/// One check with its input read already.
type Ready = Box<dyn Fn()>;

fn ready<I: DeserializeOwned + 'static, O: 'static>(
    input: Value,
    calc: fn(&I) -> Result<O, CalcError>,
) -> Ready {
    let input: I = serde_json::from_value(input).unwrap();
    Box::new(move || {
        black_box(calc(black_box(&input)).unwrap());
    })
}

/// Everything that is checked on one engine of eight, inputs read already.
fn all_checks() -> Vec<Ready> {
    let sweep = [1.0_f64, 2.0, 3.0, 4.0, 6.0, 8.0, 10.0].map(
        |ms| json!({ "pulse_ms": ms, "pulses": 1000, "volume_ml": (8.0 * (ms - 1.0)).max(0.0) }),
    );
    let mut all = Vec::new();
    for c in 1..=8_u32 {
        let off = f64::from(c) / 100.0;
        let ohms = json!({ "measured_ohm": 0.4 + off, "temp_c": 40, "resolution_ohm": 0.001,
            "lead_ohm": 0.05, "lower_20": 0.3, "upper_20": 0.5 });
        all.push(ready(ohms, coil));
        all.push(ready(json!({ "graduation_ml": 0.5, "points": sweep }), pulse_sweep));
        let points = ["static", "pilot", "idle", "part", "full"].map(|name| {
            json!({ "name": name, "strokes": 1000, "graduation_ml": 0.2, "delivered_ml": 7.0 + off,
                "delivered_limits_mm3": [6.3, 7.9], "returned_ml": 5.0, "returned_limits_mm3": [0, 8] })
        });
        all.push(ready(json!({ "points": points }), bench_map));
        let map = json!({ "nominal_mm3": [1.8, 7.0, 24.0, 62.0], "measured_mm3": [2.0, 7.1, 23.0, 61.0],
            "step_mm3": 0.3 });
        all.push(ready(map, trim));
        let runs = json!({ "runs_ml": [201, 203, 202], "graduation_ml": 2, "lower_ml": 190, "upper_ml": 215 });
        all.push(ready(runs, metered));
        let fuel = json!({ "static_ml_min": 240, "pulses": 50, "pulse_ms": 6, "runs": 2, "bore_mm": 84,
            "stroke_mm": 88, "compression_ratio": 9.8 });
        all.push(ready(fuel, residual_fuel));
    }
    let each = |of: &dyn Fn(u32) -> Value| (1..=8).map(of).collect::<Vec<_>>();
    let plugs = each(&|c| json!({ "cylinder": c, "volts": 12.5 }));
    all.push(ready(json!({ "battery_v": 12.6, "plugs": plugs }), supply));
    let tests = each(&|c| json!({ "cylinder": c, "start_kpa": 300, "end_kpa": 210 + c }));
    all.push(ready(json!({ "pulses": 50, "pulse_ms": 6, "tests": tests }), pressure_drop));
    all.push(ready(json!({ "values": each(&|c| json!(90 - c)), "bracket": 88 }), drift));
    all.push(ready(json!({ "base_rpm": 800, "cut_rpm": each(&|c| json!(700 + c)) }), cutout));
    let flows = each(&|c| json!(240 + c));
    all.push(ready(json!({ "values": flows, "tolerance": 0.05 }), compare_set));
    all.push(ready(json!({ "values": flows, "size": 4, "tolerance": 0.02 }), match_sets));
    all
}

fn job_of_eight(c: &mut Criterion) {
    let test = return_test();
    let checks = all_checks();
    let mut group = c.benchmark_group("job of eight");
    group.bench_function("return test alone", |b| b.iter(|| judge(black_box(&test)).unwrap()));
    group.bench_function("all checks judged", |b| {
        b.iter(|| {
            let verdict = judge(black_box(&test)).unwrap();
            for check in &checks {
                check();
            }
            verdict
        });
    });
    group.finish();
}

/// A whole job of twelve as a view or the board asks for it: every verdict, the plan, swaps, seats.
fn job_judged(c: &mut Criterion) {
    let text = include_str!("../../../demo/job-slate-crane.json");
    let mut file: JobFile = serde_json::from_str(text).unwrap();
    let railcar = include_str!("../../../demo/job-moor-railcar.json");
    let railcar: JobFile = serde_json::from_str(railcar).unwrap();
    file.sheets = railcar.sheets;
    c.bench_function("a job of twelve judged with its plan", |b| {
        b.iter(|| black_box(&file).judged().unwrap());
    });
}

criterion_group! {
    name = benches;
    config = Criterion::default()
        .sample_size(20)
        .warm_up_time(Duration::from_millis(200))
        .measurement_time(Duration::from_millis(500));
    targets = calcs, job_of_eight, job_judged
}
criterion_main!(benches);
