//! The items of a proof, in the order of work.

use crate::caution::{self, Caution};
use crate::engine::FuelSystem;
use crate::named::named;

named! {
    /// One item of a proof.
    ProveId {
        Fitting = fitting,
        Codes = codes,
        Bleed = bleed,
        LeakOff = leak_off,
        Start = start,
        LeakRunning = leak_running,
        Cleared = cleared,
        Drive = drive,
        Regeneration = regeneration,
        Rescan = rescan,
        RoadTest = road_test,
        FailedTest = failed_test,
    }
}

named! {
    /// How an item went, as told by whoever did it.
    Told {
        Good = good,
        Failed = failed,
        LeftOut = left_out,
    }
}

impl ProveId {
    /// As read on the list.
    pub fn title(self) -> &'static str {
        match self {
            Self::Fitting => "Fitted, step by step",
            Self::Codes => "Codes read back",
            Self::Bleed => "Bled and primed",
            Self::LeakOff => "Leak check, engine off",
            Self::Start => "Started, listened",
            Self::LeakRunning => "Leak check, running",
            Self::Cleared => "Learned values cleared",
            Self::Drive => "Learning drive",
            Self::Regeneration => "Regeneration",
            Self::Rescan => "Fault codes read again",
            Self::RoadTest => "Road test",
            Self::FailedTest => "The failed test, repeated",
        }
    }

    /// What to do.
    pub fn how(self) -> &'static str {
        match self {
            Self::Fitting => {
                "Every injector that was out has every step of its fitting card ticked."
            }
            Self::Codes => {
                "Every cylinder holds the code of the injector that sits in it, read back."
            }
            Self::Bleed => {
                "Hand primer or the tank's own pump until no bubbles come. Never by mouth, never by cranking alone."
            }
            Self::LeakOff => {
                "Prime to pressure, wait, look at every joint with a lamp and a dry rag."
            }
            Self::Start => {
                "Short crank, let it settle, listen at each cylinder. Note what you hear."
            }
            Self::LeakRunning => {
                "Lamp and cardboard, never a hand. Nothing is tightened on a running engine."
            }
            Self::Cleared => "Ignition on, engine off; read back that every value is zero.",
            Self::Drive => {
                "Repeat each kind of run until its counter is full; a second person reads them."
            }
            Self::Regeneration => {
                "Let the doser burn once, and see that temperature and pressure follow."
            }
            Self::Rescan => "Read again after the drive. A code that came back is a finding.",
            Self::RoadTest => "Under the conditions of the complaint. Note what you felt.",
            Self::FailedTest => "The same test under the same conditions as before.",
        }
    }

    /// Before it is done.
    pub fn cautions(self) -> Vec<Caution> {
        match self {
            Self::Bleed => vec![caution::MOUTH, caution::DEPRESSURISE],
            Self::LeakOff => vec![caution::JET],
            Self::Start => vec![caution::WASHED, caution::RUNNING],
            Self::LeakRunning => vec![caution::JET, caution::RUNNING],
            Self::Drive | Self::RoadTest => vec![caution::ROAD],
            Self::Regeneration => vec![caution::REGENERATION],
            Self::Fitting | Self::Codes | Self::Cleared | Self::Rescan | Self::FailedTest => {
                Vec::new()
            }
        }
    }

    /// Whether it belongs to this fuel system.
    pub fn fits(self, fuel: FuelSystem) -> bool {
        match self {
            Self::Codes => fuel.coded(),
            Self::Regeneration => fuel == FuelSystem::ExhaustDoser,
            Self::Bleed
            | Self::Fitting
            | Self::LeakOff
            | Self::Start
            | Self::LeakRunning
            | Self::Cleared
            | Self::Drive
            | Self::Rescan
            | Self::RoadTest
            | Self::FailedTest => true,
        }
    }

    /// The program sees for itself whether it is good; nobody ticks it.
    pub fn is_seen(self) -> bool {
        match self {
            Self::Fitting | Self::Codes | Self::FailedTest => true,
            Self::Bleed
            | Self::LeakOff
            | Self::Start
            | Self::LeakRunning
            | Self::Cleared
            | Self::Drive
            | Self::Regeneration
            | Self::Rescan
            | Self::RoadTest => false,
        }
    }
}
