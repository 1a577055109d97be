//! Decisions and notes: append-only, the newest holds.

use crate::{Store, StoreError, board, jobs, rows};
use cobaltine_core::record::{DecisionRecord, JobFile, Note};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Longest reason or note.
const LONGEST_TEXT: usize = 2000;

impl Store {
    /// Records decisions of one moment, all or none. The same again changes nothing.
    ///
    /// # Errors
    /// No such job or cylinder; a reason is missing or too long.
    pub async fn decide(
        &self,
        job: Uuid,
        decisions: &[DecisionRecord],
    ) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let mut file = jobs::job_file(&mut tx, job).await?;
        for decision in decisions {
            if file.decisions.iter().any(|held| held.id == decision.id) {
                continue;
            }
            let cylinders = file.job.intake.layout.cylinders;
            if !(1..=cylinders).contains(&decision.cylinder) {
                let message = format!("This engine has cylinders 1 to {cylinders}.");
                return Err(StoreError::field("cylinder", message));
            }
            check_text("reason", &decision.reason)?;
            insert_decision(&mut tx, job, decision).await?;
            file = board::refresh(&mut tx, job, decision.signed.at).await?;
        }
        tx.commit().await?;
        Ok(file)
    }

    /// Keeps a note. The same again changes nothing.
    ///
    /// # Errors
    /// No such job; nothing written or too much.
    pub async fn add_note(&self, job: Uuid, note: &Note) -> Result<JobFile, StoreError> {
        check_text("text", &note.text)?;
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let file = jobs::job_file(&mut tx, job).await?;
        if file.notes.iter().any(|held| held.id == note.id) {
            return Ok(file);
        }
        insert_note(&mut tx, job, note).await?;
        let file = board::refresh(&mut tx, job, note.signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }
}

fn check_text(field: &str, text: &str) -> Result<(), StoreError> {
    let length = text.trim().chars().count();
    if length == 0 {
        return Err(StoreError::field(field, "A few words are needed here."));
    }
    if length > LONGEST_TEXT {
        let message = format!("{length} characters; {LONGEST_TEXT} are the most.");
        return Err(StoreError::field(field, message));
    }
    Ok(())
}

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
    .bind(decision.signed.at.to_string())
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
        .bind(note.signed.at.to_string())
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
