//! The workshop itself, and how far its first hour has come.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::profile::Profile;
use cobaltine_core::record::Signed;
use cobaltine_core::units::{UnitLabels, Units};
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;
use std::sync::PoisonError;
use utoipa::ToSchema;

/// The profile as it is kept.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct ProfileRecord {
    /// 0 until someone wrote it down.
    pub revision: u32,
    /// What it says.
    pub profile: Profile,
    /// How its units are written.
    pub labels: UnitLabels,
    /// Who and when.
    pub signed: Option<Signed>,
    /// What the workshop holds already.
    pub held: WorkshopHeld,
}

/// What a workshop holds: the steps of its first hour are done when these are not zero.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct WorkshopHeld {
    /// People.
    pub people: u64,
    /// Families in the library.
    pub families: u64,
    /// Instruments.
    pub instruments: u64,
    /// Jobs.
    pub jobs: u64,
}

/// The profile as a line of a workshop file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ProfileLine {
    /// What it says.
    pub profile: Profile,
    /// Who and when.
    pub signed: Signed,
}

impl Store {
    /// The newest profile, and what the workshop holds.
    ///
    /// # Errors
    /// The database error.
    pub async fn profile(&self) -> Result<ProfileRecord, StoreError> {
        let held = sqlx::query(
            "SELECT (SELECT COUNT(*) FROM people) AS people, \
             (SELECT COUNT(*) FROM families) AS families, \
             (SELECT COUNT(*) FROM instruments) AS instruments, \
             (SELECT COUNT(*) FROM jobs) AS jobs",
        )
        .fetch_one(&self.pool)
        .await?;
        let held = WorkshopHeld {
            people: rows::count(&held, "people")?,
            families: rows::count(&held, "families")?,
            instruments: rows::count(&held, "instruments")?,
            jobs: rows::count(&held, "jobs")?,
        };
        let newest = newest(&mut *self.pool.acquire().await?).await?;
        let labels = |units: Units| units.labels();
        Ok(newest.map_or(
            ProfileRecord { held, labels: labels(Units::default()), ..ProfileRecord::default() },
            |(revision, line)| {
                let labels = labels(line.profile.units);
                let (profile, signed) = (line.profile, Some(line.signed));
                ProfileRecord { revision, profile, labels, signed, held }
            },
        ))
    }

    /// Writes another profile, if nobody else did since `revision`.
    ///
    /// # Errors
    /// What is wrong with it, by its field; [`StoreError::Conflict`].
    pub async fn change_profile(
        &self,
        act: &Act,
        since: u32,
        profile: &Profile,
        signed: Signed,
    ) -> Result<(), StoreError> {
        let problems = profile.problems();
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        if newest(&mut tx).await?.map_or(0, |(revision, _)| revision) != since {
            return Err(StoreError::Conflict(words::PROFILE_CHANGED.to_owned()));
        }
        let other_units = units_of(&mut tx).await? != profile.units;
        keep(&mut tx, &ProfileLine { profile: profile.clone(), signed }).await?;
        acts::done(&mut tx, act, signed.at).await?;
        if other_units {
            // What was said in the old ones is said anew, also of jobs that are closed.
            sqlx::query("INSERT OR IGNORE INTO stale (job_id) SELECT id FROM jobs")
                .execute(&mut *tx)
                .await?;
        }
        tx.commit().await?;
        self.read_units().await?;
        self.list_stale().await
    }

    /// The units that this workshop reads.
    pub fn units(&self) -> Units {
        *self.shared.units.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Reads them anew, after the profile may have changed.
    pub(crate) async fn read_units(&self) -> Result<(), StoreError> {
        let units = units_of(&mut *self.pool.acquire().await?).await?;
        *self.shared.units.lock().unwrap_or_else(PoisonError::into_inner) = units;
        Ok(())
    }
}

/// The units of the newest profile; canonical ones where there is none.
pub(crate) async fn units_of(connection: &mut SqliteConnection) -> Result<Units, StoreError> {
    Ok(newest(connection).await?.map_or_else(Units::default, |(_, line)| line.profile.units))
}

async fn newest(
    connection: &mut SqliteConnection,
) -> Result<Option<(u32, ProfileLine)>, StoreError> {
    let row = sqlx::query(
        "SELECT revision, profile, by_id, at FROM profiles ORDER BY revision DESC LIMIT 1",
    )
    .fetch_optional(connection)
    .await?;
    row.map(|row| {
        let revision = u32::try_from(rows::count(&row, "revision")?).unwrap_or(u32::MAX);
        let line =
            ProfileLine { profile: rows::json(&row, "profile")?, signed: rows::signed(&row)? };
        Ok((revision, line))
    })
    .transpose()
}

/// A profile comes into a workshop that has none; its own stays as it is.
pub(crate) async fn take(
    connection: &mut SqliteConnection,
    line: &ProfileLine,
) -> Result<(), StoreError> {
    let problems = line.profile.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    match newest(connection).await? {
        Some(_) => Ok(()),
        None => keep(connection, line).await,
    }
}

async fn keep(connection: &mut SqliteConnection, line: &ProfileLine) -> Result<(), StoreError> {
    let text = serde_json::to_string(&line.profile)?;
    sqlx::query("INSERT INTO profiles (profile, by_id, at) VALUES (?, ?, ?)")
        .bind(text)
        .bind(line.signed.by.to_string())
        .bind(rows::stamp(line.signed.at))
        .execute(connection)
        .await?;
    Ok(())
}

/// The line of an export, where there is one.
pub(crate) fn line(of: ProfileRecord) -> Option<ProfileLine> {
    of.signed.map(|signed| ProfileLine { profile: of.profile, signed })
}
