//! What an exercise takes: minutes of each act, parts as they are decided, by the workshop's own prices.
//!
//! # Source
//! `trainer.toml` for acts without a form; the forms of the checks; the prices of the house.

use crate::case::CaseError;
use crate::tables::tables;
use crate::words;
use cobaltine_core::exercise::ExerciseAct;
use cobaltine_core::record::{Event, JobFile};
use cobaltine_core::rules::{RuleId, Rules};
use cobaltine_core::tests::bench::RoundStage;
use cobaltine_core::work::Decision;
use jiff::Timestamp;
use serde::Serialize;
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

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

/// One act of the protocol.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Done {
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// What was done, in a few words.
    pub says: String,
    /// How long it took on the clock of the exercise, minutes.
    pub minutes: f64,
    /// What was bought for it, in the workshop's money; parts that were decided on are counted at the end.
    pub parts: f64,
}

/// What was done, in its order, each with its minutes.
///
/// # Errors
/// Files that cannot be used.
pub fn protocol(file: &JobFile) -> Result<Vec<Done>, CaseError> {
    let tables = tables()?;
    let minutes = &tables.minutes;
    let act = |at: Timestamp, says: String, minutes: f64| Done { at, says, minutes, parts: 0.0 };
    let mut acts = Vec::new();
    for sheet in &file.sheets {
        let took = f64::from(sheet.check.form(Some(file.job.intake.fuel_system)).minutes);
        acts.push(act(sheet.signed.at, sheet.check.title().to_owned(), took));
    }
    for test in &file.return_tests {
        acts.push(act(test.signed.at, words::SET_UP.to_owned(), minutes.set_up));
        let runs = test.runs.iter().map(|run| (run.signed.at, words::runs(&[run.number])));
        acts.extend(runs.map(|(at, says)| act(at, says, minutes.run)));
    }
    for session in &file.bench {
        for (nth, round) in session.rounds.iter().enumerate() {
            let begins = if nth == 0 { minutes.bench } else { minutes.round };
            let cleans = match round.stage {
                RoundStage::Cleaned => minutes.cleaning,
                RoundStage::Received | RoundStage::Adjusted | RoundStage::Final => 0.0,
            };
            acts.push(act(round.signed.at, words::on_bench(round.stage), begins + cleans));
        }
    }
    for record in &file.events {
        let at = record.signed.at;
        let (says, took) = match &record.event {
            Event::Exercise(ExerciseAct::WarmedUp) => (words::WARM_UP.to_owned(), minutes.warm_up),
            Event::Exercise(ExerciseAct::PutRight { part }) => {
                let parts = tables.parts.put_right;
                let one = act(at, words::repaired(*part), minutes.put_right);
                acts.push(Done { parts, ..one });
                continue;
            }
            Event::Swapped { one, other } => (words::swapped(*one, *other), minutes.swap),
            Event::Placed { .. } => (words::PLACED.to_owned(), minutes.swap),
            Event::Replaced { injector, .. } => {
                (words::replaced(injector.cylinder), minutes.replaced)
            }
            Event::Cleared { .. } => (words::CLEARED.to_owned(), minutes.clearing),
            Event::CodesRead { .. } => (words::CODES_READ.to_owned(), minutes.codes),
            Event::WriteBegun { .. } => (words::CODES_WRITTEN.to_owned(), minutes.writing),
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
            | Event::ReturnConfirmed { .. }
            | Event::ComplaintAsked { .. }
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
            | Event::Reviewed { .. } => continue,
        };
        acts.push(act(at, says, took));
    }
    let decided = file.decisions.iter().map(|one| (one.signed.at, words::decided(one)));
    acts.extend(decided.map(|(at, says)| act(at, says, 0.0)));
    acts.sort_by_key(|one| one.at);
    Ok(acts)
}

/// What the log of a job comes to.
///
/// # Errors
/// Files that cannot be used.
pub fn spent(file: &JobFile, rules: &Rules) -> Result<Spent, CaseError> {
    let acts = protocol(file)?;
    let minutes: f64 = acts.iter().map(|one| one.minutes).sum();
    let parts = acts.iter().map(|one| one.parts).sum::<f64>() + decided(file, rules);
    let total = minutes / 60.0 * rules.get(RuleId::CostHour) + parts;
    Ok(Spent { minutes, parts, total })
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
