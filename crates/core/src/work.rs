//! The vocabulary of a job, and what a job waits for.

mod code;
mod fit_step;
mod learned;
mod proof_item;
mod waits;
mod words;

pub use code::{Capture, SlotCode};
pub use fit_step::{FitStep, Trouble};
pub use learned::{Counter, Learned};
pub use proof_item::{ProveId, Told};
pub use waits::{Progress, Tone, Waits, waits};

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Names a step: a check, a step without one, or the event that added it.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct StepId(pub String);

/// The stages of a job in the order of work. Nobody is held to the order.
#[derive(
    Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum Stage {
    /// Machine, engine, complaint.
    #[default]
    TakeIn,
    /// What is not the injector.
    RuleOut,
    /// Supply, control, coils.
    Electrical,
    /// Comparison on the engine.
    OnEngine,
    /// Off the engine.
    Bench,
    /// The judgement call.
    Decide,
    /// Back in, with its code.
    Refit,
    /// The failed test repeated.
    Prove,
}

/// What is done about one injector.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Decision {
    /// Nothing speaks against it.
    Leave,
    /// Restricted, and cleaning can help.
    Clean,
    /// Lift, valve or nozzle work.
    Adjust,
    /// Its code is wrong or missing.
    Recode,
    /// Into another set or another cylinder.
    Match,
    /// Another injector takes its place.
    Replace,
    /// The wire, not the injector.
    RepairHarness,
    /// The cause is elsewhere.
    LookElsewhere,
    /// The number cannot carry a decision.
    MeasureAgain,
}

/// A complaint in standard terms.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Symptom {
    /// Misfire at light load.
    MisfireLightLoad,
    /// Misfire under load.
    MisfireLoad,
    /// Rough idle.
    RoughIdle,
    /// Long crank, cold.
    LongCrankCold,
    /// Long crank, hot.
    LongCrankHot,
    /// Does not start.
    NoStart,
    /// Black smoke.
    BlackSmoke,
    /// White smoke.
    WhiteSmoke,
    /// Blue smoke.
    BlueSmoke,
    /// High consumption.
    HighConsumption,
    /// Knock.
    Knock,
    /// Low power.
    LowPower,
    /// No fault: check and clean.
    CheckAndClean,
}

/// When the complaint shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Condition {
    /// Cold engine.
    Cold,
    /// Hot engine.
    Hot,
    /// At idle.
    Idle,
    /// At light load.
    LightLoad,
    /// Under load.
    Load,
    /// While cranking.
    Cranking,
    /// After standing.
    AfterStanding,
    /// After refuelling.
    AfterRefuelling,
}

/// What became of the complaint after a repair.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ComplaintNow {
    /// It is gone.
    Gone,
    /// It is better, and still there.
    Better,
    /// It is as it was.
    Same,
}

impl ComplaintNow {
    /// In a sentence: what it means for the job.
    pub(crate) fn says(self) -> &'static str {
        match self {
            Self::Gone => words::COMPLAINT_GONE,
            Self::Better => words::COMPLAINT_BETTER,
            Self::Same => words::COMPLAINT_SAME,
        }
    }
}

/// What changed lately.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Lately {
    /// Refuelled somewhere unusual.
    RefuelledElsewhere,
    /// Ran dry.
    RanDry,
    /// The fuel filter was changed.
    FilterChanged,
    /// Injectors were out or exchanged.
    InjectorsOut,
    /// Another repair.
    OtherRepair,
    /// Stood for a long time.
    StoodLong,
}

/// Which cylinders suffer, as told or heard.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Suffers {
    /// Nobody knows yet.
    #[default]
    NotKnown,
    /// One.
    One,
    /// Several.
    Several,
    /// All of them.
    All,
}

/// Whether fault codes were read. A fault can be mechanical with none stored.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FaultCodes {
    /// Not read yet.
    #[default]
    NotRead,
    /// Read, none stored.
    None,
    /// Some are stored.
    Stored,
}

/// Engine regime of a return test.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Regime {
    /// Idle for the whole time.
    #[default]
    IdleOnly,
    /// Idle, raised speed, idle.
    Stepped,
    /// Cranking, for an engine that does not start.
    Cranking,
}

/// A phase of a stepped return test; each is collected in emptied bottles of its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Phase {
    /// Idle, before.
    Idle,
    /// Raised speed.
    Raised,
    /// Idle again.
    IdleAgain,
}

impl Phase {
    /// In the order of running.
    pub const ALL: [Self; 3] = [Self::Idle, Self::Raised, Self::IdleAgain];
}

impl Regime {
    /// Every regime.
    pub const ALL: [Self; 3] = [Self::IdleOnly, Self::Stepped, Self::Cranking];

    /// As it is written as the condition of a limit: stored data, so never reworded.
    pub fn condition(self) -> &'static str {
        match self {
            Self::IdleOnly => "idle only",
            Self::Stepped => "stepped",
            Self::Cranking => "cranking",
        }
    }

    /// The regime that a condition names, in any case; plain `idle` is idle only.
    pub fn named(condition: &str) -> Option<Self> {
        let said = condition.trim().to_lowercase();
        let said = if said == "idle" { Self::IdleOnly.condition() } else { said.as_str() };
        Self::ALL.into_iter().find(|regime| regime.condition() == said)
    }
}

/// Why a reading is corrected, as it is chosen; other words are kept as they are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Correction {
    /// The keys slipped: the bottle was not looked at again.
    TypingSlip,
    /// It was looked at again.
    Misread,
    /// It belongs to another cylinder.
    WrongColumn,
    /// A tap beside the one that was meant.
    TappedByMistake,
}

impl Correction {
    /// Every one.
    pub const ALL: [Self; 4] =
        [Self::TypingSlip, Self::Misread, Self::WrongColumn, Self::TappedByMistake];

    /// As it is kept; readings of before have its word of that time.
    fn written(self) -> [&'static str; 2] {
        match self {
            Self::TypingSlip => ["typing_slip", "typing slip"],
            Self::Misread => ["misread", "misread"],
            Self::WrongColumn => ["wrong_column", "wrong column"],
            Self::TappedByMistake => ["tapped_by_mistake", "tapped by mistake"],
        }
    }

    /// The one that this text stands for, if it is none of somebody's own words.
    pub fn named(text: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|one| one.written().contains(&text.trim()))
    }
}
