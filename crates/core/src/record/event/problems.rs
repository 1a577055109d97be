//! What is wrong with an event, in words for its fields.

use super::super::{FieldProblem, label_problems};
use super::Event;
use crate::engine::Layout;
use crate::library::TorqueStage;
use crate::limits::EVENT_TEXT;
use crate::record::words;
use crate::work::{SlotCode, Told, Trouble};

/// Longest timer, s: a week of soaking.
const LONGEST_TIMER_S: f64 = 604_800.0;

/// A code as it is kept.
fn is_code(code: &str) -> bool {
    (1..=64).contains(&code.len()) && code.chars().all(|c| c.is_ascii_alphanumeric())
}

fn slot_problems(slots: &[SlotCode], layout: &Layout) -> Vec<FieldProblem> {
    let cylinders: Vec<u32> = slots.iter().map(|one| one.cylinder).collect();
    let mut found: Vec<FieldProblem> = not_of(layout, "slots", &cylinders).into_iter().collect();
    // What a unit has stored may be in no code's alphabet, and is evidence all the same.
    let stored =
        |code: &str| (1..=64).contains(&code.len()) && code.chars().all(|c| c.is_ascii_graphic());
    if !slots.iter().filter_map(|one| one.code.as_deref()).all(stored) {
        found.push(FieldProblem::new("slots", words::LETTERS_DIGITS_SIGNS_MAXIMUM));
    }
    found
}

/// Cylinders that this engine does not have, none at all, or one twice.
fn not_of(layout: &Layout, field: &str, cylinders: &[u32]) -> Option<FieldProblem> {
    let mut held = cylinders.to_vec();
    held.sort_unstable();
    held.dedup();
    let known = held.iter().all(|c| (1..=layout.cylinders).contains(c));
    (held.is_empty() || held.len() != cylinders.len() || !known)
        .then(|| FieldProblem::new(field, words::enter_cylinders_each_once(layout.cylinders)))
}

impl Event {
    /// What is wrong with it, in words for its fields.
    pub fn problems(&self, layout: &Layout) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        let mut text = |field: &str, text: &str, needed: bool| {
            if needed && text.trim().is_empty() {
                found.push(FieldProblem::new(field, words::ENTER_FEW_WORDS));
            } else if text.chars().count() > EVENT_TEXT {
                found.push(FieldProblem::new(field, words::maximum_characters(EVENT_TEXT)));
            }
        };
        match self {
            Self::Swapped { one, other } => {
                let known = |c: &u32| (1..=layout.cylinders).contains(c);
                if one == other || !known(one) || !known(other) {
                    let says = words::enter_two_cylinders(layout.cylinders);
                    found.push(FieldProblem::new("other", says));
                }
            }
            Self::CodesRead { slots, .. } | Self::WriteBegun { writes: slots } => {
                found.extend(slot_problems(slots, layout));
            }
            Self::CodeCaptured { code, .. } if !is_code(code) => {
                found.push(FieldProblem::new("code", words::LETTERS_DIGITS_MAXIMUM));
            }
            Self::UnitNumbered { cylinders } if !layout.is_each_once(cylinders) => {
                let says = words::enter_each_cylinder_once(layout.cylinders);
                found.push(FieldProblem::new("cylinders", says));
            }
            Self::Exercise(act) => found.extend(act.problems()),
            Self::WriteEnded(end) => text("says", &end.says, true),
            Self::Cleared { how } => text("how", how, false),
            Self::Cancelled { reason } => text("reason", reason, true),
            Self::ClearingUndone { reason, .. } | Self::SwapUndone { reason, .. } => {
                text("reason", reason, true)
            }
            Self::Placed { seats } => {
                let mut to: Vec<u32> = seats.iter().map(|one| one.cylinder).collect();
                to.sort_unstable();
                to.dedup();
                let known = |c: &u32| (1..=layout.cylinders).contains(c);
                if seats.len() < 2 || to.len() != seats.len() || !to.iter().all(known) {
                    let says = words::ENTER_TWO_MORE_INJECTORS;
                    found.push(FieldProblem::new("seats", says));
                }
            }
            Self::Replaced { injector, .. } => {
                found.extend(label_problems(std::slice::from_ref(&injector.label), layout));
                found.extend(not_of(layout, "cylinder", &[injector.cylinder]));
            }
            Self::ReturnConfirmed { cylinder, .. } => {
                found.extend(not_of(layout, "cylinder", &[*cylinder]));
            }
            Self::Fitted { cylinders, .. } => found.extend(not_of(layout, "cylinders", cylinders)),
            Self::FoundTrouble { cylinder, note, trouble } => {
                text("note", note, *trouble == Trouble::Other);
                found.extend(not_of(layout, "cylinder", &[*cylinder]));
            }
            Self::Tightening { stages, typed, source } => {
                text("source", source, true);
                text("typed", typed, true);
                if !(1..=8).contains(&stages.len()) || !stages.iter().all(TorqueStage::is_sound) {
                    let says = words::ENTER_STAGES_EACH_TORQUE;
                    found.push(FieldProblem::new("typed", says));
                }
            }
            Self::Proved { told, note, .. } => text("note", note, *told != Told::Good),
            Self::LearnedRead { learned, counters, .. } => {
                let cylinders: Vec<u32> = learned.iter().map(|one| one.cylinder).collect();
                if !cylinders.is_empty() {
                    found.extend(not_of(layout, "learned", &cylinders));
                }
                let sound = learned.iter().all(|one| one.percent.is_finite());
                if !sound || counters.len() > 16 {
                    found.push(FieldProblem::new("learned", words::ENTER_NUMBERS_MAXIMUM_COUNTERS));
                }
            }
            Self::Reopened { reason, .. } => text("reason", reason, true),
            Self::TimerSet { word, seconds, .. } => {
                text("word", word, true);
                if !(seconds.0 >= 1.0 && seconds.0 <= LONGEST_TIMER_S) {
                    found.push(FieldProblem::new("seconds", words::ENTER_TIME_ONE_SECOND));
                }
            }
            Self::StepSkipped { reason, .. } => text("reason", reason, true),
            Self::Reviewed { signed, remarks } => text("remarks", remarks, !signed),
            Self::StepAdded { title, why, minutes, .. } => {
                text("title", title, true);
                text("why", why, false);
                if *minutes > 10_000 {
                    found.push(FieldProblem::new("minutes", "Maximum 10000."));
                }
            }
            Self::UnitNumbered { .. }
            | Self::CodeCaptured { .. }
            | Self::Closed { .. }
            | Self::TimerOff { .. }
            | Self::ComplaintAsked { .. }
            | Self::StepDone { .. }
            | Self::StepBack { .. }
            | Self::StepFirst { .. } => {}
        }
        found
    }
}
