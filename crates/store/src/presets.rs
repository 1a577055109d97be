//! Presets: settings of a check that a workshop keeps.

use crate::library::item;
use crate::{Store, StoreError};
use cobaltine_core::library::LibraryItem;

/// Presets of one check that are shown.
const PRESETS: i64 = 40;

impl Store {
    /// The presets of a check, by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn presets(&self, check: &str) -> Result<Vec<LibraryItem>, StoreError> {
        let found = sqlx::query(
            "SELECT id, name, revision, detail FROM items WHERE kind = 'preset'
             AND json_extract(detail, '$.check') = ? ORDER BY name COLLATE NOCASE LIMIT ?",
        )
        .bind(check)
        .bind(PRESETS)
        .fetch_all(&self.pool)
        .await?;
        found.iter().map(item).collect()
    }
}
