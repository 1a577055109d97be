//! The whole workshop out and in again, and what happens to files that are not whole.

use crate::Workshop;
use crate::documented::answer;
use serde_json::{Value, json};
use uuid::Uuid;

/// A workshop with something of every kind in it.
async fn full() -> Workshop {
    let shop = Workshop::open().await;
    let job = shop.read_job().await.job;
    shop.on_the_bench().await;
    let rule = json!({ "typed": "12", "revision": 0, "reason": "our bottles are fine" });
    shop.good("PUT", "/rules/return_look", rule).await;
    let weights = shop.get("/weights").await;
    let change = json!({ "revision": 0, "text": weights["text"], "reason": "kept as they are" });
    shop.good("PUT", "/weights", change).await;
    let own = json!({ "name": "Dyke Lane Injection", "address": "Dyke Lane 4", "currency": "EUR", "logo": "" });
    shop.good("PUT", "/profile", json!({ "revision": 0, "profile": own })).await;
    shop.good("POST", "/shims", json!({ "id": Uuid::now_v7(), "size": "42", "moved": 3 })).await;
    let csv = "family,kind,check,condition,lower,upper,source\nKettra 27,diesel_solenoid,return_flow,idle,,24,sheet 4\n";
    let text = json!({ "format": "csv", "text": csv, "leave_out_bad_rows": false });
    shop.good("POST", "/library/import", text).await;
    let note = json!({ "id": Uuid::now_v7(), "stage": "prove", "text": "Drove well." });
    shop.good("POST", &format!("/jobs/{job}/notes"), note).await;
    shop
}

impl Workshop {
    /// A second job, its injectors on the bench, two of them kept as a set.
    async fn on_the_bench(&self) {
        let mut values = || [40.0, 30.0, 14.1];
        let job = self.stock(1, &mut values).await[0];
        let shelf = self.get(&format!("/shelf?kind=petrol&family=&job={job}")).await;
        let members: Vec<&Value> =
            shelf["lines"].as_array().unwrap().iter().take(2).map(|one| &one["injector"]).collect();
        let set = json!({ "id": Uuid::now_v7(), "kind": "petrol", "family": "", "members": members, "note": "for the launch" });
        assert_eq!(self.sent("POST", "/shelf/sets", set).await.0, 204);
    }

    /// What an import came to: what it did, or what was wrong.
    async fn take_in(&self, text: impl Into<reqwest::Body>) -> Value {
        let request = self.http.post(format!("{}/api/workshop/imports", self.address));
        let request = request.header("x-at-bench", self.bench.to_string()).body(text);
        let seen = answer(request).await;
        assert_eq!(seen.status, 202);
        self.over(seen.json()).await
    }

    /// Looks at a transfer until it is over.
    async fn over(&self, mut view: Value) -> Value {
        let at = format!("/workshop/transfers/{}", view["id"].as_str().unwrap());
        while ["checking", "importing", "exporting"].contains(&view["state"].as_str().unwrap()) {
            assert!((0.0..=1.0).contains(&view["done"].as_f64().unwrap()), "{view}");
            view = self.get(&at).await;
        }
        view
    }
}

#[tokio::test]
async fn a_workshop_goes_out_and_comes_back_without_loss_and_twice_is_the_same_as_once() {
    let shop = full().await;
    let file = shop.text("/workshop/export.jsonl").await;
    let kinds: Vec<String> = file
        .lines()
        .map(|line| {
            serde_json::from_str::<Value>(line).unwrap()["line"].as_str().unwrap().to_owned()
        })
        .collect();
    for kind in
        ["workshop", "person", "rule", "weights", "library", "shims", "job", "kept_set", "end"]
    {
        assert!(kinds.iter().any(|one| one == kind), "{kind}: {kinds:?}");
    }
    let other = Workshop::open().await;
    let done = other.take_in(file.clone()).await;
    assert_eq!(
        (&done["state"], &done["imported"]["new_jobs"]),
        (&json!("done"), &json!(2)),
        "{done}"
    );
    let again = &other.take_in(file.clone()).await["imported"];
    assert_eq!((&again["new_jobs"], &again["same_jobs"]), (&json!(0), &json!(2)));
    // In the background it goes out just the same, and can be fetched until it is cancelled.
    for (what, at) in [("workshop", "export.jsonl"), ("readings", "readings.csv")] {
        let asked = json!({ "id": Uuid::now_v7(), "what": what });
        let begun = other.sent("POST", "/workshop/exports", asked.clone()).await;
        assert_eq!(begun.0, 202);
        let view = other.over(serde_json::from_str(&begun.1).unwrap()).await;
        let again = other.sent("POST", "/workshop/exports", asked).await.1;
        assert_eq!(serde_json::from_str::<Value>(&again).unwrap(), view, "a retry begins nothing");
        let fetched =
            other.text(&format!("/workshop/transfers/{}/file", view["id"].as_str().unwrap())).await;
        assert_eq!(view["bytes"], fetched.len());
        assert_eq!(fetched, other.text(&format!("/workshop/{at}")).await);
    }
    assert_eq!(other.get("/workshop/transfers").await.as_array().unwrap().len(), 4);
    // The other workshop has its own person at the bench besides; all else is the same, line by line.
    let person = |line: &&str| {
        !line.starts_with("{\"line\":\"person\"") && !line.starts_with("{\"line\":\"end\"")
    };
    let back = other.text("/workshop/export.jsonl").await;
    let (before, after): (Vec<&str>, Vec<&str>) =
        (file.lines().filter(person).collect(), back.lines().filter(person).collect());
    assert_eq!(before, after);
    let csv = other.text("/workshop/readings.csv").await;
    assert!(csv.contains(",bench 1 flow,as received,true,1,"), "{}", &csv[..400]);
    assert_eq!(csv.matches("reading_id").count(), 1, "one head for all jobs");
}

#[tokio::test]
async fn a_truncated_or_hostile_workshop_file_changes_nothing_and_says_which_line() {
    let file = full().await.text("/workshop/export.jsonl").await;
    let lines: Vec<&str> = file.lines().collect();
    let other = Workshop::open().await;
    let before = other.text("/workshop/export.jsonl").await;
    let refused = async |text: String, says: &str| {
        let problem = other.take_in(text).await;
        assert_eq!(problem["state"], "refused", "{says}: {problem}");
        assert!(problem.to_string().contains(says), "{says}: {problem}");
    };
    // Cut off at the end of each line, and in the middle of each.
    for at in 1..lines.len() {
        let whole = format!("{}\n", lines[..at].join("\n"));
        refused(whole.clone(), "file is incomplete").await;
        let half: String = lines[at].chars().take(lines[at].chars().count() / 2).collect();
        refused(whole + &half, &format!("line {}", at + 1)).await;
    }
    refused(String::new(), "file is incomplete").await;
    let problem = other.take_in(vec![0xff, 0xfe, 0x00]).await;
    assert_eq!(problem["fields"][0]["field"], "line 1", "no text at all: {problem}");
    refused(lines[1..].join("\n"), "first line").await;
    refused(format!("{file}{}", lines[1]), "may follow the last line").await;
    refused(file.replace("\"version\":1}}", "\"version\":9}}"), "version 1 is needed").await;
    let without: Vec<&str> =
        lines.iter().enumerate().filter(|(n, _)| *n != 2).map(|(_, l)| *l).collect();
    refused(without.join("\n"), "lines were written").await;
    let at = lines.iter().position(|line| line.starts_with("{\"line\":\"job\"")).unwrap();
    let swapped = |from: &str, to: &str| {
        let line = lines[at].replacen(from, to, 1);
        assert_ne!(line, lines[at], "{from}");
        let mut all: Vec<&str> = lines.clone();
        all[at] = &line;
        all.join("\n")
    };
    refused(
        swapped("\"cylinders\":4", "\"cylinders\":400"),
        &format!("line {}: job.intake", at + 1),
    )
    .await;
    refused(swapped("\"people\":[", "\"peeple\":["), &format!("line {}", at + 1)).await;
    refused(swapped("\"value\":60.5", "\"value\":-60.5"), "below zero").await;
    refused(
        file.replace("\"line\":\"shims\"", "\"line\":\"nothing\""),
        "Not a line of a workshop file",
    )
    .await;
    // House rules of its own are not mixed with those of a file.
    let rule = json!({ "typed": "14", "revision": 0, "reason": "as we do" });
    assert_eq!(
        other.text("/workshop/export.jsonl").await,
        before,
        "nothing was changed by any of them"
    );
    other.good("PUT", "/rules/return_look", rule).await;
    refused(file, "has its own rules").await;
    assert_eq!(other.get("/board").await["jobs"], 0);
}

#[tokio::test]
async fn the_workshop_is_written_down_once_and_each_step_of_its_first_hour_is_counted() {
    let shop = Workshop::open().await;
    let empty = shop.get("/profile").await;
    assert_eq!((&empty["revision"], &empty["held"]["jobs"]), (&json!(0), &json!(0)));
    let own = |name: &str, logo: &str| json!({ "revision": 0, "profile": { "name": name, "address": "", "currency": "EUR", "logo": logo } });
    let (status, refused) = shop.send("PUT", "/profile", own("", "").to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("name")));
    let (status, refused) =
        shop.send("PUT", "/profile", own("Dyke Lane", "javascript:1").to_string()).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("logo")));
    let kept = shop.good("PUT", "/profile", own("Dyke Lane", "")).await;
    assert_eq!((&kept["revision"], &kept["held"]["people"]), (&json!(1), &json!(1)));
    let (status, stale) = shop.send("PUT", "/profile", own("Another", "").to_string()).await;
    assert_eq!(status, 409, "{stale}");
    assert_eq!(shop.get("/profile").await["profile"]["name"], "Dyke Lane");
}
