//! Who may read raw cells: everything else asks what counts.

use std::fs;
use std::path::{Path, PathBuf};

/// Files outside of this room that look at readings as they were written, and why.
const MAY: &[(&str, &str)] = &[
    ("core/src/entry/apart.rs", LOG),
    ("core/src/entry/file.rs", LOG),
    ("core/src/entry/together.rs", LOG),
    ("core/src/job/bench.rs", REFUSES),
    ("core/src/job/engine_test.rs", REFUSES),
    ("core/src/job/events.rs", REFUSES),
    ("core/src/job/replay.rs", LOG),
    ("core/src/job/sheet.rs", REFUSES),
    (
        "core/src/judged.rs",
        "a swap compares two sets as they were taken; fuel that was pulsed stays pulsed",
    ),
    ("core/src/judged/on_bench.rs", "which session was read last"),
    ("core/src/judgement/complaint.rs", "when something that all share was read again"),
    ("core/src/judgement/step.rs", "whether anything was read since a comeback"),
    ("core/src/record.rs", TEST),
    (
        "core/src/record/current.rs",
        "the cells that stand are this room's own answer, sent to the browser",
    ),
    ("core/src/record/review.rs", CHANGED),
    ("core/src/record/sheet.rs", TEST),
    ("core/src/record/slips.rs", TEST),
    ("core/src/record/stands.rs", CHANGED),
    ("core/src/record/trail.rs", CHANGED),
    ("core/src/shelf/tested.rs", "which session was read last"),
    ("core/src/standing/read.rs", "the one that says what was read"),
    ("core/src/standing/single.rs", "the one that says what each reading is worth"),
    ("core/src/tests/bench/ctx.rs", TEST),
    ("core/src/tests/bench/record.rs", TEST),
    ("core/src/tests/bench/work.rs", "what was done to an injector"),
    ("server/src/bench.rs", "the cell that was just kept is answered"),
    ("server/src/bench_files.rs", REFUSES),
    ("server/src/transfer.rs", LOG),
    ("server/src/wire/job.rs", "when a set was read, for the labels of that time"),
    ("store/src/bench.rs", REFUSES),
    ("store/src/stale.rs", CHANGED),
    ("store/src/upgrade/old.rs", LOG),
    ("trainer/src/bay.rs", TRAINER),
    ("trainer/src/learner.rs", TRAINER),
    ("trainer/src/mistakes.rs", TRAINER),
    ("trainer/src/readings.rs", TRAINER),
];
const LOG: &str = "takes the log apart and puts it together, whatever counts";
const REFUSES: &str = "what a new entry would take the place of";
const TEST: &str = "the cells that one test judges, as its set was taken";
const CHANGED: &str = "what was written after a signature";
const TRAINER: &str = "how something was measured, mistakes among it";

fn files(folder: &Path, found: &mut Vec<PathBuf>) {
    for entry in fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            files(&path, found);
        } else {
            found.push(path);
        }
    }
}

#[test]
fn raw_cells_are_read_where_it_is_said_that_they_are() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let mut all = Vec::new();
    for of in ["core/src", "store/src", "server/src", "trainer/src"] {
        files(&root.join(of), &mut all);
    }
    let mut reads: Vec<String> = Vec::new();
    for path in all.iter().filter(|path| path.extension().is_some_and(|end| end == "rs")) {
        let name = path.strip_prefix(&root).unwrap().to_string_lossy().into_owned();
        if name.contains("/tests") && !name.starts_with("core/src/tests/")
            || name.ends_with("sample.rs")
        {
            continue;
        }
        let text = fs::read_to_string(path).unwrap();
        let code = text.split("#[cfg(test)]").next().unwrap();
        let lines = code.lines().filter(|line| !line.trim_start().starts_with("//"));
        // Names that are other things: input of a calc, what a place gathers, cells of a form.
        if [
            "calc/",
            "judgement/rank",
            "judgement/weights",
            "judgement/next_check",
            "fitting/",
            "typed",
            "return_test/",
            "tests/bench/tests",
        ]
        .iter()
        .any(|other| name.contains(other))
        {
            continue;
        }
        let raw = |line: &str| {
            [".readings", ".cells"].iter().any(|field| {
                line.split(field).skip(1).any(|rest| {
                    !rest.starts_with(|c: char| c.is_alphanumeric() || c == '_' || c == '(')
                })
            })
        };
        if lines.clone().any(raw) {
            reads.push(name);
        }
    }
    reads.sort();
    let may: Vec<&str> = MAY.iter().map(|(file, _)| *file).collect();
    let new: Vec<&String> = reads.iter().filter(|one| !may.contains(&one.as_str())).collect();
    assert!(new.is_empty(), "ask what counts (crate::standing), or say here why not: {new:?}");
    let gone: Vec<&&str> =
        may.iter().filter(|one| !reads.iter().any(|read| read == **one)).collect();
    assert!(gone.is_empty(), "these read none any more: {gone:?}");
}
