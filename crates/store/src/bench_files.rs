//! Readings of a bench from a file: all of them or none, and what its columns meant.

use crate::acts::{self, Act};
use crate::bench::at_bench;
use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::job::BenchCommand;
use cobaltine_core::record::Signed;
use cobaltine_core::tests::bench::{BenchCell, SessionRecord, Shim};
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
}

impl Store {
    /// Keeps all readings of a file, or none. Readings that stood before are corrected by them.
    ///
    /// # Errors
    /// No such session; too many readings; a drive that is too high.
    pub async fn import_bench(
        &self,
        session: Uuid,
        act: &Act,
        file: &BenchFile<'_>,
        cells: Vec<BenchCell>,
        signed: Signed,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.write().await?.to(session);
        let again = acts::done_before(&mut tx, act).await?;
        let command = BenchCommand::TakeFile(cells);
        let answer = at_bench(&mut tx, session, act, command, signed).await?;
        if !again {
            keep_file(&mut tx, session, file, signed).await?;
        }
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

    /// Remembers what the columns of a file of this heading mean.
    ///
    /// # Errors
    /// The database error.
    pub async fn remember_columns(&self, heading: &str, columns: &str) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        remember(&mut tx, heading, columns).await?;
        tx.commit().await
    }
}

async fn keep_file(
    connection: &mut SqliteConnection,
    session: Uuid,
    file: &BenchFile<'_>,
    signed: Signed,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO bench_files (id, session_id, name, text, by_id, at) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(file.id.to_string())
    .bind(session.to_string())
    .bind(file.name)
    .bind(file.text)
    .bind(signed.by.to_string())
    .bind(rows::stamp(signed.at))
    .execute(&mut *connection)
    .await?;
    remember(connection, file.heading, file.columns).await
}

async fn remember(
    connection: &mut SqliteConnection,
    heading: &str,
    columns: &str,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO column_meanings (heading, columns) VALUES (?, ?)
         ON CONFLICT (heading) DO UPDATE SET columns = excluded.columns",
    )
    .bind(heading)
    .bind(columns)
    .execute(connection)
    .await?;
    Ok(())
}
