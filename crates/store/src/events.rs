//! What happens to a job besides readings, and what was there before it.

use crate::job_file::job_file;
use crate::rows::columns as rows;
use crate::rows::events::insert_event;
use crate::{BoardCard, Store, StoreError, board};
use cobaltine_core::plan::StepId;
use cobaltine_core::record::{Event, EventRecord, Injector, JobFile};
use uuid::Uuid;

/// The most events of one job, and the most timers that run at once.
const MOST_EVENTS: usize = 2000;
const MOST_TIMERS: usize = 24;
/// Earlier jobs that are shown.
const EARLIER: i64 = 5;

impl Store {
    /// Keeps an event. The same id again changes nothing.
    ///
    /// # Errors
    /// No such job, step or timer; what is wrong with its fields; too many.
    pub async fn add_event(&self, job: Uuid, record: &EventRecord) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let file = job_file(&mut tx, job).await?;
        if file.events.iter().any(|held| held.id == record.id) {
            return Ok(file);
        }
        check(&file, record)?;
        insert_event(&mut tx, job, record).await?;
        let file = board::refresh(&mut tx, job, record.signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Earlier jobs of the same machine, newest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn earlier_jobs(
        &self,
        machine: &str,
        but: Option<Uuid>,
    ) -> Result<Vec<BoardCard>, StoreError> {
        let found = sqlx::query(
            "SELECT b.card FROM jobs j JOIN board b ON b.job_id = j.id
             WHERE j.machine = ? COLLATE NOCASE AND j.id <> ? ORDER BY j.at DESC LIMIT ?",
        )
        .bind(machine.trim())
        .bind(but.map(|id| id.to_string()).unwrap_or_default())
        .bind(EARLIER)
        .fetch_all(&self.pool)
        .await?;
        found.iter().map(|row| rows::json(row, "card")).collect()
    }
}

fn check(file: &JobFile, record: &EventRecord) -> Result<(), StoreError> {
    let problems = record.event.problems(&file.job.intake.layout);
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    if file.events.len() >= MOST_EVENTS {
        return Err(StoreError::Conflict(format!("{MOST_EVENTS} events are the most of one job.")));
    }
    match &record.event {
        Event::TimerSet { .. } if file.timers().len() >= MOST_TIMERS => Err(StoreError::Conflict(
            format!("{MOST_TIMERS} timers are the most at once; take one off first."),
        )),
        Event::TimerOff { timer } if !file.events.iter().any(|e| e.id == *timer) => {
            Err(StoreError::NotFound("timer"))
        }
        event if event.moves() && running(file) => Err(StoreError::Conflict(
            "A run is still going. Stop it before injectors change places.".to_owned(),
        )),
        Event::StepDone { step }
        | Event::StepSkipped { step, .. }
        | Event::StepBack { step }
        | Event::StepFirst { step } => known_step(file, step),
        Event::Placed { seats } => match file.placing_refused(seats) {
            Some(why) => Err(StoreError::Conflict(why.to_owned())),
            None => Ok(()),
        },
        Event::Reviewed { .. } => match file.review_refused(record.signed.by) {
            Some(why) => Err(StoreError::Conflict(why.to_owned())),
            None => Ok(()),
        },
        Event::CodeCaptured { injector, .. } if file.injector(*injector).is_none() => {
            Err(StoreError::field("injector", "This engine has no such injector."))
        }
        Event::Replaced { injector, .. } if sits_here(file, injector) => {
            let says = "This injector is on the strip already: move it instead.";
            Err(StoreError::field("label", says))
        }
        Event::Cleared { how } if how.trim().is_empty() => Err(StoreError::field(
            "how",
            "Say what was done: spark plugs out and clear-flood cranked, or what else.",
        )),
        Event::ClearingUndone { of, .. } if !was_cleared(file, *of) => {
            Err(StoreError::Conflict("No such clearing is recorded.".to_owned()))
        }
        Event::Cleared { .. } | Event::ClearingUndone { .. } => Ok(()),
        Event::Reopened { .. } if file.closed().is_none() => {
            Err(StoreError::Conflict("The job is not closed.".to_owned()))
        }
        Event::Swapped { .. }
        | Event::CodesRead { .. }
        | Event::UnitNumbered { .. }
        | Event::CodeCaptured { .. }
        | Event::WriteBegun { .. }
        | Event::WriteEnded(_)
        | Event::Replaced { .. }
        | Event::Fitted { .. }
        | Event::FoundTrouble { .. }
        | Event::Tightening { .. }
        | Event::Proved { .. }
        | Event::LearnedRead { .. }
        | Event::Closed { .. }
        | Event::Reopened { .. }
        | Event::TimerSet { .. }
        | Event::TimerOff { .. }
        | Event::StepAdded { .. } => Ok(()),
    }
}

fn was_cleared(file: &JobFile, id: Uuid) -> bool {
    file.events.iter().any(|e| e.id == id && matches!(e.event, Event::Cleared { .. }))
}

/// The same injector, or another one with the same label.
fn sits_here(file: &JobFile, injector: &Injector) -> bool {
    let label = injector.label.trim();
    let same =
        |one: &Injector| one.id == injector.id || (!label.is_empty() && one.label.trim() == label);
    file.every_injector().any(same)
}

fn running(file: &JobFile) -> bool {
    file.return_tests.iter().flat_map(|test| &test.runs).any(|run| run.is_running())
}

fn known_step(file: &JobFile, step: &StepId) -> Result<(), StoreError> {
    let plan = file.judged().map_err(|error| StoreError::Conflict(format!("{error}.")))?.plan;
    let known = plan.steps.iter().any(|held| held.id == *step);
    if known { Ok(()) } else { Err(StoreError::field("step", "The plan has no such step.")) }
}
