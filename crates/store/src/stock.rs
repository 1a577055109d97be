//! Shims on hand. A shim that is fitted is counted down; every move is kept.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::quantity::trimmed;
use cobaltine_core::record::Signed;
use cobaltine_core::tests::bench::Shim;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// The most sizes in the drawer.
const MOST_SIZES: i64 = 500;

impl Store {
    /// Every size that was ever on hand, smallest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn shims(&self) -> Result<Vec<Shim>, StoreError> {
        let mut connection = self.pool.acquire().await?;
        shims(&mut connection).await
    }

    /// Puts shims into the drawer, or takes them out. The same id again changes nothing.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when more are taken than there are.
    pub async fn move_shims(
        &self,
        act: &Act,
        id: Uuid,
        size_um: f64,
        moved: i32,
        signed: Signed,
    ) -> Result<Vec<Shim>, StoreError> {
        let mut tx = self.write().await?;
        let again = acts::done_before(&mut tx, act).await?;
        if !again && !moved_before(&mut tx, id).await? {
            acts::done(&mut tx, act, signed.at).await?;
            move_shim(&mut tx, &Move { id, size_um, moved, fit: None, signed }).await?;
        }
        let kept = shims(&mut tx).await?;
        tx.commit().await?;
        Ok(kept)
    }
}

/// One move of shims of one size.
pub(crate) struct Move {
    pub id: Uuid,
    pub size_um: f64,
    pub moved: i32,
    /// Session and tag that it was fitted into.
    pub fit: Option<(Uuid, u32)>,
    pub signed: Signed,
}

pub(crate) async fn shims(connection: &mut SqliteConnection) -> Result<Vec<Shim>, StoreError> {
    let found = sqlx::query("SELECT size_um, count FROM shims ORDER BY size_um LIMIT ?")
        .bind(MOST_SIZES)
        .fetch_all(connection)
        .await?;
    found
        .iter()
        .map(|row| {
            Ok(Shim { size_um: row.try_get("size_um")?, count: rows::count(row, "count")? as u32 })
        })
        .collect()
}

async fn moved_before(connection: &mut SqliteConnection, id: Uuid) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM shim_moves WHERE id = ?) AS there")
        .bind(id.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

pub(crate) async fn move_shim(
    connection: &mut SqliteConnection,
    one: &Move,
) -> Result<(), StoreError> {
    // A size that was typed in another unit is the same shim: a nanometre is near enough.
    let size_um = (one.size_um * 1000.0).round() / 1000.0;
    let held: Option<i64> = sqlx::query("SELECT count FROM shims WHERE size_um = ?")
        .bind(size_um)
        .fetch_optional(&mut *connection)
        .await?
        .map(|row| row.try_get("count"))
        .transpose()?;
    let left = held.unwrap_or(0) + i64::from(one.moved);
    if left < 0 {
        return Err(not_in_stock(connection, size_um).await?);
    }
    sqlx::query(
        "INSERT INTO shims (size_um, count) VALUES (?, ?)
         ON CONFLICT (size_um) DO UPDATE SET count = excluded.count",
    )
    .bind(size_um)
    .bind(left)
    .execute(&mut *connection)
    .await?;
    sqlx::query(
        "INSERT INTO shim_moves (id, size_um, moved, session_id, tag, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(one.id.to_string())
    .bind(size_um)
    .bind(i64::from(one.moved))
    .bind(one.fit.map(|(session, _)| session.to_string()))
    .bind(one.fit.map(|(_, tag)| i64::from(tag)))
    .bind(one.signed.by.to_string())
    .bind(rows::stamp(one.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

/// The refusal names the nearest that is there.
async fn not_in_stock(
    connection: &mut SqliteConnection,
    size_um: f64,
) -> Result<StoreError, StoreError> {
    let near = shims(connection)
        .await?
        .into_iter()
        .filter(|shim| shim.count > 0)
        .min_by(|a, b| (a.size_um - size_um).abs().total_cmp(&(b.size_um - size_um).abs()));
    let size = trimmed(size_um);
    Ok(StoreError::field(
        "typed",
        match near {
            Some(near) => words::no_shim_m_stock(&size, trimmed(near.size_um)),
            None => words::no_shim_m_stock_drawer(&size),
        },
    ))
}
