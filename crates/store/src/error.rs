//! What the store refuses, in words for the person in front of it.

use crate::words;
use cobaltine_core::entry::Torn;
use cobaltine_core::job::Refused;
use cobaltine_core::record::{FieldProblem, Job};
use std::path::PathBuf;
use thiserror::Error;

/// Why nothing was written or found.
#[derive(Debug, Error)]
pub enum StoreError {
    /// Another program has the folder.
    #[error("{}", words::folder_in_use(.0.display()))]
    InUse(PathBuf),
    /// No such row.
    #[error("{}", words::no_id(.0))]
    NotFound(&'static str),
    /// Someone else changed it first; nothing was written.
    #[error("{}", words::SOMEONE_CHANGED_JOB_WHILE)]
    Stale(Box<Job>),
    /// The id is taken by something else, or the row cannot follow what is there.
    #[error("{0}")]
    Conflict(String),
    /// The id of a command that asked for something else.
    #[error("{}", words::ID_ALREADY_BELONGS_ANOTHER)]
    Reused,
    /// Fields that cannot be kept as they are.
    #[error("{}", words::CHECK_MARKED_FIELDS)]
    Invalid(Vec<FieldProblem>),
    /// Too many wrong tries; nobody looked at this one.
    #[error("{}", words::too_many_tries(.minutes))]
    TooSoon {
        /// Until the next is looked at.
        minutes: i64,
    },
    /// No room to write.
    #[error("{}", words::DISK_FULL)]
    DiskFull,
    /// The disk or the folder takes no writes, or it could not be read.
    #[error("{}", words::disk_fault(.0))]
    Disk(String),
    /// Someone else holds the database.
    #[error("{}", words::DATABASE_BUSY)]
    Busy,
    /// The folder was opened to be read alone, as it did not pass its checks.
    #[error("{}", words::read_only(.0))]
    ReadOnly(String),
    /// What is stored is not what was written.
    #[error("{}", words::damaged(.0))]
    Damaged(String),
    /// The folder was written by a newer program.
    #[error("{}", words::NEWER_FOLDER)]
    Newer,
    /// The database itself.
    #[error("{}", words::unexpected_answer_database(.0))]
    Database(sqlx::Error),
    /// The database could not be brought up to date.
    #[error("{}", words::database_could_not_updated(.0))]
    Migration(#[from] sqlx::migrate::MigrateError),
    /// The file system.
    #[error("{}", words::data_folder_could_not(.0))]
    Io(#[from] std::io::Error),
    /// A log that does not hold together.
    #[error("{}", words::stored_log_cannot_read(.0))]
    Torn(#[from] Torn),
    /// A stored shape that cannot be read back.
    #[error("{}", words::stored_row_cannot_read(.0))]
    Shape(#[from] serde_json::Error),
}

impl StoreError {
    /// Seconds after which the same may be asked again; none where that changes nothing.
    pub fn wait(&self) -> Option<i64> {
        if let Self::TooSoon { minutes } = self {
            return Some(minutes * 60);
        }
        if matches!(self, Self::DiskFull | Self::Disk(_)) {
            return Some(5);
        }
        matches!(self, Self::Busy).then_some(1)
    }

    /// It came from the disk, not from what was asked: the same may work in a moment.
    pub fn is_fault(&self) -> bool {
        match self {
            Self::DiskFull | Self::Disk(_) | Self::Busy | Self::ReadOnly(_) | Self::Damaged(_) => {
                true
            }
            Self::InUse(_)
            | Self::NotFound(_)
            | Self::Stale(_)
            | Self::Conflict(_)
            | Self::Reused
            | Self::Invalid(_)
            | Self::TooSoon { .. }
            | Self::Newer
            | Self::Database(_)
            | Self::Migration(_)
            | Self::Io(_)
            | Self::Torn(_)
            | Self::Shape(_) => false,
        }
    }

    /// One field that cannot be kept.
    pub fn field(field: &str, message: impl Into<String>) -> Self {
        Self::Invalid(vec![FieldProblem::new(field, message)])
    }
}

/// Primary result codes of SQLite that name a fault.
///
/// # Source
/// sqlite.org/rescode.html: the low byte of an extended code is the primary one.
impl From<sqlx::Error> for StoreError {
    fn from(error: sqlx::Error) -> Self {
        let said = error.as_database_error();
        let code = said.and_then(|said| said.code()).and_then(|code| code.parse::<u32>().ok());
        match code.map(|code| code & 0xff) {
            Some(5 | 6) => Self::Busy,
            Some(8 | 10 | 14) => Self::Disk(error.to_string()),
            Some(11 | 26) => Self::Damaged(error.to_string()),
            Some(13) => Self::DiskFull,
            Some(_) | None => Self::Database(error),
        }
    }
}

impl From<Refused> for StoreError {
    fn from(refused: Refused) -> Self {
        match refused {
            Refused::NotFound(what) => Self::NotFound(what),
            Refused::Stale(job) => Self::Stale(job),
            Refused::Conflict(says) => Self::Conflict(says),
            Refused::Invalid(problems) => Self::Invalid(problems),
        }
    }
}
