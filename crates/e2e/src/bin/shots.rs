//! `cargo xtask shots`: pictures of the main views, from the demo workshop.
//!
//! Arguments: the folder, then optionally names of single pictures.

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
    for (name, path, width, before) in SHOTS {
        if !only.is_empty() && !only.iter().any(|wanted| wanted == name) {
            continue;
        }
        browser.resize(*width, if *width < 1000 { 1024 } else { 800 }).await?;
        browser.go(&format!("{}{}", program.address, address(&browser, path).await?)).await?;
        browser.see("main").await?;
        for script in *before {
            browser.script(script).await?;
        }
        browser.script("return new Promise(done => setTimeout(done, 500))").await?;
        browser.picture(&folder.join(format!("{name}.png"))).await?;
        println!("{name}");
    }
    browser.client.clone().close().await?;
    Ok(())
}

/// Name, address (`{machine words}` stands for the id of that job), width, scripts before.
type Shot = (&'static str, &'static str, u32, &'static [&'static str]);

const SHOTS: &[Shot] = &[
    ("board", "/", 1280, &[]),
    ("take-in", "/jobs/{creamery}/take-in", 1280, &[]),
    ("return-test", "/jobs/{hauler}/on-engine", 1280, &[]),
    ("return-split", "/jobs/{creamery}/on-engine", 1280, &[]),
    ("return-twelve", "/jobs/{slate}/on-engine", 1280, &[]),
    ("return-running", "/jobs/{reed}/on-engine", 1280, &[]),
    ("return-undecided", "/jobs/{malt}/on-engine", 1280, &[]),
    ("return-entry", "/jobs/{float}/on-engine", 1280, &[]),
    ("return-tablet", "/jobs/{pilot}/on-engine", 768, &[]),
    (
        "return-before",
        "/jobs/{ice house}/on-engine",
        1280,
        &[
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Other bottles')).click()",
            "return new Promise(done => setTimeout(done, 400))",
            "const e = document.querySelector('#temperature'); e.value = '80'; e.dispatchEvent(new Event('input'))",
            "return new Promise(done => setTimeout(done, 700))",
            "document.querySelector('.own input').click()",
            "return new Promise(done => setTimeout(done, 700))",
        ],
    ),
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
        "library-file",
        "/library/file",
        1280,
        &[
            "const t = document.querySelector('textarea'); \
             t.value = 'family,check,lower,upper,from_c,to_c,source\\nKettra 27 solenoid,return_flow,,22,70,95,Kettra service sheet 27-5\\n\
             Tarve 18 solenoid,return_flow,,a lot,,,heard of\\nTarve 22 solenoid,coil_resistance,0R3,0R42,,,own measurement\\nOstrel L6 solenoid,weight,3,,,,\\n'; \
             t.dispatchEvent(new Event('input'))",
            "return new Promise(done => setTimeout(done, 100))",
            "[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Look at')).click()",
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
    ("rules", "/rules", 1280, &[]),
    ("coils", "/jobs/{frost}/electrical/coil_resistance", 1280, &[]),
    ("decide", "/jobs/{pilot}/decide", 1280, &[]),
    (
        "decide-dim",
        "/jobs/{hauler}/decide",
        1280,
        &["document.documentElement.dataset.theme = 'dim'"],
    ),
    ("report", "/jobs/{pilot}/report", 1280, &[]),
];

async fn sit_down(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    let script = "return fetch('/api/people').then(r => r.json()).then(all => { \
        const one = all.find(p => p.name === 'Maren') ?? all[0]; \
        localStorage.setItem('bench-id', one.id); localStorage.setItem('bench-name', one.name); })";
    browser.script(script).await?;
    Ok(())
}

async fn address(browser: &Browser, path: &str) -> anyhow::Result<String> {
    let Some((before, rest)) = path.split_once('{') else { return Ok(path.to_owned()) };
    let (words, after) = rest.split_once('}').unwrap_or((rest, ""));
    let script = format!(
        "return fetch('/api/board?q={words}').then(r => r.json()).then(b => b.cards[0]?.id)"
    );
    let id = browser.script(&script).await?;
    Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()))
}
