//! Decisions and notes.

use crate::extract::{Doing, Path};
use crate::jobs::kept;
use crate::wire::{DecideRequest, DecisionRequest, KeptView, NoteRequest};
use crate::words;
use crate::{ApiError, AppState, judgement};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::record::{DecisionRecord, FieldProblem, Note, Signed};
use cobaltine_core::tests::Proposal;
use uuid::Uuid;

/// Records decisions with what the program proposed at that moment.
#[utoipa::path(post, path = "/jobs/{job}/decisions", request_body = DecideRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn decide(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<DecideRequest>,
) -> Result<Json<KeptView>, ApiError> {
    if request.decisions.is_empty() {
        let problem = FieldProblem::new("decisions", words::ENTER_DECISION_LEAST_ONE);
        return Err(ApiError::Fields(vec![problem]));
    }
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let decisions = recorded(&state, job, request.decisions, signed).await?;
    Ok(kept(state.store.apply(job, &act, Command::Decide(decisions), signed).await?))
}

/// Decisions as they are kept, each with what the program proposed at that moment.
pub(crate) async fn recorded(
    state: &AppState,
    job: Uuid,
    asked: Vec<DecisionRequest>,
    signed: Signed,
) -> Result<Vec<DecisionRecord>, ApiError> {
    let judgement = judgement::of(state, &*state.store.judged(job).await?).await?;
    let proposed = |cylinder: u32| {
        let at = judgement.positions.iter().find(|at| at.cylinder == cylinder)?;
        Some(Proposal { decision: at.ruling.decision, reason: at.ruling.sentence.clone() })
    };
    let record = |DecisionRequest { id, cylinder, decision, reason }| DecisionRecord {
        id,
        cylinder,
        decision,
        reason,
        proposed: proposed(cylinder),
        signed,
    };
    Ok(asked.into_iter().map(record).collect())
}

/// Keeps a note on a stage.
#[utoipa::path(post, path = "/jobs/{job}/notes", request_body = NoteRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn note(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<NoteRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let note = Note { id: request.id, stage: request.stage, text: request.text, signed };
    Ok(kept(state.store.apply(job, &act, Command::Note(note), signed).await?))
}
