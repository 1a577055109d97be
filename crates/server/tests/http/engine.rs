//! From the complaint to the tests on the engine, over HTTP: plan, swaps, marks, phases, banks,
//! traces, timers, and the refusals that keep people and engines whole.

use crate::documented::answer;
use crate::{Workshop, intake, setup};
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use serde_json::{Value, json};
use uuid::Uuid;

impl Workshop {
    async fn job_of(&self, change: impl FnOnce(&mut Value)) -> Uuid {
        let (id, mut intake) = (Uuid::now_v7(), intake());
        change(&mut intake);
        self.good(
            "POST",
            "/jobs",
            json!({ "id": id, "intake": intake, "labels": ["A", "B", "C", "D"] }),
        )
        .await;
        id
    }

    async fn happened(&self, job: Uuid, event: Value) -> (u16, Value) {
        let body = json!({ "id": Uuid::now_v7(), "event": event });
        self.send("POST", &format!("/jobs/{job}/events"), body.to_string()).await
    }

    async fn test(&self, job: Uuid, change: Value) -> Uuid {
        let id = Uuid::now_v7();
        let mut setup = setup(id);
        for (name, value) in change.as_object().unwrap() {
            setup[name] = value.clone();
        }
        self.good("POST", &format!("/jobs/{job}/return-tests"), setup).await;
        id
    }

    async fn run(&self, test: Uuid, with: Value) -> (u16, Value, Uuid) {
        let id = Uuid::now_v7();
        let mut body = json!({ "id": id, "timer": false });
        for (name, value) in with.as_object().unwrap() {
            body[name] = value.clone();
        }
        let (status, answer) =
            self.send("POST", &format!("/return-tests/{test}/runs"), body.to_string()).await;
        (status, answer, id)
    }

    async fn levels(&self, run: Uuid, levels: &[&str]) -> Value {
        let mut view = self.read(run, None, "2:00").await;
        for (i, level) in levels.iter().enumerate() {
            view = self.read(run, Some(i as u32 + 1), level).await;
        }
        view
    }

    async fn begin(&self, job: Uuid, check: &str) -> Uuid {
        let id = Uuid::now_v7();
        let body = json!({ "id": id, "check": check, "instrument": null });
        self.good("POST", &format!("/jobs/{job}/sheets"), body).await;
        id
    }

    async fn cell(
        &self,
        sheet: Uuid,
        check: &str,
        cell: &str,
        cylinder: Option<u32>,
        typed: &str,
    ) -> (u16, Value) {
        let body = json!({
            "id": Uuid::now_v7(), "check": check, "cell": cell, "cylinder": cylinder, "typed": typed, "corrects": null,
        });
        self.send("POST", &format!("/sheets/{sheet}/cells"), body.to_string()).await
    }
}

fn step<'a>(view: &'a Value, id: &str) -> &'a Value {
    view["plan"]["steps"].as_array().unwrap().iter().find(|s| s["id"] == id).unwrap()
}

#[tokio::test]
async fn a_complaint_becomes_a_plan_that_follows_results_and_people() {
    let shop = Workshop::open().await;
    let job = shop
        .job_of(|intake| {
            intake["story"] = json!({ "suffers": "all", "lately": ["refuelled_elsewhere"], "fault_codes": "none" });
        })
        .await;
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["plan"]["next"], "fuel_sample");
    let board = shop.get("/board").await;
    assert_eq!(board["cards"][0]["waits"]["words"], "next: Fuel sample");
    let sample = shop.begin(job, "fuel_sample").await;
    for (cell, answer) in [("suffers", "2"), ("look", "3"), ("water", "2")] {
        assert_eq!(shop.cell(sample, "fuel_sample", cell, None, answer).await.0, 200);
    }
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(step(&view, "return_test")["state"], "waits");
    let skip =
        json!({ "what": "step_skipped", "step": "return_test", "reason": "no bottles here" });
    let (_, view) = shop.happened(job, skip).await;
    assert_eq!(step(&view, "return_test")["says"], "Skipped: no bottles here");
    let (status, problem) =
        shop.happened(job, json!({ "what": "step_done", "step": "dance" })).await;
    assert_eq!(
        (status, &problem["fields"][0]["message"]),
        (422, &json!("The plan has no such step."))
    );
    let (status, _) = shop
        .happened(job, json!({ "what": "step_skipped", "step": "supply", "reason": " " }))
        .await;
    assert_eq!(status, 422);
    // Another visit of the same machine finds this one; nothing of it is lost in a file.
    let again = shop.job_of(|_| {}).await;
    let earlier = shop.get(&format!("/earlier?machine=winch&but={again}")).await;
    assert_eq!((earlier.as_array().unwrap().len(), &earlier[0]["id"]), (1, &json!(job)));
    let file = shop.text(&format!("/jobs/{job}/export.json")).await;
    let elsewhere = Workshop::open().await;
    let (status, _) = elsewhere.send("POST", "/jobs/import", file.clone()).await;
    assert_eq!(status, 200);
    let back: Value = elsewhere.get(&format!("/jobs/{job}/export.json")).await;
    let file: Value = serde_json::from_str(&file).unwrap();
    assert_eq!(
        (&back["events"], &back["job"]["intake"]["story"]),
        (&file["events"], &file["job"]["intake"]["story"])
    );
    let shown = elsewhere.get(&format!("/jobs/{job}")).await;
    assert_eq!(step(&shown, "return_test")["state"], "skipped");
}

#[tokio::test]
async fn a_swap_closes_the_old_test_moves_the_labels_and_says_what_it_means() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|_| {}).await;
    let before = shop.test(job, json!({})).await;
    let (_, _, run) = shop.run(before, json!({})).await;
    shop.levels(run, &["22", "60", "24", "23"]).await;
    let (_, view) = shop.happened(job, json!({ "what": "swapped", "one": 2, "other": 3 })).await;
    let labels: Vec<&str> =
        view["seats"].as_array().unwrap().iter().map(|s| s["label"].as_str().unwrap()).collect();
    assert_eq!(labels, ["A", "C", "B", "D"]);
    let (status, problem, _) = shop.run(before, json!({})).await;
    assert_eq!(status, 409, "a run of the old test would mix two placements");
    assert!(problem["detail"].as_str().unwrap().contains("Set up another"));
    let after = shop.test(job, json!({})).await;
    let (_, _, run) = shop.run(after, json!({})).await;
    let view = shop.levels(run, &["23", "24", "57", "22"]).await;
    assert_eq!(view["swaps"][0]["says"], "follows");
    assert_eq!(view["side_by_side"]["refused"], Value::Null);
    let then = |test: usize| (&view["labels_then"][test]["2"], &view["labels_then"][test]["3"]);
    assert_eq!(
        then(0),
        (&json!("B"), &json!("C")),
        "an old test keeps the labels it was read with"
    );
    assert_eq!(then(1), (&json!("C"), &json!("B")));
    let csv = shop.text(&format!("/jobs/{job}/readings.csv")).await;
    let reads = |cylinder: &str, label: &str| {
        csv.lines().filter(|l| l.contains(&format!(",{cylinder},{label},"))).count()
    };
    assert_eq!(
        (reads("3", "C"), reads("3", "B")),
        (1, 1),
        "each reading names what sat there then"
    );
    let (status, _) = shop.happened(job, json!({ "what": "swapped", "one": 2, "other": 9 })).await;
    assert_eq!(status, 422);
}

#[tokio::test]
async fn phases_banks_marks_and_a_bottle_that_still_rises() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|intake| intake["layout"]["banks"] = json!(2)).await;
    let stepped = shop.test(job, json!({ "regime": "stepped" })).await;
    let (status, problem, _) = shop.run(stepped, json!({})).await;
    assert_eq!((status, &problem["fields"][0]["field"]), (422, &json!("phase")));
    let (_, _, idle) = shop.run(stepped, json!({ "phase": "idle", "ticked": ["warm"] })).await;
    let view = shop.levels(idle, &["22", "23", "24", "23"]).await;
    let flags = view["verdicts"][0]["flags"].to_string();
    assert!(flags.contains("return rail blanked off") && !flags.contains("warm,"), "{flags}");
    let (_, _, raised) = shop.run(stepped, json!({ "phase": "raised" })).await;
    let view = shop.levels(raised, &["40", "90", "42", "41"]).await;
    assert_eq!(view["verdicts"][0]["rows"][1]["leads"], true);

    let plain = shop.test(job, json!({ "mark": "40" })).await;
    let (status, _, _) = shop.run(plain, json!({ "phase": "idle" })).await;
    assert_eq!(status, 422, "only a stepped test has phases");
    assert_eq!(shop.run(plain, json!({ "bank": 2 })).await.0, 422);
    let (_, _, run) = shop.run(plain, json!({ "bank": 0, "timer": true })).await;
    let reading = |kind: &str, cylinder: u32, typed: Option<&str>| {
        json!({ "id": Uuid::now_v7(), "kind": kind, "cylinder": cylinder, "typed": typed })
            .to_string()
    };
    let path = format!("/runs/{run}/readings");
    let (status, problem) = shop.send("POST", &path, reading("level", 1, Some("20"))).await;
    assert_eq!(status, 422);
    assert!(problem["fields"][0]["message"].as_str().unwrap().contains("Still filling"));
    assert_eq!(shop.send("POST", &path, reading("mark", 3, None)).await.0, 422, "the other bank");
    let (_, view) = shop.send("POST", &path, reading("mark", 2, None)).await;
    let held = &view["file"]["return_tests"][1]["runs"][0]["readings"][0];
    assert_eq!((&held["mark_ml"], held["value"].as_f64().unwrap() < 60.0), (&json!(40.0), true));
    let (status, _) = shop.send("POST", &path, reading("mark", 2, None)).await;
    assert_eq!(status, 409, "tapped twice is one reading");
    // A limit drawn as a line on the bottle is a rate.
    let lined = shop.test(job, json!({ "level_line": "30" })).await;
    let view = shop.get(&format!("/jobs/{job}")).await;
    let test = view["file"]["return_tests"]
        .as_array()
        .unwrap()
        .iter()
        .find(|t| t["id"] == json!(lined))
        .unwrap();
    assert_eq!(test["setup"]["limit"]["upper_ml_min"], 15.0);
    let mut drawn = setup(Uuid::now_v7());
    drawn["level_line"] = json!("30");
    let preview = format!("/jobs/{job}/return-tests/preview");
    let says = shop.good("POST", &preview, drawn).await["limit"].clone();
    let says = says.as_str().unwrap();
    assert!(says.starts_with("At most 15 ml/min: level line 30 ml"), "not the library's: {says}");
    let mut above = setup(Uuid::now_v7());
    above["mark"] = json!("400");
    let (status, problem) =
        shop.send("POST", &format!("/jobs/{job}/return-tests"), above.to_string()).await;
    assert_eq!((status, &problem["fields"][0]["field"]), (422, &json!("mark")));
}

#[tokio::test]
async fn no_more_is_pulsed_into_a_full_cylinder_until_it_was_cleared() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|intake| intake["fuel_system"] = json!("petrol_port")).await;
    let check = "pressure_drop";
    let sheet = shop.begin(job, check).await;
    let set = [
        ("pulses", "400"),
        ("pulse", "5"),
        ("static", "300"),
        ("bore", "80"),
        ("stroke", "80"),
        ("ratio", "11"),
    ];
    for (cell, typed) in set {
        assert_eq!(shop.cell(sheet, check, cell, None, typed).await.0, 200);
    }
    shop.cell(sheet, check, "start", Some(1), "3 bar").await;
    let (status, view) = shop.cell(sheet, check, "end", Some(1), "210").await;
    assert_eq!(status, 200, "what was pulsed is always kept");
    assert_eq!(view["sheets"][0]["verdict"]["residual"][0]["level"], "stop");
    let next = shop.begin(job, check).await;
    for (cell, typed) in set {
        shop.cell(next, check, cell, None, typed).await;
    }
    let (status, problem) = shop.cell(next, check, "start", Some(1), "300").await;
    assert_eq!(status, 409);
    assert!(
        problem["detail"].as_str().unwrap().starts_with("Stop: too much fuel in this cylinder")
    );
    assert_eq!(shop.cell(next, check, "start", Some(2), "300").await.0, 200, "the others go on");
    let bare = json!({ "id": Uuid::now_v7(), "event": { "what": "cleared" } }).to_string();
    let (status, refused) = shop.send("POST", &format!("/jobs/{job}/events"), bare).await;
    assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("how")), "who did what");
    let cleared = json!({ "what": "cleared", "how": "spark plugs out, cranked" });
    let (_, view) = shop.happened(job, cleared).await;
    // Recorded by mistake: undone with a reason, the fuel is there again.
    let of = view["file"]["events"].as_array().unwrap().last().unwrap()["id"].clone();
    let undone = json!({ "what": "clearing_undone", "of": of, "reason": "wrong engine" });
    shop.happened(job, undone).await;
    assert_eq!(shop.cell(next, check, "start", Some(1), "300").await.0, 409, "as before");
    shop.happened(job, json!({ "what": "cleared", "how": "spark plugs out, cranked" })).await;
    assert_eq!(shop.cell(next, check, "start", Some(1), "300").await.0, 200);
}

#[tokio::test]
async fn a_trace_is_read_from_a_file_its_drops_are_found_and_it_travels_with_the_job() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|intake| intake["fuel_system"] = json!("petrol_port")).await;
    let sheet = shop.begin(job, "pressure_drop").await;
    let mut text = "Time (s);Pressure (bar)\n".to_owned();
    let mut t = 0.0;
    for end in [2.10, 2.12, 1.80] {
        for (seconds, from, to) in
            [(1.0, end, 3.0), (2.0, 3.0, 3.0), (0.5, 3.0, end), (2.0, end, end)]
        {
            for i in 0..(seconds * 100.0) as u32 {
                let p = from + (to - from) * f64::from(i) / (seconds * 100.0);
                text += &format!("{t:.2};{p:.3}\n").replace('.', ",");
                t += 0.01;
            }
        }
    }
    let id = Uuid::now_v7();
    let body = |text: &str| {
        json!({ "id": id, "name": "rail.csv", "text": text, "order": [1, 2, 3] }).to_string()
    };
    let path = format!("/sheets/{sheet}/traces");
    let (status, view) = shop.send("POST", &path, body(&text)).await;
    assert_eq!(status, 200, "{view}");
    let trace = &view["file"]["sheets"][0]["traces"][0];
    let drops = trace["drops"].as_array().unwrap();
    assert_eq!(drops.len(), 3);
    assert!((drops[2]["end_kpa"].as_f64().unwrap() - 180.0).abs() < 1.0);
    assert!(trace["points"].as_array().unwrap().len() <= 1700, "diluted");
    let (_, again) = shop.send("POST", &path, body(&text)).await;
    assert_eq!(
        again["file"]["sheets"][0]["traces"].as_array().unwrap().len(),
        1,
        "sent twice is kept once"
    );
    for (bad, says) in [
        ("a,b\n1,x\n", "Row 2, pressure"),
        ("0,300\n0.1,-4\n", "value of zero or more"),
        ("0,300\n", "at least 8"),
        ("", "two columns"),
    ] {
        let body =
            json!({ "id": Uuid::now_v7(), "name": "x", "text": bad, "order": [] }).to_string();
        let (status, problem) = shop.send("POST", &path, body).await;
        let message = problem["fields"][0]["message"].as_str().unwrap();
        assert!(status == 422 && message.contains(says), "{message}");
    }
    let file = shop.text(&format!("/jobs/{job}/export.json")).await;
    let elsewhere = Workshop::open().await;
    assert_eq!(elsewhere.send("POST", "/jobs/import", file.clone()).await.0, 200);
    let back = elsewhere.get(&format!("/jobs/{job}/export.json")).await;
    let file: Value = serde_json::from_str(&file).unwrap();
    assert_eq!(back["sheets"], file["sheets"]);
}

#[tokio::test]
async fn several_timers_stand_on_the_board_until_they_are_taken_off() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|_| {}).await;
    let timer = |word: &str, seconds: u32| json!({ "what": "timer_set", "word": word, "seconds": seconds, "stage": "bench" });
    shop.happened(job, timer("soak", 900)).await;
    let (_, view) = shop.happened(job, timer("warm up", 300)).await;
    let board = shop.get("/board").await;
    let words = |of: &Value| {
        of["timers"].as_array().unwrap().iter().map(|t| t["word"].clone()).collect::<Vec<_>>()
    };
    assert_eq!(words(&board["running"][0]), ["warm up", "soak"]);
    let first = view["timers"][0]["id"].clone();
    let (_, view) = shop.happened(job, json!({ "what": "timer_off", "timer": first })).await;
    assert_eq!(words(&view), ["soak"]);
    let (status, _) =
        shop.happened(job, json!({ "what": "timer_off", "timer": Uuid::now_v7() })).await;
    assert_eq!(status, 404);
    assert_eq!(shop.happened(job, timer("soak", 0)).await.0, 422);
    assert_eq!(shop.happened(job, json!({ "what": "exploded" })).await.0, 422);
}

/// Chosen units are read, said and kept beside what was typed; another choice says old readings anew
/// and changes none of them.
#[tokio::test]
async fn the_units_of_the_workshop_are_those_of_every_field_and_sentence() {
    let shop = Workshop::open().await;
    let job = shop.job_of(|_| {}).await;
    let sheet = shop.begin(job, "compression").await;
    let set = async |revision: u32, pressure: &str| {
        let units = json!({ "pressure": pressure, "torque": "newton_metre", "temperature": "celsius", "flow": "ml_min", "distance": "km" });
        let profile = json!({ "name": "Dyke Lane", "address": "", "currency": "", "logo": "", "units": units });
        shop.good("PUT", "/profile", json!({ "revision": revision, "profile": profile })).await
    };
    assert_eq!(set(0, "bar").await["labels"]["pressure"], "bar");
    for (cylinder, typed) in [(1, "24"), (2, "2430 kPa"), (3, "350 psi"), (4, "24.2")] {
        assert_eq!(shop.cell(sheet, "compression", "pressure", Some(cylinder), typed).await.0, 200);
    }
    let view = shop.get(&format!("/jobs/{job}")).await;
    let kept = |view: &Value| {
        let of =
            |r: &Value| (r["typed"].as_str().unwrap().to_owned(), r["value"].as_f64().unwrap());
        view["file"]["sheets"][0]["readings"].as_array().unwrap().iter().map(of).collect::<Vec<_>>()
    };
    let readings = kept(&view);
    assert_eq!(readings[0], ("24 bar".to_owned(), 2400.0), "a bare number is the workshop's");
    assert_eq!(readings[1], ("2430 kPa".to_owned(), 2430.0));
    let lane = |view: &Value| {
        let lanes = view["sheets"][0]["verdict"]["lanes"].as_array().unwrap();
        lanes.iter().find(|lane| lane["place"] == 1).unwrap()["shown"].clone()
    };
    assert_eq!(
        (&view["sheets"][0]["verdict"]["unit"], &lane(&view)),
        (&json!("bar"), &json!("24"))
    );
    assert_eq!(set(1, "psi").await["labels"]["pressure"], "psi");
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(
        (&view["sheets"][0]["verdict"]["unit"], &lane(&view)),
        (&json!("psi"), &json!("348.1"))
    );
    assert_eq!(kept(&view), readings, "what was read stays as it was");
    // A page from before the choice goes on meaning what stood beside its fields.
    let body = json!({ "id": Uuid::now_v7(), "check": "compression", "cell": "pressure", "cylinder": 1, "typed": "25", "corrects": view["file"]["sheets"][0]["readings"][0]["id"] });
    let old = shop.http.post(format!("{}/api/sheets/{sheet}/cells", shop.address));
    let old =
        old.header("x-at-bench", shop.bench.to_string()).header("x-units", "bar,Nm,C,ml/min,km");
    assert_eq!(answer(old.json(&body)).await.status, 200);
    let view = shop.get(&format!("/jobs/{job}")).await;
    let newest = kept(&view).into_iter().last().unwrap();
    assert_eq!(newest, ("25 bar".to_owned(), 2500.0));
    let forms = shop.get("/sheets").await;
    let compression = forms.as_array().unwrap().iter().find(|f| f["id"] == "compression").unwrap();
    let cell = &compression["each"][0];
    assert_eq!((&cell["unit"], &cell["kept_unit"]), (&json!("psi"), &json!("kPa")));
}

/// A WAV file of one channel, 16 bits, 8 kHz.
pub(crate) fn wav(samples: &[f32]) -> Vec<u8> {
    let data: Vec<u8> =
        samples.iter().flat_map(|one| ((one * 32_767.0) as i16).to_le_bytes()).collect();
    let mut file = b"RIFF".to_vec();
    file.extend((36 + data.len() as u32).to_le_bytes());
    file.extend(b"WAVEfmt ");
    for (value, bytes) in [(16_u32, 4), (1, 2), (1, 2), (8000, 4), (16_000, 4), (2, 2), (16, 2)] {
        file.extend(&value.to_le_bytes()[..bytes]);
    }
    file.extend(b"data");
    file.extend((data.len() as u32).to_le_bytes());
    file.extend(data);
    file
}

/// Two seconds of a tick that comes 400 times a minute, this loud.
pub(crate) fn ticking(loud: f32) -> Vec<f32> {
    let sample = |at: usize| {
        let t = (at % 1200) as f32 / 8000.0;
        let noise = (at * 7919 % 101) as f32 / 50.0 - 1.0;
        loud * (-t / 0.0015).exp() * (t * 12_566.0).sin() + 0.0005 * noise
    };
    (0..16_000).map(sample).collect()
}

/// What is sent with a recording.
pub(crate) fn recording(check: &str, cylinder: u32, drive: &str, file: &[u8]) -> Value {
    let file = STANDARD.encode(file);
    json!({ "check": check, "cylinder": cylinder, "name": "Rig 4.wav", "drive": drive, "file": file })
}

#[tokio::test]
async fn a_sound_and_a_current_from_a_file_give_their_figures_and_what_is_no_recording_is_named() {
    let shop = Workshop::open().await;
    let mut of = intake();
    of["fuel_system"] = json!("petrol_port");
    let job = Uuid::now_v7();
    shop.good("POST", "/jobs", json!({ "id": job, "intake": of, "labels": [] })).await;
    let begin = async |check: &str| {
        let id = Uuid::now_v7();
        let body = json!({ "id": id, "check": check, "instrument": null });
        shop.good("POST", &format!("/jobs/{job}/sheets"), body).await;
        format!("/sheets/{id}/recordings")
    };
    let path = begin("listening").await;
    let send = async |path: &str, mut body: Value| {
        body["id"] = json!(Uuid::now_v7());
        shop.send("POST", path, body.to_string()).await
    };
    let sound = recording("listening", 2, "800 rpm", &wav(&ticking(0.5)));
    let (status, view) = send(&path, sound).await;
    assert_eq!(status, 200, "{view}");
    let kept = &view["file"]["sheets"][0]["recordings"][0];
    let figures = &kept["figures"];
    assert_eq!(figures[0], json!({ "cell": "heard", "typed": "100 %" }), "{figures}");
    assert_eq!(figures[1]["cell"], "level");
    let rate = kept["found"]["of"]["rate_hz"].as_f64().unwrap();
    assert!((rate - 6.67).abs() < 0.02, "{rate}");
    let silence = recording("listening", 3, "800", &wav(&vec![0.0; 16_000]));
    let (_, view) = send(&path, silence).await;
    let kept = &view["file"]["sheets"][0]["recordings"][1];
    assert_eq!(
        (&kept["figures"][0]["typed"], &kept["found"]["of"]["level_db"]),
        (&json!("0 %"), &Value::Null)
    );

    let ramped = begin("drive_current").await;
    let current = |t: f64| match t {
        t if t < 0.0 => 0.0,
        t if t < 3.0 => 1.0 - (-t).exp(),
        t => 0.95 * (-4.0 * (t - 3.0)).exp(),
    };
    let rows = (0..400).map(|at| f64::from(at) * 0.02);
    let text: String = rows.map(|ms| format!("{ms:.2};{:.4}\n", current(ms - 2.0))).collect();
    let text = format!("Time (ms);Current (A)\n{text}").replace('.', ",");
    let (status, view) = send(&ramped, recording("drive_current", 1, "14", text.as_bytes())).await;
    assert_eq!(status, 200, "{view}");
    let figures = &view["file"]["sheets"][1]["recordings"][0]["figures"];
    assert_eq!(
        figures[1],
        json!({ "cell": "kink", "typed": "0" }),
        "nothing moves in it: {figures}"
    );

    let good = wav(&ticking(0.5));
    let short = wav(&ticking(0.5)[..800]);
    for (path, check, cylinder, drive, file, says) in [
        (&path, "listening", 9, "800", good.as_slice(), "cylinders 1 to 4"),
        (&path, "listening", 1, "", &good, "drive"),
        (&path, "listening", 1, "800", &good[..30], "no WAV file"),
        (&path, "listening", 1, "800", b"time,volts\n", "no WAV file"),
        (&path, "listening", 1, "800", &good[..400], "no WAV file"),
        (&path, "listening", 1, "800", &short, "0.5 to 60 s"),
        (&path, "drive_current", 1, "14", text.as_bytes(), "another kind"),
        (&ramped, "drive_current", 1, "14", &good, "no text"),
        (&ramped, "drive_current", 1, "14", b"0,1\n0,2\n", "at least 50"),
        (&ramped, "drive_current", 1, "14", b"Time (ms);Voltage\n0;1\n1;2\n", "current is needed"),
        (&ramped, "drive_current", 1, "twelve", text.as_bytes(), "drive"),
    ] {
        let (status, problem) = send(path, recording(check, cylinder, drive, file)).await;
        assert!(status == 422 && problem.to_string().contains(says), "{says}: {problem}");
    }
}
