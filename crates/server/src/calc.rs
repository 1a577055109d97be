//! The computations, as `cobaltine calc` does them.

use crate::ApiError;
use crate::extract::{Body, Path};
use axum::Json;
use cobaltine_core::calc::{self, CalcId};
use serde_json::Value;
use tokio::sync::Semaphore;

/// So many computations at once: the others wait, and nobody else does.
static AT_ONCE: Semaphore = Semaphore::const_new(2);

/// Runs one computation, off the threads that answer.
#[utoipa::path(post, path = "/calc/{id}", request_body = Object, responses((status = 200, body = Object)))]
pub(crate) async fn run(
    Path(id): Path<String>,
    Body(input): Body<Value>,
) -> Result<Json<Value>, ApiError> {
    let id = CalcId::parse(&id)?;
    // The semaphore is never closed.
    let turn = AT_ONCE.acquire().await.ok();
    let work = move || {
        let _turn = turn;
        calc::run(id, input)
    };
    let answer = tokio::task::spawn_blocking(work).await.map_err(|_| ApiError::Panicked)?;
    Ok(Json(answer?))
}
