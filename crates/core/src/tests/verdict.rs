//! What a test says: one verdict with its lanes, and with its rows where it has some.

use super::{Because, Outcome, School};
use crate::mark::Mark;
use crate::said::{Code, Lack, Said};
use crate::tests::engine::Residual;
use crate::tests::words;
use serde::Serialize;
use utoipa::ToSchema;

/// What is said of one injector.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Lane {
    /// The cylinder on the engine, the tag on the bench.
    pub place: u32,
    /// As the strip draws it.
    pub mark: Mark,
    /// What it says to the rules.
    pub said: Said,
    /// The word under the mark.
    pub word: String,
    /// What the column is drawn by.
    pub value: Option<f64>,
    /// Its standard uncertainty, where it is known.
    pub u: Option<f64>,
    /// The value is a lower bound.
    pub at_least: bool,
    /// The number as shown, digits by its uncertainty; several figures stand one below the other.
    pub shown: String,
    /// A second number beside it, with its word; may be empty.
    pub also: String,
    /// Against the others that agree, minus 1: what a swap compares.
    pub share: Option<f64>,
    /// One sentence; may be empty.
    pub sentence: String,
    /// The reasons with their arithmetic.
    pub because: Vec<Because>,
    /// What would change this, or what to do next.
    pub would_change: Vec<String>,
    /// The shim to fit next, µm.
    pub fit_um: Option<f64>,
    /// Why it is not of now, such as `before the swap`; empty where it counts.
    pub standing: String,
}

/// One row: a phase of a run, a regime, a point of a map, a pulse width.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Row {
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
    /// It leads the verdict.
    pub leads: bool,
    /// Window of the limit or of what counts as alike.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub window: Option<[Option<f64>; 2]>,
    /// By cylinder or tag.
    pub lanes: Vec<Lane>,
}

/// The line that was fitted to a pulse sweep.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
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

/// The verdict of a test.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Verdict {
    /// The finding in one sentence.
    pub headline: String,
    /// What else to know or to do next.
    pub advice: Vec<String>,
    /// What lies over the whole result, such as an instrument overdue for calibration.
    pub flags: Vec<String>,
    /// Per injector, in the order of the strip or of the tags.
    pub lanes: Vec<Lane>,
    /// Phases of a return test, regimes or points of the bench.
    pub rows: Vec<Row>,
    /// What the columns show.
    pub unit: String,
    /// What the second number of a lane is; empty when there is none.
    pub also: String,
    /// Window of the limit or of what counts as alike.
    #[schema(value_type = Option<Vec<Option<f64>>>)]
    pub window: Option<[Option<f64>; 2]>,
    /// What the window is.
    pub window_word: String,
    /// Mean of those that agree.
    pub reference: Option<f64>,
    /// An upper limit that was applied, in the unit of the columns.
    pub limit: Option<f64>,
    /// Why the library's limit was not applied, or that there is none.
    pub limit_note: String,
    /// Comparison carries a verdict.
    pub settled: bool,
    /// Top of the common scale.
    pub scale: f64,
    /// Runs that count.
    pub runs: u32,
    /// Every school's own result, where they differ.
    pub schools: Vec<School>,
    /// The lane that is looked at first: what presses most, else the first that was read.
    pub pressing: Option<u32>,
    /// The test as a whole.
    pub outcome: Outcome,
    /// Fuel left in the cylinders, where the test leaves some.
    pub residual: Vec<Residual>,
    /// What has to be settled before this test condemns anybody; may be empty.
    pub doubt: String,
    /// What it says of all cylinders at once, where it does.
    pub shared: Option<Said>,
    /// Lines of a pulse sweep.
    pub lines: Vec<SweepLine>,
}

impl Verdict {
    /// The outcome follows the worst mark.
    pub(super) fn closed(mut self) -> Self {
        self.outcome = Outcome::worst(self.lanes.iter().map(|lane| lane.mark));
        self.pressing = pressing(&self.lanes);
        self
    }
}

impl Lane {
    /// A lane that says what its mark says, until a code does.
    pub(super) fn new(place: u32, mark: Mark, word: &str, sentence: impl Into<String>) -> Self {
        let code = match mark {
            Mark::NotMeasured => Code::NOT_READ,
            Mark::Undecided => Code::TOO_CLOSE,
            Mark::Questioned => Code::DOUBTFUL,
            Mark::Inside | Mark::TooMuch | Mark::TooLittle | Mark::Look => Code::NOTED,
        };
        let (word, sentence) = (word.to_owned(), sentence.into());
        Self { place, mark, said: code.into(), word, sentence, ..Self::default() }
    }

    /// Nothing was read.
    pub(super) fn not_read(place: u32) -> Self {
        Self::new(place, Mark::NotMeasured, "not read", words::NOT_READ_YET)
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

/// The lane that the eye goes to first.
pub(super) fn pressing(lanes: &[Lane]) -> Option<u32> {
    const PRESSING: [Mark; 5] =
        [Mark::TooMuch, Mark::TooLittle, Mark::Questioned, Mark::Undecided, Mark::Look];
    let marked = |mark: &Mark| lanes.iter().find(|lane| lane.mark == *mark);
    let read = || lanes.iter().find(|lane| lane.mark != Mark::NotMeasured);
    PRESSING.iter().find_map(marked).or_else(read).map(|lane| lane.place)
}

/// Places of the lanes that say one of these.
pub(super) fn coded(lanes: &[Lane], codes: &[Code]) -> Vec<u32> {
    lanes.iter().filter(|lane| codes.contains(&lane.said.code)).map(|lane| lane.place).collect()
}

/// Places of the lanes with one of these marks.
pub(super) fn marked(lanes: &[Lane], marks: &[Mark]) -> Vec<u32> {
    lanes.iter().filter(|lane| marks.contains(&lane.mark)).map(|lane| lane.place).collect()
}
