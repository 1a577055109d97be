//! The library: search, families, and files in and out.

use crate::extract::{Body, Doing, Path, Query};
use crate::library_text::{Columns, read_csv, read_json, write_csv};
use crate::wire::{
    FamilyRequest, FamilyView, ItemView, LibraryParams, LibraryPreview, LibraryText, PlanRequest,
    PresetRequest, Reference, TextFormat,
};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use cobaltine_core::fitting::stages_said;
use cobaltine_core::library::{ItemDetail, LibraryFamily, LibraryFile, LibraryItem};
use cobaltine_core::tests::bench::Point;
use cobaltine_core::tests::house_reference::house_reference;
use cobaltine_core::tests::preset::PresetOf;
use cobaltine_core::work::Regime;
use cobaltine_store::{Change, LibraryPage, LibraryQuery};
use uuid::Uuid;

/// Lines of a page when nothing is said.
const PER_PAGE: u32 = 30;
/// Lines of a preview that are shown; all are counted.
const SHOWN: usize = 200;

/// One page of a search.
#[utoipa::path(get, path = "/library", params(LibraryParams), responses((status = 200, body = LibraryPage)))]
pub(crate) async fn search(
    State(state): State<AppState>,
    Query(params): Query<LibraryParams>,
) -> Result<Json<LibraryPage>, ApiError> {
    let query = LibraryQuery {
        words: params.q,
        kind: params.kind,
        page: params.page,
        per_page: params.per_page.unwrap_or(PER_PAGE),
    };
    Ok(Json(state.store.library(&query).await?))
}

/// A family with all revisions of its limits, and what the house itself measured.
#[utoipa::path(get, path = "/library/families/{family}", responses((status = 200, body = FamilyView)))]
pub(crate) async fn family(
    State(state): State<AppState>,
    Path(id): Path<Uuid>,
) -> Result<Json<FamilyView>, ApiError> {
    let family = state.store.library_family(id).await?;
    let limits = state.store.limits_of(id).await?;
    let rules = state.store.rules().await?;
    let mut references = Vec::new();
    for regime in Regime::ALL.into_iter().filter(|_| family.detail.kind.fuel_system().has_return())
    {
        let readings = state.store.good_return_flows(id, regime, None).await?;
        if readings.is_empty() {
            continue;
        }
        references.push(Reference::of(regime, house_reference(&readings, "ml/min", &rules)));
    }
    let coil_class = family.detail.kind.coil_class();
    let windows = limits.iter().map(|limit| limit.window()).collect();
    let turned_out = state.store.turned_out(id).await?;
    let counted = state.store.counted(Some(id)).await?;
    let counted_odds = counted.odds();
    Ok(Json(FamilyView {
        tightening: stages_said(&family.detail.torque),
        family,
        coil_class,
        limits,
        windows,
        references,
        turned_out,
        counted,
        counted_odds,
    }))
}

/// Keeps a family: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/library/families", request_body = FamilyRequest, responses((status = 200, body = LibraryFamily)))]
pub(crate) async fn keep_family(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<FamilyRequest>,
) -> Result<Json<LibraryFamily>, ApiError> {
    let family = request.read().map_err(ApiError::Fields)?;
    Ok(Json(state.store.keep_family(&act, &family, signed).await?))
}

/// An engine or a test plan.
#[utoipa::path(get, path = "/library/items/{item}", responses((status = 200, body = ItemView)))]
pub(crate) async fn item(
    State(state): State<AppState>,
    Path(id): Path<Uuid>,
) -> Result<Json<ItemView>, ApiError> {
    let item = state.store.library_item(id).await?;
    let points = match &item.detail {
        ItemDetail::TestPlan { points, .. } => {
            points.iter().map(|point| Point::from(point).said()).collect()
        }
        ItemDetail::Engine { .. } | ItemDetail::Preset { .. } => Vec::new(),
    };
    let settings = match &item.detail {
        ItemDetail::Preset { check, cells, .. } => {
            PresetOf::named(check).map(|of| of.says(cells)).unwrap_or_default()
        }
        ItemDetail::Engine { .. } | ItemDetail::TestPlan { .. } => Vec::new(),
    };
    Ok(Json(ItemView { item, points, settings }))
}

/// Keeps an engine or a test plan.
#[utoipa::path(put, path = "/library/items", request_body = LibraryItem, responses((status = 200, body = LibraryItem)))]
pub(crate) async fn keep_item(
    State(state): State<AppState>,
    Doing { asked: item, act, signed }: Doing<LibraryItem>,
) -> Result<Json<LibraryItem>, ApiError> {
    Ok(Json(state.store.keep_item(&act, &item, signed).await?))
}

/// Keeps a test plan as typed: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/library/plans", request_body = PlanRequest, responses((status = 200, body = LibraryItem)))]
pub(crate) async fn keep_plan(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<PlanRequest>,
) -> Result<Json<LibraryItem>, ApiError> {
    let item = request.read().map_err(ApiError::Fields)?;
    Ok(Json(state.store.keep_item(&act, &item, signed).await?))
}

/// The presets of a check, by name.
#[utoipa::path(get, path = "/library/presets/{check}", responses((status = 200, body = Vec<LibraryItem>)))]
pub(crate) async fn presets(
    State(state): State<AppState>,
    Path(check): Path<String>,
) -> Result<Json<Vec<LibraryItem>>, ApiError> {
    Ok(Json(state.store.presets(&check).await?))
}

/// Keeps a preset as typed: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/library/presets", request_body = PresetRequest, responses((status = 200, body = LibraryItem)))]
pub(crate) async fn keep_preset(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<PresetRequest>,
) -> Result<Json<LibraryItem>, ApiError> {
    let item = request.read().map_err(ApiError::Fields)?;
    Ok(Json(state.store.keep_item(&act, &item, signed).await?))
}

/// What a file would change, with a problem for each row that cannot be read. Nothing is kept.
#[utoipa::path(post, path = "/library/preview", request_body = LibraryText, responses((status = 200, body = LibraryPreview)))]
pub(crate) async fn preview(
    State(state): State<AppState>,
    Body(text): Body<LibraryText>,
) -> Result<Json<LibraryPreview>, ApiError> {
    let columns = columns(&state, &text).await?;
    let mut view = if columns.refused.is_some() {
        LibraryPreview::of(Vec::new(), Vec::new(), SHOWN)
    } else {
        let (file, problems) = read(&text, &columns)?;
        let changes = state.store.preview_library(&file.families, &file.rows, &file.items).await?;
        LibraryPreview::of(changes, problems, SHOWN)
    };
    (view.headings, view.columns) = (columns.headings, columns.means);
    view.refused = columns.refused;
    Ok(Json(view))
}

/// Takes a file in: all of it, or all but the rows that cannot be read when that was asked for.
#[utoipa::path(post, path = "/library/import", request_body = LibraryText, responses((status = 200, body = LibraryPreview)))]
pub(crate) async fn import(
    State(state): State<AppState>,
    Doing { asked: text, act, signed }: Doing<LibraryText>,
) -> Result<Json<LibraryPreview>, ApiError> {
    let columns = columns(&state, &text).await?;
    let (file, problems) = read(&text, &columns)?;
    if !problems.is_empty() && !text.leave_out_bad_rows {
        let fields = problems.iter().take(SHOWN).map(|problem| problem.as_field()).collect();
        return Err(ApiError::Fields(fields));
    }
    let signed = Some(signed);
    let changes =
        state.store.import_library(&act, &file.families, &file.rows, &file.items, signed).await?;
    if !columns.means.is_empty() {
        let means = serde_json::to_string(&columns.means).unwrap_or_default();
        state.store.remember_columns(&remembered(&columns), &means).await?;
    }
    let kept = changes.iter().filter(|change| change.change != Change::Same).count();
    tracing::info!(kept, left_out = problems.len(), "library import");
    Ok(Json(LibraryPreview::of(changes, problems, SHOWN)))
}

/// The columns of a limits file are told apart from those of bench readings.
fn remembered(columns: &Columns) -> String {
    format!("limits\u{1f}{}", columns.heading())
}

async fn columns(state: &AppState, text: &LibraryText) -> Result<Columns, ApiError> {
    match text.format {
        TextFormat::Json => Ok(Columns::default()),
        TextFormat::Csv => {
            let asked = crate::library_text::columns(&text.text, &text.columns, |_| None)?;
            let last = state.store.column_meanings(&remembered(&asked)).await?;
            let last = last.and_then(|means| serde_json::from_str(&means).ok());
            crate::library_text::columns(&text.text, &text.columns, |_| last)
        }
    }
}

fn read(
    text: &LibraryText,
    columns: &Columns,
) -> Result<(crate::library_text::Read, Vec<crate::wire::RowProblem>), ApiError> {
    match text.format {
        TextFormat::Csv => read_csv(&text.text, columns),
        TextFormat::Json => read_json(&text.text),
    }
}

/// The library as JSON.
#[utoipa::path(get, path = "/library/export.json", responses((status = 200, body = LibraryFile)))]
pub(crate) async fn export_json(State(state): State<AppState>) -> Result<Response, ApiError> {
    let file = state.store.library_file().await?;
    let name = (header::CONTENT_DISPOSITION, "attachment; filename=\"library.json\"");
    Ok(([name], Json(file)).into_response())
}

/// The newest limits as CSV.
#[utoipa::path(get, path = "/library/limits.csv", responses((status = 200, body = String, content_type = "text/csv")))]
pub(crate) async fn export_csv(State(state): State<AppState>) -> Result<Response, ApiError> {
    let file = state.store.library_file().await?;
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"limits.csv\""),
    ];
    Ok((head, write_csv(&file)).into_response())
}
