//! Jobs: take in, read, change.

use crate::extract::{Body, Doing, Path};
use crate::wire::{
    BenchPlanView, ChangeIntakeRequest, ImportedBy, JobView, KeptView, LayoutView, TakeInRequest,
};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::engine::Layout;
use cobaltine_core::job::Command;
use cobaltine_store::{Kept, TakeIn, TakenBy};
use uuid::Uuid;

/// A job as it goes over the wire: judged, with its one next step.
async fn view(state: &AppState, job: Uuid) -> Result<Json<JobView>, ApiError> {
    let held = state.store.judged(job).await?;
    let imported = match state.store.imported_by(job).await? {
        Some(TakenBy { by: Some(by), at }) => {
            Some(ImportedBy { name: state.store.person(by).await?.name, at })
        }
        Some(TakenBy { by: None, at }) => {
            Some(ImportedBy { name: "the command line".to_owned(), at })
        }
        None => None,
    };
    JobView::of(&held, imported).map(Json)
}

/// What a command added: a view that shows the job asks for it anew.
pub(crate) fn kept(kept: Kept) -> Json<KeptView> {
    Json(KeptView { job: kept.job, entries: kept.entries })
}

/// Takes a job in. Asking twice with the same id makes one job.
#[utoipa::path(post, path = "/jobs", request_body = TakeInRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn take_in(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<TakeInRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let TakeInRequest { id, intake, labels } = request;
    let new = TakeIn { id, intake, labels, exercise: None };
    Ok(kept(state.store.take_in(&act, &new, signed).await?))
}

/// A job with its verdicts.
#[utoipa::path(get, path = "/jobs/{job}", responses((status = 200, body = JobView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<JobView>, ApiError> {
    view(&state, job).await
}

/// Changes the intake; a stale change is refused with the job as it is now.
#[utoipa::path(put, path = "/jobs/{job}/intake", request_body = ChangeIntakeRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn change_intake(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<ChangeIntakeRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let ChangeIntakeRequest { revision, intake, labels } = request;
    let intake = Box::new(intake);
    let change = Command::ChangeIntake { id: act.id, revision, intake, labels };
    Ok(kept(state.store.apply(job, &act, change, signed).await?))
}

/// How an engine would be drawn; nothing is kept.
#[utoipa::path(post, path = "/layout", request_body = Layout, responses((status = 200, body = LayoutView)))]
pub(crate) async fn layout(Body(layout): Body<Layout>) -> Json<LayoutView> {
    Json(LayoutView::of(layout))
}
/// The bench plan of a job's family, where the library has one.
#[utoipa::path(get, path = "/jobs/{job}/bench-plan", responses((status = 200, body = BenchPlanView)))]
pub(crate) async fn bench_plan(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<BenchPlanView>, ApiError> {
    let plan = match &state.store.state(job).await?.file.family {
        Some(family) => state.store.plan_of_family(family).await?,
        None => None,
    };
    Ok(Json(BenchPlanView { plan }))
}
