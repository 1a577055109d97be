//! What goes over the wire of the bench.

use cobaltine_core::tests::bench::import::{Column, LineProblem};
use cobaltine_core::tests::bench::{
    BenchCell, BenchKind, BenchTest, Entry, PointSaid, RailPlace, RoundStage, RoundVerdict,
    RunStep, SessionRecord, Shim,
};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// A session with its verdicts: what its view draws from.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// Everything that is kept.
    pub file: SessionRecord,
    /// Conditions of the points of its plan, as they are said.
    pub points: Vec<PointSaid>,
    /// The newest reading of every cell.
    pub newest: Vec<Uuid>,
    /// One for each test that was read in a round.
    pub verdicts: Vec<RoundVerdict>,
    /// Why nothing may be pulsed with the drive that was chosen.
    pub drive_refused: Option<String>,
    /// The order of running a diesel plan.
    pub order: Vec<RunStep>,
    /// Cells that each row of a diesel map asks for.
    pub asks: Vec<Vec<String>>,
    /// How long foam takes to settle, s.
    pub foam_settle_s: f64,
    /// Shims on hand.
    pub stock: Vec<Shim>,
}

/// A reading of a tube as it was kept, and what the rules make of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct TubeView {
    /// The session.
    pub session: Uuid,
    /// What was kept.
    pub cell: BenchCell,
    /// One for each test that was read in its round or in a later one.
    pub verdicts: Vec<RoundVerdict>,
    /// Why nothing may be pulsed with the drive that was chosen.
    pub drive_refused: Option<String>,
    /// Shims on hand.
    pub stock: Vec<Shim>,
}

/// The question for the tests of a bench.
#[derive(Debug, Deserialize, IntoParams)]
pub struct BenchFormParams {
    /// Which bench.
    pub kind: BenchKind,
    /// How volumes are typed.
    pub entry: Entry,
}

/// The question for sessions.
#[derive(Debug, Deserialize, IntoParams)]
pub struct BenchParams {
    /// Only those that hold an injector of this job.
    pub job: Option<Uuid>,
    /// From 1.
    pub page: Option<u32>,
    /// 60 at the most.
    pub per_page: Option<u32>,
}

/// One injector to hang on the rail.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TagRequest {
    /// Its job.
    pub job: Uuid,
    /// The cylinder that it came out of.
    pub cylinder: u32,
}

/// A session to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginSessionRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// UUIDv7 of its first round.
    pub round: Uuid,
    /// In the order of the rail.
    pub injectors: Vec<TagRequest>,
    /// The bench, when it is an instrument of the workshop.
    pub bench: Option<Uuid>,
    /// Distance between two marks; empty to take the bench's.
    pub graduation: String,
    /// What a tube holds; empty to take the bench's.
    pub capacity: String,
    /// How volumes are typed.
    pub entry: Entry,
    /// The test plan; a petrol bench has its own regimes without one.
    pub plan: Option<Uuid>,
}

/// A round to begin.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BeginRoundRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// What it comes after.
    pub stage: RoundStage,
    /// Where each hangs; empty when all hang as they did.
    pub places: Vec<RailPlace>,
}

/// A reading as it was left.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchCellRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The round.
    pub round: Uuid,
    /// The test.
    pub test: BenchTest,
    /// Name of the cell.
    pub cell: String,
    /// Row, from 1.
    pub row: Option<u32>,
    /// Injector.
    pub tag: Option<u32>,
    /// As typed; empty to take the reading back.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// The reading of an instrument that it was taken from; none where a person read and typed it.
    #[serde(default)]
    pub shown: Option<Uuid>,
}

/// A file of readings, to look at or to take in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchFileRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The round that it is read into.
    pub round: Uuid,
    /// Name of the file.
    pub name: String,
    /// Its text, with a heading.
    pub text: String,
    /// What each column means; empty to have it remembered or guessed.
    pub columns: Vec<Column>,
    /// Take it in; otherwise it is only looked at.
    pub take: bool,
}

/// What a file holds.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchFileView {
    /// Headings of its columns.
    pub headings: Vec<String>,
    /// What each column means.
    pub columns: Vec<Column>,
    /// The columns meant this the last time.
    pub remembered: bool,
    /// Rows below the heading.
    pub rows: u64,
    /// Readings that they make.
    pub readings: u64,
    /// Readings that stand already and would be corrected.
    pub corrects: u64,
    /// Why the columns cannot be used as they are.
    pub refused: Option<String>,
    /// Lines that cannot be read, the first of them.
    pub problems: Vec<LineProblem>,
    /// How many there are in all.
    pub problem_count: u64,
    /// The session, once it was taken in.
    pub session: Option<SessionView>,
}

/// Shims that go into the drawer or out of it.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ShimMoveRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// µm unless a unit follows.
    pub size: String,
    /// How many; below zero when they are taken out.
    pub moved: i32,
}
