//! The rows of decisions and notes.

use super::columns as rows;
use crate::StoreError;
use cobaltine_core::record::{DecisionRecord, Note};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

pub(crate) async fn insert_decision(
    connection: &mut SqliteConnection,
    job: Uuid,
    decision: &DecisionRecord,
) -> Result<(), StoreError> {
    let proposed = decision.proposed.as_ref().map(serde_json::to_string).transpose()?;
    sqlx::query(
        "INSERT INTO decisions (id, job_id, cylinder, decision, reason, proposed, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(decision.id.to_string())
    .bind(job.to_string())
    .bind(i64::from(decision.cylinder))
    .bind(rows::named(decision.decision)?)
    .bind(&decision.reason)
    .bind(proposed)
    .bind(decision.signed.by.to_string())
    .bind(rows::stamp(decision.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

pub(crate) async fn insert_note(
    connection: &mut SqliteConnection,
    job: Uuid,
    note: &Note,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO notes (id, job_id, stage, text, by_id, at) VALUES (?, ?, ?, ?, ?, ?)")
        .bind(note.id.to_string())
        .bind(job.to_string())
        .bind(rows::named(note.stage)?)
        .bind(&note.text)
        .bind(note.signed.by.to_string())
        .bind(rows::stamp(note.signed.at))
        .execute(connection)
        .await?;
    Ok(())
}

pub(crate) async fn of_job(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<DecisionRecord>, StoreError> {
    let found = sqlx::query("SELECT * FROM decisions WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    found
        .iter()
        .map(|row| {
            let proposed: Option<String> = row.try_get("proposed")?;
            Ok(DecisionRecord {
                id: rows::id(row, "id")?,
                cylinder: rows::cylinder(row)?.unwrap_or_default(),
                decision: rows::name(row, "decision")?,
                reason: row.try_get("reason")?,
                proposed: proposed.map(|text| serde_json::from_str(&text)).transpose()?,
                signed: rows::signed(row)?,
            })
        })
        .collect()
}

pub(crate) async fn notes_of_job(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<Note>, StoreError> {
    let found = sqlx::query("SELECT * FROM notes WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    found
        .iter()
        .map(|row| {
            Ok(Note {
                id: rows::id(row, "id")?,
                stage: rows::name(row, "stage")?,
                text: row.try_get("text")?,
                signed: rows::signed(row)?,
            })
        })
        .collect()
}
