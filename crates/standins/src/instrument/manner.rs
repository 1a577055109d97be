//! How a stand-in behaves: as a sound instrument does, or as one that was asked to go wrong.

use super::words;
use cobaltine_engines::engine::Running;
use std::time::Duration;

/// Longest delay of an answer.
const LONGEST_DELAY_MS: f64 = 10_000.0;

/// What is wrong with the device itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Fault {
    /// Nothing.
    None,
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
    /// It says each answer twice.
    Twice,
}

/// How it measures and how it answers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Manner {
    pub fault: Fault,
    /// So many times its usual noise.
    pub noise: f64,
    /// Its last digit; that of its kind where none was asked for.
    pub digit: Option<f64>,
    /// It shows more by this share of the reading each minute.
    pub drift_pct_min: f64,
    /// Foam on what was caught, ml; half of it is gone in [`FOAM_HALF_S`].
    pub foam_ml: f64,
    /// Before each answer.
    pub delay: Duration,
    /// It breaks off after so many bytes of each answer.
    pub breaks_at: Option<usize>,
}

/// Half of the foam has settled after this, s.
pub(super) const FOAM_HALF_S: f64 = 20.0;

impl Default for Manner {
    fn default() -> Self {
        Self {
            fault: Fault::None,
            noise: 1.0,
            digit: None,
            drift_pct_min: 0.0,
            foam_ml: 0.0,
            delay: Duration::ZERO,
            breaks_at: None,
        }
    }
}

/// What was asked of the stand-in.
pub(super) enum Asked {
    Manner(Manner),
    Engine(Option<Running>),
    /// The pump brings a standing rail to pressure.
    Prime,
    /// An injector is pulsed into its cylinder.
    Pulse(usize),
}

impl Manner {
    /// Sets what `SIM:` asks for.
    ///
    /// # Errors
    /// No such setting, or not to this.
    pub fn with(self, what: &str, to: &str) -> Result<Asked, &'static str> {
        if what == "ENGINE" {
            return match to {
                "IDLE" => Ok(Asked::Engine(Some(Running::Idle))),
                "RAISED" => Ok(Asked::Engine(Some(Running::Raised))),
                "CRANK" => Ok(Asked::Engine(Some(Running::Cranking))),
                "OFF" => Ok(Asked::Engine(None)),
                _ => Err(words::OUT_OF_RANGE),
            };
        }
        if what == "FAULT" {
            let fault = match to {
                "NONE" => Fault::None,
                "SILENT" => Fault::Silent,
                "STALE" => Fault::Stale,
                "LIES" => Fault::Lies,
                "FLOODS" => Fault::Floods,
                "BINARY" => Fault::Binary,
                "UNIT" => Fault::OtherUnit,
                "TWICE" => Fault::Twice,
                _ => return Err(words::OUT_OF_RANGE),
            };
            return Ok(Asked::Manner(Self { fault, ..self }));
        }
        if what == "RAIL" {
            return if to == "PRIME" { Ok(Asked::Prime) } else { Err(words::OUT_OF_RANGE) };
        }
        if what == "PULSE" {
            return to.parse().map(Asked::Pulse).map_err(|_| words::OUT_OF_RANGE);
        }
        let value: f64 = to.parse().map_err(|_| words::OUT_OF_RANGE)?;
        let within = |low: f64, high: f64| {
            if (low..=high).contains(&value) { Ok(value) } else { Err(words::OUT_OF_RANGE) }
        };
        Ok(Asked::Manner(match what {
            "NOISE" => Self { noise: within(0.0, 1000.0)?, ..self },
            "DIGIT" => Self { digit: Some(within(0.001, 1000.0)?), ..self },
            "DRIFT" => Self { drift_pct_min: within(-100.0, 100.0)?, ..self },
            "FOAM" => Self { foam_ml: within(0.0, 50.0)?, ..self },
            "DELAY" => {
                let ms = within(0.0, LONGEST_DELAY_MS)?;
                Self { delay: Duration::from_secs_f64(ms / 1000.0), ..self }
            }
            "BREAK" => {
                let at = within(0.0, 1e6)? as usize;
                Self { breaks_at: (at > 0).then_some(at - 1), ..self }
            }
            _ => return Err(words::UNDEFINED_HEADER),
        }))
    }
}
