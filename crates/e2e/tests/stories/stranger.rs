//! Somebody who has never seen the program: from an empty folder to a printed report, once without
//! leaving the keyboard and once by touch on an upright tablet; keys and taps are counted.

use super::{CONTROL_ENTER, ENTER, TAB, wait_for};
use cobaltine_e2e::{Browser, Program};
use std::cell::Cell;

/// Three runs of four bottles, in ml after two minutes.
const RUNS: [[&str; 4]; 3] =
    [["22", "61", "24", "23"], ["23", "60", "24", "22"], ["22", "62", "23", "23"]];

/// Counts what a person does.
struct Person<'a> {
    browser: &'a Browser,
    keys: Cell<usize>,
    taps: Cell<usize>,
}

impl Person<'_> {
    async fn keys(&self, keys: &str) -> anyhow::Result<()> {
        self.keys.set(self.keys.get() + keys.chars().count());
        self.browser.keys(keys).await
    }

    async fn tap(&self, words: &str) -> anyhow::Result<()> {
        self.taps.set(self.taps.get() + 1);
        self.browser.press(words).await
    }

    /// A key of the pad on the screen: as a key, but met with a finger.
    async fn pad(&self, word: &str) -> anyhow::Result<()> {
        self.keys.set(self.keys.get() + 1);
        let script = format!(
            "const pad = document.querySelector('.left .panel'); \
             [...pad.querySelectorAll('.pad button, .main-act')].find(b => b.innerText.trim().startsWith('{word}')).click()"
        );
        self.browser.script(&script).await.map(drop)
    }

    async fn types(&self, css: &str, text: &str) -> anyhow::Result<()> {
        self.keys.set(self.keys.get() + text.chars().count());
        self.browser.fill(css, text).await
    }

    fn since(&self, before: (usize, usize)) -> (usize, usize) {
        (self.keys.get() - before.0, self.taps.get() - before.1)
    }

    fn so_far(&self) -> (usize, usize) {
        (self.keys.get(), self.taps.get())
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stranger_comes_from_an_empty_folder_to_a_printed_report() -> anyhow::Result<()> {
    for (width, height) in [(1280, 800), (768, 1024)] {
        let program = Program::empty()?;
        let browser = Browser::open(width, height).await?;
        let person = Person { browser: &browser, keys: Cell::new(0), taps: Cell::new(0) };
        let told = if width > 1000 {
            by_keyboard(&person, &program).await
        } else {
            by_touch(&person, &program).await
        };
        browser.client.clone().close().await?;
        told?;
    }
    Ok(())
}

async fn by_keyboard(person: &Person<'_>, program: &Program) -> anyhow::Result<()> {
    let browser = person.browser;
    browser.go(&program.address).await?;
    browser.read("Set up this workshop").await?;
    browser.see("#first-name:focus").await?;
    person.keys(&format!("Wenna{ENTER}")).await?;
    browser.see("#own-name:focus").await?;
    person.keys(&format!("Dyke Lane Injection{ENTER}")).await?;
    browser.read("Load starter library").await?;
    browser.see(".main-act:focus").await?;
    person.keys(ENTER).await?;
    browser.see("a.main-act:focus").await?;
    person.keys(ENTER).await?;
    browser.see("#machine:focus").await?;
    person.keys(&format!("Peat tug{TAB}Moss Ferries{TAB}{TAB}{TAB} ")).await?;
    browser.script(CONTROL_ENTER).await?;
    browser.read("Fuel sample").await?;
    for stage in ["A clear jar", "Battery feed", "Set up the return test"] {
        person.keys("]").await?;
        browser.read(stage).await?;
    }
    let before = person.so_far();
    browser.see("#capacity:focus").await?;
    person.keys(&format!("{TAB}{TAB}{TAB}82{ENTER}")).await?;
    for (at, run) in RUNS.iter().enumerate() {
        browser.read(&format!("Start run {}", at + 1)).await?;
        person.keys("at").await?;
        browser.read("How long did it run?").await?;
        browser.see("[aria-label='Length of the run']:focus").await?;
        person.keys(ENTER).await?;
        for (cylinder, level) in run.iter().enumerate() {
            browser
                .see(&format!("[aria-label='Reading of cylinder {}']:focus", cylinder + 1))
                .await?;
            person.keys(&format!("{level}{ENTER}")).await?;
        }
    }
    // The same headline stands from the second run on: the third is read when a fourth could start.
    browser.read("Start run 4").await?;
    browser.read("Cylinder 2: leak-off 167 % above the others.").await?;
    let (keys, taps) = person.since(before);
    println!("return test, three runs of four bottles, by keyboard: {keys} keys, {taps} taps");
    assert!(keys < 60 && taps == 0, "{keys} keys, {taps} taps");
    person.keys("]").await?;
    browser.read("No bench session for this job yet").await?;
    person.keys("]").await?;
    browser.read("leave 1, 3 and 4.").await?;
    for decided in 1..=4 {
        person.keys("a").await?;
        let rows = format!("return document.querySelectorAll('.decided').length >= {decided}");
        wait_for(browser, &rows).await?;
    }
    browser.read("All injectors decided.").await?;
    person.keys("p").await?;
    printed(browser).await?;
    println!("empty folder to printed report by keyboard: {} keys", person.keys.get());
    Ok(())
}

async fn by_touch(person: &Person<'_>, program: &Program) -> anyhow::Result<()> {
    let browser = person.browser;
    browser.go(&program.address).await?;
    person.types("#first-name", "Wenna").await?;
    person.tap("Add name").await?;
    browser.see("#own-name").await?;
    person.types("#own-name", "Dyke Lane Injection").await?;
    person.tap("Save workshop").await?;
    person.tap("Load starter library").await?;
    person.taps.set(person.taps.get() + 1);
    browser.see("a.main-act").await?.click().await?;
    person.types("#machine", "Peat tug").await?;
    person.types("#customer", "Moss Ferries").await?;
    person.tap("rough idle").await?;
    person.tap("Create job").await?;
    browser.read("Fuel sample").await?;
    person.tap("On engine").await?;
    let before = person.so_far();
    person.types("#temperature", "82").await?;
    person.tap("Save setup").await?;
    for (at, run) in RUNS.iter().enumerate() {
        browser.read(&format!("Start run {}", at + 1)).await?;
        person.tap("All confirmed").await?;
        person.tap("Enter a finished run").await?;
        browser.read("How long did it run?").await?;
        person.pad("Next").await?;
        for (cylinder, level) in run.iter().enumerate() {
            browser.read(&format!("Bottle {}: level", cylinder + 1)).await?;
            for digit in level.chars() {
                person.pad(&digit.to_string()).await?;
            }
            person.pad("Next").await?;
        }
    }
    // The same headline stands from the second run on: the third is read when a fourth could start.
    browser.read("Start run 4").await?;
    browser.read("Cylinder 2: leak-off 167 % above the others.").await?;
    let (keys, taps) = person.since(before);
    println!("return test, three runs of four bottles, by touch: {taps} taps, {keys} on the pad");
    assert!(keys < 60 && taps <= 12, "{keys} keys, {taps} taps");
    person.tap("Decide").await?;
    browser.read("leave 1, 3 and 4.").await?;
    for decided in 1..=4 {
        person.tap("Agree").await?;
        let rows = format!("return document.querySelectorAll('.decided').length >= {decided}");
        wait_for(browser, &rows).await?;
    }
    browser.read("All injectors decided.").await?;
    person.tap("Report").await?;
    printed(browser).await?;
    println!(
        "empty folder to printed report by touch: {} taps, {} keys",
        person.taps.get(),
        person.keys.get()
    );
    Ok(())
}

async fn printed(browser: &Browser) -> anyhow::Result<()> {
    browser.read("Dyke Lane Injection").await?;
    browser.read("The work is not finished yet.").await?;
    let pages = browser.client.print(fantoccini::wd::PrintConfiguration::default()).await?;
    assert!(pages.starts_with(b"%PDF") && pages.len() > 15_000, "a page to print");
    Ok(())
}

/// The demo is opened from the first steps, stands at an address of its own, and leaves the workshop
/// as empty as it was.
#[tokio::test(flavor = "multi_thread")]
async fn the_demo_stands_beside_the_workshop_and_mixes_with_nothing() -> anyhow::Result<()> {
    let program = Program::empty()?;
    let browser = Browser::open(1280, 800).await?;
    browser.go(&format!("{}/start", program.address)).await?;
    browser.press("Open demo workshop").await?;
    browser.read("32 jobs").await?;
    browser.see("a.demo").await?;
    let elsewhere = browser.client.current_url().await?;
    anyhow::ensure!(!elsewhere.as_str().starts_with(&program.address), "{elsewhere}");
    browser.press("Demo: leave").await?;
    browser.read("Set up this workshop").await?;
    let jobs =
        browser.script("return fetch('/api/board').then(r => r.json()).then(b => b.jobs)").await?;
    anyhow::ensure!(jobs == 0, "{jobs}");
    browser.client.clone().close().await?;
    Ok(())
}
