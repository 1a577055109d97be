//! Causes: what can be behind a complaint, and what each of them stays with.

use super::named;
use crate::work::Decision;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

named! {
    /// Names one cause. Healthy is the absence of all of them.
    Cause {
        Restricted = restricted,
        Worn = worn,
        TipLeak = tip_leak,
        Slow = slow,
        ExcessReturn = excess_return,
        CoilOpen = coil_open,
        CoilOff = coil_off,
        HarnessLeg = harness_leg,
        CommonSupply = common_supply,
        Driver = driver,
        WrongCode = wrong_code,
        LineRestriction = line_restriction,
        AirOrFuel = air_or_fuel,
        Mechanical = mechanical,
    }
}

/// What a cause goes along with when injectors change places.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum With {
    /// The injector: it moves along.
    Injector,
    /// The cylinder: it stays.
    Cylinder,
    /// All of them.
    All,
}

impl Cause {
    /// What is done about it once it is likely enough.
    pub fn remedy(self) -> Decision {
        match self {
            Self::Restricted | Self::TipLeak | Self::Slow => Decision::Clean,
            Self::Worn | Self::ExcessReturn | Self::CoilOpen | Self::CoilOff => Decision::Replace,
            Self::HarnessLeg => Decision::RepairHarness,
            Self::WrongCode => Decision::Recode,
            Self::CommonSupply
            | Self::Driver
            | Self::LineRestriction
            | Self::AirOrFuel
            | Self::Mechanical => Decision::LookElsewhere,
        }
    }
}
