//! Corners: jobs in which an easy answer is the wrong one. Each with its decisions and the code of
//! the sentence.

mod bench;
mod groups;
mod search;
mod shared;
mod texts;
mod thread;

use super::golden::{benched, flowed, later, limited, returned, thrice, with};
use super::*;
use crate::engine::Layout;
use crate::judged::Judged;
use crate::library::{FamilyKind, LimitCheck};
use crate::record::{Event, Injector, Part, SheetRecord};
use crate::sample::{at, event, job, return_test, sheet};
use crate::tests::bench::tests::{diesel, family, limit, session};
use crate::tests::bench::{BenchKind, BenchTest, RoundStage, SessionRecord};
use crate::tests::engine::EngineTest;
use crate::work::{Decision, Regime, Suffers, Symptom};
use uuid::Uuid;

use Decision::{Adjust, Clean, Leave, LookElsewhere, MeasureAgain, Recode, RepairHarness, Replace};
use FuelSystem::{DieselSolenoid, ExhaustDoser, PetrolPort};

const ROUGH: &[Symptom] = &[Symptom::RoughIdle];

/// The decisions by cylinder, and why of one of them.
fn case(
    name: &str,
    file: &JobFile,
    decisions: &[Decision],
    (cylinder, why): (u32, Why),
) -> Judgement {
    let judgement = judge_file(file);
    let mut by: Vec<&Position> = judgement.positions.iter().collect();
    by.sort_by_key(|at| at.cylinder);
    let made: Vec<Decision> = by.iter().map(|p| p.ruling.decision).collect();
    let at = by.iter().find(|at| at.cylinder == cylinder).unwrap();
    let causes: Vec<_> =
        at.ranked.iter().take(4).map(|r| (r.word.as_str(), (100.0 * r.p).round())).collect();
    let ruling = &at.ruling;
    let told = format!("{name}: {made:?} {:?} {} {causes:?}", ruling.why, ruling.sentence);
    if std::env::var("CORNERS").is_ok() {
        println!(
            "{}{told}",
            if made == decisions && ruling.why == why { "ok   " } else { "DIFF " }
        );
    } else {
        assert_eq!(made, decisions, "{told}");
        assert_eq!(ruling.why, why, "{told}");
    }
    assert!(ruling.sentence.ends_with('.'), "{told}");
    judgement
}

fn cylinders(mut file: JobFile, n: u32) -> JobFile {
    file.job.intake.layout = Layout { cylinders: n, ..file.job.intake.layout };
    file.job.injectors = (1..=n)
        .map(|cylinder| Injector {
            id: Uuid::from_u128(u128::from(cylinder)),
            cylinder,
            label: format!("L{cylinder}"),
        })
        .collect();
    file
}

fn six(levels: [f64; 6], regime: Regime, spare: Option<f64>) -> JobFile {
    let mut test = return_test(82.0, &[&levels, &levels, &levels]);
    test.setup.regime = regime;
    test.setup.pump_spare_ml_min = spare;
    let symptoms: &[Symptom] = if regime == Regime::Cranking { &[Symptom::NoStart] } else { ROUGH };
    cylinders(returned(symptoms, test), 6)
}

#[test]
fn a_reading_that_cannot_be_right_is_questioned_before_the_part() {
    let runs: &[&[f64]] =
        &[&[22.0, 22.0, 24.0, 23.0], &[22.5, 90.0, 24.0, 23.0], &[22.0, 23.0, 23.5, 23.0]];
    let odd = returned(ROUGH, return_test(82.0, runs));
    case(
        "one run of three out of line",
        &odd,
        &[Leave, MeasureAgain, Leave, Leave],
        (2, Why::RunOdd),
    );
    let odd = returned(ROUGH, limited(return_test(82.0, runs), 24.0));
    case("the same with a limit", &odd, &[Leave, MeasureAgain, Leave, Leave], (2, Why::RunOdd));
    let three = returned(ROUGH, thrice(82.0, [60.0, 61.0, 22.0, 62.0]));
    case("three high or one doubtful", &three, &[MeasureAgain; 4], (1, Why::Doubtful));
    let far = six([23.0, 24.0, 10.0, 22.0, 23.0, 24.0], Regime::IdleOnly, None);
    let others = [Leave, Leave, MeasureAgain, Leave, Leave, Leave];
    case("far below five that agree", &far, &others, (3, Why::Doubtful));
    let far = returned(ROUGH, limited(thrice(82.0, [23.0, 10.0, 24.0, 22.0]), 20.0));
    case(
        "far below, inside its limit",
        &far,
        &[Leave, MeasureAgain, Leave, Leave],
        (2, Why::Doubtful),
    );
    let all = returned(ROUGH, limited(thrice(82.0, [40.0, 41.0, 40.0, 41.0]), 15.0));
    case("all over the limit alike", &all, &[MeasureAgain; 4], (3, Why::AllAlikeOff));
}

#[test]
fn cranking_and_single_cylinders() {
    let bad = six([8.0, 8.2, 26.0, 8.1, 7.9, 8.0], Regime::Cranking, None);
    let releases = [Leave, Leave, Replace, Leave, Leave, Leave];
    case("five even while cranking, one clearly bad", &bad, &releases, (3, Why::Worn));
    let all = six([12.0, 12.2, 12.1, 12.1, 11.9, 12.0], Regime::Cranking, Some(20.0));
    case("all alike, together over the pump", &all, &[MeasureAgain; 6], (1, Why::AllAlikeOff));
    let fine = six([2.0, 2.2, 2.1, 2.1, 1.9, 2.0], Regime::Cranking, Some(20.0));
    case("all alike, within the pump", &fine, &[Leave; 6], (1, Why::NothingAgainst));
    let one = |level: f64, upper: Option<f64>| {
        let test = return_test(82.0, &[&[level], &[level], &[level]]);
        let test = upper.map_or_else(|| test.clone(), |upper| limited(test.clone(), upper));
        cylinders(returned(ROUGH, test), 1)
    };
    case("a single cylinder over its limit", &one(60.0, Some(20.0)), &[Replace], (1, Why::Worn));
    case("a single cylinder inside", &one(22.0, Some(20.0)), &[Leave], (1, Why::NothingAgainst));
    case(
        "a single cylinder without a limit",
        &one(22.0, None),
        &[MeasureAgain],
        (1, Why::Doubtful),
    );
}

fn cut(minute: i64, weak: usize) -> SheetRecord {
    let mut rpm = [720.0, 722.0, 721.0, 718.0];
    rpm[weak - 1] = 795.0;
    sheet(EngineTest::Cutout, minute, &[("base", 800.0)], &[("cut", &rpm)])
}

#[test]
fn swaps_there_and_back_and_alone() {
    let test = |minute: i64, bad: usize| {
        let mut levels = [22.0, 23.0, 24.0, 22.5];
        levels[bad - 1] = 60.0;
        later(thrice(82.0, levels), minute)
    };
    let swap = |minute| event(minute, Event::Swapped { one: 2, other: 3 });
    let mut back = returned(ROUGH, test(1, 2));
    back.return_tests.extend([test(40, 3), test(80, 2)]);
    back.events = vec![swap(20), swap(60)];
    case(
        "there and back, the fault with it",
        &back,
        &[Leave, Replace, Leave, Leave],
        (2, Why::Worn),
    );
    // The way back alone, nothing read after it: what the way there said still holds.
    let mut half = back.clone();
    half.return_tests.pop();
    let half = judge_file(&half);
    assert_eq!(half.positions[1].ruling.decision, Replace, "{:?}", half.positions[1].ruling);

    let mut alone = with(job(PetrolPort, ROUGH), vec![cut(1, 2), cut(40, 3)]);
    alone.events = vec![swap(20)];
    let told = case(
        "a cut-out and a swap, nothing measured on it",
        &alone,
        &[Leave, Leave, MeasureAgain, Leave],
        (3, Why::InjectorUnclear),
    );
    let sure = |at: &Position| at.ranked.iter().filter(|one| one.p > 0.8).count();
    assert!(told.positions.iter().all(|at| sure(at) <= 1), "one state is true");
    let mut stays = with(job(PetrolPort, ROUGH), vec![cut(1, 2), cut(40, 2)]);
    stays.events = vec![swap(20)];
    case(
        "a weak cut-out that stays",
        &stays,
        &[Leave, LookElsewhere, Leave, Leave],
        (2, Why::PlaceUnclear),
    );
}

#[test]
fn what_was_fitted_new() {
    let new = Injector { id: Uuid::from_u128(50), cylinder: 2, label: "N".to_owned() };
    let fitted = event(20, Event::Replaced { injector: new, part: Part::New });
    let mut worse = returned(ROUGH, thrice(82.0, [22.0, 60.0, 24.0, 23.0]));
    worse.return_tests.push(later(thrice(82.0, [22.0, 75.0, 24.0, 23.0]), 40));
    worse.events = vec![fitted.clone()];
    case(
        "the new one reads worse than the old",
        &worse,
        &[Leave, MeasureAgain, Leave, Leave],
        (2, Why::NewAsBad),
    );
    let mut uncoded = worse;
    uncoded.return_tests[1] = later(thrice(82.0, [22.0, 23.0, 24.0, 23.0]), 40);
    case("new, even, and never coded", &uncoded, &[Leave, Recode, Leave, Leave], (2, Why::Uncoded));
}

fn coils(ohms: &[f64], set: &[(&str, f64)], window: Option<[f64; 2]>) -> SheetRecord {
    let mut coils = sheet(EngineTest::CoilResistance, 4, set, &[("ohms", ohms)]);
    coils.limit =
        window.map(|[low, high]| limit(LimitCheck::CoilResistance, "", [Some(low), Some(high)]));
    coils
}

#[test]
fn coils_and_meters() {
    let set: &[(&str, f64)] = &[("temperature", 20.0), ("leads", 0.1)];
    let one = |sheets| with(job(PetrolPort, ROUGH), sheets);
    let open = one(vec![coils(&[14.4, 250_000.0, 14.3, 14.4], set, None)]);
    case(
        "open without a limit",
        &open,
        &[MeasureAgain, Replace, MeasureAgain, MeasureAgain],
        (2, Why::CoilDead),
    );
    let works = one(vec![coils(&[14.4, 250_000.0, 14.3, 14.4], set, None), cut(9, 4)]);
    let told = judge_file(&works);
    assert_eq!(
        (told.positions[1].ruling.decision, told.positions[1].ruling.why),
        (MeasureAgain, Why::Contradiction)
    );
    let alike = one(vec![coils(&[19.0, 19.1, 19.0, 18.9], set, Some([13.0, 16.0]))]);
    case("all off by the same share", &alike, &[MeasureAgain; 4], (1, Why::AllAlikeOff));
    let coarse = with(job(DieselSolenoid, ROUGH), vec![coils(&[0.3, 0.3, 0.4, 0.3], set, None)]);
    case("a meter that cannot decide", &coarse, &[MeasureAgain; 4], (3, Why::CannotDecide));
    let verdict = coarse.judged().unwrap().sheets[0].as_ref().unwrap().clone();
    assert!(
        verdict.headline.contains("cannot decide")
            && verdict.lanes.iter().all(|l| l.said.code == Code::CANNOT_DECIDE)
    );
    let cold = one(vec![coils(&[14.4, 14.5, 14.3, 14.4], &[("leads", 0.1)], None)]);
    let verdict = cold.judged().unwrap().sheets[0].as_ref().unwrap().clone();
    assert!(verdict.unit == "Ω as measured" && verdict.lanes[0].value == Some(14.4 - 0.1));
}

#[test]
fn a_decision_whose_readings_changed_says_so_until_the_work_has_begun() {
    use crate::record::{DecisionRecord, Signed};
    let mut file = returned(ROUGH, thrice(82.0, [22.0, 60.0, 24.0, 23.0]));
    let decided = |cylinder, decision| DecisionRecord {
        id: Uuid::now_v7(),
        cylinder,
        decision,
        reason: "as measured".to_owned(),
        proposed: None,
        signed: Signed { by: Uuid::nil(), ..at(10) },
    };
    file.decisions = vec![decided(1, Leave), decided(2, Replace)];
    assert_eq!(overtaken(&file), []);
    let mut aside = file.clone();
    aside.return_tests[0].runs[1].set_aside = Some(crate::record::SetAside {
        reason: "a hose came off".to_owned(),
        back: false,
        nth: 0,
        signed: at(12),
    });
    let says = |file: &JobFile| overtaken(file).into_iter().map(|one| one.says).collect::<Vec<_>>();
    assert_eq!(says(&aside), vec!["Since this decision: 1 run excluded. Decide again."; 2]);
    let mut followed = file.clone();
    followed.return_tests.push(later(thrice(82.0, [22.0, 24.0, 24.0, 23.0]), 20));
    assert_eq!(says(&followed)[1], "Since this decision: 3 readings added. Decide again.");
    let mut proof = followed.clone();
    let new = Injector { id: Uuid::from_u128(50), cylinder: 2, label: "N".to_owned() };
    proof.events = vec![event(15, Event::Replaced { injector: new, part: Part::New })];
    assert_eq!(overtaken(&proof), [], "what is read after the work is its proof");
}

#[test]
fn a_comeback_begins_with_what_was_left_out() {
    use crate::proving::ProveId;
    let mut file = returned(ROUGH, thrice(82.0, [22.0, 23.0, 24.0, 23.0]));
    file.events = vec![
        event(50, Event::Closed { exceptions: vec![ProveId::Drive] }),
        event(
            90,
            Event::Reopened {
                comeback: true,
                reason: "rough again".to_owned(),
                symptoms: Vec::new(),
            },
        ),
    ];
    let step = judge_file(&file).step;
    assert!(
        step.title.contains("skipped last time") && step.stage == crate::work::Stage::Prove,
        "{step:?}"
    );
    file.return_tests.push(later(thrice(82.0, [22.0, 60.0, 24.0, 23.0]), 100));
    assert!(!judge_file(&file).step.title.contains("skipped"), "once something is read it goes on");
}

#[test]
fn a_complaint_that_nothing_explains_asks_on_and_what_was_left_out_is_not_asked_again() {
    let alike = |symptoms: &[Symptom]| {
        let test = thrice(82.0, [22.0, 22.5, 22.0, 21.5]);
        let mut file = returned(symptoms, test);
        let fields = [720.0, 722.0, 719.0, 721.0];
        file.sheets = vec![sheet(EngineTest::Cutout, 30, &[("base", 800.0)], &[("cut", &fields)])];
        file
    };
    let rough = alike(ROUGH);
    let told = judge_file(&rough);
    assert!(told.positions.iter().all(|at| at.ruling.decision == Leave), "{}", told.headline);
    assert_ne!(told.step.stage, crate::work::Stage::Decide, "the complaint is still there");
    let checked = judge_file(&alike(&[Symptom::CheckAndClean]));
    let bench = checked.step.step.as_ref().map(|id| id.0.as_str());
    assert_eq!(bench, Some("bench"), "they came to be tested and cleaned, and none was on a bench");

    // Every proposal is left out in its turn: each is asked once, and then it is decided.
    let (mut file, mut asked) = (rough, Vec::new());
    for minute in 100..130 {
        let step = judge_file(&file).step;
        if step.stage == crate::work::Stage::Decide {
            break;
        }
        let id = step.step.expect("a check that can be left out");
        assert!(!asked.contains(&id), "{id:?} was left out");
        asked.push(id.clone());
        let reason = "not at hand".to_owned();
        file.events.push(event(minute, Event::StepSkipped { step: id, reason }));
    }
    assert!(asked.len() > 2, "{asked:?}");
    assert_eq!(judge_file(&file).step.stage, crate::work::Stage::Decide);
}
