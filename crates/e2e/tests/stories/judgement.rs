//! The judgement call through the real interface: causes, costs, a decision of one's own, a
//! second person, and weights of the house.

use crate::{open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};

#[tokio::test(flavor = "multi_thread")]
async fn judgement_stories() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if let (Err(_), Ok(folder)) = (&told, std::env::var("COBALTINE_STORY_OUT")) {
        browser.picture(&std::path::Path::new(&folder).join("judgement-failed.png")).await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    a_decision_is_weighed_made_otherwise_and_reviewed_by_another(browser, program).await?;
    the_house_weighs_otherwise_and_the_decision_follows(browser, program).await
}

/// Somebody else comes to the bench.
async fn changes(browser: &Browser, name: &str) -> anyhow::Result<()> {
    let script = format!(
        "return fetch('/api/people').then(r => r.json()).then(all => {{ \
            const one = all.find(p => p.name === '{name}'); \
            localStorage.setItem('bench-id', one.id); localStorage.setItem('bench-name', one.name); }})"
    );
    browser.script(&script).await?;
    browser.client.refresh().await?;
    Ok(())
}

async fn a_decision_is_weighed_made_otherwise_and_reviewed_by_another(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    open_job(browser, program, "hauler").await?;
    let here = browser.script("return location.pathname.split('/').slice(0, 3).join('/')").await?;
    let job = here.as_str().unwrap_or_default().to_owned();
    browser.go(&format!("{}{job}/decide", program.address)).await?;
    browser.read("Retest 2 and 4; leave 1 and 3.").await?;
    // The suspicion, what moved it, and that it is not enough for money yet.
    browser.read("Enough to suspect, not yet to replace: more runs.").await?;
    browser.read("One that leaks off much more is worn internally.").await?;
    // One next step, the same in the plan and on the board.
    browser.read("The decision on cylinders 2 and 4 waits for it.").await?;
    browser.script("document.querySelectorAll('button.cause')[1].click()").await?;
    browser.read("before any measurement. Fuse, relay, feed: all affected at once").await?;
    browser.press("Leave all 2 with no fault found").await?;
    wait_for(browser, "return document.querySelectorAll('.decided').length === 2").await?;
    browser.keys("o").await?;
    browser.see("#reason").await?;
    browser.script("document.querySelector('input[value=replace]').click()").await?;
    browser.fill("#reason", "Sixty-seven at least, and it ran out of bottle.").await?;
    browser.press("Decide: replace or recondition").await?;
    // With a replacement on the table the costs of one and of all stand beside it.
    browser.read("As decided: 2 new").await?;
    browser.read("the full set pays").await?;
    browser.press("Sign decision").await?;
    browser.read("A second person must sign").await?;
    changes(browser, "Oddvar").await?;
    browser.fill("#remarks", "Third run first.").await?;
    browser.press("Return with remarks").await?;
    browser.fill("#pin-new", "4711").await?;
    browser.press("Save PIN").await?;
    browser.fill("#review-pin", "4711").await?;
    browser.press("Return with remarks").await?;
    browser.read("Returned").await?;
    browser.read("Third run first.").await?;
    changes(browser, "Tamsin").await?;
    browser.read("Third run first.").await?;
    browser.keys("4").await?;
    browser.keys("a").await?;
    browser.read("Since then: Cylinder 4 decided again.").await?;
    // The report says both: what was decided, and what the program would have done.
    browser.go(&format!("{}{job}/report?pages=all", program.address)).await?;
    browser.read("Sixty-seven at least").await?;
    browser.read("Proposed: retest").await
}

async fn the_house_weighs_otherwise_and_the_decision_follows(
    browser: &Browser,
    program: &Program,
) -> anyhow::Result<()> {
    browser.go(&format!("{}/rules", program.address)).await?;
    browser.press("Judgement weights").await?;
    browser.read("revision 0").await?;
    let put = |leave: u32| {
        format!(
            "const t = document.querySelector('textarea'); t.value = '[bounds]\\nleave = {leave}'; \
             t.dispatchEvent(new Event('input', {{ bubbles: true }}))"
        )
    };
    browser.script(&put(85)).await?;
    browser.fill("#weights-reason", "Braver").await?;
    browser.press("Save as new revision").await?;
    browser.read("bounds: percentages with leave below act needed.").await?;
    browser.script(&put(4)).await?;
    browser.press("Save as new revision").await?;
    browser.read("revision 1").await?;
    open_job(browser, program, "pilot").await?;
    let here = browser.script("return location.pathname.split('/').slice(0, 3).join('/')").await?;
    let job = here.as_str().unwrap_or_default();
    browser.go(&format!("{}{job}/decide", program.address)).await?;
    browser
        .read("Decided: replace or recondition 3 and 7. Proposed: retest 1, 2, 4, 5, 6 and 8.")
        .await
}
