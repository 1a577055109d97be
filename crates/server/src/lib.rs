//! The HTTP interface of Cobaltine: a router on one screen, one file per noun, the wire types
//! in one module, one [`ApiError`].
//!
//! [`serve`] starts from a listener and ends when told, so that tests start the real thing.

mod assets;
mod bench;
mod bench_files;
mod board;
mod calc;
mod calculators;
mod decisions;
mod error;
mod events;
mod extract;
mod host;
mod instruments;
mod jobs;
mod judgement;
mod library;
mod library_text;
mod openapi;
mod people;
mod return_plan;
mod return_tests;
mod router;
mod rules;
mod sheets;
mod traces;
mod transfer;
pub mod wire;

pub use error::ApiError;
pub use openapi::{job_schema, library_schema, openapi_json};

use cobaltine_store::Store;
use std::future::Future;
use tokio::net::TcpListener;

/// What every handler can ask for.
#[derive(Debug, Clone)]
pub struct AppState {
    /// The data of the workshop.
    pub store: Store,
    /// Names of this machine that are answered besides its addresses.
    pub names: Vec<String>,
}

/// Serves until `shutdown` is done, then lets open requests finish.
///
/// # Errors
/// When the listener fails.
pub async fn serve(
    state: AppState,
    listener: TcpListener,
    shutdown: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    let app = router::router(state);
    axum::serve(listener, app).with_graceful_shutdown(shutdown).await
}
