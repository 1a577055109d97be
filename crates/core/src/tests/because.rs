//! What stands beside every result: the rule, the arithmetic with the numbers filled in,
//! the limit with its source, what other schools would say, and what would change it.

use crate::quantity::Celsius;
use crate::work::Decision;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One step of a reason: a sentence, and the arithmetic when there is some.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Because {
    /// Plain words.
    pub says: String,
    /// The formula with the numbers filled in.
    pub arithmetic: Option<String>,
}

impl Because {
    pub(crate) fn says(says: impl Into<String>) -> Self {
        Self { says: says.into(), arithmetic: None }
    }

    pub(crate) fn shows(says: impl Into<String>, arithmetic: impl Into<String>) -> Self {
        Self { says: says.into(), arithmetic: Some(arithmetic.into()) }
    }
}

/// What one house rule alone would have said of the set.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct School {
    /// The rule, named with its number.
    pub name: String,
    /// Cylinders it would condemn.
    pub condemns: Vec<u32>,
    /// Cylinders it would look at more closely.
    pub looks_at: Vec<u32>,
    /// Why it says nothing, when it cannot be applied.
    pub silent: Option<String>,
    /// This is the rule that the verdict follows.
    pub leads: bool,
}

/// What the program proposes for one injector. A person decides.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Proposal {
    /// What to do.
    pub decision: Decision,
    /// Why, in a sentence.
    pub reason: String,
}

/// An absolute limit from the library, with the conditions it holds for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Limit {
    /// Most return flow in ml/min.
    pub upper_ml_min: f64,
    /// Lowest temperature that it holds for, in °C.
    pub from_c: Option<f64>,
    /// Highest temperature that it holds for, in °C.
    pub to_c: Option<f64>,
    /// Where the number comes from.
    pub source: String,
    /// Revision of the entry; 0 for the house's own reference.
    pub revision: u32,
}

impl Limit {
    /// Whether it says anything at this temperature. One without a window always does; one with
    /// a window needs the temperature to be known.
    pub fn holds_at(&self, temperature_c: Option<Celsius>) -> bool {
        match (self.from_c, self.to_c, temperature_c) {
            (None, None, _) => true,
            (_, _, None) => false,
            (from, to, Some(Celsius(t))) => {
                from.is_none_or(|from| t >= from) && to.is_none_or(|to| t <= to)
            }
        }
    }
}
