//! From the complaint to the tests on the engine, through the real interface.

use crate::{ENTER, count, open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};
use serde_json::Value;

/// The most key strokes of a complete four-cylinder return test, digits left out.
const MOST_STROKES: usize = 40;

#[tokio::test(flavor = "multi_thread")]
async fn engine_stories() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &mut program).await;
    if let (Err(_), Ok(folder)) = (&told, std::env::var("COBALTINE_STORY_OUT")) {
        browser.picture(&std::path::Path::new(&folder).join("engine-failed.png")).await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &mut Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    a_complaint_becomes_a_plan_that_a_bad_sample_changes(browser, program).await?;
    a_return_test_in_few_strokes(browser, program).await?;
    bottles_are_tapped_at_their_mark_and_a_power_cut_loses_nothing(browser, program).await?;
    a_drifting_balance_asks_for_its_bracket(browser, program).await?;
    a_column_from_the_scan_tool_is_pasted(browser, program).await?;
    a_trace_is_read_corrected_and_taken_over(browser, program).await?;
    a_sticking_injector_is_heard_and_seen_in_recordings(browser, program).await?;
    a_swap_is_recorded_and_concluded(browser, program).await
}

async fn go(browser: &Browser, program: &Program, path: &str) -> anyhow::Result<()> {
    let here = browser.script("return location.pathname.split('/').slice(0, 3).join('/')").await?;
    let job = here.as_str().unwrap_or_default().to_owned();
    browser.go(&format!("{}{job}/{path}", program.address)).await
}

/// Taps only: symptoms, what changed, who suffers; the plan; the sample; the plan again.
async fn a_complaint_becomes_a_plan_that_a_bad_sample_changes(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/jobs/new", program.address)).await?;
    browser.fill("#machine", "Hay baler").await?;
    browser.read("Earlier job:").await?;
    for word in ["low power", "under load", "refuelled elsewhere", "all", "none stored"] {
        let path = format!(
            "return [...document.querySelectorAll('main button')].find(b => b.innerText.trim() === {word:?}).click()"
        );
        browser.script(&path).await?;
    }
    browser.press("Create job").await?;
    browser.read("check what they share before removing any injector").await?;
    browser.read("Earlier jobs on this machine").await?;
    browser.see(".next [href$='fuel_sample']").await?.click().await?;
    browser.read("Tap an answer; it saves at once.").await?;
    for answer in ["suffers-2", "look-3", "water-2"] {
        browser.see(&format!("[data-answer='{answer}']")).await?.click().await?;
    }
    browser.read("change fuel and filter").await?;
    browser.read("Unticked at start: tank above low mark.").await?;
    browser.see("[data-start='fuel_above_low']").await?.click().await?;
    wait_for(browser, "return !document.body.innerText.includes('Not ticked before')").await?;
    go(browser, program, "take-in/plan").await?;
    browser.read("judge no injector before that").await?;
    let waits = "return [...document.querySelectorAll('.step.waits')].some(s => s.innerText.includes('Return test'))";
    wait_for(browser, waits).await?;
    // A person goes on all the same, and leaves out what cannot be had here.
    let open = "[...document.querySelectorAll('.step')].find(s => s.innerText.includes('Supply pressure') || s.innerText.includes('Low-pressure'))";
    browser.script(&format!("{open}.querySelector('.head').click()")).await?;
    browser.script(&format!("[...{open}.querySelectorAll('.link-act')].find(b => b.innerText.includes('Do step anyway')).click()")).await?;
    wait_for(browser, &format!("return {open}.classList.contains('open')")).await?;
    browser.script(&format!("[...{open}.querySelectorAll('.link-act')].find(b => b.innerText.includes('Skip step')).click()")).await?;
    browser.fill("[data-reason]", &format!("no gauge here{ENTER}")).await?;
    browser.read("Skipped: no gauge here").await?;
    browser.fill("#own-title", &format!("Ask where the drum stood{ENTER}")).await?;
    browser.read("Ask where the drum stood").await
}

/// Counts strokes that are no digits, as a gloved hand would.
struct Strokes(usize);

impl Strokes {
    async fn type_in(&mut self, browser: &Browser, keys: &str) -> anyhow::Result<()> {
        self.0 += keys.chars().filter(|key| !key.is_ascii_digit()).count();
        browser.keys(keys).await
    }
}

/// Set-up, conditions, run and four levels with the keyboard alone.
async fn a_return_test_in_few_strokes(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    go(browser, program, "on-engine").await?;
    let mut strokes = Strokes(0);
    browser.see("#capacity:focus").await?;
    let tabs = "\u{E004}".repeat(3);
    strokes.type_in(browser, &format!("{tabs}82{ENTER}")).await?;
    browser.read("Start run 1").await?;
    strokes.type_in(browser, "a").await?;
    browser.read("All confirmed: 6 of 6").await?;
    strokes.type_in(browser, "t").await?;
    browser.see("[data-entry]:focus").await?;
    strokes.type_in(browser, &format!("2:00{ENTER}")).await?;
    for (cylinder, level) in [(1, "22"), (2, "60"), (3, "24"), (4, "23")] {
        browser.see(&format!("[aria-label='Reading of cylinder {cylinder}']:focus")).await?;
        strokes.type_in(browser, &format!("{level}{ENTER}")).await?;
    }
    browser.read("Cylinder 2: leak-off").await?;
    // Three bottles give the same sentence, so the fourth one may still be on its way: once it is
    // there, nothing is left to remark on, for everything was ticked and measured.
    wait_for(browser, "return !document.querySelector('.bench-finding .flag')").await?;
    println!("key strokes of a four-cylinder return test, digits left out: {}", strokes.0);
    assert!(strokes.0 < MOST_STROKES, "{}", strokes.0);
    Ok(())
}

/// Keys and taps as bottles reach the mark, an undo, and the program killed half-way.
async fn bottles_are_tapped_at_their_mark_and_a_power_cut_loses_nothing(
    browser: &Browser,
    program: &mut Program,
) -> anyhow::Result<()> {
    browser.press("Change bottles or setup").await?;
    browser.fill("#temperature", "82").await?;
    browser.press("Time bottles to a mark").await?;
    browser.fill("#mark", &format!("40{ENTER}")).await?;
    browser.read("Start run 1").await?;
    browser.press("Add timer").await?;
    browser.press("settle").await?;
    browser.read("settle").await?;
    browser.script("document.activeElement?.blur()").await?;
    browser.keys("a ").await?;
    browser.read("At 40 ml?").await?;
    let held = |n: u32| {
        format!(
            "return document.querySelector('.history [data-cylinder=\"{n}\"]').innerText.includes('40 ml in')"
        )
    };
    browser.keys("1").await?;
    wait_for(browser, &held(1)).await?;
    browser.keys("2").await?;
    wait_for(browser, &held(2)).await?;
    browser.keys("2").await?;
    wait_for(browser, &held(2).replace("return ", "return !")).await?;
    program.crash_and_restart()?;
    browser.client.refresh().await?;
    browser.read("At 40 ml?").await?;
    wait_for(browser, &held(1)).await?;
    browser.read("left of 2:00").await?;
    browser.read("settle").await?;
    // Tapped while the first bottle has long passed its mark, the others are slower.
    for cylinder in [2, 3, 4] {
        browser.see(&format!("[aria-label^='Cylinder {cylinder}']")).await?.click().await?;
        if cylinder < 4 {
            wait_for(browser, &held(cylinder)).await?;
        }
    }
    browser.read("Start run 2").await?;
    let rates = "return [...document.querySelectorAll('.result .value')].every(v => /\\d/.test(v.innerText))";
    wait_for(browser, rates).await?;
    // A run that was disturbed is kept, with its reason, and does not count.
    browser.press("exclude").await?;
    browser.press("a line came off").await?;
    browser.see(".history .aside").await?;
    browser.read("a line came off").await?;
    browser.go(&program.address).await?;
    browser.read("settle, Hay baler").await
}

/// A set typed cylinder by cylinder that creeps, then the first one again.
async fn a_drifting_balance_asks_for_its_bracket(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "railcar").await?;
    go(browser, program, "on-engine/pressure_drop").await?;
    browser.read("Readings drifted during the test").await?;
    browser.press("Start a new set").await?;
    wait_for(browser, "return document.querySelector('[data-of=\"1\"]').value === ''").await?;
    browser.fill("#set-pulses", &format!("50{ENTER}")).await?;
    browser.fill("#set-pulse", &format!("6{ENTER}")).await?;
    browser.see("[aria-label='Start of cylinder 1']").await?.click().await?;
    for end in ["2.14", "2.18", "2.22", "2.26", "2.30", "2.34"] {
        browser.keys(&format!("3{ENTER}{end}{ENTER}")).await?;
    }
    browser.read("possible drift. Repeat the first one.").await?;
    let order = "return [...document.querySelectorAll('.taken')].map(p => p.innerText).join('') === '123456'";
    wait_for(browser, order).await?;
    browser.fill("#set-bracket_start", &format!("3{ENTER}")).await?;
    browser.fill("#set-bracket_end", &format!("2.37{ENTER}")).await?;
    browser.read("whole spread: drift. Let the rail settle and repeat the set.").await?;
    browser.read("Same, corrected for drift").await?;
    assert_eq!(count(browser, ".mark[data-mark='too_little']").await?, 0, "no injector condemned");
    // One value typed ten times too large, and start and end the wrong way round, are asked about.
    browser.fill("[aria-label='End of cylinder 3']", &format!("22.2 kPa{ENTER}")).await?;
    browser.read("is a tenth of the others: decimal point slipped?").await?;
    browser.fill("[aria-label='End of cylinder 3']", &format!("3.12{ENTER}")).await?;
    browser.read("swapped?").await
}

/// Figures pasted as a column, in another unit, from the cell that has the focus.
async fn a_column_from_the_scan_tool_is_pasted(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "harbour").await?;
    go(browser, program, "on-engine/di_balance").await?;
    browser.see("[aria-label='Pressure change of cylinder 1']").await?.click().await?;
    let paste = "const data = new DataTransfer(); data.setData('text', '3,10 bar\\n3.05 bar\\n62 psi\\n3 bar\\n'); \
        document.activeElement.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))";
    browser.script(paste).await?;
    browser.read("Cylinder 3: above the others.").await?;
    browser.read("4.275").await
}

/// Sounds and currents of a made-up engine whose third injector sticks, from files.
async fn a_sticking_injector_is_heard_and_seen_in_recordings(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    let folder = tempfile::tempdir()?;
    let asked = ["--fault", "gum", "--at", "3", "--size", "1", "--out"];
    let mut command = std::process::Command::new(cobaltine_e2e::binary()?);
    let made = command.arg("recordings").args(asked).arg(folder.path()).output()?;
    assert!(made.status.success(), "{made:?}");
    for (check, drive, typed, end, kind, seen, verdict) in [
        ("listening", "speed", "800", "wav", "WAV", "ticks", "Cylinder 3: sound unlike"),
        ("drive_current", "volts", "14", "csv", "CSV", "kink at", "Cylinder 3: current unlike"),
    ] {
        open_job(browser, program, "sluice").await?;
        go(browser, program, &format!("electrical/{check}")).await?;
        browser.fill(&format!("#set-{drive}"), &format!("{typed}{ENTER}")).await?;
        for cylinder in 1..=4 {
            let input = format!("[aria-label='Choose a {kind} file for cylinder {cylinder}']");
            let file = folder.path().join(format!("cylinder-{cylinder}.{end}"));
            browser.see(&input).await?.send_keys(&file.display().to_string()).await?;
            let drawn = format!(
                "return [...document.querySelectorAll('.one .small')].filter(s => s.innerText.includes('{seen}')).length === {cylinder}"
            );
            wait_for(browser, &drawn).await?;
        }
        browser.read(verdict).await?;
    }
    // Typing is always at hand: a figure of a recording is corrected like any other.
    browser.fill("[aria-label='Kink at of cylinder 3']", &format!("0.95{ENTER}")).await?;
    browser.read("All 4 driven alike").await
}

/// A CSV file dropped in: drops found, one moved by hand, written into the cells.
async fn a_trace_is_read_corrected_and_taken_over(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "sluice").await?;
    go(browser, program, "on-engine/pressure_drop").await?;
    let mut text = "Time (s);Pressure (bar)\n".to_owned();
    let (mut t, mut from) = (0.0, 0.0);
    for end in [2.10, 2.12, 2.60, 2.11] {
        for (seconds, a, b) in [(1.0, from, 3.0), (2.0, 3.0, 3.0), (0.5, 3.0, end), (2.0, end, end)]
        {
            let n = (seconds * 50.0) as u32;
            for i in 0..n {
                text += &format!("{t:.2};{:.3}\n", a + (b - a) * f64::from(i) / f64::from(n));
                t += 0.02;
            }
        }
        from = end;
    }
    let folder = tempfile::tempdir()?;
    let path = folder.path().join("rail.csv");
    std::fs::write(&path, text)?;
    browser.see(".trace input[type=file]").await?.send_keys(&path.display().to_string()).await?;
    browser.read("4 drops found, one per injector").await?;
    browser.script("document.querySelectorAll('.drop button')[0].click()").await?;
    browser.read("Now tap the trace where it belongs.").await?;
    browser.see(".trace svg").await?.click().await?;
    browser.read("Tap a number to move it").await?;
    let moved =
        browser.script("return document.querySelectorAll('.drop button')[0].innerText").await?;
    assert_ne!(moved, Value::from("300.0"), "the start went where it was tapped");
    browser.script("document.querySelectorAll('.drop button')[0].click()").await?;
    // Back to the plateau before the first drop, a sixth of the first of four stretches.
    let tap = "const s = document.querySelector('.trace svg'), b = s.getBoundingClientRect(); \
        s.dispatchEvent(new MouseEvent('click', {clientX: b.left + b.width * 0.1, clientY: b.top + 5, bubbles: true}))";
    browser.script(tap).await?;
    browser.press("Use these drops").await?;
    browser.fill("#set-pulses", &format!("50{ENTER}")).await?;
    browser.fill("#set-pulse", &format!("6{ENTER}")).await?;
    browser.read("Cylinder 3: too little flow.").await
}

/// Two columns tapped; the old test is closed; the repeat is concluded side by side.
async fn a_swap_is_recorded_and_concluded(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "malt").await?;
    let label = |n: u32| {
        format!("return document.querySelector(\"[aria-label^='Cylinder {n}']\").innerText")
    };
    let (second, third) = (browser.script(&label(2)).await?, browser.script(&label(3)).await?);
    browser.press("Change bottles or setup").await?;
    browser.fill("#temperature", &format!("80{ENTER}")).await?;
    browser.read("Start run 1").await?;
    levels(browser, ["24", "70", "26", "25"]).await?;
    browser.press("Swap").await?;
    for cylinder in [2, 3] {
        browser.see(&format!("[aria-label='Choose cylinder {cylinder}']")).await?.click().await?;
    }
    browser.press("Record 2 and 3 swapped").await?;
    browser.read("Now repeat that test").await?;
    let moved = browser.script(&label(3)).await?;
    let name = |text: &Value| text.as_str().unwrap_or_default().chars().skip(1).collect::<String>();
    assert_eq!(name(&moved), name(&second), "the injector keeps its identity");
    assert_ne!(name(&moved), name(&third));
    go(browser, program, "on-engine").await?;
    // One press prepares the repeat: bottles, temperature and line as they were.
    browser.read("Injectors moved since this test").await?;
    browser.press("Prepare repeat, same setup").await?;
    browser.read("Start run 1").await?;
    levels(browser, ["25", "27", "66", "24"]).await?;
    go(browser, program, "on-engine/swap").await?;
    browser
        .read("The fault followed the injector from cylinder 2 to 3: it is the injector.")
        .await?;
    browser.read("As read: 80 °C and 80 °C.").await?;
    go(browser, program, "report?pages=all").await?;
    browser.read("followed the injector").await
}

async fn levels(browser: &Browser, levels: [&str; 4]) -> anyhow::Result<()> {
    browser.keys("at").await?;
    browser.see("[data-entry]:focus").await?;
    browser.keys(&format!("2:00{ENTER}")).await?;
    for (level, cylinder) in levels.iter().zip(1..) {
        browser.see(&format!("[aria-label='Reading of cylinder {cylinder}']:focus")).await?;
        browser.keys(&format!("{level}{ENTER}")).await?;
    }
    browser.read("Start run 2").await
}
