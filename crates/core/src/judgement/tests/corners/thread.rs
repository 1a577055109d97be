//! The thread of a job: the complaint is asked again after a repair, stored codes name a cylinder, a swap is
//! fair, a doubted unit waits for its answer, and the usual value speaks in both directions.

use super::*;
use crate::judgement::{story, words};
use crate::record::{DecisionRecord, Injector, Part};
use crate::sample::at as at_minute;
use crate::work::{ComplaintNow, ProveId, SlotCode, Stage, StepId, Told};
use uuid::Uuid;

fn at(judgement: &Judgement, cylinder: u32) -> &Position {
    judgement.positions.iter().find(|at| at.cylinder == cylinder).unwrap()
}

/// Every check of what all share: cells of a fault, and cells of one that is put right.
type First = (EngineTest, &'static [(&'static str, f64)], &'static [(&'static str, f64)]);
const FIRST: [First; 5] = [
    (
        EngineTest::FuelSample,
        &[("suffers", 2.0), ("look", 3.0), ("smell", 0.0), ("water", 2.0)],
        &[("suffers", 2.0), ("look", 0.0), ("smell", 0.0), ("water", 0.0)],
    ),
    (
        EngineTest::LowPressure,
        &[("least", 300.0), ("idle", 120.0), ("load", 90.0)],
        &[("least", 300.0), ("idle", 350.0), ("load", 340.0)],
    ),
    (
        EngineTest::RailRelief,
        &[("wanted", 30_000.0), ("reached", 12_000.0), ("relief", 2.0)],
        &[("wanted", 30_000.0), ("reached", 29_500.0), ("relief", 0.0)],
    ),
    (
        EngineTest::SuctionAir,
        &[("running", 2.0), ("standing", 2.0)],
        &[("running", 0.0), ("standing", 0.0)],
    ),
    (
        EngineTest::SharedCauses,
        &[("intake", 1.0), ("exhaust", 1.0), ("ground", 2.0), ("signals", 1.0)],
        &[("intake", 1.0), ("exhaust", 1.0), ("ground", 1.0), ("signals", 1.0)],
    ),
];

#[test]
fn after_a_repair_the_complaint_is_asked_once_and_what_is_said_counts() {
    for (check, fault, good) in FIRST {
        let name = check.name();
        let even = limited(thrice(82.0, [22.0, 23.0, 24.0, 23.0]), 24.0);
        let mut file = returned(&[Symptom::LowPower], even);
        file.sheets.push(sheet(check, 30, good, &[]));
        assert!(
            !judge_file(&file).step.asks_complaint,
            "{name}: good at once, nothing was put right"
        );
        let mut untold = file.clone();
        let answer = ComplaintNow::Gone;
        untold.events.push(event(45, Event::ComplaintAsked { answer }));
        assert_eq!(judge_file(&untold).complaint, None, "{name}: nothing was put right");
        file.sheets.push(sheet(check, 31, good, &[]));
        assert!(!judge_file(&file).step.asks_complaint, "{name}: a second sheet is no repair");
        file.sheets = vec![sheet(check, 30, fault, &[])];
        let told = judge_file(&file);
        assert!(!told.step.asks_complaint && told.step.title.starts_with("Fix first"), "{name}");
        file.sheets.push(sheet(check, 40, good, &[]));
        let told = judge_file(&file);
        assert!(told.step.asks_complaint, "{name}: {:?}", told.step);
        assert!(told.positions.iter().all(|at| at.ruling.why != Why::RepeatDiffers), "{name}");
        for (answer, ends) in
            [(ComplaintNow::Gone, true), (ComplaintNow::Better, false), (ComplaintNow::Same, false)]
        {
            let mut file = file.clone();
            file.events.push(event(41, Event::ComplaintAsked { answer }));
            let told = judge_file(&file);
            assert!(!told.step.asks_complaint, "{name}: asked once");
            let why: Vec<_> = told.positions.iter().map(|at| at.ruling.why).collect();
            assert_eq!(
                told.step.title == "Decide",
                ends,
                "{name} {answer:?}: {} {why:?} {}",
                told.step.title,
                told.positions[0].ruling.sentence
            );
            // What was said before another repair does not answer for it.
            file.sheets.push(sheet(check, 50, fault, &[]));
            file.sheets.push(sheet(check, 55, good, &[]));
            assert!(judge_file(&file).step.asks_complaint, "{name} {answer:?}: repaired again");
        }
    }
}

/// Cylinder 2 returned too much, was decided and worked on, the others were left; then the complaint is told of.
fn after_work(work: &[(i64, Event)], told: Option<Event>) -> JobFile {
    let mut file = returned(ROUGH, limited(thrice(82.0, [22.0, 90.0, 23.0, 22.0]), 24.0));
    file.decisions = (1..=4)
        .map(|cylinder| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision: if cylinder == 2 { Replace } else { Leave },
            reason: "as proposed".to_owned(),
            proposed: None,
            signed: at_minute(30),
        })
        .collect();
    file.events.extend(work.iter().map(|(minute, one)| event(*minute, one.clone())));
    file.events.extend(told.map(|told| event(60, told)));
    file
}

fn fitted_new() -> Event {
    let injector = Injector { id: Uuid::from_u128(22), cylinder: 2, label: "N2".to_owned() };
    Event::Replaced { injector, part: Part::New }
}

fn road(told: Told) -> Event {
    Event::Proved { item: ProveId::RoadTest, told, note: "up the hill".to_owned() }
}

fn asked(answer: ComplaintNow) -> Event {
    Event::ComplaintAsked { answer }
}

#[test]
fn what_was_left_is_looked_at_again_while_the_complaint_is_still_there_after_the_work() {
    use ComplaintNow::{Better, Gone, Same};
    for (told, still) in [
        (None, false),
        (Some(asked(Gone)), false),
        (Some(asked(Better)), true),
        (Some(asked(Same)), true),
        (Some(road(Told::Good)), false),
        (Some(road(Told::Failed)), true),
        (Some(road(Told::LeftOut)), false),
    ] {
        let file = after_work(&[(40, fitted_new())], told.clone());
        let judged = judge_file(&file);
        let moved: Vec<u32> = judged.overtaken.iter().map(|one| one.cylinder).collect();
        assert_eq!(moved, if still { vec![1, 3, 4] } else { vec![] }, "{told:?}");
        assert!(!still || judged.step.stage != Stage::Decide, "{told:?}: the search goes on");
        assert_eq!(file.decided().len(), if still { 1 } else { 4 }, "{told:?}");
        // What was told first is not what was told last.
        let mut gone = file.clone();
        gone.events.push(event(70, road(Told::Good)));
        assert!(judge_file(&gone).overtaken.is_empty(), "{told:?}");
    }
    let gone = after_work(&[], Some(asked(Gone)));
    assert_eq!(judge_file(&gone).step.stage, Stage::Decide);
    // Decided again after it was told: that decision stands.
    let mut again = after_work(&[(40, fitted_new())], Some(asked(Same)));
    let decided = again.decisions.clone().into_iter().filter(|one| one.cylinder != 2);
    again.decisions.extend(decided.map(|one| DecisionRecord { signed: at_minute(80), ..one }));
    assert!(judge_file(&again).overtaken.is_empty());
}

#[test]
fn what_was_done_explains_nothing_more_once_the_complaint_is_told_to_be_the_same() {
    let left = |file: &JobFile| judge_file(file).step.stage == Stage::Decide;
    // The place that was decided on still shows its fault, as nothing was read since: the search goes on elsewhere.
    let file = after_work(&[], None);
    assert!(left(&file), "found, and decided");
    let same = after_work(&[], Some(asked(ComplaintNow::Same)));
    assert!(!left(&same), "{}", judge_file(&same).step.title);
    // The code of the part that was fitted has to be written; it is behind nothing that was told before.
    let uncoded = after_work(&[(40, fitted_new())], Some(asked(ComplaintNow::Same)));
    let mut coded = uncoded.clone();
    let slots = |codes: [&str; 4]| Event::CodesRead {
        slots: (1..)
            .zip(codes)
            .map(|(cylinder, code)| SlotCode { cylinder, code: Some(code.to_owned()) })
            .collect(),
        by_hand: true,
    };
    coded.events.push(event(65, slots(["A", "B", "C", "D"])));
    for file in [uncoded, coded] {
        let judged = judge_file(&file);
        assert_ne!(judged.step.stage, Stage::Decide, "{:?}", at(&judged, 2).ruling.why);
    }
}

#[test]
fn a_complaint_without_a_cause_yet_believes_more_of_what_is_left_and_buys_nothing_for_it() {
    let odd = |symptoms: &[Symptom]| {
        let mut file = returned(symptoms, thrice(82.0, [22.0, 31.0, 22.0, 22.0]));
        file.sheets.push(cut_even(20));
        judge_file(&file)
    };
    let sound = |told: &Judgement, cylinder: u32| {
        at(told, cylinder).ranked.iter().find(|one| one.cause.is_none()).unwrap().p
    };
    let (told, checked) = (odd(ROUGH), odd(&[Symptom::CheckAndClean]));
    assert!(sound(&told, 2) < sound(&checked, 2), "more is believed of what is left");
    let explains = |told: &Judgement| {
        let evidence = at(told, 2).ranked.iter().flat_map(|one| &one.evidence);
        evidence.filter(|one| one.says == words::COMPLAINT_NEEDS_CAUSE).count()
    };
    assert!(explains(&told) > 0 && explains(&checked) == 0, "and the page says so");
    assert!(told.positions.iter().all(|at| !matches!(at.ruling.decision, Replace | Adjust)));
}

#[test]
fn a_stored_code_names_its_cylinder_as_a_person_does() {
    let cases: [(&str, Option<u32>); 14] = [
        ("P0301", Some(1)),
        ("P0302", Some(2)),
        ("p0303", Some(3)),
        ("P0304", Some(4)),
        ("P0201", Some(1)),
        ("P0204", Some(4)),
        ("P0261", Some(1)),
        ("P0265", Some(2)),
        ("P0269", Some(3)),
        ("P0270", Some(4)),
        ("P0300", None),
        ("P0308", None),
        ("P0087, U0100", None),
        ("", None),
    ];
    let of = |codes: &str, named: Vec<u32>| {
        let mut file = job(PetrolPort, ROUGH);
        codes.clone_into(&mut file.job.intake.story.codes);
        file.job.intake.story.cylinders = named;
        file
    };
    for (codes, cylinder) in cases {
        let (by_code, by_hand) = (of(codes, Vec::new()), of("", cylinder.into_iter().collect()));
        for place in 1..=4 {
            let told = story::named(&by_code.job.intake, place);
            assert_eq!(told, cylinder.map(|named| named == place), "{codes} {place}");
        }
        let (one, other) = (judge_file(&by_code), judge_file(&by_hand));
        let odds = |told: &Judgement, cylinder: u32| at(told, cylinder).ranked.clone();
        (1..=4).for_each(|cylinder| {
            assert_eq!(odds(&one, cylinder), odds(&other, cylinder), "{codes}");
        });
    }
    // Several, in any form.
    let two = of("stored: P0302; pending P0204.", Vec::new());
    let named: Vec<u32> =
        (1..=4).filter(|c| story::named(&two.job.intake, *c) == Some(true)).collect();
    assert_eq!(named, [2, 4]);
}

#[test]
fn a_healthy_engine_has_no_injectors_exchanged_and_a_fair_swap_says_which() {
    for symptoms in [ROUGH, &[Symptom::LowPower], &[Symptom::HighConsumption]] {
        let even = limited(thrice(82.0, [22.0, 23.0, 24.0, 23.0]), 24.0);
        let mut file = returned(symptoms, even);
        file.sheets.push(sheet(
            EngineTest::DiBalance,
            20,
            &[],
            &[("change", &[300.0, 302.0, 299.0, 301.0])],
        ));
        file.sheets.push(cut_even(21));
        let told = judge_file(&file);
        assert!(told.next.iter().all(|one| one.step != "swap"), "{symptoms:?}");
        assert_ne!(told.step.step.as_ref().map(|id| id.0.as_str()), Some("swap"), "{symptoms:?}");
    }
    let cells = [("temperature", 20.0), ("leads", 0.1)];
    let coil = sheet(EngineTest::CoilResistance, 3, &cells, &[("ohms", &[12.1, 12.0, 12.1, 12.2])]);
    let cells = [("feed", 0.0), ("battery", 12.6), ("load", 1.0)];
    let supply = sheet(EngineTest::Supply, 2, &cells, &[("volts", &[12.4; 4])]);
    let mut odd = with(job(PetrolPort, ROUGH), vec![cut(1, 3), supply, coil]);
    // Everything that tells it sooner is left out: a swap is what is left.
    for (nth, test) in (10..).zip(EngineTest::ALL) {
        let step = crate::plan::Step::Test(*test).id();
        let reason = "no tool".to_owned();
        odd.events.push(event(nth, Event::StepSkipped { step, reason }));
    }
    let told = judge_file(&odd);
    let swap = told.next.iter().find(|one| one.step == "swap").expect("injector or spark");
    assert_eq!(swap.cylinders, [3, 4]);
    assert!(swap.title.contains("3 and 4") && swap.title.contains("marked"), "{}", swap.title);
}

#[test]
fn a_complaint_that_nothing_explains_is_said_where_no_check_is_left() {
    let even = || limited(thrice(82.0, [22.0, 23.0, 24.0, 23.0]), 40.0);
    for (symptoms, explained) in
        [(ROUGH, false), (&[Symptom::LowPower][..], false), (&[Symptom::CheckAndClean], true)]
    {
        let mut file = returned(symptoms, even());
        let steps = EngineTest::ALL.iter().map(|test| crate::plan::Step::Test(*test).id());
        let others = ["bench", "codes", "swap"].map(|step| StepId(step.to_owned()));
        let steps = steps.chain(others);
        for (nth, step) in (10..).zip(steps) {
            let reason = "no tool".to_owned();
            file.events.push(event(nth, Event::StepSkipped { step, reason }));
        }
        let told = judge_file(&file);
        assert!(told.positions.iter().all(|at| at.ruling.decision == Leave), "{}", told.headline);
        assert_eq!(told.step.stage, Stage::Decide, "{symptoms:?}");
        let none_left = told.step.why == words::NO_REMAINING_CHECK_WOULD;
        assert_eq!(none_left, !explained, "{symptoms:?}: {}", told.step.why);
    }
}

fn cut_even(minute: i64) -> SheetRecord {
    let cells = [("base", 800.0)];
    sheet(EngineTest::Cutout, minute, &cells, &[("cut", &[740.0, 741.0, 739.0, 740.0])])
}

#[test]
fn a_doubted_unit_or_decimal_waits_for_its_answer() {
    let coil = |minute: i64, values: &[f64; 4]| {
        sheet(
            EngineTest::CoilResistance,
            minute,
            &[("temperature", 20.0), ("leads", 0.1)],
            &[("ohms", values)],
        )
    };
    for (slipped, cylinder) in [
        ([1.2, 12.1, 12.0, 12.2], 1),
        ([12.2, 1.21, 12.0, 12.2], 2),
        ([12.2, 12.1, 120.0, 12.2], 3),
        ([12.2, 12.1, 12.0, 122.0], 4),
    ] {
        let mut file = with(job(PetrolPort, ROUGH), vec![coil(1, &slipped)]);
        let told = judge_file(&file);
        let ruling = &at(&told, cylinder).ruling;
        assert_eq!((ruling.decision, ruling.why), (MeasureAgain, Why::Doubtful), "{slipped:?}");
        assert!(ruling.sentence.contains("decimal"), "{}", ruling.sentence);
        assert_eq!(ruling.asks.as_deref(), Some("coil_resistance"));
        let sound = at(&told, cylinder).ranked.iter().find(|one| one.cause.is_none()).unwrap().p;
        assert!(sound > 0.5, "it weighs nothing: {sound}");
        // Read again as before, it was no slip.
        file.sheets.push(coil(5, &slipped));
        let told = judge_file(&file);
        assert_eq!(at(&told, cylinder).ruling.decision, Replace, "{}", told.headline);
    }
    // A unit of its own among bars: asked about, and no cylinder is called worn for it.
    let bars = [1200.0, 1210.0, 1200.0 * 6.894_757, 1190.0];
    let file = with(
        job(PetrolPort, ROUGH),
        vec![sheet(EngineTest::Compression, 1, &[("method", 0.0)], &[("pressure", &bars)])],
    );
    let told = judge_file(&file);
    assert_eq!(at(&told, 3).ruling.why, Why::Doubtful, "{}", at(&told, 3).ruling.sentence);
    // In a wire tenfold is the fault itself.
    let legs = sheet(EngineTest::Supply, 1, &[("feed", 1.0)], &[("leg", &[0.2, 0.2, 2.1, 0.2])]);
    let told = judge_file(&with(job(DieselSolenoid, ROUGH), vec![legs]));
    assert_eq!(at(&told, 3).ruling.decision, RepairHarness, "{}", at(&told, 3).ruling.sentence);
}

#[test]
fn the_usual_value_speaks_where_the_set_cannot_and_condemns_nobody() {
    let of = |levels: [f64; 4]| judge_file(&returned(ROUGH, thrice(82.0, levels)));
    // Two camps: the upper one lies above the usual, the lower one does not.
    for levels in [[22.0, 60.0, 61.0, 23.0], [22.0, 90.0, 88.0, 23.0], [20.0, 55.0, 21.0, 57.0]] {
        let told = of(levels);
        let high = levels.iter().zip(1..).filter(|(ml, _)| **ml > 50.0).map(|(_, c)| c);
        for cylinder in high {
            let at = at(&told, cylinder);
            assert_eq!(at.ruling.decision, MeasureAgain, "{levels:?}");
            let first = at.ranked.iter().find(|one| one.cause.is_some()).unwrap();
            assert!(
                first.p > 0.5 && first.word.contains("leaking off"),
                "{} {}",
                first.word,
                first.p
            );
        }
        for at in told.positions.iter().filter(|at| levels[at.cylinder as usize - 1] < 50.0) {
            let first = at.ranked.first().unwrap();
            assert!(
                first.cause.is_none() && first.p > 0.6,
                "{levels:?} {} {}",
                first.word,
                first.p
            );
        }
    }
    // All alike: within the usual they are left, above it the level is not known.
    assert!(of([22.0, 23.0, 22.5, 23.0]).positions.iter().all(|at| at.ruling.decision == Leave));
    for all in [75.0, 85.0, 95.0] {
        let told = of([all, all + 1.0, all - 1.0, all]);
        assert!(told.positions.iter().all(|at| at.ruling.decision == MeasureAgain), "{all}");
        assert!(at(&told, 1).ruling.sentence.contains("usual"), "{}", at(&told, 1).ruling.sentence);
    }
    // With a limit the limit knows the level.
    let told = judge_file(&returned(ROUGH, limited(thrice(82.0, [75.0, 76.0, 74.0, 75.0]), 60.0)));
    assert!(told.positions.iter().all(|at| at.ruling.decision == Leave), "{}", told.headline);
    // High among the others, and all of it well within the usual: no injector is bought for that.
    let told = of([15.0, 24.0, 16.0, 15.5]);
    assert_ne!(at(&told, 2).ruling.decision, Replace, "{}", at(&told, 2).ruling.sentence);
}

#[test]
fn one_full_bottle_among_empty_ones_is_the_finding() {
    for full in 1..=4_u32 {
        for ml in [60.0, 80.0, 96.0] {
            let mut levels = [0.0; 4];
            levels[full as usize - 1] = ml;
            let told = judge_file(&returned(ROUGH, thrice(82.0, levels)));
            let ruling = &at(&told, full).ruling;
            assert_eq!(
                (ruling.decision, ruling.why),
                (Replace, Why::Worn),
                "{ml}: {}",
                ruling.sentence
            );
            assert!(
                told.positions.iter().all(|at| at.cylinder == full || at.ruling.decision == Leave)
            );
        }
    }
    // Two full ones are two camps, and none is condemned for it.
    let told = judge_file(&returned(ROUGH, thrice(82.0, [60.0, 0.0, 0.0, 62.0])));
    assert!(told.positions.iter().all(|at| at.ruling.decision != Replace), "{}", told.headline);
}

#[test]
fn one_reading_of_a_coil_is_made_again_before_an_injector_is_bought() {
    let coil = |minute: i64, ohms: f64| {
        let cells = [("temperature", 20.0), ("leads", 0.1)];
        let values = [12.2, ohms, 12.0, 12.1];
        let mut sheet = sheet(EngineTest::CoilResistance, minute, &cells, &[("ohms", &values)]);
        sheet.limit = Some(limit(LimitCheck::CoilResistance, "", [Some(11.0), Some(14.0)]));
        sheet
    };
    for ohms in [8.0, 9.0, 16.5] {
        let mut file = with(job(PetrolPort, ROUGH), vec![coil(1, ohms)]);
        let ruling = at(&judge_file(&file), 2).ruling.clone();
        assert_eq!((ruling.decision, ruling.why), (MeasureAgain, Why::MoreRuns), "{ohms}");
        assert_eq!(ruling.asks.as_deref(), Some("coil_resistance"));
        file.sheets.push(coil(5, ohms));
        assert_eq!(at(&judge_file(&file), 2).ruling.why, Why::CoilDead, "{ohms}, twice");
    }
}

#[test]
fn one_odd_run_of_four_does_not_hold_up_what_three_agree_on() {
    for odd in 1..=4_usize {
        let mut runs = [[22.0, 60.0, 24.0, 23.0]; 4];
        runs[odd - 1][1] = 22.0;
        let of = |n: usize| -> Judgement {
            let levels: Vec<&[f64]> = runs.iter().take(n).map(<[f64; 4]>::as_slice).collect();
            judge_file(&returned(ROUGH, limited(return_test(82.0, &levels), 24.0)))
        };
        let ruling = at(&of(4), 2).ruling.clone();
        assert_eq!((ruling.decision, ruling.why), (Replace, Why::Worn), "{}", ruling.sentence);
        assert!(
            ruling.sentence.contains(&format!("Run {odd} does not fit")),
            "{}",
            ruling.sentence
        );
        if odd < 4 {
            assert_eq!(at(&of(3), 2).ruling.why, Why::RunOdd, "two that agree are too few");
        }
    }
}

#[test]
fn above_the_others_by_less_than_its_runs_scatter_says_nothing() {
    let of = |runs: &[&[f64]]| judge_file(&returned(ROUGH, return_test(82.0, runs)));
    let wild: [&[f64]; 5] = [
        &[90.0, 16.0, 15.0, 15.0],
        &[16.0, 16.0, 15.0, 15.0],
        &[50.0, 17.0, 15.0, 14.0],
        &[16.0, 16.0, 15.0, 15.0],
        &[15.0, 16.0, 16.0, 15.0],
    ];
    let ruling = at(&of(&wild), 1).ruling.clone();
    assert_eq!(ruling.decision, MeasureAgain, "{}", ruling.sentence);
    let steady: [&[f64]; 3] = [&[70.0, 16.0, 15.0, 15.0]; 3];
    assert_eq!(at(&of(&steady), 1).ruling.decision, Replace);
}
