//! The program itself, started as a user starts it.

use anyhow::Context;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use tempfile::TempDir;

/// A running `cobaltine demo` (or `serve`) on a port of its own. It ends with this value.
#[derive(Debug)]
pub struct Program {
    child: Child,
    /// What it is started again with.
    again: Vec<String>,
    /// The link for the first owner of a workshop with accounts that has none.
    pub link: String,
    /// Where it is, without a slash at the end.
    pub address: String,
    /// Its data folder.
    pub data: TempDir,
}

impl Program {
    /// Starts the demo workshop.
    ///
    /// # Errors
    /// When the program is not built or does not come up.
    pub fn demo() -> anyhow::Result<Self> {
        Self::demo_with(&[])
    }

    /// Starts the demo workshop with more in it, `--limits 20000` for one.
    ///
    /// # Errors
    /// When the program is not built or does not come up.
    pub fn demo_with(more: &[&str]) -> anyhow::Result<Self> {
        Self::started("demo", more)
    }

    /// Starts a workshop of which nothing is known yet, for one person on one machine.
    ///
    /// # Errors
    /// When the program is not built or does not come up.
    pub fn empty() -> anyhow::Result<Self> {
        Self::started("serve", &["--open"])
    }

    /// Starts a workshop in which people sign in; the link for its owner stands in `link`.
    ///
    /// # Errors
    /// When the program is not built or does not come up.
    pub fn with_accounts() -> anyhow::Result<Self> {
        Self::started("serve", &[])
    }

    fn started(what: &str, more: &[&str]) -> anyhow::Result<Self> {
        let data = tempfile::tempdir()?;
        let mut words = vec![what.to_owned()];
        words.extend(more.iter().map(|word| (*word).to_owned()));
        let tells_link = what == "serve" && more.is_empty();
        let (child, address, link) = up(&words, "127.0.0.1:0", data.path(), tells_link)?;
        // Begun again, it serves what is there.
        let again = match what {
            "demo" => vec!["serve".to_owned(), "--open".to_owned()],
            _ => words,
        };
        Ok(Self { child, again, address, link, data })
    }

    /// Asks it to end, as a service manager does, and says whether it ended in good order.
    ///
    /// # Errors
    /// When it cannot be asked.
    pub fn end(&mut self) -> anyhow::Result<bool> {
        Command::new("kill").arg(self.child.id().to_string()).status()?;
        Ok(self.child.wait()?.success())
    }

    /// Kills it without a warning, as a power cut does, and starts it again on the same data and
    /// at the same address.
    ///
    /// # Errors
    /// When it does not come up again.
    pub fn crash_and_restart(&mut self) -> anyhow::Result<()> {
        self.child.kill()?;
        self.child.wait()?;
        self.start_again()
    }

    /// Starts it on the same data and at the same address, after it ended.
    ///
    /// # Errors
    /// When it does not come up again.
    pub fn start_again(&mut self) -> anyhow::Result<()> {
        let listen = self.address.trim_start_matches("http://").to_owned();
        (self.child, ..) = up(&self.again, &listen, self.data.path(), false)?;
        Ok(())
    }
}

/// Starts it and waits until it says its address; the line after it is the link for the first owner,
/// where there is one.
fn up(
    words: &[String],
    listen: &str,
    data: &Path,
    tells_link: bool,
) -> anyhow::Result<(Child, String, String)> {
    let mut child = Command::new(binary()?)
        .args(words)
        .args(["--listen", listen, "--data"])
        .arg(data)
        .env("RUST_LOG", "warn")
        .stdout(Stdio::piped())
        .spawn()?;
    let out = child.stdout.take().context("no output")?;
    // The address is the last line on standard output, after what was generated; reading it is the
    // wait.
    let mut lines = BufReader::new(out)
        .lines()
        .skip_while(|line| line.as_ref().is_ok_and(|words| !words.contains("http://")));
    let last = |line: String| line.rsplit(' ').next().unwrap_or_default().to_owned();
    let address = last(lines.next().context("it ended at once")??);
    let link = if tells_link { last(lines.next().context("no link")??) } else { String::new() };
    Ok((child, address, link))
}

impl Program {
    /// Memory in use now, MB, and the time that it took of a core since it started, s.
    pub fn load(&self) -> (f64, f64) {
        let read = |what: &str| {
            let path = format!("/proc/{}/{what}", self.child.id());
            std::fs::read_to_string(path).unwrap_or_default()
        };
        let status = read("status");
        let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:"));
        let kb = line.and_then(|line| line.trim().split(' ').next()?.parse::<f64>().ok());
        // Fields 14 and 15 are user and system time in hundredths; the name before them may hold spaces.
        let stat = read("stat");
        let after = stat.rsplit(')').next().unwrap_or_default();
        let hundredths =
            after.split(' ').skip(12).take(2).filter_map(|one| one.parse::<f64>().ok());
        (kb.unwrap_or_default() / 1024.0, hundredths.sum::<f64>() / 100.0)
    }
}

impl Drop for Program {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// The program beside this test: both are built into the same target folder.
///
/// # Errors
/// When it is not built.
pub fn binary() -> anyhow::Result<PathBuf> {
    // A bench measures the program as it is shipped.
    if let Ok(named) = std::env::var("COBALTINE_PROGRAM") {
        return Ok(PathBuf::from(named));
    }
    let here = std::env::current_exe()?;
    let found = here
        .ancestors()
        .map(|folder| folder.join("cobaltine"))
        .find(|path| Path::is_file(path))
        .context("the program is not built: run `cargo xtask test`")?;
    Ok(found)
}
