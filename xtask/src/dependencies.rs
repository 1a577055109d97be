//! What is built, once: one choice of features for the demo and the tests, and every crate that is in
//! the lock file in two versions with its reason.

use crate::steps::{output, say};
use anyhow::{Context, bail};
use std::collections::{BTreeMap, BTreeSet};

const WHY: &str = "docs/dependencies.md";

/// Packages with the features that they are built with.
fn chosen(edges: &str) -> anyhow::Result<BTreeMap<String, BTreeSet<String>>> {
    let words =
        ["tree", "--workspace", "--edges", edges, "--prefix", "none", "--format", "{p}|{f}"];
    let text = String::from_utf8(output("cargo", &words)?)?;
    let mut found: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for line in text.lines() {
        let Some((package, features)) = line.split_once('|') else { continue };
        let name: Vec<&str> = package.split(' ').take(2).collect();
        let features = features.trim_end_matches(" (*)").to_owned();
        found.entry(name.join(" ")).or_default().insert(features);
    }
    Ok(found)
}

/// The tests ask for no feature that the demo is built without: what one builds, the other uses.
pub(crate) fn one_choice() -> anyhow::Result<()> {
    say("one choice of features");
    let (demo, tests) = (chosen("normal,build")?, chosen("normal,build,dev")?);
    for (package, features) in &demo {
        if tests.get(package) != Some(features) {
            bail!(
                "{package} would be built twice, once for the demo and once for the tests: name what the tests ask of it in crates/features/Cargo.toml"
            );
        }
    }
    Ok(())
}

/// Every crate that the lock file has twice is named with its reason, and no other.
pub(crate) fn twice() -> anyhow::Result<()> {
    say("crates in two versions");
    let lock = std::fs::read_to_string("Cargo.lock")?;
    let mut seen: BTreeMap<&str, u32> = BTreeMap::new();
    for line in lock.lines() {
        let name = line.strip_prefix("name = \"").and_then(|rest| rest.strip_suffix('"'));
        *seen.entry(name.unwrap_or_default()).or_default() += u32::from(name.is_some());
    }
    let twice: BTreeSet<&str> =
        seen.into_iter().filter(|(_, times)| *times > 1).map(|(name, _)| name).collect();
    let why = std::fs::read_to_string(WHY).with_context(|| format!("{WHY} is missing"))?;
    let lines = why.lines().filter_map(|line| line.strip_prefix("- "));
    let named: BTreeSet<&str> = lines
        .filter_map(|line| line.split_once(": "))
        .flat_map(|(names, _)| names.split(", "))
        .map(|name| name.trim_matches('`'))
        .collect();
    let (open, gone): (Vec<_>, Vec<_>) =
        (twice.difference(&named).collect(), named.difference(&twice).collect());
    if !open.is_empty() || !gone.is_empty() {
        bail!(
            "{WHY} does not say why these are there twice: {open:?}; and names these that are not: {gone:?}"
        );
    }
    Ok(())
}
