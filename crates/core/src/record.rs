//! What is kept of a job: the same shapes in the database, in the exported file and on the wire.
//!
//! Every row knows who and when. Readings are append-only: a correction is a new reading
//! that names the old one and why. Quantities are canonical; the typed text stands beside.

mod complaint;
mod current;
mod deeds;
mod event;
mod file;
mod person;
mod raw;
mod rejudge;
mod review;
mod seats;
mod sheet;
mod slips;
mod stands;
mod trail;
mod words;

pub use current::{Current, NextRun, RunNow, RunState};
pub use event::{Event, EventRecord, Part, Timer, WriteEnd};
pub use file::{JOB_FORMAT, JOB_VERSION, JobFile};
pub use person::{Person, Retired};
pub use raw::{Gap, RawStretch};
pub use rejudge::{Rejudged, rejudge};
pub use review::{Review, review, since};
pub use seats::{Placing, Seat};
pub use sheet::{Around, CellReading, Cranked, Figure, Found, Recording, SheetRecord, Trace};
pub use stands::{Overtaken, overtaken};
pub use trail::{ClockStep, IntakeChange, IntakeStep, Reopened};

pub use crate::intake::{Intake, Story, label_problems};
pub use crate::limits::FieldProblem;
pub use crate::moment::{Moment, Signed, place_after};

use crate::calc::CalcError;
use crate::calc::return_flow::{Lane, TIMER_U_S};
use crate::connection::ShownBy;
use crate::engine::{FuelSystem, Layout};
use crate::exercise::Exercise;
use crate::instrument::InstrumentUse;
use crate::library::Limit;
use crate::quantity::{Celsius, Millilitre, Rpm, Second};
use crate::start::StartId;
use crate::tests::Proposal;
use crate::tests::Verdict;
use crate::tests::engine::return_test::{HouseRules, ReturnTest, Run, judge_phases};
use crate::work::{Decision, Phase, Regime, Stage};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// A family of injectors in the library.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Family {
    /// Identity.
    pub id: Uuid,
    /// Name of the family.
    pub name: String,
    /// What it is fitted to.
    pub fuel_system: FuelSystem,
    /// The newest upper limit of the return test, if there is one.
    pub return_limit_ml_min: Option<f64>,
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
    /// On a made-up engine; none for an engine that somebody drives.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub exercise: Option<Exercise>,
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
    /// Time at which a bottle reached a mark, s; the mark stands beside it.
    Mark,
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
    /// The mark that was reached, ml; only for a mark.
    #[serde(default)]
    pub mark_ml: Option<Millilitre>,
    /// As typed; empty when the program's own clock gave it.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why it was corrected.
    pub why: Option<String>,
    /// The instrument that showed it; none when a person read and typed it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shown_by: Option<ShownBy>,
    /// Who and when.
    pub signed: Signed,
}

/// A run that is kept but does not count, or counts again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct SetAside {
    /// Why; empty where it counts again.
    pub reason: String,
    /// It counts again: it was set aside by a wrong tap.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub back: bool,
    /// So many of these were before it.
    #[serde(default, skip_serializing_if = "zero")]
    pub nth: u32,
    /// Who and when.
    pub signed: Signed,
}

fn zero(count: &u32) -> bool {
    *count == 0
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
    /// Each time that it was set aside and counted again, in that order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub asides: Vec<SetAside>,
    /// The phase, in a stepped test.
    #[serde(default)]
    pub phase: Option<Phase>,
    /// The bank that was run alone, counted from 0; all cylinders without one.
    #[serde(default)]
    pub bank: Option<u32>,
    /// Start conditions that were ticked before it; none when nobody was asked.
    #[serde(default)]
    pub ticked: Option<Vec<StartId>>,
    /// The instrument that reads it; none where people do.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub caught_by: Option<ShownBy>,
    /// What it showed meanwhile, in stretches.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub raw: Vec<RawStretch>,
    /// Who and when.
    pub signed: Signed,
}

/// The set-up of a return test. Conditions do not change within one; other conditions are another test.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct TestSetup {
    /// Engine regime.
    pub regime: Regime,
    /// °C, when it was measured.
    pub temperature_c: Option<Celsius>,
    /// rpm, when it was read.
    pub speed_rpm: Option<Rpm>,
    /// What a bottle holds.
    pub capacity_ml: Millilitre,
    /// Distance between two marks.
    pub graduation_ml: Millilitre,
    /// Length that the runs are meant to have.
    pub planned_s: Second,
    /// House rules at the time.
    pub rules: HouseRules,
    /// Standard uncertainty of the timing, s; the house rule when missing.
    #[serde(default)]
    pub timer_u_s: Option<Second>,
    /// Accuracy of the bottles, percent of reading.
    #[serde(default)]
    pub accuracy_pct: f64,
    /// Accuracy of the bottles, in marks.
    #[serde(default)]
    pub accuracy_digits: f64,
    /// Instruments chosen from the workshop's own.
    #[serde(default)]
    pub instruments: Vec<InstrumentUse>,
    /// The library's limit at the time. A newer one never rewrites this.
    pub limit: Option<Limit>,
    /// The mark that bottles are timed to, ml; levels are read without one.
    #[serde(default)]
    pub mark_ml: Option<Millilitre>,
    /// What the pump can spare while cranking, ml/min, when the maker says it.
    #[serde(default)]
    pub pump_spare_ml_min: Option<f64>,
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

    /// The reading that says how long the run was, once it has ended.
    pub fn length(&self) -> Option<&Reading> {
        self.standing().find(|r| r.kind == ReadingKind::RunTime)
    }

    /// The length of the run, s, once it has ended.
    pub fn seconds(&self) -> Option<f64> {
        self.length().map(|reading| reading.value)
    }

    /// The timer of the run is still going.
    pub fn is_running(&self) -> bool {
        self.started_at.is_some() && self.seconds().is_none() && self.set_aside.is_none()
    }

    /// Cylinders that this run was to read and did not yet.
    pub fn unread(&self, layout: &Layout) -> Vec<u32> {
        let read: Vec<u32> = self.standing().filter_map(|r| r.cylinder).collect();
        self.covers(layout).into_iter().filter(|c| !read.contains(c)).collect()
    }

    /// Cylinders that this run covers: those of its bank, or all.
    pub fn covers(&self, layout: &Layout) -> Vec<u32> {
        let banks = layout.strip();
        let mut all = match self.bank.and_then(|bank| banks.get(bank as usize)) {
            Some(bank) => bank.clone(),
            None => banks.concat(),
        };
        all.sort_unstable();
        all
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
                    ReadingKind::Mark => Some(Lane {
                        cylinder,
                        volume_ml: Some(reading.mark_ml?.0),
                        seconds: Some(reading.value),
                        overflow_s: None,
                    }),
                    ReadingKind::RunTime | ReadingKind::Void => None,
                }
            })
            .collect()
    }
}

impl TestSetup {
    /// What lies over every result of this test.
    pub fn flags(&self) -> Vec<String> {
        let overdue = self.instruments.iter().filter_map(|used| {
            let since = used.overdue_since?;
            Some(words::due_calibration(&used.name, since))
        });
        overdue.collect()
    }
}

impl TestRecord {
    /// The verdict on all runs that count.
    ///
    /// # Errors
    /// What the calcs refuse; cannot happen for readings that came in through the edge.
    pub fn verdict(&self, layout: &Layout) -> Result<Verdict, CalcError> {
        self.verdict_confirmed(layout, Vec::new())
    }

    /// The same where the hose and the firing of these cylinders were looked into.
    ///
    /// # Errors
    /// As [`Self::verdict`].
    pub fn verdict_confirmed(
        &self,
        layout: &Layout,
        confirmed: Vec<u32>,
    ) -> Result<Verdict, CalcError> {
        judge_phases(&ReturnTest {
            confirmed,
            cylinders: layout.strip().concat(),
            banks: layout.strip(),
            graduation_ml: self.setup.graduation_ml,
            capacity_ml: self.setup.capacity_ml,
            timer_u_s: self.setup.timer_u_s.unwrap_or(Second(TIMER_U_S)),
            accuracy_pct: self.setup.accuracy_pct,
            accuracy_digits: self.setup.accuracy_digits,
            flags: self.setup.flags().into_iter().chain(self.slips(layout)).collect(),
            unticked: self.unticked(),
            overdue: self.setup.instruments.iter().any(|used| used.overdue_since.is_some()),
            regime: self.setup.regime,
            temperature_c: self.setup.temperature_c,
            pump_spare_ml_min: self.setup.pump_spare_ml_min,
            rules: self.setup.rules.clone(),
            limit: self.setup.limit.clone(),
            runs: self
                .counting()
                .map(|run| Run {
                    number: run.number,
                    phase: run.phase,
                    bank: run.bank,
                    lanes: run.lanes(),
                })
                .filter(|run| !run.lanes.is_empty())
                .collect(),
        })
    }

    /// Runs that were not set aside.
    pub fn counting(&self) -> impl Iterator<Item = &RunRecord> {
        self.runs.iter().filter(|run| run.set_aside.is_none())
    }
}

#[cfg(test)]
mod tests;
