//! What is refused at the edge, and in which words.

use super::*;
use axum::response::IntoResponse;
use cobaltine_core::calc::CalcError;
use cobaltine_server::ApiError;
use cobaltine_store::StoreError;

#[tokio::test]
async fn an_import_that_is_wrong_anywhere_changes_nothing_and_says_where() {
    let shop = Workshop::open().await;
    let Sample { job, .. } = shop.read_job().await;
    let whole = shop.get(&format!("/jobs/{job}/export.json")).await;
    let other = Workshop::open().await;
    let text = whole.to_string();
    let mut cases: Vec<(u16, String, &str)> = vec![
        (400, text[..text.len() / 2].to_owned(), "Not understood"),
        (400, "{\"format\": ".to_owned(), "Not understood"),
        (422, "[]".to_owned(), "Not understood"),
        (413, format!("[{}", "0,".repeat(5_000_000)), "Too large for this address"),
    ];
    let mut broken = |path: &str, value: Value, says| {
        let mut file = whole.clone();
        *file.pointer_mut(path).unwrap() = value;
        cases.push((422, file.to_string(), says));
    };
    let reading = "/return_tests/0/runs/0/readings";
    broken("/version", json!(9), "cobaltine.job version 1 is needed");
    broken("/job/intake/layout/cylinders", json!(0), "1 to 12 cylinders");
    broken(&format!("{reading}/1/value"), json!(-4), "below zero");
    broken(&format!("{reading}/1/value"), json!(400), "More than the bottle holds");
    broken(&format!("{reading}/1/cylinder"), json!(9), "cylinders 1 to 4");
    broken(&format!("{reading}/1/corrects"), json!(Uuid::nil()), "Enter a few words");
    broken(
        &format!("{reading}/1/id"),
        whole.pointer(&format!("{reading}/2/id")).unwrap().clone(),
        "used twice",
    );
    broken("/people", json!([]), "not on the list of people");
    broken("/return_tests/0/setup/graduation_ml", json!(0), "must be above zero");
    let taken = whole["job"]["injectors"][0].clone();
    let mut signed = whole["job"]["taken_in"].clone();
    signed["seq"] = json!(i64::from(i32::MAX) * 1000);
    let events = |event: Value| json!([{ "id": Uuid::now_v7(), "event": event, "signed": signed }]);
    for (event, says) in [
        (json!({ "what": "replaced", "injector": taken, "part": "new" }), "already on the strip"),
        (
            json!({ "what": "code_captured", "injector": Uuid::nil(), "code": "AA11", "how": "scanned" }),
            "no such injector",
        ),
        (json!({ "what": "unit_numbered", "cylinders": [1, 1, 2, 3] }), "once"),
        (
            json!({ "what": "fitted", "step": "washer", "cylinders": [9], "done": true }),
            "each once",
        ),
        (
            json!({ "what": "tightening", "stages": [{ "torque_nm": -8.0, "angle_deg": null }], "typed": "-8", "source": "sheet" }),
            "above zero",
        ),
        (json!({ "what": "proved", "item": "bleed", "told": "left_out", "note": "" }), "few words"),
        (json!({ "what": "swallowed" }), "Not understood"),
    ] {
        let mut file = whole.clone();
        file["events"] = events(event);
        cases.push((422, file.to_string(), says));
    }
    for (status, body, says) in cases {
        let (got, problem) = other.send("POST", "/jobs/import", body).await;
        assert_eq!(got, status, "{problem}");
        assert!(problem.to_string().contains(says), "{says}: {problem}");
    }
    assert_eq!(other.get("/board").await["jobs"], 0);
    let mut changed = whole.clone();
    changed["job"]["intake"]["machine"] = json!("Another machine");
    let (status, problem) = shop.send("POST", "/jobs/import", changed.to_string()).await;
    assert_eq!((status, problem["code"].as_str()), (409, Some("conflict")));
}

#[tokio::test]
async fn what_cannot_be_read_is_answered_beside_its_field() {
    let shop = Workshop::open().await;
    let Sample { job, run } = shop.job_with_run().await;
    let reading = |kind: &str, cylinder: Value, typed: &str| json!({ "id": Uuid::now_v7(), "kind": kind, "cylinder": cylinder, "typed": typed });
    shop.read(run, None, "120").await;
    let readings = format!("/runs/{run}/readings");
    let tests = format!("/jobs/{job}/return-tests");
    let with = |field: &str, value: &str| {
        let mut body = setup(Uuid::now_v7());
        body[field] = json!(value);
        body
    };
    let mut empty = intake();
    empty["machine"] = json!(" ");
    empty["symptoms"] = json!([]);
    let take_in = json!({ "id": Uuid::now_v7(), "intake": empty, "labels": ["x", "x"] });
    for (path, body, field, says) in [
        (&readings, reading("level", json!(1), "abc"), "typed", "Enter a number"),
        (&readings, reading("level", json!(1), "-3"), "typed", "value of zero or more"),
        (&readings, reading("level", json!(1), "140"), "typed", "More than the bottle holds"),
        (&readings, reading("level", json!(1), "1,234"), "typed", "can mean 1.234 or 1234"),
        (&readings, reading("level", json!(7), "12"), "cylinder", "cylinders 1 to 4"),
        (&readings, reading("overflow", json!(1), "0"), "typed", "Enter a value above zero"),
        (&readings, reading("overflow", json!(1), "3:00"), "typed", "The run had ended"),
        (&tests, with("planned", "0"), "planned", "Enter a value above zero"),
        (&tests, with("graduation", "400"), "graduation", "further apart"),
        (&tests, with("temperature", "1e9"), "temperature", "is not a unit"),
        (&tests, with("capacity", ""), "capacity", "Enter a number"),
        (&"/jobs".to_owned(), take_in.clone(), "machine", "Enter the machine"),
        (&"/jobs".to_owned(), take_in.clone(), "complaint", "Tap a symptom"),
        (&"/jobs".to_owned(), take_in, "labels", "is on two injectors"),
    ] {
        let (status, problem) = shop.send("POST", path, body.to_string()).await;
        assert_eq!(status, 422, "{body}: {problem}");
        let fields = problem["fields"].as_array().unwrap();
        let hit = fields
            .iter()
            .find(|f| f["field"] == field && f["message"].as_str().unwrap().contains(says));
        assert!(hit.is_some(), "{field} {says}: {problem}");
    }
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["file"]["return_tests"][0]["runs"][0]["readings"].as_array().unwrap().len(), 1);
}

#[tokio::test]
async fn the_edge_is_strict() {
    let shop = Workshop::open().await;
    let page = answer(shop.http.get(format!("{}/jobs/anything", shop.address))).await;
    let policy = page.headers["content-security-policy"].to_str().unwrap().to_owned();
    assert!(policy.contains("script-src 'self';") && policy.contains("frame-ancestors 'none'"));
    assert_eq!(page.headers["x-content-type-options"], "nosniff");
    let nobody = shop.http.post(format!("{}/api/jobs", shop.address)).body("{}");
    assert_eq!(answer(nobody).await.status, 401);
    let elsewhere =
        shop.http.get(format!("{}/api/board", shop.address)).header("host", "elsewhere.example");
    assert_eq!(answer(elsewhere).await.status, 421, "a name pointed here by someone else");
    for (method, path, status) in [
        ("GET", "/nothing", 404),
        ("GET", "/jobs/not-an-id", 404),
        ("GET", "/jobs/01890000-0000-7000-8000-000000000000", 404),
        ("DELETE", "/jobs", 405),
        ("GET", "/board?page=x", 400),
        ("POST", "/calc/tarot", 404),
        ("POST", "/calc/decide", 422),
        ("POST", "/jobs", 422),
    ] {
        let (got, problem) = shop.send(method, path, "{}").await;
        assert_eq!(got, status, "{method} {path}: {problem}");
    }
    let (status, _) = shop.send("POST", "/calc/decide", "1".repeat(400_000)).await;
    assert_eq!(status, 413);
    let same =
        shop.good("POST", "/calc/convert", json!({ "value": 1, "from": "bar", "to": "kPa" })).await;
    assert_eq!(same["value"], 100.0);
    // Nothing typed into the search is read as syntax.
    for words in ["\"", "a* OR b", "NEAR(", "-", "%27%3B--"] {
        assert!(shop.get(&format!("/board?q={words}")).await["cards"].is_array(), "{words}");
    }
}

/// The words that people read, with status and code: a change here is a change of the interface.
#[tokio::test]
async fn every_refusal_has_its_status_its_code_and_words_that_say_what_to_do() {
    let hidden = "Cobaltine could not do this; nothing was saved. See the log.";
    let io = || std::io::Error::other("a cable");
    let few = CalcError::TooFew { what: "lanes", least: 2, got: 1 };
    let unknown = "unknown computation \"x\"; known are y";
    let (got, known) = ("x".to_owned(), "y".to_owned());
    let cases: [(ApiError, u16, &str, &str); 13] = [
        (StoreError::NotFound("run").into(), 404, "not_found", "No run with this id."),
        (StoreError::Conflict("Read already.".to_owned()).into(), 409, "conflict", "Read already."),
        (StoreError::field("typed", "x").into(), 422, "fields", "Check the marked fields."),
        (StoreError::InUse("x".into()).into(), 500, "storage", hidden),
        (StoreError::Io(io()).into(), 500, "storage", hidden),
        (few.into(), 422, "calc", "at least 2 lanes needed, got 1"),
        (CalcError::Unknown { what: "computation", got, known }.into(), 404, "not_found", unknown),
        (ApiError::Fields(Vec::new()), 422, "fields", "Check the marked fields."),
        (
            ApiError::NobodyAtTheBench,
            401,
            "nobody_at_the_bench",
            "Choose your name first; every entry is signed.",
        ),
        (ApiError::NoSuchRoute, 404, "no_such_route", "Page not found."),
        (ApiError::WrongMethod, 405, "wrong_method", "This address does not accept that method."),
        (
            ApiError::UnknownHost,
            421,
            "unknown_host",
            "Unknown host name. Use the IP address, or start with --name.",
        ),
        (ApiError::Panicked, 500, "panicked", hidden),
    ];
    for (error, status, code, detail) in cases {
        let response = error.into_response();
        assert_eq!(response.status(), status, "{detail}");
        let body = axum::body::to_bytes(response.into_body(), 10_000).await.unwrap();
        let problem: Value = serde_json::from_slice(&body).unwrap();
        assert_eq!(
            (problem["code"].as_str(), problem["detail"].as_str()),
            (Some(code), Some(detail))
        );
    }
}
