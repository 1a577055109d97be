//! Sets that were made of the shelf and are kept together.

use super::ShelfQuery;
use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::record::Signed;
use serde::{Deserialize, Serialize};
use sqlx::{Row, SqliteConnection};
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest note on a set.
const LONGEST_NOTE: usize = 200;
/// Members of a set, as [`cobaltine_core::matching`] takes them.
const MEMBERS: std::ops::RangeInclusive<usize> = 2..=16;

/// A set that was made and is kept together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct KeptSet {
    /// Identity, made where it was kept.
    pub id: Uuid,
    /// Counted by the workshop, for people.
    pub number: u64,
    /// Its injectors.
    pub members: Vec<Uuid>,
    /// What it is for; may be empty.
    pub note: String,
    /// Who and when.
    pub signed: Signed,
}

impl Store {
    /// Sets that stand, of one family, oldest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn kept_sets(&self, query: &ShelfQuery) -> Result<Vec<KeptSet>, StoreError> {
        let found = sqlx::query(
            "SELECT s.*, (SELECT json_group_array(m.injector_id) FROM kept_set_members m
                          WHERE m.set_id = s.id) AS members
             FROM kept_sets s WHERE s.kind = ? AND s.family = ? AND s.apart_at IS NULL
             ORDER BY s.number",
        )
        .bind(query.kind.name())
        .bind(&query.family)
        .fetch_all(&self.pool)
        .await?;
        found.iter().map(kept_set).collect()
    }

    /// Keeps a set together. The same again changes nothing.
    ///
    /// # Errors
    /// An injector that is not on this part of the shelf, or that stands in another set.
    pub async fn keep_set(
        &self,
        act: &Act,
        query: &ShelfQuery,
        set: &KeptSet,
        owners_agree: bool,
    ) -> Result<(), StoreError> {
        self.freshen().await?;
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        if !owners_agree {
            one_owner(&mut tx, &set.members).await?;
        }
        insert_set(&mut tx, query, set).await?;
        acts::done(&mut tx, act, set.signed.at).await?;
        tx.commit().await?;
        Ok(())
    }

    /// Takes a set apart again. A second time changes nothing.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn take_apart(&self, act: &Act, set: Uuid, signed: Signed) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let held = sqlx::query("SELECT 1 FROM kept_sets WHERE id = ?")
            .bind(set.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        if held.is_none() {
            return Err(StoreError::NotFound("set"));
        }
        sqlx::query(
            "UPDATE kept_sets SET apart_by = ?, apart_at = ? WHERE id = ? AND apart_at IS NULL",
        )
        .bind(signed.by.to_string())
        .bind(rows::stamp(signed.at))
        .bind(set.to_string())
        .execute(&mut *tx)
        .await?;
        sqlx::query("UPDATE kept_set_members SET stands = NULL WHERE set_id = ?")
            .bind(set.to_string())
            .execute(&mut *tx)
            .await?;
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        Ok(())
    }
}

/// Injectors of different owners go together only where somebody says that they agree.
async fn one_owner(connection: &mut SqliteConnection, members: &[Uuid]) -> Result<(), StoreError> {
    let list = serde_json::to_string(members)?;
    let found = sqlx::query(
        "SELECT MIN(line ->> '$.owner') AS owner FROM shelf
         WHERE injector_id IN (SELECT value FROM json_each(?)) AND line ->> '$.owner' <> ''
         GROUP BY line ->> '$.owner' COLLATE NOCASE ORDER BY owner",
    )
    .bind(&list)
    .fetch_all(connection)
    .await?;
    let owners: Vec<String> =
        found.iter().map(|row| row.try_get("owner")).collect::<Result<_, _>>()?;
    if owners.len() > 1 {
        return Err(StoreError::field("owners", words::owners_differ(owners.join(" and "))));
    }
    Ok(())
}

/// Keeps a set together; the same again changes nothing.
pub(crate) async fn insert_set(
    connection: &mut SqliteConnection,
    query: &ShelfQuery,
    set: &KeptSet,
) -> Result<(), StoreError> {
    let mut members = set.members.clone();
    members.sort_unstable();
    members.dedup();
    if !MEMBERS.contains(&members.len()) || members.len() != set.members.len() {
        return Err(StoreError::field("members", words::SET_INJECTORS_EACH_ONCE));
    }
    if set.note.chars().count() > LONGEST_NOTE {
        let says = words::maximum_characters(LONGEST_NOTE);
        return Err(StoreError::field("note", says));
    }
    let held = sqlx::query("SELECT 1 FROM kept_sets WHERE id = ?")
        .bind(set.id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    if held.is_some() {
        return Ok(());
    }
    let list = serde_json::to_string(&members)?;
    let known = sqlx::query(
        "SELECT COUNT(*) AS n FROM shelf
             WHERE kind = ? AND family = ? AND injector_id IN (SELECT value FROM json_each(?))",
    )
    .bind(query.kind.name())
    .bind(&query.family)
    .bind(&list)
    .fetch_one(&mut *connection)
    .await?;
    if rows::count(&known, "n")? != members.len() as u64 {
        let says = words::INJECTOR_SET_NOT_SHELF;
        return Err(StoreError::field("members", says));
    }
    let taken = sqlx::query(
        "SELECT MIN(s.number) AS number FROM kept_set_members m
             JOIN kept_sets s ON s.id = m.set_id
             WHERE m.stands = 1 AND m.injector_id IN (SELECT value FROM json_each(?))",
    )
    .bind(&list)
    .fetch_one(&mut *connection)
    .await?;
    if let Some(number) = taken.try_get::<Option<i64>, _>("number")? {
        let says = words::injector_set_already_set(number);
        return Err(StoreError::Conflict(says));
    }
    sqlx::query(
        "INSERT INTO kept_sets (id, number, kind, family, note, by_id, at)
             SELECT ?1, CASE WHEN ?2 > 0 AND NOT EXISTS (SELECT 1 FROM kept_sets WHERE number = ?2)
                             THEN ?2 ELSE COALESCE(MAX(number), 0) + 1 END, ?3, ?4, ?5, ?6, ?7
             FROM kept_sets",
    )
    .bind(set.id.to_string())
    .bind(set.number as i64)
    .bind(query.kind.name())
    .bind(&query.family)
    .bind(set.note.trim())
    .bind(set.signed.by.to_string())
    .bind(rows::stamp(set.signed.at))
    .execute(&mut *connection)
    .await?;
    sqlx::query(
        "INSERT INTO kept_set_members (injector_id, set_id, stands)
             SELECT value, ?, 1 FROM json_each(?)",
    )
    .bind(set.id.to_string())
    .bind(&list)
    .execute(&mut *connection)
    .await?;
    Ok(())
}

/// A set as its row holds it, with its members as a list.
pub(crate) fn kept_set(row: &sqlx::sqlite::SqliteRow) -> Result<KeptSet, StoreError> {
    Ok(KeptSet {
        id: rows::id(row, "id")?,
        number: rows::count(row, "number")?,
        members: rows::json(row, "members")?,
        note: row.try_get("note")?,
        signed: rows::signed(row)?,
    })
}
