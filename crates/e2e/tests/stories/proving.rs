//! The second half through the real interface: fitted, proven, closed; the report as one file; an
//! injector's passport found by its label.

use crate::{open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};
use std::time::Duration;

const ENTER: &str = "\u{E007}";
/// What the report of twelve cylinders may take, from the address to the last page drawn.
const MOST_FOR_A_REPORT: Duration = Duration::from_secs(1);
/// How much slower a busy machine may be before this story says that the program is.
const BUSY: f64 = 3.0;

#[tokio::test(flavor = "multi_thread")]
async fn proving_stories() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if let (Err(_), Ok(folder)) = (&told, std::env::var("COBALTINE_STORY_OUT")) {
        browser.picture(&std::path::Path::new(&folder).join("proving-failed.png")).await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    open_job(browser, program, "196").await?;
    let here = browser.script("return location.pathname.split('/').slice(0, 3).join('/')").await?;
    let job = format!("{}{}", program.address, here.as_str().unwrap_or_default());
    a_tick_is_made_taken_back_and_what_was_out_is_counted(browser, &job).await?;
    nothing_is_closed_before_it_is_proven(browser, &job).await?;
    the_report_goes_out_as_one_file(browser, &job).await?;
    a_passport_is_found_by_its_label(browser, program, &job).await?;
    twelve_cylinders_are_laid_out_at_once(browser, program).await?;
    a_cut_off_workshop_is_refused_and_the_whole_one_changes_nothing(browser, program).await
}

async fn a_tick_is_made_taken_back_and_what_was_out_is_counted(
    browser: &Browser,
    job: &str,
) -> anyhow::Result<()> {
    browser.go(&format!("{job}/refit")).await?;
    browser.read("Every removed injector is fitted, step by step.").await?;
    browser.read("seal left behind").await?;
    let washer = "[aria-label^='New sealing washer, cylinder 3']";
    browser.see(washer).await?.click().await?;
    browser.read("Cylinder 3 to fit: 1 step open.").await?;
    browser.see(&format!("{washer}[aria-pressed=false]")).await?.click().await?;
    browser.see(&format!("{washer}[aria-pressed=true]")).await?;
    browser.read("Go to trim codes").await
}

async fn nothing_is_closed_before_it_is_proven(browser: &Browser, job: &str) -> anyhow::Result<()> {
    browser.go(&format!("{job}/prove")).await?;
    // The tick was made anew after the proof was begun, but nothing moved: what was told stands.
    browser.read("Next: relearn drive.").await?;
    browser
        .read("Still open: relearn drive; fault codes read again; road test; the failed test")
        .await?;
    assert!(
        browser.script("return document.querySelector('.closing .main-act').disabled").await?
            == true
    );
    browser.script("document.querySelector('.drive details:has(.knobs)').open = true").await?;
    browser.press("Start engine").await?;
    for (band, times) in [("cruise", 2), ("coast", 5)] {
        for _ in 0..times {
            wait_for(browser, "return !document.querySelector('.knobs button:disabled')").await?;
            browser.press(&format!("Drive one {band} run")).await?;
        }
    }
    wait_for(browser, "return !document.querySelector('.knobs button:disabled')").await?;
    browser.press("Read counters").await?;
    browser.read("Every relearn counter is full.").await?;
    browser.read("Next: fault codes read again.").await?;
    // A tap alone is no proof of what was seen on a scan tool or on the road.
    let off = "return [...document.querySelectorAll('.item.next button')].find(b => b.innerText.trim() === 'Mark passed').disabled";
    assert!(browser.script(off).await? == true);
    browser.fill("#note-rescan", "No fault code stored.").await?;
    browser.press("Mark passed").await?;
    browser.read("Next: road test.").await?;
    // An exception needs its reason.
    browser.press("Skip and sign").await?;
    browser.read("Enter a few words.").await?;
    // Still there: what was left is decided again, and the search goes on.
    crate::look(browser, "proving-road.png").await?;
    browser.press("Better, still there").await?;
    browser.read("The complaint is better, and still there: the search goes on.").await?;
    crate::look(browser, "proving-left.png").await?;
    browser.go(&format!("{job}/decide")).await?;
    browser.read("The complaint is better, and still there: the search goes on.").await?;
    crate::look(browser, "proving-left-decide.png").await?;
    let board = format!("{}/?q=196", job.split("/jobs/").next().unwrap_or_default());
    browser.go(&board).await?;
    browser.read("decide 1, 2 and 4 again: something changed since").await?;
    crate::look(browser, "proving-left-board.png").await?;
    browser.go(&format!("{job}/prove")).await?;
    browser.fill("#note-road_test", "Pulls evenly up the hill.").await?;
    browser.press("Gone").await?;
    browser.read("Next: the failed test, repeated.").await?;
    browser.press("Open step").await?;
    browser.read("Cylinder 3: return test (leak-off) not repeated since").await?;
    repeated(browser).await?;
    browser.go(&format!("{job}/prove")).await?;
    browser
        .read("Return test repeated under the same conditions: cylinder 3 within limits, failed before.")
        .await?;
    browser.press("Close as proven").await?;
    browser.read("Closed as proven.").await?;
    browser.client.refresh().await?;
    browser.read("Closed as proven").await
}

/// The return test that failed, set up again under the same conditions and typed in.
async fn repeated(browser: &Browser) -> anyhow::Result<()> {
    browser.press("Change bottles or setup").await?;
    browser.fill("#temperature", "82").await?;
    browser.press("Save setup").await?;
    browser.read("Start run 1").await?;
    browser.keys("t").await?;
    browser.read("How long did it run?").await?;
    browser.see("[data-entry]:focus").await?;
    browser.keys(&format!("2:00{ENTER}")).await?;
    for (next, level) in [(1, "24"), (2, "25"), (3, "25"), (4, "24")] {
        browser.read(&format!("Bottle {next}: level")).await?;
        browser.see(&format!("[aria-label='Reading of cylinder {next}']:focus")).await?;
        browser.keys(&format!("{level}{ENTER}")).await?;
    }
    browser.read("Start run 2").await
}

async fn the_report_goes_out_as_one_file(browser: &Browser, job: &str) -> anyhow::Result<()> {
    browser.go(&format!("{job}/report?pages=all")).await?;
    browser
        .read("Cylinder 3: a new injector (27-4410) was fitted, because the old one failed")
        .await?;
    browser.read("Return test repeated under the same conditions: cylinder 3 went from").await?;
    browser.read("Closed as proven.").await?;
    // What is handed out is caught before the browser puts it into its folder.
    let caught = "const make = URL.createObjectURL; \
        URL.createObjectURL = blob => { blob.text().then(text => { window.caught = text; }); return make(blob); };";
    browser.script(caught).await?;
    browser.press("Save share file").await?;
    wait_for(browser, "return !!window.caught").await?;
    let file = browser.script("return window.caught").await?;
    let file = file.as_str().unwrap_or_default();
    let hash = browser.script("return document.querySelector('.hash code').innerText").await?;
    assert!(file.contains(hash.as_str().unwrap_or("none")), "the same hash as on the page");
    assert!(file.contains("a new injector (27-4410)") && file.contains("data:font/woff2;base64,"));
    for outside in ["<script", "src=\"/", "href=\"/assets", "url(\"/", "http://", "https://"] {
        assert!(!file.contains(outside), "nothing is fetched: {outside}");
    }
    Ok(())
}

async fn a_passport_is_found_by_its_label(
    browser: &Browser,
    program: &Program,
    job: &str,
) -> anyhow::Result<()> {
    browser.go(&format!("{job}/labels")).await?;
    browser.see("[aria-label='Trim code of 27-4410']").await?;
    let script = "return document.querySelector(\"a.label:has([aria-label='Trim code of 27-3102'])\").pathname.split('/').at(-1)";
    let id = browser.script(script).await?;
    // A scanner types what the label holds and ends with Enter.
    browser.go(&format!("{}/passports", program.address)).await?;
    browser.see("#scan:focus").await?;
    browser.keys(&format!("cobaltine:injector:{}{ENTER}", id.as_str().unwrap_or_default())).await?;
    browser.read("In cylinder 2 of Causeway tram 4. 2 jobs.").await?;
    // Typed by its beginning: the one that was taken out, over both of its jobs.
    browser.press("Find another injector").await?;
    browser.fill("#scan", "27-31").await?;
    browser.read("27-3104").await?;
    browser.fill("#scan", "27-3103").await?;
    browser.enter().await?;
    browser.read("Taken out of Causeway tram 4. 2 jobs.").await?;
    browser.read("Return flow: up by").await?;
    browser.read("cleaned on spec").await
}

/// The file that this workshop gives out, put back half and whole.
async fn a_cut_off_workshop_is_refused_and_the_whole_one_changes_nothing(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/workshop", program.address)).await?;
    browser.read("Import workshop file").await?;
    let put = |share: f64| {
        format!(
            "return (async () => {{ const text = await (await fetch('/api/workshop/export.jsonl')).text(); \
             const files = new DataTransfer(); \
             files.items.add(new File([text.slice(0, Math.floor(text.length * {share}))], 'workshop.jsonl')); \
             const input = document.querySelector(\"input[accept*='jsonl']\"); input.files = files.files; \
             input.dispatchEvent(new Event('change', {{ bubbles: true }})); }})()"
        )
    };
    browser.script(&put(0.5)).await?;
    browser.read("Not a line of a workshop file").await?;
    browser.read("Nothing was imported.").await?;
    browser.script(&put(1.0)).await?;
    browser.read("0 new jobs, 35 already here").await
}

/// Twelve columns: drawn within the time, and no strip is higher than a page or may be split.
async fn twelve_cylinders_are_laid_out_at_once(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "slate").await?;
    let here = browser.script("return location.pathname.split('/')[2]").await?;
    let here = here.as_str().unwrap_or_default();
    browser.go(&format!("{}/jobs/{here}/report?pages=all", program.address)).await?;
    browser.see(".hash").await?;
    let drawn = "return new Promise(done => { const at = () => document.querySelectorAll('.printed .strip .head').length >= 12 \
        ? requestAnimationFrame(() => done(performance.now())) : setTimeout(at, 5); at(); })";
    let most = MOST_FOR_A_REPORT.as_secs_f64() * 1000.0;
    let mut took = f64::INFINITY;
    // Other stories share the two cores: what counts is the quietest of three.
    for _ in 0..3 {
        browser.client.refresh().await?;
        took = took.min(browser.script(drawn).await?.as_f64().unwrap_or(f64::MAX));
        println!("report of twelve cylinders: {took:.0} ms from the address to its pages");
        if took < most {
            break;
        }
    }
    assert!(took < BUSY * most, "{took:.0} ms");
    let rules = "return [...document.styleSheets].flatMap(s => [...s.cssRules]).filter(r => r.cssText.startsWith('@media print') \
        && r.cssText.includes('.strip') && r.cssText.includes('break-inside: avoid')).length > 0";
    assert!(browser.script(rules).await? == true, "strips are not split");
    let highest = browser.script("return Math.max(...[...document.querySelectorAll('.printed .strip')].map(s => s.offsetHeight))").await?;
    // A4 less its margins is 1008 CSS pixels high, Letter 942.
    assert!(highest.as_f64().unwrap_or(f64::MAX) < 900.0, "{highest}");
    Ok(())
}
