//! `supply`: the supply voltage at every injector plug, read out as a pattern.
//!
//! Numbers by [`crate::calc::supply`]. Units: V. An unloaded reading proves little: a few strands
//! of wire carry a meter, not an injector.
//!
//! # Source
//! House rules ([`RuleId::SupplyNone`], [`RuleId::SupplyDrop`]).

use super::words::{cylinders, missing};
use super::{Found, Sheet, SheetLane, Spec, cell, choice};
use crate::calc::CalcError;
use crate::calc::supply::{Plug, PlugState, SupplyInput, SupplyPattern, supply};
use crate::caution;
use crate::checks::Because;
use crate::instrument::InstrumentKind;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::typed::Field;
use crate::work::Stage;

const VOLTS: Field = Field::from_zero("V", 60.0);

pub(super) const SPEC: Spec = Spec {
    title: "Supply at the plugs",
    short: "Supply",
    says: "Ignition on, each plug off in turn: the supply pin against ground, and the battery at the same time.",
    cautions: &[caution::CHARGE],
    start: &[StartId::ChargerOn],
    minutes: 10,
    tools: "Meter, back-probe pins, a load such as a lamp",
    stage: Stage::Electrical,
    fits: |_| true,
    limit: None,
    instrument: Some(InstrumentKind::Meter),
    set: &[
        cell("battery", "Battery", Field::above_zero("V", 1.0, 60.0)),
        choice("load", "A load was on", &["no", "yes"]),
    ],
    each: &[cell("volts", "Volts at the plug", VOLTS)],
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let read = sheet.read("volts");
    let mut found = Found { unit: "V", window_word: "good", ..Found::default() };
    let Some(battery) = sheet.of_set("battery") else {
        "Read the battery first: each plug is judged against it.".clone_into(&mut found.headline);
        return Ok(found);
    };
    if read.is_empty() {
        "Read each plug against ground.".clone_into(&mut found.headline);
        return Ok(found);
    }
    let (none, drop) = (sheet.rules.get(RuleId::SupplyNone), sheet.rules.get(RuleId::SupplyDrop));
    let out = supply(&SupplyInput {
        battery_v: battery,
        plugs: read
            .iter()
            .map(|(cylinder, volts)| Plug { cylinder: *cylinder, volts: *volts })
            .collect(),
        none_below_v: Some(none),
        max_drop_v: Some(drop),
    })?;
    let of = |state| -> Vec<u32> {
        out.plugs.iter().filter(|plug| plug.state == state).map(|plug| plug.cylinder).collect()
    };
    let (gone, low) = (of(PlugState::None), of(PlugState::Low));
    found.headline = match out.pattern {
        SupplyPattern::NoneAnywhere => {
            "No supply at any plug: fuse, relay or the common feed.".to_owned()
        }
        SupplyPattern::LegMissing => {
            format!("{} without supply: that leg of the harness or its plug.", cylinders(&gone))
        }
        SupplyPattern::CommonLow => {
            "All plugs are low alike: a resistance that all share, or the battery's own ground."
                .to_owned()
        }
        SupplyPattern::LegLow => {
            format!("{} low: a resistance in that leg or its plug.", cylinders(&low))
        }
        SupplyPattern::AllPresent => {
            format!("The supply is there at all {} plugs read.", read.len())
        }
    };
    found.advice.extend(missing(sheet, "volts"));
    if sheet.of_set("load") != Some(1.0) {
        found.advice.push(
            "Read without a load this proves little: a few strands of wire carry a meter. Load the leg and read again.".to_owned(),
        );
    }
    found.window = Some([Some(battery - drop), None]);
    found.lanes = out
        .plugs
        .iter()
        .zip(&read)
        .map(|(plug, (_, volts))| {
            lane(plug.cylinder, plug.state, *volts, battery, (none, drop), sheet)
        })
        .collect();
    Ok(found)
}

fn lane(
    cylinder: u32,
    state: PlugState,
    volts: f64,
    battery: f64,
    (none, drop): (f64, f64),
    sheet: &Sheet,
) -> SheetLane {
    let lost = battery - volts;
    let (mark, word, sentence) = match state {
        PlugState::Present => (Mark::Inside, "present", format!("{} V arrive.", trimmed(volts))),
        PlugState::Low => (Mark::TooLittle, "low", format!("{lost:.2} V are lost on the way.")),
        PlugState::None => (Mark::TooLittle, "none", "Nothing arrives.".to_owned()),
    };
    let mut because = vec![Because::shows(
        match state {
            PlugState::None => format!("Below {} V counts as none (house rule)", trimmed(none)),
            PlugState::Low | PlugState::Present => {
                format!("A leg may lose {} V (house rule)", trimmed(drop))
            }
        },
        match state {
            PlugState::None => format!("{} < {}", trimmed(volts), trimmed(none)),
            PlugState::Low => {
                format!(
                    "{} − {} = {lost:.2} V > {} V",
                    trimmed(battery),
                    trimmed(volts),
                    trimmed(drop)
                )
            }
            PlugState::Present => {
                format!(
                    "{} − {} = {lost:.2} V ≤ {} V",
                    trimmed(battery),
                    trimmed(volts),
                    trimmed(drop)
                )
            }
        },
    )];
    because.extend(
        sheet
            .rules
            .reasons(&[RuleId::SupplyNone, RuleId::SupplyDrop])
            .into_iter()
            .map(Because::says),
    );
    SheetLane {
        cylinder,
        mark,
        word: word.to_owned(),
        value: Some(volts),
        shown: trimmed(volts),
        sentence,
        because,
        would_change: match state {
            PlugState::Present => vec!["A reading under load.".to_owned()],
            PlugState::Low | PlugState::None => {
                vec![
                    "The same pin again with the connector cleaned, then the leg end to end."
                        .to_owned(),
                ]
            }
        },
        ..SheetLane::default()
    }
}
