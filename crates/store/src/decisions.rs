//! Decisions and notes: append-only, the newest holds.

use crate::job_file::job_file;
use crate::rows::decisions::{insert_decision, insert_note};
use crate::{Store, StoreError, board};
use cobaltine_core::record::{DecisionRecord, JobFile, Note};
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
        let mut file = job_file(&mut tx, job).await?;
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
        let file = job_file(&mut tx, job).await?;
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
