//! The shelf of tested injectors, and sets that are kept.

use crate::extract::{Bare, Doing, Path, Query};
use crate::wire::{KeepSetRequest, ShelfFamilyParams, ShelfParams, ShelfView};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use cobaltine_core::shelf::ShelfFeature;
use cobaltine_store::{KeptSet, ShelfFamily, ShelfQuery};
use uuid::Uuid;

/// Lines of a page.
const PER_PAGE: u32 = 30;

/// Families on the shelf, those with most injectors first.
#[utoipa::path(get, path = "/shelf/families", params(ShelfFamilyParams), responses((status = 200, body = Vec<ShelfFamily>)))]
pub(crate) async fn families(
    State(state): State<AppState>,
    Query(asked): Query<ShelfFamilyParams>,
) -> Result<Json<Vec<ShelfFamily>>, ApiError> {
    Ok(Json(state.store.shelf_families(asked.job).await?))
}

/// A page of the shelf, with what it can be matched by and the sets that are kept.
#[utoipa::path(get, path = "/shelf", params(ShelfParams), responses((status = 200, body = ShelfView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Query(asked): Query<ShelfParams>,
) -> Result<Json<ShelfView>, ApiError> {
    let query = ShelfQuery { kind: asked.kind, family: asked.family, job: asked.job };
    let page = state.store.shelf_page(&query, asked.page.unwrap_or(1), PER_PAGE).await?;
    let rules = state.store.rules().await?;
    let features = ShelfFeature::ALL.iter().filter(|one| one.fits(query.kind)).map(|one| {
        let held = page.measured.iter().find(|(feature, _)| feature == one);
        one.form(&rules, held.map_or(0, |(_, count)| *count))
    });
    Ok(Json(ShelfView {
        features: features.collect(),
        lines: page.lines,
        total: page.total,
        held_back: page.held_back,
        per_page: PER_PAGE,
        kept: state.store.kept_sets(&query).await?,
    }))
}

/// Keeps a set together. The same again changes nothing.
#[utoipa::path(post, path = "/shelf/sets", request_body = KeepSetRequest, responses((status = 204)))]
pub(crate) async fn keep(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<KeepSetRequest>,
) -> Result<StatusCode, ApiError> {
    let KeepSetRequest { id, kind, family, members, note, owners_agree } = request;
    let set = KeptSet { id, number: 0, members, note, signed };
    let query = ShelfQuery { kind, family, job: None };
    state.store.keep_set(&act, &query, &set, owners_agree).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes a set apart again.
#[utoipa::path(post, path = "/shelf/sets/{set}/apart", responses((status = 204)))]
pub(crate) async fn apart(
    State(state): State<AppState>,
    Path(set): Path<Uuid>,
    Bare { act, signed, .. }: Bare,
) -> Result<StatusCode, ApiError> {
    state.store.take_apart(&act, set, signed).await?;
    Ok(StatusCode::NO_CONTENT)
}
