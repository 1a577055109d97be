//! The card of a job: which injectors were out, what is ticked, what is still due.

use super::{FitStep, Tightening, Trouble, cautions, tightening};
use crate::caution::Caution;
use crate::fitting::words;
use crate::library::TorqueStage;
use crate::record::{Event, JobFile, Moment, Signed};
use crate::words::{by_number, cylinders};
use crate::work::Decision;
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use utoipa::ToSchema;

/// One tick.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct FitTick {
    /// Cylinder.
    pub cylinder: u32,
    /// Who ticked it, and when.
    pub signed: Signed,
}

/// One step with its ticks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct FittingStep {
    /// Which.
    pub step: FitStep,
    /// What to do.
    pub word: String,
    /// Why.
    pub why: String,
    /// The part that goes with it.
    pub part: Option<String>,
    /// By cylinder.
    pub ticks: Vec<FitTick>,
}

/// Parts that are due.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PartDue {
    /// What.
    pub name: String,
    /// For so many injectors.
    pub count: usize,
}

/// Something that was found.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct TroubleFound {
    /// Cylinder.
    pub cylinder: u32,
    /// What.
    pub trouble: Trouble,
    /// In words.
    pub word: String,
    /// As written by whoever found it.
    pub note: String,
    /// What to do about it.
    pub advice: String,
    /// Who and when.
    pub signed: Signed,
}

/// The fitting card.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Fitting {
    /// Cylinders whose injector was out.
    pub out: Vec<u32>,
    /// Steps in the order of work.
    pub steps: Vec<FittingStep>,
    /// What has to lie ready.
    pub parts: Vec<PartDue>,
    /// How the clamp is tightened.
    pub tightening: Tightening,
    /// What was found, oldest first.
    pub troubles: Vec<TroubleFound>,
    /// Cylinders that were out and have a step open.
    pub open: Vec<u32>,
    /// Everything that was out is back in, step by step; also when nothing was out.
    pub done: bool,
    /// In a sentence: what the eye has to read first.
    pub says: String,
    /// Before the first step.
    pub cautions: Vec<Caution>,
}

/// The fitting card of a job; `family` is what the library knows of its tightening.
pub fn fitting(file: &JobFile, family: &[TorqueStage]) -> Fitting {
    let fuel = file.job.intake.fuel_system;
    let tightening = tightening(file, family);
    let since = file.came_back_at();
    let fresh = |at: Moment| since.is_none_or(|since| at >= since);
    let mut ticked: BTreeMap<(FitStep, u32), Signed> = BTreeMap::new();
    let mut troubles = Vec::new();
    for record in file.events.iter().filter(|record| fresh(record.signed.moment())) {
        // Whatever goes into a cylinder is fitted anew, step by step.
        let moved = moved_into(&record.event);
        ticked.retain(|(_, cylinder), _| !moved.contains(cylinder));
        if let Event::Fitted { step, cylinders, done } = &record.event {
            for cylinder in cylinders {
                if *done {
                    ticked.entry((*step, *cylinder)).or_insert(record.signed);
                } else {
                    ticked.remove(&(*step, *cylinder));
                }
            }
        } else if let Event::FoundTrouble { cylinder, trouble, note } = &record.event {
            troubles.push(TroubleFound {
                cylinder: *cylinder,
                trouble: *trouble,
                word: trouble.word().to_owned(),
                note: note.clone(),
                advice: trouble.advice().to_owned(),
                signed: record.signed,
            });
        }
    }
    let found = troubles.iter().map(|one| one.cylinder);
    let out: BTreeSet<u32> = were_out(file, &fresh)
        .into_iter()
        .chain(ticked.keys().map(|(_, c)| *c))
        .chain(found)
        .collect();
    let steps: Vec<FittingStep> = FitStep::ALL
        .iter()
        .filter(|step| step.fits(fuel, tightening.stretched))
        .map(|step| {
            let (word, why) = step.words();
            let ticks = ticked.iter().filter(|((held, _), _)| held == step);
            FittingStep {
                step: *step,
                word: word.to_owned(),
                why: why.to_owned(),
                part: step.part().map(str::to_owned),
                ticks: ticks
                    .map(|((_, cylinder), signed)| FitTick { cylinder: *cylinder, signed: *signed })
                    .collect(),
            }
        })
        .collect();
    let is_open = |cylinder: &u32| {
        steps.iter().any(|step| !step.ticks.iter().any(|tick| tick.cylinder == *cylinder))
    };
    let open: Vec<u32> = out.iter().copied().filter(is_open).collect();
    let left: usize = steps
        .iter()
        .map(|step| open.iter().filter(|c| !step.ticks.iter().any(|t| t.cylinder == **c)).count())
        .sum();
    let says = match (out.len(), open.as_slice()) {
        (0, _) => words::NO_INJECTOR_REMOVED_NONE.to_owned(),
        (_, []) => words::EVERY_REMOVED_INJECTOR_FITTED.to_owned(),
        (_, open) => words::fit_open(cylinders(open), left, by_number(left, "step", "steps")),
    };
    let due = |step: &FittingStep| {
        let part = step.part.clone()?;
        Some(PartDue { name: part, count: out.len() })
    };
    Fitting {
        parts: if out.is_empty() { Vec::new() } else { steps.iter().filter_map(due).collect() },
        out: out.into_iter().collect(),
        done: open.is_empty(),
        steps,
        tightening,
        troubles,
        open,
        says,
        cautions: cautions(fuel),
    }
}

/// Cylinders whose injector has to have been out: it hung on a bench, moved, is another one, or what
/// was decided cannot be done in place.
fn were_out(file: &JobFile, fresh: &dyn Fn(Moment) -> bool) -> BTreeSet<u32> {
    let seats = file.seats(None);
    let read = file.bench.iter().filter(|s| {
        fresh(s.signed.moment()) || s.cells.iter().any(|cell| fresh(cell.signed.moment()))
    });
    let hung = read.flat_map(|session| &session.injectors);
    let mut out: BTreeSet<u32> = hung
        .filter(|one| one.job == file.job.id)
        .filter_map(|one| seats.iter().find(|seat| seat.injector == one.injector))
        .map(|seat| seat.cylinder)
        .collect();
    let happened = file.happened().filter(|record| fresh(record.signed.moment()));
    out.extend(happened.flat_map(|record| moved_into(&record.event)));
    for cylinder in 1..=file.job.intake.layout.cylinders {
        let mut decisions = file.decisions.iter().filter(|one| fresh(one.signed.moment()));
        let decided = decisions.rfind(|one| one.cylinder == cylinder);
        out.extend(decided.filter(|one| takes_it_out(one.decision)).map(|one| one.cylinder));
    }
    out
}

/// Cylinders that another injector went into.
fn moved_into(event: &Event) -> Vec<u32> {
    if let Event::Swapped { one, other } = event {
        vec![*one, *other]
    } else if let Event::Placed { seats } = event {
        seats.iter().map(|seat| seat.cylinder).collect()
    } else if let Event::Replaced { injector, .. } = event {
        vec![injector.cylinder]
    } else {
        Vec::new()
    }
}

fn takes_it_out(decision: Decision) -> bool {
    match decision {
        Decision::Clean | Decision::Adjust | Decision::Match | Decision::Replace => true,
        Decision::Leave
        | Decision::Recode
        | Decision::RepairHarness
        | Decision::LookElsewhere
        | Decision::MeasureAgain => false,
    }
}
