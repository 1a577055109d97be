//! What happens to a job besides readings: swaps, clearing, timers, changes of the plan.

use crate::extract::{Doing, Path, Pin, Query};
use crate::jobs::kept;
use crate::wire::{EarlierParams, EventRequest, KeptView};
use crate::words;
use crate::{ApiError, AppState, decisions};
use axum::Json;
use axum::extract::State;
use cobaltine_core::job::Command;
use cobaltine_core::record::{Event, EventRecord, FieldProblem};
use cobaltine_store::{BoardCard, StoreError};
use uuid::Uuid;

/// Keeps an event. The same id again changes nothing.
#[utoipa::path(post, path = "/jobs/{job}/events", params(("x-pin" = Option<String>, Header, description = "For a second signature.")), request_body = EventRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn happened(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Pin(pin): Pin,
    Doing { asked: request, act, signed }: Doing<EventRequest>,
) -> Result<Json<KeptView>, ApiError> {
    if request.event.of_unit() {
        let says = words::ENTRIES_ECU_COME_ONLY.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    let writing = state.writings.of(job).is_some_and(|writing| writing.running);
    if writing && matches!(request.event, Event::UnitNumbered { .. }) {
        let says = words::TRIM_CODES_BEING_WRITTEN_WAIT.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    if matches!(request.event, Event::Closed { .. }) {
        let says = words::CLOSE_JOB_PROVE_STAGE.to_owned();
        return Err(StoreError::Conflict(says).into());
    }
    if matches!(request.event, Event::Reviewed { .. }) {
        // Who may not sign it is told so before a PIN is asked for.
        let held = state.store.state(job).await?;
        let file = &held.file;
        let refused = file.review_refused(signed);
        refused.map_or(Ok(()), |says| Err(StoreError::Conflict(says.to_owned())))?;
        let vouched = state.store.vouched(signed.by);
        if file.let_in_by_decider(signed, vouched) {
            return Err(StoreError::Conflict(words::SIGNER_LET_YOU_IN.to_owned()).into());
        }
        state.store.prove_pin(signed.by, &pin, signed.at).await?;
    }
    let wanted = match &request.event {
        event if event.wants_decision() => state.store.state(job).await?.file.reason_wanted(event),
        _ => None,
    };
    let event = EventRecord { id: request.id, event: request.event, signed };
    let command = match (wanted, request.decision) {
        (None, _) => Command::Happened(event),
        (Some(_), Some(decision)) => {
            let decided = decisions::recorded(&state, job, vec![decision], signed).await?;
            Command::Together(vec![Command::Decide(decided), Command::Happened(event)])
        }
        (Some(says), None) => {
            return Err(ApiError::Fields(vec![FieldProblem::new("reason", says)]));
        }
    };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

/// Earlier jobs of the same machine, newest first.
#[utoipa::path(get, path = "/earlier", params(EarlierParams), responses((status = 200, body = Vec<BoardCard>)))]
pub(crate) async fn earlier(
    State(state): State<AppState>,
    Query(asked): Query<EarlierParams>,
) -> Result<Json<Vec<BoardCard>>, ApiError> {
    Ok(Json(state.store.earlier_jobs(&asked.machine, asked.but).await?))
}
