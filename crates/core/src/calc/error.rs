//! What a computation refuses, in words that say what to do.

use crate::calc::words;
use thiserror::Error;

/// Why a computation gave no answer.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum CalcError {
    /// A number is NaN or infinite, given or as a result.
    #[error("{}", words::not_usable_number(.what))]
    NotFinite {
        /// Which number.
        what: String,
    },
    /// Zero or less where only more than zero makes sense.
    #[error("{}", words::must_above_zero_got(.what, .got))]
    NotPositive {
        /// Which number.
        what: String,
        /// What came.
        got: f64,
    },
    /// Less than zero.
    #[error("{}", words::cannot_below_zero_got(.what, .got))]
    Negative {
        /// Which number.
        what: String,
        /// What came.
        got: f64,
    },
    /// Not enough to compare.
    #[error("{}", words::least_needed_got(.least, .what, .got))]
    TooFew {
        /// What there is too little of, in the plural.
        what: &'static str,
        /// How many are needed.
        least: usize,
        /// How many came.
        got: usize,
    },
    /// A name that is not known.
    #[error("unknown {what} \"{got}\"; known are {known}")]
    Unknown {
        /// What kind of name.
        what: &'static str,
        /// What came.
        got: String,
        /// What would have been understood.
        known: String,
    },
    /// Two inputs that cannot both hold, or one that is missing; says which.
    #[error("{0}")]
    Contradiction(String),
    /// The input has another shape than this computation takes.
    #[error("{}", words::input_wrong_shape(.detail))]
    Shape {
        /// Where and what, from the parser.
        detail: String,
    },
}

pub(crate) fn finite(what: impl Into<String>, value: f64) -> Result<f64, CalcError> {
    if value.is_finite() { Ok(value) } else { Err(CalcError::NotFinite { what: what.into() }) }
}

pub(crate) fn positive(what: impl Into<String>, value: f64) -> Result<f64, CalcError> {
    let what = what.into();
    if finite(what.as_str(), value)? > 0.0 {
        Ok(value)
    } else {
        Err(CalcError::NotPositive { what, got: value })
    }
}

pub(crate) fn non_negative(what: impl Into<String>, value: f64) -> Result<f64, CalcError> {
    let what = what.into();
    if finite(what.as_str(), value)? >= 0.0 {
        Ok(value)
    } else {
        Err(CalcError::Negative { what, got: value })
    }
}

/// Relative slack within which a value on a bound counts as inside.
const BOUND_SLACK: f64 = 1e-12;

/// `value` lies above `bound` by more than the slack; a value on the bound does not.
pub(crate) fn exceeds(value: f64, bound: f64) -> bool {
    if value.is_infinite() || bound.is_infinite() {
        return value > bound;
    }
    value - bound > BOUND_SLACK * value.abs().max(bound.abs())
}
