//! What a data folder says of itself beside its database: how it was left, and where its log ended. A
//! database that is missing, emptied, cut off, older or changed by a hair is found before it is served.
//!
//! Two small files. `cobaltine.folder` is written when the store is opened and when it is closed; closed,
//! it holds the SHA-256 of the database. `cobaltine.tail` holds the hash of the last row of the log and
//! is written over after every row: a kill leaves it as new as the log, a power cut perhaps older.

use crate::{StoreError, rows, words};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use sqlx::{Row, SqliteConnection};
use std::fs::{File, OpenOptions};
use std::io::{ErrorKind, Read, Seek, SeekFrom, Write};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError};

/// The database of a folder.
pub(crate) const DATABASE: &str = "cobaltine.sqlite";
const MARK: &str = "cobaltine.folder";
const TAIL: &str = "cobaltine.tail";
/// Bytes that are hashed at once.
const PIECE: usize = 1 << 20;

/// How a folder was left.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Mark {
    /// Version of the program that wrote it.
    pub program: String,
    /// SHA-256 of the database as it was closed; none while it is open, or after it was not closed.
    pub closed: Option<String>,
}

/// What stands beside the database.
#[derive(Debug)]
pub(crate) struct Folder {
    path: PathBuf,
    tail: Mutex<Option<File>>,
}

/// What a look at the folder found before its database was opened.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Found {
    /// Nothing was here before, or a program that left no mark.
    Unmarked,
    /// It was closed in good order, and every byte is as it was.
    AsClosed,
    /// It was not closed: the database is to be looked at.
    NotClosed,
    /// It is not what was closed, in words.
    Changed(&'static str),
}

impl Folder {
    pub fn new(path: &Path) -> Self {
        Self { path: path.to_owned(), tail: Mutex::default() }
    }

    pub fn at(&self, name: &str) -> PathBuf {
        self.path.join(name)
    }

    fn mark(&self) -> Result<Option<Mark>, StoreError> {
        match std::fs::read(self.at(MARK)) {
            // A mark that cannot be read says as little as one of a folder that was not closed.
            Ok(bytes) => Ok(Some(
                serde_json::from_slice(&bytes)
                    .unwrap_or(Mark { program: String::new(), closed: None }),
            )),
            Err(error) if error.kind() == ErrorKind::NotFound => Ok(None),
            Err(error) => Err(error.into()),
        }
    }

    /// Looks at the folder before its database is opened. Reads only.
    ///
    /// # Errors
    /// [`StoreError::Damaged`] when it had a database and has none; the file system's.
    pub fn look(&self) -> Result<Found, StoreError> {
        let Some(mark) = self.mark()? else { return Ok(Found::Unmarked) };
        let file = self.at(DATABASE);
        let size = match std::fs::metadata(&file) {
            Ok(here) => here.len(),
            Err(error) if error.kind() == ErrorKind::NotFound => 0,
            Err(error) => return Err(error.into()),
        };
        if size == 0 {
            return Err(StoreError::Damaged(words::DATABASE_GONE.to_owned()));
        }
        let Some(closed) = mark.closed else { return Ok(Found::NotClosed) };
        Ok(if sum(&file)? == closed {
            Found::AsClosed
        } else {
            Found::Changed(words::NOT_AS_CLOSED)
        })
    }

    /// The hash of the last row that was acknowledged; none where nothing was.
    pub fn tail(&self) -> Result<Option<String>, StoreError> {
        match std::fs::read_to_string(self.at(TAIL)) {
            Ok(text) => Ok(Some(text.trim().to_owned()).filter(|hash| !hash.is_empty())),
            Err(error) if error.kind() == ErrorKind::NotFound => Ok(None),
            Err(error) => Err(error.into()),
        }
    }

    /// Says that the store is open: from here on rows are written.
    pub fn opened(&self, tail: &str) -> Result<(), StoreError> {
        let file =
            OpenOptions::new().create(true).truncate(false).write(true).open(self.at(TAIL))?;
        *self.tail.lock().unwrap_or_else(PoisonError::into_inner) = Some(file);
        self.wrote(tail)?;
        self.write_mark(None)
    }

    /// Says where the log ends now.
    pub fn wrote(&self, tail: &str) -> Result<(), StoreError> {
        let mut file = self.tail.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(file) = file.as_mut() {
            file.seek(SeekFrom::Start(0))?;
            // Always as long: it takes no room that it did not have.
            file.write_all(format!("{tail:<64}\n").as_bytes())?;
        }
        Ok(())
    }

    /// Says that the store was closed, with the sum of its database. One that somebody still holds is
    /// not closed, and stays marked as open.
    pub fn closed(&self) -> Result<(), StoreError> {
        if self.at(&format!("{DATABASE}-wal")).exists() {
            return Ok(());
        }
        self.write_mark(Some(sum(&self.at(DATABASE))?))
    }

    fn write_mark(&self, closed: Option<String>) -> Result<(), StoreError> {
        let mark = Mark { program: env!("CARGO_PKG_VERSION").to_owned(), closed };
        replace(&self.at(MARK), &serde_json::to_vec(&mark)?)
    }
}

/// Says of a folder that is being restored how its database was closed, and where its log ends.
pub(crate) fn restored(path: &Path, closed: &str, tail: &str) -> Result<(), StoreError> {
    std::fs::write(path.join(TAIL), format!("{tail:<64}\n"))?;
    Folder::new(path).write_mark(Some(closed.to_owned()))
}

/// Puts a file in the place of another one, whole or not at all.
pub(crate) fn replace(path: &Path, bytes: &[u8]) -> Result<(), StoreError> {
    let beside = path.with_extension("new");
    let mut file = File::create(&beside)?;
    file.write_all(bytes)?;
    file.sync_all()?;
    std::fs::rename(&beside, path)?;
    Ok(())
}

/// SHA-256 of a file in hexadecimal digits.
pub(crate) fn sum(path: &Path) -> Result<String, StoreError> {
    let (mut file, mut hash) = (File::open(path)?, Sha256::new());
    let mut piece = vec![0; PIECE];
    loop {
        let read = file.read(&mut piece)?;
        if read == 0 {
            return Ok(rows::digits(&hash.finalize()));
        }
        hash.update(piece.get(..read).unwrap_or_default());
    }
}

/// What SQLite finds wrong with the file, in its words; none when nothing is. `quick` leaves out whether
/// indexes agree with their tables.
pub(crate) async fn torn(
    connection: &mut SqliteConnection,
    quick: bool,
) -> Result<Option<String>, StoreError> {
    let sql = if quick { "PRAGMA quick_check(1)" } else { "PRAGMA integrity_check(1)" };
    let says: String = sqlx::query(sql).fetch_one(&mut *connection).await?.try_get(0)?;
    if says != "ok" {
        return Ok(Some(says));
    }
    let loose = sqlx::query("PRAGMA foreign_key_check").fetch_optional(connection).await?;
    Ok(loose.map(|_| words::ROW_NAMES_NOTHING.to_owned()))
}

/// Whether the log still has the row that was acknowledged last.
pub(crate) async fn has_tail(
    connection: &mut SqliteConnection,
    tail: &str,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT 1 FROM log WHERE hash = ? ORDER BY n DESC LIMIT 1")
        .bind(tail)
        .fetch_optional(connection)
        .await?;
    Ok(row.is_some())
}
