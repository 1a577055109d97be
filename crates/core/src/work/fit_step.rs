//! The steps of fitting an injector, and what is found on the way.

use crate::engine::FuelSystem;
use crate::named::named;
use crate::work::words;

named! {
    /// One step of fitting.
    FitStep {
        Bore = bore,
        Washer = washer,
        Seals = seals,
        CombustionSeal = combustion_seal,
        BoltNew = bolt_new,
        BoltHand = bolt_hand,
        Torque = torque,
        Line = line,
        ReturnClip = return_clip,
        Clip = clip,
        Plug = plug,
    }
}

named! {
    /// What was found while taking out or fitting.
    Trouble {
        Stuck = stuck,
        SealLeftBehind = seal_left_behind,
        Thread = thread,
        SeatBurnt = seat_burnt,
        LineDamaged = line_damaged,
        Other = other,
    }
}

impl Trouble {
    /// What has to be done before it goes back in.
    pub fn advice(self) -> &'static str {
        match self {
            Self::Stuck => words::PULL_STRAIGHT_MAKERS_PULLER,
            Self::SealLeftBehind => words::FIND_BEFORE_FITTING_NEW,
            Self::Thread => words::REPAIR_THREAD_BEFORE_TIGHTENING,
            Self::SeatBurnt => words::CUT_CLEAN_SEAT_RIGHT,
            Self::LineDamaged => words::RENEW_BENT_NICKED_LINE,
            Self::Other => words::DESCRIBE_SETTLE_BEFORE_FITTING,
        }
    }
}

impl FitStep {
    /// The step, and why it is there.
    pub fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Bore => (words::BORE_SEAT_CLEAN, words::GRAIN_OLD_WASHER_UNDER),
            Self::Washer => ("New sealing washer", words::WASHER_SEALS_ONCE_ONE),
            Self::Seals => ("New O-rings, oiled", words::DRY_RING_ROLLS_TEARS),
            Self::CombustionSeal => {
                (words::NEW_COMBUSTION_SEAL_SIZED, words::STRETCHED_MUST_SHRINK_BACK)
            }
            Self::BoltNew => ("New clamp bolt", words::ANGLE_TIGHTENED_BOLTS_STRETCH),
            Self::BoltHand => (words::BOLT_STARTED_HAND, words::HAND_YOU_FEEL_CROSSED),
            Self::Torque => (words::CLAMP_TIGHTENED_STAGES, words::TOO_LOOSE_BLOWS_TOO),
            Self::Line => (words::LINE_STRAIGHT_TIGHTENED_TORQUE, words::LINE_BENT_FIT_BREAKS),
            Self::ReturnClip => (words::RETURN_CLIP_HOME_TUGGED, words::HALF_CLOSED_CLIP_DRAWS),
            Self::Clip => {
                (words::RETAINING_CLIP_HOME_TUGGED, words::RAIL_PRESSURE_LIFTS_UNRETAINED)
            }
            Self::Plug => ("Connector latched", words::HALF_LATCHED_CONNECTOR_WORKS),
        }
    }

    /// The part that is due with it.
    pub fn part(self) -> Option<&'static str> {
        match self {
            Self::Washer => Some("sealing washer"),
            Self::Seals => Some("set of O-rings"),
            Self::CombustionSeal => Some("combustion seal"),
            Self::BoltNew => Some("clamp bolt"),
            Self::Bore
            | Self::BoltHand
            | Self::Torque
            | Self::Line
            | Self::ReturnClip
            | Self::Clip
            | Self::Plug => None,
        }
    }

    /// Whether it belongs to this fuel system. `stretched`: a stage of tightening is an angle.
    pub(crate) fn fits(self, fuel: FuelSystem, stretched: bool) -> bool {
        let port = fuel == FuelSystem::PetrolPort;
        match self {
            Self::Bore | Self::Seals | Self::Plug => true,
            Self::Washer => match fuel {
                FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => {
                    true
                }
                FuelSystem::PetrolPort | FuelSystem::PetrolDirect => false,
            },
            Self::CombustionSeal => fuel == FuelSystem::PetrolDirect,
            Self::BoltNew => stretched && !port,
            Self::BoltHand | Self::Torque | Self::Line => !port,
            Self::ReturnClip => fuel.has_return(),
            Self::Clip => port,
        }
    }
}
