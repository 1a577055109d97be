//! The bench, through the real interface: a set cleaned and proven by the repeat, a shim loop that
//! counts the drawer down, a file of readings with a bad line in it.

use crate::{ENTER, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};

#[tokio::test(flavor = "multi_thread")]
async fn bench_stories() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if let (Err(_), Ok(folder)) = (&told, std::env::var("COBALTINE_STORY_OUT")) {
        browser.picture(&std::path::Path::new(&folder).join("bench-failed.png")).await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    a_set_is_cleaned_and_the_repeat_says_what_it_did(browser, program).await?;
    a_lift_is_set_in_three_fits_from_the_drawer(browser, program).await?;
    a_file_comes_in_whole_or_not_at_all(browser, program).await?;
    a_full_session_is_drawn_at_once_after_each_entry(browser, program).await
}

/// What an entry of a session of 8 injectors at 10 points may take, kept, judged and drawn, ms; and
/// how much slower a busy machine may be before this story says that the program is.
const MOST_MS: f64 = 50.0;
const BUSY: f64 = 3.0;
const TIMES: f64 = 4.0;

/// Opens the bench stage of a demo job and hangs its injectors.
async fn hang(browser: &Browser, program: &Program, words: &str, count: u32) -> anyhow::Result<()> {
    let script = format!(
        "return fetch('/api/board?q={words}').then(r => r.json()).then(b => b.cards[0].id)"
    );
    let id = browser.script(&script).await?;
    let job = id.as_str().unwrap_or_default();
    browser.go(&format!("{}/jobs/{job}/bench", program.address)).await?;
    browser.read("No bench session for this job yet").await?;
    // The plans come late: a session that begins all the same has its plan.
    browser
        .script(
            "const real = window.fetch; window.fetch = async (asked, told) => { \
             if ((asked.url ?? asked).includes('/api/library')) await new Promise(done => setTimeout(done, 900)); \
             return real(asked, told); }",
        )
        .await?;
    browser.press("Start a bench session").await?;
    browser.press(&format!("Fit {count} to the bench rail")).await?;
    browser.read("Visual inspection").await
}

/// Types into the tubes that follow each other, from this one on.
async fn tubes(browser: &Browser, first: &str, values: &[&str]) -> anyhow::Result<()> {
    browser.see(&format!("[aria-label='{first}']")).await?.click().await?;
    browser.keys(&values.iter().map(|value| format!("{value}{ENTER}")).collect::<String>()).await
}

async fn choose(browser: &Browser, id: &str, value: &str) -> anyhow::Result<()> {
    browser.see(&format!("#{id}")).await?;
    let script = format!(
        "const e = document.querySelector('#{id}'); e.value = '{value}'; e.dispatchEvent(new Event('change'))"
    );
    browser.script(&script).await.map(drop)
}

async fn a_set_is_cleaned_and_the_repeat_says_what_it_did(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    hang(browser, program, "frost", 4).await?;
    // A sketch changes with the answer; each tap is kept.
    browser.see("[aria-label='Tip of injector 3: not stated']").await?.click().await?;
    browser.see("[aria-label='Tip of injector 3: clean']").await?.click().await?;
    browser.read("Carbon on the tip: clean, then look again.").await?;
    // A drive that would burn the coils is refused where it is chosen and where it would be used.
    browser.press("Drive").await?;
    choose(browser, "set--drive", "3").await?;
    browser.read("Do not pulse: boosted, 65 V, 18 A").await?;
    browser.press("Flow").await?;
    tubes(browser, "Tube, fully open, injector 1", &["60"]).await?;
    let refused = "return [...document.querySelectorAll('[role=alert]')].filter(e => e.innerText.includes('Do not pulse')).length === 2";
    wait_for(browser, refused).await?;
    browser.press("Go to driver check").await?;
    choose(browser, "set--drive", "0").await?;
    browser.read("within what each injector takes").await?;
    browser.press("Flow").await?;
    browser.fill("#set--pressure", &format!("3 bar{ENTER}")).await?;
    choose(browser, "set--fluid", "1").await?;
    choose(browser, "set--opinion", "2").await?;
    tubes(browser, "Tube, fully open, injector 1", &["60", "59.6", "48", "60.2"]).await?;
    browser.read("Injector 3: too little flow.").await?;
    browser.read("Stated as within 2 %; the readings spread by 21.4 % at fully open").await?;
    // A tube read at once after its run stands in foam.
    browser.press("run ended").await?;
    browser.read("foam 0:4").await?;
    tubes(browser, "Tube, idle, injector 1", &["12.8"]).await?;
    browser.read("before the foam settles").await?;
    // Down the columns: idle, then mid of the same injector.
    browser.keys("d").await?;
    tubes(browser, "Tube, mid, injector 1", &["24.8"]).await?;
    browser.see("[aria-label='Tube, high, injector 1']:focus").await?;
    browser.keys("d").await?;

    browser.press("+ cleaned").await?;
    // Nobody decided it: one reason for all, signed as their decision.
    browser.read("Cleaning is not decided for these").await?;
    browser.fill("#cleaned-because", "Carbon on the tips.").await?;
    browser.press("Decide and clean").await?;
    browser.press("Clean").await?;
    for step in ["soak", "bath", "back_flush", "baskets"] {
        browser.see(&format!("[data-answer='{step}-1']")).await?.click().await?;
    }
    browser.press("Time ultrasonic bath").await?;
    browser.read("it runs, and rings on the board").await?;
    browser.read("Repeat the same regimes").await?;
    browser.press("Flow").await?;
    browser.press("Use conditions of").await?;
    wait_for(browser, "return document.querySelector('#set--pressure').value === '3'").await?;
    tubes(browser, "Tube, fully open, injector 1", &["60", "59.6", "59.2", "60.2"]).await?;
    browser.read("The set is close").await?;
    browser.press("Clean").await?;
    browser.read("Injector 3: recovered.").await?;
    browser.read("236.8").await?;
    browser.client.refresh().await?;
    browser.read("Injector 3: recovered.").await
}

async fn a_lift_is_set_in_three_fits_from_the_drawer(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    hang(browser, program, "hauler", 4).await?;
    browser.press("Lift").await?;
    tubes(browser, "Shim fitted, injector 2", &["1030"]).await?;
    tubes(browser, "Lift measured, injector 2", &["73"]).await?;
    browser.read("too high: fit 1005 µm, giving 53 µm of lift.").await?;
    browser.press("Fit 1005").await?;
    let left = |size: u32, count: u32| {
        format!(
            "return [...document.querySelectorAll('.drawer li')].some(l => l.innerText.replace(/\\s+/g, ' ').startsWith('{size} {count}'))"
        )
    };
    wait_for(browser, &left(1005, 1)).await?;
    tubes(browser, "Lift measured, injector 2", &["62"]).await?;
    browser.read("Gain: 0.44 µm of lift per µm of shim").await?;
    browser.press("Fit 980").await?;
    wait_for(browser, &left(980, 1)).await?;
    tubes(browser, "Lift measured, injector 2", &["51.5"]).await?;
    browser.read("Lift within limits after 3 fits.").await?;
    tubes(browser, "Shim fitted, injector 1", &["1001"]).await?;
    browser.read("No shim of 1001 µm in stock; the nearest on hand is 1000 µm.").await
}

async fn a_file_comes_in_whole_or_not_at_all(
    browser: &Browser,
    _program: &Program,
) -> anyhow::Result<()> {
    browser.press("+ final").await?;
    browser.press("Map").await?;
    let folder = tempfile::tempdir()?;
    let path = folder.path().join("bench.csv");
    let rows = |full: &str| {
        let points = [("pilot", 1.8), ("idle", 7.0), ("part load", 12.0), ("full load", 31.0)];
        let mut text = "Slot,Step,Injected ml\n".to_owned();
        for (point, ml) in points {
            for slot in 1..=4 {
                text += &format!("{slot},{point},{ml}\n");
            }
        }
        text + &format!("1,full load,{full}\n")
    };
    let bring = async |full: &str| -> anyhow::Result<()> {
        std::fs::write(&path, rows(full))?;
        browser.press("Import readings").await?;
        let input = browser.see("dialog input[type=file]").await?;
        Ok(input.send_keys(&path.display().to_string()).await?)
    };
    bring("lots").await?;
    browser.read("No column holds a quantity.").await?;
    let third = "[aria-label='Injected ml is']";
    browser.see(third).await?;
    browser
        .script(&format!("const e = document.querySelector(\"{third}\"); e.value = 'delivered'; e.dispatchEvent(new Event('change'))"))
        .await?;
    browser.read("Line 18: delivered: \"lots\" is not a number.").await?;
    browser.keys("\u{E00C}").await?;
    wait_for(browser, "return !document.querySelector('dialog[open]')").await?;
    bring("31.2").await?;
    browser.see(third).await?;
    browser
        .script(&format!("const e = document.querySelector(\"{third}\"); e.value = 'delivered'; e.dispatchEvent(new Event('change'))"))
        .await?;
    browser.press("Import 16 readings").await?;
    browser.read("All points read are within limits.").await?;
    browser.read("not read on all: static return").await?;
    let mean = "return document.querySelector(\"[aria-label='Delivered, full load, injector 1']\").value === '31.1'";
    wait_for(browser, mean).await?;
    browser.press("Code").await?;
    browser.read("Injectors 1, 2, 3 and 4 coded.").await?;
    browser.press("Map").await?;
    bring("31.2").await?;
    browser.read("Columns as last time.").await?;
    browser.read("16 correct existing ones").await
}

/// From leaving a tube to its mark on the screen, at 8 injectors and 10 points.
async fn a_full_session_is_drawn_at_once_after_each_entry(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    let session = browser.script(FULL_SESSION).await?;
    let session = session.as_str().unwrap_or_default();
    browser.go(&format!("{}/bench/{session}/map", program.address)).await?;
    browser.see("[aria-label='Delivered, point 10, injector 8']").await?;
    let took = browser.script(TYPE_A_ROW).await?;
    let [mut took, mut plain]: [Vec<f64>; 2] = serde_json::from_value(took)?;
    took.sort_by(f64::total_cmp);
    plain.sort_by(f64::total_cmp);
    println!("an entry at 8 × 10, kept, judged and drawn: {took:.1?} ms");
    // The quickest shows what the program takes; what else the machine does adds to the others, and to a
    // question of no work at all with two frames behind it, asked in the same breath.
    assert!(took[0] < (BUSY * MOST_MS).max(TIMES * plain[0]), "{took:?}, plain {plain:?}");
    Ok(())
}

/// A plan of ten points, eight injectors, everything read but the last row; gives the session.
const FULL_SESSION: &str = "return (async () => { \
    const headers = { 'content-type': 'application/json', 'x-at-bench': localStorage.getItem('bench-id') }; \
    const send = async (method, path, body) => (await fetch('/api' + path, { method, headers, body: JSON.stringify(body) })).json(); \
    const id = () => crypto.randomUUID(); \
    const points = Array.from({ length: 10 }, (_, i) => ({ name: `point ${i + 1}`, rail_kpa: 20000 * (i + 1), energising_ms: 0.4, strokes: 1000, temperature_c: 40 })); \
    const plan = id(); \
    await send('PUT', '/library/items', { id: plan, name: 'Ten points', revision: 0, detail: { kind: 'test_plan', family: 'Kettra 60 solenoid', points, note: '' } }); \
    const job = (await (await fetch('/api/board?q=pilot')).json()).cards[0].id; \
    const [session, round] = [id(), id()]; \
    const injectors = Array.from({ length: 8 }, (_, i) => ({ job, cylinder: i + 1 })); \
    await send('POST', '/bench', { id: session, round, injectors, bench: null, graduation: '0.02', capacity: '100', entry: 'per_stroke', plan }); \
    for (let row = 1; row < 10; row++) for (let tag = 1; tag <= 8; tag++) \
        await send('POST', `/bench/${session}/cells`, { id: id(), round, test: 'map', cell: 'delivered', row, tag, typed: `${row}2.${tag}`, corrects: null }); \
    return session; })()";

/// Types the last row tube by tube; how long each took from leaving the tube until its mark was
/// drawn, ms. The tube is on the screen with its caret before it is typed into, as at the bench.
const TYPE_A_ROW: &str = "return (async () => { \
    const took = []; const plain = []; const frame = () => new Promise(done => requestAnimationFrame(done)); \
    for (let tag = 1; tag <= 8; tag++) { \
        const tube = document.querySelector(`[aria-label='Delivered, point 10, injector ${tag}']`); \
        tube.focus(); await frame(); await frame(); tube.value = `10${tag}`; tube.dispatchEvent(new Event('input', { bubbles: true })); \
        const from = performance.now(); \
        tube.blur(); \
        await new Promise(done => { const look = () => tube.closest('.tube').querySelector('.fill') ? done() : requestAnimationFrame(look); look(); }); \
        took.push(performance.now() - from); \
        const asked = performance.now(); \
        await fetch('/livez'); await frame(); await frame(); \
        plain.push(performance.now() - asked); \
    } \
    return [took, plain]; })()";
