//! The house rules.

use crate::extract::{Doing, Path};
use crate::wire::{RuleRequest, RuleView};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::record::FieldProblem;
use cobaltine_core::rules::{RuleId, read};

/// Every rule with its value, its default and its history.
#[utoipa::path(get, path = "/rules", responses((status = 200, body = Vec<RuleView>)))]
pub(crate) async fn list(State(state): State<AppState>) -> Result<Json<Vec<RuleView>>, ApiError> {
    let changes = state.store.rule_changes().await?;
    let people = state.store.people().await?;
    let views = RuleId::ALL.iter().map(|rule| RuleView::of(*rule, &changes, &people));
    Ok(Json(views.collect()))
}

/// Changes a rule, with its reason. The revision that was changed has to be named.
#[utoipa::path(put, path = "/rules/{rule}", params(("rule" = RuleId, Path)), request_body = RuleRequest,
    responses((status = 200, body = Vec<RuleView>)))]
pub(crate) async fn change(
    State(state): State<AppState>,
    Path(rule): Path<RuleId>,
    Doing { asked: request, act, signed }: Doing<RuleRequest>,
) -> Result<Json<Vec<RuleView>>, ApiError> {
    let value = read(rule, &request.typed)
        .map_err(|error| ApiError::Fields(vec![FieldProblem::new("typed", error.to_string())]))?;
    let value = (value, request.typed.as_str());
    state.store.change_rule(&act, rule, request.revision, value, &request.reason, signed).await?;
    list(State(state)).await
}
