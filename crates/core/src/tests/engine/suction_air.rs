//! `suction_air`: a clear hose in the suction line, looked at running and after standing.
//!
//! No unit; answers are chosen.
//!
//! # Source
//! House rule.

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::engine::FuelSystem;
use crate::start::StartId;
use crate::tests::complaint::{Why, why};
use crate::work::Condition;
use crate::work::Lately;
use crate::work::Stage;

crate::said::outcomes! {
    AIR_DRAWN = air_drawn (Fault),
    AIR_SOME = air_some,
    AIR_NONE = air_none (Good),
}

pub(super) const SPEC: Spec = Spec {
    title: "Air in the suction line",
    short: "Air",
    says: "A clear hose before the pump: look while it runs, then again after it stood for a while.",
    cautions: &[caution::RUNNING, caution::MOUTH],
    work: None,
    start: &[StartId::FuelAboveLow, StartId::Parked, StartId::ExtractionOn],
    minutes: 10,
    tools: "Clear hose and clamps, hand primer",
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => true,
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => false,
    },
    limit: None,
    instrument: None,
    set: &[
        choice("running", "While it runs", &["no bubbles", "a few bubbles", "a stream of bubbles"]),
        choice(
            "standing",
            "After standing",
            &["stays full", "falls back slowly", "falls back at once"],
        ),
    ],
    each: &[],
    why: |c| {
        if c.lately(Lately::RanDry) || c.lately(Lately::FilterChanged) {
            return why(
                "It ran dry or the filter was changed: air first.",
                "A clear hose that stays full.",
            );
        }
        let falls_back = c.start || c.when(Condition::AfterStanding);
        falls_back.then_some(Why {
            says: "Fuel that falls back when parked makes a long crank.",
            spared_by: "A start that is as long when it stood for a minute only.",
        })
    },
    first: true,
    follows: None,
    example: Example { set: &[("running", 0.0), ("standing", 0.0)], each: &[] },
    table: include_str!("suction_air.toml"),
    judge,
};

const GOOD: Option<Said> = Some((Outcome::Clear, ""));

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let running = &[
        GOOD,
        Some((Outcome::Hint, "A few bubbles: watch whether they go; a new filter needs a while.")),
        Some((
            Outcome::Fault,
            "Air is drawn in while it runs: joints, seals, filter and tank pick-up before any injector.",
        )),
    ];
    let standing = &[
        GOOD,
        Some((
            Outcome::Hint,
            "Fuel falls back slowly: a non-return valve or a seal. It makes a long crank after standing.",
        )),
        Some((
            Outcome::Fault,
            "Fuel falls back when parked: a long crank comes from here, not from an injector.",
        )),
    ];
    let looked = Looked::at(sheet, SPEC.set, &[("running", running), ("standing", standing)]);
    let worst = looked.worst();
    let mut found = looked.found(
        "Fit the clear hose and look while it runs.",
        "No air in the suction line, running or after standing.",
    );
    found.shared = worst.said(outcomes::AIR_DRAWN, outcomes::AIR_SOME, outcomes::AIR_NONE);
    Ok(found)
}
