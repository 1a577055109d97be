//! What people type, turned into canonical quantities.
//!
//! A decimal comma is a decimal comma. `1,234` could be one point two or twelve
//! hundred, so it asks. A unit may follow the number: `0.1 l`, `180 F`, `2 min`, `1:56`.
//! The caller keeps the text; only the canonical number is computed with.

use crate::calc::convert::{ConvertInput, Kind, convert, kind_of};
use thiserror::Error;

/// Why a typed text is not a quantity, in words for the person who typed it.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum TypedError {
    /// Nothing was typed.
    #[error("Type a number.")]
    Empty,
    /// Letters or signs where a number should stand.
    #[error("\"{0}\" is not a number. Digits, with a point or a comma for the decimals.")]
    NotANumber(String),
    /// Could be read two ways.
    #[error("\"{text}\" can be read as {one} or as {two}. Type the one you mean.")]
    Ambiguous {
        /// As typed.
        text: String,
        /// With a decimal comma.
        one: String,
        /// With a thousands separator.
        two: String,
    },
    /// A unit of another kind, or none that is known.
    #[error("\"{got}\" is not a unit for this. Leave it out for {canonical}.")]
    Unit {
        /// The unit typed.
        got: String,
        /// The unit that a bare number has.
        canonical: &'static str,
    },
    /// Zero where more is needed.
    #[error("This must be above zero.")]
    NotPositive,
    /// Below zero.
    #[error("This cannot be below zero.")]
    Negative,
    /// Outside what can be.
    #[error("This should lie between {low} and {high} {unit}.")]
    OutOfRange {
        /// Least plausible value.
        low: f64,
        /// Most plausible value.
        high: f64,
        /// Unit of both.
        unit: &'static str,
    },
}

/// A field: its canonical unit and the values it can have.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Field {
    unit: &'static str,
    low: f64,
    high: f64,
    zero_allowed: bool,
}

impl Field {
    /// A level in a bottle, ml; zero is a reading.
    pub const LEVEL: Self = Self { unit: "ml", low: 0.0, high: 100_000.0, zero_allowed: true };
    /// What a bottle holds, ml.
    pub const CAPACITY: Self = Self { unit: "ml", low: 1.0, high: 100_000.0, zero_allowed: false };
    /// Distance between two marks, ml.
    pub const GRADUATION: Self = Self { unit: "ml", low: 0.01, high: 1000.0, zero_allowed: false };
    /// Length of a run, s.
    pub const RUN_TIME: Self = Self { unit: "s", low: 0.5, high: 7200.0, zero_allowed: false };
    /// Temperature of the engine or its fuel, °C.
    pub const TEMPERATURE: Self = Self { unit: "C", low: -40.0, high: 150.0, zero_allowed: true };
    /// Engine speed, rpm; zero is a standing engine.
    pub const SPEED: Self = Self { unit: "rpm", low: 0.0, high: 20_000.0, zero_allowed: true };

    /// Reads a typed text into the canonical unit.
    ///
    /// # Errors
    /// A [`TypedError`] whose text can stand beside the field as it is.
    ///
    /// ```
    /// use cobaltine_core::typed::Field;
    /// assert_eq!(Field::LEVEL.read("43,5"), Ok(43.5));
    /// assert_eq!(Field::RUN_TIME.read("1:56"), Ok(116.0));
    /// assert_eq!(Field::CAPACITY.read("0.1 l"), Ok(100.0));
    /// assert!(Field::LEVEL.read("1,234").is_err());
    /// ```
    pub fn read(self, text: &str) -> Result<f64, TypedError> {
        let text = text.trim();
        let value = match clock(text).filter(|_| self.unit == "s") {
            Some(seconds) => seconds?,
            None => {
                let (digits, unit) = split_unit(text);
                self.canonical(number(digits)?, unit)?
            }
        };
        if value < 0.0 && self.low >= 0.0 {
            return Err(TypedError::Negative);
        }
        if value == 0.0 && !self.zero_allowed {
            return Err(TypedError::NotPositive);
        }
        if !(self.low..=self.high).contains(&value) {
            let unit = if self.unit == "C" { "°C" } else { self.unit };
            return Err(TypedError::OutOfRange { low: self.low, high: self.high, unit });
        }
        Ok(value)
    }

    fn canonical(self, value: f64, unit: &str) -> Result<f64, TypedError> {
        let unit = unit.trim_start_matches('°');
        if unit.is_empty() || unit.eq_ignore_ascii_case(self.unit) {
            return Ok(value);
        }
        let wrong = || TypedError::Unit { got: unit.to_owned(), canonical: self.unit };
        let convertible = kind_of(self.unit).is_some_and(|kind| kind != Kind::MassFlow);
        if !convertible {
            return Err(wrong());
        }
        let input = ConvertInput {
            value,
            from: unit.to_owned(),
            to: self.unit.to_owned(),
            density_kg_per_m3: None,
        };
        convert(&input).map(|out| out.value).map_err(|_| wrong())
    }
}

/// `1:56` or `1:02:03` as seconds; `None` when there is no colon.
fn clock(text: &str) -> Option<Result<f64, TypedError>> {
    if !text.contains(':') {
        return None;
    }
    let wrong = || TypedError::NotANumber(text.to_owned());
    let parts: Result<Vec<f64>, _> = text.split(':').map(|part| number(part.trim())).collect();
    Some(match parts {
        Ok(parts) if parts.len() <= 3 && parts.iter().skip(1).all(|p| (0.0..60.0).contains(p)) => {
            Ok(parts.iter().fold(0.0, |sum, part| sum * 60.0 + part))
        }
        Ok(_) | Err(_) => Err(wrong()),
    })
}

fn split_unit(text: &str) -> (&str, &str) {
    let end = text
        .find(|c: char| !(c.is_ascii_digit() || matches!(c, '.' | ',' | '-' | '+' | '−' | ' ')))
        .unwrap_or(text.len());
    let (digits, unit) = text.split_at(end);
    (digits.trim(), unit.trim())
}

fn number(digits: &str) -> Result<f64, TypedError> {
    if digits.is_empty() {
        return Err(TypedError::Empty);
    }
    let wrong = || TypedError::NotANumber(digits.to_owned());
    let plain = digits.replace('−', "-");
    let (commas, points) = (plain.matches(',').count(), plain.matches('.').count());
    if commas + points > 1 || plain.contains(' ') {
        return Err(wrong());
    }
    let dotted = plain.replace(',', ".");
    let value: f64 = dotted.parse().map_err(|_| wrong())?;
    let after =
        plain.split_once(',').map(|(before, after)| (before.trim_start_matches('-'), after));
    if let Some((before, after)) = after
        && after.len() == 3
        && (1..=3).contains(&before.len())
        && before != "0"
    {
        return Err(TypedError::Ambiguous {
            text: digits.to_owned(),
            one: dotted,
            two: plain.replace(',', ""),
        });
    }
    if value.is_finite() { Ok(value) } else { Err(wrong()) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_people_type_is_read_as_they_meant_it() {
        for (field, text, expected) in [
            (Field::LEVEL, "12,5", 12.5),
            (Field::LEVEL, " 0 ", 0.0),
            (Field::LEVEL, "0,125", 0.125),
            (Field::LEVEL, ".5", 0.5),
            (Field::LEVEL, "20 cm3", 20.0),
            (Field::RUN_TIME, "2 min", 120.0),
            (Field::RUN_TIME, "1:56,5", 116.5),
            (Field::TEMPERATURE, "-12", -12.0),
            (Field::TEMPERATURE, "80 °C", 80.0),
            (Field::SPEED, "820 rpm", 820.0),
        ] {
            assert_eq!(field.read(text), Ok(expected), "{text}");
        }
        assert!((Field::TEMPERATURE.read("180F").unwrap() - 82.222_222_222_2).abs() < 1e-9);
    }

    #[test]
    fn what_cannot_be_read_says_why_in_words_for_the_field() {
        for (field, text, says) in [
            (Field::LEVEL, "", "Type a number."),
            (Field::LEVEL, "abc", "Type a number."),
            (Field::LEVEL, "12a", "\"a\" is not a unit for this. Leave it out for ml."),
            (Field::LEVEL, "-3", "This cannot be below zero."),
            (
                Field::LEVEL,
                "1.2.3",
                "\"1.2.3\" is not a number. Digits, with a point or a comma for the decimals.",
            ),
            (
                Field::LEVEL,
                "1,234",
                "\"1,234\" can be read as 1.234 or as 1234. Type the one you mean.",
            ),
            (Field::RUN_TIME, "0", "This must be above zero."),
            (
                Field::RUN_TIME,
                "1:75",
                "\"1:75\" is not a number. Digits, with a point or a comma for the decimals.",
            ),
            (Field::SPEED, "3 bar", "\"bar\" is not a unit for this. Leave it out for rpm."),
            (Field::TEMPERATURE, "400", "This should lie between -40 and 150 °C."),
        ] {
            assert_eq!(field.read(text).unwrap_err().to_string(), says, "{text}");
        }
    }
}
