//! The interface over HTTP, against the real server with a fresh data folder.

// The helpers of a test may fail as a test does.
#![allow(clippy::unwrap_used)]

mod accept;
mod accounts;
mod anew;
mod bench;
mod codes;
mod documented;
mod doors;
mod edges;
mod engine;
mod exchange;
mod generated;
mod house;
mod judgement;
mod live;
mod lost;
mod matching;
mod measuring;
mod proving;
mod sequences;
mod trainer;

use cobaltine_standins::serve_unit;
use cobaltine_standins::unit::Unit;
use cobaltine_store::Store;
use documented::answer;
use serde_json::{Value, json};
use std::time::Duration;
use tempfile::TempDir;
use tokio::sync::oneshot;
use tokio::task::JoinHandle;
use uuid::Uuid;

/// A server on a port of its own, and someone at the bench.
struct Workshop {
    address: String,
    bench: Uuid,
    /// The PIN that is sent along with every command.
    pin: &'static str,
    http: reqwest::Client,
    /// Its control unit, and whether that is the stand-in.
    unit: (Option<String>, bool),
    _stop: oneshot::Sender<()>,
    data: TempDir,
}

impl Workshop {
    async fn open() -> Self {
        Self::open_with(Some(unit_of(Duration::from_millis(40)).await.0)).await
    }

    async fn open_with(unit: Option<String>) -> Self {
        Self::open_at(unit, true).await
    }

    /// With a control unit that is the stand-in, or somebody's own.
    async fn open_at(unit: Option<String>, stand_in: bool) -> Self {
        let data = tempfile::tempdir().unwrap();
        let store = Store::open(data.path()).await.unwrap();
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}", listener.local_addr().unwrap());
        let (unit, stand_in) = &(unit, stand_in);
        let state = cobaltine_server::AppState {
            unit: unit.clone(),
            stand_in: *stand_in,
            ..cobaltine_server::AppState::new(store)
        };
        let (stop, stopped) = oneshot::channel::<()>();
        tokio::spawn(cobaltine_server::serve(state, listener, async { drop(stopped.await) }));
        let bench = Uuid::now_v7();
        let http = reqwest::Client::new();
        let unit = (unit.clone(), *stand_in);
        let shop = Self { address, bench, pin: "", http, unit, _stop: stop, data };
        shop.good("POST", "/people", json!({ "id": bench, "name": "Maren" })).await;
        shop
    }

    async fn send(&self, method: &str, path: &str, body: impl Into<reqwest::Body>) -> (u16, Value) {
        let request = self
            .http
            .request(method.parse().unwrap(), format!("{}/api{path}", self.address))
            .header("x-at-bench", self.bench.to_string())
            .header("x-pin", self.pin)
            .header("content-type", "application/json")
            .body(body);
        let seen = answer(request).await;
        let (status, answer) = (seen.status, seen.json());
        match (&answer["entries"], answer["job"].as_str()) {
            // A command says what it added; who shows the job asks for it, as a page does.
            (Value::Array(_), Some(job)) => (status, self.get(&format!("/jobs/{job}")).await),
            // So does a tube.
            _ if status == 200 && answer["cell"]["round"].is_string() => {
                let session = answer["session"].as_str().unwrap();
                (status, self.get(&format!("/bench/{session}")).await)
            }
            _ => (status, answer),
        }
    }

    /// An answer that may be empty.
    async fn sent(&self, method: &str, path: &str, body: Value) -> (u16, String) {
        let request =
            self.http.request(method.parse().unwrap(), format!("{}/api{path}", self.address));
        let request = request.header("x-at-bench", self.bench.to_string()).json(&body);
        let seen = answer(request).await;
        (seen.status, seen.text)
    }

    async fn good(&self, method: &str, path: &str, body: Value) -> Value {
        let (status, answer) = self.send(method, path, body.to_string()).await;
        assert_eq!(status, 200, "{method} {path}: {answer}");
        answer
    }

    async fn text(&self, path: &str) -> String {
        let path = format!("{}/api{path}", self.address);
        answer(self.http.get(path)).await.text
    }

    async fn get(&self, path: &str) -> Value {
        serde_json::from_str(&self.text(path).await).unwrap()
    }

    /// A job of four cylinders with a test set up and one run begun, not timed here.
    async fn job_with_run(&self) -> Sample {
        let (job, test, run) = (Uuid::now_v7(), Uuid::now_v7(), Uuid::now_v7());
        self.good(
            "POST",
            "/jobs",
            json!({ "id": job, "intake": intake(), "labels": ["A-1", "A-2"] }),
        )
        .await;
        self.good("POST", &format!("/jobs/{job}/return-tests"), setup(test)).await;
        self.good(
            "POST",
            &format!("/return-tests/{test}/runs"),
            json!({ "id": run, "timer": false }),
        )
        .await;
        Sample { job, run }
    }

    async fn read(&self, run: Uuid, cylinder: Option<u32>, typed: &str) -> Value {
        let kind = if cylinder.is_some() { "level" } else { "run_time" };
        let body =
            json!({ "id": Uuid::now_v7(), "kind": kind, "cylinder": cylinder, "typed": typed });
        self.good("POST", &format!("/runs/{run}/readings"), body).await
    }

    /// The sample with all four columns read: number 2 returns far too much.
    async fn read_job(&self) -> Sample {
        let sample = self.job_with_run().await;
        self.read(sample.run, None, "2:00").await;
        for (cylinder, typed) in [(1, "22"), (2, "60,5"), (3, "24"), (4, "23 ml")] {
            self.read(sample.run, Some(cylinder), typed).await;
        }
        sample
    }
}

/// A control unit of the tests' own, with codes in slots 1 to 4 of job 1, and the task that serves it.
async fn unit_of(takes: Duration) -> (String, JoinHandle<std::io::Result<()>>) {
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap().to_string();
    let mut unit = Unit::new(takes);
    unit.deliver("1", ["AA11", "BB22", "CC33", "DD44"].map(|code| Some(code.to_owned())).to_vec());
    (address, tokio::spawn(serve_unit(listener, unit)))
}

struct Sample {
    job: Uuid,
    run: Uuid,
}

fn intake() -> Value {
    json!({
        "customer": "Skerry Fishing", "machine": "Winch", "usage": "", "engine": "H4",
        "fuel_system": "diesel_solenoid", "family_id": null, "symptoms": ["rough_idle"], "complaint": "",
        "layout": { "cylinders": 4, "banks": 1, "first_at": "flywheel", "numbering": "bank_by_bank" },
    })
}

fn setup(id: Uuid) -> Value {
    json!({
        "id": id, "regime": "idle_only", "temperature": "82", "speed": "", "capacity": "100",
        "graduation": "2", "planned": "2:00",
    })
}

#[tokio::test]
async fn a_job_goes_from_intake_to_decision_and_into_another_workshop_without_loss() {
    let shop = Workshop::open().await;
    let Sample { job, .. } = shop.read_job().await;
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["banks"], json!([[4, 3, 2, 1]]), "cylinder 1 at the flywheel, drawn right");
    assert_eq!(view["verdicts"][0]["headline"], "Cylinder 2: leak-off 163 % above the others.");
    let decision = json!({ "id": Uuid::now_v7(), "cylinder": 2, "decision": "replace", "reason": "worn, heard it too" });
    let decided = shop
        .good("POST", &format!("/jobs/{job}/decisions"), json!({ "decisions": [decision] }))
        .await;
    let kept = &decided["file"]["decisions"][0];
    assert_eq!(
        (kept["decision"].as_str(), kept["proposed"]["decision"].as_str()),
        (Some("replace"), Some("measure_again"))
    );
    let note = json!({ "id": Uuid::now_v7(), "stage": "rule_out", "text": "No air in suction." });
    shop.good("POST", &format!("/jobs/{job}/notes"), note).await;

    let file = shop.get(&format!("/jobs/{job}/export.json")).await;
    let other = Workshop::open().await;
    let first = other.good("POST", "/jobs/import", file.clone()).await;
    let again = other.good("POST", "/jobs/import", file.clone()).await;
    assert_eq!((&first["already_here"], &again["already_here"]), (&json!(false), &json!(true)));
    assert_eq!(other.get(&format!("/jobs/{job}/export.json")).await, file);
    assert_eq!(other.get("/board?q=win").await["cards"][0]["waits"]["stage"], "decide");
    let csv = other.http.get(format!("{}/api/jobs/{job}/readings.csv", other.address));
    let csv = answer(csv).await.text;
    assert!(csv.contains("level,60.5,ml,\"60,5\",false,,Maren"), "{csv}");
    assert_eq!(csv.lines().count(), 6);
}

#[tokio::test]
async fn a_stale_change_is_refused_with_the_job_as_it_is_now() {
    let shop = Workshop::open().await;
    let Sample { job, .. } = shop.job_with_run().await;
    let change = |machine: &str, cylinders: u32| {
        let mut intake = intake();
        intake["machine"] = json!(machine);
        intake["layout"]["cylinders"] = json!(cylinders);
        json!({ "revision": 1, "intake": intake, "labels": [] })
    };
    let path = format!("/jobs/{job}/intake");
    let (status, problem) = shop.send("PUT", &path, change("Winch", 6).to_string()).await;
    assert_eq!(status, 422, "measured already: {problem}");
    let view = shop.good("PUT", &path, change("Winch, port", 4)).await;
    assert_eq!(view["file"]["job"]["revision"], 2);
    let (status, problem) = shop.send("PUT", &path, change("Winch, aft", 4).to_string()).await;
    assert_eq!((status, problem["code"].as_str()), (409, Some("stale")));
    assert_eq!(problem["current"]["intake"]["machine"], "Winch, port");
}

#[tokio::test]
async fn readings_are_kept_once_corrected_in_the_open_and_never_lost() {
    let shop = Workshop::open().await;
    let Sample { job, run } = shop.read_job().await;
    let held = |view: &Value| {
        view["file"]["return_tests"][0]["runs"][0]["readings"].as_array().unwrap().clone()
    };
    let before = held(&shop.get(&format!("/jobs/{job}")).await);
    let old = before.iter().find(|r| r["cylinder"] == 2).unwrap()["id"].clone();
    let path = format!("/runs/{run}/readings");
    let fix = |id: Uuid, why: &str| json!({ "id": id, "kind": "level", "cylinder": 2, "typed": "25", "corrects": old, "why": why });
    let (status, problem) = shop.send("POST", &path, fix(Uuid::now_v7(), " ").to_string()).await;
    assert_eq!((status, problem["fields"][0]["field"].as_str()), (422, Some("why")));
    let id = Uuid::now_v7();
    let first = shop.good("POST", &path, fix(id, "misread")).await;
    let twice = shop.good("POST", &path, fix(id, "misread")).await;
    assert_eq!(held(&first), held(&twice), "the same correction twice is one");
    assert_eq!(held(&first).len(), before.len() + 1, "the old one is kept");
    assert_eq!(first["verdicts"][0]["headline"], "All 4 in line.");
    let (status, _) = shop.send("POST", &path, fix(Uuid::now_v7(), "misread").to_string()).await;
    assert_eq!(status, 409, "someone else corrected it first");
    let again = json!({ "id": Uuid::now_v7(), "kind": "level", "cylinder": 1, "typed": "9" });
    assert_eq!(shop.send("POST", &path, again.to_string()).await.0, 409, "has a reading");

    let reason = json!({ "reason": "a hose came off" });
    let view = shop.good("POST", &format!("/runs/{run}/aside"), reason).await;
    assert_eq!(view["verdicts"][0]["runs"], 0, "kept, but it does not count");
}

#[tokio::test]
async fn the_timer_belongs_to_the_program_and_only_one_run_goes_at_a_time() {
    let shop = Workshop::open().await;
    let Sample { job, run } = shop.job_with_run().await;
    shop.good("POST", &format!("/runs/{run}/aside"), json!({ "reason": "try-out" })).await;
    let test = shop.get(&format!("/jobs/{job}")).await["file"]["return_tests"][0]["id"].clone();
    let path = format!("/return-tests/{}/runs", test.as_str().unwrap());
    let timed = Uuid::now_v7();
    shop.good("POST", &path, json!({ "id": timed, "timer": true })).await;
    assert_eq!(shop.get("/board").await["running"][0]["id"], json!(job));
    let (status, _) =
        shop.send("POST", &path, json!({ "id": Uuid::now_v7(), "timer": true }).to_string()).await;
    assert_eq!(status, 409);
    for (kind, cylinder) in [("overflow", json!(2)), ("run_time", Value::Null)] {
        let now =
            json!({ "id": Uuid::now_v7(), "kind": kind, "cylinder": cylinder, "typed": null });
        shop.good("POST", &format!("/runs/{timed}/readings"), now).await;
    }
    let view = shop.get(&format!("/jobs/{job}")).await;
    let readings = view["file"]["return_tests"][0]["runs"][1]["readings"].as_array().unwrap();
    assert!(readings.iter().all(|r| r["value"].as_f64().unwrap() > 0.0 && r["typed"] == ""));
    assert_eq!(shop.get("/board").await["running"], json!([]));
}

#[tokio::test]
async fn the_shipped_schema_names_every_part_of_an_exported_job() {
    let shop = Workshop::open().await;
    let Sample { job, .. } = shop.read_job().await;
    let mut file = shop.get(&format!("/jobs/{job}/export.json")).await;
    // What nobody filled in is not written.
    for (field, value) in
        [("customer_id", Value::Null), ("plate", "".into()), ("promised", Value::Null)]
    {
        file["job"]["intake"][field] = value;
    }
    file["return_tests"][0]["runs"][0]["readings"][0]["shown_by"] = Value::Null;
    file["job"]["exercise"] = Value::Null;
    let schema = shop.get("/schema/job.json").await;
    for (name, value) in [
        ("JobFile", &file),
        ("Job", &file["job"]),
        ("Intake", &file["job"]["intake"]),
        ("TestRecord", &file["return_tests"][0]),
        ("TestSetup", &file["return_tests"][0]["setup"]),
        ("Reading", &file["return_tests"][0]["runs"][0]["readings"][0]),
    ] {
        let known = schema["$defs"][name]["properties"].as_object().unwrap();
        let mut given: Vec<_> = value.as_object().unwrap().keys().collect();
        let mut known: Vec<_> = known.keys().collect();
        given.sort();
        known.sort();
        assert_eq!(given, known, "{name}");
    }
    assert!(!schema.to_string().contains("#/components/"), "every reference stays in the file");
}
