//! Import of job files: all of a file or nothing of it.

use crate::job_file::job_file;
use crate::rows::{columns, decisions, jobs, return_tests, sheets};
use crate::{Store, StoreError, board, people};
use cobaltine_core::record::JobFile;
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
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

async fn import(connection: &mut SqliteConnection, file: &JobFile) -> Result<Imported, StoreError> {
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
                let injector = job.injectors.iter().find(|i| Some(i.cylinder) == reading.cylinder);
                return_tests::insert_reading(connection, run.id, injector.map(|i| i.id), reading)
                    .await?;
            }
            if let Some(aside) = &run.set_aside {
                return_tests::insert_set_aside(connection, run.id, aside).await?;
            }
        }
    }
    for sheet in &file.sheets {
        sheets::insert_sheet(connection, id, sheet).await?;
        for cell in &sheet.readings {
            let injector = job.injectors.iter().find(|i| Some(i.cylinder) == cell.cylinder);
            sheets::insert_cell(connection, sheet.id, injector.map(|i| i.id), cell).await?;
        }
    }
    for decision in &file.decisions {
        decisions::insert_decision(connection, id, decision).await?;
    }
    for note in &file.notes {
        decisions::insert_note(connection, id, note).await?;
    }
    board::refresh(connection, id, last_change(file)).await?;
    Ok(Imported::New(id))
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
    let rest = file.decisions.iter().map(|d| d.signed.at);
    let notes = file.notes.iter().map(|n| n.signed.at);
    tests.chain(cells).chain(rest).chain(notes).fold(file.job.taken_in.at, Ord::max)
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
