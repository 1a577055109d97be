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

    /// Starts a workshop of which nothing is known yet.
    ///
    /// # Errors
    /// When the program is not built or does not come up.
    pub fn empty() -> anyhow::Result<Self> {
        Self::started("serve", &[])
    }

    fn started(what: &str, more: &[&str]) -> anyhow::Result<Self> {
        let data = tempfile::tempdir()?;
        let mut child = Command::new(binary()?)
            .arg(what)
            .args(more)
            .args(["--listen", "127.0.0.1:0", "--data"])
            .arg(data.path())
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()?;
        let out = child.stdout.take().context("no output")?;
        // The address is the last line on standard output, after what was generated; reading it
        // is the wait.
        let line = BufReader::new(out)
            .lines()
            .find(|line| line.as_ref().map_or(true, |words| words.contains("http://")))
            .context("it ended at once")??;
        let address = line.rsplit(' ').next().unwrap_or_default().to_owned();
        Ok(Self { child, address, data })
    }
}

impl Program {
    /// Asks it to end, as a service manager does, and says whether it ended in good order.
    ///
    /// # Errors
    /// When it cannot be asked.
    pub fn end(&mut self) -> anyhow::Result<bool> {
        Command::new("kill").arg(self.child.id().to_string()).status()?;
        Ok(self.child.wait()?.success())
    }
}

impl Program {
    /// Kills it without a warning, as a power cut does, and starts it again on the same data and
    /// at the same address.
    ///
    /// # Errors
    /// When it does not come up again.
    pub fn crash_and_restart(&mut self) -> anyhow::Result<()> {
        self.child.kill()?;
        self.child.wait()?;
        let listen = self.address.trim_start_matches("http://").to_owned();
        let mut child = Command::new(binary()?)
            .args(["serve", "--listen", &listen, "--data"])
            .arg(self.data.path())
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()?;
        let out = child.stdout.take().context("no output")?;
        BufReader::new(out)
            .lines()
            .find(|line| line.as_ref().map_or(true, |words| words.contains("http://")))
            .context("it ended at once")??;
        self.child = child;
        Ok(())
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
    let here = std::env::current_exe()?;
    let found = here
        .ancestors()
        .map(|folder| folder.join("cobaltine"))
        .find(|path| Path::is_file(path))
        .context("the program is not built: run `cargo xtask test`")?;
    Ok(found)
}
