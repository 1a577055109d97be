//! What a person may do to a job, and the one place that refuses.
//!
//! [`apply`] turns a command and the job as it is into the entries that the log gets, or into a
//! [`Refused`] with words for the person in front of it. It writes nothing and knows no clock.

mod bench;
mod command;
mod decide;
mod engine_test;
mod events;
mod intake;
mod raw;
mod replay;
mod sheet;
#[cfg(test)]
mod tests;
mod words;

pub use bench::{BenchCommand, apply_bench};
pub use command::{Command, NewReading, NewRun};
pub use intake::{take_in, take_up};
pub use replay::{mark_older, replay};

use crate::entry::Entry;
use crate::limits;
use crate::record::{Event, EventRecord, FieldProblem, Job, JobFile, Signed};
use thiserror::Error;

/// Why nothing is written.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum Refused {
    /// It names what is not there.
    #[error("{}", words::no_id(.0))]
    NotFound(&'static str),
    /// Someone else changed it first.
    #[error("{}", words::SOMEONE_CHANGED_JOB_WHILE)]
    Stale(Box<Job>),
    /// It cannot follow what is there.
    #[error("{0}")]
    Conflict(String),
    /// Fields that cannot be kept as they are.
    #[error("{}", words::CHECK_MARKED_FIELDS)]
    Invalid(Vec<FieldProblem>),
}

impl Refused {
    /// One field that cannot be kept.
    pub fn field(field: &str, message: impl Into<String>) -> Self {
        Self::Invalid(vec![FieldProblem::new(field, message)])
    }

    /// It cannot follow what is there.
    pub fn conflict(says: impl Into<String>) -> Self {
        Self::Conflict(says.into())
    }
}

/// What a person does, as entries of the log; nothing is written.
///
/// # Errors
/// [`Refused`], with what to do about it.
pub fn apply(file: &JobFile, command: Command, signed: Signed) -> Result<Vec<Entry>, Refused> {
    if file.closed().is_some() && !command.follows_closing() {
        return Err(Refused::conflict(words::JOB_CLOSED_REOPEN_REASON));
    }
    if file.marks().is_some() {
        return Err(Refused::conflict(words::EXERCISE_HAS_ENDED));
    }
    let entries = match command {
        Command::ChangeIntake { id, revision, intake, labels } => {
            intake::change(file, id, revision, *intake, &labels, signed)?
        }
        Command::SetUpTest { id, setup } => engine_test::set_up(file, id, *setup, signed)?,
        Command::BeginRun(new) => engine_test::begin_run(file, new, signed)?,
        Command::Read(new) => engine_test::read(file, new, signed)?,
        Command::SetRunAside { run, reason } => engine_test::set_aside(file, run, &reason, signed)?,
        Command::CountRun { run } => engine_test::count_again(file, run, signed)?,
        Command::BeginSheet(sheet) => sheet::begin(file, *sheet)?,
        Command::KeepCell { sheet, cell } => sheet::keep_cell(file, sheet, cell)?,
        Command::KeepTrace { sheet, trace } => sheet::keep_trace(file, sheet, trace)?,
        Command::KeepRecording { sheet, recording } => {
            sheet::keep_recording(file, sheet, recording)?
        }
        Command::KeepRaw { of, stretch } => raw::keep(file, of, stretch)?,
        Command::Happened(record) => events::happened(file, record)?,
        Command::Close { id, torque } => events::close(file, id, &torque, signed)?,
        Command::Decide(decisions) => decide::decide(file, decisions)?,
        Command::Note(note) => decide::note(file, note)?,
        Command::Together(all) => together(file, all, signed)?,
    };
    sound(entries)
}

/// One after the other, each on what the ones before it left.
fn together(file: &JobFile, all: Vec<Command>, signed: Signed) -> Result<Vec<Entry>, Refused> {
    let (mut then, mut entries) = (file.clone(), Vec::new());
    for one in all {
        for entry in apply(&then, one, signed)? {
            then.push(entry.clone()).map_err(|torn| Refused::Conflict(format!("{torn}.")))?;
            entries.push(entry);
        }
    }
    Ok(entries)
}

/// Entries whose texts, numbers and times can be kept.
fn sound(entries: Vec<Entry>) -> Result<Vec<Entry>, Refused> {
    let problems: Vec<FieldProblem> = entries.iter().flat_map(Entry::problems).collect();
    if problems.is_empty() { Ok(entries) } else { Err(Refused::Invalid(problems)) }
}

/// Refuses one more where there are that many.
fn room(held: usize, most: usize, what: &str) -> Result<(), Refused> {
    limits::full(held, most, what).map_or(Ok(()), |says| Err(Refused::Conflict(says)))
}

impl Command {
    /// What may be written into a closed job: that it is open again, and what a writing of codes
    /// that had begun says at its end.
    fn follows_closing(&self) -> bool {
        let Self::Happened(EventRecord { event, .. }) = self else { return false };
        matches!(event, Event::Reopened { .. } | Event::WriteEnded(_) | Event::CodesRead { .. })
    }
}
