//! The plan: from the complaint to an ordered list of checks, planned again when results arrive.
//!
//! Cheap and quick first; what all cylinders share before one of them. Every step says why it is
//! there and what would make it unnecessary. A result can spare a step or make it wait; a person
//! can leave one out, put one first, or add one; nothing is ever hidden.
//!
//! # Source
//! House rule: the order of the trade.

mod replan;
mod steps;
mod words;

use crate::caution::Caution;
use crate::record::{Event, JobFile};
use crate::standing::Stood;
use crate::tests::Verdict;
use crate::tests::electrical::Electrical;
use crate::tests::engine::{EngineTest, Outcome};
use crate::tests::swap::SwapVerdict;
use crate::work::Stage;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

pub use crate::work::StepId;
pub use steps::Step;

/// How a step stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum StepState {
    /// To be done.
    Open,
    /// Something else has to be put right first.
    Waits,
    /// Done, with a result.
    Done,
    /// A result made it unnecessary.
    Spared,
    /// A person left it out.
    Skipped,
}

/// One step of the plan.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlanStep {
    /// Its name.
    pub id: StepId,
    /// What to do.
    pub title: String,
    /// Where it belongs.
    pub stage: Stage,
    /// The check that it opens, if it is one.
    pub check: Option<EngineTest>,
    /// Minutes that it usually takes.
    pub minutes: u32,
    /// Tools and consumables.
    pub tools: String,
    /// Cautions, before the step.
    pub cautions: Vec<Caution>,
    /// Why it is there.
    pub why: String,
    /// What would make it unnecessary.
    pub spared_by: String,
    /// How it stands.
    pub state: StepState,
    /// Its result, or why it waits, is spared or was left out.
    pub says: String,
    /// What its result found.
    pub found: Outcome,
}

/// The plan of a job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Plan {
    /// In the order of doing.
    pub steps: Vec<PlanStep>,
    /// What the complaint itself says about where to look.
    pub steer: String,
    /// Minutes of the steps that are open.
    pub minutes: u32,
    /// The first open step.
    pub next: Option<StepId>,
    /// What has to be put right before anything else is measured.
    pub first: Option<PutRight>,
}

/// A cause that was found: it is put right, and then the rest is looked at again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PutRight {
    /// The check that found it, to be read anew afterwards.
    pub check: EngineTest,
    /// Its stage.
    pub stage: Stage,
    /// In a sentence.
    pub says: String,
}

/// What is known by now.
#[derive(Debug, Clone, Copy)]
pub struct Known<'a> {
    /// What counts now.
    pub stood: &'a [Stood],
    /// The verdicts of checks of which something counts, or that were begun, oldest first.
    pub sheets: &'a [(EngineTest, &'a Verdict)],
    /// The newest return test, where something of it counts.
    pub returned: Option<&'a Verdict>,
    /// Conclusions of swaps, as long as injectors sit as they did then.
    pub swaps: &'a [SwapVerdict],
    /// What the electrical checks say together.
    pub electrical: Option<&'a Electrical>,
    /// What the newest bench session says.
    pub bench: Option<&'a str>,
}

/// Plans a job.
pub fn plan(file: &JobFile, known: Known<'_>) -> Plan {
    let intake = &file.told();
    let mut planned: Vec<PlanStep> =
        Step::all().filter_map(|step| steps::planned(step, intake)).collect();
    replan::by_results(&mut planned, intake, known);
    by_people(&mut planned, file);
    let open = |step: &&PlanStep| step.state == StepState::Open;
    Plan {
        steer: replan::steer(intake, known),
        first: replan::put_right_first(intake, known),
        minutes: planned.iter().filter(open).map(|step| step.minutes).sum(),
        next: planned.iter().find(open).map(|step| step.id.clone()),
        steps: planned,
    }
}

/// What people changed, in the order in which they did.
fn by_people(steps: &mut Vec<PlanStep>, file: &JobFile) {
    let done = steps.iter().filter(|step| step.state == StepState::Done);
    let read: Vec<StepId> = done.map(|step| step.id.clone()).collect();
    // A result that was read is never overwritten by a tick.
    let set = |steps: &mut [PlanStep], id: &StepId, state: StepState, says: &str| {
        let step = steps.iter_mut().find(|step| step.id == *id && !read.contains(id));
        if let Some(step) = step {
            step.state = state;
            says.clone_into(&mut step.says);
        }
    };
    for record in &file.events {
        match &record.event {
            Event::StepAdded { title, why, minutes, stage } => steps.push(PlanStep {
                id: StepId(record.id.to_string()),
                title: title.clone(),
                stage: *stage,
                check: None,
                minutes: *minutes,
                tools: String::new(),
                cautions: Vec::new(),
                why: if why.is_empty() { words::ADDED_HAND.to_owned() } else { why.clone() },
                spared_by: String::new(),
                state: StepState::Open,
                says: String::new(),
                found: Outcome::Open,
            }),
            Event::StepDone { step } => set(steps, step, StepState::Done, words::DONE_TICKED_HAND),
            Event::StepSkipped { step, reason } => {
                set(steps, step, StepState::Skipped, &format!("Skipped: {reason}"));
            }
            Event::StepBack { step } => set(steps, step, StepState::Open, ""),
            Event::StepFirst { step } => {
                if let Some(at) = steps.iter().position(|s| s.id == *step) {
                    let first = steps.remove(at);
                    steps.insert(0, first);
                }
            }
            Event::Swapped { .. }
            | Event::SwapUndone { .. }
            | Event::Placed { .. }
            | Event::CodesRead { .. }
            | Event::UnitNumbered { .. }
            | Event::CodeCaptured { .. }
            | Event::WriteBegun { .. }
            | Event::WriteEnded(_)
            | Event::Reviewed { .. }
            | Event::Replaced { .. }
            | Event::Fitted { .. }
            | Event::FoundTrouble { .. }
            | Event::Tightening { .. }
            | Event::Proved { .. }
            | Event::LearnedRead { .. }
            | Event::Closed { .. }
            | Event::Cancelled { .. }
            | Event::Exercise(_)
            | Event::Reopened { .. }
            | Event::ReturnConfirmed { .. }
            | Event::ComplaintAsked { .. }
            | Event::Cleared { .. }
            | Event::ClearingUndone { .. }
            | Event::TimerSet { .. }
            | Event::TimerOff { .. } => {}
        }
    }
}

#[cfg(test)]
mod tests;
