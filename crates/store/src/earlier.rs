//! Earlier jobs of the same machine.

use crate::{BoardCard, Store, StoreError, rows};
use uuid::Uuid;

/// Earlier jobs that are shown.
const EARLIER: i64 = 5;

impl Store {
    /// Earlier jobs of the same machine, newest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn earlier_jobs(
        &self,
        machine: &str,
        but: Option<Uuid>,
    ) -> Result<Vec<BoardCard>, StoreError> {
        self.settle_to_read().await?;
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
