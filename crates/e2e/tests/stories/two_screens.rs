//! Two screens on one job: what a finger is in stays as it is, whatever the other one does; and what is
//! not saved yet looks so, through a reload, until it is.

use crate::{open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};
use serde_json::{Value, json};

/// What another screen asks for: it reaches this page as an event, as it would from elsewhere.
const OTHER: &str = "
    const [path, body] = arguments;
    const headers = { 'x-at-bench': localStorage.getItem('bench-id'), 'content-type': 'application/json' };
    return fetch(`/api${path}`, { method: 'POST', headers, body: JSON.stringify(body) })
        .then((r) => r.text().then((text) => { if (!r.ok) throw new Error(text); }));";

async fn elsewhere(browser: &Browser, path: &str, body: Value) -> anyhow::Result<()> {
    browser.client.execute(OTHER, vec![json!(path), body]).await?;
    Ok(())
}

/// How a field stands: what is in it, whether it has the focus, where it is, whether it is kept.
async fn field(browser: &Browser, selector: &str) -> anyhow::Result<Value> {
    let script = format!(
        "const field = document.querySelector(\"{selector}\");
         const box = field.getBoundingClientRect();
         return [field.value, document.activeElement === field, Math.round(box.x), Math.round(box.y),
                 field.dataset.state ?? ''];"
    );
    browser.script(&script).await
}

async fn id(browser: &Browser) -> anyhow::Result<Value> {
    browser.script("return crypto.randomUUID()").await
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_moves_under_a_finger_and_what_is_not_kept_looks_so() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    open_job(&browser, &program, "hop").await?;
    let job = browser.script("return location.pathname.split('/')[2]").await?;
    let job = job.as_str().unwrap_or_default().to_owned();
    let page = format!("{}/jobs/{job}/electrical/coil_resistance", program.address);

    // Half a number is typed; the other screen begins the set and reads this very cell.
    browser.go(&page).await?;
    let second = "[data-of='2']";
    let first = "[data-of='1']";
    browser.see(second).await?.click().await?;
    browser.see(second).await?.send_keys("1").await?;
    let before = field(&browser, second).await?;
    assert_eq!((&before[0], &before[1], &before[4]), (&json!("1"), &json!(true), &json!("unkept")));
    let sheet = id(&browser).await?;
    let sheet = sheet.as_str().unwrap_or_default();
    let begin = json!({ "id": sheet, "check": "coil_resistance", "instrument": null });
    elsewhere(&browser, &format!("/jobs/{job}/sheets"), begin).await?;
    for (cylinder, typed) in [(1, "12.1"), (2, "12.3")] {
        let cell = json!({ "id": id(&browser).await?, "check": "coil_resistance", "cell": "ohms",
            "cylinder": cylinder, "typed": typed, "corrects": null });
        elsewhere(&browser, &format!("/sheets/{sheet}/cells"), cell).await?;
    }
    wait_for(&browser, &format!("return document.querySelector(\"{first}\").value === '12.1'"))
        .await?;
    let now = field(&browser, second).await?;
    for at in [0, 1, 2, 4] {
        assert_eq!(now[at], before[at], "text, focus, column and state");
    }
    let (now, before) = (now[3].as_i64().unwrap_or_default(), before[3].as_i64().unwrap_or(-99));
    assert!((now - before).abs() <= 1, "what grew above it moved it from {before} to {now}");

    // Left, it is no silent correction of what somebody else read: that is said, with their number.
    browser.see(second).await?.send_keys("2.8\u{e007}").await?;
    browser.read("Someone else read this cell meanwhile.").await?;
    browser.read("Stored now: 12.3.").await?;
    assert_eq!(field(&browser, second).await?[0], "12.8");
    // Read again with that in view, it is kept in its place.
    browser.see(second).await?.click().await?;
    browser.see(second).await?.send_keys("\u{e007}").await?;
    wait_for(
        &browser,
        &format!("return document.querySelector(\"{second}\").dataset.state === 'kept'"),
    )
    .await?;

    // Not kept yet it looks so; the next page of this browser sends it by itself.
    let third = "[data-of='3']";
    browser.script("window.fetch = () => Promise.reject(new Error('cut off'))").await?;
    browser.see(third).await?.click().await?;
    browser.see(third).await?.send_keys("12.2\u{e007}").await?;
    browser.read("1 entry is not saved yet.").await?;
    assert_eq!(field(&browser, third).await?[4], "unkept");
    browser.go(&page).await?;
    browser.see(third).await?;
    wait_for(
        &browser,
        &format!("return document.querySelector(\"{third}\").dataset.state === 'kept'"),
    )
    .await?;
    assert_eq!(field(&browser, third).await?[0], "12.2");
    wait_for(&browser, "return !document.body.innerText.includes('not saved yet')").await?;

    // What was half typed when the page went away is there again, and is kept once it is left.
    browser.see(first).await?.click().await?;
    browser.see(first).await?.send_keys("5").await?;
    browser.go(&page).await?;
    wait_for(
        &browser,
        &format!("return document.querySelector(\"{first}\")?.dataset.state === 'unkept'"),
    )
    .await?;
    browser.see(first).await?.click().await?;
    browser.see(first).await?.send_keys("\u{e007}").await?;
    wait_for(
        &browser,
        &format!("return document.querySelector(\"{first}\").dataset.state === 'kept'"),
    )
    .await?;

    // A bottle is typed while the other screen reads it: the field stays where it is.
    browser.go(&format!("{}/jobs/{job}/on-engine", program.address)).await?;
    let script = format!(
        "return fetch('/api/jobs/{job}').then(r => r.json()).then(v => v.file.return_tests.at(-1)?.id ?? '')"
    );
    let test = browser.script(&script).await?;
    let test = test.as_str().unwrap_or_default();
    anyhow::ensure!(!test.is_empty(), "this job has a return test");
    let run = id(&browser).await?;
    let run = run.as_str().unwrap_or_default();
    let begun = json!({ "id": run, "timer": false, "phase": null, "bank": null, "ticked": [] });
    elsewhere(&browser, &format!("/return-tests/{test}/runs"), begun).await?;
    let readings = format!("/runs/{run}/readings");
    let length = json!({ "id": id(&browser).await?, "kind": "run_time", "cylinder": null, "typed": "2:00",
        "corrects": null, "why": null });
    elsewhere(&browser, &readings, length).await?;
    let bottle = "[aria-label='Reading of cylinder 1']";
    browser.see(bottle).await?.send_keys("2").await?;
    let level = json!({ "id": id(&browser).await?, "kind": "level", "cylinder": 1, "typed": "24",
        "corrects": null, "why": null });
    elsewhere(&browser, &readings, level).await?;
    wait_for(&browser, "return document.querySelector('.history').innerText.includes('24')")
        .await?;
    let now = field(&browser, bottle).await?;
    assert_eq!((&now[0], &now[1]), (&json!("2"), &json!(true)), "the column did not run away");
    browser.see(bottle).await?.send_keys("5\u{e007}").await?;
    browser.read("This column has a reading. Correct that one instead.").await?;
    browser.client.clone().close().await?;
    Ok(())
}
