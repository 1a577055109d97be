//! The one next step of a job: plan, board, decide and report all name this and no other.
//!
//! What has to be fixed first comes first; then what a comeback had left out; then what a person
//! put first; then what a decision waits for; before anything was read the order of the trade;
//! else the check that settles most for a minute. When every place is settled, deciding is next.
//!
//! # Source
//! House rule: one next step, the same everywhere.

use super::Why;
use super::complaint::Complaint;
use super::next_check::{Ask, NextCheck};
use super::{Finding, Position};
use crate::judgement::words;
use crate::plan::{Plan, PlanStep, StepId, StepState};
use crate::proving::ProveId;
use crate::record::{Event, JobFile};
use crate::tests::engine::EngineTest;
use crate::work::{Decision, Stage, Symptom};
use serde::Serialize;
use utoipa::ToSchema;

/// The next step.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NextStep {
    /// The step of the plan, where it is one.
    pub step: Option<StepId>,
    /// The check of the weights, where it is one.
    pub check: Option<String>,
    /// Where it is done.
    pub stage: Stage,
    /// What to do, a short phrase.
    pub title: String,
    /// Why; may be empty.
    pub why: String,
    /// It is a question to who drives: is the complaint gone, better or the same?
    pub asks_complaint: bool,
}

/// What comes next in a job.
pub(super) fn step(
    file: &JobFile,
    plan: &Plan,
    findings: &[Finding],
    next: &[NextCheck],
    positions: &[Position],
    complaint: Complaint,
    ask: &Ask<'_>,
) -> NextStep {
    if let Some(first) = &plan.first {
        let of = plan.steps.iter().find(|step| step.check == Some(first.check));
        let title = of.map_or_else(
            || words::FIX_FIRST_REPEAT_CHECK.to_owned(),
            |step| words::fix_first_repeat(&step.title),
        );
        return NextStep {
            step: of.map(|step| step.id.clone()),
            check: Some(first.check.name().to_owned()),
            stage: first.stage,
            title,
            why: first.says.clone(),
            asks_complaint: false,
        };
    }
    if let Some(left) = left_out_before(file) {
        return left;
    }
    let open = |step: &&PlanStep| step.state == StepState::Open && !ask.unsafe_now(&step.id.0);
    let of_plan = |step: &PlanStep| NextStep {
        step: Some(step.id.clone()),
        check: None,
        stage: step.stage,
        title: step.title.clone(),
        why: step.why.clone(),
        asks_complaint: false,
    };
    let put_first = file.events.iter().rev().find_map(|record| {
        let Event::StepFirst { step } = &record.event else { return None };
        plan.steps.iter().find(|held| held.id == *step).filter(open)
    });
    if let Some(step) = put_first {
        return of_plan(step);
    }
    if let Complaint::Ask(check) = complaint {
        return NextStep {
            step: None,
            check: None,
            stage: Stage::Decide,
            title: words::ASK_COMPLAINT.to_owned(),
            why: words::put_right_ask(check.title()),
            asks_complaint: true,
        };
    }
    // "Not the injector" is no end either, until it is known what it is.
    let open_place = |at: &Position| {
        at.ruling.decision == Decision::MeasureAgain || at.ruling.why == Why::PlaceUnclear
    };
    let undecided = positions.iter().any(open_place) || complaint == Complaint::Unexplained;
    let read = findings.iter().any(|one| one.code.weighs() || one.code.is_open());
    let planned = plan.steps.iter().find(open);
    let worth = plan.steps.iter().filter(open).find(|step| !ask.pointless(&step.id.0));
    match (next.first(), planned) {
        (_, Some(step)) if !read => of_plan(step),
        (..) if let Some(bench) = unseen(file, plan, positions) => of_plan(bench),
        (Some(check), _) if undecided => {
            // A check that the complaint alone did not plan is a step of its own all the same.
            let own = EngineTest::parse(&check.step).map(EngineTest::stage);
            let planned = plan.steps.iter().find(|step| step.id.0 == check.step);
            let stage = planned.map(|step| step.stage).or(own).unwrap_or(Stage::Bench);
            let named = !check.step.is_empty();
            NextStep {
                step: named.then(|| StepId(check.step.clone())),
                check: Some(check.id.clone()),
                stage,
                title: check.title.clone(),
                why: check.why.clone(),
                asks_complaint: false,
            }
        }
        (None, _) if let Some(step) = worth.filter(|_| undecided) => of_plan(step),
        (_, _) => NextStep {
            step: None,
            check: None,
            stage: Stage::Decide,
            title: "Decide".to_owned(),
            why: if undecided {
                words::NO_REMAINING_CHECK_WOULD
            } else if positions.iter().any(|at| at.ruling.why == Why::ComplaintGone) {
                words::GONE_WITH_REPAIR
            } else {
                words::READINGS_SUPPORT_DECISION_EVERY
            }
            .to_owned(),
            asks_complaint: false,
        },
    }
}

/// They came in to be tested and cleaned, nothing speaks against any of them, and none has been on a bench.
fn unseen<'a>(file: &JobFile, plan: &'a Plan, positions: &[Position]) -> Option<&'a PlanStep> {
    let asked = file.told().symptoms.contains(&Symptom::CheckAndClean);
    let leaves = |at: &Position| at.ruling.decision == Decision::Leave;
    let still = asked && file.bench.is_empty() && positions.iter().all(leaves);
    let bench = plan.steps.iter().find(|step| step.id.0 == "bench").filter(|_| still);
    bench.filter(|step| step.state != StepState::Skipped)
}

/// What was left out of the proof before the job came back: a comeback begins with it.
fn left_out_before(file: &JobFile) -> Option<NextStep> {
    let back = file.came_back_at()?;
    let fresh = |at: crate::record::Moment| at > back;
    let read = file.return_tests.iter().flat_map(|t| &t.runs).flat_map(|run| &run.readings);
    let read = read.map(|r| r.signed.moment());
    let read = read.chain(file.sheets.iter().flat_map(|s| &s.readings).map(|r| r.signed.moment()));
    let told = file.events.iter().filter(|e| matches!(e.event, Event::Proved { .. }));
    if read.chain(told.map(|e| e.signed.moment())).any(fresh) || file.closed().is_some() {
        return None;
    }
    let exceptions = file.events.iter().rev().find_map(|record| {
        let Event::Closed { exceptions } = &record.event else { return None };
        (record.signed.moment() <= back).then_some(exceptions.as_slice())
    })?;
    let first: &ProveId = exceptions.first()?;
    let names: Vec<String> = exceptions.iter().map(|id| id.title().to_lowercase()).collect();
    Some(NextStep {
        step: None,
        check: None,
        stage: Stage::Prove,
        title: format!("{}, skipped last time", first.title()),
        why: words::came_back_proof_had(names.join(", ")),
        asks_complaint: false,
    })
}
