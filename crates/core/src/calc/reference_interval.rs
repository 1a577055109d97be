//! `reference_interval`: where the house's own good injectors lie.
//!
//! `mean ± k·s` covers `coverage` of the population with `confidence`, by Howe's
//! `k = z((1+coverage)/2)·√(ν(1+1/n)/χ²(1−confidence; ν))`, `ν = n − 1`. At least eight values,
//! in one unit; the values are taken as normally distributed.
//!
//! # Source
//! ISO 16269-6 (two-sided statistical tolerance interval); Howe's approximation of k.
//!
//! ```
//! use cobaltine_core::calc::reference_interval::{ReferenceIntervalInput, reference_interval};
//! let out = reference_interval(&ReferenceIntervalInput {
//!     values: vec![43.4, 42.25, 39.59, 41.51, 41.32, 40.27, 43.08, 43.33], coverage: None, confidence: None,
//! }).unwrap();
//! assert!((out.k - 3.736_017_107_893_037).abs() < 1e-9);
//! ```

use super::{CalcError, finite};
use crate::calc::words;
use crate::stats::{Spread, chi_squared_quantile};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Fewer proven-good injectors than this make no reference.
pub const LEAST_VALUES: usize = 8;
/// Share of the population that the interval covers, and how sure of that (house rule).
pub const COVERAGE: f64 = 0.95;

/// Readings of proven-good injectors under one condition.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReferenceIntervalInput {
    /// At least eight, in one unit.
    pub values: Vec<f64>,
    /// Default 0.95.
    pub coverage: Option<f64>,
    /// Default 0.95.
    pub confidence: Option<f64>,
}

/// The interval, in the unit of the values.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ReferenceIntervalOutput {
    /// How many values.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// Their sample standard deviation.
    pub s: f64,
    /// Howe's factor.
    pub k: f64,
    /// `mean − k·s`.
    pub lower: f64,
    /// `mean + k·s`.
    pub upper: f64,
}

/// The tolerance interval.
///
/// # Errors
/// Fewer than eight values, non-finite values, coverage or confidence outside (0, 1).
pub fn reference_interval(
    input: &ReferenceIntervalInput,
) -> Result<ReferenceIntervalOutput, CalcError> {
    let n = input.values.len();
    if n < LEAST_VALUES {
        return Err(CalcError::TooFew {
            what: words::VALUES_PROVEN_GOOD_INJECTORS,
            least: LEAST_VALUES,
            got: n,
        });
    }
    let share = |what: &str, value: Option<f64>| {
        let value = finite(what, value.unwrap_or(COVERAGE))?;
        if value > 0.0 && value < 1.0 {
            Ok(value)
        } else {
            Err(CalcError::Contradiction(words::must_lie_between_got(what, value)))
        }
    };
    let coverage = share("the coverage", input.coverage)?;
    let confidence = share("the confidence", input.confidence)?;
    for (index, value) in input.values.iter().enumerate() {
        finite(format!("value {}", index + 1), *value)?;
    }
    let (count, nu) = (n as f64, (n - 1) as f64);
    let mean = finite("the mean", input.values.iter().sum::<f64>() / count)?;
    let squares: f64 = input.values.iter().map(|v| (v - mean).powi(2)).sum();
    let s = finite("the standard deviation", (squares / nu).sqrt())?;
    let z = Spread::Normal.quantile(0.5 + 0.5 * coverage);
    let chi = chi_squared_quantile(1.0 - confidence, nu);
    let k = finite("the tolerance factor", z * (nu * (1.0 + 1.0 / count) / chi).sqrt())?;
    let half = finite("the tolerance interval", k * s)?;
    Ok(ReferenceIntervalOutput { n, mean, s, k, lower: mean - half, upper: mean + half })
}
