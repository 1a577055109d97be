//! What a clamp shows: the current into an injector while it is driven, and that of the starter.
//!
//! # Source
//! L(x)·di/dt + R·i + i·dL/dt = V, with a pintle that takes a fifth of a millisecond from seat to stop
//! and brings some inductance with it; behind the driver a clamp of 40 V. Currents of a starter follow
//! the compressions with a scatter of 3 to 6 % (part of the trade's experience).

use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use crate::injector::nominal;
use std::f64::consts::TAU;

/// Inductance of a closed port injector for an ohm, mH: a time constant of a millisecond.
const MH_PER_OHM: f64 = 1.05;
/// Share that the moved pintle adds to it.
const MOVED: f64 = 0.09;
/// From seat to stop, ms.
const FLIGHT_MS: f64 = 0.2;
/// The driver lets the current go against this voltage, V.
const BACK_V: f64 = 40.0;
/// Steps of the equation, ms.
const STEP_MS: f64 = 0.002;

/// A clamp and what it is set to.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Clamp {
    /// Points a second.
    pub rate_hz: f64,
    /// Noise, A.
    pub noise_a: f64,
    /// Steps of its figures, A.
    pub digit_a: f64,
    /// Pulses that are taken.
    pub pulses: u32,
}

/// Time in s and current in A of the injector of a cylinder, driven at idle by a plain switch. An
/// injector is pulsed as long as it takes to see it whole. Scatter from stroke to stroke is drawn.
pub fn drive_current(
    engine: &MadeEngine,
    cylinder: usize,
    clamp: &Clamp,
    seed: u64,
) -> Vec<[f64; 2]> {
    let (injector, place) = (engine.injector(cylinder), &engine.places[cylinder]);
    let kind = nominal(engine.fuel);
    let mut draw = Draw::new(seed, 6000 + cylinder as u64);
    let ohm = injector.coil_at(engine.warm_c.min(60.0)) + place.leg_ohm;
    let (apart_ms, driven_ms) = (12.0, kind.idle_ms.clamp(4.0, 6.0));
    let volts = kind.dead.volts * engine.shared.power * place.driver.clamp(0.0, 1.0);
    let opens = injector.dead_ms(engine.volts(cylinder), engine.wanted_kpa(Running::Idle));
    // Fewer turns have less of both; inductance goes with their square.
    let turns = injector.coil_ohm / kind.coil_ohm;
    let henry = MH_PER_OHM * kind.coil_ohm * turns * turns / 1000.0;
    let carries = ohm.is_finite() && volts > 0.1;
    let moves = carries && injector.moves() && place.driver >= 0.2;
    let mut points = Vec::new();
    let (mut next, mut t, mut amps) = (0.0, 0.0, 0.0);
    let end = apart_ms * f64::from(clamp.pulses) + 4.0;
    let mut opens_at = f64::INFINITY;
    let mut pulse = -1;
    while t < end {
        let of = ((t - 3.0) / apart_ms).floor() as i64;
        if of != pulse {
            pulse = of;
            let spread = (injector.scatter * 0.5).max(0.004);
            opens_at = if moves { opens + draw.normal(0.0, spread) } else { f64::INFINITY };
        }
        let since = (t - 3.0) - of as f64 * apart_ms;
        let driven = of >= 0 && of < i64::from(clamp.pulses) && since < driven_ms;
        let way = ((since - (opens_at - FLIGHT_MS)) / FLIGHT_MS).clamp(0.0, 1.0);
        let way = if opens_at.is_finite() { way } else { 0.0 };
        // It speeds up on its way: the inductance with it.
        let inductance = henry * (1.0 + MOVED * way * way);
        let moving = way > 0.0 && way < 1.0;
        let per_s = if moving { henry * MOVED * 2.0 * way / (FLIGHT_MS / 1000.0) } else { 0.0 };
        if carries {
            let push = if driven { volts } else { -BACK_V };
            amps += (push - ohm * amps - per_s * amps) / inductance * STEP_MS / 1000.0;
            amps = amps.max(0.0);
        }
        if t >= next {
            let shown = amps + draw.normal(0.0, clamp.noise_a);
            points.push([t / 1000.0, (shown / clamp.digit_a).round() * clamp.digit_a]);
            next += 1000.0 / clamp.rate_hz;
        }
        t += STEP_MS;
    }
    points
}

/// Time in s and current in A of the starter while it cranks for so long; cylinders in this order.
pub fn starter_current(
    engine: &MadeEngine,
    order: &[usize],
    seconds: f64,
    seed: u64,
) -> Vec<[f64; 2]> {
    let mut draw = Draw::new(seed, 6900);
    let full = order.iter().map(|c| engine.compression(*c)).fold(1.0, f64::max);
    let per_s = engine.cranks_rpm / 120.0 * order.len() as f64;
    let mut points = Vec::new();
    let (mut height, mut at) = (0.0, usize::MAX);
    let rate = 1000.0;
    for n in 0..(seconds * rate) as usize {
        let t = n as f64 / rate;
        let turn = t * per_s;
        if turn as usize != at {
            at = turn as usize;
            let squeeze = engine.compression(order[at % order.len()]) / full;
            height = 110.0 * squeeze * (1.0 + draw.normal(0.0, 0.045));
        }
        let inrush = 400.0 * libm::exp(-t / 0.08);
        let hump = height * (0.5 - 0.5 * libm::cos(TAU * turn));
        points.push([t, 130.0 + inrush + hump + draw.normal(0.0, 2.0)]);
    }
    points
}
