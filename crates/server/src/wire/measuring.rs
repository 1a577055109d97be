//! What goes over the wire about the library, the instruments, the house rules and re-judging.

use super::typed::Reader;
use crate::extract::now;
use crate::words;
use cobaltine_core::calc::CalcError;
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::library::{COLUMNS, CoilClass, DATED, LibraryFamily, LibraryItem, LimitEntry};
use cobaltine_core::passport::Counted;
use cobaltine_core::quantity::trimmed;
use cobaltine_core::record::Rejudged;
use cobaltine_core::record::{FieldProblem, Person};
use cobaltine_core::rules::{RuleId, shown};
use cobaltine_core::tests::Verdict;
use cobaltine_core::tests::bench::PointSaid;
use cobaltine_core::tests::can_decide::CanDecide;
use cobaltine_core::tests::house_reference::HouseReference;
use cobaltine_core::typed::Field;
use cobaltine_core::units;
use cobaltine_core::work::Regime;
use cobaltine_store::{Change, DecisionTurned, LibraryChange, LineKind, RuleRecord};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// The question to the library.
#[derive(Debug, Deserialize, IntoParams)]
pub struct LibraryParams {
    /// Words to find.
    #[serde(default)]
    pub q: String,
    /// Only lines of this kind.
    pub kind: Option<LineKind>,
    /// From 0.
    #[serde(default)]
    pub page: u32,
    /// At most 100; 30 when missing.
    pub per_page: Option<u32>,
}

/// A family with everything that is known of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct FamilyView {
    /// Name and specification.
    pub family: LibraryFamily,
    /// How it is tightened, stage by stage.
    pub tightening: Vec<String>,
    /// How its coil is judged.
    pub coil_class: CoilClass,
    /// All revisions of its limits, newest first within each check and condition.
    pub limits: Vec<LimitEntry>,
    /// Each limit in words, in the same order.
    pub windows: Vec<String>,
    /// What the house itself measured.
    pub references: Vec<Reference>,
    /// How its decisions about this family turned out, most frequent first.
    pub turned_out: Vec<DecisionTurned>,
    /// What that says of the odds that one that is left in comes back.
    pub counted: Counted,
    /// The odds as counted; none while too few were.
    pub counted_odds: Option<f64>,
}

/// An engine or a test plan, with the conditions of its points as they are said.
#[derive(Debug, Serialize, ToSchema)]
pub struct ItemView {
    /// The engine or plan.
    pub item: LibraryItem,
    /// Of a plan, in the order of its points.
    pub points: Vec<PointSaid>,
    /// Of a preset, cell by cell in words.
    pub settings: Vec<String>,
}

/// The house's own reference for one condition, or why there is none yet.
#[derive(Debug, Serialize, ToSchema)]
pub struct Reference {
    /// Condition.
    pub regime: Regime,
    /// The reference.
    pub reference: Option<HouseReference>,
    /// Why there is none.
    pub refused: Option<String>,
}

impl Reference {
    pub(crate) fn of(regime: Regime, answer: Result<HouseReference, CalcError>) -> Self {
        match answer {
            Ok(reference) => Self { regime, reference: Some(reference), refused: None },
            Err(error) => Self {
                regime,
                reference: None,
                refused: Some(words::no_workshop_reference_yet(&error)),
            },
        }
    }
}

/// How a library file is written.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TextFormat {
    /// Limits as rows.
    Csv,
    /// Everything.
    Json,
}

/// A library file as text.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LibraryText {
    /// How it is written.
    pub format: TextFormat,
    /// The file.
    pub text: String,
    /// Take the good rows in even when others cannot be read.
    #[serde(default)]
    pub leave_out_bad_rows: bool,
    /// What each column of a CSV file is, empty for one that is left out; none at all to take what
    /// was said last time, or what their words say.
    #[serde(default)]
    pub columns: Vec<String>,
}

/// One thing wrong with one cell.
#[derive(Debug, Serialize, ToSchema)]
pub struct RowProblem {
    /// Row, as a spreadsheet counts.
    pub row: u32,
    /// Column.
    pub field: String,
    /// What to do.
    pub message: String,
}

impl RowProblem {
    pub(crate) fn as_field(&self) -> FieldProblem {
        FieldProblem::new(format!("row {}, {}", self.row, self.field), self.message.clone())
    }
}

/// What a file would change, or did.
#[derive(Debug, Serialize, ToSchema)]
pub struct LibraryPreview {
    /// Entries that are new.
    pub adds: usize,
    /// Entries that get a newer revision.
    pub revises: usize,
    /// Entries that are here already, the very same.
    pub same: usize,
    /// Rows that cannot be read.
    pub bad_rows: usize,
    /// The first changes; entries that stay the same are only counted.
    pub changes: Vec<LibraryChange>,
    /// The first problems, row by row.
    pub problems: Vec<RowProblem>,
    /// Columns of a CSV file as they are headed.
    pub headings: Vec<String>,
    /// What each is taken for.
    pub columns: Vec<String>,
    /// What the columns can be.
    pub known: Vec<&'static str>,
    /// Why no row was read yet.
    pub refused: Option<String>,
}

impl LibraryPreview {
    pub(crate) fn of(
        changes: Vec<LibraryChange>,
        mut problems: Vec<RowProblem>,
        shown: usize,
    ) -> Self {
        let count = |wanted| changes.iter().filter(|change| change.change == wanted).count();
        let (adds, revises, same) =
            (count(Change::Adds), count(Change::Revises), count(Change::Same));
        let mut rows: Vec<u32> = problems.iter().map(|problem| problem.row).collect();
        rows.dedup();
        problems.truncate(shown);
        let mut changes: Vec<LibraryChange> =
            changes.into_iter().filter(|change| change.change != Change::Same).collect();
        changes.truncate(shown);
        Self {
            adds,
            revises,
            same,
            bad_rows: rows.len(),
            changes,
            problems,
            headings: Vec::new(),
            columns: Vec::new(),
            known: COLUMNS.into_iter().chain([DATED]).collect(),
            refused: None,
        }
    }
}

/// An instrument beside today's date.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentView {
    /// The instrument.
    pub instrument: Instrument,
    /// The unit of its resolution.
    pub unit: &'static str,
    /// Its calibration has run out.
    pub overdue: bool,
    /// Days until it does; negative when it has.
    pub days_left: Option<i32>,
    /// What a reading is worth, in words.
    pub says: String,
}

impl InstrumentView {
    pub(crate) fn of(instrument: Instrument, today: Date) -> Self {
        let canonical = instrument.kind.unit();
        let unit = units::unit(canonical);
        let step = match instrument.kind {
            InstrumentKind::Bottles | InstrumentKind::Bench => "a mark every",
            InstrumentKind::Meter | InstrumentKind::Gauge | InstrumentKind::Timer => "shows",
        };
        let mut says = format!("{step} {}", units::said(instrument.resolution, canonical));
        if let Some(capacity) = instrument.capacity_ml {
            says += &format!(", holds {} ml", trimmed(capacity));
        }
        if instrument.accuracy_pct > 0.0 || instrument.accuracy_digits > 0.0 {
            let unit = if instrument.kind.catches_volume() { "marks" } else { "digits" };
            let parts = [(instrument.accuracy_pct, "%"), (instrument.accuracy_digits, unit)];
            let parts: Vec<String> = parts
                .into_iter()
                .filter(|(value, _)| *value > 0.0)
                .map(|(value, unit)| format!("{} {unit}", trimmed(value)))
                .collect();
            says += &match parts.as_slice() {
                [one] => format!(", ±{one}"),
                several => format!(", ±({})", several.join(" + ")),
            };
        }
        if let Some(lead) = instrument.lead_ohm {
            says += &format!(", leads {} Ω", trimmed(lead));
        }
        let days_left = instrument
            .calibration_due
            .and_then(|due| today.until(due).ok().map(|span| span.get_days()));
        let overdue = instrument.overdue(today).is_some();
        Self { overdue, days_left, unit, says, instrument }
    }
}

/// Can this instrument decide this limit? All as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CanDecideRequest {
    /// Which instrument.
    pub instrument: Uuid,
    /// Timer of a volume over a time; the house rule without one.
    pub timer: Option<Uuid>,
    /// Lower limit; may be empty.
    pub lower: String,
    /// Upper limit; may be empty.
    pub upper: String,
    /// Length of a run, for a volume over a time.
    pub planned: String,
}

/// One house rule.
#[derive(Debug, Serialize, ToSchema)]
pub struct RuleView {
    /// Which.
    pub id: RuleId,
    /// The check that it belongs to.
    pub about: &'static str,
    /// Its name.
    pub word: &'static str,
    /// What it does.
    pub says: &'static str,
    /// Its unit.
    pub unit: &'static str,
    /// As it stands, to be typed over.
    pub typed: String,
    /// As it stands, with its unit.
    pub shown: String,
    /// What the trade usually does.
    pub default: String,
    /// The schools to choose from, when it is a choice.
    pub choices: &'static [&'static str],
    /// Revision that it stands at; 0 for the trade's default.
    pub revision: u32,
    /// Changes, newest first.
    pub history: Vec<RuleHistory>,
}

/// One change of a rule.
#[derive(Debug, Serialize, ToSchema)]
pub struct RuleHistory {
    /// Counted over all rules.
    pub revision: u32,
    /// What it was set to.
    pub shown: String,
    /// Why.
    pub reason: String,
    /// By whom.
    pub by: String,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: jiff::Timestamp,
}

impl RuleView {
    pub(crate) fn of(rule: RuleId, changes: &[RuleRecord], people: &[Person]) -> Self {
        let spec = rule.spec();
        let own = changes.iter().rev().filter(|change| change.rule == rule);
        let history: Vec<RuleHistory> = own
            .clone()
            .map(|change| RuleHistory {
                revision: change.revision,
                shown: shown(rule, change.value),
                reason: change.reason.clone(),
                by: people
                    .iter()
                    .find(|person| person.id == change.signed.by)
                    .map_or_else(String::new, |person| person.name.clone()),
                at: change.signed.at,
            })
            .collect();
        let newest = own.clone().next();
        let value = newest.map_or(spec.default, |change| change.value);
        Self {
            id: rule,
            about: spec.about,
            word: spec.word,
            says: spec.says,
            unit: spec.field.unit(),
            typed: spec.field.said(value),
            shown: shown(rule, value),
            default: shown(rule, spec.default),
            choices: spec.choices,
            revision: newest.map_or(0, |change| change.revision),
            history,
        }
    }
}

/// A rule to change.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RuleRequest {
    /// The revision that was changed; 0 for the trade's default.
    pub revision: u32,
    /// As typed.
    pub typed: String,
    /// Why the house does it so.
    pub reason: String,
}

/// Weights of judgement to put in the place of others.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightsRequest {
    /// The revision that was changed; 0 for those that ship with the program.
    pub revision: u32,
    /// The whole file.
    pub text: String,
    /// Why the house weighs it so.
    pub reason: String,
}

/// One row of the weights with other numbers.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightRowRequest {
    /// The revision that was changed; 0 for those that ship with the program.
    pub revision: u32,
    /// Which row.
    pub key: Vec<String>,
    /// Its numbers as typed, in the order of its cells.
    pub values: Vec<String>,
    /// Why the workshop weighs it so.
    pub reason: String,
}

impl WeightRowRequest {
    /// The numbers, or what cannot be read.
    pub(crate) fn numbers(&self) -> Result<Vec<f64>, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let field = Field::<f64>::from_zero("", 1e6);
        let read = self.values.iter().map(|typed| reader.needed("values", field, typed)).collect();
        reader.done(read)
    }
}

/// What a return test would be judged by, and whether its bottles can carry that.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetUpPreview {
    /// The limit of the library, in words, or that there is none.
    pub limit: String,
    /// The library has a limit that holds here.
    pub holds: bool,
    /// The house's own reference, offered when nobody published a limit.
    pub reference: Option<Reference>,
    /// Whether the bottles can decide what would be judged.
    pub can_decide: Option<CanDecide>,
    /// How long a run must be so that the set can be compared, in words.
    pub plan: Option<String>,
    /// Instruments overdue for calibration.
    pub flags: Vec<String>,
}

/// An old test judged by today's library and rules. Nothing is rewritten.
#[derive(Debug, Serialize, ToSchema)]
pub struct RejudgeView {
    /// What is judged by now.
    pub verdict: Verdict,
    /// What changed, in words.
    pub difference: Rejudged,
    /// When it was judged anew.
    #[schema(value_type = String, format = DateTime)]
    pub at: jiff::Timestamp,
}

impl RejudgeView {
    pub(crate) fn of(verdict: Verdict, difference: Rejudged) -> Self {
        Self { verdict, difference, at: now() }
    }
}
