//! The lines that are spoken with a control unit: one question a line, one answer a line, UTF-8.
//!
//! The whole protocol stands in `docs/control-unit.md`; this is its grammar, used by the program and
//! by the stand-in alike. Values never hold white space; a slot is the number of a cylinder.
//!
//! ```
//! use cobaltine_core::unit_link::{Answer, Ask};
//! let ask = Ask::Write { slot: 2, code: "C1EGJH44".to_owned() };
//! assert_eq!(ask.to_string(), "write 2 C1EGJH44");
//! assert_eq!("write 2 C1EGJH44".parse::<Ask>(), Ok(ask));
//! assert_eq!("codes 1=C1EGJH44 2=-".parse::<Answer>(), Ok(Answer::Codes(vec![
//!     (1, Some("C1EGJH44".to_owned())), (2, None),
//! ])));
//! ```

mod words;

use crate::named::named;
use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// Longest line, bytes: sixteen codes of the longest kind with their slots.
pub const LONGEST_LINE: usize = 2048;
/// Longest code and longest name of a vehicle, characters.
const LONGEST_WORD: usize = 64;
/// Most slots.
const MOST_SLOTS: u32 = 16;

/// What is asked of the unit.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Ask {
    /// Opens the talk with one vehicle.
    Open {
        /// What tells it from others, such as the number of the job.
        vehicle: String,
        /// How many cylinders it has.
        slots: u32,
    },
    /// Ignition, engine, supply voltage.
    State,
    /// Every stored code.
    Codes,
    /// Begins to store a code.
    Write {
        /// Cylinder.
        slot: u32,
        /// Code.
        code: String,
    },
    /// How far the writing is.
    Progress,
    /// What was learned of each cylinder.
    Learned,
    /// What the learning drive has filled.
    Counters,
    /// Forgets what was learned, and empties the counters.
    Clear,
    /// Turns a knob of the stand-in; other units do not understand it.
    Knob {
        /// `ignition`, `engine`, `volts`, `fault`, `drive`.
        what: String,
        /// `on`, `off`, a number, or a fault.
        to: String,
    },
}

/// What the unit answers.
#[derive(Debug, Clone, PartialEq)]
pub enum Answer {
    /// Done, or taken on.
    Ok,
    /// Its condition.
    State {
        /// Ignition is on.
        ignition: bool,
        /// Engine runs.
        engine: bool,
        /// Supply, V.
        volts: f64,
    },
    /// Stored codes by slot; none where nothing is stored.
    Codes(Vec<(u32, Option<String>)>),
    /// Percent of the writing.
    Progress(u32),
    /// Correction of each cylinder, percent.
    Learned(Vec<(u32, f64)>),
    /// Kind of run, filled, full at.
    Counters(Vec<(String, u32, u32)>),
    /// Not done.
    No(Refusal),
}

named! {
    /// Why the unit did not do it.
    Refusal {
        Busy = busy,
        Ignition = ignition,
        Engine = engine,
        Voltage = voltage,
        Slot = slot,
        Code = code,
        Refused = refused,
        Interrupted = interrupted,
        NotOpen = not_open,
        Unknown = unknown,
    }
}

impl Refusal {
    /// What it means and what to do, for the user.
    pub fn says(self) -> &'static str {
        match self {
            Self::Busy => words::ECU_BUSY_WAIT_MOMENT,
            Self::Ignition => words::IGNITION_OFF_SWITCH_ENGINE,
            Self::Engine => words::ENGINE_RUNNING_STOP_LEAVE,
            Self::Voltage => words::SUPPLY_VOLTAGE_TOO_LOW,
            Self::Slot => words::ECU_NO_SUCH_CYLINDER,
            Self::Code => words::ECU_DOES_NOT_ACCEPT,
            Self::Refused => words::ECU_REFUSED_GAVE_NO,
            Self::Interrupted => words::WRITING_INTERRUPTED_INSIDE_ECU,
            Self::NotOpen => words::NO_VEHICLE_SESSION_OPEN,
            Self::Unknown => words::ECU_DID_NOT_UNDERSTAND,
        }
    }
}

/// A line that is none of the protocol.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("{}", words::unexpected_answer_ecu(.0))]
pub struct LinkError(pub String);

impl fmt::Display for Ask {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Open { vehicle, slots } => write!(f, "open {vehicle} {slots}"),
            Self::State => f.write_str("state"),
            Self::Codes => f.write_str("codes"),
            Self::Write { slot, code } => write!(f, "write {slot} {code}"),
            Self::Progress => f.write_str("progress"),
            Self::Learned => f.write_str("learned"),
            Self::Counters => f.write_str("counters"),
            Self::Clear => f.write_str("clear"),
            Self::Knob { what, to } => write!(f, "knob {what} {to}"),
        }
    }
}

impl fmt::Display for Answer {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let switch = |on: bool| if on { "on" } else { "off" };
        match self {
            Self::Ok => f.write_str("ok"),
            Self::State { ignition, engine, volts } => {
                write!(f, "state {} {} {volts}", switch(*ignition), switch(*engine))
            }
            Self::Codes(codes) => {
                f.write_str("codes")?;
                for (slot, code) in codes {
                    write!(f, " {slot}={}", code.as_deref().unwrap_or("-"))?;
                }
                Ok(())
            }
            Self::Progress(percent) => write!(f, "progress {percent}"),
            Self::Learned(values) => {
                f.write_str("learned")?;
                values.iter().try_for_each(|(slot, percent)| write!(f, " {slot}={percent}"))
            }
            Self::Counters(counters) => {
                f.write_str("counters")?;
                counters.iter().try_for_each(|(band, done, of)| write!(f, " {band}={done}/{of}"))
            }
            Self::No(refusal) => write!(f, "no {}", refusal.name()),
        }
    }
}

/// A word of the line: printable, of bounded length.
fn word(text: &str) -> Option<String> {
    let fine = (1..=LONGEST_WORD).contains(&text.chars().count())
        && text.chars().all(|c| c.is_ascii_graphic() && c != '=');
    fine.then(|| text.to_owned())
}

fn slot(text: &str) -> Option<u32> {
    text.parse().ok().filter(|slot| (1..=MOST_SLOTS).contains(slot))
}

fn switch(text: &str) -> Option<bool> {
    match text {
        "on" => Some(true),
        "off" => Some(false),
        _ => None,
    }
}

impl FromStr for Ask {
    type Err = LinkError;

    fn from_str(line: &str) -> Result<Self, LinkError> {
        let words: Vec<&str> = line.split_whitespace().collect();
        let ask = match words.as_slice() {
            ["open", vehicle, slots] => {
                word(vehicle).zip(slot(slots)).map(|(vehicle, slots)| Self::Open { vehicle, slots })
            }
            ["state"] => Some(Self::State),
            ["codes"] => Some(Self::Codes),
            ["write", to, code] => {
                slot(to).zip(word(code)).map(|(slot, code)| Self::Write { slot, code })
            }
            ["progress"] => Some(Self::Progress),
            ["learned"] => Some(Self::Learned),
            ["counters"] => Some(Self::Counters),
            ["clear"] => Some(Self::Clear),
            ["knob", what, to] => {
                word(what).zip(word(to)).map(|(what, to)| Self::Knob { what, to })
            }
            _ => None,
        };
        ask.filter(|_| line.len() <= LONGEST_LINE).ok_or_else(|| told(line))
    }
}

impl FromStr for Answer {
    type Err = LinkError;

    fn from_str(line: &str) -> Result<Self, LinkError> {
        let words: Vec<&str> = line.split_whitespace().collect();
        let answer = match words.as_slice() {
            ["ok"] => Some(Self::Ok),
            ["state", ignition, engine, volts] => {
                let volts = volts.parse().ok().filter(|volts: &f64| (0.0..100.0).contains(volts));
                switch(ignition)
                    .zip(switch(engine))
                    .zip(volts)
                    .map(|((ignition, engine), volts)| Self::State { ignition, engine, volts })
            }
            ["codes", pairs @ ..] => {
                let one = |pair: &&str| {
                    let (at, code) = pair.split_once('=')?;
                    let code = if code == "-" { None } else { Some(word(code)?) };
                    Some((slot(at)?, code))
                };
                pairs.iter().map(one).collect::<Option<Vec<_>>>().map(Self::Codes)
            }
            ["progress", percent] => {
                percent.parse().ok().filter(|p: &u32| *p <= 100).map(Self::Progress)
            }
            ["learned", pairs @ ..] => {
                let one = |pair: &&str| {
                    let (at, percent) = pair.split_once('=')?;
                    let percent =
                        percent.parse().ok().filter(|p: &f64| (-100.0..=100.0).contains(p));
                    Some((slot(at)?, percent?))
                };
                pairs.iter().map(one).collect::<Option<Vec<_>>>().map(Self::Learned)
            }
            ["counters", pairs @ ..] => {
                let one = |pair: &&str| {
                    let (band, filled) = pair.split_once('=')?;
                    let (done, of) = filled.split_once('/')?;
                    let count = |text: &str| text.parse().ok().filter(|n: &u32| *n <= 10_000);
                    Some((word(band)?, count(done)?, count(of)?))
                };
                pairs.iter().map(one).collect::<Option<Vec<_>>>().map(Self::Counters)
            }
            ["no", why] => {
                Refusal::ALL.iter().find(|one| one.name() == *why).copied().map(Self::No)
            }
            _ => None,
        };
        answer.filter(|_| line.len() <= LONGEST_LINE).ok_or_else(|| told(line))
    }
}

/// The beginning of a line that is not understood.
fn told(line: &str) -> LinkError {
    LinkError(line.trim().chars().take(80).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn words() -> impl Strategy<Value = String> {
        "[A-Z0-9-]{1,12}".prop_filter("a lone dash is no code", |text| text != "-")
    }

    proptest! {
        #[test]
        fn what_is_asked_and_answered_reads_back_as_it_was(
            vehicle in words(), code in words(), slots in 1..=16_u32, percent in 0..=100_u32,
            volts in 0..1000_u32, on in any::<bool>(), running in any::<bool>(),
        ) {
            let asks = [
                Ask::Open { vehicle, slots }, Ask::State, Ask::Codes, Ask::Progress,
                Ask::Learned, Ask::Counters, Ask::Clear,
                Ask::Write { slot: slots, code: code.clone() },
                Ask::Knob { what: code.clone(), to: code.clone() },
            ];
            for ask in asks {
                prop_assert_eq!(ask.to_string().parse::<Ask>(), Ok(ask));
            }
            let volts = f64::from(volts) / 10.0;
            let answers = [
                Answer::Ok, Answer::State { ignition: on, engine: running, volts },
                Answer::Codes(vec![(slots, Some(code.clone())), (1, None)]), Answer::Progress(percent),
                Answer::Learned(vec![(1, -volts), (slots, 0.0)]),
                Answer::Counters(vec![(code, percent, 100)]),
            ];
            for answer in answers {
                prop_assert_eq!(answer.to_string().parse::<Answer>(), Ok(answer));
            }
        }

        #[test]
        fn no_line_makes_it_panic(line in "\\PC{0,120}") {
            drop(line.parse::<Ask>());
            drop(line.parse::<Answer>());
        }
    }

    #[test]
    fn lines_that_are_none_are_refused_with_their_beginning() {
        for line in [
            "",
            "write 2",
            "write 17 X",
            "write two X",
            "codes 1=",
            "progress 101",
            "no",
            "no way",
            "state on off 100",
            "ok ok",
            "learned 1=101",
            "learned 1",
            "counters idle=3",
            "counters idle=a/3",
            "open a=b 4",
        ] {
            let refused = line.parse::<Ask>().is_err() && line.parse::<Answer>().is_err();
            assert!(refused, "{line}");
        }
        let long = format!("write 1 {}", "X".repeat(3000));
        assert_eq!(long.parse::<Ask>().unwrap_err().0.len(), 80);
        for refusal in Refusal::ALL {
            assert!(refusal.says().ends_with('.'), "{refusal:?}");
            assert_eq!(Answer::No(*refusal).to_string().parse(), Ok(Answer::No(*refusal)));
        }
    }
}
