//! Every main view by the rules of accessibility, in both themes: headings, landmarks, names, contrast.

use super::sit_down;
use cobaltine_e2e::{Browser, Program};
use serde_json::Value;

/// Addresses; `{words}` stands for the id of that job.
const VIEWS: [&str; 31] = [
    "/",
    "/start",
    "/help",
    "/jobs/new",
    "/jobs/{oyster}/take-in",
    "/jobs/{hay baler}/take-in/plan",
    "/jobs/{hay baler}/rule-out/fuel_sample",
    "/jobs/{airship}/electrical/indicator",
    "/jobs/{moor railcar}/on-engine/pressure_drop",
    "/jobs/{hauler}/on-engine",
    "/jobs/{hauler}/on-engine/swap",
    "/jobs/{hauler}/bench",
    "/jobs/{pilot}/decide",
    "/jobs/{airship}/decide/places",
    "/jobs/{pilot}/refit",
    "/jobs/{dredger}/refit/codes",
    "/jobs/{causeway tram}/prove",
    "/jobs/{causeway tram}/report?pages=all",
    "/bench",
    "/match",
    "/passports",
    "/library",
    "/library/new-engine",
    "/library/new-plan",
    "/customers",
    "/rules/weights",
    "/instruments",
    "/connections",
    "/trainer",
    "/rules",
    "/workshop",
];

/// How the label of an act begins.
const VERBS: &str = "Abort Add Agree Approve Back Book Cancel Capture Change Choose Clear Close Confirm Continue Copy Create \
    Discard Dismiss Do Drive Edit End Enter Exclude Explain Export Find Fit Go Group Hide Ignore Import Leave Load Log Make Mark Merge Move Next \
    Open Override Prepare Preview Print Put Read Record Remove Reopen Repeat Repair Restore Resume Retire Return Retest Run Save Scan See Set Show Sign Skip \
    Split Start Stop Take Test Time Tap Try Type Undo Use View Warm Write";
/// Labels that are no verb with an object, each with its reason.
const EXCEPT: &[(&str, &str)] = &[
    ("All confirmed", "ticks the whole list; what it confirms stands right above it"),
    ("+ ", "a round that comes next: the name of the round is what is read on the bench"),
    ("repeat in new positions", "beside the rounds, in their manner"),
    ("exclude", "stands in the row of the run that it is about"),
    ("undo", "stands in the row of the run that it is about"),
    ("Report", "a link to a page: a noun"),
    ("Labels", "a link to a page: a noun"),
    ("Report and labels", "a link to pages: nouns"),
    ("History of ", "a link to a page: a noun"),
    ("Judgement weights", "a link to a page: a noun"),
    ("Notes", "a link to a page: a noun"),
    ("Positions and fuelling", "a link to a page: nouns"),
    ("Match", "a link to a page: a noun"),
    ("More fields", "folds fields out; says what comes"),
    ("Fewer fields", "folds them in again"),
    ("Newer", "turns a page"),
    ("Older", "turns a page"),
    ("Import", "one object in sight"),
    ("Next", "stands alone by the guide"),
    ("Back", "stands alone by the guide"),
    ("Cancel", "stands alone by the guide"),
    ("Override", "stands alone by the guide"),
    ("Print", "one object in sight"),
    ("Overdue", "a link with its instruments"),
];

/// Acts of the views as they are drawn, less what follows no rule and has no reason.
async fn labels(browser: &Browser) -> anyhow::Result<Vec<String>> {
    let script = "return [...document.querySelectorAll('.main-act, .side-act, button.link-act')].filter(e => e.offsetParent) \
        .map(e => [...e.childNodes].filter(n => !n.classList?.contains('key')).map(n => n.textContent).join('').trim())";
    let found = browser.script(script).await?;
    let verbs: Vec<&str> = VERBS.split_whitespace().collect();
    let mut wrong = Vec::new();
    for label in found.as_array().into_iter().flatten().filter_map(Value::as_str) {
        let words: Vec<&str> = label.split_whitespace().collect();
        let first = words.first().map_or("", |word| word.trim_end_matches([':', ',']));
        let fits = words.len() > 1 && verbs.contains(&first);
        let excepted = EXCEPT
            .iter()
            .any(|(text, _)| label == *text || (text.ends_with(' ') && label.starts_with(text)));
        if !fits && !excepted {
            wrong.push(label.to_owned());
        }
    }
    Ok(wrong)
}

#[tokio::test(flavor = "multi_thread")]
async fn every_act_is_labelled_with_a_verb_and_its_object() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    sit_down(&browser, &program).await?;
    let mut wrong = Vec::new();
    for view in VIEWS {
        browser.go(&format!("{}{}", program.address, address(&browser, view).await?)).await?;
        browser.see("main").await?;
        super::wait_for(&browser, "return !document.body.innerText.includes('Loading…')").await?;
        wrong.extend(labels(&browser).await?.into_iter().map(|label| format!("{view}: {label}")));
    }
    browser.client.clone().close().await?;
    assert!(wrong.is_empty(), "{} labels:\n{}", wrong.len(), wrong.join("\n"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn no_rule_of_accessibility_is_broken_in_any_view_in_either_theme() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let found = look(&browser, &program).await;
    browser.client.clone().close().await?;
    let found = found?;
    assert!(found.is_empty(), "{} broken:\n{}", found.len(), found.join("\n"));
    Ok(())
}

async fn look(browser: &Browser, program: &Program) -> anyhow::Result<Vec<String>> {
    let axe = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/node_modules/axe-core/axe.min.js");
    let axe = std::fs::read_to_string(axe)?;
    sit_down(browser, program).await?;
    let mut found = Vec::new();
    for theme in ["bright", "dim"] {
        browser.script(&format!("localStorage.setItem('theme', '{theme}')")).await?;
        for view in VIEWS {
            browser.go(&format!("{}{}", program.address, address(browser, view).await?)).await?;
            browser.see("main").await?;
            // What is asked for has to have come before it is looked at.
            super::wait_for(browser, "return !document.body.innerText.includes('Loading…')")
                .await?;
            browser.script(&axe).await?;
            let broken = browser
                .script(
                    "return axe.run(document, { resultTypes: ['violations'] }).then(r => r.violations.map(v => \
                     v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ') + ' ' + n.html.slice(0, 120)).join(' | ')))",
                )
                .await?;
            let broken: Vec<Value> = broken.as_array().cloned().unwrap_or_default();
            found.extend(broken.iter().map(|one| format!("{theme} {view}: {one}")));
        }
    }
    Ok(found)
}

async fn address(browser: &Browser, path: &str) -> anyhow::Result<String> {
    let Some((before, rest)) = path.split_once('{') else { return Ok(path.to_owned()) };
    let (words, after) = rest.split_once('}').unwrap_or((rest, ""));
    let script = format!(
        "return fetch('/api/board?q={words}').then(r => r.json()).then(b => b.cards[0]?.id)"
    );
    let id = browser.script(&script).await?;
    Ok(format!("{before}{}{after}", id.as_str().unwrap_or_default()))
}
