//! The current of the starter while an engine is cranked: each compression takes a peak of it.
//!
//! The peaks of one turn of the works come in the firing order, so each stands for a cylinder once one
//! of them is known. Compared are the heights of the peaks over the valleys beside them, turn by turn.
//! It is quick and no proof: a weak battery, a dry engine and the starter itself change it. Units: s, A.
//!
//! # Source
//! House rule of the trade; the peaks are found by a model of our own.

use super::{Even, median, scatter, words};
use crate::calc::CalcError;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Compressions a second that are looked for: 100 to 400 turns a minute, 1 to 12 cylinders.
const RATES: (f64, f64) = (0.8, 40.0);
/// The starter takes far more before it turns; that long is left out, s.
const INRUSH_S: f64 = 0.4;
/// Turns of the works that are needed.
const TURNS: usize = 2;
/// Share of the peaks' height below which there is no rhythm.
const RHYTHM: f64 = 0.3;
/// Points of the picture.
const PICTURE: usize = 400;

/// What the current says, place by place in the firing order.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Cranking {
    /// Speed, turns a minute.
    pub rpm: f64,
    /// Turns of the works that were read.
    pub turns: u32,
    /// Height of each place's peak, percent of the highest.
    pub relative_pct: Vec<f64>,
    /// Standard uncertainty of each, percent.
    pub u_pct: Vec<f64>,
    /// Time of the first peak that was read, s: it is the first place.
    pub first_s: f64,
    /// Time in s and current in A, thinned.
    pub picture: Vec<[f64; 2]>,
}

/// Reads the compressions of an engine from time in s and current in A.
///
/// # Errors
/// Points that are no trace; no cylinders; no rhythm, or too little of it.
///
/// ```
/// use cobaltine_core::signal::cranking::cranking;
/// // 200 a minute, four cylinders: 6.67 compressions a second, the third a fifth lower.
/// let current = |t: f64| {
///     let turn = t * 200.0 / 120.0 * 4.0;
///     let height = if turn as u32 % 4 == 2 { 80.0 } else { 100.0 };
///     120.0 + height * (0.5 - 0.5 * (turn * std::f64::consts::TAU).cos())
/// };
/// let points: Vec<[f64; 2]> = (0..4000).map(|at| at as f64 / 1000.0).map(|t| [t, current(t)]).collect();
/// let read = cranking(&points, 4).unwrap();
/// assert!((read.rpm - 200.0).abs() < 2.0);
/// let low = read.relative_pct.iter().filter(|pct| **pct < 85.0).count();
/// assert_eq!(low, 1);
/// ```
pub fn cranking(points: &[[f64; 2]], cylinders: u32) -> Result<Cranking, CalcError> {
    let none = || CalcError::Contradiction(words::NO_CRANKING_IN_TRACE.into());
    let even = Even::of(points)?;
    let places = cylinders as usize;
    if places == 0 {
        return Err(none());
    }
    let smooth = even.smoothed(0.004);
    let from = (INRUSH_S / even.step_s) as usize;
    let used = smooth.get(from..).ok_or_else(none)?;
    let period = rhythm(used, even.step_s).ok_or_else(none)?;
    let mut peaks = peaks(used, period);
    peaks.truncate(peaks.len() / places * places);
    if peaks.len() < TURNS * places {
        return Err(none());
    }
    let of_place = |place: usize| -> Vec<f64> {
        peaks.iter().skip(place).step_by(places).map(|(_, height)| *height).collect()
    };
    let heights: Vec<f64> = (0..places).map(|place| median(&of_place(place))).collect();
    let highest = heights.iter().copied().fold(0.0, f64::max);
    if highest <= 0.0 {
        return Err(none());
    }
    let percent = |height: f64| height / highest * 100.0;
    let u = |place: usize| {
        let of = of_place(place);
        percent(1.2533 * scatter(&of) / (of.len() as f64).sqrt())
    };
    let stretch = points.len().div_ceil(PICTURE).max(1);
    let apart = (peaks[peaks.len() - 1].0 - peaks[0].0) as f64 * even.step_s;
    let compressions = (peaks.len() - 1) as f64 / apart;
    Ok(Cranking {
        rpm: compressions / cylinders as f64 * 120.0,
        turns: (peaks.len() / places) as u32,
        relative_pct: heights.iter().map(|height| percent(*height)).collect(),
        u_pct: (0..places).map(u).collect(),
        first_s: even.from_s + (from + peaks[0].0) as f64 * even.step_s,
        picture: points.iter().step_by(stretch).copied().collect(),
    })
}

/// Steps between two compressions: the shortest at which the current is like itself.
fn rhythm(values: &[f64], step_s: f64) -> Option<f64> {
    let mean = values.iter().sum::<f64>() / values.len().max(1) as f64;
    let off: Vec<f64> = values.iter().map(|value| value - mean).collect();
    let whole: f64 = off.iter().map(|value| value * value).sum();
    let (short, long) =
        (1.0 / RATES.1 / step_s, (1.0 / RATES.0 / step_s).min(off.len() as f64 / 2.0));
    // A hundredth of the shortest is fine enough; longer steps than a point are not.
    let stride = ((short / 20.0) as usize).max(1);
    let like = |lag: usize| -> f64 {
        let sum: f64 = off.iter().zip(&off[lag..]).step_by(stride).map(|(a, b)| a * b).sum();
        sum * stride as f64 / whole * off.len() as f64 / (off.len() - lag) as f64
    };
    let lags: Vec<usize> = ((short as usize).max(1)..long as usize).step_by(stride).collect();
    let likes: Vec<f64> = lags.iter().map(|lag| like(*lag)).collect();
    let top = likes.iter().copied().fold(0.0, f64::max);
    if top < RHYTHM {
        return None;
    }
    // A weak cylinder makes a whole turn more alike than one compression: the shortest that comes
    // near the best is it.
    (1..likes.len().saturating_sub(1))
        .find(|at| {
            likes[*at] > 0.6 * top && likes[*at] >= likes[at - 1] && likes[*at] > likes[at + 1]
        })
        .map(|at| lags[at] as f64)
}

/// Place and height over the valleys beside it of each compression, one after the other.
fn peaks(values: &[f64], period: f64) -> Vec<(usize, f64)> {
    let half = (period / 2.0) as usize;
    let highest = |from: usize, to: usize| {
        (from..to.min(values.len())).max_by(|a, b| values[*a].total_cmp(&values[*b]))
    };
    let lowest = |from: usize, to: usize| {
        values[from..to.min(values.len())].iter().copied().fold(f64::MAX, f64::min)
    };
    let mut found = Vec::new();
    let Some(mut at) = highest(half, half + period as usize) else { return found };
    while at >= half && at + half < values.len() {
        let valley = f64::midpoint(lowest(at - half, at + 1), lowest(at, at + half + 1));
        found.push((at, values[at] - valley));
        let (from, to) = (at + (0.7 * period) as usize, at + (1.3 * period) as usize + 1);
        match highest(from, to) {
            Some(next) if next > at => at = next,
            Some(_) | None => break,
        }
    }
    found
}
