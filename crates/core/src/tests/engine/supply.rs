//! `supply`: the supply voltage at every injector plug, read out as a pattern.
//!
//! Numbers by [`crate::calc::supply`]. Units: V. An unloaded reading proves little: a few strands
//! of wire carry a meter, not an injector.
//!
//! How an injector is fed decides what a voltage means. One with a switched battery feed shows it
//! at rest. Common-rail, direct petrol and piezo injectors get both wires from the control unit
//! and show nothing at rest: there the leg is proven end to end (Ω), the drive by its current (A).
//!
//! # Source
//! House rules ([`RuleId::SupplyNone`], [`RuleId::SupplyDrop`], [`RuleId::SupplyLeg`]).

mod words;

use super::words::{cylinders, missing};
use super::{Example, Found, Lane, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::calc::supply::{Plug, PlugState, SupplyInput, SupplyPattern, supply};
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::said::{Code, Lack, Said};
use crate::start::StartId;
use crate::tests::Because;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    SUPPLY_NONE_ANYWHERE = supply_none_anywhere (Fault),
    SUPPLY_COMMON_LOW = supply_common_low (Fault),
    SUPPLY_ARRIVES = supply_arrives (Good),
    SUPPLY_NONE = supply_none,
    SUPPLY_LOW = supply_low,
    SUPPLY_PRESENT = supply_present,
    LEG_OPEN = leg_open,
    NO_DRIVE = no_drive,
    LEG_WHOLE = leg_whole,
}

const VOLTS: Field = Field::from_zero("V", 60.0);

pub(super) const SPEC: Spec = Spec {
    title: words::SUPPLY_VOLTAGE_CONNECTORS,
    short: "Supply",
    says: words::BATTERY_FEED_IGNITION_EACH,
    cautions: &[caution::CHARGE],
    work: Some(Work::ConnectorOff),
    start: &[StartId::ChargerOn],
    minutes: 10,
    tools: words::METER_BACK_PROBE_PINS,
    stage: Stage::Electrical,
    fits: |_| true,
    limit: None,
    instrument: Some(InstrumentKind::Meter),
    set: &[
        choice("feed", "Injector feed", FEEDS),
        cell("battery", "Battery", Field::above_zero("V", 1.0, 60.0)),
        choice("load", "Load connected", &["no", "yes"]),
    ],
    each: &[
        cell("volts", "Voltage at connector", VOLTS),
        cell("leg", words::WIRES_END_END, Field::from_zero("ohm", 1e6)).more().wide(),
        cell("drive", "Drive current", Field::from_zero("A", 100.0)).more(),
    ],
    why: |c| {
        (c.rough || c.dead).then_some(Why {
            says: words::NONE_ANYWHERE_FUSE_ONE,
            spared_by: words::NOTHING_EVERY_ELECTRICAL_VERDICT,
        })
    },
    property: Property::PLACE,
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[("battery", 12.6), ("load", 1.0)], each: &[("volts", 0.0, 12.4)] },
    table: include_str!("supply.toml"),
    judge,
};

/// How injectors can be fed.
const FEEDS: &[&str] = &[words::SWITCHED_BATTERY_FEED, words::ECU_BOTH_WIRES];

/// Whether both wires come from the control unit: as chosen, else as is usual for the fuel system.
fn from_unit(sheet: &Sheet) -> bool {
    match (sheet.of_set("feed"), sheet.fuel) {
        (Some(feed), _) => feed == 1.0,
        (
            None,
            Some(FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect),
        ) => true,
        (None, Some(FuelSystem::PetrolPort | FuelSystem::ExhaustDoser) | None) => false,
    }
}

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    if from_unit(sheet) {
        return Ok(legs(sheet));
    }
    let read = sheet.read("volts");
    let mut found = Found { unit: "V", window_word: "good", ..Found::default() };
    let Some(battery) = sheet.of_set("battery") else {
        words::READ_BATTERY_FIRST_EACH.clone_into(&mut found.headline);
        return Ok(found);
    };
    if read.is_empty() {
        words::READ_EACH_CONNECTOR_AGAINST.clone_into(&mut found.headline);
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
        SupplyPattern::NoneAnywhere => words::NO_SUPPLY_VOLTAGE_ANY.to_owned(),
        SupplyPattern::LegMissing => words::no_supply_voltage_check(cylinders(&gone)),
        SupplyPattern::CommonLow => words::ALL_CONNECTORS_LOW_ALIKE.to_owned(),
        SupplyPattern::LegLow => words::low_resistance_wiring_connector(cylinders(&low)),
        SupplyPattern::AllPresent => words::supply_voltage_present_all(read.len()),
    };
    found.advice.extend(missing(sheet, "volts"));
    let unloaded = sheet.of_set("load") != Some(1.0);
    let all = read.len() == sheet.cylinders.len();
    let shared = match out.pattern {
        SupplyPattern::NoneAnywhere => all.then_some(outcomes::SUPPLY_NONE_ANYWHERE),
        SupplyPattern::CommonLow => (all && read.len() > 1).then_some(outcomes::SUPPLY_COMMON_LOW),
        SupplyPattern::LegMissing | SupplyPattern::LegLow | SupplyPattern::AllPresent => {
            Some(outcomes::SUPPLY_ARRIVES)
        }
    };
    // What is missing is missing without a load too.
    found.shared = shared.map(|code| {
        Said::new(code).lacking(Lack::Unloaded, unloaded && code == outcomes::SUPPLY_ARRIVES)
    });
    if unloaded {
        found.advice.push(words::READ_WITHOUT_LOAD_PROVES.to_owned());
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
) -> Lane {
    let lost = battery - volts;
    let unloaded = sheet.of_set("load") != Some(1.0);
    let (mark, code, word, sentence) = match state {
        PlugState::Present => {
            (Mark::Inside, outcomes::SUPPLY_PRESENT, "present", words::v_present(trimmed(volts)))
        }
        PlugState::Low => {
            (Mark::TooLittle, outcomes::SUPPLY_LOW, "low", words::v_voltage_drop(lost))
        }
        PlugState::None => {
            (Mark::TooLittle, outcomes::SUPPLY_NONE, "none", words::NO_VOLTAGE.to_owned())
        }
    };
    let mut because = vec![Because::shows(
        match state {
            PlugState::None => words::below_v_counts_none(trimmed(none)),
            PlugState::Low | PlugState::Present => words::wiring_may_lose_v(trimmed(drop)),
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
    Lane {
        place: cylinder,
        mark,
        said: Said::new(code).lacking(Lack::Unloaded, unloaded && mark == Mark::Inside),
        word: word.to_owned(),
        value: Some(volts),
        shown: trimmed(volts),
        sentence,
        because,
        would_change: match state {
            PlugState::Present => vec![words::READING_UNDER_LOAD.to_owned()],
            PlugState::Low | PlugState::None => {
                vec![words::SAME_PIN_AGAIN_CONNECTOR.to_owned()]
            }
        },
        ..Lane::default()
    }
}

/// Injectors with both wires from the control unit: each leg end to end, then its drive.
fn legs(sheet: &Sheet) -> Found {
    let most = sheet.rules.get(RuleId::SupplyLeg);
    let mut found = Found { unit: "Ω", window_word: "at most", ..Found::default() };
    found.window = Some([None, Some(most)]);
    found.lanes = sheet.cylinders.iter().filter_map(|c| leg(sheet, *c, most)).collect();
    let with = |codes: &[Code]| -> Vec<u32> {
        let hits = found.lanes.iter().filter(|lane| codes.contains(&lane.said.code));
        hits.map(|lane| lane.place).collect()
    };
    let (open, silent) = (with(&[outcomes::LEG_OPEN]), with(&[outcomes::NO_DRIVE]));
    let whole = with(&[outcomes::LEG_WHOLE]);
    found.headline = match (open.as_slice(), silent.as_slice(), whole.as_slice()) {
        ([], [], []) => words::BOTH_WIRES_COME_ECU.to_owned(),
        ([], [], whole) => words::wires_good(cylinders(whole)),
        (open @ [_, ..], ..) => words::wire_open_too_much(cylinders(open)),
        ([], silent, _) => words::wires_good_no_drive(cylinders(silent)),
    };
    if !found.lanes.is_empty() {
        found.advice.push(words::WIRES_GOOD_NEXT_INSULATION.to_owned());
    }
    found
}

fn leg(sheet: &Sheet, cylinder: u32, most: f64) -> Option<Lane> {
    let of = |name| sheet.of(cylinder, name);
    let (ohm, amps, volts) = (of("leg"), of("drive"), of("volts"));
    let made = |mark, code: Code, word: &str, value: Option<f64>, says: String| {
        Some(Lane {
            place: cylinder,
            mark,
            said: code.into(),
            word: word.to_owned(),
            value,
            shown: value.map(trimmed).unwrap_or_default(),
            sentence: says,
            because: vec![Because::says(words::wire_most_end_end(trimmed(most)))],
            would_change: vec![words::WIRE_MOVED_WARMED_WHILE.to_owned()],
            ..Lane::default()
        })
    };
    match (ohm, amps, volts) {
        (Some(ohm), ..) if ohm > most => made(
            Mark::TooLittle,
            outcomes::LEG_OPEN,
            "open",
            Some(ohm.min(3.0 * most)),
            words::end_end_open_too(trimmed(ohm)),
        ),
        (ohm, Some(amps), _) if amps <= 0.0 => made(
            Mark::TooLittle,
            outcomes::NO_DRIVE,
            "no drive",
            ohm,
            words::NO_DRIVE_CURRENT_CONTROL.to_owned(),
        ),
        (Some(ohm), ..) => made(
            Mark::Inside,
            outcomes::LEG_WHOLE,
            "whole",
            Some(ohm),
            words::end_end(trimmed(ohm)),
        ),
        (None, Some(amps), _) => made(
            Mark::Inside,
            outcomes::LEG_WHOLE,
            "driven",
            None,
            words::drive_current_driven(trimmed(amps)),
        ),
        (None, None, Some(_)) => made(
            Mark::Undecided,
            Code::CANNOT_DECIDE,
            "no rest voltage",
            None,
            words::BOTH_WIRES_COME_ECU_VOLTAGE.to_owned(),
        ),
        (None, None, None) => None,
    }
}
