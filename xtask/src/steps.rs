//! Running other programs, and telling what runs.

use anyhow::{Context, bail};
use std::process::{Command, Stdio};
use std::time::Instant;

pub(crate) fn say(what: &str) {
    println!("== {what}");
}

/// Runs a program to its end; its output goes to the screen.
pub(crate) fn run(program: &str, words: &[&str]) -> anyhow::Result<()> {
    finish(Command::new(program).args(words), program, words)
}

pub(crate) fn cargo(words: &[&str]) -> anyhow::Result<()> {
    cargo_with(words, &[])
}

pub(crate) fn cargo_with(words: &[&str], names: &[(&str, &str)]) -> anyhow::Result<()> {
    let mut command = Command::new(cargo_path());
    // What this command's own cargo says of it is no news to the next: build scripts that look at it
    // (TLS has one) would build everything anew whenever `cargo` and `cargo xtask` take turns.
    for (name, _) in std::env::vars().filter(|(name, _)| of_this_package(name)) {
        command.env_remove(name);
    }
    finish(command.args(words).envs(names.iter().copied()), "cargo", words)
}

fn of_this_package(name: &str) -> bool {
    name.starts_with("CARGO_PKG_") || name.starts_with("CARGO_MANIFEST_")
}

/// What a program prints.
pub(crate) fn output(program: &str, words: &[&str]) -> anyhow::Result<Vec<u8>> {
    let done = Command::new(program)
        .args(words)
        .stderr(Stdio::inherit())
        .output()
        .with_context(|| format!("{program} could not be started"))?;
    if !done.status.success() {
        bail!("{program} {} failed", words.join(" "));
    }
    Ok(done.stdout)
}

pub(crate) fn finish(command: &mut Command, name: &str, words: &[&str]) -> anyhow::Result<()> {
    let begun = Instant::now();
    let status = command
        .status()
        .with_context(|| format!("{name} could not be started; is it installed?"))?;
    if !status.success() {
        bail!("{name} {} failed", words.join(" "));
    }
    println!(
        "   {} {} done in {:.0?}",
        name.rsplit('/').next().unwrap_or(name),
        words.first().unwrap_or(&""),
        begun.elapsed()
    );
    Ok(())
}

fn cargo_path() -> String {
    std::env::var("CARGO").unwrap_or_else(|_| "cargo".to_owned())
}
