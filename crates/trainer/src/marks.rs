//! What an exercise is worth: each cylinder against the truth, a mark for each skill, and the points that
//! every mistake cost.
//!
//! # Source
//! `trainer.toml`, row by row with its reason: house rules of the trainer.

use crate::best::best;
use crate::came_out::CameOut;
use crate::case::{Case, CaseError};
use crate::mistakes::{Noticed, Seen, notice, standing};
use crate::remedy::{puts_right, right};
use crate::spent::{Done, Spent, protocol, spent};
use crate::tables::{Tables, tables};
use crate::words;
use cobaltine_core::exercise::{ExerciseAct, SharedPart, Skill, SkillMark};
use cobaltine_core::record::{Event, JobFile};
use cobaltine_core::rules::Rules;
use cobaltine_core::work::Decision;
use cobaltine_engines::fault::{At, Remedy};
use cobaltine_engines::score::wanted;
use cobaltine_engines::truth::State;
use serde::Serialize;
use utoipa::ToSchema;

/// The truth of one cylinder beside what was decided.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CylinderTruth {
    /// Cylinder.
    pub cylinder: u32,
    /// How it came out.
    pub outcome: CameOut,
    /// The same in a word or two.
    pub word: String,
    /// What was true of it, in a few words.
    pub truth: String,
    /// What was decided; none where nothing was.
    pub decided: Option<Decision>,
    /// What would have been right.
    pub right: Decision,
}

/// What all cylinders shared.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SharedTruth {
    /// What was wrong, in a few words.
    pub truth: String,
    /// It was put right.
    pub found: bool,
}

/// What a whole exercise is worth.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Marking {
    /// By cylinder.
    pub cylinders: Vec<CylinderTruth>,
    /// What they shared; empty where nothing was wrong there.
    pub shared: Vec<SharedTruth>,
    /// One for each skill.
    pub marks: Vec<SkillMark>,
    /// What went wrong on the way.
    pub mistakes: Vec<Noticed>,
    /// What it took.
    pub spent: Spent,
    /// What the best way takes.
    pub best: Spent,
    /// The steps of the best way.
    pub best_steps: Vec<String>,
    /// What was done, in its order.
    pub protocol: Vec<Done>,
    /// In a sentence.
    pub says: String,
}

fn answers(decided: Decision, remedy: Option<Remedy>) -> bool {
    match decided {
        Decision::Leave | Decision::Match => remedy.is_none(),
        // A worn one is reconditioned as well as replaced.
        Decision::Replace => remedy == Some(Remedy::Renew),
        Decision::Adjust => matches!(remedy, Some(Remedy::Adjust | Remedy::Renew)),
        Decision::Clean => remedy == Some(Remedy::Clean),
        Decision::Recode => remedy == Some(Remedy::Recode),
        Decision::RepairHarness => remedy == Some(Remedy::Harness),
        Decision::LookElsewhere => remedy == Some(Remedy::Place),
        Decision::MeasureAgain => false,
    }
}

fn outcome(
    state: State,
    remedy: Option<Remedy>,
    decided: Option<Decision>,
    shared: bool,
) -> CameOut {
    let undecided = decided.is_none_or(|decision| decision == Decision::MeasureAgain);
    let decision = decided.unwrap_or(Decision::MeasureAgain);
    match state {
        State::Marginal => CameOut::Marginal,
        State::Faulty if answers(decision, remedy) => CameOut::Found,
        State::Faulty => match decision {
            Decision::Leave | Decision::Match | Decision::MeasureAgain => CameOut::Missed,
            Decision::LookElsewhere if shared => CameOut::Missed,
            Decision::Clean
            | Decision::Adjust
            | Decision::Replace
            | Decision::Recode
            | Decision::RepairHarness
            | Decision::LookElsewhere => CameOut::OtherRemedy,
        },
        State::Sound if undecided => CameOut::Undecided,
        State::Sound => match decision {
            Decision::Replace | Decision::Adjust | Decision::Recode => CameOut::Condemned,
            Decision::LookElsewhere if shared => CameOut::Right,
            Decision::RepairHarness | Decision::LookElsewhere => CameOut::Blamed,
            // Some clean first always: it costs money and harms nothing.
            Decision::Leave | Decision::Match | Decision::Clean | Decision::MeasureAgain => {
                CameOut::Right
            }
        },
    }
}

/// The truth of each cylinder beside what stands decided there: an injector by the cylinder that it came in.
fn cylinders(case: &Case, file: &JobFile) -> Vec<CylinderTruth> {
    let shared = case.job.faults.iter().any(|put| put.fault.at() == At::All);
    let decided: Vec<(u32, Decision)> = standing(file)
        .into_iter()
        .map(|one| {
            let of_place = matches!(
                one.decision,
                Decision::RepairHarness | Decision::LookElsewhere | Decision::Recode
            );
            let injector = file.injector_at(Some(one.cylinder), one.signed.moment());
            let came = file.job.injectors.iter().find(|held| Some(held.id) == injector);
            let at = came.filter(|_| !of_place).map_or(one.cylinder, |held| held.cylinder);
            (at, one.decision)
        })
        .collect();
    let replaced = |cylinder: u32| {
        let id = file.job.injectors.iter().find(|held| held.cylinder == cylinder).map(|i| i.id);
        !file.seats(None).iter().any(|seat| Some(seat.injector) == id)
    };
    (1..=case.job.engine.seats.len() as u32)
        .map(|cylinder| {
            let (state, remedy) = wanted(&case.job, cylinder as usize - 1);
            let said = decided.iter().rfind(|(at, _)| *at == cylinder).map(|(_, said)| *said);
            // What was fitted anew was condemned, whatever was written down of it.
            let decided = if replaced(cylinder) { Some(Decision::Replace) } else { said };
            let here = case.job.faults.iter().filter(|put| put.cylinder as u32 + 1 == cylinder);
            let names: Vec<&str> = here
                .filter(|put| put.fault.at() != At::All)
                .map(|p| words::fault(p.fault))
                .collect();
            let truth =
                if names.is_empty() { words::state(state).to_owned() } else { names.join(", ") };
            let outcome = outcome(state, remedy, decided, shared);
            let word = words::outcome(outcome).to_owned();
            CylinderTruth { cylinder, outcome, word, truth, decided, right: right(remedy) }
        })
        .collect()
}

fn shared(case: &Case, file: &JobFile) -> Vec<SharedTruth> {
    let wrong = case.job.faults.iter().filter(|put| put.fault.at() == At::All);
    wrong
        .map(|put| {
            let part = puts_right(put.fault);
            let done = |event: &Event| {
                matches!(event, Event::Exercise(ExerciseAct::PutRight { part: done }) if Some(*done) == part)
            };
            let found = file.events.iter().any(|record| done(&record.event));
            SharedTruth { truth: words::fault(put.fault).to_owned(), found }
        })
        .collect()
}

fn finding(tables: &Tables, cylinders: &[CylinderTruth], shared: &[SharedTruth]) -> f64 {
    let count =
        |outcome: CameOut| cylinders.iter().filter(|one| one.outcome == outcome).count() as f64;
    let found = count(CameOut::Found) + shared.iter().filter(|one| one.found).count() as f64;
    let half = count(CameOut::OtherRemedy);
    let faults = count(CameOut::Found) + count(CameOut::Missed) + half + shared.len() as f64;
    let row = &tables.finding;
    let share = if faults > 0.0 { (found + half * row.half) / faults } else { 1.0 };
    let lost = count(CameOut::Condemned) * row.condemned
        + count(CameOut::Undecided) * row.undecided
        + count(CameOut::Blamed) * row.blamed;
    100.0 * share - lost
}

fn economy(tables: &Tables, spent: Spent, best: Spent) -> f64 {
    let row = &tables.economy;
    let times = if best.total > 0.0 { spent.total / best.total } else { 1.0 };
    100.0 * ((row.none - times) / (row.none - row.full)).clamp(0.0, 1.0)
}

fn priced(tables: &Tables, seen: Seen) -> Option<Noticed> {
    let row = tables.mistake.iter().find(|row| row.of == seen.mistake)?;
    Some(Noticed {
        mistake: seen.mistake,
        skill: row.skill,
        points: row.points,
        says: seen.says,
        why: row.reason.clone(),
        at: seen.at,
    })
}

/// What is repaired of what all cylinders share, in words.
pub fn put_right_words(part: SharedPart) -> &'static str {
    words::put_right(part)
}

/// Mistakes that can be noticed by now, oldest first.
///
/// # Errors
/// Files that cannot be used; a record that cannot be judged.
pub fn noticed(case: &Case, file: &JobFile) -> Result<Vec<Noticed>, CaseError> {
    let tables = tables()?;
    Ok(notice(case, file)?.into_iter().filter_map(|seen| priced(tables, seen)).collect())
}

/// What the exercise is worth as it stands.
///
/// # Errors
/// Files that cannot be used; a record that cannot be judged.
pub fn result(case: &Case, file: &JobFile, rules: &Rules) -> Result<Marking, CaseError> {
    let tables = tables()?;
    let mistakes = noticed(case, file)?;
    let (cylinders, shared) = (cylinders(case, file), shared(case, file));
    let spent = spent(file, rules)?;
    let way = best(case, rules)?;
    let marks: Vec<SkillMark> = Skill::ALL
        .iter()
        .map(|skill| {
            let from = match skill {
                Skill::Finding => finding(tables, &cylinders, &shared),
                Skill::Economy => economy(tables, spent, way.spent),
                Skill::Evidence | Skill::Measuring | Skill::Safety => 100.0,
            };
            let lost = mistakes.iter().filter(|one| one.skill == *skill).map(|one| one.points);
            let mark = (from - f64::from(lost.sum::<u32>())).clamp(0.0, 100.0).round() as u32;
            SkillMark { skill: *skill, mark }
        })
        .collect();
    let count = |outcome: CameOut| cylinders.iter().filter(|one| one.outcome == outcome).count();
    let gone = shared.iter().filter(|one| !one.found).count();
    let says = words::came_out(
        count(CameOut::Found) + shared.len() - gone,
        count(CameOut::Missed) + count(CameOut::OtherRemedy) + gone,
        count(CameOut::Condemned),
    );
    Ok(Marking {
        cylinders,
        shared,
        marks,
        mistakes,
        spent,
        best: way.spent,
        best_steps: way.steps,
        protocol: protocol(file)?,
        says,
    })
}
