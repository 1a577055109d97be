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

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn of(readings: Vec<f64>, resolution: f64, prior: Option<f64>) -> UncertaintyOutput {
        let input = UncertaintyInput {
            readings,
            resolution,
            calibration_u: Some(0.1),
            prior_repeatability: prior,
        };
        uncertainty(&input).unwrap()
    }

    #[test]
    fn every_refusal_names_the_number() {
        let input =
            |readings: &[f64], resolution, calibration_u, prior_repeatability| UncertaintyInput {
                readings: readings.to_vec(),
                resolution,
                calibration_u,
                prior_repeatability,
            };
        for (input, says) in [
            (input(&[], 1.0, None, None), "at least 1 readings needed, got 0"),
            (input(&[f64::NAN], 1.0, None, None), "a reading is not a usable number"),
            (input(&[1.0], 0.0, None, None), "the resolution must be above zero, got 0"),
            (
                input(&[1.0], 1.0, Some(-1.0), None),
                "the calibration uncertainty cannot be below zero, got -1",
            ),
            (
                input(&[1.0], 1.0, None, Some(-2.0)),
                "the prior repeatability cannot be below zero, got -2",
            ),
            (input(&[f64::MAX, f64::MAX], 1.0, None, None), "the mean is not a usable number"),
        ] {
            assert_eq!(uncertainty(&input).unwrap_err().to_string(), says);
        }
    }

    proptest! {
        #[test]
        fn the_unit_and_the_order_change_nothing_but_the_scale(
            readings in prop::collection::vec(1.0..90.0_f64, 1..6), resolution in 0.01..5.0_f64, scale in 0.01..100.0_f64,
        ) {
            let plain = of(readings.clone(), resolution, None);
            let turned: Vec<f64> = readings.iter().rev().map(|r| r * scale).collect();
            let input = UncertaintyInput {
                readings: turned, resolution: resolution * scale, calibration_u: Some(0.1 * scale), prior_repeatability: None,
            };
            let other = uncertainty(&input).unwrap();
            prop_assert!((other.u / scale / plain.u - 1.0).abs() < 1e-9);
            prop_assert!((other.coverage_factor / plain.coverage_factor - 1.0).abs() < 1e-6);
        }

        #[test]
        fn nothing_is_ever_better_than_its_marks_and_a_prior_only_adds_doubt(
            readings in prop::collection::vec(1.0..90.0_f64, 1..6), resolution in 0.01..5.0_f64, prior in 0.0..9.0_f64,
        ) {
            let without = of(readings.clone(), resolution, None);
            let with = of(readings, resolution, Some(prior));
            prop_assert!(without.u >= resolution / 12.0_f64.sqrt());
            prop_assert!(with.u >= without.u);
            prop_assert!(without.expanded_u >= 1.95 * without.u);
        }
    }
}
