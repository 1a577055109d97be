//! The demo workshop beside this one: at an address and in a folder of its own, so that nothing of it
//! ever mixes with the jobs of the workshop.

use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_store::StoreError;
use serde::Serialize;
use std::fmt;
use std::pin::Pin;
use std::sync::Arc;
use tokio::sync::Mutex;
use utoipa::ToSchema;

/// Opens the demo workshop and tells its port; the program knows how, the server only asks.
pub type OpenDemo = Arc<
    dyn Fn() -> Pin<Box<dyn Future<Output = Result<u16, String>> + Send>> + Send + Sync + 'static,
>;

/// The door between a workshop and its demo.
#[derive(Clone, Default)]
pub struct DemoDoor {
    /// Opens it; none where there is none to be opened.
    open: Option<OpenDemo>,
    /// The port of the workshop that this one is the demo of.
    home: Option<u16>,
    /// The port of the one that was opened.
    opened: Arc<Mutex<Option<u16>>>,
}

impl fmt::Debug for DemoDoor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("DemoDoor").field("home", &self.home).finish_non_exhaustive()
    }
}

impl DemoDoor {
    /// The door of a workshop.
    pub fn to(open: OpenDemo) -> Self {
        Self { open: Some(open), ..Self::default() }
    }

    /// The door of the demo, back to its workshop.
    pub fn back(home: u16) -> Self {
        Self { home: Some(home), ..Self::default() }
    }
}

/// How this workshop stands to the demo.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct DemoView {
    /// A demo workshop can be opened beside this one.
    pub offered: bool,
    /// The port of the demo, once it was opened.
    pub port: Option<u16>,
    /// This is the demo; its own workshop is at this port.
    pub home: Option<u16>,
}

/// How this workshop stands to the demo.
#[utoipa::path(get, path = "/demo", responses((status = 200, body = DemoView)))]
pub(crate) async fn read(State(state): State<AppState>) -> Json<DemoView> {
    let door = &state.demo;
    let port = *door.opened.lock().await;
    Json(DemoView { offered: door.open.is_some(), port, home: door.home })
}

/// Opens the demo workshop; a second time changes nothing.
#[utoipa::path(post, path = "/demo", responses((status = 200, body = DemoView)))]
pub(crate) async fn open(State(state): State<AppState>) -> Result<Json<DemoView>, ApiError> {
    let door = &state.demo;
    let Some(open) = &door.open else {
        return Err(StoreError::Conflict(words::NO_DEMO_HERE.to_owned()).into());
    };
    let mut opened = door.opened.lock().await;
    if opened.is_none() {
        let port =
            open().await.map_err(|why| StoreError::Conflict(words::demo_not_opened(&why)))?;
        *opened = Some(port);
    }
    Ok(Json(DemoView { offered: true, port: *opened, home: door.home }))
}
