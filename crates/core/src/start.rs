//! Start conditions: what has to be so before a run, ticked or measured, and kept with it.
//!
//! A result stands without them, but its because names the one that was missing.
//!
//! # Source
//! House rules of the trade; the maker's own start conditions come first.

mod words;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

macro_rules! registry {
    ($($variant:ident = $name:ident;)*) => {
        /// Names one start condition.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum StartId {
            $(
                #[doc = concat!("`", stringify!($name), "`.")]
                $variant,
            )*
        }

        impl StartId {
            /// Every start condition.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// As written in addresses and in the database.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            /// As ticked.
            pub fn word(self) -> &'static str {
                words::of(self).0
            }

            /// What a result is worth without it.
            pub fn why(self) -> &'static str {
                words::of(self).1
            }
        }
    };
}

registry! {
    Warm = warm;
    AccessoriesOff = accessories_off;
    Parked = parked;
    LowPressureProven = low_pressure_proven;
    ChargerOn = charger_on;
    ExtractionOn = extraction_on;
    FuelAboveLow = fuel_above_low;
    IgnitionOff = ignition_off;
    RailBlanked = rail_blanked;
    HosesPurged = hoses_purged;
    Settled = settled;
    PlugsOut = plugs_out;
    LeadsZeroed = leads_zeroed;
}

/// A start condition as a view asks for it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct StartForm {
    /// Which.
    pub id: StartId,
    /// As ticked.
    pub word: String,
    /// What a result is worth without it.
    pub why: String,
}

impl StartId {
    /// As a view asks for it.
    pub fn form(self) -> StartForm {
        StartForm { id: self, word: self.word().to_owned(), why: self.why().to_owned() }
    }
}

/// A run without some of its start conditions: in short, for the finding, and with what it is
/// worth without each, for the because. None when all were ticked.
///
/// ```
/// use cobaltine_core::start::{StartId, missing};
/// let says = missing(&[StartId::Warm, StartId::ChargerOn], &[StartId::ChargerOn]).unwrap();
/// assert!(says.short.contains("operating temperature"));
/// assert!(says.because.contains("cold fuel is thicker"));
/// assert_eq!(missing(&[StartId::Warm], &[StartId::Warm]), None);
/// ```
pub fn missing(wanted: &[StartId], ticked: &[StartId]) -> Option<Missing> {
    let open: Vec<StartId> = wanted.iter().copied().filter(|id| !ticked.contains(id)).collect();
    let words: Vec<&str> = open.iter().map(|id| id.word()).collect();
    let because: Vec<String> =
        open.iter().map(|id| format!("{} ({})", id.word(), id.why())).collect();
    (!open.is_empty()).then(|| Missing {
        short: words::unticked_start(words.join("; ")),
        because: words::unticked_start_2(because.join("; ")),
    })
}

/// Start conditions that were not ticked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Missing {
    /// In short.
    pub short: String,
    /// With what a result is worth without each.
    pub because: String,
}
