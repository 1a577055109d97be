//! Who may come in, what each may do, and how it ends.

use super::{intake, setup};
use crate::documented::answer;
use cobaltine_core::role::Role;
use cobaltine_server::{Access, Accounts, AppState, openapi_json};
use cobaltine_store::Store;
use jiff::Timestamp;
use serde_json::{Value, json};
use std::collections::HashMap;
use std::path::Path;
use std::sync::Mutex;
use tempfile::TempDir;
use tokio::sync::oneshot;
use tokio::task::JoinHandle;
use uuid::Uuid;

const PASSWORD: &str = "three lamps at dusk";

/// A workshop in which people sign in.
pub(crate) struct House {
    pub address: String,
    store: Store,
    stop: oneshot::Sender<()>,
    task: JoinHandle<std::io::Result<()>>,
}

impl House {
    async fn open(folder: &Path, port: u16) -> Self {
        let store = Store::open(folder).await.unwrap();
        let listener = tokio::net::TcpListener::bind(("127.0.0.1", port)).await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let access = Access::Accounts(Accounts::default());
        let state = AppState { access, ..AppState::new(store.clone()) };
        let (stop, stopped) = oneshot::channel::<()>();
        let until = async { drop(stopped.await) };
        let task = tokio::spawn(cobaltine_server::serve(state, listener, until));
        Self { address, store, stop, task }
    }

    pub async fn close(self) -> u16 {
        let port = self.address.rsplit(':').next().unwrap().parse().unwrap();
        self.stop.send(()).unwrap();
        self.task.await.unwrap().unwrap();
        self.store.close().await;
        port
    }

    fn browser(&self) -> Browser {
        Browser {
            address: self.address.clone(),
            http: reqwest::Client::new(),
            cookies: Mutex::default(),
        }
    }

    /// The first owner, in by the link of the terminal.
    async fn owner(&self, name: &str) -> (Browser, Value) {
        let token = self.store.owner_link(Timestamp::now()).await.unwrap();
        let browser = self.browser();
        let join = json!({ "token": token, "name": name, "password": PASSWORD });
        let view = browser.good("POST", "/sign-in/join", join).await;
        (browser, view["person"]["id"].clone())
    }
}

/// A browser with its cookies.
pub(crate) struct Browser {
    address: String,
    http: reqwest::Client,
    cookies: Mutex<HashMap<String, String>>,
}

impl Browser {
    /// Its cookies, as a request carries them.
    pub fn cookie_line(&self) -> String {
        let cookies = self.cookies.lock().unwrap();
        let each: Vec<_> = cookies.iter().map(|(name, value)| format!("{name}={value}")).collect();
        each.join("; ")
    }

    async fn send(&self, method: &str, path: &str, body: Value) -> (u16, Value) {
        self.send_as(method, path, body, None).await
    }

    /// The same from a page that shows this person.
    async fn send_as(
        &self,
        method: &str,
        path: &str,
        body: Value,
        shows: Option<&str>,
    ) -> (u16, Value) {
        let mut request = self
            .http
            .request(method.parse().unwrap(), format!("{}/api{path}", self.address))
            .header("cookie", self.cookie_line());
        if let Some(shows) = shows {
            request = request.header("x-at-bench", shows);
        }
        if method != "GET" {
            request = request.json(&body);
        }
        let seen = answer(request).await;
        for set in seen.headers.get_all("set-cookie") {
            let set = set.to_str().unwrap();
            let ends = set.contains("Max-Age=0");
            assert!(ends || set.contains("HttpOnly") && set.contains("SameSite=Strict"), "{set}");
            let (name, rest) = set.split_once('=').unwrap();
            let value = rest.split(';').next().unwrap();
            self.cookies.lock().unwrap().insert(name.to_owned(), value.to_owned());
        }
        (seen.status, serde_json::from_str(&seen.text).unwrap_or_default())
    }

    pub async fn good(&self, method: &str, path: &str, body: Value) -> Value {
        let (status, answer) = self.send(method, path, body).await;
        assert_eq!(status, 200, "{method} {path}: {answer}");
        answer
    }

    async fn refused(&self, method: &str, path: &str, body: Value) -> (u16, String) {
        let (status, answer) = self.send(method, path, body).await;
        (status, answer["code"].as_str().unwrap_or_default().to_owned())
    }

    async fn sign_in(&self, name: &str) {
        let body = json!({ "name": name, "password": PASSWORD });
        self.good("POST", "/sign-in/password", body).await;
    }

    async fn is_in(&self) -> bool {
        !self.good("GET", "/sign-in", Value::Null).await["person"].is_null()
    }

    /// The owner adds somebody, who chooses a password by the link and a PIN.
    pub async fn lets_in(&self, house: &House, name: &str, role: Role) -> (Uuid, Browser) {
        let id = Uuid::now_v7();
        self.good("POST", "/people", json!({ "id": id, "name": name })).await;
        let account = json!({ "role": role });
        self.good("PUT", &format!("/people/{id}/account"), account).await;
        let link = self.good("POST", &format!("/people/{id}/link"), Value::Null).await;
        let browser = house.browser();
        let join = json!({ "token": link["token"], "password": PASSWORD });
        browser.good("POST", "/sign-in/join", join).await;
        let pin = json!({ "pin": "4711" });
        browser.good("PUT", &format!("/people/{id}/pin"), pin).await;
        (id, browser)
    }

    /// The tablet of the bench, enrolled by this owner: its cookie goes to whoever uses it.
    async fn tablet(&self, house: &House) -> Browser {
        let tablet = house.browser();
        tablet.sign_in("Wren").await;
        tablet.good("POST", "/tablets", json!({ "name": "Bench 1" })).await;
        tablet.good("POST", "/sign-in/end", Value::Null).await;
        assert!(!tablet.is_in().await && self.is_in().await);
        tablet
    }

    async fn pin(&self, person: Uuid, pin: &str) -> (u16, Value) {
        self.send("POST", "/sign-in/pin", json!({ "person": person, "pin": pin })).await
    }
}

pub(crate) async fn house() -> (TempDir, House, Browser, Value) {
    let data = tempfile::tempdir().unwrap();
    let house = House::open(data.path(), 0).await;
    let (owner, id) = house.owner("Wren").await;
    (data, house, owner, id)
}

#[tokio::test]
async fn a_link_makes_the_first_owner_once_and_sessions_last_over_a_restart_until_they_are_ended() {
    let data = tempfile::tempdir().unwrap();
    let house = House::open(data.path(), 0).await;
    let stranger = house.browser();
    assert_eq!(stranger.good("GET", "/sign-in", Value::Null).await["first"], true);
    let token = house.store.owner_link(Timestamp::now()).await.unwrap();
    let join = |token: &str, password: &str| json!({ "token": token, "name": "Wren", "password": password });
    for (token, password, field) in
        [("x", PASSWORD, "token"), (token.as_str(), "short", "password")]
    {
        let (status, said) = stranger.send("POST", "/sign-in/join", join(token, password)).await;
        assert_eq!((status, said["fields"][0]["field"].as_str()), (422, Some(field)));
    }
    let owner = house.browser();
    let first = owner.good("POST", "/sign-in/join", join(&token, PASSWORD)).await;
    assert_eq!((&first["person"]["role"], &first["first"]), (&json!("owner"), &json!(false)));
    assert_eq!(stranger.refused("POST", "/sign-in/join", join(&token, PASSWORD)).await.0, 422);

    let (id, maren) = owner.lets_in(&house, "Maren", Role::Technician).await;
    let house = House::open(data.path(), house.close().await).await;
    assert!(maren.is_in().await && owner.is_in().await, "over a restart");
    // Each of these ends what Maren has, and nothing of the owner's.
    for (method, path, body) in [
        ("PUT", format!("/people/{id}/account"), json!({})),
        ("PUT", format!("/people/{id}/account"), json!({ "role": "learner" })),
        ("PUT", format!("/people/{id}/account"), json!({ "closed": true })),
    ] {
        owner.good(method, &path, body).await;
        assert!(!maren.is_in().await && owner.is_in().await, "{path}");
        let said = maren.refused("GET", "/board", Value::Null).await;
        assert_eq!(said, (401, "signed_out".to_owned()));
        let again = json!({ "name": "maren", "password": PASSWORD });
        maren.send("POST", "/sign-in/password", again).await;
    }
    assert!(!maren.is_in().await, "the account is closed");
    // The last owner stays, whoever wants it otherwise.
    let path = format!("/people/{}/account", first["person"]["id"].as_str().unwrap());
    assert_eq!(owner.refused("PUT", &path, json!({ "role": "learner" })).await.0, 422);
    let new = json!({ "old": PASSWORD, "password": "another lamp, brighter" });
    let other = house.browser();
    other.sign_in("Wren").await;
    owner.good("PUT", "/sign-in/password", new).await;
    assert!(owner.is_in().await && !other.is_in().await, "whoever is in by the old one is out");
    owner.good("POST", "/sign-in/end", Value::Null).await;
    assert!(!owner.is_in().await);
    house.close().await;
}

/// The first role that may ask an address, as the workshop wants it: written down here apart from the
/// table of the program.
fn least(method: &str, path: &str) -> Role {
    let rest = path.trim_start_matches("/api/");
    let whole = ["workshop/", "tablets", "profile", "people", "backups"];
    if (method != "GET"
        && whole.iter().any(|part| rest.starts_with(part))
        && !rest.ends_with("/pin"))
        || rest.starts_with("workshop/")
    {
        return Role::Owner;
    }
    if method == "GET" {
        return Role::Learner;
    }
    if rest.ends_with("import") || rest.starts_with("rules/") || rest.starts_with("weights") {
        return Role::Reviewer;
    }
    let works = [
        "close",
        "captured",
        "knob",
        "codes/read",
        "codes/write",
        "decisions",
        "tightening",
        "intake",
        "by-hand",
        "clear",
        "learned",
        "sets",
        "apart",
        "shims",
    ];
    let keeps = [
        "connections",
        "customers",
        "instruments",
        "library/families",
        "library/items",
        "library/plans",
        "library/presets",
    ];
    if rest == "jobs"
        || works.iter().any(|part| rest.ends_with(part))
        || (method == "PUT" && keeps.contains(&rest))
    {
        return Role::Technician;
    }
    Role::Learner
}

#[tokio::test]
async fn every_address_is_walked_by_every_role_signed_in_long_ago_and_signed_out() {
    let (_data, house, owner, own_id) = house().await;
    let own_id: Uuid = own_id.as_str().unwrap().parse().unwrap();
    owner.good("PUT", &format!("/people/{own_id}/pin"), json!({ "pin": "4711" })).await;
    let mut people = vec![(Role::Owner, owner.tablet(&house).await, own_id)];
    for role in [Role::Learner, Role::Technician, Role::Reviewer] {
        let (id, _) = owner.lets_in(&house, role.name(), role).await;
        // One more tablet: it gives the session that has no password in it.
        people.push((role, owner.tablet(&house).await, id));
    }
    // The tries of one minute are counted by address, and all of these are one.
    for (_, browser, id) in &people {
        let (status, said) = browser.pin(*id, "4711").await;
        assert_eq!(status, 200, "{said}");
    }
    let nobody = house.browser();
    let document = openapi_json();
    let mut walked = 0;
    for (path, of) in document["paths"].as_object().unwrap() {
        if !path.starts_with("/api/") || path.starts_with("/api/sign-in") {
            continue;
        }
        for method in of.as_object().unwrap().keys().map(|method| method.to_uppercase()) {
            let own_pin = path.ends_with("/pin");
            let mut at = path.trim_start_matches("/api").to_owned();
            while let (Some(from), Some(to)) = (at.find('{'), at.find('}')) {
                at.replace_range(from..=to, &Uuid::now_v7().to_string());
            }
            let body = json!({});
            assert_eq!(
                nobody.refused(&method, &at, body.clone()).await,
                (401, "signed_out".to_owned()),
                "{method} {path}"
            );
            let least = least(&method, path);
            let out = ["/api/backups", "/api/workshop/exports"].contains(&path.as_str())
                || path.ends_with("/stop");
            let fresh = least >= Role::Reviewer && method != "GET" && !out;
            for (role, browser, _) in &people {
                let (status, said) = browser.send(&method, &at, body.clone()).await;
                let code = said["code"].as_str().unwrap_or_default();
                let expected = match () {
                    () if own_pin => None,
                    () if *role < least => Some("not_allowed"),
                    () if fresh => Some("not_fresh"),
                    () => None,
                };
                match expected {
                    Some(expected) => {
                        assert_eq!((status, code), (403, expected), "{method} {path} as {role:?}")
                    }
                    None => assert!(
                        ![401, 403].contains(&status) && status < 500,
                        "{method} {path} as {role:?}: {status} {said}"
                    ),
                }
                walked += 1;
            }
        }
    }
    assert!(walked > 400, "{walked}");
    // With the password entered again, it is done.
    let (_, tablet, _) = &people[0];
    tablet.good("POST", "/sign-in/fresh", json!({ "password": PASSWORD })).await;
    let added = json!({ "id": Uuid::now_v7(), "name": "Odile" });
    tablet.good("POST", "/people", added).await;
    house.close().await;
}

#[tokio::test]
async fn each_kind_of_event_takes_a_right_of_its_own() {
    let (_data, house, owner, _) = house().await;
    let job = Uuid::now_v7();
    owner.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
    let (_, learner) = owner.lets_in(&house, "Pim", Role::Learner).await;
    let at = format!("/jobs/{job}/events");
    let event = |event: Value| json!({ "id": Uuid::now_v7(), "event": event });
    let timer =
        event(json!({ "what": "timer_set", "word": "soak", "seconds": 60, "stage": "on_engine" }));
    learner.good("POST", &at, timer).await;
    for refused in [
        json!({ "what": "swapped", "one": 1, "other": 2 }),
        json!({ "what": "reviewed", "signed": true, "remarks": "" }),
        json!({ "what": "cancelled", "reason": "no part" }),
    ] {
        let said = learner.refused("POST", &at, event(refused)).await;
        assert_eq!(said, (403, "not_allowed".to_owned()));
    }
    learner.good("POST", &format!("/jobs/{job}/return-tests"), setup(Uuid::now_v7())).await;
    house.close().await;
}

#[tokio::test]
async fn in_an_exercise_a_learner_does_what_only_a_technician_does_elsewhere() {
    let (_data, house, owner, _) = house().await;
    let job = Uuid::now_v7();
    owner.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
    let (pim, learner) = owner.lets_in(&house, "Pim", Role::Learner).await;
    let exercise = Uuid::now_v7();
    let case = json!({ "kind": "written", "name": "first_return_test" });
    let up = |id: Uuid, learner: Value| json!({ "id": id, "case": case, "guided": true, "learner": learner });
    learner.good("POST", "/trainer/exercises", up(exercise, Value::Null)).await;
    let decide = || {
        let one =
            json!({ "id": Uuid::now_v7(), "cylinder": 1, "decision": "leave", "reason": "x" });
        json!({ "decisions": [one] })
    };
    learner.good("POST", &format!("/jobs/{exercise}/decisions"), decide()).await;
    let swap = || {
        let event = json!({ "what": "swapped", "one": 1, "other": 2 });
        json!({ "id": Uuid::now_v7(), "event": event })
    };
    learner.good("POST", &format!("/jobs/{exercise}/events"), swap()).await;
    let refused = (403, "not_allowed".to_owned());
    assert_eq!(learner.refused("POST", &format!("/jobs/{job}/decisions"), decide()).await, refused);
    assert_eq!(learner.refused("POST", &format!("/jobs/{job}/events"), swap()).await, refused);
    // Only who signs for others sets a case for somebody.
    let set = up(Uuid::now_v7(), json!(pim));
    assert_eq!(learner.refused("POST", "/trainer/exercises", set.clone()).await, refused);
    owner.good("POST", "/trainer/exercises", set).await;
    let held = learner.good("GET", &format!("/trainer?learner={pim}"), Value::Null).await;
    assert_eq!((&held["total"], &held["exercises"][0]["learner"]), (&json!(2), &json!("Pim")));
    house.close().await;
}

#[tokio::test]
async fn nobody_signs_for_another_by_header_body_tablet_or_a_second_account() {
    let (_data, house, owner, own_id) = house().await;
    let (maren, her) = owner.lets_in(&house, "Maren", Role::Technician).await;
    let (ilse, hers) = owner.lets_in(&house, "Ilse", Role::Reviewer).await;
    let job = Uuid::now_v7();
    let new = json!({ "id": job, "intake": intake(), "labels": [] });
    // A page that still shows Ilse signs nothing by Maren's hand, and Maren signs as nobody else.
    let shows = ilse.to_string();
    let (status, said) = her.send_as("POST", "/jobs", new.clone(), Some(&shows)).await;
    assert_eq!((status, said["code"].as_str()), (409, Some("someone_else")));
    her.good("POST", "/jobs", new).await;
    let events = &her.good("GET", &format!("/jobs/{job}"), Value::Null).await["file"]["job"];
    assert_eq!(events["taken_in"]["by"], json!(maren));

    // A PIN is worth nothing but on an enrolled tablet, and a session of it nothing elsewhere.
    let (status, said) = house.browser().pin(maren, "4711").await;
    assert_eq!((status, said["fields"][0]["field"].as_str()), (422, Some("pin")));
    let tablet = owner.tablet(&house).await;
    let names = tablet.good("GET", "/sign-in", Value::Null).await["bench"].clone();
    assert_eq!(names.as_array().unwrap().len(), 2, "those with a PIN: {names}");
    assert_eq!(tablet.pin(maren, "4712").await.0, 422);
    assert_eq!(tablet.pin(maren, "4711").await.0, 200);
    let stolen = house.browser();
    let taken = tablet.cookies.lock().unwrap().clone();
    let taken = taken.into_iter().filter(|(name, _)| !name.contains("tablet"));
    stolen.cookies.lock().unwrap().extend(taken);
    assert!(!stolen.is_in().await, "the session without its tablet");
    assert_eq!(tablet.pin(maren, "4711").await.0, 200);
    let note = json!({ "id": Uuid::now_v7(), "stage": "bench", "text": "x" });
    let (status, _) =
        tablet.send_as("POST", &format!("/jobs/{job}/notes"), note, Some(&shows)).await;
    assert_eq!(status, 409, "a tablet with Maren at it does not sign for Ilse");
    // What was asked for by the session before takes nothing from the one that came after it.
    let before = house.browser();
    before.cookies.lock().unwrap().extend(tablet.cookies.lock().unwrap().clone());
    assert_eq!(tablet.pin(ilse, "4711").await.0, 200);
    assert_eq!(before.refused("GET", "/board", Value::Null).await.0, 401);
    let held = before.cookies.lock().unwrap().values().all(|value| !value.is_empty());
    assert!(held && tablet.is_in().await, "no cookie was taken away");
    let all = owner.good("GET", "/tablets", Value::Null).await;
    let end = format!("/tablets/{}/end", all[0]["id"].as_str().unwrap());
    owner.good("POST", &end, Value::Null).await;
    assert!(!tablet.is_in().await, "ended with everyone on it");

    // What the owner decided is not signed by accounts that the owner made today.
    let decision =
        json!({ "id": Uuid::now_v7(), "cylinder": 1, "decision": "leave", "reason": "as new" });
    owner.good("POST", &format!("/jobs/{job}/decisions"), json!({ "decisions": [decision] })).await;
    let review = json!({ "id": Uuid::now_v7(), "event": { "what": "reviewed", "signed": true, "remarks": "" } });
    let (status, said) = hers.send("POST", &format!("/jobs/{job}/events"), review.clone()).await;
    assert_eq!(status, 409, "{said}");
    assert!(said["detail"].as_str().unwrap().contains("within a day"), "{said}");
    // Nor by a colleague who may not sign at all.
    assert_eq!(her.refused("POST", &format!("/jobs/{job}/events"), review).await.0, 403);
    assert_ne!(own_id, json!(ilse));
    house.close().await;
}

#[tokio::test]
async fn tries_are_counted_by_place_and_commands_from_pages_elsewhere_are_refused() {
    let (_data, house, owner, _) = house().await;
    let stranger = house.browser();
    let guess = json!({ "name": "Wren", "password": "three lamps at dawn" });
    let mut told = Vec::new();
    for _ in 0..30 {
        told.push(stranger.refused("POST", "/sign-in/password", guess.clone()).await.0);
    }
    let looked = told.iter().filter(|status| **status == 422).count();
    assert_eq!((looked, told.last()), (3, Some(&429)), "{told:?}");
    let from = |origin: &str| {
        let request = owner.http.post(format!("{}/api/sign-in/end", owner.address));
        let (name, value) = owner
            .cookies
            .lock()
            .unwrap()
            .iter()
            .next()
            .map(|(n, v)| (n.clone(), v.clone()))
            .unwrap();
        let request = request.header("cookie", format!("{name}={value}"));
        answer(request.header("origin", origin.to_owned()))
    };
    assert_eq!(from("http://elsewhere.example").await.status, 403);
    assert!(owner.is_in().await);
    assert_eq!(from(&owner.address).await.status, 200);
    house.close().await;
}
