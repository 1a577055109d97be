//! Between columns and types: ids and times are text, small shapes are JSON.

use crate::StoreError;
use cobaltine_core::record::Signed;
use jiff::Timestamp;
use serde::Serialize;
use serde::de::DeserializeOwned;
use sha2::{Digest, Sha256};
use sqlx::Row;
use sqlx::query::Query;
use sqlx::sqlite::{SqliteArguments, SqliteRow};
use sqlx::{AssertSqlSafe, Sqlite};
use uuid::Uuid;

/// SHA-256 in hexadecimal digits.
pub(crate) fn hexadecimal(bytes: &[u8]) -> String {
    digits(&Sha256::digest(bytes))
}

/// Bytes in hexadecimal digits.
pub(crate) fn digits(bytes: &[u8]) -> String {
    use std::fmt::Write;
    let mut text = String::with_capacity(2 * bytes.len());
    for byte in bytes {
        // Writing into a string cannot fail.
        let _ = write!(text, "{byte:02x}");
    }
    text
}

/// A statement that is put together from parts of this program: a table, a condition, an order. What
/// anybody types is bound to it, never written into it.
pub(crate) fn parts<'q>(sql: String) -> Query<'q, Sqlite, SqliteArguments> {
    sqlx::query(AssertSqlSafe(sql))
}

fn decode<E: std::error::Error + Send + Sync + 'static>(error: E) -> StoreError {
    StoreError::Database(sqlx::Error::Decode(Box::new(error)))
}

pub(crate) fn id(row: &SqliteRow, column: &str) -> Result<Uuid, StoreError> {
    row.try_get::<String, _>(column)?.parse().map_err(decode)
}

pub(crate) fn maybe_id(row: &SqliteRow, column: &str) -> Result<Option<Uuid>, StoreError> {
    let text: Option<String> = row.try_get(column)?;
    text.map(|text| text.parse().map_err(decode)).transpose()
}

pub(crate) fn time(text: &str) -> Result<Timestamp, StoreError> {
    text.parse().map_err(decode)
}

/// A time as it is kept: always nine decimals, so that text sorts as time does.
pub(crate) fn stamp(at: Timestamp) -> String {
    at.strftime("%Y-%m-%dT%H:%M:%S%.9fZ").to_string()
}

pub(crate) fn signed(row: &SqliteRow) -> Result<Signed, StoreError> {
    Ok(Signed::new(id(row, "by_id")?, time(&row.try_get::<String, _>("at")?)?))
}

/// A shape kept as JSON.
pub(crate) fn json<T: DeserializeOwned>(row: &SqliteRow, column: &str) -> Result<T, StoreError> {
    Ok(serde_json::from_str(&row.try_get::<String, _>(column)?)?)
}

/// A unit variant kept as its bare wire name.
pub(crate) fn name<T: DeserializeOwned>(row: &SqliteRow, column: &str) -> Result<T, StoreError> {
    Ok(serde_json::from_value(serde_json::Value::String(row.try_get(column)?))?)
}

/// The same where the column may be empty.
pub(crate) fn maybe_name<T: DeserializeOwned>(
    row: &SqliteRow,
    column: &str,
) -> Result<Option<T>, StoreError> {
    let name: Option<String> = row.try_get(column)?;
    Ok(name.map(|name| serde_json::from_value(serde_json::Value::String(name))).transpose()?)
}

/// The bare wire name of a unit variant.
pub(crate) fn named<T: Serialize>(variant: T) -> Result<String, StoreError> {
    let value = serde_json::to_value(variant)?;
    Ok(value.as_str().map_or_else(|| value.to_string(), str::to_owned))
}

/// A count that the database keeps signed.
pub(crate) fn count(row: &SqliteRow, column: &str) -> Result<u64, StoreError> {
    Ok(row.try_get::<i64, _>(column)?.max(0) as u64)
}

pub(crate) fn cylinder(row: &SqliteRow) -> Result<Option<u32>, StoreError> {
    let value: Option<i64> = row.try_get("cylinder")?;
    value.map(|value| u32::try_from(value).map_err(decode)).transpose()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn times_sort_as_text_and_come_back_as_they_were() {
        let times = [
            "2031-05-20T08:00:04Z",
            "2031-05-20T08:00:04.9Z",
            "2031-05-20T08:00:04.95Z",
            "2031-05-20T08:00:05Z",
        ];
        let stamps: Vec<String> = times.iter().map(|t| stamp(time(t).unwrap())).collect();
        assert!(stamps.is_sorted(), "{stamps:?}");
        for (text, kept) in times.iter().zip(&stamps) {
            assert_eq!(time(text).unwrap(), time(kept).unwrap());
        }
    }
}
