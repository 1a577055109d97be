//! Project commands. `cargo xtask demo` and `cargo xtask test` need Rust and Node 20, nothing else.

mod bench;
mod dependencies;
mod disk;
mod front_end;
mod licences;
mod load;
mod people;
mod running;
mod steps;

use anyhow::{Context, bail};
use std::path::{Path, PathBuf};
use steps::{cargo, run, say};

/// Everything at once, the tests among it: built package by package, or without what the tests need,
/// the same crate is built again for each choice of features, which costs minutes.
const WHOLE: &[&str] = &["build", "--workspace", "--bins", "--tests"];

/// What is measured is what is shipped, but for the last minutes of its build.
const SHIPPED: &[&str] = &["build", "--profile", "bench", "--package", "cobaltine"];

const HELP: &str = "cargo xtask COMMAND
  demo    build everything and serve the made-up workshop on 127.0.0.1 (options go to `cobaltine demo`)
  test    set up what tests need, then run all of them, the browser stories included
  laws    the properties of the core with 5,000 new random cases each
  fmt     format every Rust file, those of the registries of tests as well
  lint    formatting, clippy, rustdoc, types, the front end's checks
  bench   10,000 jobs and 20,000 limits under load on loopback, all worked numbers, every computation
  bench load  100 people for five minutes on 10,000 jobs, with import, export, backup and restore
  bench live  eight channels at 50 Hz to three browsers for ten minutes (or so many seconds)
  bench disk  a disk that is filled and freed ten times under people who write
  shots   pictures of the main views into docs/screenshots (or another folder)
  licences  the licences of everything that ships into crates/cobaltine/licences.txt
  types   TypeScript types from the wire types (--check: only compare)";

fn main() -> anyhow::Result<()> {
    std::env::set_current_dir(root())?;
    let mut arguments = std::env::args().skip(1);
    let command = arguments.next().unwrap_or_default();
    let rest: Vec<String> = arguments.collect();
    match command.as_str() {
        "demo" => demo(&rest),
        "test" => test(&rest),
        "laws" => laws(&rest),
        "lint" => lint(),
        "fmt" => format(false),
        "bench" => benches(&rest),
        "shots" => shots(&rest),
        "licences" => licences::gather(false),
        "types" => types(rest.iter().any(|argument| argument == "--check")),
        _ => {
            println!("{HELP}");
            Ok(())
        }
    }
}

fn benches(rest: &[String]) -> anyhow::Result<()> {
    let words: Vec<&str> = rest.iter().map(String::as_str).collect();
    match words.as_slice() {
        [] => bench::all(),
        ["load"] => load::load(),
        ["live"] => live("600", "8"),
        ["live", seconds] => live(seconds, "8"),
        ["live", seconds, channels] => live(seconds, channels),
        ["disk"] => disk::disk(),
        ["disk-inside", folder] => disk::disk_inside(Path::new(folder)),
        _ => bail!("cargo xtask bench, bench load, bench live, or bench disk"),
    }
}

/// Eight channels at 50 Hz to three browsers, measured at the pages, against the program as it is shipped.
fn live(seconds: &str, channels: &str) -> anyhow::Result<()> {
    browser()?;
    front_end::build()?;
    cargo(SHIPPED)?;
    cargo(&["build", "--workspace", "--bins"])?;
    let bench = Path::new(&program()).with_file_name("live_bench");
    let shipped = shipped();
    let mut command = std::process::Command::new(bench);
    let done = command.args([seconds, channels]).env("COBALTINE_PROGRAM", shipped).status()?;
    if !done.success() {
        bail!("the live bench did not hold");
    }
    Ok(())
}

/// The folder of the workspace.
fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..")
}

fn demo(rest: &[String]) -> anyhow::Result<()> {
    front_end::build()?;
    say("building the program");
    // All programs, so that what is built here is what the tests use: see crates/features.
    cargo(&["build", "--workspace", "--bins"])?;
    throw_away_old_demos();
    let data = format!("target/demo-{}", std::process::id());
    say(&format!("serving the made-up workshop; its data is thrown away at the next demo: {data}"));
    let mut words = vec!["demo", "--data", &data];
    words.extend(rest.iter().map(String::as_str));
    run(&program(), &words)
}

/// Ctrl+C ends this command together with the program, so each demo clears up after those
/// before it. One that still runs holds its lock and is left alone.
fn throw_away_old_demos() {
    let folders = std::fs::read_dir("target").into_iter().flatten().flatten();
    let demos = folders.filter(|f| f.file_name().to_string_lossy().starts_with("demo-"));
    for folder in demos.map(|folder| folder.path()) {
        let lock = std::fs::File::open(folder.join("cobaltine.lock"));
        if lock.is_ok_and(|lock| lock.try_lock().is_ok()) {
            let _ = std::fs::remove_dir_all(folder);
        }
    }
}

fn test(rest: &[String]) -> anyhow::Result<()> {
    browser()?;
    front_end::build()?;
    say("building the program and its tests");
    cargo(WHOLE)?;
    say("running all tests");
    let mut words = vec!["test", "--workspace"];
    words.extend(rest.iter().map(String::as_str));
    // The same cases on every machine: what lands is not left to a draw. `laws` draws anew.
    steps::cargo_with(&words, &[("PROPTEST_RNG_SEED", "20260101")])
}

/// The properties with new random cases, many of them; a case that fails is kept beside them.
fn laws(rest: &[String]) -> anyhow::Result<()> {
    let mut words = vec!["test", "--workspace", "--lib"];
    words.extend(rest.iter().map(String::as_str));
    steps::cargo_with(&words, &[("PROPTEST_CASES", "5000")])
}

/// Chromium and its driver, from Debian's packages.
fn browser() -> anyhow::Result<()> {
    let there = |name: &str| Path::new("/usr/bin").join(name).exists();
    if there("chromium") && there("chromedriver") {
        return Ok(());
    }
    say("installing Debian's chromium and chromium-driver for the browser stories");
    let install = ["install", "--yes", "--no-install-recommends", "chromium", "chromium-driver"];
    let done = run("apt-get", &["update"]).and_then(|()| run("apt-get", &install));
    done.context(
        "the browser stories need Debian's packages chromium and chromium-driver; \
         install them (apt-get install chromium chromium-driver) and run this again",
    )
}

fn lint() -> anyhow::Result<()> {
    format(true)?;
    dependencies::twice()?;
    dependencies::one_choice()?;
    front_end::build()?;
    licences::gather(true)?;
    say("clippy");
    cargo(&["clippy", "--workspace", "--all-targets", "--", "--deny", "warnings"])?;
    say("rustdoc");
    steps::cargo_with(
        &["doc", "--workspace", "--no-deps"],
        &[("RUSTDOCFLAGS", "--deny warnings")],
    )?;
    types(true)?;
    say("the front end's types and style");
    front_end::npm(&["run", "--silent", "check"])?;
    front_end::npm(&["run", "--silent", "lint"])
}

/// Formats every file, those of the registries of tests as well: `cargo fmt` does not see a module
/// that a macro declares.
fn format(check: bool) -> anyhow::Result<()> {
    say("formatting");
    let mut files = Vec::new();
    rust_files(Path::new("crates"), &mut files)?;
    rust_files(Path::new("xtask"), &mut files)?;
    let mut arguments = vec!["--edition", "2024"];
    arguments.extend(check.then_some("--check"));
    arguments.extend(files.iter().map(String::as_str));
    run("rustfmt", &arguments)
}

fn rust_files(folder: &Path, into: &mut Vec<String>) -> anyhow::Result<()> {
    for entry in std::fs::read_dir(folder)? {
        let path = entry?.path();
        if path.is_dir() {
            rust_files(&path, into)?;
        } else if path.extension().is_some_and(|extension| extension == "rs") {
            into.push(path.display().to_string());
        }
    }
    into.sort();
    Ok(())
}

fn types(check: bool) -> anyhow::Result<()> {
    front_end::install()?;
    say(if check { "comparing the generated types" } else { "generating types" });
    cargo(WHOLE)?;
    let document = steps::output(&program(), &["openapi"])?;
    std::fs::write("web/openapi.json", document)?;
    let kept = Path::new("web/src/api/schema.d.ts");
    let before = std::fs::read_to_string(kept).unwrap_or_default();
    front_end::npm(&["run", "--silent", "types"])?;
    let now = std::fs::read_to_string(kept)?;
    if check && before != now {
        std::fs::write(kept, before)?;
        bail!("web/src/api/schema.d.ts is not current: run `cargo xtask types` and commit it");
    }
    let schema = steps::output(&program(), &["schema"])?;
    ship("docs/job.schema.json", &schema, check)?;
    let library = steps::output(&program(), &["library-schema"])?;
    ship("docs/library.schema.json", &library, check)?;
    let workshop = steps::output(&program(), &["workshop-schema"])?;
    ship("docs/workshop-line.schema.json", &workshop, check)?;
    ship("web/src/api/labels.json", &steps::output(&program(), &["labels"])?, check)
}

/// Writes a document that ships, or compares it with the one that is kept.
fn ship(path: &str, document: &[u8], check: bool) -> anyhow::Result<()> {
    if check && std::fs::read(path).unwrap_or_default() != document {
        bail!("{path} is not current: run `cargo xtask types` and commit it");
    }
    Ok(std::fs::write(path, document)?)
}

fn shots(rest: &[String]) -> anyhow::Result<()> {
    browser()?;
    front_end::build()?;
    cargo(WHOLE)?;
    let words: Vec<&str> = rest.iter().map(String::as_str).collect();
    run(&built("shots"), &words)
}

/// The built program.
fn program() -> String {
    built("cobaltine")
}

/// The program as it is shipped, for benches.
fn shipped() -> String {
    at("release", "cobaltine")
}

fn built(name: &str) -> String {
    at("debug", name)
}

fn at(profile: &str, name: &str) -> String {
    let target = std::env::var("CARGO_TARGET_DIR").unwrap_or_else(|_| "target".to_owned());
    format!("{target}/{profile}/{name}")
}
