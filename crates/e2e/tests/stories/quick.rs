//! How long a view takes from the press to its drawing, with many jobs against none, in one run.
//! `JOBS=10000` measures what the workshop of years feels; the suite asks for fewer.

use super::sit_down;
use cobaltine_e2e::{Browser, Program};

/// Milliseconds from the press to the drawing that a person does not notice as waiting; three times
/// that is refused, since other tests share the machine.
const UNNOTICED: f64 = 300.0;

/// Each view: where to press, and what is there once it is drawn.
const STEPS: [(&str, &str, &str); 6] = [
    ("board", "a[href='/']", "li .row, .state"),
    ("calculators", "a[href^='/calculators']", ".bench-page, .calculators, main"),
    ("library", "a[href='/library']", ".lines"),
    ("history", "a[href='/passports']", "main input"),
    ("match", "a[href='/match']", "main table, main .state"),
    ("rules", "a[href='/rules']", ".rules .rule"),
];

async fn walk(browser: &Browser, program: &Program) -> anyhow::Result<Vec<(String, f64)>> {
    browser.go(&format!("{}/library", program.address)).await?;
    browser.see(".lines, main").await?;
    let mut took = Vec::new();
    // Twice: the second time every part of the program has come, and only the view counts.
    for turn in 0..2 {
        for (name, press, drawn) in STEPS {
            let script = format!(
                "return new Promise(done => {{ const link = document.querySelector(\"{press}\"); const t = performance.now(); \
                 link.click(); const path = new URL(link.href).pathname.split('/')[1]; const at = () => \
                 location.pathname.split('/')[1] === path && document.querySelector(\"{drawn}\") && \
                 !document.body.innerText.includes('Loading…') ? requestAnimationFrame(() => done(performance.now() - t)) \
                 : performance.now() - t > 20000 ? done(99999) : setTimeout(at, 4); at(); }})"
            );
            let ms = browser.script(&script).await?.as_f64().unwrap_or(f64::MAX);
            if turn == 1 {
                took.push((name.to_owned(), ms));
            }
        }
    }
    Ok(took)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_view_is_drawn_as_quickly_with_many_jobs_as_with_the_demo_alone() -> anyhow::Result<()> {
    let jobs = std::env::var("JOBS").unwrap_or_else(|_| "300".to_owned());
    let browser = Browser::open(1280, 800).await?;
    let mut all = Vec::new();
    for more in [&[][..], &["--jobs", jobs.as_str()][..]] {
        let program = Program::demo_with(more)?;
        sit_down(&browser, &program).await?;
        all.push(walk(&browser, &program).await?);
    }
    browser.client.clone().close().await?;
    for ((name, few), (_, many)) in all[0].iter().zip(&all[1]) {
        println!("{name}: {few:.0} ms with the demo alone, {many:.0} ms with {jobs} jobs more");
    }
    let slow: Vec<_> = all[1].iter().filter(|(_, ms)| *ms > 3.0 * UNNOTICED).collect();
    assert!(slow.is_empty(), "{slow:?}");
    Ok(())
}
