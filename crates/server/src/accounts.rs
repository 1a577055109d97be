//! Who may come in, by which role, and on which shared screens.

use crate::access::{Access, tablet_cookie};
use crate::extract::{AtBench, Bare, Body, Doing, Path};
use crate::people;
use crate::wire::{AccountRequest, LinkView, PersonView, TabletRequest, TabletView};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use axum::http::header::SET_COOKIE;
use axum::response::{AppendHeaders, IntoResponse};
use cobaltine_store::{AccountChange, StoreError, Tablet};
use uuid::Uuid;

/// Gives a role, closes an account, or ends its sessions.
#[utoipa::path(put, path = "/people/{person}/account", request_body = AccountRequest, responses((status = 200, body = Vec<PersonView>)))]
pub(crate) async fn change(
    State(state): State<AppState>,
    Path(person): Path<Uuid>,
    Doing { asked, act, signed }: Doing<AccountRequest>,
) -> Result<Json<Vec<PersonView>>, ApiError> {
    let change = match asked {
        AccountRequest { closed: true, .. } => AccountChange::Closed,
        AccountRequest { role: Some(role), .. } => AccountChange::Role(role),
        AccountRequest { role: None, closed: false } => AccountChange::Ended,
    };
    state.store.change_account(&act, person, change, signed).await?;
    people::list(State(state)).await
}

/// Makes a link by which this person chooses a new password. An earlier one closes.
#[utoipa::path(post, path = "/people/{person}/link", responses((status = 200, body = LinkView)))]
pub(crate) async fn link(
    State(state): State<AppState>,
    Path(person): Path<Uuid>,
    bench: AtBench,
) -> Result<Json<LinkView>, ApiError> {
    Ok(Json(LinkView { token: state.store.link(person, bench.signs()).await? }))
}

fn shown(tablets: Vec<Tablet>) -> Json<Vec<TabletView>> {
    let view = |Tablet { id, name, signed }| TabletView { id, name, signed };
    Json(tablets.into_iter().map(view).collect())
}

/// The shared screens on which a PIN is enough.
#[utoipa::path(get, path = "/tablets", responses((status = 200, body = Vec<TabletView>)))]
pub(crate) async fn tablets(
    State(state): State<AppState>,
) -> Result<Json<Vec<TabletView>>, ApiError> {
    Ok(shown(state.store.tablets().await?))
}

/// Enrols the screen that asks.
#[utoipa::path(post, path = "/tablets", request_body = TabletRequest, responses((status = 200, body = Vec<TabletView>)))]
pub(crate) async fn enrol(
    State(state): State<AppState>,
    bench: AtBench,
    Body(asked): Body<TabletRequest>,
) -> Result<impl IntoResponse, ApiError> {
    let Access::Accounts(accounts) = &state.access else {
        return Err(StoreError::Conflict(words::NOBODY_SIGNS_IN_HERE.to_owned()).into());
    };
    let token = state.store.enrol_tablet(&asked.name, bench.signs()).await?;
    let (name, secure) = (tablet_cookie(state.port), if accounts.secure { "; Secure" } else { "" });
    // A year: a tablet is ended from Workshop, not by forgetting.
    let cookie =
        format!("{name}={token}; HttpOnly; SameSite=Strict; Path=/; Max-Age=31536000{secure}");
    Ok((AppendHeaders([(SET_COOKIE, cookie)]), shown(state.store.tablets().await?)))
}

/// Ends a shared screen, and everyone who signed in on it by PIN.
#[utoipa::path(post, path = "/tablets/{tablet}/end", responses((status = 200, body = Vec<TabletView>)))]
pub(crate) async fn end_tablet(
    State(state): State<AppState>,
    Path(tablet): Path<Uuid>,
    Bare { act, signed, .. }: Bare,
) -> Result<Json<Vec<TabletView>>, ApiError> {
    state.store.end_tablet(&act, tablet, signed).await?;
    Ok(shown(state.store.tablets().await?))
}
