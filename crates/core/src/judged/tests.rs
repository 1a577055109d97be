mod cells;

use super::*;
use crate::calc::residual_fuel::FuelLevel;
use crate::engine::FuelSystem;
use crate::job::replay;
use crate::quantity::{Celsius, Millilitre, Second};
use crate::record::{CellReading, ReadingKind};
use crate::sample::{at, event, job, return_test, sheet};
use crate::start::StartId;
use crate::tests::electrical::Place;
use crate::tests::swap::SwapSays;
use crate::work::{Phase, Regime, Stage, Symptom};
use uuid::Uuid;

fn diesel() -> JobFile {
    job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle])
}

/// Reads the test at this minute instead.
fn later(mut test: TestRecord, minute: i64) -> TestRecord {
    let readings = test.runs.iter_mut().flat_map(|run| &mut run.readings);
    readings.for_each(|reading| reading.signed = at(minute));
    test.signed = at(minute);
    test
}

#[test]
fn a_swap_is_concluded_from_the_tests_around_it_and_injectors_keep_their_identity() {
    let mut file = diesel();
    let before = return_test(82.0, &[&[22.0, 60.0, 24.0, 23.0]]);
    let follows = later(return_test(80.0, &[&[23.0, 24.0, 57.0, 22.0]]), 40);
    let stays = later(return_test(80.0, &[&[23.0, 59.0, 24.0, 22.0]]), 40);
    file.events = vec![event(20, Event::Swapped { one: 2, other: 3 })];
    file.return_tests = vec![before.clone()];
    assert!(file.judged().unwrap().swaps.is_empty(), "nothing was repeated yet");
    file.return_tests = vec![before.clone(), follows];
    let judged = file.judged().unwrap();
    assert_eq!(judged.swaps[0].says, SwapSays::Follows);
    assert_eq!((judged.swaps[0].from, judged.swaps[0].to), (2, 3));
    assert_eq!(judged.plan.next.unwrap().0, "bench", "nothing else is worth its minutes now");
    let labels: Vec<&str> = judged.seats.iter().map(|seat| seat.label.as_str()).collect();
    assert_eq!(labels, ["L1", "L3", "L2", "L4"]);
    assert_eq!(judged.seats[2].came_from, 2);
    let sat = |minute| file.injector_at(Some(2), at(minute).moment());
    assert_eq!((sat(1), sat(30)), (Some(Uuid::from_u128(2)), Some(Uuid::from_u128(3))));
    // A house that looks closer only far above the others saw nothing to follow.
    file.return_tests[0].setup.rules.look = 2.0;
    assert_eq!(file.judged().unwrap().swaps[0].says, SwapSays::Unclear);
    file.return_tests = vec![before, stays];
    let judged = file.judged().unwrap();
    assert_eq!(judged.swaps[0].says, SwapSays::Stays);
    assert!(judged.plan.steer.contains("line, wiring or the cylinder"));
    // A balance test is followed as well, and back again puts the labels back.
    let mut petrol = job(FuelSystem::PetrolPort, &[Symptom::RoughIdle]);
    let balance = |minute, ends: &[f64]| {
        let set = [("pulses", 50.0), ("pulse", 6.0)];
        sheet(EngineTest::PressureDrop, minute, &set, &[("start", &[300.0; 4]), ("end", ends)])
    };
    petrol.sheets =
        vec![balance(5, &[210.0, 212.0, 250.0, 211.0]), balance(30, &[211.0, 212.0, 210.0, 248.0])];
    petrol.events = vec![event(20, Event::Swapped { one: 4, other: 3 })];
    let said = petrol.judged().unwrap().swaps;
    assert_eq!((said[0].says, said[0].from, said[0].to), (SwapSays::Follows, 3, 4));
    petrol.events.push(event(50, Event::Swapped { one: 3, other: 4 }));
    assert!(petrol.seats(None).iter().all(|seat| seat.cylinder == seat.came_from));
}

#[test]
fn across_temperatures_a_comparison_is_corrected_with_its_label_or_refused() {
    let both = |first: Option<f64>, second: Option<f64>| {
        let mut file = diesel();
        let mut before = return_test(80.0, &[&[40.0, 42.0, 40.0, 41.0]]);
        let mut after = later(return_test(80.0, &[&[30.0, 31.0, 30.0, 31.0]]), 30);
        before.setup.temperature_c = first.map(Celsius);
        after.setup.temperature_c = second.map(Celsius);
        file.return_tests = vec![before, after];
        file.judged().unwrap().side_by_side.unwrap()
    };
    let alike = both(Some(80.0), Some(83.0));
    assert_eq!((alike.factor, alike.lanes[0].change), (None, Some(-0.25)));
    let cold = both(Some(80.0), Some(40.0));
    assert!(cold.label.starts_with("Estimate") && cold.factor.unwrap() > 1.0);
    assert!(cold.lanes[0].change.unwrap() > -0.25, "thick fuel returned less");
    let unknown = both(Some(80.0), None);
    assert!(unknown.refused.unwrap().contains("not measured"));
    assert!(unknown.lanes.iter().all(|lane| lane.change.is_none()));
}

#[test]
fn phases_are_judged_each_by_itself_and_the_one_that_condemns_leads() {
    let mut test = return_test(
        82.0,
        &[&[22.0, 23.0, 24.0, 23.0], &[40.0, 92.0, 42.0, 41.0], &[22.0, 24.0, 24.0, 23.0]],
    );
    test.setup.regime = Regime::Stepped;
    for (run, phase) in test.runs.iter_mut().zip(Phase::ALL) {
        run.phase = Some(phase);
    }
    let layout = diesel().job.intake.layout;
    let verdict = test.verdict(&layout).unwrap();
    assert!(verdict.headline.starts_with("At raised speed: cylinder 2"), "{}", verdict.headline);
    assert!(verdict.advice.join(" ").contains("an idle-only test would have missed it"));
    assert_eq!(verdict.rows.len(), 3);
    assert!(verdict.rows[1].leads && verdict.rows[0].lanes[1].mark == Mark::Inside);
    test.runs.remove(1);
    assert!(
        test.verdict(&layout)
            .unwrap()
            .advice
            .join(" ")
            .contains("needs readings at idle and raised speed")
    );
    test.runs[1]
        .readings
        .iter_mut()
        .for_each(|r| r.value *= if r.cylinder.is_some() { 1.4 } else { 1.0 });
    let warming = test.verdict(&layout).unwrap();
    assert!(warming.advice.join(" ").contains("still warming up"), "{:?}", warming.advice);
}

#[test]
fn banks_run_alone_stand_together_and_are_compared_as_wholes() {
    let mut layout = diesel().job.intake.layout;
    (layout.banks, layout.cylinders) = (2, 4);
    let mut test = return_test(82.0, &[&[22.0, 23.0], &[30.0, 31.0]]);
    for (bank, run) in (0..).zip(&mut test.runs) {
        run.bank = Some(bank);
    }
    for reading in &mut test.runs[1].readings {
        reading.cylinder = reading.cylinder.map(|c| c + 2);
    }
    let verdict = test.verdict(&layout).unwrap();
    assert!(verdict.lanes.iter().all(|lane| lane.mark != Mark::NotMeasured));
    assert!(
        verdict.advice.join(" ").contains("The second bank as a whole is +35 %"),
        "{:?}",
        verdict.advice
    );
    assert_eq!(test.runs[0].unread(&layout), Vec::<u32>::new(), "the other bank is not missing");
    test.runs.pop();
    assert!(test.verdict(&layout).unwrap().advice.join(" ").contains("Only one bank"));
}

#[test]
fn while_cranking_the_sum_is_held_against_what_the_pump_can_spare() {
    let says = |spare: Option<f64>| {
        let mut test = return_test(20.0, &[&[20.0, 21.0, 50.0, 19.0]]);
        test.setup.regime = Regime::Cranking;
        test.setup.pump_spare_ml_min = spare;
        test.runs[0].readings[0].value = 30.0;
        test.verdict(&diesel().job.intake.layout).unwrap()
    };
    assert!(says(Some(150.0)).advice.join(" ").contains("leak-off takes the rail pressure"));
    assert!(says(Some(220.0)).advice.join(" ").contains("inconclusive"));
    assert!(says(Some(400.0)).advice.join(" ").contains("lost elsewhere"));
    let unknown = says(None);
    assert!(unknown.advice.join(" ").contains("enter the pump's spare capacity"));
    assert!(unknown.flags.is_empty(), "a cold engine that does not start is no wrong use");
}

#[test]
fn bottles_timed_to_a_mark_give_rates_even_when_they_fill_in_seconds() {
    let mut test = return_test(82.0, &[&[12.0, 5.0, 13.0, 12.5]]);
    for reading in test.runs[0].readings.iter_mut().filter(|r| r.cylinder.is_some()) {
        reading.kind = ReadingKind::Mark;
        reading.mark_ml = Some(Millilitre(80.0));
    }
    let verdict = test.verdict(&diesel().job.intake.layout).unwrap();
    assert_eq!(verdict.lanes[1].value, Some(960.0));
    assert_eq!((verdict.lanes[1].mark, verdict.lanes[0].mark), (Mark::TooMuch, Mark::Inside));
    assert!(!verdict.lanes[1].at_least, "a mark is a rate, not a lower bound");
}

#[test]
fn wrong_use_of_a_return_test_is_answered() {
    let layout = diesel().job.intake.layout;
    let flags = |change: &dyn Fn(&mut TestRecord)| {
        let mut test = return_test(82.0, &[&[22.0, 23.0, 24.0, 23.0]]);
        change(&mut test);
        let verdict = test.verdict(&layout).unwrap();
        (verdict.flags.join(" "), verdict)
    };
    assert_eq!(flags(&|_| {}).0, "");
    assert!(flags(&|t| t.setup.temperature_c = None).0.contains("Temperature not measured"));
    assert!(
        flags(&|t| t.setup.temperature_c = Some(Celsius(35.0))).0.contains("Cold test at 35 °C")
    );
    assert!(
        flags(&|t| t.runs[0].readings[3].value = 2.3)
            .0
            .contains("bottle 3 is a tenth of the others")
    );
    assert!(flags(&|t| drop(t.runs[0].readings.pop())).0.contains("bottle 4 not read"));
    let (says, verdict) = flags(&|t| t.runs[0].ticked = Some(vec![StartId::Warm]));
    assert!(says.contains("hoses purged") && !says.contains("warm,"), "{says}");
    let named =
        |lane: &Lane| lane.because.iter().any(|because| because.says.contains("Unticked at start"));
    assert!(verdict.lanes.iter().all(named), "named in every because");
    assert_eq!(flags(&|t| t.runs[0].ticked = None).0, "", "nobody was asked");
    let again = |why: &'static str| {
        move |test: &mut TestRecord| {
            let first = test.runs[0].readings[2].clone();
            test.runs[0].readings.push(crate::record::Reading {
                id: Uuid::now_v7(),
                value: 27.0,
                corrects: Some(first.id),
                why: Some(why.to_owned()),
                shown_by: None,
                ..first
            });
        }
    };
    assert!(flags(&again("misread")).0.contains("was it still filling?"));
    assert_eq!(flags(&again("typing slip")).0, "");
}
