//! Bench tablets: shared screens that a person with a password has enrolled. On them, and nowhere else,
//! a PIN says who is at the bench.

use crate::acts::{self, Act};
use crate::secrets;
use crate::words;
use crate::{Store, StoreError, rows};
use cobaltine_core::limits::NAME;
use cobaltine_core::record::Signed;
use serde::Serialize;
use sqlx::Row;
use sqlx::sqlite::SqliteRow;
use utoipa::ToSchema;
use uuid::Uuid;

/// A shared screen of the workshop.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Tablet {
    /// Identity.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
    /// Who enrolled it, and when.
    pub signed: Signed,
}

impl Store {
    /// The tablets that are enrolled now, newest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn tablets(&self) -> Result<Vec<Tablet>, StoreError> {
        let found = sqlx::query("SELECT * FROM tablets WHERE ended_at IS NULL ORDER BY at DESC")
            .fetch_all(&self.pool)
            .await?;
        found.iter().map(tablet).collect()
    }

    /// The tablet that shows this token; none once it was ended.
    ///
    /// # Errors
    /// The database error.
    pub async fn tablet_of(&self, token: &str) -> Result<Option<Tablet>, StoreError> {
        let found = sqlx::query("SELECT * FROM tablets WHERE token = ? AND ended_at IS NULL")
            .bind(rows::hexadecimal(token.as_bytes()))
            .fetch_optional(&self.pool)
            .await?;
        found.as_ref().map(tablet).transpose()
    }

    /// Enrols a screen. Gives the token that it shows from now on.
    ///
    /// # Errors
    /// An empty or long name.
    pub async fn enrol_tablet(&self, name: &str, signed: Signed) -> Result<String, StoreError> {
        let name = name.trim();
        if name.is_empty() || name.chars().count() > NAME {
            return Err(StoreError::field("name", words::enter_name_characters(NAME)));
        }
        let (token, kept) = secrets::token();
        let mut tx = self.write().await?;
        sqlx::query("INSERT INTO tablets (id, name, token, by_id, at) VALUES (?, ?, ?, ?, ?)")
            .bind(Uuid::now_v7().to_string())
            .bind(name)
            .bind(kept)
            .bind(signed.by.to_string())
            .bind(rows::stamp(signed.at))
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(token)
    }

    /// Ends a tablet, and with it everyone who signed in on it by PIN.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn end_tablet(&self, act: &Act, id: Uuid, signed: Signed) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let done =
            sqlx::query("UPDATE tablets SET ended_at = ?2 WHERE id = ?1 AND ended_at IS NULL")
                .bind(id.to_string())
                .bind(rows::stamp(signed.at))
                .execute(&mut *tx)
                .await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound("tablet"));
        }
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await
    }
}

fn tablet(row: &SqliteRow) -> Result<Tablet, StoreError> {
    let name = row.try_get("name")?;
    Ok(Tablet { id: rows::id(row, "id")?, name, signed: rows::signed(row)? })
}
