//! What a write makes stale is one rule: after any command, every answer is the one that a program gives
//! which has just opened the same folder.

use crate::Workshop;
use crate::documented::answer;
use cobaltine_store::Store;
use serde_json::Value;
use std::path::Path;
use tokio::sync::oneshot;

/// Addresses that are read of every workshop.
const OF_ALL: [&str; 12] = [
    "/board",
    "/bench",
    "/customers",
    "/families",
    "/instruments",
    "/library",
    "/passports",
    "/people",
    "/rules",
    "/shelf",
    "/shims",
    "/weights",
];
/// And of every job.
const OF_A_JOB: [&str; 6] = ["", "/judgement", "/fitting", "/proof", "/report", "/export.json"];

/// Every answer that can be read, with its address.
async fn answers(shop: &Workshop, address: &str) -> Vec<(String, String)> {
    let get = async |path: String| {
        let seen = answer(shop.http.get(format!("{address}/api{path}"))).await;
        (path, seen.text)
    };
    // Cards that are being made anew in the background are not compared half-way.
    while !serde_json::from_str::<Value>(&get("/board".to_owned()).await.1).unwrap()["rebuilding"]
        .is_null()
    {}
    let mut all = Vec::new();
    for path in OF_ALL {
        all.push(get(path.to_owned()).await);
    }
    let ids = |all: &[(String, String)], path: &str, list: &str| -> Vec<String> {
        let text = &all.iter().find(|(at, _)| at == path).unwrap().1;
        let view: Value = serde_json::from_str(text).unwrap();
        let each = view[list].as_array().unwrap().iter();
        each.map(|one| one["id"].as_str().unwrap().to_owned()).collect()
    };
    for job in ids(&all, "/board", "cards") {
        for of in OF_A_JOB {
            all.push(get(format!("/jobs/{job}{of}")).await);
        }
    }
    for session in ids(&all, "/bench", "lines") {
        all.push(get(format!("/bench/{session}")).await);
    }
    all
}

/// Compares; what is read for it is kept by the program, so that the next write has something to outdate.
pub(crate) async fn same_as_opened_anew(shop: &Workshop, after: &str) {
    let here = answers(shop, &shop.address).await;
    let copy = tempfile::tempdir().unwrap();
    copied(shop.data.path(), copy.path());
    let store = Store::open(copy.path()).await.unwrap();
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}", listener.local_addr().unwrap());
    let (stop, stopped) = oneshot::channel::<()>();
    let (unit, stand_in) = shop.unit.clone();
    let new = cobaltine_server::AppState::new(store.clone());
    let state = cobaltine_server::AppState { unit, stand_in, ..new };
    let task =
        tokio::spawn(cobaltine_server::serve(state, listener, async { drop(stopped.await) }));
    let there = answers(shop, &address).await;
    assert_eq!(here.len(), there.len(), "after {after}");
    for ((path, one), (_, other)) in here.iter().zip(&there) {
        let differ = one.bytes().zip(other.bytes()).take_while(|(a, b)| a == b).count();
        let around =
            |text: &str| text.chars().skip(differ.saturating_sub(60)).take(160).collect::<String>();
        assert!(one == other, "GET {path} after {after}: {} | {}", around(one), around(other));
    }
    drop(stop);
    task.await.unwrap().unwrap();
    store.close().await;
}

fn copied(from: &Path, to: &Path) {
    for entry in std::fs::read_dir(from).unwrap() {
        let entry = entry.unwrap();
        if entry.file_type().unwrap().is_file() && entry.file_name() != "cobaltine.lock" {
            std::fs::copy(entry.path(), to.join(entry.file_name())).unwrap();
        }
    }
}
