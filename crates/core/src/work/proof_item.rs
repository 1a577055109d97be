//! The items of a proof, in the order of work.

use crate::caution::{self, Caution};
use crate::engine::FuelSystem;
use crate::named::named;
use crate::work::words;

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
            Self::Fitting => words::FITTED_STEP_STEP,
            Self::Codes => words::TRIM_CODES_READ_BACK,
            Self::Bleed => "Bled and primed",
            Self::LeakOff => words::LEAK_CHECK_ENGINE_OFF,
            Self::Start => "Started, listened",
            Self::LeakRunning => "Leak check, running",
            Self::Cleared => "Learned values cleared",
            Self::Drive => "Relearn drive",
            Self::Regeneration => "Regeneration",
            Self::Rescan => words::FAULT_CODES_READ_AGAIN,
            Self::RoadTest => "Road test",
            Self::FailedTest => words::FAILED_TEST_REPEATED,
        }
    }

    /// What to do.
    pub fn how(self) -> &'static str {
        match self {
            Self::Fitting => words::EVERY_REMOVED_INJECTOR_EVERY,
            Self::Codes => words::EVERY_CYLINDER_HOLDS_TRIM,
            Self::Bleed => words::HAND_PRIMER_TANKS_OWN,
            Self::LeakOff => words::PRIME_PRESSURE_WAIT_CHECK,
            Self::Start => words::SHORT_CRANK_LET_SETTLE,
            Self::LeakRunning => words::LAMP_CARDBOARD_NEVER_HAND,
            Self::Cleared => words::IGNITION_ENGINE_OFF_READ,
            Self::Drive => words::REPEAT_EACH_KIND_RUN,
            Self::Regeneration => words::LET_DOSER_REGENERATE_ONCE,
            Self::Rescan => words::READ_AGAIN_AFTER_DRIVE,
            Self::RoadTest => words::UNDER_CONDITIONS_COMPLAINT_NOTE,
            Self::FailedTest => words::SAME_TEST_UNDER_SAME,
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

    /// A tick alone proves nothing: who passes it says what was seen.
    pub fn needs_words(self) -> bool {
        match self {
            Self::Cleared | Self::Drive | Self::Regeneration | Self::Rescan | Self::RoadTest => {
                true
            }
            Self::Fitting
            | Self::Codes
            | Self::Bleed
            | Self::LeakOff
            | Self::Start
            | Self::LeakRunning
            | Self::FailedTest => false,
        }
    }
}
