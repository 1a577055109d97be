use super::*;
use crate::engine::FuelSystem;
use crate::fitting::FitStep;
use crate::record::{DecisionRecord, Event, Injector, JobFile, Part, TestRecord};
use crate::sample::{at, event, job, return_test};
use crate::work::{ComplaintNow, Decision, Symptom};
use uuid::Uuid;

mod laws;

/// A return test whose readings were all taken at this minute.
fn returned(celsius: f64, minute: i64, levels: &[f64]) -> TestRecord {
    let mut test = return_test(celsius, &[levels, levels, levels]);
    test.signed = at(minute);
    for reading in test.runs.iter_mut().flat_map(|run| &mut run.readings) {
        reading.signed = at(minute);
    }
    test
}

/// Cylinder 2 failed the return test in minute 1, was decided in 5, and is fitted in 10.
fn fitted() -> JobFile {
    let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle]);
    file.return_tests = vec![returned(82.0, 1, &[20.0, 60.0, 21.0, 20.0])];
    file.decisions = (1..=4)
        .map(|cylinder| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision: if cylinder == 2 { Decision::Replace } else { Decision::Leave },
            reason: "as measured".to_owned(),
            proposed: None,
            signed: at(5),
        })
        .collect();
    let new = Injector { id: Uuid::from_u128(22), cylinder: 2, label: "N-22".to_owned() };
    file.events.push(event(9, Event::Replaced { injector: new, part: Part::New }));
    for step in FitStep::ALL {
        let ticked = Event::Fitted { step: *step, cylinders: vec![2], done: true };
        file.events.push(event(10, ticked));
    }
    file
}

fn tell(file: &mut JobFile, minute: i64, item: ProveId, told: Told) {
    let note = "as seen".to_owned();
    file.events.push(event(minute, Event::Proved { item, told, note }));
}

fn learned(cleared: bool, percent: f64, done: u32) -> Event {
    Event::LearnedRead {
        cleared,
        learned: vec![Learned { cylinder: 2, percent }],
        by_hand: false,
        counters: vec![Counter { band: "coast".to_owned(), done, needed: 6 }],
    }
}

fn look(file: &JobFile) -> Proof {
    proof(file, &file.judged().unwrap(), &[])
}

fn state(file: &JobFile, id: ProveId) -> ItemState {
    look(file).items.into_iter().find(|item| item.id == id).unwrap().state
}

/// Everything that a person has to tell, told as good after fitting; codes left out.
fn told() -> JobFile {
    let mut file = fitted();
    for id in ProveId::ALL.iter().filter(|id| !id.is_seen()) {
        tell(&mut file, 12, *id, Told::Good);
    }
    tell(&mut file, 12, ProveId::Codes, Told::LeftOut);
    file
}

#[test]
fn a_job_is_closed_as_proven_only_when_nothing_is_open_and_nothing_was_left_out() {
    let mut file = fitted();
    let first = look(&file);
    assert_eq!(first.next, Some(ProveId::Codes));
    assert!(first.closing.refused.unwrap().contains("the failed test, repeated"));
    let mut file_told = told();
    assert_eq!(look(&file_told).next, Some(ProveId::FailedTest));
    file_told.return_tests.push(returned(82.0, 14, &[20.0, 22.0, 21.0, 20.0]));
    let done = look(&file_told);
    let repeat = done.repeats.into_iter().next().unwrap();
    assert_eq!((repeat.lanes[1].before.as_str(), repeat.lanes[1].after.as_str()), ("30.0", "11.0"));
    assert_eq!((repeat.lanes[1].was.as_deref(), repeat.return_test), (Some("L2"), Some(0)));
    assert_eq!((done.closing.refused, done.closing.proven), (None, false), "codes were left out");
    // The same with the codes read back instead.
    let slots = |file: &JobFile| -> Vec<crate::codes::SlotCode> {
        let seats = file.seats(None);
        let code = |c: u32| Some(format!("CODE{c}"));
        seats
            .iter()
            .map(|s| crate::codes::SlotCode { cylinder: s.cylinder, code: code(s.cylinder) })
            .collect()
    };
    for seat in file_told.seats(None) {
        let (injector, code) = (seat.injector, format!("CODE{}", seat.cylinder));
        let how = crate::codes::Capture::Scanned;
        file_told.events.push(event(13, Event::CodeCaptured { injector, code, how }));
    }
    let read = Event::CodesRead { slots: slots(&file_told), by_hand: false };
    file_told.events.push(event(13, read));
    let proven = look(&file_told);
    assert_eq!((proven.closing.proven, proven.next), (true, None), "{}", proven.says);
    file_told.events.push(event(20, Event::Closed { exceptions: Vec::new() }));
    assert_eq!(look(&file_told).says, "Closed as proven.");
    file_told.events.push(event(
        30,
        Event::Reopened {
            comeback: true,
            reason: "misfires again".to_owned(),
            symptoms: Vec::new(),
        },
    ));
    let back = look(&file_told);
    assert_eq!(back.closing.came_back.as_deref(), Some("misfires again"));
    file.decisions.pop();
    assert_eq!(look(&file).closing.refused.unwrap(), "Cylinder 4 not decided yet.");
}

#[test]
fn the_failed_test_is_repeated_under_the_same_conditions_or_it_proves_nothing() {
    let after = |celsius, levels: &[f64]| {
        let mut file = told();
        file.return_tests.push(returned(celsius, 14, levels));
        let proof = look(&file);
        let item = proof.items.into_iter().find(|item| item.id == ProveId::FailedTest).unwrap();
        (item.state, item.says, proof.repeats[0].clone().alike)
    };
    let sound = [20.0, 22.0, 21.0, 20.0];
    assert_eq!(after(82.0, &sound).0, ItemState::Good);
    let (stands, says, alike) = after(40.0, &sound);
    assert_eq!(stands, ItemState::Unsure, "{says}");
    assert!(alike.starts_with("Estimate"), "{alike}");
    let (stands, says, _) = after(82.0, &[20.0, 22.0, 55.0, 20.0]);
    assert_eq!(stands, ItemState::Failed);
    assert!(says.contains("cylinder 3 failed"), "{says}");
    // What was measured before the injector was fitted is no repetition.
    let mut early = told();
    early.return_tests.push(returned(82.0, 7, &sound));
    assert_eq!(state(&early, ProveId::FailedTest), ItemState::Open);
    early.return_tests.remove(0);
    early.decisions.clear();
    early.events.retain(|record| !matches!(record.event, Event::Replaced { .. }));
    assert_eq!(state(&early, ProveId::FailedTest), ItemState::Good, "none failed");
    early.return_tests.clear();
    assert_eq!(state(&early, ProveId::FailedTest), ItemState::Open, "nothing was measured");
}

#[test]
fn a_job_whose_complaint_is_still_there_is_not_proven() {
    for (answer, state_now) in [
        (ComplaintNow::Gone, ItemState::Open),
        (ComplaintNow::Better, ItemState::Failed),
        (ComplaintNow::Same, ItemState::Failed),
    ] {
        let mut file = fitted();
        file.events.push(event(20, Event::ComplaintAsked { answer }));
        assert_eq!(state(&file, ProveId::RoadTest), state_now, "{answer:?}");
        let proof = look(&file);
        assert!(proof.closing.refused.is_some());
        let asks = proof.items.iter().filter(|item| item.asks_complaint).map(|item| item.id);
        assert_eq!(asks.collect::<Vec<_>>(), [ProveId::RoadTest]);
        let mut checked = file.clone();
        checked.job.intake.symptoms = vec![Symptom::CheckAndClean];
        assert!(look(&checked).items.iter().all(|item| !item.asks_complaint), "nothing to ask");
        if state_now == ItemState::Failed {
            assert!(proof.says.contains("the search goes on"), "{}", proof.says);
        }
        // The road test that went well since is what counts.
        tell(&mut file, 30, ProveId::RoadTest, Told::Good);
        assert_eq!(state(&file, ProveId::RoadTest), ItemState::Good, "{answer:?}");
    }
}

#[test]
fn a_comeback_begins_anew_and_a_job_closed_too_early_goes_on() {
    let mut file = told();
    file.return_tests.push(returned(82.0, 14, &[20.0, 22.0, 21.0, 20.0]));
    file.events.push(event(20, Event::Closed { exceptions: vec![ProveId::Codes] }));
    let reopened = |comeback| Event::Reopened {
        comeback,
        reason: "rough again".to_owned(),
        symptoms: Vec::new(),
    };
    let mut early = file.clone();
    early.events.push(event(30, reopened(false)));
    let goes_on = look(&early);
    assert_eq!((goes_on.closing.refused, goes_on.next), (None, None), "what was proven stands");
    file.events.push(event(30, reopened(true)));
    let anew = look(&file);
    let open = anew.items.iter().filter(|one| one.state == ItemState::Open).count();
    assert_eq!(
        open,
        anew.items.len() - 1,
        "all but the fitting, as nothing was taken out: {}",
        anew.says
    );
    // It fails again; that is no repetition of anything.
    file.return_tests.push(returned(82.0, 32, &[20.0, 21.0, 60.0, 20.0]));
    assert_eq!(state(&file, ProveId::FailedTest), ItemState::Open);
    let new = Injector { id: Uuid::from_u128(33), cylinder: 3, label: "N-33".to_owned() };
    file.events.push(event(35, Event::Replaced { injector: new, part: Part::New }));
    let card = crate::fitting::fitting(&file, &[]);
    assert_eq!((card.out.as_slice(), card.open.as_slice()), (&[3][..], &[3][..]));
    file.return_tests.push(returned(82.0, 40, &[20.0, 21.0, 20.0, 20.0]));
    let repeat = look(&file).repeats.into_iter().next().unwrap();
    assert_eq!(repeat.lanes[2].before, "30.0");
    assert_eq!(state(&file, ProveId::FailedTest), ItemState::Good);
}

#[test]
fn what_was_told_before_injectors_moved_again_is_asked_for_once_more() {
    let mut file = told();
    assert_eq!(state(&file, ProveId::LeakRunning), ItemState::Good);
    file.events.push(event(20, Event::Swapped { one: 1, other: 3 }));
    let proof = look(&file);
    let leak = proof.items.iter().find(|item| item.id == ProveId::LeakRunning).unwrap();
    assert_eq!(leak.state, ItemState::Open);
    assert!(leak.says.contains("repeat"));
    assert_eq!(proof.next, Some(ProveId::Fitting), "1 and 3 were out");
    tell(&mut file, 21, ProveId::LeakRunning, Told::Failed);
    assert_eq!(state(&file, ProveId::LeakRunning), ItemState::Failed);
    assert!(look(&file).says.starts_with("Leak check, running failed."));
}

#[test]
fn learned_values_count_as_cleared_when_they_were_read_back_as_zero() {
    let mut file = fitted();
    let of = |file: &JobFile| (state(file, ProveId::Cleared), state(file, ProveId::Drive));
    file.events.push(event(11, learned(true, 6.5, 6)));
    assert_eq!(of(&file).0, ItemState::Failed, "taken on and not done");
    file.events.push(event(12, learned(true, 0.0, 0)));
    assert_eq!(of(&file), (ItemState::Good, ItemState::Open));
    file.events.push(event(13, learned(false, 0.2, 4)));
    let proof = look(&file);
    assert_eq!(proof.learning.map(|one| one.missing), Some(2));
    assert_eq!(state(&file, ProveId::Drive), ItemState::Open);
    file.events.push(event(14, learned(false, 0.2, 6)));
    assert_eq!(of(&file), (ItemState::Good, ItemState::Good));
    // Counters that were full before anything was cleared say nothing.
    let mut stale = fitted();
    stale.events.push(event(11, learned(false, 6.5, 6)));
    assert_eq!(state(&stale, ProveId::Drive), ItemState::Open);
    assert!(!ProveId::Regeneration.fits(FuelSystem::DieselSolenoid));
    assert!(!ProveId::Codes.fits(FuelSystem::PetrolPort));
}
