//! `pulse_sweep`: static flow, offset and shortest linear pulse from a sweep of pulse widths.
//!
//! Per-pulse quantity `y = 1000·V/pulses` (mm³) with `u = graduation/√12·1000/pulses`, weight
//! 1/u²; points that did not spray are left out. A line is fitted to all; while some residual
//! exceeds both `linear_tolerance·|fit|` and 2u (or the slope is not positive), the *shortest*
//! pulse is dropped and the line refitted. Below three points there is no linear range.
//! `static_ml_min = 60·b`; `offset_ms = −a/b`; with weighted means x̄, ȳ
//! `u_offset = √((1/Sw)/b² + (ȳ/b²)²/Sxx)·max(1, √(Σ(residual/u)²/(m−2)))`.
//! When leaving out a single longer point would keep more points, `misread_ms` names it.
//!
//! # Source
//! SAE J1832 (linear range ±5 %, static flow, offset); weighted least squares, JCGM 100.
//!
//! ```
//! use cobaltine_core::calc::pulse_sweep::{PulseSweepInput, SweepPoint, pulse_sweep};
//! let point = |pulse_ms, volume_ml| SweepPoint { pulse_ms, pulses: 1000.0, volume_ml };
//! let out = pulse_sweep(&PulseSweepInput {
//!     points: vec![point(1.0, 0.0), point(2.0, 8.0), point(4.0, 24.0), point(6.0, 40.0)],
//!     graduation_ml: 0.5, linear_tolerance: None,
//! }).unwrap();
//! assert!((out.static_ml_min.unwrap() - 480.0).abs() < 1e-9);
//! assert!((out.offset_ms.unwrap() - 1.0).abs() < 1e-9);
//! ```

use super::{CalcError, exceeds, finite, non_negative, positive};
use crate::calc::words;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Share off the line that is still linear.
pub const LINEAR_TOLERANCE: f64 = 0.05;
/// Up to so many points each one is left out in turn: a plan has no more.
const ALL_TRIED: usize = 40;
/// Fewer points than this make no line worth the name.
const LEAST_POINTS: usize = 3;

/// One pulse width.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SweepPoint {
    /// ms.
    pub pulse_ms: f64,
    /// How many were given.
    pub pulses: f64,
    /// What was caught in all, ml; 0 when it did not spray.
    pub volume_ml: f64,
}

/// A sweep.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PulseSweepInput {
    /// At least one, each pulse width once, in any order.
    pub points: Vec<SweepPoint>,
    /// Distance between two marks of the tube, ml.
    pub graduation_ml: f64,
    /// Default 0.05.
    pub linear_tolerance: Option<f64>,
}

/// What the line says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PulseSweepOutput {
    /// There is a linear range of at least three points.
    pub linear: bool,
    /// Static flow, ml/min.
    pub static_ml_min: Option<f64>,
    /// Dead time, ms.
    pub offset_ms: Option<f64>,
    /// Its standard uncertainty, ms.
    pub u_offset_ms: Option<f64>,
    /// Shortest pulse on the line, ms.
    pub min_linear_ms: Option<f64>,
    /// Shortest pulse that sprayed, ms.
    pub first_spray_ms: Option<f64>,
    /// A longer point that is probably misread, ms.
    pub misread_ms: Option<f64>,
}

#[derive(Debug, Clone, Copy)]
struct Sprayed {
    x: f64,
    y: f64,
    u: f64,
}

struct Line {
    kept: usize,
    slope: f64,
    offset: f64,
    u_offset: f64,
    shortest: f64,
}

/// Fits a sweep.
///
/// # Errors
/// No points; a pulse width given twice; pulses, widths, graduation or tolerance not above
/// zero; a negative volume.
pub fn pulse_sweep(input: &PulseSweepInput) -> Result<PulseSweepOutput, CalcError> {
    if input.points.is_empty() {
        return Err(CalcError::TooFew { what: "points", least: 1, got: 0 });
    }
    let marks = positive("the graduation", input.graduation_ml)? / 12.0_f64.sqrt();
    let tolerance =
        positive("the linear tolerance", input.linear_tolerance.unwrap_or(LINEAR_TOLERANCE))?;
    let mut points = input.points.clone();
    for point in &points {
        positive("a pulse width", point.pulse_ms)?;
        positive(words::number_pulses_ms(point.pulse_ms), point.pulses)?;
        non_negative(words::volume_ms(point.pulse_ms), point.volume_ml)?;
    }
    points.sort_by(|a, b| a.pulse_ms.total_cmp(&b.pulse_ms));
    if let Some(twice) = points.windows(2).find(|pair| pair[0].pulse_ms == pair[1].pulse_ms) {
        return Err(CalcError::Contradiction(words::ms_appears_twice_keep(twice[0].pulse_ms)));
    }
    let sprayed = points
        .iter()
        .filter(|point| point.volume_ml > 0.0)
        .map(|point| {
            let y = finite(words::QUANTITY_PER_PULSE, 1000.0 * point.volume_ml / point.pulses)?;
            let u = positive(words::UNCERTAINTY_PER_PULSE, marks * 1000.0 / point.pulses)?;
            Ok(Sprayed { x: point.pulse_ms, y, u })
        })
        .collect::<Result<Vec<_>, CalcError>>()?;
    let line = fit(&sprayed, tolerance);
    let kept = line.as_ref().map_or(0, |line| line.kept);
    let misread_ms = misread(&sprayed, tolerance, kept);
    Ok(PulseSweepOutput {
        linear: line.is_some(),
        static_ml_min: line.as_ref().map(|line| 60.0 * line.slope),
        offset_ms: line.as_ref().map(|line| line.offset),
        u_offset_ms: line.as_ref().map(|line| line.u_offset),
        min_linear_ms: line.map(|line| line.shortest),
        first_spray_ms: sprayed.first().map(|point| point.x),
        misread_ms,
    })
}

/// The longer point without which more points lie on the line than with it. Only a longer one can
/// spoil the line for all shorter ones, as those are dropped first.
fn misread(sprayed: &[Sprayed], tolerance: f64, kept: usize) -> Option<f64> {
    if sprayed.len() <= ALL_TRIED {
        return (1..sprayed.len())
            .filter_map(|out| {
                let mut others = sprayed.to_vec();
                let left_out = others.remove(out);
                fit(&others, tolerance).map(|line| (line.kept, left_out.x))
            })
            .filter(|(without, _)| *without > kept)
            .max_by_key(|(without, _)| *without)
            .map(|(_, pulse)| pulse);
    }
    // Of many points the one that is furthest off is tried, for each point where a line could begin.
    (0..sprayed.len()).take_while(|from| sprayed.len() - from > kept + 1).find_map(|from| {
        let mut others = sprayed[from..].to_vec();
        let left_out = others.remove(furthest_off(&others)?);
        let fits = others.len() >= LEAST_POINTS && line_through(&others, tolerance).is_some();
        (fits && left_out.x > sprayed[0].x).then_some(left_out.x)
    })
}

/// The point that lies furthest from the weighted line through all of these, in uncertainties.
fn furthest_off(points: &[Sprayed]) -> Option<usize> {
    let (slope, intercept, ..) = weighted(points);
    let off = |at: &usize| {
        let p = &points[*at];
        (p.y - intercept - slope * p.x).abs() / p.u
    };
    (0..points.len()).max_by(|a, b| off(a).total_cmp(&off(b)))
}

/// The longest run of long pulses that lies on a rising line.
fn fit(points: &[Sprayed], tolerance: f64) -> Option<Line> {
    (0..points.len())
        .map(|from| &points[from..])
        .take_while(|kept| kept.len() >= LEAST_POINTS)
        .find_map(|kept| line_through(kept, tolerance))
}

/// Slope and intercept of the weighted line, the mean quantity, the sum of weights relative to the best
/// point, the sum of squares about the mean pulse, and the uncertainty of the best point.
fn weighted(points: &[Sprayed]) -> (f64, f64, f64, f64, f64, f64) {
    // Weights relative to the best point: 1/u² itself can overflow.
    let best = points.iter().map(|p| p.u).fold(f64::INFINITY, f64::min);
    let weight = |p: &Sprayed| (best / p.u).powi(2);
    let sum = |of: &dyn Fn(&Sprayed) -> f64| points.iter().map(|p| weight(p) * of(p)).sum::<f64>();
    let sw = sum(&|_| 1.0);
    let (x_mean, y_mean) = (sum(&|p| p.x) / sw, sum(&|p| p.y) / sw);
    let sxx = sum(&|p| (p.x - x_mean).powi(2));
    let sxy = sum(&|p| (p.x - x_mean) * (p.y - y_mean));
    let slope = sxy / sxx;
    (slope, y_mean - slope * x_mean, y_mean, sw, sxx, best)
}

/// The weighted line through all of these, if all lie on it.
fn line_through(points: &[Sprayed], tolerance: f64) -> Option<Line> {
    let (slope, intercept, y_mean, sw, sxx, best) = weighted(points);
    let off = |p: &Sprayed| p.y - (intercept + slope * p.x);
    let on_line = points.iter().all(|p| {
        let fit = intercept + slope * p.x;
        !(exceeds(off(p).abs(), tolerance * fit.abs()) && exceeds(off(p).abs(), 2.0 * p.u))
    });
    let chi = points.iter().map(|p| (off(p) / p.u).powi(2)).sum::<f64>();
    let stretch = (chi / (points.len() - 2) as f64).sqrt().max(1.0);
    let plain = best * (1.0 / sw / slope.powi(2) + (y_mean / slope.powi(2)).powi(2) / sxx).sqrt();
    let line = Line {
        kept: points.len(),
        slope,
        offset: -intercept / slope,
        u_offset: plain * stretch,
        shortest: points[0].x,
    };
    let usable = [line.slope * 60.0, line.offset, line.u_offset].into_iter().all(f64::is_finite);
    (slope > 0.0 && on_line && usable).then_some(line)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_long_point_that_spoils_the_line_is_named_as_misread() {
        let point = |pulse_ms: f64, off: f64| SweepPoint {
            pulse_ms,
            pulses: 1000.0,
            volume_ml: 8.0 * (pulse_ms - 1.0) + off,
        };
        let sweep = |off| PulseSweepInput {
            points: [2.0, 3.0, 4.0, 6.0, 8.0, 10.0]
                .map(|ms| point(ms, if ms == 8.0 { off } else { 0.0 }))
                .to_vec(),
            graduation_ml: 0.5,
            linear_tolerance: None,
        };
        assert_eq!(pulse_sweep(&sweep(0.0)).unwrap().misread_ms, None);
        let spoiled = pulse_sweep(&sweep(20.0)).unwrap();
        assert_eq!((spoiled.linear, spoiled.misread_ms), (false, Some(8.0)));
        // Of many points as well, and without trying each of them against all others.
        let many = |off: f64| PulseSweepInput {
            points: (1..=900)
                .map(|n| point(1.0 + 0.1 * f64::from(n), if n == 700 { off } else { 0.0 }))
                .collect(),
            graduation_ml: 0.5,
            linear_tolerance: None,
        };
        assert_eq!(pulse_sweep(&many(0.0)).unwrap().misread_ms, None);
        let misread = pulse_sweep(&many(400.0)).unwrap().misread_ms.unwrap();
        assert!((misread - 71.0).abs() < 1e-9, "{misread}");
    }
}
