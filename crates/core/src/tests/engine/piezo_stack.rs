//! `piezo_stack`: a piezo stack by its capacitance against the others; its insulation is a check
//! of its own. Never by a coil window: a stack is no coil.
//!
//! By [`crate::calc::compare_set`]. Units: µF.
//!
//! # Source
//! House rule ([`RuleId::PiezoTolerance`]).

mod words;

use super::words::{Codes, against_others, missing, near_line};
use super::{Example, Found, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::caution;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::mark::Mark;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    STACK_OFF = stack_off,
    STACK_GOOD = stack_good,
}

pub(super) const SPEC: Spec = Spec {
    title: "Piezo capacitance",
    short: "Piezo stack",
    says: words::DE_ENERGISED_WAITED_CONNECTORS,
    cautions: &[caution::CHARGE],
    work: None,
    start: &[StartId::IgnitionOff],
    minutes: 8,
    tools: words::CAPACITANCE_METER_INSULATION_TESTER,
    stage: Stage::Electrical,
    fits: |fuel| match fuel {
        FuelSystem::DieselPiezo | FuelSystem::PetrolDirect => true,
        FuelSystem::DieselSolenoid | FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: Some(InstrumentKind::Meter),
    set: &[],
    each: &[cell("microfarads", "Capacitance", Field::from_zero("µF", 1000.0))],
    why: |c| c.odd_coil(),
    property: Property::LASTS,
    first: false,
    recorded: None,
    follows: None,
    example: Example { set: &[], each: &[("microfarads", 0.0, 5.0)] },
    table: include_str!("piezo_stack.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let tolerance = sheet.rules.share(RuleId::PiezoTolerance);
    let codes =
        Codes { high: outcomes::STACK_OFF, low: outcomes::STACK_OFF, alike: outcomes::STACK_GOOD };
    let rules = &[RuleId::PiezoTolerance];
    let mut found = against_others(sheet, "microfarads", tolerance, rules, codes, "")?;
    near_line(&mut found.lanes, tolerance, &[outcomes::STACK_OFF]);
    found.unit = "µF";
    if found.lanes.iter().any(|l| matches!(l.mark, Mark::TooMuch | Mark::TooLittle)) {
        found.advice.push(words::CRACKED_LAYERS_READ_LOW.to_owned());
    }
    found.advice.extend(missing(sheet, "microfarads"));
    Ok(found)
}
