//! The workshop's own rows of the weights of judgement: every change is a revision with its reason.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::judgement::{OWN_ROWS, WeightRow, Weights, shipped};
use cobaltine_core::record::Signed;
use serde::Serialize;
use sqlx::{Row, SqliteConnection};
use std::sync::{Arc, Mutex, PoisonError};
use utoipa::ToSchema;

/// Weights as they are kept.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeightsRecord {
    /// 0 for those that ship with the program.
    pub revision: u32,
    /// The workshop's own rows.
    pub text: String,
    /// Every row as it holds now, those of the workshop marked.
    pub rows: Vec<WeightRow>,
    /// The rows that ship with the program, which hold where the workshop names none.
    pub shipped: String,
    /// Why the house does it so.
    pub reason: String,
    /// Who and when; none for those that ship with the program.
    pub signed: Option<Signed>,
    /// Why they are not used, and those that ship with the program are.
    pub problem: Option<String>,
}

impl Store {
    /// The newest weights, as a file.
    ///
    /// # Errors
    /// The database error.
    pub async fn weights_file(&self) -> Result<WeightsRecord, StoreError> {
        let row = sqlx::query(
            "SELECT revision, text, reason, by_id, at FROM weights ORDER BY revision DESC LIMIT 1",
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else {
            return Ok(WeightsRecord {
                revision: 0,
                text: OWN_ROWS.to_owned(),
                rows: Weights::read("").map(|weights| weights.rows()).unwrap_or_default(),
                shipped: shipped().to_owned(),
                reason: words::SHIPPED.to_owned(),
                signed: None,
                problem: None,
            });
        };
        let text: String = row.try_get("text")?;
        Ok(WeightsRecord {
            revision: revision(rows::count(&row, "revision")?),
            rows: Weights::read(&text).map(|weights| weights.rows()).unwrap_or_default(),
            problem: Weights::read(&text).err().map(|error| error.to_string()),
            text,
            shipped: shipped().to_owned(),
            reason: row.try_get("reason")?,
            signed: Some(rows::signed(&row)?),
        })
    }

    /// The newest weights, read and validated once for each revision. Where the house's own do not
    /// hold what a newer version of the program asks of them, those that ship with it are used.
    ///
    /// # Errors
    /// The database error.
    pub async fn weights(&self) -> Result<Arc<Weights>, StoreError> {
        weights_of(&mut *self.pool.acquire().await?).await
    }

    /// Puts other weights in their place, if nobody else did since `revision`.
    ///
    /// # Errors
    /// What is wrong with the file, by its row; no reason; [`StoreError::Conflict`].
    pub async fn change_weights(
        &self,
        act: &Act,
        since: u32,
        text: &str,
        reason: &str,
        signed: Signed,
    ) -> Result<(), StoreError> {
        check_weights(text, reason)?;
        let reason = reason.trim();
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let now: Option<i64> = sqlx::query("SELECT MAX(revision) AS revision FROM weights")
            .fetch_one(&mut *tx)
            .await?
            .try_get("revision")?;
        if now.unwrap_or(0) != i64::from(since) {
            return Err(StoreError::Conflict(words::WEIGHTS_CHANGED_MEANWHILE_LOOK.to_owned()));
        }
        sqlx::query("INSERT INTO weights (text, reason, by_id, at) VALUES (?, ?, ?, ?)")
            .bind(text)
            .bind(reason)
            .bind(signed.by.to_string())
            .bind(rows::stamp(signed.at))
            .execute(&mut *tx)
            .await?;
        acts::done(&mut tx, act, signed.at).await?;
        Self::rules_changed(&mut tx, None).await?;
        tx.commit().await?;
        self.list_stale().await
    }
}

/// The newest weights, read and validated once for each text over the whole process: the card of a
/// job is written within its own transaction.
pub(crate) async fn weights_of(
    connection: &mut SqliteConnection,
) -> Result<Arc<Weights>, StoreError> {
    static HELD: Mutex<Option<(String, Arc<Weights>)>> = Mutex::new(None);
    let text: Option<String> =
        sqlx::query("SELECT text FROM weights ORDER BY revision DESC LIMIT 1")
            .fetch_optional(connection)
            .await?
            .map(|row| row.try_get("text"))
            .transpose()?;
    let text = text.unwrap_or_default();
    let mut held = HELD.lock().unwrap_or_else(PoisonError::into_inner);
    if let Some((_, weights)) = held.as_ref().filter(|(of, _)| *of == text) {
        return Ok(Arc::clone(weights));
    }
    let weights = Weights::read(&text)
        .or_else(|_| Weights::read(""))
        .map_err(|error| StoreError::field("text", error.to_string()))?;
    let weights = Arc::new(weights);
    *held = Some((text, Arc::clone(&weights)));
    Ok(weights)
}

/// Whether they can be kept: read by the core, and with a reason.
pub(crate) fn check_weights(text: &str, reason: &str) -> Result<(), StoreError> {
    Weights::read(text).map_err(|error| StoreError::field("text", error.to_string()))?;
    if !(1..=300).contains(&reason.trim().chars().count()) {
        return Err(StoreError::field("reason", words::ENTER_WORKSHOPS_REASON_WEIGHTS));
    }
    Ok(())
}

fn revision(count: u64) -> u32 {
    u32::try_from(count).unwrap_or(u32::MAX)
}
