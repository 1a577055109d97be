//! Whether a decision still stands on what it stood on when it was signed.
//!
//! Readings that it stood on were corrected or set aside, or others followed: then it asks to be
//! made again. What is read after the work on the engine has begun is its proof and no new ground.
//!
//! # Source
//! House rule: a signature holds for what was there.

use super::{DecisionRecord, Event, JobFile, Moment};
use crate::record::words;
use crate::words::counted;
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;

/// A decision whose ground has moved.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Overtaken {
    /// Cylinder.
    pub cylinder: u32,
    /// What happened since, in a sentence.
    pub says: String,
}

impl JobFile {
    /// The newest decision on each cylinder that holds: made since the job last came back, and its ground
    /// has not moved.
    pub fn decided(&self) -> Vec<&DecisionRecord> {
        let moved = overtaken(self);
        let back = self.events.iter().rev().find_map(|record| {
            let back = matches!(record.event, Event::Reopened { comeback: true, .. });
            back.then_some(record.signed.moment())
        });
        let all = 1..=self.job.intake.layout.cylinders;
        let newest = all.filter_map(|c| self.decisions.iter().rfind(|one| one.cylinder == c));
        newest
            .filter(|one| back.is_none_or(|back| one.signed.moment() >= back))
            .filter(|one| !moved.iter().any(|moved| moved.cylinder == one.cylinder))
            .collect()
    }
}

impl Event {
    /// It rests on a decision on its cylinder.
    pub fn wants_decision(&self) -> bool {
        matches!(self, Self::Replaced { .. })
    }
}

impl JobFile {
    /// Why an act asks for its reason in the same step: another injector goes into a cylinder on which
    /// nothing of the kind was decided since the job last came back.
    pub fn reason_wanted(&self, event: &Event) -> Option<String> {
        let Event::Replaced { injector, .. } = event else { return None };
        let back = self.came_back_at();
        let newest = self.decisions.iter().rfind(|one| one.cylinder == injector.cylinder);
        let newest = newest.filter(|one| back.is_none_or(|back| one.signed.moment() >= back));
        match newest.map(|one| one.decision) {
            Some(Decision::Replace | Decision::Match | Decision::Adjust | Decision::Clean) => None,
            Some(
                Decision::Leave
                | Decision::Recode
                | Decision::RepairHarness
                | Decision::LookElsewhere
                | Decision::MeasureAgain,
            ) => Some(words::decided_otherwise(injector.cylinder)),
            None => Some(words::replaced_undecided(injector.cylinder)),
        }
    }
}

/// The newest decisions whose ground has moved, by cylinder.
pub fn overtaken(file: &JobFile) -> Vec<Overtaken> {
    let all = 1..=file.job.intake.layout.cylinders;
    all.filter_map(|cylinder| {
        let held = file.decisions.iter().rfind(|one| one.cylinder == cylinder)?;
        let says = moved(file, held)?;
        Some(Overtaken { cylinder, says })
    })
    .collect()
}

/// What happened to the readings behind a decision since it was signed.
fn moved(file: &JobFile, decision: &DecisionRecord) -> Option<String> {
    let (cylinder, since) = (decision.cylinder, decision.signed.moment());
    // Left because something else was behind the complaint, and it is still there after that was done.
    if decision.decision == Decision::Leave
        && let Some((at, answer)) = file.complaint_left()
        && at > since
    {
        return Some(answer.says().to_owned());
    }
    let until = work_began(file, since);
    let fresh = |at: Moment| at > since && until.is_none_or(|until| at < until);
    let (mut corrected, mut followed) = (0, 0);
    let mut count = |at: Moment, corrects: bool| {
        if fresh(at) {
            *(if corrects { &mut corrected } else { &mut followed }) += 1;
        }
    };
    let (mut set_aside, mut counted_again) = (0, 0);
    for run in file.return_tests.iter().flat_map(|test| &test.runs) {
        let here = |one: Option<u32>| one.is_none_or(|held| held == cylinder);
        // The length of a run is a reading of every bottle in it; alone it follows nothing.
        for reading in run.readings.iter().filter(|reading| here(reading.cylinder)) {
            if reading.cylinder.is_some() || reading.corrects.is_some() {
                count(reading.signed.moment(), reading.corrects.is_some());
            }
        }
        let read =
            run.readings.iter().any(|r| r.cylinder == Some(cylinder) && r.signed.moment() <= since);
        let aside = run.set_aside.as_ref().is_some_and(|aside| fresh(aside.signed.moment()));
        set_aside += usize::from(read && aside);
        let back = run.asides.last().is_some_and(|back| fresh(back.signed.moment()));
        counted_again += usize::from(read && back && run.set_aside.is_none());
    }
    for cell in file.sheets.iter().flat_map(|sheet| &sheet.readings) {
        if cell.cylinder.is_none_or(|held| held == cylinder) {
            count(cell.signed.moment(), cell.corrects.is_some());
        }
    }
    let sat = file.injector_at(Some(cylinder), since);
    for session in &file.bench {
        let tag = session.injectors.iter().find(|one| Some(one.injector) == sat).map(|one| one.tag);
        for cell in session.cells.iter().filter(|cell| tag.is_some() && cell.tag == tag) {
            count(cell.signed.moment(), cell.corrects.is_some());
        }
    }
    let said = |n: usize, what: &str| {
        (n > 0).then(|| format!("{} {what}", counted(n, "reading", "readings")))
    };
    let runs =
        |n: usize, what: &str| (n > 0).then(|| format!("{} {what}", counted(n, "run", "runs")));
    let (aside, back) = (runs(set_aside, "excluded"), runs(counted_again, "counted again"));
    let parts: Vec<String> = [said(corrected, "corrected"), aside, back, said(followed, "added")]
        .into_iter()
        .flatten()
        .collect();
    (!parts.is_empty()).then(|| words::since_decision_decide_again(parts.join(", ")))
}

/// When the work on the engine began after this moment: what is read from then on is its proof.
fn work_began(file: &JobFile, since: Moment) -> Option<Moment> {
    let works = file.events.iter().filter(|record| {
        matches!(
            record.event,
            Event::Fitted { done: true, .. }
                | Event::Replaced { .. }
                | Event::WriteBegun { .. }
                | Event::Proved { .. }
                | Event::Closed { .. }
        )
    });
    works.map(|record| record.signed.moment()).filter(|at| *at > since).min()
}
