//! People come in: the first owner by the link of the terminal, a colleague by a link of the owner, and
//! by PIN at a tablet of the bench.

use crate::{ENTER, look};
use cobaltine_e2e::{Browser, Program};

const PASSWORD: &str = "three lamps at dusk";

/// A job with a decision on it, as the page of whoever is in would ask for them; gives its id.
const DECIDED: &str = r#"
  const ask = (path, body) => fetch('/api' + path, { method: 'POST',
    headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const [job, one] = [crypto.randomUUID(), crypto.randomUUID()];
  const layout = { cylinders: 4, banks: 1, first_at: 'flywheel', numbering: 'bank_by_bank' };
  const intake = { customer: '', machine: 'Winch', usage: '', engine: '', fuel_system: 'diesel_solenoid',
    family_id: null, symptoms: ['rough_idle'], complaint: '', layout };
  const decision = { id: one, cylinder: 1, decision: 'leave', reason: 'as new' };
  return ask('/jobs', { id: job, intake, labels: [] })
    .then(() => ask(`/jobs/${job}/decisions`, { decisions: [decision] }))
    .then((answer) => answer.ok ? job : answer.text());
"#;

async fn add_person(browser: &Browser, name: &str, role: &str) -> anyhow::Result<String> {
    browser.fill("#new-person", name).await?;
    let choose = format!(
        "const s = document.querySelector('#new-role'); s.value = '{role}'; s.dispatchEvent(new Event('change'))"
    );
    browser.script(&choose).await?;
    browser.press("Add person").await?;
    browser.read(&format!("Link for {name}")).await?;
    let link = browser.script("return document.querySelector('.link code').innerText").await?;
    Ok(link.as_str().unwrap_or_default().to_owned())
}

async fn pin(browser: &Browser, name: &str, digits: &str) -> anyhow::Result<()> {
    browser.press(name).await?;
    browser.see("#sign-pin").await?;
    for digit in digits.chars() {
        browser.press(&digit.to_string()).await?;
    }
    browser.press("Sign in").await
}

#[tokio::test(flavor = "multi_thread")]
async fn people_come_in_and_change_at_the_bench_by_pin() -> anyhow::Result<()> {
    let mut program = Program::with_accounts()?;
    let browser = Browser::open(1280, 800).await?;
    browser.go(&program.address).await?;
    browser.read("No owner yet").await?;

    // The first owner, by the link of the terminal.
    browser.go(&program.link).await?;
    browser.read("Make the owner’s account").await?;
    browser.fill("#join-name", "Wren").await?;
    browser.fill("#join-password", &format!("short{ENTER}")).await?;
    browser.read("Enter 10 to 200 characters.").await?;
    look(&browser, "join.png").await?;
    browser.fill("#join-password", &format!("{PASSWORD}{ENTER}")).await?;
    browser.read("Signing as Wren").await?;

    // Lets a reviewer in, and makes this screen the tablet of the bench.
    browser.go(&format!("{}/workshop", program.address)).await?;
    let link = add_person(&browser, "Ilse", "reviewer").await?;
    browser.fill("#tablet-name", "Bench 1").await?;
    browser.press("Add this screen").await?;
    browser.read("This screen is Bench 1.").await?;
    look(&browser, "workshop.png").await?;
    browser.press("Set PIN").await?;
    browser.fill("#pin-new", &format!("2580{ENTER}")).await?;
    browser.read("Change PIN").await?;

    // The link makes Ilse's account, on any screen; then she has a PIN of her own.
    browser.go(&link).await?;
    browser.read("Choose your password").await?;
    browser.fill("#join-password", &format!("{PASSWORD}{ENTER}")).await?;
    browser.read("Signing as Ilse").await?;
    browser.press("Signing as Ilse").await?;
    browser.press("Set PIN").await?;
    browser.fill("#pin-new", &format!("1379{ENTER}")).await?;

    // Who is at the bench changes by a name and a PIN; a wrong one changes nobody.
    browser.see("dialog .names").await?;
    look(&browser, "change.png").await?;
    pin(&browser, "Wren", "1111").await?;
    browser.read("Wrong PIN").await?;
    look(&browser, "pin.png").await?;
    browser.press("Choose another name").await?;
    pin(&browser, "Wren", "2580").await?;
    browser.read("Signing as Wren").await?;

    // What the owner decided is signed by nobody whom the owner let in today.
    let job = browser.script(DECIDED).await?;
    let job = job.as_str().unwrap_or_default().to_owned();
    browser.press("Signing as Wren").await?;
    pin(&browser, "Ilse", "1379").await?;
    browser.read("Signing as Ilse").await?;
    browser.go(&format!("{}/jobs/{job}/decide", program.address)).await?;
    browser.fill("#review-pin", "1379").await?;
    browser.press("Sign decision").await?;
    browser.read("Ask somebody else to sign.").await?;
    look(&browser, "refused.png").await?;
    browser.press("Signing as Ilse").await?;
    pin(&browser, "Wren", "2580").await?;
    browser.read("Signing as Wren").await?;

    // A PIN does not reach beyond one job: the password is asked for, and then it is done.
    browser.go(&format!("{}/workshop", program.address)).await?;
    browser.fill("#new-person", &format!("Pim{ENTER}")).await?;
    browser.read("Enter your password again").await?;
    look(&browser, "fresh.png").await?;
    browser.fill("#fresh-password", &format!("{PASSWORD}{ENTER}")).await?;
    browser.read("Link for Pim").await?;

    browser.press("Make backup").await?;
    browser.read("KiB, checked").await?;
    look(&browser, "backups.png").await?;

    // Over a restart the session goes on, and ends when told.
    assert!(program.end()?);
    program.start_again()?;
    browser.client.refresh().await?;
    browser.press("Signing as Wren").await?;
    browser.press("Sign out").await?;
    browser.read("Who is at the bench?").await?;
    look(&browser, "bench.png").await?;
    browser.press("Use a password").await?;
    browser.fill("#sign-name", "wren").await?;
    browser.fill("#sign-password", &format!("three lamps at dawn{ENTER}")).await?;
    browser.read("Wrong name or password.").await?;
    browser.fill("#sign-password", &format!("{PASSWORD}{ENTER}")).await?;
    browser.read("Signing as Wren").await?;
    browser.client.clone().close().await?;
    Ok(())
}
