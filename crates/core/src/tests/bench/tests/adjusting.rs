use super::*;

const LIFT: BenchTest = BenchTest::Lift;

fn stock(sizes: &[f64]) -> Vec<Shim> {
    sizes.iter().map(|size_um| Shim { size_um: *size_um, count: 1 }).collect()
}

/// Fits of one injector, oldest first: shim and lift. Its window is 48 to 56 µm.
fn fitted(fits: &[(f64, f64)]) -> SessionRecord {
    let lift = limit(LimitCheck::Lift, "", [Some(48.0), Some(56.0)]);
    let mut s =
        session(BenchKind::Diesel, &[family("F", FamilyKind::DieselSolenoid, vec![lift])], &["F"]);
    for (i, (shim, lift)) in fits.iter().enumerate() {
        if i > 0 {
            s = s.then(RoundStage::Adjusted);
        }
        s = s.tubes(LIFT, None, "shim", &[*shim]).tubes(LIFT, None, "lift", &[*lift]);
    }
    s
}

#[test]
fn three_fits_converge_with_the_gain_that_the_injector_itself_shows() {
    let drawer = stock(&[980.0, 990.0, 1000.0, 1005.0, 1010.0, 1040.0]);
    // 73 µm with 1030: 21 too much over the first gain of 0.8 asks for 1003.75, so 1005.
    let first = fitted(&[(1030.0, 73.0)]).verdict_with(LIFT, &drawer);
    assert!(first.lanes[0].sentence.contains("fit 1005 µm"), "{}", first.lanes[0].sentence);
    // It came to 62, not 53: its own gain is 11/25 = 0.44; 52 is 22.7 µm less shim: 980.
    let second = fitted(&[(1030.0, 73.0), (1005.0, 62.0)]).verdict_with(LIFT, &drawer);
    assert!(
        second.lanes[0].because.iter().any(|b| b.says.starts_with("Gain: 0.44")),
        "{:?}",
        second.lanes[0].because
    );
    assert!(second.lanes[0].sentence.contains("fit 980 µm"), "{}", second.lanes[0].sentence);
    let third =
        fitted(&[(1030.0, 73.0), (1005.0, 62.0), (980.0, 51.5)]).verdict_with(LIFT, &drawer);
    assert_eq!((words(&third), marks(&third)), (vec!["set"], vec![Mark::Inside]));
    assert_eq!(third.lanes[0].sentence, "Lift within limits after 3 fits.");
    // 55.4 of 56 with a gauge of 0.8: inside by less than its guard of 1.3.
    assert_eq!(marks(&fitted(&[(980.0, 55.4)]).verdict_with(LIFT, &drawer)), [Mark::Undecided]);
}

#[test]
fn a_shim_that_is_not_in_the_drawer_is_said_with_the_nearest_and_what_it_gives() {
    let verdict = fitted(&[(1030.0, 73.0)]).verdict_with(LIFT, &stock(&[1020.0, 1040.0]));
    assert_eq!(words(&verdict), ["not in stock"]);
    assert!(
        verdict.lanes[0]
            .sentence
            .contains("needs 1005 µm; nearest in stock is 1020 µm, giving 65 µm"),
        "{}",
        verdict.lanes[0].sentence
    );
    assert_eq!(words(&fitted(&[(1030.0, 73.0)]).verdict_with(LIFT, &[])), ["not in stock"]);
    let none_left = [Shim { size_um: 1005.0, count: 0 }];
    assert_eq!(words(&fitted(&[(1030.0, 73.0)]).verdict_with(LIFT, &none_left)), ["not in stock"]);
}

#[test]
fn fits_that_bring_it_no_nearer_stop() {
    let drawer = stock(&[980.0, 1000.0, 1010.0]);
    let verdict =
        fitted(&[(1030.0, 73.0), (1005.0, 72.0), (980.0, 73.5)]).verdict_with(LIFT, &drawer);
    assert_eq!(words(&verdict), ["not converging"]);
    assert!(verdict.headline.contains("Stop and find the cause"));
}

#[test]
fn the_nut_turns_by_small_steps() {
    let s = fitted(&[]).set(LIFT, &[("by", 1.0)]).tubes(LIFT, None, "angle", &[0.0]).tubes(
        LIFT,
        None,
        "lift",
        &[73.0],
    );
    // (52 − 73) ÷ 0.5 = −42 °, but 15 ° at once are the most.
    let first = s.verdict(LIFT);
    assert_eq!(first.lanes[0].sentence, "too high: turn the nut by −15 °, then measure.");
    let s = s.then(RoundStage::Adjusted).tubes(LIFT, None, "angle", &[-15.0]).tubes(
        LIFT,
        None,
        "lift",
        &[58.0],
    );
    // Its own gain is 15/15 = 1 µm a degree: 6 ° more.
    assert_eq!(s.verdict(LIFT).lanes[0].sentence, "too high: turn the nut by −6 °, then measure.");
}

#[test]
fn only_what_the_adjustment_touches_is_repeated() {
    let idle = limit(LimitCheck::Delivered, "idle", [Some(6.3), Some(7.7)]);
    let full = limit(LimitCheck::Delivered, "full load", [Some(55.8), Some(68.2)]);
    let mut s = session(
        BenchKind::Diesel,
        &[family("F", FamilyKind::DieselSolenoid, vec![idle, full])],
        &["F", "F"],
    );
    let point = |name: &str, ms| Point {
        name: name.to_owned(),
        pulse_ms: Some(ms),
        count: Some(1000.0),
        rail_kpa: Some(30_000.0),
        ..Point::default()
    };
    s.setup.points = vec![point("idle", 0.55), point("full load", 1.4)];
    s.setup.graduation = 0.02;
    let s = s
        .tubes(BenchTest::Map, Some(1), "delivered", &[7.0, 9.0])
        .tubes(BenchTest::Map, Some(2), "delivered", &[62.0, 62.0])
        .then(RoundStage::Adjusted)
        .put(1, LIFT, Spot { cell: "shim", row: None, tag: Some(2) }, 1005.0, "1005")
        .tubes(BenchTest::Map, Some(1), "delivered", &[7.0]);
    let advice = s.verdict(BenchTest::Map).advice;
    assert_eq!(
        advice,
        ["Repeat only what this affects. Injector 2: idle. The full plan before release."]
    );
}
