//! The card of a job, as the rules of the core make it.

use super::{BoardCard, BoardLane, BoardTimer};
use crate::held::JobState;
use cobaltine_core::codes::{SlotState, coding};
use cobaltine_core::library::TorqueStage;
use cobaltine_core::mark::Mark;
use cobaltine_core::proving::proof;
use cobaltine_core::record::{JobFile, RunRecord};
use cobaltine_core::work::{Decision, Progress, Stage, waits};
use jiff::SignedDuration;

/// The card as the rules of the core make it.
pub(super) fn card(state: &JobState, torque: &[TorqueStage]) -> BoardCard {
    let file = &state.file;
    let intake = &file.job.intake;
    let layout = &intake.layout;
    let opinion = state.opinion().ok();
    let judged = opinion.map(|opinion| &opinion.judged);
    let now = judged.map(|judged| &judged.now);
    let mark_of = |cylinder: u32| now.map_or(Mark::NotMeasured, |now| now.mark(cylinder));
    let marks: Vec<(u32, Mark)> =
        layout.strip().concat().into_iter().map(|c| (c, mark_of(c))).collect();
    let last = file.return_tests.last();
    let run: Option<&RunRecord> = last.and_then(|t| t.runs.iter().rfind(|r| r.set_aside.is_none()));
    let running = run.filter(|run| run.is_running());
    let unread = run.map(|run| run.unread(layout)).unwrap_or_default();
    let held = judged.map(|judged| judged.decided(file)).unwrap_or_default();
    let decided: Vec<u32> = held.iter().map(|d| d.cylinder).collect();
    let again: Vec<u32> =
        held.iter().filter(|d| d.decision == Decision::MeasureAgain).map(|d| d.cylinder).collect();
    let proving = judged.filter(|_| file.refit_begun());
    let proving = proving.map(|judged| proof(file, judged, torque).says);
    let ended = file.closed();
    let closed = ended.map(|closed| closed.proven());
    let cancelled = ended.and_then(|closed| closed.cancelled);
    let moved = opinion.iter().flat_map(|opinion| &opinion.overtaken);
    let moved: Vec<u32> = moved.map(|one| one.cylinder).collect();
    let open = closed.is_none() && (decided.len() < marks.len() || !again.is_empty());
    let measured = marks.iter().any(|(_, mark)| *mark != Mark::NotMeasured);
    let step = opinion.filter(|_| open).map(|opinion| &opinion.step);
    let slots = coding(file).slots.into_iter();
    let codes_unknown: Vec<u32> =
        slots.filter(|slot| slot.state == SlotState::NotKnown).map(|slot| slot.cylinder).collect();
    let waits = waits(&Progress {
        has_return: intake.fuel_system.has_return(),
        codes_unknown: &codes_unknown,
        running: running.map(|run| run.number),
        unread: &unread,
        marks: &marks,
        headline: now.map(|now| now.headline.as_str()).filter(|says| !says.is_empty()),
        decided: &decided,
        again: &again,
        next: step.map(|step| {
            let fix = judged.and_then(|judged| judged.plan.first.as_ref());
            let words = match fix {
                Some(first) => format!("fix: {}", first.says),
                None => format!("next: {}", step.title),
            };
            (step.stage, words)
        }),
        overtaken: &moved,
        proving: proving.as_deref(),
        closed,
        cancelled,
    });
    let planned = last.map_or(0.0, |test| test.setup.planned_s.0);
    let run_timer = running.and_then(|run| {
        Some(BoardTimer {
            word: format!("return run {}", run.number),
            ends_at: run.started_at? + SignedDuration::from_millis((planned * 1000.0) as i64),
            stage: Stage::OnEngine,
            id: None,
        })
    });
    let set = judged.iter().flat_map(|judged| &judged.timers).map(|timer| BoardTimer {
        word: timer.word.clone(),
        ends_at: timer.ends_at,
        stage: timer.stage,
        id: Some(timer.id),
    });
    let mut timers: Vec<BoardTimer> = run_timer.into_iter().chain(set).collect();
    timers.sort_by_key(|timer| timer.ends_at);
    BoardCard {
        id: file.job.id,
        number: file.job.number,
        machine: intake.machine.clone(),
        engine: intake.engine.clone(),
        customer: intake.customer.clone(),
        symptoms: intake.symptoms.clone(),
        complaint: intake.complaint.chars().take(80).collect(),
        banks: layout
            .strip()
            .iter()
            .map(|bank| bank.iter().map(|&c| BoardLane { cylinder: c, mark: mark_of(c) }).collect())
            .collect(),
        first_at: layout.first_at,
        waits,
        // Before anything is measured the waiting line names it already.
        next: step.filter(|_| measured).map(|step| step.title.clone()).unwrap_or_default(),
        timers,
        reopened: file.reopened().map(|one| one.reason).unwrap_or_default(),
        plate: intake.plate.clone(),
        promised: intake.promised.filter(|_| closed.is_none()),
        booked: Some(file.job.taken_in.at),
        by: last_by(file),
        closed: closed.is_some(),
    }
}

/// Who wrote to it last.
fn last_by(file: &JobFile) -> String {
    let last = file.signatures().last().map(|signed| signed.by);
    let person = file.people.iter().find(|person| Some(person.id) == last);
    person.map(|person| person.name.clone()).unwrap_or_default()
}
