//! Whole stories through the real interface. One browser at a time: two cores, no sleeps.

mod accessible;
mod accounts;
mod bench;
mod codes;
mod engine;
mod judgement;
mod life;
mod live;
mod lost;
mod matching;
mod measuring;
mod proving;
mod quick;
mod stranger;
mod trainer;
mod two_screens;
mod untidy;

use cobaltine_e2e::{Browser, Program};
use serde_json::Value;

const ENTER: &str = "\u{E007}";
const TAB: &str = "\u{E004}";
const CONTROL_ENTER: &str = "const k = new KeyboardEvent('keydown', {key: 'Enter', ctrlKey: true, bubbles: true}); \
     document.activeElement.dispatchEvent(k)";

/// Sits someone down through the dialog, as a first visit does.
async fn sit_down(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    browser.press("Choose your name").await?;
    browser.see("dialog .people").await?;
    browser.press("Tamsin").await?;
    browser.read("Signing as Tamsin").await
}

/// Opens the return test of a demo job by its name.
async fn open_job(browser: &Browser, program: &Program, words: &str) -> anyhow::Result<()> {
    let script = format!(
        "return fetch('/api/board?q={words}').then(r => r.json()).then(b => b.cards[0].id)"
    );
    let id = browser.script(&script).await?;
    browser
        .go(&format!("{}/jobs/{}/on-engine", program.address, id.as_str().unwrap_or_default()))
        .await?;
    browser.see(".strip").await.map(drop)
}

/// A picture of this step, where `COBALTINE_STORY_OUT` names a folder for them.
async fn look(browser: &Browser, name: &str) -> anyhow::Result<()> {
    match std::env::var("COBALTINE_STORY_OUT") {
        Ok(folder) => browser.picture(&std::path::Path::new(&folder).join(name)).await,
        Err(_) => Ok(()),
    }
}

async fn count(browser: &Browser, css: &str) -> anyhow::Result<usize> {
    let found =
        browser.script(&format!("return document.querySelectorAll({css:?}).length")).await?;
    Ok(found.as_u64().unwrap_or_default() as usize)
}

#[tokio::test(flavor = "multi_thread")]
async fn stories() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if told.is_err() {
        look(&browser, "story-failed.png").await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    first_view_is_light_and_from_here(browser, program).await?;
    keyboard_only_from_intake_to_report(browser, program).await?;
    gloves_on_a_tablet(browser, program).await?;
    colours_can_be_read(browser, program).await
}

/// Script of the first view under 90 KB as sent, and nothing from anywhere else.
async fn first_view_is_light_and_from_here(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    browser.read("Net hauler").await?;
    let script =
        "return performance.getEntriesByType('resource').map(e => [e.name, e.encodedBodySize])";
    let sent = browser.script(script).await?;
    let sent: Vec<(String, u64)> = serde_json::from_value(sent)?;
    assert!(sent.iter().all(|(name, _)| name.starts_with(&program.address)), "{sent:?}");
    let scripts: u64 =
        sent.iter().filter(|(name, _)| name.ends_with(".js")).map(|(_, size)| size).sum();
    println!("script of the first view: {scripts} bytes gzipped");
    assert!((10_000..90_000).contains(&scripts), "{scripts} bytes: {sent:?}");
    Ok(())
}

/// No mouse: take in, set up, type a run with a mistake in it, decide, report, reload, find again.
async fn keyboard_only_from_intake_to_report(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    browser.read("Book in a job").await?;
    browser.keys("n").await?;
    browser.read("Machine and complaint").await?;
    browser.see("#machine:focus").await?;
    browser.script(CONTROL_ENTER).await?;
    browser.read("Enter the machine so the job can be found.").await?;
    browser.keys(&format!("Beet harvester{TAB}Dyke farm{TAB}Tarve T4{TAB}870 h{TAB} ")).await?;
    assert_eq!(count(browser, ".symptoms [aria-pressed=true]").await?, 1, "space picks a symptom");
    browser.script(CONTROL_ENTER).await?;

    browser.read("Affected cylinders unknown").await?;
    browser.read("Fuel sample").await?;
    for stage in
        ["A clear jar from the filter", "Battery feed: ignition on", "Set up the return test"]
    {
        browser.keys("]").await?;
        browser.read(stage).await?;
    }
    browser.see("#capacity:focus").await?;
    browser.keys(&format!("{TAB}{TAB}{TAB}hot{ENTER}")).await?;
    browser.read("Enter a number.").await?;
    assert_eq!(
        browser.script("return document.querySelector('#temperature').value").await?,
        "hot",
        "kept"
    );
    browser.fill("#temperature", &format!("180 F{ENTER}")).await?;
    browser.read("Start run 1").await?;
    browser.keys("t").await?;
    browser.read("How long did it run?").await?;
    browser.see("[data-entry]:focus").await?;
    browser.keys(&format!("2:00{ENTER}")).await?;
    browser.read("Bottle 1: level").await?;
    browser.keys(&format!("abc{ENTER}")).await?;
    browser.read("Enter a number.").await?;
    browser.client.refresh().await?;
    browser.see("[data-entry]:focus").await?;
    let kept = browser.script("return document.querySelector('[data-entry]').value").await?;
    assert_eq!(kept, "abc", "what was refused survives a reload");
    browser.script("document.querySelector('[data-entry]').select()").await?;
    browser.keys(&format!("22,5{ENTER}")).await?;
    for (next, level) in [(2, "61"), (3, "24"), (4, "23")] {
        browser.read(&format!("Bottle {next}: level")).await?;
        browser.see(&format!("[aria-label='Reading of cylinder {next}']:focus")).await?;
        browser.keys(&format!("{level}{ENTER}")).await?;
    }
    browser.read("Cylinder 2: leak-off").await?;
    browser.read("60 × 61 ÷ 120 = 30.5 ml/min").await?;
    browser.read("More than 3 × the lowest").await?;
    // Three readings say as much already: keys go to the page once the last field has gone.
    browser.read("Start run 2").await?;

    browser.keys("]").await?;
    browser.read("No bench session for this job yet").await?;
    browser.keys("]").await?;
    browser.read("Retest 2; leave 1, 3 and 4.").await?;
    browser.keys("2").await?;
    // One run does not carry a replacement, and what moved the suspicion stands beside it.
    browser.read("The decision on cylinder 2 waits for it.").await?;
    browser.read("Return test (leak-off), repeated").await?;
    browser.read("Leak-off 30.5 ml/min").await?;
    browser.keys("o").await?;
    browser.see("#reason").await?;
    browser.script("document.querySelector('input[value=replace]').click()").await?;
    browser.fill("#reason", "Knocks on this one too.").await?;
    browser.press("Decide: replace or recondition").await?;
    for decided in 2..=4 {
        let rows =
            format!("return document.querySelectorAll('.decided').length === {}", decided - 1);
        wait_for(browser, &rows).await?;
        browser.keys("a").await?;
    }
    browser.read("All injectors decided.").await?;
    browser.keys("p").await?;
    browser.press("Add technical pages").await?;
    browser.read("Knocks on this one too.").await?;
    browser.read("All readings; corrected ones struck out").await?;
    browser.client.refresh().await?;
    browser.read("Replace or recondition.").await?;
    let pages = browser.client.print(fantoccini::wd::PrintConfiguration::default()).await?;
    assert!(pages.starts_with(b"%PDF") && pages.len() > 20_000, "a page to print");
    if let Ok(folder) = std::env::var("COBALTINE_STORY_OUT") {
        std::fs::write(format!("{folder}/report.pdf"), pages)?;
    }

    browser.go(&program.address).await?;
    browser.read("Beet harvester").await?;
    browser.keys("/").await?;
    browser.see("dialog input").await?;
    browser.keys("beet harv").await?;
    browser.read("job 234").await?;
    browser.enter().await?;
    browser.read("Cylinder 2: leak-off").await
}

async fn wait_for(browser: &Browser, script: &str) -> anyhow::Result<()> {
    for _ in 0..300 {
        if browser.script(script).await? == Value::Bool(true) {
            return Ok(());
        }
        tokio::time::sleep(std::time::Duration::from_millis(30)).await;
    }
    anyhow::bail!("never came true: {script}\n{}", browser.words().await?)
}

/// Fingers only, held upright: timer over a reload, an overflow by tapping its column, the pad, a correction.
async fn gloves_on_a_tablet(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.resize(768, 1024).await?;
    open_job(browser, program, "creamery").await?;
    browser.press("Start run 2").await?;
    browser.read("left of 2:00").await?;
    browser.client.refresh().await?;
    browser.read("left of 2:00").await?;
    browser.see("[aria-label^='Cylinder 2']").await?.click().await?;
    wait_for(browser, "return document.querySelector('.history [data-cylinder=\"2\"]').innerText.includes('full')").await?;
    browser.press("Stop and read").await?;
    for _ in 0..3 {
        browser.read("level").await?;
        let before = count(browser, ".history .strip-row:first-child .cell > button").await?;
        for key in ["0", ".", "1"] {
            browser.script(&format!("[...document.querySelectorAll('.pad button')].find(b => b.innerText === '{key}').click()")).await?;
        }
        // A link to the next check begins with the same word.
        browser.script("[...document.querySelectorAll('button')].find(b => b.innerText.trim().startsWith('Next')).click()").await?;
        wait_for(browser, &format!("return document.querySelectorAll('.history .strip-row:first-child .cell > button').length > {before}")).await?;
    }
    browser.read("Start run 3").await?;
    browser.see("[data-of='1-4']").await?.click().await?;
    browser.read("correction").await?;
    browser
        .script(
            "[...document.querySelectorAll('.pad button')].find(b => b.innerText === '9').click()",
        )
        .await?;
    browser.press("misread").await?;
    browser.press("Save correction").await?;
    wait_for(
        browser,
        "return document.querySelector(\"[data-of='1-4']\").innerText.trim().startsWith('9 ')",
    )
    .await?;
    // A word in the middle of a sentence is as wide as it is.
    let small = "return [...document.querySelectorAll('main button, main a, main [role=radio], main label.choice')] \
        .filter(e => e.offsetParent && !e.matches('.term') && (e.offsetHeight < 44 || e.offsetWidth < 40)) \
        .map(e => `${e.className} ${e.innerText} ${e.offsetWidth}x${e.offsetHeight}`)";
    for path in ["", "/jobs/new"] {
        if !path.is_empty() {
            browser.go(&format!("{}{path}", program.address)).await?;
            browser.read("Machine and complaint").await?;
        }
        let found = browser.script(small).await?;
        assert_eq!(found, Value::Array(Vec::new()), "too small for a glove");
        let wide =
            browser.script("return document.documentElement.scrollWidth <= innerWidth").await?;
        assert_eq!(wide, Value::Bool(true), "nothing hangs over the edge: {path}");
    }
    browser.resize(1280, 800).await
}

/// WCAG 2.2 AA for every pair of colours that carries words, in both themes.
async fn colours_can_be_read(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    browser.go(&program.address).await?;
    let script = r"
        const light = hex => { const c = [1, 3, 5].map(i => parseInt(hex.slice(i, i + 2), 16) / 255)
            .map(v => v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
            return 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2]; };
        const full = hex => hex.length === 4 ? '#' + [...hex.slice(1)].map(c => c + c).join('') : hex;
        const worst = [];
        for (const theme of ['bright', 'dim']) {
            document.documentElement.dataset.theme = theme;
            const style = getComputedStyle(document.documentElement);
            const get = name => full(style.getPropertyValue('--' + name).trim());
            const on = (names, grounds, least) => { for (const n of names) for (const g of grounds) {
                const [a, b] = [light(get(n)), light(get(g))];
                const ratio = (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
                if (!(ratio >= least)) worst.push(`${theme} ${n} on ${g}: ${ratio.toFixed(2)} < ${least}`); } };
            on(['ink', 'muted', 'act', 'inside', 'too-much', 'too-little', 'look', 'undecided', 'questioned',
                'not-measured'], ['paper', 'sheet', 'act-soft'], 4.5);
            on(['bar-ink', 'bar-muted'], ['bar'], 4.5);
            on(['act-ink'], ['act'], 4.5);
            on(['edge'], ['paper', 'sheet'], 3);
        }
        document.documentElement.dataset.theme = 'bright';
        return worst;";
    assert_eq!(browser.script(script).await?, Value::Array(Vec::new()));
    Ok(())
}

/// What goes wrong in a workshop: a broken file, two people at one job, a program that is gone.
#[tokio::test(flavor = "multi_thread")]
async fn mishaps_lose_nothing() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;

    let folder = tempfile::tempdir()?;
    let source = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/job-hop-sprayer.json");
    let whole = std::fs::read_to_string(source)?;
    let new_id = whole.replace("\"version\": 1", "\"version\": 3");
    for (name, text, says) in [
        ("cut.json", &whole[..whole.len() / 2], "Not understood"),
        ("newer.json", new_id.as_str(), "cobaltine.job version 1 is needed"),
    ] {
        let path = folder.path().join(name);
        std::fs::write(&path, text)?;
        browser.go(&format!("{}/workshop", program.address)).await?;
        let input = browser.see("input[accept='application/json,.json']").await?;
        input.send_keys(&path.display().to_string()).await?;
        browser.read("Nothing was imported.").await?;
        browser.read(says).await?;
    }

    open_job(&browser, &program, "hauler").await?;
    browser.press("Take in").await?;
    browser.fill("#customer", "Skerry Fishing, quay 2").await?;
    let theirs = "return (async () => { const id = location.pathname.split('/')[2]; \
        const { file } = await (await fetch(`/api/jobs/${id}`)).json(); \
        const body = { revision: 1, intake: { ...file.job.intake, machine: 'Net hauler, aft' }, labels: [] }; \
        return (await fetch(`/api/jobs/${id}/intake`, { method: 'PUT', body: JSON.stringify(body), \
            headers: { 'content-type': 'application/json', 'x-at-bench': localStorage.getItem('bench-id') } })).status; })()";
    assert_eq!(browser.script(theirs).await?, 200);
    browser.press("Save changes").await?;
    browser.read("Someone changed this job while you had it open.").await?;
    browser.read("Saved now: Net hauler, aft").await?;
    let mine = browser.script("return document.querySelector('#customer').value").await?;
    assert_eq!(mine, "Skerry Fishing, quay 2", "what was typed is still there");
    browser.press("Save mine").await?;
    browser.read("Saved").await?;

    open_job(&browser, &program, "float").await?;
    browser.see("[aria-label='Reading of cylinder 2']:focus").await?;
    browser.keys("9,5").await?;
    assert!(program.end()?);
    browser.enter().await?;
    browser.read("No answer from Cobaltine. Your entry is kept; try again.").await?;
    let kept = browser.script("return document.querySelector('[data-entry]').value").await?;
    assert_eq!(kept, "9,5");
    browser.client.clone().close().await?;
    Ok(())
}

/// The board and the words around the work: filter, keys, notes, and a name on every control.
#[tokio::test(flavor = "multi_thread")]
async fn the_board_finds_and_every_control_has_a_name() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    let rows = "return document.querySelectorAll('li .row').length";
    browser.read("32 jobs").await?;
    assert_eq!(browser.script(rows).await?, 20);
    browser.press("retest").await?;
    wait_for(&browser, "return document.querySelectorAll('li .row').length === 6").await?;
    browser.press("retest").await?;
    browser.fill("input[type=search]", &format!("hop{ENTER}")).await?;
    wait_for(&browser, "return document.querySelectorAll('li .row').length === 1").await?;
    browser.read("almost no leak-off. Confirm it first.").await?;
    browser.fill("input[type=search]", &format!("zeppelin{ENTER}")).await?;
    browser.read("No matching job.").await?;

    open_job(&browser, &program, "hop").await?;
    browser.keys("?").await?;
    browser.read("start the run").await?;
    browser.read("cylinder 3: select it, or its bottle is full").await?;
    browser.keys("\u{E00C}").await?;
    wait_for(&browser, "return !document.querySelector('dialog')").await?;
    browser.press("Bench").await?;
    browser.press("Notes").await?;
    browser.press("Save note").await?;
    browser.read("Enter a few words.").await?;
    browser.fill("#note", "Tip looks burnt on 2.").await?;
    browser.press("Save note").await?;
    browser.read("Tamsin, ").await?;
    assert_eq!(browser.script("return document.querySelector('#note').value").await?, "");
    browser.keys("l").await.ok();
    let id = browser.script("return location.pathname.split('/')[2]").await?;
    let job = format!("/jobs/{}", id.as_str().unwrap_or_default());

    let nameless = "return [...document.querySelectorAll('button, a, input, textarea, select, [role=img]')] \
        .filter(e => !(e.getAttribute('aria-label') || e.innerText || e.labels?.length || e.title \
            || e.closest('label')) && e.getAttribute('aria-hidden') !== 'true' && e.offsetParent) \
        .map(e => e.outerHTML.slice(0, 120))";
    let session = browser
        .script("return fetch('/api/bench').then(r => r.json()).then(b => b.lines.at(-1).id)")
        .await?;
    let session = format!("/bench/{}", session.as_str().unwrap_or_default());
    for path in [
        "/",
        "/bench",
        "/bench/new",
        &format!("{session}/visual"),
        &format!("{session}/flow"),
        &format!("{session}/sweep"),
        &format!("{session}/drive"),
        "/jobs/new",
        "/workshop",
        "/library/file",
        "/library/new",
        "/instruments",
        "/connections",
        "/rules",
        "/calculators/coil_temperature",
        &format!("{job}/take-in/plan"),
        &format!("{job}/rule-out/fuel_sample"),
        &format!("{job}/electrical/indicator"),
        &format!("{job}/on-engine"),
        &format!("{job}/on-engine/swap"),
        &format!("{job}/decide"),
        &format!("{job}/report?pages=all"),
    ] {
        browser.go(&format!("{}{path}", program.address)).await?;
        browser.see("main h1, main .row, main .strip, main h2, main .lines").await?;
        assert_eq!(browser.script(nameless).await?, Value::Array(Vec::new()), "{path}");
    }
    browser.read("Tip looks burnt on 2.").await?;
    browser.client.clone().close().await?;
    Ok(())
}
