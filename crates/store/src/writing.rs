//! The one way in which anything is written: one writer at a time, and everyone who looks on is told.

use crate::accounts::Accounts;
use crate::held::{Held, JobState};
use crate::stale::Stale;
use crate::{Store, StoreError};
use cobaltine_core::units::Units;
use sqlx::sqlite::SqliteConnectOptions;
use sqlx::{ConnectOptions, Connection, Sqlite, SqliteConnection, Transaction};
use std::ops::{Deref, DerefMut};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};
use tokio::sync::{Mutex, Notify, OwnedMutexGuard, broadcast};
use uuid::Uuid;

/// Changes that a screen may be behind before it has to look at everything anew.
const BEHIND: usize = 256;

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
    pub held: Held,
    pub stale: Stale,
    /// Units of the newest profile.
    pub units: std::sync::Mutex<Units>,
    /// Every account as it is now.
    pub accounts: std::sync::Mutex<Arc<Accounts>>,
    /// Wakes the one that makes projections anew.
    pub wake: Arc<Notify>,
    /// Whose turn it is to write, from the beginning until everyone was told; with the connection for
    /// a write of one statement, which no pool looks after between two of them.
    turn: Arc<Mutex<Option<SqliteConnection>>>,
}

impl Default for Shared {
    fn default() -> Self {
        Self {
            revision: AtomicU64::new(1),
            changes: broadcast::channel(BEHIND).0,
            held: Held::default(),
            stale: Stale::default(),
            units: std::sync::Mutex::default(),
            accounts: std::sync::Mutex::default(),
            wake: Arc::default(),
            turn: Arc::default(),
        }
    }
}

impl Shared {
    pub fn revision(&self) -> u64 {
        self.revision.load(Ordering::Acquire)
    }

    /// Counts and tells. What was read before this may be old.
    fn changed(&self, of: Vec<Uuid>, made: bool) {
        let revision = self.revision.fetch_add(1, Ordering::AcqRel) + 1;
        // Nobody has to listen.
        let _ = self.changes.send(Changed { revision, of, made });
        self.wake.notify_one();
    }
}

/// Whose turn it is to write: nobody else does until it is dropped.
pub(crate) struct Turn {
    shared: Arc<Shared>,
    turn: OwnedMutexGuard<Option<SqliteConnection>>,
}

impl Turn {
    /// The connection for one statement, and for what is read before it.
    pub fn connection(&mut self) -> Result<&mut SqliteConnection, StoreError> {
        self.turn.as_mut().ok_or(StoreError::Database(sqlx::Error::PoolClosed))
    }

    /// Several statements that hold together or not at all.
    pub async fn begin(self, store: &Store) -> Result<Write, StoreError> {
        let tx = store.writer.begin_with("BEGIN IMMEDIATE").await?;
        Ok(Write { tx, shared: self.shared, of: Vec::new(), _turn: self.turn })
    }

    /// One statement was written by itself; what is held in memory was brought along.
    pub fn wrote(self, of: Uuid, state: &Arc<JobState>, tail: String) {
        self.shared.held.put(state, tail);
        self.shared.changed(vec![of], false);
    }
}

/// A transaction that writes. Dropped without [`Write::commit`] it leaves everything as it was.
pub(crate) struct Write {
    tx: Transaction<'static, Sqlite>,
    shared: Arc<Shared>,
    of: Vec<Uuid>,
    _turn: OwnedMutexGuard<Option<SqliteConnection>>,
}

impl Write {
    /// It writes to this job or session, and to nothing that others hang on.
    pub fn to(mut self, of: Uuid) -> Self {
        self.of.push(of);
        self
    }

    pub fn shared(&self) -> &Arc<Shared> {
        &self.shared
    }

    /// Makes it durable; then everyone is told.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit(self) -> Result<(), StoreError> {
        let Self { tx, shared, of, _turn } = self;
        tx.commit().await?;
        shared.held.forget(&of);
        shared.changed(of, false);
        Ok(())
    }

    /// The same for what no screen shows, such as a wrong try at a password: nobody is told.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_quietly(self) -> Result<(), StoreError> {
        Ok(self.tx.commit().await?)
    }

    /// The same where what is held in memory was brought along: it takes the place of what was.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_held(self, state: &Arc<JobState>, tail: String) -> Result<(), StoreError> {
        let Self { tx, shared, of, _turn } = self;
        tx.commit().await?;
        shared.held.put(state, tail);
        shared.changed(of, false);
        Ok(())
    }

    /// The same where nothing was written but what is made from the log.
    ///
    /// # Errors
    /// The database error.
    pub async fn commit_projection(self) -> Result<(), StoreError> {
        let Self { tx, shared, of, _turn } = self;
        tx.commit().await?;
        shared.changed(of, true);
        Ok(())
    }
}

impl Deref for Write {
    type Target = SqliteConnection;

    fn deref(&self) -> &SqliteConnection {
        &self.tx
    }
}

impl DerefMut for Write {
    fn deref_mut(&mut self) -> &mut SqliteConnection {
        &mut self.tx
    }
}

impl Store {
    /// Begins to write; waits until whoever writes now is done.
    pub(crate) async fn write(&self) -> Result<Write, StoreError> {
        self.turn().await.begin(self).await
    }

    /// Opens the connection for writes of one statement.
    pub(crate) async fn open_turn(&self, options: &SqliteConnectOptions) -> Result<(), StoreError> {
        *self.shared.turn.lock().await = Some(options.connect().await?);
        Ok(())
    }

    /// Closes it: whoever wants to write after this is refused.
    pub(crate) async fn close_turn(&self) {
        if let Some(connection) = self.shared.turn.lock().await.take()
            && let Err(error) = connection.close().await
        {
            tracing::warn!(%error, "the writing connection");
        }
    }

    /// Waits for its turn to write.
    pub(crate) async fn turn(&self) -> Turn {
        let shared = Arc::clone(&self.shared);
        let turn = Arc::clone(&shared.turn).lock_owned().await;
        Turn { shared, turn }
    }

    /// Begins to write with every projection up to date: for what is decided by one.
    pub(crate) async fn write_settled(&self) -> Result<Write, StoreError> {
        loop {
            self.settle().await?;
            let tx = self.write().await?;
            if self.shared.stale.is_settled() {
                return Ok(tx);
            }
        }
    }

    /// Goes up with everything that is written; an answer that was made at the same revision is
    /// the same answer.
    pub fn revision(&self) -> u64 {
        self.shared.revision()
    }

    /// Everything that is written from now on.
    pub fn changes(&self) -> broadcast::Receiver<Changed> {
        self.shared.changes.subscribe()
    }
}
