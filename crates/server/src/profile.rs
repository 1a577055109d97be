//! The workshop itself: the head of its reports, and how far its first hour has come.

use crate::extract::Doing;
use crate::wire::ProfileRequest;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_store::ProfileRecord;

/// The workshop as it stands.
#[utoipa::path(get, path = "/profile", responses((status = 200, body = ProfileRecord)))]
pub(crate) async fn read(State(state): State<AppState>) -> Result<Json<ProfileRecord>, ApiError> {
    Ok(Json(state.store.profile().await?))
}

/// Writes it down anew. The revision that was changed has to be named.
#[utoipa::path(put, path = "/profile", request_body = ProfileRequest,
    responses((status = 200, body = ProfileRecord)))]
pub(crate) async fn change(
    State(state): State<AppState>,
    Doing { asked, act, signed }: Doing<ProfileRequest>,
) -> Result<Json<ProfileRecord>, ApiError> {
    state.store.change_profile(&act, asked.revision, &asked.profile, signed).await?;
    read(State(state)).await
}
