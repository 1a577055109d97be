//! Matching as work in the background: begun, looked at, stopped.
//!
//! Nothing is lost with what is not held any more: the same shelf and question give the same sets again.

use crate::extract::{Body, Path};
use crate::wire::{MatchingRequest, MatchingState, MatchingView};
use crate::words;
use crate::works::{Stage, Work, Works};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::matching::Progress;
use cobaltine_core::shelf::{MadeSets, MatchAsk, Tested, sets};
use cobaltine_store::StoreError;
use std::ops::ControlFlow;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;
use uuid::Uuid;

/// At work at once; one more is refused, as this machine has other things to do.
const AT_WORK: usize = 2;
/// A small shelf is done before anyone looks: the first answer waits this long for it.
const AT_ONCE: Duration = Duration::from_millis(60);

/// The matchings of this program.
#[derive(Debug, Clone, Default)]
pub struct Matchings(Works<Matching>);

/// How far a matching is.
#[derive(Debug)]
struct Matching {
    stop: Arc<AtomicBool>,
    seen: Seen,
}

#[derive(Debug)]
enum Seen {
    Running(Option<Progress>),
    Done(MadeSets),
    Refused(String),
}

impl Stage for Matching {
    const NAME: &'static str = "matching";

    fn is_running(&self) -> bool {
        matches!(self.seen, Seen::Running(_))
    }

    fn stop(&self) {
        self.stop.store(true, Ordering::Relaxed);
    }

    fn fails(&mut self, problem: &str) {
        self.seen = Seen::Refused(problem.to_owned());
    }
}

impl Matchings {
    /// Stops everything: the program ends.
    pub(crate) fn stop_all(&self) {
        self.0.stop_all();
    }
}

fn run(work: &Work<Matching>, shelf: &[Tested], ask: &MatchAsk) {
    let stop = Arc::clone(&work.stage().stop);
    let made = sets(shelf, ask, &mut |progress| {
        work.stage().seen = Seen::Running(Some(progress));
        if stop.load(Ordering::Relaxed) {
            ControlFlow::Break(())
        } else {
            ControlFlow::Continue(())
        }
    });
    work.stage().seen = match made {
        Ok(made) => Seen::Done(made),
        Err(error) => Seen::Refused(format!("{error}.")),
    };
}

fn view(work: &Work<Matching>) -> Json<MatchingView> {
    let id = work.id;
    let empty = MatchingView {
        id,
        state: MatchingState::Running,
        done: 0.0,
        sets: 0,
        bound: None,
        result: None,
        problem: String::new(),
    };
    Json(match &work.stage().seen {
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
    })
}

/// Begins to match. The same id again looks at the one that was begun.
#[utoipa::path(post, path = "/matchings", request_body = MatchingRequest, responses((status = 200, body = MatchingView)))]
pub(crate) async fn begin(
    State(state): State<AppState>,
    Body(request): Body<MatchingRequest>,
) -> Result<Json<MatchingView>, ApiError> {
    if let Some(held) = state.matchings.0.find(request.id) {
        return Ok(view(&held));
    }
    let (id, query) = (request.id, request.query());
    let kept = state.store.kept_sets(&query).await?;
    let ask = request.read(&kept).map_err(ApiError::Fields)?;
    let shelf = state.store.whole_shelf(&query).await?;
    let first = Matching { stop: Arc::default(), seen: Seen::Running(None) };
    let work = state
        .matchings
        .0
        .add(id, AT_WORK, first)
        .ok_or_else(|| StoreError::Conflict(words::matchings_already_running_stop(AT_WORK)))?;
    let at_work = Arc::clone(&work);
    let task = tokio::task::spawn_blocking(move || run(&at_work, &shelf, &ask));
    work.goes_on(task, AT_ONCE).await;
    Ok(view(&work))
}

/// How far it is.
#[utoipa::path(get, path = "/matchings/{matching}", responses((status = 200, body = MatchingView)))]
pub(crate) async fn look(
    State(state): State<AppState>,
    Path(matching): Path<Uuid>,
) -> Result<Json<MatchingView>, ApiError> {
    Ok(view(&*state.matchings.0.named(matching)?))
}

/// Stops it; what stands by then is the result.
#[utoipa::path(post, path = "/matchings/{matching}/stop", responses((status = 200, body = MatchingView)))]
pub(crate) async fn stop(
    State(state): State<AppState>,
    Path(matching): Path<Uuid>,
) -> Result<Json<MatchingView>, ApiError> {
    let work = state.matchings.0.named(matching)?;
    work.stage().stop();
    Ok(view(&work))
}
