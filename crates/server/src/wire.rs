//! Everything that goes over the wire and is not a record of the core already. The
//! TypeScript types are generated from these; they are written nowhere else.

mod measuring;
mod typed;

use typed::Reader;
pub use typed::{FamilyRequest, InstrumentRequest};

pub use measuring::{
    CanDecideRequest, FamilyView, InstrumentView, LibraryParams, LibraryPreview, LibraryText,
    Reference, RejudgeView, RowProblem, RuleHistory, RuleRequest, RuleView, SetUpPreview,
    TextFormat,
};

use cobaltine_core::checks::Limit;
use cobaltine_core::checks::return_test::{HouseRules, Verdict};
use cobaltine_core::checks::sheet::{SheetId, SheetVerdict};
use cobaltine_core::engine::Layout;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::quantity::Second;
use cobaltine_core::record::{FieldProblem, Intake, JobFile, ReadingKind, TestSetup};
use cobaltine_core::typed::Field;
use cobaltine_core::work::{Decision, Regime, Stage, Tone};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A job with its verdicts: what every view of a job draws from.
#[derive(Debug, Serialize, ToSchema)]
pub struct JobView {
    /// Everything that is kept.
    pub file: JobFile,
    /// Cylinders as the strip draws them, pulley end left, bank by bank.
    pub banks: Vec<Vec<u32>>,
    /// One for each return test, in the same order.
    pub verdicts: Vec<Verdict>,
    /// One for each check that is read cell by cell, in the same order.
    pub sheets: Vec<SheetView>,
    /// The checks that mean something on this fuel system.
    pub fits: Vec<SheetId>,
    /// A return test means something on it.
    pub has_return: bool,
    /// The clock of the program, for timers.
    #[schema(value_type = String, format = DateTime)]
    pub now: Timestamp,
}

/// The verdict on a check, or why there is none.
#[derive(Debug, Serialize, ToSchema)]
pub struct SheetView {
    /// The stage that it belongs to.
    pub stage: Stage,
    /// The verdict.
    pub verdict: Option<SheetVerdict>,
    /// What cannot be worked with, in words.
    pub refused: Option<String>,
}

/// A check to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginSheetRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Which check.
    pub check: SheetId,
    /// What it is read with, when it is an instrument of the workshop.
    pub instrument: Option<Uuid>,
}

/// A cell as it was left.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CellRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The check that it belongs to.
    pub check: SheetId,
    /// Name of the cell.
    pub cell: String,
    /// Cylinder; none for a cell of the whole set.
    pub cylinder: Option<u32>,
    /// As typed; empty to take the reading back.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
}

/// A job to take in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakeInRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first.
    pub labels: Vec<String>,
}

/// A change of the intake.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ChangeIntakeRequest {
    /// The revision that was changed.
    pub revision: u64,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first.
    pub labels: Vec<String>,
}

/// The strip of a layout that is still being typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayoutView {
    /// Cylinders, pulley end left, bank by bank; empty while the layout cannot be.
    pub banks: Vec<Vec<u32>>,
    /// What is wrong with it.
    pub problem: Option<String>,
}

/// A return test to set up, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SetUpRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Engine regime.
    pub regime: Regime,
    /// °C unless a unit follows; may be empty.
    pub temperature: String,
    /// rpm; may be empty.
    pub speed: String,
    /// ml unless a unit follows.
    pub capacity: String,
    /// ml unless a unit follows.
    pub graduation: String,
    /// Seconds, or minutes and seconds with a colon.
    pub planned: String,
    /// The bottles, when they are an instrument of the workshop.
    #[serde(default)]
    pub bottles: Option<Uuid>,
    /// The timer, when it is an instrument of the workshop.
    #[serde(default)]
    pub timer: Option<Uuid>,
    /// Judge by the house's own reference where nobody published a limit.
    #[serde(default)]
    pub by_house_reference: bool,
}

/// What a set-up refers to, looked up.
#[derive(Debug, Default)]
pub(crate) struct LookedUp {
    /// The bottles chosen.
    pub bottles: Option<Instrument>,
    /// The timer chosen.
    pub timer: Option<Instrument>,
    /// Rules of the house today.
    pub rules: HouseRules,
    /// Its value for timing by hand, s.
    pub timer_u_s: f64,
    /// The limit to judge by.
    pub limit: Option<Limit>,
}

/// A run to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginRunRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Start the timer of the program now; otherwise the run was timed elsewhere.
    pub timer: bool,
}

/// A reading, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ReadingRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// What was read.
    pub kind: ReadingKind,
    /// Cylinder; none for the length of the run.
    pub cylinder: Option<u32>,
    /// As typed. Nothing at all lets the running timer say the time.
    pub typed: Option<String>,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why.
    pub why: Option<String>,
}

/// Why a run does not count.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AsideRequest {
    /// In a few words.
    pub reason: String,
}

/// What was decided about one injector.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecisionRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Cylinder.
    pub cylinder: u32,
    /// What to do.
    pub decision: Decision,
    /// Why.
    pub reason: String,
}

/// Decisions of one moment: all are kept or none.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecideRequest {
    /// At least one.
    pub decisions: Vec<DecisionRequest>,
}

/// A note on a stage.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NoteRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// Where it belongs.
    pub stage: Stage,
    /// What was done or seen.
    pub text: String,
}

/// What an import did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportView {
    /// The job.
    pub id: Uuid,
    /// It was here already, the very same.
    pub already_here: bool,
}

/// The question to the board.
#[derive(Debug, Deserialize, IntoParams)]
pub struct BoardParams {
    /// Words to find.
    #[serde(default)]
    pub q: String,
    /// Only jobs that read so.
    pub tone: Option<Tone>,
    /// From 0.
    #[serde(default)]
    pub page: u32,
    /// At most 100; 20 when missing.
    pub per_page: Option<u32>,
}

impl JobView {
    /// Judges every test of a job.
    pub(crate) fn of(file: JobFile) -> Result<Self, crate::ApiError> {
        let layout = &file.job.intake.layout;
        let verdicts =
            file.return_tests.iter().map(|t| t.verdict(layout)).collect::<Result<Vec<_>, _>>()?;
        let sheets = file
            .sheets
            .iter()
            .map(|sheet| match sheet.verdict(layout) {
                Ok(verdict) => {
                    SheetView { stage: sheet.check.stage(), verdict: Some(verdict), refused: None }
                }
                Err(error) => SheetView {
                    stage: sheet.check.stage(),
                    verdict: None,
                    refused: Some(format!("{error}.")),
                },
            })
            .collect();
        let fuel = file.job.intake.fuel_system;
        let fits = SheetId::ALL.iter().copied().filter(|check| check.fits(fuel)).collect();
        let (banks, now) = (layout.strip(), crate::extract::now());
        Ok(Self { banks, verdicts, sheets, fits, has_return: fuel.has_return(), now, file })
    }
}

impl LayoutView {
    pub(crate) fn of(layout: Layout) -> Self {
        match layout.check() {
            Ok(()) => Self { banks: layout.strip(), problem: None },
            Err(error) => Self { banks: Vec::new(), problem: Some(error.to_string()) },
        }
    }
}

impl SetUpRequest {
    /// Reads every field; collects all that cannot be read.
    pub(crate) fn setup(&self, known: LookedUp) -> Result<TestSetup, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let temperature_c = reader.number("temperature", Field::TEMPERATURE, &self.temperature);
        let speed_rpm = reader.number("speed", Field::SPEED, &self.speed);
        let capacity_ml = reader.needed("capacity", Field::CAPACITY, &self.capacity);
        let graduation_ml = reader.needed("graduation", Field::GRADUATION, &self.graduation);
        let planned_s = reader.needed("planned", Field::RUN_TIME, &self.planned);
        if reader.0.is_empty() && graduation_ml > capacity_ml {
            let message = "The marks are further apart than the bottle is large.";
            reader.0.push(FieldProblem::new("graduation", message));
        }
        let timer_u = known.timer.as_ref().map_or(known.timer_u_s, |timer| timer.u(planned_s.0));
        let today = crate::instruments::today();
        reader.done(TestSetup {
            regime: self.regime,
            temperature_c,
            speed_rpm,
            capacity_ml,
            graduation_ml,
            planned_s,
            rules: known.rules,
            timer_u_s: Some(Second(timer_u)),
            accuracy_pct: known.bottles.as_ref().map_or(0.0, |b| b.accuracy_pct),
            accuracy_digits: known.bottles.as_ref().map_or(0.0, |b| b.accuracy_digits),
            instruments: [known.bottles, known.timer]
                .into_iter()
                .flatten()
                .map(|instrument| instrument.used(today))
                .collect(),
            limit: known.limit,
        })
    }
}
