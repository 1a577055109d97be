//! `cargo xtask shots`: pictures of the main views, from the demo workshop.
//!
//! Arguments: the folder, then optionally names of single pictures, or addresses such as `/library/new-plan`
//! or `/jobs/{hauler}/decide`. `SHOT_THEME=dim` and `SHOT_WIDTH=768`
//! show the same in the other theme and on an upright tablet.

use cobaltine_e2e::{Browser, Program};
use std::path::PathBuf;

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let mut arguments = std::env::args().skip(1);
    let folder = PathBuf::from(arguments.next().unwrap_or_else(|| "docs/screenshots".to_owned()));
    let only: Vec<String> = arguments.collect();
    std::fs::create_dir_all(&folder)?;
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    let named = |path: &str| path.replace(|c: char| !c.is_ascii_alphanumeric(), "-");
    let typed: Vec<(String, &String)> =
        only.iter().filter(|one| one.starts_with('/')).map(|one| (named(one), one)).collect();
    let typed = typed.iter().map(|(name, path)| (name.as_str(), path.as_str(), 1280, &[][..]));
    for (name, path, width, before) in SHOTS.iter().copied().chain(typed) {
        let asked = only.iter().any(|wanted| wanted == name || wanted == path);
        if !asked && (!only.is_empty() || ASKED_FOR_ONLY.contains(&name)) {
            continue;
        }
        let width = std::env::var("SHOT_WIDTH").map_or(Ok(width), |typed| typed.parse())?;
        browser.resize(width, if width < 1000 { 1024 } else { 800 }).await?;
        browser.go(&format!("{}{}", program.address, address(&browser, path).await?)).await?;
        browser.see("main").await?;
        for script in before {
            browser.script(script).await?;
        }
        browser.script("return new Promise(done => setTimeout(done, 500))").await?;
        browser.picture(&folder.join(format!("{name}.png"))).await?;
        println!("{name}");
    }
    browser.client.clone().close().await?;
    Ok(())
}

/// Drawn when they are named: looked at, not kept.
const ASKED_FOR_ONLY: [&str; 14] = [
    "instruments",
    "passport",
    "return-running",
    "calculators",
    "fit",
    "places",
    "help",
    "indicator-twelve",
    "balance",
    "rule-out",
    "customers",
    "weights",
    "library-file",
    "workshop",
];

/// Name, address (`{machine words}` stands for the id of that job), width, scripts before.
type Shot = (&'static str, &'static str, u32, &'static [&'static str]);

const SHOTS: &[Shot] = &[
    (
        "connections",
        "/connections",
        1280,
        &[
            "[...document.querySelectorAll('button')].find(b => b.textContent.includes('Test connections')).click()",
            "return new Promise(done => setTimeout(done, 2500))",
            "[...document.querySelectorAll('li button')].find(b => b.textContent.includes('return bottles')).click()",
            "return new Promise(done => setTimeout(done, 12000))",
        ],
    ),
    (
        "live",
        "/jobs/{creamery}/on-engine",
        1280,
        &[
            "[...document.querySelectorAll('.readers button')].at(-1).click()",
            "[...document.querySelectorAll('button')].find(b => b.textContent.includes('All confirmed'))?.click()",
            "return new Promise(done => setTimeout(done, 300))",
            "[...document.querySelectorAll('button')].find(b => b.textContent.includes('Start run')).click()",
            "return new Promise(done => setTimeout(done, 25000))",
            "return new Promise(done => setTimeout(done, 20000))",
        ],
    ),
    ("trainer", "/jobs/{exercise two_of_four}/on-engine", 1280, &[]),
    ("trainer-result", "/jobs/{exercise first_return_test}/exercise", 1280, &[]),
    ("board", "/", 1280, &[]),
    ("take-in", "/jobs/{oyster}/take-in", 1280, &[]),
    ("plan", "/jobs/{hay baler}/take-in/plan", 1280, &[]),
    ("rule-out", "/jobs/{hay baler}/rule-out/fuel_sample", 1280, &[]),
    ("start", "/start", 1280, &[]),
    ("customers", "/customers", 1280, &[]),
    ("workshop", "/workshop", 1280, &[]),
    (
        "weights",
        "/rules/weights",
        1280,
        &[
            "const e = document.querySelector('input[type=search]'); e.value = 'return worn'; e.dispatchEvent(new Event('input'))",
            "return new Promise(done => setTimeout(done, 300))",
            "document.querySelector('.line > button').click()",
        ],
    ),
    (
        "library-file",
        "/library/file",
        1280,
        &[
            "const e = document.querySelector('textarea'); e.value = 'Part;What;Highest (l/h);Where from\\nKettra 27 solenoid;leak-off flow;1,2;sheet 6'; e.dispatchEvent(new Event('input'))",
            "return new Promise(done => setTimeout(done, 300))",
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Preview')).click()",
            "return new Promise(done => setTimeout(done, 600))",
        ],
    ),
    ("help", "/help", 1280, &[]),
    (
        "return-running",
        "/jobs/{reed}/on-engine",
        1280,
        &["document.querySelector('[aria-label=\"Mark bottle 5 full\"]')?.click()"],
    ),
    (
        "listening",
        "/jobs/{bog tractor}/electrical/listening",
        1280,
        &["document.querySelector('figure').scrollIntoView({ block: 'end' })"],
    ),
    (
        "ramp",
        "/jobs/{bog tractor}/electrical/drive_current",
        1280,
        &["document.querySelector('figure').scrollIntoView({ block: 'end' })"],
    ),
    ("indicator-twelve", "/jobs/{airship}/electrical/indicator", 768, &[]),
    ("balance", "/jobs/{moor railcar}/on-engine/pressure_drop", 1280, &[]),
    ("return-test", "/jobs/{hauler}/on-engine", 1280, &[]),
    ("calculators", "/calculators/pulse_quantity", 1280, &[]),
    (
        "library",
        "/library",
        1280,
        &[
            "[...document.querySelectorAll('.lines a')].find(a => a.innerText.startsWith('Kettra 27 sol')).click()",
        ],
    ),
    (
        "instruments",
        "/instruments",
        1280,
        &[
            "[...document.querySelectorAll('li button')].find(b => b.innerText.startsWith('Pocket')).click()",
        ],
    ),
    ("bench-petrol", "/bench/{session 2}/flow", 1280, &[]),
    ("bench-diesel", "/bench/{session 4}/map", 1280, &[]),
    (
        "match",
        "/match",
        1280,
        &[
            "return new Promise(done => setTimeout(done, 800))",
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Make sets')).click()",
            "return new Promise(done => setTimeout(done, 600))",
            "window.scrollTo(0, 0)",
        ],
    ),
    (
        "codes",
        "/jobs/{dredger}/refit/codes",
        1280,
        &[
            "return new Promise(done => setTimeout(done, 600))",
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Read stored')).click()",
            "return new Promise(done => setTimeout(done, 600))",
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Take')).click()",
            "return new Promise(done => setTimeout(done, 900))",
        ],
    ),
    ("places", "/jobs/{airship}/decide/places", 1280, &[]),
    ("fit", "/jobs/{pilot}/refit", 1280, &[]),
    ("prove", "/jobs/{causeway tram}/prove", 1280, &[]),
    ("passport", "/passports/{injector 27-3103}", 1280, &[]),
    ("decide", "/jobs/{pilot}/decide", 1280, &[]),
    ("report", "/jobs/{causeway tram}/report", 1280, &[]),
];

async fn sit_down(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    let script = "return fetch('/api/people').then(r => r.json()).then(all => { \
        const one = all.find(p => p.name === 'Maren') ?? all[0]; \
        localStorage.setItem('bench-id', one.id); localStorage.setItem('bench-name', one.name); })";
    browser.script(script).await?;
    if let Ok(theme) = std::env::var("SHOT_THEME") {
        browser.script(&format!("localStorage.setItem('theme', '{theme}')")).await?;
    }
    Ok(())
}

async fn address(browser: &Browser, path: &str) -> anyhow::Result<String> {
    let Some((before, rest)) = path.split_once('{') else { return Ok(path.to_owned()) };
    let (words, after) = rest.split_once('}').unwrap_or((rest, ""));
    if let Some(number) = words.strip_prefix("session ") {
        let script = format!(
            "return fetch('/api/bench?per_page=60').then(r => r.json()) \
             .then(b => b.lines.find(l => l.number === {number})?.id)"
        );
        let id = browser.script(&script).await?;
        return Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()));
    }
    if let Some(name) = words.strip_prefix("exercise ") {
        let script = format!(
            "return fetch('/api/trainer?per_page=60').then(r => r.json()) \
             .then(t => t.exercises.find(e => e.line.exercise.case.name === '{name}')?.line.job)"
        );
        let id = browser.script(&script).await?;
        return Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()));
    }
    if let Some(label) = words.strip_prefix("injector ") {
        let script = format!(
            "return fetch('/api/passports?q={label}').then(r => r.json()).then(p => p.lines[0]?.injector)"
        );
        let id = browser.script(&script).await?;
        return Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()));
    }
    let script = format!(
        "return fetch('/api/board?q={words}').then(r => r.json()).then(b => b.cards[0]?.id)"
    );
    let id = browser.script(&script).await?;
    Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()))
}
