//! What exercises are marked by: one readable file, every row with its reason.
//!
//! # Source
//! House rules of the trainer.

use crate::case::CaseError;
use crate::mistakes::Mistake;
use cobaltine_core::exercise::Skill;
use serde::Deserialize;
use std::sync::LazyLock;

const FILE: &str = include_str!("../trainer.toml");

/// What everything is marked by.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Tables {
    pub minutes: Minutes,
    pub parts: Parts,
    pub mistake: Vec<MistakeRow>,
    pub finding: FindingRow,
    pub economy: EconomyRow,
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct MistakeRow {
    pub of: Mistake,
    pub skill: Skill,
    pub points: u32,
    pub reason: String,
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct FindingRow {
    pub condemned: f64,
    pub undecided: f64,
    pub blamed: f64,
    pub half: f64,
    #[serde(rename = "reason")]
    _reason: String,
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct EconomyRow {
    pub full: f64,
    pub none: f64,
    #[serde(rename = "reason")]
    _reason: String,
}

static TABLES: LazyLock<Result<Tables, String>> =
    LazyLock::new(|| toml::from_str(FILE).map_err(|why| why.to_string()));

pub(crate) fn tables() -> Result<&'static Tables, CaseError> {
    TABLES.as_ref().map_err(|why| CaseError::Files(why.clone()))
}

/// How long each act takes, minutes.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Minutes {
    pub warm_up: f64,
    pub set_up: f64,
    pub run: f64,
    pub swap: f64,
    pub bench: f64,
    pub round: f64,
    pub cleaning: f64,
    pub codes: f64,
    pub writing: f64,
    pub clearing: f64,
    pub put_right: f64,
    pub replaced: f64,
    #[serde(rename = "reason")]
    _reason: String,
}

/// What is bought besides.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Parts {
    pub put_right: f64,
    #[serde(rename = "reason")]
    _reason: String,
}
