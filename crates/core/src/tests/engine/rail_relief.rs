//! `rail_relief`: whether the rail's own relief valve gives pressure away, and what is reached.
//!
//! Units: kPa. A relief line that runs while the rail is below what is wanted loses the pressure
//! there, whatever the injectors return.
//!
//! # Source
//! House rule: 90 % of the wanted pressure while cranking or idling.

mod words;

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::tests::property::Property;
use crate::typed::Field;
use crate::units::{self, KPA};
use crate::work::Stage;

crate::said::outcomes! {
    RELIEF_RUNS = relief_runs (Fault),
    RAIL_FAR_BELOW = rail_far_below,
    RAIL_NOT_REACHED = rail_not_reached,
    RELIEF_DRY = relief_dry (Good),
}

/// Share of the wanted rail pressure that has to be reached (house rule).
const REACHED: f64 = 0.90;
/// Below this share it is no sagging rail: something gives the pressure away, or never builds it (house rule).
const FAR_BELOW: f64 = 0.75;
const RAIL: Field = Field::above_zero("kPa", 100.0, 400_000.0).usually(1000.0, 300_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Rail relief valve",
    short: "Rail relief",
    says: words::RELIEF_LINE_INTO_CLEAR,
    cautions: &[caution::JET, caution::CRANKING, caution::HOT],
    work: Some(Work::RailRelief),
    start: &[StartId::LowPressureProven, StartId::ChargerOn],
    minutes: 10,
    tools: words::CLEAR_JAR_HOSE_SCAN,
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect => true,
        FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[
        cell("wanted", "Rail pressure wanted", RAIL).told(),
        cell("reached", "Rail pressure reached", RAIL),
        choice("relief", "Relief line", &["stays dry", "drips", "runs"]),
    ],
    each: &[],
    why: |c| {
        (c.start || c.load).then_some(Why {
            says: words::LEAKING_RELIEF_VALVE_LOSES,
            spared_by: words::RAIL_PRESSURE_REACHED,
        })
    },
    property: Property::SHARED,
    first: true,
    recorded: None,
    follows: None,
    example: Example {
        set: &[("wanted", 30_000.0), ("reached", 29_500.0), ("relief", 0.0)],
        each: &[],
    },
    table: include_str!("rail_relief.toml"),
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let lines: &[Option<Said>] = &[
        Some((Outcome::Clear, "")),
        Some((Outcome::Hint, words::RELIEF_LINE_DRIPS_VALVE)),
        Some((Outcome::Fault, words::RELIEF_LINE_FLOWS_RAIL)),
    ];
    let looked = Looked::at(sheet, SPEC.set, &[("relief", lines)]);
    let mut found = looked.found(words::PUT_RELIEF_LINE_CLEAR, words::RELIEF_LINE_STAYS_DRY);
    // The valve that runs loses the pressure; a dry one with a rail that is not reached says that
    // it is lost elsewhere on the high-pressure side.
    let worst = found.outcome.unwrap_or_default();
    found.shared = worst.said(outcomes::RELIEF_RUNS, Code::TOO_CLOSE, outcomes::RELIEF_DRY);
    if let (Some(wanted), Some(reached)) = (sheet.of_set("wanted"), sheet.of_set("reached")) {
        let share = reached / wanted;
        let numbers = words::of_wanted(
            units::reading(reached, KPA),
            units::reading(wanted, KPA),
            100.0 * share,
        );
        if share >= REACHED {
            found.advice.push(words::rail_pressure_reached(&numbers));
        } else {
            found.outcome = found.outcome.max(Some(Outcome::Hint));
            if worst < Outcome::Fault {
                let far = share < FAR_BELOW;
                let code = if far { outcomes::RAIL_FAR_BELOW } else { outcomes::RAIL_NOT_REACHED };
                found.shared = Some(code.into());
            }
            found.advice.push(
                words::rail_pressure_not_reached(
                    &numbers,
                    100.0 * REACHED,
                    match sheet.of_set("relief") {
                        Some(0.0) => words::RELIEF_VALVE_DRY_PRESSURE,
                        Some(_) => "",
                        None => words::CHECK_RELIEF_LINE_BEFORE,
                    },
                )
                .trim_end()
                .to_owned(),
            );
        }
    }
    Ok(found)
}
