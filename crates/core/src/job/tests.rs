//! What a person may do: the cases that were defects, and any sequence of commands at all.

use super::{Command, NewReading, NewRun, Refused, apply, mark_older, replay};
use crate::codes::Capture;
use crate::engine::FuelSystem;
use crate::entry::{self, of_job};
use crate::limits;
use crate::record::{
    CellReading, DecisionRecord, Event, EventRecord, Injector, JobFile, Note, Part, Person,
    ReadingKind, Signed, place_after,
};
use crate::sample::{self, Draw, at, job, return_test};
use crate::tests::engine::EngineTest;
use crate::work::{Decision, Stage, Symptom};
use jiff::SignedDuration;
use uuid::Uuid;

/// Does it, and gives its entries their places as a store does.
fn does(file: &mut JobFile, command: Command, minute: i64) -> Result<(), Refused> {
    let entries = apply(file, command, at(minute))?;
    keep(file, entries);
    Ok(())
}

fn keep(file: &mut JobFile, entries: Vec<entry::Entry>) {
    for mut entry in entries {
        let last = file.signatures().last().map_or(0, |signed| signed.seq);
        let signed = entry.signed_mut();
        signed.seq = place_after(last, signed.at);
        file.push(entry).unwrap();
    }
}

fn placed(fuel: FuelSystem) -> JobFile {
    let file = job(fuel, &[Symptom::RoughIdle]);
    let mut file = entry::job(of_job(&file)).unwrap();
    file.people = vec![Person::new(Uuid::nil(), "Maren")];
    file
}

fn happened(minute: i64, event: Event) -> Command {
    Command::Happened(sample::event(minute, event))
}

fn intake(file: &JobFile, cylinders: u32) -> Command {
    let mut intake = file.job.intake.clone();
    intake.layout.cylinders = cylinders;
    let labels = file.job.injectors.iter().map(|one| one.label.clone());
    let labels = labels.take(cylinders as usize).collect();
    let (id, revision) = (Uuid::now_v7(), file.job.revision);
    Command::ChangeIntake { id, revision, intake: Box::new(intake), labels }
}

#[test]
fn a_closed_job_refuses_everything_until_somebody_opens_it_with_a_reason() {
    let mut file = placed(FuelSystem::DieselSolenoid);
    let closed = Event::Closed { exceptions: Vec::new() };
    keep(&mut file, vec![entry::Entry::Event(sample::event(5, closed))]);
    let note =
        || Note { id: Uuid::now_v7(), stage: Stage::Prove, text: "late".to_owned(), signed: at(6) };
    let all = [
        Command::Note(note()),
        happened(6, Event::Swapped { one: 1, other: 2 }),
        happened(6, Event::Cleared { how: "cranked".to_owned() }),
        intake(&file, 4),
        Command::SetUpTest { id: Uuid::now_v7(), setup: Box::new(return_test(80.0, &[]).setup) },
        Command::Close { id: Uuid::now_v7(), torque: Vec::new() },
    ];
    for command in all {
        let refused = does(&mut file, command, 6).unwrap_err();
        assert!(matches!(&refused, Refused::Conflict(says) if says.contains("Reopen it")));
    }
    let open = |reason: &str| Event::Reopened {
        comeback: false,
        reason: reason.to_owned(),
        symptoms: Vec::new(),
    };
    assert!(matches!(does(&mut file, happened(7, open(" ")), 7), Err(Refused::Invalid(_))));
    does(&mut file, happened(7, open("a label was missing")), 7).unwrap();
    does(&mut file, Command::Note(note()), 8).unwrap();
    let reopened = file.reopened().unwrap();
    assert_eq!((reopened.comeback, &*reopened.reason), (false, "a label was missing"));
    assert!(replay(&file, &[]).is_err(), "and a file cannot bring a closing without its proof");
}

#[test]
fn a_capture_survives_a_change_of_the_engine_or_the_change_is_refused() {
    let mut file = placed(FuelSystem::DieselSolenoid);
    let injector = file.job.injectors[3].id;
    let code = "AB12".to_owned();
    does(&mut file, happened(1, Event::CodeCaptured { injector, code, how: Capture::Scanned }), 1)
        .unwrap();
    let fewer = intake(&file, 3);
    let refused = does(&mut file, fewer, 2).unwrap_err();
    assert!(
        matches!(&refused, Refused::Invalid(p) if p[0].message.contains("would not have")),
        "{refused:?}"
    );
    let more = intake(&file, 6);
    does(&mut file, more, 3).unwrap();
    assert_eq!(file.injector(injector).unwrap().cylinder, 4, "the injector stays who it is");
    assert_eq!((file.job.revision, file.changes.len()), (2, 1));
    assert_eq!(file.intake_history()[0].was[0], "4 cylinders");
    assert_eq!(file.problems(), []);
    let stale = intake(&placed(FuelSystem::DieselSolenoid), 5);
    assert!(matches!(does(&mut file, stale, 4), Err(Refused::Stale(_))));
}

#[test]
fn a_run_ends_after_what_was_read_in_it_and_a_clock_set_back_cannot_time_it() {
    let mut file = placed(FuelSystem::DieselSolenoid);
    let (test, run) = (Uuid::now_v7(), Uuid::now_v7());
    let setup = Box::new(return_test(80.0, &[]).setup);
    does(&mut file, Command::SetUpTest { id: test, setup }, 1).unwrap();
    let new = NewRun {
        id: run,
        test,
        timer: true,
        phase: None,
        bank: None,
        ticked: None,
        caught_by: None,
    };
    does(&mut file, Command::BeginRun(new), 10).unwrap();
    let read = |kind, cylinder, value, corrects| {
        Command::Read(NewReading {
            id: Uuid::now_v7(),
            run,
            cylinder,
            kind,
            value,
            typed: String::new(),
            corrects,
            why: corrects.map(|_| "slip".to_owned()),
            shown_by: None,
        })
    };
    does(&mut file, read(ReadingKind::Overflow, Some(2), Some(90.0), None), 11).unwrap();
    let back = does(&mut file, read(ReadingKind::RunTime, None, None, None), 9).unwrap_err();
    assert!(matches!(&back, Refused::Invalid(p) if p[0].message.contains("set back")), "{back:?}");
    let short = does(&mut file, read(ReadingKind::RunTime, None, Some(60.0), None), 12);
    assert!(
        matches!(short, Err(Refused::Invalid(p)) if p[0].message.contains("Bottle 2 was full"))
    );
    does(&mut file, read(ReadingKind::RunTime, None, None, None), 12).unwrap();
    let time = file.return_tests[0].runs[0].readings.last().unwrap();
    assert_eq!((time.kind, time.value), (ReadingKind::RunTime, 120.0));
    let correct = read(ReadingKind::RunTime, None, Some(80.0), Some(time.id));
    assert!(does(&mut file, correct, 13).is_err(), "nor is it corrected below an overflow");
    let aside = |reason: &str| Command::SetRunAside { run, reason: reason.to_owned() };
    does(&mut file, aside("a hose came off"), 14).unwrap();
    does(&mut file, aside("a hose came off"), 15).unwrap();
    assert!(does(&mut file, aside("another"), 16).is_err(), "the first reason is not dropped");
    for minute in [17, 18] {
        does(&mut file, Command::CountRun { run }, minute).unwrap();
        assert!(file.return_tests[0].runs[0].set_aside.is_none(), "it counts again, once");
    }
    does(&mut file, aside("another"), 19).unwrap();
    let held = &file.return_tests[0].runs[0];
    assert_eq!((held.asides.len(), &*held.set_aside.as_ref().unwrap().reason), (2, "another"));
    assert_eq!(replay(&file, &[]), Ok(()), "nothing of it is lost in a file");
}

#[test]
fn a_swap_that_did_not_happen_is_taken_back_until_something_rests_on_it() {
    let mut file = placed(FuelSystem::DieselSolenoid);
    let before = file.seats(None);
    let swap = sample::event(1, Event::Swapped { one: 1, other: 2 });
    let swapped = swap.id;
    does(&mut file, Command::Happened(swap), 1).unwrap();
    assert_ne!(file.seats(None), before);
    let undo = |of| Event::SwapUndone { of, reason: "recorded by mistake".to_owned() };
    does(&mut file, happened(2, undo(swapped)), 2).unwrap();
    assert_eq!((file.seats(None), file.current().swapped), (before, None));
    assert!(does(&mut file, happened(3, undo(swapped)), 3).is_err(), "once");
    let again = sample::event(4, Event::Swapped { one: 1, other: 2 });
    let stands = again.id;
    does(&mut file, Command::Happened(again), 4).unwrap();
    let setup = Box::new(return_test(80.0, &[]).setup);
    does(&mut file, Command::SetUpTest { id: Uuid::now_v7(), setup }, 5).unwrap();
    assert!(does(&mut file, happened(6, undo(stands)), 6).is_err(), "a test was set up on it");
}

#[test]
fn what_the_interface_would_refuse_no_file_can_bring_in() {
    let mut good = placed(FuelSystem::DieselSolenoid);
    let (test, run) = (Uuid::now_v7(), Uuid::now_v7());
    let setup = Box::new(return_test(80.0, &[]).setup);
    does(&mut good, Command::SetUpTest { id: test, setup }, 1).unwrap();
    let new = NewRun {
        id: run,
        test,
        timer: true,
        phase: None,
        bank: None,
        ticked: None,
        caught_by: None,
    };
    does(&mut good, Command::BeginRun(new), 2).unwrap();
    does(&mut good, happened(3, Event::Cleared { how: "cranked".to_owned() }), 3).unwrap();
    let cell = CellReading {
        id: Uuid::now_v7(),
        cell: "cut".to_owned(),
        cylinder: Some(1),
        value: Some(50.0),
        typed: "50".to_owned(),
        corrects: None,
        shown_by: None,
        signed: at(4),
    };
    let sheet = sample::sheet(EngineTest::Cutout, 1, &[], &[]);
    let sheet = crate::record::SheetRecord { signed: at(4), ..sheet };
    let id = sheet.id;
    does(&mut good, Command::BeginSheet(Box::new(sheet)), 4).unwrap();
    does(&mut good, Command::KeepCell { sheet: id, cell }, 4).unwrap();
    assert_eq!(replay(&good, &[]), Ok(()));

    type Bend = fn(&mut JobFile);
    let bends: [(Bend, &str); 9] = [
        (|f| f.return_tests[0].runs[0].number = 7, "differs from what this entry produces"),
        (|f| f.return_tests[0].runs[0].bank = Some(0), "no such bank"),
        (|f| f.sheets[0].readings[0].cell = "boost".to_owned(), "No cell \"boost\""),
        (|f| f.sheets[0].readings[0].cylinder = Some(9), "cylinders 1 to"),
        (|f| f.sheets[0].readings[0].corrects = Some(f.job.id), "Someone else read this cell"),
        (|f| f.sheets[0].check = EngineTest::PressureDrop, "does not apply to the fuel system"),
        (|f| f.events[0].event = Event::Swapped { one: 1, other: 2 }, "A run is still going"),
        (|f| f.events[0].event = Event::Cleared { how: " ".to_owned() }, "how: "),
        (
            |f| f.events[0].event = Event::Closed { exceptions: Vec::new() },
            "This could not have been recorded here",
        ),
    ];
    for (bend, says) in bends {
        let mut bent = good.clone();
        bend(&mut bent);
        let why = replay(&bent, &[]).unwrap_err().message;
        assert!(why.contains(says), "{why}");
    }
}

#[test]
fn an_older_file_that_went_on_after_its_closing_is_marked_as_opened_again() {
    let mut file = placed(FuelSystem::DieselSolenoid);
    let closed = sample::event(5, Event::Closed { exceptions: Vec::new() });
    file.events.push(closed.clone());
    mark_older(&mut file);
    assert_eq!(file.events.len(), 1, "nothing came after it");
    let late = |minute| Note {
        id: Uuid::now_v7(),
        stage: Stage::Prove,
        text: "late".to_owned(),
        signed: at(minute),
    };
    file.notes.extend([late(6), late(7)]);
    mark_older(&mut file);
    mark_older(&mut file);
    let reopened = file.reopened().unwrap();
    assert!(reopened.reason.contains("earlier version"), "{}", reopened.reason);
    assert_eq!((file.events.len(), reopened.signed), (2, closed.signed), "once, by who closed it");
    let order: Vec<_> = of_job(&file).iter().map(entry::Entry::id).collect();
    let at = |id| order.iter().position(|one| *one == id);
    assert!(at(closed.id) < at(file.events[1].id) && at(file.events[1].id) < at(file.notes[0].id));
}

/// One command of any kind, sensible or not.
fn any(file: &JobFile, draw: &mut Draw, signed: Signed) -> Command {
    let id = Uuid::from_u128(u128::from(draw.next()) << 64 | u128::from(draw.next()));
    let cylinder = draw.below(7) as u32;
    let text = match draw.below(6) {
        0 => String::new(),
        1 => "ä".repeat(limits::LONG_TEXT + draw.below(2)),
        2 => "\"\\\n\u{0}=1+1".to_owned(),
        _ => "seen".to_owned(),
    };
    let number = [f64::MAX, -1.0, 0.0, 1e-300, 0.1 + 0.2, 43.5][draw.below(6)];
    let run = file.return_tests.iter().flat_map(|test| &test.runs).last();
    let event = |event| Command::Happened(EventRecord { id, event, signed });
    match draw.below(16) {
        0 => intake(file, 1 + draw.below(6) as u32),
        1 => Command::SetUpTest { id, setup: Box::new(return_test(80.0, &[]).setup) },
        2 | 3 => Command::BeginRun(NewRun {
            id,
            test: file.return_tests.last().map_or(id, |test| test.id),
            timer: draw.below(2) == 0,
            phase: None,
            bank: None,
            ticked: None,
            caught_by: None,
        }),
        4..=6 => {
            let kinds = [ReadingKind::Level, ReadingKind::Overflow, ReadingKind::RunTime];
            let kind = *draw.one(&kinds);
            let cylinder = (kind != ReadingKind::RunTime).then_some(cylinder);
            let held = run.and_then(|run| run.standing().find(|r| r.cylinder == cylinder));
            Command::Read(NewReading {
                id,
                run: run.map_or(id, |run| run.id),
                cylinder,
                kind,
                value: (draw.below(5) > 0).then_some(number),
                typed: text.clone(),
                corrects: held.map(|held| held.id),
                why: held.map(|_| text),
                shown_by: None,
            })
        }
        7 => Command::SetRunAside { run: run.map_or(id, |run| run.id), reason: text },
        8 => {
            let checks = [EngineTest::Cutout, EngineTest::CoilResistance, EngineTest::PressureDrop];
            let sheet = sample::sheet(*draw.one(&checks), 1, &[], &[]);
            Command::BeginSheet(Box::new(crate::record::SheetRecord { id, signed, ..sheet }))
        }
        9 | 10 => {
            let sheet = file.sheets.last();
            let cell = (*draw.one(&["cut", "resistance", "start", "base"])).to_owned();
            let before = sheet.and_then(|s| {
                s.readings.iter().rfind(|r| r.cell == cell && r.cylinder == Some(cylinder))
            });
            let corrects = before.map(|held| held.id);
            let (typed, cylinder) = (text, Some(cylinder));
            let value = Some(number);
            let cell =
                CellReading { id, cell, cylinder, value, typed, corrects, shown_by: None, signed };
            Command::KeepCell { sheet: sheet.map_or(id, |sheet| sheet.id), cell }
        }
        11 => event(Event::Swapped { one: cylinder, other: draw.below(7) as u32 }),
        12 => {
            let injector = file.every_injector().nth(draw.below(9)).map_or(id, |one| one.id);
            event(Event::CodeCaptured { injector, code: "AB12".to_owned(), how: Capture::Scanned })
        }
        13 => {
            let injector = Injector { id, cylinder, label: format!("S{}", draw.below(5)) };
            event(Event::Replaced { injector, part: Part::New })
        }
        14 => Command::Decide(vec![DecisionRecord {
            id,
            cylinder,
            decision: *draw.one(&[Decision::Leave, Decision::Clean, Decision::Replace]),
            reason: text,
            proposed: None,
            signed,
        }]),
        _ => Command::Note(Note { id, stage: Stage::Prove, text, signed }),
    }
}

/// Every state that is accepted can be exported and imported again, byte for byte; 500 sequences
/// of 40 commands each, with a clock that goes back now and then.
#[test]
fn whatever_is_accepted_is_a_file_that_is_accepted() {
    let mut draw = Draw(20_261_126);
    let (mut kept, mut refused) = (0, 0);
    for _ in 0..500 {
        let fuel = [FuelSystem::DieselSolenoid, FuelSystem::PetrolPort][draw.below(2)];
        let mut file = placed(fuel);
        let mut minute = 1;
        for _ in 0..40 {
            minute += draw.below(4) as i64 - i64::from(draw.below(9) == 0) * 30;
            let signed = Signed { at: at(0).at + SignedDuration::from_mins(minute), ..at(0) };
            let command = any(&file, &mut draw, signed);
            match apply(&file, command, signed) {
                Ok(entries) => {
                    keep(&mut file, entries);
                    kept += 1;
                }
                Err(_) => refused += 1,
            }
        }
        assert_eq!(file.problems(), [], "seed and sequence are fixed: this state was accepted");
        assert_eq!(replay(&file, &[]), Ok(()), "and can be done again");
        let text = serde_json::to_string(&file).unwrap();
        let read: JobFile = serde_json::from_str(&text).unwrap();
        let log = of_job(&read);
        let mut again = entry::job(log.clone()).unwrap();
        (again.people, again.family) = (read.people.clone(), read.family.clone());
        assert_eq!(serde_json::to_string(&again).unwrap(), text, "the log holds all of it");
        assert!(log.windows(2).all(|w| w[0].signed().seq < w[1].signed().seq));
    }
    assert!(kept > 3000 && refused > 3000, "{kept} kept and {refused} refused: both were tried");
}
