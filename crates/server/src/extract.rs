//! What a handler can ask for in its signature.

use crate::access::{Access, Asking};
use crate::whole::Told;
use crate::words;
use crate::{ApiError, AppState};
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::header::CONTENT_TYPE;
use axum::http::request::Parts;
use axum::http::{HeaderMap, StatusCode};
use cobaltine_core::record::{Person, Signed};
use cobaltine_core::role::Right;
use cobaltine_store::Act;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{Timestamp, Unit};
use serde::de::DeserializeOwned;
use std::convert::Infallible;
use uuid::Uuid;

/// Header that says whom the page shows as being at the bench. Where people sign in it names nobody: it
/// refuses a command that somebody else gave before.
pub(crate) const AT_BENCH: &str = "x-at-bench";
/// Header with the PIN of a second signature.
const PIN: &str = "x-pin";
/// Header with the id of a command, the same for every retry of it.
pub(crate) const COMMAND: &str = "idempotency-key";
/// Bodies up to this size are compared by what they say, larger ones byte by byte.
const COMPARED: usize = 256 * 1024;

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
        Signed::new(self.0.id, now())
    }
}

impl FromRequestParts<AppState> for AtBench {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        if let Some(Asking::Someone(one)) = parts.extensions.get::<Asking>() {
            return Ok(Self(one.person.clone()));
        }
        if !matches!(state.access, Access::Open) {
            return Err(ApiError::SignedOut);
        }
        let header = parts.headers.get(AT_BENCH).and_then(|value| value.to_str().ok());
        let id: Uuid =
            header.and_then(|text| text.parse().ok()).ok_or(ApiError::NobodyAtTheBench)?;
        let person = state.store.person(id).await.map_err(|_| ApiError::NobodyAtTheBench)?;
        if person.retired.is_some() {
            return Err(ApiError::NobodyAtTheBench);
        }
        Ok(Self(person))
    }
}

/// The PIN of a second signature: it stands beside what is asked, so that it is kept nowhere with it.
#[derive(Debug)]
pub(crate) struct Pin(pub String);

impl<S: Send + Sync> FromRequestParts<S> for Pin {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Infallible> {
        let pin = parts.headers.get(PIN).and_then(|value| value.to_str().ok());
        Ok(Self(pin.unwrap_or_default().to_owned()))
    }
}

/// What a request asks for, with the id under which it may be asked again.
pub(crate) trait Asked: DeserializeOwned + Send {
    /// The id that the request carries; none where it names no act of its own.
    fn id(&self) -> Option<Uuid>;

    /// What it takes besides what its address does.
    fn right(&self) -> Option<Right> {
        None
    }
}

/// A command: what is asked, by whom, and under which id. Retried, it is the same act.
#[derive(Debug)]
pub(crate) struct Doing<T> {
    pub asked: T,
    pub act: Act,
    pub signed: Signed,
}

impl<T: Asked> FromRequest<AppState> for Doing<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &AppState) -> Result<Self, ApiError> {
        let (mut parts, body) = request.into_parts();
        let bench = AtBench::from_request_parts(&mut parts, state).await?;
        let signed = bench.signs();
        let asking = parts.extensions.get::<Asking>().cloned();
        let request = Request::from_parts(parts, body);
        let (asked, act) = told::<T>(request, state, Some(bench.0.id)).await?;
        let refused = asked.right().and_then(|right| asking.and_then(|one| one.refused(right)));
        refused.map_or(Ok(()), Err)?;
        Ok(Self { asked, act, signed })
    }
}

/// A command for which nobody has to be at the bench.
#[derive(Debug)]
pub(crate) struct Unsigned<T> {
    pub asked: T,
    pub act: Act,
}

impl<T: Asked> FromRequest<AppState> for Unsigned<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &AppState) -> Result<Self, ApiError> {
        let (asked, act) = told(request, state, None).await?;
        Ok(Self { asked, act })
    }
}

/// What is asked, and the act: its id from the header, else from the body, else a new one.
async fn told<T: Asked>(
    request: Request,
    state: &AppState,
    by: Option<Uuid>,
) -> Result<(T, Act), ApiError> {
    let (parts, body) = request.into_parts();
    let named = named(&parts.headers)?;
    let told = parts.extensions.get::<Told>().cloned().unwrap_or_default();
    let place = format!("{} {}\n{}\n", parts.method, parts.uri.path(), by.unwrap_or_default());
    let json = parts.headers.get(CONTENT_TYPE).and_then(|kind| kind.to_str().ok());
    let json = json.is_some_and(|kind| kind.starts_with("application/json"));
    let request = Request::from_parts(parts, body);
    if !json {
        return Err(ApiError::Body {
            status: StatusCode::UNSUPPORTED_MEDIA_TYPE,
            detail: words::REQUEST_MUST_SENT_APPLICATION.to_owned(),
        });
    }
    let bytes = Bytes::from_request(request, state).await?;
    let axum::Json(asked) = axum::Json::<T>::from_bytes(&bytes)?;
    let id = named.or_else(|| asked.id()).unwrap_or_else(Uuid::now_v7);
    let mut content = place.into_bytes();
    match serde_json::from_slice::<serde_json::Value>(&bytes) {
        Ok(value) if bytes.len() <= COMPARED => content.extend(value.to_string().bytes()),
        Ok(_) | Err(_) => content.extend(bytes),
    }
    let act = Act::new(id, &content);
    // Nobody else tells it: one request is one act.
    let _ = told.0.set(act.clone());
    Ok((asked, act))
}

/// The id of the command, where the header names one.
pub(crate) fn named(headers: &HeaderMap) -> Result<Option<Uuid>, ApiError> {
    let Some(value) = headers.get(COMMAND) else { return Ok(None) };
    let text = value.to_str().unwrap_or_default().trim_matches('"');
    text.parse().map(Some).map_err(|_| ApiError::Body {
        status: StatusCode::BAD_REQUEST,
        detail: words::must_uuid(COMMAND),
    })
}

/// A command that is told by its address alone.
#[derive(Debug)]
pub(crate) struct Bare {
    pub act: Act,
    pub signed: Signed,
}

impl FromRequest<AppState> for Bare {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &AppState) -> Result<Self, ApiError> {
        let (mut parts, body) = request.into_parts();
        let bench = AtBench::from_request_parts(&mut parts, state).await?;
        let id = named(&parts.headers)?.unwrap_or_else(Uuid::now_v7);
        let place = format!("{} {}\n{}\n", parts.method, parts.uri.path(), bench.0.id);
        let Text(text) = Text::from_request(Request::from_parts(parts, body), state).await?;
        let act = Act::new(id, format!("{place}{text}").as_bytes());
        Ok(Self { act, signed: bench.signs() })
    }
}

/// The time now, to the millisecond: what is kept is what was sent.
pub(crate) fn now() -> Timestamp {
    Timestamp::now().round(Unit::Millisecond).unwrap_or_else(|_| Timestamp::now())
}

/// Today, as the workshop's clock has it.
pub(crate) fn today() -> Date {
    TimeZone::system().to_datetime(now()).date()
}
