//! Written cases: what a good technician would decide, in every fuel system, with the usual traps.

mod bench;

use super::*;
use crate::library::Limit;
use crate::library::{FamilyKind, LimitCheck};
use crate::record::{Event, SheetRecord, TestRecord};
use crate::sample::{at, event, job, return_test, sheet};
use crate::tests::bench::tests::{diesel, family, limit, session};
use crate::tests::bench::{BenchKind, BenchTest, RoundStage, SessionRecord};
use crate::tests::engine::EngineTest;
use crate::work::{Decision, Lately, Suffers, Symptom};

use Decision::{Adjust, Clean, Leave, LookElsewhere, MeasureAgain, Recode, RepairHarness, Replace};
use FuelSystem::{DieselPiezo, DieselSolenoid, ExhaustDoser, PetrolDirect, PetrolPort};

/// What is expected of the four cylinders, and the code of the sentence of one of them.
type Expected = ([Decision; 4], u32, Why);

fn case(name: &str, file: &JobFile, (decisions, cylinder, why): Expected) {
    let judgement = judge_file(file);
    let made: Vec<Decision> = judgement.positions.iter().map(|p| p.ruling.decision).collect();
    let at = judgement.positions.iter().find(|at| at.cylinder == cylinder).unwrap();
    let causes: Vec<_> = at.ranked.iter().take(3).map(|r| (r.word.as_str(), r.p)).collect();
    let ruling = &at.ruling;
    assert_eq!(made, decisions, "{name}: {:?} {} {causes:?}", ruling.why, ruling.sentence);
    assert_eq!(ruling.why, why, "{name}: {} {causes:?}", ruling.sentence);
    assert!(ruling.sentence.ends_with('.'), "{name}: {}", ruling.sentence);
}

pub(super) fn limited(mut test: TestRecord, upper: f64) -> TestRecord {
    test.setup.limit = Some(Limit {
        upper_ml_min: upper,
        from_c: None,
        to_c: None,
        source: "bench book".to_owned(),
        revision: 1,
    });
    test
}

pub(super) fn later(mut test: TestRecord, minute: i64) -> TestRecord {
    test.signed = at(minute);
    for run in &mut test.runs {
        run.signed = at(minute);
        run.readings.iter_mut().for_each(|reading| reading.signed = at(minute));
    }
    test
}

pub(super) fn with(mut file: JobFile, sheets: Vec<SheetRecord>) -> JobFile {
    file.sheets = sheets;
    file
}

pub(super) fn returned(symptoms: &[Symptom], test: TestRecord) -> JobFile {
    let mut file = job(DieselSolenoid, symptoms);
    file.return_tests = vec![test];
    file
}

/// The same levels in three runs, at this temperature.
pub(super) fn thrice(celsius: f64, levels: [f64; 4]) -> TestRecord {
    return_test(celsius, &[&levels, &levels, &levels])
}

const FLOW: BenchTest = BenchTest::Flow;

/// A petrol set on the bench, a round of tubes held open for each list.
pub(super) fn flowed(rounds: &[[f64; 4]]) -> SessionRecord {
    let port = family("F", FamilyKind::PetrolPortHigh, Vec::new());
    let mut s = session(BenchKind::Petrol, &[port], &["F"; 4]);
    for (i, values) in rounds.iter().enumerate() {
        if i > 0 {
            s = s.then(RoundStage::Cleaned);
        }
        s = s.set(FLOW, &[("pressure", 300.0), ("fluid", 1.0)]);
        s = s.tubes(FLOW, Some(6), "volume", values);
    }
    s
}

pub(super) fn benched(fuel: FuelSystem, symptoms: &[Symptom], s: SessionRecord) -> JobFile {
    let mut file = job(fuel, symptoms);
    file.bench = vec![s];
    file
}

#[test]
fn the_return_of_common_rail_injectors() {
    let rough = &[Symptom::RoughIdle];
    let high: &[&[f64]] =
        &[&[22.0, 60.0, 24.0, 23.0], &[22.5, 60.5, 24.0, 23.0], &[22.0, 61.0, 23.5, 23.0]];
    case(
        "one over its limit in three runs",
        &returned(rough, limited(return_test(82.0, high), 24.0)),
        ([Leave, Replace, Leave, Leave], 2, Why::Worn),
    );
    case(
        "one run is not enough for money",
        &returned(rough, return_test(82.0, &high[..1])),
        ([Leave, MeasureAgain, Leave, Leave], 2, Why::MoreRuns),
    );
    let two = thrice(82.0, [22.0, 60.0, 61.0, 23.0]);
    case(
        "two bad of four by comparison",
        &returned(rough, two.clone()),
        ([MeasureAgain; 4], 2, Why::InjectorUnclear),
    );
    case(
        "two bad of four by a limit",
        &returned(rough, limited(two.clone(), 20.0)),
        ([Leave, Replace, Replace, Leave], 3, Why::Worn),
    );
    let kinked = thrice(82.0, [22.0, 2.0, 24.0, 23.0]);
    case(
        "a kinked hose returns little",
        &returned(rough, kinked.clone()),
        ([Leave, MeasureAgain, Leave, Leave], 2, Why::Doubtful),
    );
    let close: &[&[f64]] = &[&[22.0, 26.0, 24.0, 23.0]];
    case(
        "over its limit by less than the doubt",
        &returned(rough, limited(return_test(82.0, close), 12.8)),
        ([Leave, MeasureAgain, Leave, Leave], 2, Why::Doubtful),
    );
    let alike = thrice(82.0, [22.0, 23.0, 24.0, 23.0]);
    case("all alike", &returned(rough, alike.clone()), ([Leave; 4], 1, Why::NothingAgainst));
    let mut piezo = returned(rough, alike.clone());
    piezo.job.intake.fuel_system = DieselPiezo;
    piezo.sheets =
        vec![sheet(EngineTest::PiezoStack, 5, &[], &[("microfarads", &[5.1, 5.0, 5.05, 5.05])])];
    case("piezo, stacks and returns alike", &piezo, ([Leave; 4], 1, Why::NothingAgainst));
    piezo.sheets =
        vec![sheet(EngineTest::Insulation, 9, &[], &[("megohms", &[200.0, 180.0, 0.2, 210.0])])];
    case(
        "piezo, one leaks to its body",
        &piezo,
        ([Leave, Leave, Replace, Leave], 3, Why::CoilDead),
    );
}

#[test]
fn what_an_exchange_of_two_says() {
    let before = return_test(82.0, &[&[22.0, 60.0, 24.0, 23.0]]);
    let swapped = vec![event(20, Event::Swapped { one: 2, other: 3 })];
    let mut follows = returned(&[Symptom::RoughIdle], before.clone());
    follows.return_tests.push(later(thrice(80.0, [23.0, 24.0, 57.0, 22.0]), 40));
    follows.events.clone_from(&swapped);
    case(
        "the fault follows the injector",
        &follows,
        ([Leave, Recode, Replace, Leave], 3, Why::Worn),
    );
    let mut stays = follows.clone();
    stays.return_tests[1] = later(thrice(80.0, [23.0, 59.0, 24.0, 22.0]), 40);
    case(
        "the fault stays with the cylinder",
        &stays,
        ([Leave, LookElsewhere, Recode, Leave], 2, Why::PlaceUnclear),
    );
    let mut coded = returned(&[Symptom::RoughIdle], thrice(82.0, [22.0, 23.0, 24.0, 23.0]));
    coded.events = vec![event(0, Event::Swapped { one: 1, other: 4 })];
    coded.job.intake.story.lately = vec![Lately::InjectorsOut];
    case(
        "codes stayed behind when two changed places",
        &coded,
        ([Recode, Leave, Leave, Recode], 4, Why::Uncoded),
    );
}

#[test]
fn what_is_not_the_injector() {
    let rough = &[Symptom::RoughIdle, Symptom::MisfireLightLoad];
    let mut fuel = job(DieselSolenoid, &[Symptom::LowPower]);
    fuel.job.intake.story.suffers = Suffers::All;
    fuel.job.intake.story.lately = vec![Lately::RefuelledElsewhere];
    fuel.return_tests = vec![return_test(82.0, &[&[30.0, 52.0, 33.0, 48.0]])];
    fuel.sheets = vec![sheet(
        EngineTest::FuelSample,
        2,
        &[("suffers", 2.0), ("look", 3.0), ("smell", 1.0), ("water", 2.0)],
        &[],
    )];
    case("all of them from bad fuel", &fuel, ([LookElsewhere; 4], 2, Why::SharedFault));
    let mut air = job(DieselSolenoid, &[Symptom::LongCrankCold]);
    air.job.intake.story.lately = vec![Lately::FilterChanged];
    air.sheets =
        vec![sheet(EngineTest::SuctionAir, 2, &[("running", 2.0), ("standing", 2.0)], &[])];
    case("air after a filter", &air, ([LookElsewhere; 4], 1, Why::SharedFault));
    let mechanical = with(
        job(DieselSolenoid, rough),
        vec![
            sheet(
                EngineTest::Compression,
                2,
                &[("method", 0.0)],
                &[("pressure", &[2600.0, 2550.0, 1500.0, 2580.0])],
            ),
            sheet(
                EngineTest::Cutout,
                5,
                &[("base", 800.0)],
                &[("cut", &[720.0, 722.0, 795.0, 718.0])],
            ),
        ],
    );
    case(
        "a mechanical cylinder",
        &mechanical,
        ([Leave, Leave, LookElsewhere, Leave], 3, Why::Mechanical),
    );
    let volts = |values: &[f64]| {
        sheet(EngineTest::Supply, 2, &[("battery", 12.6), ("load", 1.0)], &[("volts", values)])
    };
    let lamps = |lamp: &[f64], rod: &[f64]| {
        sheet(EngineTest::Indicator, 3, &[], &[("lamp", lamp), ("rod", rod)])
    };
    let leg =
        with(job(PetrolPort, rough), vec![volts(&[12.4, 12.5, 10.9, 12.4]), lamps(&[1.0; 4], &[])]);
    case(
        "lamp lit, but the leg is weak",
        &leg,
        ([MeasureAgain, MeasureAgain, RepairHarness, MeasureAgain], 3, Why::HarnessLeg),
    );
    // Repaired and read again, with all or some of the plugs and another injector in there: what
    // was read before no longer speaks.
    let mut repaired = leg.clone();
    repaired.events = vec![event(20, Event::Swapped { one: 3, other: 4 })];
    for plugs in [&[12.4; 4][..], &[12.4; 3]] {
        let set = [("battery", 12.6), ("load", 1.0)];
        repaired.sheets.truncate(2);
        repaired.sheets.push(sheet(EngineTest::Supply, 30, &set, &[("volts", plugs)]));
        let ranked = &judge_file(&repaired).positions[2].ranked;
        assert!(ranked.iter().all(|one| one.cause != Some(Cause::HarnessLeg)), "{plugs:?}");
    }
    let mut coils = sheet(
        EngineTest::CoilResistance,
        4,
        &[("temperature", 20.0), ("leads", 0.1)],
        &[("ohms", &[14.4, 14.5, 14.3, 14.4])],
    );
    coils.limit = Some(limit(LimitCheck::CoilResistance, "", [Some(13.0), Some(16.0)]));
    let dead = with(
        job(PetrolPort, rough),
        vec![
            volts(&[12.4, 12.5, 12.4, 12.4]),
            lamps(&[1.0, 0.0, 1.0, 1.0], &[1.0, 0.0, 1.0, 1.0]),
            coils.clone(),
        ],
    );
    case(
        "a good injector on a dead driver",
        &dead,
        ([MeasureAgain, LookElsewhere, MeasureAgain, MeasureAgain], 2, Why::Driver),
    );
    let fuse = with(job(PetrolPort, &[Symptom::NoStart]), vec![volts(&[0.1; 4])]);
    case("no supply anywhere", &fuse, ([LookElsewhere; 4], 4, Why::SharedFault));
    let open = sheet(
        EngineTest::CoilResistance,
        4,
        &[("temperature", 20.0), ("leads", 0.1)],
        &[("ohms", &[14.4, 250_000.0, 14.3, 14.4])],
    );
    let open = SheetRecord { limit: coils.limit, ..open };
    let open = with(job(PetrolPort, rough), vec![open, lamps(&[1.0; 4], &[1.0, 0.0, 1.0, 1.0])]);
    case(
        "an open coil",
        &open,
        ([MeasureAgain, Replace, MeasureAgain, MeasureAgain], 2, Why::CoilDead),
    );
}

#[test]
fn the_balance_of_petrol_injectors() {
    let rough = &[Symptom::MisfireLoad];
    let balance = |ends: &[f64], bracket: &[(&str, f64)]| {
        let set: Vec<(&str, f64)> =
            [("pulses", 50.0), ("pulse", 6.0)].into_iter().chain(bracket.iter().copied()).collect();
        with(
            job(PetrolPort, rough),
            vec![sheet(
                EngineTest::PressureDrop,
                5,
                &set,
                &[("start", &[300.0; 4]), ("end", ends)],
            )],
        )
    };
    case(
        "one drops little",
        &balance(&[210.0, 212.0, 250.0, 211.0], &[]),
        ([Leave, Leave, Clean, Leave], 3, Why::Restricted),
    );
    case(
        "a balance that creeps",
        &balance(&[210.0, 222.0, 234.0, 246.0], &[]),
        ([MeasureAgain; 4], 4, Why::Doubtful),
    );
    let di = with(
        job(PetrolDirect, rough),
        vec![sheet(EngineTest::DiBalance, 5, &[], &[("change", &[310.0, 305.0, 160.0, 300.0])])],
    );
    case("direct: one takes little", &di, ([Leave, Leave, Clean, Leave], 3, Why::Restricted));
    let more = with(
        job(PetrolDirect, rough),
        vec![sheet(EngineTest::DiBalance, 5, &[], &[("change", &[310.0, 305.0, 520.0, 300.0])])],
    );
    case("direct: one takes much", &more, ([Leave, Leave, MeasureAgain, Leave], 3, Why::NotEnough));
}
