//! Things of the workshop that stand in a short list by name and are kept whole: instruments and their
//! connections. A change keeps the old state in the history.

use crate::acts::{self, Act};
use crate::library::next_revision;
use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::record::{FieldProblem, Signed};
use serde::Serialize;
use serde::de::DeserializeOwned;
use sqlx::SqliteConnection;
use uuid::Uuid;

/// Something that stands in such a list.
pub(crate) trait Listed: Serialize + DeserializeOwned + Clone + Sync {
    /// Its table, with `id`, `name`, `revision` and `detail`.
    const TABLE: &'static str;
    /// What one is called.
    const ONE: &'static str;

    fn id(&self) -> Uuid;
    fn name(&self) -> &str;
    fn revision(&self) -> u64;
    /// The same as it is kept: with its name trimmed, and this revision.
    fn kept(&self, revision: u64) -> Self;
}

impl Store {
    /// All of a list, by name.
    pub(crate) async fn all_listed<T: Listed>(&self) -> Result<Vec<T>, StoreError> {
        let all = format!("SELECT detail FROM {} ORDER BY name COLLATE NOCASE, id", T::TABLE);
        let found = rows::parts(all).fetch_all(&self.pool).await?;
        found.iter().map(|row| rows::json(row, "detail")).collect()
    }

    /// One of a list.
    pub(crate) async fn one_listed<T: Listed>(&self, id: Uuid) -> Result<T, StoreError> {
        let row = rows::parts(format!("SELECT detail FROM {} WHERE id = ?", T::TABLE))
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        rows::json(&row.ok_or(StoreError::NotFound(T::ONE))?, "detail")
    }

    /// Keeps one: a new one with revision 0, or a change of the revision that is named.
    pub(crate) async fn keep_listed<T: Listed>(
        &self,
        act: &Act,
        new: &T,
        problems: Vec<FieldProblem>,
        signed: Signed,
    ) -> Result<T, StoreError> {
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            drop(tx);
            return self.one_listed(new.id()).await;
        }
        let revision = next_revision(&mut tx, T::TABLE, new.id(), new.revision(), signed).await?;
        let kept = new.kept(revision);
        write_listed(&mut tx, &kept).await?;
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        Ok(kept)
    }

    /// Adds those that are not there yet: the demo.
    pub(crate) async fn add_listed<T: Listed>(&self, all: &[T]) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        for one in all {
            write_listed(&mut tx, one).await?;
        }
        tx.commit().await?;
        Ok(())
    }
}

/// Writes one as it is; an older revision changes nothing.
pub(crate) async fn write_listed<T: Listed>(
    connection: &mut SqliteConnection,
    one: &T,
) -> Result<(), StoreError> {
    rows::parts(format!(
        "INSERT INTO {table} (id, name, revision, detail) VALUES (?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET name = excluded.name, revision = excluded.revision, detail = excluded.detail
           WHERE excluded.revision > {table}.revision",
        table = T::TABLE,
    ))
    .bind(one.id().to_string())
    .bind(one.name())
    .bind(one.revision() as i64)
    .bind(serde_json::to_string(one)?)
    .execute(connection)
    .await?;
    Ok(())
}
