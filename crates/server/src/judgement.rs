//! The judgement call of a job, and the weights that it is made from.

use crate::extract::today;
use crate::extract::{Doing, Path};
use crate::wire::{WeightRowRequest, WeightsRequest};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::judgement::{House, Judgement, Tool, judge};
use cobaltine_core::record::FieldProblem;
use cobaltine_store::{JobState, WeightsRecord};
use uuid::Uuid;

/// Judges a job by the house's weights and rules as they are now.
///
/// # Errors
/// The database error; what a computation refuses.
pub(crate) async fn of(state: &AppState, held: &JobState) -> Result<Judgement, ApiError> {
    let rules = state.store.rules().await?;
    let file = &held.file;
    let counted = state.store.counted(file.job.intake.family_id).await?;
    let tool = |one: Instrument| Tool { kind: one.kind, overdue: one.overdue(today()).is_some() };
    let tools: Vec<Tool> = state.store.instruments().await?.into_iter().map(tool).collect();
    let house = House { weights: held.weights(), rules: &rules, tools: &tools, counted };
    Ok(judge(file, &held.opinion()?.judged, house))
}

/// Causes, the next check, decisions and cost of a job.
#[utoipa::path(get, path = "/jobs/{job}/judgement", responses((status = 200, body = Judgement)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<Judgement>, ApiError> {
    of(&state, &*state.store.judged(job).await?).await.map(Json)
}

/// The weights as a file.
#[utoipa::path(get, path = "/weights", responses((status = 200, body = WeightsRecord)))]
pub(crate) async fn weights(
    State(state): State<AppState>,
) -> Result<Json<WeightsRecord>, ApiError> {
    Ok(Json(state.store.weights_file().await?))
}

/// Puts other weights in their place, with a reason. The revision that was changed has to be named.
#[utoipa::path(put, path = "/weights", request_body = WeightsRequest, responses((status = 200, body = WeightsRecord)))]
pub(crate) async fn change_weights(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<WeightsRequest>,
) -> Result<Json<WeightsRecord>, ApiError> {
    let WeightsRequest { revision, text, reason } = request;
    state.store.change_weights(&act, revision, &text, &reason, signed).await?;
    weights(State(state)).await
}

/// Other numbers in one row, with a reason: kept as a row of the workshop.
#[utoipa::path(put, path = "/weights/row", request_body = WeightRowRequest, responses((status = 200, body = WeightsRecord)))]
pub(crate) async fn change_row(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<WeightRowRequest>,
) -> Result<Json<WeightsRecord>, ApiError> {
    let values = request.numbers().map_err(ApiError::Fields)?;
    let WeightRowRequest { revision, key, reason, .. } = request;
    let kept = state.store.weights_file().await?;
    let weights = state.store.weights().await?;
    let row = weights
        .changed(&key, &values, reason.trim())
        .map_err(|error| ApiError::Fields(vec![FieldProblem::new("values", error.to_string())]))?;
    let text = format!("{}{row}", kept.text);
    state.store.change_weights(&act, revision, &text, &reason, signed).await?;
    self::weights(State(state)).await
}
