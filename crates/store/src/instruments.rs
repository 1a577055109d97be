//! The instruments of the workshop. A change keeps the old state in the history.

use crate::acts::{self, Act};
use crate::library::next_revision;
use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::instrument::Instrument;
use cobaltine_core::record::Signed;
use sqlx::SqliteConnection;
use uuid::Uuid;

impl Store {
    /// All instruments, by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn instruments(&self) -> Result<Vec<Instrument>, StoreError> {
        let rows = sqlx::query("SELECT detail FROM instruments ORDER BY name COLLATE NOCASE")
            .fetch_all(&self.pool)
            .await?;
        rows.iter().map(|row| rows::json(row, "detail")).collect()
    }

    /// One instrument.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn instrument(&self, id: Uuid) -> Result<Instrument, StoreError> {
        let row = sqlx::query("SELECT detail FROM instruments WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        rows::json(&row.ok_or(StoreError::NotFound("instrument"))?, "detail")
    }

    /// Keeps an instrument: a new one with revision 0, or a change of the revision that is named.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when it was changed meanwhile.
    pub async fn keep_instrument(
        &self,
        act: &Act,
        new: &Instrument,
        signed: Signed,
    ) -> Result<Instrument, StoreError> {
        let problems = new.problems();
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            drop(tx);
            return self.instrument(new.id).await;
        }
        let revision = next_revision(&mut tx, "instruments", new.id, new.revision, signed).await?;
        let kept = Instrument { name: new.name.trim().to_owned(), revision, ..new.clone() };
        write(&mut tx, &kept).await?;
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        Ok(kept)
    }

    /// Adds instruments that are not there yet: the demo.
    ///
    /// # Errors
    /// The database error.
    pub async fn add_instruments(&self, all: &[Instrument]) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        for instrument in all {
            write(&mut tx, instrument).await?;
        }
        tx.commit().await?;
        Ok(())
    }
}

pub(crate) async fn write(
    connection: &mut SqliteConnection,
    instrument: &Instrument,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO instruments (id, name, revision, detail) VALUES (?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET name = excluded.name, revision = excluded.revision, detail = excluded.detail
           WHERE excluded.revision > instruments.revision",
    )
    .bind(instrument.id.to_string())
    .bind(&instrument.name)
    .bind(instrument.revision as i64)
    .bind(serde_json::to_string(instrument)?)
    .execute(connection)
    .await?;
    Ok(())
}
