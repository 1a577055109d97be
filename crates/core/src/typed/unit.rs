//! The unit of a typed text: the ways in which people write it.

use super::TypedError;

/// Ways of writing a unit, and the symbol it is known by.
const ALIASES: &[(&str, &str)] = &[
    ("Ω", "ohm"),
    ("R", "ohm"),
    ("mΩ", "mohm"),
    ("kΩ", "kohm"),
    ("cc", "cm3"),
    ("ccm", "cm3"),
    ("cm³", "cm3"),
    ("mm³", "mm3"),
    ("ltr", "l"),
    ("ccm/min", "cc/min"),
    ("cm3/min", "cc/min"),
    ("cm³/min", "cc/min"),
    ("lb/hr", "lb/h"),
    ("lbs/h", "lb/h"),
    ("N·m", "Nm"),
    ("N m", "Nm"),
    ("in·lb", "in_lb"),
    ("in-lb", "in_lb"),
    ("in lb", "in_lb"),
    ("lb·in", "in_lb"),
    ("lb-in", "in_lb"),
    ("ft·lb", "ft_lb"),
    ("ft-lb", "ft_lb"),
    ("ft lb", "ft_lb"),
    ("lb·ft", "ft_lb"),
    ("lb-ft", "ft_lb"),
    ("µm", "um"),
    ("μm", "um"),
    ("µs", "us"),
    ("μs", "us"),
    ("sec", "s"),
    ("\"", "in"),
    ("mil", "thou"),
    ("1/min", "rpm"),
    ("kg/m³", "kg/m3"),
    ("°", "deg"),
    ("mm³/stroke", "mm3/stroke"),
];
/// Symbols that are not converted but may stand behind a number.
const PLAIN: &[&str] = &[
    "rpm",
    "%",
    "V",
    "A",
    "dB",
    "kg/m3",
    "deg",
    "kW",
    "g/kWh",
    "h",
    "mm2/s",
    "mm3/stroke",
    "nF",
    "µF",
    "MΩ",
    "1/m",
    "l/100km",
];
/// Symbols of the conversions, as written in `convert`.
const CONVERTED: &[&str] = &[
    "kPa", "bar", "MPa", "psi", "Pa", "ml", "cm3", "l", "mm3", "ml/min", "cc/min", "l/h", "ml/s",
    "g/min", "kg/h", "lb/h", "g/s", "Nm", "in_lb", "ft_lb", "mm", "um", "in", "thou", "s", "ms",
    "us", "min", "ohm", "mohm", "kohm", "C", "K", "F",
];

/// Units that a bare number may have been meant in, the likely first.
pub(super) const ASKED: &[&str] = &["bar", "psi", "MPa", "kPa", "C", "F"];

/// The symbol of a unit as typed; `None` when there is none.
///
/// # Errors
/// When the case of its first letter would change it a thousandfold.
pub(super) fn symbol(typed: &str) -> Result<Option<&'static str>, TypedError> {
    let bare = typed.trim_start_matches('°');
    let bare = if bare.is_empty() { typed } else { bare };
    let known = || CONVERTED.iter().chain(PLAIN).copied();
    let alias = ALIASES.iter().find(|(way, _)| *way == bare).map(|(_, symbol)| *symbol);
    if let Some(exact) = known().find(|symbol| *symbol == bare).or(alias) {
        return Ok(Some(exact));
    }
    // mPa and MPa, mΩ and MΩ are a billion apart, so their case is not guessed.
    for (wrong, one, two) in [("mpa", "MPa", "Pa/1000"), ("mohm", "mohm", "kohm·1000")] {
        if bare.to_lowercase() == wrong && bare != "Mpa" {
            let (one, two) = (one.to_owned(), two.to_owned());
            return Err(TypedError::Ambiguous { text: bare.to_owned(), one, two });
        }
    }
    let lower = bare.to_lowercase();
    let alias = ALIASES.iter().find(|(way, _)| way.to_lowercase() == lower).map(|(_, s)| *s);
    Ok(known().find(|symbol| symbol.to_lowercase() == lower).or(alias))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::calc::convert::kind_of;

    #[test]
    fn every_symbol_is_one_that_convert_knows_and_every_alias_leads_to_one() {
        assert!(CONVERTED.iter().all(|symbol| kind_of(symbol).is_some()));
        for (way, symbol) in ALIASES {
            assert!(CONVERTED.contains(symbol) || PLAIN.contains(symbol), "{way}");
        }
    }
}
