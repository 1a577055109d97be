//! Import of job files: all of a file or nothing of it.

use crate::bench::{next_number as next_session, refreshed, write_session};
use crate::job_file::job_file;
use crate::rows::{bench, columns, decisions, events, jobs, return_tests, sheets};
use crate::{Store, StoreError, board, people};
use cobaltine_core::bench::SessionRecord;
use cobaltine_core::record::JobFile;
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use std::collections::HashSet;
use uuid::Uuid;

/// What an import did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Imported {
    /// The job is new here.
    New(Uuid),
    /// The very same job was here already.
    AlreadyHere(Uuid),
}

impl Store {
    /// Imports a job.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] with the places in the file; [`StoreError::Conflict`] when another
    /// state of this job is here. Nothing is written then.
    pub async fn import_job(&self, file: &JobFile) -> Result<Imported, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let imported = import(&mut tx, file).await?;
        tx.commit().await?;
        Ok(imported)
    }

    /// Imports many jobs in one transaction: the demo and the generator.
    ///
    /// # Errors
    /// As [`Store::import_job`], for the first file that cannot be imported.
    pub async fn import_jobs(&self, files: &[JobFile]) -> Result<(), StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        for file in files {
            import(&mut tx, file).await?;
        }
        tx.commit().await?;
        Ok(())
    }
}

pub(crate) async fn import(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<Imported, StoreError> {
    let problems = file.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let id = file.job.id;
    if jobs::find_job(connection, id).await?.is_some() {
        let mut held = job_file(connection, id).await?;
        // The number belongs to this workshop, not to the file.
        held.job.number = file.job.number;
        return if held.job == file.job
            && held.return_tests == file.return_tests
            && held.sheets == file.sheets
            && held.events == file.events
            && file.bench.iter().all(|session| holds(&held.bench, session))
            && held.decisions == file.decisions
            && held.notes == file.notes
        {
            Ok(Imported::AlreadyHere(id))
        } else {
            Err(StoreError::Conflict(
                "Another state of this job is here already; nothing was overwritten.".to_owned(),
            ))
        };
    }
    for person in &file.people {
        people::add_person(connection, person).await?;
    }
    let mut job = file.job.clone();
    if number_taken(connection, job.number).await? {
        job.number = jobs::next_number(connection).await?;
    }
    // A family of another workshop is known here by its name, or not at all.
    job.intake.family_id = match &file.family {
        Some(name) => family_named(connection, name).await?,
        None => None,
    };
    jobs::insert_job(connection, &job).await?;
    for test in &file.return_tests {
        return_tests::insert_test(connection, id, test).await?;
        for run in &test.runs {
            return_tests::insert_run(connection, test.id, run).await?;
            for reading in &run.readings {
                let injector = file.own_injector_at(reading.cylinder, reading.signed.at);
                return_tests::insert_reading(connection, run.id, injector, reading).await?;
            }
            if let Some(aside) = &run.set_aside {
                return_tests::insert_set_aside(connection, run.id, aside).await?;
            }
        }
    }
    for sheet in &file.sheets {
        sheets::insert_sheet(connection, id, sheet).await?;
        for cell in &sheet.readings {
            let injector = file.own_injector_at(cell.cylinder, cell.signed.at);
            sheets::insert_cell(connection, sheet.id, injector, cell).await?;
        }
        for trace in &sheet.traces {
            events::insert_trace(connection, sheet.id, trace).await?;
        }
    }
    for event in &file.events {
        events::insert_event(connection, id, event).await?;
    }
    for decision in &file.decisions {
        decisions::insert_decision(connection, id, decision).await?;
    }
    for note in &file.notes {
        decisions::insert_note(connection, id, note).await?;
    }
    for session in &file.bench {
        take_session(connection, session, last_change(file)).await?;
    }
    board::refresh(connection, id, last_change(file)).await?;
    Ok(Imported::New(id))
}

/// Whether everything of a session is here already; more may be.
fn holds(held: &[SessionRecord], session: &SessionRecord) -> bool {
    held.iter().find(|one| one.id == session.id).is_some_and(|held| {
        held.setup == session.setup
            && held.injectors == session.injectors
            && session.rounds.iter().all(|round| held.rounds.contains(round))
            && session.cells.iter().all(|cell| held.cells.contains(cell))
    })
}

/// A session that two jobs share comes with either; what is new of it is added.
async fn take_session(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
    at: Timestamp,
) -> Result<(), StoreError> {
    if let Some(held) = bench::find(connection, session.id).await? {
        for round in session.rounds.iter().filter(|r| !held.rounds.iter().any(|h| h.id == r.id)) {
            bench::insert_round(connection, session.id, round).await?;
        }
        let known: HashSet<Uuid> = held.cells.iter().map(|cell| cell.id).collect();
        let new: Vec<_> =
            session.cells.iter().filter(|cell| !known.contains(&cell.id)).cloned().collect();
        bench::insert_cells(connection, session.id, &new).await?;
    } else {
        let mut session = session.clone();
        if bench::number_taken(connection, session.number).await? {
            session.number = next_session(connection).await?;
        }
        write_session(connection, &session).await?;
    }
    refreshed(connection, session.id, at).await.map(|_| ())
}

fn last_change(file: &JobFile) -> Timestamp {
    let tests = file.return_tests.iter().flat_map(|t| {
        let readings = t.runs.iter().flat_map(|r| r.readings.iter().map(|g| g.signed.at));
        readings.chain(t.runs.iter().map(|r| r.signed.at)).chain([t.signed.at])
    });
    let cells = file
        .sheets
        .iter()
        .flat_map(|s| s.readings.iter().map(|r| r.signed.at).chain([s.signed.at]));
    let bench =
        file.bench.iter().flat_map(|s| s.cells.iter().map(|c| c.signed.at).chain([s.signed.at]));
    let rest = file.decisions.iter().map(|d| d.signed.at);
    let notes = file.notes.iter().map(|n| n.signed.at);
    let events = file.events.iter().map(|e| e.signed.at);
    tests
        .chain(cells)
        .chain(bench)
        .chain(events)
        .chain(rest)
        .chain(notes)
        .fold(file.job.taken_in.at, Ord::max)
}

async fn number_taken(connection: &mut SqliteConnection, number: u64) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM jobs WHERE number = ?) AS taken")
        .bind(number as i64)
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("taken")?)
}

async fn family_named(
    connection: &mut SqliteConnection,
    name: &str,
) -> Result<Option<Uuid>, StoreError> {
    let row = sqlx::query("SELECT id FROM families WHERE name = ? COLLATE NOCASE")
        .bind(name)
        .fetch_optional(connection)
        .await?;
    row.map(|row| columns::id(&row, "id")).transpose()
}
