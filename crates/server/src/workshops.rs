//! The whole workshop in and out, a line at a time (`docs/workshop-file.md`), and all readings as CSV.

use crate::transfer::{COLUMNS, rows_of, written};
use crate::{ApiError, AppState};
use axum::body::Body;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, IntoResponseParts, Response};
use cobaltine_store::{Store, StoreError, WorkshopExport};
use std::future::Future;
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;
use uuid::Uuid;

/// Lines that wait for a slow reader at most.
const AHEAD: usize = 16;

/// An export that is under way.
pub(crate) enum Export {
    Workshop(WorkshopExport),
    Readings { store: Store, jobs: Vec<Uuid>, done: usize },
}

impl Export {
    /// Everything, a JSON object a line.
    pub async fn workshop(store: &Store) -> Result<Self, StoreError> {
        Ok(Self::Workshop(store.export_workshop().await?))
    }

    /// All readings of all jobs, as CSV.
    pub async fn readings(store: &Store) -> Result<Self, StoreError> {
        Ok(Self::Readings { store: store.clone(), jobs: store.job_ids().await?, done: 0 })
    }

    /// The next part; none after the last.
    pub async fn next(&mut self) -> Result<Option<Vec<u8>>, StoreError> {
        match self {
            Self::Workshop(export) => Ok(export.next().await?.map(String::into_bytes)),
            Self::Readings { store, jobs, done } => {
                let head = (*done == 0).then(|| COLUMNS.map(str::to_owned));
                let rows = match jobs.get(*done) {
                    Some(job) => rows_of(&store.job(*job).await?),
                    None if *done == 0 => Vec::new(),
                    None => return Ok(None),
                };
                *done += 1;
                Ok(Some(written(head.into_iter().chain(rows))))
            }
        }
    }

    /// What is written, and of how much.
    pub fn progress(&self) -> (u64, u64) {
        match self {
            Self::Workshop(export) => export.progress(),
            Self::Readings { jobs, done, .. } => (*done as u64, jobs.len() as u64),
        }
    }
}

/// Something long that is made or read a part at a time.
pub(crate) trait Parts: Send + 'static {
    /// The next; none after the last.
    fn next(&mut self) -> impl Future<Output = Result<Option<Vec<u8>>, StoreError>> + Send;
}

impl Parts for Export {
    async fn next(&mut self) -> Result<Option<Vec<u8>>, StoreError> {
        Self::next(self).await
    }
}

/// Answers with parts that are made a little ahead of whoever reads them. Nobody reads any more, or it
/// broke: then it ends, the last line is missing, and an import says so.
pub(crate) fn streamed(head: impl IntoResponseParts, mut parts: impl Parts) -> Response {
    let (send, ready) = mpsc::channel(AHEAD);
    tokio::spawn(async move {
        loop {
            let part = match parts.next().await {
                Ok(Some(part)) => Ok(part),
                Ok(None) => break,
                Err(error) => Err(error),
            };
            let failed = part.is_err();
            if send.send(part).await.is_err() || failed {
                break;
            }
        }
    });
    (head, Body::from_stream(ReceiverStream::new(ready))).into_response()
}

/// Everything of the workshop, a JSON object a line.
#[utoipa::path(get, path = "/workshop/export.jsonl", responses((status = 200, body = String, content_type = "application/jsonl")))]
pub(crate) async fn export(State(state): State<AppState>) -> Result<Response, ApiError> {
    let export = Export::workshop(&state.store).await?;
    let head = [
        (header::CONTENT_TYPE, "application/jsonl"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"workshop.jsonl\""),
    ];
    Ok(streamed(head, export))
}

/// All readings of all jobs, corrected ones included, one row each.
#[utoipa::path(get, path = "/workshop/readings.csv", responses((status = 200, body = String, content_type = "text/csv")))]
pub(crate) async fn readings(State(state): State<AppState>) -> Result<Response, ApiError> {
    let export = Export::readings(&state.store).await?;
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"readings.csv\""),
    ];
    Ok(streamed(head, export))
}
