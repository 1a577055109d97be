//! Coming in and going out: by name and password, by PIN on an enrolled tablet, by a link once.

use crate::access::{self, Access, Asking, SignIn, Someone};
use crate::extract::{Body, now};
use crate::wire::{
    BenchName, FreshRequest, JoinRequest, NewPasswordRequest, PasswordRequest, SignInPinRequest,
    SignInView, SignedInView,
};
use crate::words;
use crate::{ApiError, AppState};
use axum::extract::{ConnectInfo, State};
use axum::http::{HeaderMap, StatusCode};
use axum::{Extension, Json};
use cobaltine_store::StoreError;
use std::net::SocketAddr;
use std::sync::Arc;
use tower_sessions::Session;
use uuid::Uuid;

type From = Option<Extension<ConnectInfo<SocketAddr>>>;

async fn view(
    state: &AppState,
    asking: &Asking,
    headers: &HeaderMap,
) -> Result<Json<SignInView>, ApiError> {
    let read_only = state.store.read_only().map(str::to_owned);
    if matches!(asking, Asking::Open) {
        let open = SignInView {
            open: true,
            first: false,
            read_only,
            person: None,
            tablet: None,
            bench: Vec::new(),
        };
        return Ok(Json(open));
    }
    let tablet = access::tablet_shown(state, headers).await?;
    let mut bench = Vec::new();
    if tablet.is_some() {
        let (with_pin, accounts) = (state.store.with_pin().await?, state.store.accounts());
        let can_come =
            |id: &Uuid| accounts.get(id).is_some_and(|one| !one.closed && one.has_password);
        for person in state.store.people().await? {
            if person.retired.is_none() && with_pin.contains(&person.id) && can_come(&person.id) {
                bench.push(BenchName { id: person.id, name: person.name });
            }
        }
    }
    let person = match asking {
        Asking::Someone(one) => Some(SignedInView {
            id: one.person.id,
            name: one.person.name.clone(),
            role: one.role,
            fresh: one.fresh,
        }),
        Asking::Open | Asking::Nobody => None,
    };
    let first = !state.store.has_owner();
    Ok(Json(SignInView {
        open: false,
        first,
        read_only,
        person,
        tablet: tablet.map(|one| one.name),
        bench,
    }))
}

/// Sits somebody down who has shown who it is.
async fn seated(
    state: &AppState,
    session: &Session,
    headers: &HeaderMap,
    person: Uuid,
    tablet: Option<Uuid>,
) -> Result<Json<SignInView>, ApiError> {
    let accounts = state.store.accounts();
    let account = accounts.get(&person).filter(|one| !one.closed).ok_or(ApiError::SignedOut)?;
    let sign_in = SignIn::new(account, tablet, now());
    access::sit(session, sign_in.clone()).await?;
    let person = state.store.person(person).await?;
    let one = Someone { person, role: account.role, fresh: tablet.is_none(), sign_in };
    view(state, &Asking::Someone(Arc::new(one)), headers).await
}

/// Counts a try to come in, and gives the place that it came from.
fn counted(state: &AppState, from: From) -> Result<String, ApiError> {
    let Access::Accounts(accounts) = &state.access else {
        return Err(StoreError::Conflict(words::NOBODY_SIGNS_IN_HERE.to_owned()).into());
    };
    let place = access::place(from.as_ref().map(|one| &one.0));
    accounts.count(place, now())?;
    Ok(place.to_string())
}

/// Who is in.
#[utoipa::path(get, path = "/sign-in", responses((status = 200, body = SignInView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
) -> Result<Json<SignInView>, ApiError> {
    view(&state, &asking, &headers).await
}

/// Signs in by name and password.
#[utoipa::path(post, path = "/sign-in/password", request_body = PasswordRequest, responses((status = 200, body = SignInView)))]
pub(crate) async fn by_password(
    State(state): State<AppState>,
    session: Session,
    from: From,
    headers: HeaderMap,
    Body(asked): Body<PasswordRequest>,
) -> Result<Json<SignInView>, ApiError> {
    let place = counted(&state, from)?;
    let person = state.store.prove_password(&asked.name, &asked.password, &place, now()).await?;
    seated(&state, &session, &headers, person, None).await
}

/// Signs in by PIN, on an enrolled tablet.
#[utoipa::path(post, path = "/sign-in/pin", request_body = SignInPinRequest, responses((status = 200, body = SignInView)))]
pub(crate) async fn by_pin(
    State(state): State<AppState>,
    session: Session,
    from: From,
    headers: HeaderMap,
    Body(asked): Body<SignInPinRequest>,
) -> Result<Json<SignInView>, ApiError> {
    counted(&state, from)?;
    let Some(tablet) = access::tablet_shown(&state, &headers).await? else {
        return Err(StoreError::field("pin", words::PIN_ON_TABLETS_ONLY).into());
    };
    state.store.prove_pin(asked.person, &asked.pin, now()).await?;
    seated(&state, &session, &headers, asked.person, Some(tablet.id)).await
}

/// Uses a link: chooses a password by it, and signs in.
#[utoipa::path(post, path = "/sign-in/join", request_body = JoinRequest, responses((status = 200, body = SignInView)))]
pub(crate) async fn join(
    State(state): State<AppState>,
    session: Session,
    from: From,
    headers: HeaderMap,
    Body(asked): Body<JoinRequest>,
) -> Result<Json<SignInView>, ApiError> {
    counted(&state, from)?;
    let JoinRequest { token, name, password } = asked;
    let person = state.store.join(&token, &name, &password, now()).await?;
    seated(&state, &session, &headers, person, None).await
}

/// Enters the password again, for what reaches beyond one job.
#[utoipa::path(post, path = "/sign-in/fresh", request_body = FreshRequest, responses((status = 200, body = SignInView)))]
pub(crate) async fn fresh(
    State(state): State<AppState>,
    session: Session,
    from: From,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
    Body(asked): Body<FreshRequest>,
) -> Result<Json<SignInView>, ApiError> {
    let place = counted(&state, from)?;
    let Asking::Someone(one) = asking else { return Err(ApiError::SignedOut) };
    let name = &one.person.name;
    state.store.prove_password(name, &asked.password, &place, now()).await?;
    let sign_in = one.sign_in.clone().with_password(now());
    access::sit(&session, sign_in.clone()).await?;
    let one = Someone { fresh: true, sign_in, ..(*one).clone() };
    view(&state, &Asking::Someone(Arc::new(one)), &headers).await
}

/// Chooses another password; whoever else is in by the old one is out.
#[utoipa::path(put, path = "/sign-in/password", request_body = NewPasswordRequest, responses((status = 200, body = SignInView)))]
pub(crate) async fn new_password(
    State(state): State<AppState>,
    session: Session,
    from: From,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
    Body(asked): Body<NewPasswordRequest>,
) -> Result<Json<SignInView>, ApiError> {
    let place = counted(&state, from)?;
    let Asking::Someone(one) = asking else { return Err(ApiError::SignedOut) };
    state.store.prove_password(&one.person.name, &asked.old, &place, now()).await?;
    state.store.set_password(one.person.id, &asked.password).await?;
    seated(&state, &session, &headers, one.person.id, None).await
}

/// A hand was on the page: the session goes on.
#[utoipa::path(post, path = "/sign-in/here", responses((status = 204)))]
pub(crate) async fn here(
    session: Session,
    Extension(asking): Extension<Asking>,
) -> Result<StatusCode, ApiError> {
    if let Asking::Someone(one) = asking {
        access::seen(&session, &one).await?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Signs out.
#[utoipa::path(post, path = "/sign-in/end", responses((status = 200, body = SignInView)))]
pub(crate) async fn end(
    State(state): State<AppState>,
    session: Session,
    Extension(asking): Extension<Asking>,
    headers: HeaderMap,
) -> Result<Json<SignInView>, ApiError> {
    session.flush().await?;
    let asking = if matches!(asking, Asking::Open) { asking } else { Asking::Nobody };
    view(&state, &asking, &headers).await
}
