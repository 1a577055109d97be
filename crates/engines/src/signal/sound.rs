//! The sound at an injector: two clicks a stroke, those of its neighbours through the metal, the engine
//! below them and the hall around.
//!
//! # Source
//! Model of our own: a click is a note that dies away within milliseconds (a struck body of steel); a
//! neighbour is 13 to 18 dB softer; placing a microphone is worth 0.6 dB, injectors as made 0.7 dB.

use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use crate::injector::nominal;
use std::f64::consts::TAU;

/// Samples a second.
const RATE: f64 = 16_000.0;
/// A tick of a sound injector against the end of the scale.
const LOUD: f64 = 0.12;
/// Injectors as made, and microphones as placed, dB.
const MADE_DB: f64 = 0.7;
const PLACED_DB: f64 = 0.6;
/// Ticks come as evenly as this, s.
const EVEN_S: f64 = 0.000_15;

/// How an injector ticks.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tick {
    /// Against a sound one, dB; none where nothing moves.
    pub level_db: Option<f64>,
    /// Share of strokes without a tick.
    pub misses: f64,
    /// From the drive to the tick, ms.
    pub late_ms: f64,
}

/// Where it is recorded.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hall {
    /// Noise around against a sound tick, dB: -45 in a quiet room, -20 in a loud hall.
    pub noise_db: f64,
    /// Something falls down so often, a second.
    pub bangs: f64,
    /// Length, s.
    pub seconds: f64,
    /// Turns of the engine, a minute.
    pub rpm: f64,
}

/// A recording.
#[derive(Debug, Clone, PartialEq)]
pub struct Recorded {
    /// Samples a second.
    pub rate_hz: f64,
    /// From -1 to 1.
    pub samples: Vec<f32>,
    /// One while the injector is driven.
    pub drive: Vec<f32>,
    /// Strokes of one injector, a second.
    pub strokes_hz: f64,
}

/// How the injector of a cylinder ticks, by what it and its place are.
pub fn tick(engine: &MadeEngine, cylinder: usize) -> Tick {
    let (injector, place) = (engine.injector(cylinder), &engine.places[cylinder]);
    let kind = nominal(engine.fuel);
    let volts = engine.volts(cylinder);
    let late_ms = injector.dead_ms(volts, engine.wanted_kpa(Running::Idle));
    let share = volts / kind.dead.volts * place.driver.min(1.0);
    if !injector.moves() || share < 0.3 {
        return Tick { level_db: None, misses: 1.0, late_ms };
    }
    // Gum brakes it: a softer blow, and where it sticks none at all now and then.
    let gum = injector.dirt.late_ms / kind.dead.usual_ms;
    // What is driven weakly strikes softly.
    let blow = share * (1.0 - 0.6 * gum.min(1.0)) * injector.lift;
    let misses = (1.4 * (gum - 0.35)).max(2.0 * (0.55 - share)).clamp(0.0, 0.9);
    Tick { level_db: Some(20.0 * libm::log10(blow.max(0.05))), misses, late_ms }
}

/// Records at a cylinder, counted from 0: its tick and those of all, in the order of firing.
pub fn sound_at(ticks: &[Tick], cylinder: usize, hall: &Hall, seed: u64) -> Recorded {
    let count = (hall.seconds * RATE) as usize;
    let mut draw = Draw::new(seed, 4000 + cylinder as u64);
    let placed = draw.normal(0.0, PLACED_DB);
    let mut samples = vec![0.0_f64; count];
    let mut drive = vec![0.0_f32; count];
    let speed = hall.rpm * (1.0 + draw.normal(0.0, 0.01));
    let strokes_hz = speed / 120.0;
    let start = draw.share() / strokes_hz;
    for (of, tick) in ticks.iter().enumerate() {
        // As made: the same for one injector in every recording.
        let mut made = Draw::new(seed / 64, 5000 + of as u64);
        let note = made.between(2200.0, 3000.0);
        let made_db = made.normal(0.0, MADE_DB);
        let through = if of == cylinder { placed } else { -draw.between(13.0, 18.0) };
        let phase = of as f64 / ticks.len() as f64 / strokes_hz;
        let mut at = start + phase;
        while at < hall.seconds {
            let beats = !draw.happens(tick.misses);
            let stroke = at + draw.normal(0.0, EVEN_S);
            if of == cylinder {
                let of = |time: f64| ((time * RATE) as usize).min(count);
                drive[of(at)..of(at + 0.0025)].fill(1.0);
            }
            if let (true, Some(level)) = (beats, tick.level_db) {
                let loud = LOUD * libm::pow(10.0, (level + made_db + through) / 20.0);
                let opens = stroke + tick.late_ms / 1000.0;
                click(&mut samples, opens, note, 0.6 * loud);
                click(&mut samples, opens + 0.0022, note * 1.25, loud);
            }
            at += 1.0 / strokes_hz;
        }
    }
    around(&mut samples, ticks.len() as f64 * strokes_hz, hall, &mut draw);
    let samples = samples.iter().map(|value| value.clamp(-1.0, 1.0) as f32).collect();
    Recorded { rate_hz: RATE, samples, drive, strokes_hz: hall.rpm / 120.0 }
}

/// A note that begins with a blow and dies away.
fn click(samples: &mut [f64], at_s: f64, note: f64, loud: f64) {
    let from = (at_s * RATE).ceil() as usize;
    for n in from..(from + 160).min(samples.len()) {
        let t = n as f64 / RATE - at_s;
        samples[n] += loud * libm::exp(-t / 0.0012) * libm::sin(TAU * note * t);
    }
}

/// Combustion below the ticks, the hum of the mains, the hall, and what falls down in it.
fn around(samples: &mut [f64], fires_hz: f64, hall: &Hall, draw: &mut Draw) {
    let loud = LOUD * libm::pow(10.0, hall.noise_db / 20.0);
    let mut bang = 0.0;
    for (n, sample) in samples.iter_mut().enumerate() {
        let t = n as f64 / RATE;
        let engine =
            0.05 * libm::sin(TAU * fires_hz * t) + 0.02 * libm::sin(TAU * 4.0 * fires_hz * t);
        // Other work in the hall comes and goes.
        let work = 1.0 + 0.3 * libm::sin(TAU * 0.37 * t);
        if draw.happens(hall.bangs / RATE) {
            bang = draw.between(1.0, 6.0) * loud;
        }
        bang *= 0.999;
        *sample += engine
            + 0.002 * libm::sin(TAU * 50.0 * t)
            + (loud * work + bang) * draw.normal(0.0, 1.0);
    }
}
