//! What a workshop keeps beside its jobs, over HTTP: customers with their machines, jobs that are called
//! off, what another scan tool showed, and rows of the weights.

use crate::{Workshop, intake};
use serde_json::{Value, json};
use uuid::Uuid;

impl Workshop {
    async fn booked(&self, change: impl FnOnce(&mut Value)) -> Uuid {
        let (id, mut intake) = (Uuid::now_v7(), intake());
        change(&mut intake);
        let body = json!({ "id": id, "intake": intake, "labels": ["A", "B", "C", "D"] });
        self.good("POST", "/jobs", body).await;
        id
    }

    async fn told(&self, job: Uuid, event: Value) -> (u16, Value) {
        let body = json!({ "id": Uuid::now_v7(), "event": event });
        self.send("POST", &format!("/jobs/{job}/events"), body.to_string()).await
    }
}

#[tokio::test]
async fn a_customer_brings_machines_and_earlier_jobs_along() {
    let shop = Workshop::open().await;
    let id = Uuid::now_v7();
    let who = |revision: u64, phone: &str| json!({ "id": id, "revision": revision, "name": "Skerry Fishing", "phone": phone, "address": "" });
    shop.good("PUT", "/customers", who(0, "555 0100")).await;
    let (status, _) = shop.send("PUT", "/customers", who(0, "555 0101").to_string()).await;
    assert_eq!(status, 409, "somebody else's change is not written over");
    let nameless =
        json!({ "id": Uuid::now_v7(), "revision": 0, "name": " ", "phone": "", "address": "" });
    let (status, refused) = shop.send("PUT", "/customers", nameless.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("name")));
    for plate in ["SK 4", "SK 4", "SK 9"] {
        shop.booked(|intake| {
            intake["customer_id"] = json!(id);
            intake["plate"] = json!(plate);
        })
        .await;
    }
    let life = shop.get(&format!("/customers/{id}")).await;
    let machines = life["machines"].as_array().unwrap();
    let counts: Vec<usize> =
        machines.iter().map(|one| one["jobs"].as_array().unwrap().len()).collect();
    assert_eq!((machines[0]["plate"].as_str(), counts), (Some("SK 9"), vec![1, 2]));
    let found = shop.get("/customers?q=0100").await;
    assert_eq!((&found["total"], &found["lines"][0]["jobs"]), (&json!(1), &json!(3)));
    assert_eq!(shop.get("/customers?q=nobody").await["total"], 0);
}

#[tokio::test]
async fn a_job_that_is_called_off_says_why_and_is_written_to_no_more() {
    let shop = Workshop::open().await;
    let job = shop.booked(|intake| intake["promised"] = json!("2031-06-30")).await;
    let card = shop.get("/board").await["cards"][0].clone();
    assert_eq!((&card["promised"], card["by"].as_str()), (&json!("2031-06-30"), Some("Maren")));
    let off = |reason: &str| json!({ "what": "cancelled", "reason": reason });
    assert_eq!(shop.told(job, off(" ")).await.0, 422, "not without a reason");
    assert_eq!(shop.told(job, off("sold the winch")).await.0, 200);
    let card = shop.get("/board").await["cards"][0].clone();
    assert_eq!(
        (&card["waits"]["words"], &card["closed"]),
        (&json!("cancelled: sold the winch"), &json!(true))
    );
    assert_eq!(card["promised"], Value::Null, "nothing is promised any more");
    let step = json!({ "what": "step_done", "step": "fuel_sample" });
    assert_eq!(shop.told(job, step.clone()).await.0, 409);
    assert_eq!(shop.get(&format!("/jobs/{job}/proof")).await["proof"]["closing"]["proven"], false);
    let back = json!({ "what": "reopened", "comeback": false, "reason": "not sold after all" });
    assert_eq!(shop.told(job, back).await.0, 200);
    assert_eq!(shop.told(job, step).await.0, 200);
}

#[tokio::test]
async fn what_another_scan_tool_showed_is_told_by_hand_and_counts() {
    let shop = Workshop::open().await;
    let job = shop.booked(|_| {}).await;
    let slots = |codes: [&str; 4]| {
        let one = |(i, code): (usize, &&str)| json!({ "cylinder": i + 1, "code": code });
        codes.iter().enumerate().map(one).collect::<Vec<_>>()
    };
    let read = |codes: [&str; 4], by_hand: bool| json!({ "what": "codes_read", "slots": slots(codes), "by_hand": by_hand });
    let found = ["AA11", "BB22", "CC33", "DD44"];
    assert_eq!(shop.told(job, read(found, false)).await.0, 409, "only a talk says that it was one");
    assert_eq!(shop.told(job, read(found, true)).await.0, 200);
    let view = shop.get(&format!("/jobs/{job}/codes")).await;
    assert_eq!(view["coding"]["slots"][1]["stored"], "BB22");
    assert_eq!(shop.told(job, read(["AA11", "EE55", "CC33", "DD44"], true)).await.0, 200);
    let slot = shop.get(&format!("/jobs/{job}/codes")).await["coding"]["slots"][1].clone();
    assert_eq!((&slot["found"], &slot["stored"]), (&json!("BB22"), &json!("EE55")), "read back");
    let learned = |percent: f64, done: u32, cleared: bool| {
        json!({
            "what": "learned_read", "cleared": cleared, "by_hand": true,
            "learned": [{ "cylinder": 1, "percent": percent }],
            "counters": [{ "band": "slow lane", "done": done, "needed": 2 }],
        })
    };
    let item = async |id: &str| {
        let proof = shop.get(&format!("/jobs/{job}/proof")).await;
        let items = proof["proof"]["items"].as_array().unwrap().clone();
        items.iter().find(|one| one["id"] == id).unwrap()["state"].clone()
    };
    assert_eq!(shop.told(job, learned(0.0, 0, true)).await.0, 200);
    assert_eq!(item("cleared").await, "good");
    assert_eq!(shop.told(job, learned(0.4, 1, false)).await.0, 200);
    assert_eq!(item("drive").await, "open");
    assert_eq!(shop.told(job, learned(0.4, 2, false)).await.0, 200);
    assert_eq!(item("drive").await, "good");
}

#[tokio::test]
async fn one_row_of_the_weights_is_changed_with_a_reason_and_marked() {
    let shop = Workshop::open().await;
    let shipped = shop.get("/weights").await;
    let rows = shipped["rows"].as_array().unwrap();
    let key = json!(["story", "suffers:one"]);
    let row = rows.iter().find(|row| row["key"] == key).unwrap();
    let numbers =
        row["cells"].as_array().unwrap().iter().map(|cell| cell["value"].as_f64().unwrap());
    let values: Vec<String> = numbers.clone().map(|value| value.to_string()).collect();
    let ask = |values: &[String], reason: &str| {
        json!({ "revision": 0, "key": key, "values": values, "reason": reason }).to_string()
    };
    let few = shop.send("PUT", "/weights/row", ask(&values[1..], "counted")).await;
    assert_eq!((few.0, &few.1["fields"][0]["field"]), (422, &json!("values")));
    assert_eq!(shop.send("PUT", "/weights/row", ask(&values, " ")).await.0, 422, "no reason");
    let half: Vec<String> =
        numbers.map(|value| (value / 2.0).to_string().replace('.', ",")).collect();
    let (status, kept) = shop.send("PUT", "/weights/row", ask(&half, "counted over a year")).await;
    assert_eq!((status, &kept["revision"]), (200, &json!(1)));
    let own: Vec<&Value> =
        kept["rows"].as_array().unwrap().iter().filter(|row| row["own"] == true).collect();
    assert_eq!((own.len(), &own[0]["reason"]), (1, &json!("counted over a year")));
    assert_eq!(shop.send("PUT", "/weights/row", ask(&half, "again")).await.0, 409, "stale");
}

#[tokio::test]
async fn a_name_is_retired_merged_and_restored_and_signs_only_with_its_own_pin() {
    let mut shop = Workshop::open().await;
    let (maren, double) = (shop.bench, Uuid::now_v7());
    shop.good("POST", "/people", json!({ "id": double, "name": "Maren S." })).await;
    let at = |person: Uuid| format!("/people/{person}");
    let merge = json!({ "retired": true, "same_as": maren });
    let (status, refused) = shop.send("PUT", &at(maren), merge.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("person")), "not oneself");
    let lost = json!({ "retired": true, "same_as": Uuid::now_v7() });
    let (status, refused) = shop.send("PUT", &at(double), lost.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("same_as")));
    let people = shop.good("PUT", &at(double), merge).await;
    assert_eq!(people[1]["retired"]["same_as"], json!(maren));
    shop.bench = double;
    let note = json!({ "retired": false }).to_string();
    let (status, refused) = shop.send("PUT", &at(double), note).await;
    assert_eq!(
        (status, &refused["code"]),
        (401, &json!("nobody_at_the_bench")),
        "it signs nothing"
    );
    shop.bench = maren;
    let people = shop.good("PUT", &at(double), json!({ "retired": false })).await;
    assert_eq!(people[1]["retired"], Value::Null);

    let pin = |pin: &str, old: &str| json!({ "pin": pin, "old": old });
    let (status, _) =
        shop.send("PUT", &format!("{}/pin", at(double)), pin("1234", "").to_string()).await;
    assert_eq!(status, 422, "nobody chooses another one's PIN");
    let own = format!("{}/pin", at(maren));
    for bad in ["123", "123456789", "12a4"] {
        assert_eq!(shop.send("PUT", &own, pin(bad, "").to_string()).await.0, 422, "{bad}");
    }
    assert_eq!(shop.good("PUT", &own, pin("4711", "")).await[0]["has_pin"], true);
    let mut guesses = Vec::new();
    for guess in 0..6 {
        let (status, refused) =
            shop.send("PUT", &own, pin("0000", &guess.to_string()).to_string()).await;
        assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("old")));
        guesses.push(refused["fields"][0]["message"].as_str().unwrap().to_owned());
    }
    assert_eq!(guesses.iter().filter(|says| says.starts_with("Wrong")).count(), 3, "{guesses:?}");
    let (_, refused) = shop.send("PUT", &own, pin("0000", "4711").to_string()).await;
    assert_eq!(refused["fields"][0]["field"], "old", "not even the right one is looked at now");
    assert!(!shop.text("/workshop/export.jsonl").await.contains("argon2"), "no export carries it");
}

#[tokio::test]
async fn settings_of_a_check_are_kept_by_name_and_come_back_in_files() {
    let shop = Workshop::open().await;
    let preset = |cell: &str, typed: &str| {
        json!({ "id": Uuid::now_v7(), "revision": 0, "name": "Forty of seven", "check": "pressure_drop",
            "cells": [{ "cell": "pulses", "typed": "40" }, { "cell": cell, "typed": typed }] })
    };
    let (status, refused) =
        shop.send("PUT", "/library/presets", preset("pulse", "soon").to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("pulse")));
    let (status, _) =
        shop.send("PUT", "/library/presets", preset("bracket_end", "3").to_string()).await;
    assert_eq!(status, 422, "a reading of the day is no setting");
    let kept = shop.good("PUT", "/library/presets", preset("pulse", "0.007 s")).await;
    let held = shop.get("/library/presets/pressure_drop").await;
    assert_eq!(held[0]["detail"]["cells"][1], json!({ "cell": "pulse", "typed": "0.007 s" }));
    assert_eq!(shop.get("/library/presets/cleaning").await, json!([]));
    let id = kept["id"].as_str().unwrap();
    let view = shop.get(&format!("/library/items/{id}")).await;
    assert_eq!(view["settings"], json!(["Pulses 40", "Each of 0.007 s"]));
    let file = shop.text("/library/export.json").await;
    let body = json!({ "format": "json", "text": file, "leave_out_bad_rows": false });
    let other = Workshop::open().await;
    other.good("POST", "/library/import", body).await;
    assert_eq!(other.get("/library/presets/pressure_drop").await[0]["name"], "Forty of seven");
}

#[tokio::test]
async fn an_engine_and_a_test_plan_are_typed_changed_by_revision_and_refused_field_by_field() {
    let shop = Workshop::open().await;
    let (plan, engine) = (Uuid::now_v7(), Uuid::now_v7());
    let point = |name: &str, rail: &str, strokes: &str, seconds: &str| {
        json!({ "name": name, "rail": rail, "energising": "0,4", "strokes": strokes,
            "seconds": seconds, "temperature": "40 °C" })
    };
    let typed = |revision: u64, points: Value| {
        json!({ "id": plan, "revision": revision, "name": "Plan of ours", "family": "Brill 3",
            "points": points, "note": "" })
    };
    let bad =
        typed(0, json!([point("idle", "35 MPa", "300", ""), point("full", "much", "300", "")]));
    let (status, refused) = shop.send("PUT", "/library/plans", bad.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("rail 2")));
    let uncounted = typed(0, json!([point("idle", "35 MPa", "", "")]));
    let (status, refused) = shop.send("PUT", "/library/plans", uncounted.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("points")));
    let good =
        typed(0, json!([point("idle", "35 MPa", "300", ""), point("held", "3 bar", "", "15")]));
    let kept = shop.good("PUT", "/library/plans", good.clone()).await;
    assert_eq!(kept["detail"]["points"][0]["rail_kpa"], 35_000.0);
    assert_eq!(kept["detail"]["points"][1]["seconds"], 15.0);
    let turned =
        typed(1, json!([point("held", "3 bar", "", "15"), point("idle", "35 MPa", "300", "")]));
    assert_eq!(
        shop.good("PUT", "/library/plans", turned).await["detail"]["points"][0]["name"],
        "held"
    );
    assert_eq!(
        shop.send("PUT", "/library/plans", good.to_string()).await.0,
        409,
        "a stale revision"
    );

    let built = |cylinders: u32, revision: u64| {
        json!({ "id": engine, "name": "H6", "revision": revision, "detail": { "kind": "engine",
            "fuel_system": "petrol_port", "note": "", "layout": { "cylinders": cylinders, "banks": 1,
            "first_at": "pulley", "numbering": "bank_by_bank" } } })
    };
    assert_eq!(shop.send("PUT", "/library/items", built(40, 0).to_string()).await.0, 422);
    shop.good("PUT", "/library/items", built(6, 0)).await;
    let found = shop.get("/library?kind=engine&q=h6").await;
    assert_eq!(found["lines"][0]["says"], "6 cylinders in a row");
}
