//! What the store refuses, in words for the person in front of it.

use cobaltine_core::entry::Torn;
use cobaltine_core::job::Refused;
use cobaltine_core::record::{FieldProblem, Job};
use std::path::PathBuf;
use thiserror::Error;

/// Why nothing was written or found.
#[derive(Debug, Error)]
pub enum StoreError {
    /// Another program has the folder.
    #[error(
        "The data folder {} is in use by another Cobaltine. Stop that one first, or choose another folder with --data.",
        .0.display()
    )]
    InUse(PathBuf),
    /// No such row.
    #[error("There is no {0} with this id.")]
    NotFound(&'static str),
    /// Someone else changed it first; nothing was written.
    #[error("Someone changed this job while you had it open. Nothing was overwritten.")]
    Stale(Box<Job>),
    /// The id is taken by something else, or the row cannot follow what is there.
    #[error("{0}")]
    Conflict(String),
    /// The id of a command that asked for something else.
    #[error(
        "This id was given to another entry already; nothing was written. Load the page anew and enter it again."
    )]
    Reused,
    /// Fields that cannot be kept as they are.
    #[error("Some fields need another look.")]
    Invalid(Vec<FieldProblem>),
    /// The database itself.
    #[error("The database did not answer as it should: {0}")]
    Database(#[from] sqlx::Error),
    /// The database could not be brought up to date.
    #[error("The database could not be brought up to date: {0}")]
    Migration(#[from] sqlx::migrate::MigrateError),
    /// The file system.
    #[error("The data folder could not be used: {0}")]
    Io(#[from] std::io::Error),
    /// A log that does not hold together.
    #[error("A stored log cannot be read: {0}")]
    Torn(#[from] Torn),
    /// A stored shape that cannot be read back.
    #[error("A stored row cannot be read: {0}")]
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
