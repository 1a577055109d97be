//! What stands beside every result: the rule, the arithmetic with the numbers filled in,
//! the limit with its source, what other schools would say, and what would change it.

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
