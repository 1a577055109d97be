//! Pressure and fluid of a round, and what brings its flows to the reference of the house.
//!
//! # Source
//! [`crate::calc::bench_flow`]: turbulent orifice flow, SAE J1832; ISO 4113 for calibration fluid.

mod words;

use super::BenchTest;
use super::ctx::Ctx;
use crate::calc::CalcError;
use crate::calc::bench_flow::{BenchFlowInput, bench_flow};
use crate::library::{LimitCheck, LimitEntry};
use crate::quantity::trimmed;
use crate::rules::RuleId;
use crate::tests::cell::{Cell, cell, choice};
use crate::typed::Field;
use crate::units::{self, KPA, PRESSURE as PRESSURE_UNIT};

/// Fluids with their usual density at 20 °C, kg/m³.
const FLUIDS: &[(&str, Option<f64>)] = &[
    ("calibration fluid", Some(825.0)),
    ("normal heptane", Some(684.0)),
    ("white spirit", Some(780.0)),
    ("petrol", Some(745.0)),
    ("another", None),
];
const NAMES: &[&str] = &[FLUIDS[0].0, FLUIDS[1].0, FLUIDS[2].0, FLUIDS[3].0, FLUIDS[4].0];

pub(super) const PRESSURE: Cell =
    cell("pressure", "Pressure", Field::above_zero("kPa", 1.0, 40_000.0).usually(100.0, 25_000.0));
pub(super) const FLUID: Cell = choice("fluid", "Fluid", NAMES);
pub(super) const DENSITY: Cell =
    cell("density", "Measured density, kg/m³", Field::above_zero("", 300.0, 2000.0)).more();

/// Conditions of a round.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Basis {
    /// What brings a flow to the reference; 1 when that cannot be done.
    pub factor: f64,
    /// What is missing to do it, in words.
    pub missing: Option<String>,
    /// The conditions in words.
    pub says: String,
}

/// The conditions that a round was told.
pub(super) fn basis(ctx: &Ctx<'_>, test: BenchTest) -> Result<Basis, CalcError> {
    let pressure = ctx.set(test, "pressure");
    let fluid = ctx.set(test, "fluid").and_then(|f| FLUIDS.get(f as usize));
    let density = ctx.set(test, "density").or(fluid.and_then(|f| f.1));
    let missing = match (pressure, density) {
        (Some(_), Some(_)) => None,
        (None, Some(_)) => Some("pressure not noted"),
        (Some(_), None) => Some("fluid not noted"),
        (None, None) => Some(words::PRESSURE_FLUID_NOT_NOTED),
    };
    let (Some(test_kpa), Some(density)) = (pressure, density) else {
        let missing = missing.map(str::to_owned);
        return Ok(Basis { factor: 1.0, says: missing.clone().unwrap_or_default(), missing });
    };
    let (reference_kpa, reference) =
        (ctx.rules.get(RuleId::FlowPressure), ctx.rules.get(RuleId::FlowDensity));
    let factor = bench_flow(&BenchFlowInput {
        volume_ml: 1.0,
        seconds: 60.0,
        test_kpa,
        reference_kpa,
        test_density: Some(density),
        reference_density: Some(reference),
    })?
    .reference_flow_ml_min;
    Ok(Basis {
        factor,
        missing: None,
        says: format!(
            "× √({} ÷ {} {PRESSURE_UNIT}) × √({} ÷ {} kg/m³) = × {factor:.4}",
            units::number(reference_kpa, KPA),
            units::reading(test_kpa, KPA),
            trimmed(density),
            trimmed(reference)
        ),
    })
}

/// A flow limit with what brings a flow at the reference of the house to the limit's own pressure
/// and fluid: a flow is never judged against another's conditions.
pub(super) struct FlowLimit<'a> {
    pub limit: &'a LimitEntry,
    /// Times a flow at the reference of the house.
    pub factor: f64,
}

/// The limit of static flow of an injector's family: of several the one nearest in pressure to
/// this round's. A condition that is no fluid of the list is not ours to fulfil.
pub(super) fn flow_limit<'a>(ctx: &Ctx<'a>, tag: u32) -> Option<FlowLimit<'a>> {
    let reference_kpa = ctx.rules.get(RuleId::FlowPressure);
    let reference = ctx.rules.get(RuleId::FlowDensity);
    let test_kpa = ctx.set(BenchTest::Flow, "pressure").unwrap_or(reference_kpa);
    let kpa = |limit: &LimitEntry| match (limit.from_kpa, limit.to_kpa) {
        (Some(from), Some(to)) => f64::midpoint(from, to),
        (Some(one), None) | (None, Some(one)) => one,
        (None, None) => reference_kpa,
    };
    let density = |limit: &LimitEntry| {
        let said = limit.condition.trim().to_lowercase();
        if said.is_empty() {
            return Some(reference);
        }
        FLUIDS.iter().find(|(name, _)| *name == said).and_then(|(_, density)| *density)
    };
    let held = ctx.family(tag)?.limits.iter().filter(|l| l.check == LimitCheck::StaticFlow);
    held.filter_map(|limit| Some((limit, kpa(limit), density(limit)?)))
        .min_by(|one, other| (one.1 - test_kpa).abs().total_cmp(&(other.1 - test_kpa).abs()))
        .map(|(limit, kpa, density)| FlowLimit {
            limit,
            factor: (kpa / reference_kpa).sqrt() * (reference / density).sqrt(),
        })
}
