//! `viscosity_factor`: what a return rate would be at another temperature. Always an estimate.
//!
//! Walther: `Z = log10 log10(ν + 0.7)` is linear in `log10 T[K]` through two known points;
//! `factor = ν(test)/ν(ref)` brings a rate to the reference temperature, as laminar leakage goes
//! with 1/ν. ν in mm²/s, temperatures in °C. The bottle is not the film, and below 2 mm²/s the
//! form itself is off by up to 2 %: it is labelled an estimate wherever it is shown.
//!
//! # Source
//! ASTM D341 (Walther).
//!
//! ```
//! use cobaltine_core::calc::viscosity_factor::{ViscosityFactorInput, viscosity_factor};
//! let input = ViscosityFactorInput { t_test_c: 18.6, t_ref_c: 60.0, ..Default::default() };
//! assert!((viscosity_factor(&input).unwrap().factor - 2.395_608_565_947_856).abs() < 1e-9);
//! ```

use super::{CalcError, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Where the estimate is believed, °C.
pub const RANGE_C: std::ops::RangeInclusive<f64> = -40.0..=150.0;
const ABSOLUTE_ZERO_C: f64 = -273.15;

/// Two temperatures, and two points of the fluid.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ViscosityFactorInput {
    /// Temperature of the test, °C.
    pub t_test_c: f64,
    /// Temperature to bring it to, °C.
    pub t_ref_c: f64,
    /// Viscosity at `t_a_c`, mm²/s; default 2.7.
    pub nu_a: Option<f64>,
    /// Default 40 °C.
    pub t_a_c: Option<f64>,
    /// Viscosity at `t_b_c`, mm²/s; default 1.1.
    pub nu_b: Option<f64>,
    /// Default 100 °C.
    pub t_b_c: Option<f64>,
}

/// Viscosities and their ratio.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ViscosityFactorOutput {
    /// At the test, mm²/s.
    pub nu_test: f64,
    /// At the reference, mm²/s.
    pub nu_ref: f64,
    /// Multiplier for a return rate. An estimate.
    pub factor: f64,
}

/// The viscosity ratio between two temperatures.
///
/// # Errors
/// Test or reference outside −40 to 150 °C, the two known points at one temperature or below
/// absolute zero, viscosities that Walther's form cannot hold (0.3 mm²/s or less).
pub fn viscosity_factor(input: &ViscosityFactorInput) -> Result<ViscosityFactorOutput, CalcError> {
    for (name, t) in [("test", input.t_test_c), ("reference", input.t_ref_c)] {
        if !RANGE_C.contains(&finite(format!("the {name} temperature"), t)?) {
            return Err(CalcError::Contradiction(words::temperature_must_lie_between(name, t)));
        }
    }
    let t_a = kelvin(input.t_a_c.unwrap_or(40.0))?;
    let t_b = kelvin(input.t_b_c.unwrap_or(100.0))?;
    if t_a == t_b {
        return Err(CalcError::Contradiction(words::TWO_KNOWN_VISCOSITIES_MUST.to_owned()));
    }
    let z_a = walther(input.nu_a.unwrap_or(2.7))?;
    let z_b = walther(input.nu_b.unwrap_or(1.1))?;
    let slope = (z_b - z_a) / (t_b.log10() - t_a.log10());
    let nu = |t_c: f64| -> Result<f64, CalcError> {
        let z = z_a + slope * (kelvin(t_c)?.log10() - t_a.log10());
        positive("the viscosity", 10.0_f64.powf(10.0_f64.powf(z)) - 0.7)
    };
    let (nu_test, nu_ref) = (nu(input.t_test_c)?, nu(input.t_ref_c)?);
    Ok(ViscosityFactorOutput { nu_test, nu_ref, factor: finite("the factor", nu_test / nu_ref)? })
}

fn kelvin(t_c: f64) -> Result<f64, CalcError> {
    positive("an absolute temperature", finite("a temperature", t_c)? - ABSOLUTE_ZERO_C)
}

fn walther(nu: f64) -> Result<f64, CalcError> {
    let inner = (positive("a known viscosity", nu)? + 0.7).log10();
    if inner > 0.0 {
        Ok(inner.log10())
    } else {
        Err(CalcError::Contradiction(words::known_viscosity_must_above(nu)))
    }
}
