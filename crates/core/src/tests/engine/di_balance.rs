//! `di_balance`: the pressure changes that a scan tool records with each injector disabled in turn.
//!
//! By [`crate::calc::compare_set`]. Units: kPa, typed in any unit of pressure.
//!
//! # Source
//! House rule ([`RuleId::BalanceTolerance`]).

mod words;

use super::words::{Codes, against_others, missing, near_line};
use super::{Example, Found, Sheet, Spec, cell};
use crate::calc::CalcError;
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA};
use crate::work::Stage;

crate::said::outcomes! {
    DI_LESS = di_less (Departs),
    DI_MORE = di_more (Departs),
    DI_ALIKE = di_alike,
    DI_NONE = di_none (Departs),
}

pub(super) const SPEC: Spec = Spec {
    title: words::BALANCE_SCAN_TOOL,
    short: "Scan-tool balance",
    says: words::SCAN_TOOL_DISABLES_EACH,
    cautions: &[caution::RUNNING, caution::CHARGE],
    work: Some(Work::DiBalance),
    start: &[StartId::Warm, StartId::AccessoriesOff, StartId::Parked, StartId::ExtractionOn],
    minutes: 6,
    tools: "Scan tool",
    stage: Stage::OnEngine,
    fits: |fuel| match fuel {
        FuelSystem::PetrolDirect | FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => true,
        FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[],
    each: &[cell("change", "Pressure change", Field::from_zero("kPa", 100_000.0))],
    why: |c| {
        ((c.rough || c.burns) && !c.dead).then_some(Why {
            says: words::SCAN_TOOL_COMPARES_WITHOUT,
            spared_by: words::TOOL_CANNOT_ENGINE,
        })
    },
    property: Property::RUNNING,
    first: false,
    recorded: None,
    follows: Some(RuleId::BalanceTolerance),
    example: Example { set: &[], each: &[("change", 0.0, 300.0)] },
    table: include_str!("di_balance.toml"),
    judge,
};

/// Less than this against the others is nothing at all: it does not open (house rule).
const NONE: f64 = -0.85;

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let tolerance = sheet.rules.share(RuleId::BalanceTolerance);
    let codes =
        Codes { high: outcomes::DI_MORE, low: outcomes::DI_LESS, alike: outcomes::DI_ALIKE };
    let rules = &[RuleId::BalanceTolerance];
    let mut found = against_others(sheet, "change", tolerance, rules, codes, KPA)?;
    for lane in &mut found.lanes {
        if lane.said.code == outcomes::DI_LESS && lane.share.is_some_and(|share| share < NONE) {
            lane.said.code = outcomes::DI_NONE;
            lane.sentence = words::takes_nothing(&lane.sentence);
        }
    }
    near_line(&mut found.lanes, tolerance, &[outcomes::DI_MORE, outcomes::DI_LESS]);
    found.unit = units::unit(KPA);
    found.advice.extend(missing(sheet, "change"));
    Ok(found)
}
