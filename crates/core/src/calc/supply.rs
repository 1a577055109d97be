//! `supply`: the supply voltage at every injector plug, and the pattern it makes.
//!
//! Per plug `none` below `none_below_v`, `low` when `battery − volts > max_drop_v`, else
//! `present`. Pattern, in this order: all none → `none_anywhere` (fuse, relay, common feed); any
//! none → `leg_missing`; all low → `common_low`; any low → `leg_low`; else `all_present`.
//! Volts throughout. An unloaded reading proves little: record whether a load was on.
//!
//! # Source
//! House rules (1 V, 0.5 V).
//!
//! ```
//! use cobaltine_core::calc::supply::{Plug, SupplyInput, SupplyPattern, supply};
//! let plug = |cylinder, volts| Plug { cylinder, volts };
//! let out = supply(&SupplyInput {
//!     battery_v: 12.4, plugs: vec![plug(1, 12.3), plug(2, 0.1), plug(3, 12.3)],
//!     none_below_v: None, max_drop_v: None,
//! }).unwrap();
//! assert_eq!(out.pattern, SupplyPattern::LegMissing);
//! ```

use super::{CalcError, exceeds, finite, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Below this there is no supply, V (house rule).
pub const NONE_BELOW_V: f64 = 1.0;
/// Largest drop from the battery that is still a good leg, V (house rule).
pub const MAX_DROP_V: f64 = 0.5;

/// One plug.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Plug {
    /// Cylinder number.
    pub cylinder: u32,
    /// Read at the supply pin, V.
    pub volts: f64,
}

/// Battery and plugs, read at the same time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SupplyInput {
    /// At the battery, V.
    pub battery_v: f64,
    /// At least one.
    pub plugs: Vec<Plug>,
    /// Default 1 V.
    pub none_below_v: Option<f64>,
    /// Default 0.5 V.
    pub max_drop_v: Option<f64>,
}

/// What arrives at a plug.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PlugState {
    /// Nothing.
    None,
    /// Less than it should be.
    Low,
    /// Battery voltage, near enough.
    Present,
}

/// Where to look.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SupplyPattern {
    /// Fuse, relay, common feed.
    NoneAnywhere,
    /// One leg of the harness is open.
    LegMissing,
    /// A resistance that all share.
    CommonLow,
    /// A resistance in one leg.
    LegLow,
    /// The supply is there.
    AllPresent,
}

/// One plug judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PlugOutput {
    /// Cylinder number.
    pub cylinder: u32,
    /// What arrives.
    pub state: PlugState,
}

/// All plugs judged.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SupplyOutput {
    /// In the order of the input.
    pub plugs: Vec<PlugOutput>,
    /// Where to look.
    pub pattern: SupplyPattern,
}

/// Reads the pattern.
///
/// # Errors
/// No plugs, a battery voltage or a bound not above zero.
pub fn supply(input: &SupplyInput) -> Result<SupplyOutput, CalcError> {
    let battery = positive("the battery voltage", input.battery_v)?;
    let none_below =
        positive(words::VOLTAGE_COUNTS_NONE, input.none_below_v.unwrap_or(NONE_BELOW_V))?;
    let max_drop = positive("the largest drop", input.max_drop_v.unwrap_or(MAX_DROP_V))?;
    if input.plugs.is_empty() {
        return Err(CalcError::TooFew { what: "plugs", least: 1, got: 0 });
    }
    let plugs = input
        .plugs
        .iter()
        .map(|plug| {
            let volts = finite(words::voltage_cylinder(plug.cylinder), plug.volts)?;
            let state = if exceeds(none_below, volts) {
                PlugState::None
            } else if exceeds(battery - volts, max_drop) {
                PlugState::Low
            } else {
                PlugState::Present
            };
            Ok(PlugOutput { cylinder: plug.cylinder, state })
        })
        .collect::<Result<Vec<_>, CalcError>>()?;
    let all = |state| plugs.iter().all(|plug| plug.state == state);
    let any = |state| plugs.iter().any(|plug| plug.state == state);
    let pattern = if all(PlugState::None) {
        SupplyPattern::NoneAnywhere
    } else if any(PlugState::None) {
        SupplyPattern::LegMissing
    } else if all(PlugState::Low) {
        SupplyPattern::CommonLow
    } else if any(PlugState::Low) {
        SupplyPattern::LegLow
    } else {
        SupplyPattern::AllPresent
    };
    Ok(SupplyOutput { plugs, pattern })
}
