//! Commands that were done: one id for the whole life of a command. The same again is answered as
//! the first time, something else under the same id is refused, and nothing is ever done twice.

use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::entry::Entry;
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// One act of one person: its id, and a digest of what was asked.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Act {
    /// Made when the person acted, and the same for every retry.
    pub id: Uuid,
    pub(crate) content: String,
}

impl Act {
    /// An act that asks for this; the bytes are those of the request, with who asked.
    pub fn new(id: Uuid, asked: &[u8]) -> Self {
        Self { id, content: rows::hexadecimal(asked) }
    }

    /// An act of the program itself, which nobody repeats.
    pub fn own() -> Self {
        Self::new(Uuid::now_v7(), &[])
    }
}

/// Whether this act was done before. Asked inside of the transaction that would do it.
///
/// # Errors
/// [`StoreError::Reused`] when the id was given to something else.
pub(crate) async fn done_before(
    connection: &mut SqliteConnection,
    act: &Act,
) -> Result<bool, StoreError> {
    // One look at both: between two, the first try may come to its end.
    let row = sqlx::query(
        "SELECT (SELECT content FROM commands WHERE id = ?1) AS content,
                EXISTS (SELECT 1 FROM log WHERE id = ?1) AS known",
    )
    .bind(act.id.to_string())
    .fetch_one(connection)
    .await?;
    match row.try_get::<Option<String>, _>("content")? {
        Some(content) if content == act.content => Ok(true),
        Some(_) => Err(StoreError::Reused),
        // An entry of a file that was imported may have it.
        None if row.try_get("known")? => Err(StoreError::Reused),
        None => Ok(false),
    }
}

/// Remembers that it was done, in the same transaction.
pub(crate) async fn done(
    connection: &mut SqliteConnection,
    act: &Act,
    at: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO commands (id, content, at) VALUES (?, ?, ?)")
        .bind(act.id.to_string())
        .bind(&act.content)
        .bind(rows::stamp(at))
        .execute(connection)
        .await?;
    Ok(())
}

/// Remembers with it what it added to a log.
pub(crate) async fn done_with(
    connection: &mut SqliteConnection,
    act: &Act,
    at: Timestamp,
    of: Uuid,
    entries: &[Entry],
) -> Result<(), StoreError> {
    let places = || entries.iter().map(|entry| entry.signed().seq as i64);
    sqlx::query(
        "INSERT INTO commands (id, content, at, of_id, from_seq, to_seq) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(act.id.to_string())
    .bind(&act.content)
    .bind(rows::stamp(at))
    .bind(of.to_string())
    .bind(places().min())
    .bind(places().max())
    .execute(connection)
    .await?;
    Ok(())
}

/// What an act that was done before had added.
pub(crate) async fn added(
    connection: &mut SqliteConnection,
    act: &Act,
) -> Result<Vec<Entry>, StoreError> {
    let found = sqlx::query(
        "SELECT l.entry FROM commands c
         JOIN log l ON l.of_id = c.of_id AND l.seq BETWEEN c.from_seq AND c.to_seq
         WHERE c.id = ? ORDER BY l.seq",
    )
    .bind(act.id.to_string())
    .fetch_all(connection)
    .await?;
    found.iter().map(|row| rows::json(row, "entry")).collect()
}

impl Store {
    /// Whether this act was done before: asked where an answer comes from outside, such as a talk
    /// with a control unit, which a retry must not begin again.
    ///
    /// # Errors
    /// [`StoreError::Reused`] when the id was given to something else.
    pub async fn done_before(&self, act: &Act) -> Result<bool, StoreError> {
        done_before(&mut *self.pool.acquire().await?, act).await
    }
}
