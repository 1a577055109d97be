//! `listening`: what a microphone hears at each body, against the others of the set.
//!
//! Ticks found of those to expect, the loudness of a tick and its delay after the drive: figures of
//! [`crate::signal::listening`], or typed. An injector that is far softer than all others is silent, and
//! what is heard is a neighbour through the metal. It says that something moves, never how much flows.
//! Units: percent of the ticks, dB, ms.
//!
//! # Source
//! House rules ([`RuleId::ListenLevel`], [`RuleId::ListenTicks`]); what a neighbour is softer by is
//! experience of the trade.

mod words;

use super::words::{cylinders, middle_of, missing};
use super::{Example, Found, Lane, Recorded, RecordedKind, Sheet, Spec, cell};
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
    LISTEN_SILENT = listen_silent,
    LISTEN_MISSES = listen_misses,
    LISTEN_SOFT = listen_soft,
    LISTEN_LOUD = listen_loud,
    LISTEN_LATE = listen_late,
    LISTEN_ALIKE = listen_alike,
}

/// Percent of the ticks below which nothing of its own is heard.
const SILENT: f64 = 15.0;
/// Softer than the others by this, dB: a neighbour through the metal.
const NEIGHBOUR_DB: f64 = 10.0;
/// A tick has to stand this far over the noise between ticks to be heard, dB.
const OVER_NOISE_DB: f64 = 9.0;
/// Later than the others by this, ms.
const LATE_MS: f64 = 0.15;
/// Standard uncertainty of placing a microphone, dB.
const PLACING_DB: f64 = 0.6;
/// Cylinders that others are needed for a comparison.
const LEAST: usize = 3;

pub(super) const SPEC: Spec = Spec {
    title: "Listening",
    short: "Listening",
    says: words::MICROPHONE_SAME_PLACE,
    cautions: &[caution::RUNNING],
    work: None,
    start: &[StartId::Warm, StartId::AccessoriesOff, StartId::Parked, StartId::ExtractionOn],
    minutes: 8,
    tools: words::MICROPHONE_OR_RECORDER,
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid
        | FuelSystem::DieselPiezo
        | FuelSystem::PetrolPort
        | FuelSystem::PetrolDirect => true,
        // One alone has no others to be compared with.
        FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[cell("speed", "Engine speed", Field::above_zero("rpm", 60.0, 6000.0))],
    each: &[
        cell("heard", "Ticks heard", Field::from_zero("%", 100.0)),
        cell("level", "Loudness", Field::signed("dB", -150.0, 50.0)),
        cell("late", "After the drive", Field::from_zero("ms", 20.0)),
        cell("noise", "Noise between", Field::signed("dB", -150.0, 50.0)).more(),
    ],
    why: |_| None,
    property: Property::RUNNING,
    first: false,
    recorded: Some(Recorded { kind: RecordedKind::Sound, drive: "speed" }),
    follows: None,
    example: Example {
        set: &[("speed", 800.0)],
        each: &[("heard", 100.0, 0.0), ("level", -45.0, 0.0)],
    },
    table: include_str!("listening.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let mut found = Found { unit: words::OF_OTHERS, window_word: "in line", ..Found::default() };
    let listened: Vec<u32> = (sheet.cylinders.iter().copied())
        .filter(|c| sheet.of(*c, "heard").is_some() || sheet.of(*c, "level").is_some())
        .collect();
    if listened.is_empty() {
        words::RECORD_EACH.clone_into(&mut found.headline);
        return Ok(found);
    }
    let limit = sheet.rules.get(RuleId::ListenLevel);
    found.lanes = listened.iter().map(|c| lane(sheet, *c, &listened, limit)).collect();
    let silent = of(&found, outcomes::LISTEN_SILENT);
    if silent.len() == listened.len() && silent.len() > 1 {
        // Nobody is condemned by a microphone that hears nothing.
        for lane in &mut found.lanes {
            (lane.mark, lane.said) = (Mark::Questioned, Code::DOUBTFUL.into());
            "not heard".clone_into(&mut lane.word);
        }
        words::NOTHING_TICKS.clone_into(&mut found.headline);
        found.advice.push(words::MICROPHONE_ON_A_GOOD_ONE.to_owned());
        return Ok(found);
    }
    if listened.len() >= LEAST {
        found.window = Some([Some(percent(-limit)), Some(percent(limit))]);
    } else {
        found.advice.push(words::THREE_TO_COMPARE.to_owned());
    }
    let odd: Vec<u32> = (found.lanes.iter())
        .filter(|lane| lane.mark != Mark::Inside)
        .map(|lane| lane.place)
        .collect();
    found.headline = match (silent.as_slice(), odd.as_slice()) {
        ([], []) => words::all_tick(listened.len()),
        ([], odd) => words::tick_unlike(cylinders(odd)),
        (silent, _) => words::no_tick(cylinders(silent)),
    };
    if !odd.is_empty() {
        found.advice.push(words::PROVE_THE_DRIVE.to_owned());
    }
    found.advice.extend(missing(sheet, "heard"));
    Ok(found)
}

fn of(found: &Found, code: Code) -> Vec<u32> {
    found.lanes.iter().filter(|lane| lane.said.code == code).map(|lane| lane.place).collect()
}

/// The middle of the others that tick; none where they are too few.
fn middle(sheet: &Sheet, cylinder: u32, listened: &[u32], cell: &str) -> Option<f64> {
    let ticks = |c: &u32| sheet.of(*c, "heard").is_none_or(|heard| heard >= SILENT);
    let others = listened.iter().filter(|c| **c != cylinder && ticks(c));
    middle_of(others.filter_map(|c| sheet.of(*c, cell)), LEAST - 1)
}

/// Against the middle of the others, and that.
fn against(sheet: &Sheet, cylinder: u32, listened: &[u32], cell: &str) -> Option<(f64, f64)> {
    let middle = middle(sheet, cylinder, listened, cell)?;
    Some((sheet.of(cylinder, cell)? - middle, middle))
}

/// The noise is so loud that a tick like the others' would not be heard in it.
fn drowned(sheet: &Sheet, cylinder: u32, listened: &[u32]) -> bool {
    let ticks = middle(sheet, cylinder, listened, "level");
    let noise = sheet.of(cylinder, "noise");
    ticks.zip(noise).is_some_and(|(ticks, noise)| ticks - noise < OVER_NOISE_DB)
}

fn lane(sheet: &Sheet, cylinder: u32, listened: &[u32], limit: f64) -> Lane {
    let heard = sheet.of(cylinder, "heard");
    let level = against(sheet, cylinder, listened, "level");
    let late = against(sheet, cylinder, listened, "late");
    let louder = level.map_or(0.0, |(off, _)| off);
    let ticks = sheet.rules.get(RuleId::ListenTicks);
    let (mark, code, word, sentence) = match heard {
        Some(heard) if heard < SILENT && drowned(sheet, cylinder, listened) => {
            (Mark::Undecided, Code::DOUBTFUL, "cannot tell", words::CANNOT_TELL_IN_NOISE.to_owned())
        }
        Some(heard) if heard < SILENT => {
            (Mark::TooLittle, outcomes::LISTEN_SILENT, "silent", words::silent(trimmed(heard)))
        }
        _ if louder < -NEIGHBOUR_DB.max(limit) => (
            Mark::TooLittle,
            outcomes::LISTEN_SILENT,
            "silent",
            words::neighbour(trimmed(-louder.round())),
        ),
        Some(heard) if heard < ticks => {
            (Mark::Look, outcomes::LISTEN_MISSES, "misses", words::misses(trimmed(heard)))
        }
        _ if louder < -limit => {
            (Mark::Look, outcomes::LISTEN_SOFT, "soft", words::softer(tenth(-louder)))
        }
        _ if louder > limit => {
            (Mark::Look, outcomes::LISTEN_LOUD, "loud", words::louder(tenth(louder)))
        }
        _ => match late {
            Some((off, _)) if off > LATE_MS => {
                (Mark::Look, outcomes::LISTEN_LATE, "late", words::later(hundredth(off)))
            }
            Some(_) | None => {
                (Mark::Inside, outcomes::LISTEN_ALIKE, "ticks", words::TICKS_LIKE_OTHERS.to_owned())
            }
        },
    };
    let mut because = Vec::new();
    if let Some((off, middle)) = level {
        let own = off + middle;
        because.push(Because::shows(
            words::loudness_against(trimmed(limit)),
            format!("{} dB − ({} dB) = {} dB", tenth(own), tenth(middle), tenth(off)),
        ));
    }
    if let Some(heard) = heard {
        because.push(Because::shows(
            words::ticks_of_expected(trimmed(ticks)),
            format!(
                "{} % {} {} %",
                trimmed(heard),
                if heard < ticks { "<" } else { "≥" },
                trimmed(ticks)
            ),
        ));
    }
    because.push(Because::says(words::SAYS_THAT_IT_MOVES));
    Lane {
        place: cylinder,
        mark,
        said: code.into(),
        word: word.to_owned(),
        value: level.map(|(off, _)| percent(off)),
        u: level.map(|(off, _)| percent(off + PLACING_DB) - percent(off)),
        shown: level.map(|(off, _)| trimmed(percent(off).round())).unwrap_or_default(),
        also: heard.map(words::of_the_ticks).unwrap_or_default(),
        sentence,
        because,
        would_change: vec![words::RECORD_AGAIN.to_owned()],
        ..Lane::default()
    }
}

/// Loudness against the others as a share of theirs: a column from zero, with softer ones lower.
fn percent(off_db: f64) -> f64 {
    100.0 * libm::pow(10.0, off_db / 20.0)
}

fn tenth(value: f64) -> String {
    trimmed((value * 10.0).round() / 10.0)
}

fn hundredth(value: f64) -> String {
    trimmed((value * 100.0).round() / 100.0)
}
