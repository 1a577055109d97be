//! The log: everything that is ever written of a job or of a bench session is one entry, added at
//! the end and never changed. What a job is follows from its entries, and from nothing else.
//!
//! [`job`] and [`session`] put entries together; [`of_job`] and [`of_session`] take a file apart
//! again, so that an imported job is a log like any other. An entry that names what is not there is
//! refused: a log is read whole or not at all.

mod apart;
mod check;
mod file;
mod together;
mod words;

pub use apart::{of_job, of_session};
pub use together::{job, session};

use crate::record::{
    CellReading, DecisionRecord, Event, EventRecord, IntakeChange, Job, Note, RawStretch, Reading,
    Recording, RunRecord, SetAside, SheetRecord, Signed, TestRecord, Trace,
};
use crate::tests::bench::{BenchCell, Round, SessionRecord};
use serde::{Deserialize, Serialize};
use thiserror::Error;
use uuid::Uuid;

/// One entry of a log. What belongs to another entry names it; lists of what comes later are empty.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(tag = "kind", content = "of", rename_all = "snake_case")]
pub enum Entry {
    /// A job was taken in.
    TakenIn(Job),
    /// The intake is another by now.
    IntakeChanged(IntakeChange),
    /// A return test was set up.
    Test(TestRecord),
    /// A run was begun.
    Run {
        /// The test.
        test: Uuid,
        /// The run, without readings.
        run: RunRecord,
    },
    /// A reading of a run.
    Reading {
        /// The run.
        run: Uuid,
        /// The reading.
        reading: Reading,
    },
    /// A run does not count.
    Aside {
        /// The run.
        run: Uuid,
        /// Why.
        aside: SetAside,
    },
    /// A check was begun.
    Sheet(SheetRecord),
    /// A cell of a check was read.
    Cell {
        /// The check.
        sheet: Uuid,
        /// The cell.
        cell: CellReading,
    },
    /// A pressure trace of a check.
    Trace {
        /// The check.
        sheet: Uuid,
        /// The trace.
        trace: Trace,
    },
    /// A sound or a current of a check.
    Recording {
        /// The check.
        sheet: Uuid,
        /// The recording.
        recording: Recording,
    },
    /// What an instrument showed, point by point, while a run or a check was taken.
    Raw {
        /// The run or the check.
        of: Uuid,
        /// The stretch.
        stretch: RawStretch,
    },
    /// Something happened.
    Event(EventRecord),
    /// Something was decided.
    Decision(DecisionRecord),
    /// A note.
    Note(Note),
    /// A bench session was begun, without rounds.
    Session(SessionRecord),
    /// A round of it was begun.
    Round(Round),
    /// A cell of it was read.
    Tube(BenchCell),
}

/// A log that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum Torn {
    /// It does not begin with what it is the log of.
    #[error("{}", words::LOG_DOES_NOT_START)]
    Headless,
    /// An entry names another that is not before it.
    #[error("{}", words::entry_refers_something_not(.0))]
    Loose(Uuid),
    /// An entry of another kind of log.
    #[error("{}", words::entry_does_not_belong(.0))]
    Stray(Uuid),
}

impl Entry {
    /// Nothing but the log tells of it: it moves no line by which its job is found.
    pub fn is_bare(&self) -> bool {
        let fits = matches!(self, Self::Event(record) if record.event.wants_decision());
        !self.closes_or_opens()
            && !fits
            && !matches!(self, Self::TakenIn(_) | Self::IntakeChanged(_))
    }

    /// The job is closed by it, or open again.
    pub fn closes_or_opens(&self) -> bool {
        let Self::Event(record) = self else { return false };
        matches!(
            record.event,
            Event::Closed { .. } | Event::Cancelled { .. } | Event::Reopened { .. }
        )
    }

    /// Identity; no other entry of any kind has it.
    pub fn id(&self) -> Uuid {
        match self {
            Self::TakenIn(job) => job.id,
            Self::IntakeChanged(change) => change.id,
            Self::Test(test) => test.id,
            Self::Run { run, .. } => run.id,
            Self::Reading { reading, .. } => reading.id,
            Self::Aside { run, aside } => aside_id(*run, aside.nth),
            Self::Sheet(sheet) => sheet.id,
            Self::Cell { cell, .. } => cell.id,
            Self::Trace { trace, .. } => trace.id,
            Self::Recording { recording, .. } => recording.id,
            Self::Raw { stretch, .. } => stretch.id,
            Self::Event(event) => event.id,
            Self::Decision(decision) => decision.id,
            Self::Note(note) => note.id,
            Self::Session(session) => session.id,
            Self::Round(round) => round.id,
            Self::Tube(cell) => cell.id,
        }
    }

    /// Who, when, and the place in the log.
    pub fn signed(&self) -> &Signed {
        match self {
            Self::TakenIn(job) => &job.taken_in,
            Self::IntakeChanged(change) => &change.signed,
            Self::Test(test) => &test.signed,
            Self::Run { run, .. } => &run.signed,
            Self::Reading { reading, .. } => &reading.signed,
            Self::Aside { aside, .. } => &aside.signed,
            Self::Sheet(sheet) => &sheet.signed,
            Self::Cell { cell, .. } => &cell.signed,
            Self::Trace { trace, .. } => &trace.signed,
            Self::Recording { recording, .. } => &recording.signed,
            Self::Raw { stretch, .. } => &stretch.signed,
            Self::Event(event) => &event.signed,
            Self::Decision(decision) => &decision.signed,
            Self::Note(note) => &note.signed,
            Self::Session(session) => &session.signed,
            Self::Round(round) => &round.signed,
            Self::Tube(cell) => &cell.signed,
        }
    }

    /// The same, to give it its place.
    pub fn signed_mut(&mut self) -> &mut Signed {
        match self {
            Self::TakenIn(job) => &mut job.taken_in,
            Self::IntakeChanged(change) => &mut change.signed,
            Self::Test(test) => &mut test.signed,
            Self::Run { run, .. } => &mut run.signed,
            Self::Reading { reading, .. } => &mut reading.signed,
            Self::Aside { aside, .. } => &mut aside.signed,
            Self::Sheet(sheet) => &mut sheet.signed,
            Self::Cell { cell, .. } => &mut cell.signed,
            Self::Trace { trace, .. } => &mut trace.signed,
            Self::Recording { recording, .. } => &mut recording.signed,
            Self::Raw { stretch, .. } => &mut stretch.signed,
            Self::Event(event) => &mut event.signed,
            Self::Decision(decision) => &mut decision.signed,
            Self::Note(note) => &mut note.signed,
            Self::Session(session) => &mut session.signed,
            Self::Round(round) => &mut round.signed,
            Self::Tube(cell) => &mut cell.signed,
        }
    }

    /// Where it stands among entries of files that give no places, of the same time.
    fn rank(&self) -> u8 {
        match self {
            Self::TakenIn(_) | Self::Session(_) => 0,
            Self::IntakeChanged(_) => 1,
            Self::Test(_) | Self::Sheet(_) | Self::Round(_) => 2,
            Self::Run { .. } => 3,
            Self::Reading { .. }
            | Self::Cell { .. }
            | Self::Trace { .. }
            | Self::Recording { .. }
            | Self::Raw { .. }
            | Self::Tube(_) => 4,
            Self::Aside { .. } => 5,
            Self::Event(_) => 6,
            Self::Decision(_) => 7,
            Self::Note(_) => 8,
        }
    }
}

/// The identity of the first, second and later time that a run is set aside follows from its own.
fn aside_id(run: Uuid, nth: u32) -> Uuid {
    const ASIDE: u128 = 0xA51D_E000;
    Uuid::from_u128(run.as_u128() ^ (ASIDE + u128::from(nth)))
}
