//! The licences of everything that ships in the program: Rust crates that it is built from, packages of
//! the front end, the font. Gathered into one text, which the program prints.

use crate::steps::{output, say};
use anyhow::{Context, bail};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

const KEPT: &str = "crates/cobaltine/licences.txt";
/// Licences that are accepted; what offers a choice offers one of these.
const ACCEPTED: [&str; 13] = [
    "MIT",
    "Apache-2.0",
    "BSD-2-Clause",
    "BSD-3-Clause",
    "ISC",
    "Zlib",
    "Unicode-3.0",
    "0BSD",
    "CC0-1.0",
    "Unlicense",
    "OFL-1.1",
    "MIT-0",
    "BSL-1.0",
];

/// One package that ships.
struct Package {
    name: String,
    licence: String,
    folder: PathBuf,
}

/// Crates of the program and their folders.
fn crates() -> anyhow::Result<Vec<Package>> {
    let words = [
        "tree",
        "--package",
        "cobaltine",
        "--edges",
        "normal",
        "--prefix",
        "none",
        "--format",
        "{p}|{l}",
    ];
    let text = String::from_utf8(output("cargo", &words)?)?;
    let listed: BTreeMap<String, String> = text
        .lines()
        .filter_map(|line| line.trim_end_matches(" (*)").split_once('|'))
        .filter(|(package, _)| !package.contains('('))
        .map(|(package, licence)| (package.replace(" v", " "), licence.to_owned()))
        .collect();
    let metadata = String::from_utf8(output("cargo", &["metadata", "--format-version", "1"])?)?;
    let mut all = Vec::new();
    for (name, licence) in listed {
        let folder = manifest_of(&metadata, &name).with_context(|| format!("{name}: no folder"))?;
        all.push(Package { name, licence, folder });
    }
    Ok(all)
}

/// The folder of a package, out of what cargo says of all of them.
fn manifest_of(metadata: &str, name: &str) -> Option<PathBuf> {
    let (of, version) = name.split_once(' ')?;
    let end = format!("/{of}-{version}/Cargo.toml\"");
    let at = metadata.find(&end)?;
    let begin = metadata[..at].rfind('"')? + 1;
    Some(PathBuf::from(&metadata[begin..at + end.len() - "/Cargo.toml\"".len()]))
}

/// Packages that the front end is built from, by what npm installed for use.
fn packages() -> anyhow::Result<Vec<Package>> {
    let listed =
        output("npm", &["--prefix", "web", "ls", "--omit=dev", "--all", "--parseable", "--long"])?;
    let mut all = BTreeMap::new();
    for line in String::from_utf8(listed)?.lines() {
        let mut parts = line.split(':');
        let (Some(folder), Some(name)) = (parts.next(), parts.next()) else { continue };
        let folder = PathBuf::from(folder);
        if !folder.to_string_lossy().contains("node_modules") {
            continue;
        }
        let text = std::fs::read_to_string(folder.join("package.json"))?;
        let licence = text
            .split("\"license\":")
            .nth(1)
            .and_then(|rest| rest.split('"').nth(1))
            .with_context(|| format!("{name}: no licence"))?
            .to_owned();
        let name = name.replacen('@', "\0", usize::from(name.starts_with('@')));
        let name = name.replacen('@', " ", 1).replace('\0', "@");
        all.insert(name.clone(), Package { name, licence, folder });
    }
    Ok(all.into_values().collect())
}

/// Whether one of what it offers is accepted.
fn accepted(licence: &str) -> bool {
    let plain = licence.replace(['(', ')'], " ").replace('/', " OR ");
    let (any, all) = (plain.split(" OR "), |one: &str| {
        one.split(" AND ")
            .all(|part| ACCEPTED.contains(&part.split(" WITH ").next().unwrap_or_default().trim()))
    });
    let mut any = any;
    any.any(all)
}

/// The texts that lie beside a package.
fn texts(folder: &Path) -> anyhow::Result<Vec<String>> {
    let mut files: Vec<PathBuf> = std::fs::read_dir(folder)
        .with_context(|| format!("{} is not there", folder.display()))?
        .filter_map(|entry| Some(entry.ok()?.path()))
        .filter(|path| {
            let name = path.file_name().unwrap_or_default().to_string_lossy().to_uppercase();
            let named = ["LICENSE", "LICENCE", "COPYING", "NOTICE", "UNLICENSE"];
            path.is_file() && named.iter().any(|start| name.starts_with(start))
        })
        .collect();
    files.sort();
    let read = |path: PathBuf| Ok(String::from_utf8_lossy(&std::fs::read(path)?).replace('\r', ""));
    files.into_iter().map(read).collect()
}

/// Gathers all of it, or compares it with what is kept.
pub(crate) fn gather(check: bool) -> anyhow::Result<()> {
    say("licences of what ships");
    let mut all = crates()?;
    all.extend(packages()?);
    // Each text once, with those that it is for.
    let mut of_text: BTreeMap<String, Vec<String>> = BTreeMap::new();
    let mut list = String::new();
    for package in &all {
        if !accepted(&package.licence) {
            bail!("{}: {} is no licence that is accepted", package.name, package.licence);
        }
        list.push_str(&format!("{}: {}\n", package.name, package.licence));
        for text in texts(&package.folder)? {
            let text: Vec<&str> = text.trim().lines().map(str::trim_end).collect();
            of_text.entry(text.join("\n")).or_default().push(package.name.clone());
        }
    }
    let mut whole = format!("Cobaltine ships these {} packages.\n\n{list}", all.len());
    for (text, names) in of_text {
        whole.push_str(&format!("\n{}\n{}\n\n{text}\n", "=".repeat(78), names.join(", ")));
    }
    if check {
        if std::fs::read_to_string(KEPT).unwrap_or_default() != whole {
            bail!("{KEPT} is not current: run `cargo xtask licences` and commit it");
        }
        return Ok(());
    }
    Ok(std::fs::write(KEPT, whole)?)
}
