//! Server-sent events for one screen that listens: as long as it takes them, is allowed to hear them, and the
//! program runs.

use crate::AppState;
use crate::access::{Asking, may_go_on};
use axum::http::HeaderMap;
use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive, KeepAliveStream};
use serde::Serialize;
use std::convert::Infallible;
use std::time::Duration;
use tokio::sync::broadcast::Receiver;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;

/// Events that wait for a screen that takes them slowly; after that it misses some.
const WAITING: usize = 32;
const ALIVE: Duration = Duration::from_secs(15);

/// One answer that goes on.
pub(crate) type Sent = Sse<KeepAliveStream<ReceiverStream<Result<Event, Infallible>>>>;

/// Who listens, and how they came in: asked again while they do.
pub(crate) struct Listener {
    pub state: AppState,
    pub asking: Asking,
    pub headers: HeaderMap,
}

impl Listener {
    /// Tells `first`, then everything that comes; `missed` is told in the place of what came too fast.
    pub(crate) fn told<T, V>(
        self,
        first: Option<T>,
        mut coming: Receiver<T>,
        missed: impl Fn(&AppState) -> Option<T> + Send + 'static,
        view: impl Fn(T) -> V + Send + 'static,
    ) -> Sent
    where
        T: Clone + Send + 'static,
        V: Serialize,
    {
        let (to, events) = mpsc::channel::<Result<Event, Infallible>>(WAITING);
        let Self { state, asking, headers } = self;
        let mut closing = state.closing.watch();
        tokio::spawn(async move {
            let mut next = first;
            let mut look = tokio::time::interval(ALIVE);
            loop {
                if let Some(one) = next.take() {
                    let Ok(event) = Event::default().json_data(view(one)) else { return };
                    if to.send(Ok(event)).await.is_err() {
                        return;
                    }
                }
                let mut looks = false;
                tokio::select! {
                    came = coming.recv() => match came {
                        Ok(one) => next = Some(one),
                        Err(RecvError::Lagged(_)) => next = missed(&state),
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
}
