//! How the library tightens the family of a job: closing looks at it.

use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::library::{FamilyDetail, TorqueStage};
use sqlx::SqliteConnection;
use uuid::Uuid;

impl Store {
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
