//! What an exercise takes: minutes of each act, parts as they are decided, by the workshop's own prices.
//!
//! # Source
//! `trainer.toml` for acts without a form; the forms of the checks; the prices of the house.

use crate::case::CaseError;
use crate::marks::tables;
use cobaltine_core::exercise::ExerciseAct;
use cobaltine_core::record::{Event, JobFile};
use cobaltine_core::rules::{RuleId, Rules};
use cobaltine_core::tests::bench::RoundStage;
use cobaltine_core::work::Decision;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// How long each act takes, minutes.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Minutes {
    warm_up: f64,
    set_up: f64,
    run: f64,
    swap: f64,
    bench: f64,
    round: f64,
    cleaning: f64,
    codes: f64,
    writing: f64,
    clearing: f64,
    put_right: f64,
    replaced: f64,
    #[serde(rename = "reason")]
    _reason: String,
}

/// What is bought besides.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub(crate) struct Parts {
    put_right: f64,
    #[serde(rename = "reason")]
    _reason: String,
}

/// What was spent.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, ToSchema)]
pub struct Spent {
    /// Minutes of work.
    pub minutes: f64,
    /// Parts, in the workshop's money.
    pub parts: f64,
    /// Both together.
    pub total: f64,
}

/// What the log of a job comes to.
///
/// # Errors
/// Files that cannot be used.
pub fn spent(file: &JobFile, rules: &Rules) -> Result<Spent, CaseError> {
    let tables = tables()?;
    let (minutes, parts) = (&tables.minutes, &tables.parts);
    let mut took = 0.0;
    let mut bought = 0.0;
    for sheet in &file.sheets {
        took += f64::from(sheet.check.form(Some(file.job.intake.fuel_system)).minutes);
    }
    for test in &file.return_tests {
        took += minutes.set_up + minutes.run * test.runs.len() as f64;
    }
    for session in &file.bench {
        let cleanings =
            session.rounds.iter().filter(|round| round.stage == RoundStage::Cleaned).count();
        let more = session.rounds.len().saturating_sub(1);
        took += minutes.bench + minutes.round * more as f64 + minutes.cleaning * cleanings as f64;
    }
    for record in &file.events {
        let (of_act, money) = match &record.event {
            Event::Exercise(ExerciseAct::WarmedUp) => (minutes.warm_up, 0.0),
            Event::Exercise(ExerciseAct::PutRight { .. }) => (minutes.put_right, parts.put_right),
            Event::Swapped { .. } | Event::Placed { .. } => (minutes.swap, 0.0),
            Event::Replaced { .. } => (minutes.replaced, 0.0),
            Event::Cleared { .. } => (minutes.clearing, 0.0),
            Event::CodesRead { .. } => (minutes.codes, 0.0),
            Event::WriteBegun { .. } => (minutes.writing, 0.0),
            Event::Exercise(ExerciseAct::Ended { .. })
            | Event::SwapUndone { .. }
            | Event::Fitted { .. }
            | Event::FoundTrouble { .. }
            | Event::Tightening { .. }
            | Event::Proved { .. }
            | Event::LearnedRead { .. }
            | Event::Closed { .. }
            | Event::Cancelled { .. }
            | Event::Reopened { .. }
            | Event::ClearingUndone { .. }
            | Event::TimerSet { .. }
            | Event::TimerOff { .. }
            | Event::StepDone { .. }
            | Event::StepSkipped { .. }
            | Event::StepBack { .. }
            | Event::StepFirst { .. }
            | Event::StepAdded { .. }
            | Event::CodeCaptured { .. }
            | Event::UnitNumbered { .. }
            | Event::WriteEnded(_)
            | Event::Reviewed { .. } => (0.0, 0.0),
        };
        took += of_act;
        bought += money;
    }
    bought += decided(file, rules);
    let total = took / 60.0 * rules.get(RuleId::CostHour) + bought;
    Ok(Spent { minutes: took, parts: bought, total })
}

/// Parts of what stands decided or was fitted, each injector once.
fn decided(file: &JobFile, rules: &Rules) -> f64 {
    let new = rules.get(RuleId::CostNew);
    let mut of: HashMap<Uuid, f64> = HashMap::new();
    for one in &file.decisions {
        let Some(injector) = file.injector_at(Some(one.cylinder), one.signed.moment()) else {
            continue;
        };
        let money = match one.decision {
            Decision::Replace => new,
            Decision::Clean => rules.get(RuleId::CostClean),
            Decision::Adjust => rules.get(RuleId::CostRecondition),
            Decision::Leave
            | Decision::Recode
            | Decision::Match
            | Decision::RepairHarness
            | Decision::LookElsewhere
            | Decision::MeasureAgain => 0.0,
        };
        of.insert(injector, money);
    }
    for record in &file.events {
        let Event::Replaced { injector, .. } = &record.event else { continue };
        let before = file.seats_before(record.id);
        let out = before.iter().find(|seat| seat.cylinder == injector.cylinder);
        if let Some(out) = out {
            of.insert(out.injector, new);
        }
    }
    of.values().sum()
}
