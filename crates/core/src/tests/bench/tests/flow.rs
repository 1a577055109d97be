use super::*;

const FLOW: BenchTest = BenchTest::Flow;
/// Row of the held-open regime of `petrol_points`, and of `mid`.
const OPEN: u32 = 6;
const MID: u32 = 2;

fn port(limits: Vec<LimitEntry>) -> FamilyThen {
    family("F", FamilyKind::PetrolPortHigh, limits)
}

/// 300 kPa and normal heptane: the reference itself, factor 1.
const AT_REFERENCE: &[(&str, f64)] = &[("pressure", 300.0), ("fluid", 1.0)];

#[test]
fn flows_are_brought_to_the_reference_and_held_against_the_limit() {
    let p2 = port(vec![limit(LimitCheck::StaticFlow, "", [Some(228.0), Some(252.0)])]);
    let at = |conditions: &[(&str, f64)]| {
        session(BenchKind::Petrol, std::slice::from_ref(&p2), &["F", "F", "F", "F"])
            .set(FLOW, conditions)
            .tubes(FLOW, Some(OPEN), "volume", &[60.0, 60.5, 59.5, 66.0])
            .verdict(FLOW)
    };
    // 60 ml in 15 s is 240 ml/min.
    let reference = at(AT_REFERENCE);
    assert!((reference.rows[0].lanes[0].value.unwrap() - 240.0).abs() < 1e-9);
    assert_eq!(marks(&reference), [Mark::Inside, Mark::Inside, Mark::Inside, Mark::TooMuch]);
    // Calibration fluid at 400 kPa: 240·√(300/400)·√(825/684) = 228.27.
    let other = at(&[("pressure", 400.0), ("fluid", 0.0)]);
    let value = other.rows[0].lanes[0].value.unwrap();
    assert!((value - 240.0 * (0.75_f64 * 825.0 / 684.0).sqrt()).abs() < 1e-9, "{value}");
    // Nothing noted: still compared, no limit, and said so.
    let bare = at(&[]);
    assert!(bare.flags[0].contains("pressure and fluid not noted"), "{:?}", bare.flags);
    assert_eq!(bare.lanes[3].mark, Mark::TooMuch, "by the others");
    assert!(!bare.lanes[0].because.iter().any(|b| b.says.contains("bench book")));
}

#[test]
fn a_spread_gets_its_grade_or_two_where_the_tubes_cannot_tell() {
    let grade = |values: &[f64], graduation: f64| {
        let mut s = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F", "F"])
            .set(FLOW, AT_REFERENCE)
            .tubes(FLOW, Some(OPEN), "volume", values);
        s.setup.graduation = graduation;
        s.verdict(FLOW).rows[0].grade.clone()
    };
    assert_eq!(grade(&[80.0, 80.2, 80.1, 80.3], 0.1), "matched"); // 0.37 %
    assert_eq!(grade(&[80.0, 81.2, 80.4, 80.3], 0.1), "close"); // 1.49 %
    assert_eq!(grade(&[80.0, 82.5, 80.4, 80.3], 0.1), "serviceable"); // 3.1 %
    assert_eq!(grade(&[80.0, 90.0, 80.4, 80.3], 0.1), "too wide");
    // Marks of 2 ml: u of the spread = √2·0.577/80.6 = 1.0 %, guard 1.7 %.
    assert_eq!(grade(&[80.0, 81.2, 80.4, 80.3], 2.0), "matched or serviceable");
}

#[test]
fn an_opinion_that_the_arithmetic_does_not_bear_out_is_answered() {
    let said = |opinion: f64| {
        session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F"])
            .set(FLOW, AT_REFERENCE)
            .set(FLOW, &[("opinion", opinion)])
            .tubes(FLOW, Some(OPEN), "volume", &[78.0, 80.0, 82.0])
            .verdict(FLOW)
            .advice
    };
    // (82 − 78) ÷ 80 = 5.0 %.
    assert!(said(2.0)[0].starts_with("Stated as within 2 %; the readings spread by 5 %"));
    assert!(said(3.0).is_empty(), "within 5 % holds");
    assert!(said(0.0).is_empty(), "nobody said anything");
}

#[test]
fn where_it_is_low_says_how_it_is_wrong() {
    let set = |rows: &[(u32, [f64; 4])]| {
        let mut s = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F", "F"])
            .set(FLOW, AT_REFERENCE);
        for (row, values) in rows {
            s = s.tubes(FLOW, Some(*row), "volume", values);
        }
        s.verdict(FLOW)
    };
    // Idle pulses are 2.5 ms; fully open is alike.
    let slow = set(&[(1, [20.0, 20.0, 14.0, 20.0]), (OPEN, [60.0, 60.0, 60.0, 60.0])]);
    assert_eq!(words(&slow), ["in line", "in line", "low when short", "in line"]);
    let dirty = set(&[(1, [20.0, 20.0, 16.0, 20.0]), (OPEN, [60.0, 60.0, 50.0, 60.0])]);
    assert_eq!(words(&dirty)[2], "low flow");
    let worn = set(&[(1, [20.0, 20.0, 22.5, 20.0]), (OPEN, [60.0, 60.0, 68.0, 60.0])]);
    assert_eq!(words(&worn)[2], "high flow");
    let both = set(&[(1, [20.0, 20.0, 14.0, 20.0]), (OPEN, [60.0, 60.0, 68.0, 60.0])]);
    assert_eq!(both.lanes[2].mark, Mark::Questioned);
}

#[test]
fn two_families_on_one_rail_are_compared_each_with_its_own() {
    let big = family("G", FamilyKind::PetrolPortHigh, Vec::new());
    let verdict =
        session(BenchKind::Petrol, &[port(Vec::new()), big], &["F", "G", "F", "G", "F", "F"])
            .set(FLOW, AT_REFERENCE)
            .tubes(FLOW, Some(OPEN), "volume", &[60.0, 90.0, 60.0, 90.5, 60.0, 45.0])
            .verdict(FLOW);
    assert_eq!(marks(&verdict)[..5], [Mark::Inside; 5]);
    assert_eq!(verdict.lanes[5].mark, Mark::TooLittle);
    let alone = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "G"])
        .set(FLOW, AT_REFERENCE)
        .tubes(FLOW, Some(OPEN), "volume", &[60.0, 90.0])
        .verdict(FLOW);
    assert_eq!(marks(&alone), [Mark::Undecided; 2], "nothing of its own family beside it");
}

#[test]
fn readings_that_cannot_be_right_are_questioned_before_they_are_compared() {
    let rail = || {
        session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F", "F"])
            .set(FLOW, AT_REFERENCE)
    };
    let flag = |s: &SessionRecord| s.verdict(FLOW).flags.join(" ");
    // Read 5 minutes after the row; the run ended 10 s before that.
    let mut foam = rail().row(FLOW, MID, "ended", 1.0).tubes(
        FLOW,
        Some(MID),
        "volume",
        &[40.0, 40.0, 40.0, 40.0],
    );
    let read_at = foam.cells.last().unwrap().signed.at;
    let ended = foam.cells.iter_mut().find(|c| c.cell == "ended").unwrap();
    ended.signed.at = read_at - jiff::SignedDuration::from_secs(10);
    assert!(
        flag(&foam).contains("read 35 s after the run, before the foam settles (45 s)"),
        "{}",
        flag(&foam)
    );
    assert_eq!(marks(&foam.verdict(FLOW)), [Mark::Questioned; 4]);
    let twice = rail().tubes(FLOW, Some(MID), "volume", &[40.0, 80.5, 40.5, 39.5]);
    assert!(flag(&twice).contains("Injector 2, mid: about twice the others"));
    let slip = rail().tubes(FLOW, Some(MID), "volume", &[40.0, 4.05, 40.5, 39.5]);
    assert!(flag(&slip).contains("decimal point slipped?"));
    let over = rail().tubes(FLOW, Some(MID), "volume", &[40.0, 104.0, 40.5, 39.5]);
    assert!(flag(&over).contains("more than the 100 ml that a tube holds"));
    let before = rail().tubes(FLOW, Some(1), "volume", &[20.0, 20.5, 19.5, 20.0]).tubes(
        FLOW,
        Some(MID),
        "volume",
        &[40.0, 20.5, 40.5, 39.5],
    );
    assert!(flag(&before).contains("same number as the row before"));
    // The others still compare among themselves.
    assert_eq!(
        marks(&twice.verdict(FLOW)),
        [Mark::Inside, Mark::Questioned, Mark::Inside, Mark::Inside]
    );
}

#[test]
fn another_count_in_one_tube_is_compared_per_pulse_and_named() {
    let s = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F"])
        .set(FLOW, AT_REFERENCE)
        .tubes(FLOW, Some(MID), "volume", &[40.0, 20.0, 40.0])
        .put(5, FLOW, Spot { cell: "count", row: Some(MID), tag: Some(2) }, 1000.0, "1000");
    let verdict = s.verdict(FLOW);
    assert_eq!(marks(&verdict), [Mark::Inside; 3], "20 ml over 1000 is 40 over 2000");
    assert_eq!(verdict.flags, ["Injector 2, mid: had another count; compared per pulse."]);
}

#[test]
fn percent_of_the_fullest_compares_but_meets_no_limit() {
    let mut s = session(
        BenchKind::Petrol,
        &[port(vec![limit(LimitCheck::StaticFlow, "", [Some(228.0), Some(252.0)])])],
        &["F", "F", "F"],
    )
    .set(FLOW, AT_REFERENCE);
    s.setup.entry = Entry::Percent;
    let spot = Spot { cell: "volume", row: Some(OPEN), tag: Some(1) };
    assert!(
        FLOW.read(spot, &s.setup, "104").unwrap().is_err(),
        "nothing is fuller than the fullest"
    );
    let verdict = s.tubes(FLOW, Some(OPEN), "volume", &[100.0, 99.0, 82.0]).verdict(FLOW);
    assert_eq!(verdict.rows[0].unit, "% of the fullest");
    assert_eq!(marks(&verdict)[2], Mark::TooLittle);
    assert!(!verdict.lanes[0].because.iter().any(|b| b.says.contains("bench book")));
}

#[test]
fn a_slow_opener_is_named_by_dead_time_and_first_spray_not_by_flow() {
    // y = 4 mm³ per ms from a dead time of 0.9 ms, 1.3 ms for the slow one; 5000 pulses.
    let sweep = |graduation: f64| {
        let mut s = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F", "F"])
            .set(BenchTest::Sweep, &[("cycle", 1.0)]);
        s.setup.graduation = graduation;
        for (row, pulse) in (1..).zip([1.2_f64, 2.0, 3.0, 4.0, 6.0]) {
            s = s.row(BenchTest::Sweep, row, "pulse", pulse).row(
                BenchTest::Sweep,
                row,
                "count",
                5000.0,
            );
            let ml = |dead: f64| (4.0 * (pulse - dead)).max(0.0) * 5000.0 / 1000.0;
            s = s.tubes(
                BenchTest::Sweep,
                Some(row),
                "volume",
                &[ml(0.9), ml(0.9), ml(1.3), ml(0.9)],
            );
        }
        s.verdict(BenchTest::Sweep)
    };
    let fine = sweep(0.1);
    assert_eq!(words(&fine), ["in line", "in line", "opens late", "in line"]);
    assert!(
        (fine.lines[2].offset_ms - 1.3).abs() < 1e-9 && (fine.lines[2].slope - 4.0).abs() < 1e-9
    );
    assert!(
        fine.lanes[2]
            .because
            .iter()
            .any(|b| b.says == "First spray at 2 ms; the others at 1.2 ms.")
    );
    assert!(fine.advice[0].contains("lean") && fine.advice[1].contains("two-stroke"));
    assert!(fine.headline.starts_with("Injector 3: late"), "{}", fine.headline);
    // Marks of 20 ml: the doubt is larger than the 0.4 ms.
    assert_eq!(words(&sweep(20.0))[2], "inconclusive");
}

#[test]
fn dead_time_falls_with_the_supply_and_two_rows_exchanged_are_noticed() {
    let table = |offsets: &[(f64, f64)]| {
        let mut s = session(BenchKind::Petrol, &[port(Vec::new())], &["F"])
            .set(BenchTest::SupplyOffset, &[("short", 3.0), ("long", 6.0), ("count", 5000.0)]);
        for (row, (volts, dead)) in (1..).zip(offsets) {
            s = s.row(BenchTest::SupplyOffset, row, "volts", *volts);
            for (cell, ms) in [("short", 3.0), ("long", 6.0)] {
                s = s.tubes(BenchTest::SupplyOffset, Some(row), cell, &[20.0 * (ms - dead)]);
            }
        }
        s
    };
    let good = table(&[(10.0, 1.4), (12.0, 1.1), (14.0, 0.8)]);
    let lines = supply_table(&good);
    assert_eq!(lines.len(), 3);
    assert!((lines[1].offset_ms - 1.1).abs() < 1e-9 && lines[1].volts == 12.0);
    assert_eq!(words(&good.verdict(BenchTest::SupplyOffset)), ["falls"]);
    assert_eq!(
        words(&table(&[(10.0, 0.8), (14.0, 1.4)]).verdict(BenchTest::SupplyOffset)),
        ["grows"]
    );
}

#[test]
fn what_stays_with_a_position_is_the_rail_and_not_the_injector() {
    let hung = |second: [f64; 4]| {
        let mut s = session(BenchKind::Petrol, &[port(Vec::new())], &["F", "F", "F", "F"])
            .set(FLOW, AT_REFERENCE)
            .tubes(FLOW, Some(OPEN), "volume", &[60.0, 60.2, 51.0, 59.8])
            .then(RoundStage::Received);
        // Turned by one: tag 3 hangs at 4, tag 2 at 3.
        for place in &mut s.rounds[1].places {
            place.position = place.tag % 4 + 1;
        }
        s.set(FLOW, AT_REFERENCE).tubes(FLOW, Some(OPEN), "volume", &second).verdict(FLOW).advice
    };
    let stays = hung([60.0, 51.2, 60.1, 59.8]);
    assert!(stays[0].starts_with("Position 3 reads −14"), "{stays:?}");
    assert!(hung([60.0, 60.2, 51.0, 59.8]).is_empty(), "it went with the injector");
    assert!(hung([60.0, 60.2, 60.1, 59.8]).is_empty(), "gone altogether");
}
