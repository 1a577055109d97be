//! Import of job files: all of a file or nothing of it.

use crate::acts::{self, Act};
use crate::bench::{next_number as next_session, say, write_line};
use crate::elsewhere::shares;
use crate::job_file::{job_file, session as session_file};
use crate::torque::torque_of;
use crate::words;
use crate::{Store, StoreError, jobs, log, people, rows, stale};
use cobaltine_core::entry::{self, Entry};
use cobaltine_core::job::{mark_older, replay};
use cobaltine_core::limits::LOG_BYTES;
use cobaltine_core::record::{JobFile, Signed};
use cobaltine_core::tests::bench::SessionRecord;
use jiff::Timestamp;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Who took a file in, and when.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TakenBy {
    /// Someone of the workshop; none at the command line.
    pub by: Option<Uuid>,
    /// By the clock.
    pub at: Timestamp,
}

impl From<Signed> for TakenBy {
    fn from(signed: Signed) -> Self {
        Self { by: Some(signed.by), at: signed.at }
    }
}

/// When the projections of a job are made that comes in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Projections {
    /// With it: it can be found at once.
    Now,
    /// In the background, once everything that comes with it is here.
    Later,
}

/// What an import did.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Imported {
    /// The job is new here.
    New(Uuid),
    /// The very same job was here already.
    AlreadyHere(Uuid),
}

impl Store {
    /// Imports a job. What it says was signed elsewhere: it is marked with who took it in.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] with the places in the file; [`StoreError::Conflict`] when another
    /// state of this job is here. Nothing is written then.
    pub async fn import_job(
        &self,
        act: &Act,
        file: &JobFile,
        by: TakenBy,
    ) -> Result<Imported, StoreError> {
        // What it says is done again before anyone else is kept from writing.
        let looked = look_at(&mut *self.pool.acquire().await?, file).await?;
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(Imported::New(file.job.id));
        }
        let imported = take_in(&mut tx, looked, Some(by), Projections::Now).await?;
        acts::done(&mut tx, act, by.at).await?;
        tx.commit().await?;
        Ok(imported)
    }

    /// Loads jobs that this workshop made itself, in one transaction: the demo and the generator.
    ///
    /// # Errors
    /// As [`Store::import_job`], for the first file that cannot be imported.
    pub async fn load_jobs(&self, files: &[JobFile]) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        for file in files {
            let looked = look_at(&mut tx, file).await?;
            take_in(&mut tx, looked, None, Projections::Now).await?;
        }
        tx.commit().await?;
        Ok(())
    }

    /// Who took a job in from a file, and when; none for one that was taken in here.
    ///
    /// # Errors
    /// The database error.
    pub async fn imported_by(&self, job: Uuid) -> Result<Option<TakenBy>, StoreError> {
        let row = sqlx::query("SELECT by_id, at FROM imports WHERE of_id = ?")
            .bind(job.to_string())
            .fetch_optional(&self.pool)
            .await?;
        let read = |row: sqlx::sqlite::SqliteRow| {
            let at = rows::time(&row.try_get::<String, _>("at")?)?;
            Ok(TakenBy { by: rows::maybe_id(&row, "by_id")?, at })
        };
        row.map(read).transpose()
    }
}

/// A file that can be taken in as it is: its rows follow one another as they would have to here.
pub(crate) struct Looked(JobFile);

/// Looks at a file without writing. One whose job is here is compared with it instead.
pub(crate) async fn look_at(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<Looked, StoreError> {
    let problems = file.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let Looked(file) = at_home(connection, file).await?;
    if jobs::job_exists(connection, file.job.id).await? {
        return Ok(Looked(file));
    }
    let torque = torque_of(connection, file.job.intake.family_id).await?;
    let again = move || {
        let done = replay(&file, &torque);
        done.map(|()| Looked(file)).map_err(|problem| StoreError::Invalid(vec![problem]))
    };
    tokio::task::spawn_blocking(again).await.map_err(std::io::Error::other)?
}

/// A file that was looked at before, as it stands in this workshop.
pub(crate) async fn at_home(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<Looked, StoreError> {
    let mut file = file.clone();
    mark_older(&mut file);
    // A family of another workshop is known here by its name, or not at all.
    let family = match &file.family {
        Some(name) => family_named(connection, name).await?,
        None => None,
    };
    for change in &mut file.changes {
        if change.intake.family_id != file.job.intake.family_id {
            change.intake.family_id = known_family(connection, change.intake.family_id).await?;
        } else {
            change.intake.family_id = family;
        }
    }
    file.job.intake.family_id = family;
    Ok(Looked(file))
}

/// Takes a job in that was looked at.
pub(crate) async fn take_in(
    connection: &mut SqliteConnection,
    Looked(mut file): Looked,
    by: Option<TakenBy>,
    projections: Projections,
) -> Result<Imported, StoreError> {
    let id = file.job.id;
    if jobs::job_exists(connection, id).await? {
        return again(connection, file).await;
    }
    for person in &file.people {
        people::add_person(connection, person).await?;
    }
    if number_taken(connection, "jobs", file.job.number).await? {
        file.job.number = jobs::next_number(connection).await?;
    }
    refuse_taken(connection, &file).await?;
    jobs::insert_job(connection, &file.job).await?;
    let mut entries = entry::of_job(&file);
    refuse_large(&entries)?;
    log::restore(connection, id, &mut entries).await?;
    let at = log::newest(&entries).map_or(file.job.taken_in.at, |moment| moment.at);
    for session in &file.bench {
        take_session(connection, session, at).await?;
        shares(connection, id, session.id).await?;
    }
    if let Some(by) = by {
        sqlx::query("INSERT INTO imports (of_id, by_id, at) VALUES (?, ?, ?)")
            .bind(id.to_string())
            .bind(by.by.map(|by| by.to_string()))
            .bind(rows::stamp(by.at))
            .execute(&mut *connection)
            .await?;
    }
    match projections {
        Projections::Now => stale::refresh(connection, id).await?,
        Projections::Later => stale::later(connection, &file).await?,
    }
    Ok(Imported::New(id))
}

/// A job that is here: the very same, or another state of it.
async fn again(
    connection: &mut SqliteConnection,
    mut file: JobFile,
) -> Result<Imported, StoreError> {
    let id = file.job.id;
    let held = job_file(connection, id).await?;
    // The number belongs to this workshop, not to the file.
    file.job.number = held.job.number;
    let same = entry::of_job(&held) == entry::of_job(&file)
        && file.bench.iter().all(|session| {
            held.bench.iter().any(|one| one.id == session.id && holds(one, session))
        });
    if !same {
        return Err(StoreError::Conflict(words::JOB_ALREADY_HERE_ANOTHER.to_owned()));
    }
    Ok(Imported::AlreadyHere(id))
}

/// Whether everything of a session is here already; more may be.
fn holds(held: &SessionRecord, session: &SessionRecord) -> bool {
    let session = SessionRecord { number: held.number, ..session.clone() };
    let here = entry::of_session(held);
    entry::of_session(&session).iter().all(|entry| here.contains(entry))
}

/// A session that two jobs share comes with either. One that is here stays as it is: a file adds
/// nothing to what was read here.
async fn take_session(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
    at: Timestamp,
) -> Result<(), StoreError> {
    if log::is_known(connection, session.id).await? {
        let held = session_file(connection, session.id).await?.0;
        if !holds(&held, session) {
            return Err(StoreError::Conflict(words::bench_session_already_here(held.number)));
        }
        return Ok(());
    }
    let mut session = session.clone();
    if number_taken(connection, "bench_sessions", session.number).await? {
        session.number = next_session(connection).await?;
    }
    let mut entries = entry::of_session(&session);
    refuse_large(&entries)?;
    write_line(connection, &session).await?;
    log::restore(connection, session.id, &mut entries).await?;
    say(connection, &session, at).await.map(|_| ())
}

/// No injector comes in two jobs, and no entry stands in two logs.
async fn refuse_taken(connection: &mut SqliteConnection, file: &JobFile) -> Result<(), StoreError> {
    let ours: Vec<Uuid> = file.job.injectors.iter().map(|one| one.id).collect();
    let ids: Vec<Uuid> = entry::of_job(file).iter().map(Entry::id).collect();
    let row = sqlx::query(
        "SELECT EXISTS (SELECT 1 FROM lives WHERE injector_id IN (SELECT value FROM json_each(?1)))
             OR EXISTS (SELECT 1 FROM log WHERE id IN (SELECT value FROM json_each(?2)))
             OR EXISTS (SELECT 1 FROM commands WHERE id IN (SELECT value FROM json_each(?2))) AS taken",
    )
    .bind(serde_json::to_string(&ours)?)
    .bind(serde_json::to_string(&ids)?)
    .fetch_one(connection)
    .await?;
    if row.try_get("taken")? {
        return Err(StoreError::Conflict(words::INJECTOR_ROW_FILE_BELONGS.to_owned()));
    }
    Ok(())
}

/// As much as can be written here, and what one more command can bring.
fn refuse_large(entries: &[Entry]) -> Result<(), StoreError> {
    let mut bytes = 0;
    for entry in entries {
        bytes += serde_json::to_string(entry)?.len();
    }
    if bytes > 2 * LOG_BYTES {
        return Err(StoreError::field("job", words::JOB_HOLDS_MORE_WORKSHOP));
    }
    Ok(())
}

async fn number_taken(
    connection: &mut SqliteConnection,
    table: &'static str,
    number: u64,
) -> Result<bool, StoreError> {
    let row =
        rows::parts(format!("SELECT EXISTS (SELECT 1 FROM {table} WHERE number = ?) AS taken"))
            .bind(number as i64)
            .fetch_one(connection)
            .await?;
    Ok(row.try_get("taken")?)
}

async fn known_family(
    connection: &mut SqliteConnection,
    id: Option<Uuid>,
) -> Result<Option<Uuid>, StoreError> {
    let Some(id) = id else { return Ok(None) };
    let row = sqlx::query("SELECT id FROM families WHERE id = ?")
        .bind(id.to_string())
        .fetch_optional(connection)
        .await?;
    Ok(row.map(|_| id))
}

async fn family_named(
    connection: &mut SqliteConnection,
    name: &str,
) -> Result<Option<Uuid>, StoreError> {
    let row = sqlx::query("SELECT id FROM families WHERE name = ? COLLATE NOCASE")
        .bind(name)
        .fetch_optional(connection)
        .await?;
    row.map(|row| rows::id(&row, "id")).transpose()
}
