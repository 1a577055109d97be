//! The front end, inside the program. Built files carry their hash in the name and are
//! kept for a year; everything else is the one page, whose router takes over.

use crate::ApiError;
use crate::words;
use axum::http::{HeaderMap, StatusCode, Uri, header};
use axum::response::{Html, IntoResponse, Response};
use rust_embed::{EmbeddedFile, RustEmbed};

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Dist;

const NOT_BUILT: &str = words::DOCTYPE_HTML_TITLE_COBALTINE;

pub(crate) async fn serve(uri: Uri, headers: HeaderMap) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("assets/") {
        return match Dist::get(path) {
            Some(file) => hashed(path, file, &headers),
            None => StatusCode::NOT_FOUND.into_response(),
        };
    }
    // What stands nowhere under the interface is no page.
    if path.split('/').next() == Some("api") {
        return ApiError::NoSuchRoute.into_response();
    }
    match Dist::get("index.html") {
        Some(page) => Html(page.data).into_response(),
        None => (StatusCode::SERVICE_UNAVAILABLE, Html(NOT_BUILT)).into_response(),
    }
}

fn hashed(path: &str, plain: EmbeddedFile, headers: &HeaderMap) -> Response {
    let kind = mime_guess::from_path(path).first_or_octet_stream().to_string();
    let forever = "public, max-age=31536000, immutable".to_owned();
    let accepts = headers.get(header::ACCEPT_ENCODING).and_then(|v| v.to_str().ok()).unwrap_or("");
    // The build leaves a compressed twin beside each text file: no work per request.
    match Dist::get(&format!("{path}.gz")).filter(|_| accepts.contains("gzip")) {
        Some(packed) => {
            let head = [
                (header::CONTENT_TYPE, kind),
                (header::CACHE_CONTROL, forever),
                (header::CONTENT_ENCODING, "gzip".to_owned()),
            ];
            (head, packed.data).into_response()
        }
        None => {
            let head = [(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, forever)];
            (head, plain.data).into_response()
        }
    }
}
