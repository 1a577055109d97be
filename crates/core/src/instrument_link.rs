//! The lines that are spoken with an instrument: SCPI forms, a message a line, UTF-8.
//!
//! What is asked and what comes back stands in `docs/instruments.md`; this is its grammar, used by the
//! program and by the stand-ins alike. An answer holds bare numbers, so unit and age are asked besides:
//! what has another unit than was asked for, what such an instrument cannot show, and what is too old is
//! named and never becomes a reading.
//!
//! # Source
//! IEEE 488.2 (common commands, forms of numbers) and the SCPI 1999 syntax: short and long forms, the
//! error queue, 9.9E37 for an overload and 9.91E37 for not a number.
//!
//! ```
//! use cobaltine_core::instrument_link::{Ask, Quantity, Reading};
//! assert_eq!("measure:resistance?".parse(), Ok(Ask::Measure(Quantity::Resistance)));
//! assert_eq!(Ask::Measure(Quantity::Resistance).to_string(), "MEAS:RES?");
//! let came = |unit, age, values| Reading { quantity: Quantity::Volume, unit, age, values }.read();
//! assert_eq!(came("ML", "0.1", "1.24E+01,30.1").unwrap(), [12.4, 30.1]);
//! assert!(came("OHM", "0.1", "12.4").is_err(), "no unit of a volume");
//! assert!(came("ML", "9", "12.4").is_err(), "too old");
//! assert!(came("ML", "0.1", "9.9E37").is_err(), "an overload is no value");
//! ```

mod kind;
mod words;

pub use kind::{DeviceKind, Quantity};

use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// Longest line, bytes.
pub const LONGEST_LINE: usize = 16_384;
/// A reading may be this old, s.
pub const OLDEST_S: f64 = 2.0;
/// Points of a recording in one line at most.
pub const POINTS: u32 = 1000;
/// Channels of one instrument at most.
const MOST_CHANNELS: usize = 32;
/// The answer where no fault code is stored.
pub const NO_FAULT_CODES: &str = "NONE";
/// Longest word, bytes.
const LONGEST_WORD: usize = 40;
/// From here on a number is none: SCPI's overload and not-a-number.
const NO_NUMBER: f64 = 9.0e37;

/// What is asked of an instrument.
#[derive(Debug, Clone, PartialEq)]
pub enum Ask {
    /// What it is.
    Identity,
    /// Back to how it was switched on.
    Reset,
    /// Forgets its errors.
    Clear,
    /// Whether everything that was begun is over.
    Complete,
    /// The oldest error that was not asked for yet.
    Error,
    /// Measure this now.
    Measure(Quantity),
    /// What was measured last.
    Fetch(Quantity),
    /// The unit of this quantity.
    Unit(Quantity),
    /// How old the last measurement is, s.
    Age,
    /// The fault codes that the engine has stored.
    FaultCodes,
    /// Begin: catching in bottles, a run of a bench, a recording.
    Init,
    /// The cylinder that lead, clamp or microphone is at.
    Route(u32),
    /// Length of the pulses of a bench, s.
    Width(f64),
    /// Pulses of a run.
    Count(f64),
    /// Pressure of a bench, kPa.
    Pressure(f64),
    /// Length of a recording, s.
    Time(f64),
    /// Points of the recording.
    Points,
    /// Points of it a second.
    Rate,
    /// Some of its points: from this one, so many.
    Data(u32, u32),
    /// A setting of the stand-in; other instruments do not know it.
    Simulate(String, String),
}

/// Headers without a quantity, short forms in capitals, and whether they ask.
const PLAIN: [(&str, Ask); 11] = [
    ("*IDN?", Ask::Identity),
    ("*RST", Ask::Reset),
    ("*CLS", Ask::Clear),
    ("*OPC?", Ask::Complete),
    ("SYSTem:ERRor?", Ask::Error),
    ("FETCh:AGE?", Ask::Age),
    ("SYSTem:DTC?", Ask::FaultCodes),
    ("INITiate", Ask::Init),
    ("TRACe:POINts?", Ask::Points),
    ("TRACe:RATE?", Ask::Rate),
    ("INITiate:IMMediate", Ask::Init),
];

/// Headers with one number, what they set, and what they may be set to.
type Setting = (&'static str, fn(f64) -> Ask, f64, f64);
const SETTINGS: [Setting; 4] = [
    ("SOURce:PULSe:WIDTh", Ask::Width, 0.000_05, 0.2),
    ("SOURce:PULSe:COUNt", Ask::Count, 1.0, 10_000.0),
    ("SOURce:PRESsure", Ask::Pressure, 10.0, 300_000.0),
    ("SENSe:SWEep:TIME", Ask::Time, 0.01, 60.0),
];

impl fmt::Display for Ask {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Identity => f.write_str("*IDN?"),
            Self::Reset => f.write_str("*RST"),
            Self::Clear => f.write_str("*CLS"),
            Self::Complete => f.write_str("*OPC?"),
            Self::Error => f.write_str("SYST:ERR?"),
            Self::Measure(what) => write!(f, "MEAS:{}?", short(what.node())),
            Self::Fetch(what) => write!(f, "FETC:{}?", short(what.node())),
            Self::Unit(what) => write!(f, "UNIT:{}?", short(what.node())),
            Self::Age => f.write_str("FETC:AGE?"),
            Self::FaultCodes => f.write_str("SYST:DTC?"),
            Self::Init => f.write_str("INIT"),
            Self::Route(cylinder) => write!(f, "ROUT:CLOS (@{cylinder})"),
            Self::Width(seconds) => write!(f, "SOUR:PULS:WIDT {seconds}"),
            Self::Count(count) => write!(f, "SOUR:PULS:COUN {count}"),
            Self::Pressure(kpa) => write!(f, "SOUR:PRES {kpa}"),
            Self::Time(seconds) => write!(f, "SENS:SWE:TIME {seconds}"),
            Self::Points => f.write_str("TRAC:POIN?"),
            Self::Rate => f.write_str("TRAC:RATE?"),
            Self::Data(from, count) => write!(f, "TRAC:DATA? {from},{count}"),
            Self::Simulate(what, to) => write!(f, "SIM:{what} {to}"),
        }
    }
}

fn short(node: &str) -> String {
    node.chars().filter(|c| !c.is_ascii_lowercase()).collect()
}

/// Whether a header as sent is this one: each node in its short or its long form, in any case.
fn is(sent: &str, header: &str) -> bool {
    let mut both = (sent.split(':'), header.split(':'));
    loop {
        match (both.0.next(), both.1.next()) {
            (None, None) => return true,
            (Some(sent), Some(node)) => {
                if !sent.eq_ignore_ascii_case(node) && !sent.eq_ignore_ascii_case(&short(node)) {
                    return false;
                }
            }
            (Some(_), None) | (None, Some(_)) => return false,
        }
    }
}

/// The quantity that a header asks for behind this word.
fn quantity(sent: &str, word: &str) -> Option<Quantity> {
    let of = |what: &&Quantity| is(sent, &format!("{word}:{}?", what.node()));
    Quantity::ALL.iter().find(of).copied()
}

impl FromStr for Ask {
    type Err = DeviceError;

    fn from_str(line: &str) -> Result<Self, DeviceError> {
        let line = line.trim();
        let told = || DeviceError::Line(told(line));
        if line.len() > LONGEST_LINE {
            return Err(told());
        }
        let (header, rest) = line.split_once(char::is_whitespace).unwrap_or((line, ""));
        let (header, rest) = (header.trim_start_matches(':'), rest.trim());
        let settings = SETTINGS.iter().find(|(of, ..)| is(header, of));
        if let Some((_, ask, low, high)) = settings {
            let value = number(rest).ok_or_else(told)?;
            let fits = (*low..=*high).contains(&value);
            return if fits { Ok(ask(value)) } else { Err(DeviceError::Range) };
        }
        if is(header, "ROUTe:CLOSe") {
            let inner = rest.strip_prefix("(@").and_then(|rest| rest.strip_suffix(')'));
            let cylinder = inner.and_then(|inner| inner.parse().ok());
            return cylinder.map(Self::Route).ok_or_else(told);
        }
        if is(header, "TRACe:DATA?") {
            let pair = rest.split_once(',').map(|(a, b)| (a.trim().parse(), b.trim().parse()));
            let Some((Ok(from), Ok(count))) = pair else { return Err(told()) };
            let fits = (1..=POINTS).contains(&count);
            return if fits { Ok(Self::Data(from, count)) } else { Err(DeviceError::Range) };
        }
        if let Some(what) = header.get(..4).filter(|head| head.eq_ignore_ascii_case("SIM:")) {
            let (what, to) = (word(&header[what.len()..]), word(rest));
            let both = what.zip(to).map(|(a, b)| (a.to_uppercase(), b.to_uppercase()));
            return both.map(|(what, to)| Self::Simulate(what, to)).ok_or_else(told);
        }
        if !rest.is_empty() {
            return Err(told());
        }
        let plain = PLAIN.iter().find(|(of, _)| is(header, of)).map(|(_, ask)| ask.clone());
        plain
            .or_else(|| quantity(header, "MEASure").map(Self::Measure))
            .or_else(|| quantity(header, "FETCh").map(Self::Fetch))
            .or_else(|| quantity(header, "UNIT").map(Self::Unit))
            .ok_or_else(told)
    }
}

/// What is wrong with an answer or with a question.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum DeviceError {
    /// It is no line of the protocol.
    #[error("{}", words::not_understood(.0))]
    Line(String),
    /// A setting that it cannot take.
    #[error("{}", words::OUT_OF_RANGE)]
    Range,
    /// It is another kind of instrument.
    #[error("{}", words::another_kind(.wanted, .is))]
    Kind {
        /// What was wanted.
        wanted: &'static str,
        /// What it is.
        is: &'static str,
    },
    /// It shows another unit than was asked for.
    #[error("{}", words::another_unit(.0))]
    Unit(String),
    /// No such instrument can show this.
    #[error("{}", words::impossible(.0))]
    Impossible(String),
    /// It shows an overload or no number.
    #[error("{}", words::OVERLOAD)]
    Overload,
    /// It was measured too long ago.
    #[error("{}", words::stale(.0))]
    Stale(String),
}

/// One line that asks for everything a reading is made of. Unit, values and age come back in one line: an
/// answer that was lost or said twice cannot put them to each other's questions.
pub fn question(quantity: Quantity) -> String {
    format!("{};:{};:{}", Ask::Unit(quantity), Ask::Measure(quantity), Ask::Age)
}

/// The three parts that a reading is made of.
#[derive(Debug, Clone, Copy)]
pub struct Reading<'a> {
    /// What was asked for.
    pub quantity: Quantity,
    /// Answer to the question for its unit.
    pub unit: &'a str,
    /// Answer to the question for its age.
    pub age: &'a str,
    /// Answer to the question for its values.
    pub values: &'a str,
}

impl<'a> Reading<'a> {
    /// Takes the answer to a [`question`] apart.
    ///
    /// # Errors
    /// It is not of three parts.
    pub fn of(quantity: Quantity, line: &'a str) -> Result<Self, DeviceError> {
        let mut parts = line.trim().split(';');
        match (parts.next(), parts.next(), parts.next(), parts.next()) {
            (Some(unit), Some(values), Some(age), None) => Ok(Self { quantity, unit, age, values }),
            _ => Err(DeviceError::Line(told(line))),
        }
    }

    /// The values, channel by channel.
    ///
    /// # Errors
    /// What is wrong with them, by name: they never become a reading.
    pub fn read(&self) -> Result<Vec<f64>, DeviceError> {
        let (unit, low, high) = self.quantity.bounds();
        if self.unit.trim() != unit {
            return Err(DeviceError::Unit(told(self.unit)));
        }
        let age = number(self.age.trim()).filter(|age| *age >= 0.0);
        let age = age.ok_or_else(|| DeviceError::Line(told(self.age)))?;
        if age > OLDEST_S {
            return Err(DeviceError::Stale(told(self.age)));
        }
        let values = numbers(self.values)?;
        if values.len() > MOST_CHANNELS {
            return Err(DeviceError::Line(told(self.values)));
        }
        match values.iter().find(|value| !(low..=high).contains(*value)) {
            Some(value) => Err(DeviceError::Impossible(format!("{value} {unit}"))),
            None => Ok(values),
        }
    }
}

/// The numbers of an answer.
///
/// # Errors
/// Something else stands there; an overload.
pub fn numbers(line: &str) -> Result<Vec<f64>, DeviceError> {
    let all: Option<Vec<f64>> = line.trim().split(',').map(|one| number(one.trim())).collect();
    let all = all.filter(|_| line.len() <= LONGEST_LINE);
    let all = all.ok_or_else(|| DeviceError::Line(told(line)))?;
    if all.iter().any(|value| value.abs() >= NO_NUMBER) {
        return Err(DeviceError::Overload);
    }
    Ok(all)
}

/// Fault codes of an answer: none, or some of one letter and four digits.
///
/// # Source
/// The form of ISO 15031-6: a letter for the system, the first digit up to 3, three hexadecimal ones.
///
/// # Errors
/// Something else stands there.
pub fn fault_codes(line: &str) -> Result<Vec<String>, DeviceError> {
    let line = line.trim();
    if line == NO_FAULT_CODES {
        return Ok(Vec::new());
    }
    let is_code = |code: &str| {
        let bytes = code.as_bytes();
        bytes.len() == 5
            && b"PCBU".contains(&bytes[0])
            && (b'0'..=b'3').contains(&bytes[1])
            && bytes[2..].iter().all(|b| b.is_ascii_digit() || (b'A'..=b'F').contains(b))
    };
    let codes: Vec<&str> = line.split(',').map(str::trim).collect();
    let fits = codes.len() <= MOST_CHANNELS && codes.iter().all(|code| is_code(code));
    if fits {
        Ok(codes.into_iter().map(str::to_owned).collect())
    } else {
        Err(DeviceError::Line(told(line)))
    }
}

/// What an instrument says that it is: its kind, and its whole identity for people.
///
/// # Errors
/// No identity; another kind than the one that is wanted.
pub fn identity(line: &str, wanted: DeviceKind) -> Result<String, DeviceError> {
    let fields: Vec<&str> = line.trim().split(',').map(str::trim).collect();
    let kind = fields.get(1).and_then(|kind| DeviceKind::parse(&kind.to_lowercase()));
    match (kind, fields.len()) {
        (Some(kind), 4) if kind == wanted => Ok(told(line.trim())),
        (Some(kind), 4) => Err(DeviceError::Kind { wanted: wanted.word(), is: kind.word() }),
        (_, _) => Err(DeviceError::Line(told(line))),
    }
}

/// NR1, NR2 or NR3 of IEEE 488.2: no "nan", no "inf", no hexadecimal.
fn number(text: &str) -> Option<f64> {
    let plain = (1..=24).contains(&text.len())
        && text.bytes().any(|b| b.is_ascii_digit())
        && text.bytes().all(|b| matches!(b, b'0'..=b'9' | b'.' | b'-' | b'+' | b'E' | b'e'));
    plain.then(|| text.parse().ok()).flatten().filter(|value: &f64| value.is_finite())
}

fn word(text: &str) -> Option<&str> {
    let fine =
        (1..=LONGEST_WORD).contains(&text.len()) && text.chars().all(|c| c.is_ascii_graphic());
    fine.then_some(text)
}

/// What is shown of a line to people.
fn told(line: &str) -> String {
    line.chars().filter(|c| !c.is_control()).take(60).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn spoiled(line: &str, mut next: impl FnMut() -> usize) -> String {
        let mut bytes = line.as_bytes().to_vec();
        let (at, byte) = (next() % bytes.len(), next() as u8);
        match next() % 12 {
            0 => bytes.truncate(at),
            1 => bytes[at] = byte,
            2 => bytes.insert(at, byte),
            3 => bytes.extend(line.as_bytes().repeat(300)),
            4 => drop(bytes.remove(at)),
            _ => {}
        }
        String::from_utf8_lossy(&bytes).into_owned()
    }

    /// 100,000 answers of a device that lies, stutters, breaks off or sends binary: what is read of them
    /// stands in them and can be, or it is named.
    #[test]
    fn a_spoiled_answer_is_a_possible_reading_or_is_named_and_never_an_invented_number() {
        let mut state = 0x2545_F491_4F6C_DD1D_u64;
        let mut next = || {
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            state as usize
        };
        let (mut read, mut named) = (0, 0);
        let values = ["12.4,30.1,11.9,12.2", "+1.240E+01", "9.91E37", "0,0,0,0", "-4", "1e9"];
        for _ in 0..100_000 {
            let unit = spoiled("ML", &mut next);
            let age = spoiled(["0.02", "0", "12"][next() % 3], &mut next);
            let line = spoiled(values[next() % values.len()], &mut next);
            let whole = spoiled(&format!("{unit};{line};{age}"), &mut next);
            match Reading::of(Quantity::Volume, &whole).and_then(|came| came.read()) {
                Ok(values) => {
                    read += 1;
                    let line = whole.split(';').nth(1).unwrap();
                    let stands: Vec<f64> =
                        line.split(',').map(|part| part.trim().parse().unwrap()).collect();
                    assert_eq!(values, stands, "{line}");
                    assert!(values.iter().all(|ml| (0.0..=2000.0).contains(ml)), "{line}");
                }
                Err(error) => {
                    named += 1;
                    assert!(!error.to_string().chars().any(char::is_control), "{error}");
                }
            }
        }
        assert!(read > 2_000 && named > 50_000, "{read} {named}");
    }

    proptest! {
        #[test]
        fn no_line_is_too_strange_and_what_is_understood_is_said_as_it_is_understood(line in "\\PC{0,80}") {
            if let Ok(ask) = line.parse::<Ask>() {
                prop_assert_eq!(ask.to_string().parse::<Ask>(), Ok(ask));
            }
        }
    }

    #[test]
    fn long_and_short_forms_are_one_in_any_case() {
        for (long, brief) in [
            ("SYSTem:ERRor?", "SYST:ERR?"),
            (":measure:pressure?", "MEAS:PRES?"),
            ("Fetch:Age?", "FETC:AGE?"),
            ("system:dtc?", "SYST:DTC?"),
            ("source:pulse:width 0.004", "SOUR:PULS:WIDT 0.004"),
            ("ROUTE:CLOSE (@3)", "ROUT:CLOS (@3)"),
            ("initiate", "INIT"),
            ("trace:data? 0, 200", "TRAC:DATA? 0,200"),
            ("sim:engine off", "SIM:ENGINE OFF"),
        ] {
            assert_eq!(long.parse::<Ask>().unwrap().to_string(), brief);
        }
        for wrong in
            ["MEASU:PRES?", "MEAS:PRES", "INIT 4", "ROUT:CLOS 3", "TRAC:DATA? 1", "SYST:ERR"]
        {
            assert!(matches!(wrong.parse::<Ask>(), Err(DeviceError::Line(_))), "{wrong}");
        }
        assert_eq!("SOUR:PRES 1E9".parse::<Ask>(), Err(DeviceError::Range));
    }

    #[test]
    fn fault_codes_are_codes_and_nothing_else() {
        assert_eq!(fault_codes("NONE\n"), Ok(vec![]));
        assert_eq!(fault_codes("P0203, P0303"), Ok(vec!["P0203".to_owned(), "P0303".to_owned()]));
        let many = vec!["P0300"; 33].join(",");
        for wrong in ["", "none", "P0203;P0303", "P0203,", "X0203", "P4203", "P02O3", "12.4", &many]
        {
            assert!(matches!(fault_codes(wrong), Err(DeviceError::Line(_))), "{wrong}");
        }
    }

    #[test]
    fn what_is_wrong_is_named_in_words() {
        let of = |unit, age, values| {
            let came = Reading { quantity: Quantity::Volume, unit, age, values };
            came.read().unwrap_err().to_string()
        };
        for (said, says) in [
            (of("OHM", "0", "12"), "shows OHM"),
            (of("ML", "0", "-4"), "-4 ML"),
            (of("ML", "12", "4"), "12 s ago"),
            (of("ML", "0", "nan"), "not understood"),
            (of("ML", "0", "4;5"), "not understood"),
            (of("ML", "0", ""), "not understood"),
            (of("ML", "0", "9.9E37"), "overload"),
        ] {
            assert!(said.contains(says), "{said}");
        }
        let said = identity("COBALTINE,METER,4,1.0", DeviceKind::Gauge).unwrap_err().to_string();
        assert_eq!(said, "This is a multimeter. A pressure gauge is needed here.");
    }
}
