//! Jobs: taken in, changed by commands, and read back whole. Which change is possible is decided by
//! [`cobaltine_core::job`]; here its entries are added to the log.

use crate::acts::{self, Act};
use crate::job_file::{family, job_file, named, with_size};
use crate::{Store, StoreError, board, log};
use cobaltine_core::entry::Entry;
use cobaltine_core::job::{Command, apply, take_in};
use cobaltine_core::limits::LOG_BYTES;
use cobaltine_core::record::{Intake, Job, JobFile, Signed};
use sqlx::{Row, SqliteConnection};
use std::collections::BTreeSet;
use uuid::Uuid;

/// A job as it comes over the counter.
#[derive(Debug, Clone, PartialEq)]
pub struct TakeIn {
    /// Made by the one who asks, so that asking twice makes one job.
    pub id: Uuid,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first; missing ones are empty.
    pub labels: Vec<String>,
}

impl Store {
    /// Every job, oldest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn job_ids(&self) -> Result<Vec<Uuid>, StoreError> {
        let found =
            sqlx::query("SELECT id FROM jobs ORDER BY at, id").fetch_all(&self.pool).await?;
        found.iter().map(|row| crate::rows::id(row, "id")).collect()
    }

    /// Takes a job in. The same command again is answered as the first time.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Reused`].
    pub async fn take_in(
        &self,
        act: &Act,
        new: &TakeIn,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        if acts::done_before(&mut tx, act).await? {
            return job_file(&mut tx, new.id).await;
        }
        if log::is_known(&mut tx, new.id).await? {
            return Err(StoreError::Reused);
        }
        let number = next_number(&mut tx).await?;
        let entry = take_in(new.id, number, new.intake.clone(), &new.labels, signed)?;
        let Entry::TakenIn(job) = &entry else {
            return Err(StoreError::NotFound("job"));
        };
        insert_job(&mut tx, job).await?;
        log::append(&mut tx, new.id, &mut [entry]).await?;
        acts::done(&mut tx, act, signed.at).await?;
        let file = board::refresh(&mut tx, new.id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Does what a person asks of a job. The same command again is answered as the first time.
    ///
    /// # Errors
    /// What [`apply`] refuses; [`StoreError::Reused`]; a log that is full.
    pub async fn apply(
        &self,
        job: Uuid,
        act: &Act,
        command: Command,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let (mut file, bytes) = with_size(&mut tx, job).await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(file);
        }
        let mut entries = apply(&file, command, signed)?;
        if bytes > LOG_BYTES {
            return Err(StoreError::Conflict(
                "This job holds as much as a file of one can carry. Take in another for what follows."
                    .to_owned(),
            ));
        }
        log::append(&mut tx, job, &mut entries).await?;
        acts::done(&mut tx, act, signed.at).await?;
        add(&mut tx, &mut file, entries).await?;
        board::refreshed(&mut tx, &file, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// The job that a test, a run or a check belongs to.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] with what was looked for.
    pub async fn job_with(&self, entry: Uuid, what: &'static str) -> Result<Uuid, StoreError> {
        log::log_of(&mut *self.pool.acquire().await?, entry, what).await
    }

    /// A job with everything that belongs to it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn job(&self, id: Uuid) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin().await?;
        job_file(&mut tx, id).await
    }
}

/// Adds entries to a job that was read before them, with the names that they bring.
async fn add(
    connection: &mut SqliteConnection,
    file: &mut JobFile,
    entries: Vec<Entry>,
) -> Result<(), StoreError> {
    let mut signers: BTreeSet<Uuid> = file.people.iter().map(|one| one.id).collect();
    let (known, held) = (signers.len(), file.job.intake.clone());
    for entry in entries {
        signers.insert(entry.signed().by);
        file.push(entry)?;
    }
    if signers.len() > known {
        file.people = named(connection, &signers).await?;
    }
    if held != file.job.intake {
        file.family = family(connection, file.job.intake.family_id).await?;
        sqlx::query("UPDATE jobs SET machine = ?, family_id = ? WHERE id = ?")
            .bind(&file.job.intake.machine)
            .bind(file.job.intake.family_id.map(|id| id.to_string()))
            .bind(file.job.id.to_string())
            .execute(connection)
            .await?;
    }
    Ok(())
}

/// The next number for people.
pub(crate) async fn next_number(connection: &mut SqliteConnection) -> Result<u64, StoreError> {
    let row = sqlx::query("SELECT COALESCE(MAX(number), 0) + 1 AS next FROM jobs")
        .fetch_one(connection)
        .await?;
    crate::rows::count(&row, "next")
}

/// The line by which a job is found.
pub(crate) async fn insert_job(
    connection: &mut SqliteConnection,
    job: &Job,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO jobs (id, number, machine, family_id, by_id, at) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(job.id.to_string())
    .bind(job.number as i64)
    .bind(&job.intake.machine)
    .bind(job.intake.family_id.map(|id| id.to_string()))
    .bind(job.taken_in.by.to_string())
    .bind(crate::rows::stamp(job.taken_in.at))
    .execute(connection)
    .await?;
    Ok(())
}

/// Whether a job is here.
pub(crate) async fn job_exists(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM jobs WHERE id = ?) AS there")
        .bind(id.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}
