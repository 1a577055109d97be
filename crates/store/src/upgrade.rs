//! What a migration cannot do in SQL: lines and readings that are made by the rules of the core.
//!
//! Done once for a data folder that an older program wrote; `user_version` remembers it, so a
//! start of the program costs one pragma.

mod old;

use crate::families::families_by_name;
use crate::job_file::job_file;
use crate::library::{family, write_family};
use crate::rows;
use crate::{StoreError, board, good_readings, held, limits, log};
use cobaltine_core::entry;
use cobaltine_core::job::mark_older;
use sqlx::{Row, SqliteConnection, SqlitePool};

/// Goes up when something has to be written anew from the rules of the core.
const WRITTEN: i64 = 5;
/// The first version with one log, and the first with the lines and cards of today.
const LOGGED: i64 = 5;
const CARDED: i64 = 4;

/// What was one table for each kind of row, those first that refer to others, and what stood in a
/// row beside the log.
const MOVED: &str = "
  DROP TABLE readings; DROP TABLE runs_set_aside; DROP TABLE runs; DROP TABLE return_tests;
  DROP TABLE traces; DROP TABLE cells; DROP TABLE sheets; DROP TABLE events; DROP TABLE decisions;
  DROP TABLE notes; DROP TABLE bench_cells; DROP TABLE bench_rounds; DROP TABLE injectors;
  ALTER TABLE jobs DROP COLUMN revision; ALTER TABLE jobs DROP COLUMN customer;
  ALTER TABLE jobs DROP COLUMN usage; ALTER TABLE jobs DROP COLUMN engine;
  ALTER TABLE jobs DROP COLUMN fuel_system; ALTER TABLE jobs DROP COLUMN layout;
  ALTER TABLE jobs DROP COLUMN symptoms; ALTER TABLE jobs DROP COLUMN complaint;
  ALTER TABLE jobs DROP COLUMN story; ALTER TABLE bench_sessions DROP COLUMN setup;
  ALTER TABLE bench_sessions DROP COLUMN injectors;";

pub(crate) async fn upgrade(pool: &SqlitePool) -> Result<(), StoreError> {
    let version: i64 =
        sqlx::query("PRAGMA user_version").fetch_one(pool).await?.try_get("user_version")?;
    if version >= WRITTEN {
        return Ok(());
    }
    let mut tx = pool.begin_with("BEGIN IMMEDIATE").await?;
    if version < LOGGED {
        move_rows(&mut tx).await?;
    }
    if version < CARDED {
        write_cards(&mut tx).await?;
    }
    rows::parts(format!("PRAGMA user_version = {WRITTEN}")).execute(&mut *tx).await?;
    tx.commit().await?;
    Ok(())
}

/// Lines, good readings and cards of folders in which they were made otherwise or not at all.
async fn write_cards(connection: &mut SqliteConnection) -> Result<(), StoreError> {
    write_lines(connection).await?;
    let jobs = sqlx::query("SELECT id FROM jobs WHERE family_id IS NOT NULL")
        .fetch_all(&mut *connection)
        .await?;
    for job in &jobs {
        let file = job_file(connection, rows::id(job, "id")?).await?;
        good_readings::refresh(connection, &file, file.judged().ok().as_ref()).await?;
    }
    // Cards of older versions name their timer otherwise, and no next step.
    let running = sqlx::query("SELECT job_id, changed_at FROM board WHERE tone <> 'done'")
        .fetch_all(&mut *connection)
        .await?;
    for row in &running {
        let state = held::loaded(connection, rows::id(row, "job_id")?).await?;
        let changed_at = rows::time(&row.try_get::<String, _>("changed_at")?)?;
        board::write_card(connection, &state, changed_at).await?;
    }
    Ok(())
}

/// Every job and every bench session of the older tables, as a log of its own.
async fn move_rows(connection: &mut SqliteConnection) -> Result<(), StoreError> {
    let jobs =
        sqlx::query("SELECT id FROM jobs ORDER BY at, id").fetch_all(&mut *connection).await?;
    let mut reopened = Vec::new();
    for row in &jobs {
        let mut file = old::job(connection, rows::id(row, "id")?).await?;
        mark_older(&mut file);
        log::restore(connection, file.job.id, &mut entry::of_job(&file)).await?;
        // Whether it is closed is on its line by now, and why it is open again on its card.
        board::mark_closed(connection, &file).await?;
        if file.reopened().is_some() {
            reopened.push(file.job.id);
        }
    }
    let sessions = sqlx::query("SELECT id FROM bench_sessions ORDER BY number")
        .fetch_all(&mut *connection)
        .await?;
    for row in &sessions {
        let session = old::session(connection, rows::id(row, "id")?).await?;
        log::restore(connection, session.id, &mut entry::of_session(&session)).await?;
    }
    sqlx::raw_sql(MOVED).execute(&mut *connection).await?;
    for job in reopened {
        let row = sqlx::query("SELECT changed_at FROM board WHERE job_id = ?")
            .bind(job.to_string())
            .fetch_one(&mut *connection)
            .await?;
        let changed_at = rows::time(&row.try_get::<String, _>("changed_at")?)?;
        let state = held::loaded(connection, job).await?;
        board::write_card(connection, &state, changed_at).await?;
    }
    Ok(())
}

/// The lines of families and limits that were kept before there was a search.
async fn write_lines(connection: &mut SqliteConnection) -> Result<(), StoreError> {
    let families = sqlx::query("SELECT id, name, revision, detail FROM families")
        .fetch_all(&mut *connection)
        .await?;
    for row in &families {
        write_family(connection, &family(row)?).await?;
    }
    let entries = limits::newest(connection).await?;
    let names = entries.iter().map(|entry| entry.family.as_str());
    let ids = families_by_name(connection, names).await?;
    for entry in &entries {
        if let Some(family) = ids.get(&entry.family.to_lowercase()) {
            limits::write_limit_line(connection, *family, entry).await?;
        }
    }
    Ok(())
}
