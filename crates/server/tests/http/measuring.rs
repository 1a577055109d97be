//! The library, the rules, the instruments and the calculators over HTTP.

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
async fn a_file_with_bad_rows_names_each_cell_and_changes_nothing_until_it_is_told_to() {
    let shop = Workshop::open().await;
    let rows = "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet 4\n\
        Kettra 27,,coil_resistance,,0R36,0R44,,,sheet 4\n\
        Kettra 27,,return_flow,,,lots,,,sheet 4\n\
        Kettra 27,steam,weight,,3,,,,\n";
    let (status, preview) = shop.library("preview", rows, false).await;
    assert_eq!((status, &preview["adds"], &preview["bad_rows"]), (200, &json!(2), &json!(2)));
    let named: Vec<(u64, &str)> = preview["problems"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| (p["row"].as_u64().unwrap(), p["field"].as_str().unwrap()))
        .collect();
    assert_eq!(named, [(4, "upper"), (5, "source"), (5, "kind"), (5, "check")]);
    assert_eq!(shop.get("/library").await["total"], 0, "a look keeps nothing");

    let (status, refused) = shop.library("import", rows, false).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("row 4, upper")));
    assert_eq!(shop.get("/library").await["total"], 0, "all or nothing");
    let (status, done) = shop.library("import", rows, true).await;
    assert_eq!((status, &done["adds"]), (200, &json!(2)));
    let found = shop.get("/library?q=sheet+kett").await;
    assert_eq!(found["total"], 2);
    assert_eq!(found["lines"][0]["says"], "return flow: at most 24 ml/min, 70 to 95 °C");

    let (_, again) = shop.library("preview", rows, true).await;
    assert_eq!(
        (&again["adds"], &again["same"]),
        (&json!(0), &json!(2)),
        "the same file twice is once"
    );
    let newer = "Kettra 27,,return_flow,,,22,70,95,sheet 5\n";
    let (_, change) = shop.library("preview", newer, false).await;
    assert_eq!(change["changes"][0]["change"], "revises");
    assert_eq!(change["changes"][0]["before"], "at most 24 ml/min, 70 to 95 °C");

    let whole = json!({ "format": "csv", "text": "colour,taste\nred,sweet\n" });
    let (status, refused) = shop.send("POST", "/library/preview", whole.to_string()).await;
    assert_eq!(status, 422);
    assert!(refused["fields"][0]["message"].as_str().unwrap().contains("Not known: colour, taste"));
}

#[tokio::test]
async fn the_library_goes_out_and_comes_back_without_loss_as_json_and_as_csv() {
    let (here, there) = (Workshop::open().await, Workshop::open().await);
    here.library(
        "import",
        "Hask D3,exhaust_doser,doser_volume,\"a minute, warm\",0.2 l,365,,,note 3\n",
        false,
    )
    .await;
    let family = here.get("/library?kind=family").await["lines"][0]["id"].clone();
    let path = format!("/library/families/{}", family.as_str().unwrap());
    let known = here.get(&path).await["family"].clone();
    let typed = |revision: u64, torque: &str| {
        json!({ "id": known["id"], "revision": revision, "name": known["name"], "kind": "exhaust_doser",
                "drive_voltage_v": "12", "peak_voltage_v": "16,5 V", "peak_current_a": "", "code_length": "8",
                "code_alphabet": "0123456789ABCDEF", "code_check": "", "torque": torque,
                "service_life_h": "", "cleaning": true, "note": "" })
    };
    let wrong = here.send("PUT", "/library/families", typed(1, "8 bar").to_string()).await;
    assert_eq!((wrong.0, &wrong.1["fields"][0]["field"]), (422, &json!("torque")));
    let known = typed(1, "44 in·lb; 90°");
    let kept = here.good("PUT", "/library/families", known.clone()).await;
    assert_eq!(kept["revision"], 2);
    assert_eq!(kept["detail"]["peak_voltage_v"], 16.5);
    assert_eq!(kept["detail"]["torque"][1], json!({ "torque_nm": null, "angle_deg": 90.0 }));
    let (status, stale) = here.send("PUT", "/library/families", known.to_string()).await;
    assert_eq!((status, &stale["code"]), (409, &json!("conflict")), "someone else was faster");
    let engine = json!({ "id": Uuid::now_v7(), "name": "Test engine", "revision": 0, "detail": {
        "kind": "engine", "fuel_system": "diesel_solenoid", "note": "",
        "layout": { "cylinders": 6, "banks": 2, "first_at": "pulley", "numbering": "alternating" } } });
    here.good("PUT", "/library/items", engine).await;

    let file = here.get("/library/export.json").await;
    let text = json!({ "format": "json", "text": file.to_string() });
    there.good("POST", "/library/import", text.clone()).await;
    let mut back = there.get("/library/export.json").await;
    // Identity and approval belong to the workshop; revisions count its own changes.
    back["limits"][0]["id"] = file["limits"][0]["id"].clone();
    back["limits"][0]["approved"] = file["limits"][0]["approved"].clone();
    back["families"][0]["revision"] = file["families"][0]["revision"].clone();
    assert_eq!(back, file);
    let again = there.good("POST", "/library/preview", text).await;
    assert_eq!(
        (&again["same"], &again["adds"], &again["revises"]),
        (&json!(3), &json!(0), &json!(0))
    );

    let csv = here.text("/library/limits.csv").await;
    let (_, same) = here.library("preview", csv.split_once("\r\n").unwrap().1, false).await;
    assert_eq!(same["same"], 0, "the head of the export has more columns than ours");
    let exported = json!({ "format": "csv", "text": csv });
    let same = here.good("POST", "/library/preview", exported).await;
    assert_eq!((&same["same"], &same["bad_rows"]), (&json!(1), &json!(0)));
}

#[tokio::test]
async fn a_newer_limit_or_rule_never_rewrites_an_old_verdict_and_judging_anew_shows_the_difference()
{
    let shop = Workshop::open().await;
    shop.library("import", "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet\n", false).await;
    let old = setup(Uuid::now_v7());
    let (job, view) = shop.measured("Kettra 27", &["40", "41", "40", "41"], old.clone()).await;
    assert_eq!(view["verdicts"][0]["headline"], "All 4 return less than the limit of 24 ml/min.");
    shop.library("import", "Kettra 27,,return_flow,,,15,70,95,sheet\n", false).await;
    let rule = json!({ "revision": 0, "typed": "12", "reason": "two comebacks in spring" });
    shop.good("PUT", "/rules/return_look", rule.clone()).await;

    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["verdicts"][0]["limit_note"], "Limit 24 ml/min: sheet, revision 1.");
    let path = format!("/jobs/{job}/return-tests/{}/rejudged", old["id"].as_str().unwrap());
    let anew = shop.get(&path).await;
    assert_eq!(anew["difference"]["changes"][0], "Cylinder 4: inside then, in question now.");
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
    assert!(because.contains("house rule, revision 1"), "{because}");
    assert!(because.contains(
        "look closer above 12 % instead of 15 %, revision 1, because: two comebacks in spring"
    ));

    let (status, stale) = shop.send("PUT", "/rules/return_look", rule.to_string()).await;
    assert_eq!(status, 409);
    assert!(stale["detail"].as_str().unwrap().contains("changed meanwhile to 12"));
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
        "No reference of the house yet: at least 8 proven-good injectors are needed, got 4."
    );
    let (second, _) = shop.measured("Ostrel L6", &["28", "29", "27", "30"], fresh()).await;
    shop.leave_all(second, 4).await;
    let preview = preview_of(second, true).await;
    let says = preview["reference"]["reference"]["says"].as_str().unwrap();
    assert!(says.starts_with("The house's own reference, not a maker's limit"), "{says}");
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
        "All plugs are low alike: a resistance that all share, or the battery's own ground."
    );
    let view = shop.good("POST", &path, cell(Some(1), "volts", "12.5", None)).await;
    assert_eq!(
        view["sheets"][0]["verdict"]["headline"],
        "Cylinder 2 low: a resistance in that leg or its plug."
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
async fn hostile_and_broken_library_files_change_nothing_and_say_where() {
    let shop = Workshop::open().await;
    shop.library("import", "Kettra 27,diesel_solenoid,return_flow,,,24,70,95,sheet 4\n", false)
        .await;
    let before = shop.get("/library/export.json").await;
    let whole = before.to_string();
    let json_of = |text: &str| json!({ "format": "json", "text": text }).to_string();
    let csv_of = |text: &str| json!({ "format": "csv", "text": text }).to_string();
    let mut newer = before.clone();
    newer["version"] = json!(9);
    let mut strange = before.clone();
    strange["families"][0]["detail"]["colour"] = json!("red");
    let many = format!("{HEAD}{}", "A,,return_flow,,,1,,,s\n".repeat(50_001));
    for (body, says) in [
        (json_of(&whole[..whole.len() / 2]), "This is not a library file: EOF while parsing"),
        (json_of(&newer.to_string()), "cobaltine.library version 1 is read"),
        (json_of(&strange.to_string()), "unknown field `colour`"),
        (json_of("[]"), "This is not a library file"),
        (csv_of(""), "The first row names the columns"),
        (csv_of("family,check\nA,return_flow\n"), "Missing here: source"),
        (csv_of(&many), "50000 rows are the most"),
    ] {
        for what in ["preview", "import"] {
            let (status, refused) =
                shop.send("POST", &format!("/library/{what}"), body.clone()).await;
            assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("file")), "{says}");
            assert!(refused["fields"][0]["message"].as_str().unwrap().contains(says), "{refused}");
        }
    }
    // Spreadsheets of other countries: semicolons, a mark at the start, decimal commas, quotes.
    let spreadsheet = "\u{feff}Family;Check;Upper;Source\r\nKettra 27;coil_resistance;0,44;\"sheet; page \"\"4\"\"\"\r\n";
    let (_, read) = shop.send("POST", "/library/preview", csv_of(spreadsheet)).await;
    assert_eq!((&read["adds"], &read["bad_rows"]), (&json!(1), &json!(0)), "{read}");
    assert_eq!(read["changes"][0]["after"], "coil resistance at 20 °C: at most 0.44 Ω");
    let ragged = format!("{HEAD}Kettra 27,,lift,,1,2,,,s,one,too,many\nKettra 27,,lift,,1,2,,,s\n");
    let (_, read) = shop.send("POST", "/library/preview", csv_of(&ragged)).await;
    assert_eq!((&read["adds"], &read["problems"][0]["field"]), (&json!(1), &json!("row")));
    // Text that a spreadsheet would run goes out marked, and comes back as it was.
    shop.library("import", "=cmd,diesel_solenoid,lift,,1,2,,,@sheet\n", false).await;
    let csv = shop.text("/library/limits.csv").await;
    assert!(csv.contains("'=cmd") && csv.contains("'@sheet"), "{csv}");
    let same = shop.good("POST", "/library/preview", json!({ "format": "csv", "text": csv })).await;
    assert_eq!((&same["same"], &same["adds"]), (&json!(2), &json!(0)));
    let too_large = json!({ "format": "csv", "text": "x".repeat(9 * 1024 * 1024) });
    assert_eq!(shop.send("POST", "/library/preview", too_large.to_string()).await.0, 413);
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
        let answer =
            request.header("content-type", "application/json").body("{}").send().await.unwrap();
        assert_eq!(answer.status().as_u16(), 401, "{method} {path} without anyone at the bench");
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
