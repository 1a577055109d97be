//! The one form of an address. Routes, rights, caches and time limits all look at the path; an address
//! that one of them would read in another way than the next is no address, and is refused before any of them.

use crate::ApiError;
use axum::extract::Request;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

/// Characters that no address of this program has percent-encoded: each could make two paths of one.
const NEVER_ENCODED: [&str; 5] = ["%2f", "%5c", "%2e", "%25", "%00"];

/// Refuses what is not in normal form.
pub(crate) async fn normal(request: Request, next: Next) -> Response {
    if is_normal(request.uri().path()) {
        next.run(request).await
    } else {
        ApiError::NoSuchRoute.into_response()
    }
}

/// No empty, `.` or `..` segment, no backslash, nothing encoded that separates, and `api` in lower case.
/// A page may end in a slash, an address of the interface may not.
fn is_normal(path: &str) -> bool {
    let lower = path.to_ascii_lowercase();
    let is_api = lower == "/api" || lower.starts_with("/api/");
    let bare = if is_api { path } else { path.strip_suffix('/').unwrap_or(path) };
    let Some(rest) = bare.strip_prefix('/') else { return path == "/" };
    rest.split('/').all(|segment| !["", ".", ".."].contains(&segment))
        && (!is_api || rest.starts_with("api"))
        && !lower.contains('\\')
        && !NEVER_ENCODED.iter().any(|encoded| lower.contains(encoded))
}

#[cfg(test)]
mod tests {
    use super::is_normal;

    #[test]
    fn a_path_that_two_readers_could_take_for_two_is_none() {
        for good in ["/", "/api/board", "/jobs/1/decide", "/library/", "/livez", "/api/shelf/a%20b"]
        {
            assert!(is_normal(good), "{good}");
        }
        for bad in [
            "",
            "board",
            "//",
            "/api//board",
            "//api/board",
            "/api/board/",
            "/api/./board",
            "/api/x/../board",
            "/API/board",
            "/api%2fboard",
            "/api/board%2F",
            "/api/%2e/board",
            "/api\\board",
            "/api/%252fboard",
            "/jobs//1",
        ] {
            assert!(!is_normal(bad), "{bad}");
        }
    }
}
