//! The vocabulary of a job, and what a job waits for.

mod code;
mod fit_step;
mod learned;
mod proof_item;
mod words;

pub use code::{Capture, SlotCode};
pub use fit_step::{FitStep, Trouble};
pub use learned::{Counter, Learned};
pub use proof_item::{ProveId, Told};

use crate::mark::Mark;
use crate::words::{cylinders, list};
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

/// How a job stands, for the board: where, in words, and how urgently.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Waits {
    /// The stage in which something waits.
    pub stage: Stage,
    /// What it waits for, a short phrase.
    pub words: String,
    /// How it should read at a glance.
    pub tone: Tone,
}

/// How a waiting line reads at a glance.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tone {
    /// Something runs.
    Running,
    /// A person has to act.
    Waiting,
    /// A measurement has to be repeated or made sharper.
    Unsure,
    /// Nothing is open.
    Done,
}

/// What is known of a job when it is asked what it waits for.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Standing<'a> {
    /// Whether the fuel system has a return to test.
    pub has_return: bool,
    /// Cylinders whose stored trim code nobody knows: a writing was begun and never read back.
    pub codes_unknown: &'a [u32],
    /// A run whose timer runs: its number.
    pub running: Option<u32>,
    /// Cylinders of the last run without a reading.
    pub unread: &'a [u32],
    /// Mark and cylinder of each injector, strip order.
    pub marks: &'a [(u32, Mark)],
    /// The sentence of the verdict, when there is one.
    pub headline: Option<&'a str>,
    /// Cylinders with a decision.
    pub decided: &'a [u32],
    /// Cylinders whose decision is to measure again.
    pub again: &'a [u32],
    /// Stage and words of what comes next.
    pub next: Option<(Stage, String)>,
    /// Cylinders whose decision has to be made again: its readings changed since.
    pub overtaken: &'a [u32],
    /// What the proof says, once fitting, coding or proving has begun.
    pub proving: Option<&'a str>,
    /// Closed: as proven, or with exceptions.
    pub closed: Option<bool>,
    /// Why it is not gone on with.
    pub cancelled: Option<&'a str>,
}

/// Says what a job waits for.
pub fn waits(standing: &Standing<'_>) -> Waits {
    let line = |stage, tone, words: String| Waits { stage, words, tone };
    if let Some(reason) = standing.cancelled {
        return line(Stage::Prove, Tone::Done, words::cancelled(reason));
    }
    if let Some(proven) = standing.closed {
        let words = if proven { "closed as proven" } else { "closed with exceptions" };
        return line(Stage::Prove, Tone::Done, words.to_owned());
    }
    // An engine with half a code in it runs, and is wrong: before anything else.
    if !standing.codes_unknown.is_empty() {
        let words = words::codes_not_known(cylinders(standing.codes_unknown));
        return line(Stage::Refit, Tone::Waiting, words);
    }
    if let Some(run) = standing.running {
        return line(Stage::OnEngine, Tone::Running, words::return_run_running(run));
    }
    // What was measured before something changed has a sentence, and no mark any more.
    let marked = standing.marks.iter().any(|(_, mark)| *mark != Mark::NotMeasured);
    let measured = marked || standing.headline.is_some();
    if !standing.unread.is_empty() {
        let which = list(standing.unread);
        return line(Stage::OnEngine, Tone::Waiting, words::bottle_not_read_yet(&which));
    }
    if !measured {
        if let Some((stage, words)) = &standing.next {
            return line(*stage, Tone::Waiting, words.clone());
        }
        return if standing.has_return {
            line(Stage::OnEngine, Tone::Waiting, words::RETURN_TEST_NOT_STARTED.to_owned())
        } else {
            line(Stage::TakeIn, Tone::Waiting, words::BOOKED_NOTHING_MEASURED.to_owned())
        };
    }
    if !standing.overtaken.is_empty() {
        let words = words::decide_again_readings_changed(list(standing.overtaken));
        return line(Stage::Decide, Tone::Unsure, words);
    }
    let cylinders: Vec<u32> = standing.marks.iter().map(|(cylinder, _)| *cylinder).collect();
    let open: Vec<u32> =
        cylinders.iter().copied().filter(|c| !standing.decided.contains(c)).collect();
    if open.is_empty() {
        return if let ([], Some(says)) = (standing.again, standing.proving) {
            line(Stage::Prove, Tone::Waiting, says.to_owned())
        } else if standing.again.is_empty() {
            line(Stage::Refit, Tone::Done, words::ALL_INJECTORS_DECIDED_REPORT.to_owned())
        } else {
            let which = list(standing.again);
            line(Stage::OnEngine, Tone::Unsure, format!("retest cylinder {which}"))
        };
    }
    let unsure = standing.marks.iter().any(|(cylinder, mark)| {
        open.contains(cylinder) && matches!(mark, Mark::Undecided | Mark::Questioned)
    });
    let tone = if unsure { Tone::Unsure } else { Tone::Waiting };
    let words = standing
        .headline
        .map_or_else(|| format!("{} of {} to decide", open.len(), cylinders.len()), str::to_owned);
    line(Stage::Decide, tone, words)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_board_says_the_most_pressing_thing_first() {
        let marks = [(1, Mark::Inside), (2, Mark::Undecided)];
        let fresh = Standing { has_return: true, ..Standing::default() };
        assert_eq!(waits(&fresh).words, "return test not started");
        let running =
            Standing { running: Some(2), unread: &[1, 2], marks: &marks, ..fresh.clone() };
        assert_eq!(waits(&running).tone, Tone::Running);
        let written = Standing { codes_unknown: &[2, 3], ..running.clone() };
        assert_eq!(waits(&written).words, "codes not known: cylinders 2 and 3. Read the ECU.");
        let reading = Standing { running: None, ..running };
        assert_eq!(waits(&reading).words, "bottle 1 and 2 not read yet");
        let open = Standing { unread: &[], headline: Some("2 is too close to call"), ..reading };
        assert_eq!((waits(&open).stage, waits(&open).tone), (Stage::Decide, Tone::Unsure));
        let repeat = Standing { decided: &[1, 2], again: &[2], ..open.clone() };
        assert_eq!(waits(&repeat).words, "retest cylinder 2");
        let done = Standing { again: &[], ..repeat };
        assert_eq!(waits(&done).tone, Tone::Done);
        let fitting = Standing { proving: Some("7 of 11 proven."), ..done };
        assert_eq!((waits(&fitting).stage, waits(&fitting).tone), (Stage::Prove, Tone::Waiting));
        let moved = Standing { overtaken: &[2], proving: None, ..fitting.clone() };
        assert_eq!(waits(&moved).words, "decide 2 again: readings changed since");
        let closed = Standing { closed: Some(false), ..fitting };
        assert_eq!(waits(&closed).words, "closed with exceptions");
    }
}
