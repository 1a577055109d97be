//! Entries put together to what they are the log of.

use super::{Entry, Torn};
use crate::record::{JOB_FORMAT, JOB_VERSION, JobFile, RunRecord, SheetRecord};
use crate::tests::bench::SessionRecord;
use uuid::Uuid;

/// The job that a log tells of, without bench sessions, people and the name of the family.
///
/// # Errors
/// [`Torn`]: nothing of it is read then.
pub fn job(entries: impl IntoIterator<Item = Entry>) -> Result<JobFile, Torn> {
    let mut entries = entries.into_iter();
    let Some(Entry::TakenIn(job)) = entries.next() else { return Err(Torn::Headless) };
    let mut file = JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job,
        changes: Vec::new(),
        return_tests: Vec::new(),
        sheets: Vec::new(),
        bench: Vec::new(),
        events: Vec::new(),
        decisions: Vec::new(),
        notes: Vec::new(),
        people: Vec::new(),
        family: None,
    };
    for entry in entries {
        file.push(entry)?;
    }
    Ok(file)
}

/// The bench session that a log tells of.
///
/// # Errors
/// [`Torn`]: nothing of it is read then.
pub fn session(entries: impl IntoIterator<Item = Entry>) -> Result<SessionRecord, Torn> {
    let mut entries = entries.into_iter();
    let Some(Entry::Session(mut session)) = entries.next() else { return Err(Torn::Headless) };
    for entry in entries {
        session.push(entry)?;
    }
    Ok(session)
}

impl JobFile {
    /// Adds what an entry says.
    ///
    /// # Errors
    /// [`Torn`] when it belongs to nothing that is here.
    pub fn push(&mut self, entry: Entry) -> Result<(), Torn> {
        let loose = Torn::Loose(entry.id());
        match entry {
            Entry::IntakeChanged(mut change) => {
                // An entry holds what the intake is from then on; a file what it was before.
                std::mem::swap(&mut self.job.intake, &mut change.intake);
                std::mem::swap(&mut self.job.injectors, &mut change.injectors);
                self.job.revision += 1;
                self.changes.push(change);
            }
            Entry::Test(test) => self.return_tests.push(test),
            Entry::Run { test, run } => {
                let held = self.return_tests.iter_mut().rfind(|held| held.id == test);
                held.ok_or(loose)?.runs.push(run);
            }
            Entry::Reading { run, reading } => {
                self.run_mut(run).ok_or(loose)?.readings.push(reading);
            }
            Entry::Aside { run, aside } => {
                let run = self.run_mut(run).ok_or(loose)?;
                if aside.back {
                    run.asides.extend(run.set_aside.take());
                    run.asides.push(aside);
                } else {
                    run.set_aside = Some(aside);
                }
            }
            Entry::Sheet(sheet) => self.sheets.push(sheet),
            Entry::Cell { sheet, cell } => {
                self.sheet_mut(sheet).ok_or(loose)?.readings.push(cell);
            }
            Entry::Trace { sheet, trace } => {
                self.sheet_mut(sheet).ok_or(loose)?.traces.push(trace);
            }
            Entry::Recording { sheet, recording } => {
                self.sheet_mut(sheet).ok_or(loose)?.recordings.push(recording);
            }
            Entry::Raw { of, stretch } => match self.run_mut(of) {
                Some(run) => run.raw.push(stretch),
                None => self.sheet_mut(of).ok_or(loose)?.raw.push(stretch),
            },
            Entry::Event(event) => self.events.push(event),
            Entry::Decision(decision) => self.decisions.push(decision),
            Entry::Note(note) => self.notes.push(note),
            stray @ (Entry::TakenIn(_) | Entry::Session(_) | Entry::Round(_) | Entry::Tube(_)) => {
                return Err(Torn::Stray(stray.id()));
            }
        }
        Ok(())
    }

    fn run_mut(&mut self, id: Uuid) -> Option<&mut RunRecord> {
        let mut runs = self.return_tests.iter_mut().rev().flat_map(|test| test.runs.iter_mut());
        runs.find(|run| run.id == id)
    }

    fn sheet_mut(&mut self, id: Uuid) -> Option<&mut SheetRecord> {
        self.sheets.iter_mut().rfind(|sheet| sheet.id == id)
    }
}

impl SessionRecord {
    /// Adds what an entry says.
    ///
    /// # Errors
    /// [`Torn`] when it belongs to nothing that is here.
    pub fn push(&mut self, entry: Entry) -> Result<(), Torn> {
        match entry {
            Entry::Round(round) => self.rounds.push(round),
            Entry::Tube(cell) => {
                if !self.rounds.iter().any(|round| round.id == cell.round) {
                    return Err(Torn::Loose(cell.id));
                }
                self.cells.push(cell);
            }
            stray @ (Entry::TakenIn(_)
            | Entry::IntakeChanged(_)
            | Entry::Test(_)
            | Entry::Run { .. }
            | Entry::Reading { .. }
            | Entry::Aside { .. }
            | Entry::Sheet(_)
            | Entry::Cell { .. }
            | Entry::Trace { .. }
            | Entry::Recording { .. }
            | Entry::Raw { .. }
            | Entry::Event(_)
            | Entry::Decision(_)
            | Entry::Note(_)
            | Entry::Session(_)) => return Err(Torn::Stray(stray.id())),
        }
        Ok(())
    }
}
