//! A file cannot close a job that could not have been closed here: each closing is looked at with
//! what stood before it.

use super::events::close;
use crate::entry::{self, Entry, of_job, of_session};
use crate::library::TorqueStage;
use crate::proving::ProveId;
use crate::record::{Event, EventRecord, FieldProblem, JobFile};
use crate::tests::bench::SessionRecord;
use uuid::Uuid;

/// What is wrong with the closings of a job from a file; `torque` is how the library tightens it.
pub fn closings(file: &JobFile, torque: &[TorqueStage]) -> Option<FieldProblem> {
    if !file.events.iter().any(|record| matches!(record.event, Event::Closed { .. })) {
        return None;
    }
    let mut log: Vec<(Option<Uuid>, Entry)> = of_job(file).into_iter().map(|e| (None, e)).collect();
    for session in &file.bench {
        log.extend(of_session(session).into_iter().map(|entry| (Some(session.id), entry)));
    }
    // A stable sort: what has the same place in two logs stays in the order of the file.
    log.sort_by_key(|(_, entry)| entry.signed().moment());
    let mut log = log.into_iter();
    let mut now = entry::job([log.find(|(of, _)| of.is_none())?.1]).ok()?;
    for (of, entry) in log {
        if let Entry::Event(EventRecord { id, event: Event::Closed { exceptions }, signed }) =
            &entry
            && let Some(says) = refused(&now, *id, exceptions, *signed, torque)
        {
            return Some(FieldProblem::new("events", format!("It cannot be closed so: {says}")));
        }
        match of {
            None => now.push(entry).ok()?,
            Some(of) => at_bench(&mut now, of, entry)?,
        }
    }
    None
}

fn refused(
    now: &JobFile,
    id: Uuid,
    exceptions: &[ProveId],
    signed: crate::record::Signed,
    torque: &[TorqueStage],
) -> Option<String> {
    if now.closed().is_some() {
        return Some("it is closed already.".to_owned());
    }
    match close(now, id, torque, signed) {
        Err(refused) => Some(refused.to_string()),
        Ok(entries) => {
            let own = entries.into_iter().any(|entry| {
                matches!(&entry, Entry::Event(EventRecord { event: Event::Closed { exceptions: own }, .. })
                    if own.iter().all(|one| exceptions.contains(one)))
            });
            (!own).then(|| "something was left out that it does not name.".to_owned())
        }
    }
}

fn at_bench(now: &mut JobFile, of: Uuid, entry: Entry) -> Option<()> {
    if let Entry::Session(session) = entry {
        now.bench.push(SessionRecord { rounds: Vec::new(), cells: Vec::new(), ..session });
        return Some(());
    }
    now.bench.iter_mut().find(|held| held.id == of)?.push(entry).ok()
}
