//! `compare_set`: the members of a set against each other.
//!
//! The plain mean is pulled along by the bad member, so each is compared with the mean
//! of *the others* (`loo`) and with the *reference set*: start with everyone; while some
//! member lies outside ±tolerance of the mean of the other members, the one furthest by
//! |ln(value/mean)| leaves, together with all at an equal distance. If fewer than
//! max(2, ⌈n/2⌉) would be left, nobody leaves and the set is not settled.
//! `split`: two camps of similar size, where comparison cannot say which is right.
//! When not settled, nobody is condemned by comparison.
//!
//! # Source
//! House rule (leave-one-out comparison, reference set, split set).
//!
//! ```
//! use cobaltine_core::calc::compare_set::{CompareSetInput, compare_set};
//! let out = compare_set(&CompareSetInput { values: vec![10.0, 11.0, 10.5, 24.0], tolerance: 0.3 }).unwrap();
//! assert_eq!(out.high, vec![3]);
//! let two_bad = compare_set(&CompareSetInput { values: vec![10.0, 11.0, 24.0, 25.0], tolerance: 0.3 }).unwrap();
//! assert!(two_bad.split && two_bad.high.is_empty());
//! ```

use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Two logarithmic distances this close (relative) count as equal.
const EQUAL_DISTANCE: f64 = 1e-12;

/// A set of like quantities in one unit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CompareSetInput {
    /// At least two values, none negative.
    pub values: Vec<f64>,
    /// Share of deviation that is still alike, above zero.
    pub tolerance: f64,
}

/// The set compared every way; lists are in the order of the input.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CompareSetOutput {
    /// Plain mean of all.
    pub mean: f64,
    /// Median of all.
    pub median: f64,
    /// (max − min)/mean.
    pub spread: Option<f64>,
    /// Each against the mean of all others, minus 1.
    pub loo: Vec<Option<f64>>,
    /// Each against the median, minus 1.
    pub vs_median: Vec<Option<f64>>,
    /// Each over the highest.
    pub vs_highest: Vec<Option<f64>>,
    /// Each over the lowest.
    pub vs_lowest: Vec<Option<f64>>,
    /// Indices of the reference set.
    pub reference: Vec<usize>,
    /// Each against the mean of the reference members other than itself, minus 1.
    pub vs_reference: Vec<Option<f64>>,
    /// The reference settled and there are no two camps.
    pub settled: bool,
    /// Two camps.
    pub split: bool,
    /// Indices above the tolerance; empty when not settled.
    pub high: Vec<usize>,
    /// Indices below the tolerance; empty when not settled.
    pub low: Vec<usize>,
}

/// Compares a set.
///
/// # Errors
/// Fewer than two values, negative or non-finite values, tolerance not above zero.
pub fn compare_set(input: &CompareSetInput) -> Result<CompareSetOutput, CalcError> {
    let values = &input.values;
    if values.len() < 2 {
        return Err(CalcError::TooFew { what: "values", least: 2, got: values.len() });
    }
    for (index, value) in values.iter().enumerate() {
        non_negative(format!("value {}", index + 1), *value)?;
    }
    let tolerance = positive("the tolerance", input.tolerance)?;
    let sum = finite(words::SUM_VALUES, values.iter().sum())?;
    let mean = sum / values.len() as f64;
    let mut sorted = values.clone();
    sorted.sort_by(f64::total_cmp);
    let (lowest, highest) = (sorted[0], sorted[sorted.len() - 1]);
    let median = median_of_sorted(&sorted);

    let everyone: Vec<usize> = (0..values.len()).collect();
    let reference = reference_set(values, &everyone, tolerance);
    let split = is_split(values, tolerance);
    let settled = reference.settled && !split;
    let vs_reference = against(values, &reference.members);
    let pick = |outside: &dyn Fn(f64) -> bool| -> Vec<usize> {
        let chosen = everyone.iter().copied();
        chosen.filter(|&i| settled && vs_reference[i].is_some_and(outside)).collect()
    };
    Ok(CompareSetOutput {
        mean,
        median,
        spread: ratio(highest - lowest, mean),
        loo: against(values, &everyone),
        vs_median: values.iter().map(|v| ratio(*v, median).map(|r| r - 1.0)).collect(),
        vs_highest: values.iter().map(|v| ratio(*v, highest)).collect(),
        vs_lowest: values.iter().map(|v| ratio(*v, lowest)).collect(),
        high: pick(&|share| exceeds(share, tolerance)),
        low: pick(&|share| exceeds(-share, tolerance)),
        reference: reference.members,
        vs_reference,
        settled,
        split,
    })
}

/// The members that agree with one another.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Reference {
    /// Indices into the values, ascending.
    pub members: Vec<usize>,
    /// Whether the weeding ended with everybody left inside the tolerance.
    pub settled: bool,
}

/// The reference set among `starters` (indices into `values`).
pub(crate) fn reference_set(values: &[f64], starters: &[usize], tolerance: f64) -> Reference {
    let mut members = starters.to_vec();
    let floor = starters.len().div_ceil(2).max(2);
    loop {
        let means = means_of_others(values, &members);
        let distances: Vec<(usize, f64)> = members
            .iter()
            .zip(means)
            .filter_map(|(&i, mean)| outside_by(values[i], mean, tolerance).map(|d| (i, d)))
            .collect();
        let Some(furthest) = distances.iter().map(|(_, d)| *d).max_by(f64::total_cmp) else {
            return Reference { members, settled: true };
        };
        let leaving: Vec<usize> = distances
            .iter()
            .filter(|(_, d)| *d == furthest || *d >= furthest * (1.0 - EQUAL_DISTANCE))
            .map(|(i, _)| *i)
            .collect();
        if members.len() - leaving.len() < floor {
            return Reference { members, settled: false };
        }
        members.retain(|i| !leaving.contains(i));
    }
}

/// The logarithmic distance from the mean of the others, if that is outside.
fn outside_by(value: f64, mean: Option<f64>, tolerance: f64) -> Option<f64> {
    let mean = mean?;
    if value == 0.0 && mean == 0.0 {
        return None;
    }
    if value == 0.0 || mean == 0.0 {
        return Some(f64::INFINITY);
    }
    let ratio = value / mean;
    exceeds((ratio - 1.0).abs(), tolerance).then(|| ratio.ln().abs())
}

/// For each member the mean of the others. Sums from both ends: nothing is taken off a sum again,
/// which would lose what is small beside what is large, and a round costs no more than its members.
fn means_of_others(values: &[f64], members: &[usize]) -> Vec<Option<f64>> {
    let mut after = vec![0.0; members.len() + 1];
    for (place, &member) in members.iter().enumerate().rev() {
        after[place] = after[place + 1] + values[member];
    }
    let mut before = 0.0;
    let others = members.len().saturating_sub(1);
    members
        .iter()
        .enumerate()
        .map(|(place, &member)| {
            let sum = before + after[place + 1];
            before += values[member];
            (others > 0).then(|| sum / others as f64)
        })
        .collect()
}

fn mean_of_others(values: &[f64], members: &[usize], index: usize) -> Option<f64> {
    let (mut sum, mut count) = (0.0, 0_usize);
    for &other in members.iter().filter(|&&other| other != index) {
        sum += values[other];
        count += 1;
    }
    (count > 0).then(|| sum / count as f64)
}

/// Each value against the mean of the members other than itself, minus 1.
pub(crate) fn against(values: &[f64], members: &[usize]) -> Vec<Option<f64>> {
    (0..values.len())
        .map(|i| ratio(values[i], mean_of_others(values, members, i)?).map(|r| r - 1.0))
        .collect()
}

fn ratio(value: f64, divisor: f64) -> Option<f64> {
    Some(value / divisor).filter(|r| divisor != 0.0 && r.is_finite())
}

/// Two camps: see [`camps`].
pub(crate) fn is_split(values: &[f64], tolerance: f64) -> bool {
    camps(values, tolerance).is_some()
}

/// The value that starts the upper of two camps: a gap in the sorted values with at
/// least two on each side, at most ⌈n/2⌉ on the larger side, and a ratio across it
/// above 1 + tolerance. Of several such gaps the widest.
pub(crate) fn camps(values: &[f64], tolerance: f64) -> Option<f64> {
    let n = values.len();
    if n < 4 {
        return None;
    }
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    let across = |below: usize| match (sorted[below - 1], sorted[below]) {
        (0.0, 0.0) => 1.0,
        (0.0, _) => f64::INFINITY,
        (low, high) => high / low,
    };
    (2..=n - 2)
        .filter(|below| *below.max(&(n - below)) <= n.div_ceil(2))
        .filter(|below| exceeds(across(*below), 1.0 + tolerance))
        .max_by(|a, b| across(*a).total_cmp(&across(*b)))
        .map(|below| sorted[below])
}

pub(crate) fn median_of_sorted(sorted: &[f64]) -> f64 {
    let middle = sorted.len() / 2;
    if sorted.len().is_multiple_of(2) {
        0.5 * sorted[middle - 1] + 0.5 * sorted[middle]
    } else {
        sorted[middle]
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn order_and_scale_change_no_judgement(
            values in prop::collection::vec(0.5..60.0_f64, 2..12), turn in 0..12_usize, scale in 0.01..100.0_f64,
        ) {
            let plain = compare_set(&CompareSetInput { values: values.clone(), tolerance: 0.3 }).unwrap();
            let turn = turn % values.len();
            let mut moved = values.clone();
            moved.rotate_left(turn);
            moved.iter_mut().for_each(|v| *v *= scale);
            let moved = compare_set(&CompareSetInput { values: moved, tolerance: 0.3 }).unwrap();
            let back = |indices: &[usize]| {
                let mut i: Vec<_> = indices.iter().map(|i| (i + turn) % values.len()).collect();
                i.sort_unstable();
                i
            };
            prop_assert_eq!(plain.settled, moved.settled);
            prop_assert_eq!(plain.split, moved.split);
            prop_assert_eq!(&plain.high, &back(&moved.high));
            prop_assert_eq!(&plain.reference, &back(&moved.reference));
        }
    }
}
