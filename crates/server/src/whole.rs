//! What was begun is brought to its end, whoever hangs up meanwhile: a command that is dropped half-way
//! would leave a transaction open, or a talk with a control unit without its end on record.

use crate::access::Asking;
use crate::{ApiError, AppState};
use axum::extract::{Request, State};
use axum::http::Method;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use cobaltine_core::units::{Units, within};
use cobaltine_store::{Act, StoreError, asked_by};
use std::future::poll_fn;
use std::pin::pin;
use std::sync::{Arc, OnceLock};

/// The units that stood beside the fields of the page.
const TYPED_IN: &str = "x-units";

/// The act that a request turned out to be.
#[derive(Debug, Clone, Default)]
pub(crate) struct Told(pub Arc<OnceLock<Act>>);

/// Runs every request that may write as a task of its own.
pub(crate) async fn whole(State(state): State<AppState>, request: Request, next: Next) -> Response {
    let who = request.extensions().get::<Asking>().and_then(|asking| asking.who(request.headers()));
    asked_by(who, answered(state, request, next)).await
}

async fn answered(state: AppState, request: Request, next: Next) -> Response {
    let units = state.store.units();
    if matches!(*request.method(), Method::GET | Method::HEAD) {
        return in_units(units, next.run(request)).await;
    }
    // What was typed is meant in the units that stood beside the fields of its page, whatever the
    // workshop chose since: it may have waited there for an answer.
    let typed_in =
        request.headers().get(TYPED_IN).and_then(|sign| Units::named(sign.to_str().ok()?));
    let units = typed_in.unwrap_or(units);
    let task = tokio::spawn(in_units(units, told_first(state, request, next)));
    task.await.unwrap_or_else(|_| ApiError::Panicked.into_response())
}

/// Answers a request in the units of the workshop: they lie around every piece of its work, on
/// whichever thread that is done.
async fn in_units<F: Future>(units: Units, answer: F) -> F::Output {
    let mut answer = pin!(answer);
    poll_fn(|context| within(units, || answer.as_mut().poll(context))).await
}

/// An id that was given to something else is said before anything else that is wrong.
async fn told_first(state: AppState, mut request: Request, next: Next) -> Response {
    let told = Told::default();
    request.extensions_mut().insert(told.clone());
    let response = next.run(request).await;
    if let Some(act) = told.0.get().filter(|_| response.status().is_client_error())
        && let Err(StoreError::Reused) = state.store.done_before(act).await
    {
        return ApiError::from(StoreError::Reused).into_response();
    }
    response
}
