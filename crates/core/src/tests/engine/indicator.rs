//! `indicator`: control lamp, coil-field sniffer and listening rod, with their true weight.
//!
//! Dark is proof of a fault on the control side. Lit is not proof of health: a lamp lights on a few
//! strands of wire. Sniffer and rod say only that something moves; the three are one finding, as
//! they answer the same question. No unit; answers are chosen.
//!
//! # Source
//! House rule.

mod words;

use super::words::cylinders;
use super::{Example, Found, Lane, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::work::Stage;

crate::said::outcomes! {
    LAMP_ALL_DARK = lamp_all_dark (Fault),
    LAMP_SOME_LIT = lamp_some_lit (Good),
    LAMP_DARK = lamp_dark,
    SILENT = silent,
    LIT = lit,
    MOVES = moves,
}

pub(super) const SPEC: Spec = Spec {
    title: words::CONTROL_SIGNAL_MOVEMENT,
    short: "Signal and movement",
    says: words::NOID_LIGHT_CONTROL_SIDE,
    cautions: &[caution::RUNNING, caution::CRANKING, caution::CHARGE],
    work: Some(Work::ConnectorOff),
    start: &[StartId::ChargerOn, StartId::Parked],
    minutes: 6,
    tools: words::NOID_LIGHT_VOLTAGE_FIELD,
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => true,
        // Only where a battery feed is switched to ground. On a boosted or a high-voltage drive a
        // lamp tells nothing, and it can hurt.
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect => false,
    },
    limit: None,
    instrument: None,
    set: &[],
    each: &[
        choice("lamp", "Noid light", &["dark", "lit"]).sound(1),
        choice("sniffer", "Field probe", &["nothing", "field"]).sound(1),
        choice("rod", "Stethoscope", &["silent", "clicks"]).sound(1),
    ],
    why: |c| {
        (c.rough || c.dead).then_some(Why {
            says: words::BEFORE_CONDEMNING_ONE_NOT,
            spared_by: words::NO_SUPPLY_VOLTAGE_ANYWHERE,
        })
    },
    property: Property::STANDING,
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[], each: &[("lamp", 1.0, 0.0), ("rod", 1.0, 0.0)] },
    table: include_str!("indicator.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let lanes = sheet.cylinders.iter().filter_map(|c| lane(sheet, *c)).collect();
    let mut found = Found { lanes, ..Found::default() };
    let marked = |mark| -> Vec<u32> {
        found.lanes.iter().filter(|lane| lane.mark == mark).map(|lane| lane.place).collect()
    };
    let (dark, odd) = (marked(Mark::TooLittle), marked(Mark::Look));
    found.headline = match (dark.as_slice(), odd.as_slice()) {
        _ if found.lanes.is_empty() => words::CONNECT_NOID_LIGHT_EACH.to_owned(),
        (dark, _) if dark.len() == sheet.cylinders.len() => {
            words::DARK_EVERYWHERE_ECU_SPEED.to_owned()
        }
        ([], []) if found.lanes.iter().all(|lane| lane.said.code == outcomes::MOVES) => {
            words::EVERY_INJECTOR_TRIED_SHOWS.to_owned()
        }
        ([], []) => words::EVERY_LAMP_LIGHTS.to_owned(),
        ([], odd) => words::driven_but_silent(cylinders(odd)),
        (dark, _) => words::dark_no_control_signal(cylinders(dark)),
    };
    let dark_all = dark.len() == sheet.cylinders.len() && dark.len() > 1;
    let lit = sheet.read("lamp").iter().any(|(_, lamp)| *lamp == 1.0);
    found.shared = match (dark_all, lit) {
        (true, _) => Some(outcomes::LAMP_ALL_DARK.into()),
        (false, true) => Some(outcomes::LAMP_SOME_LIT.into()),
        (false, false) => None,
    };
    if dark_all {
        found.advice.push(words::GOOD_FEED_SPEED_SIGNAL.to_owned());
    } else if !dark.is_empty() {
        found.advice.push(words::BEFORE_CONDEMNING_INJECTOR_NOT.to_owned());
    } else if !found.lanes.is_empty() {
        found.advice.push(words::LAMP_LIGHTS_FEW_STRANDS.to_owned());
    }
    Ok(found)
}

fn lane(sheet: &Sheet, cylinder: u32) -> Option<Lane> {
    let of = |name| sheet.of(cylinder, name);
    let (lamp, sniffer, rod) = (of("lamp"), of("sniffer"), of("rod"));
    if lamp.is_none() && sniffer.is_none() && rod.is_none() {
        return None;
    }
    let moves = [sniffer, rod].into_iter().flatten().any(|v| v == 1.0);
    let tried = sniffer.is_some() || rod.is_some();
    let (mark, code, word, sentence) = match (lamp, moves, tried) {
        (Some(0.0), true, _) => {
            (Mark::Questioned, Code::DOUBTFUL, "contradiction", words::DARK_BUT_SOMETHING_MOVES)
        }
        (Some(0.0), false, _) => {
            (Mark::TooLittle, outcomes::LAMP_DARK, "dark", words::NO_CONTROL_SIGNAL_CONTROL)
        }
        (_, false, true) => {
            (Mark::Look, outcomes::SILENT, "silent", words::SILENT_STUCK_OPEN_DRIVEN)
        }
        (_, true, _) => (Mark::Inside, outcomes::MOVES, "moves", words::SOMETHING_MOVES_MUCH_FLOWS),
        (_, false, false) => (Mark::Undecided, outcomes::LIT, "lit", words::LIT_PROVES_LITTLE_FEW),
    };
    Some(Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        sentence: sentence.to_owned(),
        because: vec![Because::says(words::NOID_LIGHT_FIELD_PROBE)],
        would_change: vec![words::SUPPLY_VOLTAGE_UNDER_LOAD.to_owned()],
        ..Lane::default()
    })
}
