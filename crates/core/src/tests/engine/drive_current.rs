//! `drive_current`: the current into each injector while it is driven, by a clamp and a scope.
//!
//! Figures of [`crate::signal::ramp`], or typed: the peak, and where the supply is switched the kink at
//! which the pintle reaches its stop. Current and no kink: it is driven and does not move. A later kink
//! than the others': it opens late. A boosted drive ends its rise before the kink shows; there the
//! current alone is judged. Units: A, ms.
//!
//! # Source
//! House rules ([`RuleId::KinkLate`], and 20 % of the peak); the equation of a coil with moving iron.

mod words;

use super::words::{cylinders, middle_of, missing};
use super::{Example, Found, Lane, Recorded, RecordedKind, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    RAMP_NONE = ramp_none,
    RAMP_STILL = ramp_still,
    RAMP_LATE = ramp_late,
    RAMP_WEAK = ramp_weak,
    RAMP_ALIKE = ramp_alike,
}

/// Current below which it is not driven, A.
const NONE_A: f64 = 0.05;
/// Share of the others' peak below which it is driven weakly.
const WEAK: f64 = 0.8;
/// Others that are needed for a comparison.
const LEAST: usize = 3;
/// Kink seen, as chosen.
const SEEN: f64 = 1.0;

pub(super) const SPEC: Spec = Spec {
    title: "Current ramp",
    short: "Current ramp",
    says: words::CLAMP_ON_ONE_WIRE,
    cautions: &[caution::RUNNING, caution::CHARGE],
    work: None,
    start: &[StartId::Warm, StartId::Parked, StartId::ExtractionOn],
    minutes: 10,
    tools: words::CLAMP_AND_SCOPE,
    stage: Stage::Electrical,
    fits: |_| true,
    limit: None,
    instrument: None,
    set: &[cell("volts", "Supply voltage", Field::above_zero("V", 1.0, 400.0))],
    each: &[
        cell("peak", "Peak current", Field::from_zero("A", 100.0)),
        choice("kink", "Kink", &["none", "seen"]).sound(1),
        cell("opens", "Kink at", Field::from_zero("ms", 20.0)),
    ],
    why: |_| None,
    property: Property::RUNNING,
    first: false,
    recorded: Some(Recorded { kind: RecordedKind::Ramp, drive: "volts" }),
    follows: None,
    example: Example {
        set: &[("volts", 14.0)],
        each: &[("peak", 0.0, 0.95), ("kink", 1.0, 0.0), ("opens", 1.1, 0.0)],
    },
    table: include_str!("drive_current.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let mut found = Found { unit: "ms", window_word: "in line", ..Found::default() };
    let read = sheet.read("peak");
    if read.is_empty() {
        words::RECORD_EACH.clone_into(&mut found.headline);
        return Ok(found);
    }
    found.lanes = read.iter().map(|(c, peak)| lane(sheet, *c, *peak)).collect();
    let odd: Vec<u32> = (found.lanes.iter())
        .filter(|lane| !matches!(lane.mark, Mark::Inside | Mark::Undecided))
        .map(|lane| lane.place)
        .collect();
    let dead: Vec<u32> = (found.lanes.iter())
        .filter(|lane| lane.said.code == outcomes::RAMP_NONE)
        .map(|lane| lane.place)
        .collect();
    if dead.len() == read.len() && dead.len() > 1 {
        // Nobody is condemned by a clamp that is switched off.
        for lane in &mut found.lanes {
            (lane.mark, lane.said) = (Mark::Questioned, Code::DOUBTFUL.into());
        }
        words::NO_CURRENT_ANYWHERE.clone_into(&mut found.headline);
        found.advice.push(words::TRY_THE_CLAMP.to_owned());
        return Ok(found);
    }
    found.headline = match (dead.as_slice(), odd.as_slice()) {
        ([], []) if read.len() < sheet.cylinders.len() => {
            words::those_read_alike(read.len(), sheet.cylinders.len())
        }
        ([], []) => words::all_alike(read.len()),
        ([], odd) => words::unlike(cylinders(odd)),
        (dead, _) => words::no_current(cylinders(dead)),
    };
    if read.len() < LEAST {
        found.advice.push(words::THREE_TO_COMPARE.to_owned());
    }
    found.advice.extend(missing(sheet, "peak"));
    Ok(found)
}

/// A driver that boosts its voltage ends the rise before the pintle is there.
fn is_boosted(fuel: FuelSystem) -> bool {
    match fuel {
        FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => false,
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect => true,
    }
}

/// The middle of what the others read; none where they are too few.
fn middle(sheet: &Sheet, cylinder: u32, name: &str, least: f64) -> Option<f64> {
    let read = sheet.read(name).into_iter();
    let others = read.filter(|(c, value)| *c != cylinder && *value > least);
    middle_of(others.map(|(_, value)| value), LEAST - 1)
}

fn lane(sheet: &Sheet, cylinder: u32, peak: f64) -> Lane {
    let opens = sheet.of(cylinder, "opens");
    let kink = sheet.of(cylinder, "kink").map(|kink| kink == SEEN).or(opens.map(|_| true));
    let kink = kink.filter(|_| !sheet.fuel.is_some_and(is_boosted));
    let (others_peak, others_open) =
        (middle(sheet, cylinder, "peak", NONE_A), middle(sheet, cylinder, "opens", 0.0));
    let late = sheet.rules.get(RuleId::KinkLate);
    let later = opens.zip(others_open).map(|(own, others)| own - others);
    let weak = others_peak.filter(|others| peak < WEAK * others);
    let (mark, code, word, sentence) = match (peak < NONE_A, kink, later, weak) {
        (true, ..) => {
            (Mark::TooLittle, outcomes::RAMP_NONE, "no current", words::NO_CURRENT_HERE.to_owned())
        }
        (false, _, _, Some(others)) => (
            Mark::Look,
            outcomes::RAMP_WEAK,
            "weak",
            words::weak(trimmed(peak), trimmed(hundredth(others))),
        ),
        (false, Some(false), ..) => {
            (Mark::TooLittle, outcomes::RAMP_STILL, "no kink", words::NO_KINK_HERE.to_owned())
        }
        (false, _, Some(later), None) if later > late => {
            (Mark::Look, outcomes::RAMP_LATE, "late", words::late(trimmed(hundredth(later))))
        }
        (false, Some(true), _, None) => {
            (Mark::Inside, outcomes::RAMP_ALIKE, "alike", words::ALIKE_HERE.to_owned())
        }
        (false, None, _, None) => {
            (Mark::Inside, outcomes::RAMP_ALIKE, "driven", words::DRIVEN_HERE.to_owned())
        }
    };
    let mut because = Vec::new();
    if let (Some(own), Some(others)) = (opens, others_open) {
        because.push(Because::shows(
            words::kink_against(trimmed(late)),
            format!(
                "{} ms − {} ms = {} ms",
                trimmed(own),
                trimmed(hundredth(others)),
                trimmed(hundredth(own - others))
            ),
        ));
    }
    if let Some(others) = others_peak {
        because.push(Because::shows(
            words::PEAK_AGAINST.to_owned(),
            format!(
                "{} A of {} A = {} %",
                trimmed(peak),
                trimmed(hundredth(others)),
                trimmed((peak / others * 100.0).round())
            ),
        ));
    }
    because.push(Because::says(words::CURRENT_PROVES_DRIVE));
    Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        value: opens,
        shown: opens.map(|ms| trimmed(hundredth(ms))).unwrap_or_default(),
        also: format!("{} A", trimmed(hundredth(peak))),
        sentence,
        because,
        would_change: vec![words::EXCHANGE_CONNECTORS.to_owned()],
        ..Lane::default()
    }
}

fn hundredth(value: f64) -> f64 {
    (value * 100.0).round() / 100.0
}
