//! Instruments that are read over the network: listed, tested, read.

use crate::device::{DeviceTalk, InstrumentError};
use crate::extract::{Body, Doing, Path, now};
use crate::wire::{ConnectionRequest, ConnectionView, ReadRequest, ShownView, TestedConnection};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::connection::Connection;
use cobaltine_core::instrument_link::Ask;
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
        ConnectionView { measures: one.kind.measures().to_vec(), last, connection: one }
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
    let values = talk.reading(asked.quantity).await?;
    Ok(Json(state.shown.keep(talk.shown_by, asked.quantity, values, now())))
}
