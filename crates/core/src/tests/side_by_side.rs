//! `side_by_side`: two return tests of one job next to each other.
//!
//! Rates across temperatures are not comparable as they are. Close together they stand as they
//! are; further apart the second is brought to the temperature of the first by
//! [`crate::calc::viscosity_factor`] and labelled an estimate; without a temperature, or under
//! another regime, the comparison is refused. Units: ml/min, °C.
//!
//! # Source
//! House rule ([`crate::rules::RuleId::TemperaturesAlike`]); ASTM D341 through the calc.

use crate::calc::CalcError;
use crate::calc::viscosity_factor::{ViscosityFactorInput, viscosity_factor};
use crate::quantity::Celsius;
use crate::tests::Verdict;
use crate::tests::words;
use crate::units::{self, C, ML_MIN};
use crate::work::Regime;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One of the two tests.
#[derive(Debug, Clone, Copy)]
pub struct Side<'a> {
    /// Engine regime.
    pub regime: Regime,
    /// Engine temperature, when it was measured.
    pub temperature_c: Option<Celsius>,
    /// Its verdict.
    pub verdict: &'a Verdict,
}

/// Two tests side by side.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SideBySide {
    /// Why they are not compared, when they are not.
    pub refused: Option<String>,
    /// What was done to make them comparable.
    pub label: String,
    /// Multiplier of the second, when it was brought to the temperature of the first.
    pub factor: Option<f64>,
    /// Cylinder by cylinder.
    pub lanes: Vec<SideLane>,
}

/// One cylinder in both.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SideLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// First rate as shown.
    pub before: String,
    /// Second rate as shown, corrected where that was done.
    pub after: String,
    /// Second against first, minus 1; none when refused.
    pub change: Option<f64>,
}

/// Puts two tests side by side.
///
/// # Errors
/// A temperature outside of what the viscosity is known for.
pub fn side_by_side(
    before: Side<'_>,
    after: Side<'_>,
    alike_within_c: f64,
) -> Result<SideBySide, CalcError> {
    let (mut refused, mut label, mut factor) = (None, String::new(), None);
    match (before.temperature_c, after.temperature_c) {
        _ if before.regime != after.regime => {
            refused = Some(words::TWO_TESTS_USED_DIFFERENT.to_owned());
        }
        (Some(Celsius(first)), Some(Celsius(second)))
            if (first - second).abs() <= alike_within_c =>
        {
            label = words::read_c_c(units::said(first, C), units::said(second, C));
        }
        (Some(Celsius(first)), Some(Celsius(second))) => {
            let out = viscosity_factor(&ViscosityFactorInput {
                t_test_c: second,
                t_ref_c: first,
                nu_a: None,
                t_a_c: None,
                nu_b: None,
                t_b_c: None,
            })?;
            label = words::estimate_second_c_corrected(
                units::said(second, C),
                units::said(first, C),
                out.factor,
            );
            factor = Some(out.factor);
        }
        (_, _) => {
            refused = Some(words::TEMPERATURE_ONE_TWO_NOT.to_owned());
        }
    }
    let lanes = before
        .verdict
        .lanes
        .iter()
        .zip(&after.verdict.lanes)
        .map(|(one, other)| {
            let u = other.u.unwrap_or(0.0);
            let rate = other.value.map(|rate| rate * factor.unwrap_or(1.0));
            SideLane {
                cylinder: one.place,
                before: one.shown.clone(),
                after: rate.map(|rate| units::carried(rate, u, ML_MIN)).unwrap_or_default(),
                change: match (one.value, rate) {
                    (Some(first), Some(second)) if first > 0.0 && refused.is_none() => {
                        Some(second / first - 1.0)
                    }
                    (_, _) => None,
                },
            }
        })
        .collect();
    Ok(SideBySide { refused, label, factor, lanes })
}
