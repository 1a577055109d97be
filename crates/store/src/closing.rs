//! Closing a job: what is proven is looked at in the same transaction that closes it.

use crate::job_file::job_file;
use crate::rows::columns as rows;
use crate::rows::events::insert_event;
use crate::{Store, StoreError, board};
use cobaltine_core::library::{FamilyDetail, TorqueStage};
use cobaltine_core::proving::{ItemState, proof};
use cobaltine_core::record::{Event, EventRecord, JobFile, Signed};
use sqlx::SqliteConnection;
use uuid::Uuid;

impl Store {
    /// Closes a job: as proven, or with what was left out for a reason. The same id again changes nothing.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] with what is still open.
    pub async fn close_job(
        &self,
        job: Uuid,
        id: Uuid,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let file = job_file(&mut tx, job).await?;
        if file.events.iter().any(|held| held.id == id) {
            return Ok(file);
        }
        let family = torque_of(&mut tx, file.job.intake.family_id).await?;
        let judged = file.judged().map_err(|error| StoreError::Conflict(format!("{error}.")))?;
        let proof = proof(&file, &judged, &family);
        if proof.closing.closed.is_some() {
            return Err(StoreError::Conflict("The job is closed already.".to_owned()));
        }
        if let Some(refused) = proof.closing.refused {
            return Err(StoreError::Conflict(refused));
        }
        let left_out = proof.items.iter().filter(|item| item.state == ItemState::LeftOut);
        let exceptions = left_out.map(|item| item.id).collect();
        let record = EventRecord { id, event: Event::Closed { exceptions }, signed };
        insert_event(&mut tx, job, &record).await?;
        let file = board::refresh(&mut tx, job, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// How the library tightens the family of a job; nothing where it does not know.
    ///
    /// # Errors
    /// The database error.
    pub async fn torque_of(&self, family: Option<Uuid>) -> Result<Vec<TorqueStage>, StoreError> {
        torque_of(&mut *self.pool.acquire().await?, family).await
    }
}

pub(crate) async fn torque_of(
    connection: &mut SqliteConnection,
    family: Option<Uuid>,
) -> Result<Vec<TorqueStage>, StoreError> {
    let Some(family) = family else { return Ok(Vec::new()) };
    let row = sqlx::query("SELECT detail FROM families WHERE id = ?")
        .bind(family.to_string())
        .fetch_optional(connection)
        .await?;
    let detail: Option<FamilyDetail> = row.map(|row| rows::json(&row, "detail")).transpose()?;
    Ok(detail.map(|detail| detail.torque).unwrap_or_default())
}
