//! `match_sets`: as many matched sets as possible from a shelf of injectors.
//!
//! A set holds `size` members with `ln(max/min) ≤ ln(1 + tolerance)`. First the largest number
//! of disjoint sets, then the least sum of `ln(max/min)`: exact by dynamic programming over
//! windows of the sorted values (an optimum of neighbours always exists, as swapping two members
//! of interleaved sets into order never widens either).
//!
//! Values are any positive quantity in one unit; `members` are indices into them.
//!
//! # Source
//! House rule for the tolerance; dynamic programming over intervals.
//!
//! ```
//! use cobaltine_core::calc::match_sets::{MatchSetsInput, match_sets};
//! let out = match_sets(&MatchSetsInput { values: vec![250.0, 300.0, 251.0, 301.0, 270.0], size: 2, tolerance: 0.02 }).unwrap();
//! assert_eq!(out.members, [[0, 2], [1, 3]]);
//! ```

use super::{CalcError, exceeds, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MatchSetsInput {
    /// One value for each injector, above zero.
    pub values: Vec<f64>,
    /// Members of a set, at least 2.
    pub size: usize,
    /// How far the highest of a set may lie above its lowest, as a share.
    pub tolerance: f64,
}

/// The sets that were made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MatchSetsOutput {
    /// How many sets.
    pub sets: usize,
    /// Sum of ln(max/min) over the sets.
    pub total_spread: f64,
    /// Members of each set, as indices, lowest value first.
    pub members: Vec<Vec<usize>>,
}

/// Makes sets.
///
/// # Errors
/// No values, values or tolerance not above zero, a size below 2.
pub fn match_sets(input: &MatchSetsInput) -> Result<MatchSetsOutput, CalcError> {
    let (values, size) = (&input.values, input.size);
    if values.is_empty() {
        return Err(CalcError::TooFew { what: "values", least: 1, got: 0 });
    }
    if size < 2 {
        return Err(CalcError::TooFew { what: words::MEMBERS_SET, least: 2, got: size });
    }
    let tolerance = positive("the tolerance", input.tolerance)?;
    for (index, value) in values.iter().enumerate() {
        positive(format!("value {}", index + 1), *value)?;
    }
    let mut order: Vec<usize> = (0..values.len()).collect();
    order.sort_by(|a, b| values[*a].total_cmp(&values[*b]).then(a.cmp(b)));

    // best[i]: sets and spread among the i lowest; takes[i]: the i-th closes a set.
    let mut best = vec![(0_usize, 0.0_f64)];
    let mut takes = vec![false];
    for i in 1..=order.len() {
        let skip = best[i - 1];
        let with = (i >= size)
            .then(|| (values[order[i - size]], values[order[i - 1]], best[i - size]))
            .filter(|(low, high, _)| !exceeds(*high, low * (1.0 + tolerance)))
            .map(|(low, high, (sets, spread))| (sets + 1, spread + (high / low).ln()));
        let taken =
            with.filter(|(sets, spread)| *sets > skip.0 || (*sets == skip.0 && *spread < skip.1));
        best.push(taken.unwrap_or(skip));
        takes.push(taken.is_some());
    }
    let mut members = Vec::new();
    let mut i = order.len();
    while i > 0 {
        if takes[i] {
            members.push(order[i - size..i].to_vec());
            i -= size;
        } else {
            i -= 1;
        }
    }
    members.reverse();
    let (sets, total_spread) = best[order.len()];
    Ok(MatchSetsOutput { sets, total_spread, members })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Every way of making sets, tried: the most sets, then the least spread.
    fn by_trying(values: &[f64], size: usize, tolerance: f64, free: &[usize]) -> (usize, f64) {
        let Some((&first, rest)) = free.split_first() else { return (0, 0.0) };
        let mut best = by_trying(values, size, tolerance, rest);
        for pick in 0..1_usize << rest.len() {
            if pick.count_ones() as usize != size - 1 {
                continue;
            }
            let (others, left): (Vec<_>, Vec<_>) =
                (0..rest.len()).partition(|bit| pick & (1 << bit) != 0);
            let set: Vec<f64> =
                others.iter().map(|&o| values[rest[o]]).chain([values[first]]).collect();
            let high = set.iter().copied().fold(0.0, f64::max);
            let low = set.iter().copied().fold(f64::INFINITY, f64::min);
            if exceeds(high, low * (1.0 + tolerance)) {
                continue;
            }
            let left: Vec<usize> = left.into_iter().map(|l| rest[l]).collect();
            let (sets, spread) = by_trying(values, size, tolerance, &left);
            let found = (sets + 1, spread + (high / low).ln());
            if found.0 > best.0 || (found.0 == best.0 && found.1 < best.1) {
                best = found;
            }
        }
        best
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]
        #[test]
        fn no_other_choice_makes_more_sets_or_tighter_ones(
            values in prop::collection::vec(90.0..110.0_f64, 1..8), size in 2..4_usize, tolerance in 0.005..0.1_f64,
        ) {
            let out = match_sets(&MatchSetsInput { values: values.clone(), size, tolerance }).unwrap();
            let free: Vec<usize> = (0..values.len()).collect();
            let (sets, spread) = by_trying(&values, size, tolerance, &free);
            prop_assert_eq!(out.sets, sets);
            prop_assert!((out.total_spread - spread).abs() < 1e-12);
            prop_assert!(out.members.iter().all(|set| set.len() == size));
            let mut used: Vec<_> = out.members.concat();
            used.sort_unstable();
            used.dedup();
            prop_assert_eq!(used.len(), sets * size);
        }
    }
}
