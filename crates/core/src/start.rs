//! Start conditions: what has to be so before a run, ticked or measured, and kept with it.
//!
//! A result stands without them, but its because names the one that was missing.
//!
//! # Source
//! House rules of the trade; the maker's own start conditions come first.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

macro_rules! registry {
    ($($variant:ident = $name:ident: $word:literal, $why:literal;)*) => {
        /// Names one start condition.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        pub enum StartId {
            $(
                #[doc = $word]
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
                match self {
                    $(Self::$variant => $word,)*
                }
            }

            /// What a result is worth without it.
            pub fn why(self) -> &'static str {
                match self {
                    $(Self::$variant => $why,)*
                }
            }
        }
    };
}

registry! {
    Warm = warm: "warm, at operating temperature",
        "cold fuel is thicker and returns less";
    AccessoriesOff = accessories_off: "accessories off",
        "a compressor or fan that cuts in moves the idle";
    Parked = parked: "park or neutral, brake on, wheels chocked",
        "an engine under load or a vehicle that can move is no test";
    LowPressureProven = low_pressure_proven: "low-pressure side proven",
        "a starved pump makes good injectors look bad";
    ChargerOn = charger_on: "support charger on",
        "a falling battery moves the readings in the order of taking";
    ExtractionOn = extraction_on: "exhaust extraction on",
        "nobody reads well in exhaust gas";
    FuelAboveLow = fuel_above_low: "tank above the low mark",
        "a pump that draws air gives readings of air";
    IgnitionOff = ignition_off: "ignition off and waited",
        "stored charge reads as a fault, and can hurt";
    RailBlanked = rail_blanked: "return rail blanked",
        "an open return rail draws air";
    HosesPurged = hoses_purged: "hoses purged, no bubbles, bottles emptied",
        "air in a hose is fuel that is missing in its bottle";
    Settled = settled: "pressure settled before each pulse",
        "a gauge that still moves gives no start";
    PlugsOut = plugs_out: "all plugs or glow plugs out, throttle open",
        "the other cylinders slow the starter, and each turn differs";
    LeadsZeroed = leads_zeroed: "meter leads held together first",
        "the leads are part of the reading";
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
/// assert_eq!(says.short, "Not ticked before: warm, at operating temperature.");
/// assert!(says.because.contains("cold fuel is thicker"));
/// assert_eq!(missing(&[StartId::Warm], &[StartId::Warm]), None);
/// ```
pub fn missing(wanted: &[StartId], ticked: &[StartId]) -> Option<Missing> {
    let open: Vec<StartId> = wanted.iter().copied().filter(|id| !ticked.contains(id)).collect();
    let words: Vec<&str> = open.iter().map(|id| id.word()).collect();
    let because: Vec<String> =
        open.iter().map(|id| format!("{} ({})", id.word(), id.why())).collect();
    (!open.is_empty()).then(|| Missing {
        short: format!("Not ticked before: {}.", words.join("; ")),
        because: format!("Not ticked before: {}.", because.join("; ")),
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
