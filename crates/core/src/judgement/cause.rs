//! Causes: what can be behind a complaint, what each of them stays with, and what is done about it.

use super::named;
use crate::engine::FuelSystem;
use crate::work::Decision;

named! {
    /// Names one cause. Sound is the absence of all of them.
    Cause {
        Restricted = restricted,
        Worn = worn,
        TipLeak = tip_leak,
        Slow = slow,
        ExcessReturn = excess_return,
        CoilOpen = coil_open,
        CoilOff = coil_off,
        SeatGas = seat_gas,
        WrongCode = wrong_code,
        HarnessLeg = harness_leg,
        Driver = driver,
        LineRestriction = line_restriction,
        Mechanical = mechanical,
        Ignition = ignition,
        AirOrFuel = air_or_fuel,
        CommonSupply = common_supply,
        HighPressure = high_pressure,
        SharedIgnition = shared_ignition,
    }
}

/// What a cause goes along with when injectors change places.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum With {
    /// The injector: it moves along.
    Injector,
    /// The cylinder: it stays.
    Cylinder,
    /// All of them.
    All,
}

/// What is done about a place. Chances of states with the same action add up.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Action {
    /// Sound: it stays as it is.
    Leave,
    /// Dirt: out, cleaned, measured again.
    Clean,
    /// Wear or a dead coil: reconditioned or replaced.
    Renew,
    /// Lift, air gap, armature: set anew.
    Adjust,
    /// Its code written.
    Recode,
    /// Its wire repaired.
    Harness,
    /// Something else of this place.
    Place,
    /// What all share.
    Shared,
}

impl Action {
    /// Every action.
    pub const ALL: [Self; 8] = [
        Self::Leave,
        Self::Clean,
        Self::Renew,
        Self::Adjust,
        Self::Recode,
        Self::Harness,
        Self::Place,
        Self::Shared,
    ];

    /// What a person signs for it.
    pub fn decision(self) -> Decision {
        match self {
            Self::Leave => Decision::Leave,
            Self::Clean => Decision::Clean,
            Self::Renew => Decision::Replace,
            Self::Adjust => Decision::Adjust,
            Self::Recode => Decision::Recode,
            Self::Harness => Decision::RepairHarness,
            Self::Place | Self::Shared => Decision::LookElsewhere,
        }
    }
}

impl Cause {
    /// What it goes along with.
    pub fn with(self) -> With {
        match self {
            Self::Restricted
            | Self::Worn
            | Self::TipLeak
            | Self::Slow
            | Self::ExcessReturn
            | Self::CoilOpen
            | Self::CoilOff
            | Self::SeatGas
            | Self::WrongCode => With::Injector,
            Self::HarnessLeg
            | Self::Driver
            | Self::LineRestriction
            | Self::Mechanical
            | Self::Ignition => With::Cylinder,
            Self::AirOrFuel | Self::CommonSupply | Self::HighPressure | Self::SharedIgnition => {
                With::All
            }
        }
    }

    /// What is done about it on this fuel system once it is likely enough.
    pub fn action(self, fuel: FuelSystem) -> Action {
        match (self, fuel) {
            (Self::Restricted | Self::TipLeak, _) => Action::Clean,
            (Self::Slow, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo) => Action::Adjust,
            (
                Self::Slow,
                FuelSystem::PetrolPort | FuelSystem::PetrolDirect | FuelSystem::ExhaustDoser,
            ) => Action::Clean,
            (Self::Worn | Self::ExcessReturn | Self::CoilOpen | Self::CoilOff, _) => Action::Renew,
            (Self::WrongCode, _) => Action::Recode,
            (Self::HarnessLeg, _) => Action::Harness,
            (
                Self::SeatGas
                | Self::Driver
                | Self::LineRestriction
                | Self::Mechanical
                | Self::Ignition,
                _,
            ) => Action::Place,
            (
                Self::AirOrFuel | Self::CommonSupply | Self::HighPressure | Self::SharedIgnition,
                _,
            ) => Action::Shared,
        }
    }

    /// Place in [`Cause::ALL`].
    pub(super) fn index(self) -> usize {
        self as usize
    }
}
