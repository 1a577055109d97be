//! Instruments at a made-up engine: bottles that fill, a gauge, a meter, benches, a clamp, a microphone
//! and a scan tool. One engine stands behind all of them, so that they agree with each other.
//!
//! They have no clock: whoever speaks for them says what time it is, so that a test needs none. What goes
//! wrong with real ones can be turned on: silence, stale figures, impossible ones, floods, binary, another
//! unit.

mod manner;
mod measures;
pub(crate) mod words;

use cobaltine_core::instrument_link::{Ask, DeviceError, DeviceKind, POINTS, Quantity};
use cobaltine_engines::engine::{MadeEngine, Running};
use cobaltine_engines::injector::nominal;
use cobaltine_engines::reading::after_pulses;
use manner::{Asked, FOAM_HALF_S, Fault, Manner};
use std::collections::VecDeque;
use std::sync::{Arc, Mutex, PoisonError};
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
/// Messages of one line that are answered.
const MESSAGES: usize = 8;

/// What a device says to a line.
#[derive(Debug, Clone, PartialEq)]
pub enum Said {
    /// Nothing: it was no question, or the device is silent.
    Nothing,
    /// A line.
    Line(String),
    /// Far more than it was asked for, or bytes that are no text.
    Bytes(Vec<u8>),
    /// The beginning of a line, and then it hangs up.
    Breaks(Vec<u8>),
}

/// What a bench is set to.
#[derive(Debug, Clone, Copy)]
struct Run {
    width_s: f64,
    count: f64,
    kpa: f64,
}

/// A made-up engine and whether it runs: every instrument at it sees the same.
#[derive(Debug, Clone)]
pub struct Bay {
    engine: Arc<MadeEngine>,
    /// The engine runs so; none when it stands.
    running: Arc<Mutex<Option<Running>>>,
    rail: Arc<Mutex<Rail>>,
}

/// A rail that was brought to pressure with the engine standing: what it held, what it holds after a
/// train of pulses, and when that began.
#[derive(Debug, Clone, Copy, Default)]
struct Rail {
    from_kpa: f64,
    to_kpa: f64,
    began: Duration,
}

/// How long a train of pulses takes, s.
const TRAIN_S: f64 = 1.0;
/// A rail is brought to this, kPa.
const PRIMED_KPA: f64 = 300.0;

impl Rail {
    fn kpa(&self, now: Duration) -> f64 {
        let gone = now.saturating_sub(self.began).as_secs_f64() / TRAIN_S;
        self.from_kpa + (self.to_kpa - self.from_kpa) * gone.clamp(0.0, 1.0)
    }
}

impl Bay {
    /// An engine that idles.
    pub fn new(engine: MadeEngine) -> Self {
        let running = Arc::new(Mutex::new(Some(Running::Idle)));
        Self { engine: Arc::new(engine), running, rail: Arc::default() }
    }

    fn running(&self) -> Option<Running> {
        *self.running.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn rail(&self) -> Rail {
        *self.rail.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The rail goes from what it holds now to this.
    fn goes_to(&self, to_kpa: f64, now: Duration) {
        let rail = Rail { from_kpa: self.rail().kpa(now), to_kpa, began: now };
        *self.rail.lock().unwrap_or_else(PoisonError::into_inner) = rail;
    }

    fn runs(&self, running: Option<Running>) {
        *self.running.lock().unwrap_or_else(PoisonError::into_inner) = running;
    }
}

/// One instrument at a made-up engine.
#[derive(Debug)]
pub struct Device {
    kind: DeviceKind,
    bay: Bay,
    seed: u64,
    manner: Manner,
    /// The cylinder that the lead is at, from 0.
    at: usize,
    /// What the bottles hold, ml, and until when that was counted.
    held_ml: Vec<f64>,
    counted: Duration,
    /// When fuel last ran into them: foam settles from then on.
    flowed: Duration,
    /// When it was switched on: it drifts from then on.
    on: Duration,
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
    /// An instrument of this kind at an engine of its own; the same seed gives the same readings.
    pub fn new(kind: DeviceKind, engine: MadeEngine, seed: u64) -> Self {
        Self::at(kind, Bay::new(engine), seed)
    }

    /// An instrument of this kind at an engine that others stand at as well.
    pub fn at(kind: DeviceKind, bay: Bay, seed: u64) -> Self {
        let held_ml = vec![0.0; bay.engine.seats.len()];
        let usual = nominal(bay.engine.fuel);
        let set = Run { width_s: usual.idle_ms / 1000.0, count: 1000.0, kpa: usual.idle_kpa };
        Self {
            kind,
            bay,
            seed,
            manner: Manner::default(),
            at: 0,
            held_ml,
            counted: Duration::ZERO,
            flowed: Duration::ZERO,
            on: Duration::ZERO,
            set,
            take_s: 5.0,
            begun: None,
            recorded: (Vec::new(), 1.0),
            readings: 0,
            last: None,
            errors: VecDeque::new(),
        }
    }

    /// Answers a line at this time: what stands between semicolons is answered one after the other, in
    /// one line. What it does not understand is answered with nothing, and kept as an error until that is
    /// asked for.
    pub fn said(&mut self, line: &str, now: Duration) -> Said {
        self.count(now);
        let answers: Vec<String> =
            line.split(';').take(MESSAGES).filter_map(|one| self.part(one, now)).collect();
        if answers.is_empty() {
            return Said::Nothing;
        }
        let answer = answers.join(";");
        match (self.manner.fault, self.manner.breaks_at) {
            (Fault::Silent, _) => Said::Nothing,
            (Fault::Binary, _) => Said::Bytes((0..=255).collect()),
            (Fault::Floods, _) => Said::Bytes(format!("{answer},").repeat(20_000).into()),
            (Fault::Twice, _) => Said::Line(format!("{answer}\n{answer}")),
            (Fault::None | Fault::Stale | Fault::Lies | Fault::OtherUnit, Some(at)) => {
                let line = format!("{answer}\n").into_bytes();
                Said::Breaks(line.into_iter().take(at).collect())
            }
            (Fault::None | Fault::Stale | Fault::Lies | Fault::OtherUnit, None) => {
                Said::Line(answer)
            }
        }
    }

    /// How long it takes to answer.
    pub fn delay(&self) -> Duration {
        self.manner.delay
    }

    /// Answers one message of a line.
    fn part(&mut self, message: &str, now: Duration) -> Option<String> {
        match message.parse::<Ask>() {
            Ok(ask) => self.answer(&ask, now),
            Err(error) => self.fails(match error {
                DeviceError::Range => words::OUT_OF_RANGE,
                DeviceError::Line(_)
                | DeviceError::Kind { .. }
                | DeviceError::Unit(_)
                | DeviceError::Impossible(_)
                | DeviceError::Overload
                | DeviceError::Stale(_) => words::UNDEFINED_HEADER,
            }),
        }
    }

    fn fails(&mut self, error: &'static str) -> Option<String> {
        if self.errors.len() < ERRORS {
            self.errors.push_back(error);
        }
        None
    }

    fn answer(&mut self, ask: &Ask, now: Duration) -> Option<String> {
        let benches = self.kind.is_bench();
        let records = matches!(self.kind, DeviceKind::Clamp | DeviceKind::Microphone);
        match ask {
            Ask::Identity => {
                let kind = self.kind.name().to_uppercase();
                return Some(format!("COBALTINE,{kind},{},1.0", self.seed));
            }
            Ask::Reset => {
                *self = Self::at(self.kind, self.bay.clone(), self.seed);
                (self.counted, self.on) = (now, now);
            }
            Ask::Clear => self.errors.clear(),
            Ask::Complete => return Some(u8::from(!self.is_at_work(now)).to_string()),
            Ask::Error => {
                return Some(self.errors.pop_front().unwrap_or(words::NO_ERROR).to_owned());
            }
            Ask::Unit(what) if self.kind.measures().contains(what) => {
                let other = self.manner.fault == Fault::OtherUnit;
                return Some(if other { "GAL" } else { what.bounds().0 }.to_owned());
            }
            Ask::Measure(what) if self.kind.measures().contains(what) => {
                if self.manner.fault != Fault::Stale {
                    let values = self.measured(*what, now);
                    self.last = Some((now, *what, values));
                }
                return self.fetched(*what);
            }
            Ask::Fetch(what) if self.kind.measures().contains(what) => return self.fetched(*what),
            Ask::Age => {
                let Some((at, ..)) = &self.last else { return self.fails(words::DATA_STALE) };
                return Some(format!("{:.2}", now.saturating_sub(*at).as_secs_f64()));
            }
            Ask::FaultCodes if self.kind == DeviceKind::Scan => return Some(self.fault_codes()),
            Ask::Init if self.kind == DeviceKind::Bottles => self.held_ml.fill(0.0),
            Ask::Init if benches => self.begun = Some(now),
            Ask::Init if records => return self.records(),
            Ask::Route(cylinder)
                if (1..=self.bay.engine.seats.len()).contains(&(*cylinder as usize)) =>
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
            Ask::Simulate(what, to) => return self.simulates(what, to, now),
            Ask::Unit(_)
            | Ask::Measure(_)
            | Ask::Fetch(_)
            | Ask::FaultCodes
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

    /// How much of the run of a bench is over, from 0 to 1.
    fn ran(&self, now: Duration) -> f64 {
        let gone = self.begun.map_or(0.0, |begun| now.saturating_sub(begun).as_secs_f64());
        (gone / (self.set.count * STROKE_S)).min(1.0)
    }

    fn is_at_work(&self, now: Duration) -> bool {
        self.begun.is_some() && self.ran(now) < 1.0
    }

    fn fetched(&mut self, what: Quantity) -> Option<String> {
        let held = self.last.as_ref().filter(|(_, of, _)| *of == what);
        let Some((_, _, values)) = held else { return self.fails(words::DATA_STALE) };
        let lies = self.manner.fault == Fault::Lies;
        let digits = if self.kind == DeviceKind::Bottles { 1 } else { 3 };
        let digit = self.manner.digit;
        let shown = |value: &f64| match value {
            _ if lies => "1E12".to_owned(),
            value if *value >= OPEN_OHM => "9.9E37".to_owned(),
            value => match digit {
                Some(digit) => format!("{:.3}", (value / digit).round() * digit),
                None => format!("{value:.digits$}"),
            },
        };
        Some(values.iter().map(shown).collect::<Vec<_>>().join(","))
    }

    fn simulates(&mut self, what: &str, to: &str, now: Duration) -> Option<String> {
        match self.manner.with(what, to) {
            Ok(Asked::Manner(manner)) => self.manner = manner,
            Ok(Asked::Engine(running)) => self.bay.runs(running),
            Ok(Asked::Prime) => self.bay.goes_to(PRIMED_KPA, now),
            Ok(Asked::Pulse(cylinder)) => {
                let engine = &self.bay.engine;
                let Some(at) = cylinder.checked_sub(1).filter(|at| *at < engine.seats.len()) else {
                    return self.fails(words::OUT_OF_RANGE);
                };
                let to = after_pulses(engine, at, self.bay.rail().kpa(now), engine.volts(at));
                self.bay.goes_to(to, now);
            }
            Err(error) => return self.fails(error),
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
