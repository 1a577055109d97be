//! Listening at an injector: ticks found in a sound, how many of those to expect, how loud and how
//! sharp they are, and how late after the drive where that was recorded beside them.
//!
//! The power between 700 Hz and 9 kHz is taken every millisecond. A comb of the expected rate is laid over
//! it at every rate within a few percent and every phase; where it stands on most power the ticks are
//! looked for, each within a few milliseconds of its place. A tick counts when it stands half as high
//! over the floor, in dB, as the loud ones of the same sound. Neighbours tick at the same rate and at
//! other phases; an injector that is silent lets the loudest neighbour be heard, far softer than the
//! others of the set: comparing tells.
//!
//! # Source
//! Short-time spectra with a Hann window (Harris 1978); the comb and its thresholds are a model of our
//! own, tried on the sounds of the stand-in.

use super::{median, quantile, scatter, words};
use crate::calc::{CalcError, positive};
use rustfft::FftPlanner;
use rustfft::num_complex::Complex;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Sample rates that are read, Hz.
const RATES: (f64, f64) = (4_000.0, 192_000.0);
/// Lengths that are read, s.
const LENGTHS: (f64, f64) = (0.5, 60.0);
/// Rates of ticks that are looked for, a second.
const TICKS: (f64, f64) = (0.5, 50.0);
/// Frames a second.
const FRAMES: f64 = 1000.0;
/// Where ticks are loud and engines are not, Hz.
const BAND: (f64, f64) = (700.0, 9_000.0);
/// The comb is tried this far off the expected rate, as a share.
const OFF: f64 = 0.06;
/// Frames of a sound that the comb is laid over; all are counted.
const COMBED: usize = 12_000;
/// Power over the floor that counts in the comb, dB: one bang is not a row of ticks.
const BANG_DB: f64 = 30.0;
/// Deviations that the comb has to stand out by: chance makes four and a half.
const STANDS_OUT: f64 = 6.0;
/// Least height of a tick over the floor, dB.
const LEAST_DB: f64 = 6.0;
/// Share of samples at the end of the scale from which a sound is clipped.
const CLIPPED: f64 = 1e-4;
/// Longest time from the drive to a tick, s.
const LATEST_S: f64 = 0.02;
/// Columns and rows of the picture, and points of the envelope.
const PICTURE: (usize, usize) = (160, 24);
const ENVELOPE: usize = 400;

/// A sound as it was recorded.
#[derive(Debug, Clone, Copy)]
pub struct Sound<'a> {
    /// Samples a second.
    pub rate_hz: f64,
    /// From -1 to 1.
    pub samples: &'a [f32],
    /// The drive of the injector beside it, above a half while it is driven.
    pub drive: Option<&'a [f32]>,
    /// Ticks to expect, a second: pulses of the driver, or half the turns of a four-stroke engine.
    pub expected_hz: f64,
}

/// What was heard.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Heard {
    /// Length, s.
    pub seconds: f64,
    /// Ticks that this time has room for.
    pub expected: u32,
    /// Ticks that were found.
    pub ticks: u32,
    /// Rate that they were found at, a second; none where nothing ticks.
    pub rate_hz: Option<f64>,
    /// Loudness of a tick, dB below the end of the scale (so below zero); none where nothing ticks.
    pub level_db: Option<f64>,
    /// Its standard uncertainty from tick to tick, dB.
    pub level_u_db: f64,
    /// Middle of the spectrum of a tick, Hz; none where nothing ticks.
    pub sharpness_hz: Option<f64>,
    /// From the drive to the tick, ms; none where no drive was recorded.
    pub late_ms: Option<f64>,
    /// What is heard between ticks, dB below the end of the scale.
    pub floor_db: f64,
    /// The sound reached the end of the scale: its loudness is not to be compared.
    pub clipped: bool,
    /// Time in s and power in dB, thinned, loud ones kept.
    pub envelope: Vec<[f64; 2]>,
    /// Spectrum over time, low notes first: one letter a column, from 0 (3 dB over the floor) to f.
    pub picture: Vec<String>,
}

impl Sound<'_> {
    fn check(&self) -> Result<(), CalcError> {
        let outside = |value: f64, (low, high): (f64, f64)| !(low..=high).contains(&value);
        if outside(self.rate_hz, RATES) {
            return Err(CalcError::Contradiction(words::sound_rate(RATES.0, RATES.1)));
        }
        if outside(self.samples.len() as f64 / self.rate_hz, LENGTHS) {
            return Err(CalcError::Contradiction(words::sound_length(LENGTHS.0, LENGTHS.1)));
        }
        if outside(positive("rate", self.expected_hz)?, TICKS) {
            return Err(CalcError::Contradiction(words::tick_rate(TICKS.0, TICKS.1)));
        }
        let drive = self.drive.unwrap_or(self.samples);
        if drive.len() != self.samples.len() {
            return Err(CalcError::Contradiction(words::DRIVE_OF_OTHER_LENGTH.into()));
        }
        if self.samples.iter().chain(drive).any(|sample| !sample.is_finite()) {
            return Err(CalcError::Contradiction(words::SOUND_HOLDS_NO_NUMBER.into()));
        }
        Ok(())
    }
}

/// Finds the ticks of an injector in a sound.
///
/// # Errors
/// A rate or a length out of bounds; samples that are no numbers; a drive of another length.
///
/// ```
/// use cobaltine_core::signal::listening::{Sound, listen};
/// // Ten ticks a second for two seconds: a note of 2 kHz that dies away within milliseconds.
/// let sample = |at: usize| {
///     let t = (at % 800) as f32 / 8000.0;
///     0.5 * (-t / 0.0015).exp() * (t * 12_566.0).sin() + 0.0005 * ((at * 7919 % 101) as f32 / 50.0 - 1.0)
/// };
/// let samples: Vec<f32> = (0..16_000).map(sample).collect();
/// let sound = Sound { rate_hz: 8000.0, samples: &samples, drive: None, expected_hz: 9.8 };
/// let heard = listen(&sound).unwrap();
/// assert!(heard.ticks >= 19 && (heard.rate_hz.unwrap() - 10.0).abs() < 0.02);
/// ```
pub fn listen(sound: &Sound<'_>) -> Result<Heard, CalcError> {
    sound.check()?;
    let frames = Frames::of(sound);
    let floor = quantile(&frames.power, 0.5).max(1e-12);
    let over: Vec<f64> = frames.power.iter().map(|power| decibel(power / floor)).collect();
    let found = Comb::find(&over, sound.expected_hz).map(|comb| comb.ticks(&over));
    let expected = (frames.power.len() as f64 / FRAMES * sound.expected_hz).floor();
    let at_end = sound.samples.iter().filter(|sample| sample.abs() >= 0.999).count();
    let mut heard = Heard {
        seconds: sound.samples.len() as f64 / sound.rate_hz,
        expected: expected as u32,
        ticks: 0,
        rate_hz: None,
        level_db: None,
        level_u_db: 0.0,
        sharpness_hz: None,
        late_ms: None,
        floor_db: decibel(floor),
        clipped: at_end as f64 > CLIPPED * sound.samples.len() as f64,
        envelope: envelope(&frames.power),
        picture: frames.picture(floor),
    };
    let Some(found) = found else { return Ok(heard) };
    let levels: Vec<f64> = found.at.iter().map(|at| frames.loudness(*at, floor)).collect();
    heard.expected = found.places as u32;
    heard.ticks = found.at.len() as u32;
    heard.rate_hz = Some(FRAMES / found.period);
    heard.level_db = Some(median(&levels));
    // Of a median: a quarter wider than of a mean.
    heard.level_u_db = 1.2533 * scatter(&levels) / (levels.len() as f64).sqrt();
    let sharp: Vec<f64> = found.at.iter().map(|at| frames.middle(*at)).collect();
    heard.sharpness_hz = Some(median(&sharp));
    heard.late_ms = sound.drive.and_then(|drive| late(sound, drive));
    Ok(heard)
}

fn decibel(power: f64) -> f64 {
    10.0 * libm::log10(power.max(1e-15))
}

/// Spectra at even steps.
struct Frames {
    /// Between the notes of the band, each frame.
    power: Vec<f64>,
    /// Each frame's spectrum within the band, low notes first.
    spectra: Vec<Vec<f32>>,
    /// Between two notes, Hz; and the lowest.
    notes: (f64, f64),
}

impl Frames {
    fn of(sound: &Sound<'_>) -> Self {
        // Four milliseconds: long enough for the band, short enough for a tick.
        let size = ((0.004 * sound.rate_hz).log2().round().exp2() as usize).max(16);
        let fft = FftPlanner::<f32>::new().plan_fft_forward(size);
        let turn = std::f32::consts::TAU / size as f32;
        let window: Vec<f32> =
            (0..size).map(|at| 0.5 - 0.5 * libm::cosf(turn * at as f32)).collect();
        // A full sine gives a power of one half.
        let scale = 1.0 / window.iter().map(|w| w * w).sum::<f32>() / size as f32 * 2.0;
        let note = sound.rate_hz / size as f64;
        let low = ((BAND.0 / note).ceil() as usize).max(1);
        let high = ((BAND.1.min(0.45 * sound.rate_hz) / note).floor() as usize).max(low + 1);
        let count = ((sound.samples.len().saturating_sub(size)) as f64 / sound.rate_hz * FRAMES)
            .floor() as usize;
        let mut room = vec![Complex::default(); size];
        let mut scratch = vec![Complex::default(); fft.get_inplace_scratch_len()];
        let mut spectra = Vec::with_capacity(count);
        for frame in 0..count {
            let from = (frame as f64 / FRAMES * sound.rate_hz) as usize;
            for (at, place) in room.iter_mut().enumerate() {
                *place = Complex::new(sound.samples[from + at] * window[at], 0.0);
            }
            fft.process_with_scratch(&mut room, &mut scratch);
            spectra.push(room[low..high].iter().map(|one| one.norm_sqr() * scale).collect());
        }
        let sum = |spectrum: &Vec<f32>| spectrum.iter().map(|power| f64::from(*power)).sum();
        Self { power: spectra.iter().map(sum).collect(), spectra, notes: (note, low as f64 * note) }
    }

    /// Of a tick with what stands around it, less the floor, dB.
    fn loudness(&self, at: usize, floor: f64) -> f64 {
        let to = (at + 4).min(self.power.len());
        let around = &self.power[at.saturating_sub(2)..to];
        decibel(around.iter().map(|power| (power - floor).max(0.0)).sum::<f64>())
    }

    /// Middle of the spectrum of a tick, Hz.
    fn middle(&self, at: usize) -> f64 {
        let (mut sum, mut power) = (0.0, 1e-15);
        for (n, one) in self.spectra[at].iter().enumerate() {
            sum += f64::from(*one) * (self.notes.1 + n as f64 * self.notes.0);
            power += f64::from(*one);
        }
        sum / power
    }

    fn picture(&self, floor: f64) -> Vec<String> {
        let (columns, rows) = PICTURE;
        let notes = self.spectra.first().map_or(0, Vec::len);
        let rows = rows.min(notes);
        let stretch = self.spectra.len().div_ceil(columns).max(1);
        let floor = floor / notes.max(1) as f64;
        let cell = |chunk: &[Vec<f32>], row: usize| {
            let (from, to) = (row * notes / rows, (row + 1) * notes / rows);
            let loud = chunk.iter().flat_map(|one| &one[from..to]).fold(0.0, |a: f32, b| a.max(*b));
            let step = ((decibel(f64::from(loud) / floor) - 3.0) / 3.0).clamp(0.0, 15.0) as u32;
            char::from_digit(step, 16).unwrap_or('0')
        };
        (0..rows)
            .map(|row| self.spectra.chunks(stretch).map(|chunk| cell(chunk, row)).collect())
            .collect()
    }
}

fn envelope(power: &[f64]) -> Vec<[f64; 2]> {
    let stretch = power.len().div_ceil(ENVELOPE).max(1);
    let loudest = |(at, chunk): (usize, &[f64])| {
        let loud = chunk.iter().copied().fold(0.0, f64::max);
        let tenth = (decibel(loud) * 10.0).round() / 10.0;
        [(at * stretch) as f64 / FRAMES, tenth]
    };
    power.chunks(stretch).enumerate().map(loudest).collect()
}

/// Where ticks are to be looked for.
struct Comb {
    /// Frames between two.
    period: f64,
    /// Frame of the first.
    first: f64,
}

/// Ticks that were found.
struct Found {
    period: f64,
    /// Places that were looked at.
    places: usize,
    /// Frames of those found.
    at: Vec<usize>,
}

impl Comb {
    /// The comb that stands on most power; none where no comb stands out.
    fn find(over: &[f64], expected_hz: f64) -> Option<Self> {
        let used = &over[..over.len().min(COMBED)];
        // A frame beside its place counts as well: ticks are not that even.
        let wide: Vec<f64> = (0..used.len())
            .map(|at| {
                let to = (at + 2).min(used.len());
                used[at.saturating_sub(1)..to].iter().copied().fold(0.0, f64::max).min(BANG_DB)
            })
            .collect();
        let n = wide.len() as f64;
        let mean = wide.iter().sum::<f64>() / n;
        let sd = (wide.iter().map(|v| (v - mean).powi(2)).sum::<f64>() / n).sqrt().max(1e-9);
        let usual = FRAMES / expected_hz;
        // Fine enough that the last tick of the sound moves by half a frame.
        let step = 0.5 / n * usual;
        let steps = (OFF * usual / step).ceil() as i64;
        let mut best = (f64::MIN, usual, 0.0);
        for nth in -steps..=steps {
            let period = usual + nth as f64 * step;
            for phase in 0..period.floor() as usize {
                let (mut sum, mut ticks, mut at) = (0.0, 0.0, phase as f64);
                while (at as usize) < wide.len() {
                    sum += wide[at as usize];
                    ticks += 1.0;
                    at += period;
                }
                let score = (sum / ticks - mean) / sd * f64::sqrt(ticks);
                if score > best.0 {
                    best = (score, period, phase as f64);
                }
            }
        }
        (best.0 >= STANDS_OUT).then_some(Self { period: best.1, first: best.2 })
    }

    fn ticks(&self, over: &[f64]) -> Found {
        let reach = (2.0 + 0.02 * self.period).min(6.0) as usize;
        let (mut peaks, mut places, mut place) = (Vec::new(), 0, self.first);
        while (place as usize) + reach < over.len() {
            let (from, to) = (place as usize - (place as usize).min(reach), place as usize + reach);
            let within = from..(to + 1).min(over.len());
            let peak = within.max_by(|a, b| over[*a].total_cmp(&over[*b]));
            peaks.extend(peak.map(|at| (places, at, over[at])));
            places += 1;
            place += self.period;
        }
        let heights: Vec<f64> = peaks.iter().map(|(_, _, height)| *height).collect();
        let least = (0.5 * quantile(&heights, 0.75)).max(LEAST_DB);
        peaks.retain(|(_, _, height)| *height >= least);
        // From the first to the last is surer than the comb, which lies as well a little aside.
        let apart = peaks.first().zip(peaks.last()).filter(|(first, last)| last.0 > first.0);
        let period =
            apart.map(|(first, last)| (last.1 - first.1) as f64 / (last.0 - first.0) as f64);
        let at = peaks.iter().map(|(_, at, _)| *at).collect();
        Found { period: period.unwrap_or(self.period), places, at }
    }
}

/// From the drive to the sound, the median of all pulses, ms.
fn late(sound: &Sound<'_>, drive: &[f32]) -> Option<f64> {
    // The rise of a tick is quicker than a frame: the power of what changes from sample to sample,
    // over a quarter of a millisecond.
    let change: Vec<f64> =
        sound.samples.windows(2).map(|pair| f64::from(pair[1] - pair[0]).powi(2)).collect();
    let width = ((0.00025 * sound.rate_hz) as usize).max(1);
    let mut sums = vec![0.0];
    let mut sum = 0.0;
    for one in &change {
        sum += one;
        sums.push(sum);
    }
    let power = |at: usize| (sums[(at + width).min(change.len())] - sums[at]) / width as f64;
    let reach = (LATEST_S * sound.rate_hz) as usize;
    let mut times = Vec::new();
    for at in 1..change.len().saturating_sub(reach) {
        if !(drive[at - 1] <= 0.5 && drive[at] > 0.5) {
            continue;
        }
        let before: Vec<f64> =
            (at.saturating_sub(reach / 2)..at).step_by(width).map(power).collect();
        let floor = quantile(&before, 0.9).max(1e-15);
        let peak = (at..at + reach).map(power).fold(0.0, f64::max);
        if decibel(peak / floor) < LEAST_DB {
            continue;
        }
        let level = (peak * floor).sqrt();
        let rise = (at..at + reach).find(|place| power(*place) >= level);
        times.extend(rise.map(|place| (place - at + width) as f64 / sound.rate_hz * 1000.0));
    }
    (!times.is_empty()).then(|| median(&times))
}
