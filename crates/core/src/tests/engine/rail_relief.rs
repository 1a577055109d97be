//! `rail_relief`: whether the rail's own relief valve gives pressure away, and what is reached.
//!
//! Units: kPa. A relief line that runs while the rail is below what is wanted loses the pressure
//! there, whatever the injectors return.
//!
//! # Source
//! House rule: 90 % of the wanted pressure while cranking or idling.

use super::looked::{Looked, Said};
use super::{Example, Found, Outcome, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::caution::Work;
use crate::engine::FuelSystem;
use crate::quantity::figures;
use crate::said::Code;
use crate::start::StartId;
use crate::tests::complaint::Why;
use crate::typed::Field;
use crate::work::Stage;

crate::said::outcomes! {
    RELIEF_RUNS = relief_runs (Fault),
    RAIL_NOT_REACHED = rail_not_reached,
    RELIEF_DRY = relief_dry (Good),
}

/// Share of the wanted rail pressure that has to be reached (house rule).
const REACHED: f64 = 0.90;
const RAIL: Field = Field::above_zero("kPa", 100.0, 400_000.0);

pub(super) const SPEC: Spec = Spec {
    title: "Rail relief valve",
    short: "Rail relief",
    says: "Relief line off into a glass, cranking or idling; the wanted and the actual rail pressure from the scan tool.",
    cautions: &[caution::JET, caution::CRANKING, caution::HOT],
    work: Some(Work::RailRelief),
    start: &[StartId::LowPressureProven, StartId::ChargerOn],
    minutes: 10,
    tools: "Glass and hose, scan tool",
    stage: Stage::RuleOut,
    fits: |fuel| match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect => true,
        FuelSystem::PetrolPort | FuelSystem::ExhaustDoser => false,
    },
    limit: None,
    instrument: None,
    set: &[
        cell("wanted", "Rail wanted", RAIL),
        cell("reached", "Rail reached", RAIL),
        choice("relief", "The relief line", &["stays dry", "drips", "runs"]),
    ],
    each: &[],
    why: |c| {
        (c.start || c.load).then_some(Why {
            says: "A relief valve that runs loses the rail pressure whatever the injectors do.",
            spared_by: "Rail pressure that is reached.",
        })
    },
    first: true,
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
        Some((
            Outcome::Hint,
            "The relief line drips: it does not close, or it was opened once too often.",
        )),
        Some((
            Outcome::Fault,
            "The relief line runs: the rail loses its pressure there, and no injector is blamed for it.",
        )),
    ];
    let looked = Looked::at(sheet, SPEC.set, &[("relief", lines)]);
    let mut found =
        looked.found("Hold the relief line into a glass and look.", "The relief line stays dry.");
    // The valve that runs loses the pressure; a dry one with a rail that is not reached says that
    // it is lost elsewhere on the high-pressure side.
    let worst = found.outcome.unwrap_or_default();
    found.shared = worst.said(outcomes::RELIEF_RUNS, Code::TOO_CLOSE, outcomes::RELIEF_DRY);
    if let (Some(wanted), Some(reached)) = (sheet.of_set("wanted"), sheet.of_set("reached")) {
        let share = reached / wanted;
        let numbers =
            format!("{} of {} kPa, {:.0} %", figures(reached), figures(wanted), 100.0 * share);
        if share >= REACHED {
            found.advice.push(format!("The rail is reached: {numbers}."));
        } else {
            found.outcome = found.outcome.max(Some(Outcome::Hint));
            if worst < Outcome::Fault {
                found.shared = Some(outcomes::RAIL_NOT_REACHED.into());
            }
            found.advice.push(format!(
                "The rail is not reached: {numbers}, {:.0} % are asked for (house rule). {}",
                100.0 * REACHED,
                match sheet.of_set("relief") {
                    Some(0.0) => "The valve is dry, so it is lost elsewhere: pump, or the returns of the injectors.",
                    Some(_) => "",
                    None => "Look at the relief line before the returns are blamed.",
                }
            ).trim_end().to_owned());
        }
    }
    Ok(found)
}
