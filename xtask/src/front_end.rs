//! The front end: packages from the lock file, built only when something changed.

use crate::steps::{finish, say};
use std::fs;
use std::path::Path;
use std::process::Command;
use std::time::SystemTime;

/// What the build is made from.
const SOURCES: [&str; 5] = [
    "web/src",
    "web/index.html",
    "web/vite.config.ts",
    "web/package-lock.json",
    "web/tsconfig.json",
];

pub(crate) fn npm(words: &[&str]) -> anyhow::Result<()> {
    finish(Command::new("npm").args(words).current_dir("web"), "npm", words)
}

/// Installs the packages of the lock file, once for each state of it.
pub(crate) fn install() -> anyhow::Result<()> {
    let lock = changed(Path::new("web/package-lock.json"));
    let done = changed(Path::new("web/node_modules/.package-lock.json"));
    if done.is_some() && done >= lock {
        return Ok(());
    }
    say("installing the front end's packages");
    npm(&["ci", "--no-audit", "--no-fund"])
}

/// Builds the front end into `web/dist`, when a source is newer than the last build.
pub(crate) fn build() -> anyhow::Result<()> {
    install()?;
    let newest = SOURCES.iter().filter_map(|path| newest_in(Path::new(path))).max();
    let built = changed(Path::new("web/dist/index.html"));
    if built.is_some() && built >= newest {
        return Ok(());
    }
    say("building the front end");
    npm(&["run", "--silent", "build"])
}

fn changed(path: &Path) -> Option<SystemTime> {
    fs::metadata(path).and_then(|data| data.modified()).ok()
}

fn newest_in(path: &Path) -> Option<SystemTime> {
    if !path.is_dir() {
        return changed(path);
    }
    let entries = fs::read_dir(path).ok()?.flatten();
    entries.filter_map(|entry| newest_in(&entry.path())).chain(changed(path)).max()
}
