//! Laws that every computation keeps, tried on its worked cases by one harness.

mod broken;

use crate::cases_of;
use cobaltine_core::calc::{CalcId, run};
use serde_json::{Value, json};
use std::collections::BTreeMap;

/// What holds for one computation besides its worked numbers.
#[derive(Default)]
struct Laws {
    /// A list whose order says nothing, with the outputs that follow it and those that hold
    /// indices into it.
    unordered: Option<(&'static str, &'static [&'static str], &'static [&'static str])>,
    /// Inputs that carry one unit, and the powers of it that they carry.
    unit_in: &'static [(&'static str, i32)],
    /// Outputs that carry it; half powers count as 0.5 · the number after the key.
    unit_out: &'static [(&'static str, f64)],
    /// Defaults in that unit, which have to be written out to be changed with it.
    spelled_out: &'static [(&'static str, f64)],
    /// Outputs that say which members were taken; several may be as good.
    free: &'static [&'static str],
}

fn laws(id: CalcId) -> Laws {
    let none = Laws::default();
    match id {
        CalcId::BenchFlow => Laws {
            unit_in: &[("volume_ml", 1)],
            unit_out: &[("flow_ml_min", 1.0), ("reference_flow_ml_min", 1.0)],
            ..none
        },
        CalcId::BenchMap => Laws {
            unordered: Some(("points", &["points"], &[])),
            unit_in: &[
                ("graduation_ml", 1),
                ("delivered_ml", 1),
                ("returned_ml", 1),
                ("delivered_limits_mm3", 1),
                ("returned_limits_mm3", 1),
            ],
            unit_out: &[
                ("delivered_mm3", 1.0),
                ("delivered_u_mm3", 1.0),
                ("returned_mm3", 1.0),
                ("returned_u_mm3", 1.0),
            ],
            ..none
        },
        CalcId::CodeCheck => none,
        CalcId::Coil => Laws {
            unit_in: &[
                ("measured_ohm", 1),
                ("resolution_ohm", 1),
                ("lead_ohm", 1),
                ("lower_20", 1),
                ("upper_20", 1),
                ("unknown_lead_ohm", 1),
            ],
            unit_out: &[("r20_ohm", 1.0), ("u_ohm", 1.0)],
            spelled_out: &[("unknown_lead_ohm", 0.3)],
            free: &["warning"],
            ..none
        },
        CalcId::CompareSet => Laws {
            unordered: Some((
                "values",
                &["loo", "vs_median", "vs_highest", "vs_lowest", "vs_reference"],
                &["reference", "high", "low"],
            )),
            unit_in: &[("values", 1)],
            unit_out: &[("mean", 1.0), ("median", 1.0)],
            ..none
        },
        // There and back between all units is a test of its own.
        CalcId::Convert => none,
        CalcId::Cutout => Laws {
            unordered: Some(("cut_rpm", &["cylinders"], &[])),
            unit_in: &[("base_rpm", 1), ("cut_rpm", 1)],
            unit_out: &[("drop_rpm", 1.0)],
            ..none
        },
        CalcId::Decide => Laws {
            unit_in: &[("value", 1), ("u", 1), ("lower", 1), ("upper", 1)],
            unit_out: &[("guard", 1.0)],
            ..none
        },
        CalcId::Drift => Laws {
            unit_in: &[("values", 1), ("bracket", 1)],
            unit_out: &[("per_step", 1.0), ("corrected", 1.0)],
            ..none
        },
        CalcId::Duty => Laws {
            unit_in: &[("rpm", -1), ("pulse_ms", 1)],
            unit_out: &[("period_ms", 1.0)],
            ..none
        },
        CalcId::MatchSets => Laws {
            unordered: Some(("values", &[], &[])),
            unit_in: &[("values", 1)],
            free: &["members"],
            ..none
        },
        CalcId::Metered => Laws {
            unordered: Some(("runs_ml", &[], &[])),
            unit_in: &[
                ("runs_ml", 1),
                ("graduation_ml", 1),
                ("lower_ml", 1),
                ("upper_ml", 1),
                ("prior_repeatability_ml", 1),
            ],
            unit_out: &[("mean_ml", 1.0), ("u_ml", 1.0)],
            ..none
        },
        CalcId::PressureDrop => Laws {
            unordered: Some(("tests", &["tests"], &[])),
            unit_in: &[
                ("start_kpa", 1),
                ("end_kpa", 1),
                ("leak_down_kpa_per_s", 1),
                ("max_spread_kpa", 1),
            ],
            unit_out: &[("drop_kpa", 1.0), ("drop_spread_kpa", 1.0), ("constant", 0.5)],
            spelled_out: &[("max_spread_kpa", 10.0)],
            ..none
        },
        CalcId::PulseRescale => Laws {
            unit_in: &[("pulse_ms", 1), ("old_offset_ms", 1), ("new_offset_ms", 1)],
            unit_out: &[("pulse_ms", 1.0)],
            ..none
        },
        CalcId::PulseSweep => Laws {
            unordered: Some(("points", &[], &[])),
            unit_in: &[("volume_ml", 1), ("graduation_ml", 1)],
            unit_out: &[("static_ml_min", 1.0)],
            ..none
        },
        CalcId::ReferenceInterval => Laws {
            unordered: Some(("values", &[], &[])),
            unit_in: &[("values", 1)],
            unit_out: &[("mean", 1.0), ("s", 1.0), ("lower", 1.0), ("upper", 1.0)],
            ..none
        },
        CalcId::ResidualFuel => Laws {
            unit_in: &[("static_ml_min", 1), ("stroke_mm", 1)],
            unit_out: &[("injected_ml", 1.0), ("clearance_ml", 1.0)],
            ..none
        },
        CalcId::ReturnFlow => Laws {
            unordered: Some(("lanes", &["lanes"], &[])),
            unit_in: &[
                ("volume_ml", 1),
                ("graduation_ml", 1),
                ("capacity_ml", 1),
                ("limit_ml_min", 1),
            ],
            unit_out: &[("rate_ml_min", 1.0), ("u_ml_min", 1.0)],
            ..none
        },
        CalcId::ReturnPlan => Laws {
            unit_in: &[("graduation_ml", 1), ("capacity_ml", 1), ("expected_ml_min", 1)],
            unit_out: &[("volume_ml", 1.0)],
            ..none
        },
        CalcId::Shim => Laws {
            unordered: Some(("stock_um", &[], &[])),
            unit_in: &[
                ("lift_um", 1),
                ("target_um", 1),
                ("tolerance_um", 1),
                ("fitted_um", 1),
                ("stock_um", 1),
            ],
            unit_out: &[("ideal_um", 1.0), ("fit_um", 1.0), ("predicted_lift_um", 1.0)],
            ..none
        },
        CalcId::Sizing => Laws {
            unit_in: &[("power_kw", 1)],
            unit_out: &[("static_g_min", 1.0), ("static_ml_min", 1.0)],
            ..none
        },
        CalcId::Supply => Laws {
            unordered: Some(("plugs", &["plugs"], &[])),
            unit_in: &[("battery_v", 1), ("volts", 1), ("none_below_v", 1), ("max_drop_v", 1)],
            spelled_out: &[("none_below_v", 1.0), ("max_drop_v", 0.5)],
            ..none
        },
        CalcId::Trim => Laws {
            unit_in: &[
                ("nominal_mm3", 1),
                ("measured_mm3", 1),
                ("step_mm3", 1),
                ("release_limits_mm3", 1),
            ],
            ..none
        },
        CalcId::Uncertainty => Laws {
            unordered: Some(("readings", &[], &[])),
            unit_in: &[
                ("readings", 1),
                ("resolution", 1),
                ("calibration_u", 1),
                ("prior_repeatability", 1),
            ],
            unit_out: &[
                ("mean", 1.0),
                ("u_repeat", 1.0),
                ("u_resolution", 1.0),
                ("u", 1.0),
                ("expanded_u", 1.0),
            ],
            ..none
        },
        // Walther's form is not homogeneous in the viscosity, nor in the temperature.
        CalcId::ViscosityFactor => none,
    }
}

/// A power of four: halves and roots of it are exact, so no rounding can change a decision.
const FACTOR: f64 = 4.0;

fn multiply(value: &mut Value, by: f64) {
    match value {
        Value::Number(n) => *value = json!(n.as_f64().unwrap() * by),
        Value::Array(items) => items.iter_mut().for_each(|item| multiply(item, by)),
        Value::Object(map) => map.values_mut().for_each(|item| multiply(item, by)),
        Value::Null | Value::Bool(_) | Value::String(_) => {}
    }
}

/// Multiplies everything that stands under one of these keys, at any depth.
fn in_another_unit(value: &mut Value, keys: &BTreeMap<&str, f64>) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(|item| in_another_unit(item, keys)),
        Value::Object(map) => {
            for (key, item) in map {
                match keys.get(key.as_str()) {
                    Some(by) => multiply(item, *by),
                    None => in_another_unit(item, keys),
                }
            }
        }
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

/// Equal, with the noise of another order of adding.
fn same(a: &Value, b: &Value) -> bool {
    match (a, b) {
        (Value::Number(a), Value::Number(b)) => {
            let (a, b) = (a.as_f64().unwrap(), b.as_f64().unwrap());
            (a - b).abs() <= 1e-9 * a.abs().max(b.abs()) + 1e-12
        }
        (Value::Array(a), Value::Array(b)) => {
            a.len() == b.len() && a.iter().zip(b).all(|(a, b)| same(a, b))
        }
        (Value::Object(a), Value::Object(b)) => a.iter().all(|(key, a)| same(a, &b[key])),
        (a, b) => a == b,
    }
}

fn without(mut output: Value, keys: &[&str]) -> Value {
    for key in keys {
        output.as_object_mut().unwrap().remove(*key);
    }
    output
}

/// Good cases with their answers.
fn good(id: CalcId) -> Vec<(Value, Value)> {
    let cases = cases_of(id).into_iter().map(|case| case["input"].clone());
    cases.filter_map(|input| Some((input.clone(), run(id, input).ok()?))).collect()
}

#[test]
fn another_unit_changes_the_numbers_and_no_judgement() {
    for id in CalcId::ALL.iter().copied() {
        let laws = laws(id);
        let unit_in: BTreeMap<&str, f64> =
            laws.unit_in.iter().map(|(key, power)| (*key, FACTOR.powi(*power))).collect();
        let unit_out: BTreeMap<&str, f64> =
            laws.unit_out.iter().map(|(key, power)| (*key, FACTOR.powf(*power))).collect();
        for (mut input, _) in good(id) {
            for (key, default) in laws.spelled_out {
                input.as_object_mut().unwrap().entry(*key).or_insert(json!(default));
            }
            let mut wanted = without(run(id, input.clone()).unwrap(), laws.free);
            in_another_unit(&mut input, &unit_in);
            in_another_unit(&mut wanted, &unit_out);
            let got = without(run(id, input.clone()).unwrap(), laws.free);
            assert!(same(&wanted, &got), "{}: {input}\n{wanted}\n{got}", id.name());
        }
    }
}

#[test]
fn the_order_of_a_list_changes_no_judgement() {
    for id in CalcId::ALL.iter().copied() {
        let laws = laws(id);
        let Some((list, follows, indices)) = laws.unordered else { continue };
        for (input, output) in good(id) {
            let mut turned = input.clone();
            let items = turned[list].as_array_mut().unwrap();
            let n = items.len();
            items.rotate_left(1 % n);
            let mut wanted = without(output, laws.free);
            for key in follows {
                wanted[key].as_array_mut().unwrap().rotate_left(1 % n);
            }
            for key in indices {
                let mut moved: Vec<u64> = wanted[key]
                    .as_array()
                    .unwrap()
                    .iter()
                    .map(|i| (i.as_u64().unwrap() + n as u64 - 1) % n as u64)
                    .collect();
                moved.sort_unstable();
                wanted[*key] = json!(moved);
            }
            let got = without(run(id, turned.clone()).unwrap(), laws.free);
            assert!(same(&wanted, &got), "{}: {turned}\n{wanted}\n{got}", id.name());
        }
    }
}

/// Ratios whose divisor can be zero and results that there may be none of: null is an answer.
const MAY_BE_MISSING: [&str; 12] = [
    "loo",
    "vs_reference",
    "vs_median",
    "vs_highest",
    "vs_lowest",
    "spread",
    "capability",
    "static_ml_min",
    "offset_ms",
    "u_offset_ms",
    "min_linear_ms",
    "first_spray_ms",
];
