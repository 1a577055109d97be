//! The log: rows added at the end, read in the order of their places. Knows no rules.
//!
//! Each row carries the SHA-256 of the hash of the row written before it, of where it belongs and of
//! what it says, so that [`Store::check_log`] finds the first row that was changed outside.

use crate::acts::Act;
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::entry::Entry;
use cobaltine_core::record::{Moment, place_after};
use serde::Serialize;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Rows that are checked at once.
const PAGE: i64 = 2000;

/// What a check of the log found.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LogCheck {
    /// Rows that were read.
    pub rows: u64,
    /// The first row that is not as it was written, in words; none when all are.
    pub broken: Option<String>,
}

/// Where a log ends: its greatest place, and the hash of the last row of all.
#[derive(Debug, Clone)]
pub(crate) struct End {
    pub place: u64,
    pub tail: String,
    /// What was added to it, bytes.
    pub bytes: usize,
}

/// Adds what was done now, each entry at the next place.
pub(crate) async fn append(
    connection: &mut SqliteConnection,
    of: Uuid,
    entries: &mut [Entry],
) -> Result<(), StoreError> {
    for entry in entries.iter_mut() {
        entry.signed_mut().seq = 0;
    }
    restore(connection, of, entries).await
}

/// Adds entries that were written elsewhere or earlier, at the places that they have; one without a
/// place gets the next.
pub(crate) async fn restore(
    connection: &mut SqliteConnection,
    of: Uuid,
    entries: &mut [Entry],
) -> Result<(), StoreError> {
    if entries.is_empty() {
        return Ok(());
    }
    let (place, tail) = (last_place(connection, of).await?, last_hash(connection).await?);
    add(connection, of, entries, End { place, tail, bytes: 0 }).await?;
    Ok(())
}

/// Adds entries after the end that is known.
pub(crate) async fn add(
    connection: &mut SqliteConnection,
    of: Uuid,
    entries: &mut [Entry],
    end: End,
) -> Result<End, StoreError> {
    let End { place: mut last, tail: mut hash, mut bytes } = end;
    let of = of.to_string();
    let mut rows = Vec::with_capacity(entries.len());
    for entry in entries {
        let signed = entry.signed_mut();
        if signed.seq == 0 {
            signed.seq = place_after(last, signed.at);
        }
        if signed.seq > cobaltine_core::limits::PLACE {
            return Err(StoreError::Conflict(words::LOG_CANNOT_HOLD_MORE.to_owned()));
        }
        let seq = signed.seq;
        last = last.max(seq);
        let (id, text) = (entry.id().to_string(), serde_json::to_string(&*entry)?);
        hash = hash_of(&hash, &of, seq, &text);
        bytes += text.len();
        rows.push((seq, id, text, hash.clone()));
    }
    // One row is one statement; many are one as well.
    if let [(seq, id, text, hash)] = rows.as_slice() {
        sqlx::query("INSERT INTO log (of_id, seq, id, entry, hash) VALUES (?, ?, ?, ?, ?)")
            .bind(&of)
            .bind(*seq as i64)
            .bind(id)
            .bind(text)
            .bind(hash)
            .execute(connection)
            .await?;
    } else {
        sqlx::query(
            "INSERT INTO log (of_id, seq, id, entry, hash)
             SELECT ?1, value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each(?2) ORDER BY key",
        )
        .bind(&of)
        .bind(serde_json::to_string(&rows)?)
        .execute(connection)
        .await?;
    }
    Ok(End { place: last, tail: hash, bytes })
}

/// Adds one entry with the command that it comes from, in one statement of its own.
pub(crate) async fn add_one(
    connection: &mut SqliteConnection,
    of: Uuid,
    entry: &mut Entry,
    end: End,
    act: &Act,
    marks: bool,
) -> Result<End, StoreError> {
    let signed = entry.signed_mut();
    signed.seq = place_after(end.place, signed.at);
    let (place, at) = (signed.seq, rows::stamp(signed.at));
    if place > cobaltine_core::limits::PLACE {
        return Err(StoreError::Conflict(words::LOG_CANNOT_HOLD_MORE.to_owned()));
    }
    let (of, text) = (of.to_string(), serde_json::to_string(&*entry)?);
    let tail = hash_of(&end.tail, &of, place, &text);
    sqlx::query(
        "INSERT INTO written (of_id, seq, id, entry, hash, command, content, at, marks)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(&of)
    .bind(place as i64)
    .bind(entry.id().to_string())
    .bind(&text)
    .bind(&tail)
    .bind(act.id.to_string())
    .bind(&act.content)
    .bind(at)
    .bind(marks)
    .execute(connection)
    .await?;
    Ok(End { place: end.place.max(place), tail, bytes: end.bytes + text.len() })
}

/// The entries of a log in their order, and how many bytes they take.
pub(crate) async fn load(
    connection: &mut SqliteConnection,
    of: Uuid,
) -> Result<(Vec<Entry>, usize), StoreError> {
    let found = sqlx::query("SELECT entry FROM log WHERE of_id = ? ORDER BY seq")
        .bind(of.to_string())
        .fetch_all(connection)
        .await?;
    let mut bytes = 0;
    let mut entries = Vec::with_capacity(found.len());
    for row in &found {
        let text: &str = row.try_get("entry")?;
        bytes += text.len();
        entries.push(serde_json::from_str(text)?);
    }
    Ok((entries, bytes))
}

/// The log that an entry of the given kind stands in.
pub(crate) async fn log_of(
    connection: &mut SqliteConnection,
    entry: Uuid,
    what: &'static str,
) -> Result<Uuid, StoreError> {
    let row = sqlx::query("SELECT of_id FROM log WHERE id = ?")
        .bind(entry.to_string())
        .fetch_optional(connection)
        .await?;
    rows::id(&row.ok_or(StoreError::NotFound(what))?, "of_id")
}

/// Whether an entry of any log has this id.
pub(crate) async fn is_known(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM log WHERE id = ?) AS there")
        .bind(id.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

/// The greatest place in a log and in those that are read together with it: a job with its bench
/// sessions, a session with its jobs.
pub(crate) async fn last_place(
    connection: &mut SqliteConnection,
    of: Uuid,
) -> Result<u64, StoreError> {
    let row = sqlx::query(
        "SELECT MAX((SELECT MAX(seq) FROM log WHERE of_id = near.id)) AS last FROM (
           SELECT ?1 AS id
           UNION SELECT session_id FROM bench_jobs WHERE job_id = ?1
           UNION SELECT job_id FROM bench_jobs WHERE session_id = ?1) AS near",
    )
    .bind(of.to_string())
    .fetch_one(connection)
    .await?;
    let last: Option<i64> = row.try_get("last")?;
    Ok(last.and_then(|last| u64::try_from(last).ok()).unwrap_or_default())
}

pub(crate) async fn last_hash(connection: &mut SqliteConnection) -> Result<String, StoreError> {
    let row = sqlx::query("SELECT hash FROM log ORDER BY n DESC LIMIT 1")
        .fetch_optional(connection)
        .await?;
    Ok(row.map(|row| row.try_get("hash")).transpose()?.unwrap_or_default())
}

/// SHA-256 over the hash before, the log, the place and the entry, in hexadecimal digits.
fn hash_of(before: &str, of: &str, seq: u64, entry: &str) -> String {
    rows::hexadecimal(format!("{before}\n{of}\n{seq}\n{entry}").as_bytes())
}

/// The newest moment of a log, to be shown on its line.
pub(crate) fn newest(entries: &[Entry]) -> Option<Moment> {
    entries.iter().map(|entry| entry.signed().moment()).max()
}

impl Store {
    /// Reads the whole log and compares every row with what was written. Writes nothing.
    ///
    /// # Errors
    /// The database error.
    pub async fn check_log(&self) -> Result<LogCheck, StoreError> {
        check(&mut *self.pool.begin().await?).await
    }
}

/// The same on one connection.
pub(crate) async fn check(tx: &mut SqliteConnection) -> Result<LogCheck, StoreError> {
    let (mut at, mut rows, mut hash) = (0_i64, 0_u64, String::new());
    loop {
        let page = sqlx::query("SELECT * FROM log WHERE n > ? ORDER BY n LIMIT ?")
            .bind(at)
            .bind(PAGE)
            .fetch_all(&mut *tx)
            .await?;
        for row in &page {
            let (of, text): (&str, &str) = (row.try_get("of_id")?, row.try_get("entry")?);
            let (n, id): (i64, &str) = (row.try_get("n")?, row.try_get("id")?);
            let seq = rows::count(row, "seq")?;
            hash = hash_of(&hash, of, seq, text);
            let own: &str = row.try_get("hash")?;
            let entry = serde_json::from_str::<Entry>(text).ok();
            let fits = entry.is_some_and(|e| e.id().to_string() == id && e.signed().seq == seq);
            if own != hash || !fits {
                let says = words::row_not_written_one(n, id, of);
                return Ok(LogCheck { rows, broken: Some(says) });
            }
            rows += 1;
            at = n;
        }
        if page.is_empty() {
            break;
        }
    }
    // The counter of the table never goes back: rows missing at the end leave it ahead.
    let row = sqlx::query("SELECT seq FROM sqlite_sequence WHERE name = 'log'")
        .fetch_optional(&mut *tx)
        .await?;
    let counted: i64 = row.map(|row| row.try_get("seq")).transpose()?.unwrap_or_default();
    let broken = (counted != at).then(|| words::rows_after_row_missing(at));
    Ok(LogCheck { rows, broken })
}
