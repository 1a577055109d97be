//! Whom the program answers to: a page elsewhere can point its own name at this machine and
//! then ask as if it were ours. Only numeric addresses, `localhost` and names given at the
//! start are answered.

use crate::words;
use crate::{ApiError, AppState};
use axum::extract::{Request, State};
use axum::http::header::HOST;
use axum::http::{Method, StatusCode};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use std::net::IpAddr;

pub(crate) async fn known(State(state): State<AppState>, request: Request, next: Next) -> Response {
    // A proxy must not be made to pass on one and check another.
    if request.headers().get_all(HOST).iter().count() != 1 || request.uri().authority().is_some() {
        let detail = words::ONE_HOST.to_owned();
        return ApiError::Body { status: StatusCode::BAD_REQUEST, detail }.into_response();
    }
    if matches!(*request.method(), Method::TRACE | Method::CONNECT) {
        return ApiError::WrongMethod.into_response();
    }
    let host = request.headers().get(HOST).and_then(|host| host.to_str().ok());
    if host.is_some_and(|host| is_known(host, &state.names)) {
        next.run(request).await
    } else {
        ApiError::UnknownHost.into_response()
    }
}

fn is_known(host: &str, names: &[String]) -> bool {
    // An IPv6 address stands in brackets, so the port begins at the last colon behind them.
    let bare = match host.rsplit_once(':') {
        Some((before, port)) if port.bytes().all(|b| b.is_ascii_digit()) => before,
        Some(_) | None => host,
    };
    let bare = bare.trim_start_matches('[').trim_end_matches(']');
    bare.parse::<IpAddr>().is_ok()
        || bare.eq_ignore_ascii_case("localhost")
        || names.iter().any(|name| name.eq_ignore_ascii_case(bare))
}
