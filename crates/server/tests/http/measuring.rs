//! The library, the rules, the instruments and the calculators over HTTP.

mod libraries;

use crate::documented::answer;
use crate::{Workshop, intake, setup};
use serde_json::{Value, json};
use uuid::Uuid;

const HEAD: &str = "family,kind,check,condition,lower,upper,from_c,to_c,source\n";

impl Workshop {
    pub(crate) async fn library(&self, what: &str, csv: &str, leave_out: bool) -> (u16, Value) {
        let body = json!({ "format": "csv", "text": format!("{HEAD}{csv}"), "leave_out_bad_rows": leave_out });
        self.send("POST", &format!("/library/{what}"), body.to_string()).await
    }

    /// A job of this family with one run of these levels in two minutes.
    async fn measured(&self, family: &str, levels: &[&str], setup: Value) -> (Uuid, Value) {
        let families = self.get("/families").await;
        let id = families.as_array().unwrap().iter().find(|f| f["name"] == family).unwrap()["id"]
            .clone();
        let mut known = intake();
        known["family_id"] = id;
        known["layout"]["cylinders"] = json!(levels.len());
        let job = Uuid::now_v7();
        self.good("POST", "/jobs", json!({ "id": job, "intake": known, "labels": [] })).await;
        let test = setup["id"].clone();
        self.good("POST", &format!("/jobs/{job}/return-tests"), setup).await;
        let run = Uuid::now_v7();
        let path = format!("/return-tests/{}/runs", test.as_str().unwrap());
        self.good("POST", &path, json!({ "id": run, "timer": false })).await;
        self.read(run, None, "2:00").await;
        for (i, level) in levels.iter().enumerate() {
            self.read(run, Some(i as u32 + 1), level).await;
        }
        (job, self.get(&format!("/jobs/{job}")).await)
    }

    async fn leave_all(&self, job: Uuid, cylinders: u32) {
        let decisions: Vec<Value> = (1..=cylinders)
            .map(|c| json!({ "id": Uuid::now_v7(), "cylinder": c, "decision": "leave", "reason": "good" }))
            .collect();
        self.good("POST", &format!("/jobs/{job}/decisions"), json!({ "decisions": decisions }))
            .await;
    }
}

#[tokio::test]
async fn a_newer_limit_or_rule_never_rewrites_an_old_verdict_and_judging_anew_shows_the_difference()
{
    let shop = Workshop::open().await;
    shop.library("import", "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet\n", false).await;
    let old = setup(Uuid::now_v7());
    let (job, view) = shop.measured("Kettra 27", &["40", "41", "40", "41"], old.clone()).await;
    assert_eq!(view["verdicts"][0]["headline"], "All 4 below the limit of 24 ml/min.");
    shop.library("import", "Kettra 27,,return_flow,,,15,70,95,sheet\n", false).await;
    let rule = json!({ "revision": 0, "typed": "12", "reason": "two comebacks in spring" });
    shop.good("PUT", "/rules/return_look", rule.clone()).await;

    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["verdicts"][0]["limit_note"], "Limit 24 ml/min: sheet, revision 1.");
    let path = format!("/jobs/{job}/return-tests/{}/rejudged", old["id"].as_str().unwrap());
    let anew = shop.get(&path).await;
    assert_eq!(anew["difference"]["changes"][0], "Cylinder 4: within then, doubtful now.");
    assert_eq!(
        (&anew["difference"]["rules_then"], &anew["difference"]["rules_now"]),
        (&json!(0), &json!(1))
    );
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["verdicts"][0]["limit"], 24.0, "judging anew rewrites nothing");

    let mut cold = setup(Uuid::now_v7());
    cold["temperature"] = json!("20");
    let view = shop.good("POST", &format!("/jobs/{job}/return-tests"), cold).await;
    assert_eq!(view["verdicts"][1]["limit"], Value::Null, "not applied to a cold engine");
    assert_eq!(view["file"]["return_tests"][1]["setup"]["rules"]["look"], 0.12);
    let (_, view) = shop.measured("Kettra 27", &["20", "20", "20"], setup(Uuid::now_v7())).await;
    let because = view["verdicts"][0]["lanes"][0]["because"].to_string();
    assert!(because.contains("workshop rule, revision 1"), "{because}");
    assert!(because.contains(
        "look closer above 12 % instead of 15 %, revision 1, because: two comebacks in spring"
    ));

    let (status, stale) = shop.send("PUT", "/rules/return_look", rule.to_string()).await;
    assert_eq!(status, 409);
    assert!(stale["detail"].as_str().unwrap().contains("changed to 12 meanwhile"));
    for (path, body, field) in [
        (
            "/rules/return_look",
            json!({ "revision": 1, "typed": "a lot", "reason": "why" }),
            "typed",
        ),
        ("/rules/return_look", json!({ "revision": 1, "typed": "14", "reason": " " }), "reason"),
        (
            "/rules/residual_stop",
            json!({ "revision": 0, "typed": "40", "reason": "faster" }),
            "typed",
        ),
    ] {
        let (status, refused) = shop.send("PUT", path, body.to_string()).await;
        assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!(field)), "{path}");
    }
    assert_eq!(shop.send("PUT", "/rules/weather", rule.to_string()).await.0, 404);
}

#[tokio::test]
async fn the_house_s_own_reference_is_refused_below_the_minimum_then_offered_and_labelled() {
    let shop = Workshop::open().await;
    shop.library("import", "Ostrel L6,diesel_solenoid,lift,,40,60,,,card\n", false).await;
    let fresh = || setup(Uuid::now_v7());
    let preview_of = async |job: Uuid, by: bool| {
        let mut body = fresh();
        body["by_house_reference"] = json!(by);
        shop.good("POST", &format!("/jobs/{job}/return-tests/preview"), body).await
    };
    let (first, _) = shop.measured("Ostrel L6", &["27", "28", "29", "28"], fresh()).await;
    shop.leave_all(first, 4).await;
    let preview = preview_of(first, false).await;
    assert_eq!(preview["holds"], false);
    assert_eq!(
        preview["reference"]["refused"],
        "No workshop reference yet: at least 8 proven-good injectors needed, got 4."
    );
    let (second, _) = shop.measured("Ostrel L6", &["28", "29", "27", "30"], fresh()).await;
    shop.leave_all(second, 4).await;
    let preview = preview_of(second, true).await;
    let says = preview["reference"]["reference"]["says"].as_str().unwrap();
    assert!(says.starts_with("This workshop's own reference, not a maker's limit"), "{says}");
    assert!(says.contains("8 proven-good injectors from "), "{says}");
    assert!(
        preview["can_decide"]["sentence"].as_str().unwrap().starts_with("These bottles can decide")
    );

    let mut by_own = fresh();
    by_own["by_house_reference"] = json!(true);
    let (_, view) = shop.measured("Ostrel L6", &["28", "60", "27", "29"], by_own).await;
    let verdict = &view["verdicts"][0];
    assert_eq!(verdict["lanes"][2]["mark"], "too_much", "cylinder 2, drawn third");
    assert!(verdict["limit_note"].as_str().unwrap().contains("not a maker's limit"), "{verdict}");
}

#[tokio::test]
async fn instruments_feed_the_uncertainty_and_an_overdue_one_lies_over_the_result() {
    let shop = Workshop::open().await;
    let bottles = |id: Uuid, due: &str, pct: &str| {
        json!({ "id": id, "name": "Rack A", "kind": "bottles", "resolution": "2", "accuracy_pct": pct,
                "accuracy_digits": "", "lead": "", "capacity": "0,1 l", "calibration_due": due,
                "certificate": "31-2", "revision": 0 })
    };
    let rack = Uuid::now_v7();
    let kept = shop.good("PUT", "/instruments", bottles(rack, "2001-01-31", "5 %")).await;
    assert_eq!((&kept["overdue"], &kept["instrument"]["revision"]), (&json!(true), &json!(1)));
    let mut nameless = bottles(Uuid::now_v7(), "soon", "-1");
    nameless["name"] = json!("");
    nameless["capacity"] = json!("");
    let (status, refused) = shop.send("PUT", "/instruments", nameless.to_string()).await;
    let fields: Vec<&str> = refused["fields"]
        .as_array()
        .unwrap()
        .iter()
        .map(|f| f["field"].as_str().unwrap())
        .collect();
    assert_eq!(
        (status, fields),
        (422, vec!["accuracy_pct", "calibration_due", "name", "capacity"])
    );

    shop.library("import", "Tarve 18,diesel_solenoid,lift,,40,60,,,card\n", false).await;
    let (_, plain) = shop.measured("Tarve 18", &["20", "21", "20"], setup(Uuid::now_v7())).await;
    let mut with = setup(Uuid::now_v7());
    with["bottles"] = json!(rack);
    let (_, calibrated) = shop.measured("Tarve 18", &["20", "21", "20"], with).await;
    let u = |view: &Value| view["verdicts"][0]["lanes"][0]["u"].as_f64().unwrap();
    // 5 % of 10 ml/min, rectangular, on top of the marks: √(0.29² + 0.29²).
    assert!(u(&calibrated) > 1.35 * u(&plain), "{} {}", u(&calibrated), u(&plain));
    assert_eq!(
        calibrated["verdicts"][0]["flags"][0],
        "Rack A was due for calibration on 2001-01-31."
    );

    let ask = |lower: &str, upper: &str, planned: &str| json!({ "instrument": rack, "timer": null, "lower": lower, "upper": upper, "planned": planned });
    let can = shop.good("POST", "/instruments/can-decide", ask("10", "10,4", "1:00")).await;
    assert_eq!(can["carries"], "not");
    assert!(can["would"][0].as_str().unwrap().contains("more accurate instrument"), "{can}");
    let (status, refused) =
        shop.send("POST", "/instruments/can-decide", ask("", "", "").to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("upper")));
}

#[tokio::test]
async fn every_calculator_is_listed_and_a_bad_number_is_named_beside_its_field() {
    let shop = Workshop::open().await;
    assert_eq!(shop.get("/calculators").await.as_array().unwrap().len(), 11);
    let worked = shop
        .good(
            "POST",
            "/calculators/sizing",
            json!({
                "power": "92", "bsfc": "300", "injectors": "4", "duty": "85", "density": "740",
            }),
        )
        .await;
    assert_eq!(worked["results"][0]["shown"], "182.8");
    let (status, refused) = shop
        .send(
            "POST",
            "/calculators/duty_at_speed",
            json!({ "rpm": "1,234", "pulse": "3" }).to_string(),
        )
        .await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("rpm")));
    assert_eq!(shop.send("POST", "/calculators/horoscope", "{}".to_owned()).await.0, 404);
}

#[tokio::test]
async fn a_cell_is_kept_as_typed_corrected_by_name_and_comes_back_from_a_file() {
    let shop = Workshop::open().await;
    let job = Uuid::now_v7();
    shop.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
    let sheet = Uuid::now_v7();
    let begin = json!({ "id": sheet, "check": "supply", "instrument": null });
    shop.good("POST", &format!("/jobs/{job}/sheets"), begin.clone()).await;
    let path = format!("/sheets/{sheet}/cells");
    let cell = |cylinder: Option<u32>, name: &str, typed: &str, corrects: Option<Uuid>| {
        json!({ "id": Uuid::now_v7(), "check": "supply", "cell": name, "cylinder": cylinder, "typed": typed,
                "corrects": corrects })
    };
    shop.good("POST", &path, cell(None, "feed", "0", None)).await;
    shop.good("POST", &path, cell(None, "battery", "12,6", None)).await;
    let first = cell(Some(2), "volts", "1.13", None);
    shop.good("POST", &path, first.clone()).await;
    let again = shop.good("POST", &path, first.clone()).await;
    assert_eq!(
        again["file"]["sheets"][0]["readings"].as_array().unwrap().len(),
        3,
        "a retry is one row"
    );
    let (status, theirs) =
        shop.send("POST", &path, cell(Some(2), "volts", "9", None).to_string()).await;
    assert_eq!((status, &theirs["code"]), (409, &json!("conflict")), "someone read it already");
    let named = first["id"].as_str().unwrap().parse().ok();
    let view = shop.good("POST", &path, cell(Some(2), "volts", "11.3 V", named)).await;
    assert_eq!(
        view["sheets"][0]["verdict"]["headline"],
        "All connectors low alike: a shared resistance, or the battery's own earth."
    );
    let view = shop.good("POST", &path, cell(Some(1), "volts", "12.5", None)).await;
    assert_eq!(
        view["sheets"][0]["verdict"]["headline"],
        "Cylinder 2: low. Resistance in its wiring or connector."
    );
    assert_eq!(
        view["file"]["sheets"][0]["readings"].as_array().unwrap().len(),
        5,
        "the slip is kept"
    );
    for (bad, status, field) in [
        (cell(Some(3), "volts", "lots", None), 422, "typed"),
        (cell(Some(9), "volts", "12", None), 422, "cylinder"),
        (cell(Some(3), "weather", "12", None), 422, "typed"),
    ] {
        let (got, refused) = shop.send("POST", &path, bad.to_string()).await;
        assert_eq!((got, &refused["fields"][0]["field"]), (status, &json!(field)));
    }
    let wrong = json!({ "id": Uuid::now_v7(), "check": "pressure_drop", "instrument": null });
    let (status, _) = shop.send("POST", &format!("/jobs/{job}/sheets"), wrong.to_string()).await;
    assert_eq!(status, 422, "a petrol balance on a diesel");

    let csv = shop.text(&format!("/jobs/{job}/readings.csv")).await;
    assert!(csv.contains(",supply,,true,2,,volts,1.13,V,1.13,true,"), "{csv}");
    let file = shop.get(&format!("/jobs/{job}/export.json")).await;
    let there = Workshop::open().await;
    there.good("POST", "/jobs/import", file.clone()).await;
    let back = there.get(&format!("/jobs/{job}/export.json")).await;
    assert_eq!(back["sheets"], file["sheets"]);
    let mut broken = file.clone();
    broken["sheets"][0]["readings"][1]["cell"] = json!("weather");
    broken["job"]["id"] = json!(Uuid::now_v7());
    let (status, refused) = there.send("POST", "/jobs/import", broken.to_string()).await;
    let field = refused["fields"][0]["field"].as_str().unwrap();
    assert!(status == 422 && field.starts_with("sheets.readings, "), "{refused}");
}

#[tokio::test]
async fn every_calculator_answers_over_http_with_what_stands_in_it_at_first() {
    let shop = Workshop::open().await;
    for calculator in shop.get("/calculators").await.as_array().unwrap() {
        let id = calculator["id"].as_str().unwrap();
        let mut typed = serde_json::Map::new();
        for field in calculator["fields"].as_array().unwrap() {
            typed.insert(field["name"].as_str().unwrap().to_owned(), field["example"].clone());
        }
        let worked = shop.good("POST", &format!("/calculators/{id}"), Value::Object(typed)).await;
        assert!(!worked["results"].as_array().unwrap().is_empty(), "{id}");
        assert!(worked["results"][0]["shown"].as_str().is_some_and(|s| !s.is_empty()), "{id}");
    }
}

#[tokio::test]
async fn what_is_not_there_is_a_problem_document_and_nobody_writes_unsigned() {
    let shop = Workshop::open().await;
    let nobody = Uuid::now_v7();
    for path in [
        format!("/library/families/{nobody}"),
        format!("/library/items/{nobody}"),
        format!("/jobs/{nobody}/return-tests/{nobody}/rejudged"),
    ] {
        let answer = shop.get(&path).await;
        assert_eq!(
            (&answer["status"], &answer["code"]),
            (&json!(404), &json!("not_found")),
            "{path}"
        );
    }
    let (job, _) = {
        shop.library("import", "Kettra 27,diesel_solenoid,lift,,40,60,,,card\n", false).await;
        shop.measured("Kettra 27", &["20", "21", "20"], setup(Uuid::now_v7())).await
    };
    let gone = shop.get(&format!("/jobs/{job}/return-tests/{nobody}/rejudged")).await;
    assert_eq!(gone["status"], 404, "another job's test is not this one's");
    let mut unknown = setup(Uuid::now_v7());
    unknown["bottles"] = json!(nobody);
    let (status, _) =
        shop.send("POST", &format!("/jobs/{job}/return-tests"), unknown.to_string()).await;
    assert_eq!(status, 404, "bottles that are not on the shelf");

    let client = reqwest::Client::new();
    for (method, path) in [
        ("PUT", "/library/families"),
        ("PUT", "/library/items"),
        ("POST", "/library/import"),
        ("PUT", "/instruments"),
        ("PUT", "/rules/return_look"),
        ("POST", &format!("/jobs/{job}/sheets")),
        ("POST", &format!("/sheets/{nobody}/cells")),
    ] {
        let url = format!("{}/api{path}", shop.address);
        let request = client.request(method.parse().unwrap(), url);
        let request = request.header("content-type", "application/json").body("{}");
        assert_eq!(
            answer(request).await.status,
            401,
            "{method} {path} without anyone at the bench"
        );
    }
    let document = shop.get("/openapi.json").await;
    for path in [
        "/api/library",
        "/api/rules/{rule}",
        "/api/instruments",
        "/api/calculators/{id}",
        "/api/sheets/{sheet}/cells",
    ] {
        assert!(document["paths"][path].is_object(), "{path} is described");
    }
    let schema = shop.get("/schema/library.json").await;
    assert_eq!(schema["$ref"], "#/$defs/LibraryFile");
}
