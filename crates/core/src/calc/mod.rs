//! The computations, one capability a file, and the one registry of them.
//!
//! The id of a calc is its file stem, its name in `cobaltine calc` and in
//! `POST /api/calc/{id}`. The registry below makes the id, the list and the dispatch from one
//! line each, so that none can be forgotten.

pub mod bench_flow;
pub mod bench_map;
pub mod code_check;
pub mod coil;
pub mod compare_set;
pub mod convert;
pub mod cutout;
pub mod decide;
pub mod drift;
pub mod duty;
mod error;
pub mod match_sets;
pub mod metered;
pub mod pressure_drop;
pub mod pulse_rescale;
pub mod pulse_sweep;
pub mod reference_interval;
pub mod residual_fuel;
pub mod return_flow;
pub mod return_plan;
pub mod shim;
pub mod sizing;
pub mod supply;
pub mod trim;
pub mod uncertainty;
pub mod viscosity_factor;
mod words;

pub use error::CalcError;
pub(crate) use error::{exceeds, finite, non_negative, positive};

use serde::{Deserialize, Serialize, de::DeserializeOwned};
use utoipa::ToSchema;

macro_rules! registry {
    ($($variant:ident = $name:ident;)*) => {
        /// Names one computation.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum CalcId {
            $(
                #[doc = concat!("[`", stringify!($name), "`]")]
                $variant,
            )*
        }

        impl CalcId {
            /// Every computation, in alphabetical order.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// The id as written in files and addresses.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }
        }

        /// Runs one computation on JSON: the path of `cobaltine calc` and of the HTTP interface.
        ///
        /// # Errors
        /// [`CalcError::Shape`] when the input is not what the calc takes, otherwise what
        /// the calc itself refuses.
        pub fn run(id: CalcId, input: serde_json::Value) -> Result<serde_json::Value, CalcError> {
            refuse_long_lists(&input)?;
            match id {
                $(CalcId::$variant => adapt(input, |i| $name::$name(&i)),)*
            }
        }
    };
}

registry! {
    BenchFlow = bench_flow;
    BenchMap = bench_map;
    CodeCheck = code_check;
    Coil = coil;
    CompareSet = compare_set;
    Convert = convert;
    Cutout = cutout;
    Decide = decide;
    Drift = drift;
    Duty = duty;
    MatchSets = match_sets;
    Metered = metered;
    PressureDrop = pressure_drop;
    PulseRescale = pulse_rescale;
    PulseSweep = pulse_sweep;
    ReferenceInterval = reference_interval;
    ResidualFuel = residual_fuel;
    ReturnFlow = return_flow;
    ReturnPlan = return_plan;
    Shim = shim;
    Sizing = sizing;
    Supply = supply;
    Trim = trim;
    Uncertainty = uncertainty;
    ViscosityFactor = viscosity_factor;
}

impl CalcId {
    /// The computation with this id.
    ///
    /// # Errors
    /// [`CalcError::Unknown`] names the ids that exist.
    pub fn parse(name: &str) -> Result<Self, CalcError> {
        Self::ALL.iter().copied().find(|id| id.name() == name).ok_or_else(|| CalcError::Unknown {
            what: "computation",
            got: name.to_owned(),
            known: Self::ALL.iter().map(|id| id.name()).collect::<Vec<_>>().join(", "),
        })
    }
}

/// The longest list of one computation: more is no reading of a workshop.
pub const LONGEST_LIST: usize = 2000;

fn refuse_long_lists(input: &serde_json::Value) -> Result<(), CalcError> {
    use serde_json::Value;
    match input {
        Value::Array(list) if list.len() > LONGEST_LIST => {
            Err(CalcError::Contradiction(words::list_too_long_maximum(list.len(), LONGEST_LIST)))
        }
        Value::Array(list) => list.iter().try_for_each(refuse_long_lists),
        Value::Object(map) => map.values().try_for_each(refuse_long_lists),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => Ok(()),
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
