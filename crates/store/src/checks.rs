//! What is looked at before anything is served, and what a check by hand looks at besides. Reads only.

use crate::folder::{self, DATABASE, Folder, Found};
use crate::{MIGRATIONS, Store, StoreError, log, options, read_alone, words};
use jiff::Timestamp;
use sqlx::{ConnectOptions, Connection, Row, SqliteConnection, SqlitePool};
use std::path::Path;

/// Tables that are made from the log.
const MADE: [&str; 5] = ["board", "exercises", "good_readings", "lives", "outcomes"];

/// What a check by hand found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Checked {
    /// Rows of the log.
    pub rows: u64,
    /// Open jobs of which everything that is made from the log was made anew.
    pub jobs: u64,
    /// What is wrong, in words; empty when nothing is.
    pub wrong: Vec<String>,
}

/// Looks at everything: pages, references, the hashes of the log, and what is made from it, which is made
/// anew in a copy and compared. The database is only read, also while a program serves it; the outcome is
/// written down beside it.
///
/// # Errors
/// The database error; no room for the copy.
pub async fn check(data: &Path, scratch: &Path, at: Timestamp) -> Result<Checked, StoreError> {
    let found = looked(data, scratch).await?;
    let good = if found.wrong.is_empty() { "good" } else { "bad" };
    let says = format!("{good} {}", words::checked_at(at, &found.wrong.join("; ")));
    folder::replace(&data.join(LAST), says.as_bytes())?;
    Ok(found)
}

async fn looked(data: &Path, scratch: &Path) -> Result<Checked, StoreError> {
    let beside = Folder::new(data);
    let mut wrong = Vec::new();
    if let Found::Changed(why) = beside.look()? {
        wrong.push(why.to_owned());
    }
    let mut from = read_alone(&data.join(DATABASE)).connect().await?;
    if let Some(torn) = folder::torn(&mut from, false).await? {
        wrong.push(torn);
        return Ok(Checked { rows: 0, jobs: 0, wrong });
    }
    let tail = beside.tail()?;
    let log = log::check(&mut from).await?;
    wrong.extend(log.broken);
    if let Some(tail) = tail
        && !folder::has_tail(&mut from, &tail).await?
    {
        wrong.push(words::ACKNOWLEDGED_ROW_GONE.to_owned());
    }
    let mut jobs = 0;
    if wrong.is_empty() {
        let copy = scratch.join(DATABASE);
        let into = sqlx::query("VACUUM INTO ?1").bind(copy.to_string_lossy().into_owned());
        into.execute(&mut from).await?;
        let (made, differs) = made_anew(scratch).await?;
        jobs = made;
        wrong.extend(differs.into_iter().map(words::made_otherwise));
    }
    from.close().await?;
    Ok(Checked { rows: log.rows, jobs, wrong })
}

/// Makes anew what is made from the log of open jobs, and names the tables in which it is otherwise. A
/// closed job stays as the rules of its time made it; one that was just written to is made later.
async fn made_anew(copy: &Path) -> Result<(u64, Vec<&'static str>), StoreError> {
    let mut now = options(copy).connect().await?;
    let settled = "SELECT id FROM jobs WHERE NOT closed AND id NOT IN (SELECT job_id FROM stale)";
    let found = sqlx::query(settled).fetch_all(&mut now).await?;
    let jobs: Vec<uuid::Uuid> =
        found.iter().map(|row| crate::rows::id(row, "id")).collect::<Result<_, _>>()?;
    let before = pictures(&mut now, &jobs).await?;
    now.close().await?;
    let store = Store::open(copy).await?;
    for job in &jobs {
        store.make_anew(*job).await?;
    }
    let after = pictures(&mut *store.pool.acquire().await?, &jobs).await?;
    store.close().await;
    let differs = MADE.into_iter().zip(before.iter().zip(&after));
    Ok((jobs.len() as u64, differs.filter(|(_, (was, is))| was != is).map(|(of, _)| of).collect()))
}

/// The rows of these jobs in each table that is made from the log, as texts in their order.
async fn pictures(
    connection: &mut SqliteConnection,
    jobs: &[uuid::Uuid],
) -> Result<Vec<Vec<String>>, StoreError> {
    let jobs = serde_json::to_string(jobs)?;
    let mut all = Vec::new();
    for table in MADE {
        let columns = crate::rows::parts(format!("SELECT name FROM pragma_table_info('{table}')"));
        let columns = columns.fetch_all(&mut *connection).await?;
        let names: Result<Vec<String>, _> = columns.iter().map(|row| row.try_get("name")).collect();
        let sql = format!(
            "SELECT json_array({}) AS row FROM {table}
             WHERE job_id IN (SELECT value FROM json_each(?)) ORDER BY row",
            names?.join(", ")
        );
        let rows = crate::rows::parts(sql).bind(&jobs).fetch_all(&mut *connection).await?;
        let rows: Result<Vec<String>, _> = rows.iter().map(|row| row.try_get("row")).collect();
        all.push(rows?);
    }
    Ok(all)
}

/// Looks at a folder before it is served: what is wrong with it, in words; none when nothing is.
///
/// Closed in good order, its sum has said that every byte is as it was. Otherwise SQLite looks at its
/// pages, and every row of the log at the one before.
pub(crate) async fn at_start(
    pool: &SqlitePool,
    beside: &Folder,
    found: &Found,
) -> Result<Option<String>, StoreError> {
    match found {
        Found::AsClosed => return Ok(None),
        Found::Changed(why) => return Ok(Some(words::restore_from(why))),
        Found::NotClosed | Found::Unmarked => {}
    }
    let mut connection = pool.acquire().await?;
    let trouble = match of_database(&mut connection, beside).await {
        Err(StoreError::Damaged(why)) => Some(why),
        looked => looked?,
    };
    Ok(trouble.map(words::restore_from))
}

async fn of_database(
    connection: &mut SqliteConnection,
    beside: &Folder,
) -> Result<Option<String>, StoreError> {
    if let Some(torn) = folder::torn(connection, true).await? {
        return Ok(Some(torn));
    }
    // An older program had no log to look at.
    if applied(connection).await? < LOGGED {
        return Ok(None);
    }
    if let Some(broken) = log::check(connection).await?.broken {
        return Ok(Some(broken));
    }
    match beside.tail()? {
        Some(tail) if !folder::has_tail(connection, &tail).await? => {
            Ok(Some(words::ACKNOWLEDGED_ROW_GONE.to_owned()))
        }
        Some(_) | None => Ok(None),
    }
}

/// The step with which the log came.
pub(crate) const LOGGED: i64 = 9;
/// Where the outcome of the last check by hand is written down.
const LAST: &str = "cobaltine.checked";

/// What the last check by hand said, and whether nothing was wrong.
pub(crate) fn last(data: &Path) -> Result<Option<(String, bool)>, StoreError> {
    match std::fs::read_to_string(data.join(LAST)) {
        Ok(text) => Ok(text.split_once(' ').map(|(good, says)| (says.to_owned(), good == "good"))),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => Ok(None),
        Err(error) => Err(error.into()),
    }
}

/// The newest step of this program.
pub(crate) fn newest() -> i64 {
    MIGRATIONS.iter().map(|step| step.version).max().unwrap_or_default()
}

/// The newest step that a database has; 0 where it is new.
pub(crate) async fn applied(connection: &mut SqliteConnection) -> Result<i64, StoreError> {
    let there = sqlx::query("SELECT 1 FROM sqlite_master WHERE name = '_sqlx_migrations'")
        .fetch_optional(&mut *connection)
        .await?;
    if there.is_none() {
        return Ok(0);
    }
    let row = sqlx::query("SELECT MAX(version) AS newest FROM _sqlx_migrations")
        .fetch_one(connection)
        .await?;
    Ok(row.try_get::<Option<i64>, _>("newest")?.unwrap_or_default())
}

/// Refuses a database that a newer program has changed.
///
/// # Errors
/// [`StoreError::Newer`].
pub(crate) async fn newer(pool: &SqlitePool) -> Result<(), StoreError> {
    let applied = applied(&mut *pool.acquire().await?).await?;
    if applied > newest() { Err(StoreError::Newer) } else { Ok(()) }
}
