//! Answers that are lost on the way to a page: what was done is there once, whatever the page, the
//! person and a reload do about it.

use crate::{open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Cutter, Program};
use serde_json::Value;

#[tokio::test(flavor = "multi_thread")]
async fn an_answer_that_is_lost_makes_no_second_swap_note_or_decision() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let line = Cutter::before(&program.address)?;
    program.address.clone_from(&line.address);
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    open_job(&browser, &program, "hop").await?;
    let job = browser.script("return location.pathname.split('/')[2]").await?;
    let job = format!("{}/jobs/{}", program.address, job.as_str().unwrap_or_default());
    let before = file(&browser).await?;

    // One answer is lost: the browser or the page asks again by itself.
    browser.go(&format!("{job}/on-engine/swap")).await?;
    for cylinder in [1, 2] {
        browser.see(&format!("[aria-label='Choose cylinder {cylinder}']")).await?.click().await?;
    }
    line.lose(1);
    browser.press("Record 1 and 2 swapped").await?;
    browser.read("Swapped.").await?;
    assert_eq!(line.left(), 0);

    // All are lost that a person waits for: it says so, and pressing again is the same note.
    browser.go(&format!("{job}/bench")).await?;
    browser.press("Notes").await?;
    browser.fill("#note", "Tip looks burnt on 2.").await?;
    line.lose(usize::MAX);
    browser.press("Save note").await?;
    browser.read("No answer from Cobaltine. Your entry is kept; try again.").await?;
    browser.read("1 entry is not saved yet.").await?;
    line.lose(0);
    browser.press("Save note").await?;
    wait_for(&browser, "return document.querySelector('#note').value === ''").await?;
    wait_for(&browser, "return !document.body.innerText.includes('not saved yet')").await?;

    // And the page is left: the next one of this browser asks on, under the same id.
    browser.go(&format!("{job}/decide")).await?;
    browser.press("Override").await?;
    browser.fill(".decide textarea", "Heard it too.").await?;
    line.lose(usize::MAX);
    browser.script("document.querySelector('.decide form').requestSubmit()").await?;
    browser.read("1 entry is not saved yet.").await?;
    line.lose(0);
    browser.go(&format!("{job}/report?pages=all")).await?;
    wait_for(&browser, "return !document.body.innerText.includes('not saved yet')").await?;
    browser.read("Heard it too.").await?;

    browser.go(&job).await?;
    let after = file(&browser).await?;
    for (what, more) in [("events", 1), ("notes", 1), ("decisions", 1)] {
        let count = |file: &Value| file[what].as_array().map_or(0, Vec::len);
        assert_eq!(count(&after), count(&before) + more, "{what}");
    }
    browser.client.clone().close().await?;
    Ok(())
}

/// The job of this page, as it is exported.
async fn file(browser: &Browser) -> anyhow::Result<Value> {
    let script = "return fetch(`/api/jobs/${location.pathname.split('/')[2]}/export.json`).then(r => r.json())";
    browser.script(script).await
}
