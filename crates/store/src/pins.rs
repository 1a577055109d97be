//! The PIN of a second signature and of a bench tablet: kept as a salted hash, looked at seldom after
//! wrong tries, and part of no export.

use crate::rows;
use crate::secrets;
use crate::words;
use crate::{Store, StoreError};
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use std::collections::HashSet;
use uuid::Uuid;

/// Digits of a PIN.
const DIGITS: std::ops::RangeInclusive<usize> = 4..=8;

impl Store {
    /// Those who have chosen a PIN.
    ///
    /// # Errors
    /// The database error.
    pub async fn with_pin(&self) -> Result<HashSet<Uuid>, StoreError> {
        let rows = sqlx::query("SELECT person_id FROM pins").fetch_all(&self.pool).await?;
        rows.iter().map(|row| rows::id(row, "person_id")).collect()
    }

    /// Chooses a PIN; one that is set already has to be known, except to whoever has just proven more.
    ///
    /// # Errors
    /// A field: not 4 to 8 digits, or the one that is set now is wrong.
    pub async fn set_pin(
        &self,
        person: Uuid,
        pin: &str,
        old: Option<&str>,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        if !DIGITS.contains(&pin.len()) || !pin.bytes().all(|one| one.is_ascii_digit()) {
            let says = words::pin_digits(DIGITS.start(), DIGITS.end());
            return Err(StoreError::field("pin", says));
        }
        if let Some(old) = old
            && self.with_pin().await?.contains(&person)
        {
            self.prove("old", person, old, at).await?;
        }
        let hash = secrets::hashed(pin.to_owned()).await?;
        let mut tx = self.write().await?;
        sqlx::query(
            "INSERT INTO pins (person_id, hash, tries, open_at) VALUES (?, ?, 0, ?)
             ON CONFLICT (person_id) DO UPDATE SET hash = excluded.hash, tries = 0",
        )
        .bind(person.to_string())
        .bind(hash)
        .bind(rows::stamp(at))
        .execute(&mut *tx)
        .await?;
        tx.commit().await
    }

    /// Whether this is the PIN of this person. A try is counted before it is looked at, so that many at
    /// once are as slow as one after the other.
    ///
    /// # Errors
    /// A field: none is set, it is wrong, or it is not looked at yet.
    pub async fn prove_pin(
        &self,
        person: Uuid,
        pin: &str,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        self.prove("pin", person, pin, at).await
    }

    async fn prove(
        &self,
        field: &str,
        person: Uuid,
        pin: &str,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let hash = tried(&mut tx, person, pin, at).await?;
        let hash = hash.map_err(|says| StoreError::field(field, says))?;
        tx.commit_quietly().await?;
        if !secrets::matches(Some(hash), pin.to_owned()).await? {
            return Err(StoreError::field(field, words::WRONG_PIN));
        }
        let mut tx = self.write().await?;
        sqlx::query("UPDATE pins SET tries = 0, open_at = ? WHERE person_id = ?")
            .bind(rows::stamp(at))
            .bind(person.to_string())
            .execute(&mut *tx)
            .await?;
        tx.commit().await
    }
}

/// Counts a try, and gives the hash to look at; or why it is not looked at.
async fn tried(
    connection: &mut SqliteConnection,
    person: Uuid,
    pin: &str,
    at: Timestamp,
) -> Result<Result<String, String>, StoreError> {
    let row = sqlx::query("SELECT * FROM pins WHERE person_id = ?")
        .bind(person.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    let Some(row) = row else { return Ok(Err(words::CHOOSE_PIN_FIRST.to_owned())) };
    if pin.is_empty() {
        return Ok(Err(words::ENTER_PIN_SIGN.to_owned()));
    }
    let open_at = rows::time(&row.try_get::<String, _>("open_at")?)?;
    if at < open_at {
        return Ok(Err(words::too_many_wrong_pins(secrets::minutes(open_at, at))));
    }
    let tries = rows::count(&row, "tries")? as u32 + 1;
    sqlx::query("UPDATE pins SET tries = ?, open_at = ? WHERE person_id = ?")
        .bind(tries)
        .bind(rows::stamp(at + secrets::pause(tries)))
        .bind(person.to_string())
        .execute(connection)
        .await?;
    Ok(Ok(row.try_get("hash")?))
}
