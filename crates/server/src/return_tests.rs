//! Return tests: set up, run, read.

use crate::extract::{Doing, Path, Query, now};
use crate::jobs::kept;
use crate::wire::{
    AsideRequest, BeginRunRequest, FormsParams, KeptView, ReadingRequest, ReturnForm, SetUpRequest,
};
use crate::{ApiError, AppState, live, return_plan};
use axum::Json;
use axum::extract::State;
use cobaltine_core::caution::{self, Work};
use cobaltine_core::instrument_link::Quantity;
use cobaltine_core::job::{Command, NewReading, NewRun, apply};
use cobaltine_core::record::{FieldProblem, ReadingKind, Signed, TestRecord};
use cobaltine_core::typed::Field;
use cobaltine_core::work::Regime;
use cobaltine_store::StoreError;
use uuid::Uuid;

/// Sets a test up with the limit, the rules and the instruments of today.
#[utoipa::path(post, path = "/jobs/{job}/return-tests", request_body = SetUpRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn set_up(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<SetUpRequest>,
) -> Result<Json<KeptView>, ApiError> {
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let known = return_plan::look_up(&state, job, &request).await?;
    let setup = request.setup(known.for_test).map_err(ApiError::Fields)?;
    let command = Command::SetUpTest { id: request.id, setup: Box::new(setup) };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

/// What a return test needs before it, regime by regime.
#[utoipa::path(get, path = "/return-tests", params(FormsParams), responses((status = 200, body = Vec<ReturnForm>)))]
pub(crate) async fn forms(Query(params): Query<FormsParams>) -> Json<Vec<ReturnForm>> {
    let more = params.fuel.map(|fuel| Work::Return.cautions(fuel)).unwrap_or_default();
    let form = |regime: Regime| ReturnForm {
        regime,
        start: TestRecord::start(regime).iter().map(|id| id.form()).collect(),
        cautions: match regime {
            Regime::Cranking => vec![caution::JET, caution::CRANKING, caution::WASTE],
            Regime::IdleOnly | Regime::Stepped => {
                vec![caution::JET, caution::RUNNING, caution::HOT]
            }
        }
        .into_iter()
        .chain(more.clone())
        .collect(),
    };
    Json(Regime::ALL.into_iter().map(form).collect())
}

/// Begins a run, with or without the timer of the program.
#[utoipa::path(post, path = "/return-tests/{test}/runs", request_body = BeginRunRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn begin_run(
    State(state): State<AppState>,
    Path(test): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<BeginRunRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let job = state.store.job_with(test, "return test").await?;
    // The bottles are emptied at the start of the timer: an instrument that cannot, begins no run.
    let done = state.store.done_before(&act).await?;
    let new = NewRun {
        id: request.id,
        test,
        timer: request.timer,
        phase: request.phase,
        bank: request.bank,
        ticked: request.ticked,
        caught_by: None,
    };
    let stream = match request.connection.filter(|_| request.timer && !done) {
        Some(connection) => {
            // A run that is refused leaves what is in the bottles.
            let held = state.store.state(job).await?;
            apply(&held.file, Command::BeginRun(new.clone()), signed).map_err(StoreError::from)?;
            let connection = state.store.connection(connection).await?;
            let stream = state.streams.of(&state, &connection, Some(Quantity::Volume))?;
            let by = stream.init(request.id).await?;
            Some((stream, by))
        }
        None => None,
    };
    let new = NewRun { caught_by: stream.as_ref().map(|(_, by)| by.clone()), ..new };
    // As late as the bottles were empty: the time of the run is that of what is in them.
    let signed = Signed::new(signed.by, now());
    let begun = state.store.apply(job, &act, Command::BeginRun(new), signed).await?;
    if let Some((stream, _)) = stream {
        let held = state.store.state(job).await?;
        let found = live::run_of(&held.file, request.id).ok_or(StoreError::NotFound("run"))?;
        live::catch_run(&state, &stream, &held.file, found, signed.by)?;
    }
    Ok(kept(begun))
}

/// Keeps a reading, or says beside the field why not.
#[utoipa::path(post, path = "/runs/{run}/readings", request_body = ReadingRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn add_reading(
    State(state): State<AppState>,
    Path(run): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<ReadingRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let field = match request.kind {
        ReadingKind::Level => Some(Field::LEVEL.bare()),
        ReadingKind::Overflow | ReadingKind::Mark | ReadingKind::RunTime => {
            Some(Field::RUN_TIME.bare())
        }
        ReadingKind::Void => None,
    };
    let value = match (&request.typed, field) {
        (Some(text), Some(field)) => Some(field.read(text).map_err(|error| {
            ApiError::Fields(vec![FieldProblem::new("typed", error.to_string())])
        })?),
        (None, _) | (_, None) => None,
    };
    let new = NewReading {
        id: request.id,
        run,
        cylinder: request.cylinder,
        kind: request.kind,
        value,
        typed: request.typed.unwrap_or_default(),
        corrects: request.corrects,
        why: request.why,
        shown_by: None,
    };
    let job = state.store.job_with(run, "run").await?;
    let ends = new.kind == ReadingKind::RunTime;
    let read = state.store.apply(job, &act, Command::Read(new), signed).await?;
    if ends {
        live::let_go(&state, run).await;
    }
    Ok(kept(read))
}

/// Keeps a run but lets it not count, or lets it count again.
#[utoipa::path(post, path = "/runs/{run}/aside", request_body = AsideRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn set_aside(
    State(state): State<AppState>,
    Path(run): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<AsideRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let job = state.store.job_with(run, "run").await?;
    let command = if request.back {
        Command::CountRun { run }
    } else {
        Command::SetRunAside { run, reason: request.reason }
    };
    let set = state.store.apply(job, &act, command, signed).await?;
    live::let_go(&state, run).await;
    Ok(kept(set))
}
