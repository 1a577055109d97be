use super::*;

const FLOW: BenchTest = BenchTest::Flow;
const OPEN: u32 = 6;
const AT_REFERENCE: &[(&str, f64)] = &[("pressure", 300.0), ("fluid", 1.0)];

/// A set of four, one round of flow for each list: as received, then cleaned again and again.
fn cleaned(rounds: &[[f64; 4]], conditions: &[&[(&str, f64)]]) -> SessionRecord {
    let p2 = family("F", FamilyKind::PetrolPortHigh, Vec::new());
    let mut s = session(BenchKind::Petrol, &[p2], &["F", "F", "F", "F"]);
    for (i, values) in rounds.iter().enumerate() {
        if i > 0 {
            s = s.then(RoundStage::Cleaned);
        }
        s = s.set(FLOW, conditions[i.min(conditions.len() - 1)]).tubes(
            FLOW,
            Some(OPEN),
            "volume",
            values,
        );
    }
    s
}

#[test]
fn the_repeat_says_cleaned_still_restricted_worn_or_enough() {
    let verdict = cleaned(&[[60.0, 52.0, 45.0, 66.0], [60.0, 59.5, 50.0, 66.5]], &[AT_REFERENCE])
        .verdict(BenchTest::Cleaning);
    assert_eq!(words(&verdict), ["was good", "cleaned", "still restricted", "worn"]);
    assert_eq!(marks(&verdict)[1..], [Mark::Inside, Mark::TooLittle, Mark::TooMuch]);
    // 50 ÷ 45 − 1 = 11.1 %.
    assert!(
        verdict.lanes[2].because.iter().any(|b| {
            b.arithmetic.as_deref().is_some_and(|a| a.starts_with("200.0 ÷ 180.0 − 1 = +11.1 %"))
        }),
        "{:?}",
        verdict.lanes[2].because
    );
    // It does not move any more: not worth another cycle.
    let stuck = cleaned(
        &[[60.0, 59.0, 45.0, 60.0], [60.0, 59.0, 50.0, 60.0], [60.0, 59.0, 50.2, 60.0]],
        &[AT_REFERENCE],
    );
    let verdict = stuck.verdict(BenchTest::Cleaning);
    assert_eq!(words(&verdict)[2], "no more cycles");
    assert!(verdict.lanes[2].sentence.contains("dirt would have cleared"));
    // It still moves, but three cycles are the most.
    let moving = [
        [60.0, 59.0, 30.0, 60.0],
        [60.0, 59.0, 35.0, 60.0],
        [60.0, 59.0, 40.0, 60.0],
        [60.0, 59.0, 45.0, 60.0],
    ];
    let verdict = cleaned(&moving, &[AT_REFERENCE]).verdict(BenchTest::Cleaning);
    assert!(verdict.lanes[2].sentence.contains("maximum 3 here"), "{}", verdict.lanes[2].sentence);
}

#[test]
fn a_family_has_its_own_limit_of_cycles_and_may_not_be_cleaned_at_all() {
    let mut s = cleaned(&[[60.0, 59.0, 30.0, 60.0], [60.0, 59.0, 45.0, 60.0]], &[AT_REFERENCE]);
    assert_eq!(words(&s.verdict(BenchTest::Cleaning))[2], "still restricted");
    s.setup.families[0].detail.cleaning_cycles = Some(1.0);
    s.setup.families[0].detail.cleaning = Some(false);
    let verdict = s.verdict(BenchTest::Cleaning);
    assert!(verdict.lanes[2].sentence.contains("maximum 1 here"), "{}", verdict.lanes[2].sentence);
    assert_eq!(verdict.flags, ["Do not clean, says the library: F."]);
}

#[test]
fn other_conditions_are_corrected_with_a_label_and_unknown_ones_are_refused() {
    // The same injectors at 400 kPa pass √(400/300) more; nothing was gained.
    let more = (400.0_f64 / 300.0).sqrt();
    let after = [60.0 * more, 60.0 * more, 50.0 * more, 60.0 * more];
    let s = cleaned(
        &[[60.0, 60.0, 50.0, 60.0], after],
        &[AT_REFERENCE, &[("pressure", 400.0), ("fluid", 1.0)]],
    );
    let verdict = s.verdict(BenchTest::Cleaning);
    assert!(verdict.flags[0].starts_with(
        "Different conditions before and after; both corrected to the reference, an estimate"
    ));
    assert_eq!(words(&verdict)[2], "no more cycles", "no gain is left once corrected");
    assert!(
        verdict.lanes[2].because.iter().any(|b| b.says.contains("an estimate")),
        "the label stays with it"
    );
    let s = cleaned(&[[60.0, 60.0, 50.0, 60.0], after], &[AT_REFERENCE, &[]]);
    let verdict = s.verdict(BenchTest::Cleaning);
    assert_eq!(
        verdict.headline,
        "Before and after cannot be compared: pressure and fluid not noted cleaned."
    );
    assert!(verdict.lanes.iter().all(|lane| lane.mark == Mark::NotMeasured));
    // Another pulse width is another regime.
    let pulsed = |pulse: Option<f64>| {
        let p2 = family("F", FamilyKind::PetrolPortHigh, Vec::new());
        let s = session(BenchKind::Petrol, &[p2], &["F", "F"])
            .set(FLOW, AT_REFERENCE)
            .tubes(FLOW, Some(2), "volume", &[40.0, 30.0])
            .then(RoundStage::Cleaned)
            .set(FLOW, AT_REFERENCE);
        let s = match pulse {
            Some(ms) => s.row(FLOW, 2, "pulse", ms),
            None => s,
        };
        s.tubes(FLOW, Some(2), "volume", &[40.0, 39.0]).verdict(BenchTest::Cleaning)
    };
    assert!(pulsed(Some(5.0)).headline.contains("mid was run at another pulse width"));
    assert_eq!(words(&pulsed(None))[1], "cleaned");
}

#[test]
fn age_moves_the_odds_and_decides_nothing() {
    let with = |hours: f64| {
        let visual = Spot { cell: "hours", row: None, tag: Some(3) };
        let mut s = cleaned(&[[60.0, 60.0, 45.0, 60.0], [60.0, 60.0, 50.0, 60.0]], &[AT_REFERENCE]);
        s = s.put(1, BenchTest::Visual, visual, hours, "");
        s.verdict(BenchTest::Cleaning).lanes[2].clone()
    };
    // 0.25·3^((h/6000 − 0.5)/0.5): at half its life 0.25, at one and a half 2.25.
    for (hours, odds) in [(3000.0, "odds 0.25 to 1"), (9000.0, "odds 2.25 to 1")] {
        let lane = with(hours);
        assert_eq!(lane.word, "still restricted", "whatever its age");
        assert!(
            lane.because.iter().any(|b| b.arithmetic.as_deref().is_some_and(|a| a.contains(odds))),
            "{hours}"
        );
    }
}

#[test]
fn steps_that_were_left_out_are_named() {
    let s = cleaned(&[[60.0, 60.0, 45.0, 60.0], [60.0, 60.0, 59.0, 60.0]], &[AT_REFERENCE])
        .set(BenchTest::Cleaning, &[("soak", 1.0), ("bath", 1.0)]);
    let verdict = s.verdict(BenchTest::Cleaning);
    assert!(verdict.flags.iter().any(|f| f.contains("with no driver chosen")));
    assert!(verdict.advice.iter().any(|a| a.contains("back-flush")));
    assert!(verdict.advice.iter().any(|a| a.contains("Fit new baskets")));
}
