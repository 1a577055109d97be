//! Connections by hand: what is refused is told, what says nothing is let go of, and what is being
//! answered is brought to its end.

use cobaltine_core::record::{Person, Signed};
use cobaltine_server::{AppState, Bounds};
use cobaltine_store::{Act, Store, Watch};
use sha2::{Digest, Sha256};
use sqlx::ConnectOptions;
use sqlx::sqlite::SqliteConnectOptions;
use std::time::{Duration, Instant};
use tempfile::TempDir;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::oneshot;
use tokio::task::JoinHandle;

struct Open {
    address: String,
    stop: oneshot::Sender<()>,
    task: JoinHandle<std::io::Result<()>>,
    data: TempDir,
}

async fn open(bounds: Bounds) -> Open {
    Open::at(tempfile::tempdir().unwrap(), bounds).await
}

impl Open {
    async fn at(data: TempDir, bounds: Bounds) -> Self {
        let store = Store::open(data.path()).await.unwrap();
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = listener.local_addr().unwrap().to_string();
        let (stop, stopped) = oneshot::channel::<()>();
        let state = AppState { bounds, names: vec!["bench-2".to_owned()], ..AppState::new(store) };
        let task =
            tokio::spawn(cobaltine_server::serve(state, listener, async { drop(stopped.await) }));
        Self { address, stop, task, data }
    }

    async fn connect(&self) -> TcpStream {
        TcpStream::connect(&self.address).await.unwrap()
    }

    /// Says this and reads until the other end closes.
    async fn says(&self, request: &str) -> String {
        let mut stream = self.connect().await;
        stream.write_all(request.as_bytes()).await.unwrap();
        read_all(&mut stream).await
    }
}

async fn read_all(stream: &mut TcpStream) -> String {
    let mut answer = Vec::new();
    let read = tokio::time::timeout(Duration::from_secs(60), stream.read_to_end(&mut answer));
    read.await.unwrap().unwrap();
    String::from_utf8_lossy(&answer).into_owned()
}

fn status(answer: &str) -> &str {
    answer.split(' ').nth(1).unwrap_or_default()
}

#[tokio::test]
async fn one_host_known_methods_and_a_head_of_bounded_length() {
    let open = open(Bounds::default()).await;
    let end = "connection: close\r\n\r\n";
    let hosts = [
        ("localhost", "200"),
        ("localhost:8427", "200"),
        ("127.0.0.1:8427", "200"),
        ("[::1]:8427", "200"),
        ("192.168.4.20", "200"),
        ("Bench-2:8427", "200"),
        ("bench-3", "421"),
        ("127.0.0.1.somewhere.example:8427", "421"),
        ("elsewhere.example", "421"),
        ("", "421"),
    ];
    let hosts =
        hosts.map(|(host, code)| (format!("GET /livez HTTP/1.1\r\nhost: {host}\r\n{end}"), code));
    for (request, expected) in [
        (format!("GET /livez HTTP/1.1\r\n{end}"), "400"),
        (format!("GET /livez HTTP/1.1\r\nhost: localhost\r\nhost: other\r\n{end}"), "400"),
        (format!("GET http://localhost/livez HTTP/1.1\r\nhost: localhost\r\n{end}"), "400"),
        (format!("TRACE /livez HTTP/1.1\r\nhost: localhost\r\n{end}"), "405"),
        (format!("CONNECT localhost:80 HTTP/1.1\r\nhost: localhost\r\n{end}"), "400"),
        (
            format!("GET /livez HTTP/1.1\r\nhost: localhost\r\nx: {}\r\n{end}", "y".repeat(40_000)),
            "431",
        ),
        ("nonsense\r\n\r\n".to_owned(), "400"),
    ]
    .into_iter()
    .chain(hosts)
    {
        let answer = open.says(&request).await;
        assert_eq!(status(&answer), expected, "{:.90}: {answer}", request);
    }
}

#[tokio::test]
async fn whoever_says_nothing_is_let_go_of_and_whoever_is_one_too_many_is_told() {
    let head = Duration::from_millis(300);
    let bounds = Bounds { all: 40, of_one: 30, head, ..Bounds::default() };
    let open = open(bounds).await;
    let mut idle = Vec::new();
    for _ in 0..30 {
        let mut stream = open.connect().await;
        // Half a head: the other half never comes.
        stream.write_all(b"GET /livez HTTP/1.1\r\nhost: loc").await.unwrap();
        idle.push(stream);
    }
    let request = "GET /livez HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n";
    let refused = open.says(request).await;
    assert!(status(&refused) == "503" && refused.contains("retry-after: 5"), "{refused}");
    assert!(refused.ends_with("\"current\":null}"), "heard to its end: {refused}");
    for mut stream in idle {
        read_all(&mut stream).await;
    }
    assert_eq!(status(&open.says(request).await), "200", "there is room again");
    // One that was answered and then lies idle is let go of as well.
    let mut kept = open.connect().await;
    kept.write_all(b"GET /livez HTTP/1.1\r\nhost: localhost\r\n\r\n").await.unwrap();
    assert_eq!(status(&read_all(&mut kept).await), "200");
}

#[tokio::test]
async fn a_body_that_never_ends_is_told_so_and_an_upload_that_breaks_off_leaves_nothing() {
    let open = open(Bounds { answer: Duration::from_millis(300), ..Bounds::default() }).await;
    let head = "HTTP/1.1\r\nhost: localhost\r\ncontent-type: application/json\r\ncontent-length: 999999\r\n";
    let refused = open.says(&format!("POST /api/calc/x {head}\r\n{{\"half\"")).await;
    assert_eq!(status(&refused), "503", "{refused}");
    assert!(refused.contains("too_slow") && refused.contains("retry-after: 5"), "{refused}");
    // Half a workshop file, and then nobody: what was staged of it goes as well.
    let person = uuid::Uuid::now_v7();
    let body = format!("{{\"id\":\"{person}\",\"name\":\"Maren\"}}");
    let length = body.len();
    let add = format!(
        "POST /api/people HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: {length}\r\n\r\n{body}"
    );
    assert_eq!(status(&open.says(&add).await), "200");
    let staged = open.data.path().join("arriving");
    let files = || std::fs::read_dir(&staged).map(|files| files.count()).unwrap_or_default();
    let mut upload = open.connect().await;
    let import = format!("POST /api/workshop/imports {head}x-at-bench: {person}\r\n\r\n{{\"line\"");
    upload.write_all(import.as_bytes()).await.unwrap();
    let begun = Instant::now();
    while files() == 0 {
        assert!(begun.elapsed() < Duration::from_secs(20), "nothing was staged");
        tokio::task::yield_now().await;
    }
    drop(upload);
    while files() > 0 {
        assert!(begun.elapsed() < Duration::from_secs(40), "what was staged stays");
        tokio::task::yield_now().await;
    }
}

#[tokio::test]
async fn too_many_requests_of_one_address_at_once_are_told_to_come_again() {
    let open = open(Bounds { waiting: 3, ..Bounds::default() }).await;
    // Bodies that never come to their end keep three requests waiting.
    let slow = "POST /api/calc/x HTTP/1.1\r\nhost: localhost\r\ncontent-type: application/json\r\ncontent-length: 9\r\n\r\n{";
    let mut waiting = Vec::new();
    for _ in 0..3 {
        let mut stream = open.connect().await;
        stream.write_all(slow.as_bytes()).await.unwrap();
        waiting.push(stream);
    }
    let request = "GET /livez HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n";
    // They arrive when they arrive: asked until the third is there.
    let begun = Instant::now();
    let mut refused = String::new();
    while begun.elapsed() < Duration::from_secs(10) && status(&refused) != "503" {
        refused = open.says(request).await;
    }
    assert!(status(&refused) == "503" && refused.contains("retry-after: 1"), "{refused}");
    drop(waiting);
    let mut answer = String::new();
    while begun.elapsed() < Duration::from_secs(20) && status(&answer) != "200" {
        answer = open.says(request).await;
    }
    assert_eq!(status(&answer), "200", "abandoned requests end");
}

#[tokio::test]
async fn the_end_of_the_program_waits_for_what_is_being_answered_and_for_nothing_else() {
    let open = open(Bounds::default()).await;
    let mut idle = open.connect().await;
    idle.write_all(b"GET /livez HTTP/1.1\r\nhost: localhost\r\n\r\n").await.unwrap();
    let mut some = [0; 15];
    idle.read_exact(&mut some).await.unwrap();
    let mut listens = open.connect().await;
    listens.write_all(b"GET /api/changes HTTP/1.1\r\nhost: localhost\r\n\r\n").await.unwrap();
    listens.read_exact(&mut some).await.unwrap();
    let begun = Instant::now();
    open.stop.send(()).unwrap();
    open.task.await.unwrap().unwrap();
    assert!(begun.elapsed() < Duration::from_secs(8), "{:?}", begun.elapsed());
    read_all(&mut idle).await;
    read_all(&mut listens).await;
}

#[tokio::test]
async fn over_tls_it_answers_and_its_cookies_stay_on_such_lines() {
    use cobaltine_server::{Access, Accounts};
    let data = tempfile::tempdir().unwrap();
    let made = rcgen::generate_simple_self_signed(vec!["localhost".to_owned()]).unwrap();
    let (cert, key) = (data.path().join("cert.pem"), data.path().join("key.pem"));
    std::fs::write(&cert, made.cert.pem()).unwrap();
    std::fs::write(&key, made.signing_key.serialize_pem()).unwrap();
    let tls = cobaltine_server::acceptor(&cert, &key).unwrap();
    assert!(cobaltine_server::acceptor(&key, &cert).is_err(), "the one is not the other");
    let store = Store::open(&data.path().join("data")).await.unwrap();
    let token = store.owner_link(jiff::Timestamp::now()).await.unwrap();
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    let access = Access::Accounts(Accounts::new(true));
    let state = AppState { access, tls: Some(tls), ..AppState::new(store) };
    let (_stop, stopped) = oneshot::channel::<()>();
    tokio::spawn(cobaltine_server::serve(state, listener, async { drop(stopped.await) }));

    let mut roots = tokio_rustls::rustls::RootCertStore::empty();
    roots.add(made.cert.der().clone()).unwrap();
    let config = tokio_rustls::rustls::ClientConfig::builder()
        .with_root_certificates(roots)
        .with_no_client_auth();
    let connector = tokio_rustls::TlsConnector::from(std::sync::Arc::new(config));
    let stream = TcpStream::connect(address).await.unwrap();
    let mut stream = connector.connect("localhost".try_into().unwrap(), stream).await.unwrap();
    let body =
        format!("{{\"token\":\"{token}\",\"name\":\"Wren\",\"password\":\"three lamps at dusk\"}}");
    let request = format!(
        "POST /api/sign-in/join HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    );
    stream.write_all(request.as_bytes()).await.unwrap();
    let mut answer = Vec::new();
    // How the other end closes a TLS line is not what is looked at here.
    let _ = stream.read_to_end(&mut answer).await;
    let answer = String::from_utf8_lossy(&answer).into_owned();
    assert!(status(&answer) == "200" && answer.contains("; Secure"), "{answer}");
    // Plain words on that line are no request.
    let mut plain = TcpStream::connect(address).await.unwrap();
    plain.write_all(b"GET /livez HTTP/1.1\r\nhost: localhost\r\n\r\n").await.unwrap();
    let mut said = Vec::new();
    let _ = plain.read_to_end(&mut said).await;
    assert!(!String::from_utf8_lossy(&said).contains("HTTP/1.1 200"));
}

/// Somebody else holds the database: whoever writes is told to come again, whoever reads waits for
/// nobody, and once it is given back the same command is done, once.
#[tokio::test]
async fn who_waits_too_long_for_a_turn_to_write_is_told_to_come_again_and_readers_go_on() {
    let open = open(Bounds::default()).await;
    let file = SqliteConnectOptions::new().filename(open.data.path().join("cobaltine.sqlite"));
    let mut other = file.connect().await.unwrap();
    sqlx::query("BEGIN IMMEDIATE").execute(&mut other).await.unwrap();
    let body = format!("{{\"id\":\"{}\",\"name\":\"Wren\"}}", uuid::Uuid::now_v7());
    let post = format!(
        "POST /api/people HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    );
    let begun = Instant::now();
    let (first, second, board) = tokio::join!(open.says(&post), open.says(&post), async {
        let get = "GET /api/board HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n";
        (open.says(get).await, begun.elapsed())
    });
    let waited = begun.elapsed();
    for refused in [first, second] {
        assert!(status(&refused) == "503" && refused.contains("retry-after: 1\r\n"), "{refused}");
        assert!(refused.contains("\"code\":\"busy\""), "{refused}");
    }
    assert!(status(&board.0) == "200" && board.1 * 3 < waited, "{board:?} of {waited:?}");
    sqlx::query("ROLLBACK").execute(&mut other).await.unwrap();
    assert_eq!(status(&open.says(&post).await), "200");
}

/// The program ended while a workshop file was being switched in: the next start goes on with it, the
/// page sees how far it is, and a retry finds the same import.
#[tokio::test]
async fn an_import_that_the_program_left_is_gone_on_with_in_sight_and_a_retry_finds_it() {
    let (data, other) = (tempfile::tempdir().unwrap(), crate::Workshop::open().await);
    other.job_with_run().await;
    let file = other.text("/workshop/export.jsonl").await;
    let by = uuid::Uuid::now_v7();
    let id = uuid::Uuid::now_v7();
    let store = Store::open(data.path()).await.unwrap();
    let now = jiff::Timestamp::now();
    let wren = Person { id: by, name: "Wren".to_owned(), retired: None };
    store.add_person(&Act::own(), &wren, now).await.unwrap();
    let sum: String = Sha256::digest(&file).iter().map(|byte| format!("{byte:02x}")).collect();
    let act = Act::new(id, format!("POST /api/workshop/imports\n{by}\n{sum}").as_bytes());
    std::fs::write(store.staged(id).unwrap(), &file).unwrap();
    let (own, same, mut changes) = (store.clone(), act.clone(), store.changes());
    let import = tokio::spawn(async move {
        own.import_workshop(&same, Signed::new(by, now), &Watch::default()).await
    });
    changes.recv().await.unwrap();
    import.abort();
    let _ = import.await;
    store.close().await;
    let left = Open::at(data, Bounds::default()).await;
    let retry = format!(
        "POST /api/workshop/imports HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\nx-at-bench: {by}\r\nidempotency-key: {id}\r\ncontent-length: {}\r\n\r\n{file}",
        file.len()
    );
    let answer = left.says(&retry).await;
    assert_eq!(status(&answer), "202", "{answer}");
    let list =
        "GET /api/workshop/transfers HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n";
    let mut seen = left.says(list).await;
    assert_eq!(seen.matches("\"what\":\"import\"").count(), 1, "{seen}");
    while seen.contains("\"state\":\"importing\"") {
        seen = left.says(list).await;
    }
    assert!(seen.contains("\"state\":\"done\"") && seen.contains("\"new_jobs\":1"), "{seen}");
    let staged = std::fs::read_dir(left.data.path().join("arriving")).unwrap();
    assert_eq!(staged.count(), 0, "nothing is left of either upload");
}
