//! The one way in which anything is written: one writer at a time, and everyone who looks on is told.

use crate::accounts::Accounts;
use crate::folder::Folder;
use crate::held::{Held, JobState};
use crate::log;
use crate::stale::{self, Stale};
use crate::{Store, StoreError};
use cobaltine_core::units::Units;
use jiff::Timestamp;
use sqlx::sqlite::SqliteConnectOptions;
use sqlx::{ConnectOptions, Connection, SqliteConnection};
use std::ops::{Deref, DerefMut};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, OnceLock, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::{Mutex, Notify, OwnedMutexGuard, broadcast};
use uuid::Uuid;

/// Changes that a screen may be behind before it has to look at everything anew.
const BEHIND: usize = 256;

/// What was written within this time says that writing is possible.
const LATELY: Duration = Duration::from_secs(10);

/// How long anyone waits for a turn to write before being told to come again.
const PATIENCE: Duration = Duration::from_secs(5);
/// Longest turn that is taken as usual; what takes longer makes others wait, and is said.
pub(crate) const LONGEST_TURN: Duration = Duration::from_millis(50);
/// What is written in pieces gives the turn back after this time.
pub(crate) const PIECE: Duration = Duration::from_millis(15);

/// After a piece of long work twice as long a pause: whoever works at a screen goes first.
pub async fn breathe(since: Instant) {
    tokio::time::sleep(since.elapsed() * 2).await;
}

/// Something was written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Changed {
    /// Counted from the start of the program.
    pub revision: u64,
    /// Jobs and sessions that it was written to; none when it may concern all.
    pub of: Vec<Uuid>,
    /// Nothing was written but what is made from it, such as a card of the board.
    pub made: bool,
}

/// What all handles of a store share.
#[derive(Debug)]
pub(crate) struct Shared {
    revision: AtomicU64,
    changes: broadcast::Sender<Changed>,
    /// What stands beside the database.
    pub folder: Folder,
    /// Why nothing is written to this folder; empty where it is.
    pub read_only: OnceLock<String>,
    /// When something was written last.
    wrote_at: std::sync::Mutex<Option<Instant>>,
    /// Longest turn to write so far, µs.
    longest_us: AtomicU64,
    pub held: Held,
    pub stale: Stale,
    /// Units of the newest profile.
    pub units: std::sync::Mutex<Units>,
    /// Every account as it is now.
    pub accounts: std::sync::Mutex<Arc<Accounts>>,
    /// Wakes the one that makes projections anew.
    pub wake: Arc<Notify>,
    /// Whose turn it is to write, from the beginning until everyone was told.
    turn: Arc<Mutex<Idle>>,
}

impl Shared {
    pub fn new(folder: Folder) -> Self {
        Self {
            folder,
            read_only: OnceLock::new(),
            revision: AtomicU64::new(1),
            changes: broadcast::channel(BEHIND).0,
            wrote_at: std::sync::Mutex::default(),
            longest_us: AtomicU64::new(0),
            held: Held::default(),
            stale: Stale::default(),
            units: std::sync::Mutex::default(),
            accounts: std::sync::Mutex::default(),
            wake: Arc::default(),
            turn: Arc::default(),
        }
    }

    pub fn revision(&self) -> u64 {
        self.revision.load(Ordering::Acquire)
    }

    /// Something was written a moment ago.
    pub fn wrote_lately(&self) -> bool {
        let wrote = self.wrote_at.lock().unwrap_or_else(PoisonError::into_inner);
        wrote.is_some_and(|at| at.elapsed() < LATELY)
    }

    fn writes(&self) {
        *self.wrote_at.lock().unwrap_or_else(PoisonError::into_inner) = Some(Instant::now());
    }

    /// Counts a turn that made others wait longer than is usual.
    fn took(&self, time: Duration) {
        let before = self.longest_us.fetch_max(time.as_micros() as u64, Ordering::Relaxed);
        if time > LONGEST_TURN {
            tracing::warn!(ms = time.as_millis(), before_us = before, "a long turn");
        }
    }

    /// Says beside the database where its log ends.
    fn wrote(&self, tail: &str) {
        if let Err(error) = self.folder.wrote(tail) {
            tracing::warn!(%error, "the end of the log could not be written down");
        }
    }

    /// Counts and tells. What was read before this may be old.
    fn changed(&self, of: Vec<Uuid>, made: bool) {
        let revision = self.revision.fetch_add(1, Ordering::AcqRel) + 1;
        // Nobody has to listen.
        let _ = self.changes.send(Changed { revision, of, made });
        self.wake.notify_one();
    }
}

/// The connection that writes, while nobody does.
#[derive(Debug, Default)]
pub(crate) struct Idle {
    /// How it is opened; none before the store is open and after it was closed.
    options: Option<SqliteConnectOptions>,
    /// None after a write that failed: the next one opens another.
    connection: Option<SqliteConnection>,
    /// The hash of the last row of the log; none after a write that failed, which may have added one.
    tail: Option<String>,
    /// Pages that the file may have at most: a disk that is full, for tests.
    most_pages: Option<u32>,
}

impl Idle {
    async fn connection(&mut self) -> Result<SqliteConnection, StoreError> {
        if let Some(connection) = self.connection.take() {
            return Ok(connection);
        }
        let options = self.options.as_ref().ok_or(sqlx::Error::PoolClosed)?;
        let mut connection = options.connect().await?;
        if let Some(pages) = self.most_pages {
            let sql = format!("PRAGMA max_page_count = {pages}");
            crate::rows::parts(sql).execute(&mut connection).await?;
        }
        Ok(connection)
    }
}

/// Whose turn it is to write: nobody else does until it is dropped. The connection goes back where it
/// was found when all went well; after anything else it is thrown away, with whatever was begun on it.
pub(crate) struct Turn {
    connection: SqliteConnection,
    tail: Option<String>,
    shared: Arc<Shared>,
    idle: OwnedMutexGuard<Idle>,
    since: Instant,
}

impl Turn {
    /// The connection for one statement, and for what is read before it.
    pub fn connection(&mut self) -> &mut SqliteConnection {
        &mut self.connection
    }

    /// Several statements that hold together or not at all.
    pub async fn begin(mut self) -> Result<Write, StoreError> {
        sqlx::query("BEGIN IMMEDIATE").execute(&mut self.connection).await?;
        let marked = Marked { shared: Arc::clone(&self.shared), jobs: Vec::new() };
        Ok(Write { turn: self, of: Vec::new(), all: false, marked })
    }

    /// The hash of the last row of the log: what the next one continues from.
    pub async fn tail(&mut self) -> Result<String, StoreError> {
        match &self.tail {
            Some(tail) => Ok(tail.clone()),
            None => log::last_hash(&mut self.connection).await,
        }
    }

    /// One statement was written by itself; what is held in memory was brought along.
    pub fn wrote(mut self, of: Uuid, state: &Arc<JobState>, tail: String) {
        self.shared.wrote(&tail);
        self.shared.writes();
        self.shared.held.put(state);
        self.shared.changed(vec![of], false);
        self.tail = Some(tail);
        self.unused();
    }

    /// Nothing was written, and nothing went wrong.
    pub fn unused(self) {
        let Self { connection, tail, shared, mut idle, since } = self;
        (idle.connection, idle.tail) = (Some(connection), tail);
        shared.took(since.elapsed());
    }
}

/// Jobs that were first marked as stale in a transaction; dropped before it was committed, they are not.
struct Marked {
    shared: Arc<Shared>,
    jobs: Vec<Uuid>,
}

impl Drop for Marked {
    fn drop(&mut self) {
        self.jobs.drain(..).for_each(|job| self.shared.stale.unmark(job));
    }
}

/// A transaction that writes. Dropped without [`Write::commit`] it leaves everything as it was.
pub(crate) struct Write {
    turn: Turn,
    of: Vec<Uuid>,
    all: bool,
    marked: Marked,
}

impl Write {
    /// It writes to this job or session, and to nothing that others hang on.
    pub fn to(mut self, of: Uuid) -> Self {
        self.of.push(of);
        self
    }

    /// What is known of this job is made anew: its projections, what is held of it, what screens show.
    /// Whatever a write makes stale passes here, and nothing else decides it.
    pub async fn stale(
        &mut self,
        job: Uuid,
        at: Timestamp,
        by: Option<Uuid>,
    ) -> Result<(), StoreError> {
        if !self.of.contains(&job) {
            self.of.push(job);
        }
        if self.marked.shared.stale.mark(job, at, by) {
            self.marked.jobs.push(job);
            stale::write_mark(self, job, at).await?;
        }
        Ok(())
    }

    /// Everything may hang on what it writes, also where it writes to a job.
    pub fn for_all(mut self) -> Self {
        self.all = true;
        self
    }

    /// Makes it durable; `then` is done before anybody else writes.
    async fn end(mut self, then: impl FnOnce(&Shared, Vec<Uuid>)) -> Result<(), StoreError> {
        sqlx::query("COMMIT").execute(&mut *self).await?;
        let Self { turn, of, all, mut marked } = self;
        marked.jobs.clear();
        turn.shared.writes();
        then(&turn.shared, if all { Vec::new() } else { of });
        turn.unused();
        Ok(())
    }

    /// Makes it durable; then everyone is told.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit(mut self) -> Result<(), StoreError> {
        let tail = log::last_hash(&mut self).await?;
        self.turn.tail = Some(tail.clone());
        self.end(|shared, of| {
            shared.wrote(&tail);
            shared.held.forget(&of);
            shared.changed(of, false);
        })
        .await
    }

    /// The same for what no screen shows, such as a wrong try at a password: nobody is told.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_quietly(self) -> Result<(), StoreError> {
        self.end(|_, _| ()).await
    }

    /// The same where what is held in memory was brought along: it takes the place of what was.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_held(
        mut self,
        state: &Arc<JobState>,
        tail: String,
    ) -> Result<(), StoreError> {
        self.turn.tail = Some(tail.clone());
        self.end(|shared, of| {
            shared.wrote(&tail);
            shared.held.put(state);
            shared.changed(of, false);
        })
        .await
    }

    /// The same where nothing was written but what is made from the log.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_projection(self) -> Result<(), StoreError> {
        self.end(|shared, of| shared.changed(of, true)).await
    }
}

impl Deref for Write {
    type Target = SqliteConnection;

    fn deref(&self) -> &SqliteConnection {
        &self.turn.connection
    }
}

impl DerefMut for Write {
    fn deref_mut(&mut self) -> &mut SqliteConnection {
        &mut self.turn.connection
    }
}

impl Store {
    /// Begins to write; waits until whoever writes now is done.
    pub(crate) async fn write(&self) -> Result<Write, StoreError> {
        self.turn().await?.begin().await
    }

    /// From here on it can be written.
    pub(crate) async fn open_turn(&self, options: &SqliteConnectOptions) {
        self.shared.turn.lock().await.options = Some(options.clone());
    }

    /// Whoever wants to write after this is refused.
    pub(crate) async fn close_turn(&self) {
        let mut idle = std::mem::take(&mut *self.shared.turn.lock().await);
        let closed = match idle.connection().await {
            Ok(connection) => connection.close().await.map_err(StoreError::from),
            Err(error) => Err(error),
        };
        if let (Err(error), None) = (closed, self.read_only()) {
            tracing::warn!(%error, "the writing connection");
        }
    }

    /// A disk that is full once the file has so many pages; none where there is room again. For tests.
    #[doc(hidden)]
    pub async fn most_pages(&self, pages: Option<u32>) {
        let mut idle = self.shared.turn.lock().await;
        (idle.most_pages, idle.connection, idle.tail) = (pages, None, None);
    }

    /// Waits for its turn to write.
    pub(crate) async fn turn(&self) -> Result<Turn, StoreError> {
        if let Some(why) = self.read_only() {
            return Err(StoreError::ReadOnly(why.to_owned()));
        }
        let shared = Arc::clone(&self.shared);
        let turn = tokio::time::timeout(PATIENCE, Arc::clone(&shared.turn).lock_owned()).await;
        let mut idle = turn.map_err(|_| StoreError::Busy)?;
        let connection = idle.connection().await?;
        let tail = idle.tail.take();
        Ok(Turn { connection, tail, shared, idle, since: Instant::now() })
    }

    /// Why this folder is read alone; none where it is written to as well.
    pub fn read_only(&self) -> Option<&str> {
        self.shared.read_only.get().map(String::as_str)
    }

    /// Goes up with everything that is written; an answer that was made at the same revision is
    /// the same answer.
    pub fn revision(&self) -> u64 {
        self.shared.revision()
    }

    /// The longest that anyone held the turn to write, since the program began.
    pub fn longest_turn(&self) -> Duration {
        Duration::from_micros(self.shared.longest_us.load(Ordering::Relaxed))
    }

    /// Everything that is written from now on.
    pub fn changes(&self) -> broadcast::Receiver<Changed> {
        self.shared.changes.subscribe()
    }
}
