//! Sessions: in a file of their own beside the data, so that who comes and goes waits for no reading,
//! and no copy of the data holds a way in.

use crate::{StoreError, rows};
use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqliteSynchronous};
use sqlx::{Row, SqlitePool};
use std::path::Path;

/// Sessions, each a text under an id of which only the hash is kept.
#[derive(Debug, Clone)]
pub struct SignIns(SqlitePool);

impl SignIns {
    /// Opens them. A file that cannot be read is begun anew: everybody signs in again.
    pub(crate) async fn open(folder: &Path) -> Result<Self, StoreError> {
        let file = folder.join("sign-ins.sqlite");
        match Self::open_file(&file).await {
            Ok(sessions) => Ok(sessions),
            Err(error) => {
                tracing::warn!(%error, "sessions are begun anew");
                for ending in ["", "-wal", "-shm"] {
                    let gone =
                        std::fs::remove_file(folder.join(format!("sign-ins.sqlite{ending}")));
                    if let Err(error) = gone
                        && error.kind() != std::io::ErrorKind::NotFound
                    {
                        return Err(error.into());
                    }
                }
                Self::open_file(&file).await
            }
        }
    }

    async fn open_file(file: &Path) -> Result<Self, StoreError> {
        let options = SqliteConnectOptions::new()
            .filename(file)
            .create_if_missing(true)
            .journal_mode(SqliteJournalMode::Wal)
            .synchronous(SqliteSynchronous::Normal);
        let pool = crate::pool_of(2).connect_with(options).await?;
        sqlx::raw_sql(
            "CREATE TABLE IF NOT EXISTS sessions (
               id TEXT PRIMARY KEY, said TEXT NOT NULL, ends_at INTEGER NOT NULL
             ) STRICT, WITHOUT ROWID;
             CREATE INDEX IF NOT EXISTS sessions_by_end ON sessions (ends_at);",
        )
        .execute(&pool)
        .await?;
        let whole = sqlx::query("PRAGMA quick_check").fetch_one(&pool).await?;
        if whole.try_get::<String, _>(0)? != "ok" {
            pool.close().await;
            return Err(StoreError::Io(std::io::Error::other("quick_check")));
        }
        Ok(Self(pool))
    }

    /// Keeps what is said of a session until then, seconds since 1970. No where `new` and it is there.
    ///
    /// # Errors
    /// The database error.
    pub async fn keep(
        &self,
        id: &str,
        said: &str,
        ends_at: i64,
        new: bool,
    ) -> Result<bool, StoreError> {
        let sql = if new {
            "INSERT INTO sessions (id, said, ends_at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING"
        } else {
            "INSERT INTO sessions (id, said, ends_at) VALUES (?, ?, ?)
             ON CONFLICT (id) DO UPDATE SET said = excluded.said, ends_at = excluded.ends_at"
        };
        let id = rows::hexadecimal(id.as_bytes());
        let done = sqlx::query(sql).bind(id).bind(said).bind(ends_at).execute(&self.0).await?;
        Ok(done.rows_affected() > 0)
    }

    /// What is said of a session that has not ended.
    ///
    /// # Errors
    /// The database error.
    pub async fn look(&self, id: &str, now: i64) -> Result<Option<String>, StoreError> {
        let found = sqlx::query("SELECT said FROM sessions WHERE id = ? AND ends_at > ?")
            .bind(rows::hexadecimal(id.as_bytes()))
            .bind(now)
            .fetch_optional(&self.0)
            .await?;
        Ok(found.map(|row| row.try_get("said")).transpose()?)
    }

    /// Ends a session, and forgets those that ended by themselves.
    ///
    /// # Errors
    /// The database error.
    pub async fn end(&self, id: &str, now: i64) -> Result<(), StoreError> {
        sqlx::query("DELETE FROM sessions WHERE id = ? OR ends_at <= ?")
            .bind(rows::hexadecimal(id.as_bytes()))
            .bind(now)
            .execute(&self.0)
            .await?;
        Ok(())
    }

    pub(crate) async fn close(&self) {
        self.0.close().await;
    }
}
