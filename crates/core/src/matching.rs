//! Matching on several features at once: as many sets as possible from a shelf of tested injectors,
//! least spread next.
//!
//! A set holds `size` injectors whose values lie within the tolerance of each feature: `max/min ≤
//! 1 + tolerance` for a ratio, `max − min ≤ tolerance` for a difference. With one feature sorting
//! solves it ([`crate::calc::match_sets`]); with several it is a packing problem. Small shelves are
//! solved exactly; large ones by a search (`search`) beside an upper bound (`bound`), and the gap
//! between both is stated. The same shelf and seed always give the same sets.
//!
//! Nothing here waits for a clock: work is counted in steps, and the caller may stop after any.
//!
//! # Source
//! House rule for the tolerances; large neighbourhood search; linear programming duality for the
//! bound (primal-dual hybrid gradient, columns by exact pricing).
//!
//! ```
//! use cobaltine_core::matching::{Feature, FeatureKind, Shelf, matched};
//! use std::ops::ControlFlow;
//! let flow = Feature { name: "static flow".to_owned(), kind: FeatureKind::Ratio, tolerance: 0.02 };
//! let values = [250.0, 300.0, 251.0, 301.0, 270.0].map(|v| vec![Some(v)]).to_vec();
//! let shelf = Shelf { features: vec![flow], values, size: 2, ..Shelf::default() };
//! let out = matched(&shelf, 1, &mut |_| ControlFlow::Continue(())).unwrap();
//! assert_eq!((out.sets, out.bound, out.exact), (vec![vec![0, 2], vec![1, 3]], 2, true));
//! ```

mod bound;
mod exact;
mod search;
mod why;
mod words;

use crate::calc::CalcError;
use serde::{Deserialize, Serialize};
use std::ops::ControlFlow;
use utoipa::ToSchema;

/// The most injectors on a shelf, features of each, and members of a set.
pub const MOST: usize = 2000;
const MOST_FEATURES: usize = 4;
const MOST_MEMBERS: usize = 16;
/// Up to this many injectors are solved exactly.
const EXACT: usize = 14;
/// Slack of a comparison with a tolerance, in tolerances.
const SLACK: f64 = 1e-9;

/// How far apart two values of a feature are.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FeatureKind {
    /// By their ratio, as flows and resistances.
    #[default]
    Ratio,
    /// By their difference, as dead times.
    Difference,
}

/// What a set has to have in common.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Feature {
    /// As read.
    pub name: String,
    /// Ratio or difference.
    pub kind: FeatureKind,
    /// A share for a ratio, the unit of the values for a difference.
    pub tolerance: f64,
}

/// Tested injectors, and how they are to be put together.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Shelf {
    /// What is compared.
    pub features: Vec<Feature>,
    /// For each injector a value of each feature; none when it was not measured.
    pub values: Vec<Vec<Option<f64>>>,
    /// Members of a set.
    pub size: usize,
    /// Injectors that must stay together, as indices.
    pub together: Vec<Vec<usize>>,
    /// Injectors that are not to be used.
    pub excluded: Vec<usize>,
    /// Sets that stand already.
    pub pinned: Vec<Vec<usize>>,
}

/// How far the work is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Progress {
    /// Steps done.
    pub step: usize,
    /// Of so many at most.
    pub steps: usize,
    /// Sets so far.
    pub sets: usize,
    /// No more than these are possible, as far as is known.
    pub bound: usize,
}

/// One that is left over, and the nearest reason.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Leftover {
    /// Index on the shelf.
    pub index: usize,
    /// In words.
    pub why: String,
}

/// The sets that were made.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Matched {
    /// Members as indices, pinned sets first.
    pub sets: Vec<Vec<usize>>,
    /// Sum over sets of the widest feature, in tolerances: 0 is alike, 1 just within.
    pub spread: f64,
    /// No more sets than these are possible.
    pub bound: usize,
    /// No choice makes more sets, or as many with less spread.
    pub exact: bool,
    /// Stopped before it was done.
    pub stopped: bool,
    /// Those that found no set.
    pub leftovers: Vec<Leftover>,
}

impl Matched {
    /// How far the number of sets may lie below what is possible, as a share of the bound.
    pub fn gap(&self) -> f64 {
        if self.bound == 0 { 0.0 } else { 1.0 - self.sets.len() as f64 / self.bound as f64 }
    }
}

/// Injectors that move as one: a single one, or some that must stay together.
#[derive(Debug, Clone)]
struct Unit {
    members: Vec<usize>,
    low: Vec<f64>,
    high: Vec<f64>,
}

/// A box that grows as units join: all of a set fit while it is no wider than 1 in any feature.
#[derive(Debug, Clone)]
struct Span {
    low: Vec<f64>,
    high: Vec<f64>,
}

impl Span {
    fn of(unit: &Unit) -> Self {
        Self { low: unit.low.clone(), high: unit.high.clone() }
    }

    fn takes(&self, unit: &Unit) -> bool {
        (0..self.low.len())
            .all(|k| self.high[k].max(unit.high[k]) - self.low[k].min(unit.low[k]) <= 1.0 + SLACK)
    }

    fn add(&mut self, unit: &Unit) {
        for k in 0..self.low.len() {
            self.low[k] = self.low[k].min(unit.low[k]);
            self.high[k] = self.high[k].max(unit.high[k]);
        }
    }

    /// The widest feature, in tolerances.
    fn width(&self) -> f64 {
        self.low.iter().zip(&self.high).map(|(low, high)| high - low).fold(0.0, f64::max)
    }
}

/// The shelf in units of its tolerances.
struct Packing {
    units: Vec<Unit>,
    size: usize,
}

impl Packing {
    fn fit(&self, one: usize, other: usize) -> bool {
        Span::of(&self.units[one]).takes(&self.units[other])
    }

    fn span(&self, set: &[usize]) -> Option<Span> {
        let (first, rest) = set.split_first()?;
        let mut span = Span::of(&self.units[*first]);
        rest.iter().for_each(|unit| span.add(&self.units[*unit]));
        Some(span)
    }

    fn width(&self, set: &[usize]) -> f64 {
        self.span(set).map_or(0.0, |span| span.width())
    }

    fn members(&self, set: &[usize]) -> usize {
        set.iter().map(|unit| self.units[*unit].members.len()).sum()
    }
}

/// Makes sets. `told` hears of the progress and may stop it; what stands by then is the answer.
///
/// # Errors
/// No features or too many, a tolerance or a ratio value not above zero, a size out of range, an
/// index that is not on the shelf or stands in two places, a pinned set that does not hold.
pub fn matched(
    shelf: &Shelf,
    seed: u64,
    told: &mut dyn FnMut(Progress) -> ControlFlow<()>,
) -> Result<Matched, CalcError> {
    let scaled = scaled(shelf)?;
    let (packing, pinned) = packing(shelf, &scaled)?;
    let out = if packing.units.len() <= EXACT {
        exact::solve(&packing)
    } else {
        search::solve(&packing, seed, told)
    };
    let mut sets: Vec<Vec<usize>> = pinned.iter().map(|set| sorted(set.clone())).collect();
    let pinned_spread: f64 = pinned.iter().map(|set| width_of(&scaled, set)).sum();
    let mut made: Vec<Vec<usize>> = out
        .sets
        .iter()
        .map(|set| sorted(set.iter().flat_map(|u| packing.units[*u].members.clone()).collect()))
        .collect();
    made.sort();
    sets.extend(made);
    let spread = out.sets.iter().map(|set| packing.width(set)).sum::<f64>() + pinned_spread;
    let leftovers = why::leftovers(shelf, &scaled, &sets);
    Ok(Matched {
        bound: out.bound + pinned.len(),
        sets,
        spread,
        exact: out.exact,
        stopped: out.stopped,
        leftovers,
    })
}

/// What a solver found.
struct Solved {
    sets: Vec<Vec<usize>>,
    bound: usize,
    exact: bool,
    stopped: bool,
}

fn sorted(mut set: Vec<usize>) -> Vec<usize> {
    set.sort_unstable();
    set
}

/// Values in units of the tolerance, so that alike is "no further than 1" in each feature.
fn scaled(shelf: &Shelf) -> Result<Vec<Vec<Option<f64>>>, CalcError> {
    let wrong = CalcError::Contradiction;
    if shelf.features.is_empty() || shelf.features.len() > MOST_FEATURES {
        return Err(wrong(words::match_features_once(MOST_FEATURES)));
    }
    if !(2..=MOST_MEMBERS).contains(&shelf.size) {
        return Err(wrong(words::set_members(MOST_MEMBERS)));
    }
    if shelf.values.len() > MOST {
        return Err(wrong(words::injectors_maximum_once(shelf.values.len(), MOST)));
    }
    for feature in &shelf.features {
        if !(feature.tolerance.is_finite() && feature.tolerance > 0.0) {
            return Err(wrong(words::tolerance_must_above_zero(&feature.name)));
        }
    }
    let scale = |index: usize, values: &Vec<Option<f64>>| {
        if values.len() != shelf.features.len() {
            return Err(wrong(words::injector_needs_one_value(index + 1)));
        }
        let of = |(feature, value): (&Feature, &Option<f64>)| {
            let Some(value) = *value else { return Ok(None) };
            let at = match feature.kind {
                FeatureKind::Ratio if value > 0.0 => value.ln() / feature.tolerance.ln_1p(),
                FeatureKind::Ratio => f64::NAN,
                FeatureKind::Difference => value / feature.tolerance,
            };
            if at.is_finite() {
                return Ok(Some(at));
            }
            Err(wrong(words::injector_cannot_compared(&feature.name, index + 1)))
        };
        shelf.features.iter().zip(values).map(of).collect::<Result<Vec<_>, _>>()
    };
    shelf.values.iter().enumerate().map(|(index, values)| scale(index, values)).collect()
}

fn width_of(scaled: &[Vec<Option<f64>>], set: &[usize]) -> f64 {
    let features = scaled.first().map_or(0, Vec::len);
    let range = |k: usize| {
        let values = set.iter().filter_map(|i| scaled[*i][k]);
        let (low, high) = values
            .fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), v| (low.min(v), high.max(v)));
        if high >= low { high - low } else { 0.0 }
    };
    (0..features).map(range).fold(0.0, f64::max)
}

/// The units that may be put together, and the sets that are pinned.
fn packing(
    shelf: &Shelf,
    scaled: &[Vec<Option<f64>>],
) -> Result<(Packing, Vec<Vec<usize>>), CalcError> {
    let mut used = vec![false; shelf.values.len()];
    let mut claim = |index: usize| {
        let held = used
            .get_mut(index)
            .ok_or_else(|| CalcError::Contradiction(words::no_injector_shelf(index + 1)))?;
        if std::mem::replace(held, true) {
            let says = format!("injector {} appears twice", index + 1);
            return Err(CalcError::Contradiction(says));
        }
        Ok(())
    };
    for (n, set) in shelf.pinned.iter().enumerate() {
        set.iter().try_for_each(|index| claim(*index))?;
        let known = set.iter().all(|index| scaled[*index].iter().all(Option::is_some));
        if set.len() != shelf.size || !known || width_of(scaled, set) > 1.0 + SLACK {
            let says = words::pinned_set_not_valid(n + 1, shelf.size);
            return Err(CalcError::Contradiction(says));
        }
    }
    shelf.excluded.iter().try_for_each(|index| claim(*index))?;
    let mut groups: Vec<Vec<usize>> = Vec::new();
    for group in shelf.together.iter().filter(|group| !group.is_empty()) {
        group.iter().try_for_each(|index| claim(*index))?;
        groups.push(group.clone());
    }
    groups.extend((0..shelf.values.len()).filter(|i| !used[*i]).map(|i| vec![i]));
    let unit = |members: Vec<usize>| {
        let known: Option<Vec<Vec<f64>>> =
            members.iter().map(|i| scaled[*i].iter().copied().collect()).collect();
        let values = known?;
        let ends = |pick: fn(f64, f64) -> f64| -> Vec<f64> {
            let first = values[0].clone();
            values[1..]
                .iter()
                .fold(first, |ends, one| ends.iter().zip(one).map(|(a, b)| pick(*a, *b)).collect())
        };
        let unit = Unit { low: ends(f64::min), high: ends(f64::max), members };
        let fits = unit.members.len() <= shelf.size && Span::of(&unit).width() <= 1.0 + SLACK;
        fits.then_some(unit)
    };
    let units = groups.into_iter().filter_map(unit).collect();
    Ok((Packing { units, size: shelf.size }, shelf.pinned.clone()))
}

#[cfg(test)]
mod tests;
