//! What was read and has not changed is not worked out again: every read carries an `ETag` made from
//! the revision of the store, and the answers that are asked for most are kept until it goes up.

use crate::AppState;
use crate::access::Asking;
use crate::extract::{now, today};
use axum::body::{Body, Bytes, to_bytes};
use axum::extract::{MatchedPath, Request, State};
use axum::http::{HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use cobaltine_core::role::Role;
use cobaltine_store::Recent;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// Header with the clock of the program in ms, for timers: an answer may be older than it looks.
const CLOCK: HeaderName = HeaderName::from_static("x-clock");
/// Answers that are kept, and the largest of them, bytes.
const MOST: usize = 64;
const LARGEST: usize = 256 * 1024;
/// What does not follow from the store alone: work in the background, the control unit, files.
const NOT_OF_THE_STORE: [&str; 11] = [
    "/connections",
    "/sign-in",
    "/backups",
    "/codes",
    "/matchings",
    "/transfers",
    "/changes",
    "/schema",
    "/openapi",
    "/export",
    ".csv",
];

/// Whose answer it is, of which route, at which address.
type Key = (Option<Role>, String, String);

/// Answers that hold at one revision.
#[derive(Debug, Clone)]
pub struct Answers(Arc<Mutex<Recent<Key, (HeaderValue, Bytes)>>>);

impl Default for Answers {
    fn default() -> Self {
        Self(Arc::new(Mutex::new(Recent::new(MOST))))
    }
}

impl Answers {
    fn lock(&self) -> MutexGuard<'_, Recent<Key, (HeaderValue, Bytes)>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn get(&self, key: &Key, tag: &HeaderValue) -> Option<Bytes> {
        let mut kept = self.lock();
        let (held, body) = kept.get(key)?;
        (held == tag).then(|| body.clone())
    }

    fn keep(&self, key: Key, tag: &HeaderValue, body: Bytes) {
        self.lock().insert(key, (tag.clone(), body));
    }
}

/// What is read at this route follows from the store alone.
pub(crate) fn is_tagged(route: &str) -> bool {
    !NOT_OF_THE_STORE.iter().any(|part| route.contains(part))
}

/// Answers a read with its tag; with nothing but that when the one who asks has it already. It lies inside
/// the routes, behind the rights: whoever comes here may read what the route answers.
pub(crate) async fn tagged(
    State(state): State<AppState>,
    request: Request,
    next: Next,
) -> Response {
    let extensions = request.extensions();
    let route = extensions.get::<MatchedPath>().map(|route| route.as_str().to_owned());
    let seen_as = extensions.get::<Asking>().and_then(Asking::seen_as);
    let (Some(route), Some(seen_as), &Method::GET) = (route, seen_as, request.method()) else {
        return next.run(request).await;
    };
    if !is_tagged(&route) {
        return next.run(request).await;
    }
    // Taken before anything is read: an answer may be newer than its tag, and never older. What is
    // due today is not what was due yesterday.
    let tag = format!("W/\"{}-{}-{}\"", state.started, state.store.revision(), today());
    let Ok(tag) = HeaderValue::from_str(&tag) else { return next.run(request).await };
    let asked = request.headers().get(header::IF_NONE_MATCH);
    if asked.is_some_and(|asked| asked == tag) {
        return with_tag(StatusCode::NOT_MODIFIED.into_response(), tag);
    }
    let key = (seen_as, route, request.uri().to_string());
    if let Some(body) = state.answers.get(&key, &tag) {
        let json = [(header::CONTENT_TYPE, "application/json")];
        return with_tag((json, body).into_response(), tag);
    }
    let response = next.run(request).await;
    if response.status() != StatusCode::OK {
        return response;
    }
    let (parts, body) = response.into_parts();
    let Ok(bytes) = to_bytes(body, usize::MAX).await else {
        return StatusCode::INTERNAL_SERVER_ERROR.into_response();
    };
    // While something is on its way into the lists, each finds in them what they wrote themselves: an
    // answer is one person's.
    if bytes.len() <= LARGEST && state.store.is_settled() {
        state.answers.keep(key, &tag, bytes.clone());
    }
    with_tag(Response::from_parts(parts, Body::from(bytes)), tag)
}

fn with_tag(mut response: Response, tag: HeaderValue) -> Response {
    let headers = response.headers_mut();
    headers.insert(header::ETAG, tag);
    headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("private, no-cache"));
    response
}

/// The clock of the program beside every answer.
pub(crate) async fn clock(mut response: Response) -> Response {
    response.headers_mut().insert(CLOCK, HeaderValue::from(now().as_millisecond()));
    response
}
