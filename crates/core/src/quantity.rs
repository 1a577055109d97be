//! Numbers that know their unit.
//!
//! Each type is one unit; the unit is in the name. Values are finite or they are
//! rejected at the edge ([`crate::calc::CalcError`]), so nothing behind the edge
//! meets a NaN.

use serde::{Deserialize, Serialize};
use std::fmt;
use utoipa::ToSchema;

/// A quantity in one fixed unit.
pub trait Quantity: Copy {
    /// The unit as written beside a number.
    const UNIT: &'static str;
    /// The quantity of this bare number.
    fn of(value: f64) -> Self;
    /// The bare number, in [`Self::UNIT`].
    fn value(self) -> f64;
}

/// A number whose unit is only known where it is used: a limit of any check, a calculator's field.
impl Quantity for f64 {
    const UNIT: &'static str = "";
    fn of(value: f64) -> Self {
        value
    }
    fn value(self) -> f64 {
        self
    }
}

macro_rules! quantity {
    ($(#[$doc:meta])* $name:ident, $unit:literal) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize, ToSchema)]
        #[serde(transparent)]
        pub struct $name(pub f64);

        impl Quantity for $name {
            const UNIT: &'static str = $unit;
            fn of(value: f64) -> Self {
                Self(value)
            }
            fn value(self) -> f64 {
                self.0
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                write!(f, "{} {}", trimmed(self.0), $unit)
            }
        }
    };
}

quantity!(
    /// A volume in millilitres.
    Millilitre, "ml"
);
quantity!(
    /// A time in seconds.
    Second, "s"
);
quantity!(
    /// An absolute temperature in degrees Celsius (not a difference).
    Celsius, "°C"
);
quantity!(
    /// Engine speed in revolutions a minute.
    Rpm, "rpm"
);

/// A number without trailing zeros, at most six decimals: `12`, `0.5`, `2.333333`.
pub fn trimmed(value: f64) -> String {
    let text = format!("{value:.6}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".to_owned() } else { text.to_owned() }
}

/// A reading in four figures: what was typed in another unit has no more of them.
///
/// ```
/// use cobaltine_core::quantity::figures;
/// assert_eq!((figures(358.527379).as_str(), figures(300.0).as_str(), figures(0.0).as_str()), ("358.5", "300", "0"));
/// ```
pub fn figures(value: f64) -> String {
    if value == 0.0 || !value.is_finite() {
        return trimmed(value);
    }
    let scale = 10.0_f64.powf(3.0 - value.abs().log10().floor());
    trimmed((value * scale).round() / scale)
}

/// A value with as many decimals as its standard uncertainty can carry: the last
/// digit shown is the first digit of `u`. At most three decimals; `u = 0` shows three.
///
/// ```
/// use cobaltine_core::quantity::shown;
/// assert_eq!(shown(11.648, 0.19), "11.6");
/// assert_eq!(shown(148.2, 2.4), "148");
/// ```
pub fn shown(value: f64, u: f64) -> String {
    let decimals = if u > 0.0 { (-u.log10().floor()).clamp(0.0, 3.0) as usize } else { 3 };
    let text = format!("{value:.decimals$}");
    if text.bytes().all(|b| matches!(b, b'-' | b'0' | b'.')) {
        text.trim_start_matches('-').to_owned()
    } else {
        text
    }
}

/// A share in percent with one decimal, signed: flows are matched to a percent or two.
pub fn signed_tenths(share: f64) -> String {
    let tenths = (share * 1000.0).round() / 10.0;
    if tenths < 0.0 { format!("−{:.1} %", -tenths) } else { format!("+{:.1} %", tenths.abs()) }
}

/// A share as signed whole percent, with a true minus sign: `+31 %`, `−4 %`.
pub fn signed_percent(share: f64) -> String {
    let whole = (share * 100.0).round();
    if whole < 0.0 { format!("−{:.0} %", -whole) } else { format!("+{:.0} %", whole.abs()) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn shown_digits_follow_the_uncertainty_and_never_show_minus_zero() {
        for (value, u, expected) in [
            (11.648, 0.19, "11.6"),
            (11.648, 0.05, "11.65"),
            (11.648, 0.0, "11.648"),
            (-0.04, 0.3, "0.0"),
            (1204.4, 17.0, "1204"),
        ] {
            assert_eq!(shown(value, u), expected, "{value} with {u}");
        }
    }

    #[test]
    fn quantities_print_with_their_unit() {
        assert_eq!(Millilitre(100.0).to_string(), "100 ml");
        assert_eq!(Second(1.5).to_string(), "1.5 s");
        assert_eq!(signed_percent(-0.042), "−4 %");
        assert_eq!(signed_percent(2.21), "+221 %");
    }
}
