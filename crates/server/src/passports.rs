//! Passports over HTTP.

use crate::extract::{Path, Query};
use crate::wire::PassportParams;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::passport::{Passport, scanned};
use cobaltine_store::{PassportLine, PassportPage};
use uuid::Uuid;

/// Injectors by label, or the one whose printed label was scanned.
#[utoipa::path(get, path = "/passports", params(PassportParams), responses((status = 200, body = PassportPage)))]
pub(crate) async fn find(
    State(state): State<AppState>,
    Query(asked): Query<PassportParams>,
) -> Result<Json<PassportPage>, ApiError> {
    let Some(injector) = scanned(&asked.q) else {
        let per_page = asked.per_page.unwrap_or(30);
        return Ok(Json(state.store.passports(&asked.q, asked.page, per_page).await?));
    };
    let passport = state.store.passport(injector).await?;
    let last = passport.stays.last();
    let line = PassportLine {
        injector,
        job: last.map_or(Uuid::nil(), |stay| stay.job),
        label: passport.label.clone(),
        jobs: passport.stays.len() as u64,
        number: last.map_or(0, |stay| stay.number),
        machine: last.map(|stay| stay.machine.clone()).unwrap_or_default(),
    };
    Ok(Json(PassportPage { lines: vec![line], total: 1 }))
}

/// The passport of an injector.
#[utoipa::path(get, path = "/passports/{injector}", responses((status = 200, body = Passport)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(injector): Path<Uuid>,
) -> Result<Json<Passport>, ApiError> {
    Ok(Json(state.store.passport(injector).await?))
}
