//! The board.

use crate::extract::Query;
use crate::wire::BoardParams;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_store::{BoardPage, BoardQuery};

/// Rows of a page when nothing is said.
const PER_PAGE: u32 = 20;

/// One page of the board.
#[utoipa::path(get, path = "/board", params(BoardParams), responses((status = 200, body = BoardPage)))]
pub(crate) async fn page(
    State(state): State<AppState>,
    Query(params): Query<BoardParams>,
) -> Result<Json<BoardPage>, ApiError> {
    let query = BoardQuery {
        words: params.q,
        tone: params.tone,
        page: params.page,
        per_page: params.per_page.unwrap_or(PER_PAGE),
    };
    Ok(Json(state.store.board(&query).await?))
}
