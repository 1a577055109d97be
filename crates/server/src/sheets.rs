//! Checks that are read cell by cell.

use crate::extract::today;
use crate::extract::{Doing, Path, Query};
use crate::jobs::kept;
use crate::wire::{BeginSheetRequest, CellRequest, FormsParams, KeptView};
use crate::words;
use crate::{ApiError, AppState, trainer};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::record::{CellReading, FieldProblem, SheetRecord};
use cobaltine_core::rules::RuleChange;
use cobaltine_core::tests::engine::{EngineTest, SheetForm};
use cobaltine_trainer::workshop::sheet_with;
use uuid::Uuid;

/// Every check with its cells.
#[utoipa::path(get, path = "/sheets", params(FormsParams), responses((status = 200, body = Vec<SheetForm>)))]
pub(crate) async fn forms(Query(params): Query<FormsParams>) -> Json<Vec<SheetForm>> {
    Json(EngineTest::sheets().map(|id| id.form(params.fuel)).collect())
}

/// Begins a check with the limit, the rules and the instrument of today.
#[utoipa::path(post, path = "/jobs/{job}/sheets", request_body = BeginSheetRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn begin(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<BeginSheetRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let held = state.store.state(job).await?;
    let made_up = trainer::case_if(&held)?.map(|case| sheet_with(&case, request.check));
    let family = held.file.job.intake.family_id;
    let limit = match (request.check.limit(), family) {
        // Of several conditions the one without words is the plain one; it sorts first.
        (Some(check), Some(family)) => {
            state.store.newest_limits(family, check).await?.into_iter().next()
        }
        (_, _) => None,
    };
    let instrument = match request.instrument {
        Some(id) => Some(state.store.instrument(id).await?),
        None => None,
    };
    let (limit, instrument) = made_up.unwrap_or((limit, instrument));
    let rules = state.store.rule_changes().await?.into_iter().map(RuleChange::from);
    let sheet = SheetRecord {
        id: request.id,
        check: request.check,
        limit,
        overdue: instrument.as_ref().is_some_and(|i| i.overdue(today()).is_some()),
        instrument,
        rules: rules.collect(),
        asks_start: true,
        readings: Vec::new(),
        traces: Vec::new(),
        recordings: Vec::new(),
        raw: Vec::new(),
        signed,
    };
    Ok(kept(state.store.apply(job, &act, Command::BeginSheet(Box::new(sheet)), signed).await?))
}

/// Keeps a cell as typed, or says beside it why not. An empty text takes a reading back.
#[utoipa::path(post, path = "/sheets/{sheet}/cells", request_body = CellRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn keep_cell(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<CellRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let problem = |text: String| ApiError::Fields(vec![FieldProblem::new("typed", text)]);
    let typed = request.typed.trim();
    let read = request
        .check
        .read(&request.cell, request.cylinder.is_some(), if typed.is_empty() { "1" } else { typed })
        .ok_or_else(|| problem(words::no_cell_here(&request.cell)))?;
    let read = match typed {
        "" => None,
        _ => Some(read.map_err(|error| problem(error.to_string()))?),
    };
    let job = state.store.job_with(sheet, "check").await?;
    let shown_by = match state.shown.by(request.shown, typed) {
        // Asked again after the instrument's answer was forgotten: it was kept then.
        Err(_) if state.store.done_before(&act).await? => {
            return Ok(kept(state.store.first_answer(job, &act).await?));
        }
        shown_by => shown_by?,
    };
    let (value, typed) = read.map_or((None, String::new()), |read| (Some(read.value), read.kept));
    let cell = CellReading {
        id: request.id,
        cell: request.cell,
        cylinder: request.cylinder,
        value,
        typed,
        corrects: request.corrects,
        shown_by,
        signed,
    };
    let command = Command::KeepCell { sheet, cell };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}
