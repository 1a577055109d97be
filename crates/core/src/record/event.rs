//! What happened to a job besides readings: injectors swapped, cylinders cleared, timers, and what
//! people changed in the plan. Append-only like the readings.

use super::{FieldProblem, Injector, JobFile, Signed};
use crate::engine::Layout;
use crate::plan::StepId;
use crate::quantity::Second;
use crate::work::Stage;
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest text of an event.
const LONGEST: usize = 300;
/// Longest timer, s: a week of soaking.
const LONGEST_TIMER_S: f64 = 604_800.0;

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
    /// Plugs out and cranked: no fuel is left on the pistons.
    Cleared,
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
    /// A second person looked at the decisions.
    Reviewed {
        /// Signed; else returned.
        signed: bool,
        /// What is still to be done; may be empty when signed.
        remarks: String,
    },
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

/// An injector where it sits now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Seat {
    /// Cylinder number.
    pub cylinder: u32,
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// The cylinder that it came in.
    pub came_from: u32,
}

impl Event {
    /// What is wrong with it, in words for its fields.
    pub fn problems(&self, layout: &Layout) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        let mut text = |field: &str, text: &str, needed: bool| {
            if needed && text.trim().is_empty() {
                found.push(FieldProblem::new(field, "Say it in a few words."));
            } else if text.chars().count() > LONGEST {
                found.push(FieldProblem::new(field, format!("{LONGEST} characters are the most.")));
            }
        };
        match self {
            Self::Swapped { one, other } => {
                let known = |c: &u32| (1..=layout.cylinders).contains(c);
                if one == other || !known(one) || !known(other) {
                    let says = format!("Two cylinders of 1 to {}.", layout.cylinders);
                    found.push(FieldProblem::new("other", says));
                }
            }
            Self::TimerSet { word, seconds, .. } => {
                text("word", word, true);
                if !(seconds.0 >= 1.0 && seconds.0 <= LONGEST_TIMER_S) {
                    found.push(FieldProblem::new("seconds", "From a second to a week."));
                }
            }
            Self::StepSkipped { reason, .. } => text("reason", reason, true),
            Self::Reviewed { signed, remarks } => text("remarks", remarks, !signed),
            Self::StepAdded { title, why, minutes, .. } => {
                text("title", title, true);
                text("why", why, false);
                if *minutes > 10_000 {
                    found.push(FieldProblem::new("minutes", "10000 are the most."));
                }
            }
            Self::Cleared
            | Self::TimerOff { .. }
            | Self::StepDone { .. }
            | Self::StepBack { .. }
            | Self::StepFirst { .. } => {}
        }
        found
    }
}

impl JobFile {
    /// The injectors as they sat at a moment; at the end of all events without one.
    pub fn seats(&self, at: Option<Timestamp>) -> Vec<Seat> {
        let mut sits: Vec<(u32, &Injector)> =
            self.job.injectors.iter().map(|injector| (injector.cylinder, injector)).collect();
        let happened = self.events.iter().filter(|e| at.is_none_or(|at| e.signed.at <= at));
        for event in happened {
            if let Event::Swapped { one, other } = event.event {
                for (cylinder, _) in &mut sits {
                    if *cylinder == one {
                        *cylinder = other;
                    } else if *cylinder == other {
                        *cylinder = one;
                    }
                }
            }
        }
        sits.sort_by_key(|(cylinder, _)| *cylinder);
        sits.into_iter()
            .map(|(cylinder, injector)| Seat {
                cylinder,
                injector: injector.id,
                label: injector.label.clone(),
                came_from: injector.cylinder,
            })
            .collect()
    }

    /// What sat in a cylinder at a moment.
    pub fn seat_at(&self, cylinder: Option<u32>, at: Timestamp) -> Option<Seat> {
        self.seats(Some(at)).into_iter().find(|seat| Some(seat.cylinder) == cylinder)
    }

    /// The injector that sat in a cylinder at a moment.
    pub fn injector_at(&self, cylinder: Option<u32>, at: Timestamp) -> Option<Uuid> {
        self.seat_at(cylinder, at).map(|seat| seat.injector)
    }

    /// Injectors changed places after this moment.
    pub fn swapped_since(&self, at: Timestamp) -> bool {
        let swapped = |e: &&EventRecord| matches!(e.event, Event::Swapped { .. });
        self.events.iter().filter(swapped).any(|e| e.signed.at > at)
    }

    /// Timers that nobody took off, soonest first.
    pub fn timers(&self) -> Vec<Timer> {
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
            .filter_map(|e| match &e.event {
                Event::TimerSet { word, seconds, stage } => Some(Timer {
                    id: e.id,
                    word: word.clone(),
                    ends_at: e.signed.at + SignedDuration::from_millis((seconds.0 * 1000.0) as i64),
                    stage: *stage,
                }),
                Event::Swapped { .. }
                | Event::Cleared
                | Event::TimerOff { .. }
                | Event::StepDone { .. }
                | Event::StepSkipped { .. }
                | Event::StepBack { .. }
                | Event::StepFirst { .. }
                | Event::Reviewed { .. }
                | Event::StepAdded { .. } => None,
            })
            .collect();
        timers.sort_by_key(|timer| timer.ends_at);
        timers
    }

    /// When the cylinders were last cleared of fuel.
    pub fn cleared_at(&self) -> Option<Timestamp> {
        let cleared = self.events.iter().filter(|e| e.event == Event::Cleared);
        cleared.map(|e| e.signed.at).max()
    }
}
