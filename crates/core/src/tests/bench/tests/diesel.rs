use super::*;

const MAP: BenchTest = BenchTest::Map;

/// Four points: static return, pilot, idle, full load; windows for each.
fn plan() -> (Vec<Point>, FamilyThen) {
    let point = |name: &str, bar: f64, ms: Option<f64>| Point {
        name: name.to_owned(),
        pulse_ms: ms,
        count: Some(1000.0),
        rail_kpa: Some(bar * 100.0),
        temperature_c: Some(40.0),
        ..Point::default()
    };
    let points = vec![
        point("static return", 1600.0, None),
        point("pilot", 800.0, Some(0.18)),
        point("idle", 300.0, Some(0.55)),
        point("full load", 1350.0, Some(1.4)),
    ];
    let window = |name: &str, low: f64, high: f64| {
        limit(LimitCheck::Delivered, name, [Some(low), Some(high)])
    };
    let mut family = family(
        "F",
        FamilyKind::DieselSolenoid,
        vec![
            limit(LimitCheck::Returned, "Static Return", [None, Some(20.0)]),
            window("pilot", 1.2, 2.4),
            window("idle", 6.3, 7.7),
            window("full load", 55.8, 68.2),
            limit(LimitCheck::OpeningDelay, "idle", [None, Some(420.0)]),
        ],
    );
    let alphabet = "0123456789ABCDEFGHJKMNPQRSTVWXYZ".to_owned();
    family.detail.code =
        Some(CodePattern { length: 7, alphabet, check: Some("iso7064_mod97_10".to_owned()) });
    (points, family)
}

pub(crate) fn rail(n: usize) -> SessionRecord {
    let (points, family) = plan();
    let mut s = session(BenchKind::Diesel, &[family], &vec!["F"; n]);
    s.setup.points = points;
    s.setup.graduation = 0.02;
    s
}

/// mm³ a stroke are ml over 1000 strokes.
pub(crate) fn delivered(s: SessionRecord, of: &[(u32, &[f64])]) -> SessionRecord {
    of.iter().fold(s, |s, (row, values)| s.tubes(MAP, Some(*row), "delivered", values))
}

#[test]
fn the_pattern_of_a_map_names_the_part_and_the_work() {
    let all_good: &[(u32, &[f64])] = &[(2, &[1.8, 1.8]), (3, &[7.0, 7.0]), (4, &[62.0, 62.0])];
    let word = |of: &[(u32, &[f64])], returned: &[(u32, f64)], delay: f64| {
        let mut s = delivered(rail(2), of);
        for (row, value) in returned {
            s = s.tubes(MAP, Some(*row), "returned", &[10.0, *value]);
        }
        s.tubes(MAP, Some(3), "delay", &[350.0, delay]).verdict(MAP).lanes[1].word.clone()
    };
    assert_eq!(word(all_good, &[(1, 12.0)], 350.0), "within");
    assert_eq!(word(all_good, &[(1, 31.0)], 350.0), "high static leak-off");
    assert_eq!(word(all_good, &[], 600.0), "opens late");
    let full_low: &[(u32, &[f64])] = &[(2, &[1.8, 1.8]), (3, &[7.0, 7.0]), (4, &[62.0, 50.0])];
    assert_eq!(word(full_low, &[], 350.0), "low at full load");
    let idle_high: &[(u32, &[f64])] = &[(2, &[1.8, 2.9]), (3, &[7.0, 9.0]), (4, &[62.0, 62.0])];
    assert_eq!(word(idle_high, &[], 350.0), "high at idle");
    let all_low: &[(u32, &[f64])] = &[(2, &[1.8, 0.6]), (3, &[7.0, 5.0]), (4, &[62.0, 50.0])];
    assert_eq!(word(all_low, &[], 350.0), "low everywhere");
    let short_low: &[(u32, &[f64])] = &[(2, &[1.8, 0.4]), (3, &[7.0, 7.0]), (4, &[62.0, 62.0])];
    assert_eq!(word(short_low, &[], 350.0), "low at short pulses");
}

#[test]
fn points_without_a_window_are_held_against_the_others() {
    let bare = |of: &[(u32, &[f64])], returned: &[f64]| {
        let mut s = delivered(rail(4), of);
        s.setup.families.iter_mut().for_each(|family| family.limits.clear());
        s.tubes(MAP, Some(1), "returned", returned).verdict(MAP)
    };
    let alike: &[(u32, &[f64])] =
        &[(2, &[1.8, 1.9, 1.7, 1.8]), (3, &[7.0, 7.1, 6.9, 7.0]), (4, &[62.0, 61.0, 63.0, 62.0])];
    let sound = bare(alike, &[10.0, 11.0, 9.0, 10.0]);
    assert_eq!(marks(&sound), [Mark::Inside; 4]);
    assert!(sound.lanes[0].sentence.contains("no limits"), "{}", sound.lanes[0].sentence);
    let leaks = bare(alike, &[10.0, 11.0, 9.0, 30.0]);
    assert_eq!(leaks.lanes[3].word, "high static leak-off");
    let dirty: &[(u32, &[f64])] =
        &[(2, &[1.8, 1.9, 1.7, 1.8]), (3, &[7.0, 7.1, 6.9, 6.5]), (4, &[62.0, 61.0, 63.0, 48.0])];
    let dirty = bare(dirty, &[10.0, 11.0, 9.0, 2.0]);
    assert_eq!(dirty.lanes[3].word, "low at full load");
    assert!(dirty.lanes[3].sentence.contains("Against the others"));
    // Two and two: nobody can say which are right.
    let split: &[(u32, &[f64])] = &[(4, &[62.0, 61.0, 48.0, 47.0])];
    let split = bare(split, &[10.0; 4]);
    assert_eq!(marks(&split), [Mark::Undecided; 4]);
    assert!(split.lanes[0].sentence.contains("do not agree"));
}

#[test]
fn what_all_share_points_to_the_bench() {
    let s = delivered(
        rail(3),
        &[(2, &[0.6, 0.6, 0.5]), (3, &[5.0, 5.1, 5.0]), (4, &[50.0, 49.0, 50.0])],
    );
    let verdict = s.verdict(MAP);
    assert_eq!(verdict.headline, "All 3 show: low everywhere. Check the bench first.");
    assert!(verdict.advice[0].contains("master injector"));
}

#[test]
fn per_stroke_entry_and_volumes_say_the_same_and_scatter_counts() {
    let volume = delivered(rail(2), &[(3, &[7.0, 7.6])]);
    let mut per_stroke = volume.clone();
    per_stroke.setup.entry = Entry::PerStroke;
    let (a, b) = (volume.verdict(MAP), per_stroke.verdict(MAP));
    assert_eq!(a.rows[0].lanes, b.rows[0].lanes);
    assert_eq!(marks(&a), [Mark::Inside, Mark::Inside]);
    // A mean of four that scatter by 0.2: u = 0.1, guard 0.165: 7.6 is too close to 7.7.
    per_stroke.cells[1].samples = Some(Samples { count: 4, scatter: 0.2 });
    assert_eq!(marks(&per_stroke.verdict(MAP)), [Mark::Inside, Mark::Undecided]);
}

#[test]
fn a_point_run_under_other_conditions_says_so_and_a_final_map_lacks_nothing() {
    let s = delivered(rail(1), &[(3, &[7.0])]).row(MAP, 3, "pressure", 36_000.0).row(
        MAP,
        3,
        "temperature",
        48.0,
    );
    let flags = s.verdict(MAP).flags;
    assert_eq!(
        flags,
        [
            "idle was run at 36000 kPa, the plan says 30000: its limits do not apply.",
            "idle was run at 48 °C, the plan says 40: let it settle and read it again.",
        ]
    );
    let last = delivered(rail(1).then(RoundStage::Final), &[(3, &[7.0])]);
    assert_eq!(
        last.verdict(MAP).flags,
        ["Full plan needed before release; not read on all: static return, pilot, full load."]
    );
}

#[test]
fn a_code_is_made_of_a_sound_map_only_and_checks_itself() {
    let coded = |full: f64, stage: RoundStage| {
        delivered(rail(1).then(stage), &[(2, &[1.5]), (3, &[7.3]), (4, &[full])])
            .verdict(BenchTest::TrimCode)
    };
    // Middles 1.8, 7, 62 in steps of 0.3: +1, −1, +3; symbols G, E, J behind C1.
    let good = coded(61.1, RoundStage::Final);
    assert!(
        good.lanes[0].shown.starts_with("C1GEJ") && good.lanes[0].shown.len() == 7,
        "{}",
        good.lanes[0].shown
    );
    assert!(good.flags.is_empty());
    assert_eq!(words(&coded(50.0, RoundStage::Final)), ["not released"]);
    assert_eq!(words(&coded(56.9, RoundStage::Final)), ["out of range"], "17 steps");
    // Off the body: what it made itself passes, an O for a 0 is no fault of the person, a B for an 8 is asked.
    let body = |text: &str| {
        rail(1)
            .put(9, BenchTest::TrimCode, Spot { cell: "body", row: None, tag: Some(1) }, 1.0, text)
            .verdict(BenchTest::TrimCode)
            .lanes[0]
            .word
            .clone()
    };
    assert_eq!(body(&good.lanes[0].shown.to_lowercase()), "from the body");
    assert_eq!(body("C1GEJ"), "retype");
}

#[test]
fn coils_of_a_rebuilt_set_match_or_are_named() {
    let verdict = rail(4)
        .tubes(BenchTest::Parts, None, "coil", &[0.402, 0.405, 0.431, 0.404])
        .tubes(BenchTest::Parts, None, "nozzle", &[1.0, 0.0, 0.0, 0.0])
        .verdict(BenchTest::Parts);
    assert_eq!(words(&verdict), ["matched", "matched", "coil off", "matched"]);
    assert!(verdict.lanes[0].sentence.starts_with("Renewed: nozzle"));
}
