//! Decisions and notes.

use crate::extract::{Doing, Path};
use crate::jobs::kept;
use crate::wire::{DecideRequest, KeptView, NoteRequest};
use crate::words;
use crate::{ApiError, AppState, judgement};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::record::{DecisionRecord, FieldProblem, Note};
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
    let judgement = judgement::of(&state, &*state.store.judged(job).await?).await?;
    let proposal = |cylinder: u32| {
        let at = judgement.positions.iter().find(|at| at.cylinder == cylinder)?;
        Some(Proposal { decision: at.ruling.decision, reason: at.ruling.sentence.clone() })
    };
    let decisions: Vec<DecisionRecord> = request
        .decisions
        .into_iter()
        .map(|decision| DecisionRecord {
            id: decision.id,
            cylinder: decision.cylinder,
            decision: decision.decision,
            reason: decision.reason,
            proposed: proposal(decision.cylinder),
            signed,
        })
        .collect();
    Ok(kept(state.store.apply(job, &act, Command::Decide(decisions), signed).await?))
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
