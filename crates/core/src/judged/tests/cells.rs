//! Checks that are read cell by cell, and what else happened.

use super::*;

#[test]
fn the_electrical_checks_together_name_fuse_leg_plug_driver_or_injector() {
    let volts = |values: &[f64], load: f64| {
        sheet(EngineTest::Supply, 1, &[("battery", 12.6), ("load", load)], &[("volts", values)])
    };
    let lamp = |values: &[f64]| sheet(EngineTest::Indicator, 2, &[], &[("lamp", values)]);
    let rod = |lamp: &[f64], rod: &[f64]| {
        sheet(EngineTest::Indicator, 2, &[], &[("lamp", lamp), ("rod", rod)])
    };
    let coil = |values: &[f64]| {
        sheet(
            EngineTest::CoilResistance,
            3,
            &[("temperature", 20.0), ("leads", 0.1)],
            &[("ohms", values)],
        )
    };
    let good = [12.5, 12.5, 12.5, 12.5];
    let concluded = |sheets: Vec<SheetRecord>| {
        let mut file = job(FuelSystem::PetrolPort, &[Symptom::MisfireLoad]);
        file.sheets = sheets;
        file.judged().unwrap().electrical.unwrap()
    };
    assert_eq!(concluded(vec![volts(&[0.0; 4], 1.0)]).named[0].place, Place::Fuse);
    // The trap: the lamp is lit, but the leg is weak under load.
    let leg = concluded(vec![volts(&[12.5, 10.4, 12.5, 12.5], 1.0), lamp(&[1.0; 4])]);
    assert_eq!((leg.named[0].cylinder, leg.named[0].place), (Some(2), Place::Leg));
    assert!(leg.named[0].sentence.contains("a few strands"));
    assert_eq!(leg.headline, "Cylinder 2: check the wiring.");
    let plug = concluded(vec![volts(&[12.5, 11.8, 12.5, 12.5], 1.0)]);
    assert_eq!(plug.named[0].place, Place::Plug);
    // Silent because nobody commands it: the driver, and no injector is condemned.
    let driver =
        concluded(vec![volts(&good, 1.0), rod(&[1.0, 0.0, 1.0, 1.0], &[1.0, 0.0, 1.0, 1.0])]);
    assert_eq!((driver.named.len(), driver.named[0].place), (1, Place::Driver));
    // Silent, fed, commanded, good coil: it sticks. Without the coil that is not said.
    let silent = rod(&[1.0; 4], &[1.0, 1.0, 0.0, 1.0]);
    let stuck = concluded(vec![volts(&good, 1.0), silent.clone(), coil(&[14.5, 14.4, 14.5, 14.6])]);
    assert_eq!((stuck.named[0].cylinder, stuck.named[0].place), (Some(3), Place::Injector));
    assert_eq!(concluded(vec![volts(&good, 1.0), silent]).named[0].place, Place::Plug);
    let clean = concluded(vec![volts(&good, 1.0), coil(&[14.5, 14.4, 14.5, 14.6])]);
    assert_eq!(clean.headline, "No electrical outlier found.");
    let leaking = concluded(vec![sheet(
        EngineTest::Insulation,
        4,
        &[],
        &[("megohms", &[500.0, 0.4, 600.0, 550.0])],
    )]);
    assert_eq!((leaking.named[0].cylinder, leaking.named[0].place), (Some(2), Place::Injector));
    assert!(diesel().judged().unwrap().electrical.is_none(), "nothing read, nothing concluded");
}

#[test]
fn fuel_pulsed_into_a_cylinder_adds_up_over_all_runs_until_it_is_cleared() {
    let measures = [
        ("pulses", 100.0),
        ("pulse", 5.0),
        ("static", 240.0),
        ("bore", 80.0),
        ("stroke", 80.0),
        ("ratio", 11.0),
    ];
    let run = |minute| {
        sheet(
            EngineTest::PressureDrop,
            minute,
            &measures,
            &[("start", &[300.0; 4]), ("end", &[210.0; 4])],
        )
    };
    let mut file = job(FuelSystem::PetrolPort, &[Symptom::RoughIdle]);
    let level = |file: &JobFile| {
        let judged = file.judged().unwrap();
        let verdict = judged.sheets.last().unwrap().as_ref().unwrap().clone();
        (verdict.residual[0].injected_ml, verdict.residual[0].level, verdict.flags.join(" "))
    };
    file.sheets = vec![run(1)];
    let (first, one, says) = level(&file);
    assert!(
        (first - 2.0).abs() < 1e-9
            && one == FuelLevel::Caution
            && says.contains("Clear-flood crank")
    );
    file.sheets.extend((2..6).map(run));
    let (five, five_level, says) = level(&file);
    assert!((five - 10.0).abs() < 1e-9 && five_level == FuelLevel::Stop);
    assert!(says.starts_with("Stop: cylinder"), "{says}");
    // A set read anew without the measures goes on adding up: the engine is the same.
    let pulses = [("pulses", 100.0), ("pulse", 5.0)];
    let bare = |minute| {
        sheet(
            EngineTest::PressureDrop,
            minute,
            &pulses,
            &[("start", &[300.0; 4]), ("end", &[210.0; 4])],
        )
    };
    file.sheets.push(bare(7));
    assert!((level(&file).0 - 12.0).abs() < 1e-9);
    let mut unknown = job(FuelSystem::PetrolPort, &[Symptom::RoughIdle]);
    unknown.sheets = vec![bare(1)];
    let verdict = unknown.judged().unwrap().sheets[0].as_ref().unwrap().clone();
    // Nothing is known of the engine: a small one is assumed, so that the stop comes all the same.
    assert!(verdict.residual.len() == 4 && verdict.residual.iter().all(|one| one.assumed));
    assert!(verdict.advice.iter().any(|says| says.contains("small budget")));
    file.events.push(event(10, Event::Cleared { how: "cranked, spark plugs out".to_owned() }));
    assert!(file.judged().unwrap().sheets.last().unwrap().as_ref().unwrap().residual.is_empty());
    file.sheets.push(run(12));
    assert!((level(&file).0 - 2.0).abs() < 1e-9);
    // Start and end read again is one more run; the end alone was a slip of the keys.
    let again = |cell: &str| CellReading {
        id: Uuid::now_v7(),
        cell: cell.to_owned(),
        cylinder: Some(1),
        value: Some(211.0),
        typed: String::new(),
        corrects: None,
        shown_by: None,
        signed: at(13),
    };
    let last = file.sheets.last_mut().unwrap();
    last.readings.push(again("end"));
    assert!((level(&file).0 - 2.0).abs() < 1e-9);
    file.sheets.last_mut().unwrap().readings.push(again("start"));
    assert!((level(&file).0 - 4.0).abs() < 1e-9);
}

#[test]
fn a_drifted_set_condemns_nobody_and_a_missing_start_condition_is_named() {
    let mut record = sheet(
        EngineTest::PressureDrop,
        1,
        &[
            ("pulses", 50.0),
            ("pulse", 6.0),
            ("bracket_start", 300.0),
            ("bracket_end", 252.0),
            ("start_warm", 1.0),
        ],
        &[("start", &[300.0; 4]), ("end", &[210.0, 221.0, 231.0, 242.0])],
    );
    let judge = |record: &SheetRecord| {
        record.verdict(&diesel().job.intake.layout, &Around::default()).unwrap()
    };
    let drifted = judge(&record);
    assert_eq!(drifted.headline, "Readings drifted during the test: no injector condemned.");
    assert!(drifted.lanes.iter().all(|l| !matches!(l.mark, Mark::TooMuch | Mark::TooLittle)));
    assert!(drifted.flags.is_empty());
    record.asks_start = true;
    let asked = judge(&record);
    assert!(asked.flags[0].contains("support charger on"), "{:?}", asked.flags);
    assert!(asked.lanes[0].because.last().unwrap().says.starts_with("Unticked at start"));
    let turned = sheet(
        EngineTest::PressureDrop,
        1,
        &[("pulses", 50.0), ("pulse", 6.0)],
        &[("start", &[300.0, 210.0, 300.0, 301.0]), ("end", &[210.0, 300.0, 211.0, 210.0])],
    );
    let turned = judge(&turned);
    assert_eq!(turned.lanes[1].mark, Mark::Questioned);
    assert!(
        turned.lanes[1].sentence.contains("wrong way round")
            && turned.lanes[0].mark == Mark::Inside
    );
}

#[test]
fn timers_stay_until_they_are_taken_off_and_events_say_what_is_wrong_with_them() {
    let mut file = diesel();
    let set = |minute, word: &str, seconds| {
        event(
            minute,
            Event::TimerSet {
                word: word.to_owned(),
                seconds: Second(seconds),
                stage: Stage::Bench,
            },
        )
    };
    let (soak, warm) = (set(1, "soak", 900.0), set(2, "warm up", 300.0));
    file.events = vec![soak.clone(), warm.clone()];
    let words = |file: &JobFile| file.timers().into_iter().map(|t| t.word).collect::<Vec<_>>();
    assert_eq!(words(&file), ["warm up", "soak"], "the soonest first");
    assert_eq!(file.timers()[0].ends_at, at(7).at);
    file.events.push(event(8, Event::TimerOff { timer: warm.id }));
    assert_eq!(words(&file), ["soak"]);
    let layout = file.job.intake.layout;
    for (event, field) in [
        (Event::Swapped { one: 2, other: 2 }, "other"),
        (Event::Swapped { one: 1, other: 9 }, "other"),
        (
            Event::TimerSet { word: " ".to_owned(), seconds: Second(5.0), stage: Stage::Bench },
            "word",
        ),
        (
            Event::TimerSet {
                word: "soak".to_owned(),
                seconds: Second(f64::NAN),
                stage: Stage::Bench,
            },
            "seconds",
        ),
    ] {
        assert_eq!(event.problems(&layout)[0].field, field);
    }
}

#[test]
fn a_file_with_events_that_cannot_be_is_refused_with_their_place() {
    let mut file = diesel();
    file.people = vec![crate::record::Person::new(Uuid::nil(), "Maren")];
    file.events = vec![event(1, Event::Swapped { one: 1, other: 4 })];
    assert!(file.problems().is_empty(), "{:?}", file.problems());
    let good = file.events[0].clone();
    file.events.push(good);
    assert!(file.problems()[0].message.contains("is used twice"));
    file.events = vec![event(1, Event::Swapped { one: 1, other: 5 })];
    assert!(replay(&file, &[]).unwrap_err().message.contains("other: "), "no cylinder 5 here");
    file.events.clear();
    let mut test = return_test(82.0, &[&[22.0, 23.0, 24.0, 23.0]]);
    test.runs[0].readings[1].kind = ReadingKind::Mark;
    file.return_tests = vec![test];
    assert!(replay(&file, &[]).unwrap_err().message.contains("has no timed mark"));
}
