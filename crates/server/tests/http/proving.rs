//! The second half over HTTP: fitted, coded, proven, closed; the report and the passport of it.

use crate::{Workshop, setup};
use serde_json::{Value, json};
use sha2::{Digest, Sha256};
use std::time::Duration;
use uuid::Uuid;

struct Half<'a> {
    shop: &'a Workshop,
    job: Uuid,
}

impl Half<'_> {
    fn path(&self, rest: &str) -> String {
        format!("/jobs/{}/{rest}", self.job)
    }

    async fn tell(&self, event: Value) -> (u16, Value) {
        let mut body = json!({ "id": Uuid::now_v7(), "event": event });
        if event["what"] == "replaced" {
            body["decision"] = json!({ "id": Uuid::now_v7(), "cylinder": event["injector"]["cylinder"],
                "decision": "replace", "reason": "as measured" });
        }
        self.shop.send("POST", &self.path("events"), body.to_string()).await
    }

    async fn told(&self, event: Value) {
        let (status, answer) = self.tell(event).await;
        assert_eq!(status, 200, "{answer}");
    }

    async fn step(&self, what: &str) -> (u16, Value) {
        let body = json!({ "id": Uuid::now_v7() });
        self.shop.send("POST", &self.path(what), body.to_string()).await
    }

    async fn knob(&self, what: &str, to: &str) {
        let body = json!({ "what": what, "to": to });
        self.shop.good("POST", &self.path("codes/knob"), body).await;
    }

    async fn proof(&self) -> Value {
        self.shop.get(&self.path("proof")).await["proof"].clone()
    }

    async fn state(&self, item: &str) -> String {
        let items = self.proof().await["items"].clone();
        let found = items.as_array().unwrap().iter().find(|one| one["id"] == item).cloned();
        found.unwrap()["state"].as_str().unwrap().to_owned()
    }

    async fn decided(&self) {
        let decision = |cylinder: u32| {
            let decision = if cylinder == 2 { "replace" } else { "leave" };
            json!({ "id": Uuid::now_v7(), "cylinder": cylinder, "decision": decision, "reason": "as measured" })
        };
        let decisions: Vec<Value> = (1..=4).map(decision).collect();
        self.shop.good("POST", &self.path("decisions"), json!({ "decisions": decisions })).await;
    }

    async fn fitted(&self) {
        let card = self.shop.get(&self.path("fitting")).await;
        for step in card["steps"].as_array().unwrap() {
            let step = &step["step"];
            self.told(json!({ "what": "fitted", "step": step, "cylinders": [2], "done": true }))
                .await;
        }
    }

    /// Codes read, captured off the bodies, and the one that differs written and read back.
    async fn coded(&self) {
        let shop = self.shop;
        let mut view =
            shop.good("POST", &self.path("codes/read"), json!({ "id": Uuid::now_v7() })).await;
        for (slot, code) in ["AA11", "XX22", "CC33", "DD44"].into_iter().enumerate() {
            let injector = view["coding"]["slots"][slot]["injector"].clone();
            let body = json!({ "id": Uuid::now_v7(), "injector": injector, "typed": code,
                "again": code, "how": "typed_twice" });
            view = shop.good("POST", &self.path("codes/captured"), body).await;
        }
        let writes = json!([{ "cylinder": 2, "code": "XX22" }]);
        let body = json!({ "id": Uuid::now_v7(), "what": "plan", "writes": writes });
        view = shop.good("POST", &self.path("codes/write"), body).await;
        while view["writing"]["running"] == true {
            tokio::time::sleep(Duration::from_millis(20)).await;
            view = shop.get(&self.path("codes")).await;
        }
        assert_eq!(view["writing"]["good"], true, "{view}");
    }

    /// The return test once more, every cylinder inside.
    async fn repeated(&self) {
        let (test, run) = (Uuid::now_v7(), Uuid::now_v7());
        self.shop.good("POST", &self.path("return-tests"), setup(test)).await;
        let body = json!({ "id": run, "timer": false });
        self.shop.good("POST", &format!("/return-tests/{test}/runs"), body).await;
        self.shop.read(run, None, "2:00").await;
        for (cylinder, typed) in [(1, "22"), (2, "23"), (3, "24"), (4, "23")] {
            self.shop.read(run, Some(cylinder), typed).await;
        }
    }
}

#[tokio::test]
async fn a_job_is_fitted_coded_proven_and_closed_and_says_all_along_what_is_open() {
    let shop = Workshop::open().await;
    let half = Half { shop: &shop, job: shop.read_job().await.job };
    half.decided().await;

    let card = shop.get(&half.path("fitting")).await;
    assert_eq!((&card["out"], &card["tightening"]["known"]), (&json!([2]), &json!(false)));
    let typed =
        |typed: &str| json!({ "id": Uuid::now_v7(), "typed": typed, "source": "maker's sheet 4" });
    let (status, refused) =
        shop.send("POST", &half.path("fitting/tightening"), typed("tight").to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("typed")));
    let card = shop.good("POST", &half.path("fitting/tightening"), typed("106 in·lb; 90°")).await;
    assert_eq!(card["tightening"]["stages"], json!(["11.98 N·m (106 in·lb, 8.8 ft·lb)", "90° on"]));
    let replaced = |id: Uuid, label: &str| {
        json!({ "what": "replaced", "part": "new",
        "injector": { "id": id, "cylinder": 2, "label": label } })
    };
    let new = Uuid::now_v7();
    let (status, refused) = half.tell(replaced(new, "A-1")).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("label")), "it sits in 1");
    half.told(replaced(new, "N-22")).await;
    half.fitted().await;
    assert_eq!(half.proof().await["next"], "codes");
    half.coded().await;

    // Nobody says so but the proof and the unit themselves.
    let forged = json!({ "what": "learned_read", "cleared": true, "learned": [], "counters": [] });
    assert_eq!(half.tell(forged).await.0, 409);
    assert_eq!(half.tell(json!({ "what": "closed", "exceptions": [] })).await.0, 409);
    let (status, refused) = half.step("close").await;
    assert_eq!(status, 409);
    assert!(refused["detail"].as_str().unwrap().contains("relearn drive"), "{refused}");
    let told = |item: &str, told: &str, note: &str| json!({ "what": "proved", "item": item, "told": told, "note": note });
    for item in ["bleed", "leak_off", "start", "leak_running", "rescan"] {
        half.told(told(item, "good", "as seen")).await;
    }
    let (status, refused) = half.tell(told("road_test", "left_out", "")).await;
    assert_eq!(
        (status, &refused["fields"][0]["field"]),
        (422, &json!("note")),
        "an exception has a reason"
    );
    half.told(told("road_test", "left_out", "a winch has no road")).await;

    half.knob("fault", "keep-learned").await;
    half.step("proof/clear").await;
    assert_eq!(half.state("cleared").await, "failed", "taken on, not done, seen by reading back");
    half.step("proof/clear").await;
    assert_eq!(half.state("cleared").await, "good");
    assert_eq!(half.state("drive").await, "open");
    half.knob("engine", "on").await;
    let (status, refused) = half.step("proof/clear").await;
    assert_eq!(
        (status, refused["detail"].as_str().unwrap().starts_with("Engine running.")),
        (409, true)
    );
    for (band, times) in [("idle", 3), ("cruise", 4), ("coast", 6)] {
        for _ in 0..times {
            half.knob("drive", band).await;
        }
    }
    half.step("proof/learned").await;
    assert_eq!(half.state("drive").await, "good");
    assert_eq!(half.state("failed_test").await, "open");
    half.repeated().await;
    assert_eq!(half.state("failed_test").await, "good");

    let closing = json!({ "id": Uuid::now_v7() });
    let closed = shop.good("POST", &half.path("close"), closing.clone()).await;
    assert_eq!(closed["proof"]["closing"]["proven"], false, "the road test was left out");
    shop.good("POST", &half.path("close"), closing).await;
    assert_eq!(half.step("close").await.0, 409, "closed already");
    let card = &shop.get("/board").await["cards"][0];
    assert_eq!(card["waits"]["words"], "closed with exceptions");

    // The report carries the hash of the very bytes that the export has.
    let report = shop.get(&half.path("report")).await;
    let exported = shop.text(&half.path("export.json")).await;
    let hash: String =
        Sha256::digest(exported.as_bytes()).iter().map(|b| format!("{b:02x}")).collect();
    assert_eq!(report["hash"], json!(hash));
    let plain = &report["plain"];
    assert_eq!(
        plain["done"][0],
        "Cylinder 2: a new injector (N-22) was fitted, because the old one failed a test: return test (leak-off), 30.2 ml/min."
    );
    assert!(
        plain["proven"][0].as_str().unwrap().contains("cylinder 2 went from 30.2 to 11.5"),
        "{plain}"
    );
    assert_eq!(plain["open"], json!(["Road test: Skipped: a winch has no road"]));
    assert_eq!(report["labels"].as_array().unwrap().len(), 4);

    // Its passport is found by the printed label, by the serial, and remembers that it came back.
    let scanned = shop.get(&format!("/passports?q=COBALTINE:INJECTOR:{new}")).await;
    assert_eq!(scanned["lines"][0]["label"], "N-22");
    let by_label = shop.get("/passports?q=n-2").await;
    assert_eq!((&by_label["total"], &by_label["lines"][0]["injector"]), (&json!(1), &json!(new)));
    assert_eq!(shop.get("/passports?q=%25").await["total"], 0, "what is typed is no pattern");
    let (status, _) =
        half.tell(json!({ "what": "reopened", "comeback": true, "reason": "rough again" })).await;
    assert_eq!(status, 200);
    let passport = shop.get(&format!("/passports/{new}")).await;
    let stay = &passport["stays"][0];
    assert_eq!((&stay["fitted_here"], &stay["held"]), (&json!(true), &json!("came_back")));
    assert_eq!(stay["readings"][0]["shown"], "11.5 ml/min");
    assert_eq!(stay["codes"][0]["code"], "XX22");
    assert_eq!(shop.sent("GET", &format!("/passports/{}", Uuid::nil()), json!({})).await.0, 404);
}

/// What a job of four diesel injectors has to prove besides its fitting.
const LEFT_OUT: [&str; 10] = [
    "codes",
    "bleed",
    "leak_off",
    "start",
    "leak_running",
    "cleared",
    "drive",
    "failed_test",
    "rescan",
    "road_test",
];

/// A job of four that were all left in, its proof left out for a reason and closed so, as a file of
/// another workshop brings it; it came back or not.
fn closed(template: &Value, number: u64, came_back: bool) -> Value {
    let by = template["job"]["taken_in"]["by"].clone();
    let signed = json!({ "by": by, "at": "2031-05-20T08:00:00Z" });
    let later = json!({ "by": by, "at": "2031-05-20T09:00:00Z" });
    let event = |event: Value| json!({ "id": Uuid::now_v7(), "event": event, "signed": later });
    let mut file = template.clone();
    file["job"]["id"] = json!(Uuid::now_v7());
    file["job"]["number"] = json!(number);
    for injector in file["job"]["injectors"].as_array_mut().unwrap() {
        injector["id"] = json!(Uuid::now_v7());
    }
    file["return_tests"] = json!([]);
    file["decisions"] = (1..=4)
        .map(|cylinder| {
            json!({ "id": Uuid::now_v7(), "cylinder": cylinder, "decision": "leave", "reason": "inside",
                    "proposed": null, "signed": signed })
        })
        .collect();
    file["job"]["taken_in"] = signed.clone();
    let left_out =
        |item: &str| json!({ "what": "proved", "item": item, "told": "left_out", "note": "sold" });
    let mut events: Vec<Value> = LEFT_OUT.iter().map(|item| event(left_out(item))).collect();
    events.push(event(json!({ "what": "closed", "exceptions": LEFT_OUT })));
    if came_back {
        events.push(event(json!({ "what": "reopened", "comeback": true, "reason": "again" })));
    }
    file["events"] = json!(events);
    file["family"] = json!("Kettra 27");
    file
}

#[tokio::test]
async fn how_decisions_turned_out_is_counted_and_takes_the_place_of_a_guess() {
    let shop = Workshop::open().await;
    let half = Half { shop: &shop, job: shop.read_job().await.job };
    let csv = "family,kind,check,condition,lower,upper,source\nKettra 27,diesel_solenoid,return_flow,idle,,24,sheet\n";
    let text = json!({ "format": "csv", "text": csv, "leave_out_bad_rows": false });
    shop.good("POST", "/library/import", text).await;
    let family = shop.get("/families").await[0]["id"].as_str().unwrap().to_owned();
    let template = shop.get(&half.path("export.json")).await;
    let mut intake = template["job"]["intake"].clone();
    intake["family_id"] = json!(family);
    let change = json!({ "revision": 1, "intake": intake, "labels": ["A-1", "A-2"] });
    shop.good("PUT", &half.path("intake"), change).await;
    half.decided().await;
    let view = async || shop.get(&format!("/library/families/{family}")).await;
    for number in 1..=9 {
        shop.good("POST", "/jobs/import", closed(&template, 100 + number, number == 4)).await;
    }
    let few = view().await;
    assert_eq!(few["counted"], json!({ "left_in": 36, "comebacks": 1 }));
    assert_eq!(few["counted_odds"], Value::Null, "too few to reckon with");
    let cost = async || shop.get(&half.path("judgement")).await["cost"].clone();
    assert!(cost().await["odds_reason"].as_str().unwrap().contains("workshop rule"));
    for number in 10..=11 {
        shop.good("POST", "/jobs/import", closed(&template, 100 + number, false)).await;
    }
    let enough = view().await;
    assert_eq!(
        enough["turned_out"],
        json!([{ "decision": "leave", "injectors": 44, "came_back": 4 }])
    );
    let odds = enough["counted_odds"].as_f64().unwrap();
    assert!((odds - 2.0 / 46.0).abs() < 1e-12, "{odds}");
    let cost = cost().await;
    assert_eq!(cost["odds"], enough["counted_odds"]);
    assert!(cost["odds_reason"].as_str().unwrap().contains("1 comeback for 44"), "{cost}");
}

#[tokio::test]
async fn one_off_the_shelf_brings_its_life_along_and_sits_in_one_place_at_a_time() {
    let shop = Workshop::open().await;
    let from = shop.stock(1, &mut || [62.5, 29.0, 14.1]).await[0];
    let spare = shop.get(&format!("/jobs/{from}")).await["file"]["job"]["injectors"][4].clone();
    let half = Half { shop: &shop, job: shop.read_job().await.job };
    let fit = |cylinder: u32| {
        json!({ "what": "replaced", "part": "tested",
        "injector": { "id": spare["id"], "cylinder": cylinder, "label": spare["label"] } })
    };
    // Nothing was decided: the reason is asked for in the same step, and is its decision.
    let bare = json!({ "id": Uuid::now_v7(), "event": fit(3) });
    let (status, refused) = shop.send("POST", &half.path("events"), bare.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("reason")), "{refused}");
    half.told(fit(3)).await;
    let job = shop.get(&format!("/jobs/{}", half.job)).await;
    assert_eq!(job["file"]["decisions"][0]["reason"], "as measured");
    // What the bench read of it for its own job counts here, at its new place.
    assert_eq!(job["file"]["bench"].as_array().unwrap().len(), 1);
    let places = job["now"]["places"].as_array().unwrap();
    let place = places.iter().find(|place| place["cylinder"] == 3).unwrap();
    assert_eq!((&place["label"], &place["check"]), (&spare["label"], &json!("Flow")), "{place}");
    let (status, refused) = half.tell(fit(2)).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("label")), "{refused}");
    let id = spare["id"].as_str().unwrap();
    let passport = shop.get(&format!("/passports/{id}")).await;
    let stays = passport["stays"].as_array().unwrap();
    let places: Vec<(&Value, &Value)> =
        stays.iter().map(|one| (&one["fitted_here"], &one["cylinder"])).collect();
    assert!(
        places.contains(&(&json!(false), &json!(5))) && places.contains(&(&json!(true), &json!(3)))
    );
    // It goes out with the job and comes in elsewhere as the same injector.
    let file = shop.get(&half.path("export.json")).await;
    let other = Workshop::open().await;
    other.good("POST", "/jobs/import", file.clone()).await;
    assert_eq!(other.get(&half.path("export.json")).await, file);
    assert_eq!(other.get(&format!("/passports/{id}")).await["stays"][0]["cylinder"], 3);
}
