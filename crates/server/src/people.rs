//! The people of the workshop: who can sign, who left, and the PIN of a second signature.

use crate::access::Asking;
use crate::extract::{Doing, Path, Unsigned, now};
use crate::wire::{AccountView, PersonRequest, PersonView, PinRequest};
use crate::words;
use crate::{ApiError, AppState};
use axum::extract::State;
use axum::{Extension, Json};
use cobaltine_core::record::{Family, Person};
use cobaltine_store::{PersonChange, StoreError};
use uuid::Uuid;

/// Answers when something could be written lately: ready for work.
#[utoipa::path(get, path = "/healthz", responses((status = 200, body = String)))]
pub(crate) async fn health(State(state): State<AppState>) -> Result<&'static str, ApiError> {
    state.store.pulse(now()).await?;
    Ok("ok")
}

/// Answers while the program runs, whatever else does not.
#[utoipa::path(get, path = "/livez", responses((status = 200, body = String)))]
pub(crate) async fn live() -> &'static str {
    "ok"
}

/// Everyone, also those who left: their names stand under what they signed.
#[utoipa::path(get, path = "/people", responses((status = 200, body = Vec<PersonView>)))]
pub(crate) async fn list(State(state): State<AppState>) -> Result<Json<Vec<PersonView>>, ApiError> {
    let with_pin = state.store.with_pin().await?;
    let people = state.store.people().await?.into_iter();
    let accounts = state.store.accounts();
    let account = |id| {
        let one = accounts.get(&id)?;
        Some(AccountView { role: one.role, has_password: one.has_password, closed: one.closed })
    };
    let view = |person: Person| PersonView {
        has_pin: with_pin.contains(&person.id),
        account: account(person.id),
        person,
    };
    Ok(Json(people.map(view).collect()))
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

/// Retires a person, merges the name into another one, or brings it back.
#[utoipa::path(put, path = "/people/{person}", request_body = PersonRequest, responses((status = 200, body = Vec<PersonView>)))]
pub(crate) async fn change(
    State(state): State<AppState>,
    Path(person): Path<Uuid>,
    Doing { asked, act, signed }: Doing<PersonRequest>,
) -> Result<Json<Vec<PersonView>>, ApiError> {
    let change = match asked {
        PersonRequest { retired: false, .. } => PersonChange::Back,
        PersonRequest { same_as: Some(other), .. } => PersonChange::SameAs(other),
        PersonRequest { same_as: None, .. } => PersonChange::Retired,
    };
    state.store.change_person(&act, person, change, signed).await?;
    list(State(state)).await
}

/// Chooses one's own PIN. Whoever entered the password a moment ago need not know the one before.
#[utoipa::path(put, path = "/people/{person}/pin", request_body = PinRequest, responses((status = 200, body = Vec<PersonView>)))]
pub(crate) async fn set_pin(
    State(state): State<AppState>,
    Path(person): Path<Uuid>,
    Extension(asking): Extension<Asking>,
    Doing { asked, signed, .. }: Doing<PinRequest>,
) -> Result<Json<Vec<PersonView>>, ApiError> {
    if signed.by != person {
        return Err(StoreError::field("pin", words::ONLY_OWN_PIN).into());
    }
    let known = matches!(&asking, Asking::Someone(one) if one.fresh);
    let old = (!known).then_some(asked.old.as_str());
    state.store.set_pin(person, &asked.pin, old, signed.at).await?;
    list(State(state)).await
}

/// The families of injectors with their newest limits.
#[utoipa::path(get, path = "/families", responses((status = 200, body = Vec<Family>)))]
pub(crate) async fn families(State(state): State<AppState>) -> Result<Json<Vec<Family>>, ApiError> {
    Ok(Json(state.store.families().await?))
}
