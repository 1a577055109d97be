//! A browser with its driver, and the words of a story.

use anyhow::{Context, bail};
use fantoccini::elements::Element;
use fantoccini::key::Key;
use fantoccini::wd::Capabilities;
use fantoccini::{Client, ClientBuilder, Locator};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::Duration;
use tokio::sync::{Semaphore, SemaphorePermit};

/// Longest wait for something to appear.
const PATIENCE: Duration = Duration::from_secs(15);

/// One browser at a time: two on two cores starve each other, and waits run out.
static TURN: Semaphore = Semaphore::const_new(1);

/// Headless Chromium through ChromeDriver. Both end with this value.
#[derive(Debug)]
pub struct Browser {
    /// The WebDriver session.
    pub client: Client,
    driver: Child,
    _turn: Option<SemaphorePermit<'static>>,
}

/// How often ChromeDriver is started: the port that it chose can be taken before it listens.
const STARTS: u32 = 5;

/// ChromeDriver on a free port, and that port.
fn driver() -> anyhow::Result<(Child, String)> {
    for _ in 0..STARTS {
        let mut driver = Command::new("chromedriver");
        #[cfg(unix)]
        std::os::unix::process::CommandExt::process_group(&mut driver, 0);
        let mut driver =
            driver.arg("--port=0").stdout(Stdio::piped()).stderr(Stdio::null()).spawn().context(
                "chromedriver is missing: install Debian's chromium and chromium-driver",
            )?;
        let out = BufReader::new(driver.stdout.take().context("no output")?);
        let mut lines = out.lines().map_while(Result::ok);
        let port = lines.find_map(|line| {
            let port = line.split("successfully on port ").nth(1)?;
            Some(port.trim_end_matches('.').to_owned())
        });
        if let Some(port) = port {
            // Keep reading, so that the driver never waits for a full pipe.
            std::thread::spawn(move || lines.for_each(drop));
            return Ok((driver, port));
        }
        // Without a port its output has ended, and so has it.
        driver.kill().ok();
        driver.wait()?;
    }
    anyhow::bail!("chromedriver did not say its port, {STARTS} times")
}

impl Browser {
    /// Starts ChromeDriver on a free port and a browser of this size.
    ///
    /// # Errors
    /// When Debian's chromium or chromium-driver is not there.
    pub async fn open(width: u32, height: u32) -> anyhow::Result<Self> {
        let turn = TURN.acquire().await?;
        Self::opened(width, height, Some(turn)).await
    }

    /// One more, beside those that are open: what a bench watches with several.
    ///
    /// # Errors
    /// When Debian's chromium or chromium-driver is not there.
    pub async fn beside(width: u32, height: u32) -> anyhow::Result<Self> {
        Self::opened(width, height, None).await
    }

    async fn opened(
        width: u32,
        height: u32,
        turn: Option<SemaphorePermit<'static>>,
    ) -> anyhow::Result<Self> {
        let (driver, port) = driver()?;
        // The driver makes the profile, and takes it away: in a folder of ours the page of some versions
        // never gets the focus, and nothing that is typed arrives.
        let options = json!({ "binary": "/usr/bin/chromium", "args": [
            "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
            "--disable-background-networking", "--disable-component-update", "--disable-sync",
            // A microphone that beeps once a second, and is allowed.
            "--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream",
            "--disable-dev-shm-usage", "--hide-scrollbars", "--force-device-scale-factor=1",
            format!("--window-size={width},{height}"),
        ]});
        let mut wanted = Capabilities::new();
        wanted.insert("goog:chromeOptions".to_owned(), options);
        let client = ClientBuilder::new(hyper_util_connector())
            .capabilities(wanted)
            .connect(&format!("http://127.0.0.1:{port}"))
            .await
            .context("the browser did not start")?;
        let browser = Self { client, driver, _turn: turn };
        browser.resize(width, height).await?;
        Ok(browser)
    }

    /// Makes the page itself this large, whatever the window's frame takes.
    ///
    /// # Errors
    /// The driver's.
    pub async fn resize(&self, width: u32, height: u32) -> anyhow::Result<()> {
        self.client.set_window_size(width, height).await?;
        let inner = self.script("return [innerWidth, innerHeight]").await?;
        let missing =
            |i: usize, want: u32| want.saturating_sub(inner[i].as_u64().unwrap_or(0) as u32);
        let (more_w, more_h) = (missing(0, width), missing(1, height));
        self.client.set_window_size(width + more_w, height + more_h).await?;
        Ok(())
    }

    /// Goes to an address.
    ///
    /// # Errors
    /// The driver's.
    pub async fn go(&self, address: &str) -> anyhow::Result<()> {
        Ok(self.client.goto(address).await?)
    }

    /// Waits until the selector finds something.
    ///
    /// # Errors
    /// When it does not appear.
    pub async fn see(&self, css: &str) -> anyhow::Result<Element> {
        let wait = self.client.wait().at_most(PATIENCE);
        match wait.for_element(Locator::Css(css)).await {
            Ok(element) => Ok(element),
            Err(error) => bail!("{css} did not appear: {error}\n{}", self.words().await?),
        }
    }

    /// Waits until the page says this.
    ///
    /// # Errors
    /// When it does not, with what it says instead.
    pub async fn read(&self, words: &str) -> anyhow::Result<()> {
        let quoted = serde_json::to_string(words)?;
        let script = format!("return document.body.innerText.includes({quoted})");
        let end = std::time::Instant::now() + PATIENCE;
        while std::time::Instant::now() < end {
            if self.script(&script).await? == Value::Bool(true) {
                return Ok(());
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
        bail!("the page does not say \"{words}\" but:\n{}", self.words().await?)
    }

    /// Presses the button or link that carries these words.
    ///
    /// # Errors
    /// When there is none.
    pub async fn press(&self, words: &str) -> anyhow::Result<()> {
        // Behind an open dialog nothing can be pressed, by a hand neither.
        let path = format!(
            "//*[self::button or self::a or self::label][not(@disabled)][contains(normalize-space(.), {})]\
             [ancestor::dialog or not(//dialog[@open])]",
            serde_json::to_string(words)?
        );
        let wait = self.client.wait().at_most(PATIENCE);
        let Ok(element) = wait.for_element(Locator::XPath(&path)).await else {
            bail!("nothing to press says \"{words}\":\n{}", self.words().await?);
        };
        Ok(element.click().await?)
    }

    /// Types into the field with this id or label.
    ///
    /// # Errors
    /// When there is none.
    pub async fn fill(&self, css: &str, text: &str) -> anyhow::Result<()> {
        let field = self.see(css).await?;
        field.click().await?;
        self.script("const e = document.activeElement; if (e && e.select) e.select();").await?;
        Ok(field.send_keys(text).await?)
    }

    /// Types keys at whatever has the focus, as a keyboard does.
    ///
    /// # Errors
    /// The driver's.
    pub async fn keys(&self, keys: &str) -> anyhow::Result<()> {
        use fantoccini::actions::{InputSource, KeyAction, KeyActions};
        let mut actions = KeyActions::new("keyboard".to_owned());
        for value in keys.chars() {
            actions = actions.then(KeyAction::Down { value }).then(KeyAction::Up { value });
        }
        Ok(self.client.perform_actions(actions).await?)
    }

    /// Presses Enter.
    ///
    /// # Errors
    /// The driver's.
    pub async fn enter(&self) -> anyhow::Result<()> {
        self.keys(&String::from(char::from(Key::Enter))).await
    }

    /// Runs a script in the page.
    ///
    /// # Errors
    /// The driver's.
    pub async fn script(&self, script: &str) -> anyhow::Result<Value> {
        Ok(self.client.execute(script, Vec::new()).await?)
    }

    /// All that the page says.
    ///
    /// # Errors
    /// The driver's.
    pub async fn words(&self) -> anyhow::Result<String> {
        let text = self.script("return document.body.innerText").await?;
        Ok(text.as_str().unwrap_or_default().to_owned())
    }

    /// Writes a picture of the page.
    ///
    /// # Errors
    /// The driver's, or the file system's.
    pub async fn picture(&self, path: &Path) -> anyhow::Result<()> {
        self.script("return document.fonts.ready.then(() => true)").await?;
        Ok(std::fs::write(path, self.client.screenshot().await?)?)
    }
}

impl Drop for Browser {
    fn drop(&mut self) {
        // The driver and its browser are a group of their own: both are asked to end, so that a
        // story that failed leaves no browser behind.
        #[cfg(unix)]
        let _ = Command::new("kill").args(["--", &format!("-{}", self.driver.id())]).status();
        let _ = self.driver.wait();
    }
}

/// Plain HTTP is all that the driver on this machine speaks.
fn hyper_util_connector() -> hyper_util::client::legacy::connect::HttpConnector {
    hyper_util::client::legacy::connect::HttpConnector::new()
}
