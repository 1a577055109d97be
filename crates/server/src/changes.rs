//! What is written, told to every open screen as it happens.

use crate::AppState;
use crate::access::{Asking, may_go_on};
use axum::Extension;
use axum::extract::State;
use axum::http::HeaderMap;
use axum::response::sse::{Event, KeepAlive};
use axum::response::{IntoResponse, Sse};
use cobaltine_store::Changed;
use serde::Serialize;
use std::convert::Infallible;
use std::sync::Arc;
use std::time::Duration;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::{mpsc, watch};
use tokio_stream::wrappers::ReceiverStream;
use utoipa::ToSchema;
use uuid::Uuid;

/// Changes that wait for a screen that takes them slowly; after that it looks at everything anew.
const WAITING: usize = 32;
const ALIVE: Duration = Duration::from_secs(15);

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
) -> impl IntoResponse {
    let (to, events) = mpsc::channel::<Result<Event, Infallible>>(WAITING);
    let (mut changes, mut closing) = (state.store.changes(), state.closing.watch());
    // The first says where it stands: what was written while nobody listened is not missed.
    let all = |revision| Changed { revision, of: Vec::new(), made: false };
    let first = all(state.store.revision());
    tokio::spawn(async move {
        let mut next = Some(first);
        let mut look = tokio::time::interval(ALIVE);
        loop {
            if let Some(Changed { revision, of, made }) = next.take() {
                let event = Event::default().json_data(ChangeView { revision, of, made });
                let Ok(event) = event else { return };
                if to.send(Ok(event)).await.is_err() {
                    return;
                }
            }
            let mut looks = false;
            tokio::select! {
                changed = changes.recv() => match changed {
                    Ok(changed) => next = Some(changed),
                    Err(RecvError::Lagged(_)) => {
                        next = Some(all(state.store.revision()));
                    }
                    Err(RecvError::Closed) => return,
                },
                // Whoever was signed out hears nothing more.
                _ = look.tick() => looks = true,
                _ = closing.wait_for(|closed| *closed) => return,
                () = to.closed() => return,
            }
            if looks && !may_go_on(&state, &asking, &headers).await {
                return;
            }
        }
    });
    Sse::new(ReceiverStream::new(events)).keep_alive(KeepAlive::new().interval(ALIVE))
}
