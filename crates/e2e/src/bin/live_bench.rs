//! `cargo xtask bench live`: an instrument of eight channels is read fifty times a second, watched by three
//! browsers, and recorded; arguments: for how many seconds, and of how many channels.

use anyhow::{Context, bail};
use cobaltine_e2e::{Browser, Program, binary};
use serde_json::Value;
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

const BROWSERS: usize = 3;
/// What has to hold: latency at the page, ms; share of a core; growth of memory, MB.
const P99_MS: f64 = 100.0;
const CORE: f64 = 0.5;
const GROWS_MB: f64 = 12.0;

struct Bottles(Child, String);

impl Drop for Bottles {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

fn bottles(channels: &str) -> anyhow::Result<Bottles> {
    let words = ["instrument", "bottles", "--fuel", "diesel_solenoid", "--cylinders", channels];
    let mut child = Command::new(binary()?).args(words).stdout(Stdio::piped()).spawn()?;
    let mut line = String::new();
    BufReader::new(child.stdout.take().context("no output")?).read_line(&mut line)?;
    let at = line.split(" at ").nth(1).and_then(|rest| rest.split(' ').next());
    Ok(Bottles(child, at.context("no address")?.to_owned()))
}

/// Everything that the page is told by an instrument: when it came, and when it was on the screen.
const LISTEN: &str = "
    const Plain = window.EventSource;
    window.seen = { came: [], drawn: [], first: 0, last: 0, count: 0 };
    window.EventSource = class extends Plain {
      constructor(at) {
        super(at);
        if (!String(at).includes('/live')) return;
        this.addEventListener('message', (event) => {
          const { n, at_ms } = JSON.parse(event.data);
          seen.first ||= n;
          seen.last = n;
          seen.count += 1;
          seen.came.push(Date.now() - at_ms);
          if (n % 10 === 0) requestAnimationFrame(() => setTimeout(() => seen.drawn.push(Date.now() - at_ms)));
        });
      }
    };
";

/// How often the columns are drawn anew: changes of one moment are one.
const FRAMES: &str = "
    seen.frames = 0;
    const all = { subtree: true, childList: true, attributes: true, characterData: true };
    new MutationObserver(() => (seen.frames += 1)).observe(document.querySelector('.strip'), all);
";

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let seconds: u64 = std::env::args().nth(1).map_or(Ok(600), |typed| typed.parse())?;
    let channels: u32 = std::env::args().nth(2).map_or(Ok(8), |typed| typed.parse())?;
    let bottles = bottles(&channels.to_string())?;
    let program = Program::empty()?;
    let mut browsers = Vec::new();
    for _ in 0..BROWSERS {
        browsers.push(Browser::beside(1280, 800).await?);
    }
    browsers[0].go(&format!("{}/help", program.address)).await?;
    let made = browsers[0].script(&set_up(&bottles.1, seconds, channels)).await?;
    let text = |name: &str| made[name].as_str().map(str::to_owned).context("nothing was made");
    let (job, run) = (text("job")?, text("run")?);
    for browser in &browsers {
        browser.go(&format!("{}/help", program.address)).await?;
        browser.script(LISTEN).await?;
        let path = format!("/jobs/{job}/on-engine");
        let inside = format!(
            "history.pushState({{}}, '', '{path}'); dispatchEvent(new PopStateEvent('popstate', {{ state: {{}} }}))"
        );
        browser.script(&inside).await?;
        browser.see(".filling").await?;
        browser.script(FRAMES).await?;
    }
    let (from_mb, from_s) = program.load();
    let (begun, mut most_mb) = (Instant::now(), from_mb);
    let mut settled_mb = from_mb;
    while begun.elapsed() < Duration::from_secs(seconds.saturating_sub(15)) {
        tokio::time::sleep(Duration::from_secs(5)).await;
        most_mb = most_mb.max(program.load().0);
        if begun.elapsed() < Duration::from_secs(60) {
            settled_mb = most_mb;
        }
    }
    let took = begun.elapsed().as_secs_f64();
    let core = (program.load().1 - from_s) / took;
    let mut worst: f64 = 0.0;
    for (nth, browser) in browsers.iter().enumerate() {
        let seen = browser.script("return seen").await?;
        let of = |name: &str| seen[name].as_f64().unwrap_or_default();
        let (came, drawn) = (p99(&seen["came"]), p99(&seen["drawn"]));
        worst = worst.max(came);
        println!(
            "browser {}: {} looks, {} missed, at the page p99 {came:.0} ms, drawn p99 {drawn:.0} ms, drawn {:.0} times a second",
            nth + 1,
            of("count"),
            of("last") - of("first") + 1.0 - of("count"),
            of("frames") / took,
        );
    }
    let ended = format!(
        "return fetch('/api/runs/{run}/live/end', {{ method: 'POST', headers: {{ 'x-at-bench': '{}' }} }}).then(r => r.status)",
        text("person")?
    );
    browsers[0].script(&ended).await?;
    let csv = format!("return fetch('/api/jobs/{job}/raw.csv?of={run}').then(r => r.text())");
    let csv = browsers[0].script(&csv).await?;
    let (points, gaps, rate) = recorded(csv.as_str().unwrap_or_default());
    println!("recorded: {points} points of {channels} channels, {rate:.1} a second, {gaps} gaps");
    println!(
        "program: {core:.2} of a core, {settled_mb:.0} MB after a minute, {most_mb:.0} MB at most"
    );
    for browser in browsers {
        browser.client.clone().close().await?;
    }
    // Fifty a second less what one machine for everything takes away.
    let whole = gaps == 0 && rate > 40.0;
    if worst > P99_MS || core > CORE || most_mb - settled_mb > GROWS_MB || !whole {
        bail!("p99 below {P99_MS} ms, {CORE} of a core, memory flat to {GROWS_MB} MB, and no gap");
    }
    Ok(())
}

/// A person, the connection, a job of so many cylinders with its test, and its run begun.
fn set_up(address: &str, seconds: u64, channels: u32) -> String {
    format!(
        "const id = () => crypto.randomUUID();
        const [person, connection, job, test, run] = [id(), id(), id(), id(), id()];
        const send = (method, path, body) => fetch(`/api${{path}}`, {{ method, body: JSON.stringify(body),
          headers: {{ 'content-type': 'application/json', 'x-at-bench': person }} }}).then(r => r.ok || r.text().then(t => {{ throw new Error(t) }}));
        const layout = {{ cylinders: {channels}, banks: 1, first_at: 'flywheel', numbering: 'bank_by_bank' }};
        const intake = {{ customer: '', machine: 'Eight in a row', usage: '', engine: '', fuel_system: 'diesel_solenoid', family_id: null, symptoms: ['rough_idle'], complaint: '', layout }};
        return send('POST', '/people', {{ id: person, name: 'Bench' }})
          .then(() => localStorage.setItem('bench', person))
          .then(() => send('PUT', '/connections', {{ id: connection, name: 'Eight bottles', kind: 'bottles', address: '{address}', instrument: null, revision: 0 }}))
          .then(() => send('POST', '/jobs', {{ id: job, intake, labels: [] }}))
          .then(() => send('POST', `/jobs/${{job}}/return-tests`, {{ id: test, regime: 'idle_only', temperature: '82', speed: '', capacity: '1000', graduation: '2', planned: '{}' }}))
          .then(() => send('POST', `/return-tests/${{test}}/runs`, {{ id: run, timer: true, connection }}))
          .then(() => ({{ person, job, run }}))",
        seconds + 120
    )
}

fn p99(of: &Value) -> f64 {
    let mut all: Vec<f64> = of.as_array().into_iter().flatten().filter_map(Value::as_f64).collect();
    all.sort_by(f64::total_cmp);
    let at = all.len().saturating_sub(1) * 99 / 100;
    all.get(at).copied().unwrap_or(f64::INFINITY)
}

/// Points of a raw trace, its gaps, and points a second.
fn recorded(csv: &str) -> (usize, usize, f64) {
    let gaps = csv.lines().filter(|line| line.starts_with('#')).count();
    let time = |line: &str| line.split(',').next().and_then(|first| first.parse::<f64>().ok());
    let times: Vec<f64> = csv.lines().filter_map(time).collect();
    let long = times.last().zip(times.first()).map_or(0.0, |(last, first)| last - first);
    (times.len(), gaps, times.len() as f64 / long.max(1.0))
}
