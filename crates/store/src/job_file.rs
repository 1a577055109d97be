//! A whole job as one record: what is exported, judged and shown.

use crate::{StoreError, log, people};
use cobaltine_core::entry::{self, Entry};
use cobaltine_core::record::{JobFile, Person};
use cobaltine_core::tests::bench::SessionRecord;
use sqlx::{Row, SqliteConnection};
use std::collections::BTreeSet;
use uuid::Uuid;

/// Reads a whole job.
pub(crate) async fn job_file(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<JobFile, StoreError> {
    Ok(with_size(connection, id).await?.0)
}

/// Reads a whole job, and says how many bytes its own log takes.
pub(crate) async fn with_size(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<(JobFile, usize), StoreError> {
    let (entries, bytes) = log::load(connection, id).await?;
    // What is known under this id may be a session.
    if !matches!(entries.first(), Some(Entry::TakenIn(_))) {
        return Err(StoreError::NotFound("job"));
    }
    let mut signers: BTreeSet<Uuid> = entries.iter().map(|entry| entry.signed().by).collect();
    let mut file = entry::job(entries)?;
    let ids = sqlx::query(
        "SELECT s.id FROM bench_jobs j JOIN bench_sessions s ON s.id = j.session_id
         WHERE j.job_id = ? ORDER BY s.number",
    )
    .bind(id.to_string())
    .fetch_all(&mut *connection)
    .await?;
    for row in &ids {
        let session = session(connection, crate::rows::id(row, "id")?).await?.0;
        signers.extend(entry::of_session(&session).iter().map(|entry| entry.signed().by));
        file.bench.push(session);
    }
    file.people = named(connection, &signers).await?;
    file.family = family(connection, file.job.intake.family_id).await?;
    Ok((file, bytes))
}

/// Reads a bench session, and says how many bytes its log takes.
pub(crate) async fn session(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<(SessionRecord, usize), StoreError> {
    let (entries, bytes) = log::load(connection, id).await?;
    if !matches!(entries.first(), Some(Entry::Session(_))) {
        return Err(StoreError::NotFound("bench session"));
    }
    Ok((entry::session(entries)?, bytes))
}

/// The name of a family, where it is known.
pub(crate) async fn family(
    connection: &mut SqliteConnection,
    id: Option<Uuid>,
) -> Result<Option<String>, StoreError> {
    let Some(id) = id else { return Ok(None) };
    let row = sqlx::query("SELECT name FROM families WHERE id = ?")
        .bind(id.to_string())
        .fetch_optional(connection)
        .await?;
    Ok(row.map(|row| row.try_get("name")).transpose()?)
}

/// People by their identities.
pub(crate) async fn named(
    connection: &mut SqliteConnection,
    ids: &BTreeSet<Uuid>,
) -> Result<Vec<Person>, StoreError> {
    let list = serde_json::to_string(ids)?;
    let rows = sqlx::query(
        "SELECT * FROM people WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id",
    )
    .bind(list)
    .fetch_all(connection)
    .await?;
    rows.iter().map(people::person).collect()
}
