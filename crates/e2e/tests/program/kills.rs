//! The program killed in the middle of writing, again and again: what it acknowledged is there once.
//!
//! `KILLS=200 cargo test --workspace --test program kills -- --nocapture` kills it two hundred times; in
//! the suite it is killed five times.

use anyhow::{Context, bail};
use cobaltine_e2e::binary;
use serde_json::{Value, json};
use std::collections::HashMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Sender, channel};
use std::time::Duration;

const BENCH: &str = "01c30099-0000-7000-8000-000000000001";
const JOB: &str = "01c30099-0000-7000-8000-000000000002";
/// Writers at once.
const WRITERS: usize = 3;

fn serve(data: &Path) -> anyhow::Result<(Child, String)> {
    let mut child = Command::new(binary()?)
        .args(["serve", "--open", "--listen", "127.0.0.1:0", "--data"])
        .arg(data)
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()?;
    let out = child.stdout.take().context("no output")?;
    let line = BufReader::new(out).lines().next().context("the program ended at once")??;
    let host = line.rsplit("http://").next().unwrap_or_default().to_owned();
    Ok((child, host))
}

/// One request, answered with its status and body, or not at all.
fn asked(host: &str, method: &str, path: &str, body: &str) -> anyhow::Result<(u16, String)> {
    let mut stream = TcpStream::connect(host)?;
    stream.set_read_timeout(Some(Duration::from_secs(10)))?;
    write!(
        stream,
        "{method} /api{path} HTTP/1.1\r\nhost: {host}\r\nx-at-bench: {BENCH}\r\nconnection: close\r\n\
         content-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    )?;
    let mut answer = String::new();
    stream.read_to_string(&mut answer)?;
    let status = answer.split(' ').nth(1).and_then(|status| status.parse().ok());
    let body = answer.split_once("\r\n\r\n").map_or("", |(_, body)| body);
    Ok((status.context("no answer")?, body.to_owned()))
}

fn good(host: &str, method: &str, path: &str, body: &Value) -> anyhow::Result<String> {
    let (status, answer) = asked(host, method, path, &body.to_string())?;
    if status != 200 {
        bail!("{method} {path}: {status} {answer}");
    }
    Ok(answer)
}

fn id(round: usize, writer: usize, n: usize) -> String {
    format!("01c30099-{round:04x}-7000-8{writer:03x}-{n:012x}")
}

/// Writes notes until the program is gone; tells which were acknowledged, and which were only tried.
fn write_notes(host: &str, round: usize, writer: usize, told: &Sender<(String, bool)>) {
    for n in 1.. {
        let id = id(round, writer, n);
        let note =
            json!({ "id": id, "stage": "rule_out", "text": format!("note {round} {writer} {n}") });
        let path = format!("/jobs/{JOB}/notes");
        let answer = asked(host, "POST", &path, &note.to_string());
        let kept = matches!(answer, Ok((200, _)));
        let _ = told.send((id, kept));
        if !kept {
            return;
        }
    }
}

#[test]
fn what_was_acknowledged_survives_every_kill_once() -> anyhow::Result<()> {
    let kills: usize = std::env::var("KILLS").map_or(Ok(5), |kills| kills.parse())?;
    let data = tempfile::tempdir()?;
    let (mut child, host) = serve(data.path())?;
    good(&host, "POST", "/people", &json!({ "id": BENCH, "name": "Maren" }))?;
    let intake = json!({
        "customer": "", "machine": "Winch", "usage": "", "engine": "", "fuel_system": "petrol_port",
        "family_id": null, "symptoms": ["rough_idle"], "complaint": "",
        "layout": { "cylinders": 4, "banks": 1, "first_at": "pulley", "numbering": "bank_by_bank" },
    });
    good(&host, "POST", "/jobs", &json!({ "id": JOB, "intake": intake, "labels": [] }))?;
    child.kill()?;
    child.wait()?;
    let (tell, told) = channel();
    let mut tried: Vec<(String, bool)> = Vec::new();
    for round in 1..=kills {
        let (mut child, host) = serve(data.path())?;
        let writers: Vec<_> = (0..WRITERS)
            .map(|writer| {
                let (host, tell) = (host.clone(), tell.clone());
                std::thread::spawn(move || write_notes(&host, round, writer, &tell))
            })
            .collect();
        // After some were acknowledged, however slow the machine is; then somewhere in the middle of
        // a write, another place each time.
        let mut kept = 0;
        while kept < 1 + round % 9 {
            let one = told.recv_timeout(Duration::from_secs(60)).context("nobody writes")?;
            kept += usize::from(one.1);
            tried.push(one);
        }
        std::thread::sleep(Duration::from_micros((round as u64 * 1_370) % 5_000));
        child.kill()?;
        child.wait()?;
        for writer in writers {
            writer.join().map_err(|_| anyhow::anyhow!("a writer gave up"))?;
        }
    }
    drop(tell);
    tried.extend(told.iter());
    let (mut child, host) = serve(data.path())?;
    let (_, file) = asked(&host, "GET", &format!("/jobs/{JOB}/export.json"), "")?;
    child.kill()?;
    child.wait()?;
    let file: Value = serde_json::from_str(&file)?;
    let mut there: HashMap<&str, usize> = HashMap::new();
    for note in file["notes"].as_array().context("no notes")? {
        *there.entry(note["id"].as_str().unwrap_or_default()).or_default() += 1;
    }
    let kept = tried.iter().filter(|(_, kept)| *kept).count();
    for (id, kept) in &tried {
        let times = there.get(id.as_str()).copied().unwrap_or_default();
        assert!(
            times == 1 || (times == 0 && !kept),
            "{id} is there {times} times, acknowledged: {kept}"
        );
    }
    let check = Command::new(binary()?).arg("check").arg("--data").arg(data.path()).output()?;
    assert!(check.status.success(), "{}", String::from_utf8_lossy(&check.stdout));
    println!("{kills} kills, {kept} acknowledged of {} tried, each there once", tried.len());
    Ok(())
}
