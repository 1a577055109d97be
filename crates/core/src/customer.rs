//! A customer: what is needed to call one and to find the machine again, and nothing else.

mod words;

use crate::limits::{FieldProblem, NAME, SHORT_TEXT, text_problem, too_long};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest address, in characters.
const ADDRESS: usize = 300;

/// One customer.
///
/// ```
/// use cobaltine_core::customer::Customer;
/// let one = Customer { name: "Reed & Daughters".into(), ..Customer::default() };
/// assert!(one.problems().is_empty());
/// assert_eq!(Customer::default().problems()[0].field, "name");
/// ```
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Customer {
    /// UUIDv7, made where it was typed.
    pub id: Uuid,
    /// Counted with every change; 0 for a new one.
    pub revision: u64,
    /// As called.
    pub name: String,
    /// Telephone; may be empty.
    #[serde(default)]
    pub phone: String,
    /// Address, line by line; may be empty.
    #[serde(default)]
    pub address: String,
}

impl Customer {
    /// What is wrong with it, field by field.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found: Vec<FieldProblem> =
            text_problem("name", &self.name, NAME).into_iter().collect();
        found.extend(too_long("phone", &self.phone, SHORT_TEXT));
        if self.address.chars().count() > ADDRESS {
            found.push(FieldProblem::new("address", words::maximum_characters(ADDRESS)));
        }
        found
    }
}
