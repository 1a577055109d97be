//! What a handler can ask for in its signature.

use crate::{ApiError, AppState};
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::request::Parts;
use cobaltine_core::record::{Person, Signed};
use jiff::{Timestamp, Unit};
use uuid::Uuid;

/// Header that says who is at the bench. A page from elsewhere cannot set it.
pub(crate) const AT_BENCH: &str = "x-at-bench";

/// A JSON body, refused as a problem document.
#[derive(Debug, FromRequest)]
#[from_request(via(axum::Json), rejection(ApiError))]
pub(crate) struct Body<T>(pub T);

/// A text as a body, refused as a problem document.
#[derive(Debug)]
pub(crate) struct Text(pub String);

impl<S: Send + Sync> FromRequest<S> for Text {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &S) -> Result<Self, ApiError> {
        Ok(Self(String::from_request(request, state).await?))
    }
}

/// Parts of the address.
#[derive(Debug, FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(ApiError))]
pub(crate) struct Path<T>(pub T);

/// The question after the address.
#[derive(Debug, FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(ApiError))]
pub(crate) struct Query<T>(pub T);

/// The person who signs what is written now.
#[derive(Debug, Clone)]
pub(crate) struct AtBench(pub Person);

impl AtBench {
    /// A signature of this moment.
    pub(crate) fn signs(&self) -> Signed {
        Signed { by: self.0.id, at: now() }
    }
}

impl FromRequestParts<AppState> for AtBench {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let header = parts.headers.get(AT_BENCH).and_then(|value| value.to_str().ok());
        let id: Uuid =
            header.and_then(|text| text.parse().ok()).ok_or(ApiError::NobodyAtTheBench)?;
        let person = state.store.person(id).await.map_err(|_| ApiError::NobodyAtTheBench)?;
        Ok(Self(person))
    }
}

/// The time now, to the millisecond: what is kept is what was sent.
pub(crate) fn now() -> Timestamp {
    Timestamp::now().round(Unit::Millisecond).unwrap_or_else(|_| Timestamp::now())
}
