//! `code_check`: a typed code against its pattern, and what it may have been meant to be.
//!
//! Upper-cased, white space, `-` and `.` dropped. `problems` in the order `length`, `alphabet`,
//! `check`; the check characters only when the others pass: `iso7064_mod37_36` over all but the
//! last character, `iso7064_mod97_10` over all but the last two, recomputed and compared as
//! text. Besides, `suggestions`: codes reached by swapping look-alikes (O/0/Q/D, I/1/L, S/5,
//! B/8, Z/2, G/6, U/V), the fewest changes first, that pass.
//!
//! # Source
//! ISO/IEC 7064 (MOD 37,36 and MOD 97-10); the look-alikes are a house rule.
//!
//! ```
//! use cobaltine_core::calc::code_check::{CodeCheckInput, code_check};
//! let out = code_check(&CodeCheckInput {
//!     code: "c1 egjh-4A".into(), length: 8, alphabet: "0123456789ABCDEFGHJKMNPQRSTVWXYZ".into(),
//!     check: Some("iso7064_mod97_10".into()),
//! }).unwrap();
//! assert!(!out.ok);
//! ```

use super::CalcError;
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Characters that are taken for one another.
const LOOK_ALIKES: [&str; 7] = ["O0QD", "I1L", "S5", "B8", "Z2", "G6", "UV"];
/// More suggestions than this help nobody.
const MOST_SUGGESTIONS: usize = 6;
/// Changes beyond those that the alphabet forces.
const MOST_CHANGES: usize = 3;
/// Codes tried before giving up; keeps a hostile pattern short.
const MOST_TRIES: usize = 50_000;

/// A code and its pattern.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CodeCheckInput {
    /// As typed or scanned.
    pub code: String,
    /// Characters of a code, at least 1.
    pub length: usize,
    /// Characters that can occur.
    pub alphabet: String,
    /// `iso7064_mod37_36`, `iso7064_mod97_10`, or none.
    pub check: Option<String>,
}

/// What is wrong with a code.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CodeProblem {
    /// Too long or too short.
    Length,
    /// A character that cannot occur.
    Alphabet,
    /// The check characters do not fit.
    Check,
}

impl CodeProblem {
    /// As said to whoever typed it.
    pub fn words(self) -> &'static str {
        match self {
            Self::Length => words::TOO_LONG_TOO_SHORT,
            Self::Alphabet => words::CHARACTER_FAMILY_DOES_NOT,
            Self::Check => words::CHECK_CHARACTERS_NOT_FIT,
        }
    }
}

/// The code read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct CodeCheckOutput {
    /// As it is kept.
    pub normalised: String,
    /// In the order length, alphabet, check.
    pub problems: Vec<CodeProblem>,
    /// No problems.
    pub ok: bool,
    /// What it may have been meant to be.
    pub suggestions: Vec<String>,
}

#[derive(Debug, Clone, Copy)]
enum Scheme {
    Mod37,
    Mod97,
}

struct Pattern {
    length: usize,
    alphabet: Vec<char>,
    scheme: Option<Scheme>,
}

impl Pattern {
    fn problems(&self, code: &[char]) -> Vec<CodeProblem> {
        let mut found = Vec::new();
        if code.len() != self.length {
            found.push(CodeProblem::Length);
        }
        if !code.iter().all(|c| self.alphabet.contains(c)) {
            found.push(CodeProblem::Alphabet);
        }
        if found.is_empty() && !self.scheme.is_none_or(|scheme| scheme.holds(code)) {
            found.push(CodeProblem::Check);
        }
        found
    }
}

impl Scheme {
    fn holds(self, code: &[char]) -> bool {
        let tail = match self {
            Self::Mod37 => 1,
            Self::Mod97 => 2,
        };
        let Some(split) = code.len().checked_sub(tail) else { return false };
        let body: String = code[..split].iter().collect();
        let check: String = code[split..].iter().collect();
        let wanted = match self {
            Self::Mod37 => mod_37_36(&body).map(String::from),
            Self::Mod97 => mod_97_10(&body),
        };
        wanted == Some(check)
    }
}

/// Checks a code.
///
/// # Errors
/// A length below 1, no alphabet, an unknown check.
pub fn code_check(input: &CodeCheckInput) -> Result<CodeCheckOutput, CalcError> {
    if input.length < 1 {
        return Err(CalcError::TooFew { what: words::CHARACTERS_CODE, least: 1, got: 0 });
    }
    let alphabet: Vec<char> = input.alphabet.chars().flat_map(char::to_uppercase).collect();
    if alphabet.is_empty() {
        return Err(CalcError::TooFew { what: words::CHARACTERS_ALPHABET, least: 1, got: 0 });
    }
    let scheme = match input.check.as_deref() {
        None => None,
        Some("iso7064_mod37_36") => Some(Scheme::Mod37),
        Some("iso7064_mod97_10") => Some(Scheme::Mod97),
        Some(other) => {
            return Err(CalcError::Unknown {
                what: "check",
                got: other.to_owned(),
                known: "iso7064_mod37_36, iso7064_mod97_10".to_owned(),
            });
        }
    };
    let pattern = Pattern { length: input.length, alphabet, scheme };
    let code: Vec<char> = input
        .code
        .chars()
        .flat_map(char::to_uppercase)
        .filter(|c| !c.is_whitespace() && !matches!(c, '-' | '.'))
        .collect();
    let problems = pattern.problems(&code);
    let suggestions = if problems.is_empty() || problems.contains(&CodeProblem::Length) {
        Vec::new()
    } else {
        suggestions(&pattern, &code)
    };
    Ok(CodeCheckOutput {
        normalised: code.into_iter().collect(),
        ok: problems.is_empty(),
        problems,
        suggestions,
    })
}

/// Codes that pass, by the number of look-alikes swapped.
fn suggestions(pattern: &Pattern, code: &[char]) -> Vec<String> {
    let forced = code.iter().filter(|c| !pattern.alphabet.contains(c)).count();
    let mut search = Search { pattern, tries: 0, found: Vec::new() };
    for changes in forced.max(1)..=forced + MOST_CHANGES {
        search.go(&mut code.to_vec(), 0, changes);
    }
    search.found
}

struct Search<'a> {
    pattern: &'a Pattern,
    tries: usize,
    found: Vec<String>,
}

impl Search<'_> {
    /// Swaps exactly `left` more characters from `at` on.
    fn go(&mut self, code: &mut [char], at: usize, left: usize) {
        if self.tries >= MOST_TRIES || self.found.len() >= MOST_SUGGESTIONS {
            return;
        }
        if left == 0 {
            self.tries += 1;
            if self.pattern.problems(code).is_empty() {
                self.found.push(code.iter().collect());
            }
            return;
        }
        let Some(&original) = code.get(at) else { return };
        let alike = LOOK_ALIKES.iter().find(|group| group.contains(original));
        for other in alike.into_iter().flat_map(|group| group.chars()) {
            if other != original && self.pattern.alphabet.contains(&other) {
                code[at] = other;
                self.go(code, at + 1, left - 1);
                code[at] = original;
            }
        }
        // A character that cannot stay is not passed over.
        if self.pattern.alphabet.contains(&original) {
            self.go(code, at + 1, left);
        }
    }
}

/// The two MOD 97-10 check digits: letters as A=10 … Z=35, `98 − (N·100 mod 97)`.
pub(crate) fn mod_97_10(body: &str) -> Option<String> {
    let remainder = body.chars().try_fold(0, |r, c| Some(step_97(r, c.to_digit(36)?)))?;
    Some(format!("{:02}", 98 - remainder * 100 % 97))
}

/// One more character in the remainder: two decimal digits for a letter, one for a digit.
fn step_97(remainder: u32, value: u32) -> u32 {
    (remainder * if value < 10 { 10 } else { 100 } + value) % 97
}

/// The MOD 37,36 check character.
fn mod_37_36(body: &str) -> Option<char> {
    let product = body.chars().try_fold(36, |p, c| Some(step_37(p, c.to_digit(36)?)))?;
    char::from_digit((37 - product) % 36, 36).map(|c| c.to_ascii_uppercase())
}

/// One more character in the product.
fn step_37(product: u32, value: u32) -> u32 {
    let sum = match (product + value) % 36 {
        0 => 36,
        sum => sum,
    };
    sum * 2 % 37
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const ALPHANUMERIC: &str = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ";

    fn holds(scheme: Scheme, code: &str) -> bool {
        scheme.holds(&code.chars().collect::<Vec<_>>())
    }

    /// The wrong code and the two characters that it is about.
    type Slip = (String, char, char);

    /// Every code with one character changed, and with two neighbours swapped.
    fn slips(code: &str) -> [Vec<Slip>; 2] {
        let letters: Vec<char> = code.chars().collect();
        let (mut changed, mut swapped) = (Vec::new(), Vec::new());
        for i in 0..letters.len() {
            for other in ALPHANUMERIC.chars().filter(|c| *c != letters[i]) {
                let mut slip = letters.clone();
                slip[i] = other;
                changed.push((slip.iter().collect(), letters[i], other));
            }
            if i + 1 < letters.len() && letters[i] != letters[i + 1] {
                let mut slip = letters.clone();
                slip.swap(i, i + 1);
                swapped.push((slip.iter().collect(), letters[i], letters[i + 1]));
            }
        }
        [changed, swapped]
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]
        #[test]
        fn mod_97_10_sees_every_slip_among_letters_and_every_slip_among_digits(body in "[0-9A-Z]{1,18}") {
            let code = format!("{body}{}", mod_97_10(&body).unwrap());
            prop_assert!(holds(Scheme::Mod97, &code));
            let [changed, swapped] = slips(&code);
            for (slip, a, b) in changed.into_iter().chain(swapped) {
                if a.is_ascii_digit() == b.is_ascii_digit() {
                    prop_assert!(!holds(Scheme::Mod97, &slip), "{} for {}", slip, code);
                }
            }
        }

        #[test]
        fn mod_37_36_sees_every_single_character(body in "[0-9A-Z]{1,18}") {
            let code = format!("{body}{}", mod_37_36(&body).unwrap());
            prop_assert!(holds(Scheme::Mod37, &code));
            for (slip, _, _) in &slips(&code)[0] {
                prop_assert!(!holds(Scheme::Mod37, slip), "{} for {}", slip, code);
            }
        }

        #[test]
        fn a_look_alike_is_proposed_back(body in "[0-9A-Z]{4,12}", at in 0..12_usize) {
            let code = format!("{body}{}", mod_97_10(&body).unwrap());
            let mut slip: Vec<char> = code.chars().collect();
            let at = at % slip.len();
            let twin = LOOK_ALIKES.iter().find(|group| group.contains(slip[at]));
            let Some(twin) = twin.and_then(|group| group.chars().find(|c| *c != slip[at])) else { return Ok(()) };
            slip[at] = twin;
            let slip: String = slip.into_iter().collect();
            let out = code_check(&CodeCheckInput {
                code: slip.to_lowercase(),
                length: code.len(),
                alphabet: ALPHANUMERIC.to_owned(),
                check: Some("iso7064_mod97_10".to_owned()),
            }).unwrap();
            prop_assert!(out.ok || out.suggestions.contains(&code));
        }
    }

    /// What ISO/IEC 7064 itself cannot see, counted over every state of the check: an honest
    /// figure instead of a promise. A letter typed for a digit changes the number of decimal
    /// digits, which MOD 97-10 was not made for.
    #[test]
    fn what_the_standard_lets_through_is_less_than_one_slip_in_a_hundred() {
        let values: Vec<u32> = (0..36).collect();
        let missed = |states: std::ops::Range<u32>, next: &dyn Fn(u32, u32) -> u32| {
            let (mut changed, mut swapped, mut all) = (0, 0, 0);
            for state in states {
                for (i, a) in values.iter().enumerate() {
                    for b in &values[..i] {
                        all += 1;
                        changed += u32::from(next(state, *a) == next(state, *b));
                        let (ab, ba) = (next(next(state, *a), *b), next(next(state, *b), *a));
                        swapped += u32::from(ab == ba);
                    }
                }
            }
            (changed, swapped, all)
        };
        assert_eq!(missed(1..37, &step_37), (0, 36, 22_680));
        let (changed, swapped, all) = missed(0..97, &step_97);
        assert!(changed * 200 < all && swapped * 100 < all, "{changed} {swapped} of {all}");
    }
}
