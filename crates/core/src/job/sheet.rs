//! Checks that are read cell by cell.

use super::{Refused, room};
use crate::calc::residual_fuel::FuelLevel;
use crate::entry::Entry;
use crate::job::words;
use crate::limits;
use crate::record::{CellReading, Found, JobFile, Recording, SheetRecord, Trace};
use crate::tests::engine::EngineTest;
use uuid::Uuid;

pub(super) fn begin(file: &JobFile, sheet: SheetRecord) -> Result<Vec<Entry>, Refused> {
    if !sheet.check.fits(file.job.intake.fuel_system) {
        let says = words::CHECK_DOES_NOT_APPLY;
        return Err(Refused::field("check", says));
    }
    room(file.sheets.len(), limits::SHEETS, "checks")?;
    Ok(vec![Entry::Sheet(sheet)])
}

fn held(file: &JobFile, sheet: Uuid) -> Result<&SheetRecord, Refused> {
    file.sheets.iter().find(|s| s.id == sheet).ok_or(Refused::NotFound("check"))
}

pub(super) fn keep_trace(file: &JobFile, sheet: Uuid, trace: Trace) -> Result<Vec<Entry>, Refused> {
    let held = held(file, sheet)?;
    let cylinders = file.job.intake.layout.cylinders;
    let mut order = trace.order.clone();
    order.sort_unstable();
    order.dedup();
    if order.len() != trace.order.len() || order.iter().any(|c| !(1..=cylinders).contains(c)) {
        return Err(Refused::field("order", words::ENTER_EACH_CYLINDER_ENGINE));
    }
    if held.traces.len() >= limits::TRACES {
        return Err(Refused::conflict(words::CHECK_CANNOT_HOLD_MORE));
    }
    Ok(vec![Entry::Trace { sheet, trace }])
}

pub(super) fn keep_recording(
    file: &JobFile,
    sheet: Uuid,
    recording: Recording,
) -> Result<Vec<Entry>, Refused> {
    let held = held(file, sheet)?;
    let cylinders = file.job.intake.layout.cylinders;
    if !(1..=cylinders).contains(&recording.cylinder) {
        return Err(Refused::field("cylinder", words::engine_cylinders(cylinders)));
    }
    if recording.found.check() != held.check {
        return Err(Refused::field("file", words::RECORDING_OF_ANOTHER_CHECK));
    }
    if let Found::Cranking(cranked) = &recording.found {
        let mut order = cranked.order.clone();
        order.sort_unstable();
        let places = cranked.read.relative_pct.len();
        if !order.iter().copied().eq(1..=cylinders) || places != order.len() {
            return Err(Refused::field("drive", words::ENTER_EACH_CYLINDER_ENGINE));
        }
    }
    if held.recordings.len() >= limits::RECORDINGS {
        return Err(Refused::conflict(words::CHECK_CANNOT_HOLD_MORE));
    }
    Ok(vec![Entry::Recording { sheet, recording }])
}

pub(super) fn keep_cell(
    file: &JobFile,
    sheet: Uuid,
    cell: CellReading,
) -> Result<Vec<Entry>, Refused> {
    let held = held(file, sheet)?;
    let cylinders = file.job.intake.layout.cylinders;
    if cell.cylinder.is_some_and(|c| !(1..=cylinders).contains(&c)) {
        let says = words::engine_cylinders(cylinders);
        return Err(Refused::field("cylinder", says));
    }
    if held.check.read(&cell.cell, cell.cylinder.is_some(), "1").is_none() {
        let says = words::no_cell_here(&cell.cell);
        return Err(Refused::field("typed", says));
    }
    if held.readings.len() >= limits::SHEET_CELLS {
        return Err(Refused::conflict(words::CHECK_CANNOT_HOLD_MORE_READINGS));
    }
    let before = held
        .readings
        .iter()
        .rfind(|r| r.cell == cell.cell && r.cylinder == cell.cylinder)
        .map(|r| r.id);
    if before != cell.corrects {
        return Err(Refused::conflict(words::SOMEONE_ELSE_READ_CELL));
    }
    if cell.cylinder.is_some() && file.changed_since(held.signed.moment(), held.check.property()) {
        return Err(Refused::conflict(words::INJECTORS_SWAPPED_AFTER_SET));
    }
    refuse_more_fuel(file, held, &cell)?;
    Ok(vec![Entry::Cell { sheet, cell }])
}

/// Nothing more is pulsed into a cylinder that holds too much: refused before the pulse, at its
/// start pressure. A reading of what was pulsed already is always kept.
fn refuse_more_fuel(file: &JobFile, held: &SheetRecord, cell: &CellReading) -> Result<(), Refused> {
    if held.check != EngineTest::PressureDrop || cell.cell != "start" || cell.value.is_none() {
        return Ok(());
    }
    let place = file.sheets.iter().position(|sheet| sheet.id == held.id);
    let judged = file.judged().map_err(|error| Refused::Conflict(format!("{error}.")))?;
    let verdict = place.and_then(|place| judged.sheets[place].as_ref().ok());
    let full = verdict.into_iter().flat_map(|v| &v.residual).any(|residual| {
        Some(residual.cylinder) == cell.cylinder && residual.level == FuelLevel::Stop
    });
    if full {
        return Err(Refused::conflict(words::STOP_TOO_MUCH_FUEL));
    }
    Ok(())
}
