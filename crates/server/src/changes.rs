//! What is written, told to every open screen as it happens.

use crate::AppState;
use crate::access::Asking;
use crate::events_sent::{Listener, Sent};
use axum::Extension;
use axum::extract::State;
use axum::http::HeaderMap;
use cobaltine_store::Changed;
use serde::Serialize;
use std::sync::Arc;
use tokio::sync::watch;
use utoipa::ToSchema;
use uuid::Uuid;

/// Something was written.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangeView {
    /// Goes up with everything that is written, from the start of the program.
    pub revision: u64,
    /// Jobs and sessions that it was written to; none when it may concern everything.
    pub of: Vec<Uuid>,
    /// Nothing was written but what is made from it: lists change, and the job does not.
    pub made: bool,
}

/// Tells the screens that listen that the program ends: they hold no one up.
#[derive(Debug, Clone)]
pub struct Closing(Arc<watch::Sender<bool>>);

impl Default for Closing {
    fn default() -> Self {
        Self(Arc::new(watch::channel(false).0))
    }
}

impl Closing {
    pub(crate) fn watch(&self) -> watch::Receiver<bool> {
        self.0.subscribe()
    }

    pub(crate) fn is_closed(&self) -> bool {
        *self.0.borrow()
    }

    pub(crate) fn close(&self) {
        self.0.send_replace(true);
    }
}

/// Everything that is written from now on, as server-sent events.
#[utoipa::path(get, path = "/changes", responses((status = 200, content_type = "text/event-stream", body = ChangeView)))]
pub(crate) async fn listen(
    State(state): State<AppState>,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
) -> Sent {
    let changes = state.store.changes();
    // The first says where it stands: what was written while nobody listened is not missed.
    let all = |state: &AppState| {
        Some(Changed { revision: state.store.revision(), of: Vec::new(), made: false })
    };
    let first = all(&state);
    let view = |Changed { revision, of, made }| ChangeView { revision, of, made };
    Listener { state, asking, headers }.told(first, changes, all, view)
}
