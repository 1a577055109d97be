//! The computations, one capability a file, and the one registry of them.
//!
//! The id of a calc is its file stem, its name in `cobaltine calc` and in
//! `POST /api/calc/{id}`. A new variant of [`CalcId`] does not compile until it is
//! listed in [`CalcId::ALL`] and answered in [`run`].

pub mod compare_set;
pub mod convert;
pub mod decide;
mod error;
pub mod return_flow;
pub mod uncertainty;

pub use error::CalcError;
pub(crate) use error::{exceeds, finite, non_negative, positive};

use serde::{Deserialize, Serialize, de::DeserializeOwned};
use utoipa::ToSchema;

/// Names one computation.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CalcId {
    /// [`compare_set`]
    CompareSet,
    /// [`convert`]
    Convert,
    /// [`decide`]
    Decide,
    /// [`return_flow`]
    ReturnFlow,
    /// [`uncertainty`]
    Uncertainty,
}

impl CalcId {
    /// Every computation, in alphabetical order.
    pub const ALL: [Self; 5] =
        [Self::CompareSet, Self::Convert, Self::Decide, Self::ReturnFlow, Self::Uncertainty];

    /// The id as written in files and addresses.
    pub fn name(self) -> &'static str {
        match self {
            Self::CompareSet => "compare_set",
            Self::Convert => "convert",
            Self::Decide => "decide",
            Self::ReturnFlow => "return_flow",
            Self::Uncertainty => "uncertainty",
        }
    }

    /// The computation with this id.
    ///
    /// # Errors
    /// [`CalcError::Unknown`] names the ids that exist.
    pub fn parse(name: &str) -> Result<Self, CalcError> {
        Self::ALL.into_iter().find(|id| id.name() == name).ok_or_else(|| CalcError::Unknown {
            what: "computation",
            got: name.to_owned(),
            known: Self::ALL.map(Self::name).join(", "),
        })
    }
}

/// Runs one computation on JSON: the path of `cobaltine calc` and of the HTTP interface.
///
/// # Errors
/// [`CalcError::Shape`] when the input is not what the calc takes, otherwise what
/// the calc itself refuses.
pub fn run(id: CalcId, input: serde_json::Value) -> Result<serde_json::Value, CalcError> {
    match id {
        CalcId::CompareSet => adapt(input, |i| compare_set::compare_set(&i)),
        CalcId::Convert => adapt(input, |i| convert::convert(&i)),
        CalcId::Decide => adapt(input, |i| decide::decide(&i)),
        CalcId::ReturnFlow => adapt(input, |i| return_flow::return_flow(&i)),
        CalcId::Uncertainty => adapt(input, |i| uncertainty::uncertainty(&i)),
    }
}

fn adapt<I: DeserializeOwned, O: Serialize>(
    input: serde_json::Value,
    calc: impl FnOnce(I) -> Result<O, CalcError>,
) -> Result<serde_json::Value, CalcError> {
    let shape = |error: serde_json::Error| CalcError::Shape { detail: error.to_string() };
    let input = serde_json::from_value(input).map_err(shape)?;
    serde_json::to_value(calc(input)?).map_err(shape)
}
