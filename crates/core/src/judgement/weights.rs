//! The weights: priors, what the story does to the odds, and the outcome table of every check.
//!
//! One readable text ([`shipped`]) with a reason on each row, validated as a whole: every cause has
//! exactly one row, every code that weighs is an outcome of exactly one check, and every row of a
//! table adds up to 100. A workshop lays its own rows over it ([`Weights::laid_over`]): rows that
//! it does not name keep following the shipped ones.
//!
//! # Source
//! House rule: the numbers are the trade's experience, stated so that they can be argued with.

pub(super) mod check;
mod overlay;
mod rows;
mod table;

use super::cause::Cause;
use super::states::{OF_PLACE, SHARED};
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use crate::judgement::words;
use crate::said::Code;
use crate::tests;
use check::{cause_row, check_bounds, check_row, check_story};
use overlay::laid_over;
pub use rows::{WeightCell, WeightRow};
use serde::de::Error as _;
use serde::{Deserialize, Deserializer};
use std::collections::{BTreeMap, HashMap};
use std::sync::LazyLock;
pub(super) use table::Table;
use thiserror::Error;

/// Priors and stories that the program ships with.
const PRIORS: &str = include_str!("weights.toml");

/// The weights that the program ships with: priors and stories, then the table beside each test.
pub fn shipped() -> &'static str {
    static SHIPPED: LazyLock<String> = LazyLock::new(|| {
        let head = words::CHECKS_THEIR_OUTCOMES_MANY;
        let mut text = format!("{PRIORS}{head}");
        for table in tests::tables().filter(|table| !table.is_empty()) {
            text.push('\n');
            text.push_str(table);
        }
        text
    });
    &SHIPPED
}
/// What a workshop begins its own rows with.
pub const OWN_ROWS: &str = words::ROWS_WORKSHOP_EACH_REPLACES;
/// Largest file, bytes.
pub const LARGEST: usize = 64 * 1024;
/// How far from 100 a row may add up, by the rounding of what was typed.
const ADDS_UP: f64 = 1e-6;

/// Why weights cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum WeightsError {
    /// It is no such file.
    #[error("{0}")]
    Unreadable(String),
    /// A row contradicts itself or another one.
    #[error("{place}: {what}")]
    Row {
        /// Which.
        place: String,
        /// What is wrong, and what to do.
        what: String,
    },
}

/// From which likelihood on something is done.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Bounds {
    act: f64,
    leave: f64,
    removal: f64,
    shown: f64,
    unexplained: f64,
    young_h: f64,
    old_h: f64,
    young_km: f64,
    old_km: f64,
    reason: String,
}

#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
struct CauseRow {
    id: Cause,
    word: String,
    prior: BTreeMap<FuelSystem, f64>,
    reason: String,
}

#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct StoryRow {
    pub when: String,
    pub times: BTreeMap<Cause, f64>,
    pub reason: String,
}

/// Chances of 100, one for each outcome, and why.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct OutcomeRow {
    pub of: Vec<f64>,
    pub why: String,
}

/// What a check measures on the very injector that it was read at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub(super) enum Measures {
    Flow,
    Return,
    Leak,
    Spray,
    Coil,
    Map,
    Lift,
}

/// A check as far as judgement is concerned.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct CheckRow {
    pub id: String,
    pub title: String,
    pub step: String,
    pub fits: Vec<FuelSystem>,
    pub group: String,
    pub minutes: f64,
    pub hazard: u8,
    pub needs: String,
    /// Of what is needed, that which the workshop keeps in its list of instruments.
    #[serde(default)]
    pub instrument: Option<InstrumentKind>,
    /// A property of this injector: only such a check can carry work on it.
    #[serde(default)]
    pub measures: Option<Measures>,
    /// How good the check is at its best, 0 to 1.
    #[serde(default = "whole")]
    pub quality: f64,
    /// It speaks of what all share.
    #[serde(default)]
    pub shared: bool,
    /// The engine has to run for it.
    #[serde(default)]
    pub running: bool,
    /// The high-pressure pump turns for it, on an engine that runs or is cranked.
    #[serde(default)]
    pub pumps: bool,
    /// It compares what injectors pass or return, or what cylinders do: the base of leaving one.
    #[serde(default)]
    pub compares: bool,
    /// Its last outcome was once a part of this one: own rows from before share it out as the shipped do.
    #[serde(default)]
    pub split_from: Option<String>,
    /// Outcomes that answer another question than the group does: by outcome, the group of that question.
    #[serde(default)]
    pub answers: BTreeMap<String, String>,
    /// It is made at one place, by an exchange with a neighbour.
    #[serde(default)]
    pub exchanges: bool,
    #[serde(deserialize_with = "codes")]
    pub outcomes: Vec<Code>,
    #[serde(deserialize_with = "codes")]
    pub alike: Vec<Code>,
    pub rows: BTreeMap<String, OutcomeRow>,
}

impl CheckRow {
    /// The question that an outcome answers: of one group only the best reading counts.
    pub fn group_of(&self, outcome: Code) -> &str {
        self.answers.get(outcome.name()).unwrap_or(&self.group)
    }
}

/// Outcomes by their names.
fn codes<'de, D: Deserializer<'de>>(from: D) -> Result<Vec<Code>, D::Error> {
    static KNOWN: LazyLock<HashMap<&'static str, Code>> =
        LazyLock::new(|| tests::codes().map(|code| (code.name(), code)).collect());
    let known = |name: &String| {
        let unknown = || D::Error::custom(words::no_test_outcome(name));
        KNOWN.get(name.as_str()).copied().ok_or_else(unknown)
    };
    Vec::<String>::deserialize(from)?.iter().map(known).collect()
}

fn whole() -> f64 {
    1.0
}

#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    bounds: Bounds,
    cause: Vec<CauseRow>,
    story: Vec<StoryRow>,
    check: Vec<CheckRow>,
}

/// Validated weights.
#[derive(Debug, Clone, PartialEq)]
pub struct Weights {
    file: File,
    /// By cause, in the order of [`Cause::ALL`].
    causes: Vec<usize>,
    /// Where each code stands: check and outcome.
    at: BTreeMap<Code, (usize, usize)>,
    /// One for each check: made once, looked up for every finding.
    tables: Vec<Table>,
}

impl Weights {
    /// Reads rows of a workshop and lays them over the shipped ones; an empty text is those.
    ///
    /// # Errors
    /// Everything that is wrong with the first wrong row, in words.
    pub fn read(text: &str) -> Result<Self, WeightsError> {
        if text.len() > LARGEST {
            let says = words::bytes_maximum(text.len(), LARGEST);
            return Err(WeightsError::Unreadable(says));
        }
        let file: File =
            laid_over(shipped(), text)?.try_into().map_err(|error: toml::de::Error| {
                WeightsError::Unreadable(error.message().trim().to_owned())
            })?;
        let mut at = BTreeMap::new();
        for (c, check) in file.check.iter().enumerate() {
            for (o, code) in check.outcomes.iter().enumerate() {
                if at.insert(*code, (c, o)).is_some() {
                    return Err(row(&check.id, format!("{} appears twice", code.name())));
                }
            }
        }
        check_bounds(&file.bounds)?;
        let causes = Cause::ALL
            .iter()
            .map(|cause| cause_row(&file, *cause))
            .collect::<Result<Vec<_>, _>>()?;
        file.story.iter().try_for_each(check_story)?;
        if let Some(code) = tests::codes().find(|code| !at.contains_key(code)) {
            return Err(row(code.name(), words::NO_CHECK_OUTCOME_ROW));
        }
        file.check.iter().try_for_each(check_row)?;
        let tables = file.check.iter().map(Table::of).collect();
        Ok(Self { file, causes, at, tables })
    }

    /// A cause this likely is acted upon.
    pub fn act(&self) -> f64 {
        self.file.bounds.act / 100.0
    }

    /// Nothing above this speaks against leaving an injector alone.
    pub fn leave(&self) -> f64 {
        self.file.bounds.leave / 100.0
    }

    /// Less likely causes are not listed.
    pub fn shown(&self) -> f64 {
        self.file.bounds.shown / 100.0
    }

    /// How often a complaint is told with nothing wrong that is looked at, against with something wrong.
    pub(super) fn unexplained(&self) -> f64 {
        self.file.bounds.unexplained / 100.0
    }

    /// Below and above these hours an injector counts as young and as old.
    pub(super) fn ages_h(&self) -> (f64, f64) {
        (self.file.bounds.young_h, self.file.bounds.old_h)
    }

    /// The same in km.
    pub(super) fn ages_km(&self) -> (f64, f64) {
        (self.file.bounds.young_km, self.file.bounds.old_km)
    }

    /// Minutes until the first injector hangs on a bench.
    pub(super) fn removal(&self) -> f64 {
        self.file.bounds.removal
    }

    fn cause(&self, cause: Cause) -> &CauseRow {
        &self.file.cause[self.causes[cause.index()]]
    }

    /// As read in a list.
    pub fn word(&self, cause: Cause) -> &str {
        &self.cause(cause).word
    }

    /// How often it is there when nothing is known but the fuel system, and why.
    pub fn prior(&self, cause: Cause, fuel: FuelSystem) -> (f64, &str) {
        let row = self.cause(cause);
        (row.prior.get(&fuel).copied().unwrap_or(0.0) / 100.0, &row.reason)
    }

    pub(super) fn stories(&self) -> &[StoryRow] {
        &self.file.story
    }

    pub(super) fn checks(&self) -> &[CheckRow] {
        &self.file.check
    }

    pub(super) fn check(&self, at: usize) -> (&CheckRow, &Table) {
        (&self.file.check[at], &self.tables[at])
    }

    /// The check that a code is an outcome of, and which one; none for a code that never weighs.
    pub(super) fn at(&self, code: Code) -> Option<(usize, usize)> {
        self.at.get(&code).copied()
    }

    /// The check of a code.
    pub(super) fn check_of(&self, code: Code) -> Option<&CheckRow> {
        self.at(code).map(|(check, _)| &self.file.check[check])
    }

    /// How much likelier a finding is with the cause alone than with nothing there.
    pub fn factor(&self, code: Code, cause: Cause) -> f64 {
        let Some((check, outcome)) = self.at(code) else { return 1.0 };
        let table = &self.tables[check];
        table.alone(cause)[outcome] / table.sound()[outcome]
    }
}

fn row(place: &str, what: impl Into<String>) -> WeightsError {
    WeightsError::Row { place: place.to_owned(), what: format!("{}.", what.into()) }
}

/// Causes in the order of a table: those of a place, then the shared ones.
fn every_cause() -> impl Iterator<Item = Cause> {
    OF_PLACE.into_iter().chain(SHARED)
}
