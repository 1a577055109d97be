//! The people of the workshop, the families of the library, and whether the program lives.

use crate::extract::{Unsigned, now};
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::record::{Family, Person};

/// Answers when the database can be read.
#[utoipa::path(get, path = "/healthz", responses((status = 200, body = String)))]
pub(crate) async fn health(State(state): State<AppState>) -> Result<&'static str, ApiError> {
    state.store.ping().await?;
    Ok("ok")
}

/// Everyone who can be at the bench.
#[utoipa::path(get, path = "/people", responses((status = 200, body = Vec<Person>)))]
pub(crate) async fn list(State(state): State<AppState>) -> Result<Json<Vec<Person>>, ApiError> {
    Ok(Json(state.store.people().await?))
}

/// Adds a person. Nobody has to be at the bench for it: the first one could not be added otherwise.
#[utoipa::path(post, path = "/people", request_body = Person, responses((status = 200, body = Person)))]
pub(crate) async fn add(
    State(state): State<AppState>,
    Unsigned { asked: person, act }: Unsigned<Person>,
) -> Result<Json<Person>, ApiError> {
    state.store.add_person(&act, &person, now()).await?;
    Ok(Json(state.store.person(person.id).await?))
}

/// The families of injectors with their newest limits.
#[utoipa::path(get, path = "/families", responses((status = 200, body = Vec<Family>)))]
pub(crate) async fn families(State(state): State<AppState>) -> Result<Json<Vec<Family>>, ApiError> {
    Ok(Json(state.store.families().await?))
}
