//! The rows of return tests, runs and readings.

use super::columns as rows;
use crate::StoreError;
use cobaltine_core::quantity::Millilitre;
use cobaltine_core::record::{Reading, RunRecord, SetAside, Signed, TestRecord};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

pub(crate) async fn exist(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM return_tests WHERE job_id = ?) AS there")
        .bind(job.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

pub(crate) async fn job_of_test(
    connection: &mut SqliteConnection,
    test: Uuid,
) -> Result<Uuid, StoreError> {
    let row = sqlx::query("SELECT job_id FROM return_tests WHERE id = ?")
        .bind(test.to_string())
        .fetch_optional(connection)
        .await?;
    rows::id(&row.ok_or(StoreError::NotFound("return test"))?, "job_id")
}

pub(crate) async fn job_of_run(
    connection: &mut SqliteConnection,
    run: Uuid,
) -> Result<Uuid, StoreError> {
    let row = sqlx::query(
        "SELECT t.job_id FROM runs r JOIN return_tests t ON t.id = r.test_id WHERE r.id = ?",
    )
    .bind(run.to_string())
    .fetch_optional(connection)
    .await?;
    rows::id(&row.ok_or(StoreError::NotFound("run"))?, "job_id")
}

pub(crate) async fn insert_test(
    connection: &mut SqliteConnection,
    job: Uuid,
    test: &TestRecord,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO return_tests (id, job_id, setup, by_id, at) VALUES (?, ?, ?, ?, ?)")
        .bind(test.id.to_string())
        .bind(job.to_string())
        .bind(serde_json::to_string(&test.setup)?)
        .bind(test.signed.by.to_string())
        .bind(rows::stamp(test.signed.at))
        .execute(connection)
        .await?;
    Ok(())
}

pub(crate) async fn insert_run(
    connection: &mut SqliteConnection,
    test: Uuid,
    run: &RunRecord,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO runs (id, test_id, number, started_at, phase, bank, ticked, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(run.id.to_string())
    .bind(test.to_string())
    .bind(i64::from(run.number))
    .bind(run.started_at.map(rows::stamp))
    .bind(run.phase.map(rows::named).transpose()?)
    .bind(run.bank.map(i64::from))
    .bind(run.ticked.as_ref().map(serde_json::to_string).transpose()?)
    .bind(run.signed.by.to_string())
    .bind(rows::stamp(run.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

pub(crate) async fn insert_set_aside(
    connection: &mut SqliteConnection,
    run: Uuid,
    aside: &SetAside,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO runs_set_aside (run_id, reason, by_id, at) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING",
    )
    .bind(run.to_string())
    .bind(&aside.reason)
    .bind(aside.signed.by.to_string())
    .bind(rows::stamp(aside.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

pub(crate) async fn insert_reading(
    connection: &mut SqliteConnection,
    run: Uuid,
    injector: Option<Uuid>,
    reading: &Reading,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO readings (id, run_id, injector_id, cylinder, kind, value, mark_ml, typed, corrects, why, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(reading.id.to_string())
    .bind(run.to_string())
    .bind(injector.map(|id| id.to_string()))
    .bind(reading.cylinder.map(i64::from))
    .bind(rows::named(reading.kind)?)
    .bind(reading.value)
    .bind(reading.mark_ml.map(|mark| mark.0))
    .bind(&reading.typed)
    .bind(reading.corrects.map(|id| id.to_string()))
    .bind(&reading.why)
    .bind(reading.signed.by.to_string())
    .bind(rows::stamp(reading.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

/// All tests of a job with runs and readings: three queries, however many there are.
pub(crate) async fn of_job(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<TestRecord>, StoreError> {
    let job = job.to_string();
    let tests = sqlx::query("SELECT * FROM return_tests WHERE job_id = ? ORDER BY rowid")
        .bind(&job)
        .fetch_all(&mut *connection)
        .await?;
    let mut tests = tests
        .iter()
        .map(|row| {
            Ok(TestRecord {
                id: rows::id(row, "id")?,
                setup: rows::json(row, "setup")?,
                runs: Vec::new(),
                signed: rows::signed(row)?,
            })
        })
        .collect::<Result<Vec<_>, StoreError>>()?;
    if tests.is_empty() {
        return Ok(tests);
    }
    let runs = sqlx::query(
        "SELECT r.*, a.reason, a.by_id AS aside_by, a.at AS aside_at
         FROM runs r JOIN return_tests t ON t.id = r.test_id
         LEFT JOIN runs_set_aside a ON a.run_id = r.id
         WHERE t.job_id = ? ORDER BY r.number",
    )
    .bind(&job)
    .fetch_all(&mut *connection)
    .await?;
    let readings = sqlx::query(
        "SELECT g.* FROM readings g JOIN runs r ON r.id = g.run_id
         JOIN return_tests t ON t.id = r.test_id WHERE t.job_id = ? ORDER BY g.seq",
    )
    .bind(&job)
    .fetch_all(connection)
    .await?;
    for row in &runs {
        let started_at: Option<String> = row.try_get("started_at")?;
        let reason: Option<String> = row.try_get("reason")?;
        let set_aside = match reason {
            Some(reason) => Some(SetAside {
                reason,
                signed: Signed {
                    by: rows::id(row, "aside_by")?,
                    at: rows::time(&row.try_get::<String, _>("aside_at")?)?,
                },
            }),
            None => None,
        };
        let run = RunRecord {
            id: rows::id(row, "id")?,
            number: rows::count(row, "number")? as u32,
            started_at: started_at.as_deref().map(rows::time).transpose()?,
            readings: Vec::new(),
            set_aside,
            phase: rows::maybe_name(row, "phase")?,
            bank: row.try_get::<Option<i64>, _>("bank")?.map(|bank| bank.max(0) as u32),
            ticked: row
                .try_get::<Option<String>, _>("ticked")?
                .map(|text| serde_json::from_str(&text))
                .transpose()?,
            signed: rows::signed(row)?,
        };
        let test = rows::id(row, "test_id")?;
        if let Some(test) = tests.iter_mut().find(|t| t.id == test) {
            test.runs.push(run);
        }
    }
    for row in &readings {
        let run = rows::id(row, "run_id")?;
        let reading = Reading {
            id: rows::id(row, "id")?,
            cylinder: rows::cylinder(row)?,
            kind: rows::name(row, "kind")?,
            value: row.try_get("value")?,
            mark_ml: row.try_get::<Option<f64>, _>("mark_ml")?.map(Millilitre),
            typed: row.try_get("typed")?,
            corrects: rows::maybe_id(row, "corrects")?,
            why: row.try_get("why")?,
            signed: rows::signed(row)?,
        };
        if let Some(run) = tests.iter_mut().flat_map(|t| &mut t.runs).find(|r| r.id == run) {
            run.readings.push(reading);
        }
    }
    Ok(tests)
}
