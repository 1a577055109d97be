//! `indicator`: control lamp, coil-field sniffer and listening rod, with their true weight.
//!
//! Dark is proof of a fault on the control side. Lit is not proof of health: a lamp lights on a few
//! strands of wire. Sniffer and rod say only that something moves; the three are one finding, as
//! they answer the same question. No unit; answers are chosen.
//!
//! # Source
//! House rule.

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
    title: "Is it commanded, does it move?",
    short: "Lamp and rod",
    says: "Lamp on the control side while cranking or idling; then sniffer or listening rod at each body.",
    cautions: &[caution::RUNNING, caution::CRANKING, caution::CHARGE],
    work: Some(Work::ConnectorOff),
    start: &[StartId::ChargerOn, StartId::Parked],
    minutes: 6,
    tools: "Indicator lamp for this voltage, coil-field sniffer or listening rod",
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
        choice("lamp", "Lamp", &["dark", "lit"]),
        choice("sniffer", "Sniffer", &["nothing", "field"]),
        choice("rod", "Rod", &["silent", "clicks"]),
    ],
    why: |c| {
        (c.rough || c.dead).then_some(Why {
            says: "Before one is condemned for not clicking, prove that it is commanded.",
            spared_by: "Supply missing everywhere.",
        })
    },
    first: false,
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
        _ if found.lanes.is_empty() => {
            "Hold the lamp to each control pin while it cranks or idles.".to_owned()
        }
        (dark, _) if dark.len() == sheet.cylinders.len() => {
            "Dark everywhere: the control unit, its speed signal or its ground, not the injectors."
                .to_owned()
        }
        ([], []) => {
            "Something moves at every one that was tried; that is all this says.".to_owned()
        }
        ([], odd) => format!("{}: commanded but silent.", cylinders(odd)),
        (dark, _) => format!("{} dark: not commanded.", cylinders(dark)),
    };
    let dark_all = dark.len() == sheet.cylinders.len() && dark.len() > 1;
    let lit = sheet.read("lamp").iter().any(|(_, lamp)| *lamp == 1.0);
    found.shared = match (dark_all, lit) {
        (true, _) => Some(outcomes::LAMP_ALL_DARK.into()),
        (false, true) => Some(outcomes::LAMP_SOME_LIT.into()),
        (false, false) => None,
    };
    if dark_all {
        found.advice.push(
            "With a good feed: speed signal and control-unit ground before any driver.".to_owned(),
        );
    } else if !dark.is_empty() {
        found.advice.push(
            "Before an injector is condemned for not clicking, prove that it is being commanded: control wire, pin and driver first."
                .to_owned(),
        );
    } else if !found.lanes.is_empty() {
        found.advice.push(
            "A lamp lights on a few strands of wire: supply under load and coil resistance still have to be read."
                .to_owned(),
        );
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
        (Some(0.0), true, _) => (
            Mark::Questioned,
            Code::DOUBTFUL,
            "contradiction",
            "Dark lamp, but something moves: look at the lamp and its clip.",
        ),
        (Some(0.0), false, _) => (
            Mark::TooLittle,
            outcomes::LAMP_DARK,
            "dark",
            "Not commanded: control wire, pin or driver, whatever the injector is like.",
        ),
        (_, false, true) => (
            Mark::Look,
            outcomes::SILENT,
            "silent",
            "Silent: stuck, open, or not commanded enough. Coil resistance tells them apart.",
        ),
        (_, true, _) => (
            Mark::Inside,
            outcomes::MOVES,
            "moves",
            "Something moves; how much passes is not said.",
        ),
        (_, false, false) => (
            Mark::Undecided,
            outcomes::LIT,
            "lit",
            "Lit is no proof of health: strands carry a lamp.",
        ),
    };
    Some(Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        sentence: sentence.to_owned(),
        because: vec![Because::says(
            "Lamp, sniffer and rod answer one question, so they count once. Dark is proof, lit is not.",
        )],
        would_change: vec![
            "Supply under load, and the coil's resistance against the others.".to_owned(),
        ],
        ..Lane::default()
    })
}
