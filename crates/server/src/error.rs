//! The one error of the interface: a problem document (RFC 9457) with words for the user.

use crate::device::InstrumentError;
use crate::unit::UnitError;
use crate::words;
use axum::Json;
use axum::body::Body;
use axum::extract::rejection::{
    BytesRejection, JsonRejection, PathRejection, QueryRejection, StringRejection,
};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use cobaltine_core::calc::CalcError;
use cobaltine_core::record::{FieldProblem, Job};
use cobaltine_store::StoreError;
use serde::Serialize;
use std::any::Any;
use utoipa::ToSchema;

/// Why a request was not done. Status and code of each are declared in [`ApiError::kind`].
#[derive(Debug, thiserror::Error)]
pub enum ApiError {
    /// From the store.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// From a computation.
    #[error(transparent)]
    Calc(#[from] CalcError),
    /// Fields that cannot be read as they were typed.
    #[error("{}", words::CHECK_MARKED_FIELDS)]
    Fields(Vec<FieldProblem>),
    /// Nobody is chosen as being at the bench.
    #[error("{}", words::CHOOSE_YOUR_NAME_FIRST)]
    NobodyAtTheBench,
    /// Nobody is in.
    #[error("{}", words::SIGN_IN_FIRST)]
    SignedOut,
    /// Whoever is in may not.
    #[error("{}", words::ROLE_DOES_NOT_ALLOW)]
    NotAllowed,
    /// Whoever is in may, after entering the password again.
    #[error("{}", words::ENTER_PASSWORD_AGAIN)]
    NotFresh,
    /// The page shows somebody else than who is in.
    #[error("{}", words::somebody_else_is_in(.0))]
    SomeoneElse(String),
    /// The sessions cannot be read or written.
    #[error("{0}")]
    Session(#[from] tower_sessions::session::Error),
    /// The body is not what this address takes.
    #[error("{detail}")]
    Body {
        /// 400, 413, 415 or 422.
        status: StatusCode,
        /// What is wrong and where.
        detail: String,
    },
    /// No such address.
    #[error("{}", words::PAGE_NOT_FOUND)]
    NoSuchRoute,
    /// The address does not take this method.
    #[error("{}", words::ADDRESS_DOES_NOT_ACCEPT)]
    WrongMethod,
    /// Asked for under a name that is not this machine's.
    #[error("{}", words::UNKNOWN_HOST_NAME_IP)]
    UnknownHost,
    /// The control unit does not answer, or says no.
    #[error(transparent)]
    Unit(#[from] UnitError),
    /// An instrument does not answer, or not with a reading.
    #[error(transparent)]
    Instrument(#[from] InstrumentError),
    /// It took too long.
    #[error("{}", words::TOOK_TOO_LONG)]
    TooSlow,
    /// A defect of the program.
    #[error("{}", words::COBALTINE_MADE_MISTAKE_NOTHING)]
    Panicked,
}

/// The problem document.
#[derive(Debug, Serialize, ToSchema)]
pub struct Problem {
    /// Always `about:blank`: the code says what it is.
    #[serde(rename = "type")]
    pub kind: &'static str,
    /// HTTP status.
    pub status: u16,
    /// For programs.
    pub code: &'static str,
    /// For people.
    pub detail: String,
    /// What is wrong with which field.
    pub fields: Vec<FieldProblem>,
    /// The job as it is now, when a stale change was refused.
    pub current: Option<Job>,
}

impl ApiError {
    /// Status and code, each declared once.
    pub fn kind(&self) -> (StatusCode, &'static str) {
        match self {
            Self::Store(error) => match error {
                StoreError::NotFound(_) => (StatusCode::NOT_FOUND, "not_found"),
                StoreError::Stale(_) => (StatusCode::CONFLICT, "stale"),
                StoreError::TooSoon { .. } => (StatusCode::TOO_MANY_REQUESTS, "too_soon"),
                StoreError::Conflict(_) => (StatusCode::CONFLICT, "conflict"),
                StoreError::Reused => (StatusCode::CONFLICT, "reused"),
                StoreError::Invalid(_) => (StatusCode::UNPROCESSABLE_ENTITY, "fields"),
                // An id or a number that is unique here is already taken, or what it names is gone.
                StoreError::Database(error)
                    if error.as_database_error().is_some_and(|why| {
                        why.is_unique_violation() || why.is_foreign_key_violation()
                    }) =>
                {
                    (StatusCode::CONFLICT, "conflict")
                }
                StoreError::DiskFull => (StatusCode::SERVICE_UNAVAILABLE, "disk_full"),
                StoreError::Disk(_) => (StatusCode::SERVICE_UNAVAILABLE, "disk"),
                StoreError::Busy => (StatusCode::SERVICE_UNAVAILABLE, "busy"),
                StoreError::ReadOnly(_) => (StatusCode::SERVICE_UNAVAILABLE, "read_only"),
                StoreError::Damaged(_) => (StatusCode::SERVICE_UNAVAILABLE, "damaged"),
                StoreError::InUse(_)
                | StoreError::Newer
                | StoreError::Database(_)
                | StoreError::Migration(_)
                | StoreError::Io(_)
                | StoreError::Torn(_)
                | StoreError::Shape(_) => (StatusCode::INTERNAL_SERVER_ERROR, "storage"),
            },
            Self::Calc(CalcError::Unknown { what: "computation", .. }) => {
                (StatusCode::NOT_FOUND, "not_found")
            }
            Self::Calc(_) => (StatusCode::UNPROCESSABLE_ENTITY, "calc"),
            Self::Fields(_) => (StatusCode::UNPROCESSABLE_ENTITY, "fields"),
            Self::NobodyAtTheBench => (StatusCode::UNAUTHORIZED, "nobody_at_the_bench"),
            Self::SignedOut => (StatusCode::UNAUTHORIZED, "signed_out"),
            Self::NotAllowed => (StatusCode::FORBIDDEN, "not_allowed"),
            Self::NotFresh => (StatusCode::FORBIDDEN, "not_fresh"),
            Self::SomeoneElse(_) => (StatusCode::CONFLICT, "someone_else"),
            Self::Session(_) => (StatusCode::INTERNAL_SERVER_ERROR, "storage"),
            Self::Body { status, .. } => (*status, "body"),
            Self::NoSuchRoute => (StatusCode::NOT_FOUND, "no_such_route"),
            Self::WrongMethod => (StatusCode::METHOD_NOT_ALLOWED, "wrong_method"),
            Self::Unit(UnitError::None) => (StatusCode::CONFLICT, "no_unit"),
            Self::Unit(UnitError::Silent | UnitError::Broke | UnitError::Line(_)) => {
                (StatusCode::CONFLICT, "unit_silent")
            }
            Self::Unit(UnitError::Writing(_)) => (StatusCode::CONFLICT, "unit_writing"),
            Self::Unit(UnitError::Refused(_) | UnitError::Low(_)) => {
                (StatusCode::CONFLICT, "unit_refused")
            }
            Self::Instrument(InstrumentError::StillRunning) => (StatusCode::CONFLICT, "running"),
            Self::Instrument(_) => (StatusCode::CONFLICT, "instrument"),
            Self::UnknownHost => (StatusCode::MISDIRECTED_REQUEST, "unknown_host"),
            Self::TooSlow => (StatusCode::SERVICE_UNAVAILABLE, "too_slow"),
            Self::Panicked => (StatusCode::INTERNAL_SERVER_ERROR, "panicked"),
        }
    }
}

impl ApiError {
    /// What is said of it, and seconds after which the same may be asked again.
    pub(crate) fn problem(self) -> (Problem, Option<i64>) {
        let (status, code) = self.kind();
        let fault = matches!(&self, Self::Store(error) if error.is_fault())
            || matches!(&self, Self::TooSlow);
        let detail = if fault {
            tracing::error!(error = ?self, "a fault");
            self.to_string()
        } else if status.is_server_error() {
            tracing::error!(error = ?self, "request failed");
            words::COBALTINE_COULD_NOT_NOTHING.to_owned()
        } else if let Self::Store(StoreError::Database(_)) = &self {
            words::ID_ALREADY_EXISTS_RECORD.to_owned()
        } else {
            self.to_string()
        };
        let wait = if let Self::Store(error) = &self {
            error.wait()
        } else {
            matches!(self, Self::TooSlow).then_some(5)
        };
        let (fields, current) = match self {
            Self::Store(StoreError::Invalid(fields)) | Self::Fields(fields) => (fields, None),
            Self::Store(StoreError::Stale(job)) => (Vec::new(), Some(*job)),
            Self::Store(_)
            | Self::Calc(_)
            | Self::NobodyAtTheBench
            | Self::SignedOut
            | Self::NotAllowed
            | Self::NotFresh
            | Self::SomeoneElse(_)
            | Self::Session(_)
            | Self::Body { .. }
            | Self::NoSuchRoute
            | Self::WrongMethod
            | Self::UnknownHost
            | Self::Unit(_)
            | Self::Instrument(_)
            | Self::TooSlow
            | Self::Panicked => (Vec::new(), None),
        };
        let status = status.as_u16();
        (Problem { kind: "about:blank", status, code, detail, fields, current }, wait)
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let (status, _) = self.kind();
        let (problem, wait) = self.problem();
        let mut response = (status, Json(problem)).into_response();
        response
            .headers_mut()
            .insert(header::CONTENT_TYPE, HeaderValue::from_static("application/problem+json"));
        if let Some(seconds) = wait {
            response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from(seconds));
        }
        response
    }
}

impl From<JsonRejection> for ApiError {
    fn from(rejection: JsonRejection) -> Self {
        Self::Body {
            status: rejection.status(),
            detail: plain(rejection.status(), &rejection.body_text()),
        }
    }
}

impl From<BytesRejection> for ApiError {
    fn from(rejection: BytesRejection) -> Self {
        Self::Body {
            status: rejection.status(),
            detail: plain(rejection.status(), &rejection.body_text()),
        }
    }
}

impl From<StringRejection> for ApiError {
    fn from(rejection: StringRejection) -> Self {
        Self::Body {
            status: rejection.status(),
            detail: plain(rejection.status(), &rejection.body_text()),
        }
    }
}

impl From<PathRejection> for ApiError {
    fn from(_: PathRejection) -> Self {
        Self::NoSuchRoute
    }
}

impl From<QueryRejection> for ApiError {
    fn from(rejection: QueryRejection) -> Self {
        Self::Body {
            status: StatusCode::BAD_REQUEST,
            detail: plain(rejection.status(), &rejection.body_text()),
        }
    }
}

fn plain(status: StatusCode, text: &str) -> String {
    if status == StatusCode::PAYLOAD_TOO_LARGE {
        return words::TOO_LARGE_ADDRESS.to_owned();
    }
    words::not_understood(text)
}

pub(crate) async fn no_such_route() -> ApiError {
    ApiError::NoSuchRoute
}

pub(crate) async fn wrong_method() -> ApiError {
    ApiError::WrongMethod
}

pub(crate) fn panicked(_: Box<dyn Any + Send>) -> axum::http::Response<Body> {
    ApiError::Panicked.into_response()
}
