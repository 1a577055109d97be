//! The families as a choice at intake, each with the limit of its return test.

use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::library::LimitCheck;
use cobaltine_core::record::Family;
use sqlx::{Row, SqliteConnection};
use std::collections::{BTreeSet, HashMap};
use uuid::Uuid;

/// The most families that a choice shows at once.
const MOST_FAMILIES: i64 = 500;

impl Store {
    /// Families by name, each with its newest return limit: the one without a condition first.
    ///
    /// # Errors
    /// The database error.
    pub async fn families(&self) -> Result<Vec<Family>, StoreError> {
        let rows = sqlx::query(
            "SELECT f.id, f.name, f.fuel_system, (
               SELECT l.upper FROM limits l WHERE l.family_id = f.id AND l.check_id = ?1
               ORDER BY l.condition, l.revision DESC LIMIT 1) AS upper
             FROM families f ORDER BY f.name COLLATE NOCASE LIMIT ?2",
        )
        .bind(LimitCheck::ReturnFlow.name())
        .bind(MOST_FAMILIES)
        .fetch_all(&self.pool)
        .await?;
        rows.iter()
            .map(|row| {
                Ok(Family {
                    id: rows::id(row, "id")?,
                    name: row.try_get("name")?,
                    fuel_system: rows::name(row, "fuel_system")?,
                    return_limit_ml_min: row.try_get("upper")?,
                })
            })
            .collect()
    }
}

/// Families by lower-case name, those of these names.
pub(crate) async fn families_by_name<'a>(
    connection: &mut SqliteConnection,
    names: impl IntoIterator<Item = &'a str>,
) -> Result<HashMap<String, Uuid>, StoreError> {
    let names: BTreeSet<&str> = names.into_iter().collect();
    let sql = "SELECT id, name FROM families
               WHERE name COLLATE NOCASE IN (SELECT value FROM json_each(?))";
    let rows = sqlx::query(sql).bind(serde_json::to_string(&names)?).fetch_all(connection).await?;
    rows.iter()
        .map(|row| Ok((row.try_get::<String, _>("name")?.to_lowercase(), rows::id(row, "id")?)))
        .collect()
}
