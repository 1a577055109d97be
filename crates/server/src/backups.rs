//! Backups of the workshop: made in the background, by the clock or when asked, with age and size shown.

use crate::extract::now;
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use cobaltine_store::{Manifest, StoreError, back_up, backups};
use jiff::{SignedDuration, Timestamp};
use serde::Serialize;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use utoipa::ToSchema;

/// How often it is looked whether one is due.
const LOOK: Duration = Duration::from_secs(60);
/// How many are shown.
const SHOWN: usize = 5;

/// Where backups go, and how often.
#[derive(Debug, Clone)]
pub struct BackupPlan {
    /// Folder of the data.
    pub data: PathBuf,
    /// Folder of the backups.
    pub to: PathBuf,
    /// Hours between two; 0 makes none by the clock.
    pub every: u32,
    /// How many are kept.
    pub keep: usize,
}

/// The plan, and what became of it.
#[derive(Debug, Clone, Default)]
pub struct Backups {
    plan: Option<Arc<BackupPlan>>,
    running: Arc<Mutex<Running>>,
}

#[derive(Debug, Default)]
struct Running {
    now: bool,
    failed: Option<String>,
}

/// Backups as Workshop shows them.
#[derive(Debug, Serialize, ToSchema)]
pub struct BackupsView {
    /// Their folder; none where this workshop makes none.
    pub to: Option<String>,
    /// Hours between two; 0 makes none by the clock.
    pub every: u32,
    /// How many are kept.
    pub keep: u32,
    /// One is being made.
    pub running: bool,
    /// Why the last one was not made.
    pub failed: Option<String>,
    /// One should have been made by now.
    pub overdue: bool,
    /// The newest of them.
    pub newest: Vec<Manifest>,
}

impl Backups {
    /// Backups by this plan.
    pub fn by(plan: BackupPlan) -> Self {
        Self { plan: Some(Arc::new(plan)), running: Arc::default() }
    }

    fn running(&self) -> std::sync::MutexGuard<'_, Running> {
        self.running.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Begins one, unless one is being made.
    fn begin(&self, at: Timestamp) {
        let Some(plan) = self.plan.clone() else { return };
        if std::mem::replace(&mut self.running().now, true) {
            return;
        }
        let running = self.clone();
        tokio::spawn(async move {
            let made = back_up(&plan.data, &plan.to, plan.keep, at).await;
            if let Err(error) = &made {
                tracing::error!(%error, "no backup was made");
            }
            *running.running() = Running { now: false, failed: made.err().map(|e| e.to_string()) };
        });
    }

    /// Makes one whenever it is due, for as long as the program runs.
    pub async fn by_the_clock(self) {
        let mut look = tokio::time::interval(LOOK);
        loop {
            look.tick().await;
            let Some(plan) = self.plan.as_deref().filter(|plan| plan.every > 0) else { return };
            match backups(&plan.to) {
                Ok(made) => {
                    let last = made.first().map(|one| one.manifest.at);
                    if due(plan, last, now(), 1) {
                        self.begin(now());
                    }
                }
                Err(error) => self.running().failed = Some(error.to_string()),
            }
        }
    }
}

/// Whether the next one is due, so many times the pause after the last.
fn due(plan: &BackupPlan, last: Option<Timestamp>, at: Timestamp, times: u32) -> bool {
    let pause = SignedDuration::from_hours(i64::from(plan.every * times));
    plan.every > 0 && last.is_none_or(|last| at.duration_since(last) >= pause)
}

fn view(state: &AppState) -> Result<Json<BackupsView>, ApiError> {
    let Some(plan) = state.backups.plan.as_deref() else {
        let none = BackupsView {
            to: None,
            every: 0,
            keep: 0,
            running: false,
            failed: None,
            overdue: false,
            newest: Vec::new(),
        };
        return Ok(Json(none));
    };
    let newest: Vec<_> =
        backups(&plan.to)?.into_iter().map(|one| one.manifest).take(SHOWN).collect();
    let overdue = due(plan, newest.first().map(|one| one.at), now(), 2);
    let running = state.backups.running();
    Ok(Json(BackupsView {
        to: Some(plan.to.display().to_string()),
        every: plan.every,
        keep: u32::try_from(plan.keep).unwrap_or(u32::MAX),
        running: running.now,
        failed: running.failed.clone(),
        overdue,
        newest,
    }))
}

/// Backups, their age and size.
#[utoipa::path(get, path = "/backups", responses((status = 200, body = BackupsView)))]
pub(crate) async fn read(State(state): State<AppState>) -> Result<Json<BackupsView>, ApiError> {
    view(&state)
}

/// Makes a backup now, in the background; while one is being made it changes nothing.
#[utoipa::path(post, path = "/backups", responses((status = 202, body = BackupsView)))]
pub(crate) async fn make(
    State(state): State<AppState>,
) -> Result<(StatusCode, Json<BackupsView>), ApiError> {
    if state.backups.plan.is_none() {
        return Err(StoreError::Conflict(words::NO_BACKUPS_HERE.to_owned()).into());
    }
    state.backups.begin(now());
    Ok((StatusCode::ACCEPTED, view(&state)?))
}
