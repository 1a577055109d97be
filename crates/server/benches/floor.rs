//! The program against a floor in the same run: bare Axum over one bare `SQLite` insert at
//! `synchronous = FULL`, and over one bare read of a row. Rates are told as ratios to that, since
//! machines differ and are noisy. `cargo xtask bench` runs it; it takes about two minutes.

#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::panic,
    missing_docs,
    reason = "a bench that cannot set itself up has to stop, and prints what it measured"
)]

use axum::extract::State;
use axum::routing::{get, post};
use cobaltine_server::AppState;
use cobaltine_store::Store;
use reqwest::{Client, header};
use serde_json::{Value, json};
use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Row, SqlitePool};
use std::path::Path;
use std::time::{Duration, Instant};
use tokio::net::TcpListener;
use uuid::Uuid;

/// Each measurement runs for so long.
const RUN: Duration = Duration::from_secs(3);
/// Screens that ask at once.
const AT_ONCE: usize = 8;

fn options(file: &Path) -> SqliteConnectOptions {
    SqliteConnectOptions::new()
        .filename(file)
        .create_if_missing(true)
        .journal_mode(SqliteJournalMode::Wal)
        .synchronous(SqliteSynchronous::Full)
}

/// Bare Axum over bare `SQLite`.
async fn floor(folder: &Path) -> String {
    async fn insert(State(pool): State<SqlitePool>, body: String) -> &'static str {
        let row = sqlx::query("INSERT INTO rows (id, body) VALUES (?, ?)");
        row.bind(Uuid::now_v7().to_string()).bind(body).execute(&pool).await.unwrap();
        "{}"
    }
    async fn read(State(pool): State<SqlitePool>) -> String {
        let row = sqlx::query("SELECT body FROM rows LIMIT 1").fetch_one(&pool).await.unwrap();
        row.get("body")
    }
    let pool = SqlitePoolOptions::new().max_connections(1);
    let pool = pool.connect_with(options(&folder.join("floor.sqlite"))).await.unwrap();
    let table = "CREATE TABLE rows (id TEXT PRIMARY KEY, body TEXT NOT NULL) STRICT";
    sqlx::query(table).execute(&pool).await.unwrap();
    let app = axum::Router::new().route("/", post(insert)).route("/one", get(read));
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}", listener.local_addr().unwrap());
    tokio::spawn(async move { axum::serve(listener, app.with_state(pool)).await });
    address
}

/// The program over a folder.
struct Program {
    address: String,
    bench: Uuid,
    signs: String,
    http: Client,
}

impl Program {
    async fn open(folder: &Path) -> Self {
        let store = Store::open(folder).await.unwrap();
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = format!("http://{}/api", listener.local_addr().unwrap());
        let state = AppState::new(store);
        tokio::spawn(cobaltine_server::serve(state, listener, std::future::pending()));
        let bench = Uuid::now_v7();
        let program = Self { address, bench, signs: bench.to_string(), http: Client::new() };
        program.post("/people", json!({ "id": program.bench, "name": "Maren" })).await;
        program
    }

    async fn post(&self, path: &str, body: Value) -> Value {
        let request = self.http.post(format!("{}{path}", self.address));
        let request = request.header("x-at-bench", &self.signs).json(&body);
        let answer = request.send().await.unwrap();
        let (status, body) = (answer.status(), answer.text().await.unwrap());
        assert!(status.is_success(), "{path}: {body}");
        serde_json::from_str(&body).unwrap_or_default()
    }

    /// A job of four cylinders with so many checks begun.
    async fn job(&self, sheets: usize) -> Vec<Cells> {
        let job = Uuid::now_v7();
        let intake = json!({
            "customer": "Skerry Fishing", "machine": "Winch", "usage": "", "engine": "H4",
            "fuel_system": "diesel_solenoid", "family_id": null, "symptoms": ["rough_idle"], "complaint": "",
            "layout": { "cylinders": 4, "banks": 1, "first_at": "flywheel", "numbering": "bank_by_bank" },
        });
        let labels = ["A", "B", "C", "D"];
        self.post("/jobs", json!({ "id": job, "intake": intake, "labels": labels })).await;
        let mut begun = Vec::new();
        for _ in 0..sheets {
            let sheet = Uuid::now_v7();
            let body = json!({ "id": sheet, "check": "insulation", "instrument": null });
            self.post(&format!("/jobs/{job}/sheets"), body).await;
            begun.push(Cells { sheet, held: [None; 4], at: 0 });
        }
        begun
    }

    async fn cell(&self, cells: &mut Cells) -> usize {
        let (id, at) = (Uuid::now_v7(), cells.at % 4);
        cells.at += 1;
        let body = json!({ "id": id, "check": "insulation", "cell": "megohms", "cylinder": at + 1,
            "typed": (200 + cells.at % 7).to_string(), "corrects": cells.held[at] });
        let request = self.http.post(format!("{}/sheets/{}/cells", self.address, cells.sheet));
        let request = request.header("x-at-bench", &self.signs).json(&body);
        let answer = request.send().await.unwrap();
        let status = answer.status();
        let bytes = answer.bytes().await.unwrap();
        assert!(status.is_success(), "{}", String::from_utf8_lossy(&bytes));
        cells.held[at] = Some(id);
        bytes.len()
    }
}

/// A check that is read over and over.
struct Cells {
    sheet: Uuid,
    held: [Option<Uuid>; 4],
    at: usize,
}

/// Requests a second, and the time that one of a hundred took longer than.
struct Measured {
    rate: f64,
    p99: Duration,
}

/// Runs clients at once, each asking again and again until the time is over.
async fn measure<C, F>(clients: Vec<C>, ask: impl Fn(C) -> F + Clone + Send + 'static) -> Measured
where
    C: Send + 'static,
    F: Future<Output = C> + Send,
{
    let begun = Instant::now();
    let mut tasks = Vec::new();
    for mut client in clients {
        let ask = ask.clone();
        tasks.push(tokio::spawn(async move {
            let mut took = Vec::new();
            while begun.elapsed() < RUN {
                let from = Instant::now();
                client = ask(client).await;
                took.push(from.elapsed());
            }
            took
        }));
    }
    let mut took = Vec::new();
    for task in tasks {
        took.extend(task.await.unwrap());
    }
    took.sort_unstable();
    let p99 = took[took.len() * 99 / 100];
    Measured { rate: took.len() as f64 / begun.elapsed().as_secs_f64(), p99 }
}

async fn get_all(address: String, tag: Option<String>, at_once: usize) -> Measured {
    let clients = (0..at_once).map(|_| Client::new()).collect();
    measure(clients, move |http: Client| {
        let (address, tag) = (address.clone(), tag.clone());
        async move {
            let mut request = http.get(address);
            if let Some(tag) = tag {
                request = request.header(header::IF_NONE_MATCH, tag);
            }
            request.send().await.unwrap().bytes().await.unwrap();
            http
        }
    })
    .await
}

fn say(what: &str, of: &Measured, floor: &Measured, wanted: f64) {
    let ratio = of.rate / floor.rate;
    println!(
        "{what:52} {:>8.0} a second, p99 {:>8.2?}, {ratio:>6.2} of the floor (wanted {wanted:.2})",
        of.rate, of.p99
    );
}

/// So many cards on the board, copies of the first with ids of their own.
async fn fill_board(folder: &Path, cards: u32) {
    let pool = SqlitePoolOptions::new().max_connections(1);
    let pool = pool.connect_with(options(&folder.join("cobaltine.sqlite"))).await.unwrap();
    // The list is what is measured: the log of these jobs is not asked for.
    for statement in [
        "PRAGMA foreign_keys = OFF",
        "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ?1)
         INSERT INTO board (job_id, changed_at, tone, card, timers)
         SELECT printf('copy-%08d', i), printf('2030-01-01T00:%08dZ', i), tone, card, 0
         FROM n, (SELECT * FROM board LIMIT 1)",
        "INSERT INTO board_words (rowid, job_id, words)
         SELECT rowid, job_id, 'Winch ' || job_id FROM board WHERE job_id LIKE 'copy-%'",
    ] {
        sqlx::query(statement).bind(cards).execute(&pool).await.unwrap();
    }
    pool.close().await;
}

async fn cells(folder: &Path, floor: &str) {
    let program = std::sync::Arc::new(Program::open(folder).await);
    for at_once in [1, AT_ONCE] {
        let body =
            json!({ "id": Uuid::now_v7(), "cell": "megohms", "cylinder": 1, "typed": "201" });
        let clients = (0..at_once).map(|_| (Client::new(), floor.to_owned(), body.clone()));
        let bare =
            measure(clients.collect(), |(http, address, body): (Client, String, Value)| async {
                http.post(&address).json(&body).send().await.unwrap().bytes().await.unwrap();
                (http, address, body)
            })
            .await;
        let mut clients = Vec::new();
        for _ in 0..at_once {
            clients.push((program.clone(), program.job(20).await));
        }
        let ours = measure(clients, |(program, mut cells)| async {
            // A check holds two thousand readings: one after the other is read.
            program.cell(&mut cells[0]).await;
            if cells[0].at == 1000 {
                cells.rotate_left(1);
            }
            (program, cells)
        })
        .await;
        println!("bare insert, {at_once} at once {:>38.0} a second", bare.rate);
        say(&format!("durable cell, {at_once} at once"), &ours, &bare, 0.5);
    }
    // A long job: 5,000 entries in sixty checks; then one cell more, beside one of a new job.
    let mut long = program.job(60).await;
    for at in 0..5000 - 61 {
        program.cell(&mut long[at % 60]).await;
    }
    let mut new = program.job(1).await;
    for _ in 0..8 {
        program.cell(&mut new[0]).await;
    }
    let time = |mut cells: Cells| {
        let program = program.clone();
        async move {
            let (from, mut bytes) = (Instant::now(), 0);
            for _ in 0..300 {
                bytes = bytes.max(program.cell(&mut cells).await);
            }
            (from.elapsed() / 300, bytes)
        }
    };
    let (short, bytes) = time(new.remove(0)).await;
    let (far, far_bytes) = time(long.remove(0)).await;
    println!(
        "cell in a job of 10 entries {short:.2?} ({bytes} bytes), of 5,000 {far:.2?} ({far_bytes} bytes): {:.2} times (wanted 2)",
        far.as_secs_f64() / short.as_secs_f64()
    );
}

async fn boards(floor: &str) {
    let one = get_all(format!("{floor}/one"), None, AT_ONCE).await;
    println!("bare read of one row, {AT_ONCE} at once {:>28.0} a second", one.rate);
    let mut of_hundred = 0.0;
    for cards in [100, 10_000, 100_000] {
        let folder = tempfile::tempdir().unwrap();
        let program = Program::open(folder.path()).await;
        program.job(0).await;
        let board = format!("{}/board", program.address);
        let first = program.http.get(&board).send().await.unwrap();
        drop(first);
        fill_board(folder.path(), cards).await;
        // Anything that is written makes the page new.
        program.job(0).await;
        let answer = program.http.get(&board).send().await.unwrap();
        let tag = answer.headers()[header::ETAG].to_str().unwrap().to_owned();
        let page: Value = answer.json().await.unwrap();
        assert_eq!(page["jobs"], cards + 2);
        let known = get_all(board.clone(), Some(tag), AT_ONCE).await;
        say(&format!("board of {cards}, 304, {AT_ONCE} at once"), &known, &one, 0.33);
        let kept = get_all(board.clone(), None, AT_ONCE).await;
        say(&format!("board of {cards}, kept, {AT_ONCE} at once"), &kept, &one, 0.33);
        let mut fresh = 0;
        for _ in 0..100 {
            program.job(0).await;
            let begun = Instant::now();
            program.http.get(&board).send().await.unwrap().bytes().await.unwrap();
            fresh += begun.elapsed().as_micros();
        }
        let each = fresh as f64 / 100.0;
        if cards == 100 {
            of_hundred = each;
        }
        println!(
            "board of {cards:>6}, made anew after a job was taken in {each:>8.0} µs, {:.2} times that of 100 (wanted 2)",
            each / of_hundred
        );
    }
}

fn main() {
    let runtime = tokio::runtime::Runtime::new().unwrap();
    runtime.block_on(async {
        let folder = tempfile::tempdir().unwrap();
        let floor = floor(folder.path()).await;
        let ours = tempfile::tempdir().unwrap();
        cells(ours.path(), &floor).await;
        boards(&floor).await;
    });
}
