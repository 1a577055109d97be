//! A first case on a made-up engine, from the start page to its marks; and another that an examiner reads.

use crate::{count, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};

#[tokio::test(flavor = "multi_thread")]
async fn a_made_up_engine_is_worked_through_from_the_start_page_to_its_marks() -> anyhow::Result<()>
{
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if told.is_err() {
        crate::look(&browser, "trainer-failed.png").await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    browser.go(&format!("{}/start", program.address)).await?;
    browser.press("Try it on a made-up engine").await?;
    browser.read("The first return test").await?;
    browser.read("engine cold").await?;
    let job = browser.script("return location.pathname.split('/')[2]").await?;
    let job = format!("{}/jobs/{}", program.address, job.as_str().unwrap_or_default());

    set_up(browser, &job).await?;
    // A cold run is told at once, and set aside; then it is warmed up.
    browser.press("All confirmed").await?;
    browser.press("Start run 1").await?;
    browser.read("Run 1: the engine was cold.").await?;
    browser.press("Warm up engine").await?;
    browser.read("engine warm").await?;
    browser.press("exclude").await?;
    browser.press("read too late").await?;
    wait_for(browser, "return !document.body.innerText.includes('Run 1: the engine was cold.')")
        .await?;
    for run in 2..=4 {
        browser.press("All confirmed").await?;
        browser.press(&format!("Start run {run}")).await?;
        wait_for(
            browser,
            &format!("return document.body.innerText.includes('Start run {}')", run + 1),
        )
        .await?;
    }
    decided(browser, &job).await?;

    browser.press("End exercise").await?;
    browser.read("Every cylinder is decided.").await?;
    browser.press("Mark exercise").await?;
    browser.read("Found 1 of 1, no sound injector condemned.").await?;
    browser.read("guide worn: returns too much").await?;
    browser.read("No mistake of procedure was noticed.").await?;
    let marks =
        "return [...document.querySelectorAll('.marks strong')].map(e => e.innerText).join(' ')";
    let marks = browser.script(marks).await?;
    let marks = marks.as_str().unwrap_or_default();
    assert!(marks.starts_with("100 100 100 100 "), "{marks}");
    crate::look(browser, "trainer-result.png").await?;

    // It counts nowhere, and stands in the trainer with its marks.
    browser.go(&program.address).await?;
    browser.read("32 jobs").await?;
    browser.go(&format!("{}/trainer", program.address)).await?;
    wait_for(browser, "return document.querySelectorAll('.past li').length === 1").await?;
    assert_eq!(count(browser, ".cases .done").await?, 1);
    another_is_set_for_somebody(browser).await
}

async fn set_up(browser: &Browser, job: &str) -> anyhow::Result<()> {
    browser.go(&format!("{job}/on-engine")).await?;
    browser.see("#capacity").await?;
    browser.fill("#capacity", "100").await?;
    browser.fill("#graduation", "2").await?;
    browser.fill("#temperature", "82").await?;
    browser.fill("#planned", "2:00").await?;
    browser.press("Save setup").await?;
    browser.read("Start run 1").await
}

/// What the program proposes: one that returns too much is replaced, the others are left.
async fn decided(browser: &Browser, job: &str) -> anyhow::Result<()> {
    browser.go(&format!("{job}/decide")).await?;
    wait_for(browser, "return document.querySelectorAll('.strip').length > 0").await?;
    let id = job.rsplit('/').next().unwrap_or_default();
    for more in 1..=4 {
        browser.read("Agree").await?;
        browser.keys("a").await?;
        let held = format!(
            "fetch('/api/jobs/{id}').then(r => r.json()).then(j => j.file.decisions.length)"
        );
        wait_for(browser, &format!("return {held}.then(held => held >= {more})")).await?;
        // The page has it too: the next key decides the next one.
        let left =
            format!("return document.querySelectorAll('.word.open').length === {}", 4 - more);
        wait_for(browser, &left).await?;
    }
    Ok(())
}

/// Set for somebody else: it opens nothing here, and stands in the list of everybody.
async fn another_is_set_for_somebody(browser: &Browser) -> anyhow::Result<()> {
    browser.script("const s = document.querySelector('#case-for'); s.selectedIndex = 1; s.dispatchEvent(new Event('change'))").await?;
    browser.fill("#case-seed", "4711").await?;
    // The list of everybody is asked for while the case is being made, and comes after it: it does not know it.
    let late = "const real = window.fetch; let held = false; window.fetch = async (asked, told) => { \
        const path = String(asked.url ?? asked), method = asked.method ?? told?.method ?? 'GET'; \
        const wait = ms => new Promise(after => setTimeout(after, ms)); \
        if (method === 'POST') await wait(600); \
        const list = path.includes('/api/trainer?') && !path.includes('learner'); \
        const answer = await real(asked, told); \
        if (list && !held) { held = true; await wait(1500); } \
        return answer; }";
    browser.script(late).await?;
    browser.press("Start case").await?;
    browser.press("Show everybody’s exercises").await?;
    browser.read("Case 4711").await?;
    browser.read("set by Tamsin").await
}
