//! `drift`: readings that creep in the order of taking.
//!
//! `kendall_s` = Σ sign over all pairs; `p_value` two-sided from the exact permutation
//! distribution (with ties: of the tied values, n ≤ 8, else none). `monotone` when every untied
//! pair points the same way: named as possible drift *even when p is above 0.05*, as four values
//! cannot reach less than 0.083. With a `bracket` (the first one measured again at the end)
//! `per_step = (bracket − first)/n`, `corrected = value − per_step·index`,
//! `drift_share = |per_step·(n−1)|/(max − min)`.
//!
//! # Source
//! Kendall's S with its exact null distribution (inversion counts); the bracket is a house rule.
//!
//! ```
//! use cobaltine_core::calc::drift::{DriftInput, drift};
//! let out = drift(&DriftInput { values: vec![31.0, 32.0, 33.0, 35.0], bracket: Some(34.0) }).unwrap();
//! assert!(out.monotone && out.p_value.unwrap() > 0.08);
//! assert_eq!(out.per_step, Some(0.75));
//! ```

use super::{CalcError, finite};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// With ties the permutations are gone through one by one, so only this many.
const MOST_TIED: usize = 8;
/// The exact distribution of more values than this would take seconds.
const MOST_VALUES: usize = 500;

/// Readings in the order of taking.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DriftInput {
    /// At least three, in one unit.
    pub values: Vec<f64>,
    /// The first one measured again at the end.
    pub bracket: Option<f64>,
}

/// What the order says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DriftOutput {
    /// Pairs that rise minus pairs that fall.
    pub kendall_s: i64,
    /// Two-sided, exact.
    pub p_value: Option<f64>,
    /// Every untied pair points the same way.
    pub monotone: bool,
    /// Drift from one reading to the next.
    pub per_step: Option<f64>,
    /// The readings without the drift.
    pub corrected: Option<Vec<f64>>,
    /// Drift over the whole order as a share of the range of the readings.
    pub drift_share: Option<f64>,
}

/// Looks for drift.
///
/// # Errors
/// Fewer than three values or more than 500, non-finite values.
pub fn drift(input: &DriftInput) -> Result<DriftOutput, CalcError> {
    let values = &input.values;
    let n = values.len();
    if n < 3 {
        return Err(CalcError::TooFew { what: "values", least: 3, got: n });
    }
    if n > MOST_VALUES {
        return Err(CalcError::Contradiction(words::drift_looked_values_most(MOST_VALUES, n)));
    }
    for (index, value) in values.iter().enumerate() {
        finite(format!("value {}", index + 1), *value)?;
    }
    let bracket = input.bracket.map(|b| finite("the bracket", b)).transpose()?;
    let (s, untied) = kendall(values);
    let all_pairs = (n * (n - 1) / 2) as i64;
    let p_value = if untied == all_pairs {
        Some(p_untied(n, s))
    } else {
        (n <= MOST_TIED).then(|| p_tied(values, s))
    };
    let max = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let min = values.iter().copied().fold(f64::INFINITY, f64::min);
    let per_step = bracket.map(|b| finite("the drift", (b - values[0]) / n as f64)).transpose()?;
    let corrected = per_step
        .map(|step| values.iter().enumerate().map(|(i, value)| value - step * i as f64).collect());
    let range = finite(words::RANGE_VALUES, max - min)?;
    Ok(DriftOutput {
        kendall_s: s,
        p_value,
        monotone: untied > 0 && s.abs() == untied,
        per_step,
        corrected,
        drift_share: per_step
            .filter(|_| range > 0.0)
            .map(|step| (step * (n - 1) as f64).abs() / range)
            .filter(|share| share.is_finite()),
    })
}

/// S and the number of untied pairs.
fn kendall(values: &[f64]) -> (i64, i64) {
    let (mut s, mut untied) = (0, 0);
    for (i, first) in values.iter().enumerate() {
        for second in &values[i + 1..] {
            if first != second {
                untied += 1;
                s += if second > first { 1 } else { -1 };
            }
        }
    }
    (s, untied)
}

/// P(|S| ≥ |s|) over all orders of n different values: S = pairs − 2·inversions, and the counts
/// of inversions come from multiplying (1 + x + … + x^(k−1))/k for k = 1..n.
fn p_untied(n: usize, s: i64) -> f64 {
    let pairs = n * (n - 1) / 2;
    let mut shares = vec![0.0_f64; pairs + 1];
    shares[0] = 1.0;
    for k in 2..=n {
        let mut window = 0.0;
        let before = shares.clone();
        for inversions in 0..=k * (k - 1) / 2 {
            window += before[inversions];
            if inversions >= k {
                window -= before[inversions - k];
            }
            shares[inversions] = window.max(0.0) / k as f64;
        }
    }
    let extreme = (pairs as i64 - s.abs()) / 2;
    let tail: f64 = shares.iter().take(extreme as usize + 1).sum();
    if s == 0 { 1.0 } else { (2.0 * tail).min(1.0) }
}

/// The same over all orders of these values, ties and all (Heap's algorithm).
fn p_tied(values: &[f64], s: i64) -> f64 {
    let mut order = values.to_vec();
    let n = order.len();
    let (mut hits, mut orders) = (0_u64, 0_u64);
    let mut count = |order: &[f64]| {
        orders += 1;
        hits += u64::from(kendall(order).0.abs() >= s.abs());
    };
    count(&order);
    let mut stack = vec![0; n];
    let mut i = 1;
    while i < n {
        if stack[i] < i {
            let with = if i % 2 == 0 { 0 } else { stack[i] };
            order.swap(with, i);
            count(&order);
            stack[i] += 1;
            i = 1;
        } else {
            stack[i] = 0;
            i += 1;
        }
    }
    hits as f64 / orders as f64
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn both_ways_of_counting_orders_agree(seed in prop::collection::vec(0_u32..1000, 3..8)) {
            let values: Vec<f64> =
                seed.iter().enumerate().map(|(i, v)| f64::from(*v) + i as f64 * 1e-4).collect();
            let (s, _) = kendall(&values);
            prop_assert!((p_untied(values.len(), s) - p_tied(&values, s)).abs() < 1e-12);
        }

        #[test]
        fn turning_the_order_round_turns_the_sign(values in prop::collection::vec(-9.0..9.0_f64, 3..9)) {
            let turned: Vec<f64> = values.iter().rev().copied().collect();
            let [a, b] = [values, turned].map(|values| drift(&DriftInput { values, bracket: None }).unwrap());
            prop_assert_eq!(a.kendall_s, -b.kendall_s);
            prop_assert_eq!((a.p_value, a.monotone), (b.p_value, b.monotone));
        }
    }
}
