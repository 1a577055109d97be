use super::*;
use crate::library::LimitCheck;
use crate::rules::{RuleChange, RuleId};
use uuid::Uuid;

fn sheet(set: &[(&str, f64)], name: &str, values: &[f64]) -> Sheet {
    Sheet {
        cylinders: (1..=values.len() as u32).collect(),
        banks: vec![(1..=values.len() as u32).collect()],
        set: set.iter().map(|(name, value)| ((*name).to_owned(), *value)).collect(),
        each: values.iter().enumerate().map(|(i, v)| (i as u32 + 1, name.to_owned(), *v)).collect(),
        ..Sheet::default()
    }
}

fn marks(verdict: &Verdict) -> Vec<Mark> {
    verdict.lanes.iter().map(|lane| lane.mark).collect()
}

fn meter(resolution: f64) -> Instrument {
    Instrument {
        id: Uuid::nil(),
        name: "Meter".to_owned(),
        kind: InstrumentKind::Meter,
        resolution,
        accuracy_pct: 0.5,
        accuracy_digits: 2.0,
        lead_ohm: Some(0.01),
        capacity_ml: None,
        calibration_due: None,
        certificate: String::new(),
        revision: 1,
    }
}

fn window(lower: f64, upper: f64) -> LimitEntry {
    LimitEntry {
        id: Uuid::nil(),
        family: "Any".to_owned(),
        check: LimitCheck::CoilResistance,
        condition: String::new(),
        revision: 2,
        lower: Some(lower),
        upper: Some(upper),
        typed: String::new(),
        from_c: None,
        to_c: None,
        from_kpa: None,
        to_kpa: None,
        source: "sheet".to_owned(),
        approved: None,
    }
}

#[test]
fn every_check_waits_for_its_cells_and_never_panics_on_what_was_typed() {
    for id in EngineTest::sheets() {
        let form = id.form(None);
        assert_eq!(serde_json::to_value(id).unwrap(), id.name());
        let empty = Sheet { cylinders: vec![1, 2, 3], ..Sheet::default() };
        let verdict = id.judge(&empty).unwrap();
        assert_eq!(marks(&verdict), [Mark::NotMeasured; 3], "{}", id.name());
        assert!(verdict.headline.ends_with('.'), "{}: says what to do first", id.name());
        for hostile in ["1e300", "-1", "x", "", "0", "1,234", "9".repeat(400).as_str()] {
            for cell in &form.each {
                let _ = id.read(&cell.name, true, hostile).unwrap();
            }
        }
        assert!(
            id.read("weather", false, "1").is_none() && id.read("weather", true, "1").is_none()
        );
        // Half a sheet: every prefix of what could be read gives a verdict or a refusal in words.
        let mut half = Sheet { cylinders: vec![1, 2, 3], ..Sheet::default() };
        for cell in &form.set {
            half.set.insert(cell.name.clone(), 1.0);
            assert!(id.judge(&half).is_ok());
        }
        for cylinder in 1..=3 {
            for cell in &form.each {
                half.each.push((cylinder, cell.name.clone(), 50.0));
                if let Err(error) = id.judge(&half) {
                    assert!(error.to_string().len() > 10);
                }
            }
        }
    }
}

#[test]
fn the_supply_names_fuse_or_leg_and_what_an_unloaded_reading_is_worth() {
    let of = |volts: &[f64], load: f64| {
        EngineTest::Supply
            .judge(&sheet(&[("battery", 12.6), ("load", load)], "volts", volts))
            .unwrap()
    };
    assert!(of(&[0.1, 0.0, 0.2], 1.0).headline.contains("fuse, relay or common feed"));
    let leg = of(&[12.5, 0.1, 12.5], 0.0);
    assert_eq!(leg.headline, "Cylinder 2: no supply voltage. Check its wiring or connector.");
    assert_eq!(marks(&leg), [Mark::Inside, Mark::TooLittle, Mark::Inside]);
    assert!(leg.advice[0].contains("a few strands carry a meter"));
    let weak = of(&[12.5, 11.3, 12.5], 1.0);
    assert_eq!(weak.headline, "Cylinder 2: low. Resistance in its wiring or connector.");
    assert_eq!(
        weak.lanes[1].because[0].arithmetic.as_deref(),
        Some("12.6 − 11.3 = 1.30 V > 0.5 V")
    );
    assert!(weak.advice.is_empty(), "a load was on");
    let change = RuleChange {
        rule: RuleId::SupplyDrop,
        value: 1.5,
        reason: "long looms".to_owned(),
        revision: 3,
    };
    let mut house = sheet(&[("battery", 12.6)], "volts", &[12.5, 11.3, 12.5]);
    house.rules = Rules::after([change]);
    let verdict = EngineTest::Supply.judge(&house).unwrap();
    assert_eq!(marks(&verdict), [Mark::Inside; 3]);
    assert!(verdict.lanes[1].because[1].says.contains("revision 3, because: long looms"));
}

#[test]
fn a_coil_is_judged_by_its_limit_and_a_coarse_meter_says_that_it_cannot() {
    let mut coils = sheet(&[("temperature", 20.0)], "ohms", &[0.41, 0.40, 0.62, 0.405]);
    coils.limit = Some(window(0.36, 0.44));
    let coarse = EngineTest::CoilResistance.judge(&coils).unwrap();
    assert_eq!(marks(&coarse)[..2], [Mark::Undecided; 2]);
    assert!(coarse.flags[0].contains("it cannot decide them"), "{:?}", coarse.flags);
    coils.instrument = Some(meter(0.001));
    let fine = EngineTest::CoilResistance.judge(&coils).unwrap();
    assert_eq!(marks(&fine), [Mark::Inside, Mark::Inside, Mark::TooMuch, Mark::Inside]);
    assert_eq!(fine.headline, "Cylinder 3: out of limits.");
    assert!(fine.lanes[2].because[1].says.contains("sheet, revision 2"));
    coils.set.clear();
    let unknown = EngineTest::CoilResistance.judge(&coils).unwrap();
    assert_eq!(
        marks(&unknown)[2],
        Mark::Look,
        "looked at, not condemned, when the limit cannot hold"
    );
    assert!(unknown.advice[0].contains("without the coil temperature"));
}

#[test]
fn a_decimal_that_slipped_is_asked_about() {
    let verdict = EngineTest::Cutout
        .judge(&sheet(&[("base", 800.0)], "cut", &[705.0, 702.0, 70.1, 704.0]))
        .unwrap();
    assert_eq!(
        verdict.flags,
        ["Speed, this one cut of cylinder 3 is a tenth of the others: decimal point slipped?"]
    );
    let weak = EngineTest::Cutout
        .judge(&sheet(&[("base", 800.0)], "cut", &[705.0, 702.0, 790.0, 704.0]))
        .unwrap();
    assert_eq!(weak.headline, "Cylinder 3 makes little difference.");
    assert!(weak.advice[0].contains("measure compression"));
}

#[test]
fn a_balance_that_creeps_asks_for_the_first_one_again_and_believes_what_it_says() {
    let balance = |ends: &[f64], again: Option<f64>| {
        let mut all = sheet(&[("pulses", 50.0), ("pulse", 6.0)], "end", ends);
        for cylinder in all.cylinders.clone() {
            all.each.push((cylinder, "start".to_owned(), 300.0));
        }
        if let Some(end) = again {
            all.set.insert("bracket_start".to_owned(), 300.0);
            all.set.insert("bracket_end".to_owned(), end);
        }
        EngineTest::PressureDrop.judge(&all).unwrap()
    };
    let creeping = balance(&[210.0, 213.0, 216.0, 219.0], None);
    assert!(creeping.advice[0].contains("possible drift. Repeat the first one"));
    assert!(
        balance(&[210.0, 213.0, 216.0, 219.0], Some(222.0)).advice[0]
            .contains("whole spread: drift")
    );
    assert!(balance(&[210.0, 213.0, 216.0, 219.0], Some(210.0)).advice[0].contains("no drift"));
    let low = balance(&[210.0, 212.0, 250.0, 211.0], None);
    assert_eq!(
        (low.headline.as_str(), marks(&low)[2]),
        ("Cylinder 3: too little flow.", Mark::TooLittle)
    );
    assert_eq!(low.schools[1].looks_at, [1, 3], "the plain school looks at both ends");
    let mut off = sheet(&[("pulses", 50.0), ("pulse", 6.0)], "end", &[210.0, 212.0, 180.0]);
    off.each.extend([(1, 300.0), (2, 301.0), (3, 260.0)].map(|(c, v)| (c, "start".to_owned(), v)));
    let off = EngineTest::PressureDrop.judge(&off).unwrap();
    assert_eq!(off.lanes[2].mark, Mark::Questioned);
    assert!(off.advice[0].contains("start pressure differs"));
}

#[test]
fn compression_is_compared_with_the_others_and_a_cranking_figure_is_no_proof() {
    let of = |method: f64, values: &[f64]| {
        EngineTest::Compression.judge(&sheet(&[("method", method)], "pressure", values)).unwrap()
    };
    let weak = of(1.0, &[98.0, 97.0, 71.0, 99.0]);
    assert_eq!(weak.headline, "Cylinder 3: below the others.");
    assert!(weak.advice[0].contains("no proof") && weak.advice[1].contains("Low compression"));
    assert_eq!(weak.lanes[2].because[0].arithmetic.as_deref(), Some("71 ÷ 98.0 − 1 = −28 %"));
    let split = of(0.0, &[2800.0, 2790.0, 2100.0, 2110.0]);
    // Nothing raises compression by a third: the lower camp is low, and neighbours share a gasket.
    assert_eq!(marks(&split), [Mark::Inside, Mark::Inside, Mark::TooLittle, Mark::TooLittle]);
    assert!(split.advice[0].contains("gasket"), "{:?}", split.advice);
    let scan =
        EngineTest::DiBalance.judge(&sheet(&[], "change", &[310.0, 305.0, 520.0, 300.0])).unwrap();
    assert_eq!(
        (scan.headline.as_str(), marks(&scan)[2]),
        ("Cylinder 3: above the others.", Mark::TooMuch)
    );
}

fn answered(id: EngineTest, set: &[(&str, f64)]) -> Verdict {
    id.judge(&sheet(set, "", &[])).unwrap()
}

#[test]
fn bad_fuel_means_another_thing_when_one_suffers_than_when_all_do() {
    let of = |suffers: f64, look: f64, water: f64| {
        let set = [("suffers", suffers), ("look", look), ("smell", 0.0), ("water", water)];
        answered(EngineTest::FuelSample, &set)
    };
    let all = of(2.0, 3.0, 1.0);
    assert_eq!(
        (all.outcome, all.headline.as_str()),
        (Outcome::Fault, "The fuel is dirty or has separated.")
    );
    assert!(all.advice[0].contains("before judging any injector"));
    assert!(all.advice[1].contains("Drops of water"), "the lesser finding is kept");
    assert!(of(0.0, 3.0, 0.0).advice[0].contains("still check the affected cylinder"));
    let clear = of(2.0, 0.0, 0.0);
    assert_eq!(clear.outcome, Outcome::Clear);
    assert!(clear.advice[0].contains("check what they share"));
    assert!(clear.advice[1].contains("does not prove the right grade"));
    let half = answered(EngineTest::FuelSample, &[("suffers", 0.0), ("look", 0.0)]);
    assert_eq!(half.advice[0], "Not checked yet: smell, water.");
}

#[test]
fn air_relief_and_what_all_share_name_the_place_and_excuse_the_injectors() {
    let air = answered(EngineTest::SuctionAir, &[("running", 1.0), ("standing", 2.0)]);
    assert_eq!(
        air.headline,
        "Fuel drains back when parked: this causes the long crank, not an injector."
    );
    assert!(air.advice[0].starts_with("A few bubbles"), "the worse finding leads");
    let shared =
        answered(EngineTest::SharedCauses, &[("intake", 1.0), ("ground", 2.0), ("exhaust", 0.0)]);
    assert_eq!(
        (shared.outcome, shared.advice[0].as_str()),
        (Outcome::Fault, "Fix this first; injectors are judged after it.")
    );
    assert!(
        shared.advice.last().unwrap().contains("exhaust, free, speed and rail signals"),
        "\"not looked\" is no answer"
    );
    let relief = |line: f64, reached: f64| {
        answered(
            EngineTest::RailRelief,
            &[("relief", line), ("wanted", 30_000.0), ("reached", reached)],
        )
    };
    assert!(relief(2.0, 18_000.0).headline.contains("not at an injector"));
    let dry = relief(0.0, 18_000.0);
    assert_eq!(dry.outcome, Outcome::Hint);
    assert!(
        dry.advice[0].contains("18000 of 30000 kPa, 60 %")
            && dry.advice[0].contains("injector leak-off")
    );
    assert_eq!(relief(0.0, 27_000.0).outcome, Outcome::Clear, "on the bound is inside");
}

#[test]
fn the_supply_is_judged_by_what_the_maker_asks_for_and_by_what_the_gauge_can_say() {
    let of = |set: &[(&str, f64)], gauge: Option<f64>| {
        let mut read = sheet(set, "", &[]);
        read.instrument =
            gauge.map(|resolution| Instrument { kind: InstrumentKind::Gauge, ..meter(resolution) });
        EngineTest::LowPressure.judge(&read).unwrap()
    };
    let none = of(&[("idle", 350.0)], None);
    assert_eq!(
        (none.outcome, none.headline.as_str()),
        (Outcome::Hint, "Saved, not assessed: enter the maker's figures.")
    );
    let weak = of(&[("least", 300.0), ("idle", 350.0), ("load", 210.0)], Some(1.0));
    assert_eq!(weak.outcome, Outcome::Fault);
    assert!(weak.advice[0].starts_with("210 kPa under load is too low"));
    let coarse = of(&[("least", 300.0), ("idle", 305.0), ("load", 304.0)], Some(20.0));
    assert_eq!(coarse.headline, "Fuel supply inconclusive: too close to its limit.");
    let falls = of(&[("least", 300.0), ("idle", 350.0), ("load", 340.0), ("after", 90.0)], None);
    assert!(falls.advice[0].contains("a leak back or a leaking injector tip"));
    assert_eq!(falls.outcome, Outcome::Hint);
}

#[test]
fn dark_is_proof_lit_is_not_and_three_helpers_are_one_finding() {
    let of = |lamp: &[f64], rod: &[f64]| {
        let mut tried = sheet(&[], "lamp", lamp);
        tried.each.extend(rod.iter().zip(1..).map(|(v, c)| (c, "rod".to_owned(), *v)));
        EngineTest::Indicator.judge(&tried).unwrap()
    };
    let lit = of(&[1.0, 1.0], &[]);
    assert_eq!(marks(&lit), [Mark::Undecided; 2], "lit alone says nothing of health");
    let dark = of(&[1.0, 0.0], &[1.0, 0.0]);
    assert_eq!(
        (marks(&dark), dark.headline.as_str()),
        (vec![Mark::Inside, Mark::TooLittle], "Cylinder 2: dark, no control signal.")
    );
    assert!(dark.advice[0].contains("prove it is driven"));
    assert!(of(&[0.0, 0.0], &[]).headline.contains("ECU"));
    assert_eq!(
        marks(&of(&[0.0, 1.0], &[1.0, 1.0]))[0],
        Mark::Questioned,
        "dark and moving contradict"
    );
    let silent = of(&[1.0, 1.0], &[1.0, 0.0]);
    assert_eq!(
        (marks(&silent)[1], silent.headline.as_str()),
        (Mark::Look, "Cylinder 2: driven but silent.")
    );
}

#[test]
fn insulation_follows_the_library_else_the_house_and_a_stack_is_compared() {
    let mut read = sheet(&[], "megohms", &[500.0, 12.0, 8.0]);
    let house = EngineTest::Insulation.judge(&read).unwrap();
    assert_eq!(marks(&house), [Mark::Inside, Mark::Inside, Mark::TooLittle]);
    assert_eq!(house.headline, "Cylinder 3: leak to body.");
    read.limit = Some(LimitEntry {
        check: LimitCheck::Insulation,
        upper: None,
        lower: Some(2e7),
        ..window(0.0, 0.0)
    });
    let library = EngineTest::Insulation.judge(&read).unwrap();
    assert_eq!(marks(&library), [Mark::Inside, Mark::TooLittle, Mark::TooLittle]);
    assert!(library.lanes[1].because[0].says.contains("At least 20 MΩ (sheet, revision 2)"));
    let stack =
        EngineTest::PiezoStack.judge(&sheet(&[], "microfarads", &[5.1, 5.0, 3.9, 5.05])).unwrap();
    assert_eq!(marks(&stack)[2], Mark::TooLittle);
    assert!(stack.advice[0].contains("Cracked layers read low"));
    assert!(!EngineTest::CoilResistance.fits(FuelSystem::DieselPiezo), "never by a coil window");
}
