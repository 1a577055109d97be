//! A whole job as one record: what is exported, judged and shown.

use crate::rows::{bench, decisions, events, jobs, return_tests, sheets};
use crate::{StoreError, people};
use cobaltine_core::record::{JOB_FORMAT, JOB_VERSION, JobFile, Person};
use sqlx::{Row, SqliteConnection};
use std::collections::BTreeSet;
use uuid::Uuid;

/// Reads a whole job.
pub(crate) async fn job_file(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<JobFile, StoreError> {
    let job = jobs::find_job(connection, id).await?.ok_or(StoreError::NotFound("job"))?;
    let return_tests = return_tests::of_job(connection, id).await?;
    let sheets = sheets::of_job(connection, id).await?;
    let events = events::of_job(connection, id).await?;
    let decisions = decisions::of_job(connection, id).await?;
    let notes = decisions::notes_of_job(connection, id).await?;
    let bench = bench::of_job(connection, id).await?;
    let mut signers = BTreeSet::from([job.taken_in.by]);
    for test in &return_tests {
        signers.insert(test.signed.by);
        for run in &test.runs {
            signers.insert(run.signed.by);
            signers.extend(run.readings.iter().map(|reading| reading.signed.by));
            signers.extend(run.set_aside.iter().map(|aside| aside.signed.by));
        }
    }
    for sheet in &sheets {
        signers.insert(sheet.signed.by);
        signers.extend(sheet.readings.iter().map(|reading| reading.signed.by));
    }
    signers.extend(events.iter().map(|event| event.signed.by));
    signers.extend(sheets.iter().flat_map(|s| s.traces.iter().map(|trace| trace.signed.by)));
    signers.extend(decisions.iter().map(|decision| decision.signed.by));
    signers.extend(notes.iter().map(|note| note.signed.by));
    for session in &bench {
        signers.insert(session.signed.by);
        signers.extend(session.rounds.iter().map(|round| round.signed.by));
        signers.extend(session.cells.iter().map(|cell| cell.signed.by));
    }
    let family = match job.intake.family_id {
        Some(family) => sqlx::query("SELECT name FROM families WHERE id = ?")
            .bind(family.to_string())
            .fetch_optional(&mut *connection)
            .await?
            .map(|row| row.try_get("name"))
            .transpose()?,
        None => None,
    };
    Ok(JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job,
        return_tests,
        sheets,
        bench,
        events,
        decisions,
        notes,
        people: named(connection, &signers).await?,
        family,
    })
}

async fn named(
    connection: &mut SqliteConnection,
    ids: &BTreeSet<Uuid>,
) -> Result<Vec<Person>, StoreError> {
    let list = serde_json::to_string(ids)?;
    let rows = sqlx::query(
        "SELECT id, name FROM people WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id",
    )
    .bind(list)
    .fetch_all(connection)
    .await?;
    rows.iter().map(people::person).collect()
}
