//! Pressure traces: start and end of every drop found by itself, for a person to correct.
//!
//! A drop is a fall that is deep against the largest of the trace, between two turns. The start is
//! the level held before it, the end the level held after it, each a median, so that a spike of
//! the gauge is neither. Units: s, kPa.
//!
//! # Source
//! House rule: a fall counts from a quarter of the largest on, a level as held within a twentieth.
//!
//! ```
//! use cobaltine_core::trace::find_drops;
//! let held = |from: f64, p: f64| (0..20).map(move |i| [from + f64::from(i) * 0.1, p]);
//! let fall = (0..10).map(|i| [2.0 + f64::from(i) * 0.05, 300.0 - f64::from(i) * 9.0]);
//! let points: Vec<[f64; 2]> = held(0.0, 300.0).chain(fall).chain(held(2.5, 210.0)).collect();
//! let drops = find_drops(&points).unwrap();
//! assert_eq!(drops.len(), 1);
//! assert_eq!((drops[0].start_kpa, drops[0].end_kpa), (300.0, 210.0));
//! ```

mod words;

use crate::calc::CalcError;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Fewest points of a trace.
const LEAST: usize = 8;
/// Share of the largest fall from which a fall is a drop.
const DEEP: f64 = 0.25;
/// Share of the largest fall within which a level counts as held.
const HELD: f64 = 0.05;
/// Most drops of one trace: more is noise.
const MOST: usize = 60;

/// One drop of a trace.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Drop {
    /// Where it begins, s.
    pub start_s: f64,
    /// The level before it, kPa.
    pub start_kpa: f64,
    /// Where it ends, s.
    pub end_s: f64,
    /// The level after it, kPa.
    pub end_kpa: f64,
}

/// Finds the drops of a trace of time and pressure.
///
/// # Errors
/// Too few points; times that do not rise; values that are no numbers; nothing that falls.
pub fn find_drops(points: &[[f64; 2]]) -> Result<Vec<Drop>, CalcError> {
    if points.len() < LEAST {
        return Err(CalcError::TooFew { what: "points", least: LEAST, got: points.len() });
    }
    if points.iter().flatten().any(|v| !v.is_finite()) {
        return Err(CalcError::Contradiction(words::TRACE_HOLDS_SOMETHING_NOT.into()));
    }
    if points.windows(2).any(|w| w[1][0] < w[0][0]) {
        return Err(CalcError::Contradiction(words::TIMES_TRACE_NOT_RISE.into()));
    }
    let smooth = medians(points);
    // The largest fall is what everything is measured by.
    let largest = largest_fall(&smooth);
    if largest <= 0.0 {
        return Err(CalcError::Contradiction(words::PRESSURE_NEVER_FALLS_TRACE.into()));
    }
    let drops: Vec<Drop> = swings(&smooth, DEEP * largest)
        .into_iter()
        .map(|swing| swing.drop(points, &smooth, HELD * largest))
        .collect();
    if drops.len() > MOST {
        return Err(CalcError::Contradiction(words::drops_found_noise_not(drops.len())));
    }
    Ok(drops)
}

/// A fall between two turns: from where the last rise began, over the top, to the end of the low.
struct Swing {
    from: usize,
    low: usize,
    to: usize,
}

/// Falls of at least this depth, between turns of at least this height.
fn swings(smooth: &[f64], least: f64) -> Vec<Swing> {
    let (mut swings, mut from) = (Vec::new(), 0);
    let (mut high, mut low, mut falling) = (0, 0, false);
    for (i, value) in smooth.iter().enumerate() {
        if falling {
            if *value < smooth[low] {
                low = i;
            }
            if value - smooth[low] >= least {
                swings.push(Swing { from, low, to: i });
                (falling, high, from) = (false, i, low);
            }
        } else {
            if *value >= smooth[high] {
                high = i;
            }
            if smooth[high] - value >= least {
                (falling, low) = (true, i);
            }
        }
    }
    if falling {
        swings.push(Swing { from, low, to: smooth.len() - 1 });
    }
    swings
}

impl Swing {
    /// Start and end with their levels. A third of what was held counts: the last third before
    /// the fall, the first third after it, so that a leak-down is not read as part of the drop.
    fn drop(&self, points: &[[f64; 2]], smooth: &[f64], band: f64) -> Drop {
        let top = smooth[self.from..=self.low].iter().copied().fold(f64::MIN, f64::max);
        let before: Vec<usize> =
            (self.from..=self.low).filter(|i| smooth[*i] >= top - band).collect();
        let begin = before.last().copied().unwrap_or(self.from);
        let after: Vec<usize> =
            (begin..=self.to).filter(|i| smooth[*i] <= smooth[self.low] + band).collect();
        let end = after.first().copied().unwrap_or(self.low);
        let third = |of: &[usize]| of.len().div_ceil(3);
        let level = |of: &[usize]| median(of.iter().map(|i| smooth[*i]).collect());
        Drop {
            start_s: points[begin][0],
            start_kpa: level(&before[before.len() - third(&before)..]),
            end_s: points[end][0],
            end_kpa: level(&after[..third(&after)]),
        }
    }
}

/// Each point as the median of itself and its two neighbours on each side.
fn medians(points: &[[f64; 2]]) -> Vec<f64> {
    (0..points.len())
        .map(|i| {
            let from = i.saturating_sub(2);
            let to = (i + 3).min(points.len());
            median(points[from..to].iter().map(|p| p[1]).collect())
        })
        .collect()
}

fn median(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    let n = values.len();
    if n % 2 == 1 { values[n / 2] } else { f64::midpoint(values[n / 2 - 1], values[n / 2]) }
}

fn largest_fall(smooth: &[f64]) -> f64 {
    let mut high = smooth[0];
    let mut largest: f64 = 0.0;
    for value in smooth {
        high = high.max(*value);
        largest = largest.max(high - value);
    }
    largest
}

/// Thins a trace to about this many points, keeping the high and the low of every stretch.
pub fn thinned(points: &[[f64; 2]], about: usize) -> Vec<[f64; 2]> {
    let stretch = points.len().div_ceil((about / 2).max(1));
    if stretch <= 2 {
        return points.to_vec();
    }
    points
        .chunks(stretch)
        .flat_map(|chunk| {
            let by = |a: &&[f64; 2], b: &&[f64; 2]| a[1].total_cmp(&b[1]);
            let low = chunk.iter().min_by(by).copied();
            let high = chunk.iter().max_by(by).copied();
            let mut both: Vec<[f64; 2]> = low.into_iter().chain(high).collect();
            both.sort_by(|a, b| a[0].total_cmp(&b[0]));
            both.dedup();
            both
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Prime to `top`, hold, pulse down, hold, prime again: one injector after the other.
    fn trace(ends: &[f64], top: f64, rate: f64, noise: impl Fn(usize) -> f64) -> Vec<[f64; 2]> {
        let mut points = Vec::new();
        let mut t = 0.0;
        let mut put = |seconds: f64, from: f64, to: f64, points: &mut Vec<[f64; 2]>| {
            let n = (seconds * rate) as usize;
            for i in 0..n {
                let p = from + (to - from) * i as f64 / n as f64;
                points.push([t, p + noise(points.len())]);
                t += 1.0 / rate;
            }
        };
        let mut from = 0.0;
        for end in ends {
            put(1.0, from, top, &mut points);
            from = *end;
            put(3.0, top, top, &mut points);
            put(0.8, top, *end, &mut points);
            put(2.0, *end, *end, &mut points);
        }
        points
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(60))]
        #[test]
        fn every_pulse_is_found_with_its_levels_whatever_the_gauge_and_its_noise(
            ends in prop::collection::vec(180.0..230.0_f64, 2..9),
            rate in 20.0..200.0_f64, top in 295.0..320.0_f64, seed in 0_u64..1000,
        ) {
            let noise = |i: usize| (((i as u64 * 7919 + seed * 104_729) % 1000) as f64 / 1000.0 - 0.5) * 1.2;
            let drops = find_drops(&trace(&ends, top, rate, noise)).unwrap();
            prop_assert_eq!(drops.len(), ends.len());
            for (drop, end) in drops.iter().zip(&ends) {
                prop_assert!((drop.start_kpa - top).abs() < 2.0 && (drop.end_kpa - end).abs() < 2.0, "{drop:?} {end}");
                prop_assert!(drop.start_s < drop.end_s);
            }
        }

        #[test]
        fn thinning_keeps_the_extremes_and_the_order(values in prop::collection::vec(0.0..400.0_f64, 1..4000)) {
            let points: Vec<[f64; 2]> = values.iter().enumerate().map(|(i, v)| [i as f64, *v]).collect();
            let thin = thinned(&points, 400);
            prop_assert!(thin.len() <= 402 && thin.windows(2).all(|w| w[0][0] < w[1][0]) || thin.len() == points.len());
            let top = |p: &[[f64; 2]]| p.iter().map(|p| p[1]).fold(0.0, f64::max);
            prop_assert_eq!(top(&thin), top(&points));
        }
    }

    #[test]
    fn what_is_no_balance_trace_says_why() {
        let says = |points: &[[f64; 2]]| find_drops(points).unwrap_err().to_string();
        assert!(says(&[[0.0, 300.0]; 3]).contains("at least 8"));
        let flat: Vec<[f64; 2]> = (0..50).map(|i| [f64::from(i), 300.0]).collect();
        assert!(says(&flat).contains("never falls"));
        let back: Vec<[f64; 2]> = (0..50).map(|i| [f64::from(-i), 300.0]).collect();
        assert!(says(&back).contains("do not rise"));
        let broken = vec![[0.0, f64::NAN]; 20];
        assert!(says(&broken).contains("not a number"));
    }
}
