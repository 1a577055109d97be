//! Codes over HTTP, with a control unit that fails as real ones do.

use crate::{Workshop, intake, unit_of};
use cobaltine_core::unit_link::Ask;
use serde_json::{Value, json};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use uuid::Uuid;

/// Codes on the bodies; 1 and 4 are in the unit already.
const BODIES: [&str; 4] = ["AA11", "XX22", "YY33", "DD44"];
/// What the unit holds after each write that goes well.
const WANTED: [&str; 4] = BODIES;

struct Winch<'a> {
    shop: &'a Workshop,
    job: Uuid,
}

impl Workshop {
    /// A job of four whose codes were read and captured: 2 and 3 have to be written.
    async fn winch(&self) -> Winch<'_> {
        let job = Uuid::now_v7();
        self.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
        let winch = Winch { shop: self, job };
        winch.post("read", json!({ "id": Uuid::now_v7() })).await;
        for (cylinder, code) in (1..).zip(BODIES) {
            winch.captured(cylinder, code).await;
        }
        winch
    }
}

impl Winch<'_> {
    async fn post(&self, what: &str, body: Value) -> Value {
        self.shop.good("POST", &format!("/jobs/{}/codes/{what}", self.job), body).await
    }

    async fn try_to(&self, what: &str, body: Value) -> (u16, Value) {
        let path = format!("/jobs/{}/codes/{what}", self.job);
        self.shop.send("POST", &path, body.to_string()).await
    }

    async fn view(&self) -> Value {
        self.shop.get(&format!("/jobs/{}/codes", self.job)).await
    }

    async fn captured(&self, cylinder: u64, code: &str) -> Value {
        let view = self.view().await;
        let slots = view["coding"]["slots"].as_array().unwrap();
        let slot = slots.iter().find(|slot| slot["cylinder"] == cylinder).unwrap();
        let body = json!({ "id": Uuid::now_v7(), "injector": slot["injector"], "typed": code,
            "again": code, "how": "typed_twice" });
        self.post("captured", body).await
    }

    async fn knob(&self, what: &str, to: &str) {
        self.post("knob", json!({ "what": what, "to": to })).await;
    }

    /// Writes the plan as it stands now, and waits for the end.
    async fn write(&self) -> Value {
        let plan = self.view().await["coding"]["plan"].clone();
        let writes: Vec<Value> = plan
            .as_array()
            .unwrap()
            .iter()
            .map(|one| json!({ "cylinder": one["cylinder"], "code": one["to"] }))
            .collect();
        self.end_of(json!({ "id": Uuid::now_v7(), "what": "plan", "writes": writes })).await
    }

    async fn end_of(&self, request: Value) -> Value {
        let mut view = self.post("write", request).await;
        while view["writing"]["running"] == true {
            tokio::time::sleep(Duration::from_millis(20)).await;
            view = self.view().await;
        }
        view
    }
}

/// What a view says is stored, slot by slot.
fn stored(view: &Value) -> Vec<Value> {
    let slots = view["coding"]["slots"].as_array().unwrap();
    slots.iter().map(|slot| slot["stored"].clone()).collect()
}

#[tokio::test]
async fn whatever_fails_the_job_says_what_is_stored_where_and_the_next_write_mends_it() {
    for (fault, good, says) in [
        ("none", true, "Cylinders 2 and 3 written, read back and compared."),
        ("busy:2", true, "Cylinders 2 and 3 written, read back and compared."),
        ("refuse", false, "The ECU refused and gave no reason. Cylinder 2 still holds BB22"),
        ("drop:50", false, "was lost. Cylinder 2 holds nothing after writing, not XX22."),
        ("sag:50", false, "was interrupted inside the ECU. Cylinder 2 holds nothing"),
        ("wrong-slot", false, "Cylinder 2 still holds BB22: not written."),
    ] {
        let shop = Workshop::open().await;
        let winch = shop.winch().await;
        winch.knob("fault", fault).await;
        let view = winch.write().await;
        let writing = &view["writing"];
        assert_eq!(writing["good"], good, "{fault}: {writing}");
        let told = writing["says"].as_str().unwrap();
        assert!(told.contains(says), "{fault}: {told}");
        // What the job says is what the unit holds, whatever happened.
        let before = stored(&view);
        let read = winch.post("read", json!({ "id": Uuid::now_v7() })).await;
        assert_eq!(stored(&read), before, "{fault}");
        assert_eq!(read["coding"]["unfinished"], Value::Null, "{fault}");
        let fits = |view: &Value| {
            let slots = view["coding"]["slots"].as_array().unwrap();
            slots.iter().filter(|slot| slot["state"] == "fits").count()
        };
        assert_eq!(fits(&read) == 4, good, "{fault}");
        if !good {
            winch.knob("volts", "13.2").await;
            let mended = winch.write().await;
            assert_eq!((fits(&mended), &mended["writing"]["good"]), (4, &json!(true)), "{fault}");
            assert_eq!(stored(&mended), WANTED, "{fault}");
        }
        let found: Vec<Value> = read["coding"]["slots"]
            .as_array()
            .unwrap()
            .iter()
            .map(|slot| slot["found"].clone())
            .collect();
        assert_eq!(found, ["AA11", "BB22", "CC33", "DD44"], "as found stays as found");
    }
}

#[tokio::test]
async fn what_was_there_is_put_back_after_a_write_that_broke_off() {
    let shop = Workshop::open().await;
    let winch = shop.winch().await;
    winch.knob("fault", "drop:50").await;
    let broken = winch.write().await;
    let back = broken["coding"]["put_back"].clone();
    assert_eq!(back, json!([{ "cylinder": 2, "code": "BB22" }]));
    let put = json!({ "id": Uuid::now_v7(), "what": "put_back", "writes": back });
    let view = winch.end_of(put).await;
    assert_eq!(view["writing"]["good"], true, "{}", view["writing"]);
    assert_eq!(stored(&view), ["AA11", "BB22", "CC33", "DD44"]);
    assert_eq!(view["coding"]["put_back"], json!([]));
}

#[tokio::test]
async fn nothing_is_begun_without_ignition_supply_or_the_codes_as_found() {
    let shop = Workshop::open().await;
    let winch = shop.winch().await;
    let plan = json!([{ "cylinder": 2, "code": "XX22" }, { "cylinder": 3, "code": "YY33" }]);
    let write = |writes: &Value| json!({ "id": Uuid::now_v7(), "what": "plan", "writes": writes });
    for (knob, to, back, says) in [
        ("ignition", "off", "on", "Ignition off."),
        ("engine", "on", "off", "Engine running."),
        ("volts", "11.4", "12.8", "11.4 V at the ECU: too low to write safely."),
    ] {
        winch.knob(knob, to).await;
        let (status, refused) = winch.try_to("write", write(&plan)).await;
        assert_eq!((status, &refused["code"]), (409, &json!("unit_refused")));
        assert!(refused["detail"].as_str().unwrap().starts_with(says), "{refused}");
        winch.knob(knob, back).await;
    }
    let other = json!([{ "cylinder": 2, "code": "ZZ99" }]);
    let (status, refused) = winch.try_to("write", write(&other)).await;
    assert_eq!(status, 409);
    assert!(refused["detail"].as_str().unwrap().contains("check the plan again"));
    assert_eq!(winch.view().await["coding"]["unfinished"], Value::Null, "nothing was begun");
    let injector = winch.view().await["coding"]["slots"][0]["injector"].clone();
    let capture = |typed: &str, again: Option<&str>, how: &str| json!({ "id": Uuid::now_v7(), "injector": injector, "typed": typed, "again": again, "how": how });
    for (body, field) in [
        (capture("AA12", None, "typed_twice"), "again"),
        (capture("AA12", Some("AA21"), "typed_twice"), "again"),
        (capture("A", Some("A"), "typed_twice"), "typed"),
        (capture("AA12", None, "bench"), "typed"),
    ] {
        let (status, refused) = winch.try_to("captured", body).await;
        assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!(field)));
    }
    // Nobody says that something was read back but the talk with the unit.
    let slots = json!([{ "cylinder": 2, "code": "XX22" }]);
    let forged = json!({ "id": Uuid::now_v7(), "event": { "what": "codes_read", "slots": slots } });
    let path = format!("/jobs/{}/events", winch.job);
    let (status, refused) = shop.send("POST", &path, forged.to_string()).await;
    assert_eq!(status, 409, "{refused}");
    let fresh = Uuid::now_v7();
    shop.good("POST", "/jobs", json!({ "id": fresh, "intake": intake(), "labels": [] })).await;
    let unread = Winch { shop: &shop, job: fresh };
    let (status, refused) = unread.try_to("write", write(&plan)).await;
    assert_eq!(status, 409);
    assert!(refused["detail"].as_str().unwrap().starts_with("Read the stored trim codes first"));
}

#[tokio::test]
async fn a_unit_that_counts_in_firing_order_is_read_and_written_by_its_own_count() {
    let shop = Workshop::open().await;
    let winch = shop.winch().await;
    let path = format!("/jobs/{}/events", winch.job);
    let count = |cylinders: Value| json!({ "id": Uuid::now_v7(), "event": { "what": "unit_numbered", "cylinders": cylinders } });
    for wrong in [json!([1, 3, 4]), json!([1, 3, 4, 4]), json!([0, 1, 2, 3])] {
        let (status, refused) = shop.send("POST", &path, count(wrong).to_string()).await;
        assert_eq!((status, &refused["fields"][0]["field"]), (422, &json!("cylinders")));
    }
    shop.good("POST", &path, count(json!([1, 3, 4, 2]))).await;
    let view = winch.view().await;
    assert_eq!(
        view["coding"]["read"], false,
        "what was read by another count says nothing any more"
    );
    assert_eq!(
        (&view["coding"]["slots"][1]["number"], &view["coding"]["plan"]),
        (&json!(4), &json!([]))
    );
    let view = winch.post("read", json!({ "id": Uuid::now_v7() })).await;
    let stored = |view: &Value| -> Vec<String> {
        let slots = view["coding"]["slots"].as_array().unwrap();
        slots.iter().map(|slot| slot["stored"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(stored(&view), ["AA11", "DD44", "BB22", "CC33"]);
    assert_eq!(winch.write().await["writing"]["good"], true);
    assert_eq!(stored(&winch.view().await), WANTED);
    // Seen by its own numbers: the code of cylinder 2 is in its number 4.
    shop.good("POST", &path, count(json!([1, 2, 3, 4]))).await;
    let view = winch.post("read", json!({ "id": Uuid::now_v7() })).await;
    assert_eq!(stored(&view), ["AA11", "YY33", "DD44", "XX22"]);
}

/// Whoever began it is gone: the unit goes on with its code, says so, and then what is there is read.
#[tokio::test]
async fn a_unit_that_is_still_writing_says_so_and_then_what_is_there() {
    let (address, _serving) = unit_of(Duration::from_millis(600)).await;
    let shop = Workshop::open_with(Some(address.clone())).await;
    let winch = shop.winch().await;
    let mut line = tokio::net::TcpStream::connect(&address).await.unwrap();
    for ask in [
        Ask::Open { vehicle: "1".to_owned(), slots: 4 },
        Ask::Write { slot: 3, code: "YY33".to_owned() },
    ] {
        line.write_all(format!("{ask}\n").as_bytes()).await.unwrap();
        line.read_exact(&mut [0; 3]).await.unwrap();
    }
    drop(line);
    let read = async || winch.try_to("read", json!({ "id": Uuid::now_v7() })).await;
    let (status, refused) = read().await;
    assert_eq!((status, &refused["code"]), (409, &json!("unit_writing")));
    let says = refused["detail"].as_str().unwrap();
    assert!(says.starts_with("The ECU is still writing a trim code: "), "{says}");
    let view = loop {
        match read().await {
            (200, view) => break view,
            (status, refused) => {
                assert_eq!((status, &refused["code"]), (409, &json!("unit_writing")))
            }
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    };
    assert_eq!(view["coding"]["slots"][2]["stored"], "YY33");
}

#[tokio::test]
async fn a_unit_that_falls_silent_leaves_slots_that_are_said_to_be_not_known() {
    let (address, serving) = unit_of(Duration::from_millis(600)).await;
    let shop = Workshop::open_with(Some(address)).await;
    let winch = shop.winch().await;
    let plan = json!([{ "cylinder": 2, "code": "XX22" }, { "cylinder": 3, "code": "YY33" }]);
    let view =
        winch.post("write", json!({ "id": Uuid::now_v7(), "what": "plan", "writes": plan })).await;
    assert_eq!(view["writing"]["running"], true);
    assert_eq!(view["coding"]["slots"][1]["state"], "not_known", "as long as it is not read back");
    let (status, refused) = winch.try_to("read", json!({ "id": Uuid::now_v7() })).await;
    assert_eq!(status, 409, "half-way it says nothing: {refused}");
    // Nobody answers the next talk, which is the one that reads back.
    serving.abort();
    let mut view = view;
    while view["writing"]["running"] == true {
        tokio::time::sleep(Duration::from_millis(50)).await;
        view = winch.view().await;
    }
    assert_eq!(view["writing"]["good"], false);
    let says = view["coding"]["says"].as_str().unwrap();
    assert!(says.starts_with("ECU not responding."), "{says}");
    assert!(says.ends_with("Cylinders 2 and 3: stored code unknown. Read the ECU."), "{says}");
    let states: Vec<&Value> =
        view["coding"]["slots"].as_array().unwrap().iter().map(|slot| &slot["state"]).collect();
    assert_eq!(states, ["fits", "not_known", "not_known", "fits"]);
    let waits = &shop.get("/board").await["cards"][0]["waits"];
    assert_eq!(
        waits["words"], "codes not known: cylinders 2 and 3. Read the ECU.",
        "before all else"
    );
    let none = Workshop::open_with(None).await;
    let job = Uuid::now_v7();
    none.good("POST", "/jobs", json!({ "id": job, "intake": intake(), "labels": [] })).await;
    let winch = Winch { shop: &none, job };
    let (status, refused) = winch.try_to("read", json!({ "id": Uuid::now_v7() })).await;
    assert_eq!((status, &refused["code"]), (409, &json!("no_unit")));
}
