//! The computations, as `cobaltine calc` does them.

use crate::ApiError;
use crate::extract::{Body, Path};
use axum::Json;
use cobaltine_core::calc::{self, CalcId};
use serde_json::Value;

/// Runs one computation.
#[utoipa::path(post, path = "/api/calc/{id}", request_body = Object, responses((status = 200, body = Object)))]
pub(crate) async fn run(
    Path(id): Path<String>,
    Body(input): Body<Value>,
) -> Result<Json<Value>, ApiError> {
    Ok(Json(calc::run(CalcId::parse(&id)?, input)?))
}
