//! The rows of checks that are read cell by cell.

use super::columns as rows;
use super::events::traces_of_job;
use crate::StoreError;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::LimitEntry;
use cobaltine_core::record::{CellReading, SheetRecord};
use cobaltine_core::rules::RuleChange;
use serde::{Deserialize, Serialize};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// What a check keeps of the day it was begun.
#[derive(Serialize, Deserialize)]
struct Setup {
    limit: Option<LimitEntry>,
    instrument: Option<Instrument>,
    overdue: bool,
    rules: Vec<RuleChange>,
    #[serde(default)]
    asks_start: bool,
}

pub(crate) async fn exist(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM sheets WHERE job_id = ?) AS there")
        .bind(job.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

pub(crate) async fn job_of(
    connection: &mut SqliteConnection,
    sheet: Uuid,
) -> Result<Uuid, StoreError> {
    let row = sqlx::query("SELECT job_id FROM sheets WHERE id = ?")
        .bind(sheet.to_string())
        .fetch_optional(connection)
        .await?;
    rows::id(&row.ok_or(StoreError::NotFound("check"))?, "job_id")
}

pub(crate) async fn insert_sheet(
    connection: &mut SqliteConnection,
    job: Uuid,
    sheet: &SheetRecord,
) -> Result<(), StoreError> {
    let setup = Setup {
        limit: sheet.limit.clone(),
        instrument: sheet.instrument.clone(),
        overdue: sheet.overdue,
        rules: sheet.rules.clone(),
        asks_start: sheet.asks_start,
    };
    sqlx::query(
        "INSERT INTO sheets (id, job_id, check_id, setup, by_id, at) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(sheet.id.to_string())
    .bind(job.to_string())
    .bind(sheet.check.name())
    .bind(serde_json::to_string(&setup)?)
    .bind(sheet.signed.by.to_string())
    .bind(rows::stamp(sheet.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

pub(crate) async fn insert_cell(
    connection: &mut SqliteConnection,
    sheet: Uuid,
    injector: Option<Uuid>,
    cell: &CellReading,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO cells (id, sheet_id, injector_id, cell, cylinder, value, typed, corrects, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(cell.id.to_string())
    .bind(sheet.to_string())
    .bind(injector.map(|id| id.to_string()))
    .bind(&cell.cell)
    .bind(cell.cylinder.map(i64::from))
    .bind(cell.value)
    .bind(&cell.typed)
    .bind(cell.corrects.map(|id| id.to_string()))
    .bind(cell.signed.by.to_string())
    .bind(rows::stamp(cell.signed.at))
    .execute(connection)
    .await?;
    Ok(())
}

/// All of a job, oldest first: three queries, however many there are.
pub(crate) async fn of_job(
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
            signed: rows::signed(row)?,
        };
        let sheet = rows::id(row, "sheet_id")?;
        if let Some(sheet) = sheets.iter_mut().find(|s| s.id == sheet) {
            sheet.readings.push(cell);
        }
    }
    Ok(sheets)
}
