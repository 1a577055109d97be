//! The whole workshop in and out, a line at a time (`docs/workshop-file.md`), and all readings as CSV.

use crate::extract::Bare;
use crate::transfer::{COLUMNS, rows_of, written};
use crate::{ApiError, AppState};
use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use cobaltine_store::{StoreError, WorkshopImported};
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;

/// Lines that wait for a slow reader at most.
const AHEAD: usize = 16;

fn streamed(
    head: [(header::HeaderName, &'static str); 2],
    lines: mpsc::Receiver<Result<Vec<u8>, StoreError>>,
) -> Response {
    (head, Body::from_stream(ReceiverStream::new(lines))).into_response()
}

/// Everything of the workshop, a JSON object a line.
#[utoipa::path(get, path = "/workshop/export.jsonl", responses((status = 200, body = String, content_type = "application/jsonl")))]
pub(crate) async fn export(State(state): State<AppState>) -> Result<Response, ApiError> {
    let mut export = state.store.export_workshop().await?;
    let (send, lines) = mpsc::channel(AHEAD);
    tokio::spawn(async move {
        loop {
            let line = match export.next().await {
                Ok(Some(line)) => Ok(line.into_bytes()),
                Ok(None) => break,
                Err(error) => Err(error),
            };
            let failed = line.is_err();
            // Nobody reads any more, or it broke: the last line is missing, and an import says so.
            if send.send(line).await.is_err() || failed {
                break;
            }
        }
    });
    let head = [
        (header::CONTENT_TYPE, "application/jsonl"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"workshop.jsonl\""),
    ];
    Ok(streamed(head, lines))
}

/// Takes a workshop file in: all of it or nothing.
#[utoipa::path(post, path = "/workshop/import", request_body = String, responses((status = 200, body = WorkshopImported)))]
pub(crate) async fn import(
    State(state): State<AppState>,
    Bare { act, signed, text }: Bare,
) -> Result<Json<WorkshopImported>, ApiError> {
    Ok(Json(state.store.import_workshop(&act, &text, signed).await?))
}

/// All readings of all jobs, corrected ones included, one row each.
#[utoipa::path(get, path = "/workshop/readings.csv", responses((status = 200, body = String, content_type = "text/csv")))]
pub(crate) async fn readings(State(state): State<AppState>) -> Result<Response, ApiError> {
    let jobs = state.store.job_ids().await?;
    let (send, lines) = mpsc::channel(AHEAD);
    tokio::spawn(async move {
        let mut first = Some(vec![COLUMNS.map(str::to_owned)]);
        for job in jobs {
            let rows = match state.store.job(job).await {
                Ok(file) => Ok(written(first.take().into_iter().flatten().chain(rows_of(&file)))),
                Err(error) => Err(error),
            };
            let failed = rows.is_err();
            if send.send(rows).await.is_err() || failed {
                break;
            }
        }
    });
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"readings.csv\""),
    ];
    Ok(streamed(head, lines))
}
