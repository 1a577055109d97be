//! The figure that was complained of, before the work and after it.
//!
//! # Source
//! House rule: a figure is better when it fell by more than a tenth; less may be the day.

use super::ItemState;
use super::repeat::{Repeated, Span};
use crate::proving::words;
use crate::quantity::trimmed;
use crate::record::{JobFile, Moment};
use crate::tests::engine::{EngineTest, figures};
use serde::Serialize;
use utoipa::ToSchema;

/// By how much a figure has to fall to be better, as a share of what it was.
const BETTER: f64 = 0.1;

/// A figure of the complaint, before and after.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FigureProof {
    /// As it is called.
    pub name: String,
    /// Its unit.
    pub unit: String,
    /// As found.
    pub before: f64,
    /// After the work; none while it was not read again.
    pub after: Option<f64>,
    /// What it proves.
    pub state: ItemState,
    /// In a sentence.
    pub says: String,
}

/// Every figure that was read before the work, with its repetition.
pub(super) fn of(file: &JobFile, span: &Span) -> Vec<FigureProof> {
    let fresh = |at: Moment| span.since.is_none_or(|since| at >= since);
    let read = |cell: &str, then: &dyn Fn(Moment) -> bool| {
        let sheets = file.sheets.iter().filter(|one| one.check == EngineTest::ComplaintFigure);
        let all = sheets.flat_map(|sheet| sheet.standing()).filter(|one| one.cell == cell);
        all.filter(|one| then(one.signed.moment()))
            .filter_map(|one| Some((one.signed.moment(), one.value?)))
            .last()
    };
    let done = |at: Moment| span.settled.is_some_and(|settled| at >= settled);
    let figure = |(cell, name, unit): (&str, &'static str, &'static str)| {
        let (_, before) = read(cell, &|at| fresh(at) && !done(at))?;
        let after = read(cell, &|at| fresh(at) && done(at)).map(|(_, value)| value);
        let [was, is] = [Some(before), after].map(|value| value.map(trimmed).unwrap_or_default());
        let (state, says) = match after {
            None => (ItemState::Open, words::figure_not_repeated(name, &was, unit)),
            Some(after) if after < before * (1.0 - BETTER) => {
                (ItemState::Good, words::figure_better(name, &was, &is, unit))
            }
            Some(after) if after > before * (1.0 + BETTER) => {
                (ItemState::Failed, words::figure_worse(name, &was, &is, unit))
            }
            Some(_) => (ItemState::Unsure, words::figure_same(name, &was, &is, unit)),
        };
        Some(FigureProof {
            name: name.to_owned(),
            unit: unit.to_owned(),
            before,
            after,
            state,
            says,
        })
    };
    figures().filter_map(figure).collect()
}

/// What the repeated test and the figures of the complaint say together: whoever was not measured by a test
/// is proven by the figure.
pub(super) fn with(found: &Repeated, figures: &[FigureProof]) -> (ItemState, String) {
    let lead = |state: ItemState| figures.iter().find(|one| one.state == state);
    let held = [ItemState::Failed, ItemState::Unsure, ItemState::Open].into_iter().find_map(lead);
    let says = |mut all: Vec<String>| {
        all.retain(|one| !one.is_empty());
        all.join(" ")
    };
    let told: Vec<String> = figures.iter().map(|one| one.says.clone()).collect();
    match (figures, held) {
        ([], _) => (found.state, found.says.clone()),
        (_, Some(held)) if found.state == ItemState::Good || found.repeats.is_empty() => {
            (held.state, says(told))
        }
        (_, None) if found.repeats.is_empty() => (ItemState::Good, says(told)),
        (_, _) => (found.state, says([vec![found.says.clone()], told].concat())),
    }
}
