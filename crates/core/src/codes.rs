//! Codes: what is stored in the control unit, what stands on the injectors, and what has to be
//! written where.
//!
//! A code belongs to an injector, a slot to a cylinder; the injector that sits in a cylinder says
//! which code its slot has to hold, so a code moves when its injector does. Nothing counts as
//! stored that was not read back: after a write that was not, the slot is *not known*.
//!
//! # Source
//! House rule: as found first; written, read back, compared.

mod coding;
mod compared;
mod from_bench;
mod numbering;
mod words;

pub use crate::work::{Capture, SlotCode};
pub use coding::{Coding, SlotState, SlotView, Unfinished, Write, coding, mirrored};
pub use compared::{Compared, compared};
pub use from_bench::{BenchCode, from_bench};

use crate::calc::code_check::{CodeCheckInput, CodeProblem, code_check};
use crate::library::CodePattern;
use serde::Serialize;
use utoipa::ToSchema;

/// Shortest and longest code that is kept where no pattern is known.
const LENGTHS: std::ops::RangeInclusive<usize> = 2..=40;

/// A code as read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ReadCode {
    /// As it is kept: upper case, without spaces, dashes and dots.
    pub code: String,
    /// What is wrong with it, in words; empty when it fits.
    pub problem: String,
    /// What it may have been meant to be.
    pub suggestions: Vec<String>,
    /// No pattern is known, so nothing but its length was looked at.
    pub unchecked: bool,
}

/// Reads a code against the pattern of its family.
///
/// ```
/// use cobaltine_core::codes::read_code;
/// use cobaltine_core::library::CodePattern;
/// let pattern = CodePattern {
///     length: 8, alphabet: "0123456789ABCDEFGHJKMNPQRSTVWXYZ".to_owned(),
///     check: Some("iso7064_mod97_10".to_owned()),
/// };
/// let read = read_code("c1 egjh-44", Some(&pattern));
/// assert_eq!((read.code.as_str(), read.problem.as_str()), ("C1EGJH44", ""));
/// assert!(!read_code("C1EGJH4A", Some(&pattern)).problem.is_empty());
/// ```
pub fn read_code(typed: &str, pattern: Option<&CodePattern>) -> ReadCode {
    let input = |pattern: &CodePattern| CodeCheckInput {
        code: typed.to_owned(),
        length: pattern.length,
        alphabet: pattern.alphabet.clone(),
        check: pattern.check.clone(),
    };
    let checked = pattern.and_then(|pattern| Some((pattern, code_check(&input(pattern)).ok()?)));
    let Some((pattern, out)) = checked else {
        let code: String = typed
            .chars()
            .filter(|c| !c.is_whitespace() && !matches!(c, '-' | '.'))
            .flat_map(char::to_uppercase)
            .collect();
        let fine = LENGTHS.contains(&code.chars().count())
            && code.chars().all(|c| c.is_ascii_alphanumeric());
        let problem = if fine { "" } else { words::TRIM_CODE_LETTERS_DIGITS };
        return ReadCode {
            code,
            problem: problem.to_owned(),
            suggestions: Vec::new(),
            unchecked: true,
        };
    };
    let problem = out.problems.first().map(|problem| match problem {
        CodeProblem::Length => {
            words::characters_trim_code_family(out.normalised.chars().count(), pattern.length)
        }
        CodeProblem::Alphabet => {
            let wrong: Vec<String> = out
                .normalised
                .chars()
                .filter(|c| !pattern.alphabet.contains(*c))
                .map(String::from)
                .collect();
            words::cannot_occur_trim_code(wrong.join(", "))
        }
        CodeProblem::Check => words::CHECK_CHARACTERS_NOT_MATCH.to_owned(),
    });
    ReadCode {
        code: out.normalised,
        problem: problem.unwrap_or_default(),
        suggestions: out.suggestions,
        unchecked: false,
    }
}

#[cfg(test)]
mod tests;
