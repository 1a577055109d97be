//! `trim`: the trim code of a sound injector from its bench map.
//!
//! `steps = (nominal − measured)/step` rounded half away from zero (after nine decimals); beyond
//! ±15 the point's index goes to `out_of_range`; measured outside its release window goes to
//! `not_released`. Either way there is no code: a code corrects a sound injector, it does not
//! excuse a bad one. Code: `C1`, then per point one symbol of
//! [`SYMBOLS`]`[step + 15]`, then the two ISO/IEC 7064 MOD 97-10 check digits. No I, L, O or U
//! can occur, so a typed O is 0 and a typed I or L is 1. mm³ per stroke throughout.
//!
//! This is Cobaltine's own open code; other families only have a pattern (`code_check`).
//!
//! # Source
//! ISO/IEC 7064 (MOD 97-10); the layout of the code is ours.
//!
//! ```
//! use cobaltine_core::calc::trim::{TrimInput, trim};
//! let out = trim(&TrimInput {
//!     nominal_mm3: vec![1.8, 7.0, 24.0, 62.0], measured_mm3: vec![2.15, 6.68, 23.19, 61.36],
//!     step_mm3: 0.3, release_limits_mm3: None,
//! }).unwrap();
//! assert_eq!(out.code.as_deref(), Some("C1EGJH44"));
//! ```

use super::code_check::mod_97_10;
use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One symbol for each step; none of them looks like another.
pub const SYMBOLS: &[u8; 32] = b"0123456789ABCDEFGHJKMNPQRSTVWXYZ";
/// The largest correction that a code can carry.
pub const MOST_STEPS: i64 = 15;
/// What every code begins with: the version.
pub const PREFIX: &str = "C1";

/// The final map of one injector.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TrimInput {
    /// What the control unit expects, one for each point.
    pub nominal_mm3: Vec<f64>,
    /// What was measured, in the same order.
    pub measured_mm3: Vec<f64>,
    /// Quantity that one step corrects.
    pub step_mm3: f64,
    /// `[lower, upper]` for each point, outside which the injector is not released.
    #[schema(value_type = Option<Vec<Vec<f64>>>)]
    pub release_limits_mm3: Option<Vec<[f64; 2]>>,
}

/// The code, or why there is none.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TrimOutput {
    /// One for each point.
    pub steps: Vec<i64>,
    /// Points that more than 15 steps would be needed for.
    pub out_of_range: Vec<usize>,
    /// Points outside their release window.
    pub not_released: Vec<usize>,
    /// The code of a sound injector.
    pub code: Option<String>,
}

/// Makes a trim code.
///
/// # Errors
/// No points, lists of different lengths, negative quantities, step not above zero, a window
/// whose lower end is above its upper end.
pub fn trim(input: &TrimInput) -> Result<TrimOutput, CalcError> {
    let n = input.nominal_mm3.len();
    if n == 0 {
        return Err(CalcError::TooFew { what: "points", least: 1, got: 0 });
    }
    let windows = input.release_limits_mm3.as_deref();
    if input.measured_mm3.len() != n || windows.is_some_and(|w| w.len() != n) {
        return Err(CalcError::Contradiction(words::nominal_measured_limits_must(
            n,
            input.measured_mm3.len(),
        )));
    }
    let step = positive("the step", input.step_mm3)?;
    let (mut steps, mut out_of_range, mut not_released) = (Vec::new(), Vec::new(), Vec::new());
    for (i, (nominal, measured)) in input.nominal_mm3.iter().zip(&input.measured_mm3).enumerate() {
        let nominal = non_negative(format!("nominal {}", i + 1), *nominal)?;
        let measured = non_negative(format!("measured {}", i + 1), *measured)?;
        let exact = finite(words::NUMBER_STEPS, (nominal - measured) / step)?;
        // Nine decimals first, so that 0.3/0.1 is three and not a hair below.
        let rounded = if exact.abs() < 1e6 { (exact * 1e9).round() / 1e9 } else { exact };
        steps.push(rounded.round() as i64);
        if steps[i].unsigned_abs() > MOST_STEPS.unsigned_abs() {
            out_of_range.push(i);
        }
        if let Some([lower, upper]) = windows.map(|w| w[i]) {
            let (lower, upper) = (finite("a lower end", lower)?, finite("an upper end", upper)?);
            if lower > upper {
                return Err(CalcError::Contradiction(words::limits_point_upper_end(
                    i + 1,
                    upper,
                    lower,
                )));
            }
            if exceeds(lower, measured) || exceeds(measured, upper) {
                not_released.push(i);
            }
        }
    }
    let sound = out_of_range.is_empty() && not_released.is_empty();
    let code = sound.then(|| {
        let body: String =
            steps.iter().map(|step| char::from(SYMBOLS[(step + MOST_STEPS) as usize])).collect();
        let code = format!("{PREFIX}{body}");
        let check = mod_97_10(&code).unwrap_or_default();
        format!("{code}{check}")
    });
    Ok(TrimOutput { steps, out_of_range, not_released, code })
}
