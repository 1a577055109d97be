//! `compression`: gauge pressures, or the relative figures of a cranking test, against each other.
//!
//! By [`crate::calc::compare_set`]: the plain mean is pulled along by the bad one, so each stands
//! against the others that agree. Gauge pressures also stand against a least that the maker asks
//! for, or the house's: a set that is low alike is not alike in the sense of sound. Where the set
//! falls into two camps the lower one is low, as nothing raises compression by that much. Units:
//! kPa for a gauge; relative figures in percent of the highest are compared the same way.
//!
//! # Source
//! House rules: 15 % below the others, and the least ([`RuleId::CompressionDiesel`],
//! [`RuleId::CompressionPetrol`]). Relative compression by cranking is quick but no proof.

mod words;

use super::words::{Codes, against_others, cylinders, missing};
use super::{Example, Found, Lane, Recorded, RecordedKind, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::calc::compare_set::camps;
use crate::caution;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA, PRESSURE};
use crate::work::Stage;

crate::said::outcomes! {
    COMPRESSION_HINT = compression_hint,
    COMPRESSION_EVEN = compression_even,
    COMPRESSION_LOW = compression_low,
    COMPRESSION_ALIKE = compression_alike,
}

/// Share from the others that is no longer alike (house rule).
const TOLERANCE: f64 = 0.15;

const GAUGE: Field = Field::above_zero("kPa", 1.0, 100_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Compression",
    short: "Compression",
    says: words::ALL_SPARK_PLUGS_INJECTORS,
    cautions: &[caution::CRANKING],
    work: None,
    start: &[StartId::Warm, StartId::PlugsOut, StartId::ChargerOn],
    minutes: 30,
    tools: words::COMPRESSION_GAUGE_ADAPTER_CURRENT,
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid
        | FuelSystem::DieselPiezo
        | FuelSystem::PetrolPort
        | FuelSystem::PetrolDirect => true,
        FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[
        choice("method", "Measured by", &["gauge", words::CRANKING_CURRENT_SPEED]),
        cell("least", "Maker's minimum", GAUGE).told(),
        crate::tests::cell::words("order", words::FIRING_ORDER_FROM_FIRST_PEAK).more(),
    ],
    each: &[cell("pressure", "Compression", GAUGE)],
    why: |c| {
        (c.rough || c.dead || c.burns).then_some(Why {
            says: words::MECHANICAL_FAULT_MIMIC_WEAK,
            spared_by: words::EVEN_CRANKING_FIGURES_EVEN,
        })
    },
    property: Property::HERE,
    first: false,
    recorded: Some(Recorded { kind: RecordedKind::Cranking, drive: "order" }),
    follows: None,
    example: Example { set: &[("method", 0.0)], each: &[("pressure", 0.0, 1000.0)] },
    table: include_str!("compression.toml"),
    judge,
};

/// Cranking figures and gauge pressures are two tables: one hints, the other proves.
const CRANKED: Codes = Codes {
    high: outcomes::COMPRESSION_EVEN,
    low: outcomes::COMPRESSION_HINT,
    alike: outcomes::COMPRESSION_EVEN,
};
const GAUGED: Codes = Codes {
    high: outcomes::COMPRESSION_ALIKE,
    low: outcomes::COMPRESSION_LOW,
    alike: outcomes::COMPRESSION_ALIKE,
};

/// No engine compresses so little: the gauge reads in another unit, kPa.
const NO_COMPRESSION: f64 = 150.0;

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let cranked = sheet.of_set("method") == Some(1.0);
    let codes = if cranked { CRANKED } else { GAUGED };
    let mut found =
        against_others(sheet, "pressure", TOLERANCE, &[], codes, if cranked { "" } else { KPA })?;
    found.unit = units::unit(KPA);
    if cranked {
        found.unit = "relative";
        found.advice.push(words::RELATIVE_COMPRESSION_QUICK_BUT.to_owned());
    }
    lower_camp(sheet, &mut found, codes);
    let highest = sheet.read("pressure").iter().fold(0.0, |high: f64, (_, value)| high.max(*value));
    if !cranked && highest > 0.0 && highest < NO_COMPRESSION {
        found.doubt = words::other_unit(units::said(highest, KPA));
    } else if !cranked {
        below_least(sheet, &mut found);
    }
    let low = of(&found, Mark::TooLittle);
    if !low.is_empty() {
        found.advice.push(words::LOW_COMPRESSION_DOES_NOT.to_owned());
    }
    if let Some((one, other)) = adjacent(sheet, &low) {
        found.advice.insert(0, words::cylinders_neighbours_both_low(one, other));
    }
    found.advice.extend(missing(sheet, "pressure"));
    Ok(found)
}

fn of(found: &Found, mark: Mark) -> Vec<u32> {
    found.lanes.iter().filter(|lane| lane.mark == mark).map(|lane| lane.place).collect()
}

/// Two camps: the lower one is low, the upper one as it should be.
fn lower_camp(sheet: &Sheet, found: &mut Found, codes: Codes) {
    let read = sheet.read("pressure");
    let values: Vec<f64> = read.iter().map(|(_, value)| *value).collect();
    let Some(from) = camps(&values, TOLERANCE) else { return };
    for lane in &mut found.lanes {
        let Some(value) = lane.value else { continue };
        let low = value < from;
        (lane.mark, lane.said.code) =
            if low { (Mark::TooLittle, codes.low) } else { (Mark::Inside, codes.alike) };
        lane.word = if low { "low" } else { "in line" }.to_owned();
        lane.sentence = if low {
            words::kpa_lower_two_groups(units::reading(value, KPA))
        } else {
            words::kpa_upper_two_groups(units::reading(value, KPA))
        };
    }
    let low = of(found, Mark::TooLittle);
    found.headline = words::far_below_others(cylinders(&low));
}

/// Gauge pressures against what the maker asks for, or the house's least.
fn below_least(sheet: &Sheet, found: &mut Found) {
    let typed = sheet.of_set("least");
    let rule = match sheet.fuel {
        Some(FuelSystem::PetrolPort | FuelSystem::PetrolDirect) => RuleId::CompressionPetrol,
        Some(FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo) => RuleId::CompressionDiesel,
        Some(FuelSystem::ExhaustDoser) | None if typed.is_some() => RuleId::CompressionDiesel,
        Some(FuelSystem::ExhaustDoser) | None => return,
    };
    let least = typed.unwrap_or_else(|| sheet.rules.get(rule));
    let source = if typed.is_some() { "maker's figure" } else { "workshop rule" };
    if found.lanes.is_empty() {
        // A single cylinder has no others; it has this.
        found.lanes = sheet.read("pressure").into_iter().map(|(c, v)| alone(c, v, least)).collect();
    }
    for lane in &mut found.lanes {
        let Some(value) = lane.value else { continue };
        lane.because.push(Because::shows(
            format!("At least {} ({source})", units::said(least, KPA)),
            format!(
                "{} {} {}",
                units::reading(value, KPA),
                if value < least { "<" } else { "≥" },
                units::number(least, KPA)
            ),
        ));
        if value < least && lane.mark != Mark::TooLittle {
            lane.mark = Mark::TooLittle;
            "low".clone_into(&mut lane.word);
            lane.said.code = outcomes::COMPRESSION_LOW;
            lane.sentence = words::kpa_below_required_kpa(
                units::reading(value, KPA),
                units::number(least, KPA),
            );
        }
    }
    let low = of(found, Mark::TooLittle);
    if low.is_empty() {
        return;
    }
    found.headline = if low.len() == found.lanes.len() && low.len() > 1 {
        let start = if sheet.dead { words::CANNOT_START } else { "" };
        words::all_below_kpa_low(low.len(), units::number(least, KPA), start)
    } else {
        words::compression_too_low(cylinders(&low))
    };
}

fn alone(cylinder: u32, value: f64, least: f64) -> Lane {
    Lane {
        place: cylinder,
        mark: if value < least { Mark::Undecided } else { Mark::Inside },
        said: outcomes::COMPRESSION_ALIKE.into(),
        word: "alone".to_owned(),
        value: Some(value),
        shown: units::reading(value, KPA),
        sentence: format!("{} {PRESSURE}.", units::reading(value, KPA)),
        ..Lane::default()
    }
}

/// Two neighbours of one bank that are low while the others are not.
fn adjacent(sheet: &Sheet, low: &[u32]) -> Option<(u32, u32)> {
    let [one, other] = low else { return None };
    let beside = sheet
        .banks
        .iter()
        .any(|bank| bank.windows(2).any(|pair| low.contains(&pair[0]) && low.contains(&pair[1])));
    beside.then_some((*one.min(other), *one.max(other)))
}
