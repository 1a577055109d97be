//! The talk with a control unit: a line each way, nothing believed that was not answered.

use crate::{AppState, words};
use cobaltine_core::codes::SlotCode;
use cobaltine_core::proving::{Counter, Learned};
use cobaltine_core::record::{Event, JobFile};
use cobaltine_core::unit_link::{Answer, Ask, LONGEST_LINE, LinkError, Refusal};
use cobaltine_trainer::bay::stored_codes;
use cobaltine_trainer::case::case;
use std::time::Duration;
use thiserror::Error;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;
use tokio::net::tcp::{OwnedReadHalf, OwnedWriteHalf};
use tokio::time::timeout;

/// A unit that says nothing for so long is silent.
const PATIENCE: Duration = Duration::from_secs(3);
/// How often one that is busy is asked again, and after which pause.
const BUSY_TIMES: u32 = 8;
const BUSY_PAUSE: Duration = Duration::from_millis(250);
/// Supply below which nothing is begun, V. House rule; a support charger holds it above.
const LEAST_VOLTS: f64 = 12.0;

/// Why a talk led nowhere.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum UnitError {
    /// No unit was named.
    #[error("{}", words::NO_ECU_CONNECTED_HERE)]
    None,
    /// Nobody answers there.
    #[error("{}", words::ECU_NOT_RESPONDING_CHECK)]
    Silent,
    /// It answered before, and then no more.
    #[error("{}", words::CONNECTION_ECU_LOST)]
    Broke,
    /// It is at work on a code, percent.
    #[error("{}", words::ecu_still_writing(.0))]
    Writing(u32),
    /// It said what is no answer.
    #[error("{0}.")]
    Line(#[from] LinkError),
    /// It refused.
    #[error("{}", .0.says())]
    Refused(Refusal),
    /// The supply is too low to begin.
    #[error("{}", words::v_ecu_too_low(.0))]
    Low(f64),
}

/// What the engine of an exercise comes with, until something was read of it.
fn delivered(file: &JobFile) -> Vec<(String, String)> {
    let read = |event: &Event| matches!(event, Event::CodesRead { .. } | Event::WriteBegun { .. });
    if file.events.iter().any(|record| read(&record.event)) {
        return Vec::new();
    }
    let reference = file.job.exercise.as_ref().map(|exercise| &exercise.case);
    let Some(case) = reference.and_then(|reference| case(reference).ok()) else {
        return Vec::new();
    };
    let coded = case.job.engine.fuel.coded();
    let codes = (1..).zip(stored_codes(&case)).filter(|_| coded);
    codes
        .map(|(slot, code): (u32, String)| ("store".to_owned(), format!("{slot}:{code}")))
        .collect()
}

/// One talk with one vehicle.
pub(crate) struct Talk {
    read: BufReader<OwnedReadHalf>,
    write: OwnedWriteHalf,
    /// The cylinder of the unit's number 1, 2, and so on.
    numbers: Vec<u32>,
}

impl Talk {
    /// Opens a talk.
    ///
    /// # Errors
    /// [`UnitError`].
    pub(crate) async fn open(state: &AppState, file: &JobFile) -> Result<Self, UnitError> {
        // A made-up engine has no control unit but the stand-in.
        let there = file.job.exercise.is_none() || state.stand_in;
        let address = state.unit.as_deref().filter(|_| there).ok_or(UnitError::None)?;
        let stream = timeout(PATIENCE, TcpStream::connect(address)).await;
        let Ok(Ok(stream)) = stream else { return Err(UnitError::Silent) };
        let (read, write) = stream.into_split();
        let (vehicle, slots) = (file.job.number.to_string(), file.job.intake.layout.cylinders);
        let mut talk = Self { read: BufReader::new(read), write, numbers: file.unit_numbers() };
        talk.ask(&Ask::Open { vehicle, slots }).await?;
        for (what, to) in delivered(file) {
            talk.ask(&Ask::Knob { what, to }).await?;
        }
        Ok(talk)
    }

    async fn once(&mut self, ask: &Ask) -> Result<Answer, UnitError> {
        let both = async {
            self.write.write_all(format!("{ask}\n").as_bytes()).await?;
            let mut line = String::new();
            (&mut self.read).take(LONGEST_LINE as u64).read_line(&mut line).await?;
            Ok::<String, std::io::Error>(line)
        };
        let Ok(Ok(line)) = timeout(PATIENCE, both).await else { return Err(UnitError::Broke) };
        if !line.ends_with('\n') {
            return Err(UnitError::Broke);
        }
        Ok(line.trim().parse::<Answer>()?)
    }

    /// Asks, again where it is busy.
    ///
    /// # Errors
    /// [`UnitError`]: a refusal is one.
    pub(crate) async fn ask(&mut self, ask: &Ask) -> Result<Answer, UnitError> {
        for _ in 0..BUSY_TIMES {
            match self.once(ask).await? {
                Answer::No(Refusal::Busy) => tokio::time::sleep(BUSY_PAUSE).await,
                Answer::No(refusal) => return Err(UnitError::Refused(refusal)),
                answer @ (Answer::Ok
                | Answer::State { .. }
                | Answer::Codes(_)
                | Answer::Learned(_)
                | Answer::Counters(_)
                | Answer::Progress(_)) => return Ok(answer),
            }
        }
        Err(UnitError::Refused(Refusal::Busy))
    }

    /// Everything that is stored.
    ///
    /// # Errors
    /// [`UnitError`].
    pub(crate) async fn codes(&mut self) -> Result<Vec<SlotCode>, UnitError> {
        let answer = self.ask(&Ask::Codes).await?;
        let codes = match answer {
            Answer::Codes(codes) => codes,
            // What was begun in a talk that broke off goes on without it.
            Answer::Progress(percent) => return Err(UnitError::Writing(percent)),
            answer @ (Answer::Ok
            | Answer::No(_)
            | Answer::State { .. }
            | Answer::Learned(_)
            | Answer::Counters(_)) => return Err(other(&answer)),
        };
        let mut codes: Vec<SlotCode> = codes
            .into_iter()
            .map(|(number, code)| SlotCode { cylinder: self.cylinder(number), code })
            .collect();
        codes.sort_by_key(|one| one.cylinder);
        Ok(codes)
    }

    /// The cylinder that the unit means by a number.
    fn cylinder(&self, number: u32) -> u32 {
        let at = (number as usize).wrapping_sub(1);
        self.numbers.get(at).copied().unwrap_or(number)
    }

    /// Begins to store a code for a cylinder.
    ///
    /// # Errors
    /// [`UnitError`].
    pub(crate) async fn write(&mut self, cylinder: u32, code: String) -> Result<(), UnitError> {
        let at = self.numbers.iter().position(|held| *held == cylinder);
        let slot = at.map_or(cylinder, |at| at as u32 + 1);
        self.ask(&Ask::Write { slot, code }).await.map(drop)
    }

    /// What was learned of each cylinder, and what the learning drive has filled.
    ///
    /// # Errors
    /// [`UnitError`].
    pub(crate) async fn learned(&mut self) -> Result<(Vec<Learned>, Vec<Counter>), UnitError> {
        let answer = self.ask(&Ask::Learned).await?;
        let Answer::Learned(values) = answer else { return Err(other(&answer)) };
        let answer = self.ask(&Ask::Counters).await?;
        let Answer::Counters(counters) = answer else { return Err(other(&answer)) };
        let mut learned: Vec<Learned> = values
            .into_iter()
            .map(|(number, percent)| Learned { cylinder: self.cylinder(number), percent })
            .collect();
        learned.sort_by_key(|one| one.cylinder);
        let counter = |(band, done, needed)| Counter { band, done, needed };
        Ok((learned, counters.into_iter().map(counter).collect()))
    }

    /// Whether it may be written to now.
    ///
    /// # Errors
    /// What stands against it.
    pub(crate) async fn ready(&mut self) -> Result<(), UnitError> {
        let answer = self.ask(&Ask::State).await?;
        let Answer::State { ignition, engine, volts } = answer else { return Err(other(&answer)) };
        match () {
            () if !ignition => Err(UnitError::Refused(Refusal::Ignition)),
            () if engine => Err(UnitError::Refused(Refusal::Engine)),
            () if volts < LEAST_VOLTS => Err(UnitError::Low(volts)),
            () => Ok(()),
        }
    }

    /// How far a writing is, percent.
    ///
    /// # Errors
    /// [`UnitError`].
    pub(crate) async fn progress(&mut self) -> Result<u32, UnitError> {
        let answer = self.ask(&Ask::Progress).await?;
        let Answer::Progress(percent) = answer else { return Err(other(&answer)) };
        Ok(percent)
    }
}

/// An answer to another question.
fn other(answer: &Answer) -> UnitError {
    LinkError(answer.to_string()).into()
}
