//! A large workshop out, into an empty folder, and out again: the same bytes.
//!
//! `JOBS=10000 cargo test --workspace --test program thousands -- --nocapture` does it with ten thousand jobs;
//! in the suite there are two hundred beside those of the demo.

use crate::cobaltine;
use anyhow::{Context, ensure};
use cobaltine_e2e::Program;
use serde_json::Value;
use std::path::Path;
use std::time::Instant;

fn exported(data: &Path) -> anyhow::Result<String> {
    let out = cobaltine(&["export-workshop", "--data", &data.to_string_lossy()], data, "")?;
    ensure!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    Ok(String::from_utf8(out.stdout)?)
}

#[test]
fn thousands_of_jobs_go_out_and_come_in_byte_for_byte() -> anyhow::Result<()> {
    let jobs = std::env::var("JOBS").unwrap_or_else(|_| "200".to_owned());
    let begun = Instant::now();
    let mut program = Program::demo_with(&["--jobs", &jobs])?;
    ensure!(program.end()?, "it ends in good order");
    let made = begun.elapsed();
    let first = exported(program.data.path())?;
    let out = begun.elapsed() - made;

    let empty = tempfile::tempdir()?;
    let file = empty.path().join("workshop.jsonl");
    std::fs::write(&file, &first)?;
    let line = first.lines().find(|line| line.contains("\"line\":\"person\"")).context("nobody")?;
    let person: Value = serde_json::from_str(line)?;
    let by = person["of"]["id"].as_str().context("no id")?;
    let (folder, path) = (empty.path().to_string_lossy(), file.to_string_lossy());
    let words = ["import-workshop", "--data", &folder, "--by", by, &path];
    let taken = cobaltine(&words, empty.path(), "")?;
    ensure!(taken.status.success(), "{}", String::from_utf8_lossy(&taken.stderr));
    let back = begun.elapsed() - made - out;
    let again = exported(empty.path())?;
    let count = first.lines().filter(|line| line.starts_with("{\"line\":\"job\"")).count();
    println!(
        "{count} jobs, {} bytes: made in {made:.1?}, out in {out:.1?}, in again in {back:.1?}",
        first.len()
    );
    ensure!(count > jobs.parse()?, "the demo's jobs are among them");
    ensure!(first == again, "the same bytes");
    Ok(())
}
