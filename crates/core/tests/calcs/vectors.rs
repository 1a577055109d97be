//! The worked numbers: each line of `tests/vectors/*.jsonl` through the same entry
//! that `cobaltine calc` and the HTTP interface use.

use crate::cases_of;
use cobaltine_core::calc::{CalcId, run};
use serde_json::Value;

/// Relative agreement asked for, and the absolute one near zero.
const RELATIVE: f64 = 1e-7;
const NEAR_ZERO: f64 = 1e-10;

fn differs(path: &str, got: &Value, want: &Value, found: &mut Vec<String>) {
    match (got, want) {
        (Value::Number(g), Value::Number(w)) => {
            let [g, w] = [g, w].map(|n| n.as_f64().unwrap_or(f64::NAN));
            let close = (g - w).abs() <= NEAR_ZERO.max(RELATIVE * w.abs());
            if !close {
                found.push(format!("{path}: got {g}, want {w}"));
            }
        }
        (Value::Array(g), Value::Array(w)) if g.len() == w.len() => {
            for (i, (g, w)) in g.iter().zip(w).enumerate() {
                differs(&format!("{path}[{i}]"), g, w, found);
            }
        }
        (Value::Object(g), Value::Object(w)) => {
            for (key, w) in w {
                match g.get(key) {
                    Some(g) => differs(&format!("{path}.{key}"), g, w, found),
                    None => found.push(format!("{path}.{key} is missing")),
                }
            }
        }
        (g, w) if g == w => {}
        (g, w) => found.push(format!("{path}: got {g}, want {w}")),
    }
}

#[test]
fn every_worked_number_is_reproduced() {
    let (mut cases, mut wrong) = (0, Vec::new());
    for id in CalcId::ALL.iter().copied() {
        for case in cases_of(id) {
            cases += 1;
            let answer = run(id, case["input"].clone());
            match (answer, case.get("output")) {
                (Ok(got), Some(want)) => differs(&case["id"].to_string(), &got, want, &mut wrong),
                (Err(_), None) => assert_eq!(case["error"], Value::Bool(true)),
                (got, want) => wrong.push(format!("{}: got {got:?}, want {want:?}", case["id"])),
            }
        }
    }
    assert!(cases >= 309, "only {cases} cases found");
    assert!(wrong.is_empty(), "{} of {cases}:\n{}", wrong.len(), wrong.join("\n"));
}

#[test]
fn the_registry_knows_each_file_by_its_name() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/src/calc");
    let mut files: Vec<String> = std::fs::read_dir(folder)
        .unwrap()
        .filter_map(|f| f.unwrap().path().file_stem()?.to_str().map(str::to_owned))
        .filter(|stem| !["mod", "error", "words"].contains(&stem.as_str()))
        .collect();
    files.sort();
    assert_eq!(files, CalcId::ALL.iter().map(|id| id.name()).collect::<Vec<_>>());
    for id in CalcId::ALL.iter().copied() {
        assert_eq!(serde_json::to_value(id).unwrap(), id.name(), "wire name and file name");
    }
}

/// The core knows no file, network or clock: only these crates, none of which does I/O here.
#[test]
fn the_core_depends_on_nothing_that_does_io() {
    let manifest = include_str!("../../Cargo.toml");
    let section = manifest.split("[dependencies]").nth(1).unwrap().split("\n[").next().unwrap();
    let names: Vec<&str> = section
        .lines()
        .filter_map(|line| line.split(['.', ' ', '=']).next())
        .filter(|n| !n.is_empty())
        .collect();
    assert_eq!(
        names,
        [
            "base64",
            "flate2",
            "jiff",
            "libm",
            "rustfft",
            "serde",
            "serde_json",
            "statrs",
            "thiserror",
            "toml",
            "utoipa",
            "uuid"
        ]
    );
}

/// And it is built without what reads a clock, a time zone or chance, whatever the crates are called.
#[test]
fn the_core_is_built_without_clock_time_zones_and_chance() {
    let manifest: toml::Table = toml::from_str(include_str!("../../Cargo.toml")).unwrap();
    let of_time = |feature: &str| {
        ["std", "now", "clock", "local", "rng", "rand", "default"].contains(&feature)
            || feature.starts_with("tz")
            || feature.strip_prefix('v').is_some_and(|n| n.parse::<u8>().is_ok())
    };
    for name in ["jiff", "uuid"] {
        let chosen = manifest["dependencies"][name].as_table().unwrap();
        let all = chosen["features"].as_array().unwrap().iter();
        let none: Vec<&str> =
            all.filter_map(|one| one.as_str()).filter(|one| of_time(one)).collect();
        assert_eq!(none, Vec::<&str>::new(), "{name}");
    }
    // Its defaults know the clock and the zones of the machine; those of `uuid` know neither.
    assert_eq!(manifest["dependencies"]["jiff"]["default-features"].as_bool(), Some(false));
}

/// Every pair of units of one kind, there and back.
#[test]
fn converting_there_and_back_changes_nothing() {
    let kinds: [&[&str]; 9] = [
        &["kPa", "bar", "MPa", "psi", "Pa"],
        &["ml", "cm3", "l", "mm3"],
        &["ml/min", "cc/min", "l/h", "ml/s"],
        &["g/min", "kg/h", "lb/h", "g/s"],
        &["Nm", "in_lb", "ft_lb"],
        &["um", "mm", "in", "thou"],
        &["s", "ms", "us", "min"],
        &["ohm", "mohm", "kohm"],
        &["C", "F", "K"],
    ];
    let go = |value: f64, from: &str, to: &str| {
        let input =
            serde_json::json!({ "value": value, "from": from, "to": to, "density_kg_per_m3": 830 });
        run(CalcId::Convert, input).map(|out| out["value"].as_f64().unwrap_or(f64::NAN))
    };
    for (k, units) in kinds.iter().enumerate() {
        for from in *units {
            for to in *units {
                let back = go(go(37.25, from, to).unwrap(), to, from).unwrap();
                assert!((back - 37.25).abs() < 1e-9, "{from} {to}: {back}");
            }
            // Other kinds are refused, but for volume flow and mass flow with a density.
            for (other, foreign) in kinds.iter().enumerate().filter(|(other, _)| *other != k) {
                let bridged = k.min(other) == 2 && k.max(other) == 3;
                assert_eq!(go(1.0, from, foreign[0]).is_ok(), bridged, "{from} {}", foreign[0]);
            }
        }
    }
    let flow = go(go(250.0, "cc/min", "lb/h").unwrap(), "lb/h", "cc/min").unwrap();
    assert!((flow - 250.0).abs() < 1e-9);
}
