//! A workshop of a hundred people at work for minutes on ten thousand jobs, while two of them take the
//! whole workshop in and out and a backup is made.

use crate::people::{Answer, Browser};
use crate::running::Running;
use crate::steps::{cargo, say};
use crate::{front_end, shipped};
use anyhow::{Context, bail};
use std::net::TcpStream;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::time::{Duration, Instant};

const PEOPLE: u16 = 100;
const JOBS: &str = "10000";
const IDLE: u16 = 1_800;
/// Runs of one test; then the next job is taken in.
const RUNS: u32 = 12;
const PASSWORD: &str = "a lamp in the boat shed";
/// How often each person does something, with a little more or less.
const EACH: Duration = Duration::from_secs(1);
const BOARD: Duration = Duration::from_millis(60);
const READING: Duration = Duration::from_millis(150);
const MEMORY_MB: u64 = 120;
const RESTORE: Duration = Duration::from_secs(10);

/// What was measured.
#[derive(Default)]
struct Seen {
    board: Mutex<Vec<Duration>>,
    readings: Mutex<Vec<Duration>>,
    others: AtomicU64,
    /// Answers that nobody wants, counted by what they were.
    wrong: Mutex<std::collections::BTreeMap<String, u64>>,
    imports: AtomicU64,
    exports: AtomicU64,
    over: AtomicBool,
}

impl Seen {
    fn took(&self, into: &Mutex<Vec<Duration>>, answer: &Answer) {
        if let Ok(mut times) = into.lock() {
            times.push(answer.took);
        }
        self.looked(answer);
    }

    fn looked(&self, answer: &Answer) {
        self.others.fetch_add(1, Ordering::Relaxed);
        if answer.status >= 400 {
            self.wrong(format!("{} {}", answer.status, answer.field("code")));
        }
    }

    fn wrong(&self, what: String) {
        if let Ok(mut wrong) = self.wrong.lock() {
            *wrong.entry(what).or_default() += 1;
        }
    }

    fn is_over(&self) -> bool {
        self.over.load(Ordering::Relaxed)
    }
}

fn quantile(times: &Mutex<Vec<Duration>>, share: f64) -> Duration {
    let mut times = times.lock().map(|times| times.clone()).unwrap_or_default();
    times.sort();
    let at = ((times.len() as f64 * share) as usize).min(times.len().saturating_sub(1));
    times.get(at).copied().unwrap_or_default()
}

/// `cargo xtask bench load`; `COBALTINE_LOAD_SECONDS` for shorter or longer.
pub(crate) fn load() -> anyhow::Result<()> {
    front_end::build()?;
    cargo(crate::SHIPPED)?;
    let folder = std::env::temp_dir().join(format!("cobaltine-load-{}", std::process::id()));
    std::fs::create_dir_all(&folder)?;
    let measured = measured(&folder);
    let _ = std::fs::remove_dir_all(&folder);
    measured
}

fn measured(folder: &Path) -> anyhow::Result<()> {
    let asked = std::env::var("COBALTINE_LOAD_SECONDS").ok().and_then(|text| text.parse().ok());
    let long = Duration::from_secs(asked.unwrap_or(300));
    let (data, log, backups) = (folder.join("data"), folder.join("log"), folder.join("backups"));
    say("generating the workshop");
    Running::start(&["demo", "--jobs", JOBS, "--limits", "20000"], &data, &log)?.end()?;
    let running = Running::start(&["serve"], &data, &log)?;
    say("signing a hundred people in");
    let mut people = sign_in(&running)?;
    let (mut importer, mut exporter) = (people.remove(0), people.remove(0));
    let file = importer.good("GET", "/api/workshop/export.jsonl", "")?.body;
    let idle = running.memory();
    println!("workshop file of {} MB; memory before the load {idle} MB", file.len() >> 20);
    say(&format!("{PEOPLE} people for {} s", long.as_secs()));
    let (seen, mut most) = (Seen::default(), idle);
    let mut backup: Option<Child> = None;
    std::thread::scope(|scope| -> anyhow::Result<()> {
        for person in &people {
            let listener = Browser::listening(person);
            // Those who listen hear the end when the program ends.
            scope.spawn(move || drop(listener.listen()));
        }
        std::thread::scope(|scope| -> anyhow::Result<()> {
            for (number, person) in people.iter_mut().enumerate() {
                let seen = &seen;
                scope.spawn(move || {
                    if let Err(error) = works(person, number as u32, seen) {
                        seen.wrong(format!("no answer: {error}"));
                    }
                });
            }
            let seen = &seen;
            scope.spawn(move || {
                while !seen.is_over() {
                    match brings(&mut importer, &file, seen) {
                        Ok(()) => drop(seen.imports.fetch_add(1, Ordering::Relaxed)),
                        Err(error) => seen.wrong(format!("import: {error}")),
                    }
                }
            });
            scope.spawn(move || {
                while !seen.is_over() {
                    match fetches(&mut exporter, seen) {
                        Ok(()) => drop(seen.exports.fetch_add(1, Ordering::Relaxed)),
                        Err(error) => seen.wrong(format!("export: {error}")),
                    }
                }
            });
            let begun = Instant::now();
            while begun.elapsed() < long {
                std::thread::sleep(Duration::from_millis(500));
                most = most.max(running.memory());
                if backup.is_none() && begun.elapsed() > long / 2 {
                    // With less right to the machine than those who work, as one by the clock at night.
                    let mut command = Command::new("nice");
                    command.arg(shipped()).args(["backup", "--data"]);
                    command.arg(&data).arg("--to").arg(&backups);
                    backup = Some(command.stdout(Stdio::null()).spawn()?);
                }
            }
            seen.over.store(true, Ordering::Relaxed);
            silent(&running)?;
            if !backup.take().context("no backup")?.wait()?.success() {
                bail!("no backup was made");
            }
            Ok(())
        })?;
        running.end()
    })?;
    told(&seen, most)?;
    let long_turns = std::fs::read_to_string(&log)?;
    let turns: Vec<u64> = long_turns
        .lines()
        .filter(|line| line.contains("a long turn"))
        .filter_map(|line| line.split("\"ms\":").nth(1)?.split([',', '}']).next()?.parse().ok())
        .collect();
    println!("turns to write above 50 ms: {}, longest {:?} ms", turns.len(), turns.iter().max());
    for line in long_turns.lines().filter(|line| line.contains("ERROR")).take(5) {
        println!("log: {line}");
    }
    restored(&backups, &data, folder)?;
    judged(&seen, most)
}

/// Two thousand connections that say nothing.
fn silent(running: &Running) -> anyhow::Result<()> {
    let before = running.memory();
    let connect = |n: u16| Browser::new(running.host, 300 + n % 4).connect();
    let idle: Vec<TcpStream> = (0..IDLE).map(connect).collect::<Result<_, _>>()?;
    let mut memory = Vec::new();
    for _ in 0..5 {
        std::thread::sleep(Duration::from_secs(2));
        memory.push(running.memory());
    }
    println!("{} idle connections: {before} MB before, then {memory:?} MB", idle.len());
    Ok(())
}

/// Accounts for everyone, and everyone in. The first two are owners.
fn sign_in(running: &Running) -> anyhow::Result<Vec<Browser>> {
    let token = running.said.split("#").nth(1).and_then(|rest| rest.split_whitespace().next());
    let token = token.context("no link of the owner")?;
    let mut owner = Browser::new(running.host, 0);
    let join = |token: &str| {
        format!(
            "{{\"token\":\"{token}\",\"name\":\"Wren of the office\",\"password\":\"{PASSWORD}\"}}"
        )
    };
    owner.good("POST", "/api/sign-in/join", &join(token))?;
    let mut all = Vec::new();
    for number in 1..PEOPLE {
        let id = crate::people::id();
        let name = format!("{{\"id\":\"{id}\",\"name\":\"Person {number}\"}}");
        owner.good("POST", "/api/people", &name)?;
        let role = if number == 1 { "owner" } else { "technician" };
        let account = format!("/api/people/{id}/account");
        owner.good("PUT", &account, &format!("{{\"role\":\"{role}\"}}"))?;
        let link = owner.good("POST", &format!("/api/people/{id}/link"), "")?;
        let mut person = Browser::new(running.host, number);
        let token = link.field("token");
        let join = format!("{{\"token\":\"{token}\",\"password\":\"{PASSWORD}\"}}");
        person.good("POST", "/api/sign-in/join", &join)?;
        all.push(person);
    }
    all.insert(0, owner);
    Ok(all)
}

/// Looks at the board, reads a bottle, looks at the job, and so on, until it is over.
fn works(person: &mut Browser, number: u32, seen: &Seen) -> anyhow::Result<()> {
    let (mut job, mut test) = person.books(&format!("Winch {number}"))?;
    let (mut run, mut runs) = (String::new(), 0);
    let mut n = number;
    while !seen.is_over() {
        std::thread::sleep(EACH.mul_f64(0.5 + f64::from(n * 37 % 100) / 100.0));
        n += 1;
        match n % 3 {
            0 => {
                let page = if n.is_multiple_of(2) { "/api/board" } else { "/api/board?q=winch" };
                let answer = person.ask("GET", page, "")?;
                seen.took(&seen.board, &answer);
            }
            1 => {
                let cylinder = n / 3 % 5;
                let answer = if cylinder == 0 || run.is_empty() {
                    runs += 1;
                    if runs % RUNS == 0 {
                        (job, test) = person.books(&format!("Winch {number}, again"))?;
                    }
                    let answer;
                    (run, answer) = person.begins(&test)?;
                    answer
                } else {
                    person.reads(&run, cylinder)?.1
                };
                seen.took(&seen.readings, &answer);
            }
            _ => seen.looked(&person.ask("GET", &format!("/api/jobs/{job}"), "")?),
        }
    }
    Ok(())
}

/// Takes the whole workshop in once more.
fn brings(owner: &mut Browser, file: &str, seen: &Seen) -> anyhow::Result<()> {
    owner.good("POST", "/api/sign-in/fresh", &format!("{{\"password\":\"{PASSWORD}\"}}"))?;
    let begun = owner.good("POST", "/api/workshop/imports", file)?;
    over(owner, begun, seen)
}

/// Takes it out, and fetches the file.
fn fetches(owner: &mut Browser, seen: &Seen) -> anyhow::Result<()> {
    let body = format!("{{\"id\":\"{}\",\"what\":\"workshop\"}}", crate::people::id());
    let begun = owner.good("POST", "/api/workshop/exports", &body)?;
    let at = format!("/api/workshop/transfers/{}/file", begun.field("id"));
    over(owner, begun, seen)?;
    if !seen.is_over() {
        let file = owner.good("GET", &at, "")?;
        if !file.body.ends_with("}}\n") {
            bail!("the file is cut off");
        }
    }
    Ok(())
}

fn over(owner: &mut Browser, mut view: Answer, seen: &Seen) -> anyhow::Result<()> {
    let at = format!("/api/workshop/transfers/{}", view.field("id"));
    while !seen.is_over() {
        match view.field("state") {
            "done" => return Ok(()),
            "refused" | "stopped" => bail!("{}", view.body),
            _ => std::thread::sleep(Duration::from_millis(300)),
        }
        view = owner.good("GET", &at, "")?;
    }
    Ok(())
}

fn told(seen: &Seen, most: u64) -> anyhow::Result<()> {
    for (name, times) in [("board", &seen.board), ("readings", &seen.readings)] {
        let many = times.lock().map(|times| times.len()).unwrap_or_default();
        let [half, most, all] = [0.5, 0.99, 1.0].map(|share| quantile(times, share));
        println!("{name:9} {many:>7} times: median {half:.1?}, p99 {most:.1?}, longest {all:.1?}");
    }
    let [all, imports, exports] =
        [&seen.others, &seen.imports, &seen.exports].map(|count| count.load(Ordering::Relaxed));
    println!(
        "{all} answers; {imports} imports and {exports} exports of the whole; memory at most {most} MB"
    );
    for (what, times) in seen.wrong.lock().map(|wrong| wrong.clone()).unwrap_or_default() {
        println!("refused: {what} ({times} times)");
    }
    Ok(())
}

/// The backup of the middle: restored in time, and each of its rows in the log that went on.
fn restored(backups: &Path, data: &Path, folder: &Path) -> anyhow::Result<()> {
    let backup = std::fs::read_dir(backups)?.next().context("no backup")??.path();
    let target = folder.join("restored");
    let begun = Instant::now();
    let mut command = Command::new(shipped());
    command.arg("restore").arg("--backup").arg(&backup).arg("--data").arg(&target);
    if !command.stdout(Stdio::null()).status()?.success() {
        bail!("the backup was not restored");
    }
    let took = begun.elapsed();
    let checked = Command::new(shipped()).arg("check").arg("--data").arg(&target).status()?;
    // The last hash of the backup is one of the log that went on: it is what that was at some moment.
    let manifest = std::fs::read_to_string(backup.join("manifest.json"))?;
    let tail = manifest.split("\"tail\": \"").nth(1).and_then(|rest| rest.split('"').next());
    let tail = tail.context("no tail")?;
    let whole = std::fs::read(data.join("cobaltine.sqlite"))?;
    let there = whole.windows(tail.len()).any(|part| part == tail.as_bytes());
    println!(
        "restored in {took:.1?}; its last row {}",
        if there { "is in the log" } else { "is not" }
    );
    if took > RESTORE || !there || !checked.success() {
        bail!("the backup has to restore within {RESTORE:?} to a state that the log went through");
    }
    Ok(())
}

fn judged(seen: &Seen, most: u64) -> anyhow::Result<()> {
    let wrong = seen.wrong.lock().map(|wrong| wrong.clone()).unwrap_or_default();
    let defects =
        wrong.keys().filter(|what| what.starts_with('5') || !what.starts_with('4')).count();
    let (board, reading) = (quantile(&seen.board, 0.99), quantile(&seen.readings, 0.99));
    if defects > 0 || board > BOARD || reading > READING || most > MEMORY_MB {
        bail!("wanted: no 5xx, board below {BOARD:?}, readings below {READING:?}, {MEMORY_MB} MB");
    }
    Ok(())
}
