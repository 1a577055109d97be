//! `di_balance`: the pressure changes that a scan tool records with each injector disabled in turn.
//!
//! By [`crate::calc::compare_set`]. Units: kPa, typed in any unit of pressure.
//!
//! # Source
//! House rule ([`RuleId::BalanceTolerance`]).

mod words;

use super::words::{Codes, against_others, missing, near_line};
use super::{Example, Found, Lane, Sheet, Spec, cell};
use crate::calc::{CalcError, exceeds};
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::mark::Mark;
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::start::StartId;
use crate::tests::School;
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
    let look = sheet.rules.share(RuleId::BalanceLook);
    for lane in found.lanes.iter_mut().filter(|lane| lane.mark == Mark::Inside) {
        if lane.share.is_some_and(|share| exceeds(share.abs(), look)) {
            lane.mark = Mark::Look;
            words::LOOK_CLOSER.clone_into(&mut lane.word);
            lane.sentence = words::look_closer(&lane.sentence);
        }
    }
    found.schools = schools(&found.lanes, tolerance);
    near_line(&mut found.lanes, tolerance, &[outcomes::DI_MORE, outcomes::DI_LESS]);
    found.unit = units::unit(KPA);
    found.advice.extend(missing(sheet, "change"));
    Ok(found)
}

/// The maker's percent school, signed: each against the others within the tolerance; and the set as a whole.
fn schools(lanes: &[Lane], tolerance: f64) -> Vec<School> {
    let compared = lanes.iter().any(|lane| lane.share.is_some());
    let beyond = |sign: f64| -> Vec<u32> {
        let far = |lane: &&Lane| lane.share.is_some_and(|share| exceeds(sign * share, tolerance));
        lanes.iter().filter(far).map(|lane| lane.place).collect()
    };
    let of = |lane: &Lane| lane.value.map(|value| (lane.place, value));
    let read: Vec<(u32, f64)> = lanes.iter().filter_map(of).collect();
    let mean = read.iter().map(|(_, value)| value).sum::<f64>() / read.len().max(1) as f64;
    let off = |(_, value): &&(u32, f64)| exceeds((value / mean - 1.0).abs(), tolerance);
    let percent = trimmed(100.0 * tolerance);
    vec![
        School {
            name: words::within_the_others(&percent),
            condemns: Vec::new(),
            looks_at: [beyond(1.0), beyond(-1.0)].concat(),
            silent: (!compared).then(|| words::OTHERS_DO_NOT_AGREE.to_owned()),
            leads: true,
        },
        School {
            name: words::within_the_mean(&percent),
            condemns: Vec::new(),
            looks_at: read.iter().filter(off).map(|(cylinder, _)| *cylinder).collect(),
            silent: None,
            leads: false,
        },
    ]
}
