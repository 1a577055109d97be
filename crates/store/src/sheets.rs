//! Checks that are read cell by cell: begun once, every cell kept the moment it is left.

use crate::job_file::job_file;
use crate::rows::events::insert_trace;
use crate::rows::sheets::{insert_cell, insert_sheet, job_of};
use crate::{Store, StoreError, board};
use cobaltine_core::calc::residual_fuel::FuelLevel;
use cobaltine_core::checks::sheet::SheetId;
use cobaltine_core::record::{CellReading, JobFile, SheetRecord, Trace};
use uuid::Uuid;

/// The most checks of one job, and the most cells of one check, corrections included.
const MOST_SHEETS: usize = 60;
const MOST_CELLS: usize = 2000;
/// The most traces of one check.
const MOST_TRACES: usize = 12;

impl Store {
    /// Begins a check. The same again changes nothing.
    ///
    /// # Errors
    /// No such job; the check means nothing on its fuel system; too many checks.
    pub async fn begin_sheet(&self, job: Uuid, sheet: &SheetRecord) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let file = job_file(&mut tx, job).await?;
        if file.sheets.iter().any(|held| held.id == sheet.id) {
            return Ok(file);
        }
        if !sheet.check.fits(file.job.intake.fuel_system) {
            let text = "This check means nothing on the fuel system of this job.";
            return Err(StoreError::field("check", text));
        }
        if file.sheets.len() >= MOST_SHEETS {
            return Err(StoreError::Conflict(format!(
                "{MOST_SHEETS} checks are the most of one job."
            )));
        }
        insert_sheet(&mut tx, job, sheet).await?;
        let file = board::refresh(&mut tx, job, sheet.signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Keeps a pressure trace with the drops that were found. The same id again changes nothing.
    ///
    /// # Errors
    /// No such check; injectors changed places since.
    pub async fn add_trace(&self, sheet: Uuid, trace: &Trace) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let job = job_of(&mut tx, sheet).await?;
        let file = job_file(&mut tx, job).await?;
        let held = file.sheets.iter().find(|s| s.id == sheet);
        let held = held.ok_or(StoreError::NotFound("check"))?;
        if held.traces.iter().any(|held| held.id == trace.id) {
            return Ok(file);
        }
        let cylinders = file.job.intake.layout.cylinders;
        let mut order = trace.order.clone();
        order.sort_unstable();
        order.dedup();
        if order.len() != trace.order.len() || order.iter().any(|c| !(1..=cylinders).contains(c)) {
            return Err(StoreError::field("order", "Each cylinder of this engine once."));
        }
        if held.traces.len() >= MOST_TRACES {
            return Err(StoreError::Conflict("This check holds no more traces.".to_owned()));
        }
        insert_trace(&mut tx, sheet, trace).await?;
        let file = board::refresh(&mut tx, job, trace.signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Keeps a cell. The same id again changes nothing; a cell that was read already has to be
    /// named as the one that is corrected.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when someone else read the cell in the meantime.
    pub async fn keep_cell(&self, sheet: Uuid, cell: &CellReading) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let job = job_of(&mut tx, sheet).await?;
        let file = job_file(&mut tx, job).await?;
        let held =
            file.sheets.iter().find(|s| s.id == sheet).ok_or(StoreError::NotFound("check"))?;
        if held.readings.iter().any(|reading| reading.id == cell.id) {
            return Ok(file);
        }
        let cylinders = file.job.intake.layout.cylinders;
        if cell.cylinder.is_some_and(|c| !(1..=cylinders).contains(&c)) {
            return Err(StoreError::field(
                "cylinder",
                format!("This engine has cylinders 1 to {cylinders}."),
            ));
        }
        if held.readings.len() >= MOST_CELLS {
            return Err(StoreError::Conflict("This check holds no more readings.".to_owned()));
        }
        let standing = held.standing();
        let before = standing.iter().find(|r| r.cell == cell.cell && r.cylinder == cell.cylinder);
        if before.map(|r| r.id) != cell.corrects {
            return Err(StoreError::Conflict(
                "Someone else read this cell in the meantime. Look again; what you typed is kept."
                    .to_owned(),
            ));
        }
        if cell.cylinder.is_some() && file.swapped_since(held.signed.at) {
            return Err(StoreError::Conflict(
                "Injectors changed places since this set was begun. Read the set anew; this one stays as it is."
                    .to_owned(),
            ));
        }
        refuse_more_fuel(&file, held, cell)?;
        let injector = file.own_injector_at(cell.cylinder, cell.signed.at);
        insert_cell(&mut tx, sheet, injector, cell).await?;
        let file = board::refresh(&mut tx, job, cell.signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }
}

/// Nothing more is pulsed into a cylinder that holds too much: refused before the pulse, at its
/// start pressure. A reading of what was pulsed already is always kept.
fn refuse_more_fuel(
    file: &JobFile,
    held: &SheetRecord,
    cell: &CellReading,
) -> Result<(), StoreError> {
    if held.check != SheetId::PressureDrop || cell.cell != "start" || cell.value.is_none() {
        return Ok(());
    }
    let place = file.sheets.iter().position(|sheet| sheet.id == held.id);
    let judged = file.judged().map_err(|error| StoreError::Conflict(format!("{error}.")))?;
    let verdict = place.and_then(|place| judged.sheets[place].as_ref().ok());
    let full = verdict.into_iter().flat_map(|v| &v.residual).any(|residual| {
        Some(residual.cylinder) == cell.cylinder && residual.level == FuelLevel::Stop
    });
    if full {
        return Err(StoreError::Conflict(
            "Stop: this cylinder holds too much fuel to be pulsed again. Plugs out, clear-flood crank, and record it."
                .to_owned(),
        ));
    }
    Ok(())
}
