//! The fitting card over HTTP. Ticks and troubles are events like any other.

use crate::extract::{Doing, Path};
use crate::wire::TighteningRequest;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::fitting::{Fitting, fitting};
use cobaltine_core::job::Command;
use cobaltine_core::record::{Event, EventRecord, JobFile};
use uuid::Uuid;

async fn card(state: &AppState, file: &JobFile) -> Result<Json<Fitting>, ApiError> {
    let family = state.store.torque_of(file.job.intake.family_id).await?;
    Ok(Json(fitting(file, &family)))
}

/// The fitting card of a job.
#[utoipa::path(get, path = "/jobs/{job}/fitting", responses((status = 200, body = Fitting)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<Fitting>, ApiError> {
    let file = state.store.job(job).await?;
    card(&state, &file).await
}

/// Keeps how the clamp is tightened, as typed in any unit, with where it is from.
#[utoipa::path(post, path = "/jobs/{job}/fitting/tightening", request_body = TighteningRequest, responses((status = 200, body = Fitting)))]
pub(crate) async fn tighten(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<TighteningRequest>,
) -> Result<Json<Fitting>, ApiError> {
    let stages = request.stages().map_err(ApiError::Fields)?;
    let event = Event::Tightening { stages, typed: request.typed, source: request.source };
    let record = EventRecord { id: request.id, event, signed };
    state.store.apply(job, &act, Command::Happened(record), signed).await?;
    let file = state.store.job(job).await?;
    card(&state, &file).await
}
