//! Running tests: what an instrument shows, told to every screen that looks, and caught for a run or a
//! trace.

use crate::access::Asking;
use crate::catch::{Catch, keeps};
use crate::device::InstrumentError;
use crate::events_sent::{Listener, Sent};
use crate::extract::{Bare, Doing, Path, Query, now};
use crate::jobs::kept;
use crate::streams::{LiveView, Stream};
use crate::wire::{CatchRequest, EndTraceRequest, KeptView, LiveParams, RawParams};
use crate::{ApiError, AppState, words};
use axum::body::Bytes;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::{IntoResponse, Response};
use axum::{Extension, Json};
use cobaltine_core::catching::Catching;
use cobaltine_core::job::Command;
use cobaltine_core::raw::unpack;
use cobaltine_core::record::{FieldProblem, JobFile, RawStretch, RunRecord, TestRecord, Trace};
use cobaltine_core::trace::{find_drops, thinned};
use std::fmt::Write as _;
use std::sync::Arc;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Everything that an instrument shows from now on, as server-sent events.
#[utoipa::path(get, path = "/connections/{connection}/live", params(LiveParams), responses((status = 200, content_type = "text/event-stream", body = LiveView)))]
pub(crate) async fn listen(
    State(state): State<AppState>,
    Path(connection): Path<Uuid>,
    Query(params): Query<LiveParams>,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
) -> Result<Sent, ApiError> {
    let connection = state.store.connection(connection).await?;
    let stream = state.streams.of(&state, &connection, params.quantity)?;
    let (looks, last) = stream.look();
    drop(stream);
    // A screen that takes its time sees by the numbers that it missed some.
    let listener = Listener { state, asking, headers };
    Ok(listener.told(last, looks, |_| None, |look: Arc<LiveView>| look.as_ref().clone()))
}

/// Catches a run with a stream: from the start of its timer.
pub(crate) fn catch_run(
    state: &AppState,
    stream: &Arc<Stream>,
    file: &JobFile,
    (test, run): (&TestRecord, &RunRecord),
    by: Uuid,
) -> Result<(), InstrumentError> {
    let keep = keeps(state.clone(), file.job.id, run.id, by);
    let started = run.started_at.unwrap_or_else(now);
    let gone = Duration::try_from(now().duration_since(started)).unwrap_or_default();
    let began = Instant::now().checked_sub(gone).unwrap_or_else(Instant::now);
    let covers = run.covers(&file.job.intake.layout);
    stream.catch(Catch::new(run.id, began, Catching::run(test, run, &covers), keep))
}

/// The run of a job, with its test.
pub(crate) fn run_of(file: &JobFile, run: Uuid) -> Option<(&TestRecord, &RunRecord)> {
    let of = |test: &TestRecord| test.runs.iter().any(|one| one.id == run);
    let test = file.return_tests.iter().find(|test| of(test))?;
    Some((test, test.runs.iter().find(|one| one.id == run)?))
}

/// Takes a running run up again that nobody catches any more: the program was started anew.
#[utoipa::path(post, path = "/runs/{run}/live", responses((status = 204)))]
pub(crate) async fn take_up(
    State(state): State<AppState>,
    Path(run): Path<Uuid>,
    Bare { signed, .. }: Bare,
) -> Result<StatusCode, ApiError> {
    let job = state.store.job_with(run, "run").await?;
    let held = state.store.state(job).await?;
    let found = run_of(&held.file, run).ok_or(cobaltine_store::StoreError::NotFound("run"))?;
    let by = found.1.caught_by.as_ref().filter(|_| found.1.is_running());
    let Some(by) = by else { return Err(conflict(words::RUN_NOT_READ_BY_INSTRUMENT)) };
    if state.streams.catching(run).is_none() {
        let connection = state.store.connection(by.connection).await?;
        let stream = state.streams.of(&state, &connection, None)?;
        catch_run(&state, &stream, &held.file, found, signed.by)?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Stops a run that an instrument reads: its length, and a level of each bottle that was not read yet.
#[utoipa::path(post, path = "/runs/{run}/live/end", responses((status = 204)))]
pub(crate) async fn end_run(
    State(state): State<AppState>,
    Path(run): Path<Uuid>,
    _: Bare,
) -> Result<StatusCode, ApiError> {
    state.store.job_with(run, "run").await?;
    // Asked again, or over by itself: there is nothing left to end.
    if let Some(catch) = state.streams.catching(run).and_then(|stream| stream.caught(run)) {
        catch.end().await;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// A run is no longer read by an instrument: somebody read it by hand, or it does not count.
pub(crate) async fn let_go(state: &AppState, run: Uuid) {
    if let Some(catch) = state.streams.catching(run).and_then(|stream| stream.caught(run)) {
        catch.leave().await;
    }
}

/// Begins to take a pressure trace with an instrument.
#[utoipa::path(post, path = "/sheets/{sheet}/live", request_body = CatchRequest, responses((status = 204)))]
pub(crate) async fn begin_trace(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked, signed, .. }: Doing<CatchRequest>,
) -> Result<StatusCode, ApiError> {
    let job = state.store.job_with(sheet, "check").await?;
    if state.streams.catching(sheet).is_none() {
        let connection = state.store.connection(asked.connection).await?;
        let quantity = Some(cobaltine_core::instrument_link::Quantity::Pressure);
        let stream = state.streams.of(&state, &connection, quantity)?;
        let keep = keeps(state.clone(), job, sheet, signed.by);
        stream.catch(Catch::new(sheet, Instant::now(), Catching::trace(), keep))?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Ends it: the trace with the drops that were found in it.
#[utoipa::path(post, path = "/sheets/{sheet}/live/end", request_body = EndTraceRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn end_trace(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked, act, signed }: Doing<EndTraceRequest>,
) -> Result<Json<KeptView>, ApiError> {
    let job = state.store.job_with(sheet, "check").await?;
    if state.store.done_before(&act).await? {
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let catch = state.streams.catching(sheet).and_then(|stream| stream.caught(sheet));
    let catch = catch.ok_or_else(|| conflict(words::NO_TRACE_IS_TAKEN))?;
    let points = catch.into_trace().await;
    let drops = find_drops(&points)
        .map_err(|error| ApiError::Fields(vec![FieldProblem::new("order", format!("{error}."))]))?;
    let (name, order) = (words::TRACE_OF_INSTRUMENT.to_owned(), asked.order);
    let points = thinned(&points, crate::traces::KEPT);
    let trace = Trace { id: asked.id, name, points, drops, order, signed };
    let command = Command::KeepTrace { sheet, trace };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

/// Everything that an instrument showed during a run or a check, as CSV: time in s, then a column for each
/// channel; gaps stand in lines of their own.
#[utoipa::path(get, path = "/jobs/{job}/raw.csv", params(RawParams), responses((status = 200, content_type = "text/csv", body = String)))]
pub(crate) async fn csv(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Query(params): Query<RawParams>,
) -> Result<Response, ApiError> {
    let held = state.store.state(job).await?;
    let run = run_of(&held.file, params.of).map(|(_, run)| &run.raw);
    let sheet = held.file.sheets.iter().find(|sheet| sheet.id == params.of).map(|sheet| &sheet.raw);
    let raw = run.or(sheet).filter(|raw| !raw.is_empty());
    let raw = raw.ok_or(cobaltine_store::StoreError::NotFound("trace"))?;
    let name = format!("attachment; filename=\"job-{}-trace.csv\"", held.file.job.number);
    let head = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()),
        (header::CONTENT_DISPOSITION, name),
    ];
    Ok((head, Bytes::from(as_csv(raw))).into_response())
}

fn as_csv(raw: &[RawStretch]) -> String {
    let mut text = String::new();
    let unit = raw.first().map_or("", |stretch| stretch.quantity.bounds().0);
    let mut headed = false;
    for stretch in raw {
        let mut gaps = stretch.gaps.iter().peekable();
        for point in unpack(&stretch.packed).unwrap_or_default() {
            if !headed {
                headed = true;
                text.push_str("time [s]");
                for channel in 1..=point.values.len() {
                    let _ = write!(text, ",{channel} [{}]", unit.to_lowercase());
                }
                text.push('\n');
            }
            while let Some(gap) = gaps.next_if(|gap| gap.to_ms <= point.ms) {
                let (from, to) = (f64::from(gap.from_ms) / 1000.0, f64::from(gap.to_ms) / 1000.0);
                let _ = writeln!(text, "# {}", words::gap_in_trace(from, to, &gap.why));
            }
            let _ = write!(text, "{:.3}", f64::from(point.ms) / 1000.0);
            for value in point.values {
                let _ = write!(text, ",{value}");
            }
            text.push('\n');
        }
    }
    text
}

fn conflict(says: &str) -> ApiError {
    cobaltine_store::StoreError::Conflict(says.to_owned()).into()
}
