//! Readings of a bench from a file: all of them or none, and what its columns meant.

use crate::bench::{MOST_CELLS, refreshed};
use crate::rows::bench::{find, insert_cells};
use crate::rows::columns as rows;
use crate::stock::shims;
use crate::{Store, StoreError};
use cobaltine_core::bench::{BenchCell, SessionRecord, Shim, Spot};
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// A file that readings came from.
#[derive(Debug, Clone, Copy)]
pub struct BenchFile<'a> {
    /// Made by the one who asks.
    pub id: Uuid,
    /// Its name.
    pub name: &'a str,
    /// As it was.
    pub text: &'a str,
    /// Its heading, by which the meaning of its columns is remembered.
    pub heading: &'a str,
    /// What its columns mean, as JSON.
    pub columns: &'a str,
    /// Who took it in.
    pub by: Uuid,
}

impl Store {
    /// Keeps all readings of a file, or none. Readings that stood before are corrected by them.
    ///
    /// # Errors
    /// No such session; too many readings; a drive that is too high.
    pub async fn import_bench(
        &self,
        session: Uuid,
        file: &BenchFile<'_>,
        mut cells: Vec<BenchCell>,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let held = find(&mut tx, session).await?.ok_or(StoreError::NotFound("bench session"))?;
        if kept_before(&mut tx, file.id).await? {
            return Ok((held, shims(&mut tx).await?));
        }
        if held.cells.len() + cells.len() > MOST_CELLS {
            return Err(StoreError::Conflict("This session holds no more readings.".to_owned()));
        }
        if let Some(refused) = held.drive_refused() {
            return Err(StoreError::Conflict(refused));
        }
        for cell in &mut cells {
            let spot = Spot { cell: &cell.cell, row: cell.row, tag: cell.tag };
            cell.corrects = held.standing(cell.round, cell.test, spot).map(|before| before.id);
        }
        let at = cells.first().map_or(held.signed.at, |cell| cell.signed.at);
        insert_cells(&mut tx, session, &cells).await?;
        keep_file(&mut tx, session, file, at).await?;
        let answer = refreshed(&mut tx, session, at).await?;
        tx.commit().await?;
        Ok(answer)
    }

    /// What the columns of a file with this heading meant the last time, as JSON.
    ///
    /// # Errors
    /// The database error.
    pub async fn column_meanings(&self, heading: &str) -> Result<Option<String>, StoreError> {
        let row = sqlx::query("SELECT columns FROM column_meanings WHERE heading = ?")
            .bind(heading)
            .fetch_optional(&self.pool)
            .await?;
        Ok(row.map(|row| row.try_get("columns")).transpose()?)
    }
}

async fn kept_before(connection: &mut SqliteConnection, id: Uuid) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM bench_files WHERE id = ?) AS there")
        .bind(id.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

async fn keep_file(
    connection: &mut SqliteConnection,
    session: Uuid,
    file: &BenchFile<'_>,
    at: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO bench_files (id, session_id, name, text, by_id, at) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(file.id.to_string())
    .bind(session.to_string())
    .bind(file.name)
    .bind(file.text)
    .bind(file.by.to_string())
    .bind(rows::stamp(at))
    .execute(&mut *connection)
    .await?;
    sqlx::query(
        "INSERT INTO column_meanings (heading, columns) VALUES (?, ?)
         ON CONFLICT (heading) DO UPDATE SET columns = excluded.columns",
    )
    .bind(file.heading)
    .bind(file.columns)
    .execute(connection)
    .await?;
    Ok(())
}
