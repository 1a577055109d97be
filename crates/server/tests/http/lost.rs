//! Lost answers: the connection is cut after the program has done what was asked, and the page asks
//! again under the same id. Every kind of command is there once, is answered, and under its id
//! nothing else is ever done.

use crate::anew::same_as_opened_anew;
use crate::documented::answer;
use crate::engine::{recording, ticking, wav};
use crate::{Workshop, intake, setup};
use serde_json::{Value, json};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use uuid::Uuid;

/// How many lives of a job are told; `LIVES=250 cargo test ...` loses ten thousand answers.
const LIVES: usize = 2;

/// Loses answers and counts them.
struct Lost<'a> {
    shop: &'a Workshop,
    lost: usize,
    /// After each command every answer is compared with the one of a folder that was just opened.
    anew: bool,
}

/// A number in an answer: how often something is there.
type Count<'a> = (&'a str, &'a dyn Fn(&Value) -> usize);

fn len(pointer: &str) -> impl Fn(&Value) -> usize {
    move |view| view.pointer(pointer).and_then(Value::as_array).map_or(0, Vec::len)
}

fn number(pointer: &str) -> impl Fn(&Value) -> usize {
    move |view| view.pointer(pointer).and_then(Value::as_u64).unwrap_or_default() as usize
}

impl Lost<'_> {
    /// Asks and hangs up: at once, or when the first byte of the answer is here.
    async fn cut(&self, method: &str, path: &str, id: Uuid, body: &str, at_once: bool) {
        let host = self.shop.address.trim_start_matches("http://");
        let mut line = TcpStream::connect(host).await.unwrap();
        let request = format!(
            "{method} /api{path} HTTP/1.1\r\nhost: {host}\r\nx-at-bench: {}\r\nidempotency-key: {id}\r\ncontent-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
            self.shop.bench,
            body.len()
        );
        line.write_all(request.as_bytes()).await.unwrap();
        if !at_once {
            let mut first = [0];
            line.read_exact(&mut first).await.unwrap();
        }
    }

    async fn ask(&self, method: &str, path: &str, id: Uuid, body: &str) -> (u16, String) {
        let request = self
            .shop
            .http
            .request(method.parse().unwrap(), format!("{}/api{path}", self.shop.address))
            .header("x-at-bench", self.shop.bench.to_string())
            .header("idempotency-key", id.to_string())
            .header("content-type", "application/json");
        let seen = answer(request.body(body.to_owned())).await;
        (seen.status, seen.text)
    }

    /// One command under this id: lost, asked again, asked once more, and misused.
    async fn once(
        &mut self,
        (method, path): (&str, &str),
        id: Uuid,
        body: Value,
        count: Count<'_>,
    ) {
        let (where_counted, counted) = count;
        let before = counted(&self.shop.get(where_counted).await);
        let text = if body.is_null() { String::new() } else { body.to_string() };
        self.cut(method, path, id, &text, self.lost % 2 == 1).await;
        self.lost += 1;
        for _ in 0..2 {
            let (status, answer) = self.ask(method, path, id, &text).await;
            assert!(matches!(status, 200 | 204), "{method} {path}: {status} {answer}");
        }
        let after = counted(&self.shop.get(where_counted).await);
        assert_eq!(after, before + 1, "{method} {path} is there once");
        if self.anew {
            same_as_opened_anew(self.shop, &format!("{method} {path}")).await;
        }
        // The same id for something else: nothing is written, and it says so.
        let other = if body.is_null() { "{}".to_owned() } else { otherwise(&body) };
        let (status, answer) = self.ask(method, path, id, &other).await;
        assert_eq!(status, 409, "{method} {path}: {answer}");
        assert!(answer.contains("\"reused\""), "{method} {path}: {answer}");
        assert_eq!(counted(&self.shop.get(where_counted).await), after);
    }

    /// A command that makes something under its own id.
    async fn makes(&mut self, path: &str, mut body: Value, count: Count<'_>) -> Uuid {
        let id = Uuid::now_v7();
        body["id"] = json!(id);
        self.once(("POST", path), id, body, count).await;
        id
    }
}

/// The same request with one text in it changed, or where it has none, one number.
fn otherwise(body: &Value) -> String {
    /// Not an id, nor the name of a variant, which would not be understood.
    fn free(text: &str) -> bool {
        let name = text.chars().all(|c| c.is_ascii_lowercase() || c == '_');
        let time = text.parse::<jiff::Timestamp>().is_ok();
        !name && !time && text.parse::<Uuid>().is_err()
    }
    fn change(value: &mut Value, numbers: bool, done: &mut bool) {
        match value {
            Value::String(text) if !*done && !numbers && free(text) => {
                text.push('1');
                *done = true;
            }
            Value::Number(number) if !*done && numbers => {
                *value = json!(number.as_u64().unwrap_or_default() + 1);
                *done = true;
            }
            Value::Array(list) => list.iter_mut().for_each(|one| change(one, numbers, done)),
            Value::Object(map) => map.values_mut().for_each(|one| change(one, numbers, done)),
            Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
        }
    }
    let (mut value, mut done) = (body.clone(), false);
    change(&mut value, false, &mut done);
    change(&mut value, true, &mut done);
    if !done {
        // Nothing in it but an id: another one asks for another thing.
        value["id"] = json!(Uuid::now_v7());
    }
    value.to_string()
}

#[tokio::test]
async fn an_answer_that_was_lost_neither_doubles_nor_drops_any_kind_of_command() {
    let shop = Workshop::open().await;
    let lives = std::env::var("LIVES").ok().and_then(|n| n.parse().ok()).unwrap_or(LIVES);
    let mut lost = Lost { shop: &shop, lost: 0, anew: false };
    for life in 0..lives {
        lost.anew = life == 0;
        counter(&mut lost, life).await;
        let job = engine(&mut lost, life).await;
        bench(&mut lost, job).await;
        unit(&mut lost, job).await;
        closing(&mut lost, job).await;
        exercise(&mut lost).await;
        house(&mut lost, life).await;
    }
    println!("{} answers lost, each command there once", lost.lost);
    assert!(lost.lost >= 40 * lives, "{}", lost.lost);
}

/// People, and a job with another intake.
async fn counter(lost: &mut Lost<'_>, life: usize) {
    let person = json!({ "name": format!("Person {life}") });
    lost.makes("/people", person, ("/people", &len(""))).await;
}

/// A job of its own, measured on the engine.
async fn engine(lost: &mut Lost<'_>, life: usize) -> Uuid {
    let jobs = number("/jobs");
    let taken = json!({ "intake": intake(), "labels": [format!("A-{life}"), format!("B-{life}")] });
    let job = lost.makes("/jobs", taken, ("/board", &jobs)).await;
    let view = format!("/jobs/{job}");
    let at = |what: &str| format!("/jobs/{job}/{what}");
    let mut changed = intake();
    changed["machine"] = json!("Windlass");
    let change = json!({ "revision": 1, "intake": changed, "labels": [format!("A-{life}")] });
    let changes = len("/file/changes");
    lost.once(("PUT", &at("intake")), Uuid::now_v7(), change, (&view, &changes)).await;
    let tests = len("/file/return_tests");
    let test = lost.makes(&at("return-tests"), setup(Uuid::nil()), (&view, &tests)).await;
    let runs = len("/file/return_tests/0/runs");
    let begin = json!({ "timer": false });
    let run = lost.makes(&format!("/return-tests/{test}/runs"), begin, (&view, &runs)).await;
    let readings = len("/file/return_tests/0/runs/0/readings");
    let path = format!("/runs/{run}/readings");
    let time = json!({ "kind": "run_time", "cylinder": null, "typed": "120" });
    lost.makes(&path, time, (&view, &readings)).await;
    let level = json!({ "kind": "level", "cylinder": 2, "typed": "23" });
    let read = lost.makes(&path, level, (&view, &readings)).await;
    let correct = json!({ "kind": "level", "cylinder": 2, "typed": "32", "corrects": read, "why": "misread" });
    lost.makes(&path, correct, (&view, &readings)).await;
    let aside = |view: &Value| {
        usize::from(!view["file"]["return_tests"][0]["runs"][0]["set_aside"].is_null())
    };
    let why = json!({ "reason": "A hose came off" });
    lost.once(("POST", &format!("/runs/{run}/aside")), Uuid::now_v7(), why, (&view, &aside)).await;
    let sheets = len("/file/sheets");
    let begun = json!({ "check": "cutout", "instrument": null });
    let sheet = lost.makes(&at("sheets"), begun, (&view, &sheets)).await;
    let cells = len("/file/sheets/0/readings");
    let cell = json!({ "check": "cutout", "cell": "cut", "cylinder": 1, "typed": "650", "corrects": null });
    lost.makes(&format!("/sheets/{sheet}/cells"), cell, (&view, &cells)).await;
    let events = len("/file/events");
    let swap = json!({ "event": { "what": "swapped", "one": 1, "other": 2 } });
    lost.makes(&at("events"), swap, (&view, &events)).await;
    let timer = json!({ "event": { "what": "timer_set", "word": "Soak it", "seconds": 600.0, "stage": "bench" } });
    lost.makes(&at("events"), timer, (&view, &events)).await;
    let note = json!({ "stage": "rule_out", "text": "No air in suction." });
    lost.makes(&at("notes"), note, (&view, &len("/file/notes"))).await;
    petrol(lost).await;
    job
}

/// A pressure trace belongs to a petrol engine.
async fn petrol(lost: &mut Lost<'_>) {
    let mut of = intake();
    of["fuel_system"] = json!("petrol_port");
    let body = json!({ "intake": of, "labels": [] });
    let job = lost.makes("/jobs", body, ("/board", &number("/jobs"))).await;
    let view = format!("/jobs/{job}");
    let begun = json!({ "check": "pressure_drop", "instrument": null });
    let sheet = lost.makes(&format!("{view}/sheets"), begun, (&view, &len("/file/sheets"))).await;
    let rows = (0..40).map(|n| format!("{},{}\n", f64::from(n) / 10.0, 300 - 20 * (n / 12)));
    let text: String = rows.collect();
    let trace = json!({ "name": "Rail.csv", "text": text, "order": [1, 2, 3] });
    let sound = json!({ "check": "listening", "instrument": null });
    let hear = lost.makes(&format!("{view}/sheets"), sound, (&view, &len("/file/sheets"))).await;
    let recording = recording("listening", 1, "800 rpm", &wav(&ticking(0.5)));
    let path = format!("/sheets/{hear}/recordings");
    lost.makes(&path, recording, (&view, &len("/file/sheets/1/recordings"))).await;
    let traces = len("/file/sheets/0/traces");
    lost.makes(&format!("/sheets/{sheet}/traces"), trace, (&view, &traces)).await;
}

/// A session on the bench, and shims.
async fn bench(lost: &mut Lost<'_>, job: Uuid) {
    let total = number("/total");
    let session = json!({ "round": Uuid::now_v7(), "bench": null, "plan": null, "entry": "volume",
        "injectors": [{ "job": job, "cylinder": 1 }, { "job": job, "cylinder": 2 }],
        "graduation": "0.02", "capacity": "150" });
    let session = lost.makes("/bench", session, ("/bench", &total)).await;
    let view = format!("/bench/{session}");
    let at = |what: &str| format!("/bench/{session}/{what}");
    let stage = json!({ "stage": "cleaned", "places": [] });
    let round = lost.makes(&at("rounds"), stage, (&view, &len("/file/rounds"))).await;
    let cell = json!({ "round": round, "test": "visual", "cell": "tip", "row": null, "tag": 1, "typed": "1", "corrects": null });
    lost.makes(&at("cells"), cell, (&view, &len("/file/cells"))).await;
    let shims = |list: &Value| {
        let all = list.as_array().into_iter().flatten();
        all.map(|shim| shim["count"].as_u64().unwrap_or_default() as usize).sum()
    };
    lost.makes("/shims", json!({ "size": "1005", "moved": 1 }), ("/shims", &shims)).await;
}

/// Codes and learned values: a talk with the unit is not begun again for a lost answer.
async fn unit(lost: &mut Lost<'_>, job: Uuid) {
    let view = format!("/jobs/{job}");
    let events = len("/file/events");
    let at = |what: &str| format!("/jobs/{job}/{what}");
    lost.makes(&at("codes/read"), json!({}), (&view, &events)).await;
    let slots = lost.shop.get(&at("codes")).await["coding"]["slots"].clone();
    for (n, slot) in slots.as_array().unwrap().iter().enumerate() {
        let code = ["XX11", "XX22", "YY33", "YY44"][n];
        let told = json!({ "injector": slot["injector"], "typed": code, "again": code, "how": "typed_twice" });
        lost.makes(&at("codes/captured"), told, (&view, &events)).await;
    }
    let codes = lost.shop.get(&at("codes")).await;
    let plan = codes["coding"]["plan"].as_array().unwrap();
    let writes: Vec<Value> =
        plan.iter().map(|one| json!({ "cylinder": one["cylinder"], "code": one["to"] })).collect();
    let begun = |view: &Value| {
        let all = view["file"]["events"].as_array().into_iter().flatten();
        all.filter(|one| one["event"]["what"] == "write_begun").count()
    };
    lost.makes(&at("codes/write"), json!({ "what": "plan", "writes": writes }), (&view, &begun))
        .await;
    while lost.shop.get(&at("codes")).await["writing"]["running"] == true {
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    lost.makes(&at("proof/learned"), json!({}), (&view, &events)).await;
    lost.makes(&at("proof/clear"), json!({}), (&view, &events)).await;
    let torque = json!({ "typed": "8 + 90", "source": "Sheet 4" });
    lost.makes(&at("fitting/tightening"), torque, (&view, &events)).await;
}

/// A job on a made-up engine, read by the trainer.
async fn exercise(lost: &mut Lost<'_>) {
    let read = || json!({ "cell": null, "cylinder": null });
    let case = json!({ "kind": "drawn", "seed": 4, "level": "one_fault" });
    let taken = json!({ "case": case, "guided": false, "learner": null });
    let job = lost.makes("/trainer/exercises", taken, ("/trainer", &number("/total"))).await;
    let (view, at) = (format!("/jobs/{job}"), |what: &str| format!("/jobs/{job}/{what}"));
    let events = len("/file/events");
    let act = json!({ "act": { "act": "put_right", "part": "fuel" } });
    lost.makes(&at("exercise/acts"), act, (&view, &events)).await;
    let begun = json!({ "check": "fuel_sample", "instrument": null });
    let sheet = lost.makes(&at("sheets"), begun, (&view, &len("/file/sheets"))).await;
    let look = |view: &Value| usize::from(len("/file/sheets/0/readings")(view) > 0);
    lost.makes(&format!("/sheets/{sheet}/exercise"), read(), (&view, &look)).await;
    let test = lost
        .makes(&at("return-tests"), setup(Uuid::nil()), (&view, &len("/file/return_tests")))
        .await;
    let runs = len("/file/return_tests/0/runs");
    let run = lost
        .makes(&format!("/return-tests/{test}/runs"), json!({ "timer": false }), (&view, &runs))
        .await;
    let levels = |view: &Value| usize::from(len("/file/return_tests/0/runs/0/readings")(view) > 0);
    lost.makes(&format!("/runs/{run}/exercise"), read(), (&view, &levels)).await;
}

/// Decided, proven as far as it goes, closed, and opened again.
async fn closing(lost: &mut Lost<'_>, job: Uuid) {
    let view = format!("/jobs/{job}");
    let at = |what: &str| format!("/jobs/{job}/{what}");
    let one = |cylinder: u32, id: Uuid| json!({ "id": id, "cylinder": cylinder, "decision": "leave", "reason": "Inside." });
    let first = Uuid::now_v7();
    let all: Vec<Value> =
        (1..=4).map(|c| one(c, if c == 1 { first } else { Uuid::now_v7() })).collect();
    let four = |view: &Value| len("/file/decisions")(view) / 4;
    let body = json!({ "decisions": all });
    lost.once(("POST", &at("decisions")), first, body, (&view, &four)).await;
    let proof = lost.shop.get(&at("proof")).await;
    for item in proof["proof"]["items"].as_array().unwrap() {
        let event =
            json!({ "what": "proved", "item": item["id"], "told": "left_out", "note": "sold" });
        let body = json!({ "id": Uuid::now_v7(), "event": event });
        lost.shop.good("POST", &at("events"), body).await;
    }
    let events = len("/file/events");
    lost.makes(&at("close"), json!({}), (&view, &events)).await;
    let back = json!({ "event": { "what": "reopened", "comeback": true, "reason": "Again." } });
    lost.makes(&at("events"), back, (&view, &events)).await;
}

/// The library, the instruments, the rules, and jobs from elsewhere.
async fn house(lost: &mut Lost<'_>, life: usize) {
    let put = |what: &'static str| ("PUT", what);
    let family = json!({ "id": Uuid::now_v7(), "revision": 0, "name": format!("Kettra {life}"),
        "kind": "diesel_solenoid", "drive_voltage_v": "", "peak_voltage_v": "", "peak_current_a": "",
        "code_length": "", "code_alphabet": "", "code_check": "", "torque": "", "service_life_h": "", "cleaning": null, "note": "" });
    let families = len("");
    lost.once(put("/library/families"), Uuid::now_v7(), family, ("/families", &families)).await;
    let text = format!(
        "family,kind,check,condition,lower,upper,source\nTarve {life},diesel_solenoid,return_flow,idle,,24,sheet\n"
    );
    let import = json!({ "format": "csv", "text": text, "leave_out_bad_rows": false });
    lost.once(("POST", "/library/import"), Uuid::now_v7(), import, ("/families", &families)).await;
    let item = json!({ "id": Uuid::now_v7(), "name": format!("Plan {life}"), "revision": 0,
        "detail": { "kind": "test_plan", "family": "Tarve", "note": "", "points": [{ "name": "Idle", "rail_kpa": 30000.0, "energising_ms": 0.6, "strokes": 1000, "temperature_c": 40.0 }] } });
    let items = |page: &Value| number("/total")(page);
    lost.once(put("/library/items"), Uuid::now_v7(), item, ("/library", &items)).await;
    let meter = json!({ "id": Uuid::now_v7(), "name": format!("Bridge {life}"), "kind": "meter", "resolution": "0.001",
        "accuracy_pct": "0.2", "accuracy_digits": "2", "lead": "", "capacity": "", "calibration_due": "",
        "certificate": "31-9", "revision": 0 });
    lost.once(put("/instruments"), Uuid::now_v7(), meter, ("/instruments", &len(""))).await;
    let history = |rules: &Value| {
        let all = rules.as_array().into_iter().flatten();
        all.map(|rule| rule["history"].as_array().map_or(0, Vec::len)).sum()
    };
    let rules = lost.shop.get("/rules").await;
    let rule = rules.as_array().unwrap().iter().find(|rule| rule["id"] == "return_look").unwrap();
    let change = json!({ "revision": rule["revision"], "typed": "14", "reason": "Comebacks" });
    lost.once(put("/rules/return_look"), Uuid::now_v7(), change, ("/rules", &history)).await;
    let weights = lost.shop.get("/weights").await;
    let change =
        json!({ "revision": weights["revision"], "text": weights["text"], "reason": "Ours" });
    lost.once(put("/weights"), Uuid::now_v7(), change, ("/weights", &number("/revision"))).await;
    let ids = lost.shop.stock(1, &mut || [62.5, 29.0, 14.1]).await;
    let shelf = "/shelf?kind=petrol&family=";
    let lines = lost.shop.get(&format!("{shelf}&job={}", ids[0])).await;
    let members: Vec<&Value> =
        lines["lines"].as_array().unwrap().iter().take(2).map(|one| &one["injector"]).collect();
    let set =
        json!({ "kind": "petrol", "family": "", "members": members, "note": "For the winch" });
    let kept = len("/kept");
    let set = lost.makes("/shelf/sets", set, (shelf, &kept)).await;
    let gone = |view: &Value| 1000 - kept(view);
    let apart = format!("/shelf/sets/{set}/apart");
    lost.once(("POST", &apart), Uuid::now_v7(), Value::Null, (shelf, &gone)).await;
    let file = lost.shop.get(&format!("/jobs/{}/export.json", ids[0])).await;
    let other = Workshop::open().await;
    let mut there = Lost { shop: &other, lost: lost.lost, anew: false };
    there.once(("POST", "/jobs/import"), Uuid::now_v7(), file, ("/board", &number("/jobs"))).await;
    lost.lost = there.lost;
}
