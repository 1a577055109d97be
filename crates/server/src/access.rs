//! Who asks. Every request passes here before anything else looks at it: a session says who is in, and
//! the table of rights whether that is enough.

use crate::extract::{AT_BENCH, now};
use crate::rights::{self, Need};
use crate::{ApiError, AppState};
use axum::extract::{ConnectInfo, MatchedPath, Request, State};
use axum::http::header::{COOKIE, HOST, ORIGIN, SET_COOKIE};
use axum::http::{HeaderMap, HeaderValue, Method};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use cobaltine_core::record::Person;
use cobaltine_core::role::{Right, Role};
use cobaltine_store::{Account, StoreError};
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::net::{IpAddr, Ipv6Addr, SocketAddr};
use std::sync::{Arc, Mutex, PoisonError};
use tower_sessions::Session;
use tower_sessions::cookie::time::Duration;
use uuid::Uuid;

/// How long a session is kept at most.
pub(crate) const KEPT: Duration = Duration::days(7);
/// What a session says.
const SIGN_IN: &str = "sign-in";
/// Without a hand on the page a session ends after so long, and after so long in any case.
const IDLE: SignedDuration = SignedDuration::from_hours(12);
const LONGEST: SignedDuration = SignedDuration::from_hours(7 * 24);
/// The same by PIN, on a screen that others pass by.
const IDLE_BY_PIN: SignedDuration = SignedDuration::from_hours(1);
const LONGEST_BY_PIN: SignedDuration = SignedDuration::from_hours(12);
/// A password that was entered so long ago is as good as entered now.
const FRESH: SignedDuration = SignedDuration::from_mins(10);
/// A hand on the page is written down this often.
const SEEN: SignedDuration = SignedDuration::from_mins(2);
/// Tries to come in from one address, a minute.
const TRIES: u32 = 20;
/// Addresses that are remembered with their tries.
const ADDRESSES: usize = 4096;

/// How people come in.
#[derive(Debug, Clone, Default)]
pub enum Access {
    /// One person on one machine: names are chosen, nobody signs in.
    #[default]
    Open,
    /// By accounts.
    Accounts(Accounts),
}

/// What coming in by accounts needs to know.
#[derive(Debug, Clone, Default)]
pub struct Accounts {
    /// Cookies are sent over TLS alone.
    pub secure: bool,
    tries: Arc<Mutex<HashMap<IpAddr, (Timestamp, u32)>>>,
}

impl Accounts {
    /// With cookies that are sent over TLS alone, or not.
    pub fn new(secure: bool) -> Self {
        Self { secure, ..Self::default() }
    }

    /// Counts a try to come in.
    ///
    /// # Errors
    /// [`StoreError::TooSoon`] when there were too many from this address.
    pub(crate) fn count(&self, from: IpAddr, at: Timestamp) -> Result<(), StoreError> {
        let mut tries = self.tries.lock().unwrap_or_else(PoisonError::into_inner);
        let young = |since: Timestamp| at.duration_since(since) < SignedDuration::from_mins(1);
        if tries.len() >= ADDRESSES {
            tries.retain(|_, (since, _)| young(*since));
        }
        if tries.len() >= ADDRESSES {
            return Err(StoreError::TooSoon { minutes: 1 });
        }
        let (since, count) = tries.entry(from).or_insert((at, 0));
        if !young(*since) {
            (*since, *count) = (at, 0);
        }
        *count += 1;
        if *count > TRIES { Err(StoreError::TooSoon { minutes: 1 }) } else { Ok(()) }
    }
}

/// Who is in, as the session keeps it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct SignIn {
    pub person: Uuid,
    /// That of the account when this began: another one ends it.
    stamp: String,
    /// The tablet on which a PIN was enough.
    pub tablet: Option<Uuid>,
    began: Timestamp,
    seen: Timestamp,
    /// When the password was entered last.
    password: Option<Timestamp>,
}

impl SignIn {
    /// Someone who has just come in: by password, or by PIN on this tablet.
    pub(crate) fn new(account: &Account, tablet: Option<Uuid>, at: Timestamp) -> Self {
        let password = tablet.is_none().then_some(at);
        let (person, stamp) = (account.person, account.stamp.clone());
        Self { person, stamp, tablet, began: at, seen: at, password }
    }

    /// The same with a password that was entered now.
    pub(crate) fn with_password(self, at: Timestamp) -> Self {
        Self { password: Some(at), seen: at, ..self }
    }

    fn is_fresh(&self, at: Timestamp) -> bool {
        self.password.is_some_and(|entered| at.duration_since(entered) < FRESH)
    }

    fn is_over(&self, at: Timestamp) -> bool {
        let (idle, longest) = match self.tablet {
            Some(_) => (IDLE_BY_PIN, LONGEST_BY_PIN),
            None => (IDLE, LONGEST),
        };
        at.duration_since(self.seen) >= idle || at.duration_since(self.began) >= longest
    }
}

/// Who asks.
#[derive(Debug, Clone)]
pub(crate) enum Asking {
    /// Whoever is at this machine; the page says the name.
    Open,
    /// Nobody yet.
    Nobody,
    /// This person.
    Someone(Arc<Someone>),
}

/// A person who is in.
#[derive(Debug, Clone)]
pub(crate) struct Someone {
    pub person: Person,
    pub role: Role,
    pub fresh: bool,
    pub sign_in: SignIn,
}

impl Asking {
    /// Whose own entries have to stand in what is read; none where nobody says so.
    pub(crate) fn who(&self, headers: &HeaderMap) -> Option<Uuid> {
        match self {
            Self::Open => headers.get(AT_BENCH)?.to_str().ok()?.parse().ok(),
            Self::Nobody => None,
            Self::Someone(one) => Some(one.person.id),
        }
    }

    /// Those who are shown the same: an answer that was made for some of them is kept for these alone.
    pub(crate) fn seen_as(&self) -> Option<Option<Role>> {
        match self {
            Self::Open => Some(None),
            Self::Nobody => None,
            Self::Someone(one) => Some(Some(one.role)),
        }
    }

    /// What this right is refused with; none where it is there.
    pub(crate) fn refused(&self, right: Right) -> Option<ApiError> {
        match self {
            Self::Open => None,
            Self::Nobody => Some(ApiError::SignedOut),
            Self::Someone(one) if !one.role.may(right) => Some(ApiError::NotAllowed),
            Self::Someone(one) if right.needs_fresh() && !one.fresh => Some(ApiError::NotFresh),
            Self::Someone(_) => None,
        }
    }
}

/// Lets a request pass to those who may ask it.
pub(crate) async fn guarded(
    State(state): State<AppState>,
    session: Session,
    mut request: Request,
    next: Next,
) -> Response {
    let Some(route) = request.extensions().get::<MatchedPath>().cloned() else {
        return ApiError::NoSuchRoute.into_response();
    };
    let asking = match asking(&state, &session, request.headers()).await {
        Ok(asking) => asking,
        Err(error) => return error.into_response(),
    };
    let asking = learning(&state, asking, request.uri().path()).await;
    if let Some(refused) = refused(&asking, &request, route.as_str()) {
        return refused.into_response();
    }
    request.extensions_mut().insert(asking);
    next.run(request).await
}

/// In an exercise whoever learns does what elsewhere only a technician does: nobody drives that engine.
async fn learning(state: &AppState, asking: Asking, path: &str) -> Asking {
    let Asking::Someone(one) = &asking else { return asking };
    if one.role >= Role::Technician {
        return asking;
    }
    let path = path.strip_prefix("/api").unwrap_or(path).strip_prefix("/jobs/");
    let job = path.and_then(|rest| rest.split('/').next()).and_then(|id| id.parse::<Uuid>().ok());
    let held = match job {
        Some(job) => state.store.state(job).await.ok(),
        None => None,
    };
    if held.is_none_or(|held| held.file.job.exercise.is_none()) {
        return asking;
    }
    Asking::Someone(Arc::new(Someone { role: Role::Technician, ..Someone::clone(one) }))
}

/// An answer that was on its way while hands changed, asked for by the session before, does not take the
/// new one away: only signing out does.
pub(crate) async fn kept_cookies(request: Request, next: Next) -> Response {
    let ends = request.uri().path().ends_with("/sign-in/end");
    let mut response = next.run(request).await;
    if !ends {
        let set = response.headers().get_all(SET_COOKIE).iter();
        let kept: Vec<_> = set.filter(|one| !takes_away(one)).cloned().collect();
        response.headers_mut().remove(SET_COOKIE);
        for one in kept {
            response.headers_mut().append(SET_COOKIE, one);
        }
    }
    response
}

fn takes_away(set: &HeaderValue) -> bool {
    set.to_str().is_ok_and(|set| set.contains("Max-Age=0"))
}

fn refused(asking: &Asking, request: &Request, route: &str) -> Option<ApiError> {
    if matches!(asking, Asking::Open) {
        return None;
    }
    if !from_here(request.method(), request.headers()) {
        return Some(ApiError::NotAllowed);
    }
    match rights::need(request.method(), route) {
        Some(Need::Nothing) => return None,
        Some(Need::SignedIn) if matches!(asking, Asking::Nobody) => {
            return Some(ApiError::SignedOut);
        }
        Some(Need::SignedIn) => {}
        Some(Need::Right(right)) => {
            if let Some(refused) = asking.refused(right) {
                return Some(refused);
            }
        }
        None => return Some(ApiError::NotAllowed),
    }
    // A page that still shows somebody else does not sign with another hand.
    let named = request.headers().get(AT_BENCH).and_then(|name| name.to_str().ok());
    let named = named.and_then(|name| name.parse::<Uuid>().ok());
    match asking {
        Asking::Someone(one) if named.is_some_and(|id| id != one.person.id) => {
            Some(ApiError::SomeoneElse(one.person.name.clone()))
        }
        Asking::Someone(_) | Asking::Open | Asking::Nobody => None,
    }
}

/// A command comes from a page of this program: browsers say where from.
fn from_here(method: &Method, headers: &HeaderMap) -> bool {
    let said = |name| headers.get(name).and_then(|value| value.to_str().ok());
    let Some(origin) = said(ORIGIN) else { return true };
    *method == Method::GET || origin.split_once("://").map(|(_, host)| host) == said(HOST)
}

/// Who asks, by the session; one that is over is ended.
async fn asking(
    state: &AppState,
    session: &Session,
    headers: &HeaderMap,
) -> Result<Asking, ApiError> {
    if matches!(state.access, Access::Open) {
        return Ok(Asking::Open);
    }
    let Some(sign_in) = session.get::<SignIn>(SIGN_IN).await? else { return Ok(Asking::Nobody) };
    let at = now();
    let Some(role) = still(state, &sign_in, at, headers).await? else {
        session.flush().await?;
        return Ok(Asking::Nobody);
    };
    let person = state.store.person(sign_in.person).await?;
    let fresh = sign_in.is_fresh(at);
    Ok(Asking::Someone(Arc::new(Someone { person, role, fresh, sign_in })))
}

/// The role that a sign-in still gives; none once it is over.
async fn still(
    state: &AppState,
    sign_in: &SignIn,
    at: Timestamp,
    headers: &HeaderMap,
) -> Result<Option<Role>, ApiError> {
    let accounts = state.store.accounts();
    let account =
        accounts.get(&sign_in.person).filter(|one| !one.closed && one.stamp == sign_in.stamp);
    let Some(account) = account.filter(|_| !sign_in.is_over(at)) else { return Ok(None) };
    if state.store.person(sign_in.person).await?.retired.is_some() {
        return Ok(None);
    }
    // A session that began on a tablet is worth nothing elsewhere.
    if let Some(tablet) = sign_in.tablet
        && tablet_shown(state, headers).await?.is_none_or(|shown| shown.id != tablet)
    {
        return Ok(None);
    }
    Ok(Some(account.role))
}

/// The enrolled tablet that asks.
pub(crate) async fn tablet_shown(
    state: &AppState,
    headers: &HeaderMap,
) -> Result<Option<cobaltine_store::Tablet>, StoreError> {
    match cookie(headers, &tablet_cookie(state.port)) {
        Some(token) => state.store.tablet_of(&token).await,
        None => Ok(None),
    }
}

fn cookie(headers: &HeaderMap, name: &str) -> Option<String> {
    let lines = headers.get_all(COOKIE).iter().filter_map(|line| line.to_str().ok());
    let mut cookies = lines.flat_map(|line| line.split("; ")).filter_map(|one| one.split_once('='));
    cookies.find(|(of, _)| *of == name).map(|(_, value)| value.to_owned())
}

/// Names of the cookies: two programs of one machine differ by their port alone.
pub(crate) fn session_cookie(port: u16) -> String {
    format!("cobaltine-{port}")
}

pub(crate) fn tablet_cookie(port: u16) -> String {
    format!("cobaltine-tablet-{port}")
}

/// Sits somebody down, under a new id: who knew the old one knows nothing.
pub(crate) async fn sit(session: &Session, sign_in: SignIn) -> Result<(), ApiError> {
    session.cycle_id().await?;
    Ok(session.insert(SIGN_IN, sign_in).await?)
}

/// A hand was on the page.
pub(crate) async fn seen(session: &Session, one: &Someone) -> Result<(), ApiError> {
    let at = now();
    if at.duration_since(one.sign_in.seen) < SEEN {
        return Ok(());
    }
    Ok(session.insert(SIGN_IN, SignIn { seen: at, ..one.sign_in.clone() }).await?)
}

/// Whether who listens may go on listening.
pub(crate) async fn may_go_on(state: &AppState, asking: &Asking, headers: &HeaderMap) -> bool {
    match asking {
        Asking::Open => true,
        Asking::Nobody => false,
        Asking::Someone(one) => {
            // A hand elsewhere on the page is not known here: the page itself ends with its session.
            let sign_in = SignIn { seen: now(), ..one.sign_in.clone() };
            matches!(still(state, &sign_in, now(), headers).await, Ok(Some(_)))
        }
    }
}

/// The place that tries are counted for: a network of its own has many addresses of one.
pub(crate) fn place(address: Option<&ConnectInfo<SocketAddr>>) -> IpAddr {
    let address = address.map_or(IpAddr::V6(Ipv6Addr::UNSPECIFIED), |at| at.0.ip().to_canonical());
    match address {
        IpAddr::V4(_) => address,
        IpAddr::V6(six) => {
            let [a, b, c, d, ..] = six.segments();
            IpAddr::V6(Ipv6Addr::new(a, b, c, d, 0, 0, 0, 0))
        }
    }
}
