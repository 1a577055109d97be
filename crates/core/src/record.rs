//! What is kept of a job: the same shapes in the database, in the exported file and on the wire.
//!
//! Every row knows who and when. Readings are append-only: a correction is a new reading
//! that names the old one and why. Quantities are canonical; the typed text stands beside.

mod file;
mod intake;

pub use file::{JOB_FORMAT, JOB_VERSION, JobFile};
pub use intake::{FieldProblem, Intake, label_problems};

use crate::calc::CalcError;
use crate::calc::return_flow::{Lane, TIMER_U_S};
use crate::checks::Limit;
use crate::checks::Proposal;
use crate::checks::return_test::{HouseRules, ReturnTest, Run, Verdict, judge};
use crate::engine::{FuelSystem, Layout};
use crate::work::{Decision, Regime, Stage};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Who wrote a row, and when.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Signed {
    /// Person.
    pub by: Uuid,
    /// ISO 8601, UTC.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
}

/// Someone of the workshop.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Person {
    /// Identity.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
}

/// A family of injectors in the library.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Family {
    /// Identity.
    pub id: Uuid,
    /// Name of the family.
    pub name: String,
    /// What it is fitted to.
    pub fuel_system: FuelSystem,
    /// The newest limit of the return test, if there is one.
    pub return_limit: Option<Limit>,
}

/// One injector of a job. Its position may change; its identity does not.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Injector {
    /// Identity.
    pub id: Uuid,
    /// Cylinder that it came in.
    pub cylinder: u32,
    /// Serial number or the workshop's own label; may be empty.
    pub label: String,
}

/// A job as taken in.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Job {
    /// Identity.
    pub id: Uuid,
    /// Counted by the workshop, for people.
    pub number: u64,
    /// Goes up with every change of the intake; a stale one is refused.
    pub revision: u64,
    /// What was taken in.
    pub intake: Intake,
    /// By cylinder number.
    pub injectors: Vec<Injector>,
    /// Taken in by whom and when.
    pub taken_in: Signed,
}

/// What a reading is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ReadingKind {
    /// Level in a bottle, ml.
    Level,
    /// Time at which a bottle was full, s.
    Overflow,
    /// Length of the run, s; belongs to no cylinder.
    RunTime,
    /// Takes a reading back without a new one.
    Void,
}

/// One reading. Never changed, never removed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Reading {
    /// Identity, made where it was typed.
    pub id: Uuid,
    /// Cylinder; none for the length of the run.
    pub cylinder: Option<u32>,
    /// What was read.
    pub kind: ReadingKind,
    /// In ml or s; 0 for a void.
    pub value: f64,
    /// As typed; empty when the program's own clock gave it.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why it was corrected.
    pub why: Option<String>,
    /// Who and when.
    pub signed: Signed,
}

/// A run that is kept but does not count.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct SetAside {
    /// Why.
    pub reason: String,
    /// Who and when.
    pub signed: Signed,
}

/// One run of a return test.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RunRecord {
    /// Identity.
    pub id: Uuid,
    /// From 1, in the order of running.
    pub number: u32,
    /// When the program's timer was started; none for a run timed elsewhere.
    #[schema(value_type = Option<String>, format = DateTime)]
    pub started_at: Option<Timestamp>,
    /// In the order of entry.
    pub readings: Vec<Reading>,
    /// Set when the run does not count.
    pub set_aside: Option<SetAside>,
    /// Who and when.
    pub signed: Signed,
}

/// The set-up of a return test. Conditions do not change within one; other conditions are another test.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TestSetup {
    /// Engine regime.
    pub regime: Regime,
    /// °C, when it was measured.
    pub temperature_c: Option<f64>,
    /// rpm, when it was read.
    pub speed_rpm: Option<f64>,
    /// What a bottle holds, ml.
    pub capacity_ml: f64,
    /// Distance between two marks, ml.
    pub graduation_ml: f64,
    /// Length that the runs are meant to have, s.
    pub planned_s: f64,
    /// House rules at the time.
    pub rules: HouseRules,
    /// The library's limit at the time. A newer one never rewrites this.
    pub limit: Option<Limit>,
}

/// A return test with its runs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TestRecord {
    /// Identity.
    pub id: Uuid,
    /// Conditions and limits.
    pub setup: TestSetup,
    /// In the order of running.
    pub runs: Vec<RunRecord>,
    /// Who and when.
    pub signed: Signed,
}

/// A decision about one injector. The newest one holds; the others are kept.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct DecisionRecord {
    /// Identity.
    pub id: Uuid,
    /// Cylinder that the injector sat in.
    pub cylinder: u32,
    /// What was decided.
    pub decision: Decision,
    /// Why, in the person's words.
    pub reason: String,
    /// What the program proposed at that moment.
    pub proposed: Option<Proposal>,
    /// Who and when.
    pub signed: Signed,
}

/// A note on a stage.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Note {
    /// Identity.
    pub id: Uuid,
    /// Where it belongs.
    pub stage: Stage,
    /// What was done or seen.
    pub text: String,
    /// Who and when.
    pub signed: Signed,
}

impl RunRecord {
    /// The readings that stand: those that no later one corrects, voids left out.
    pub fn standing(&self) -> impl Iterator<Item = &Reading> {
        let corrected: Vec<Uuid> = self.readings.iter().filter_map(|r| r.corrects).collect();
        self.readings
            .iter()
            .filter(move |r| r.kind != ReadingKind::Void && !corrected.contains(&r.id))
    }

    /// The length of the run, s, once it has ended.
    pub fn seconds(&self) -> Option<f64> {
        self.standing().find(|r| r.kind == ReadingKind::RunTime).map(|r| r.value)
    }

    /// The timer of the run is still going.
    pub fn is_running(&self) -> bool {
        self.started_at.is_some() && self.seconds().is_none() && self.set_aside.is_none()
    }

    /// Cylinders of the engine that have no reading yet.
    pub fn unread(&self, layout: &Layout) -> Vec<u32> {
        let read: Vec<u32> = self.standing().filter_map(|r| r.cylinder).collect();
        (1..=layout.cylinders).filter(|c| !read.contains(c)).collect()
    }

    fn lanes(&self) -> Vec<Lane> {
        let seconds = self.seconds();
        self.standing()
            .filter_map(|reading| {
                let cylinder = reading.cylinder?;
                match reading.kind {
                    ReadingKind::Level => Some(Lane {
                        cylinder,
                        volume_ml: Some(reading.value),
                        seconds: Some(seconds?),
                        overflow_s: None,
                    }),
                    ReadingKind::Overflow => Some(Lane {
                        cylinder,
                        volume_ml: None,
                        seconds: None,
                        overflow_s: Some(reading.value),
                    }),
                    ReadingKind::RunTime | ReadingKind::Void => None,
                }
            })
            .collect()
    }
}

impl TestRecord {
    /// The verdict on all runs that count.
    ///
    /// # Errors
    /// What the calcs refuse; cannot happen for readings that came in through the edge.
    pub fn verdict(&self, layout: &Layout) -> Result<Verdict, CalcError> {
        let counting = self.runs.iter().filter(|run| run.set_aside.is_none());
        judge(&ReturnTest {
            cylinders: layout.strip().concat(),
            graduation_ml: self.setup.graduation_ml,
            capacity_ml: self.setup.capacity_ml,
            timer_u_s: TIMER_U_S,
            temperature_c: self.setup.temperature_c,
            rules: self.setup.rules,
            limit: self.setup.limit.clone(),
            runs: counting
                .map(|run| Run { number: run.number, lanes: run.lanes() })
                .filter(|run| !run.lanes.is_empty())
                .collect(),
        })
    }
}
