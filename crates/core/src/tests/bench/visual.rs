//! `visual`: what is seen before anything is measured, injector by injector.
//!
//! Part number and revision are compared across the set; tip, seat, seals, basket, corrosion and
//! hole shape are chosen from sketches. What is seen is a finding; it condemns little alone.
//!
//! # Source
//! House rule.

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice, words};
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::typed::Field;
use crate::words::injectors;
use std::collections::BTreeMap;

crate::said::outcomes! {
    SEEN_WORN = seen_worn,
    SEEN_WET = seen_wet,
    SEEN_GAS = seen_gas,
    SEEN_DIRTY = seen_dirty,
    SEEN_SOUND = seen_sound,
}

const TIP: &[&str] = &["clean", "carbon", "lacquered", "eroded"];
const SEAT: &[&str] = &["sound", "marked", "wet"];
const SEALS: &[&str] = &["sound", "hard", "missing", "left behind"];
const BASKET: &[&str] = &["clean", "dirty", "torn", "missing"];
const CORROSION: &[&str] = &["none", "light", "heavy"];
const BORE: &[&str] = &["clean", "black from gas"];
const HOLES: &[&str] = &["round", "some blocked", "oval"];

/// Answers that are a fault in themselves, and what each means.
const FAULTS: &[(&str, usize, Code, &str)] = &[
    (
        "tip",
        3,
        outcomes::SEEN_WORN,
        "An eroded tip does not come back by cleaning: nozzle or injector.",
    ),
    ("seat", 2, outcomes::SEEN_WET, "A wet seat leaks: the leak check tells how much."),
    (
        "seals",
        3,
        Code::SEAL_LEFT,
        "A seal was left behind in the bore: get it out before anything goes in.",
    ),
    (
        "holes",
        2,
        outcomes::SEEN_WORN,
        "Oval holes spray beside the mark and pass more: worn, not dirty.",
    ),
    (
        "bore",
        1,
        outcomes::SEEN_GAS,
        "Combustion gas came past the seat: bore and seat cleaned, a new washer, then the torque.",
    ),
    (
        "corrosion",
        2,
        Code::CORRODED,
        "Heavy corrosion comes from water: look at the fuel before the next set goes in.",
    ),
    (
        "basket",
        3,
        Code::BASKET_MISSING,
        "Without its filter basket it swallows what the fuel carries.",
    ),
];
/// Answers that ask for work.
const WORK: &[(&str, usize, Code, &str)] = &[
    ("tip", 1, outcomes::SEEN_DIRTY, "Carbon on the tip: clean, then look again."),
    ("tip", 2, outcomes::SEEN_DIRTY, "Lacquer on the tip: soak, then pulse in the bath."),
    ("seat", 1, Code::NOTED, "A marked seat: the leak check decides."),
    ("seals", 1, Code::NOTED, "Hard seals are renewed."),
    ("seals", 2, Code::NOTED, "A seal is missing."),
    ("basket", 1, outcomes::SEEN_DIRTY, "A dirty basket is renewed."),
    (
        "basket",
        2,
        Code::NOTED,
        "A torn basket is renewed, and what came through it is flushed out backwards.",
    ),
    ("corrosion", 1, Code::NOTED, "Light corrosion: note it, look at the fuel."),
    ("holes", 1, outcomes::SEEN_DIRTY, "Blocked holes: clean, then the spray tells."),
];

pub(super) const SPEC: Spec = Spec {
    title: "Visual record",
    short: "Look",
    says: "Part number and revision alike across the set; tip, seat, seals, basket, corrosion, holes, before anything is cleaned.",
    cautions: &[caution::WASTE],
    kinds: &[BenchKind::Petrol, BenchKind::Diesel, BenchKind::Doser],
    pulses: false,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[
        words("part", "Part number"),
        words("revision", "Revision"),
        choice("tip", "Tip", TIP),
        choice("seat", "Seat", SEAT),
        choice("seals", "Seals", SEALS),
        choice("basket", "Filter basket", BASKET),
        choice("corrosion", "Corrosion", CORROSION),
        choice("holes", "Holes", HOLES),
        choice("bore", "Bore and washer", BORE),
        cell("hours", "Hours or 1000 km run", Field::from_zero("", 1e7)).more(),
    ],
    tubes: &[],
    table: include_str!("visual.toml"),
    judge,
};

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let odd = odd_numbers(ctx);
    let lanes = lanes(ctx, |tag| {
        let chosen = |name: &str| ctx.of(BenchTest::Visual, None, tag, name).map(|v| v as usize);
        let says = |list: &[(&str, usize, Code, &'static str)]| -> Vec<(Code, &'static str)> {
            let hits = list.iter().filter(|(name, n, ..)| chosen(name) == Some(*n));
            hits.map(|(_, _, code, says)| (*code, *says)).collect()
        };
        let read = SPEC.each.iter().any(|cell| chosen(cell.name).is_some());
        let (faults, work) = (says(FAULTS), says(WORK));
        let differs = odd.iter().find(|(held, _)| *held == tag).map(|(_, says)| says.clone());
        let because = faults.iter().chain(&work).map(|(_, says)| Because::says(*says));
        let because: Vec<Because> = because.chain(differs.clone().map(Because::says)).collect();
        let lane = match (faults.first(), work.first(), &differs) {
            (Some((code, says)), _, _) => {
                Lane::new(tag, Mark::Questioned, "seen", *says).says(*code)
            }
            (None, _, Some(differs)) => {
                Lane::new(tag, Mark::Questioned, "other part", differs).says(Code::OTHER_PART)
            }
            (None, Some((code, says)), None) => {
                Lane::new(tag, Mark::Look, "work", *says).says(*code)
            }
            (None, None, None) => Lane::new(tag, Mark::Inside, "sound", "Nothing seen against it.")
                .says(outcomes::SEEN_SOUND),
        };
        read.then(|| lane.because(because))
    });
    let (seen, work) = (marked(&lanes, &[Mark::Questioned]), marked(&lanes, &[Mark::Look]));
    let headline = match (seen.as_slice(), work.as_slice(), odd.as_slice()) {
        ([], [], _) if marked(&lanes, &[Mark::Inside]).is_empty() => {
            "Nothing looked at yet.".to_owned()
        }
        ([], [], _) => "Nothing seen against the set.".to_owned(),
        (_, _, [(tag, says), ..]) => format!("{}: {says}", injectors(&[*tag])),
        ([], work, []) => format!("{} to be cleaned or fitted anew first.", injectors(work)),
        (seen, _, []) => format!("{}: seen before it is measured.", injectors(seen)),
    };
    Ok(Verdict { headline, lanes, ..Verdict::default() }.closed())
}

/// Injectors whose part number or revision is not that of the others of their family.
fn odd_numbers(ctx: &Ctx<'_>) -> Vec<(u32, String)> {
    let mut found: Vec<(u32, String)> = Vec::new();
    for (cell, what) in [("part", "part number"), ("revision", "revision")] {
        for (_, tags) in ctx.groups() {
            let text = |tag: u32| {
                let held = ctx.cell(BenchTest::Visual, None, Some(tag), cell)?;
                Some(held.typed.trim().to_uppercase())
            };
            let read: Vec<(u32, String)> =
                tags.iter().filter_map(|tag| Some((*tag, text(*tag)?))).collect();
            let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
            for (_, text) in &read {
                *counts.entry(text).or_default() += 1;
            }
            let Some(most) = counts.values().max().copied().filter(|_| counts.len() > 1) else {
                continue;
            };
            let usual: Vec<&str> =
                counts.iter().filter(|(_, n)| **n == most).map(|(text, _)| *text).collect();
            for (tag, text) in &read {
                let others = match usual.as_slice() {
                    [one] if one == text => continue,
                    [one] => format!("the others have {one}"),
                    _ => "the set has no common one".to_owned(),
                };
                if !found.iter().any(|(held, _)| held == tag) {
                    found.push((*tag, format!("{what} {text}; {others}.")));
                }
            }
        }
    }
    found
}
