//! `compression`: gauge pressures, or the relative figures of a cranking test, against each other.
//!
//! By [`crate::calc::compare_set`]: the plain mean is pulled along by the bad one, so each stands
//! against the others that agree. Units: kPa for a gauge; relative figures in percent of the
//! highest are compared the same way.
//!
//! # Source
//! House rule: 15 % below the others. Relative compression by cranking is quick but no proof.

use super::words::{against_others, missing};
use super::{Found, Sheet, Spec, cell, choice};
use crate::calc::CalcError;
use crate::caution;
use crate::engine::FuelSystem;
use crate::start::StartId;
use crate::typed::Field;
use crate::work::Stage;

/// Share from the others that is no longer alike (house rule).
const TOLERANCE: f64 = 0.15;

pub(super) const SPEC: Spec = Spec {
    title: "Compression",
    short: "Compression",
    says: "All plugs or injectors out, throttle open, starter charged: the same number of turns for each. Or the relative figures of a cranking test.",
    cautions: &[caution::CRANKING],
    start: &[StartId::Warm, StartId::PlugsOut, StartId::ChargerOn],
    minutes: 30,
    tools: "Compression gauge with the adapter, or a current clamp and a scope",
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
    set: &[choice("method", "Measured by", &["gauge", "cranking current or speed"])],
    each: &[cell("pressure", "Compression", Field::above_zero("kPa", 1.0, 20_000.0))],
    judge,
};

fn judge(sheet: &Sheet) -> Result<Found, CalcError> {
    let mut found = against_others(sheet, "pressure", TOLERANCE, &[])?;
    found.unit = "kPa";
    if sheet.of_set("method") == Some(1.0) {
        found.unit = "relative";
        found.advice.push(
            "Relative compression is quick but no proof: back it up by ear or by gauge before anything is decided.".to_owned(),
        );
    }
    if found.lanes.iter().any(|lane| lane.mark == crate::mark::Mark::TooLittle) {
        found.advice.push(
            "A mechanical cylinder: its injector is not blamed for what compression lacks."
                .to_owned(),
        );
    }
    found.advice.extend(missing(sheet, "pressure"));
    Ok(found)
}
