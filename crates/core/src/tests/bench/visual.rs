//! `visual`: what is seen before anything is measured, injector by injector.
//!
//! Part number and revision are compared across the set; tip, seat, seals, basket, corrosion and
//! hole shape are chosen from sketches. What is seen is a finding; it condemns little alone.
//!
//! # Source
//! House rule.

mod words;

use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice, words};
use crate::tests::property::Property;
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

const TIP: &[&str] = &["clean", "carbon", "varnished", "eroded"];
const SEAT: &[&str] = &["sound", "marked", "wet"];
const SEALS: &[&str] = &["sound", "hard", "missing", "left behind"];
const BASKET: &[&str] = &["clean", "dirty", "torn", "missing"];
const CORROSION: &[&str] = &["none", "light", "heavy"];
const BORE: &[&str] = &["clean", words::BLACK_COMBUSTION_GAS];
const HOLES: &[&str] = &["round", "some blocked", "oval"];

/// Answers that are a fault in themselves, and what each means.
const FAULTS: &[(&str, usize, Code, &str)] = &[
    ("tip", 3, outcomes::SEEN_WORN, words::ERODED_TIP_CLEANING_DOES),
    ("seat", 2, outcomes::SEEN_WET, words::WET_SEAT_LEAKS_LEAK),
    ("seals", 3, Code::SEAL_LEFT, words::SEAL_LEFT_BORE_REMOVE),
    ("holes", 2, outcomes::SEEN_WORN, words::OVAL_HOLES_SPRAY_OFF),
    ("bore", 1, outcomes::SEEN_GAS, words::COMBUSTION_GAS_PASSED_SEAT),
    ("corrosion", 2, Code::CORRODED, words::HEAVY_CORROSION_WATER_CHECK),
    ("basket", 3, Code::BASKET_MISSING, words::NO_FILTER_BASKET_DIRT),
];
/// Answers that ask for work.
const WORK: &[(&str, usize, Code, &str)] = &[
    ("tip", 1, outcomes::SEEN_DIRTY, words::CARBON_TIP_CLEAN_LOOK),
    ("tip", 2, outcomes::SEEN_DIRTY, words::VARNISH_TIP_SOAK_PULSE),
    ("seat", 1, Code::NOTED, words::MARKED_SEAT_LEAK_CHECK),
    ("seals", 1, Code::NOTED, words::HARD_SEALS_RENEW),
    ("seals", 2, Code::NOTED, words::SEAL_MISSING),
    ("basket", 1, outcomes::SEEN_DIRTY, words::DIRTY_BASKET_RENEW),
    ("basket", 2, Code::NOTED, words::TORN_BASKET_RENEW_BACK),
    ("corrosion", 1, Code::NOTED, words::LIGHT_CORROSION_NOTE_CHECK),
    ("holes", 1, outcomes::SEEN_DIRTY, words::BLOCKED_HOLES_CLEAN_CHECK),
];

pub(super) const SPEC: Spec = Spec {
    title: "Visual inspection",
    short: "Look",
    says: words::SAME_PART_NUMBER_REVISION,
    cautions: &[caution::WASTE],
    kinds: &[BenchKind::Petrol, BenchKind::Diesel, BenchKind::Doser],
    pulses: false,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[
        words("part", "Part number"),
        words("revision", "Revision"),
        choice("tip", "Tip", TIP).sound(0),
        choice("seat", "Seat", SEAT).sound(0),
        choice("seals", "Seals", SEALS).sound(0),
        choice("basket", "Filter basket", BASKET).sound(0),
        choice("corrosion", "Corrosion", CORROSION).sound(0),
        choice("holes", "Holes", HOLES).sound(0),
        choice("bore", "Bore and washer", BORE).sound(0),
        cell("hours", words::HOURS_KM_RUN, Field::from_zero("", 1e7)).more(),
    ],
    tubes: &[],
    property: Property::PASSES,
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
            (None, None, None) => Lane::new(tag, Mark::Inside, "sound", words::NO_FAULT_SEEN)
                .says(outcomes::SEEN_SOUND),
        };
        read.then(|| lane.because(because))
    });
    let (seen, work) = (marked(&lanes, &[Mark::Questioned]), marked(&lanes, &[Mark::Look]));
    let headline = match (seen.as_slice(), work.as_slice(), odd.as_slice()) {
        ([], [], _) if marked(&lanes, &[Mark::Inside]).is_empty() => {
            words::NOTHING_INSPECTED_YET.to_owned()
        }
        ([], [], _) => words::NO_FAULT_SEEN_SET.to_owned(),
        (_, _, [(tag, says), ..]) => format!("{}: {says}", injectors(&[*tag])),
        ([], work, []) => words::clean_renew_parts_first(injectors(work)),
        (seen, _, []) => words::look_closer_before_measuring(injectors(seen)),
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
                    _ => words::NO_COMMON_PART_NUMBER.to_owned(),
                };
                if !found.iter().any(|(held, _)| held == tag) {
                    found.push((*tag, format!("{what} {text}; {others}.")));
                }
            }
        }
    }
    found
}
