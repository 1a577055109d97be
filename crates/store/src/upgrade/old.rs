//! The tables of 0.6.0 and before, read once more: jobs and bench sessions as files.
//!
//! Frozen: what a newer program adds is not in folders of that age.

use crate::StoreError;
use crate::rows;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::LimitEntry;
use cobaltine_core::quantity::Millilitre;
use cobaltine_core::record::{
    CellReading, DecisionRecord, EventRecord, Injector, Intake, JOB_FORMAT, JOB_VERSION, Job,
    JobFile, Note, Reading, RunRecord, SetAside, SheetRecord, Signed, TestRecord, Trace,
};
use cobaltine_core::rules::RuleChange;
use cobaltine_core::tests::bench::{BenchCell, Round, Samples, SessionRecord};
use serde::Deserialize;
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// A whole job, without its bench sessions.
pub(super) async fn job(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<JobFile, StoreError> {
    Ok(JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job: taken_in(connection, id).await?.ok_or(StoreError::NotFound("job"))?,
        changes: Vec::new(),
        return_tests: return_tests(connection, id).await?,
        sheets: sheets(connection, id).await?,
        bench: Vec::new(),
        events: events(connection, id).await?,
        decisions: decisions(connection, id).await?,
        notes: notes(connection, id).await?,
        people: Vec::new(),
        family: None,
    })
}

/// A bench session with everything that was read.
pub(super) async fn session(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<SessionRecord, StoreError> {
    session_at(connection, id).await?.ok_or(StoreError::NotFound("bench session"))
}

async fn taken_in(connection: &mut SqliteConnection, id: Uuid) -> Result<Option<Job>, StoreError> {
    let row = sqlx::query("SELECT * FROM jobs WHERE id = ?")
        .bind(id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    let Some(row) = row else { return Ok(None) };
    let injectors =
        sqlx::query("SELECT id, cylinder, label FROM injectors WHERE job_id = ? ORDER BY cylinder")
            .bind(id.to_string())
            .fetch_all(connection)
            .await?;
    let injectors = injectors
        .iter()
        .map(|row| {
            Ok(Injector {
                id: rows::id(row, "id")?,
                cylinder: rows::cylinder(row)?.unwrap_or_default(),
                label: row.try_get("label")?,
            })
        })
        .collect::<Result<Vec<_>, StoreError>>()?;
    Ok(Some(Job {
        id,
        number: rows::count(&row, "number")?,
        revision: rows::count(&row, "revision")?,
        intake: Intake {
            customer_id: None,
            plate: String::new(),
            promised: None,
            customer: row.try_get("customer")?,
            machine: row.try_get("machine")?,
            usage: row.try_get("usage")?,
            engine: row.try_get("engine")?,
            fuel_system: rows::name(&row, "fuel_system")?,
            layout: rows::json(&row, "layout")?,
            family_id: rows::maybe_id(&row, "family_id")?,
            symptoms: rows::json(&row, "symptoms")?,
            complaint: row.try_get("complaint")?,
            story: rows::json(&row, "story")?,
        },
        injectors,
        exercise: None,
        taken_in: rows::signed(&row)?,
    }))
}

/// All tests of a job with runs and readings: three queries, however many there are.
async fn return_tests(
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
                back: false,
                nth: 0,
                signed: Signed::new(
                    rows::id(row, "aside_by")?,
                    rows::time(&row.try_get::<String, _>("aside_at")?)?,
                ),
            }),
            None => None,
        };
        let run = RunRecord {
            id: rows::id(row, "id")?,
            number: rows::count(row, "number")? as u32,
            started_at: started_at.as_deref().map(rows::time).transpose()?,
            readings: Vec::new(),
            set_aside,
            asides: Vec::new(),
            caught_by: None,
            raw: Vec::new(),
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
            shown_by: None,
            signed: rows::signed(row)?,
        };
        if let Some(run) = tests.iter_mut().flat_map(|t| &mut t.runs).find(|r| r.id == run) {
            run.readings.push(reading);
        }
    }
    Ok(tests)
}

/// What a check keeps of the day it was begun.
#[derive(Deserialize)]
struct Setup {
    limit: Option<LimitEntry>,
    instrument: Option<Instrument>,
    overdue: bool,
    rules: Vec<RuleChange>,
    #[serde(default)]
    asks_start: bool,
}

/// All of a job, oldest first: three queries, however many there are.
async fn sheets(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<SheetRecord>, StoreError> {
    let job = job.to_string();
    let sheets = sqlx::query("SELECT * FROM sheets WHERE job_id = ? ORDER BY rowid")
        .bind(&job)
        .fetch_all(&mut *connection)
        .await?;
    let mut sheets = sheets
        .iter()
        .map(|row| {
            let setup: Setup = rows::json(row, "setup")?;
            Ok(SheetRecord {
                id: rows::id(row, "id")?,
                check: rows::name(row, "check_id")?,
                limit: setup.limit,
                instrument: setup.instrument,
                overdue: setup.overdue,
                rules: setup.rules,
                asks_start: setup.asks_start,
                readings: Vec::new(),
                traces: Vec::new(),
                recordings: Vec::new(),
                raw: Vec::new(),
                signed: rows::signed(row)?,
            })
        })
        .collect::<Result<Vec<_>, StoreError>>()?;
    if sheets.is_empty() {
        return Ok(sheets);
    }
    let cells = sqlx::query(
        "SELECT c.* FROM cells c JOIN sheets s ON s.id = c.sheet_id WHERE s.job_id = ? ORDER BY c.seq",
    )
    .bind(&job)
    .fetch_all(&mut *connection)
    .await?;
    for (sheet, trace) in traces_of_job(connection, &job).await? {
        if let Some(sheet) = sheets.iter_mut().find(|s| s.id == sheet) {
            sheet.traces.push(trace);
        }
    }
    for row in &cells {
        let cell = CellReading {
            id: rows::id(row, "id")?,
            cell: row.try_get("cell")?,
            cylinder: rows::cylinder(row)?,
            value: row.try_get("value")?,
            typed: row.try_get("typed")?,
            corrects: rows::maybe_id(row, "corrects")?,
            shown_by: None,
            signed: rows::signed(row)?,
        };
        let sheet = rows::id(row, "sheet_id")?;
        if let Some(sheet) = sheets.iter_mut().find(|s| s.id == sheet) {
            sheet.readings.push(cell);
        }
    }
    Ok(sheets)
}

/// All of a job, oldest first.
async fn events(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<EventRecord>, StoreError> {
    let found = sqlx::query("SELECT * FROM events WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    let event = |row| {
        Ok(EventRecord {
            id: rows::id(row, "id")?,
            event: rows::json(row, "event")?,
            signed: rows::signed(row)?,
        })
    };
    found.iter().map(event).collect()
}

/// All traces of a job with the check that each belongs to, oldest first.
async fn traces_of_job(
    connection: &mut SqliteConnection,
    job: &str,
) -> Result<Vec<(Uuid, Trace)>, StoreError> {
    let found = sqlx::query(
        "SELECT t.sheet_id, t.trace FROM traces t JOIN sheets s ON s.id = t.sheet_id
         WHERE s.job_id = ? ORDER BY t.seq",
    )
    .bind(job)
    .fetch_all(connection)
    .await?;
    found.iter().map(|row| Ok((rows::id(row, "sheet_id")?, rows::json(row, "trace")?))).collect()
}

async fn decisions(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Vec<DecisionRecord>, StoreError> {
    let found = sqlx::query("SELECT * FROM decisions WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    found
        .iter()
        .map(|row| {
            let proposed: Option<String> = row.try_get("proposed")?;
            Ok(DecisionRecord {
                id: rows::id(row, "id")?,
                cylinder: rows::cylinder(row)?.unwrap_or_default(),
                decision: rows::name(row, "decision")?,
                reason: row.try_get("reason")?,
                proposed: proposed.map(|text| serde_json::from_str(&text)).transpose()?,
                signed: rows::signed(row)?,
            })
        })
        .collect()
}

async fn notes(connection: &mut SqliteConnection, job: Uuid) -> Result<Vec<Note>, StoreError> {
    let found = sqlx::query("SELECT * FROM notes WHERE job_id = ? ORDER BY seq")
        .bind(job.to_string())
        .fetch_all(connection)
        .await?;
    found
        .iter()
        .map(|row| {
            Ok(Note {
                id: rows::id(row, "id")?,
                stage: rows::name(row, "stage")?,
                text: row.try_get("text")?,
                signed: rows::signed(row)?,
            })
        })
        .collect()
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
        shown_by: None,
        corrects: rows::maybe_id(row, "corrects")?,
        signed: rows::signed(row)?,
    })
}

/// A session with everything that was read.
async fn session_at(
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
