//! Decisions and notes.

use super::{Refused, room};
use crate::entry::Entry;
use crate::job::words;
use crate::limits;
use crate::record::{DecisionRecord, JobFile, Note};

pub(super) fn decide(
    file: &JobFile,
    decisions: Vec<DecisionRecord>,
) -> Result<Vec<Entry>, Refused> {
    if decisions.is_empty() {
        return Err(Refused::field("decisions", words::ENTER_DECISION_LEAST_ONE));
    }
    let cylinders = file.job.intake.layout.cylinders;
    if decisions.iter().any(|one| !(1..=cylinders).contains(&one.cylinder)) {
        let says = words::engine_cylinders(cylinders);
        return Err(Refused::field("cylinder", says));
    }
    room(file.decisions.len() + decisions.len() - 1, limits::EVENTS, "decisions")?;
    Ok(decisions.into_iter().map(Entry::Decision).collect())
}

pub(super) fn note(file: &JobFile, note: Note) -> Result<Vec<Entry>, Refused> {
    room(file.notes.len(), limits::EVENTS, "notes")?;
    Ok(vec![Entry::Note(note)])
}
