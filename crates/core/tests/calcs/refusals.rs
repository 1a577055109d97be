//! What each computation refuses, word for word: the texts stand beside fields and in scripts.

use cobaltine_core::calc::{CalcId, run};
use serde_json::{Value, json};

/// A good input with one thing changed in it, and what is said of that.
fn refuses(id: CalcId, good: &Value, cases: &[(&str, Value, &str)]) {
    assert!(run(id, good.clone()).is_ok(), "{} with {good}", id.name());
    for (key, value, says) in cases {
        let mut bad = good.clone();
        bad[*key] = value.clone();
        let error = run(id, bad).unwrap_err().to_string();
        assert_eq!(&error, says, "{} {key} = {value}", id.name());
    }
}

/// Every list of every computation is bounded, and the longest one is worked through in no time.
#[test]
fn a_list_that_is_too_long_is_refused_and_the_longest_one_is_not() {
    let sets = |n: usize| json!({ "values": (0..n).map(|i| 20.0 * 1.2_f64.powi((i % 40) as i32)).collect::<Vec<_>>(), "tolerance": 0.01 });
    assert!(run(CalcId::CompareSet, sets(2000)).is_ok());
    let refused = run(CalcId::CompareSet, sets(2001)).unwrap_err().to_string();
    assert_eq!(refused, "a list of 2001 is too long: maximum 2000");
    let nested = json!({ "lanes": [{ "deep": vec![0; 2001] }] });
    assert!(run(CalcId::ReturnFlow, nested).unwrap_err().to_string().contains("too long"));
    // Four times the work for twice the length, with room for a busy machine; eight would be cubic.
    let time = |n: usize| {
        let rounds = (0..3).map(|_| {
            let begun = std::time::Instant::now();
            assert!(run(CalcId::CompareSet, sets(n)).is_ok());
            begun.elapsed().as_secs_f64()
        });
        rounds.fold(f64::INFINITY, f64::min)
    };
    let (half, whole) = (time(1000), time(2000));
    assert!(whole < 20.0 * half.max(1e-4), "{half} s, then {whole} s");
}

#[test]
fn the_bench_says_which_number_it_cannot_work_with() {
    let flow = json!({ "volume_ml": 20, "seconds": 15, "test_kpa": 300, "reference_kpa": 300 });
    refuses(
        CalcId::BenchFlow,
        &flow,
        &[
            ("volume_ml", json!(-1), "the volume cannot be below zero, got -1"),
            ("seconds", json!(0), "the time must be above zero, got 0"),
            ("test_kpa", json!(-3), "the test pressure must be above zero, got -3"),
            (
                "test_density",
                json!(740),
                "give both densities, of the test fluid and of the reference fluid, or neither",
            ),
        ],
    );
    let point = json!({ "name": "idle", "strokes": 1000, "graduation_ml": 0.2, "delivered_ml": 7,
        "delivered_limits_mm3": [6, 8] });
    let with = |key: &str, value: Value| {
        let mut changed = point.clone();
        changed[key] = value;
        json!([changed])
    };
    refuses(
        CalcId::BenchMap,
        &json!({ "points": [point.clone()] }),
        &[
            ("points", json!([]), "at least 1 points needed, got 0"),
            (
                "points",
                with("strokes", json!(0)),
                "the strokes of \"idle\" must be above zero, got 0",
            ),
            (
                "points",
                with("delivered_ml", json!(-2)),
                "the delivered volume of \"idle\" cannot be below zero, got -2",
            ),
            (
                "points",
                with("delivered_limits_mm3", json!([9, 8])),
                "the lower limit 9 is above the upper limit 8",
            ),
            ("bench_u_pct", json!(-1), "the bench uncertainty cannot be below zero, got -1"),
        ],
    );
    let sweep = json!({ "points": [{ "pulse_ms": 2, "pulses": 1000, "volume_ml": 8 }], "graduation_ml": 0.5 });
    let twice = json!([{ "pulse_ms": 2, "pulses": 9, "volume_ml": 1 }, { "pulse_ms": 2, "pulses": 9, "volume_ml": 1 }]);
    refuses(
        CalcId::PulseSweep,
        &sweep,
        &[
            ("points", json!([]), "at least 1 points needed, got 0"),
            ("points", twice, "2 ms appears twice; keep one or average them"),
            ("graduation_ml", json!(0), "the graduation must be above zero, got 0"),
            ("linear_tolerance", json!(0), "the linear tolerance must be above zero, got 0"),
        ],
    );
    let runs = json!({ "runs_ml": [200, 203], "graduation_ml": 2, "lower_ml": 190 });
    refuses(
        CalcId::Metered,
        &runs,
        &[
            ("runs_ml", json!([]), "at least 1 readings needed, got 0"),
            ("runs_ml", json!([200, -1]), "run 2 cannot be below zero, got -1"),
            ("lower_ml", Value::Null, "enter a lower limit, an upper limit, or both"),
            ("upper_ml", json!(100), "the lower limit 190 is above the upper limit 100"),
        ],
    );
    let shim = json!({ "lift_um": 50, "target_um": 55, "tolerance_um": 2, "fitted_um": 1000, "gain": 1, "stock_um": [990] });
    refuses(
        CalcId::Shim,
        &shim,
        &[
            ("stock_um", json!([]), "at least 1 shims in stock needed, got 0"),
            ("stock_um", json!([0]), "a shim in stock must be above zero, got 0"),
            (
                "gain",
                json!(0),
                "with a gain of 0 no shim changes the lift; measure with two shims first",
            ),
        ],
    );
    let map = json!({ "nominal_mm3": [1, 2], "measured_mm3": [1, 2], "step_mm3": 0.1 });
    refuses(
        CalcId::Trim,
        &map,
        &[
            ("nominal_mm3", json!([]), "at least 1 points needed, got 0"),
            (
                "measured_mm3",
                json!([1]),
                "nominal, measured and limits must match in number: 2 nominal, 1 measured",
            ),
            ("measured_mm3", json!([1, -2]), "measured 2 cannot be below zero, got -2"),
            ("step_mm3", json!(0), "the step must be above zero, got 0"),
            (
                "release_limits_mm3",
                json!([[1, 2], [3, 2]]),
                "limits of point 2: the upper end (2) is below the lower end (3)",
            ),
        ],
    );
}

#[test]
fn the_engine_says_which_number_it_cannot_work_with() {
    let test = |cylinder: u32, start: f64, end: f64| json!({ "cylinder": cylinder, "start_kpa": start, "end_kpa": end });
    let balance = json!({ "tests": [test(1, 300.0, 210.0), test(2, 300.0, 212.0)], "pulses": 50, "pulse_ms": 6 });
    refuses(
        CalcId::PressureDrop,
        &balance,
        &[
            ("tests", json!([test(1, 300.0, 210.0)]), "at least 2 tests needed, got 1"),
            (
                "tests",
                json!([test(1, 300.0, 310.0), test(2, 300.0, 210.0)]),
                "cylinder 1: end pressure 310 kPa is above start pressure 300 kPa; were they swapped?",
            ),
            (
                "tests",
                json!([test(1, 300.0, 0.0), test(2, 300.0, 210.0)]),
                "the end pressure of cylinder 1 must be above zero, got 0",
            ),
            ("pulses", json!(0), "the pulses must be above zero, got 0"),
            ("leak_down_kpa_per_s", json!(-1), "the leak-down cannot be below zero, got -1"),
            ("start_tolerance", json!(0), "the start tolerance must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::Cutout,
        &json!({ "base_rpm": 700, "cut_rpm": [650, 640] }),
        &[
            ("cut_rpm", json!([650]), "at least 2 cylinders needed, got 1"),
            ("cut_rpm", json!([650, 0]), "the speed with cylinder 2 cut must be above zero, got 0"),
            ("base_rpm", json!(0), "the speed with all cylinders must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::Drift,
        &json!({ "values": [1, 2, 4] }),
        &[
            ("values", json!([1, 2]), "at least 3 values needed, got 2"),
            ("values", json!(vec![1.0; 501]), "drift is looked for in 500 values at most, got 501"),
        ],
    );
    refuses(
        CalcId::ResidualFuel,
        &json!({ "static_ml_min": 200, "pulses": 50, "pulse_ms": 6, "runs": 1, "bore_mm": 80, "stroke_mm": 80,
            "compression_ratio": 10 }),
        &[
            ("compression_ratio", json!(1), "the compression ratio must be above 1, got 1"),
            ("bore_mm", json!(0), "the bore must be above zero, got 0"),
            ("runs", json!(0), "the runs must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::ReturnPlan,
        &json!({ "graduation_ml": 2, "capacity_ml": 100, "expected_ml_min": 12 }),
        &[
            ("expected_ml_min", json!(0), "the expected rate must be above zero, got 0"),
            ("discriminate", json!(0), "the difference to show must be above zero, got 0"),
            ("worst_ratio", json!(-1), "the worst ratio must be above zero, got -1"),
        ],
    );
    refuses(
        CalcId::ViscosityFactor,
        &json!({ "t_test_c": 20, "t_ref_c": 60 }),
        &[
            (
                "t_test_c",
                json!(-41),
                "the test temperature must lie between -40 and 150 °C, got -41",
            ),
            (
                "t_ref_c",
                json!(151),
                "the reference temperature must lie between -40 and 150 °C, got 151",
            ),
            ("t_a_c", json!(100), "the two known viscosities must be at two temperatures"),
            ("nu_a", json!(0.2), "a known viscosity must be above 0.3 mm²/s, got 0.2"),
        ],
    );
}

#[test]
fn the_rest_says_which_number_it_cannot_work_with() {
    refuses(
        CalcId::Coil,
        &json!({ "measured_ohm": 12, "temp_c": 20, "resolution_ohm": 0.1 }),
        &[
            (
                "lead_ohm",
                json!(13),
                "the reading of 12 ohm is below the leads alone (13 ohm); zero the meter again",
            ),
            (
                "temp_c",
                json!(-300),
                "at -300 °C this coil would have no resistance; check the temperature",
            ),
            ("resolution_ohm", json!(0), "the resolution must be above zero, got 0"),
            ("accuracy_pct", json!(-1), "the accuracy in percent cannot be below zero, got -1"),
        ],
    );
    refuses(
        CalcId::Supply,
        &json!({ "battery_v": 12.4, "plugs": [{ "cylinder": 1, "volts": 12 }] }),
        &[
            ("plugs", json!([]), "at least 1 plugs needed, got 0"),
            ("battery_v", json!(0), "the battery voltage must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::Duty,
        &json!({ "rpm": 3000, "pulse_ms": 3 }),
        &[
            ("rpm", json!(0), "the speed must be above zero, got 0"),
            ("stroke_cycle", json!(3), "an engine is a four-stroke (4) or a two-stroke (2), got 3"),
            ("firings_per_cycle", json!(0), "the firings per cycle must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::Sizing,
        &json!({ "power_kw": 90, "bsfc_g_per_kwh": 300, "injectors": 4, "max_duty": 0.85, "density_kg_per_m3": 740 }),
        &[
            (
                "max_duty",
                json!(1.2),
                "an injector cannot be open for more than all of the time: a duty of 1.2 is above 1",
            ),
            ("injectors", json!(0), "the number of injectors must be above zero, got 0"),
        ],
    );
    refuses(
        CalcId::PulseRescale,
        &json!({ "pulse_ms": 3, "old_static_ml_min": 200, "old_offset_ms": 0.9, "new_static_ml_min": 300, "new_offset_ms": 0.8 }),
        &[
            (
                "pulse_ms",
                json!(0.9),
                "a pulse of 0.9 ms is no longer than the old injector's dead time of 0.9 ms: nothing was injected",
            ),
            (
                "new_offset_ms",
                json!(-0.1),
                "the dead time of the new injector cannot be below zero, got -0.1",
            ),
        ],
    );
    refuses(
        CalcId::MatchSets,
        &json!({ "values": [1, 2], "size": 2, "tolerance": 0.02 }),
        &[
            ("values", json!([]), "at least 1 values needed, got 0"),
            ("values", json!([1, 0]), "value 2 must be above zero, got 0"),
            ("size", json!(1), "at least 2 members in a set needed, got 1"),
        ],
    );
    refuses(
        CalcId::ReferenceInterval,
        &json!({ "values": [1, 2, 3, 4, 5, 6, 7, 8] }),
        &[
            ("values", json!([1, 2]), "at least 8 values of proven-good injectors needed, got 2"),
            ("coverage", json!(1), "the coverage must lie between 0 and 1, got 1"),
            ("confidence", json!(0), "the confidence must lie between 0 and 1, got 0"),
        ],
    );
    refuses(
        CalcId::CodeCheck,
        &json!({ "code": "A1", "length": 2, "alphabet": "A1" }),
        &[
            ("length", json!(0), "at least 1 characters in a code needed, got 0"),
            ("alphabet", json!(""), "at least 1 characters in the alphabet needed, got 0"),
            (
                "check",
                json!("luck"),
                "unknown check \"luck\"; known are iso7064_mod37_36, iso7064_mod97_10",
            ),
        ],
    );
}
