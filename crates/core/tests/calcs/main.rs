//! The core from outside: worked numbers, the laws that hold for all computations, what they
//! refuse, and the checks, calculators and rows that are made from them.

#![allow(clippy::unwrap_used, reason = "a test that cannot read its cases has to stop")]

mod calculators;
mod laws;
mod nature;
mod refusals;
mod rooms;
mod sentences;
mod sheets;
mod vectors;

use cobaltine_core::calc::CalcId;
use serde_json::Value;

/// The worked cases of one computation: `id`, `input`, and `output` or `error`.
fn cases_of(id: CalcId) -> Vec<Value> {
    let path = format!("{}/tests/vectors/{}.jsonl", env!("CARGO_MANIFEST_DIR"), id.name());
    let text = std::fs::read_to_string(path).unwrap();
    let lines = text.lines().filter(|line| !line.trim().is_empty());
    lines.map(|line| serde_json::from_str(line).unwrap()).collect()
}
