//! Sentences of the trainer.

use crate::came_out::CameOut;
use crate::step::Step;
use cobaltine_core::exercise::SharedPart;
use cobaltine_core::record::DecisionRecord;
use cobaltine_core::tests::bench::RoundStage;
use cobaltine_core::words::list;
use cobaltine_engines::fault::Fault;
use cobaltine_engines::truth::State;
use std::fmt::Display;

pub(crate) const NO_SUCH_CASE: &str = "No case of this name. Choose one from the trainer.";
pub(crate) const MADE_UP_ENGINE: &str = "made-up engine";

pub(crate) fn drawn_title(seed: impl Display) -> String {
    format!("Case {seed}")
}

/// Machines of cases that are drawn.
pub(crate) const MACHINES: [&str; 8] = [
    "Hay tedder tractor",
    "Canal dredger Plover",
    "Quarry truck 12",
    "Postal van 4",
    "Sawmill loader",
    "Pilot boat Bittern",
    "Road roller 9",
    "Estate car of the vet",
];

// best

pub(crate) fn step(step: Step) -> String {
    match step {
        Step::Check(check) => check.title().to_owned(),
        Step::PutRight(part) => format!("Repair: {}", put_right(part)),
        Step::WarmUp => "Warm up the engine".to_owned(),
        Step::Returns => "Return test (leak-off), three runs".to_owned(),
        Step::Codes => "Read the trim codes".to_owned(),
        Step::Bench => "Test the injectors on the bench".to_owned(),
    }
}

/// What is repaired of what all cylinders share.
pub(crate) fn put_right(part: SharedPart) -> &'static str {
    match part {
        SharedPart::Fuel => "drain and refill the tank",
        SharedPart::SuctionLine => "seal the suction line",
        SharedPart::FeedPressure => "renew filter and feed pump",
        SharedPart::SupplyVoltage => "repair supply and earth",
        SharedPart::HighPressure => "renew the relief valve",
        SharedPart::Intake => "seal the intake",
    }
}

// protocol

pub(crate) const SET_UP: &str = "Return test set up";
pub(crate) const WARM_UP: &str = "Engine warmed up";
pub(crate) const PLACED: &str = "Injectors put into other cylinders";
pub(crate) const CLEARED: &str = "Fuel cleared from the cylinders";
pub(crate) const CODES_READ: &str = "Trim codes read";
pub(crate) const CODES_WRITTEN: &str = "Trim codes written";

pub(crate) fn on_bench(stage: RoundStage) -> String {
    format!("Bench, {}", stage.word())
}

pub(crate) fn repaired(part: SharedPart) -> String {
    format!("Repaired: {}", put_right(part))
}

pub(crate) fn swapped(one: u32, other: u32) -> String {
    format!("Cylinders {one} and {other} swapped")
}

pub(crate) fn replaced(cylinder: u32) -> String {
    format!("Cylinder {cylinder}: another injector fitted")
}

pub(crate) fn decided(one: &DecisionRecord) -> String {
    format!("Cylinder {}: {}", one.cylinder, one.decision.word().to_lowercase())
}

// mistakes

pub(crate) fn runs(numbers: &[u32]) -> String {
    match numbers {
        [one] => format!("Run {one}"),
        more => format!("Runs {}", list(more)),
    }
}

pub(crate) fn run_cold(runs: &str) -> String {
    format!("{runs}: the engine was cold.")
}

pub(crate) fn run_unpurged(runs: &str) -> String {
    format!("{runs}: air was left in the hoses or in the return rail.")
}

pub(crate) fn run_not_ready(runs: &str) -> String {
    format!("{runs}: the machine was not secured, or its exhaust not extracted.")
}

pub(crate) const STARTS_DIFFER: &str = "Balance: the start pressures differ by more than 2 %.";
pub(crate) const NO_BRACKET: &str =
    "Balance: the first injector was not measured again at the end.";

pub(crate) fn lamp(cylinder: u32) -> String {
    format!("Cylinder {cylinder}: a lamp was the only electrical check before the decision.")
}

pub(crate) fn no_evidence(cylinder: u32) -> String {
    format!("Cylinder {cylinder}: no reading of this injector stands against it.")
}

pub(crate) const NOT_READ_BACK: &str = "Trim codes were written and not read back.";

pub(crate) fn not_written(cylinder: u32) -> String {
    format!("Cylinder {cylinder}: its trim code was decided on and never written.")
}

pub(crate) fn unsafe_step(title: &str) -> String {
    format!("{title}: begun while it could do harm.")
}

// marks

/// What is wrong, as the truth is told.
pub(crate) fn fault(fault: Fault) -> &'static str {
    match fault {
        Fault::Deposits => "holes restricted by deposits",
        Fault::Basket => "filter basket blocked",
        Fault::Wear => "holes worn wide",
        Fault::SeatWear => "seat worn: drips",
        Fault::SeatDirt => "seat held open by dirt",
        Fault::Gum => "sticks: opens late",
        Fault::Lift => "valve lift too low",
        Fault::Guide => "guide worn: returns too much",
        Fault::Valve => "control valve leaks",
        Fault::CoilOpen => "coil open",
        Fault::CoilShort => "coil with shorted turns",
        Fault::Body => "insulation to the body lost",
        Fault::Washer => "washer leaks exhaust gas",
        Fault::Code => "trim code of another injector stored",
        Fault::Wire => "wire with too much resistance, or open",
        Fault::Driver => "driver weak or dead",
        Fault::Line => "line restricted",
        Fault::Compression => "compression lost",
        Fault::Spark => "spark weak or missing",
        Fault::Fuel => "wrong fuel or water in the tank",
        Fault::Air => "air in the suction line",
        Fault::Feed => "feed pressure too low",
        Fault::Power => "supply voltage too low",
        Fault::Pressure => "rail pressure lost at pump or relief valve",
        Fault::Mixture => "intake leak or sensor",
    }
}

pub(crate) fn state(state: State) -> &'static str {
    match state {
        State::Sound => "sound",
        State::Marginal => "serviceable",
        State::Faulty => "faulty",
    }
}

pub(crate) fn outcome(outcome: CameOut) -> &'static str {
    match outcome {
        CameOut::Found => "found",
        CameOut::OtherRemedy => "wrong remedy",
        CameOut::Missed => "missed",
        CameOut::Condemned => "condemned",
        CameOut::Blamed => "named wrongly",
        CameOut::Right => "left, sound",
        CameOut::Undecided => "left open",
        CameOut::Marginal => "serviceable",
    }
}

pub(crate) fn came_out(found: usize, missed: usize, condemned: usize) -> String {
    let all = match (found, missed) {
        (0, 0) => "Nothing was wrong".to_owned(),
        (found, 0) => format!("Found {found} of {found}"),
        (found, missed) => format!("Found {found} of {}", found + missed),
    };
    match condemned {
        0 => format!("{all}, no sound injector condemned."),
        1 => format!("{all}, one sound injector condemned."),
        more => format!("{all}, {more} sound injectors condemned."),
    }
}
