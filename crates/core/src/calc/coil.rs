//! `coil`: a coil resistance brought to 20 °C and judged.
//!
//! `f = 1 + α(T−20)`; `r20 = (measured − lead)/f` in ohm; u combines the resolution (twice, when
//! the leads were read too), the meter's accuracy (percent of reading and digits, rectangular)
//! and the temperature: `u = √((resolution²/12·(2|1) + ((accuracy_pct/100·measured +
//! digits·resolution)/√3)²)/f² + (α·r20·temp_u/f)²)`.
//! Leads that were not measured could be up to `unknown_lead_ohm`: if that would change the
//! state, it is `undecided`: zero the leads. Piezo stacks have no coil window.
//!
//! # Source
//! JCGM 100 (4.3.7, rectangular limits); copper α = 0.00393 /K at 20 °C; 0.3 Ω of leads is a
//! house rule.
//!
//! ```
//! use cobaltine_core::calc::coil::{CoilInput, coil};
//! use cobaltine_core::calc::decide::LimitState;
//! let input = CoilInput {
//!     measured_ohm: 0.68, temp_c: 22.0, resolution_ohm: 0.01,
//!     lower_20: Some(0.25), upper_20: Some(0.6), ..CoilInput::default()
//! };
//! let leads_not_zeroed = coil(&input).unwrap();
//! assert_eq!(leads_not_zeroed.state, Some(LimitState::Undecided));
//! let zeroed = coil(&CoilInput { lead_ohm: Some(0.2), ..input }).unwrap();
//! assert_eq!(zeroed.state, Some(LimitState::Within));
//! ```

use super::decide::{DecideInput, DecideOutput, LimitState, decide};
use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Temperature coefficient of copper, per kelvin at 20 °C.
pub const ALPHA: f64 = 0.00393;
/// What leads that nobody measured may have, ohm (house rule).
pub const UNKNOWN_LEAD_OHM: f64 = 0.3;
/// Share of the reading above which the leads deserve a word.
const LEAD_SHARE: f64 = 0.1;

/// One reading of a meter.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CoilInput {
    /// As shown by the meter, ohm.
    pub measured_ohm: f64,
    /// Temperature of the coil, °C.
    pub temp_c: f64,
    /// Last digit of the meter, ohm.
    pub resolution_ohm: f64,
    /// Probes held together, ohm; missing when nobody measured it.
    pub lead_ohm: Option<f64>,
    /// Accuracy of the meter, percent of reading; default 1.
    pub accuracy_pct: Option<f64>,
    /// Accuracy of the meter, digits; default 2.
    pub accuracy_digits: Option<f64>,
    /// Lower limit at 20 °C, ohm.
    pub lower_20: Option<f64>,
    /// Upper limit at 20 °C, ohm.
    pub upper_20: Option<f64>,
    /// Temperature coefficient per kelvin; default copper.
    pub alpha: Option<f64>,
    /// Standard uncertainty of the temperature, K; default 0.
    pub temp_u_c: Option<f64>,
    /// What unmeasured leads may have, ohm; default 0.3.
    pub unknown_lead_ohm: Option<f64>,
}

/// The coil at 20 °C.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CoilOutput {
    /// Resistance at 20 °C, ohm.
    pub r20_ohm: f64,
    /// Its standard uncertainty, ohm.
    pub u_ohm: f64,
    /// Against the limits; none without one.
    pub state: Option<LimitState>,
    /// Probability that it is inside.
    pub p_conform: Option<f64>,
    /// Window over four u.
    pub capability: Option<f64>,
    /// What to know before believing it.
    pub warning: Option<String>,
}

/// Judges a coil.
///
/// # Errors
/// Negative readings, leads above the reading, resolution not above zero, a temperature at
/// which copper would have no resistance, limits that contradict each other.
pub fn coil(input: &CoilInput) -> Result<CoilOutput, CalcError> {
    let measured = non_negative("the resistance", input.measured_ohm)?;
    let resolution = positive("the resolution", input.resolution_ohm)?;
    let lead = input.lead_ohm.map(|lead| non_negative("the leads", lead)).transpose()?;
    let pct = non_negative(words::ACCURACY_PERCENT, input.accuracy_pct.unwrap_or(1.0))?;
    let digits = non_negative(words::ACCURACY_DIGITS, input.accuracy_digits.unwrap_or(2.0))?;
    let alpha = finite("the temperature coefficient", input.alpha.unwrap_or(ALPHA))?;
    let temp_u = non_negative(words::UNCERTAINTY_TEMPERATURE, input.temp_u_c.unwrap_or(0.0))?;
    let unknown =
        non_negative("the unknown leads", input.unknown_lead_ohm.unwrap_or(UNKNOWN_LEAD_OHM))?;
    let f = 1.0 + alpha * (finite("the temperature", input.temp_c)? - 20.0);
    if finite("the temperature factor", f)? <= 0.0 {
        return Err(CalcError::Contradiction(words::c_coil_would_no(input.temp_c)));
    }
    let net = measured - lead.unwrap_or(0.0);
    if net < 0.0 {
        return Err(CalcError::Contradiction(words::reading_ohm_below_leads(
            measured,
            lead.unwrap_or(0.0),
        )));
    }
    let r20 = finite("the resistance at 20 °C", net / f)?;
    let readings = if lead.is_some() { 2.0 } else { 1.0 };
    let meter = (pct / 100.0 * measured + digits * resolution) / 3.0_f64.sqrt();
    let shown = resolution * (readings / 12.0_f64).sqrt();
    let u = (shown.hypot(meter) / f).hypot(alpha * r20 * temp_u / f);
    let u = finite("the uncertainty", u)?;

    let verdict = judge(input, r20, u)?;
    let mut state = verdict.as_ref().map(|v| v.state);
    let mut warning =
        lead.filter(|lead| exceeds(*lead, LEAD_SHARE * measured)).map(words::leads_ohm_more_tenth);
    if lead.is_none() {
        let with_leads = judge(input, r20 - unknown / f, u)?.map(|v| v.state);
        if with_leads != state {
            state = Some(LimitState::Undecided);
            warning = Some(words::leads_up_ohm_would(unknown));
        }
    }
    Ok(CoilOutput {
        r20_ohm: r20,
        u_ohm: u,
        state,
        p_conform: verdict.as_ref().map(|v| v.p_conform),
        capability: verdict.and_then(|v| v.capability),
        warning,
    })
}

fn judge(input: &CoilInput, value: f64, u: f64) -> Result<Option<DecideOutput>, CalcError> {
    let (lower, upper) = (input.lower_20, input.upper_20);
    if lower.is_none() && upper.is_none() {
        return Ok(None);
    }
    decide(&DecideInput { value, u, lower, upper, ..DecideInput::default() }).map(Some)
}
