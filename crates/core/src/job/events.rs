//! What happens to a job besides readings, and closing it by its proof.

use super::{Refused, room};
use crate::entry::{Entry, of_job};
use crate::exercise::ExerciseAct;
use crate::job::words;
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
            let says = words::maximum_timers_once_remove(limits::TIMERS);
            Err(Refused::Conflict(says))
        }
        Event::TimerOff { timer }
            if !was(file, *timer, |e| matches!(e, Event::TimerSet { .. })) =>
        {
            Err(Refused::NotFound("timer"))
        }
        event if event.moves() && running(file) => {
            Err(Refused::conflict(words::RUN_STILL_GOING_STOP))
        }
        Event::StepDone { step }
        | Event::StepSkipped { step, .. }
        | Event::StepBack { step }
        | Event::StepFirst { step } => known_step(file, step),
        Event::Placed { seats } => refuse(file.placing_refused(seats)),
        Event::Reviewed { .. } => refuse(file.review_refused(record.signed)),
        Event::CodeCaptured { injector, .. } if file.injector(*injector).is_none() => {
            Err(Refused::field("injector", words::ENGINE_NO_SUCH_INJECTOR))
        }
        Event::Replaced { injector, .. } if sits_here(file, injector) => {
            let says = words::INJECTOR_ALREADY_STRIP_MOVE;
            Err(Refused::field("label", says))
        }
        Event::ReturnConfirmed { test, .. } if !file.return_tests.iter().any(|t| t.id == *test) => {
            Err(Refused::NotFound("return test"))
        }
        Event::Cleared { how } if how.trim().is_empty() => {
            Err(Refused::field("how", words::ENTER_DONE_SPARK_PLUGS))
        }
        Event::ClearingUndone { of, .. }
            if !was(file, *of, |e| matches!(e, Event::Cleared { .. })) =>
        {
            Err(Refused::conflict(words::NO_SUCH_CLEARING_RECORD))
        }
        Event::SwapUndone { of, .. } => {
            let swap = file.happened().find(|held| held.id == *of);
            match swap.filter(|held| matches!(held.event, Event::Swapped { .. })) {
                None => Err(Refused::conflict(words::NO_SUCH_SWAP)),
                Some(swap) if something_since(file, swap) => {
                    Err(Refused::conflict(words::SWAP_STANDS))
                }
                Some(_) => Ok(()),
            }
        }
        Event::Reopened { .. } if file.closed().is_none() => {
            Err(Refused::conflict(words::JOB_NOT_CLOSED))
        }
        Event::Closed { .. } => Err(Refused::conflict(words::CLOSE_JOB_PROVE_STAGE)),
        Event::Cancelled { .. } if running(file) => {
            Err(Refused::conflict(words::RUN_STILL_GOING_STOP))
        }
        Event::Exercise(_) if file.job.exercise.is_none() => {
            Err(Refused::conflict(words::NO_EXERCISE))
        }
        Event::Exercise(ExerciseAct::Ended { .. }) if running(file) => {
            Err(Refused::conflict(words::RUN_STILL_GOING_STOP))
        }
        Event::Exercise(_)
        | Event::ReturnConfirmed { .. }
        | Event::ComplaintAsked { .. }
        | Event::Cleared { .. }
        | Event::Cancelled { .. }
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

/// Something that rests on where the injectors sit was recorded after this.
fn something_since(file: &JobFile, event: &EventRecord) -> bool {
    let rests = |entry: &Entry| match entry {
        Entry::Test(_)
        | Entry::Run { .. }
        | Entry::Reading { .. }
        | Entry::Sheet(_)
        | Entry::Cell { .. }
        | Entry::Trace { .. }
        | Entry::Recording { .. }
        | Entry::Raw { .. }
        | Entry::Decision(_)
        | Entry::Session(_)
        | Entry::Round(_)
        | Entry::Tube(_) => true,
        Entry::Event(held) => held.event.moves(),
        Entry::TakenIn(_) | Entry::IntakeChanged(_) | Entry::Aside { .. } | Entry::Note(_) => false,
    };
    let at = event.signed.moment();
    let sessions = file.bench.iter().flat_map(|one| &one.cells).any(|c| c.signed.moment() > at);
    sessions || of_job(file).iter().any(|one| one.signed().moment() > at && rests(one))
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
    Err(Refused::field("step", words::PLAN_NO_SUCH_STEP))
}
