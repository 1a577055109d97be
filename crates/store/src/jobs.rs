//! Jobs: taken in, changed by commands, and read back whole. Which change is possible is decided by
//! [`cobaltine_core::job`]; here its entries are added to the log.

use crate::acts::{self, Act};
use crate::held::{self, JobState};
use crate::job_file::{family, named};
use crate::words;
use crate::{Store, StoreError, board, elsewhere, exercises, log};
use cobaltine_core::entry::{self, Entry};
use cobaltine_core::exercise::Exercise;
use cobaltine_core::job::{Command, apply, take_in, take_up};
use cobaltine_core::limits::LOG_BYTES;
use cobaltine_core::record::{Intake, Job, JobFile, Signed};
use sqlx::{Row, SqliteConnection};
use std::collections::BTreeSet;
use std::sync::Arc;
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
    /// On a made-up engine; none for an engine that somebody drives.
    pub exercise: Option<Exercise>,
}

/// What a command added to a job.
#[derive(Debug, Clone, PartialEq)]
pub struct Kept {
    /// The job.
    pub job: Uuid,
    /// What was added; the same when it was done before.
    pub entries: Vec<Entry>,
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
    ) -> Result<Kept, StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(Kept { job: new.id, entries: acts::added(&mut tx, act).await? });
        }
        if log::is_known(&mut tx, new.id).await? {
            return Err(StoreError::Reused);
        }
        let number = next_number(&mut tx).await?;
        let (id, intake, labels) = (new.id, new.intake.clone(), &new.labels);
        let entry = match new.exercise.clone() {
            Some(exercise) => take_up(id, number, intake, labels, exercise, signed)?,
            None => take_in(id, number, intake, labels, signed)?,
        };
        let Entry::TakenIn(job) = &entry else {
            return Err(StoreError::NotFound("job"));
        };
        insert_job(&mut tx, job).await?;
        // An exercise is told apart from the first moment on: what it holds goes into no other list.
        exercises::refresh(&mut tx, &entry::job([entry.clone()])?).await?;
        let mut entries = vec![entry];
        log::append(&mut tx, new.id, &mut entries).await?;
        acts::done_with(&mut tx, act, signed.at, new.id, &entries).await?;
        tx.stale(new.id, signed.at, Some(signed.by)).await?;
        tx.commit().await?;
        Ok(Kept { job: new.id, entries })
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
    ) -> Result<Kept, StoreError> {
        let mut turn = self.turn().await?;
        let shared = &self.shared;
        let writer = turn.connection();
        let state = match shared.held.get(job) {
            Some(state) => state,
            None => Arc::new(held::loaded(&mut *writer, job).await?),
        };
        let mut entries = match apply(&state.file, command, signed) {
            Ok(entries) => entries,
            // Asked twice at once, the first may have come to its end in the meantime.
            Err(_) if acts::done_before(&mut *writer, act).await? => {
                let entries = acts::added(&mut *writer, act).await?;
                turn.unused();
                return Ok(Kept { job, entries });
            }
            Err(refused) => {
                turn.unused();
                return Err(refused.into());
            }
        };
        if state.bytes > LOG_BYTES {
            return Err(StoreError::Conflict(words::JOB_FULL_BOOK_ANOTHER.to_owned()));
        }
        let tail = turn.tail().await?;
        let writer = turn.connection();
        let end = log::End { place: state.last, tail, bytes: state.bytes };
        let by = state.by().clone();
        // From here on this is the only one that holds it, so that adding copies nothing.
        shared.held.take(job);
        let mut file =
            Arc::try_unwrap(state).map_or_else(|held| held.file.clone(), |held| held.file);
        if let [entry] = entries.as_mut_slice()
            && entry.is_bare()
        {
            let marks = shared.stale.mark(job, signed.at, Some(signed.by));
            let added = log::add_one(&mut *writer, job, entry, end, act, marks).await;
            if added.is_err() && marks {
                // Its mark was not written either.
                shared.stale.unmark(job);
            }
            let end = match added {
                Ok(end) => end,
                Err(error) if error.is_fault() => return Err(error),
                Err(_) if acts::done_before(&mut *writer, act).await? => {
                    return Ok(Kept { job, entries: acts::added(&mut *writer, act).await? });
                }
                Err(error) => return Err(error),
            };
            sign(&mut *writer, &mut file, entry.signed().by).await?;
            file.push(entry.clone())?;
            let state = Arc::new(JobState::new(file, end.bytes, end.place, by));
            turn.wrote(job, &state, end.tail);
            return Ok(Kept { job, entries });
        }
        let mut tx = turn.begin().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(Kept { job, entries: acts::added(&mut tx, act).await? });
        }
        entries.iter_mut().for_each(|entry| entry.signed_mut().seq = 0);
        let joined = elsewhere::join(&mut tx, job, &entries).await?;
        let place = if joined { log::last_place(&mut tx, job).await? } else { end.place };
        let end = log::add(&mut tx, job, &mut entries, log::End { place, ..end }).await?;
        acts::done_with(&mut tx, act, signed.at, job, &entries).await?;
        tx.stale(job, signed.at, Some(signed.by)).await?;
        add(&mut tx, &mut file, &entries).await?;
        let state = Arc::new(JobState::new(file, end.bytes, end.place, by));
        if joined {
            // What is held has no bench sessions of others: it is read anew.
            tx.commit().await?;
        } else {
            tx.commit_held(&state, end.tail).await?;
        }
        Ok(Kept { job, entries })
    }

    /// What a command that was done before had added.
    ///
    /// # Errors
    /// The database error.
    pub async fn first_answer(&self, job: Uuid, act: &Act) -> Result<Kept, StoreError> {
        let entries = acts::added(&mut *self.pool.acquire().await?, act).await?;
        Ok(Kept { job, entries })
    }

    /// The job that a test, a run or a check belongs to.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] with what was looked for.
    pub async fn job_with(&self, entry: Uuid, what: &'static str) -> Result<Uuid, StoreError> {
        if let Some(job) = self.shared.held.place(entry) {
            return Ok(job);
        }
        let job = log::log_of(&mut *self.pool.acquire().await?, entry, what).await?;
        self.shared.held.remember_place(entry, job);
        Ok(job)
    }

    /// A job with everything that belongs to it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn job(&self, id: Uuid) -> Result<JobFile, StoreError> {
        Ok(self.state(id).await?.file.clone())
    }
}

/// Names the one who signs, where no entry before this did.
async fn sign(
    connection: &mut SqliteConnection,
    file: &mut JobFile,
    by: Uuid,
) -> Result<(), StoreError> {
    if !file.people.iter().any(|one| one.id == by) {
        let mut signers: BTreeSet<Uuid> = file.people.iter().map(|one| one.id).collect();
        signers.insert(by);
        file.people = named(connection, &signers).await?;
    }
    Ok(())
}

/// Adds entries to a job that was read before them, with the names that they bring, and writes what
/// is looked up by.
async fn add(
    connection: &mut SqliteConnection,
    file: &mut JobFile,
    entries: &[Entry],
) -> Result<(), StoreError> {
    let held = file.job.intake.clone();
    let mut closes = false;
    for entry in entries {
        sign(connection, file, entry.signed().by).await?;
        closes |= entry.closes_or_opens();
        file.push(entry.clone())?;
    }
    if closes {
        board::mark_closed(connection, file).await?;
    }
    if held != file.job.intake {
        file.family = family(connection, file.job.intake.family_id).await?;
        sqlx::query("UPDATE jobs SET machine = ?, family_id = ?, customer_id = ? WHERE id = ?")
            .bind(&file.job.intake.machine)
            .bind(file.job.intake.family_id.map(|id| id.to_string()))
            .bind(file.job.intake.customer_id.map(|id| id.to_string()))
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
        "INSERT INTO jobs (id, number, machine, family_id, customer_id, by_id, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(job.id.to_string())
    .bind(job.number as i64)
    .bind(&job.intake.machine)
    .bind(job.intake.family_id.map(|id| id.to_string()))
    .bind(job.intake.customer_id.map(|id| id.to_string()))
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
