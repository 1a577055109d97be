//! Instruments that are read over the network: listed, tested, read.

use crate::device::{DeviceTalk, InstrumentError};
use crate::extract::{Body, Doing, Path, now};
use crate::wire::{
    BenchRunRequest, ConnectionRequest, ConnectionView, FaultCodesView, ReadRequest, ShownView,
    TestedConnection,
};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use cobaltine_core::connection::Connection;
use cobaltine_core::instrument_link::{Ask, DeviceKind, fault_codes};
use cobaltine_core::record::FieldProblem;
use cobaltine_core::typed::Field;
use cobaltine_core::units;
use std::time::Instant;
use uuid::Uuid;

/// All connections, each with what it showed last.
#[utoipa::path(get, path = "/connections", responses((status = 200, body = Vec<ConnectionView>)))]
pub(crate) async fn list(
    State(state): State<AppState>,
) -> Result<Json<Vec<ConnectionView>>, ApiError> {
    let all = state.store.connections().await?;
    let view = |one: Connection| {
        let last = state.shown.last(one.id);
        ConnectionView {
            measures: one.kind.measures().to_vec(),
            bench: one.kind.is_bench(),
            last,
            connection: one,
        }
    };
    Ok(Json(all.into_iter().map(view).collect()))
}

/// Keeps a connection: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/connections", request_body = ConnectionRequest, responses((status = 200, body = Connection)))]
pub(crate) async fn keep(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<ConnectionRequest>,
) -> Result<Json<Connection>, ApiError> {
    let kept = state.store.keep_connection(&act, &request, state.any_address, signed).await?;
    // It may lead to another instrument now: what runs with the old one ends.
    state.streams.end(kept.id);
    Ok(Json(kept))
}

/// Asks an instrument what it is and what it shows: nothing is kept of it.
#[utoipa::path(post, path = "/connections/{connection}/test", responses((status = 200, body = TestedConnection)))]
pub(crate) async fn test(
    State(state): State<AppState>,
    Path(connection): Path<Uuid>,
) -> Result<Json<TestedConnection>, ApiError> {
    let connection = state.store.connection(connection).await?;
    let begun = Instant::now();
    let mut tested = TestedConnection::default();
    if let Err(error) = tested_by(&state, &connection, &mut tested).await {
        tested.wrong = Some(error.to_string());
    }
    tested.took_ms = u32::try_from(begun.elapsed().as_millis()).unwrap_or(u32::MAX);
    Ok(Json(tested))
}

async fn tested_by(
    state: &AppState,
    connection: &Connection,
    tested: &mut TestedConnection,
) -> Result<(), InstrumentError> {
    let mut talk = DeviceTalk::open(connection, state.any_address).await?;
    tested.identity = Some(talk.shown_by.identity.clone());
    if let Some(quantity) = connection.kind.measures().first() {
        let values = talk.reading(*quantity).await?;
        tested.shown = Some(state.shown.keep(talk.shown_by, *quantity, values, now()));
    }
    Ok(())
}

/// Takes a reading, which a cell may then name as what it was read from.
#[utoipa::path(post, path = "/connections/{connection}/reading", request_body = ReadRequest, responses((status = 200, body = ShownView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(connection): Path<Uuid>,
    Body(asked): Body<ReadRequest>,
) -> Result<Json<ShownView>, ApiError> {
    let connection = state.store.connection(connection).await?;
    if !connection.kind.measures().contains(&asked.quantity) {
        return Err(InstrumentError::OtherQuantity.into());
    }
    let mut talk = DeviceTalk::open(&connection, state.any_address).await?;
    if let Some(cylinder) = asked.cylinder {
        talk.tell(&Ask::Route(cylinder)).await?;
    }
    if connection.kind.is_bench() && talk.ask(&Ask::Complete.to_string()).await?.trim() != "1" {
        return Err(InstrumentError::StillRunning.into());
    }
    let values = talk.reading(asked.quantity).await?;
    Ok(Json(state.shown.keep(talk.shown_by, asked.quantity, values, now())))
}

/// Reads the fault codes that a scan tool shows; none are an empty list.
#[utoipa::path(post, path = "/connections/{connection}/fault-codes", responses((status = 200, body = FaultCodesView)))]
pub(crate) async fn fault_codes_of(
    State(state): State<AppState>,
    Path(connection): Path<Uuid>,
) -> Result<Json<FaultCodesView>, ApiError> {
    let connection = state.store.connection(connection).await?;
    if connection.kind != DeviceKind::Scan {
        return Err(InstrumentError::OtherQuantity.into());
    }
    let mut talk = DeviceTalk::open(&connection, state.any_address).await?;
    let said = talk.ask(&Ask::FaultCodes.to_string()).await?;
    let codes = fault_codes(&said).map_err(InstrumentError::from)?;
    Ok(Json(FaultCodesView { codes, identity: talk.shown_by.identity }))
}

/// Begins a run of a bench with these settings; its readings can be taken when it is over.
#[utoipa::path(post, path = "/connections/{connection}/run", request_body = BenchRunRequest, responses((status = 204)))]
pub(crate) async fn run(
    State(state): State<AppState>,
    Path(connection): Path<Uuid>,
    Body(asked): Body<BenchRunRequest>,
) -> Result<StatusCode, ApiError> {
    let connection = state.store.connection(connection).await?;
    if !connection.kind.is_bench() {
        return Err(InstrumentError::OtherQuantity.into());
    }
    let mut problems = Vec::new();
    let mut read = |name: &str, field: Field, text: &str| match text.trim() {
        "" => None,
        text => field
            .read(text)
            .map_err(|error| problems.push(FieldProblem::new(name, error.to_string())))
            .ok(),
    };
    let pulse = read("pulse", Field::above_zero("ms", 0.05, 200.0), &asked.pulse);
    let count = read("count", Field::above_zero("", 1.0, 10_000.0), &asked.count);
    let pressure =
        read("pressure", Field::above_zero(units::KPA, 10.0, 300_000.0), &asked.pressure);
    if !problems.is_empty() {
        return Err(ApiError::Fields(problems));
    }
    let settings = [
        pulse.map(|ms| Ask::Width(ms / 1000.0)),
        count.map(Ask::Count),
        pressure.map(Ask::Pressure),
        Some(Ask::Init),
    ];
    let mut talk = DeviceTalk::open(&connection, state.any_address).await?;
    for ask in settings.into_iter().flatten() {
        talk.tell(&ask).await?;
    }
    // What it could not be set to is told before anybody waits for the run.
    let error = talk.ask(&Ask::Error.to_string()).await?;
    if !error.starts_with("0,") {
        return Err(InstrumentError::Reports(error.trim().chars().take(80).collect()).into());
    }
    Ok(StatusCode::NO_CONTENT)
}
