use super::*;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::record::{DecisionRecord, Event, Part};
use crate::sample::{self, at, event, job, return_test};
use crate::work::Decision;

/// The injector of label `L2` in a job of this number, its return read in this minute.
fn read_in(number: u64, minute: i64, level: f64) -> JobFile {
    let mut file = job(FuelSystem::DieselSolenoid, &[]);
    file.job.id = Uuid::from_u128(u128::from(number));
    file.job.number = number;
    file.job.taken_in = at(minute);
    for injector in &mut file.job.injectors {
        injector.id = Uuid::from_u128(u128::from(number * 100 + u64::from(injector.cylinder)));
    }
    let levels = [20.0, level, 21.0, 20.0];
    let mut test = return_test(82.0, &[&levels, &levels, &levels]);
    for reading in test.runs.iter_mut().flat_map(|run| &mut run.readings) {
        reading.signed = at(minute);
    }
    file.return_tests = vec![test];
    file
}

fn decide(file: &mut JobFile, minute: i64, cylinder: u32, decision: Decision) {
    let (id, reason) = (Uuid::now_v7(), "as measured".to_owned());
    let signed = at(minute);
    file.decisions.push(DecisionRecord { id, cylinder, decision, reason, proposed: None, signed });
}

#[test]
fn a_label_brings_the_jobs_of_one_injector_together_wherever_it_sat() {
    let first = read_in(1, 10, 22.0);
    let mut second = read_in(2, 1000, 60.0);
    decide(&mut second, 1005, 2, Decision::Clean);
    second.events.push(event(1010, Event::Swapped { one: 2, other: 4 }));
    // Decided after the swap: about the one that came from cylinder 2.
    decide(&mut second, 1015, 4, Decision::Replace);
    let id = second.job.injectors[1].id;
    let passport = sample::passport(id, "l2 ", &[second.clone(), first]);
    let numbers: Vec<u64> = passport.stays.iter().map(|stay| stay.number).collect();
    assert_eq!(numbers, [1, 2], "oldest first");
    let stay = &passport.stays[1];
    assert_eq!((stay.came_from, stay.cylinder), (2, Some(4)));
    let decided: Vec<Decision> = stay.decisions.iter().map(|one| one.decision).collect();
    assert_eq!(decided, [Decision::Clean, Decision::Replace]);
    assert_eq!(stay.readings[0].mark, Mark::TooMuch);
    assert_eq!(passport.trends[0].says, "Return flow: up by 173 %, from 11.0 to 30.0 ml/min.");
    assert_eq!(passport.says, "In cylinder 4 of Sample. 2 jobs.");
    // Another one took its place: it sits nowhere.
    let new = Injector { id: Uuid::from_u128(9), cylinder: 4, label: "N".to_owned() };
    second.events.push(event(1020, Event::Replaced { injector: new, part: Part::New }));
    let out = sample::passport(id, "L2", &[second.clone()]);
    assert!(out.says.starts_with("Taken out of Sample."), "{}", out.says);
    let fresh = sample::passport(Uuid::from_u128(9), "N", &[second]);
    assert!(fresh.stays[0].fitted_here && fresh.stays[0].readings.is_empty());
}

#[test]
fn a_change_within_the_doubt_is_called_none_and_other_conditions_are_no_trend() {
    let near = sample::passport(Uuid::nil(), "L2", &[read_in(1, 1, 22.0), read_in(2, 9, 22.5)]);
    assert!(near.trends[0].says.ends_with("no change that these instruments can resolve."));
    let mut cold = read_in(2, 9, 60.0);
    cold.return_tests[0].setup.temperature_c = Some(crate::quantity::Celsius(40.0));
    let apart = sample::passport(Uuid::nil(), "L2", &[read_in(1, 1, 22.0), cold]);
    let counts: Vec<usize> = apart.trends.iter().map(|trend| trend.points.len()).collect();
    assert_eq!(counts, [1, 1]);
}

#[test]
fn decisions_are_counted_once_a_job_was_closed_and_a_comeback_is_remembered() {
    let mut file = read_in(1, 10, 22.0);
    for cylinder in 1..=4 {
        decide(&mut file, 11, cylinder, Decision::Leave);
    }
    assert!(turned(&file).is_empty(), "not closed");
    file.events.push(event(20, Event::Closed { exceptions: Vec::new() }));
    assert_eq!(turned(&file).iter().filter(|one| !one.came_back).count(), 4);
    let early = Event::Reopened {
        comeback: false,
        reason: "a leak check was missing".to_owned(),
        symptoms: Vec::new(),
    };
    let mut reopened = file.clone();
    reopened.events.push(event(21, early));
    assert!(turned(&reopened).is_empty(), "closed too early is no comeback");
    let back =
        Event::Reopened { comeback: true, reason: "smokes again".to_owned(), symptoms: Vec::new() };
    file.events.push(event(30, back));
    file.events.push(event(40, Event::Closed { exceptions: Vec::new() }));
    assert!(turned(&file).iter().all(|one| one.came_back), "also when it was closed again");
}
