//! `suction_air`: a clear hose in the suction line, looked at running and after standing.
//!
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

mod words;

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::engine::FuelSystem;
use crate::start::StartId;
use crate::tests::complaint::{Why, why};
use crate::tests::property::Property;
use crate::work::Condition;
use crate::work::Lately;
use crate::work::Stage;

crate::said::outcomes! {
    AIR_DRAWN = air_drawn (Fault),
    AIR_SOME = air_some,
    AIR_NONE = air_none (Good),
}

pub(super) const SPEC: Spec = Spec {
    title: words::AIR_SUCTION_LINE,
    short: "Air",
    says: words::CLEAR_HOSE_BEFORE_PUMP,
    cautions: &[caution::RUNNING, caution::MOUTH],
    work: None,
    start: &[StartId::FuelAboveLow, StartId::Parked, StartId::ExtractionOn],
    minutes: 10,
    tools: words::CLEAR_HOSE_CLAMPS_HAND,
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => true,
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => false,
    },
    limit: None,
    instrument: None,
    set: &[
        choice("running", "While it runs", &["no bubbles", "a few bubbles", words::STREAM_BUBBLES]),
        choice(
            "standing",
            "After standing",
            &["stays full", "drains back slowly", words::DRAINS_BACK_ONCE],
        ),
    ],
    each: &[],
    why: |c| {
        if c.lately(Lately::RanDry) || c.lately(Lately::FilterChanged) {
            return why(words::RAN_DRY_FILTER_CHANGED, words::CLEAR_HOSE_STAYS_FULL);
        }
        let falls_back = c.start || c.when(Condition::AfterStanding);
        falls_back.then_some(Why {
            says: words::FUEL_DRAINS_BACK_PARKED,
            spared_by: words::CRANK_JUST_LONG_AFTER,
        })
    },
    property: Property::SHARED,
    first: true,
    recorded: None,
    follows: None,
    example: Example { set: &[("running", 0.0), ("standing", 0.0)], each: &[] },
    table: include_str!("suction_air.toml"),
    judge,
};

const GOOD: Option<Said> = Some((Outcome::Clear, ""));

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let running = &[
        GOOD,
        Some((Outcome::Hint, words::FEW_BUBBLES_WATCH_WHETHER)),
        Some((Outcome::Fault, words::AIR_DRAWN_WHILE_RUNNING)),
    ];
    let standing = &[
        GOOD,
        Some((Outcome::Hint, words::FUEL_DRAINS_BACK_SLOWLY)),
        Some((Outcome::Fault, words::FUEL_DRAINS_BACK_PARKED_CAUSES)),
    ];
    let looked = Looked::at(sheet, SPEC.set, &[("running", running), ("standing", standing)]);
    let worst = looked.worst();
    let mut found = looked.found(words::FIT_CLEAR_HOSE_LOOK, words::NO_AIR_SUCTION_LINE);
    found.shared = worst.said(outcomes::AIR_DRAWN, outcomes::AIR_SOME, outcomes::AIR_NONE);
    Ok(found)
}
