//! The board under load on loopback: bounded in requests, reported as a ratio to `/healthz`
//! in the same run, since machines differ and are noisy.

use crate::steps::{cargo, say};
use crate::{front_end, program};
use anyhow::{Context, bail};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// Jobs on the board, and requests of each kind.
const JOBS: &str = "10000";
const REQUESTS: usize = 200;
/// What the board may take at most.
const BOARD_LIMIT: Duration = Duration::from_millis(50);

pub(crate) fn board() -> anyhow::Result<()> {
    front_end::build()?;
    cargo(&["build", "--package", "cobaltine"])?;
    let folder = std::env::temp_dir().join(format!("cobaltine-bench-{}", std::process::id()));
    say("generating the workshop");
    let mut child = Command::new(program())
        .args(["demo", "--jobs", JOBS, "--listen", "127.0.0.1:0", "--data"])
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
    for (name, path) in [
        ("board, first page", "/api/board"),
        ("board, page 400", "/api/board?page=400"),
        ("board, one tone", "/api/board?tone=waiting"),
        ("board, words", "/api/board?q=harbour+win"),
    ] {
        let took = median(&host, path)?;
        let ratio = took.as_secs_f64() / still.as_secs_f64();
        println!("{name:28} median {took:>8.2?}  {ratio:>6.1} × /healthz");
        if took > BOARD_LIMIT {
            slow.push(name);
        }
    }
    if !slow.is_empty() {
        bail!("slower than {BOARD_LIMIT:?}: {}", slow.join(", "));
    }
    println!("all below {BOARD_LIMIT:?} with {JOBS} jobs");
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
