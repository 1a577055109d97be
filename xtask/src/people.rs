//! A made-up person with a browser: plain HTTP over one connection that is kept, with cookies.

use anyhow::{Context, bail};
use socket2::{Domain, Socket, Type};
use std::collections::BTreeMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{Ipv4Addr, SocketAddr, TcpStream};
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant, SystemTime, UNIX_EPOCH};

/// Until an answer has come; longer than the program takes for anything.
const PATIENCE: Duration = Duration::from_secs(60);

/// An answer.
#[derive(Debug)]
pub(crate) struct Answer {
    pub status: u16,
    pub body: String,
    pub took: Duration,
}

impl Answer {
    /// The first field of this name, as text.
    pub fn field(&self, name: &str) -> &str {
        let from = self.body.find(&format!("\"{name}\":")).map(|at| at + name.len() + 3);
        let rest = from.map(|at| self.body[at..].trim_start()).unwrap_or_default();
        match rest.strip_prefix('"') {
            Some(text) => text.split('"').next().unwrap_or_default(),
            None => rest.split([',', '}', ']']).next().unwrap_or_default(),
        }
    }
}

/// A browser at an address of its own, as each person has.
#[derive(Debug)]
pub(crate) struct Browser {
    host: SocketAddr,
    from: Ipv4Addr,
    line: Option<BufReader<TcpStream>>,
    cookies: BTreeMap<String, String>,
    bench: Option<String>,
}

impl Browser {
    pub fn new(host: SocketAddr, number: u16) -> Self {
        let [high, low] = number.to_be_bytes();
        let (line, cookies) = (None, BTreeMap::new());
        Self { host, from: Ipv4Addr::new(127, 1 + high, low, 1), line, cookies, bench: None }
    }

    pub fn connect(&self) -> anyhow::Result<TcpStream> {
        let socket = Socket::new(Domain::IPV4, Type::STREAM, None)?;
        socket.bind(&SocketAddr::from((self.from, 0)).into())?;
        socket.connect(&self.host.into())?;
        socket.set_read_timeout(Some(PATIENCE))?;
        socket.set_tcp_nodelay(true)?;
        Ok(socket.into())
    }

    /// Sends a request, and waits for the whole answer.
    pub fn ask(&mut self, method: &str, path: &str, body: &str) -> anyhow::Result<Answer> {
        let kept = self.line.is_some();
        match self.once(method, path, body) {
            // A connection that lay idle may have been closed meanwhile.
            Err(_) if kept => self.once(method, path, body),
            answer => answer,
        }
    }

    fn once(&mut self, method: &str, path: &str, body: &str) -> anyhow::Result<Answer> {
        let begun = Instant::now();
        let mut line = match self.line.take() {
            Some(line) => line,
            None => BufReader::new(self.connect()?),
        };
        let cookies: Vec<String> =
            self.cookies.iter().map(|(name, value)| format!("{name}={value}")).collect();
        let bench =
            self.bench.as_ref().map(|id| format!("x-at-bench: {id}\r\n")).unwrap_or_default();
        let head = format!(
            "{method} {path} HTTP/1.1\r\nhost: {}\r\ncontent-type: application/json\r\n{bench}cookie: {}\r\ncontent-length: {}\r\n\r\n",
            self.host,
            cookies.join("; "),
            body.len()
        );
        line.get_mut().write_all(head.as_bytes())?;
        line.get_mut().write_all(body.as_bytes())?;
        let mut text = String::new();
        line.read_line(&mut text)?;
        let status = text.split(' ').nth(1).and_then(|code| code.parse().ok());
        let status = status.context("no answer")?;
        let (mut length, mut chunked) = (0, false);
        loop {
            text.clear();
            line.read_line(&mut text)?;
            let Some((name, value)) = text.trim_end().split_once(": ") else { break };
            match name {
                "content-length" => length = value.parse()?,
                "transfer-encoding" => chunked = value == "chunked",
                "set-cookie" => {
                    let pair = value.split(';').next().and_then(|pair| pair.split_once('='));
                    let (name, value) = pair.context("a cookie")?;
                    self.cookies.insert(name.to_owned(), value.to_owned());
                }
                _ => {}
            }
        }
        let mut bytes = vec![0; length];
        line.read_exact(&mut bytes)?;
        let mut last = !chunked;
        while !last {
            text.clear();
            line.read_line(&mut text)?;
            let size = usize::from_str_radix(text.trim_end(), 16)?;
            let mut part = vec![0; size + 2];
            line.read_exact(&mut part)?;
            part.truncate(size);
            bytes.extend(part);
            last = size == 0;
        }
        self.line = Some(line);
        let body = String::from_utf8_lossy(&bytes).into_owned();
        Ok(Answer { status, body, took: begun.elapsed() })
    }

    /// The same where nothing but success will do.
    pub fn good(&mut self, method: &str, path: &str, body: &str) -> anyhow::Result<Answer> {
        let answer = self.ask(method, path, body)?;
        if !(200..300).contains(&answer.status) {
            bail!("{method} {path}: {} {}", answer.status, answer.body);
        }
        Ok(answer)
    }

    /// Listens to what is written until the program ends; hears it, and does nothing about it.
    pub fn listen(&self) -> anyhow::Result<()> {
        let mut line = self.connect()?;
        let cookies: Vec<String> =
            self.cookies.iter().map(|(name, value)| format!("{name}={value}")).collect();
        let (host, cookies) = (self.host, cookies.join("; "));
        write!(line, "GET /api/changes HTTP/1.1\r\nhost: {host}\r\ncookie: {cookies}\r\n\r\n")?;
        let mut heard = [0; 4096];
        while line.read(&mut heard)? > 0 {}
        Ok(())
    }

    /// Another connection of the same person.
    pub fn listening(of: &Self) -> Self {
        let Self { host, from, .. } = *of;
        Self { host, from, line: None, cookies: of.cookies.clone(), bench: of.bench.clone() }
    }

    /// Says who is at the bench, where nobody signs in: the first of the workshop.
    pub fn at_bench(&mut self) -> anyhow::Result<()> {
        let people = self.good("GET", "/api/people", "")?;
        self.bench = Some(people.field("id").to_owned());
        Ok(())
    }

    /// A job with a test set up. Its id and that of the test.
    pub fn books(&mut self, name: &str) -> anyhow::Result<(String, String)> {
        let (job, test) = (id(), id());
        let intake = "\"customer\":\"Skerry Fishing\",\"usage\":\"\",\"engine\":\"H4\",\"fuel_system\":\"diesel_solenoid\",\"family_id\":null,\"symptoms\":[\"rough_idle\"],\"complaint\":\"\",\"layout\":{\"cylinders\":4,\"banks\":1,\"first_at\":\"flywheel\",\"numbering\":\"bank_by_bank\"}";
        let body = format!(
            "{{\"id\":\"{job}\",\"intake\":{{\"machine\":\"{name}\",{intake}}},\"labels\":[]}}"
        );
        self.good("POST", "/api/jobs", &body)?;
        let setup = format!(
            "{{\"id\":\"{test}\",\"regime\":\"idle_only\",\"temperature\":\"82\",\"speed\":\"\",\"capacity\":\"100\",\"graduation\":\"2\",\"planned\":\"2:00\"}}"
        );
        self.good("POST", &format!("/api/jobs/{job}/return-tests"), &setup)?;
        Ok((job, test))
    }

    /// Begins a run of a test.
    pub fn begins(&mut self, test: &str) -> anyhow::Result<(String, Answer)> {
        let run = id();
        let body = format!("{{\"id\":\"{run}\",\"timer\":false}}");
        let answer = self.ask("POST", &format!("/api/return-tests/{test}/runs"), &body)?;
        Ok((run, answer))
    }

    /// Reads a bottle. The id of the reading.
    pub fn reads(&mut self, run: &str, cylinder: u32) -> anyhow::Result<(String, Answer)> {
        let reading = id();
        let body = format!(
            "{{\"id\":\"{reading}\",\"kind\":\"level\",\"cylinder\":{cylinder},\"typed\":\"{}\"}}",
            20 + cylinder
        );
        let answer = self.ask("POST", &format!("/api/runs/{run}/readings"), &body)?;
        Ok((reading, answer))
    }
}

/// An id as a browser makes it (UUIDv7): the time, and what nobody else of this run has.
pub(crate) fn id() -> String {
    static NEXT: AtomicU64 = AtomicU64::new(1);
    let ms = SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default().as_millis() as u64;
    let n = NEXT.fetch_add(1, Ordering::Relaxed);
    let own = u64::from(std::process::id()) << 32 | n;
    format!(
        "{:08x}-{:04x}-7{:03x}-8{:03x}-{:012x}",
        ms >> 16,
        ms & 0xffff,
        n & 0xfff,
        (own >> 48) & 0xfff,
        own & 0xffff_ffff_ffff
    )
}
