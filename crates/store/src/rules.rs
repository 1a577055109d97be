//! The house rules: every change is a new revision with its reason.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::record::Signed;
use cobaltine_core::rules::{RuleChange, RuleId, Rules};
use serde::{Deserialize, Serialize};
use sqlx::Row;
use utoipa::ToSchema;

/// One change as it is kept.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RuleRecord {
    /// Counted over all rules.
    pub revision: u32,
    /// Which.
    pub rule: RuleId,
    /// In the unit of its field.
    pub value: f64,
    /// As typed.
    pub typed: String,
    /// Why.
    pub reason: String,
    /// Who and when.
    pub signed: Signed,
}

impl From<RuleRecord> for RuleChange {
    fn from(record: RuleRecord) -> Self {
        let RuleRecord { rule, value, reason, revision, .. } = record;
        Self { rule, value, reason, revision }
    }
}

impl Store {
    /// Every change, oldest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn rule_changes(&self) -> Result<Vec<RuleRecord>, StoreError> {
        let rows = sqlx::query(
            "SELECT revision, rule, value, typed, reason, by_id, at FROM house_rules ORDER BY revision LIMIT 10000",
        )
        .fetch_all(&self.pool)
        .await?;
        rows.iter()
            .map(|row| {
                Ok(RuleRecord {
                    revision: u32::try_from(rows::count(row, "revision")?).unwrap_or(u32::MAX),
                    rule: rows::name(row, "rule")?,
                    value: row.try_get("value")?,
                    typed: row.try_get("typed")?,
                    reason: row.try_get("reason")?,
                    signed: rows::signed(row)?,
                })
            })
            .collect()
    }

    /// The rules as they stand.
    ///
    /// # Errors
    /// The database error.
    pub async fn rules(&self) -> Result<Rules, StoreError> {
        let changes = self.rule_changes().await?;
        Ok(Rules::after(changes.into_iter().map(RuleChange::from)))
    }

    /// Changes a rule, if nobody else did since `revision` (0 for the trade's default).
    ///
    /// # Errors
    /// No reason; [`StoreError::Conflict`] with what it is now.
    pub async fn change_rule(
        &self,
        act: &Act,
        rule: RuleId,
        revision: u32,
        (value, typed): (f64, &str),
        reason: &str,
        signed: Signed,
    ) -> Result<(), StoreError> {
        let reason = reason.trim();
        if !(1..=300).contains(&reason.chars().count()) {
            return Err(StoreError::field("reason", words::ENTER_WORKSHOPS_REASON_SHOWS));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let held =
            sqlx::query("SELECT MAX(revision) AS revision, typed FROM house_rules WHERE rule = ?")
                .bind(rule.name())
                .fetch_one(&mut *tx)
                .await?;
        let now: Option<i64> = held.try_get("revision")?;
        if now.unwrap_or(0) != i64::from(revision) {
            let typed: Option<String> = held.try_get("typed")?;
            return Err(StoreError::Conflict(words::rule_changed_meanwhile_look(
                typed.unwrap_or_default(),
            )));
        }
        sqlx::query("INSERT INTO house_rules (rule, value, typed, reason, by_id, at) VALUES (?, ?, ?, ?, ?, ?)")
            .bind(rule.name())
            .bind(value)
            .bind(typed.trim())
            .bind(reason)
            .bind(signed.by.to_string())
            .bind(rows::stamp(signed.at))
            .execute(&mut *tx)
            .await?;
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        Ok(())
    }
}
