//! The talk with an instrument: a line each way, nothing believed that was not asked for.
//!
//! Whatever goes wrong ends the talk: an answer that comes late is never put to the next question.

use crate::words;
use cobaltine_core::connection::{Connection, ShownBy, is_near};
use cobaltine_core::instrument_link::{
    Ask, DeviceError, LONGEST_LINE, POINTS, Quantity, Reading, identity, numbers, question,
};
use std::time::Duration;
use thiserror::Error;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;
use tokio::net::tcp::{OwnedReadHalf, OwnedWriteHalf};
use tokio::time::timeout;

/// Points of a recording at most: ten seconds at the highest rate.
const MOST_POINTS: usize = 2_000_000;
/// An instrument that says nothing for so long is silent.
pub(crate) const PATIENCE: Duration = Duration::from_secs(2);

/// Why nothing was read.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum InstrumentError {
    /// The settings do not allow this address.
    #[error("{}", words::INSTRUMENT_ADDRESS_NOT_ALLOWED)]
    NotAllowed,
    /// Nobody answers there.
    #[error("{}", words::no_instrument_at(.0))]
    Unreachable(String),
    /// It takes what is said and says nothing.
    #[error("{}", words::INSTRUMENT_SILENT)]
    Silent,
    /// It broke off in the middle.
    #[error("{}", words::INSTRUMENT_BROKE_OFF)]
    Broke,
    /// It says more than was asked for, or no text.
    #[error("{}", words::INSTRUMENT_SAID_NO_LINE)]
    NoLine,
    /// The run of a bench goes on.
    #[error("{}", words::BENCH_STILL_RUNNING)]
    StillRunning,
    /// Such an instrument does not show this.
    #[error("{}", words::INSTRUMENT_DOES_NOT_SHOW)]
    OtherQuantity,
    /// What it said is no reading.
    #[error("{0}")]
    Said(#[from] DeviceError),
    /// It says what is wrong with it.
    #[error("{}", words::instrument_reports(.0))]
    Reports(String),
}

/// One talk with one instrument.
#[derive(Debug)]
pub(crate) struct DeviceTalk {
    read: BufReader<OwnedReadHalf>,
    write: OwnedWriteHalf,
    /// What it said that it is.
    pub shown_by: ShownBy,
}

impl DeviceTalk {
    /// Opens a talk with a listed instrument; `anywhere` where the settings allow any address.
    ///
    /// # Errors
    /// [`InstrumentError`]: another kind of instrument is one.
    pub(crate) async fn open(to: &Connection, anywhere: bool) -> Result<Self, InstrumentError> {
        // Asked again here: the settings may have changed since it was listed.
        let at = to.socket().filter(|at| anywhere || is_near(at.ip()));
        let at = at.ok_or(InstrumentError::NotAllowed)?;
        let unreachable = || InstrumentError::Unreachable(at.to_string());
        let stream = timeout(PATIENCE, TcpStream::connect(at)).await;
        let Ok(Ok(stream)) = stream else { return Err(unreachable()) };
        stream.set_nodelay(true).map_err(|_| unreachable())?;
        let (read, write) = stream.into_split();
        let shown_by =
            ShownBy { connection: to.id, name: to.name.clone(), identity: String::new() };
        let mut talk = Self { read: BufReader::new(read), write, shown_by };
        let said = talk.ask(&Ask::Identity.to_string()).await?;
        talk.shown_by.identity = identity(&said, to.kind)?;
        Ok(talk)
    }

    /// Says something that is answered by nothing.
    ///
    /// # Errors
    /// It hung up.
    pub(crate) async fn tell(&mut self, ask: &Ask) -> Result<(), InstrumentError> {
        let sent = timeout(PATIENCE, self.write.write_all(format!("{ask}\n").as_bytes())).await;
        if matches!(sent, Ok(Ok(()))) { Ok(()) } else { Err(InstrumentError::Broke) }
    }

    /// Asks, and takes the line that answers.
    ///
    /// # Errors
    /// No line, more than one, silence.
    pub(crate) async fn ask(&mut self, question: &str) -> Result<String, InstrumentError> {
        // What nobody asked for would be taken for the answer.
        if !self.read.buffer().is_empty() {
            return Err(InstrumentError::NoLine);
        }
        let both = async {
            self.write.write_all(format!("{question}\n").as_bytes()).await?;
            let mut line = Vec::new();
            (&mut self.read).take(LONGEST_LINE as u64).read_until(b'\n', &mut line).await?;
            Ok::<Vec<u8>, std::io::Error>(line)
        };
        let line = match timeout(PATIENCE, both).await {
            Err(_) => return Err(InstrumentError::Silent),
            Ok(Err(_)) => return Err(InstrumentError::Broke),
            Ok(Ok(line)) => line,
        };
        if !line.ends_with(b"\n") {
            let long = line.len() >= LONGEST_LINE;
            return Err(if long { InstrumentError::NoLine } else { InstrumentError::Broke });
        }
        String::from_utf8(line).map_err(|_| InstrumentError::NoLine)
    }

    /// Records for so long at a cylinder: points a second, and the points.
    ///
    /// # Errors
    /// [`InstrumentError`]: what is no recording never becomes one.
    pub(crate) async fn records(
        &mut self,
        cylinder: u32,
        seconds: f64,
    ) -> Result<(f64, Vec<f64>), InstrumentError> {
        for ask in [Ask::Route(cylinder), Ask::Time(seconds), Ask::Init] {
            self.tell(&ask).await?;
        }
        // Its errors are asked for first: a recording that was refused is another one's.
        let error = self.ask(&Ask::Error.to_string()).await?;
        if !error.starts_with("0,") {
            return Err(InstrumentError::Reports(error.trim().chars().take(80).collect()));
        }
        let one = |line: &str| match numbers(line).as_deref() {
            Ok([value]) if *value >= 1.0 => Ok(*value),
            _ => Err(InstrumentError::NoLine),
        };
        let rate_hz = one(&self.ask(&Ask::Rate.to_string()).await?)?;
        let count = one(&self.ask(&Ask::Points.to_string()).await?)? as usize;
        if count > MOST_POINTS {
            return Err(InstrumentError::NoLine);
        }
        let mut points = Vec::with_capacity(count);
        while points.len() < count {
            let some = (count - points.len()).min(POINTS as usize);
            let ask = Ask::Data(points.len() as u32, some as u32);
            let came = numbers(&self.ask(&ask.to_string()).await?)?;
            if came.len() != some {
                return Err(InstrumentError::NoLine);
            }
            points.extend(came);
        }
        Ok((rate_hz, points))
    }

    /// What it shows now, channel by channel.
    ///
    /// # Errors
    /// [`InstrumentError`]: what is no reading never becomes one.
    pub(crate) async fn reading(&mut self, of: Quantity) -> Result<Vec<f64>, InstrumentError> {
        let said = self.ask(&question(of)).await?;
        match Reading::of(of, &said).and_then(|came| came.read()) {
            Ok(values) => Ok(values),
            // A part that was not answered: it has its reason.
            Err(DeviceError::Line(_)) if said.split(';').count() < 3 => {
                let why = self.ask(&Ask::Error.to_string()).await?;
                Err(InstrumentError::Reports(why.trim().chars().take(80).collect()))
            }
            Err(error) => Err(error.into()),
        }
    }
}
