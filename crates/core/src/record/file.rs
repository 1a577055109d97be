//! The job as one open file: everything that is kept of it, readable without this program.

use super::{
    DecisionRecord, Event, EventRecord, IntakeChange, Job, Note, Person, SheetRecord, TestRecord,
};
use crate::tests::bench::SessionRecord;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Says what the file is.
pub const JOB_FORMAT: &str = "cobaltine.job";
/// Version of the shape below.
pub const JOB_VERSION: u32 = 1;
/// One job with everything that belongs to it. The JSON Schema ships with the program.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JobFile {
    /// Always `cobaltine.job`.
    pub format: String,
    /// Always 1.
    pub version: u32,
    /// As taken in.
    pub job: Job,
    /// What the intake was before it was changed, oldest first.
    #[serde(default)]
    pub changes: Vec<IntakeChange>,
    /// Return tests, oldest first.
    pub return_tests: Vec<TestRecord>,
    /// Checks that were read cell by cell, oldest first.
    #[serde(default)]
    pub sheets: Vec<SheetRecord>,
    /// Bench sessions that hold an injector of this job, oldest first; whole, as a set of two jobs
    /// is compared as one.
    #[serde(default)]
    pub bench: Vec<SessionRecord>,
    /// What happened besides readings, oldest first.
    #[serde(default)]
    pub events: Vec<EventRecord>,
    /// Decisions, oldest first.
    pub decisions: Vec<DecisionRecord>,
    /// Notes, oldest first.
    pub notes: Vec<Note>,
    /// Everyone who signed a row.
    pub people: Vec<Person>,
    /// Name of the injector family, when it is known.
    pub family: Option<String>,
}

impl JobFile {
    /// What happened or was decided at a place that the engine does not have.
    pub(crate) fn dangling(&self) -> bool {
        let layout = &self.job.intake.layout;
        let here: Vec<Uuid> = self.every_injector().map(|one| one.id).collect();
        let events = self.events.iter().any(|held| {
            let strange = matches!(&held.event,
                Event::CodeCaptured { injector, .. } if !here.contains(injector));
            strange || !held.event.problems(layout).is_empty()
        });
        events || self.decisions.iter().any(|one| one.cylinder > layout.cylinders)
    }
}
