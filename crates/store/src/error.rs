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
    /// The database itself.
    #[error("{}", words::unexpected_answer_database(.0))]
    Database(#[from] sqlx::Error),
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
    /// One field that cannot be kept.
    pub fn field(field: &str, message: impl Into<String>) -> Self {
        Self::Invalid(vec![FieldProblem::new(field, message)])
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
