//! Matching as work in the background: begun, looked at, stopped.
//!
//! A few are held in memory, those that are done as long as there is room; nothing is lost with
//! them, since the same shelf and question give the same sets again.

use crate::extract::{Body, Path};
use crate::wire::{MatchingRequest, MatchingState, MatchingView};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::matching::Progress;
use cobaltine_core::shelf::{MadeSets, MatchAsk, Tested, sets};
use cobaltine_store::StoreError;
use std::collections::VecDeque;
use std::ops::ControlFlow;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;
use uuid::Uuid;

/// At work at once; one more is refused, as this machine has other things to do.
const AT_WORK: usize = 2;
/// Held altogether.
const HELD: usize = 16;
/// A small shelf is done before anyone looks: the first answer waits this long for it.
const AT_ONCE: Duration = Duration::from_millis(60);

/// The matchings of this program.
#[derive(Debug, Clone, Default)]
pub struct Matchings(Arc<Mutex<VecDeque<Arc<Work>>>>);

#[derive(Debug)]
struct Work {
    id: Uuid,
    stop: AtomicBool,
    seen: Mutex<Seen>,
}

#[derive(Debug)]
enum Seen {
    Running(Option<Progress>),
    Done(MadeSets),
    Refused(String),
}

/// A lock that a panic left behind still holds what was written last.
fn hold<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Matchings {
    fn find(&self, id: Uuid) -> Option<Arc<Work>> {
        hold(&self.0).iter().find(|work| work.id == id).cloned()
    }

    /// A place for new work; the oldest that is done makes room.
    fn add(&self, id: Uuid) -> Result<Arc<Work>, ApiError> {
        let mut held = hold(&self.0);
        let running = |work: &Arc<Work>| matches!(*hold(&work.seen), Seen::Running(_));
        if held.iter().filter(|work| running(work)).count() >= AT_WORK {
            let says = words::matchings_already_running_stop(AT_WORK);
            return Err(StoreError::Conflict(says).into());
        }
        while held.len() >= HELD {
            let Some(done) = held.iter().position(|work| !running(work)) else { break };
            held.remove(done);
        }
        let seen = Mutex::new(Seen::Running(None));
        let work = Arc::new(Work { id, stop: AtomicBool::new(false), seen });
        held.push_back(Arc::clone(&work));
        Ok(work)
    }

    /// Stops everything: the program ends.
    pub(crate) fn stop_all(&self) {
        hold(&self.0).iter().for_each(|work| work.stop.store(true, Ordering::Relaxed));
    }
}

impl Work {
    fn run(&self, shelf: &[Tested], ask: &MatchAsk) {
        let made = sets(shelf, ask, &mut |progress| {
            *hold(&self.seen) = Seen::Running(Some(progress));
            if self.stop.load(Ordering::Relaxed) {
                ControlFlow::Break(())
            } else {
                ControlFlow::Continue(())
            }
        });
        *hold(&self.seen) = match made {
            Ok(made) => Seen::Done(made),
            Err(error) => Seen::Refused(format!("{error}.")),
        };
    }

    fn view(&self) -> MatchingView {
        let id = self.id;
        let empty = MatchingView {
            id,
            state: MatchingState::Running,
            done: 0.0,
            sets: 0,
            bound: None,
            result: None,
            problem: String::new(),
        };
        match &*hold(&self.seen) {
            Seen::Running(None) => empty,
            Seen::Running(Some(at)) => MatchingView {
                done: at.step as f64 / at.steps.max(1) as f64,
                sets: at.sets,
                bound: Some(at.bound),
                ..empty
            },
            Seen::Done(made) => MatchingView {
                state: MatchingState::Done,
                done: 1.0,
                sets: made.sets.len(),
                bound: Some(made.bound),
                result: Some(made.clone()),
                ..empty
            },
            Seen::Refused(problem) => {
                MatchingView { state: MatchingState::Refused, problem: problem.clone(), ..empty }
            }
        }
    }
}

/// Begins to match. The same id again looks at the one that was begun.
#[utoipa::path(post, path = "/matchings", request_body = MatchingRequest, responses((status = 200, body = MatchingView)))]
pub(crate) async fn begin(
    State(state): State<AppState>,
    Body(request): Body<MatchingRequest>,
) -> Result<Json<MatchingView>, ApiError> {
    if let Some(held) = state.matchings.find(request.id) {
        return Ok(Json(held.view()));
    }
    let (id, query) = (request.id, request.query());
    let kept = state.store.kept_sets(&query).await?;
    let ask = request.read(&kept).map_err(ApiError::Fields)?;
    let shelf = state.store.whole_shelf(&query).await?;
    let work = state.matchings.add(id)?;
    let at_work = Arc::clone(&work);
    let task = tokio::task::spawn_blocking(move || at_work.run(&shelf, &ask));
    if let Ok(Err(error)) = tokio::time::timeout(AT_ONCE, task).await {
        tracing::error!(%error, "matching failed");
        *hold(&work.seen) = Seen::Refused(words::COBALTINE_MADE_MISTAKE_SEE.to_owned());
    }
    Ok(Json(work.view()))
}

/// How far it is.
#[utoipa::path(get, path = "/matchings/{matching}", responses((status = 200, body = MatchingView)))]
pub(crate) async fn look(
    State(state): State<AppState>,
    Path(matching): Path<Uuid>,
) -> Result<Json<MatchingView>, ApiError> {
    let work = state.matchings.find(matching).ok_or(StoreError::NotFound("matching"))?;
    Ok(Json(work.view()))
}

/// Stops it; what stands by then is the result.
#[utoipa::path(post, path = "/matchings/{matching}/stop", responses((status = 200, body = MatchingView)))]
pub(crate) async fn stop(
    State(state): State<AppState>,
    Path(matching): Path<Uuid>,
) -> Result<Json<MatchingView>, ApiError> {
    let work = state.matchings.find(matching).ok_or(StoreError::NotFound("matching"))?;
    work.stop.store(true, Ordering::Relaxed);
    Ok(Json(work.view()))
}
