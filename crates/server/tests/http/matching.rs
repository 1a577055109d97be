//! The shelf over HTTP: what stands on it, sets made in the background and kept, injectors placed.

use crate::Workshop;
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// What matching 300 injectors in sets of 6 on three features may take, the shelf read included.
const MOST_FOR_THREE_HUNDRED: Duration = Duration::from_secs(2);
/// In a rail.
const ON_A_RAIL: usize = 12;

/// Uniform numbers, always the same.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> f64 {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 >> 11) as f64 / (1_u64 << 53) as f64
    }

    /// Close to normal around 0.
    fn around(&mut self, sd: f64) -> f64 {
        ((0..12).map(|_| self.next()).sum::<f64>() - 6.0) * sd
    }
}

impl Workshop {
    /// Jobs of twelve with the flow bench and the coils read, as files of another workshop bring
    /// them: `values` gives ml held open for 15 s, ml of 2000 short pulses, and Ω.
    pub(crate) async fn stock(
        &self,
        jobs: usize,
        values: &mut dyn FnMut() -> [f64; 3],
    ) -> Vec<Uuid> {
        let mut ids = Vec::new();
        for number in 1..=jobs {
            let file = self.job_of_twelve(number, values);
            let id: Uuid = file["job"]["id"].as_str().unwrap().parse().unwrap();
            self.good("POST", "/jobs/import", file).await;
            ids.push(id);
        }
        ids
    }

    fn job_of_twelve(&self, number: usize, values: &mut dyn FnMut() -> [f64; 3]) -> Value {
        let signed = json!({ "by": self.bench, "at": "2031-05-01T10:00:00Z" });
        let (job, round) = (Uuid::now_v7(), Uuid::now_v7());
        let mut intake = crate::intake();
        intake["fuel_system"] = json!("petrol_port");
        intake["layout"] = json!({ "cylinders": 12, "banks": 2, "first_at": "pulley", "numbering": "alternating" });
        let injectors: Vec<Value> = (1..=ON_A_RAIL)
            .map(|c| json!({ "id": Uuid::now_v7(), "cylinder": c, "label": format!("S{number}-{c}") }))
            .collect();
        let tagged: Vec<Value> = injectors
            .iter()
            .map(|one| {
                json!({ "tag": one["cylinder"], "injector": one["id"], "job": job, "job_number": number,
                        "cylinder": one["cylinder"], "label": one["label"], "family": null })
            })
            .collect();
        let cell = |cell: &str, row: Option<u32>, tag: Option<usize>, value: f64| {
            json!({ "id": Uuid::now_v7(), "round": round, "test": "flow", "cell": cell, "row": row,
                    "tag": tag, "value": value, "typed": value.to_string(), "corrects": null, "signed": signed })
        };
        let reading = |cell: &str, cylinder: Option<usize>, value: f64| {
            json!({ "id": Uuid::now_v7(), "cell": cell, "cylinder": cylinder, "value": value,
                    "typed": value.to_string(), "corrects": null, "signed": signed })
        };
        let mut cells = vec![cell("pressure", None, None, 300.0), cell("fluid", None, None, 1.0)];
        let mut readings = vec![reading("temperature", None, 20.0), reading("leads", None, 0.0)];
        for tag in 1..=ON_A_RAIL {
            let [open, short, ohm] = values();
            cells.push(cell("volume", Some(6), Some(tag), open));
            cells.push(cell("volume", Some(1), Some(tag), short));
            readings.push(reading("ohms", Some(tag), ohm));
        }
        let point = |name: &str, pulse: Option<f64>, count: Option<f64>, seconds: Option<f64>| {
            json!({ "name": name, "pulse_ms": pulse, "count": count, "seconds": seconds,
                    "rpm": null, "rail_kpa": null, "temperature_c": null })
        };
        let mut points = vec![point("idle", Some(2.5), Some(2000.0), None)];
        points.extend(
            (2..=5)
                .map(|n| point(&format!("row {n}"), Some(2.0 + f64::from(n)), Some(2000.0), None)),
        );
        points.push(point("fully open", None, None, Some(15.0)));
        let places: Vec<Value> =
            (1..=ON_A_RAIL).map(|n| json!({ "position": n, "tag": n })).collect();
        json!({
            "format": "cobaltine.job", "version": 1, "family": null,
            "job": { "id": job, "number": number, "revision": 1, "intake": intake,
                     "injectors": injectors, "taken_in": signed },
            "return_tests": [], "events": [], "decisions": [], "notes": [],
            "people": [{ "id": self.bench, "name": "Maren" }],
            "sheets": [{ "id": Uuid::now_v7(), "check": "coil_resistance", "limit": null,
                         "instrument": null, "overdue": false, "rules": [], "readings": readings,
                         "traces": [], "signed": signed }],
            "bench": [{
                "id": Uuid::now_v7(), "number": number, "injectors": tagged, "cells": cells,
                "signed": signed,
                "rounds": [{ "id": round, "stage": "received", "number": 1, "places": places, "signed": signed }],
                "setup": { "kind": "petrol", "bench": null, "overdue": false, "graduation": 0.02,
                           "capacity_ml": 150, "entry": "volume", "points": points, "families": [], "rules": [] },
            }],
        })
    }

    /// Asks for sets, and looks until they are made.
    async fn made(&self, ask: Value) -> Value {
        let mut view = self.good("POST", "/matchings", ask).await;
        while view["state"] == "running" {
            tokio::time::sleep(Duration::from_millis(5)).await;
            view = self.get(&format!("/matchings/{}", view["id"].as_str().unwrap())).await;
        }
        view
    }
}

fn ask(size: usize, features: &[(&str, &str)]) -> Value {
    let features: Vec<Value> = features
        .iter()
        .map(|(feature, tolerance)| json!({ "feature": feature, "tolerance": tolerance }))
        .collect();
    json!({ "id": Uuid::now_v7(), "kind": "petrol", "family": "", "job": null, "features": features, "size": size })
}

const THREE: [(&str, &str); 3] = [("static_flow", "2"), ("short_pulse", "4"), ("resistance", "3")];

/// A stock as a workshop has one: three features around a middle.
fn usual(seed: u64) -> impl FnMut() -> [f64; 3] {
    let mut chance = Chance(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15) | 1);
    move || {
        let flow = 1.0 + chance.around(0.012);
        [
            62.5 * flow,
            29.0 * flow * (1.0 + chance.around(0.02)),
            14.5 * (1.0 + chance.around(0.008)),
        ]
    }
}

#[tokio::test]
async fn three_hundred_are_matched_in_time_and_a_long_search_can_be_watched_and_stopped() {
    let shop = Workshop::open().await;
    shop.stock(25, &mut usual(3)).await;
    let families = shop.get("/shelf/families").await;
    assert_eq!(families, json!([{ "kind": "petrol", "family": "", "count": 300 }]));
    let begun = Instant::now();
    let view = shop.made(ask(6, &THREE)).await;
    let took = begun.elapsed();
    let result = &view["result"];
    let (sets, bound) = (result["sets"].as_array().unwrap().len(), &result["bound"]);
    let gap = 1.0 - sets as f64 / bound.as_f64().unwrap();
    println!(
        "300 in sets of 6 on three features: {took:.2?}, {sets} of at most {bound}, gap {gap:.3}"
    );
    assert!(took < MOST_FOR_THREE_HUNDRED && gap < 0.01, "{took:?}, gap {gap}");

    // Tolerances that few fit make it search as long as it may.
    let tight = [("static_flow", "0.4"), ("short_pulse", "0.9"), ("resistance", "0.6")];
    let wanted = ask(6, &tight);
    let running = shop.good("POST", "/matchings", wanted.clone()).await;
    assert_eq!(running["state"], "running", "not done within the first answer: {running}");
    let again = shop.good("POST", "/matchings", wanted).await;
    assert_eq!(again["id"], running["id"], "the same id again begins nothing new");
    let path = format!("/matchings/{}", running["id"].as_str().unwrap());
    let stopped = shop.good("POST", &format!("{path}/stop"), json!({})).await;
    assert!(stopped["done"].as_f64().unwrap() < 1.0, "{stopped}");
    let mut view = stopped;
    while view["state"] == "running" {
        tokio::time::sleep(Duration::from_millis(2)).await;
        view = shop.get(&path).await;
    }
    assert_eq!(view["result"]["stopped"], true);
    assert!(view["result"]["says"].as_str().unwrap().contains("Stopped early"));
}

#[tokio::test]
async fn a_set_is_kept_its_injectors_are_taken_and_it_comes_apart_again() {
    let shop = Workshop::open().await;
    shop.stock(1, &mut usual(5)).await;
    let shelf = || async { shop.get("/shelf?kind=petrol&family=").await };
    let page = shelf().await;
    assert_eq!((page["total"].as_u64(), page["lines"].as_array().unwrap().len()), (Some(12), 12));
    let measured = |name: &str| {
        let all = page["features"].as_array().unwrap();
        all.iter().find(|one| one["feature"] == name).unwrap()["measured"].clone()
    };
    assert_eq!((measured("static_flow"), measured("dead_time")), (json!(12), json!(0)));
    let made = shop.made(ask(2, &THREE[..1])).await;
    let set = &made["result"]["sets"][0];
    let members: Vec<&Value> =
        set["members"].as_array().unwrap().iter().map(|one| &one["injector"]).collect();
    let keep = |id: Uuid, members: &[&Value]| json!({ "id": id, "kind": "petrol", "family": "", "members": members, "note": "for the winch" });
    let id = Uuid::now_v7();
    for _ in 0..2 {
        let (status, _) = shop.sent("POST", "/shelf/sets", keep(id, &members)).await;
        assert_eq!(status, 204, "the same again changes nothing");
    }
    let (status, refused) = shop.sent("POST", "/shelf/sets", keep(Uuid::now_v7(), &members)).await;
    assert_eq!(status, 409);
    assert!(refused.contains("already in set 1"), "{refused}");
    let alone = keep(Uuid::now_v7(), &members[..1]);
    assert_eq!(shop.sent("POST", "/shelf/sets", alone).await.0, 422);
    let again = shop.made(ask(2, &THREE[..1])).await;
    assert_eq!(again["result"]["sets"][0]["pinned"], true);
    let kept = shelf().await["kept"].clone();
    assert_eq!((&kept[0]["number"], &kept[0]["note"]), (&json!(1), &json!("for the winch")));
    let apart = format!("/shelf/sets/{id}/apart");
    assert_eq!(shop.sent("POST", &apart, json!({})).await.0, 204);
    assert_eq!(shelf().await["kept"], json!([]));
    let (status, _) = shop.sent("POST", "/shelf/sets", keep(Uuid::now_v7(), &members)).await;
    assert_eq!(status, 204, "its injectors are free again");
}

#[tokio::test]
async fn a_set_of_different_owners_is_kept_only_where_they_agree() {
    let shop = Workshop::open().await;
    let mut members = Vec::new();
    for (number, owner) in [(1, "Skerry Fishing"), (2, "Dyke Ferries")] {
        let mut file = shop.job_of_twelve(number, &mut usual(number as u64));
        file["job"]["intake"]["customer"] = json!(owner);
        members.push(file["job"]["injectors"][0]["id"].clone());
        shop.good("POST", "/jobs/import", file).await;
    }
    let mut set = json!({ "id": Uuid::now_v7(), "kind": "petrol", "family": "", "members": members, "note": "" });
    let (status, refused) = shop.send("POST", "/shelf/sets", set.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("owners")));
    set["id"] = json!(Uuid::now_v7());
    set["owners_agree"] = json!(true);
    assert_eq!(shop.sent("POST", "/shelf/sets", set).await.0, 204);
}

#[tokio::test]
async fn a_wrong_tolerance_and_a_wrong_size_are_refused_in_words() {
    let shop = Workshop::open().await;
    shop.stock(1, &mut usual(7)).await;
    let wrong = ask(2, &[("static_flow", "two")]);
    let (status, refused) = shop.send("POST", "/matchings", wrong.to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("static_flow")));
    let view = shop.made(ask(40, &THREE[..1])).await;
    assert_eq!(
        (&view["state"], &view["problem"]),
        (&json!("refused"), &json!("a set has 2 to 16 members."))
    );
    let (status, _) = shop.send("GET", &format!("/matchings/{}", Uuid::now_v7()), "").await;
    assert_eq!(status, 404);
}

#[tokio::test]
async fn injectors_are_placed_and_what_is_stale_is_refused() {
    let shop = Workshop::open().await;
    // Odd cylinders are one bank: two of each flow sit in the wrong one.
    let flows = [62.5, 60.0, 60.0, 62.5, 62.5, 60.0, 62.5, 60.0, 62.5, 60.0, 62.5, 60.0];
    let mut next = flows.iter();
    let job = shop.stock(1, &mut || [*next.next().unwrap(), 12.8, 14.5]).await[0];
    let path = format!("/jobs/{job}/places");
    let view = shop.good("POST", &path, json!({ "feature": "static_flow" })).await;
    let placement = &view["placement"];
    assert_eq!(placement["moves"], 2, "{}", placement["says"]);
    assert!(placement["apart"].as_f64().unwrap() < 1e-9);
    let moved =
        placement["placed"].as_array().unwrap().iter().filter(|p| p["cylinder"] != p["sits"]);
    let seats: Vec<Value> =
        moved.map(|p| json!({ "injector": p["injector"], "cylinder": p["cylinder"] })).collect();
    let placed = |seats: &Value| json!({ "id": Uuid::now_v7(), "event": { "what": "placed", "seats": seats } });
    let events = format!("/jobs/{job}/events");
    let after = shop.good("POST", &events, placed(&json!(seats))).await;
    let seat = |cylinder: u64| {
        let all = after["seats"].as_array().unwrap();
        all.iter().find(|s| s["cylinder"] == cylinder).unwrap()["came_from"].clone()
    };
    assert_eq!((seat(3), seat(4)), (json!(4), json!(3)));
    assert_eq!(shop.good("POST", &path, json!({})).await["placement"]["moves"], 0);
    let one = json!([seats[0], { "injector": seats[1]["injector"], "cylinder": 9 }]);
    let (status, refused) = shop.send("POST", &events, placed(&one).to_string()).await;
    assert_eq!(status, 409);
    assert!(refused["detail"].as_str().unwrap().contains("Two injectors would be in one cylinder"));
    // A pulse that never opens it: the places stand, and the fuelling says so beside them.
    let short = json!({ "static_flow": "250", "dead_time": "1", "idle": "0.8", "full": "8", "limit": "6000" });
    let view = shop.good("POST", &path, short).await;
    assert_eq!((&view["placement"]["moves"], &view["fuelling"]), (&json!(0), &Value::Null));
    assert!(!view["fuelling_says"].as_str().unwrap().is_empty());
    let wrong = json!({ "wants": [{ "cylinder": 4, "percent": "90" }], "idle": "soon" });
    let (status, refused) = shop.send("POST", &path, wrong.to_string()).await;
    let fields: Vec<&Value> =
        refused["fields"].as_array().unwrap().iter().map(|one| &one["field"]).collect();
    assert_eq!((status, fields), (422, vec![&json!("want4"), &json!("idle")]));
}
