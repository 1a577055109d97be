//! The verdict of a bench test, and the words that all of them share.

use super::ctx::Ctx;
use crate::checks::{Because, Outcome};
use crate::mark::Mark;
use crate::said::{Code, Lack, Said};
use crate::work::join;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One injector in one row.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RowLane {
    /// Tag.
    pub tag: u32,
    /// As the strip draws it.
    pub mark: Mark,
    /// What the column is drawn by.
    pub value: Option<f64>,
    /// Its standard uncertainty.
    pub u: Option<f64>,
    /// As shown; several figures stand one below the other.
    pub shown: String,
    /// Against the others that agree, minus 1.
    pub share: Option<f64>,
    /// Why it is questioned; may be empty.
    pub says: String,
}

/// One row: a regime, a point, a pulse width.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchRow {
    /// From 1.
    pub row: u32,
    /// Its name.
    pub name: String,
    /// Conditions and what the row says, in words.
    pub says: String,
    /// What the numbers are.
    pub unit: String,
    /// Grade or state of the row in a word; may be empty.
    pub grade: String,
    /// Window of the limit or of what counts as alike.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub window: Option<[Option<f64>; 2]>,
    /// By tag.
    pub lanes: Vec<RowLane>,
}

/// The verdict on one injector.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchLane {
    /// Tag.
    pub tag: u32,
    /// As the strip draws it.
    pub mark: Mark,
    /// What it says to the rules.
    #[serde(default)]
    pub said: Said,
    /// The word under the mark.
    pub word: String,
    /// The number as shown; may be empty.
    pub shown: String,
    /// One sentence.
    pub sentence: String,
    /// The shim to fit next, µm.
    pub fit_um: Option<f64>,
    /// The reasons with their arithmetic.
    pub because: Vec<Because>,
    /// What would change this, or what to do next.
    pub would_change: Vec<String>,
}

/// The line that was fitted to a pulse sweep.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SweepLine {
    /// Tag.
    pub tag: u32,
    /// mm³ per pulse for each ms, the static flow over 60.
    pub slope: f64,
    /// Dead time, ms.
    pub offset_ms: f64,
    /// Its standard uncertainty, ms.
    pub u_offset_ms: f64,
    /// Shortest pulse on the line, ms.
    pub min_linear_ms: f64,
    /// Pulse in ms and quantity in mm³, all points that were read.
    pub points: Vec<[f64; 2]>,
}

/// The verdict of one test in one round.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchVerdict {
    /// The finding in one sentence.
    pub headline: String,
    /// What else to know or to do next.
    pub advice: Vec<String>,
    /// What lies over the whole result.
    pub flags: Vec<String>,
    /// In the order of the plan.
    pub rows: Vec<BenchRow>,
    /// By tag.
    pub lanes: Vec<BenchLane>,
    /// Lines of a pulse sweep.
    pub lines: Vec<SweepLine>,
    /// The test as a whole.
    pub outcome: Outcome,
}

impl BenchVerdict {
    /// The outcome follows the worst mark.
    pub(super) fn closed(mut self) -> Self {
        self.outcome = Outcome::worst(self.lanes.iter().map(|lane| lane.mark));
        self
    }
}

impl BenchLane {
    pub(super) fn new(tag: u32, mark: Mark, word: &str, sentence: impl Into<String>) -> Self {
        let code = match mark {
            Mark::NotMeasured => Code::NotRead,
            Mark::Undecided => Code::TooClose,
            Mark::Questioned => Code::Doubtful,
            Mark::Inside | Mark::TooMuch | Mark::TooLittle | Mark::Look => Code::Noted,
        };
        let (word, sentence) = (word.to_owned(), sentence.into());
        Self { tag, mark, said: code.into(), word, sentence, ..Self::default() }
    }

    /// What it says to the rules, where the mark alone does not tell.
    pub(super) fn says(mut self, code: Code) -> Self {
        self.said.code = code;
        self
    }

    /// How far off, in standard uncertainties.
    pub(super) fn off(mut self, distance: f64, u: f64) -> Self {
        self.said = self.said.off(distance, u);
        self
    }

    /// What the reading lacks, if it does.
    pub(super) fn lacking(mut self, lack: Lack, missing: bool) -> Self {
        self.said = self.said.lacking(lack, missing);
        self
    }

    pub(super) fn because(mut self, because: impl IntoIterator<Item = Because>) -> Self {
        self.because.extend(because);
        self
    }

    pub(super) fn shown(mut self, shown: impl Into<String>) -> Self {
        self.shown = shown.into();
        self
    }

    pub(super) fn then(mut self, next: impl Into<String>) -> Self {
        self.would_change.push(next.into());
        self
    }
}

/// A lane for each injector, `not read` where the function gives none.
pub(super) fn lanes(ctx: &Ctx<'_>, each: impl Fn(u32) -> Option<BenchLane>) -> Vec<BenchLane> {
    let not_read = |tag| BenchLane::new(tag, Mark::NotMeasured, "not read", "Not read yet.");
    ctx.tags().map(|tag| each(tag).unwrap_or_else(|| not_read(tag))).collect()
}

/// `Injector 2`, `Injectors 2 and 4`.
pub(super) fn named(tags: &[u32]) -> String {
    let noun = if tags.len() == 1 { "Injector" } else { "Injectors" };
    format!("{noun} {}", join(tags))
}

/// Tags of the lanes that say one of these.
pub(super) fn coded(lanes: &[BenchLane], codes: &[Code]) -> Vec<u32> {
    lanes.iter().filter(|lane| codes.contains(&lane.said.code)).map(|lane| lane.tag).collect()
}

/// Tags of the lanes with one of these marks.
pub(super) fn marked(lanes: &[BenchLane], marks: &[Mark]) -> Vec<u32> {
    lanes.iter().filter(|lane| marks.contains(&lane.mark)).map(|lane| lane.tag).collect()
}
