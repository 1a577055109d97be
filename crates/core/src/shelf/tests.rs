//! The shelf: what counts of an injector, and what is said of a set.

use super::*;
use crate::calc::decide::LimitState;
use crate::engine::FuelSystem;
use crate::library::FamilyKind;
use crate::matching::Progress;
use crate::record::{DecisionRecord, Event, Injector, JobFile, Part};
use crate::sample::{at, event, job, sheet};
use crate::tests::bench::tests::{family, session};
use crate::tests::bench::{BenchTest, RoundStage, SessionRecord};
use crate::tests::engine::EngineTest;
use crate::work::Decision;
use std::ops::ControlFlow;
use uuid::Uuid;

fn quietly(_: Progress) -> ControlFlow<()> {
    ControlFlow::Continue(())
}

/// Four of one family on the flow bench: 15 s held open, and 2000 pulses of 2.5 ms.
fn flowed(open: [f64; 4], idle: [f64; 4]) -> SessionRecord {
    let kind = BenchKind::Petrol;
    session(kind, &[family("F", FamilyKind::PetrolPortHigh, Vec::new())], &["F"; 4])
        .set(BenchTest::Flow, &[("pressure", 300.0), ("fluid", 1.0)])
        .tubes(BenchTest::Flow, Some(6), "volume", &open)
        .tubes(BenchTest::Flow, Some(1), "volume", &idle)
}

fn with(sessions: Vec<SessionRecord>) -> JobFile {
    JobFile { bench: sessions, ..job(FuelSystem::PetrolPort, &[]) }
}

fn shelf_of(file: &JobFile) -> Vec<Tested> {
    file.tested(&file.judged().unwrap()).unwrap()
}

const OPEN: [f64; 4] = [62.5, 62.5, 63.0, 70.0];
const IDLE: [f64; 4] = [29.0, 29.0, 29.0, 33.0];

#[test]
fn an_injector_stands_on_the_shelf_with_its_newest_values() {
    let mut file = with(vec![flowed(OPEN, IDLE)]);
    let coils = sheet(
        EngineTest::CoilResistance,
        2,
        &[("temperature", 20.0), ("leads", 0.0)],
        &[("ohms", &[14.1, 14.2, 14.3, 14.4])],
    );
    file.sheets.push(coils);
    let shelf = shelf_of(&file);
    let of = |feature| shelf[0].value(feature).unwrap();
    let flow = of(ShelfFeature::StaticFlow);
    assert!((flow.value - 250.0).abs() < 1e-9, "62.5 ml in 15 s at the reference: {flow:?}");
    let u = 0.5 / 12.0_f64.sqrt() * 4.0;
    assert!((flow.u - u).abs() < 1e-9, "a mark of 0.5 ml, four times a minute: {flow:?}");
    let short = of(ShelfFeature::ShortPulse);
    assert!((short.value - 14.5).abs() < 1e-9, "29 ml in 2000 pulses: {short:?}");
    assert_eq!((short.pulse_ms, short.condition.as_str()), (Some(2.5), "2.5 ms"));
    assert!((of(ShelfFeature::Resistance).value - 14.1).abs() < 1e-9);
    assert!(shelf.iter().all(|one| one.held_back.is_none()), "being unlike is no fault here");
}

#[test]
fn what_was_read_before_a_cleaning_no_longer_counts() {
    let cleaned = flowed(OPEN, IDLE).then(RoundStage::Cleaned).tubes(
        BenchTest::Flow,
        Some(6),
        "volume",
        &[63.0; 4],
    );
    let shelf = shelf_of(&with(vec![cleaned]));
    assert_eq!(shelf[0].value(ShelfFeature::ShortPulse), None, "idle was not run again");
    let flow = shelf[0].value(ShelfFeature::StaticFlow).unwrap();
    assert_eq!(flow.condition, "held open, as measured", "the new round has no pressure");
    assert_eq!(shelf[0].round, "cleaned");
}

#[test]
fn one_that_drips_or_is_to_be_replaced_is_held_back() {
    let drips = flowed(OPEN, IDLE)
        .set(BenchTest::Leak, &[("pressure", 300.0), ("seconds", 60.0)])
        .tubes(BenchTest::Leak, None, "drops", &[0.0, 9.0, 0.0, 0.0]);
    let mut file = with(vec![drips]);
    file.decisions.push(DecisionRecord {
        id: Uuid::now_v7(),
        cylinder: 4,
        decision: Decision::Replace,
        reason: "worn".to_owned(),
        proposed: None,
        signed: at(30),
    });
    let shelf = shelf_of(&file);
    let held: Vec<Option<&str>> = shelf.iter().map(|one| one.held_back.as_deref()).collect();
    assert_eq!(held[0], None);
    assert!(held[1].is_some_and(|why| why.starts_with("Leak")), "{held:?}");
    assert_eq!(held[3], Some("Decided: replace."));
    // Taken out, it is no better than it was.
    let new = Injector { id: Uuid::from_u128(40), cylinder: 4, label: "N".to_owned() };
    file.events.push(event(31, Event::Replaced { injector: new, part: Part::New }));
    assert_eq!(shelf_of(&file)[3].held_back.as_deref(), Some("Decided: replace."));
    let ask = pairs();
    let again = with(vec![file.bench[0].clone().then(RoundStage::Cleaned).tubes(
        BenchTest::Flow,
        Some(6),
        "volume",
        &OPEN,
    )]);
    let why = shelf_of(&again)[1].held_back.clone().unwrap_or_default();
    assert!(why.contains("as received"), "a leak is not forgotten by not looking: {why}");
    let out = sets(&shelf, &ask, &mut quietly).unwrap();
    assert_eq!(out.sets.len(), 1);
    assert_eq!(labels(&out.sets[0]), ["L1", "L3"]);
    let why: Vec<&str> = out.leftovers.iter().map(|left| left.why.as_str()).collect();
    assert!(why.iter().all(|why| why.starts_with("Not refitted. ")), "{why:?}");
    let brought = MatchAsk { brought_in: vec![Uuid::from_u128(2)], ..ask };
    let out = sets(&shelf, &brought, &mut quietly).unwrap();
    assert_eq!(labels(&out.sets[0]), ["L1", "L2"], "used all the same, as it was asked");
}

fn pairs() -> MatchAsk {
    MatchAsk {
        features: vec![FeatureAsk { feature: ShelfFeature::StaticFlow, tolerance: 0.02 }],
        size: 2,
        ..MatchAsk::default()
    }
}

fn labels(set: &MadeSet) -> Vec<&str> {
    set.members.iter().map(|member| member.label.as_str()).collect()
}

#[test]
fn a_set_that_the_tubes_cannot_tell_is_not_called_matched() {
    let shelf = shelf_of(&with(vec![flowed([62.5, 62.5, 63.5, 70.0], IDLE)]));
    let alike = sets(&shelf, &pairs(), &mut quietly).unwrap();
    let span = &alike.sets[0].spans[0];
    assert_eq!((span.state, span.apart), (LimitState::Within, 0.0), "{span:?}");
    assert_eq!(alike.sets[0].says, "Matched, beyond bench error.");
    assert_eq!(alike.says, "1 set of 2, 2 left over. No further set is possible.");
    let three = MatchAsk { size: 3, ..pairs() };
    let close = sets(&shelf, &three, &mut quietly).unwrap();
    let span = &close.sets[0].spans[0];
    assert_eq!(span.state, LimitState::Undecided, "1.6 % of 2 % by tubes that carry 0.3 %");
    assert!(close.sets[0].says.contains("inside the bench error"), "{}", close.sets[0].says);
}

#[test]
fn what_was_read_under_other_conditions_is_not_compared_and_says_so() {
    let mut shelf = shelf_of(&with(vec![flowed(OPEN, IDLE)]));
    let at = shelf[2].values.iter().position(|v| v.feature == ShelfFeature::StaticFlow).unwrap();
    shelf[2].values[at].condition = "held open, as measured".to_owned();
    let out = sets(&shelf, &pairs(), &mut quietly).unwrap();
    assert_eq!(labels(&out.sets[0]), ["L1", "L2"]);
    let left = out.leftovers.iter().find(|left| left.label == "L3").unwrap();
    assert_eq!(
        left.why,
        "Its static flow was measured differently: held open, as measured; the others: held open."
    );
}

#[test]
fn a_kept_set_stays_whether_it_is_one_by_what_is_asked_now_or_not() {
    let shelf = shelf_of(&with(vec![flowed(OPEN, IDLE)]));
    let kept = |ids: &[u128]| vec![ids.iter().map(|id| Uuid::from_u128(*id)).collect::<Vec<_>>()];
    let alike = MatchAsk { pinned: kept(&[1, 3]), ..pairs() };
    let out = sets(&shelf, &alike, &mut quietly).unwrap();
    assert_eq!((out.sets.len(), out.sets[0].pinned), (1, true));
    assert_eq!(labels(&out.sets[0]), ["L1", "L3"], "and not L1 with L2, who are closer");
    // One of it left the shelf, and the other two are too far apart: it is in nobody's way.
    let apart = MatchAsk { pinned: kept(&[1, 4, 99]), ..pairs() };
    let out = sets(&shelf, &apart, &mut quietly).unwrap();
    assert_eq!(labels(&out.sets[0]), ["L2", "L3"]);
    assert!(out.leftovers.iter().all(|left| left.why == "In a saved set."));
}
