//! What people type, turned into canonical quantities.
//!
//! A decimal comma is a decimal comma, an apostrophe may be one too (`12'6`), and in ohms `0R45`
//! is 0.45. A unit may follow the number: `43,5 psi`, `1.2bar`, `180 F`, `1:56`. What can be
//! read two ways asks: `1,234` could be one point two or twelve hundred. The text is kept beside
//! the canonical number ([`Typed`]); only the number is computed with.

mod date;
mod number;
mod unit;
mod words;

pub use date::date;

use crate::calc::convert::{ConvertInput, Kind, convert, kind_of};
use crate::quantity::{Celsius, Millilitre, Quantity, Rpm, Second};
use crate::units;
use std::marker::PhantomData;
use thiserror::Error;

/// Why a typed text is not a quantity, in words for the person who typed it.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum TypedError {
    /// Nothing was typed.
    #[error("{}", words::ENTER_NUMBER)]
    Empty,
    /// Letters or signs where a number should stand.
    #[error("{}", words::not_number_digits_point(.0))]
    NotANumber(String),
    /// No day of the calendar.
    #[error("{}", words::not_date(.0))]
    Date(String),
    /// Could be read two ways.
    #[error("{}", words::mean_type_one_you(.text, .one, .two))]
    Ambiguous {
        /// As typed.
        text: String,
        /// One way.
        one: String,
        /// The other.
        two: String,
    },
    /// A unit of another kind, or none that is known.
    #[error("{}", words::not_unit_leave_out(.got, .canonical))]
    Unit {
        /// The unit typed.
        got: String,
        /// The unit that a bare number has.
        canonical: &'static str,
    },
    /// Zero where more is needed.
    #[error("{}", words::ENTER_VALUE_ABOVE_ZERO)]
    NotPositive,
    /// Below zero.
    #[error("{}", words::ENTER_VALUE_ZERO_MORE)]
    Negative,
    /// Outside what can be.
    #[error("{}", words::must_between(.low, .high, .unit))]
    OutOfRange {
        /// Least plausible value, as said.
        low: String,
        /// Most plausible value, as said.
        high: String,
        /// Unit of both.
        unit: &'static str,
    },
}

/// A quantity with the text that it was typed as.
#[derive(Debug, Clone, PartialEq)]
pub struct Typed {
    /// In the canonical unit of its field.
    pub value: f64,
    /// The canonical unit.
    pub unit: &'static str,
    /// As typed.
    pub text: String,
    /// The unit that was typed, when it was another one.
    pub typed_unit: Option<&'static str>,
}

impl Typed {
    /// The canonical number with its unit, and what was typed when that was in another unit:
    /// `299.921942 kPa (43,5 psi)`.
    pub fn both(&self) -> String {
        let canonical = units::said(self.value, self.unit);
        match self.typed_unit {
            Some(_) => format!("{} ({})", canonical.trim_end(), self.text),
            None => canonical.trim_end().to_owned(),
        }
    }
}

/// Stands for every unit that can be converted.
const ANY: &str = "unit";

/// The symbol of the unit that stands behind a typed number, if there is one that is known.
pub fn unit_symbol(text: &str) -> Option<&'static str> {
    let (_, typed) = number::split_unit(text.trim(), true);
    unit::symbol(&typed).ok().flatten()
}

/// The unit that a heading names, in brackets or behind a slash or comma: ` bar` of `Pressure (bar)`;
/// empty where it names none that is known.
///
/// ```
/// use cobaltine_core::typed::heading_unit;
/// assert_eq!(heading_unit("Pressure [bar]"), " bar");
/// assert_eq!(heading_unit("Maximum (l/h)"), " l/h");
/// assert_eq!(heading_unit("Maximum (see sheet)"), "");
/// ```
pub fn heading_unit(heading: &str) -> String {
    let bracket = heading.split_once(['(', '[']);
    let behind = bracket.or_else(|| heading.split_once(['/', ',']));
    let inside = behind.map_or("", |(_, inside)| inside);
    let unit = inside.trim_end_matches([')', ']']).trim();
    let known = !unit.is_empty() && unit_symbol(&format!("1 {unit}")).is_some();
    if known { format!(" {unit}") } else { String::new() }
}

/// A field: its canonical unit, the values it can have, and the type that it is read into.
#[derive(Debug, PartialEq)]
pub struct Field<Q = f64> {
    unit: &'static str,
    low: f64,
    high: f64,
    zero_allowed: bool,
    usual: Option<(f64, f64)>,
    read_into: PhantomData<fn() -> Q>,
}

impl<Q> Clone for Field<Q> {
    fn clone(&self) -> Self {
        *self
    }
}

impl<Q> Copy for Field<Q> {}

impl Field<Millilitre> {
    /// A level in a bottle; zero is a reading.
    pub const LEVEL: Self = Self::from_zero("ml", 100_000.0);
    /// What a bottle holds.
    pub const CAPACITY: Self = Self::above_zero("ml", 1.0, 100_000.0);
    /// Distance between two marks of a tube, or what it holds: either may be mm³ on a meter.
    pub const CAPACITY_OR_MARK: Field = Field::above_zero("ml", 0.001, 100_000.0);
    /// Distance between two marks.
    pub const GRADUATION: Self = Self::above_zero("ml", 0.01, 1000.0);
}

impl Field<Second> {
    /// Length of a run.
    pub const RUN_TIME: Self = Self::above_zero("s", 0.5, 7200.0);
}

impl Field<Celsius> {
    /// Temperature of the engine or its fuel: absolute, never a difference.
    pub const TEMPERATURE: Self = Self::signed("C", -40.0, 150.0).usually(-40.0, 150.0);
}

impl Field<Rpm> {
    /// Engine speed; zero is a standing engine.
    pub const SPEED: Self = Self::from_zero("rpm", 20_000.0);
}

impl Field {
    /// Any unit that can be converted, kept as it is typed.
    pub const ANY_UNIT: Self = Self::signed(ANY, -1e12, 1e12);
}

impl<Q: Quantity> Field<Q> {
    /// The same field, read into a bare number.
    pub const fn bare(self) -> Field {
        let Self { unit, low, high, zero_allowed, usual, .. } = self;
        Field { unit, low, high, zero_allowed, usual, read_into: PhantomData }
    }

    /// A field for values above zero.
    pub const fn above_zero(unit: &'static str, low: f64, high: f64) -> Self {
        Self { unit, low, high, zero_allowed: false, usual: None, read_into: PhantomData }
    }

    /// A field for values from zero on.
    pub const fn from_zero(unit: &'static str, high: f64) -> Self {
        Self { unit, low: 0.0, high, zero_allowed: true, usual: None, read_into: PhantomData }
    }

    /// A field for values of either sign.
    pub const fn signed(unit: &'static str, low: f64, high: f64) -> Self {
        Self { unit, low, high, zero_allowed: true, usual: None, read_into: PhantomData }
    }

    /// The same field, and the values that are usual in it: what is typed without a unit, lies
    /// outside of them and would be usual in another unit, asks which one was meant.
    pub const fn usually(self, low: f64, high: f64) -> Self {
        Self { usual: Some((low, high)), ..self }
    }

    /// The unit of a bare number, as written beside the field: the workshop's own.
    pub fn unit(self) -> &'static str {
        units::unit(self.unit)
    }

    /// The number of a canonical value, in the unit beside the field.
    pub fn said(self, value: f64) -> String {
        units::number(value, self.unit)
    }

    /// The unit of a bare number that is kept: the canonical one, as it is written.
    pub fn kept_unit(self) -> &'static str {
        units::written(self.unit)
    }

    /// A typed text as it is kept: with its unit, where a bare number is not in the canonical one.
    ///
    /// ```
    /// use cobaltine_core::typed::Field;
    /// use cobaltine_core::units::{PressureUnit, Units, within};
    /// let pressure: Field = Field::above_zero("kPa", 1.0, 1e6);
    /// let house = Units { pressure: PressureUnit::Bar, ..Units::default() };
    /// assert_eq!(within(house, || (pressure.read("3"), pressure.spelled("3"))), (Ok(300.0), "3 bar".to_owned()));
    /// assert_eq!(pressure.spelled("3 bar"), "3 bar");
    /// assert_eq!(pressure.spelled("300"), "300");
    /// ```
    pub fn spelled(self, text: &str) -> String {
        let text = text.trim();
        let bare = number::split_unit(text, self.unit == "ohm").1.is_empty();
        if text.is_empty() || !bare || units::chosen(self.unit) == self.unit {
            return text.to_owned();
        }
        format!("{text} {}", self.unit())
    }

    /// Reads a typed text into the canonical unit.
    ///
    /// # Errors
    /// A [`TypedError`] whose text can stand beside the field as it is.
    ///
    /// ```
    /// use cobaltine_core::quantity::{Millilitre, Second};
    /// use cobaltine_core::typed::Field;
    /// assert_eq!(Field::LEVEL.read("43,5"), Ok(Millilitre(43.5)));
    /// assert_eq!(Field::RUN_TIME.read("1:56"), Ok(Second(116.0)));
    /// assert_eq!(Field::CAPACITY.read("0.1 l"), Ok(Millilitre(100.0)));
    /// assert!(Field::LEVEL.read("1,234").is_err());
    /// ```
    pub fn read(self, text: &str) -> Result<Q, TypedError> {
        self.read_typed(text).map(|typed| Q::of(typed.value))
    }

    /// The same, with the text and the unit that were typed.
    ///
    /// # Errors
    /// As [`Self::read`].
    ///
    /// ```
    /// use cobaltine_core::typed::Field;
    /// let pressure: Field = Field::above_zero("kPa", 1.0, 1e6);
    /// assert_eq!(pressure.read_typed("1,2bar").unwrap().both(), "120 kPa (1,2bar)");
    /// ```
    pub fn read_typed(self, text: &str) -> Result<Typed, TypedError> {
        let text = text.trim();
        let (value, typed_unit) = match number::clock(text).filter(|_| self.unit == "s") {
            Some(seconds) => (seconds?, None),
            None => {
                let (digits, typed_unit) = number::split_unit(text, self.unit == "ohm");
                let asks =
                    if self.unit == "s" { number::Quote::Asks } else { number::Quote::Decimal };
                let number = number::number(&digits, asks)?;
                let own = units::chosen(self.unit);
                match typed_unit.as_str() {
                    "" => {
                        let bare = if own == self.unit { "" } else { own };
                        let (value, _) = self.canonical(number, bare)?;
                        self.ask_unit(text, number, value)?;
                        (value, None)
                    }
                    typed => {
                        let (value, typed) = self.canonical(number, typed)?;
                        (value, typed.filter(|symbol| *symbol != own))
                    }
                }
            }
        };
        if value < 0.0 && self.low >= 0.0 {
            return Err(TypedError::Negative);
        }
        if value == 0.0 && !self.zero_allowed {
            return Err(TypedError::NotPositive);
        }
        if !(self.low..=self.high).contains(&value) {
            let [low, high] = [self.low, self.high].map(|end| units::reading(end, self.unit));
            return Err(TypedError::OutOfRange { low, high, unit: self.unit() });
        }
        Ok(Typed { value, unit: self.unit, text: text.to_owned(), typed_unit })
    }

    /// A bare number that is not usual in its own unit and would be in another one.
    fn ask_unit(self, text: &str, number: f64, value: f64) -> Result<(), TypedError> {
        let Some((low, high)) = self.usual else { return Ok(()) };
        let usual = |value: f64| (low..=high).contains(&value);
        if value == 0.0 || usual(value) {
            return Ok(());
        }
        let own = units::chosen(self.unit);
        let other = unit::ASKED.iter().copied().filter(|symbol| *symbol != own).find(|symbol| {
            kind_of(symbol) == kind_of(self.unit)
                && self.canonical(number, symbol).is_ok_and(|(value, _)| usual(value))
        });
        match other {
            None => Ok(()),
            Some(symbol) => {
                let with = |symbol| format!("{text} {}", units::written(symbol));
                let (one, two) = (with(symbol), with(own));
                Err(TypedError::Ambiguous { text: text.to_owned(), one, two })
            }
        }
    }

    fn canonical(self, value: f64, typed: &str) -> Result<(f64, Option<&'static str>), TypedError> {
        if typed.is_empty() {
            return Ok((value, None));
        }
        let wrong = || TypedError::Unit { got: typed.to_owned(), canonical: self.unit() };
        let symbol = unit::symbol(typed)?.ok_or_else(wrong)?;
        if self.unit == ANY && kind_of(symbol).is_some() {
            return Ok((value, None));
        }
        if symbol == self.unit {
            return Ok((value, Some(symbol)));
        }
        let kinds = (kind_of(symbol), kind_of(self.unit));
        // Mass flow into volume flow needs a density, which no single field knows.
        let alike = kinds.0.is_some() && kinds.0 == kinds.1;
        if !alike || kinds.0 == Some(Kind::Temperature) && self.unit != "C" {
            return Err(wrong());
        }
        let input = ConvertInput {
            value,
            from: symbol.to_owned(),
            to: self.unit.to_owned(),
            density_kg_per_m3: None,
        };
        convert(&input).map(|out| (out.value, Some(symbol))).map_err(|_| wrong())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const PRESSURE: Field = Field::above_zero("kPa", 1.0, 1e6);
    const OHM: Field = Field::from_zero("ohm", 1e6);
    const PULSE: Field = Field::above_zero("ms", 0.01, 1000.0);

    #[test]
    fn what_people_type_is_read_as_they_meant_it() {
        for (field, text, expected) in [
            (Field::LEVEL.bare(), "12,5", 12.5),
            (Field::LEVEL.bare(), " 0 ", 0.0),
            (Field::LEVEL.bare(), "0,125", 0.125),
            (Field::LEVEL.bare(), ".5", 0.5),
            (Field::LEVEL.bare(), "20 cm3", 20.0),
            (Field::LEVEL.bare(), "20 cm³", 20.0),
            (Field::LEVEL.bare(), "12'6", 12.6),
            (Field::LEVEL.bare(), "1.204,5", 1204.5),
            (Field::LEVEL.bare(), "1,204.5", 1204.5),
            (Field::LEVEL.bare(), "1 204,5", 1204.5),
            (Field::RUN_TIME.bare(), "2 min", 120.0),
            (Field::RUN_TIME.bare(), "1:56,5", 116.5),
            (Field::TEMPERATURE.bare(), "-12", -12.0),
            (Field::TEMPERATURE.bare(), "−12 °C", -12.0),
            (Field::TEMPERATURE.bare(), "80 °C", 80.0),
            (Field::SPEED.bare(), "820 rpm", 820.0),
            (Field::SPEED.bare(), "820 1/min", 820.0),
            (PRESSURE, "1.2bar", 120.0),
            (PRESSURE, "0,3 MPa", 300.0),
            (PRESSURE, "3 BAR", 300.0),
            (OHM, "0R45", 0.45),
            (OHM, "12R", 12.0),
            (OHM, "4k7", 4700.0),
            (OHM, "450 mΩ", 0.45),
            (OHM, "0,45 Ohm", 0.45),
            (PULSE, "1500 µs", 1.5),
        ] {
            let read = field.read(text);
            assert!(
                read.is_ok_and(|v| (v - expected).abs() < 1e-9 * expected.abs().max(1.0)),
                "{text}"
            );
        }
        assert!((Field::TEMPERATURE.read("180F").unwrap().0 - 82.222_222_222_2).abs() < 1e-9);
        assert!((PRESSURE.read("43,5 psi").unwrap() - 299.921_942_252_8).abs() < 1e-9);
    }

    #[test]
    fn what_cannot_be_read_says_why_in_words_for_the_field() {
        for (field, text, says) in [
            (Field::LEVEL.bare(), "", "Enter a number."),
            (Field::LEVEL.bare(), "abc", "Enter a number."),
            (Field::LEVEL.bare(), "12a", "\"a\" is not a unit for this. Leave it out for ml."),
            (Field::LEVEL.bare(), "-3", "Enter a value of zero or more."),
            (
                Field::LEVEL.bare(),
                "1.2.3",
                "\"1.2.3\" is not a number. Use digits, with a point or comma for decimals.",
            ),
            (
                Field::LEVEL.bare(),
                "1,234",
                "\"1,234\" can mean 1.234 or 1234. Type the one you mean.",
            ),
            (
                Field::LEVEL.bare(),
                "1'234",
                "\"1'234\" can mean 1.234 or 1234. Type the one you mean.",
            ),
            (
                Field::RUN_TIME.bare(),
                "12'6",
                "\"12'6\" can mean 12.6 or 12:06. Type the one you mean.",
            ),
            (Field::RUN_TIME.bare(), "0", "Enter a value above zero."),
            (
                Field::RUN_TIME.bare(),
                "1:75",
                "\"1:75\" is not a number. Use digits, with a point or comma for decimals.",
            ),
            (Field::SPEED.bare(), "3 bar", "\"bar\" is not a unit for this. Leave it out for rpm."),
            (Field::TEMPERATURE.bare(), "400", "Must be between -40 and 150 °C."),
            (
                Field::TEMPERATURE.bare(),
                "180",
                "\"180\" can mean 180 °F or 180 °C. Type the one you mean.",
            ),
            (
                PRESSURE.usually(300.0, 8000.0),
                "12,1",
                "\"12,1\" can mean 12,1 bar or 12,1 kPa. Type the one you mean.",
            ),
            (PRESSURE, "3 mPa", "\"mPa\" can mean MPa or Pa/1000. Type the one you mean."),
            (OHM, "3 MOHM", "\"MOHM\" can mean mohm or kohm·1000. Type the one you mean."),
            (OHM, "1R234R", "\"R234R\" is not a unit for this. Leave it out for Ω."),
        ] {
            assert_eq!(field.read(text).unwrap_err().to_string(), says, "{text}");
        }
    }

    proptest! {
        #[test]
        fn a_number_and_its_comma_twin_read_alike_in_every_unit(whole in 0_u32..1000, tenths in 0_u32..100) {
            for (field, unit) in [(PRESSURE, "bar"), (PRESSURE, "psi"), (OHM, "mΩ"), (PULSE, "ms")] {
                let point = field.read(&format!("{whole}.{tenths:02} {unit}"));
                let comma = field.read(&format!("{whole},{tenths:02}{unit}"));
                prop_assert_eq!(point, comma);
            }
        }

        #[test]
        fn nothing_that_is_typed_panics(text in ".{0,24}") {
            for field in [Field::LEVEL.bare(), Field::RUN_TIME.bare(), OHM, PRESSURE, Field::TEMPERATURE.bare()] {
                if let Ok(value) = field.read(&text) {
                    prop_assert!(value.is_finite());
                }
            }
        }
    }
}
