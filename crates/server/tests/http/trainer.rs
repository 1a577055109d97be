//! Exercises over HTTP: taken up, worked on in the ordinary way, ended and marked, and seen nowhere else.

use crate::{Workshop, unit_of};
use serde_json::{Value, json};
use std::time::Duration;
use uuid::Uuid;

const READY: [&str; 6] =
    ["warm", "accessories_off", "parked", "extraction_on", "rail_blanked", "hoses_purged"];

impl Workshop {
    async fn takes_up(&self, name: &str, guided: bool) -> Uuid {
        let id = Uuid::now_v7();
        let case = json!({ "kind": "written", "name": name });
        let body = json!({ "id": id, "case": case, "guided": guided, "learner": null });
        self.good("POST", "/trainer/exercises", body).await;
        id
    }

    async fn acts(&self, job: Uuid, act: Value) {
        let body = json!({ "id": Uuid::now_v7(), "act": act });
        self.good("POST", &format!("/jobs/{job}/exercise/acts"), body).await;
    }

    /// A return test of so many runs at the engine of an exercise; the job as it is then.
    async fn returns(&self, job: Uuid, runs: usize, ticked: &[&str]) -> Value {
        let (test, mut seen) = (Uuid::now_v7(), Value::Null);
        let setup = json!({
            "id": test, "regime": "idle_only", "temperature": "82", "speed": "", "capacity": "100",
            "graduation": "2", "planned": "120", "mark": "",
        });
        self.good("POST", &format!("/jobs/{job}/return-tests"), setup).await;
        for _ in 0..runs {
            let run = Uuid::now_v7();
            let begin = json!({ "id": run, "timer": false, "ticked": ticked });
            self.good("POST", &format!("/return-tests/{test}/runs"), begin).await;
            let read = json!({ "id": Uuid::now_v7(), "cell": null, "cylinder": null });
            seen = self.good("POST", &format!("/runs/{run}/exercise"), read).await;
        }
        seen
    }

    async fn reads_sheet(&self, job: Uuid, check: &str) -> Value {
        let sheet = Uuid::now_v7();
        let begin = json!({ "id": sheet, "check": check, "instrument": null });
        self.good("POST", &format!("/jobs/{job}/sheets"), begin).await;
        let read = json!({ "id": Uuid::now_v7(), "cell": null, "cylinder": null });
        self.good("POST", &format!("/sheets/{sheet}/exercise"), read).await
    }

    async fn decides(&self, job: Uuid, decisions: &[&str]) {
        let all = decisions.iter().zip(1..).map(|(decision, cylinder)| {
            json!({ "id": Uuid::now_v7(), "cylinder": cylinder, "decision": decision, "reason": "as read" })
        });
        let body = json!({ "decisions": all.collect::<Vec<_>>() });
        self.good("POST", &format!("/jobs/{job}/decisions"), body).await;
    }

    /// Ends it; marks in the order of the skills, and everything else that is told then.
    async fn ends(&self, job: Uuid) -> (Vec<u64>, Value) {
        self.acts(job, json!({ "act": "end" })).await;
        let state = self.get(&format!("/jobs/{job}/exercise")).await;
        let marks = state["marking"]["marks"].as_array().unwrap();
        (marks.iter().map(|one| one["mark"].as_u64().unwrap()).collect(), state)
    }
}

#[tokio::test]
async fn a_case_is_worked_through_to_full_marks_and_stands_in_no_list_but_its_own() {
    let shop = Workshop::open().await;
    let job = shop.takes_up("first_return_test", false).await;
    let before = shop.get(&format!("/jobs/{job}/exercise")).await;
    assert_eq!((&before["celsius"], &before["marking"]), (&json!(21.0), &Value::Null));
    shop.acts(job, json!({ "act": "warm_up" })).await;
    let read = shop.returns(job, 3, &READY).await;
    assert_eq!(read["verdicts"][0]["lanes"][2]["mark"], "too_much", "{}", read["verdicts"]);
    shop.decides(job, &["leave", "leave", "replace", "leave"]).await;
    let (marks, state) = shop.ends(job).await;
    assert_eq!((marks, &state["mistakes"]), (vec![100; 5], &json!([])));
    let marking = &state["marking"];
    assert_eq!(marking["cylinders"][2]["outcome"], "found");
    assert_eq!(marking["spent"], marking["best"]);
    // It is over: nothing is written any more.
    let note = json!({ "id": Uuid::now_v7(), "stage": "bench", "text": "One more thing." });
    let (status, said) = shop.send("POST", &format!("/jobs/{job}/notes"), note.to_string()).await;
    assert_eq!((status, said["code"].as_str()), (409, Some("conflict")));
    let trainer = shop.get(&format!("/trainer?learner={}", shop.bench)).await;
    assert_eq!((trainer["cases"].as_array().unwrap().len(), &trainer["total"]), (10, &json!(1)));
    assert_eq!(trainer["exercises"][0]["line"]["marks"][0]["mark"], 100);
    assert_eq!(shop.get(&format!("/trainer?learner={}", Uuid::now_v7())).await["total"], 0);
    assert_eq!(shop.get("/board").await["jobs"], 0);
    assert_eq!(shop.get("/passports").await["total"], 0);
}

#[tokio::test]
async fn the_bench_of_an_exercise_is_its_own_and_puts_nothing_on_the_shelf() {
    let shop = Workshop::open().await;
    let job = shop.takes_up("needs_a_bath", false).await;
    let session = Uuid::now_v7();
    let rail: Vec<Value> = (1..=4).map(|c| json!({ "job": job, "cylinder": c })).collect();
    let begin = |id: Uuid, rail: &[Value]| {
        json!({ "id": id, "round": Uuid::now_v7(), "bench": null, "plan": null, "entry": "volume",
                "injectors": rail, "graduation": "1", "capacity": "100" })
    };
    shop.good("POST", "/bench", begin(session, &rail)).await;
    let read = json!({ "id": Uuid::now_v7(), "cell": null, "cylinder": null });
    let seen = shop.good("POST", &format!("/bench/{session}/exercise"), read.clone()).await;
    assert_eq!(seen["file"]["setup"]["families"][0]["name"], "made-up family");
    assert!(seen["file"]["cells"].as_array().unwrap().len() > 40);
    let again = json!({ "id": Uuid::now_v7(), "cell": null, "cylinder": null });
    let at = format!("/bench/{session}/exercise");
    assert_eq!(shop.send("POST", &at, again.to_string()).await.0, 409, "everything is read");
    assert_eq!(shop.get("/bench").await["total"], 0);
    assert_eq!(shop.get(&format!("/bench?job={job}")).await["total"], 1);
    assert_eq!(shop.get("/shelf/families").await, json!([]));
    // What was made up hangs with nothing that somebody drives.
    let other = Uuid::now_v7();
    let mut of = crate::intake();
    of["fuel_system"] = json!("petrol_port");
    shop.good("POST", "/jobs", json!({ "id": other, "intake": of, "labels": [] })).await;
    let mixed = [rail[0].clone(), json!({ "job": other, "cylinder": 1 })];
    let (status, _) = shop.send("POST", "/bench", begin(Uuid::now_v7(), &mixed).to_string()).await;
    assert_eq!(status, 422);
}

#[tokio::test]
async fn codes_of_an_exercise_are_in_the_stand_in_and_in_no_other_unit() {
    let shop = Workshop::open().await;
    let job = shop.takes_up("after_the_repair", false).await;
    let at = |what: &str| format!("/jobs/{job}/codes{what}");
    let id = || json!({ "id": Uuid::now_v7() });
    shop.good("POST", &at("/read"), id()).await;
    shop.acts(job, json!({ "act": "scan_bodies" })).await;
    let codes = shop.get(&at("")).await;
    let plan = codes["coding"]["plan"].as_array().unwrap();
    let wrong: Vec<&Value> = plan.iter().map(|one| &one["cylinder"]).collect();
    assert_eq!(wrong, [2, 5]);
    shop.decides(job, &["leave", "recode", "leave", "leave", "recode", "leave"]).await;
    let writes: Vec<Value> =
        plan.iter().map(|one| json!({ "cylinder": one["cylinder"], "code": one["to"] })).collect();
    let body = json!({ "id": Uuid::now_v7(), "what": "plan", "writes": writes });
    shop.good("POST", &at("/write"), body).await;
    while shop.get(&at("")).await["writing"]["running"] == true {
        tokio::time::sleep(Duration::from_millis(20)).await;
    }
    let (marks, state) = shop.ends(job).await;
    assert_eq!(marks[..4], [100; 4], "{}", state["mistakes"]);

    let unit = unit_of(Duration::from_millis(40)).await.0;
    let real = Workshop::open_at(Some(unit), false).await;
    let job = real.takes_up("after_the_repair", false).await;
    let path = format!("/jobs/{job}/codes/read");
    let (status, said) = real.send("POST", &path, id().to_string()).await;
    assert_eq!((status, &said["code"]), (409, &json!("no_unit")), "it would be somebody's engine");
}

#[tokio::test]
async fn mistakes_are_told_at_once_where_one_is_guided_and_else_at_the_end() {
    let shop = Workshop::open().await;
    for guided in [true, false] {
        let job = shop.takes_up("first_return_test", guided).await;
        shop.returns(job, 1, &READY[..4]).await;
        let told = |state: &Value| {
            let all = state["mistakes"].as_array().unwrap();
            all.iter().map(|one| one["mistake"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
        };
        let state = shop.get(&format!("/jobs/{job}/exercise")).await;
        let all = ["cold", "unpurged"];
        assert_eq!(told(&state), if guided { all.to_vec() } else { vec![] });
        let (marks, state) = shop.ends(job).await;
        assert_eq!(told(&state), all);
        // Nothing was decided: a fault is left, three sound ones are left open.
        assert_eq!(marks[..4], [0, 100, 30, 100]);
    }
}

#[tokio::test]
async fn the_same_seed_reads_the_same_and_what_is_put_right_reads_otherwise() {
    let shop = Workshop::open().await;
    let mut read = Vec::new();
    for repair in [false, false, true] {
        let id = Uuid::now_v7();
        let case = json!({ "kind": "drawn", "seed": 5, "level": "shared_cause" });
        let body = json!({ "id": id, "case": case, "guided": false, "learner": null });
        shop.good("POST", "/trainer/exercises", body).await;
        if repair {
            for part in ["fuel", "suction_line", "feed_pressure", "high_pressure", "intake"] {
                shop.acts(id, json!({ "act": "put_right", "part": part })).await;
            }
        }
        let mut cells = Vec::new();
        for check in ["fuel_sample", "low_pressure", "shared_causes"] {
            let job = shop.reads_sheet(id, check).await;
            let sheet = job["file"]["sheets"].as_array().unwrap().last().unwrap().clone();
            let all = sheet["readings"].as_array().unwrap().iter();
            cells.extend(all.map(|one| one["typed"].clone()));
        }
        read.push(cells);
    }
    assert_eq!(read[0], read[1]);
    assert_ne!(read[0], read[2]);
    let seed = json!({ "kind": "drawn", "seed": 1_000_000_000_u64, "level": "one_fault" });
    let body = json!({ "id": Uuid::now_v7(), "case": seed, "guided": false, "learner": null });
    assert_eq!(shop.send("POST", "/trainer/exercises", body.to_string()).await.0, 422);
}
