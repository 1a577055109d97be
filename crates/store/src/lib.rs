//! SQLite storage: one file per aggregate, and nothing above this crate writes SQL.
//!
//! A data folder belongs to one program at a time ([`Store::open`] takes a lock).
//! WAL mode, foreign keys on, `synchronous = FULL`: a reading that was acknowledged
//! survives a power cut. A transaction is one named method.

mod accounts;
mod acts;
mod arrivals;
mod asking;
mod backup;
mod bench;
mod bench_files;
mod board;
mod checks;
mod connections;
mod customers;
mod doctor;
mod earlier;
mod elsewhere;
mod error;
mod exercises;
mod families;
mod folder;
mod good_readings;
mod held;
mod instruments;
mod job_file;
mod jobs;
mod library;
mod library_file;
mod limits;
mod listed;
mod lock;
mod log;
mod passports;
mod people;
mod pins;
mod presets;
mod profile;
mod recent;
mod rows;
mod rules;
mod secrets;
mod shelf;
mod sign_ins;
mod stale;
mod stock;
mod tablets;
mod torque;
mod transfer;
mod upgrade;
mod weights;
mod words;
mod workshop;
mod writing;

pub use accounts::{Account, AccountChange};
pub use acts::Act;
pub use arrivals::{Arrival, Watch};
pub use asking::asked_by;
pub use backup::{Backup, Manifest, back_up, backups, restore};
pub use bench::{BenchLine, BenchPage};
pub use bench_files::BenchFile;
pub use board::{BoardCard, BoardLane, BoardPage, BoardQuery, BoardTimer, Rebuilding};
pub use checks::{Checked, check};
pub use customers::{CustomerLife, CustomerLine, CustomerMachine, CustomerPage};
pub use doctor::{DoctorLine, doctor};
pub use error::StoreError;
pub use exercises::{ExerciseLine, ExercisePage};
pub use held::{JobState, Opinion};
pub use jobs::{Kept, TakeIn};
pub use library::{LibraryLine, LibraryPage, LibraryQuery, LineKind};
pub use library_file::LibraryChange;
pub use limits::Change;
pub use log::LogCheck;
pub use passports::{DecisionTurned, PassportLine, PassportPage};
pub use people::PersonChange;
pub use profile::{ProfileLine, ProfileRecord, WorkshopHeld};
pub use recent::Recent;
pub use rules::RuleRecord;
pub use shelf::{KeptSet, ShelfFamily, ShelfPage, ShelfQuery};
pub use sign_ins::SignIns;
pub use tablets::Tablet;
pub use transfer::{Imported, TakenBy};
pub use weights::WeightsRecord;
pub use workshop::{
    KeptSetLine, WORKSHOP_FORMAT, WORKSHOP_VERSION, WeightsLine, WorkshopExport, WorkshopImported,
    WorkshopLine,
};
pub use writing::{Changed, breathe};

use folder::{Folder, Found};
use jiff::Timestamp;
use sqlx::SqlitePool;
use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePoolOptions, SqliteSynchronous};
use std::ops::Deref;
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};
use writing::Shared;

/// Connections: SQLite has one writer, and readers do not wait for it in WAL mode.
const CONNECTIONS: u32 = 4;

/// The data of a workshop. Every handle is of the same one.
#[derive(Debug, Clone)]
pub struct Store(Arc<Inner>);

/// What a handle leads to.
#[derive(Debug)]
pub struct Inner {
    /// Readers.
    pool: SqlitePool,
    shared: Arc<Shared>,
    sign_ins: SignIns,
    /// Held until it is closed, whoever still has a handle; else as long as the store lives.
    lock: Mutex<Option<lock::FolderLock>>,
}

/// A file that was opened stays open: no connection is asked first whether it still answers.
fn pool_of(connections: u32) -> SqlitePoolOptions {
    SqlitePoolOptions::new().max_connections(connections).test_before_acquire(false)
}

/// Every step from the first release to this one.
static MIGRATIONS: sqlx::migrate::Migrator = sqlx::migrate!("./migrations");

/// How the database of a folder is opened.
fn options(folder: &Path) -> SqliteConnectOptions {
    options_of(&folder.join(folder::DATABASE))
}

/// The same for a file.
fn options_of(file: &Path) -> SqliteConnectOptions {
    SqliteConnectOptions::new()
        .filename(file)
        .create_if_missing(true)
        .journal_mode(SqliteJournalMode::Wal)
        .synchronous(SqliteSynchronous::Full)
        .foreign_keys(true)
        // INSERT OR REPLACE asks the triggers that keep the log from changing.
        .pragma("recursive_triggers", "ON")
        // Five pages a reading: what is written is brought into the file every 800 readings, not
        // every 200. The log beside it stays below 16 MB.
        .pragma("wal_autocheckpoint", "4000")
        .optimize_on_close(true, None)
}

/// How a database is opened by whoever only looks at it, also while a program serves it.
fn read_alone(file: &Path) -> SqliteConnectOptions {
    SqliteConnectOptions::new().filename(file).create_if_missing(false).read_only(true)
}

impl Deref for Store {
    type Target = Inner;

    fn deref(&self) -> &Inner {
        &self.0
    }
}

impl Store {
    /// Opens the data folder, making it when it is not there, and brings it up to date.
    ///
    /// # Errors
    /// [`StoreError::InUse`] when another program has it; database and file errors.
    pub async fn open(folder: &Path) -> Result<Self, StoreError> {
        std::fs::create_dir_all(folder)?;
        let lock = lock::FolderLock::take(folder)?;
        let beside = Folder::new(folder);
        let found = beside.look()?;
        let options = options(folder);
        let writer = pool_of(1).connect_with(options.clone()).await;
        let writer = writer.map_err(|error| match found {
            Found::Changed(why) => StoreError::Damaged(why.to_owned()),
            Found::AsClosed | Found::NotClosed | Found::Unmarked => error.into(),
        })?;
        let trouble = checks::at_start(&writer, &beside, &found).await?;
        if trouble.is_none() {
            checks::newer(&writer).await?;
            backup::before_upgrade(&writer, folder).await?;
            MIGRATIONS.run(&writer).await?;
            upgrade::upgrade(&writer).await?;
        }
        writer.close().await;
        let readers = options.clone().optimize_on_close(false, None);
        let pool = pool_of(CONNECTIONS).connect_with(readers).await?;
        let sign_ins = SignIns::open(folder).await?;
        let shared = Arc::new(Shared::new(beside));
        let inner = Inner { pool, shared, sign_ins, lock: Mutex::new(Some(lock)) };
        let store = Self(Arc::new(inner));
        // Validated at the start, not at the first judgement.
        let read = store.read_first().await;
        if let Some(trouble) = trouble {
            tracing::error!(trouble, "the folder is read alone");
            if read.is_err() {
                return Err(StoreError::Damaged(trouble));
            }
            let _ = store.shared.read_only.set(trouble);
            return Ok(store);
        }
        read?;
        store.open_turn(&options).await;
        let tail = log::last_hash(&mut *store.pool.acquire().await?).await?;
        store.shared.folder.opened(&tail)?;
        store.take_up_stale().await?;
        store.keep_projections();
        Ok(store)
    }

    async fn read_first(&self) -> Result<(), StoreError> {
        self.weights().await?;
        self.read_units().await?;
        self.read_accounts().await
    }

    /// Answers whether something could be written lately; where nothing was, one row is.
    ///
    /// # Errors
    /// What a write was refused with.
    pub async fn pulse(&self, at: Timestamp) -> Result<(), StoreError> {
        if self.shared.wrote_lately() {
            return Ok(());
        }
        let mut tx = self.write().await?;
        sqlx::query("INSERT OR REPLACE INTO pulse (one, at) VALUES (1, ?)")
            .bind(rows::stamp(at))
            .execute(&mut *tx)
            .await?;
        tx.commit_quietly().await
    }

    /// Who is in, beside the data.
    pub fn sign_ins(&self) -> &SignIns {
        &self.sign_ins
    }

    /// Makes what is made from the log, writes everything out and closes.
    pub async fn close(self) {
        if let Err(error) = self.settle().await {
            tracing::warn!(%error, "projections from the log are rebuilt at the next start");
        }
        self.sign_ins.close().await;
        // The one that writes goes last, and takes what stands beside the database into it.
        self.pool.close().await;
        self.close_turn().await;
        if self.read_only().is_none()
            && let Err(error) = self.shared.folder.closed()
        {
            tracing::warn!(%error, "the folder is checked at the next start");
        }
        self.lock.lock().unwrap_or_else(PoisonError::into_inner).take();
    }
}
