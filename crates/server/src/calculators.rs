//! The calculators: fields and results, usable without a job.

use crate::error::no_such_route;
use crate::extract::{Body, Path};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::calculators::{Calculator, CalculatorId, Worked};
use std::collections::BTreeMap;

/// Every calculator with its fields.
#[utoipa::path(get, path = "/calculators", responses((status = 200, body = Vec<Calculator>)))]
pub(crate) async fn list() -> Json<Vec<Calculator>> {
    Json(CalculatorId::ALL.iter().map(|id| id.describe()).collect())
}

/// Works one out from what was typed.
#[utoipa::path(post, path = "/calculators/{id}", request_body = BTreeMap<String, String>, responses((status = 200, body = Worked)))]
pub(crate) async fn work(
    State(state): State<AppState>,
    Path(id): Path<String>,
    Body(typed): Body<BTreeMap<String, String>>,
) -> Result<Json<Worked>, ApiError> {
    let Some(id) = CalculatorId::parse(&id) else { return Err(no_such_route().await) };
    let rules = state.store.rules().await?;
    id.work(&typed, &rules).map(Json).map_err(ApiError::Fields)
}
