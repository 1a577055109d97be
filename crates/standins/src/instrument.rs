//! Instruments at a made-up engine: bottles that fill, a gauge, a meter, benches, a clamp, a microphone
//! and a scan tool. One engine stands behind all of them, so that they agree with each other.
//!
//! They have no clock: whoever speaks for them says what time it is, so that a test needs none. What goes
//! wrong with real ones can be turned on: silence, stale figures, impossible ones, floods, binary, another
//! unit.

mod words;

use cobaltine_core::instrument_link::{Ask, DeviceError, DeviceKind, POINTS, Quantity};
use cobaltine_engines::draw::Draw;
use cobaltine_engines::engine::{MadeEngine, Running};
use cobaltine_engines::injector::nominal;
use cobaltine_engines::signal::{Clamp, Hall, drive_current, sound_at, tick};
use std::collections::VecDeque;
use std::time::Duration;

/// What a bottle holds, ml.
const BOTTLE_ML: f64 = 100.0;
/// How long a bench takes for a stroke, s.
const STROKE_S: f64 = 0.02;
/// Leads of the meter, Ω; what it shows with nothing between them.
const LEADS_OHM: f64 = 0.2;
const OPEN_OHM: f64 = 9.9e37;
/// Errors that are kept until they are asked for.
const ERRORS: usize = 16;
/// The clamp that is behind the recordings.
const CLAMP: Clamp = Clamp { rate_hz: 50_000.0, noise_a: 0.012, digit_a: 0.005, pulses: 8 };

/// What is wrong with the device itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Manner {
    /// Nothing.
    Sound,
    /// It says nothing any more.
    Silent,
    /// It shows for ever what it showed.
    Stale,
    /// It shows what cannot be.
    Lies,
    /// It says far more than it was asked.
    Floods,
    /// It says what is no text.
    Binary,
    /// It shows another unit.
    OtherUnit,
}

/// What a device says to a line.
#[derive(Debug, Clone, PartialEq)]
pub enum Said {
    /// Nothing: it was no question, or the device is silent.
    Nothing,
    /// A line.
    Line(String),
    /// Far more than it was asked for, or bytes that are no text.
    Bytes(Vec<u8>),
}

/// What a bench is set to.
#[derive(Debug, Clone, Copy)]
struct Run {
    width_s: f64,
    count: f64,
    kpa: f64,
}

/// One instrument at a made-up engine.
#[derive(Debug)]
pub struct Device {
    kind: DeviceKind,
    engine: MadeEngine,
    seed: u64,
    manner: Manner,
    /// The engine runs so; none when it stands.
    running: Option<Running>,
    /// The cylinder that the lead is at, from 0.
    at: usize,
    /// What the bottles hold, ml, and until when that was counted.
    held_ml: Vec<f64>,
    counted: Duration,
    set: Run,
    take_s: f64,
    /// When a run of a bench was begun.
    begun: Option<Duration>,
    /// Points of a recording, and how many a second.
    recorded: (Vec<f64>, f64),
    /// Readings so far: each has its own noise.
    readings: u64,
    /// What was measured last, and when.
    last: Option<(Duration, Quantity, Vec<f64>)>,
    errors: VecDeque<&'static str>,
}

impl Device {
    /// An instrument of this kind at this engine; the same seed gives the same readings.
    pub fn new(kind: DeviceKind, engine: MadeEngine, seed: u64) -> Self {
        let held_ml = vec![0.0; engine.seats.len()];
        let usual = nominal(engine.fuel);
        let set = Run { width_s: usual.idle_ms / 1000.0, count: 1000.0, kpa: usual.idle_kpa };
        Self {
            kind,
            engine,
            seed,
            manner: Manner::Sound,
            running: Some(Running::Idle),
            at: 0,
            held_ml,
            counted: Duration::ZERO,
            set,
            take_s: 5.0,
            begun: None,
            recorded: (Vec::new(), 1.0),
            readings: 0,
            last: None,
            errors: VecDeque::new(),
        }
    }

    /// Answers a line at this time. What it does not understand is answered with nothing, and kept as an
    /// error until that is asked for.
    pub fn said(&mut self, line: &str, now: Duration) -> Said {
        self.count(now);
        let ask = match line.parse::<Ask>() {
            Ok(ask) => ask,
            Err(error) => {
                self.fails(match error {
                    DeviceError::Range => words::OUT_OF_RANGE,
                    DeviceError::Line(_)
                    | DeviceError::Kind { .. }
                    | DeviceError::Unit(_)
                    | DeviceError::Impossible(_)
                    | DeviceError::Overload
                    | DeviceError::Stale(_) => words::UNDEFINED_HEADER,
                });
                return Said::Nothing;
            }
        };
        let answer = self.answer(&ask, now);
        match (self.manner, answer) {
            (_, None) => Said::Nothing,
            (_, Some(answer)) if matches!(ask, Ask::Simulate(..)) => Said::Line(answer),
            (Manner::Silent, _) => Said::Nothing,
            (Manner::Binary, _) => Said::Bytes((0..=255).collect()),
            (Manner::Floods, Some(answer)) => {
                Said::Bytes(format!("{answer},").repeat(20_000).into())
            }
            (Manner::Sound | Manner::Stale | Manner::Lies | Manner::OtherUnit, Some(answer)) => {
                Said::Line(answer)
            }
        }
    }

    fn fails(&mut self, error: &'static str) -> Option<String> {
        if self.errors.len() < ERRORS {
            self.errors.push_back(error);
        }
        None
    }

    fn answer(&mut self, ask: &Ask, now: Duration) -> Option<String> {
        let benches =
            self.kind.measures().contains(&Quantity::Volume) && self.kind != DeviceKind::Bottles;
        let records = matches!(self.kind, DeviceKind::Clamp | DeviceKind::Microphone);
        match ask {
            Ask::Identity => {
                let kind = self.kind.name().to_uppercase();
                return Some(format!("COBALTINE,{kind},{},1.0", self.seed));
            }
            Ask::Reset => {
                *self = Self::new(self.kind, self.engine.clone(), self.seed);
                self.counted = now;
            }
            Ask::Clear => self.errors.clear(),
            Ask::Complete => return Some(u8::from(!self.is_at_work(now)).to_string()),
            Ask::Error => {
                return Some(self.errors.pop_front().unwrap_or(words::NO_ERROR).to_owned());
            }
            Ask::Unit(what) if self.kind.measures().contains(what) => {
                let other = self.manner == Manner::OtherUnit;
                return Some(if other { "GAL" } else { what.bounds().0 }.to_owned());
            }
            Ask::Measure(what) if self.kind.measures().contains(what) => {
                if self.manner != Manner::Stale {
                    let Some(values) = self.measured(*what, now) else {
                        return self.fails(words::SETTINGS_CONFLICT);
                    };
                    self.last = Some((now, *what, values));
                }
                return self.fetched(*what);
            }
            Ask::Fetch(what) if self.kind.measures().contains(what) => return self.fetched(*what),
            Ask::Age => {
                let Some((at, ..)) = &self.last else { return self.fails(words::DATA_STALE) };
                return Some(format!("{:.2}", now.saturating_sub(*at).as_secs_f64()));
            }
            Ask::Init if self.kind == DeviceKind::Bottles => self.held_ml.fill(0.0),
            Ask::Init if benches => self.begun = Some(now),
            Ask::Init if records => return self.records(),
            Ask::Route(cylinder)
                if (1..=self.engine.seats.len()).contains(&(*cylinder as usize)) =>
            {
                self.at = *cylinder as usize - 1;
            }
            Ask::Route(_) => return self.fails(words::OUT_OF_RANGE),
            Ask::Width(seconds) if benches => self.set.width_s = *seconds,
            Ask::Count(count) if benches => self.set.count = *count,
            Ask::Pressure(kpa) if benches => self.set.kpa = *kpa,
            Ask::Time(seconds) if records => self.take_s = *seconds,
            Ask::Points if records => return Some(self.recorded.0.len().to_string()),
            Ask::Rate if records => return Some(self.recorded.1.to_string()),
            Ask::Data(from, count) if records && *count <= POINTS => {
                let from = (*from as usize).min(self.recorded.0.len());
                let to = (from + *count as usize).min(self.recorded.0.len());
                let some = self.recorded.0[from..to].iter().map(|value| format!("{value:.4}"));
                let some: Vec<String> = some.collect();
                return if some.is_empty() {
                    self.fails(words::OUT_OF_RANGE)
                } else {
                    Some(some.join(","))
                };
            }
            Ask::Simulate(what, to) => return self.simulates(what, to),
            Ask::Unit(_)
            | Ask::Measure(_)
            | Ask::Fetch(_)
            | Ask::Init
            | Ask::Width(_)
            | Ask::Count(_)
            | Ask::Pressure(_)
            | Ask::Time(_)
            | Ask::Points
            | Ask::Rate
            | Ask::Data(..) => return self.fails(words::UNDEFINED_HEADER),
        }
        None
    }

    fn is_at_work(&self, now: Duration) -> bool {
        let lasts = self.set.count * STROKE_S;
        self.begun.is_some_and(|begun| now.saturating_sub(begun).as_secs_f64() < lasts)
    }

    fn fetched(&mut self, what: Quantity) -> Option<String> {
        let held = self.last.as_ref().filter(|(_, of, _)| *of == what);
        let Some((_, _, values)) = held else { return self.fails(words::DATA_STALE) };
        let lies = self.manner == Manner::Lies;
        let shown = |value: &f64| match value {
            _ if lies => "1E12".to_owned(),
            value if *value >= OPEN_OHM => "9.9E37".to_owned(),
            value => format!("{value:.3}"),
        };
        Some(values.iter().map(shown).collect::<Vec<_>>().join(","))
    }

    /// Counts what flowed into the bottles.
    fn count(&mut self, now: Duration) {
        let seconds = now.saturating_sub(self.counted).as_secs_f64();
        self.counted = now;
        let Some(running) = self.running.filter(|_| self.engine.is_diesel()) else { return };
        let kpa = self.engine.rail_kpa(running);
        for (cylinder, held) in self.held_ml.iter_mut().enumerate() {
            let rate = self.engine.returned_at(cylinder, running, kpa, self.engine.warm_c);
            *held = (*held + rate * seconds / 60.0).min(BOTTLE_ML);
        }
    }

    /// What it shows now; none where a bench has nothing yet.
    fn measured(&mut self, what: Quantity, now: Duration) -> Option<Vec<f64>> {
        self.readings += 1;
        let draw = &mut Draw::new(self.seed, 7000 + self.readings % 50_000);
        let engine = &self.engine;
        let count = engine.seats.len();
        let running = self.running;
        Some(match (self.kind, what) {
            (DeviceKind::Bottles, _) => {
                let held = self.held_ml.iter();
                held.map(|ml| (ml + draw.normal(0.0, 0.05)).clamp(0.0, BOTTLE_ML)).collect()
            }
            (DeviceKind::Gauge, _) => {
                let kpa = running.map_or(0.0, |running| engine.rail_kpa(running));
                vec![(kpa * (1.0 + draw.normal(0.0, 0.001))).max(0.0)]
            }
            (_, Quantity::Resistance) => {
                let ohm = engine.injector(self.at).coil_at(25.0);
                let shown = ohm + LEADS_OHM + draw.normal(0.0, 0.03);
                vec![if ohm.is_finite() { shown } else { OPEN_OHM }]
            }
            (_, Quantity::Voltage) => vec![engine.volts(self.at) + draw.normal(0.0, 0.01)],
            (_, Quantity::Temperature) => vec![25.0 + draw.normal(0.0, 0.2)],
            (_, Quantity::Volume | Quantity::Returned) => {
                self.begun.filter(|_| !self.is_at_work(now))?;
                let Run { width_s, count: pulses, kpa } = self.set;
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
                (0..count).map(|c| (of(c) * (1.0 + draw.normal(0.0, 0.002))).max(0.0)).collect()
            }
            (_, Quantity::Pressure) => vec![self.set.kpa * (1.0 + draw.normal(0.0, 0.002))],
            (_, Quantity::Speed) => {
                let rpm = running.map_or(0.0, |running| engine.rpm(running));
                vec![(rpm + draw.normal(0.0, 4.0)).max(0.0)]
            }
            (_, Quantity::Correction) => {
                let share = |c| engine.share(c, Running::Idle);
                let mean = (0..count).map(share).sum::<f64>() / count as f64;
                // The unit takes away where too much comes: corrections add up to nothing.
                (0..count).map(|c| (mean - share(c)) * 6.0 + draw.normal(0.0, 0.05)).collect()
            }
            (_, Quantity::Misfires) => {
                let weak = |c| (0.8 - engine.pulls(c, Running::Idle)).max(0.0) * 120.0;
                (0..count).map(|c| (weak(c) + draw.share()).floor()).collect()
            }
        })
    }

    /// Takes a recording; it is fetched some points at a time.
    fn records(&mut self) -> Option<String> {
        self.readings += 1;
        let seed = self.seed * 64 + self.readings % 64;
        if self.kind == DeviceKind::Clamp {
            let trace = drive_current(&self.engine, self.at, &CLAMP, seed);
            let most = (self.take_s * CLAMP.rate_hz) as usize;
            let amps = trace.iter().take(most).map(|[_, amps]| *amps);
            self.recorded = (amps.collect(), CLAMP.rate_hz);
            return None;
        }
        let Some(running) = self.running else { return self.fails(words::SETTINGS_CONFLICT) };
        let ticks: Vec<_> = (0..self.engine.seats.len()).map(|c| tick(&self.engine, c)).collect();
        let rpm = self.engine.rpm(running);
        let hall = Hall { noise_db: -32.0, bangs: 0.2, seconds: self.take_s, rpm };
        let recorded = sound_at(&ticks, self.at, &hall, seed);
        let samples = recorded.samples.iter().map(|one| f64::from(*one));
        self.recorded = (samples.collect(), recorded.rate_hz);
        None
    }

    fn simulates(&mut self, what: &str, to: &str) -> Option<String> {
        match (what, to) {
            ("ENGINE", "IDLE") => self.running = Some(Running::Idle),
            ("ENGINE", "RAISED") => self.running = Some(Running::Raised),
            ("ENGINE", "CRANK") => self.running = Some(Running::Cranking),
            ("ENGINE", "OFF") => self.running = None,
            ("FAULT", "NONE") => self.manner = Manner::Sound,
            ("FAULT", "SILENT") => self.manner = Manner::Silent,
            ("FAULT", "STALE") => self.manner = Manner::Stale,
            ("FAULT", "LIES") => self.manner = Manner::Lies,
            ("FAULT", "FLOODS") => self.manner = Manner::Floods,
            ("FAULT", "BINARY") => self.manner = Manner::Binary,
            ("FAULT", "UNIT") => self.manner = Manner::OtherUnit,
            _ => return self.fails(words::OUT_OF_RANGE),
        }
        None
    }

    /// Which kind of instrument it is.
    pub fn kind(&self) -> DeviceKind {
        self.kind
    }
}

#[cfg(test)]
mod tests;
