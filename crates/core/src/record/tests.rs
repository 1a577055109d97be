use super::*;
use crate::engine::{BankNumbering, EngineEnd};

fn signed() -> Signed {
    Signed::new(Uuid::nil(), Timestamp::UNIX_EPOCH)
}

fn reading(
    n: u128,
    kind: ReadingKind,
    cylinder: Option<u32>,
    value: f64,
    corrects: Option<u128>,
) -> Reading {
    Reading {
        id: Uuid::from_u128(n),
        cylinder,
        kind,
        value,
        mark_ml: None,
        typed: String::new(),
        corrects: corrects.map(Uuid::from_u128),
        why: None,
        shown_by: None,
        signed: signed(),
    }
}

fn excluded(signed: Signed) -> SetAside {
    SetAside { reason: "a hose came off".to_owned(), back: false, nth: 0, signed }
}

fn run(readings: Vec<Reading>) -> RunRecord {
    let started_at = Some(Timestamp::UNIX_EPOCH);
    RunRecord {
        id: Uuid::nil(),
        number: 1,
        started_at,
        readings,
        set_aside: None,
        asides: Vec::new(),
        caught_by: None,
        raw: Vec::new(),
        phase: None,
        bank: None,
        ticked: None,
        signed: signed(),
    }
}

const LAYOUT: Layout = Layout {
    cylinders: 3,
    banks: 1,
    first_at: EngineEnd::Pulley,
    numbering: BankNumbering::BankByBank,
};

#[test]
fn a_correction_stands_and_what_was_taken_back_does_not() {
    use ReadingKind::{Level, Overflow, RunTime, Void};
    let run = run(vec![
        reading(1, Overflow, Some(1), 40.0, None),
        reading(2, Void, Some(1), 0.0, Some(1)),
        reading(3, RunTime, None, 118.0, None),
        reading(4, RunTime, None, 120.0, Some(3)),
        reading(5, Level, Some(2), 32.0, None),
        reading(6, Level, Some(2), 23.0, Some(5)),
        reading(7, Level, Some(2), 24.0, Some(6)),
    ]);
    assert_eq!(run.seconds(), Some(120.0));
    assert_eq!(run.standing().map(|r| r.value).collect::<Vec<_>>(), [120.0, 24.0]);
    assert_eq!(run.unread(&LAYOUT), [1, 3]);
    assert!(!run.is_running());
}

#[test]
fn a_run_goes_until_it_has_a_length_or_is_set_aside() {
    let going = run(vec![reading(1, ReadingKind::Overflow, Some(1), 40.0, None)]);
    assert!(going.is_running());
    let aside = Some(excluded(signed()));
    assert!(!RunRecord { set_aside: aside, ..going.clone() }.is_running());
    assert!(!RunRecord { started_at: None, ..going }.is_running(), "timed elsewhere");
}

#[test]
fn levels_wait_for_the_length_of_their_run_and_runs_set_aside_do_not_count() {
    use ReadingKind::{Level, RunTime};
    let levels = |first: u128| {
        vec![
            reading(first, Level, Some(1), 20.0, None),
            reading(first + 1, Level, Some(2), 60.0, None),
            reading(first + 2, Level, Some(3), 22.0, None),
        ]
    };
    let mut timed = levels(10);
    timed.push(reading(20, RunTime, None, 120.0, None));
    let mut test = crate::sample::return_test(80.0, &[]);
    test.runs = vec![run(levels(1)), run(timed)];
    let verdict = test.verdict(&LAYOUT).unwrap();
    assert_eq!((verdict.runs, verdict.lanes[1].mark), (1, crate::mark::Mark::TooMuch));
    test.runs[1].set_aside = Some(excluded(signed()));
    assert_eq!(test.verdict(&LAYOUT).unwrap().runs, 0);
}

#[test]
fn what_holds_now_is_said_with_the_data_run_by_run_and_for_the_next_one() {
    use ReadingKind::{Level, RunTime, Void};
    let signed = |seq| Signed { seq, ..signed() };
    let mut file = crate::sample::job(FuelSystem::DieselSolenoid, &[]);
    (file.job.intake.layout.banks, file.job.intake.layout.cylinders) = (2, 4);
    assert_eq!(file.current().worked, [Stage::TakeIn]);
    assert_eq!(file.current().next_run, None);
    let mut test = crate::sample::return_test(80.0, &[]);
    test.setup.regime = Regime::Stepped;
    let mut read = run(vec![
        reading(3, RunTime, None, 118.0, None),
        reading(5, Level, Some(1), 32.0, None),
        reading(6, Level, Some(1), 23.0, Some(5)),
        reading(7, Level, Some(3), 24.0, None),
        reading(8, Void, Some(3), 0.0, Some(7)),
    ]);
    (read.bank, read.phase) = (Some(0), Some(Phase::Raised));
    read.ticked = Some(vec![StartId::Warm, StartId::HosesPurged]);
    test.runs = vec![read.clone()];
    file.return_tests = vec![test];
    let layout = &file.job.intake.layout;
    let (first, other) = (layout.strip()[0].clone(), layout.strip()[0][1]);
    let now = file.current();
    assert_eq!(now.worked, [Stage::TakeIn, Stage::OnEngine]);
    assert_eq!(now.runs[0].state, RunState::Reading);
    assert_eq!((&now.runs[0].covers, &now.runs[0].unread), (&first, &vec![other]));
    assert_eq!(now.runs[0].length, Some(Uuid::from_u128(3)));
    assert!(!now.runs[0].readings.contains(&Uuid::from_u128(5)), "a corrected one stands no more");
    let next = NextRun {
        number: 2,
        phase: Some(Phase::IdleAgain),
        bank: Some(1),
        ticked: vec![StartId::Warm],
        again: false,
    };
    assert_eq!(now.next_run, Some(next), "bottles have to be emptied anew");
    let aside = Some(excluded(signed(9)));
    file.return_tests[0].runs[0].set_aside = aside;
    assert_eq!(file.current().runs[0].state, RunState::Aside);
    let decided = |n: u128| DecisionRecord {
        id: Uuid::from_u128(n),
        cylinder: 2,
        decision: Decision::Clean,
        reason: "dirty".to_owned(),
        proposed: None,
        signed: signed(n as u64),
    };
    file.decisions = vec![decided(20), decided(21)];
    let happened =
        |n: u128, event| EventRecord { id: Uuid::from_u128(n), event, signed: signed(30) };
    let cleared = || Event::Cleared { how: "cranked".to_owned() };
    let undone = Event::ClearingUndone { of: Uuid::from_u128(31), reason: "not done".to_owned() };
    file.events = vec![happened(30, cleared()), happened(31, cleared()), happened(32, undone)];
    let now = file.current();
    assert_eq!(now.decisions, [Uuid::from_u128(21)]);
    assert_eq!(now.cleared, Some(Uuid::from_u128(30)));
}
