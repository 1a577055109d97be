//! The rows of events and of pressure traces.

use super::columns as rows;
use crate::StoreError;
use cobaltine_core::record::{EventRecord, Trace};
use sqlx::SqliteConnection;
use uuid::Uuid;

pub(crate) async fn insert_event(
    connection: &mut SqliteConnection,
    job: Uuid,
    event: &EventRecord,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO events (id, job_id, event, by_id, at) VALUES (?, ?, ?, ?, ?)")
        .bind(event.id.to_string())
        .bind(job.to_string())
        .bind(serde_json::to_string(&event.event)?)
        .bind(event.signed.by.to_string())
        .bind(rows::stamp(event.signed.at))
        .execute(connection)
        .await?;
    Ok(())
}

/// All of a job, oldest first.
pub(crate) async fn of_job(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<EventRecord>, StoreError> {
    let found = sqlx::query("SELECT * FROM events WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    let event = |row| {
        Ok(EventRecord {
            id: rows::id(row, "id")?,
            event: rows::json(row, "event")?,
            signed: rows::signed(row)?,
        })
    };
    found.iter().map(event).collect()
}

pub(crate) async fn insert_trace(
    connection: &mut SqliteConnection,
    sheet: Uuid,
    trace: &Trace,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO traces (id, sheet_id, trace) VALUES (?, ?, ?)")
        .bind(trace.id.to_string())
        .bind(sheet.to_string())
        .bind(serde_json::to_string(trace)?)
        .execute(connection)
        .await?;
    Ok(())
}

/// All traces of a job with the check that each belongs to, oldest first.
pub(crate) async fn traces_of_job(
    connection: &mut SqliteConnection,
    job: &str,
) -> Result<Vec<(Uuid, Trace)>, StoreError> {
    let found = sqlx::query(
        "SELECT t.sheet_id, t.trace FROM traces t JOIN sheets s ON s.id = t.sheet_id
         WHERE s.job_id = ? ORDER BY t.seq",
    )
    .bind(job)
    .fetch_all(connection)
    .await?;
    found.iter().map(|row| Ok((rows::id(row, "sheet_id")?, rows::json(row, "trace")?))).collect()
}
