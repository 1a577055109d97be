//! Whatever is done in which order: every answer equals the one of a program that has just opened the same
//! folder. `SEQUENCES=2000 cargo test --workspace --test http sequences` tries two thousand.

use crate::anew::same_as_opened_anew;
use crate::{Workshop, intake, setup};
use serde_json::{Value, json};
use uuid::Uuid;

/// Sequences that are tried with every run of the tests.
const SEQUENCES: usize = 120;
/// Jobs of one workshop: each sequence is done to one of them.
const JOBS: usize = 12;
/// Sequences of one job before another workshop is opened, as answers grow with a job.
const ROUNDS: usize = 5;

/// Seeded numbers (SplitMix64).
struct Draw(u64);

impl Draw {
    fn below(&mut self, n: usize) -> usize {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        ((z ^ (z >> 31)) % n as u64) as usize
    }

    fn one<'a, T>(&mut self, of: &'a [T]) -> &'a T {
        &of[self.below(of.len())]
    }
}

/// One command; what cannot follow what is there is refused, and nothing fails.
async fn does(shop: &Workshop, method: &str, path: &str, body: Value) -> bool {
    let (status, answer) = shop.sent(method, path, body.clone()).await;
    assert!(
        matches!(status, 200 | 204 | 404 | 409 | 422),
        "{method} {path} {body}: {status} {answer}"
    );
    status < 300
}

/// Something sensible at a job as it is by now; what it was, in words.
async fn any(shop: &Workshop, jobs: &[Uuid], at: usize, draw: &mut Draw) -> String {
    let (job, id) = (jobs[at], Uuid::now_v7());
    let view = shop.get(&format!("/jobs/{job}")).await;
    let (cylinder, other) = (1 + draw.below(4), 1 + draw.below(4));
    let path = |what: &str| format!("/jobs/{job}/{what}");
    let typed = *draw.one(&["22", "23", "24", "60", "0"]);
    let last =
        |list: &Value| list.as_array().and_then(|all| all.last().cloned()).unwrap_or_default();
    let test = last(&view["file"]["return_tests"]);
    let run = last(&test["runs"]);
    let event = |event: Value| json!({ "id": id, "event": event });
    let reason = "as measured";
    let decided = |decision: &str| json!({ "id": Uuid::now_v7(), "cylinder": cylinder, "decision": decision, "reason": reason });
    let (method, to, body) = match draw.below(18) {
        0 | 1 => {
            let test = Uuid::now_v7();
            does(shop, "POST", &path("return-tests"), setup(test)).await;
            let run = json!({ "id": Uuid::now_v7(), "timer": false });
            does(shop, "POST", &format!("/return-tests/{test}/runs"), run.clone()).await;
            let to = format!("/runs/{}/readings", run["id"].as_str().unwrap());
            let time = json!({ "id": Uuid::now_v7(), "kind": "run_time", "cylinder": null, "typed": "120" });
            does(shop, "POST", &to, time).await;
            for cylinder in 1..4 {
                let typed = *draw.one(&["22", "23", "60"]);
                let level = json!({ "id": Uuid::now_v7(), "kind": "level", "cylinder": cylinder, "typed": typed });
                does(shop, "POST", &to, level).await;
            }
            let level =
                json!({ "id": Uuid::now_v7(), "kind": "level", "cylinder": 4, "typed": typed });
            ("POST", to, level)
        }
        2 if run.is_object() => {
            let all = run["readings"].as_array().unwrap();
            let held =
                all.iter().rfind(|one| one["cylinder"] == cylinder).cloned().unwrap_or_default();
            let body = json!({ "id": id, "kind": "level", "cylinder": cylinder, "typed": typed,
                "corrects": held["id"], "why": "misread" });
            ("POST", format!("/runs/{}/readings", run["id"].as_str().unwrap()), body)
        }
        3 if run.is_object() => {
            let back = !run["set_aside"].is_null();
            let body = json!({ "id": id, "reason": if back { "" } else { "a hose came off" }, "back": back });
            ("POST", format!("/runs/{}/aside", run["id"].as_str().unwrap()), body)
        }
        4 if test.is_object() => {
            let confirmed =
                json!({ "what": "return_confirmed", "test": test["id"], "cylinder": cylinder });
            ("POST", path("events"), event(confirmed))
        }
        5 => {
            let swapped = json!({ "what": "swapped", "one": cylinder, "other": other });
            ("POST", path("events"), event(swapped))
        }
        6 => {
            let undone = json!({ "what": "swap_undone", "of": view["current"]["swapped"], "reason": "a wrong tap" });
            ("POST", path("events"), event(undone))
        }
        7 => {
            // A new one, or one that another job had on the bench.
            let from = shop.get(&format!("/jobs/{}", jobs[(at + 1) % jobs.len()])).await;
            let elsewhere = &from["file"]["job"]["injectors"][other - 1];
            let injector = if draw.below(2) == 0 {
                json!({ "id": Uuid::now_v7(), "cylinder": cylinder, "label": format!("N-{}", draw.below(1000)) })
            } else {
                json!({ "id": elsewhere["id"], "cylinder": cylinder, "label": elsewhere["label"] })
            };
            let mut body =
                event(json!({ "what": "replaced", "injector": injector, "part": "tested" }));
            body["decision"] = decided("replace");
            ("POST", path("events"), body)
        }
        8 => {
            let decision = *draw.one(&["leave", "clean", "replace", "measure_again"]);
            ("POST", path("decisions"), json!({ "decisions": [decided(decision)] }))
        }
        9 => {
            let injectors: Vec<Value> = [job, jobs[(at + 1) % jobs.len()]]
                .iter()
                .flat_map(|job| [1, 2].map(|cylinder| json!({ "job": job, "cylinder": cylinder })))
                .collect();
            let session = json!({ "id": id, "round": Uuid::now_v7(), "bench": null, "plan": null,
                "entry": "volume", "injectors": injectors, "graduation": "0.02", "capacity": "150" });
            ("POST", "/bench".to_owned(), session)
        }
        10..=12 if last(&view["file"]["bench"]).is_object() => {
            let session = last(&view["file"]["bench"]);
            let to = format!("/bench/{}", session["id"].as_str().unwrap());
            if draw.below(4) == 0 {
                let round = json!({ "id": id, "stage": "adjusted", "places": [] });
                ("POST", format!("{to}/rounds"), round)
            } else {
                let round = last(&session["rounds"])["id"].clone();
                let tag = 1 + draw.below(4);
                let same = |one: &&Value| {
                    one["round"] == round && one["tag"] == tag && one["cell"] == "tip"
                };
                let held = session["cells"].as_array().unwrap().iter().rfind(same).cloned();
                let cell = json!({ "id": id, "round": round, "test": "visual", "cell": "tip", "row": null,
                    "tag": tag, "typed": draw.one(&["0", "1", "2"]), "corrects": held.unwrap_or_default()["id"] });
                ("POST", format!("{to}/cells"), cell)
            }
        }
        13 => {
            let sheet = json!({ "id": id, "check": "cutout", "instrument": null });
            does(shop, "POST", &path("sheets"), sheet).await;
            let cell = json!({ "id": Uuid::now_v7(), "check": "cutout", "cell": "cut",
                "cylinder": cylinder, "typed": "650", "corrects": null });
            ("POST", format!("/sheets/{id}/cells"), cell)
        }
        14 => {
            let fitted =
                json!({ "what": "fitted", "step": "bore", "cylinders": [cylinder], "done": true });
            ("POST", path("events"), event(fitted))
        }
        15 => {
            let proved = json!({ "what": "proved", "item": "start", "told": "good", "note": "" });
            ("POST", path("events"), event(proved))
        }
        16 => {
            let what = if view["closed"].is_null() {
                json!({ "what": "cancelled", "reason": "called off" })
            } else {
                json!({ "what": "reopened", "comeback": true, "reason": "again", "symptoms": ["black_smoke"] })
            };
            ("POST", path("events"), event(what))
        }
        _ => ("POST", path("notes"), json!({ "id": id, "stage": "decide", "text": "A note." })),
    };
    let done = does(shop, method, &to, body.clone()).await;
    format!("{method} {to} {body} ({})", if done { "done" } else { "refused" })
}

#[tokio::test]
async fn every_answer_is_the_one_of_a_folder_just_opened_whatever_was_done_in_which_order() {
    let wanted = std::env::var("SEQUENCES").ok().and_then(|n| n.parse().ok()).unwrap_or(SEQUENCES);
    let (mut tried, mut done) = (0, 0);
    for seed in 0.. {
        let shop = Workshop::open().await;
        let mut draw = Draw(seed);
        let mut jobs = Vec::new();
        for nth in 0..JOBS {
            let labels: Vec<String> = (1..5).map(|c| format!("L{nth}-{c}")).collect();
            let taken = json!({ "id": Uuid::now_v7(), "intake": intake(), "labels": labels });
            assert!(does(&shop, "POST", "/jobs", taken.clone()).await);
            jobs.push(taken["id"].as_str().unwrap().parse().unwrap());
        }
        for _ in 0..ROUNDS {
            let mut told = Vec::new();
            for at in 0..JOBS {
                for _ in 0..1 + draw.below(5) {
                    let what = any(&shop, &jobs, at, &mut draw).await;
                    done += usize::from(what.ends_with("(done)"));
                    told.push(what);
                }
                tried += 1;
            }
            same_as_opened_anew(&shop, &format!("seed {seed}\n{}\n", told.join("\n"))).await;
        }
        if tried >= wanted {
            break;
        }
    }
    println!("{tried} sequences, {done} commands done");
    assert!(done > tried, "most commands are possible: {done} of {tried} sequences");
}
