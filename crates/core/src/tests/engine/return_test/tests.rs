use super::*;
use crate::record::rejudge;
use crate::rules::Rules;
use crate::said::Code;
use crate::said::Lack;

/// The sample: bottles of 100 ml with marks every 2 ml, 116 s, 82 °C.
fn sample(levels: &[&[f64]], limit: Option<f64>) -> ReturnTest {
    let cylinders: Vec<u32> = (1..=levels[0].len() as u32).collect();
    let lane = |(cylinder, ml): (&u32, &f64)| Caught {
        cylinder: *cylinder,
        volume_ml: (*ml <= 100.0).then_some(*ml),
        seconds: (*ml <= 100.0).then_some(116.0),
        // A level above the bottle stands for an overflow at that many seconds.
        overflow_s: (*ml > 100.0).then_some(*ml),
    };
    ReturnTest {
        graduation_ml: Millilitre(2.0),
        capacity_ml: Millilitre(100.0),
        timer_u_s: Second(0.3),
        accuracy_pct: 0.0,
        accuracy_digits: 0.0,
        flags: Vec::new(),
        confirmed: Vec::new(),
        banks: vec![cylinders.clone()],
        unticked: Vec::new(),
        overdue: false,
        regime: Regime::IdleOnly,
        pump_spare_ml_min: None,
        temperature_c: Some(Celsius(82.0)),
        rules: HouseRules::default(),
        limit: limit.map(|upper_ml_min| Limit {
            upper_ml_min,
            from_c: Some(70.0),
            to_c: Some(95.0),
            source: "data sheet".to_owned(),
            revision: 2,
        }),
        runs: levels
            .iter()
            .enumerate()
            .map(|(i, run)| Run {
                number: i as u32 + 1,
                phase: None,
                bank: None,
                lanes: cylinders.iter().zip(run.iter()).map(lane).collect(),
            })
            .collect(),
        cylinders,
    }
}

fn marks(verdict: &Verdict) -> Vec<Mark> {
    verdict.lanes.iter().map(|lane| lane.mark).collect()
}

#[test]
fn the_trade_s_usual_traps_each_get_their_own_answer() {
    use Mark::{Inside, Look, Questioned, TooMuch, Undecided};
    type Case<'a> = (&'a [&'a [f64]], Option<f64>, &'a [Mark], &'a str);
    let cases: [Case<'_>; 9] = [
        (
            &[&[22., 60., 24.]],
            None,
            &[Inside, TooMuch, Inside],
            "Cylinder 2: leak-off 161 % above the others.",
        ),
        (
            &[&[20., 21., 52., 54.]],
            None,
            &[Undecided, Undecided, Undecided, Undecided],
            "Two groups, 1 and 2 against 3 and 4: comparison cannot say which is right.",
        ),
        (
            &[&[20., 21., 52., 54.]],
            Some(24.0),
            &[Inside, Inside, TooMuch, TooMuch],
            "Cylinders 3 and 4: leak-off above the limit of 24 ml/min.",
        ),
        (
            &[&[22., 110., 24.]],
            None,
            &[Inside, TooMuch, Inside],
            "Cylinder 2: leak-off at least 358 % above the others.",
        ),
        (
            &[&[22., 1., 24., 23.]],
            None,
            &[Inside, Questioned, Inside, Inside],
            "Cylinder 2: almost no leak-off. Confirm it first.",
        ),
        (
            &[&[43., 46., 45., 44.]],
            Some(24.0),
            &[Inside, Undecided, Inside, Inside],
            "Cylinder 2: inconclusive, too close to the limit.",
        ),
        (
            &[&[22., 23., 28., 22.]],
            Some(24.0),
            &[Inside, Inside, Look, Inside],
            "Cylinder 3: within the limit, but 25 % above the others. Look closer.",
        ),
        (&[&[22., 23., 24., 22.]], None, &[Inside; 4], "All 4 in line."),
        (
            &[&[22., 0.]],
            None,
            &[Undecided, Questioned],
            "Cylinder 2: almost no leak-off. Confirm it first.",
        ),
    ];
    for (levels, limit, expected, headline) in cases {
        let verdict = judge(&sample(levels, limit)).unwrap();
        assert_eq!(marks(&verdict), expected, "{levels:?} {limit:?}");
        assert_eq!(verdict.headline, headline);
    }
}

#[test]
fn one_run_has_the_uncertainty_of_return_flow_and_repeats_average() {
    let one = judge(&sample(&[&[22., 60., 24.]], None)).unwrap();
    // 60/116·√((2/√12)² + (60/116·0.3)²)
    let expected = 60.0 / 116.0 * (4.0_f64 / 12.0 + (60.0_f64 / 116.0 * 0.3).powi(2)).sqrt();
    assert!((one.lanes[1].u.unwrap() - expected).abs() < 1e-12);
    let three =
        judge(&sample(&[&[22., 60., 24.], &[24., 58., 24.], &[23., 62., 24.]], None)).unwrap();
    assert!((three.lanes[0].value.unwrap() - 23.0 * 60.0 / 116.0).abs() < 1e-9);
    assert!(three.lanes[2].u.unwrap() > 0.25, "equal coarse readings claim no perfection");
    assert_eq!(one.lanes[1].said.lacks, [Lack::OneRun], "one run only screens");
    assert!(three.lanes[1].said.lacks.is_empty() && three.lanes[1].mark == Mark::TooMuch);
    assert_eq!(three.lanes[0].said.code, outcomes::RETURN_ALIKE);
}

#[test]
fn a_limit_is_not_applied_at_a_temperature_that_it_does_not_hold_for() {
    let mut cold = sample(&[&[20., 21., 52., 54.]], Some(24.0));
    cold.temperature_c = Some(Celsius(24.0));
    let verdict = judge(&cold).unwrap();
    assert_eq!(verdict.limit, None);
    assert_eq!(marks(&verdict), [Mark::Undecided; 4]);
    assert_eq!(
        verdict.limit_note,
        "The limit of 24 ml/min applies at 70 to 95 °C; this test was at 24 °C, so it is not used."
    );
    cold.temperature_c = None;
    assert!(judge(&cold).unwrap().limit_note.contains("not known"));
}

#[test]
fn undecided_says_what_would_settle_it() {
    let close = judge(&sample(&[&[43., 47., 45., 44.]], Some(24.0))).unwrap();
    assert_eq!(
        close.lanes[1].would_change,
        ["A run of 3:10 with these bottles, if the rate stays the same."]
    );
    // The promise is kept: the same rate over that time is decided.
    let mut longer = sample(&[&[43., 47., 45., 44.]], Some(24.0));
    for lane in &mut longer.runs[0].lanes {
        lane.volume_ml = lane.volume_ml.map(|ml| ml * 190.0 / 116.0);
        lane.seconds = Some(190.0);
    }
    assert_eq!(judge(&longer).unwrap().lanes[1].mark, Mark::TooMuch);
    let schools = &close.schools;
    assert!(schools[0].leads && schools[0].looks_at == [1, 2, 3, 4][1..2]);
    assert!(schools[1].condemns.is_empty() && schools[2].condemns.is_empty());
}

#[test]
fn the_schools_are_shown_where_they_differ() {
    let verdict = judge(&sample(&[&[22., 74., 24., 28.]], Some(24.0))).unwrap();
    let said: Vec<_> =
        verdict.schools.iter().map(|s| (s.condemns.clone(), s.looks_at.clone())).collect();
    assert_eq!(said, [(vec![2], vec![]), (vec![2], vec![4]), (vec![2], vec![])]);
}

#[test]
fn an_unread_column_and_a_wrong_cylinder_are_named() {
    let mut test = sample(&[&[22., 60., 24.]], None);
    test.runs[0].lanes.remove(2);
    let verdict = judge(&test).unwrap();
    assert_eq!(verdict.lanes[2].mark, Mark::NotMeasured);
    assert!(verdict.advice.contains(&"Cylinder 3 not read.".to_owned()), "{:?}", verdict.advice);
    test.runs[0].lanes[0].cylinder = 9;
    assert_eq!(judge(&test).unwrap_err().to_string(), "this engine has no cylinder 9");
    test.runs.clear();
    assert_eq!(judge(&test).unwrap().headline, "Nothing to compare yet.");
}

#[test]
fn the_school_that_leads_is_the_one_the_house_picked_and_the_other_is_still_shown() {
    use Mark::{Inside, TooMuch};
    // All far below the limit, one twice the others: the schools part.
    let mut test = sample(&[&[10., 21., 10., 10.]], Some(24.0));
    let by_limit = judge(&test).unwrap();
    assert_eq!(
        marks(&by_limit),
        [Inside, Mark::Look, Inside, Inside],
        "below the limit, so only looked at"
    );
    test.rules.leads = Leads::Others;
    let by_others = judge(&test).unwrap();
    assert_eq!(marks(&by_others), [Inside, TooMuch, Inside, Inside]);
    assert!(by_others.schools[1].leads && !by_others.schools[0].leads);
    assert!(by_others.schools[0].silent.is_none(), "the limit holds and says its own");
    assert!(by_others.limit_note.contains("is shown for reference"), "{}", by_others.limit_note);
    // All above the limit but alike: the house that compares condemns nobody, and shows who would.
    let mut worn = sample(&[&[60., 61., 62., 60.]], Some(24.0));
    // By the limit four at once are seldom wear: the measurement is doubted before four are bought.
    let doubted = judge(&worn).unwrap();
    assert_eq!(marks(&doubted), [Mark::Questioned; 4]);
    assert!(doubted.lanes.iter().all(|lane| lane.said.code == Code::ALL_ALIKE_OFF));
    worn.rules.leads = Leads::Others;
    let verdict = judge(&worn).unwrap();
    assert_eq!(marks(&verdict), [Inside; 4]);
    assert_eq!(verdict.schools[0].condemns, [1, 2, 3, 4], "the limit beside it still says so");
}

#[test]
fn rules_of_the_house_are_named_where_they_decide() {
    use crate::rules::RuleChange;
    let change = |rule, value, revision| RuleChange {
        rule,
        value,
        reason: "comebacks in spring".to_owned(),
        revision,
    };
    let rules =
        Rules::after([change(RuleId::ReturnLook, 8.0, 3), change(RuleId::RunsToReplace, 2.0, 5)]);
    let mut test = sample(&[&[22., 60., 24., 25.]], None);
    test.rules = HouseRules::of(&rules);
    let verdict = judge(&test).unwrap();
    assert_eq!((test.rules.look, test.rules.runs_to_replace, test.rules.revision), (0.08, 2, 5));
    assert!(
        verdict.advice.join(" ").contains("(workshop rule, revision 5)"),
        "{:?}",
        verdict.advice
    );
    let last = &verdict.lanes[0].because.last().unwrap().says;
    assert!(
        last.contains("look 8 %") && last.contains("revision 3, because: comebacks in spring"),
        "{last}"
    );
    let unchanged = sample(&[&[22., 60., 24., 25.]], None);
    let last = judge(&unchanged).unwrap().lanes[0].because.last().unwrap().says.clone();
    assert_eq!(last, "Assessed by look 15 %, suspect 30 %, guard band 95 % (workshop rule)");
}

#[test]
fn the_accuracy_of_the_bottles_and_a_better_timer_are_in_the_uncertainty() {
    let plain = sample(&[&[60., 61., 60.]], None);
    let u = |test: &ReturnTest| judge(test).unwrap().lanes[0].u.unwrap();
    let mut inaccurate = plain.clone();
    inaccurate.accuracy_pct = 2.0;
    // 2 % of 31.03 ml/min, rectangular, beside the marks and the timing.
    let expected = u(&plain).hypot(0.02 * 60.0 * 60.0 / 116.0 / 3.0_f64.sqrt());
    assert!((u(&inaccurate) - expected).abs() < 1e-12);
    let because = &judge(&inaccurate).unwrap().lanes[0].because[1].says;
    assert!(because.contains("bottle accuracy ±(2 % + 0 marks)"), "{because}");
    let mut timed = plain.clone();
    timed.timer_u_s = Second(0.03);
    assert!(u(&timed) < u(&plain));
    let mut flagged = plain;
    flagged.flags = vec!["Rack A was due for calibration on 2031-01-31.".to_owned()];
    assert_eq!(judge(&flagged).unwrap().flags.len(), 1);
}

#[test]
fn judging_anew_says_what_changed_and_leaves_the_old_verdict_alone() {
    use crate::engine::{BankNumbering, EngineEnd, Layout};
    use crate::sample;
    let limit = |upper_ml_min, revision| Limit {
        upper_ml_min,
        from_c: None,
        to_c: None,
        source: "sheet".to_owned(),
        revision,
    };
    let mut test = sample::return_test(80.0, &[&[40.0, 30.0, 40.0]]);
    test.setup.limit = Some(limit(24.0, 1));
    let layout = Layout {
        cylinders: 3,
        banks: 1,
        first_at: EngineEnd::Pulley,
        numbering: BankNumbering::BankByBank,
    };
    let before = test.clone();
    let (now, said) = rejudge(&test, &layout, Some(limit(18.0, 2)), HouseRules::default()).unwrap();
    assert_eq!(marks(&now), [Mark::TooMuch, Mark::Inside, Mark::TooMuch]);
    assert_eq!(
        said.changes,
        ["Cylinder 1: within then, too high now.", "Cylinder 3: within then, too high now."]
    );
    assert!(said.text.contains(
        "Then: Limit 24 ml/min: sheet, revision 1. Now: Limit 18 ml/min: sheet, revision 2."
    ));
    let (_, same) = rejudge(&test, &layout, Some(limit(24.0, 1)), HouseRules::default()).unwrap();
    assert!(same.changes.is_empty() && same.text.ends_with("No injector's result would change."));
    let (none, _) = rejudge(&test, &layout, None, HouseRules::default()).unwrap();
    assert_eq!(none.limit, None, "without a limit the set is compared");
    assert_eq!(test, before);
}

mod laws {
    use super::*;
    use proptest::prelude::*;

    /// Levels of three runs over four to eight cylinders, inside the bottle.
    fn runs() -> impl Strategy<Value = Vec<Vec<f64>>> {
        (4..=8_usize).prop_flat_map(|n| {
            prop::collection::vec(prop::collection::vec(0.0..100.0_f64, n), 1..=3)
        })
    }

    fn of(levels: &[Vec<f64>], limit: Option<f64>) -> ReturnTest {
        sample(&levels.iter().map(Vec::as_slice).collect::<Vec<_>>(), limit)
    }

    proptest! {
        #[test]
        fn where_a_bottle_hangs_changes_no_verdict(levels in runs(), turn in 1..8_usize, limit in prop::option::of(5.0..50.0_f64)) {
            let test = of(&levels, limit);
            let plain = judge(&test).unwrap();
            let mut turned = test.clone();
            let by = turn % test.cylinders.len();
            turned.cylinders.rotate_left(by);
            for run in &mut turned.runs {
                run.lanes.reverse();
            }
            let mut other = judge(&turned).unwrap();
            other.lanes.sort_by_key(|lane| lane.place);
            let summary = |v: &Verdict| v.lanes.iter().map(|l| (l.place, l.mark, l.said.code)).collect::<Vec<_>>();
            prop_assert_eq!(summary(&plain), summary(&other));
        }

        #[test]
        fn nobody_is_condemned_by_a_comparison_that_does_not_hold(levels in runs()) {
            let verdict = judge(&of(&levels, None)).unwrap();
            for lane in &verdict.lanes {
                let empty = |other: &&crate::tests::Lane| other.value == Some(0.0);
                let others_empty = verdict.lanes.iter().filter(empty).count() + 1 >= verdict.lanes.len();
                if !verdict.settled && !others_empty {
                    prop_assert!(matches!(lane.mark, Mark::Undecided | Mark::Questioned), "{:?}", lane.mark);
                    let compared = [outcomes::RETURN_HIGH, outcomes::RETURN_RAISED, outcomes::RETURN_ALIKE];
                    prop_assert!(!compared.contains(&lane.said.code), "{:?}", lane.said);
                }
                prop_assert!(!lane.because.is_empty() && !lane.sentence.is_empty());
                prop_assert_eq!(lane.value.is_some(), !lane.shown.is_empty());
            }
            prop_assert!(verdict.lanes.iter().all(|l| l.value.unwrap() <= verdict.scale));
        }

        #[test]
        fn a_higher_level_never_makes_a_lane_less_above_the_limit(
            levels in runs(), lane in 0..4_usize, more in 0.0..40.0_f64,
        ) {
            // One run only: with several, more scatter honestly widens the guard.
            let mut test = of(&levels[..1], Some(20.0));
            let before = judge(&test).unwrap().lanes[lane].mark;
            let level = test.runs[0].lanes[lane].volume_ml.unwrap();
            test.runs[0].lanes[lane].volume_ml = Some((level + more).min(100.0));
            let after = &judge(&test).unwrap().lanes[lane];
            if before == Mark::TooMuch {
                let over = after.mark == Mark::TooMuch || after.said.code == Code::ALL_ALIKE_OFF;
                prop_assert!(over, "{after:?}");
            }
        }

        #[test]
        fn the_verdict_comes_from_the_numbers_not_from_the_digits_shown(levels in runs()) {
            let verdict = judge(&of(&levels, Some(20.0))).unwrap();
            for lane in verdict.lanes.iter().filter(|lane| lane.mark == Mark::TooMuch) {
                prop_assert!(lane.value.unwrap() > 20.0 + lane.u.unwrap());
            }
        }
    }
}
