//! What happened to a job besides readings: injectors swapped, cylinders cleared, timers, and what
//! people changed in the plan. Append-only like the readings.

mod problems;

use super::{Injector, JobFile, Moment, Placing, Signed};
use crate::exercise::{ExerciseAct, SkillMark};
use crate::library::TorqueStage;
use crate::quantity::Second;
use crate::work::{
    Capture, ComplaintNow, Counter, FitStep, Learned, ProveId, SlotCode, Stage, StepId, Symptom,
    Told, Trouble,
};
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// What happened.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "what", rename_all = "snake_case", deny_unknown_fields)]
pub enum Event {
    /// The injectors of two cylinders changed places.
    Swapped {
        /// One cylinder.
        one: u32,
        /// The other.
        other: u32,
    },
    /// A swap was recorded that did not happen: everyone sits where they sat.
    SwapUndone {
        /// The event that recorded it.
        of: Uuid,
        /// Why.
        reason: String,
    },
    /// Injectors were put into other cylinders, those named and no others.
    Placed {
        /// Where each one went.
        seats: Vec<Placing>,
    },
    /// An injector from outside this job took the place of the one in its cylinder.
    Replaced {
        /// The one that sits there now; its cylinder is the one that it was fitted to.
        injector: Injector,
        /// What was fitted.
        part: Part,
    },
    /// A step of fitting was ticked, or its tick taken back.
    Fitted {
        /// Which.
        step: FitStep,
        /// For these cylinders.
        cylinders: Vec<u32>,
        /// Ticked; else taken back.
        done: bool,
    },
    /// Something was found while taking out or fitting.
    FoundTrouble {
        /// Cylinder.
        cylinder: u32,
        /// What.
        trouble: Trouble,
        /// In words; may be empty.
        note: String,
    },
    /// How the clamp is tightened, where the library does not know or the maker says otherwise.
    Tightening {
        /// In order.
        stages: Vec<TorqueStage>,
        /// As typed.
        typed: String,
        /// Where the figures are from.
        source: String,
    },
    /// A step of proving was done, failed, or was left out with a reason.
    Proved {
        /// Which.
        item: ProveId,
        /// How it went.
        told: Told,
        /// What was seen; the reason where it was left out.
        note: String,
    },
    /// Learned values and counters were read from the control unit.
    LearnedRead {
        /// They were cleared just before.
        cleared: bool,
        /// By cylinder.
        learned: Vec<Learned>,
        /// What the learning drive has filled.
        counters: Vec<Counter>,
        /// Seen on another scan tool and typed, by whoever signs.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        by_hand: bool,
    },
    /// The job was closed.
    Closed {
        /// What was left out with a reason; closed as proven when nothing was.
        exceptions: Vec<ProveId>,
    },
    /// The job is not gone on with: called off, or put away.
    Cancelled {
        /// Why.
        reason: String,
    },
    /// A closed job came back, or was closed too early.
    Reopened {
        /// The same complaint came back.
        comeback: bool,
        /// In words.
        reason: String,
        /// What is complained of now; empty where it is what was complained of before.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        symptoms: Vec<Symptom>,
    },
    /// A return that is next to nothing was looked into: its hose is clear and on, and the injector fires.
    ReturnConfirmed {
        /// The return test.
        test: Uuid,
        /// Cylinder.
        cylinder: u32,
    },
    /// The complaint was asked again after a repair.
    ComplaintAsked {
        /// What it is now.
        answer: ComplaintNow,
    },
    /// The fuel was cleared off the pistons.
    Cleared {
        /// What was done, in words; empty in files of older versions.
        #[serde(default)]
        how: String,
    },
    /// A clearing was recorded that did not happen: the fuel is still there.
    ClearingUndone {
        /// The event that recorded it.
        of: Uuid,
        /// Why.
        reason: String,
    },
    /// A timer or a reminder was set.
    TimerSet {
        /// What it is for.
        word: String,
        /// How long, s.
        seconds: Second,
        /// Where it leads back to.
        stage: Stage,
    },
    /// A timer was taken off the board.
    TimerOff {
        /// The event that set it.
        timer: Uuid,
    },
    /// A step of the plan was done, without a check of its own.
    StepDone {
        /// Which.
        step: StepId,
    },
    /// A step of the plan is left out.
    StepSkipped {
        /// Which.
        step: StepId,
        /// Why.
        reason: String,
    },
    /// A step is open again.
    StepBack {
        /// Which.
        step: StepId,
    },
    /// A step comes first.
    StepFirst {
        /// Which.
        step: StepId,
    },
    /// A step of the technician's own.
    StepAdded {
        /// What to do.
        title: String,
        /// Why.
        why: String,
        /// Minutes.
        minutes: u32,
        /// Where it belongs.
        stage: Stage,
    },
    /// The codes that the control unit has stored were read.
    CodesRead {
        /// Slot by slot.
        slots: Vec<SlotCode>,
        /// Seen on another scan tool and typed, by whoever signs.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        by_hand: bool,
    },
    /// The code on the body of an injector.
    CodeCaptured {
        /// The injector.
        injector: Uuid,
        /// As it is kept.
        code: String,
        /// How it came in.
        how: Capture,
    },
    /// By which numbers the control unit means which cylinders.
    UnitNumbered {
        /// The cylinder of its number 1, 2, and so on.
        cylinders: Vec<u32>,
    },
    /// Codes are about to be written; until they are read back nobody knows what is stored.
    WriteBegun {
        /// What goes where.
        writes: Vec<SlotCode>,
    },
    /// A writing came to its end.
    WriteEnded(WriteEnd),
    /// Something was done at a made-up engine; in an exercise only.
    Exercise(ExerciseAct),
    /// A second person looked at the decisions.
    Reviewed {
        /// Signed; else returned.
        signed: bool,
        /// What is still to be done; may be empty when signed.
        remarks: String,
    },
}

/// The end of a writing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WriteEnd {
    /// The event that began it.
    pub of: Uuid,
    /// Read back, and everything is as it has to be.
    pub good: bool,
    /// In words.
    pub says: String,
}

/// What was fitted in the place of an injector.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Part {
    /// New.
    New,
    /// Reconditioned.
    Reconditioned,
    /// A tested one off the shelf.
    Tested,
}

/// One event. Never changed, never removed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct EventRecord {
    /// Identity, made where it happened.
    pub id: Uuid,
    /// What.
    pub event: Event,
    /// Who and when.
    pub signed: Signed,
}

/// A timer that is still on the board.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Timer {
    /// The event that set it.
    pub id: Uuid,
    /// What it is for.
    pub word: String,
    /// When it rings.
    #[schema(value_type = String, format = DateTime)]
    pub ends_at: Timestamp,
    /// Where it leads back to.
    pub stage: Stage,
}

impl Event {
    /// Read from the control unit or written to it: comes from that talk, and from nowhere else.
    pub fn of_unit(&self) -> bool {
        matches!(
            self,
            Self::CodesRead { by_hand: false, .. }
                | Self::CodeCaptured { .. }
                | Self::WriteBegun { .. }
                | Self::WriteEnded(_)
                | Self::LearnedRead { by_hand: false, .. }
        )
    }

    /// Injectors sit elsewhere after it.
    pub fn moves(&self) -> bool {
        matches!(self, Self::Swapped { .. } | Self::Placed { .. } | Self::Replaced { .. })
    }
}

impl JobFile {
    /// Timers that nobody took off, soonest first; a closed job has none.
    pub fn timers(&self) -> Vec<Timer> {
        if self.closed().is_some() {
            return Vec::new();
        }
        let off: Vec<Uuid> = self
            .events
            .iter()
            .filter_map(
                |e| if let Event::TimerOff { timer } = e.event { Some(timer) } else { None },
            )
            .collect();
        let mut timers: Vec<Timer> = self
            .events
            .iter()
            .filter(|e| !off.contains(&e.id))
            .filter_map(|e| {
                let Event::TimerSet { word, seconds, stage } = &e.event else { return None };
                Some(Timer {
                    id: e.id,
                    word: word.clone(),
                    ends_at: e.signed.at + SignedDuration::from_millis((seconds.0 * 1000.0) as i64),
                    stage: *stage,
                })
            })
            .collect();
        timers.sort_by_key(|timer| timer.ends_at);
        timers
    }

    /// The marks of an exercise that was ended; none while it goes on, and of every other job.
    pub fn marks(&self) -> Option<&[SkillMark]> {
        self.events.iter().find_map(|record| {
            let Event::Exercise(ExerciseAct::Ended { marks }) = &record.event else { return None };
            Some(marks.as_slice())
        })
    }

    /// When the cylinders were last cleared of fuel.
    pub fn cleared_at(&self) -> Option<Moment> {
        let undone = |id: Uuid| {
            self.events
                .iter()
                .any(|e| matches!(e.event, Event::ClearingUndone { of, .. } if of == id))
        };
        let cleared = self.events.iter().filter(|e| matches!(e.event, Event::Cleared { .. }));
        cleared.filter(|e| !undone(e.id)).map(|e| e.signed.moment()).max()
    }
}
