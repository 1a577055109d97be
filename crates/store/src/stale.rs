//! Projections: what is made from the log and kept beside it, so that a list is one look-up. Each
//! stands in a file of its own with a version; where it is out of date, the job is *stale*.
//!
//! A write marks its job and makes nothing anew. It is made in the background a moment later, or by
//! the first one who reads a projection. What only the rules have changed is made anew in the
//! background alone, with its progress told, and may be seen as it was until then.

use crate::board::Rebuilding;
use crate::held::{self, JobState};
use crate::{Store, StoreError, board, good_readings, passports, rows, shelf};
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use std::collections::{HashMap, VecDeque};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Every projection with the version that it is made by today.
const PROJECTIONS: [(&str, i64); 4] = [
    ("card", board::VERSION),
    ("good_readings", good_readings::VERSION),
    ("passports", passports::VERSION),
    ("shelf", shelf::VERSION),
];
/// A job that was not written to for so long is made anew, and one that is written to all the time
/// after so long: a list that is read meanwhile does not wait for either.
const QUIET: Duration = Duration::from_millis(400);
const LONGEST: Duration = Duration::from_secs(5);
/// Between two looks, and before another try.
const MOMENT: Duration = Duration::from_millis(200);

#[derive(Debug, Default)]
struct Lists {
    /// Written to: count of the write, and when.
    fresh: HashMap<Uuid, (u64, Timestamp)>,
    /// Since when that is, and the last time, by the clock that never steps.
    since: HashMap<Uuid, (Instant, Instant)>,
    /// Made by other rules.
    old: VecDeque<Uuid>,
    /// How many of those there were.
    of: usize,
    writes: u64,
}

/// Jobs whose projections are out of date.
#[derive(Debug, Default)]
pub(crate) struct Stale(Mutex<Lists>);

impl Stale {
    fn lock(&self) -> MutexGuard<'_, Lists> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Says that a job was written to; no when that was said already.
    pub fn mark(&self, job: Uuid, at: Timestamp) -> bool {
        let mut lists = self.lock();
        lists.writes += 1;
        let writes = lists.writes;
        let now = Instant::now();
        lists.since.entry(job).or_insert((now, now)).1 = now;
        lists.fresh.insert(job, (writes, at)).is_none()
    }

    /// Takes the mark back of a write that came to nothing.
    pub fn unmark(&self, job: Uuid) {
        let mut lists = self.lock();
        lists.fresh.remove(&job);
        lists.since.remove(&job);
    }

    /// One that was left alone for a while.
    fn ripe(&self) -> Option<(Uuid, (u64, Timestamp))> {
        let lists = self.lock();
        let ripe = |job: &Uuid| {
            let since = lists.since.get(job);
            since.is_none_or(|(first, last)| last.elapsed() >= QUIET || first.elapsed() >= LONGEST)
        };
        let mut fresh = lists.fresh.iter().filter(|(job, _)| ripe(job));
        fresh.next().map(|(job, at)| (*job, *at))
    }

    /// Everything that was written to, in the order of writing.
    fn all(&self) -> Vec<(Uuid, (u64, Timestamp))> {
        let mut all: Vec<_> = self.lock().fresh.iter().map(|(job, at)| (*job, *at)).collect();
        all.sort_by_key(|(_, (writes, _))| *writes);
        all
    }

    /// Nothing was written to since its projections were made.
    pub fn is_settled(&self) -> bool {
        self.lock().fresh.is_empty()
    }

    /// Takes a job off the list unless it was written to since.
    fn made(&self, job: Uuid, at: (u64, Timestamp)) -> bool {
        let mut lists = self.lock();
        let still = lists.fresh.get(&job) == Some(&at);
        if still {
            lists.fresh.remove(&job);
            lists.since.remove(&job);
        }
        still
    }
}

/// Marks a job in the transaction that writes to it.
pub(crate) async fn mark(
    connection: &mut SqliteConnection,
    stale: &Stale,
    job: Uuid,
    at: Timestamp,
) -> Result<(), StoreError> {
    if stale.mark(job, at) {
        sqlx::query(
            "INSERT INTO stale (job_id, changed_at) VALUES (?1, ?2)
             ON CONFLICT (job_id) DO UPDATE SET changed_at = ?2",
        )
        .bind(job.to_string())
        .bind(rows::stamp(at))
        .execute(connection)
        .await?;
    }
    Ok(())
}

/// Writes what is made from a job that was just taken in from elsewhere.
pub(crate) async fn refresh(
    connection: &mut SqliteConnection,
    job: Uuid,
    changed_at: Timestamp,
) -> Result<(), StoreError> {
    let state = held::loaded(connection, job).await?;
    make(connection, &state, changed_at).await
}

/// Everything that is made from a job.
pub(crate) async fn make(
    connection: &mut SqliteConnection,
    state: &JobState,
    changed_at: Timestamp,
) -> Result<(), StoreError> {
    board::write_card(connection, state, changed_at).await?;
    board::mark_closed(connection, &state.file).await?;
    good_readings::refresh(connection, &state.file).await?;
    let judged = state.opinion().ok().map(|opinion| &opinion.judged);
    passports::refresh(connection, &state.file, judged).await?;
    shelf::outdate(connection, state.file.job.id).await
}

impl Store {
    /// Takes up what an earlier run of the program left, and what this version makes otherwise.
    pub(crate) async fn take_up_stale(&self) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        for (name, version) in PROJECTIONS {
            let held = sqlx::query("SELECT version FROM projections WHERE name = ?")
                .bind(name)
                .fetch_optional(&mut *tx)
                .await?;
            let held: Option<i64> = held.map(|row| row.try_get("version")).transpose()?;
            if held == Some(version) {
                continue;
            }
            // A folder from before has them as they are made today: `upgrade.rs` sees to that.
            if held.is_some() {
                let all = "INSERT OR IGNORE INTO stale (job_id) SELECT id FROM jobs";
                sqlx::query(all).execute(&mut *tx).await?;
            }
            sqlx::query("INSERT OR REPLACE INTO projections (name, version) VALUES (?, ?)")
                .bind(name)
                .bind(version)
                .execute(&mut *tx)
                .await?;
        }
        tx.commit().await?;
        self.list_stale().await
    }

    /// Jobs that other rules concern: those that are open, as what is closed stays as it was signed.
    pub(crate) async fn rules_changed(
        connection: &mut SqliteConnection,
        family: Option<Uuid>,
    ) -> Result<(), StoreError> {
        sqlx::query(
            "INSERT OR IGNORE INTO stale (job_id)
             SELECT id FROM jobs WHERE NOT closed AND (?1 IS NULL OR family_id = ?1)",
        )
        .bind(family.map(|id| id.to_string()))
        .execute(connection)
        .await?;
        Ok(())
    }

    /// Reads the list anew, after rules have changed.
    pub(crate) async fn list_stale(&self) -> Result<(), StoreError> {
        let found = sqlx::query("SELECT job_id, changed_at FROM stale ORDER BY job_id")
            .fetch_all(&self.pool)
            .await?;
        let mut lists = self.shared.stale.lock();
        lists.old.clear();
        for row in &found {
            let job = rows::id(row, "job_id")?;
            let at: Option<String> = row.try_get("changed_at")?;
            match at {
                Some(at) if !lists.fresh.contains_key(&job) => {
                    lists.writes += 1;
                    let writes = lists.writes;
                    lists.fresh.insert(job, (writes, rows::time(&at)?));
                }
                Some(_) => {}
                None => lists.old.push_back(job),
            }
        }
        lists.of = lists.old.len();
        drop(lists);
        self.shared.wake.notify_one();
        Ok(())
    }

    /// How far projections are made anew after a change of the rules; none when all are.
    pub fn rebuilding(&self) -> Option<Rebuilding> {
        let lists = self.shared.stale.lock();
        let left = lists.old.len();
        (left > 0).then_some(Rebuilding { left, of: lists.of })
    }

    /// Makes anew what was written to until now, so that what is read next is up to date. What is
    /// written meanwhile is not waited for: somebody may write all the time.
    pub(crate) async fn settle(&self) -> Result<(), StoreError> {
        for (job, at) in self.shared.stale.all() {
            self.project(job, Some(at)).await?;
        }
        Ok(())
    }

    /// The same for whoever only reads: where nothing can be written, lists are as they were.
    pub(crate) async fn settle_to_read(&self) -> Result<(), StoreError> {
        match self.settle().await {
            Err(error) if error.is_fault() => {
                tracing::warn!(%error, "lists are shown as they were");
                Ok(())
            }
            settled => settled,
        }
    }

    /// Makes everything of one job anew, whether or not it is out of date.
    pub(crate) async fn make_anew(&self, job: Uuid) -> Result<(), StoreError> {
        self.project(job, None).await
    }

    async fn project(&self, job: Uuid, at: Option<(u64, Timestamp)>) -> Result<(), StoreError> {
        let state = match self.judged(job).await {
            Ok(state) => state,
            // What cannot be read says so where it is opened, and holds up nobody else.
            Err(error) => {
                tracing::error!(%job, %error, "a job cannot be read");
                if let Some(at) = at {
                    self.shared.stale.made(job, at);
                }
                return Ok(());
            }
        };
        let mut tx = self.write().await?.to(job);
        let changed_at = match at {
            Some((_, at)) => at,
            None => board::changed_at(&mut tx, job).await?.unwrap_or(state.file.job.taken_in.at),
        };
        make(&mut tx, &state, changed_at).await?;
        // Nobody else writes while this does: whether it was written to since is certain here.
        let mine = at.is_none_or(|at| self.shared.stale.made(job, at));
        if mine {
            sqlx::query("DELETE FROM stale WHERE job_id = ?")
                .bind(job.to_string())
                .execute(&mut *tx)
                .await?;
        }
        let done = tx.commit_projection().await;
        if let (Err(_), Some((_, at)), true) = (&done, at, mine) {
            self.shared.stale.mark(job, at);
        }
        done
    }

    /// Makes projections anew as they become stale, as long as the store lives.
    pub(crate) fn keep_projections(&self) {
        let (inner, wake) = (Arc::downgrade(&self.0), Arc::clone(&self.shared.wake));
        tokio::spawn(async move {
            loop {
                // Woken or not: whether the store is still there is looked at every second.
                let _ = tokio::time::timeout(Duration::from_secs(1), wake.notified()).await;
                tokio::time::sleep(QUIET).await;
                loop {
                    let Some(inner) = inner.upgrade() else { return };
                    let store = Self(inner);
                    if store.pool.is_closed() {
                        return;
                    }
                    if !store.work_off().await {
                        break;
                    }
                }
            }
        });
    }

    /// One piece of work; no when there is none.
    async fn work_off(&self) -> bool {
        let done = match self.shared.stale.ripe() {
            Some((job, at)) => self.project(job, Some(at)).await,
            None => {
                let old = self.shared.stale.lock().old.pop_front();
                let Some(job) = old else { return false };
                self.project(job, None).await
            }
        };
        if let Err(error) = done {
            tracing::warn!(%error, "a projection could not be built; it will be tried again");
            tokio::time::sleep(MOMENT).await;
        }
        true
    }
}
