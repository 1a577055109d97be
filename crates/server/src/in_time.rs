//! Every request ends in time, whatever becomes of its body.

use crate::accept::UPLOAD;
use crate::{ApiError, AppState};
use axum::body::{Body, BodyDataStream, Bytes};
use axum::extract::{Request, State};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use std::future::Future;
use std::pin::Pin;
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::time::Sleep;
use tokio_stream::Stream;

/// What waits for a body that does not end goes so long after whoever sent it was told.
const AFTER: Duration = Duration::from_secs(1);

/// Whoever waited too long is told so, and what only read for them stops.
pub(crate) async fn in_time(
    State(state): State<AppState>,
    request: Request,
    next: Next,
) -> Response {
    let times = if request.uri().path().ends_with("/workshop/imports") { UPLOAD } else { 1 };
    let longest = state.bounds.answer * times;
    // A command is a task of its own: it would wait for the rest of its body for ever.
    let request = request.map(|body| until(body, longest + AFTER));
    let answer = tokio::time::timeout(longest, next.run(request)).await;
    answer.unwrap_or_else(|_| ApiError::TooSlow.into_response())
}

/// A body that breaks off after this time.
fn until(body: Body, longest: Duration) -> Body {
    let (parts, over) = (body.into_data_stream(), Box::pin(tokio::time::sleep(longest)));
    Body::from_stream(Until { parts, over })
}

struct Until {
    parts: BodyDataStream,
    over: Pin<Box<Sleep>>,
}

impl Stream for Until {
    type Item = Result<Bytes, axum::Error>;

    fn poll_next(mut self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<Option<Self::Item>> {
        if self.over.as_mut().poll(context).is_ready() {
            let why = std::io::Error::from(std::io::ErrorKind::TimedOut);
            return Poll::Ready(Some(Err(axum::Error::new(why))));
        }
        Pin::new(&mut self.parts).poll_next(context)
    }
}
