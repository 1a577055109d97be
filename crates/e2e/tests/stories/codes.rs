//! Codes through the real interface: as found, captured, written with a failure half-way, recovered;
//! and codes that follow their injectors after a swap.

use crate::{open_job, sit_down, wait_for};
use cobaltine_e2e::{Browser, Program};

#[tokio::test(flavor = "multi_thread")]
async fn code_stories() -> anyhow::Result<()> {
    let program = Program::demo()?;
    let browser = Browser::open(1280, 800).await?;
    let told = tell(&browser, &program).await;
    if let (Err(_), Ok(folder)) = (&told, std::env::var("COBALTINE_STORY_OUT")) {
        browser.picture(&std::path::Path::new(&folder).join("codes-failed.png")).await?;
    }
    browser.client.clone().close().await?;
    told
}

async fn tell(browser: &Browser, program: &Program) -> anyhow::Result<()> {
    sit_down(browser, program).await?;
    open_job(browser, program, "dredger").await?;
    let here = browser.script("return location.pathname.split('/').slice(0, 3).join('/')").await?;
    let job = format!("{}{}", program.address, here.as_str().unwrap_or_default());
    a_write_that_breaks_off_is_told_and_taken_up_again(browser, &job).await?;
    codes_follow_a_swap(browser, &job).await
}

/// A picture that moves, and a reader that sees the code of cylinder 2 in it.
const EYES: &str = "window.BarcodeDetector = class { async detect() { return [{ rawValue: 'c1-ffdd56' }]; } }; \
    const canvas = document.createElement('canvas'); canvas.getContext('2d').fillRect(0, 0, 9, 9); \
    Object.defineProperty(navigator, 'mediaDevices', { value: { getUserMedia: async () => canvas.captureStream(5) }, configurable: true });";

async fn fault(browser: &Browser, fault: &str) -> anyhow::Result<()> {
    let script = format!(
        "document.querySelector('details').open = true; const s = document.querySelector('#fault'); \
         s.value = '{fault}'; s.dispatchEvent(new Event('change', {{ bubbles: true }}))"
    );
    browser.script(&script).await?;
    // The knob is turned when its answer is back.
    wait_for(browser, "return !document.querySelector('aside button:disabled')").await
}

async fn a_write_that_breaks_off_is_told_and_taken_up_again(
    browser: &Browser,
    job: &str,
) -> anyhow::Result<()> {
    browser.go(&format!("{job}/refit/codes")).await?;
    browser.read("Read the stored trim codes first: they are the codes as found.").await?;
    browser.press("Read stored codes").await?;
    browser.read("Capture the trim code of cylinders 1, 2, 3 and 4.").await?;
    // Typed by hand: the letter is questioned, what it was meant to be is offered, and it is
    // asked for once more.
    browser.fill("#code", "CIFFEF41").await?;
    browser.enter().await?;
    browser.read("I cannot occur in a trim code of this family.").await?;
    browser.press("C1FFEF41").await?;
    browser.fill("#again", "C1FFEF14").await?;
    browser.enter().await?;
    browser.read("The two entries differ.").await?;
    // By camera, where the browser can tell codes in a picture: this one is given eyes that see one.
    browser.script(EYES).await?;
    browser.see("[aria-label='Cylinder 2 27-2802']").await?.click().await?;
    browser.press("Read by camera").await?;
    browser.read("trim code of cylinders 1, 3 and 4 still missing.").await?;
    // The bench has made the others.
    browser.press("Take 3 trim codes from the bench").await?;
    browser.read("Cylinders 1, 2, 3 and 4 to be written.").await?;
    fault(browser, "drop:50").await?;
    browser.press("Write 4 trim codes and read back").await?;
    browser.read("Writing cylinder 1").await?;
    browser.read("Connection to the ECU was lost. Cylinder 1 holds nothing after writing").await?;
    browser.read("Cylinder 2 still holds C1FGEK96: not written.").await?;
    browser.read("Restore old codes: 1").await?;
    // A reload knows as much, and a write that goes into the wrong slot is seen by reading back.
    browser.client.refresh().await?;
    browser.read("Cylinders 1, 2, 3 and 4 to be written.").await?;
    fault(browser, "wrong-slot").await?;
    browser.press("Write 4 trim codes and read back").await?;
    browser.read("Cylinder 1 still holds nothing: not written.").await?;
    browser.read("Cylinder 1 to be written.").await?;
    browser.press("Write 1 trim code and read back").await?;
    browser.read("Every cylinder has the trim code of its own injector stored.").await
}

async fn codes_follow_a_swap(browser: &Browser, job: &str) -> anyhow::Result<()> {
    browser.go(&format!("{job}/on-engine/swap")).await?;
    browser.see("[aria-label='Cylinder 2 27-2802']").await?.click().await?;
    browser.see("[aria-label='Cylinder 4 27-2804']").await?.click().await?;
    browser.press("Record 2 and 4 swapped").await?;
    browser.read("Swapped.").await?;
    browser.go(&format!("{job}/refit/codes")).await?;
    browser.read("Cylinders 2 and 4 to be written.").await?;
    browser.read("other cylinder’s").await?;
    browser.press("Write 2 trim codes and read back").await?;
    browser.read("Cylinders 2 and 4 written, read back and compared.").await?;
    browser.read("Every cylinder has the trim code of its own injector stored.").await?;
    // It turns out that the unit counts in firing order: what was read says nothing any more.
    let open = "[...document.querySelectorAll('details')].find(d => d.querySelector('#count')).open = true";
    browser.script(open).await?;
    browser.fill("#count", "1 3 4 4").await?;
    browser.press("Save order").await?;
    browser.read("Enter each cylinder from 1 to 4 once.").await?;
    browser.fill("#count", "1 3 4 2").await?;
    browser.press("Save order").await?;
    browser.read("Read the stored trim codes first").await?;
    browser.press("Read stored codes").await?;
    browser.read("Cylinders 2, 3 and 4 to be written.").await?;
    browser.read("ECU number").await
}
