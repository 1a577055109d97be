//! What is kept of a bench session: the same shapes in the database, in the job file, on the wire.

mod words;

use super::ctx::{Cells, Ctx};
use super::plan::{BenchKind, Entry, Point};
use super::{BenchTest, Spot, Verdict};
use crate::connection::ShownBy;
use crate::instrument::Instrument;
use crate::library::{FamilyDetail, LimitEntry};
use crate::limits::FieldProblem;
use crate::moment::Signed;
use crate::rules::{RuleChange, Rules};
use serde::{Deserialize, Serialize};
use std::collections::{HashMap, HashSet};
use utoipa::ToSchema;
use uuid::Uuid;

/// The most injectors on one rail.
pub(super) const MOST_TAGS: usize = 16;
/// The most rows of a plan, and the most rounds of a session.
const MOST_POINTS: usize = 40;
const MOST_ROUNDS: usize = 24;

/// One injector of a session. The tag is hung on it and never changes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Tagged {
    /// From 1.
    pub tag: u32,
    /// The injector.
    pub injector: Uuid,
    /// The job that it belongs to.
    pub job: Uuid,
    /// Number of that job, for people.
    pub job_number: u64,
    /// Cylinder that it came out of.
    pub cylinder: u32,
    /// Serial number or the workshop's own label; may be empty.
    pub label: String,
    /// Name of its family, when it is known.
    pub family: Option<String>,
}

/// A family as the library had it when the session began.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FamilyThen {
    /// Its name.
    pub name: String,
    /// What was known of it.
    pub detail: FamilyDetail,
    /// Its newest limits.
    pub limits: Vec<LimitEntry>,
}

/// Shims of one size on hand.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Shim {
    /// µm.
    pub size_um: f64,
    /// How many.
    pub count: u32,
}

/// What holds for a whole session.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchSetup {
    /// What it is for.
    pub kind: BenchKind,
    /// The bench with its tubes, when it is an instrument of the workshop.
    pub bench: Option<Instrument>,
    /// Its calibration had run out by then.
    pub overdue: bool,
    /// Distance between two marks: ml, or mm³ per stroke where those are typed.
    pub graduation: f64,
    /// What a tube holds, ml.
    pub capacity_ml: f64,
    /// How volumes are typed.
    pub entry: Entry,
    /// Rows, in the order of the plan.
    pub points: Vec<Point>,
    /// Families of the injectors.
    pub families: Vec<FamilyThen>,
    /// Changes of the house's rules that held at the time.
    pub rules: Vec<RuleChange>,
}

/// What a round comes after.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RoundStage {
    /// Nothing was done yet.
    Received,
    /// After a cleaning.
    Cleaned,
    /// After an adjustment.
    Adjusted,
    /// The last one, in full.
    Final,
}

/// Where an injector hangs in a round.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RailPlace {
    /// Position on the rail, from 1.
    pub position: u32,
    /// What hangs there.
    pub tag: u32,
}

/// One full set of readings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Round {
    /// Identity.
    pub id: Uuid,
    /// What it comes after.
    pub stage: RoundStage,
    /// Counted within its stage, from 1.
    pub number: u32,
    /// In the order of the rail.
    pub places: Vec<RailPlace>,
    /// Who and when.
    pub signed: Signed,
}

/// Several readings of one cell, as a file brings them: the value is their mean.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Samples {
    /// How many.
    pub count: u32,
    /// Their standard deviation, in the unit of the value.
    pub scatter: f64,
}

/// One reading. Never changed, never removed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BenchCell {
    /// Identity, made where it was typed.
    pub id: Uuid,
    /// The round.
    pub round: Uuid,
    /// The test.
    pub test: BenchTest,
    /// Name of the cell.
    pub cell: String,
    /// Row, from 1; none for a cell of the round.
    pub row: Option<u32>,
    /// Injector; none for a cell of the round or of a row.
    pub tag: Option<u32>,
    /// In the unit of the cell; none when it was emptied.
    pub value: Option<f64>,
    /// As typed; the name of the file when it came from one.
    pub typed: String,
    /// When it is a mean.
    #[serde(default)]
    pub samples: Option<Samples>,
    /// The instrument that showed it; none when a person read and typed it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shown_by: Option<ShownBy>,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Who and when.
    pub signed: Signed,
}

/// A bench session with everything that was read.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SessionRecord {
    /// Identity.
    pub id: Uuid,
    /// Counted by the workshop, for people.
    pub number: u64,
    /// What holds for all of it.
    pub setup: BenchSetup,
    /// By tag.
    pub injectors: Vec<Tagged>,
    /// Oldest first.
    pub rounds: Vec<Round>,
    /// In the order of entry.
    pub cells: Vec<BenchCell>,
    /// Who and when.
    pub signed: Signed,
}

/// The verdict of one test in one round, or what it refuses.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RoundVerdict {
    /// The round.
    pub round: Uuid,
    /// The test.
    pub test: BenchTest,
    /// The verdict.
    pub verdict: Option<Verdict>,
    /// What cannot be worked with, in words.
    pub refused: Option<String>,
}

/// Everything that the rules say of a session.
#[derive(Debug, Clone, PartialEq)]
pub struct BenchJudged {
    /// One for each test that was read in a round, oldest round first.
    pub verdicts: Vec<RoundVerdict>,
}

impl BenchJudged {
    /// The newest round speaks; in it the test that found most, the later one of two alike.
    pub fn speaks(&self) -> Option<(BenchTest, &Verdict)> {
        let last = self.verdicts.last()?.round;
        self.verdicts
            .iter()
            .filter(|v| v.round == last)
            .filter_map(|v| Some((v.test, v.verdict.as_ref()?)))
            .max_by_key(|(_, verdict)| verdict.outcome)
    }
}

impl Round {
    /// `as received`, `cleaned`, `cleaned 2`.
    pub fn word(&self) -> String {
        match self.number {
            1 => self.stage.word().to_owned(),
            n => format!("{} {n}", self.stage.word()),
        }
    }
}

impl SessionRecord {
    /// The readings that stand, the newest of each cell.
    pub(super) fn indexed(&self) -> Cells<'_> {
        Cells::of(self)
    }

    /// The newest reading of a cell in a round, emptied ones included.
    pub fn standing(&self, round: Uuid, test: BenchTest, spot: Spot<'_>) -> Option<&BenchCell> {
        self.cells.iter().rfind(|held| {
            held.round == round
                && held.test == test
                && held.cell == spot.cell
                && held.row == spot.row
                && held.tag == spot.tag
        })
    }

    /// The newest reading of every cell, emptied ones included.
    pub fn newest(&self) -> Vec<Uuid> {
        let spot =
            |held: &BenchCell| (held.round, held.test, held.cell.clone(), held.row, held.tag);
        let newest: HashMap<_, _> = self.cells.iter().map(|held| (spot(held), held.id)).collect();
        let mut newest: Vec<Uuid> = newest.into_values().collect();
        newest.sort_unstable();
        newest
    }

    /// Judges every test of every round in which something was read, with the shims on hand. What
    /// a cleaning did shows in the flow that follows it, and a code comes from the final map, so
    /// those two are judged without a reading of their own.
    pub fn judged(&self, stock: &[Shim]) -> BenchJudged {
        BenchJudged { verdicts: self.judged_from(stock, 0) }
    }

    /// The same for a round, counted from 0, and those after it: an earlier one hangs on none of them.
    pub fn judged_from(&self, stock: &[Shim], from: usize) -> Vec<RoundVerdict> {
        let cells = self.indexed();
        let rules = Rules::after(self.setup.rules.iter().cloned());
        let mut verdicts = Vec::new();
        for (at, round) in self.rounds.iter().enumerate().skip(from) {
            let ctx = Ctx::new(self, at, &cells, &rules, stock);
            for test in BenchTest::ALL.iter().copied().filter(|t| t.fits(self.setup.kind)) {
                let follows = match round.stage {
                    RoundStage::Cleaned => test == BenchTest::Cleaning,
                    RoundStage::Final => {
                        test == BenchTest::TrimCode && cells.any(at, BenchTest::Map)
                    }
                    RoundStage::Received | RoundStage::Adjusted => false,
                };
                if !(cells.any(at, test) || follows) {
                    continue;
                }
                let judged = (test.spec().judge)(&ctx);
                let (verdict, refused) = match judged {
                    Ok(verdict) => (Some(verdict), None),
                    Err(error) => (None, Some(format!("{error}."))),
                };
                verdicts.push(RoundVerdict { round: round.id, test, verdict, refused });
            }
        }
        verdicts
    }

    /// What speaks by now: of the newest round in which something was read.
    pub fn speaking(&self, stock: &[Shim]) -> BenchJudged {
        let newest = (0..self.rounds.len()).rev().map(|from| self.judged_from(stock, from));
        BenchJudged { verdicts: newest.into_iter().find(|all| !all.is_empty()).unwrap_or_default() }
    }

    /// Why nothing may be pulsed with the drive that was chosen last, if that is so.
    pub fn drive_refused(&self) -> Option<String> {
        let cells = self.indexed();
        let rules = Rules::default();
        let at = self.rounds.len().checked_sub(1)?;
        super::drive::refuses(&Ctx::new(self, at, &cells, &rules, &[]))
    }

    /// Everything wrong with a session that came from a file, each with the place in it.
    pub fn problems(&self, place: &str) -> Vec<FieldProblem> {
        let mut found = self.setup_problems(place);
        let mut say = |field: &str, text: &str| {
            found.push(FieldProblem::new(format!("{place}.{field}"), text));
        };
        let tags: Vec<u32> = self.injectors.iter().map(|i| i.tag).collect();
        if tags.is_empty()
            || tags.len() > MOST_TAGS
            || !tags.iter().copied().eq(1..=tags.len() as u32)
        {
            say("injectors", words::INJECTORS_TAGGED_MAXIMUM);
        }
        if self.rounds.is_empty() || self.rounds.len() > MOST_ROUNDS {
            say("rounds", words::SESSION_ROUNDS);
        }
        for (r, round) in self.rounds.iter().enumerate() {
            if self.rounds[..r].iter().any(|earlier| earlier.id == round.id) {
                say("rounds", words::ROUND_APPEARS_TWICE);
            }
            if !self.hangs(&round.places) {
                say("rounds", words::EACH_INJECTOR_NEEDS_ONE);
            }
        }
        let mut ids = HashSet::new();
        let mut stands = HashMap::new();
        for held in &self.cells {
            let place = (held.round, held.test, &*held.cell, held.row, held.tag);
            if stands.insert(place, held.id) != held.corrects {
                say("cells", words::READING_CORRECTS_ONE_NO);
            }
            let spot = Spot { cell: &held.cell, row: held.row, tag: held.tag };
            let known = self.rounds.iter().any(|round| round.id == held.round)
                && held.tag.is_none_or(|tag| tags.contains(&tag))
                && held.test.fits(self.setup.kind)
                && held.test.read(spot, &self.setup, "1").is_some();
            if !known {
                say("cells", &words::no_cell(&held.cell));
            }
            let number = held.value.is_none_or(f64::is_finite)
                && held.samples.is_none_or(|s| s.count > 0 && s.scatter.is_finite());
            if !number || held.corrects.is_some_and(|id| !ids.contains(&id)) || !ids.insert(held.id)
            {
                say("cells", words::READING_NOT_NUMBER_APPEARS);
            }
        }
        found
    }

    /// What is wrong with a set-up, field by field.
    pub fn setup_problems(&self, place: &str) -> Vec<FieldProblem> {
        let setup = &self.setup;
        let mut found = Vec::new();
        let mut say = |field: &str, text: &str| {
            found.push(FieldProblem::new(format!("{place}.{field}"), text));
        };
        let above = |value: f64| value.is_finite() && value > 0.0 && value < 1e6;
        if !above(setup.graduation) || !above(setup.capacity_ml) {
            say("setup", words::ENTER_TUBE_HOLDS_FAR);
        } else if setup.graduation > setup.capacity_ml {
            say("setup", words::MARKS_FURTHER_APART_TUBE);
        }
        if setup.points.len() > MOST_POINTS {
            say("setup.points", words::MAXIMUM_ROWS);
        }
        for point in &setup.points {
            let numbers = [point.pulse_ms, point.count, point.seconds, point.rpm, point.rail_kpa];
            if !numbers.into_iter().flatten().all(above) || point.name.chars().count() > 60 {
                say("setup.points", &words::enter_numbers_above_zero(&point.name));
            }
        }
        found
    }

    /// Whether each injector hangs somewhere, and nowhere twice.
    pub fn hangs(&self, places: &[RailPlace]) -> bool {
        let mut tags: Vec<u32> = places.iter().map(|p| p.tag).collect();
        let mut positions: Vec<u32> = places.iter().map(|p| p.position).collect();
        tags.sort_unstable();
        positions.sort_unstable();
        positions.dedup();
        positions.len() == places.len()
            && positions.iter().all(|p| (1..=MOST_TAGS as u32).contains(p))
            && tags.iter().copied().eq(1..=self.injectors.len() as u32)
    }
}
