//! What a person does to a job.

use crate::connection::ShownBy;
use crate::library::TorqueStage;
use crate::record::{
    CellReading, DecisionRecord, EventRecord, Intake, Note, RawStretch, ReadingKind, Recording,
    SheetRecord, TestSetup, Trace,
};
use crate::start::StartId;
use crate::work::Phase;
use uuid::Uuid;

/// One act of one person.
#[derive(Debug, Clone, PartialEq)]
pub enum Command {
    /// Corrects the intake.
    ChangeIntake {
        /// Identity of the change.
        id: Uuid,
        /// The revision that was looked at.
        revision: u64,
        /// The intake from now on.
        intake: Box<Intake>,
        /// Labels of the injectors, cylinder 1 first; missing ones are empty.
        labels: Vec<String>,
    },
    /// Sets a return test up.
    SetUpTest {
        /// Identity of the test.
        id: Uuid,
        /// Conditions, rules and limit.
        setup: Box<TestSetup>,
    },
    /// Begins a run.
    BeginRun(NewRun),
    /// Reads a bottle, or the length of the run.
    Read(NewReading),
    /// Lets a run not count.
    SetRunAside {
        /// The run.
        run: Uuid,
        /// Why.
        reason: String,
    },
    /// Lets a run count again that was set aside.
    CountRun {
        /// The run.
        run: Uuid,
    },
    /// Begins a check that is read cell by cell.
    BeginSheet(Box<SheetRecord>),
    /// Reads a cell.
    KeepCell {
        /// The check.
        sheet: Uuid,
        /// The cell.
        cell: CellReading,
    },
    /// Keeps a pressure trace.
    KeepTrace {
        /// The check.
        sheet: Uuid,
        /// The trace with its drops.
        trace: Trace,
    },
    /// Keeps a sound or a current.
    KeepRecording {
        /// The check.
        sheet: Uuid,
        /// The recording with what was found in it.
        recording: Recording,
    },
    /// Keeps what an instrument showed while a run or a check was taken.
    KeepRaw {
        /// The run or the check.
        of: Uuid,
        /// The stretch.
        stretch: RawStretch,
    },
    /// Something happened besides readings.
    Happened(EventRecord),
    /// Closes the job by its proof.
    Close {
        /// Identity of the event.
        id: Uuid,
        /// How the library tightens the family.
        torque: Vec<TorqueStage>,
    },
    /// Decides, for one injector or several.
    Decide(Vec<DecisionRecord>),
    /// Writes a note.
    Note(Note),
    /// Several that are one act: all of them or none.
    Together(Vec<Command>),
}

/// A run to begin.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRun {
    /// Made by the one who asks.
    pub id: Uuid,
    /// The test that it belongs to.
    pub test: Uuid,
    /// The program's timer is started with it; else it is timed elsewhere.
    pub timer: bool,
    /// The phase, in a stepped test.
    pub phase: Option<Phase>,
    /// The bank that is run alone.
    pub bank: Option<u32>,
    /// Start conditions that were ticked.
    pub ticked: Option<Vec<StartId>>,
    /// The instrument that reads it; none where people do.
    pub caught_by: Option<ShownBy>,
}

/// A reading to keep.
#[derive(Debug, Clone, PartialEq)]
pub struct NewReading {
    /// Made by the one who asks.
    pub id: Uuid,
    /// The run that it belongs to.
    pub run: Uuid,
    /// Cylinder; none for the length of the run.
    pub cylinder: Option<u32>,
    /// What was read.
    pub kind: ReadingKind,
    /// ml or s; none to let the program's timer say how long the run has been going.
    pub value: Option<f64>,
    /// As typed.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why.
    pub why: Option<String>,
    /// The instrument that showed it; none when a person read and typed it.
    pub shown_by: Option<ShownBy>,
}
