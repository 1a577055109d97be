//! What a stand-in shows of the engine behind it.

use super::{BOTTLE_ML, Device, FOAM_HALF_S, LEADS_OHM, OPEN_OHM, Run, STROKE_S, words};
use cobaltine_core::instrument_link::{DeviceKind, NO_FAULT_CODES, Quantity};
use cobaltine_engines::draw::Draw;
use cobaltine_engines::engine::Running;
use cobaltine_engines::injector::nominal;
use cobaltine_engines::signal::{Clamp, Hall, drive_current, sound_at, tick};
use std::sync::Arc;
use std::time::Duration;

/// A cylinder that pulls less than this misfires often enough to be stored.
const MISFIRES_BELOW: f64 = 0.55;
/// A rail below this share of what is wanted is stored.
const LOW_RAIL: f64 = 0.85;
/// The clamp that is behind the recordings.
const CLAMP: Clamp = Clamp { rate_hz: 50_000.0, noise_a: 0.012, digit_a: 0.005, pulses: 8 };

impl Device {
    /// Counts what flowed into the bottles.
    pub(super) fn count(&mut self, now: Duration) {
        let seconds = now.saturating_sub(self.counted).as_secs_f64();
        self.counted = now;
        let engine = Arc::clone(&self.bay.engine);
        let Some(running) = self.bay.running().filter(|_| engine.is_diesel()) else { return };
        self.flowed = now;
        let kpa = engine.rail_kpa(running);
        for (cylinder, held) in self.held_ml.iter_mut().enumerate() {
            let rate = engine.returned_at(cylinder, running, kpa, engine.warm_c);
            *held = (*held + rate * seconds / 60.0).min(BOTTLE_ML);
        }
    }

    /// What it shows now.
    pub(super) fn measured(&mut self, what: Quantity, now: Duration) -> Vec<f64> {
        self.readings += 1;
        let draw = &mut Draw::new(self.seed, 7000 + self.readings % 50_000);
        let (noise, drift) = (self.manner.noise, self.drift(now));
        let foam = self.foam(now);
        let bay = self.bay.clone();
        let engine = &bay.engine;
        let count = engine.seats.len();
        let running = bay.running();
        let shown = match (self.kind, what) {
            (DeviceKind::Bottles, _) => {
                let held = self.held_ml.iter();
                held.map(|ml| {
                    (ml + foam.min(*ml) + draw.normal(0.0, 0.05 * noise)).clamp(0.0, BOTTLE_ML)
                })
                .collect()
            }
            (DeviceKind::Gauge, _) => {
                let kpa = running.map_or_else(|| bay.rail().kpa(now), |of| engine.rail_kpa(of));
                vec![(kpa * (1.0 + draw.normal(0.0, 0.001 * noise))).max(0.0)]
            }
            (_, Quantity::Resistance) => {
                let ohm = engine.injector(self.at).coil_at(25.0);
                let shown = ohm + LEADS_OHM + draw.normal(0.0, 0.03 * noise);
                vec![if ohm.is_finite() { shown } else { OPEN_OHM }]
            }
            (_, Quantity::Voltage) => vec![engine.volts(self.at) + draw.normal(0.0, 0.01 * noise)],
            (_, Quantity::Temperature) => vec![25.0 + draw.normal(0.0, 0.2 * noise)],
            (_, Quantity::Volume | Quantity::Returned) => {
                // Its tubes fill while it runs.
                let Run { width_s, count: pulses, kpa } = self.set;
                let pulses = pulses * self.ran(now);
                let fluid = engine.fluid();
                let volts = nominal(engine.fuel).dead.volts;
                let minutes = pulses * STROKE_S / 60.0;
                let of = |c: usize| {
                    let one = &engine.injectors[c];
                    if what == Quantity::Volume {
                        let mm3 =
                            one.delivered_mm3(width_s * 1000.0, volts, kpa, fluid.density(40.0));
                        return mm3 * pulses / 1000.0;
                    }
                    let pulses_min = 60.0 / STROKE_S;
                    one.return_ml_min(pulses_min, width_s * 1000.0, kpa, &fluid, 40.0) * minutes
                };
                (0..count)
                    .map(|c| (of(c) * (1.0 + draw.normal(0.0, 0.002 * noise)) + foam).max(0.0))
                    .collect()
            }
            (_, Quantity::Pressure) => vec![self.set.kpa * (1.0 + draw.normal(0.0, 0.002 * noise))],
            (_, Quantity::Speed) => {
                let rpm = running.map_or(0.0, |running| engine.rpm(running));
                vec![(rpm + draw.normal(0.0, 4.0 * noise)).max(0.0)]
            }
            (_, Quantity::Correction) => {
                let share = |c| engine.share(c, Running::Idle);
                let mean = (0..count).map(share).sum::<f64>() / count as f64;
                // The unit takes away where too much comes: corrections add up to nothing.
                (0..count)
                    .map(|c| (mean - share(c)) * 6.0 + draw.normal(0.0, 0.05 * noise))
                    .collect()
            }
            (_, Quantity::Misfires) => {
                let weak = |c| (0.8 - engine.pulls(c, Running::Idle)).max(0.0) * 120.0;
                (0..count).map(|c| (weak(c) + draw.share()).floor()).collect()
            }
        };
        // An open lead stays open, however much it drifts.
        let drifts = |value: f64| if value >= OPEN_OHM { value } else { value * drift };
        shown.into_iter().map(drifts).collect()
    }

    /// What the control unit stored of this engine: circuits that are open, cylinders that misfire, a rail
    /// that does not reach its pressure. A mechanical fault may store none. Model of our own.
    pub(super) fn fault_codes(&self) -> String {
        let engine = &self.bay.engine;
        let mut codes = Vec::new();
        for cylinder in 0..engine.seats.len() {
            let one = engine.injector(cylinder);
            let unit_sees = one.coil_ohm.is_finite() && engine.places[cylinder].leg_ohm.is_finite();
            if !unit_sees {
                codes.push(format!("P02{:02}", cylinder + 1));
            }
            if engine.pulls(cylinder, Running::Idle) < MISFIRES_BELOW {
                codes.push(format!("P03{:02}", cylinder + 1));
            }
        }
        if engine.rail_kpa(Running::Load) < LOW_RAIL * engine.wanted_kpa(Running::Load) {
            codes.push("P0087".to_owned());
        }
        if codes.is_empty() { NO_FAULT_CODES.to_owned() } else { codes.join(",") }
    }

    /// Takes a recording; it is fetched some points at a time.
    pub(super) fn records(&mut self) -> Option<String> {
        self.readings += 1;
        let bay = self.bay.clone();
        let engine = &bay.engine;
        let seed = self.seed * 64 + self.readings % 64;
        if self.kind == DeviceKind::Clamp {
            let trace = drive_current(engine, self.at, &CLAMP, seed);
            let most = (self.take_s * CLAMP.rate_hz) as usize;
            let amps = trace.iter().take(most).map(|[_, amps]| *amps);
            self.recorded = (amps.collect(), CLAMP.rate_hz);
            return None;
        }
        let Some(running) = bay.running() else { return self.fails(words::SETTINGS_CONFLICT) };
        let ticks: Vec<_> = (0..engine.seats.len()).map(|c| tick(engine, c)).collect();
        let rpm = engine.rpm(running);
        let hall = Hall { noise_db: -32.0, bangs: 0.2, seconds: self.take_s, rpm };
        let recorded = sound_at(&ticks, self.at, &hall, seed);
        let samples = recorded.samples.iter().map(|one| f64::from(*one));
        self.recorded = (samples.collect(), recorded.rate_hz);
        None
    }

    /// What it shows of what is there: 1 where it does not drift.
    fn drift(&self, now: Duration) -> f64 {
        let minutes = now.saturating_sub(self.on).as_secs_f64() / 60.0;
        1.0 + self.manner.drift_pct_min / 100.0 * minutes
    }

    /// Foam that still stands on what was caught, ml.
    fn foam(&self, now: Duration) -> f64 {
        let settled = now.saturating_sub(self.flowed).as_secs_f64() / FOAM_HALF_S;
        self.manner.foam_ml * 0.5_f64.powf(settled)
    }
}
