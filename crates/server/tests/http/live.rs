//! Instruments that are read over the network: nothing becomes a reading that they did not show, and what
//! they showed while a run went on is kept, with its gaps.

use crate::documented::answer;
use crate::{Workshop, intake};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::instrument_link::DeviceKind;
use cobaltine_core::raw::unpack;
use cobaltine_engines::engine::MadeEngine;
use cobaltine_engines::fault::Fault;
use cobaltine_standins::instrument::Device;
use cobaltine_standins::serve_device;
use serde_json::{Value, json};
use std::net::SocketAddr;
use std::time::Duration;
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};
use uuid::Uuid;

/// A simulated instrument, and how to tell it what to do.
struct Bench(SocketAddr);

impl Bench {
    async fn of(kind: DeviceKind, fuel: FuelSystem) -> Self {
        Self::at(kind, MadeEngine::four(fuel)).await
    }

    async fn at(kind: DeviceKind, engine: MadeEngine) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let at = listener.local_addr().unwrap();
        tokio::spawn(serve_device(listener, Device::new(kind, engine, 5)));
        Self(at)
    }

    async fn bottles() -> Self {
        Self::of(DeviceKind::Bottles, FuelSystem::DieselSolenoid).await
    }

    /// Says something to it, and waits until it was heard.
    async fn does(&self, what: &str) {
        let mut line = BufReader::new(TcpStream::connect(self.0).await.unwrap());
        line.get_mut().write_all(format!("{what}\n").as_bytes()).await.unwrap();
        if what.ends_with("NONE") || what.starts_with("SIM:ENGINE") {
            line.get_mut().write_all(b"*OPC?\n").await.unwrap();
            line.read_line(&mut String::new()).await.unwrap();
        }
    }
}

impl Workshop {
    async fn lists(&self, kind: &str, at: SocketAddr) -> Uuid {
        let id = Uuid::now_v7();
        let body = json!({ "id": id, "name": format!("Bay 1 {kind}"), "kind": kind, "address": at.to_string(), "instrument": null, "revision": 0 });
        self.good("PUT", "/connections", body).await;
        id
    }

    /// A return test of runs of these seconds, with a mark where one is named.
    async fn test_of(&self, planned: &str, mark: &str) -> (Uuid, Uuid) {
        let (job, test) = (Uuid::now_v7(), Uuid::now_v7());
        let taken = json!({ "id": job, "intake": intake(), "labels": [] });
        self.good("POST", "/jobs", taken).await;
        let setup = json!({
            "id": test, "regime": "idle_only", "temperature": "82", "speed": "", "capacity": "100",
            "graduation": "2", "planned": planned, "mark": mark,
        });
        self.good("POST", &format!("/jobs/{job}/return-tests"), setup).await;
        (job, test)
    }

    async fn begins(&self, test: Uuid, connection: Uuid) -> (Uuid, u16, Value) {
        let run = Uuid::now_v7();
        let body = json!({ "id": run, "timer": true, "connection": connection });
        let path = format!("/return-tests/{test}/runs");
        let (status, answer) = self.send("POST", &path, body.to_string()).await;
        (run, status, answer)
    }

    /// The first run of a job as soon as this holds of it.
    async fn run_when(&self, job: Uuid, holds: impl Fn(&Value) -> bool) -> Value {
        let mut found = None;
        for _ in 0..600 {
            let view = self.get(&format!("/jobs/{job}")).await;
            let run = &view["file"]["return_tests"][0]["runs"][0];
            if holds(run) {
                found = Some(run.clone());
                break;
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
        found.unwrap()
    }
}

/// Readings that stand in a run, by kind.
fn of_kind<'a>(run: &'a Value, kind: &str) -> Vec<&'a Value> {
    let readings = run["readings"].as_array().unwrap().iter();
    readings.filter(|one| one["kind"] == kind).collect()
}

#[tokio::test]
async fn only_listed_addresses_of_near_networks_are_contacted_and_another_kind_is_named() {
    let shop = Workshop::open().await;
    let bottles = Bench::bottles().await;
    for (address, says) in [
        ("203.0.113.7:5025", "private network"),
        ("instrument.local:5025", "IP address and a port"),
        ("127.0.0.1", "IP address and a port"),
    ] {
        let body = json!({ "id": Uuid::now_v7(), "name": "Far", "kind": "gauge", "address": address, "instrument": null, "revision": 0 });
        let (status, answer) = shop.send("PUT", "/connections", body.to_string()).await;
        assert_eq!(status, 422, "{address}");
        assert!(answer["fields"][0]["message"].as_str().unwrap().contains(says), "{answer}");
    }
    let unlisted = format!("/connections/{}/reading", Uuid::now_v7());
    let (status, _) = shop.send("POST", &unlisted, r#"{"quantity":"volume"}"#).await;
    assert_eq!(status, 404);
    let gauge = shop.lists("gauge", bottles.0).await;
    let tested = shop.good("POST", &format!("/connections/{gauge}/test"), json!({})).await;
    assert_eq!(tested["wrong"], "This is a return bottles. A pressure gauge is needed here.");
    assert!(tested["shown"].is_null() && tested["identity"].is_null());
    let right = shop.lists("bottles", bottles.0).await;
    let tested = shop.good("POST", &format!("/connections/{right}/test"), json!({})).await;
    assert!(tested["identity"].as_str().unwrap().contains("BOTTLES"), "{tested}");
    assert_eq!(tested["shown"]["values"].as_array().unwrap().len(), 4);
    let listed = shop.get("/connections").await;
    let last = listed.as_array().unwrap().iter().find(|one| !one["last"].is_null()).unwrap();
    assert_eq!(last["connection"]["id"], json!(right), "the last reading stands in the list");
}

#[tokio::test]
async fn fault_codes_come_from_a_scan_tool_and_nothing_else_is_taken_for_one() {
    let shop = Workshop::open().await;
    let mut engine = MadeEngine::four(FuelSystem::PetrolPort);
    Fault::CoilOpen.put(&mut engine, 1, 1.0);
    let scan = Bench::at(DeviceKind::Scan, engine).await;
    let id = shop.lists("scan", scan.0).await;
    let path = format!("/connections/{id}/fault-codes");
    assert_eq!(shop.good("POST", &path, json!({})).await["codes"], json!(["P0202", "P0302"]));
    for fault in ["BINARY", "FLOODS", "TWICE"] {
        scan.does(&format!("SIM:FAULT {fault}")).await;
        let (status, answer) = shop.send("POST", &path, "{}").await;
        assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{fault}");
        scan.does("SIM:FAULT NONE").await;
    }
    let sound = Bench::of(DeviceKind::Scan, FuelSystem::DieselSolenoid).await;
    let id = shop.lists("scan", sound.0).await;
    let none = shop.good("POST", &format!("/connections/{id}/fault-codes"), json!({})).await;
    assert_eq!(none["codes"], json!([]));
    let bottles = Bench::bottles().await;
    let id = shop.lists("bottles", bottles.0).await;
    assert_eq!(shop.send("POST", &format!("/connections/{id}/fault-codes"), "{}").await.0, 409);
}

#[tokio::test]
async fn a_device_that_lies_stalls_floods_or_breaks_off_at_any_byte_gives_no_reading() {
    let shop = Workshop::open().await;
    let bottles = Bench::bottles().await;
    let id = shop.lists("bottles", bottles.0).await;
    let path = format!("/connections/{id}/reading");
    let reading = || shop.send("POST", &path, r#"{"quantity":"volume"}"#);
    let whole = reading().await;
    assert_eq!(whole.0, 200, "{}", whole.1);
    for (fault, says) in [
        ("SILENT", "does not answer"),
        ("LIES", "cannot be"),
        ("FLOODS", "no answer"),
        ("BINARY", "not understood"),
        ("UNIT", "GAL"),
    ] {
        bottles.does(&format!("SIM:FAULT {fault}")).await;
        let (status, answer) = reading().await;
        assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{fault}");
        assert!(answer["detail"].as_str().unwrap().contains(says), "{fault}: {answer}");
        bottles.does("SIM:FAULT NONE").await;
    }
    // Each answer is cut after so many bytes: identity, then unit, values and age in one line.
    for at in 1..=40 {
        bottles.does(&format!("SIM:BREAK {at}")).await;
        let (status, answer) = reading().await;
        assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{at}: {answer}");
    }
    bottles.does("SIM:BREAK 0").await;
    bottles.does("SIM:FAULT TWICE").await;
    let (status, answer) = reading().await;
    assert_eq!(status, 409, "what nobody asked for is no answer: {answer}");
}

#[tokio::test]
async fn a_cell_names_the_instrument_only_where_it_showed_what_is_typed() {
    let shop = Workshop::open().await;
    let meter = Bench::of(DeviceKind::Meter, FuelSystem::DieselSolenoid).await;
    let meter = shop.lists("meter", meter.0).await;
    let (job, _) = shop.test_of("2:00", "").await;
    let sheet = Uuid::now_v7();
    let begun = json!({ "id": sheet, "check": "coil_resistance", "instrument": null });
    shop.good("POST", &format!("/jobs/{job}/sheets"), begun).await;
    let asked = json!({ "quantity": "resistance", "cylinder": 2 });
    let shown = shop.good("POST", &format!("/connections/{meter}/reading"), asked).await;
    let typed = shown["typed"][0].as_str().unwrap();
    let cell = |cylinder: u32, typed: &str, shown: Value| json!({ "id": Uuid::now_v7(), "check": "coil_resistance", "cell": "ohms", "cylinder": cylinder, "typed": typed, "corrects": null, "shown": shown });
    let path = format!("/sheets/{sheet}/cells");
    for (typed, by) in [("0.42 Ω", shown["id"].clone()), (typed, json!(Uuid::now_v7()))] {
        let (status, answer) = shop.send("POST", &path, cell(2, typed, by).to_string()).await;
        assert_eq!((status, answer["fields"][0]["field"].as_str()), (422, Some("typed")));
    }
    shop.good("POST", &path, cell(2, typed, shown["id"].clone())).await;
    let view = shop.good("POST", &path, cell(3, "0.41", Value::Null)).await;
    let read = &view["file"]["sheets"][0]["readings"];
    assert_eq!(read[0]["shown_by"]["name"], "Bay 1 meter");
    assert!(read[0]["shown_by"]["identity"].as_str().unwrap().contains("METER"));
    assert!(read[1]["shown_by"].is_null(), "typed by hand, and marked as that: {read}");
}

#[tokio::test]
async fn a_live_run_keeps_every_point_and_reads_the_bottles_when_its_time_is_up() {
    let shop = Workshop::open().await;
    let bottles = Bench::bottles().await;
    let id = shop.lists("bottles", bottles.0).await;
    let (job, test) = shop.test_of("4", "").await;
    let (_, status, answer) = shop.begins(test, id).await;
    assert_eq!(status, 200, "{answer}");
    let run = shop.run_when(job, |run| of_kind(run, "level").len() == 4).await;
    assert!(of_kind(&run, "level").iter().all(|one| one["shown_by"]["name"] == "Bay 1 bottles"));
    let length = of_kind(&run, "run_time")[0]["value"].as_f64().unwrap();
    assert!((4.0..12.0).contains(&length), "{length}");
    assert_eq!(run["raw"][0]["packed"], "", "a view carries no points");
    let file = shop.get(&format!("/jobs/{job}/export.json")).await;
    let raw = file["return_tests"][0]["runs"][0]["raw"].as_array().unwrap();
    let points: Vec<_> =
        raw.iter().flat_map(|one| unpack(one["packed"].as_str().unwrap()).unwrap()).collect();
    // Fifty a second; a machine that is busy may show fewer, and none twice.
    assert!((60..=(length * 50.0) as usize + 20).contains(&points.len()), "{}", points.len());
    assert!(points.windows(2).all(|two| two[0].ms < two[1].ms));
    let csv = shop.text(&format!("/jobs/{job}/raw.csv?of={}", run["id"].as_str().unwrap())).await;
    assert!(csv.starts_with("time [s],1 [ml],2 [ml],3 [ml],4 [ml]\n"), "{csv}");
    assert_eq!(csv.lines().filter(|line| !line.starts_with('#')).count(), points.len() + 1);
    let other = Workshop::open().await;
    other.good("POST", "/jobs/import", file.clone()).await;
    assert_eq!(other.get(&format!("/jobs/{job}/export.json")).await, file, "without loss");
}

#[tokio::test]
async fn a_silence_is_a_stated_gap_and_a_recording_that_ended_is_taken_up_again() {
    let shop = Workshop::open().await;
    let bottles = Bench::bottles().await;
    let id = shop.lists("bottles", bottles.0).await;
    let (job, test) = shop.test_of("10:00", "").await;
    let (run, ..) = shop.begins(test, id).await;
    tokio::time::sleep(Duration::from_millis(400)).await;
    bottles.does("SIM:FAULT SILENT").await;
    tokio::time::sleep(Duration::from_millis(2600)).await;
    bottles.does("SIM:FAULT NONE").await;
    // A gap is on record as soon as it is over.
    let gap = |run: &Value| {
        let raw = run["raw"].as_array().into_iter().flatten();
        raw.flat_map(|one| one["gaps"].as_array().cloned().unwrap_or_default()).next()
    };
    let caught = shop.run_when(job, |run| gap(run).is_some()).await;
    // Its connection is changed: what was caught is kept, and nobody catches any more.
    let named = json!({ "id": id, "name": "Bay 2 bottles", "kind": "bottles", "address": bottles.0.to_string(), "instrument": null, "revision": 1 });
    shop.good("PUT", "/connections", named).await;
    let gap = gap(&caught).unwrap();
    assert!(gap["why"].as_str().unwrap().contains("does not answer"), "{gap}");
    let long = gap["to_ms"].as_u64().unwrap() - gap["from_ms"].as_u64().unwrap();
    assert!(long >= 2000, "{gap}");
    tokio::time::sleep(Duration::from_millis(1200)).await;
    let again = shop.sent("POST", &format!("/runs/{run}/live"), Value::Null).await;
    assert_eq!(again.0, 204, "{}", again.1);
    tokio::time::sleep(Duration::from_millis(2500)).await;
    let ended = shop.sent("POST", &format!("/runs/{run}/live/end"), Value::Null).await;
    assert_eq!(ended.0, 204, "{}", ended.1);
    let run = shop.run_when(job, |run| of_kind(run, "level").len() == 4).await;
    let raw = run["raw"].as_array().unwrap();
    let second = raw.iter().find(|one| one["shown_by"]["name"] == "Bay 2 bottles").unwrap();
    assert_eq!(second["gaps"][0]["why"], "Nothing was read in this time.");
    // Asked again, there is nothing left to end.
    let path = format!("/runs/{}/live/end", run["id"].as_str().unwrap());
    assert_eq!(shop.sent("POST", &path, Value::Null).await.0, 204);
}

#[tokio::test]
async fn no_run_begins_with_an_instrument_that_cannot_and_one_read_by_hand_is_let_go() {
    let shop = Workshop::open().await;
    let bottles = Bench::bottles().await;
    let id = shop.lists("bottles", bottles.0).await;
    let (job, test) = shop.test_of("10:00", "").await;
    bottles.does("SIM:FAULT SILENT").await;
    let (_, status, answer) = shop.begins(test, id).await;
    assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{answer}");
    let view = shop.get(&format!("/jobs/{job}")).await;
    assert_eq!(view["file"]["return_tests"][0]["runs"], json!([]), "nothing was begun");
    bottles.does("SIM:FAULT NONE").await;
    let (run, status, answer) = shop.begins(test, id).await;
    assert_eq!(status, 200, "{answer}");
    // The same bottles are not emptied for another job meanwhile.
    let (other, second) = shop.test_of("10:00", "").await;
    let (_, status, answer) = shop.begins(second, id).await;
    assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{answer}");
    let view = shop.get(&format!("/jobs/{other}")).await;
    assert_eq!(view["file"]["return_tests"][0]["runs"], json!([]), "nothing was begun");
    tokio::time::sleep(Duration::from_millis(1500)).await;
    let stop = json!({ "id": Uuid::now_v7(), "kind": "run_time", "cylinder": null, "typed": null });
    shop.good("POST", &format!("/runs/{run}/readings"), stop).await;
    let level = json!({ "id": Uuid::now_v7(), "kind": "level", "cylinder": 1, "typed": "12" });
    let view = shop.good("POST", &format!("/runs/{run}/readings"), level).await;
    let run = &view["file"]["return_tests"][0]["runs"][0];
    assert_eq!(of_kind(run, "level").len(), 1, "the others are read by hand as well");
    assert!(!run["raw"].as_array().unwrap().is_empty(), "what was shown until then is kept");
}

#[tokio::test]
async fn a_trace_is_taken_from_a_gauge_and_its_drops_are_found_while_it_comes() {
    let shop = Workshop::open().await;
    let gauge = Bench::of(DeviceKind::Gauge, FuelSystem::PetrolPort).await;
    let id = shop.lists("gauge", gauge.0).await;
    let (job, sheet) = (Uuid::now_v7(), Uuid::now_v7());
    let mut petrol = intake();
    petrol["fuel_system"] = json!("petrol_port");
    shop.good("POST", "/jobs", json!({ "id": job, "intake": petrol, "labels": [] })).await;
    let begun = json!({ "id": sheet, "check": "pressure_drop", "instrument": null });
    shop.good("POST", &format!("/jobs/{job}/sheets"), begun).await;
    gauge.does("SIM:ENGINE OFF").await;
    gauge.does("SIM:RAIL PRIME").await;
    tokio::time::sleep(Duration::from_millis(1200)).await;
    let begin = json!({ "connection": id }).to_string();
    let (status, _) =
        shop.sent("POST", &format!("/sheets/{sheet}/live"), json!({ "connection": id })).await;
    assert_eq!(status, 204, "{begin}");
    let live = shop.http.get(format!("{}/api/connections/{id}/live", shop.address));
    let mut live = live.send().await.unwrap();
    for cylinder in [1, 3] {
        tokio::time::sleep(Duration::from_millis(700)).await;
        gauge.does(&format!("SIM:PULSE {cylinder}")).await;
        tokio::time::sleep(Duration::from_millis(1700)).await;
        gauge.does("SIM:RAIL PRIME").await;
        tokio::time::sleep(Duration::from_millis(1200)).await;
    }
    // Everything that was told meanwhile: one look after the other, and drops as they were found.
    let (mut told, mut numbers, mut most) = (String::new(), Vec::new(), 0);
    while most < 2 {
        let came = tokio::time::timeout(Duration::from_secs(60), live.chunk()).await;
        told.push_str(&String::from_utf8_lossy(&came.unwrap().unwrap().unwrap()));
        while let Some((event, rest)) = told.split_once("\n\n") {
            if let Some(data) = event.strip_prefix("data: ") {
                let look: Value = serde_json::from_str(data).unwrap();
                numbers.push(look["n"].as_u64().unwrap());
                most = most.max(look["drops"].as_array().map_or(0, Vec::len));
                assert!(look["values"].as_array().unwrap().len() <= 1);
            }
            told = rest.to_owned();
        }
    }
    assert!(numbers.windows(2).all(|two| two[0] < two[1]), "{numbers:?}");
    let end = json!({ "id": Uuid::now_v7(), "order": [1, 3] });
    let view = shop.good("POST", &format!("/sheets/{sheet}/live/end"), end.clone()).await;
    let trace = &view["file"]["sheets"][0]["traces"][0];
    assert_eq!(trace["drops"].as_array().unwrap().len(), 2, "{trace}");
    assert!(!view["file"]["sheets"][0]["raw"].as_array().unwrap().is_empty());
    let again = shop.good("POST", &format!("/sheets/{sheet}/live/end"), end).await;
    assert_eq!(again["file"]["sheets"][0]["traces"].as_array().unwrap().len(), 1);
    let csv = shop.http.get(format!("{}/api/jobs/{job}/raw.csv?of={sheet}", shop.address));
    assert!(answer(csv).await.text.starts_with("time [s],1 [kpa]\n"));
}

#[tokio::test]
async fn a_clamp_and_a_microphone_record_and_what_is_found_goes_into_the_figures() {
    let shop = Workshop::open().await;
    for (kind, name, check, drive, cell) in [
        (DeviceKind::Clamp, "clamp", "drive_current", "14", "opens"),
        (DeviceKind::Microphone, "microphone", "listening", "800", "heard"),
    ] {
        let bench = Bench::of(kind, FuelSystem::PetrolPort).await;
        let id = shop.lists(name, bench.0).await;
        let (job, sheet) = (Uuid::now_v7(), Uuid::now_v7());
        let mut petrol = intake();
        petrol["fuel_system"] = json!("petrol_port");
        shop.good("POST", "/jobs", json!({ "id": job, "intake": petrol, "labels": [] })).await;
        let begun = json!({ "id": sheet, "check": check, "instrument": null });
        shop.good("POST", &format!("/jobs/{job}/sheets"), begun).await;
        let taken = json!({ "id": Uuid::now_v7(), "check": check, "cylinder": 2, "name": "", "drive": drive, "file": "", "connection": id });
        let path = format!("/sheets/{sheet}/recordings");
        let view = shop.good("POST", &path, taken.clone()).await;
        let again = shop.good("POST", &path, taken).await;
        let made = &view["file"]["sheets"][0]["recordings"];
        assert_eq!(made, &again["file"]["sheets"][0]["recordings"], "asked again, nothing more");
        assert_eq!(made[0]["shown_by"]["name"], format!("Bay 1 {name}"));
        let figures = made[0]["figures"].as_array().unwrap();
        assert!(figures.iter().any(|figure| figure["cell"] == cell), "{figures:?}");
        // Cut anywhere, it is no recording.
        for at in [1, 7, 30, 300] {
            bench.does(&format!("SIM:BREAK {at}")).await;
            let cut = json!({ "id": Uuid::now_v7(), "check": check, "cylinder": 3, "name": "", "drive": drive, "file": "", "connection": id });
            let (status, answer) = shop.send("POST", &path, cut.to_string()).await;
            assert_eq!((status, answer["code"].as_str()), (409, Some("instrument")), "{answer}");
        }
    }
}

#[tokio::test]
async fn the_current_of_the_starter_gives_relative_figures_in_the_firing_order() {
    let shop = Workshop::open().await;
    let (job, sheet) = (Uuid::now_v7(), Uuid::now_v7());
    shop.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
    let begun = json!({ "id": sheet, "check": "compression", "instrument": null });
    shop.good("POST", &format!("/jobs/{job}/sheets"), begun).await;
    // 200 rpm: 6.67 compressions a second; the third in the order is a fifth lower.
    let current = |t: f64| {
        let turn = t * 200.0 / 120.0 * 4.0;
        let height = if turn as u32 % 4 == 2 { 80.0 } else { 100.0 };
        120.0 + height * (0.5 - 0.5 * (turn * std::f64::consts::TAU).cos())
    };
    let rows = (0..4000).map(|at| f64::from(at) / 1000.0);
    let rows: String = rows.map(|t| format!("{t},{:.2}\n", current(t))).collect();
    let file =
        base64::Engine::encode(&base64::engine::general_purpose::STANDARD, format!("s,A\n{rows}"));
    let path = format!("/sheets/{sheet}/recordings");
    let asked = |order: &str| json!({ "id": Uuid::now_v7(), "check": "compression", "cylinder": 1, "name": "starter.csv", "drive": order, "file": file, "connection": null });
    // Without an order the peaks name no cylinder.
    for wrong in ["1-3-4", "1-3-4-4", "first", ""] {
        let (status, answer) = shop.send("POST", &path, asked(wrong).to_string()).await;
        assert_eq!(
            (status, answer["fields"][0]["field"].as_str()),
            (422, Some("drive")),
            "{wrong}"
        );
    }
    let view = shop.good("POST", &path, asked("3-4-2-1")).await;
    let made = &view["file"]["sheets"][0]["recordings"][0];
    assert_eq!(made["found"]["of"]["order"], json!([3, 4, 2, 1]), "from the first peak");
    let figures = made["figures"].as_array().unwrap();
    let low: Vec<&Value> = figures.iter().filter(|one| one["typed"] != "100").collect();
    assert_eq!(low.len(), 1, "{figures:?}");
}

#[tokio::test]
async fn a_bench_runs_the_row_and_its_tubes_are_read_when_it_is_over() {
    let shop = Workshop::open().await;
    let bench = Bench::of(DeviceKind::PetrolBench, FuelSystem::PetrolPort).await;
    let id = shop.lists("petrol_bench", bench.0).await;
    let run = format!("/connections/{id}/run");
    let wrong = json!({ "pulse": "4", "count": "many", "pressure": "" });
    let (status, answer) = shop.send("POST", &run, wrong.to_string()).await;
    assert_eq!((status, answer["fields"][0]["field"].as_str()), (422, Some("count")));
    let asked = json!({ "pulse": "4", "count": "80", "pressure": "3 bar" });
    assert_eq!(shop.sent("POST", &run, asked).await.0, 204);
    let reading = format!("/connections/{id}/reading");
    let (status, answer) = shop.send("POST", &reading, r#"{"quantity":"volume"}"#).await;
    assert_eq!((status, answer["code"].as_str()), (409, Some("running")), "{answer}");
    let mut shown = Value::Null;
    for _ in 0..100 {
        let (status, answer) = shop.send("POST", &reading, r#"{"quantity":"volume"}"#).await;
        if status == 200 {
            shown = answer;
            break;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    let tubes: Vec<f64> = serde_json::from_value(shown["values"].clone()).unwrap();
    // 80 pulses of 4 ms at 300 kPa: half a millilitre and more in each of four tubes.
    assert!(tubes.len() == 4 && tubes.iter().all(|ml| (0.2..3.0).contains(ml)), "{shown}");
    let gauge = Bench::of(DeviceKind::Gauge, FuelSystem::PetrolPort).await;
    let gauge = shop.lists("gauge", gauge.0).await;
    let body = json!({ "pulse": "", "count": "", "pressure": "" });
    let (status, _) = shop.sent("POST", &format!("/connections/{gauge}/run"), body).await;
    assert_eq!(status, 409, "a gauge runs nothing");
}
