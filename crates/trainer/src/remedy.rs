//! What puts a fault right, as it is done and decided.

use cobaltine_core::exercise::SharedPart;
use cobaltine_core::work::Decision;
use cobaltine_engines::fault::{Fault, Remedy};

/// What puts a shared fault right.
pub(crate) fn puts_right(fault: Fault) -> Option<SharedPart> {
    match fault {
        Fault::Fuel => Some(SharedPart::Fuel),
        Fault::Air => Some(SharedPart::SuctionLine),
        Fault::Feed => Some(SharedPart::FeedPressure),
        Fault::Power => Some(SharedPart::SupplyVoltage),
        Fault::Pressure => Some(SharedPart::HighPressure),
        Fault::Mixture => Some(SharedPart::Intake),
        Fault::Deposits
        | Fault::Basket
        | Fault::Wear
        | Fault::SeatWear
        | Fault::SeatDirt
        | Fault::Gum
        | Fault::Lift
        | Fault::Guide
        | Fault::Valve
        | Fault::CoilOpen
        | Fault::CoilShort
        | Fault::Body
        | Fault::Washer
        | Fault::Code
        | Fault::Wire
        | Fault::Driver
        | Fault::Line
        | Fault::Compression
        | Fault::Spark => None,
    }
}

/// What is decided where this is the remedy.
pub(crate) fn right(remedy: Option<Remedy>) -> Decision {
    match remedy {
        None | Some(Remedy::Shared) => Decision::Leave,
        Some(Remedy::Clean) => Decision::Clean,
        Some(Remedy::Renew) => Decision::Replace,
        Some(Remedy::Adjust) => Decision::Adjust,
        Some(Remedy::Recode) => Decision::Recode,
        Some(Remedy::Harness) => Decision::RepairHarness,
        Some(Remedy::Place) => Decision::LookElsewhere,
    }
}
