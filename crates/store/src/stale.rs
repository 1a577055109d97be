//! Projections: what is made from the log and kept beside it, so that a list is one look-up. Each
//! stands in a file of its own with a version; where it is out of date, the job is *stale*.
//!
//! A write marks its job and makes nothing anew. It is made in the background a moment later, or by
//! the first one who reads a projection. What only the rules have changed is made anew in the
//! background alone, with its progress told, and may be seen as it was until then.

use crate::board::Rebuilding;
use crate::held::{self, JobState};
use crate::writing::breathe;
use crate::{
    Store, StoreError, asking, board, exercises, good_readings, log, passports, rows, shelf,
};
use cobaltine_core::entry;
use cobaltine_core::record::JobFile;
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use std::collections::{HashMap, VecDeque};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Every projection with the version that it is made by today.
const PROJECTIONS: [(&str, i64); 5] = [
    ("card", board::VERSION),
    ("exercises", exercises::VERSION),
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

/// Jobs that are made anew in one turn: a few milliseconds each.
const AT_ONCE: usize = 5;

/// A job that was written to: count of the write, and when.
type Written = (Uuid, (u64, Timestamp));

#[derive(Debug, Default)]
struct Lists {
    /// Written to: count of the write, and when.
    fresh: HashMap<Uuid, (u64, Timestamp)>,
    /// Who wrote to them since; those who wrote before the program began are not known.
    by: HashMap<Uuid, Vec<Uuid>>,
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
    pub fn mark(&self, job: Uuid, at: Timestamp, by: Option<Uuid>) -> bool {
        let mut lists = self.lock();
        let writers = lists.by.entry(job).or_default();
        writers.extend(by.filter(|by| !writers.contains(by)));
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
        lists.by.remove(&job);
    }

    /// Some that were left alone for a while.
    fn ripe(&self) -> Vec<Written> {
        let lists = self.lock();
        let ripe = |job: &Uuid| {
            let since = lists.since.get(job);
            since.is_none_or(|(first, last)| last.elapsed() >= QUIET || first.elapsed() >= LONGEST)
        };
        let fresh = lists.fresh.iter().filter(|(job, _)| ripe(job));
        fresh.take(AT_ONCE).map(|(job, at)| (*job, *at)).collect()
    }

    /// Some that were made by other rules.
    fn some_old(&self) -> Vec<Uuid> {
        let mut lists = self.lock();
        let some = lists.old.len().min(AT_ONCE);
        lists.old.drain(..some).collect()
    }

    /// What this person wrote to, in the order of writing; everything where nobody is named.
    fn all(&self, by: Option<Uuid>) -> Vec<Written> {
        let lists = self.lock();
        let wrote = |job: &Uuid| {
            by.is_none_or(|by| lists.by.get(job).is_none_or(|of| of.is_empty() || of.contains(&by)))
        };
        let mine = lists.fresh.iter().filter(|(job, _)| wrote(job));
        let mut all: Vec<Written> = mine.map(|(job, at)| (*job, *at)).collect();
        all.sort_by_key(|(_, (writes, _))| *writes);
        all
    }

    /// It was not made since.
    fn is(&self, job: Uuid, at: (u64, Timestamp)) -> bool {
        self.lock().fresh.get(&job) == Some(&at)
    }

    /// It was written to since its projections were made.
    fn holds(&self, job: Uuid) -> bool {
        self.lock().fresh.contains_key(&job)
    }

    /// Everything is as it was written.
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
            lists.by.remove(&job);
        }
        still
    }
}

/// Writes down that a job was written to, for the next start.
pub(crate) async fn write_mark(
    connection: &mut SqliteConnection,
    job: Uuid,
    at: Timestamp,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO stale (job_id, changed_at) VALUES (?1, ?2)
         ON CONFLICT (job_id) DO UPDATE SET changed_at = ?2",
    )
    .bind(job.to_string())
    .bind(rows::stamp(at))
    .execute(connection)
    .await?;
    Ok(())
}

/// Writes what is made from a job that was just taken in from elsewhere.
pub(crate) async fn refresh(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<(), StoreError> {
    let state = held::loaded(connection, job).await?;
    make(connection, &state, last_touched(&state.file)).await
}

/// The same for one of many: it is made in the background, once all of them are here.
pub(crate) async fn later(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<(), StoreError> {
    sqlx::query("INSERT OR IGNORE INTO stale (job_id) VALUES (?)")
        .bind(file.job.id.to_string())
        .execute(&mut *connection)
        .await?;
    board::mark_closed(connection, file).await?;
    if file.job.exercise.is_some() {
        return exercises::refresh(connection, file).await;
    }
    shelf::outdate(connection, file.job.id).await
}

/// When anything of a job was written last, as its rows say.
fn last_touched(file: &JobFile) -> Timestamp {
    let tubes = file.bench.iter().flat_map(|s| s.cells.iter().map(|c| c.signed.moment()));
    let newest = tubes.chain(log::newest(&entry::of_job(file))).max();
    newest.map_or(file.job.taken_in.at, |moment| moment.at)
}

/// Everything that is made from a job.
pub(crate) async fn make(
    connection: &mut SqliteConnection,
    state: &JobState,
    changed_at: Timestamp,
) -> Result<(), StoreError> {
    // What was read at a made-up engine counts nowhere.
    if state.file.job.exercise.is_some() {
        board::mark_closed(connection, &state.file).await?;
        return exercises::refresh(connection, &state.file).await;
    }
    board::write_card(connection, state, changed_at).await?;
    board::mark_closed(connection, &state.file).await?;
    let judged = state.opinion().ok().map(|opinion| &opinion.judged);
    good_readings::refresh(connection, &state.file, judged).await?;
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
        self.settle_of(None).await
    }

    /// The same for what one person wrote. What others wrote a moment ago is made in the background, and
    /// told when it is: a hundred people who look do not all wait for a hundred who write.
    async fn settle_of(&self, by: Option<Uuid>) -> Result<(), StoreError> {
        for (job, at) in self.shared.stale.all(by) {
            // Somebody else may have made it while this one waited.
            if self.shared.stale.is(job, at) {
                self.project(&[(job, Some(at))]).await?;
            }
        }
        Ok(())
    }

    /// Everything that is written is in the lists as well.
    pub fn is_settled(&self) -> bool {
        self.shared.stale.is_settled()
    }

    /// The same for whoever only reads: where nothing can be written, lists are as they were.
    pub(crate) async fn settle_to_read(&self) -> Result<(), StoreError> {
        match self.settle_of(asking::who()).await {
            Err(error) if error.is_fault() => {
                tracing::warn!(%error, "lists are shown as they were");
                Ok(())
            }
            settled => settled,
        }
    }

    /// Makes everything of one job anew, whether or not it is out of date.
    pub(crate) async fn make_anew(&self, job: Uuid) -> Result<(), StoreError> {
        self.project(&[(job, None)]).await
    }

    /// Makes jobs anew: judged first, then written in one short turn, and told at once. Each with the
    /// write that it is made after; none where only the rules have changed.
    async fn project(&self, jobs: &[(Uuid, Option<(u64, Timestamp)>)]) -> Result<(), StoreError> {
        let mut states = Vec::with_capacity(jobs.len());
        for (job, at) in jobs {
            match self.judged(*job).await {
                Ok(state) => states.push((state, *at)),
                // What cannot be read says so where it is opened, and holds up nobody else.
                Err(error) => {
                    tracing::error!(%job, %error, "a job cannot be read");
                    if let Some(at) = at {
                        self.shared.stale.made(*job, *at);
                    }
                }
            }
        }
        let mut tx = self.write().await?;
        let mut taken_off = Vec::new();
        for (state, at) in &states {
            let job = state.file.job.id;
            tx = tx.to(job);
            let changed_at = match at {
                Some((_, at)) => *at,
                None => {
                    let held = board::changed_at(&mut tx, job).await?;
                    held.unwrap_or_else(|| last_touched(&state.file))
                }
            };
            make(&mut tx, state, changed_at).await?;
            // Nobody else writes while this does: whether it was written to since is certain here.
            let mine = match at {
                Some(at) => self.shared.stale.made(job, *at),
                None => !self.shared.stale.holds(job),
            };
            if mine {
                sqlx::query("DELETE FROM stale WHERE job_id = ?")
                    .bind(job.to_string())
                    .execute(&mut *tx)
                    .await?;
                taken_off.extend(at.map(|(_, at)| (job, at)));
            }
        }
        let done = tx.commit_projection().await;
        if done.is_err() {
            for (job, at) in taken_off {
                self.shared.stale.mark(job, at, None);
            }
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
        let ripe = self.shared.stale.ripe();
        let old = if ripe.is_empty() { self.shared.stale.some_old() } else { Vec::new() };
        if ripe.is_empty() && old.is_empty() {
            return false;
        }
        let ripe = ripe.into_iter().map(|(job, at)| (job, Some(at)));
        let all: Vec<_> = ripe.chain(old.iter().map(|job| (*job, None))).collect();
        let begun = Instant::now();
        let done = self.project(&all).await;
        if !old.is_empty() {
            breathe(begun).await;
        }
        if done.is_err() {
            self.shared.stale.lock().old.extend(old);
        }
        if let Err(error) = done {
            tracing::warn!(%error, "a projection could not be built; it will be tried again");
            tokio::time::sleep(MOMENT).await;
        }
        true
    }
}
