//! What was begun is brought to its end, whoever hangs up meanwhile: a command that is dropped half-way
//! would leave a transaction open, or a talk with a control unit without its end on record.

use crate::ApiError;
use axum::extract::Request;
use axum::http::Method;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

/// Runs every request that may write as a task of its own.
pub(crate) async fn whole(request: Request, next: Next) -> Response {
    if matches!(*request.method(), Method::GET | Method::HEAD) {
        return next.run(request).await;
    }
    let task = tokio::spawn(next.run(request));
    task.await.unwrap_or_else(|_| ApiError::Panicked.into_response())
}
