//! The order of the rooms of the core: each knows only those that stand before it, so that no two
//! know each other. A room is a module of the crate's root with everything inside it.

use std::fs;
use std::path::Path;

/// In the order in which they may know each other.
const ROOMS: [&str; 51] = [
    // Words, numbers and their units.
    "named",
    "stats",
    "words",
    "mark",
    "quantity",
    "engine",
    "caution",
    "said",
    "limits",
    "moment",
    // Computation, and what the house and its library hold.
    "calc",
    "units",
    "typed",
    "profile",
    "customer",
    "rules",
    "trace",
    "raw",
    "signal",
    "matching",
    "unit_link",
    "instrument_link",
    "connection",
    "exercise",
    "work",
    "intake",
    "start",
    "instrument",
    "library",
    // A test takes cells and gives a verdict; a job keeps what was read.
    "tests",
    "calculators",
    "record",
    "catching",
    "role",
    "entry",
    // What the rules say of a job.
    "standing",
    "plan",
    "judged",
    "shelf",
    "places",
    "fuelling",
    "codes",
    "fitting",
    "proving",
    "passport",
    "judgement",
    "job",
    "plain",
    "labels",
    // Behind `cfg(test)`, and the root itself.
    "sample",
    "lib",
];

/// The room that a file stands in; none for files of tests.
fn room(file: &Path, src: &Path) -> Option<String> {
    let inside = file.strip_prefix(src).unwrap();
    let parts: Vec<String> =
        inside.with_extension("").iter().map(|part| part.to_string_lossy().into_owned()).collect();
    let of_tests = parts.iter().skip(1).any(|part| part == "tests");
    (!of_tests).then(|| parts[0].clone())
}

fn files(folder: &Path, found: &mut Vec<std::path::PathBuf>) {
    for entry in fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            files(&path, found);
        } else if path.extension().is_some_and(|end| end == "rs") {
            found.push(path);
        }
    }
}

/// Rooms that a source names, its comments and its own tests left out.
fn named(source: &str) -> Vec<&str> {
    let code = source.split("#[cfg(test)]\nmod tests {").next().unwrap_or_default();
    let lines = code.lines().filter(|line| !line.trim_start().starts_with("//"));
    lines
        .flat_map(|line| line.split("crate::").skip(1))
        .map(|rest| rest.split(|c: char| !c.is_alphanumeric() && c != '_').next().unwrap())
        .collect()
}

#[test]
fn every_room_of_the_core_knows_only_those_before_it() {
    let src = Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    let mut all = Vec::new();
    files(&src, &mut all);
    let place = |room: &str| ROOMS.iter().position(|one| *one == room);
    let (mut against, mut arrows) = (Vec::new(), 0);
    for file in &all {
        let Some(of) = room(file, &src) else { continue };
        let here = place(&of).unwrap_or_else(|| panic!("{of} is no room with a place"));
        for other in named(&fs::read_to_string(file).unwrap()) {
            // What stands at the root itself has no room: `crate::{…}` is not written here.
            let there = place(other).unwrap_or_else(|| panic!("{}: {other}?", file.display()));
            arrows += usize::from(there != here);
            if there > here && of != "sample" {
                against.push(format!("{of} -> {other} in {}", file.display()));
            }
        }
    }
    assert!(arrows > 400, "{arrows}: the sources were read");
    assert!(against.is_empty(), "{}", against.join("\n"));
}
