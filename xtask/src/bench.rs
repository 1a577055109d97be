//! The program under load on loopback: bounded in requests, reported as a ratio to `/healthz`
//! in the same run, since machines differ and are noisy. And the worked numbers through
//! `cobaltine calc`, and every computation by itself.

use crate::steps::{cargo, say};
use crate::{front_end, shipped};
use anyhow::{Context, bail};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// Jobs on the board, limits in the library, and requests of each kind.
const JOBS: &str = "10000";
const LIMITS: &str = "20000";
const REQUESTS: usize = 200;
/// What a page of the board may take at most.
const BOARD_LIMIT: Duration = Duration::from_millis(50);
/// What a search of the library may take at most.
const LIBRARY_LIMIT: Duration = Duration::from_millis(30);
/// What all worked numbers may take at most.
const CALC_LIMIT: Duration = Duration::from_secs(1);

pub(crate) fn all() -> anyhow::Result<()> {
    load()?;
    worked_numbers()?;
    say("a durable reading and the board against bare Axum over bare SQLite, in one run");
    cargo(&["bench", "--package", "cobaltine-server", "--bench", "floor"])?;
    say("every computation by itself");
    cargo(&["bench", "--package", "cobaltine-core", "--bench", "calcs"])
}

/// All worked numbers through `cobaltine calc`, start of the program included.
fn worked_numbers() -> anyhow::Result<()> {
    let mut input = Vec::new();
    for file in std::fs::read_dir("crates/core/tests/vectors")? {
        input.extend(std::fs::read(file?.path())?);
    }
    let lines = input.iter().filter(|byte| **byte == b'\n').count();
    let begun = Instant::now();
    let mut child =
        Command::new(shipped()).arg("calc").stdin(Stdio::piped()).stdout(Stdio::piped()).spawn()?;
    let mut pipe = child.stdin.take().context("no input")?;
    let writer = std::thread::spawn(move || pipe.write_all(&input));
    let answers = child.wait_with_output()?.stdout;
    writer.join().map_err(|_| anyhow::anyhow!("the input was not taken"))??;
    let took = begun.elapsed();
    let answered = answers.iter().filter(|byte| **byte == b'\n').count();
    println!("{lines} worked numbers, {answered} answers in {took:.2?}");
    if answered != lines || took > CALC_LIMIT {
        bail!("all worked numbers have to be answered within {CALC_LIMIT:?}");
    }
    Ok(())
}

fn load() -> anyhow::Result<()> {
    front_end::build()?;
    cargo(crate::SHIPPED)?;
    let folder = std::env::temp_dir().join(format!("cobaltine-bench-{}", std::process::id()));
    say("generating the workshop");
    let mut child = Command::new(shipped())
        .args(["demo", "--jobs", JOBS, "--limits", LIMITS, "--listen", "127.0.0.1:0", "--data"])
        .arg(&folder)
        .env("RUST_LOG", "warn")
        .stdout(Stdio::piped())
        .spawn()?;
    let measured = measure(child.stdout.take().context("no output")?);
    let _ = child.kill();
    let _ = child.wait();
    let _ = std::fs::remove_dir_all(&folder);
    measured
}

fn measure(out: impl Read) -> anyhow::Result<()> {
    let mut lines = BufReader::new(out).lines();
    let line = lines.by_ref().map_while(Result::ok).find(|line| line.contains("http://"));
    let line = line.context("the program ended at once")?;
    let host = line.rsplit("http://").next().unwrap_or_default().to_owned();
    let still = median(&host, "/healthz")?;
    println!("{:28} median {still:>8.2?}", "/healthz");
    let mut slow = Vec::new();
    for (name, path, most) in [
        ("board, first page", "/api/board", BOARD_LIMIT),
        ("board, page 400", "/api/board?page=400", BOARD_LIMIT),
        ("board, one tone", "/api/board?tone=waiting", BOARD_LIMIT),
        ("board, words", "/api/board?q=harbour+win", BOARD_LIMIT),
        ("library, all", "/api/library", LIBRARY_LIMIT),
        ("library, one letter", "/api/library?q=k", LIBRARY_LIMIT),
        ("library, many words", "/api/library?q=kettra+gener+sheet+coil", LIBRARY_LIMIT),
        ("library, limits, page 30", "/api/library?q=generated&kind=limit&page=30", LIBRARY_LIMIT),
        ("library, nothing found", "/api/library?q=zeppelin", LIBRARY_LIMIT),
    ] {
        let took = median(&host, path)?;
        let ratio = took.as_secs_f64() / still.as_secs_f64();
        println!("{name:28} median {took:>8.2?}  {ratio:>6.1} × /healthz");
        if took > most {
            slow.push(name);
        }
    }
    if !slow.is_empty() {
        bail!("too slow: {}", slow.join(", "));
    }
    println!(
        "board below {BOARD_LIMIT:?} with {JOBS} jobs, library below {LIBRARY_LIMIT:?} with {LIMITS} limits"
    );
    Ok(())
}

fn median(host: &str, path: &str) -> anyhow::Result<Duration> {
    let mut times = Vec::with_capacity(REQUESTS);
    for _ in 0..REQUESTS {
        let begun = Instant::now();
        let mut stream = TcpStream::connect(host)?;
        write!(stream, "GET {path} HTTP/1.1\r\nhost: {host}\r\nconnection: close\r\n\r\n")?;
        let mut answer = Vec::new();
        stream.read_to_end(&mut answer)?;
        if !answer.starts_with(b"HTTP/1.1 200") {
            bail!("{path} was refused");
        }
        times.push(begun.elapsed());
    }
    times.sort();
    Ok(times[REQUESTS / 2])
}
