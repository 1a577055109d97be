//! The rows of the bench: sessions, rounds, readings.

use super::columns as rows;
use crate::StoreError;
use cobaltine_core::bench::{BenchCell, Round, Samples, SessionRecord};
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

pub(crate) async fn insert_session(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO bench_sessions (id, number, kind, setup, injectors, by_id, at, line, changed_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, '{}', ?)",
    )
    .bind(session.id.to_string())
    .bind(session.number as i64)
    .bind(session.setup.kind.name())
    .bind(serde_json::to_string(&session.setup)?)
    .bind(serde_json::to_string(&session.injectors)?)
    .bind(session.signed.by.to_string())
    .bind(rows::stamp(session.signed.at))
    .bind(rows::stamp(session.signed.at))
    .execute(&mut *connection)
    .await?;
    for one in &session.injectors {
        sqlx::query("INSERT OR IGNORE INTO bench_jobs (job_id, session_id) VALUES (?, ?)")
            .bind(one.job.to_string())
            .bind(session.id.to_string())
            .execute(&mut *connection)
            .await?;
    }
    Ok(())
}

pub(crate) async fn insert_round(
    connection: &mut SqliteConnection,
    session: Uuid,
    round: &Round,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO bench_rounds (id, session_id, stage, number, places, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(round.id.to_string())
    .bind(session.to_string())
    .bind(rows::named(round.stage)?)
    .bind(i64::from(round.number))
    .bind(serde_json::to_string(&round.places)?)
    .bind(round.signed.by.to_string())
    .bind(rows::stamp(round.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

/// Any number of readings in one statement.
pub(crate) async fn insert_cells(
    connection: &mut SqliteConnection,
    session: Uuid,
    cells: &[BenchCell],
) -> Result<(), StoreError> {
    let list: Vec<_> = cells
        .iter()
        .map(|c| {
            serde_json::json!([
                c.id,
                c.round,
                c.test.name(),
                c.cell,
                c.row,
                c.tag,
                c.value,
                c.typed,
                c.samples.map(|s| s.count),
                c.samples.map(|s| s.scatter),
                c.corrects,
                c.signed.by,
                rows::stamp(c.signed.at),
            ])
        })
        .collect();
    sqlx::query(
        "INSERT INTO bench_cells
           (id, session_id, round_id, test_id, cell, row, tag, value, typed, samples, scatter, corrects, by_id, at)
         SELECT value ->> 0, ?, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5,
                CAST(value ->> 6 AS REAL), value ->> 7, value ->> 8, CAST(value ->> 9 AS REAL),
                value ->> 10, value ->> 11, value ->> 12
         FROM json_each(?) ORDER BY key",
    )
    .bind(session.to_string())
    .bind(serde_json::to_string(&list)?)
    .execute(connection)
    .await?;
    Ok(())
}

fn number(row: &SqliteRow, column: &str) -> Result<Option<u32>, StoreError> {
    let value: Option<i64> = row.try_get(column)?;
    Ok(value.and_then(|value| u32::try_from(value).ok()))
}

fn cell(row: &SqliteRow) -> Result<BenchCell, StoreError> {
    let scatter: Option<f64> = row.try_get("scatter")?;
    let samples = number(row, "samples")?.zip(scatter);
    Ok(BenchCell {
        id: rows::id(row, "id")?,
        round: rows::id(row, "round_id")?,
        test: rows::name(row, "test_id")?,
        cell: row.try_get("cell")?,
        row: number(row, "row")?,
        tag: number(row, "tag")?,
        value: row.try_get("value")?,
        typed: row.try_get("typed")?,
        samples: samples.map(|(count, scatter)| Samples { count, scatter }),
        corrects: rows::maybe_id(row, "corrects")?,
        signed: rows::signed(row)?,
    })
}

/// A session with everything that was read.
pub(crate) async fn find(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<Option<SessionRecord>, StoreError> {
    let key = id.to_string();
    let row = sqlx::query("SELECT * FROM bench_sessions WHERE id = ?")
        .bind(&key)
        .fetch_optional(&mut *connection)
        .await?;
    let Some(row) = row else { return Ok(None) };
    let rounds = sqlx::query("SELECT * FROM bench_rounds WHERE session_id = ? ORDER BY seq")
        .bind(&key)
        .fetch_all(&mut *connection)
        .await?;
    let rounds = rounds.iter().map(|row| {
        Ok(Round {
            id: rows::id(row, "id")?,
            stage: rows::name(row, "stage")?,
            number: rows::count(row, "number")? as u32,
            places: rows::json(row, "places")?,
            signed: rows::signed(row)?,
        })
    });
    let rounds = rounds.collect::<Result<_, StoreError>>()?;
    let cells = sqlx::query("SELECT * FROM bench_cells WHERE session_id = ? ORDER BY seq")
        .bind(&key)
        .fetch_all(&mut *connection)
        .await?;
    Ok(Some(SessionRecord {
        id,
        number: rows::count(&row, "number")?,
        setup: rows::json(&row, "setup")?,
        injectors: rows::json(&row, "injectors")?,
        rounds,
        cells: cells.iter().map(cell).collect::<Result<_, _>>()?,
        signed: rows::signed(&row)?,
    }))
}

/// All sessions that hold an injector of a job, oldest first.
pub(crate) async fn of_job(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<SessionRecord>, StoreError> {
    let ids = sqlx::query(
        "SELECT s.id FROM bench_jobs j JOIN bench_sessions s ON s.id = j.session_id
         WHERE j.job_id = ? ORDER BY s.number",
    )
    .bind(job.to_string())
    .fetch_all(&mut *connection)
    .await?;
    let mut sessions = Vec::new();
    for row in &ids {
        sessions.extend(find(connection, rows::id(row, "id")?).await?);
    }
    Ok(sessions)
}

pub(crate) async fn number_taken(
    connection: &mut SqliteConnection,
    number: u64,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM bench_sessions WHERE number = ?) AS taken")
        .bind(number as i64)
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("taken")?)
}

pub(crate) async fn exist(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM bench_jobs WHERE job_id = ?) AS there")
        .bind(job.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}
