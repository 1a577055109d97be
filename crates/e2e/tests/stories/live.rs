//! A return test that an instrument reads: listed by its address, watched while it fills, silent for a while,
//! the program killed in the middle, and the bottles read all the same.

use crate::{count, open_job, sit_down, wait_for};
use anyhow::Context;
use cobaltine_e2e::{Browser, Program, binary};
use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;
use std::process::{Child, Command, Stdio};

/// Simulated return bottles, a program of their own: they stay when Cobaltine goes.
struct Bottles(Child, String);

impl Bottles {
    fn start() -> anyhow::Result<Self> {
        let mut command = Command::new(binary()?);
        let words = [
            "instrument",
            "bottles",
            "--fuel",
            "diesel_solenoid",
            "--fault",
            "guide",
            "--size",
            "1",
        ];
        let mut child = command.args(words).stdout(Stdio::piped()).spawn()?;
        let mut line = String::new();
        BufReader::new(child.stdout.take().context("no output")?).read_line(&mut line)?;
        let address = line.split(" at ").nth(1).and_then(|rest| rest.split(' ').next());
        Ok(Self(child, address.context("no address")?.to_owned()))
    }

    fn does(&self, what: &str) -> anyhow::Result<()> {
        writeln!(TcpStream::connect(&self.1)?, "SIM:{what}")?;
        Ok(())
    }
}

impl Drop for Bottles {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn an_instrument_reads_the_bottles_through_silence_and_restart() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let bottles = Bottles::start()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &mut program, &bottles).await;
    if told.is_err() {
        crate::look(&browser, "live-failed.png").await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &mut Program, bottles: &Bottles) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    is_listed_and_tested(browser, program, bottles).await?;
    fills_a_cell_in_place_of_typing(browser, program).await?;
    records_with_a_clamp_and_with_the_microphone_of_the_screen(browser, program).await?;
    reads_the_bottles(browser, program, bottles).await
}

async fn is_listed_and_tested(
    browser: &Browser,
    program: &Program,
    bottles: &Bottles,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/connections", program.address)).await?;
    browser.press("Add a connection").await?;
    browser.fill("#name", "Yard bottles").await?;
    browser.fill("#address", "203.0.113.9:5025").await?;
    browser.press("Add connection").await?;
    browser.read("Enter an address of this machine or of a private network.").await?;
    browser.fill("#address", &bottles.1).await?;
    browser.press("Add connection").await?;
    wait_for(browser, "return document.querySelector('aside h2')?.innerText === 'Yard bottles'")
        .await?;
    // What it shows now stands beside it, four channels, before anybody asks.
    wait_for(browser, "return document.querySelectorAll('.live .value').length === 4").await?;
    browser.press("Test connection").await?;
    browser.read("COBALTINE,BOTTLES,1,1.0").await?;
    bottles.does("FAULT UNIT")?;
    browser.press("Test connection").await?;
    browser.read("The instrument shows GAL, not the unit that is needed.").await?;
    bottles.does("FAULT NONE")?;
    Ok(())
}

/// A meter of the demo's own reads one coil; the next is typed, and each is marked as what it is.
async fn fills_a_cell_in_place_of_typing(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "creamery").await?;
    let here = browser.script("return location.pathname.split('/')[2]").await?;
    let job = here.as_str().unwrap_or_default();
    browser.go(&format!("{}/jobs/{job}/electrical/coil_resistance", program.address)).await?;
    browser.see("[aria-label='Meter shows of cylinder 3']").await?.click().await?;
    browser.press("Take reading").await?;
    wait_for(browser, "return document.querySelector('.cell[data-cylinder=\"3\"] .by')?.innerText === 'instrument'").await?;
    browser.fill("[aria-label='Meter shows of cylinder 2']", "0.62\u{E007}").await?;
    wait_for(
        browser,
        "return document.querySelector('.cell[data-cylinder=\"2\"] .by')?.innerText === 'by hand'",
    )
    .await
}

/// The clamp of the demo takes a current, the screen's own microphone a sound; a kink is put elsewhere.
async fn records_with_a_clamp_and_with_the_microphone_of_the_screen(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "sluice").await?;
    let here = browser.script("return location.pathname.split('/')[2]").await?;
    let job = format!("{}/jobs/{}", program.address, here.as_str().unwrap_or_default());
    browser.go(&format!("{job}/electrical/drive_current")).await?;
    browser.press("Petrol bay current clamp").await?;
    browser.see("[aria-label='Record cylinder 2']").await?.click().await?;
    let says = |word: &str| {
        format!(
            "return [...document.querySelectorAll('.one .small')].some(e => e.innerText.includes('{word}'))"
        )
    };
    wait_for(browser, &says("kink")).await?;
    browser.see("[aria-label^='Cylinder 2']").await?.click().await?;
    browser.press("Move kink").await?;
    browser.see("svg.moving").await?.click().await?;
    wait_for(browser, "return /ms|^[0-9.]+$/.test(document.querySelector(\"[aria-label='Kink at of cylinder 2']\").value)").await?;
    browser.go(&format!("{job}/electrical/listening")).await?;
    browser.fill("#set-speed", "800\u{E007}").await?;
    browser.press("this screen").await?;
    browser.see("[aria-label='Record cylinder 1']").await?.click().await?;
    wait_for(browser, &says("ticks")).await
}

async fn reads_the_bottles(
    browser: &Browser,
    program: &mut Program,
    bottles: &Bottles,
) -> anyhow::Result<()> {
    open_job(browser, program, "creamery").await?;
    browser.press("by Yard bottles").await?;
    browser.press("Start run 2").await?;
    let filled = |ml: &str| {
        format!(
            "return [...document.querySelectorAll('.level')].some(e => Number(e.innerText) >= {ml})"
        )
    };
    wait_for(browser, &filled("0.2")).await?;
    browser.read("Yard bottles: reading").await?;
    // It goes silent: said at once, and nothing is made up meanwhile.
    bottles.does("FAULT SILENT")?;
    browser.read("The instrument does not answer.").await?;
    bottles.does("FAULT NONE")?;
    wait_for(browser, &filled("0.8")).await?;
    // The program is killed; the bottles go on filling, and the run goes on when it is back.
    program.crash_and_restart()?;
    browser.press("Resume recording").await?;
    wait_for(browser, &filled("1.2")).await?;
    browser.press("Stop and read").await?;
    wait_for(browser, "return document.querySelectorAll('.history .by').length === 4").await?;
    let by = browser
        .script(
            "return [...document.querySelectorAll('.history .by')].map(e => e.innerText).join(' ')",
        )
        .await?;
    assert_eq!(by, "instrument instrument instrument instrument");
    let link = "return fetch(document.querySelector('[aria-label=\"Export trace of run 2\"]').href).then(r => r.text())";
    let trace = browser.script(link).await?;
    let trace = trace.as_str().unwrap_or_default();
    assert!(trace.starts_with("time [s],1 [ml],2 [ml],3 [ml],4 [ml]"), "{}", &trace[..80]);
    for gap in ["The instrument does not answer.", "Nothing was read in this time."] {
        assert!(trace.lines().any(|line| line.starts_with("# gap") && line.contains(gap)), "{gap}");
    }
    assert!(trace.lines().count() >= 10, "{}", trace.lines().count());
    assert_eq!(count(browser, ".history .wrong").await?, 0);
    Ok(())
}
