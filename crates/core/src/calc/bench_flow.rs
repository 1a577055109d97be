//! `bench_flow`: one flow measurement on the bench, brought to the reference pressure and fluid.
//!
//! `q = 60·V/t` in ml/min; at reference `q·√(reference/test pressure)`, and, when both
//! densities are given, `·√(test density/reference density)`. Pressures are the drop across
//! the injector in kPa; any density unit, as only the ratio counts.
//!
//! # Source
//! SAE J1832 (static flow); turbulent orifice flow, Q ∝ √(Δp/ρ). ISO 4113 for the usual fluid.
//!
//! ```
//! use cobaltine_core::calc::bench_flow::{BenchFlowInput, bench_flow};
//! let out = bench_flow(&BenchFlowInput {
//!     volume_ml: 112.8, seconds: 15.0, test_kpa: 372.9, reference_kpa: 300.0,
//!     test_density: None, reference_density: None,
//! }).unwrap();
//! assert!((out.reference_flow_ml_min - 404.700_300_302_785_7).abs() < 1e-9);
//! ```

use super::{CalcError, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A volume caught over a time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchFlowInput {
    /// Volume caught, ml.
    pub volume_ml: f64,
    /// Over this time, s.
    pub seconds: f64,
    /// Pressure drop at the test, kPa.
    pub test_kpa: f64,
    /// Pressure drop that the flow is stated for, kPa.
    pub reference_kpa: f64,
    /// Density of the test fluid; needs the other one too.
    pub test_density: Option<f64>,
    /// Density of the reference fluid, in the same unit.
    pub reference_density: Option<f64>,
}

/// The flow as measured and as it would be at reference.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchFlowOutput {
    /// As measured, ml/min.
    pub flow_ml_min: f64,
    /// At reference pressure and fluid, ml/min.
    pub reference_flow_ml_min: f64,
}

/// Brings a flow to reference.
///
/// # Errors
/// A negative volume; a time, pressure or density not above zero; one density alone.
pub fn bench_flow(input: &BenchFlowInput) -> Result<BenchFlowOutput, CalcError> {
    let volume = non_negative("the volume", input.volume_ml)?;
    let seconds = positive("the time", input.seconds)?;
    let test = positive("the test pressure", input.test_kpa)?;
    let reference = positive("the reference pressure", input.reference_kpa)?;
    let fluid = match (input.test_density, input.reference_density) {
        (None, None) => 1.0,
        (Some(test), Some(reference)) => (positive("the test density", test)?
            / positive("the reference density", reference)?)
        .sqrt(),
        (Some(_), None) | (None, Some(_)) => {
            return Err(CalcError::Contradiction(words::GIVE_BOTH_DENSITIES_TEST.to_owned()));
        }
    };
    let flow = finite("the flow", 60.0 * volume / seconds)?;
    let at_reference = flow * (reference / test).sqrt() * fluid;
    Ok(BenchFlowOutput {
        flow_ml_min: flow,
        reference_flow_ml_min: finite(words::FLOW_REFERENCE, at_reference)?,
    })
}
