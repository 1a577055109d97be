//! `convert`: one value from one unit into another.
//!
//! Pressure, volume, volume flow, mass flow, torque, length, time, resistance and
//! absolute temperature; volume flow to mass flow and back with the density of the fluid.
//!
//! `result = value · factor(from) / factor(to)`, with exact factors; temperature by
//! its offset; mass flow [g/min] = volume flow [ml/min] · density [kg/m³] / 1000.
//!
//! # Source
//! Exact definitions of the international inch, pound and standard gravity.
//!
//! ```
//! use cobaltine_core::calc::convert::{ConvertInput, convert};
//! let input = ConvertInput {
//!     value: 43.5, from: "psi".into(), to: "kPa".into(), density_kg_per_m3: None,
//! };
//! assert!((convert(&input).unwrap().value - 299.921_942_252_823_7).abs() < 1e-9);
//! ```

use super::{CalcError, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What to convert.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ConvertInput {
    /// The number, in `from`.
    pub value: f64,
    /// Unit symbol, such as `kPa`, `cc/min`, `in_lb`.
    pub from: String,
    /// Unit symbol to convert into.
    pub to: String,
    /// Density in kg/m³, needed only between volume flow and mass flow.
    pub density_kg_per_m3: Option<f64>,
}

/// The converted number.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct ConvertOutput {
    /// The number, in the unit asked for.
    pub value: f64,
}

/// What a unit measures.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Kind {
    Pressure,
    Volume,
    VolumeFlow,
    MassFlow,
    Torque,
    Length,
    Time,
    Resistance,
    Temperature,
}

struct Unit {
    symbol: &'static str,
    kind: Kind,
    /// Multiplier into the canonical unit of the kind.
    factor: f64,
    /// Added before multiplying (temperature only).
    offset: f64,
}

const fn unit(symbol: &'static str, kind: Kind, factor: f64) -> Unit {
    Unit { symbol, kind, factor, offset: 0.0 }
}

/// Canonical: kPa, ml, ml/min, g/min, N·m, mm, s, ohm, °C.
const UNITS: [Unit; 33] = [
    unit("kPa", Kind::Pressure, 1.0),
    unit("bar", Kind::Pressure, 100.0),
    unit("MPa", Kind::Pressure, 1000.0),
    unit("psi", Kind::Pressure, 6.894757293168361),
    unit("Pa", Kind::Pressure, 0.001),
    unit("ml", Kind::Volume, 1.0),
    unit("cm3", Kind::Volume, 1.0),
    unit("l", Kind::Volume, 1000.0),
    unit("mm3", Kind::Volume, 0.001),
    unit("ml/min", Kind::VolumeFlow, 1.0),
    unit("cc/min", Kind::VolumeFlow, 1.0),
    unit("l/h", Kind::VolumeFlow, 1000.0 / 60.0),
    unit("ml/s", Kind::VolumeFlow, 60.0),
    unit("g/min", Kind::MassFlow, 1.0),
    unit("kg/h", Kind::MassFlow, 1000.0 / 60.0),
    unit("lb/h", Kind::MassFlow, 453.59237 / 60.0),
    unit("g/s", Kind::MassFlow, 60.0),
    unit("Nm", Kind::Torque, 1.0),
    unit("in_lb", Kind::Torque, 0.1129848290276167),
    unit("ft_lb", Kind::Torque, 1.3558179483314004),
    unit("mm", Kind::Length, 1.0),
    unit("um", Kind::Length, 0.001),
    unit("in", Kind::Length, 25.4),
    unit("thou", Kind::Length, 0.0254),
    unit("s", Kind::Time, 1.0),
    unit("ms", Kind::Time, 0.001),
    unit("us", Kind::Time, 1e-6),
    unit("min", Kind::Time, 60.0),
    unit("ohm", Kind::Resistance, 1.0),
    unit("mohm", Kind::Resistance, 0.001),
    unit("kohm", Kind::Resistance, 1000.0),
    unit("C", Kind::Temperature, 1.0),
    Unit { symbol: "K", kind: Kind::Temperature, factor: 1.0, offset: -273.15 },
];
/// Fahrenheit stands apart: its factor is a fraction that a `const` list would hide.
const FAHRENHEIT: Unit =
    Unit { symbol: "F", kind: Kind::Temperature, factor: 5.0 / 9.0, offset: -32.0 };

fn find(symbol: &str) -> Result<&'static Unit, CalcError> {
    UNITS.iter().chain([&FAHRENHEIT]).find(|unit| unit.symbol == symbol).ok_or_else(|| {
        let known: Vec<_> = UNITS.iter().map(|u| u.symbol).chain(["F"]).collect();
        CalcError::Unknown { what: "unit", got: symbol.to_owned(), known: known.join(", ") }
    })
}

/// What the unit with this symbol measures, if there is one.
pub(crate) fn kind_of(symbol: &str) -> Option<Kind> {
    find(symbol).ok().map(|unit| unit.kind)
}

/// Converts one value.
///
/// # Errors
/// Non-finite value or result, density not above zero, unknown unit, units that
/// measure different things, or a missing density between volume and mass flow.
pub fn convert(input: &ConvertInput) -> Result<ConvertOutput, CalcError> {
    let value = finite("the value", input.value)?;
    let density =
        input.density_kg_per_m3.map(|density| positive("the density", density)).transpose()?;
    let (from, to) = (find(&input.from)?, find(&input.to)?);
    let canonical = (value + from.offset) * from.factor;
    let bridged = match (from.kind, to.kind) {
        (a, b) if a == b => canonical,
        (Kind::VolumeFlow, Kind::MassFlow) => canonical * need(density)? / 1000.0,
        (Kind::MassFlow, Kind::VolumeFlow) => canonical * 1000.0 / need(density)?,
        _ => {
            return Err(CalcError::Contradiction(words::not_measure_same_thing(
                &input.from,
                &input.to,
            )));
        }
    };
    // The offset is undone exactly when both units carry the same one.
    let value = if from.symbol == to.symbol { value } else { bridged / to.factor - to.offset };
    Ok(ConvertOutput { value: finite("the result", value)? })
}

fn need(density: Option<f64>) -> Result<f64, CalcError> {
    density.ok_or_else(|| CalcError::Contradiction(words::BETWEEN_VOLUME_FLOW_MASS.to_owned()))
}
