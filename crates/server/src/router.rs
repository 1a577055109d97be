//! The way of every request: what lies around the addresses.

use crate::sign_ins::SignInStore;
use crate::words;
use crate::{
    Access, AppState, access, addresses, assets, error, fresh, host, in_time, openapi, path,
    people, whole,
};
use axum::Router;
use axum::extract::DefaultBodyLimit;
use axum::http::{HeaderName, HeaderValue, header};
use axum::middleware::{from_fn, from_fn_with_state, map_response};
use axum::routing::get;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::trace::TraceLayer;
use tower_sessions::cookie::SameSite;
use tower_sessions::{Expiry, SessionManagerLayer};

/// Largest ordinary request.
const BODY_LIMIT: usize = 256 * 1024;
/// Scripts, fonts and pictures come from here and nowhere else. Styles may be inline: the
/// control library writes its style sheets at run time. No page can be framed.
const POLICY: &str = words::DEFAULT_SRC_SELF_SCRIPT;

pub(crate) fn router(state: AppState) -> Router {
    let api = Router::from(addresses::api())
        .route("/openapi.json", get(openapi::document))
        .route("/schema/job.json", get(openapi::job_file))
        .route("/schema/library.json", get(openapi::library_file))
        .route("/schema/workshop-line.json", get(openapi::workshop_line))
        // Inside the routes: what matches none is never looked up among the kept answers.
        .route_layer(from_fn_with_state(state.clone(), fresh::tagged))
        .fallback(error::no_such_route)
        .method_not_allowed_fallback(error::wrong_method)
        .layer(map_response(fresh::clock))
        .layer(from_fn_with_state(state.clone(), whole::whole))
        .layer(from_fn_with_state(state.clone(), access::guarded))
        .layer(sessions(&state))
        .layer(from_fn(access::kept_cookies));
    let fixed = |name: HeaderName, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(name, HeaderValue::from_static(value))
    };
    Router::new()
        .route("/livez", get(people::live))
        .route("/healthz", get(people::health))
        .nest("/api", api)
        .fallback(assets::serve)
        .layer(DefaultBodyLimit::max(BODY_LIMIT))
        .layer(CatchPanicLayer::custom(error::panicked))
        .layer(CompressionLayer::new())
        .layer(from_fn_with_state(state.clone(), in_time::in_time))
        .layer(fixed(header::CONTENT_SECURITY_POLICY, POLICY))
        .layer(fixed(header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .layer(fixed(header::REFERRER_POLICY, "no-referrer"))
        .layer(fixed(header::CACHE_CONTROL, "no-store"))
        .layer(from_fn(path::normal))
        .layer(from_fn_with_state(state.clone(), host::known))
        .layer(TraceLayer::new_for_http())
        .with_state(state)
}

/// Cookies that no script reads and no page elsewhere sends.
fn sessions(state: &AppState) -> SessionManagerLayer<SignInStore> {
    let secure = match &state.access {
        Access::Accounts(accounts) => accounts.secure,
        Access::Open => false,
    };
    SessionManagerLayer::new(SignInStore(state.store.clone()))
        .with_name(access::session_cookie(state.port))
        .with_http_only(true)
        .with_same_site(SameSite::Strict)
        .with_secure(secure)
        .with_expiry(Expiry::OnInactivity(access::KEPT))
}
