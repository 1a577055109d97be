//! What happens to a job besides readings, and closing it by its proof.

use super::{Refused, room};
use crate::entry::Entry;
use crate::library::TorqueStage;
use crate::limits;
use crate::plan::{Step, StepId};
use crate::proving::{ItemState, proof};
use crate::record::{Event, EventRecord, Injector, JobFile, RunRecord, Signed};
use uuid::Uuid;

pub(super) fn happened(file: &JobFile, record: EventRecord) -> Result<Vec<Entry>, Refused> {
    let problems = record.event.problems(&file.job.intake.layout);
    if !problems.is_empty() {
        return Err(Refused::Invalid(problems));
    }
    room(file.events.len(), limits::EVENTS, "events")?;
    fits(file, &record)?;
    Ok(vec![Entry::Event(record)])
}

fn fits(file: &JobFile, record: &EventRecord) -> Result<(), Refused> {
    let refuse = |why: Option<&str>| why.map_or(Ok(()), |why| Err(Refused::conflict(why)));
    match &record.event {
        Event::TimerSet { .. } if file.timers().len() >= limits::TIMERS => {
            let says =
                format!("{} timers are the most at once; take one off first.", limits::TIMERS);
            Err(Refused::Conflict(says))
        }
        Event::TimerOff { timer }
            if !was(file, *timer, |e| matches!(e, Event::TimerSet { .. })) =>
        {
            Err(Refused::NotFound("timer"))
        }
        event if event.moves() && running(file) => {
            Err(Refused::conflict("A run is still going. Stop it before injectors change places."))
        }
        Event::StepDone { step }
        | Event::StepSkipped { step, .. }
        | Event::StepBack { step }
        | Event::StepFirst { step } => known_step(file, step),
        Event::Placed { seats } => refuse(file.placing_refused(seats)),
        Event::Reviewed { .. } => refuse(file.review_refused(record.signed.by)),
        Event::CodeCaptured { injector, .. } if file.injector(*injector).is_none() => {
            Err(Refused::field("injector", "This engine has no such injector."))
        }
        Event::Replaced { injector, .. } if sits_here(file, injector) => {
            let says = "This injector is on the strip already: move it instead.";
            Err(Refused::field("label", says))
        }
        Event::Cleared { how } if how.trim().is_empty() => Err(Refused::field(
            "how",
            "Say what was done: spark plugs out and clear-flood cranked, or what else.",
        )),
        Event::ClearingUndone { of, .. }
            if !was(file, *of, |e| matches!(e, Event::Cleared { .. })) =>
        {
            Err(Refused::conflict("No such clearing is recorded."))
        }
        Event::Reopened { .. } if file.closed().is_none() => {
            Err(Refused::conflict("The job is not closed."))
        }
        Event::Closed { .. } => Err(Refused::conflict("A job is closed by its proof.")),
        Event::Cleared { .. }
        | Event::ClearingUndone { .. }
        | Event::Swapped { .. }
        | Event::CodesRead { .. }
        | Event::UnitNumbered { .. }
        | Event::CodeCaptured { .. }
        | Event::WriteBegun { .. }
        | Event::WriteEnded(_)
        | Event::Replaced { .. }
        | Event::Fitted { .. }
        | Event::FoundTrouble { .. }
        | Event::Tightening { .. }
        | Event::Proved { .. }
        | Event::LearnedRead { .. }
        | Event::Reopened { .. }
        | Event::TimerSet { .. }
        | Event::TimerOff { .. }
        | Event::StepAdded { .. } => Ok(()),
    }
}

/// Closes as proven, or with what was left out for a reason; what is proven is looked at now.
pub(super) fn close(
    file: &JobFile,
    id: Uuid,
    torque: &[TorqueStage],
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    let judged = file.judged().map_err(|error| Refused::Conflict(format!("{error}.")))?;
    let proof = proof(file, &judged, torque);
    if let Some(refused) = proof.closing.refused {
        return Err(Refused::Conflict(refused));
    }
    let left_out = proof.items.iter().filter(|item| item.state == ItemState::LeftOut);
    let exceptions = left_out.map(|item| item.id).collect();
    Ok(vec![Entry::Event(EventRecord { id, event: Event::Closed { exceptions }, signed })])
}

fn was(file: &JobFile, id: Uuid, of: impl Fn(&Event) -> bool) -> bool {
    file.events.iter().any(|held| held.id == id && of(&held.event))
}

/// The same injector, or another one with the same label.
fn sits_here(file: &JobFile, injector: &Injector) -> bool {
    let label = injector.label.trim();
    let same =
        |one: &Injector| one.id == injector.id || (!label.is_empty() && one.label.trim() == label);
    file.every_injector().any(same)
}

fn running(file: &JobFile) -> bool {
    file.return_tests.iter().flat_map(|test| &test.runs).any(RunRecord::is_running)
}

/// A step that such an engine can have, or one that a person added. Which of them a plan shows
/// moves with complaint and rules; what was recorded of a step stays.
fn known_step(file: &JobFile, step: &StepId) -> Result<(), Refused> {
    let fuel = file.job.intake.fuel_system;
    let added = |held: &EventRecord| {
        matches!(held.event, Event::StepAdded { .. }) && held.id.to_string() == step.0
    };
    if Step::all().any(|known| known.name() == step.0 && known.fits(fuel))
        || file.events.iter().any(added)
    {
        return Ok(());
    }
    Err(Refused::field("step", "The plan has no such step."))
}
