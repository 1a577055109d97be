//! `shim`: which shim brings a valve lift to its target.
//!
//! `ideal = fitted + (target − lift)/gain`; `fit_um` = nearest among the stock and the one
//! fitted (smaller of equals); `predicted = lift + gain·(fit − fitted)`; `within` when the
//! prediction lies inside the tolerance. All in µm; gain is Δlift/Δshim. After a second fit the
//! gain is taken from the measurements themselves, kept when the shims differ by at least twice
//! the uncertainty of a lift ([`gain_from_fits`]): give `previous_*` and `lift_u_um`.
//!
//! # Source
//! House rule (stack-up is linear over a few shims).
//!
//! ```
//! use cobaltine_core::calc::shim::{ShimInput, shim};
//! let out = shim(&ShimInput {
//!     lift_um: 73.1, target_um: 48.2, tolerance_um: 4.0, fitted_um: 1020.0, gain: 0.8,
//!     stock_um: vec![980.0, 990.0, 1000.0], ..ShimInput::default()
//! }).unwrap();
//! assert_eq!((out.fit_um, out.within), (990.0, true));
//! ```

use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A lift as measured, and what is in the drawer.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShimInput {
    /// Lift as measured, µm.
    pub lift_um: f64,
    /// Lift wanted, µm.
    pub target_um: f64,
    /// Still good this far off, µm.
    pub tolerance_um: f64,
    /// Shim that is fitted, µm.
    pub fitted_um: f64,
    /// Change of lift for a change of shim; negative where a thicker shim lifts less.
    pub gain: f64,
    /// Shims on hand, µm.
    pub stock_um: Vec<f64>,
    /// Lift measured with an earlier shim, µm.
    pub previous_lift_um: Option<f64>,
    /// That earlier shim, µm.
    pub previous_fitted_um: Option<f64>,
    /// Standard uncertainty of a lift, µm; default 0.
    pub lift_u_um: Option<f64>,
}

/// The shim to fit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ShimOutput {
    /// Shim that would hit the target, µm.
    pub ideal_um: f64,
    /// Nearest on hand, µm.
    pub fit_um: f64,
    /// Lift to expect with it, µm.
    pub predicted_lift_um: f64,
    /// That is inside the tolerance.
    pub within: bool,
    /// The gain that was used.
    pub gain: f64,
}

/// Picks a shim.
///
/// # Errors
/// Empty stock, gain 0, any dimension or the tolerance not above zero.
pub fn shim(input: &ShimInput) -> Result<ShimOutput, CalcError> {
    let lift = positive("the lift", input.lift_um)?;
    let target = positive("the target", input.target_um)?;
    let tolerance = positive("the tolerance", input.tolerance_um)?;
    let fitted = positive("the fitted shim", input.fitted_um)?;
    let lift_u = non_negative(words::UNCERTAINTY_LIFT, input.lift_u_um.unwrap_or(0.0))?;
    if input.stock_um.is_empty() {
        return Err(CalcError::TooFew { what: "shims in stock", least: 1, got: 0 });
    }
    for shim in &input.stock_um {
        positive(words::SHIM_STOCK, *shim)?;
    }
    let measured = match (input.previous_lift_um, input.previous_fitted_um) {
        (Some(lift_before), Some(fitted_before)) => {
            let before = (
                positive("the earlier shim", fitted_before)?,
                positive("the earlier lift", lift_before)?,
            );
            gain_from_fits(before, (fitted, lift), lift_u)
        }
        (_, _) => None,
    };
    let gain = finite("the gain", measured.unwrap_or(input.gain))?;
    if gain == 0.0 {
        return Err(CalcError::Contradiction(words::GAIN_NO_SHIM_CHANGES.to_owned()));
    }
    let ideal = finite("the ideal shim", fitted + (target - lift) / gain)?;
    let mut choices = input.stock_um.clone();
    choices.push(fitted);
    choices.sort_by(f64::total_cmp);
    let fit = choices
        .into_iter()
        .reduce(
            |best, next| {
                if exceeds((best - ideal).abs(), (next - ideal).abs()) { next } else { best }
            },
        )
        .unwrap_or(fitted);
    let predicted = finite("the predicted lift", lift + gain * (fit - fitted))?;
    Ok(ShimOutput {
        ideal_um: ideal,
        fit_um: fit,
        predicted_lift_um: predicted,
        within: !exceeds((predicted - target).abs(), tolerance),
        gain,
    })
}

/// Δlift/Δshim of two fits `(shim, lift)`, when the shims differ by at least twice the
/// uncertainty of a lift, and the lift moved at all.
pub fn gain_from_fits(first: (f64, f64), second: (f64, f64), lift_u: f64) -> Option<f64> {
    let step = second.0 - first.0;
    let gain = (second.1 - first.1) / step;
    (step != 0.0 && !exceeds(2.0 * lift_u, step.abs()) && gain != 0.0 && gain.is_finite())
        .then_some(gain)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_gain_is_taken_from_two_fits_only_when_they_differ_enough() {
        assert_eq!(gain_from_fits((1000.0, 50.0), (1010.0, 58.0), 1.0), Some(0.8));
        assert_eq!(gain_from_fits((1000.0, 50.0), (1001.0, 58.0), 1.0), None, "within the noise");
        assert_eq!(gain_from_fits((1000.0, 50.0), (1000.0, 58.0), 0.0), None, "the same shim");
    }
}
