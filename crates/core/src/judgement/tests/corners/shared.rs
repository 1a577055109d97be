//! What all cylinders share, and how they are fed.

use super::*;

#[test]
fn how_an_injector_is_fed_decides_what_a_voltage_means() {
    let volts = |file: FuelSystem, cells: &[(&str, &[f64])]| {
        with(
            job(file, ROUGH),
            vec![sheet(EngineTest::Supply, 2, &[("battery", 12.6), ("load", 1.0)], cells)],
        )
    };
    let rest = volts(DieselSolenoid, &[("volts", &[0.0; 4])]);
    let told =
        case("no rest voltage on a common rail", &rest, &[MeasureAgain; 4], (1, Why::CannotDecide));
    assert!(!told.positions.iter().any(|at| at.ruling.sentence.contains("fuse")));
    let leg = volts(DieselSolenoid, &[("leg", &[0.3, 0.3, 900.0, 0.2])]);
    case(
        "a wire that is open",
        &leg,
        &[MeasureAgain, MeasureAgain, RepairHarness, MeasureAgain],
        (3, Why::HarnessLeg),
    );
    let driver = volts(
        DieselSolenoid,
        &[("leg", &[0.3, 0.3, 0.2, 0.2]), ("drive", &[18.0, 0.0, 18.2, 17.9])],
    );
    case(
        "whole wires, no drive",
        &driver,
        &[MeasureAgain, LookElsewhere, MeasureAgain, MeasureAgain],
        (2, Why::Driver),
    );
    let mut dark = volts(PetrolPort, &[("volts", &[12.4; 4])]);
    dark.job.intake.symptoms = vec![Symptom::NoStart];
    dark.sheets.push(sheet(EngineTest::Indicator, 5, &[], &[("lamp", &[0.0; 4])]));
    let told = case("all lamps dark, feed good", &dark, &[LookElsewhere; 4], (1, Why::SharedFault));
    assert!(
        told.positions[0].ruling.sentence.contains("speed signal"),
        "{}",
        told.positions[0].ruling.sentence
    );
    let spark = with(
        job(PetrolPort, ROUGH),
        vec![cut(1, 3), sheet(EngineTest::Spark, 6, &[], &[("moved", &[0.0, 0.0, 1.0])])],
    );
    case(
        "the misfire moved with its coil",
        &spark,
        &[Leave, Leave, LookElsewhere, Leave],
        (3, Why::Ignition),
    );
}

#[test]
fn compression_low_alike_is_low() {
    let gauge = |file: JobFile, kpa: &[f64], more: &[(&str, f64)]| {
        let set: Vec<(&str, f64)> =
            [("method", 0.0)].into_iter().chain(more.iter().copied()).collect();
        let mut file = file;
        file.sheets.push(sheet(EngineTest::Compression, 2, &set, &[("pressure", kpa)]));
        file
    };
    let dead =
        gauge(job(DieselSolenoid, &[Symptom::NoStart]), &[1300.0, 1320.0, 1290.0, 1310.0], &[]);
    case("a no-start with all low", &dead, &[LookElsewhere; 4], (2, Why::Mechanical));
    let typed =
        gauge(job(PetrolPort, ROUGH), &[1000.0, 1020.0, 1010.0, 990.0], &[("least", 1100.0)]);
    case("below what the maker asks", &typed, &[LookElsewhere; 4], (2, Why::Mechanical));
    let two = gauge(job(DieselSolenoid, ROUGH), &[2600.0, 1500.0, 1520.0, 2580.0], &[]);
    let advice = &two.judged().unwrap().sheets[0].as_ref().unwrap().advice.clone();
    assert!(advice[0].contains("gasket"), "{advice:?}");
    case(
        "two neighbours low",
        &two,
        &[MeasureAgain, LookElsewhere, LookElsewhere, MeasureAgain],
        (2, Why::Mechanical),
    );
    let both = gauge(
        returned(ROUGH, limited(thrice(82.0, [22.0, 60.0, 24.0, 23.0]), 24.0)),
        &[2600.0, 1500.0, 2590.0, 2580.0],
        &[],
    );
    let told = case(
        "low compression and a proven return",
        &both,
        &[Leave, LookElsewhere, Leave, Leave],
        (2, Why::Mechanical),
    );
    assert!(
        told.positions[1].ruling.beside[0].contains("leaking off too much"),
        "{:?}",
        told.positions[1].ruling
    );
}

#[test]
fn what_all_share_and_the_rail() {
    let relief = |answers: &[(&str, f64)]| {
        with(
            job(DieselSolenoid, &[Symptom::NoStart]),
            vec![sheet(EngineTest::RailRelief, 2, answers, &[])],
        )
    };
    case(
        "the relief valve runs",
        &relief(&[("relief", 2.0)]),
        &[LookElsewhere; 4],
        (1, Why::SharedFault),
    );
    let lost = relief(&[("relief", 0.0), ("wanted", 30_000.0), ("reached", 12_000.0)]);
    case(
        "the rail is not reached, the valve dry",
        &lost,
        &[MeasureAgain; 4],
        (1, Why::NothingMeasured),
    );
    let mut fuel = job(DieselSolenoid, &[Symptom::LowPower]);
    fuel.job.intake.story.suffers = Suffers::All;
    fuel.sheets = vec![sheet(
        EngineTest::FuelSample,
        2,
        &[("suffers", 2.0), ("look", 0.0), ("smell", 1.0)],
        &[],
    )];
    let told = case("the wrong fuel", &fuel, &[LookElsewhere; 4], (1, Why::SharedFault));
    assert_eq!(
        told.next.iter().map(|one| one.id.as_str()).collect::<Vec<_>>(),
        ["fuel_sample"],
        "nothing but its repair"
    );
    assert_eq!(
        (told.step.check.as_deref(), told.step.stage),
        (Some("fuel_sample"), crate::work::Stage::RuleOut)
    );
    // Put right and proven: what was read on the wrong fuel says nothing any more.
    let mut fixed = fuel.clone();
    fixed.return_tests = vec![thrice(82.0, [22.0, 60.0, 24.0, 23.0])];
    fixed.sheets.push(sheet(
        EngineTest::FuelSample,
        30,
        &[("suffers", 2.0), ("look", 0.0), ("smell", 0.0), ("water", 0.0)],
        &[],
    ));
    case(
        "read before the fuel was put right",
        &fixed,
        &[MeasureAgain; 4],
        (2, Why::NothingMeasured),
    );
    case(
        "nothing measured",
        &job(DieselSolenoid, ROUGH),
        &[MeasureAgain; 4],
        (1, Why::NothingMeasured),
    );
    let dead = judge_file(&job(DieselSolenoid, &[Symptom::NoStart]));
    let runs = ["cutout", "di_balance", "low_pressure", "suction_air"];
    assert!(
        !dead.next.iter().any(|one| runs.contains(&one.id.as_str())),
        "it does not start: {:?}",
        dead.next
    );
}

#[test]
fn balances_by_pressure_drop() {
    let balance = |ends: &[f64]| {
        let set = &[("pulses", 50.0), ("pulse", 6.0)];
        let starts = vec![300.0; ends.len()];
        with(
            job(PetrolPort, &[Symptom::MisfireLoad]),
            vec![sheet(EngineTest::PressureDrop, 5, set, &[("start", &starts), ("end", ends)])],
        )
    };
    case(
        "a creep within what alike means",
        &balance(&[210.0, 210.7, 211.4, 212.0]),
        &[Leave; 4],
        (4, Why::NothingAgainst),
    );
    let end = balance(&[210.0, 210.6, 211.0, 250.0]);
    let told = judge_file(&end);
    assert_eq!(told.positions[3].ranked[0].cause, Some(Cause::Restricted), "the one is named");
    let verdict = end.judged().unwrap().sheets[0].as_ref().unwrap().clone();
    assert!(
        verdict.advice.iter().any(|says| says.contains("repeat the first one")),
        "{:?}",
        verdict.advice
    );
    let much = balance(&[210.0, 212.0, 182.0, 211.0]);
    let told = case(
        "far above the others",
        &much,
        &[Leave, Leave, MeasureAgain, Leave],
        (3, Why::InjectorUnclear),
    );
    assert_eq!(
        told.positions[2].ruling.asks.as_deref(),
        Some("bench_leak"),
        "the leak check before \"leaks\""
    );
    let both = balance(&[210.0, 250.0, 182.0, 211.0]);
    let told = judge_file(&both);
    assert_eq!(told.positions[2].ruling.why, Why::OppositeInSet, "{:?}", told.positions[2].ruling);
    assert!(
        told.positions[1].ruling.sentence.contains("contamination"),
        "{:?}",
        told.positions[1].ruling
    );
    let look = balance(&[210.0, 212.0, 197.0, 211.0]);
    let verdict = look.judged().unwrap().sheets[0].as_ref().unwrap().clone();
    assert_eq!(verdict.lanes[2].mark, Mark::Look, "{:?}", verdict.lanes[2]);
    assert_eq!(judge_file(&look).positions[2].ruling.decision, MeasureAgain);
}

#[test]
fn a_named_cylinder_is_likelier_the_one_and_condemns_nobody_by_itself() {
    let plain = job(DieselSolenoid, ROUGH);
    let mut named = plain.clone();
    named.job.intake.story.cylinders = vec![3];
    let sound = |file: &JobFile, cylinder: u32| {
        let judgement = judge_file(file);
        let at = judgement.positions.iter().find(|at| at.cylinder == cylinder).unwrap();
        assert!(!matches!(at.ruling.decision, Replace | Clean));
        at.ranked.iter().find(|ranked| ranked.cause.is_none()).unwrap().p
    };
    let odds = |p: f64| (1.0 - p) / p;
    let (here, before) = (odds(sound(&named, 3)), odds(sound(&plain, 3)));
    assert!(here > 1.4 * before, "{here} {before}");
    let (beside, before) = (odds(sound(&named, 1)), odds(sound(&plain, 1)));
    assert!(beside < 0.95 * before, "{beside} {before}");
    assert!(sound(&named, 3) > 0.1, "a name is no proof");
}

#[test]
fn an_engine_is_not_run_on_a_fuel_that_is_in_doubt() {
    let sample = |minute: i64, smell: f64| {
        let told = [("suffers", 0.0), ("look", 0.0), ("smell", smell), ("water", 0.0)];
        sheet(EngineTest::FuelSample, minute, &told, &[])
    };
    let runs = ["cutout", "di_balance", "return_test", "rail_relief", "swap"];
    let mut file = with(job(FuelSystem::PetrolDirect, ROUGH), vec![sample(5, 1.0)]);
    let mut asked = Vec::new();
    for minute in 10..30 {
        let told = judge_file(&file);
        let Some(step) = told.step.step.clone() else { break };
        assert!(!runs.contains(&step.0.as_str()), "{step:?} on a fuel in doubt");
        asked.push(step.0.clone());
        let reason = "left out".to_owned();
        file.events.push(event(minute, Event::StepSkipped { step, reason }));
    }
    assert!(
        asked.contains(&"fuel_sample".to_owned()),
        "a doubtful sample is taken again: {asked:?}"
    );
    let clear = with(job(FuelSystem::PetrolDirect, ROUGH), vec![sample(5, 1.0), sample(8, 0.0)]);
    let told = judge_file(&clear);
    assert!(told.next.iter().any(|one| runs.contains(&one.step.as_str())), "{:?}", told.next);
}
