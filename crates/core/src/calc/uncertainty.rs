//! `uncertainty`: what a mean of repeated readings is worth.
//!
//! With s the sample standard deviation (0 for one reading):
//! `u_repeat = max(s, prior or 0)/√n`, `u_resolution = resolution/√12`,
//! `u = √(u_repeat² + u_resolution² + calibration_u²)`. When s > 0 and s ≥ prior,
//! `dof = u⁴/(u_repeat⁴/(n−1))` (Welch and Satterthwaite), otherwise infinite.
//! `expanded_u` uses the 97.5 % quantile of Student t.
//!
//! Two equal coarse readings do not claim perfection: the resolution stays in.
//!
//! # Source
//! JCGM 100 (GUM), 4.2, F.2.2.1 (resolution), G.4 (effective degrees of freedom).
//!
//! ```
//! use cobaltine_core::calc::uncertainty::{UncertaintyInput, uncertainty};
//! let input = UncertaintyInput {
//!     readings: vec![12.0, 12.0], resolution: 2.0, calibration_u: None, prior_repeatability: None,
//! };
//! let out = uncertainty(&input).unwrap();
//! assert_eq!(out.u_repeat, 0.0);
//! assert!(out.u > 0.57 && out.dof.is_none());
//! ```

use super::{CalcError, finite, non_negative, positive};
use crate::stats::Spread;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Readings of one quantity, all in the same unit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct UncertaintyInput {
    /// At least one reading.
    pub readings: Vec<f64>,
    /// Distance between two marks of the instrument, above zero.
    pub resolution: f64,
    /// Standard uncertainty from the calibration; 0 when missing.
    pub calibration_u: Option<f64>,
    /// Known standard deviation of a single reading, from earlier work.
    pub prior_repeatability: Option<f64>,
}

/// The mean and its uncertainty, in the unit of the readings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct UncertaintyOutput {
    /// Arithmetic mean.
    pub mean: f64,
    /// Part that repeats would bring down.
    pub u_repeat: f64,
    /// Part from the marks of the instrument.
    pub u_resolution: f64,
    /// Combined standard uncertainty.
    pub u: f64,
    /// Effective degrees of freedom, `None` when infinite.
    pub dof: Option<f64>,
    /// Multiplier for 95 % coverage.
    pub coverage_factor: f64,
    /// `coverage_factor · u`.
    pub expanded_u: f64,
}

/// Combines repeatability, resolution and calibration.
///
/// # Errors
/// No readings, non-finite numbers, resolution not above zero, a negative prior
/// or calibration uncertainty.
pub fn uncertainty(input: &UncertaintyInput) -> Result<UncertaintyOutput, CalcError> {
    let readings = &input.readings;
    if readings.is_empty() {
        return Err(CalcError::TooFew { what: "readings", least: 1, got: 0 });
    }
    for reading in readings {
        finite("a reading", *reading)?;
    }
    let resolution = positive("the resolution", input.resolution)?;
    let calibration =
        non_negative("the calibration uncertainty", input.calibration_u.unwrap_or(0.0))?;
    let prior = non_negative("the prior repeatability", input.prior_repeatability.unwrap_or(0.0))?;

    let n = readings.len() as f64;
    let mean = finite("the mean", readings.iter().sum::<f64>() / n)?;
    let s = if readings.len() > 1 {
        (readings.iter().map(|r| (r - mean).powi(2)).sum::<f64>() / (n - 1.0)).sqrt()
    } else {
        0.0
    };
    let u_repeat = s.max(prior) / n.sqrt();
    let u_resolution = resolution / 12.0_f64.sqrt();
    let u = finite("the combined uncertainty", u_repeat.hypot(u_resolution).hypot(calibration))?;
    let dof = (s > 0.0 && s >= prior)
        .then(|| (n - 1.0) * (u / u_repeat).powi(4))
        .filter(|dof| dof.is_finite());
    let coverage_factor = Spread::with_dof(dof).quantile(0.975);
    let expanded_u = finite("the expanded uncertainty", coverage_factor * u)?;
    Ok(UncertaintyOutput { mean, u_repeat, u_resolution, u, dof, coverage_factor, expanded_u })
}
