//! No address, however it is written, answers somebody who may not read it: walked with every answer kept
//! already for those who may.

use super::accounts::{House, house};
use super::intake;
use cobaltine_core::role::Role;
use cobaltine_server::openapi_json;
use serde_json::{Value, json};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use uuid::Uuid;

const NAME: &str = "Skerry Fishing";
const TELEPHONE: &str = "0471 5550 118";
/// Answers of these never end.
const ENDLESS: [&str; 2] = ["/changes", "/live"];

/// Sends a path as it stands: a client library would bring it into order first.
async fn raw(house: &House, method: &str, path: &str, cookies: &str) -> (u16, String) {
    let host = house.address.trim_start_matches("http://");
    let mut stream = TcpStream::connect(host).await.unwrap();
    let request = format!(
        "{method} {path} HTTP/1.1\r\nhost: {host}\r\ncookie: {cookies}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n"
    );
    stream.write_all(request.as_bytes()).await.unwrap();
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).await.unwrap();
    let text = String::from_utf8_lossy(&answer).into_owned();
    (text.split(' ').nth(1).unwrap().parse().unwrap(), text)
}

/// Other ways to write an address of the interface.
fn others(path: &str) -> Vec<String> {
    let rest = path.trim_start_matches("/api/");
    let (first, tail) = rest.split_at(rest.find('/').unwrap_or(rest.len()));
    let encoded = format!("%{:02x}{}", first.as_bytes()[0], &first[1..]);
    let twice = format!("%25{:02x}{}", first.as_bytes()[0], &first[1..]);
    let mut all = vec![
        format!("/api//{rest}"),
        format!("//api/{rest}"),
        format!("/api///{rest}"),
        format!("/api/./{rest}"),
        format!("/api/x/../{rest}"),
        format!("/./api/{rest}"),
        format!("/api%2f{rest}"),
        format!("/api/%2f{rest}"),
        format!("/api/%2e/{rest}"),
        format!("/api/{rest}/"),
        format!("/api/{rest}//"),
        format!("/api/{rest}%2f"),
        format!("/api/{rest}/."),
        format!("/API/{rest}"),
        format!("/api/{}{tail}", first.to_uppercase()),
        format!("/api/{encoded}{tail}"),
        format!("/api/{twice}{tail}"),
        format!("/api%252f{rest}"),
        format!("/api/api/{rest}"),
        format!("/{rest}/../api/{rest}"),
    ];
    if !tail.is_empty() {
        all.push(format!("/api/{first}%2f{}", &tail[1..]));
        all.push(format!("/api/{first}/{tail}"));
    }
    all
}

#[tokio::test]
async fn no_way_to_write_an_address_reads_what_its_asker_may_not_read_from_kept_answers() {
    let (_data, house, owner, _) = house().await;
    let (job, customer) = (Uuid::now_v7(), Uuid::now_v7());
    let kept = json!({
        "id": customer, "name": NAME, "phone": TELEPHONE, "revision": 0,
    });
    owner.good("PUT", "/customers", kept).await;
    let mut intake = intake();
    intake["customer_id"] = json!(customer);
    owner.good("POST", "/jobs", json!({ "id": job, "intake": intake, "labels": ["A-1"] })).await;
    let injector =
        owner.good("GET", &format!("/jobs/{job}"), Value::Null).await["file"]["job"]["injectors"]
            [0]["id"]
            .clone();
    let (_, learner) = owner.lets_in(&house, "Pim", Role::Learner).await;
    let (_, gone) = owner.lets_in(&house, "Maren", Role::Technician).await;
    let ended = gone.cookie_line();
    gone.good("POST", "/sign-in/end", Value::Null).await;

    let document = openapi_json();
    let filled = |path: &str| {
        let mut at = path.to_owned();
        while let (Some(from), Some(to)) = (at.find('{'), at.find('}')) {
            let value = match &at[from + 1..to] {
                "job" => job.to_string(),
                "customer" => customer.to_string(),
                "injector" => injector.as_str().unwrap().to_owned(),
                _ => Uuid::now_v7().to_string(),
            };
            at.replace_range(from..=to, &value);
        }
        at
    };
    let all = document["paths"].as_object().unwrap().iter();
    let all = all.filter(|(path, _)| path.starts_with("/api/"));
    let all: Vec<_> = all.map(|(path, of)| (filled(path), of["get"].is_object())).collect();
    let mut warm = 0;
    for (path, reads) in &all {
        if *reads && !ENDLESS.iter().any(|end| path.ends_with(end)) {
            let (status, text) = raw(&house, "GET", path, &owner.cookie_line()).await;
            warm += usize::from(status == 200 && text.contains("etag: "));
        }
    }
    assert!(warm >= 25, "{warm} answers are kept");
    let (_, known) = raw(&house, "GET", "/api/customers", &owner.cookie_line()).await;
    assert!(known.contains(NAME) && known.contains(TELEPHONE), "{known}");

    let mut walked = 0;
    for (path, reads) in &all {
        let open = path.starts_with("/api/sign-in");
        for (who, cookies) in [("nobody", ""), ("an ended session", ended.as_str())] {
            for method in ["GET", "HEAD", "POST", "PUT", "DELETE", "PATCH", "OPTIONS"] {
                let (status, text) = raw(&house, method, path, cookies).await;
                assert!(open || [401, 403].contains(&status), "{method} {path} as {who}: {text}");
                assert!(!text.contains(NAME) && !text.contains(TELEPHONE), "{method} {path}");
            }
        }
        for other in others(path) {
            for (who, cookies) in [
                ("nobody", String::new()),
                ("an ended session", ended.clone()),
                ("a learner", learner.cookie_line()),
            ] {
                for method in ["GET", "HEAD"] {
                    let (status, text) = raw(&house, method, &other, &cookies).await;
                    assert_eq!(status, 404, "{method} {other} as {who}: {text}");
                    walked += 1;
                }
            }
        }
        if *reads && path.starts_with("/api/workshop/") {
            let (status, text) = raw(&house, "GET", path, &learner.cookie_line()).await;
            assert_eq!(status, 403, "{path} as a learner: {text}");
        }
    }
    assert!(walked > 10_000, "{walked}");
    house.close().await;
}
