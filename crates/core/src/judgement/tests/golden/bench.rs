//! Jobs that the bench decides.

use super::*;

/// A doser alone on the bench; its window is 90 to 110 ml in a minute.
fn dosed(runs: [f64; 3]) -> JobFile {
    let window = limit(LimitCheck::DoserVolume, "", [Some(90.0), Some(110.0)]);
    let doser = family("F", FamilyKind::ExhaustDoser, vec![window]);
    let mut s = session(BenchKind::Doser, &[doser], &["F"; 4]);
    s = s.set(BenchTest::Doser, &[("seconds", 60.0), ("pressure", 600.0)]);
    for (run, value) in runs.iter().enumerate() {
        s = s.tubes(
            BenchTest::Doser,
            None,
            &format!("run_{}", run + 1),
            &[*value, 100.0, 100.5, 99.5],
        );
    }
    benched(ExhaustDoser, &[Symptom::WhiteSmoke], s)
}

#[test]
fn petrol_on_the_bench() {
    let symptoms = &[Symptom::CheckAndClean];
    let bench = |s| benched(PetrolPort, symptoms, s);
    case(
        "every tube alike",
        &bench(flowed(&[[60.0, 60.2, 59.8, 60.1]])),
        ([Leave; 4], 1, Why::NothingAgainst),
    );
    case(
        "one restricted",
        &bench(flowed(&[[60.0, 60.2, 48.0, 60.1]])),
        ([Leave, Leave, Clean, Leave], 3, Why::Restricted),
    );
    case(
        "restriction healed by cleaning",
        &bench(flowed(&[[60.0, 60.2, 50.0, 60.1], [60.0, 60.2, 59.7, 60.1]])),
        ([Leave; 4], 3, Why::NothingAgainst),
    );
    case(
        "worn, cleaned twice",
        &bench(flowed(&[
            [60.0, 60.2, 66.0, 60.1],
            [60.0, 60.2, 66.3, 60.1],
            [60.0, 60.1, 66.4, 60.1],
        ])),
        ([Leave, Leave, Replace, Leave], 3, Why::WornAfterCleaning),
    );
    case(
        "cleaning no longer improves it",
        &bench(flowed(&[
            [60.0, 59.0, 45.0, 60.0],
            [60.0, 59.0, 50.0, 60.0],
            [60.0, 59.0, 50.2, 60.0],
        ])),
        ([Leave, Leave, Replace, Leave], 3, Why::CleaningSpent),
    );
    let drips = flowed(&[[60.0, 60.2, 59.8, 60.1]])
        .set(BenchTest::Leak, &[("pressure", 300.0), ("seconds", 60.0)])
        .tubes(BenchTest::Leak, None, "drops", &[0.0, 9.0, 0.0, 0.0]);
    case("one drips", &bench(drips), ([Leave, Clean, Leave, Leave], 2, Why::TipLeak));
}

#[test]
fn diesel_and_dosers_on_the_bench() {
    let good: &[(u32, &[f64])] = &[(2, &[1.8; 4]), (3, &[7.0; 4]), (4, &[62.0; 4])];
    let map = |of: &[(u32, &[f64])], returned: &[f64], delay: &[f64]| {
        let s = diesel::delivered(diesel::rail(4), of);
        let s = s.tubes(BenchTest::Map, Some(1), "returned", returned);
        benched(
            DieselSolenoid,
            &[Symptom::BlackSmoke],
            s.tubes(BenchTest::Map, Some(3), "delay", delay),
        )
    };
    case(
        "every point inside",
        &map(good, &[10.0; 4], &[350.0; 4]),
        ([Leave; 4], 1, Why::NothingAgainst),
    );
    case(
        "valve seat",
        &map(good, &[10.0, 33.0, 11.0, 10.0], &[350.0; 4]),
        ([Leave, Adjust, Leave, Leave], 2, Why::MapWorn),
    );
    case(
        "opens late",
        &map(good, &[10.0; 4], &[350.0, 350.0, 520.0, 350.0]),
        ([Leave, Leave, Adjust, Leave], 3, Why::Slow),
    );
    let low: &[(u32, &[f64])] = &[(2, &[1.8; 4]), (3, &[7.0; 4]), (4, &[62.0, 62.0, 62.0, 48.0])];
    case(
        "low at full load",
        &map(low, &[10.0; 4], &[350.0; 4]),
        ([Leave, Leave, Leave, Clean], 4, Why::Restricted),
    );
    case("doser within", &dosed([100.0, 101.0, 99.0]), ([Leave; 4], 1, Why::NothingAgainst));
    case(
        "doser low",
        &dosed([78.0, 79.0, 77.0]),
        ([Clean, Leave, Leave, Leave], 1, Why::Restricted),
    );
    case(
        "doser high",
        &dosed([124.0, 125.0, 123.0]),
        ([Replace, Leave, Leave, Leave], 1, Why::Worn),
    );
    case(
        "doser over its limit by less than the doubt",
        &dosed([110.5, 112.0, 109.8]),
        ([MeasureAgain, Leave, Leave, Leave], 1, Why::Doubtful),
    );
}
