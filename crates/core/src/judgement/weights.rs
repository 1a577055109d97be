//! The weights: priors, what the story does to the odds, and how strongly each finding speaks.
//!
//! One readable file ([`DEFAULT`]) with a reason on each row, validated as a whole: every cause and
//! every finding has exactly one row, chances of a check add up to no more than all, each row has
//! its reason. A workshop may put its own in its place.
//!
//! # Source
//! House rule: the numbers are the trade's experience, stated so that they can be argued with.

use super::cause::{Cause, With};
use super::finding::Code;
use crate::engine::FuelSystem;
use crate::instrument::InstrumentKind;
use serde::Deserialize;
use std::collections::BTreeMap;
use thiserror::Error;

/// The weights that the program ships with.
pub const DEFAULT: &str = include_str!("weights.toml");
/// Largest file, bytes.
pub const LARGEST: usize = 64 * 1024;
/// No finding weighs more than this, or less than its inverse: one reading is never the whole proof.
const MOST: f64 = 500.0;
const LEAST: f64 = 0.02;

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
    with: With,
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
    pub finds: Vec<FindRow>,
}

#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct FindRow {
    pub code: Code,
    pub usual: f64,
    pub given: BTreeMap<Cause, f64>,
    pub reason: String,
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
    /// Where each finding stands: check and row.
    at: BTreeMap<Code, (usize, usize)>,
}

impl Weights {
    /// Reads and validates.
    ///
    /// # Errors
    /// Everything that is wrong with the first wrong row, in words.
    pub fn read(text: &str) -> Result<Self, WeightsError> {
        if text.len() > LARGEST {
            let says = format!("{} bytes; {LARGEST} are the most.", text.len());
            return Err(WeightsError::Unreadable(says));
        }
        let file: File = toml::from_str(text)
            .map_err(|error| WeightsError::Unreadable(error.to_string().trim().to_owned()))?;
        let mut at = BTreeMap::new();
        for (c, check) in file.check.iter().enumerate() {
            for (f, find) in check.finds.iter().enumerate() {
                if at.insert(find.code, (c, f)).is_some() {
                    return Err(row(&check.id, format!("{} stands twice", find.code.name())));
                }
            }
        }
        let weights = Self { file, at };
        weights.check_rows()?;
        Ok(weights)
    }

    fn check_rows(&self) -> Result<(), WeightsError> {
        let bounds = &self.file.bounds;
        let shares = [bounds.act, bounds.leave, bounds.shown];
        if !(shares.iter().all(|v| *v > 0.0 && *v < 100.0) && bounds.leave < bounds.act) {
            return Err(row("bounds", "percentages with leave below act are needed"));
        }
        let ages = [(bounds.young_h, bounds.old_h), (bounds.young_km, bounds.old_km)];
        if !ages.iter().all(|(young, old)| *young > 0.0 && young < old) {
            return Err(row("bounds", "young below old, in hours and in km, is needed"));
        }
        if !(bounds.removal >= 0.0 && bounds.removal < 1e4) || bounds.reason.trim().is_empty() {
            return Err(row("bounds", "minutes from 0, and a reason, are needed"));
        }
        for cause in Cause::ALL.iter().copied() {
            let rows: Vec<&CauseRow> = self.file.cause.iter().filter(|c| c.id == cause).collect();
            let [one] = rows.as_slice() else {
                return Err(row(cause.name(), format!("{} rows; one is needed", rows.len())));
            };
            let known = FuelSystem::ALL
                .iter()
                .all(|fuel| one.prior.get(fuel).is_some_and(|p| (0.0..=60.0).contains(p)));
            if !known {
                let says = "a prior from 0 to 60 for each fuel system is needed";
                return Err(row(cause.name(), says));
            }
            if one.reason.trim().is_empty() || one.word.trim().is_empty() {
                return Err(row(cause.name(), "a word and a reason are needed"));
            }
        }
        for story in &self.file.story {
            let good = story.times.values().all(|t| *t >= 0.05 && *t <= 20.0);
            if !super::story::KNOWN.contains(&story.when.as_str()) {
                let says =
                    format!("nothing of that name; known are {}", super::story::KNOWN.join(", "));
                return Err(row(&story.when, says));
            }
            if !good || story.reason.trim().is_empty() {
                return Err(row(&story.when, "factors from 0.05 to 20, and a reason, are needed"));
            }
        }
        if let Some(code) = Code::ALL.iter().find(|code| !self.at.contains_key(code)) {
            return Err(row(code.name(), "no check finds it; a row is needed"));
        }
        self.file.check.iter().try_for_each(check_row)
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

    fn cause(&self, cause: Cause) -> Option<&CauseRow> {
        self.file.cause.iter().find(|row| row.id == cause)
    }

    /// As read in a list.
    pub fn word(&self, cause: Cause) -> &str {
        self.cause(cause).map_or("", |row| row.word.as_str())
    }

    /// What it goes along with.
    pub fn with(&self, cause: Cause) -> With {
        self.cause(cause).map_or(With::Injector, |row| row.with)
    }

    /// How often it is there when nothing is known but the fuel system, and why.
    pub fn prior(&self, cause: Cause, fuel: FuelSystem) -> (f64, &str) {
        let row = self.cause(cause);
        let share = row.and_then(|row| row.prior.get(&fuel)).copied().unwrap_or(0.0) / 100.0;
        (share, row.map_or("", |row| row.reason.as_str()))
    }

    pub(super) fn stories(&self) -> &[StoryRow] {
        &self.file.story
    }

    pub(super) fn checks(&self) -> &[CheckRow] {
        &self.file.check
    }

    /// The check that a finding belongs to, and its row.
    pub(super) fn row(&self, code: Code) -> Option<(&CheckRow, &FindRow)> {
        let (c, f) = *self.at.get(&code)?;
        let check = self.file.check.get(c)?;
        Some((check, check.finds.get(f)?))
    }

    /// How the check of a finding is called in a sentence.
    pub(super) fn title(&self, code: Code) -> String {
        self.row(code).map_or_else(String::new, |(check, _)| check.title.clone())
    }

    /// Whether a finding speaks about the cylinder and not only about the injector in it.
    pub(super) fn of_the_place(&self, code: Option<Code>) -> bool {
        let row = code.and_then(|code| self.row(code));
        row.is_some_and(|(_, find)| find.given.keys().any(|c| self.with(*c) == With::Cylinder))
    }

    /// How much likelier a finding is with the cause than without.
    pub fn factor(&self, code: Code, cause: Cause) -> f64 {
        let Some((check, find)) = self.row(code) else { return 1.0 };
        let usual = find.usual / 100.0;
        (chance(check, find, cause) / usual).clamp(LEAST, MOST)
    }
}

/// Chance of a finding with the cause: as stated, or its usual share of what the stated ones leave;
/// never more than usual, as a cause that is not named does not make a finding likelier.
pub(super) fn chance(check: &CheckRow, find: &FindRow, cause: Cause) -> f64 {
    let stated = |one: &FindRow| one.given.get(&cause).copied();
    if let Some(percent) = stated(find) {
        return percent / 100.0;
    }
    let named = check.finds.iter().filter(|one| stated(one).is_some());
    let (taken, of) = named
        .fold((0.0, 0.0), |(taken, of), one| (taken + stated(one).unwrap_or(0.0), of + one.usual));
    find.usual / 100.0 * ((100.0 - taken) / (100.0 - of)).min(1.0)
}

fn check_row(check: &CheckRow) -> Result<(), WeightsError> {
    let usual: f64 = check.finds.iter().map(|find| find.usual).sum();
    let shares = |v: f64| (0.0..=100.0).contains(&v);
    if !check.finds.iter().all(|f| f.usual >= 0.01 && f.given.values().all(|v| shares(*v))) {
        return Err(row(&check.id, "usual from 0.01, and given from 0 to 100, are needed"));
    }
    if usual >= 100.0 {
        let says =
            format!("usual adds up to {usual}; below 100 is needed, as something else can be seen");
        return Err(row(&check.id, says));
    }
    for cause in Cause::ALL {
        let given: f64 = check.finds.iter().filter_map(|find| find.given.get(cause)).sum();
        if given > 100.0 {
            let says = format!("what {} shows adds up to {given}; 100 are the most", cause.name());
            return Err(row(&check.id, says));
        }
    }
    if check.finds.iter().any(|find| find.reason.trim().is_empty()) {
        return Err(row(&check.id, "each finding needs a reason"));
    }
    if !(check.minutes > 0.0 && check.minutes < 1e4)
        || check.hazard > 3
        || check.group.is_empty()
        || check.title.is_empty()
    {
        let says = "a title, a group, minutes above 0 and a hazard from 0 to 3 are needed";
        return Err(row(&check.id, says));
    }
    Ok(())
}

fn row(place: &str, what: impl Into<String>) -> WeightsError {
    WeightsError::Row { place: place.to_owned(), what: format!("{}.", what.into()) }
}
