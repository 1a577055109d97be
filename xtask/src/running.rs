//! The program, started by a bench and ended with it.

use crate::shipped;
use anyhow::{Context, bail};
use std::io::{BufRead, BufReader};
use std::net::SocketAddr;
use std::path::Path;
use std::process::{Child, Command, Stdio};

/// A program that runs, and is ended with this.
pub(crate) struct Running {
    child: Child,
    pub host: SocketAddr,
    /// What it said besides its address.
    pub said: String,
}

impl Running {
    pub fn start(words: &[&str], data: &Path, log: &Path) -> anyhow::Result<Self> {
        let log = std::fs::File::options().create(true).append(true).open(log)?;
        let mut child = Command::new(shipped())
            .args(words)
            .args(["--listen", "127.0.0.1:0", "--data"])
            .arg(data)
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .stderr(log)
            .spawn()?;
        let mut lines = BufReader::new(child.stdout.take().context("no output")?).lines();
        let line = lines.by_ref().map_while(Result::ok).find(|line| line.contains("http://"));
        let line = line.context("the program ended at once")?;
        let host = line.rsplit("http://").next().unwrap_or_default().parse()?;
        // The next line is the owner's link, where people sign in.
        let said = if words[0] == "serve" { lines.next().transpose()? } else { None };
        Ok(Self { child, host, said: said.unwrap_or_default() })
    }

    /// Tells it to end, and waits until it did.
    pub fn end(mut self) -> anyhow::Result<()> {
        let pid = self.child.id().to_string();
        Command::new("kill").args(["-TERM", &pid]).status()?;
        let ended = self.child.wait()?;
        if !ended.success() {
            bail!("the program ended with {ended}");
        }
        Ok(())
    }

    /// Memory in use now, MB.
    pub fn memory(&self) -> u64 {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.child.id()));
        let status = status.unwrap_or_default();
        let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:"));
        let kb = line.and_then(|line| line.trim().split(' ').next()?.parse::<u64>().ok());
        kb.unwrap_or_default() / 1024
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}
