//! The bench over HTTP: sets of two jobs on one rail, drives that are refused, shims that run out,
//! and files of readings that come in whole or not at all.

use crate::{Workshop, intake};
use serde_json::{Value, json};
use std::fmt::Write as _;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// What a session of 8 injectors at 10 points may take for an entry, and a file of 100,000 rows.
const MOST_FOR_AN_ENTRY: Duration = Duration::from_millis(50);
const MOST_FOR_A_FILE: Duration = Duration::from_secs(2);

/// A session on a rail, as the tests read it.
struct Rail<'a> {
    shop: &'a Workshop,
    session: Uuid,
    round: Uuid,
}

impl Workshop {
    async fn of_fuel(&self, fuel: &str, cylinders: u32, family: Option<&str>) -> Uuid {
        let (id, mut intake) = (Uuid::now_v7(), intake());
        intake["fuel_system"] = json!(fuel);
        intake["layout"]["cylinders"] = json!(cylinders);
        if let Some(name) = family {
            let all = self.get("/families").await;
            let one = all.as_array().unwrap().iter().find(|f| f["name"] == name).unwrap();
            intake["family_id"] = one["id"].clone();
        }
        self.good("POST", "/jobs", json!({ "id": id, "intake": intake, "labels": [] })).await;
        id
    }

    async fn hang(&self, injectors: &[(Uuid, u32)], plan: Option<Uuid>, entry: &str) -> Rail<'_> {
        let (session, round) = (Uuid::now_v7(), Uuid::now_v7());
        let injectors: Vec<Value> = injectors
            .iter()
            .map(|(job, cylinder)| json!({ "job": job, "cylinder": cylinder }))
            .collect();
        let body = json!({
            "id": session, "round": round, "injectors": injectors, "bench": null,
            "graduation": "0.02", "capacity": "150", "entry": entry, "plan": plan,
        });
        self.good("POST", "/bench", body).await;
        Rail { shop: self, session, round }
    }

    /// A diesel plan with this many points, each with a window.
    async fn plan(&self, points: usize) -> Uuid {
        let id = Uuid::now_v7();
        let points: Vec<Value> = (1..=points)
            .map(|n| {
                json!({ "name": format!("point {n}"), "rail_kpa": 20_000.0 * n as f64,
                "energising_ms": 0.4 + 0.1 * n as f64, "strokes": 1000, "temperature_c": 40.0 })
            })
            .collect();
        let rows: String = (1..=points.len())
            .map(|n| format!("Kettra 27,diesel_solenoid,delivered,point {n},{n}0,{n}5,,,card\n"))
            .collect();
        self.library("import", &rows, false).await;
        let detail =
            json!({ "kind": "test_plan", "family": "Kettra 27", "points": points, "note": "" });
        let item = json!({ "id": id, "name": "Plan", "revision": 0, "detail": detail });
        self.good("PUT", "/library/items", item).await;
        id
    }
}

impl Rail<'_> {
    async fn say(
        &self,
        test: &str,
        cell: &str,
        row: Option<u32>,
        tag: Option<u32>,
        typed: &str,
        corrects: Option<&Value>,
    ) -> (u16, Value) {
        let body = self.cell(test, cell, (row, tag), typed, corrects);
        self.shop.send("POST", &format!("/bench/{}/cells", self.session), body.to_string()).await
    }

    fn cell(
        &self,
        test: &str,
        cell: &str,
        (row, tag): (Option<u32>, Option<u32>),
        typed: &str,
        corrects: Option<&Value>,
    ) -> Value {
        json!({
            "id": Uuid::now_v7(), "round": self.round, "test": test, "cell": cell, "row": row,
            "tag": tag, "typed": typed, "corrects": corrects,
        })
    }

    async fn begin(&mut self, stage: &str, places: Value) -> Value {
        self.round = Uuid::now_v7();
        let body = json!({ "id": self.round, "stage": stage, "places": places });
        self.shop.good("POST", &format!("/bench/{}/rounds", self.session), body).await
    }

    async fn file(&self, id: Uuid, text: &str, columns: Value, take: bool) -> Value {
        let body = json!({ "id": id, "round": self.round, "name": "log.csv", "text": text,
            "columns": columns, "take": take });
        self.shop.good("POST", &format!("/bench/{}/files", self.session), body).await
    }

    async fn view(&self) -> Value {
        self.shop.get(&format!("/bench/{}", self.session)).await
    }
}

/// The verdict of a test in the newest round that has one.
fn verdict<'a>(view: &'a Value, test: &str) -> &'a Value {
    let all = view["verdicts"].as_array().unwrap();
    &all.iter().rfind(|v| v["test"] == test).unwrap()["verdict"]
}

#[tokio::test]
async fn two_jobs_share_a_rail_change_places_and_come_into_another_workshop_together() {
    let shop = Workshop::open().await;
    let one = shop.of_fuel("petrol_port", 2, None).await;
    let two = shop.of_fuel("petrol_port", 2, None).await;
    let mut rail = shop.hang(&[(one, 1), (two, 1), (one, 2), (two, 2)], None, "volume").await;
    for (tag, typed) in [(1, "60"), (2, "60,4"), (3, "59.8 ml"), (4, "48")] {
        assert_eq!(rail.say("flow", "volume", Some(6), Some(tag), typed, None).await.0, 200);
    }
    let view = rail.view().await;
    assert_eq!(verdict(&view, "flow")["lanes"][3]["mark"], "too_little");
    assert_eq!(view["file"]["setup"]["points"].as_array().unwrap().len(), 6, "petrol has its own");
    // Read already: it has to be named as the one that is corrected.
    let (status, _) = rail.say("flow", "volume", Some(6), Some(4), "58", None).await;
    assert_eq!(status, 409);
    let cells = view["file"]["cells"].as_array().unwrap().clone();
    let (_, view) = rail.say("flow", "volume", Some(6), Some(4), "58", Some(&cells[3]["id"])).await;
    assert_eq!(verdict(&view, "flow")["lanes"][3]["mark"], "inside", "3.5 % of 5");
    for (row, tag, cell, typed, says) in [
        (Some(6), Some(9), "volume", "50", "No injector with this tag is on this bench."),
        (Some(6), Some(1), "volume", "-3", "Enter a value of zero or more."),
        (Some(9), Some(1), "volume", "50", "No cell \"volume\" here."),
        (None, Some(1), "delivered", "50", "No cell \"delivered\" here."),
    ] {
        let (status, problem) = rail.say("flow", cell, row, tag, typed, None).await;
        assert_eq!((status, &problem["fields"][0]["message"]), (422, &json!(says)));
    }
    let places = json!([{ "position": 1, "tag": 4 }, { "position": 2, "tag": 3 },
        { "position": 3, "tag": 2 }, { "position": 4, "tag": 1 }]);
    let view = rail.begin("cleaned", places).await;
    assert_eq!(view["file"]["rounds"][1]["places"][0]["tag"], 4);
    let same = json!([{ "position": 1, "tag": 1 }, { "position": 1, "tag": 2 }]);
    let body = json!({ "id": Uuid::now_v7(), "stage": "final", "places": same });
    let path = format!("/bench/{}/rounds", rail.session);
    assert_eq!(shop.send("POST", &path, body.to_string()).await.0, 422, "two at one position");
    // Both jobs know of it; the board says what the bench says.
    let of_two = shop.get(&format!("/bench?job={two}")).await;
    assert_eq!((&of_two["total"], &of_two["lines"][0]["round"]), (&json!(1), &json!("cleaned")));
    // Both files bring the session; it is there once, and nothing of it is lost.
    let there = Workshop::open().await;
    let mut files = Vec::new();
    for job in [one, two, two] {
        let file = shop.text(&format!("/jobs/{job}/export.json")).await;
        assert_eq!(there.send("POST", "/jobs/import", file.clone()).await.0, 200);
        files.push(serde_json::from_str::<Value>(&file).unwrap());
    }
    assert_eq!(files[0]["bench"], files[1]["bench"]);
    assert_eq!(there.get("/bench").await["total"], 1);
    let back: Value =
        serde_json::from_str(&there.text(&format!("/jobs/{one}/export.json")).await).unwrap();
    assert_eq!(back["bench"], files[0]["bench"]);
    let mut broken = files[0].clone();
    let other = json!(Uuid::now_v7());
    broken["job"]["id"] = other.clone();
    broken["bench"][0]["injectors"][0]["job"] = other;
    broken["bench"][0]["rounds"][0]["places"][0]["tag"] = json!(7);
    let (status, problem) = there.send("POST", "/jobs/import", broken.to_string()).await;
    let field = problem["fields"][0]["field"].as_str().unwrap();
    assert!(status == 422 && field.starts_with("bench.rounds, "), "{problem}");
    // What was measured holds the number of cylinders.
    let job = shop.get(&format!("/jobs/{one}")).await["file"]["job"].clone();
    let mut intake = job["intake"].clone();
    intake["layout"]["cylinders"] = json!(3);
    let body = json!({ "revision": job["revision"], "intake": intake, "labels": [] });
    let (status, _) = shop.send("PUT", &format!("/jobs/{one}/intake"), body.to_string()).await;
    assert_eq!(status, 422);
    let diesel = shop.of_fuel("diesel_solenoid", 2, None).await;
    let mixed = json!({ "id": Uuid::now_v7(), "round": Uuid::now_v7(), "bench": null, "plan": null,
        "injectors": [{ "job": one, "cylinder": 1 }, { "job": diesel, "cylinder": 1 }],
        "graduation": "1", "capacity": "100", "entry": "volume" });
    let (status, problem) = shop.send("POST", "/bench", mixed.to_string()).await;
    assert_eq!(status, 422);
    assert!(problem["fields"][0]["message"].as_str().unwrap().contains("separate bench sessions"));
}

#[tokio::test]
async fn nothing_is_pulsed_with_a_drive_that_is_too_high() {
    let shop = Workshop::open().await;
    shop.library("import", "Port,petrol_port_high,static_flow,,228,252,,,card\n", false).await;
    let known = shop.get("/library?kind=family").await["lines"][0]["id"].clone();
    let family = json!({ "id": known, "revision": 1, "name": "Port", "kind": "petrol_port_high",
        "drive_voltage_v": "12", "peak_voltage_v": "16", "peak_current_a": "", "code_length": "",
        "code_alphabet": "", "code_check": "", "torque": "", "service_life_h": "",
        "cleaning": true, "note": "" });
    shop.good("PUT", "/library/families", family).await;
    let job = shop.of_fuel("petrol_port", 2, Some("Port")).await;
    let rail = shop.hang(&[(job, 1), (job, 2)], None, "volume").await;
    let (_, view) = rail.say("drive", "drive", None, None, "3", None).await;
    let refused = "Do not pulse: boosted, 65 V, 18 A is more than injectors 1 and 2 take.";
    assert_eq!(view["drive_refused"], refused);
    let (status, problem) = rail.say("flow", "volume", Some(6), Some(1), "60", None).await;
    assert_eq!((status, &problem["detail"]), (409, &json!(refused)));
    let seen = rail.say("visual", "tip", None, Some(1), "1", None).await;
    assert_eq!(seen.0, 200, "looking is no pulse");
    let chosen = view["file"]["cells"][0]["id"].clone();
    assert_eq!(rail.say("drive", "drive", None, None, "0", Some(&chosen)).await.0, 200);
    assert_eq!(rail.say("flow", "volume", Some(6), Some(1), "60", None).await.0, 200);
}

#[tokio::test]
async fn a_shim_leaves_the_drawer_when_it_is_fitted_and_one_that_is_not_there_is_refused() {
    let shop = Workshop::open().await;
    let put =
        |size: &str, moved: i32| json!({ "id": Uuid::now_v7(), "size": size, "moved": moved });
    let twice = put("1.0050 mm", 2);
    shop.good("POST", "/shims", twice.clone()).await;
    let drawer = shop.good("POST", "/shims", twice).await;
    assert_eq!(drawer, json!([{ "size_um": 1005.0, "count": 2 }]), "asked twice, put in once");
    assert_eq!(shop.send("POST", "/shims", put("1005", -3).to_string()).await.0, 422);
    shop.good("POST", "/shims", put("980", 1)).await;
    let job = shop.of_fuel("diesel_solenoid", 1, None).await;
    let mut rail = shop.hang(&[(job, 1)], None, "volume").await;
    // What was in it as it came is in no drawer.
    assert_eq!(rail.say("lift", "shim", None, Some(1), "1030", None).await.0, 200);
    rail.begin("adjusted", json!([])).await;
    let (status, problem) = rail.say("lift", "shim", None, Some(1), "1000", None).await;
    let says = "No shim of 1000 µm in stock; the nearest on hand is 1005 µm.";
    assert_eq!((status, &problem["fields"][0]["message"]), (422, &json!(says)));
    let (_, view) = rail.say("lift", "shim", None, Some(1), "980", None).await;
    assert_eq!(view["stock"][0], json!({ "size_um": 980.0, "count": 0 }));
    // A slip of the key: the one that was meant goes in, the other one is back.
    let slip = view["file"]["cells"].as_array().unwrap().last().unwrap()["id"].clone();
    let (status, view) = rail.say("lift", "shim", None, Some(1), "1005", Some(&slip)).await;
    assert_eq!(status, 200, "{view}");
    assert_eq!(
        view["stock"],
        json!([{ "size_um": 980.0, "count": 1 }, { "size_um": 1005.0, "count": 1 }])
    );
    // The same one measured again in another round is no other shim.
    rail.begin("adjusted", json!([])).await;
    let (_, again) = rail.say("lift", "shim", None, Some(1), "1005", None).await;
    assert_eq!(again["stock"], view["stock"]);
}

#[tokio::test]
async fn a_session_of_eight_at_ten_points_answers_each_entry_at_once() {
    let shop = Workshop::open().await;
    let plan = shop.plan(10).await;
    let job = shop.of_fuel("diesel_solenoid", 8, Some("Kettra 27")).await;
    let hung: Vec<(Uuid, u32)> = (1..=8).map(|cylinder| (job, cylinder)).collect();
    let rail = shop.hang(&hung, Some(plan), "per_stroke").await;
    let mut took = Vec::new();
    for row in 1..=10 {
        for tag in 1..=8 {
            let typed = format!("{row}2.{tag}");
            let path = format!("/bench/{}/cells", rail.session);
            let body = rail.cell("map", "delivered", (Some(row), Some(tag)), &typed, None);
            let from = Instant::now();
            let (status, answer) = shop.sent("POST", &path, body).await;
            took.push(from.elapsed());
            assert_eq!(status, 200);
            let kept: Value = serde_json::from_str(&answer).unwrap();
            assert!(
                kept["file"].is_null(),
                "an entry is answered with its reading, not with the session"
            );
        }
    }
    took.sort_unstable();
    let (median, worst) = (took[took.len() / 2], took[took.len() - 1]);
    println!(
        "an entry of a session of 8 × 10, kept, judged and answered: median {median:?}, worst {worst:?}"
    );
    // The quickest half of eighty: a busy machine slows some of them.
    assert!(median < MOST_FOR_AN_ENTRY, "{median:?}");
    let view = rail.view().await;
    assert_eq!(verdict(&view, "map")["rows"].as_array().unwrap().len(), 10);
    assert_eq!(verdict(&view, "map")["headline"], "All points read are within limits.");
    assert_eq!(view["order"][0]["row"], Value::Null, "warm up first");
}

#[tokio::test]
async fn a_log_of_a_hundred_thousand_rows_comes_in_whole_or_not_at_all() {
    let shop = Workshop::open().await;
    let plan = shop.plan(10).await;
    let job = shop.of_fuel("diesel_solenoid", 8, Some("Kettra 27")).await;
    let hung: Vec<(Uuid, u32)> = (1..=8).map(|cylinder| (job, cylinder)).collect();
    let rail = shop.hang(&hung, Some(plan), "per_stroke").await;
    let mut log = "Time;Slot;Point;Injected [mm3];Return [mm3]\n".to_owned();
    for row in 0..100_000_u32 {
        let (slot, point) = (row % 8 + 1, row / 8 % 10 + 1);
        let _ = writeln!(log, "{row};{slot};point {point};{point}2,{};3.5", row % 7);
    }
    // Nobody knows "Injected" yet: what it means has to be said once.
    let guessed = rail.file(Uuid::now_v7(), &log, json!([]), false).await;
    assert_eq!(guessed["columns"], json!(["skip", "position", "point", "skip", "returned"]));
    let columns = json!(["skip", "position", "point", "delivered", "returned"]);
    let id = Uuid::now_v7();
    let from = Instant::now();
    let taken = rail.file(id, &log, columns.clone(), true).await;
    let took = from.elapsed();
    println!("a file of 100,000 rows read, kept, judged and answered: {took:?}");
    assert!(took < MOST_FOR_A_FILE, "{took:?}");
    assert_eq!((&taken["rows"], &taken["readings"]), (&json!(100_000), &json!(160)));
    let cell = &taken["session"]["file"]["cells"][0];
    assert_eq!(cell["samples"]["count"], 1250);
    // The same request again changes nothing; the heading is known from now on.
    rail.file(id, &log, columns, true).await;
    let known = rail.file(Uuid::now_v7(), &log, json!([]), false).await;
    assert_eq!((&known["remembered"], &known["corrects"]), (&json!(true), &json!(160)));
    let before = rail.view().await["file"]["cells"].as_array().unwrap().len();
    assert_eq!(before, 160);
    // One bad line among all: nothing of the file is taken.
    let _ = writeln!(log, "9;1;point 3;thirty;3.5");
    let bad = rail.file(Uuid::now_v7(), &log, json!([]), true).await;
    assert_eq!(
        bad["problems"],
        json!([{ "line": 100_002, "message": "delivered: \"thirty\" is not a number." }])
    );
    assert_eq!(bad["session"], Value::Null);
    assert_eq!(rail.view().await["file"]["cells"].as_array().unwrap().len(), before);
}

#[tokio::test]
async fn the_board_speaks_of_what_was_read_last_bench_or_engine() {
    let shop = Workshop::open().await;
    let job = shop.of_fuel("petrol_port", 4, None).await;
    let hung: Vec<(Uuid, u32)> = (1..=4).map(|cylinder| (job, cylinder)).collect();
    let rail = shop.hang(&hung, None, "volume").await;
    let words = async || {
        let board = shop.get("/board").await;
        board["cards"][0]["waits"]["words"].as_str().unwrap().to_owned()
    };
    for (tag, typed) in [(1, "60"), (2, "60.2"), (3, "50"), (4, "59.8")] {
        rail.say("flow", "volume", Some(6), Some(tag), typed, None).await;
    }
    assert!(words().await.starts_with("Bench, flow: Injector 3: too little flow."));
    let sheet = Uuid::now_v7();
    let begin = json!({ "id": sheet, "check": "cutout", "instrument": null });
    shop.good("POST", &format!("/jobs/{job}/sheets"), begin).await;
    let cells = [
        (None, "base", "800"),
        (Some(1), "cut", "720"),
        (Some(2), "cut", "790"),
        (Some(3), "cut", "722"),
        (Some(4), "cut", "721"),
    ];
    for (cylinder, cell, typed) in cells {
        let body = json!({ "id": Uuid::now_v7(), "check": "cutout", "cell": cell, "cylinder": cylinder,
            "typed": typed, "corrects": null });
        shop.good("POST", &format!("/sheets/{sheet}/cells"), body).await;
    }
    assert!(words().await.starts_with("Cylinder 2 makes little difference"), "{}", words().await);
    // A reading on the bench that moves no mark brings the bench back all the same.
    rail.say("flow", "volume", Some(5), Some(1), "20", None).await;
    assert!(words().await.starts_with("Bench, flow: Injector 3"), "{}", words().await);
}
