//! The current into an injector while it is driven: rise, kink, hold and tail.
//!
//! The pulses of a trace are laid over each other at their start and averaged. The current of a coil
//! rises as V/R·(1 − e^(−t·R/L)): its slope only ever falls. While the pintle moves it changes the
//! inductance and takes voltage for itself; the slope dips and recovers. The bottom of that dip is the
//! kink: the injector opens there. No dip, no movement. Units: s, A, V, Ω, mH, ms.
//!
//! # Source
//! The differential equation of a coil with moving iron; least squares for resistance and inductance;
//! what counts as a kink is a model of our own, tried on the traces of the stand-in.

use super::{Even, quantile, scatter, words};
use crate::calc::{CalcError, positive};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Current below which nothing flows, A.
const LEAST_A: f64 = 0.05;
/// Longest pulse that is read, s.
const LONGEST_S: f64 = 0.1;
/// Before the start of a pulse and behind its end, s.
const AROUND_S: f64 = 0.0015;
/// The slope is that of a line over this time to each side, s.
const SIDE_S: f64 = 0.000_1;
/// The dip has to be this many deviations deep, and this share of the first slope.
const DEEP: (f64, f64) = (6.5, 0.02);
/// The slope recovers within this time, s.
const RECOVERS_S: f64 = 0.000_6;
/// Points of the picture.
const PICTURE: usize = 300;

/// What the current says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Ramp {
    /// Pulses that were laid over each other.
    pub pulses: u32,
    /// Highest current, A.
    pub peak_a: f64,
    /// Current at the end of the drive, A: what holds it, or the peak itself.
    pub hold_a: f64,
    /// How long it is driven, ms.
    pub driven_ms: f64,
    /// The kink after the start of the current, ms; none where nothing moved.
    pub kink_ms: Option<f64>,
    /// Its standard uncertainty, ms.
    pub kink_u_ms: f64,
    /// Of the whole circuit, Ω; none without a voltage or where the current did not level off.
    pub resistance_ohm: Option<f64>,
    /// By the first slope, mH; none without a voltage.
    pub inductance_mh: Option<f64>,
    /// From the end of the drive until a tenth of the current is left, ms.
    pub tail_ms: f64,
    /// The averaged pulse: time from its start in ms and current in A.
    pub picture: Vec<[f64; 2]>,
}

/// Reads the pulses of one injector from time in s and current in A; `volts` is what drove it.
///
/// # Errors
/// Points that are no trace; no whole pulse in it; a voltage that is not above zero.
///
/// ```
/// use cobaltine_core::signal::ramp::ramp;
/// // 14 V on 14 Ω and 14 mH, 3 ms, without any movement: a time constant of 1 ms.
/// let current = |t: f64| if t < 0.0 { 0.0 } else if t < 3.0 { 1.0 - (-t).exp() } else { 0.95 * (-4.0 * (t - 3.0)).exp() };
/// let points: Vec<[f64; 2]> = (0..400).map(|at| at as f64 * 0.02).map(|ms| [ms / 1000.0, current(ms - 2.0)]).collect();
/// let ramp = ramp(&points, Some(14.0)).unwrap();
/// assert!(ramp.kink_ms.is_none() && (ramp.driven_ms - 3.0).abs() < 0.05);
/// assert!((ramp.inductance_mh.unwrap() - 14.0).abs() < 0.8);
/// ```
pub fn ramp(points: &[[f64; 2]], volts: Option<f64>) -> Result<Ramp, CalcError> {
    volts.map_or(Ok(0.0), |volts| positive("voltage", volts))?;
    let even = Even::of(points)?;
    let mean = Mean::of(&even)?;
    let (kink_ms, kink_u_ms) = mean.kink().map_or((None, 0.0), |(at, u)| (Some(at), u));
    let slope = mean.first_slope();
    Ok(Ramp {
        pulses: mean.pulses,
        peak_a: mean.current.iter().copied().fold(0.0, f64::max),
        hold_a: mean.at(mean.driven_s - 2.0 * SIDE_S),
        driven_ms: mean.driven_s * 1000.0,
        kink_ms,
        kink_u_ms,
        resistance_ohm: volts.and_then(|volts| mean.level().map(|level| volts / level)),
        inductance_mh: volts.filter(|_| slope > 0.0).map(|volts| volts / slope * 1000.0),
        tail_ms: mean.tail_s() * 1000.0,
        picture: mean.picture(),
    })
}

/// The mean of all pulses of a trace.
struct Mean {
    pulses: u32,
    step_s: f64,
    /// From [`AROUND_S`] before its start on.
    current: Vec<f64>,
    driven_s: f64,
    /// Standard deviation of a point of the mean, A.
    noise: f64,
}

impl Mean {
    fn of(even: &Even) -> Result<Self, CalcError> {
        let none = || CalcError::Contradiction(words::NO_PULSE_IN_TRACE.into());
        let smooth = even.smoothed(even.step_s);
        let (base, top) = (quantile(&smooth, 0.1), quantile(&smooth, 0.995));
        let differences: Vec<f64> =
            even.values.windows(2).map(|pair| (pair[1] - pair[0]) / 2.0_f64.sqrt()).collect();
        let noise = scatter(&differences);
        let height = top - base;
        if height < LEAST_A.max(6.0 * noise) {
            return Err(none());
        }
        let around = (AROUND_S / even.step_s).ceil() as usize;
        let pulses: Vec<(f64, f64)> = pulses(&smooth, base, height)
            .into_iter()
            .filter(|(start, end)| {
                let fits = (end - start) * even.step_s < LONGEST_S;
                let whole = *start as usize >= around && *end as usize + around < smooth.len();
                fits && whole
            })
            .collect();
        let lengths: Vec<f64> = pulses.iter().map(|(start, end)| end - start).collect();
        if lengths.is_empty() {
            return Err(none());
        }
        // Pulses of another length are of another kind: a pilot before the main one.
        let usual = quantile(&lengths, 0.5);
        let alike = |(start, end): &&(f64, f64)| ((end - start) / usual - 1.0).abs() < 0.1;
        let starts: Vec<f64> = pulses.iter().filter(alike).map(|(start, _)| *start).collect();
        let length = 2 * around + usual.ceil() as usize;
        let current: Vec<f64> = (0..length)
            .map(|at| {
                let sum: f64 = starts
                    .iter()
                    .map(|start| between(&even.values, start - around as f64 + at as f64) - base)
                    .sum();
                sum / starts.len() as f64
            })
            .collect();
        Ok(Self {
            pulses: starts.len() as u32,
            step_s: even.step_s,
            current,
            driven_s: usual * even.step_s,
            noise: (noise / (starts.len() as f64).sqrt()).max(1e-4 * height),
        })
    }

    fn at(&self, time_s: f64) -> f64 {
        between(&self.current, (time_s + AROUND_S) / self.step_s)
    }

    /// Slope of a line over the points around a time, A/s.
    fn slope(&self, time_s: f64) -> f64 {
        let side = ((SIDE_S / self.step_s).round() as i64).max(2);
        let (mut up, mut down) = (0.0, 0.0);
        for n in -side..=side {
            let off = n as f64 * self.step_s;
            up += off * self.at(time_s + off);
            down += off * off;
        }
        up / down
    }

    /// Standard deviation of [`Mean::slope`], A/s.
    fn slope_noise(&self) -> f64 {
        let side = ((SIDE_S / self.step_s).round() as i64).max(2);
        let sum: f64 = (-side..=side).map(|n| (n as f64 * self.step_s).powi(2)).sum();
        self.noise / sum.sqrt()
    }

    fn first_slope(&self) -> f64 {
        // From a tenth to a quarter of the peak: there the current still rises along a line.
        let peak = self.current.iter().copied().fold(0.0, f64::max);
        let reach = |share: f64| self.current.iter().position(|value| *value >= share * peak);
        let (Some(from), Some(to)) = (reach(0.1), reach(0.25)) else { return 0.0 };
        let (rise, time) =
            (self.current[to] - self.current[from], (to - from) as f64 * self.step_s);
        if time <= 0.0 {
            return 0.0;
        }
        // The slope falls along the way by the share of the peak that is reached.
        rise / time / (1.0 - 0.175)
    }

    /// The bottom of the deepest dip of the slope from which it recovers, ms, with its uncertainty.
    fn kink(&self) -> Option<(f64, f64)> {
        let peak_at = self.peak_s();
        let from = 3.0 * SIDE_S;
        let steps = ((peak_at - SIDE_S - from) / self.step_s).floor().max(0.0) as usize;
        let slopes: Vec<f64> =
            (0..steps).map(|n| self.slope(from + n as f64 * self.step_s)).collect();
        let (noise, first) = (self.slope_noise(), self.first_slope());
        let reach = (RECOVERS_S / self.step_s) as usize;
        let mut best: Option<(f64, usize)> = None;
        for (at, slope) in slopes.iter().enumerate() {
            let to = (at + reach).min(slopes.len());
            let recovered = slopes[at..to].iter().copied().fold(f64::MIN, f64::max) - slope;
            if best.is_none_or(|(deepest, _)| recovered > deepest) {
                best = Some((recovered, at));
            }
        }
        let (deep, at) = best?;
        if deep < DEEP.0 * noise || deep < DEEP.1 * first {
            return None;
        }
        // The bottom lies as surely as the slope around it is curved.
        let side = (2.0 * SIDE_S / self.step_s) as usize;
        let (left, right) = (at.saturating_sub(side), (at + side).min(slopes.len() - 1));
        let bend = slopes[left] + slopes[right] - 2.0 * slopes[at];
        let wide = side as f64 * self.step_s;
        let u = if bend > 0.0 { noise / bend * wide } else { wide };
        let time = from + at as f64 * self.step_s;
        Some((time * 1000.0, u.clamp(self.step_s / 12.0_f64.sqrt(), wide) * 1000.0))
    }

    /// Where the current is highest: the end of the drive, or where a boosted driver lets go.
    fn peak_s(&self) -> f64 {
        let top = self.current.iter().copied().fold(f64::MIN, f64::max);
        // A level top is reached over and over: what counts is the last time within the noise.
        let last = self.current.iter().rposition(|value| *value >= top - 3.0 * self.noise);
        last.unwrap_or_default() as f64 * self.step_s - AROUND_S
    }

    /// The current that it levels off at, A; none where it still rises when the drive ends.
    fn level(&self) -> Option<f64> {
        let (end, quarter) = (self.driven_s - 2.0 * SIDE_S, 0.25 * self.driven_s);
        let (last, before) = (self.at(end), self.at(end - quarter));
        let still = (last - before).abs();
        (last > 0.0 && still < (0.04 * last).max(4.0 * self.noise)).then_some(last)
    }

    fn tail_s(&self) -> f64 {
        let end = ((self.driven_s + AROUND_S) / self.step_s) as usize;
        let from = self.at(self.driven_s - 2.0 * SIDE_S);
        let gone = self.current[end.min(self.current.len())..].iter();
        let low = gone.take_while(|value| **value > 0.1 * from).count();
        low as f64 * self.step_s
    }

    fn picture(&self) -> Vec<[f64; 2]> {
        let stretch = self.current.len().div_ceil(PICTURE).max(1);
        let point = |(at, value): (usize, &f64)| {
            let time = at as f64 * self.step_s - AROUND_S;
            [(time * 1e6).round() / 1e3, (value * 1e4).round() / 1e4]
        };
        self.current.iter().enumerate().step_by(stretch).map(point).collect()
    }
}

/// A value between two places.
fn between(values: &[f64], place: f64) -> f64 {
    let at = (place.max(0.0) as usize).min(values.len() - 1);
    let next = (at + 1).min(values.len() - 1);
    values[at] + (values[next] - values[at]) * (place - at as f64).clamp(0.0, 1.0)
}

/// Start and end of each pulse, in steps: where the rise comes from zero, and where the current last
/// stood at nine tenths of what it was before it fell.
fn pulses(smooth: &[f64], base: f64, height: f64) -> Vec<(f64, f64)> {
    let (low, high) = (base + 0.1 * height, base + 0.25 * height);
    let mut found = Vec::new();
    let mut rose: Option<usize> = None;
    for at in 1..smooth.len() {
        match rose {
            None if smooth[at - 1] < low && smooth[at] >= low => rose = Some(at),
            Some(from) if smooth[at] < low => {
                rose = None;
                // A spike is no pulse.
                let Some(quarter) = (from..at).find(|n| smooth[*n] >= high) else { continue };
                let tenth = from as f64 - (smooth[from] - low) / (smooth[from] - smooth[from - 1]);
                let steps = (quarter as f64 - tenth).max(0.5);
                let rise = (smooth[quarter] - low) / steps;
                let start = tenth - (low - base) / rise;
                let last = smooth[at.saturating_sub(1).saturating_sub((at - from) / 4)..at].iter();
                let held = last.copied().fold(0.0, f64::max);
                let back = (from..at).rev().find(|n| smooth[*n] >= base + 0.9 * (held - base));
                found.push((start, back.unwrap_or(at) as f64));
            }
            None | Some(_) => {}
        }
    }
    found
}
