//! The proof of a job over HTTP: how it stands, what the unit has learned, closing.

use crate::extract::{Doing, Path};
use crate::unit::Talk;
use crate::wire::{LearnedRequest, ProofView, StepRequest};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::proving::proof;
use cobaltine_core::record::{Event, EventRecord, JobFile};
use cobaltine_core::unit_link::Ask;
use cobaltine_store::StoreError;
use uuid::Uuid;

async fn view(state: &AppState, file: &JobFile) -> Result<Json<ProofView>, ApiError> {
    let family = state.store.torque_of(file.job.intake.family_id).await?;
    Ok(Json(ProofView {
        proof: proof(file, &file.judged()?, &family),
        unit: state.unit.is_some(),
        stand_in: state.stand_in,
    }))
}

/// How the proof of a job stands.
#[utoipa::path(get, path = "/jobs/{job}/proof", responses((status = 200, body = ProofView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<ProofView>, ApiError> {
    let file = state.store.job(job).await?;
    view(&state, &file).await
}

/// Reads learned values and counters from the control unit.
#[utoipa::path(post, path = "/jobs/{job}/proof/learned", request_body = StepRequest, responses((status = 200, body = ProofView)))]
pub(crate) async fn learned(
    state: State<AppState>,
    job: Path<Uuid>,
    doing: Doing<StepRequest>,
) -> Result<Json<ProofView>, ApiError> {
    talked(state, job, doing, false).await
}

/// Clears learned values in the control unit, and reads back what is left of them.
#[utoipa::path(post, path = "/jobs/{job}/proof/clear", request_body = StepRequest, responses((status = 200, body = ProofView)))]
pub(crate) async fn clear(
    state: State<AppState>,
    job: Path<Uuid>,
    doing: Doing<StepRequest>,
) -> Result<Json<ProofView>, ApiError> {
    talked(state, job, doing, true).await
}

async fn talked(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<StepRequest>,
    cleared: bool,
) -> Result<Json<ProofView>, ApiError> {
    let file = state.store.job(job).await?;
    if state.store.done_before(&act).await? {
        return view(&state, &file).await;
    }
    if state.writings.of(job).is_some_and(|writing| writing.running) {
        let says = words::TRIM_CODES_BEING_WRITTEN_WAIT.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    let mut talk = Talk::open(&state, &file).await?;
    if cleared {
        talk.ready().await?;
        talk.ask(&Ask::Clear).await?;
    }
    let (learned, counters) = talk.learned().await?;
    let event = Event::LearnedRead { cleared, learned, counters, by_hand: false };
    let record = EventRecord { id: request.id, event, signed };
    state.store.apply(job, &act, Command::Happened(record), signed).await?;
    let file = state.store.job(job).await?;
    view(&state, &file).await
}

/// Keeps learned values and counters that somebody saw on another scan tool.
#[utoipa::path(post, path = "/jobs/{job}/proof/by-hand", request_body = LearnedRequest, responses((status = 200, body = ProofView)))]
pub(crate) async fn by_hand(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<LearnedRequest>,
) -> Result<Json<ProofView>, ApiError> {
    let event = request.read().map_err(ApiError::Fields)?;
    let record = EventRecord { id: request.id, event, signed };
    state.store.apply(job, &act, Command::Happened(record), signed).await?;
    let file = state.store.job(job).await?;
    view(&state, &file).await
}

/// Closes the job: as proven, or with what was left out for a reason.
#[utoipa::path(post, path = "/jobs/{job}/close", request_body = StepRequest, responses((status = 200, body = ProofView)))]
pub(crate) async fn close(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<StepRequest>,
) -> Result<Json<ProofView>, ApiError> {
    let family = state.store.job(job).await?.job.intake.family_id;
    let torque = state.store.torque_of(family).await?;
    let command = Command::Close { id: request.id, torque };
    state.store.apply(job, &act, command, signed).await?;
    let file = state.store.job(job).await?;
    view(&state, &file).await
}
