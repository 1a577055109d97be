//! Signals that are recorded and then read: sound at an injector, the current into it, the current of
//! the starter. What is found is a figure with its scatter, and a picture to check it by.

pub mod cranking;
pub mod listening;
pub mod ramp;
mod words;

use crate::calc::CalcError;

/// The middle of these; 0 of none.
fn median(values: &[f64]) -> f64 {
    quantile(values, 0.5)
}

/// The value below which this share of these lies; 0 of none.
fn quantile(values: &[f64], share: f64) -> f64 {
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    let at = (share * sorted.len().saturating_sub(1) as f64).round() as usize;
    sorted.get(at).copied().unwrap_or_default()
}

/// Standard deviation by the median distance from the median: a stray value does not widen it.
fn scatter(values: &[f64]) -> f64 {
    let middle = median(values);
    let off: Vec<f64> = values.iter().map(|value| (value - middle).abs()).collect();
    // Of a normal distribution.
    1.4826 * median(&off)
}

/// A trace at even steps: its first time, the step and the values. A trace that was taken unevenly is
/// drawn straight between its points.
struct Even {
    from_s: f64,
    step_s: f64,
    values: Vec<f64>,
}

/// Fewest and most points of a trace.
const POINTS: std::ops::RangeInclusive<usize> = 50..=2_000_000;

impl Even {
    fn of(points: &[[f64; 2]]) -> Result<Self, CalcError> {
        if points.len() < *POINTS.start() {
            return Err(CalcError::TooFew {
                what: "points",
                least: *POINTS.start(),
                got: points.len(),
            });
        }
        if points.len() > *POINTS.end() {
            return Err(CalcError::Contradiction(words::TRACE_TOO_LONG.into()));
        }
        if points.iter().flatten().any(|value| !value.is_finite()) {
            return Err(CalcError::Contradiction(words::TRACE_HOLDS_NO_NUMBER.into()));
        }
        let steps: Vec<f64> = points.windows(2).map(|pair| pair[1][0] - pair[0][0]).collect();
        let step_s = median(&steps);
        if step_s <= 0.0 || steps.iter().any(|step| *step < 0.0) {
            return Err(CalcError::Contradiction(words::TRACE_TIMES_DO_NOT_RISE.into()));
        }
        let (from_s, to_s) = (points[0][0], points[points.len() - 1][0]);
        let count = ((to_s - from_s) / step_s).round() as usize + 1;
        // A gap far longer than the steps would be filled with points that nobody measured.
        if count > 2 * points.len() {
            return Err(CalcError::Contradiction(words::TRACE_HAS_A_GAP.into()));
        }
        let mut right = 1;
        let values = (0..count)
            .map(|at| {
                let time = from_s + at as f64 * step_s;
                while right + 1 < points.len() && points[right][0] < time {
                    right += 1;
                }
                let ([t0, v0], [t1, v1]) = (points[right - 1], points[right]);
                let share = if t1 > t0 { ((time - t0) / (t1 - t0)).clamp(0.0, 1.0) } else { 1.0 };
                v0 + (v1 - v0) * share
            })
            .collect();
        Ok(Self { from_s, step_s, values })
    }

    /// The same with each value as the mean of those within this time of it.
    fn smoothed(&self, within_s: f64) -> Vec<f64> {
        let side = (within_s / self.step_s).round().max(0.0) as usize;
        let mut sums = vec![0.0];
        let mut sum = 0.0;
        for value in &self.values {
            sum += value;
            sums.push(sum);
        }
        (0..self.values.len())
            .map(|at| {
                let (from, to) = (at.saturating_sub(side), (at + side + 1).min(self.values.len()));
                (sums[to] - sums[from]) / (to - from) as f64
            })
            .collect()
    }
}
