//! Whether what was found explains what was complained of: until it does, the search goes on.
//!
//! A fault that all share and that was put right explains it when the person who drives says that it is
//! gone: asked once after the repair, *gone, better or same*, before any injector is left or taken out. A
//! second sheet of a check is no repair. A cylinder that was named, by a person or by a stored code, is not
//! explained by a fault elsewhere.
//!
//! # Source
//! House rule.

use super::Position;
use super::story;
use crate::calc::CalcError;
use crate::judged::Judged;
use crate::record::{Event, JobFile, Moment, SheetRecord};
use crate::tests::Verdict;
use crate::tests::engine::EngineTest;
use crate::work::{ComplaintNow, Decision, Symptom};

/// How the complaint stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Complaint {
    /// Nothing was complained of, or it is gone.
    Settled,
    /// Something that all share was put right, and nobody was asked since.
    Ask(EngineTest),
    /// Nothing that was found is behind it.
    Unexplained,
    /// What is to be done somewhere explains it.
    Explained,
}

/// What was said last of the complaint, since the newest repair and since the job came back.
pub(super) fn answered(file: &JobFile, judged: &Judged) -> Option<ComplaintNow> {
    let asked = file.happened().filter_map(|record| {
        let Event::ComplaintAsked { answer } = record.event else { return None };
        Some((record.signed.moment(), answer))
    });
    let (when, answer) = asked.last()?;
    // Without a repair there was nothing to ask after.
    let (_, repaired) = repaired(file, judged)?;
    let back = file.came_back_at();
    (repaired < when && back.is_none_or(|back| back < when)).then_some(answer)
}

/// How the complaint of a job stands with what is decided.
pub(super) fn complaint(file: &JobFile, judged: &Judged, positions: &[Position]) -> Complaint {
    if !file.told().symptoms.iter().any(|one| *one != Symptom::CheckAndClean) {
        return Complaint::Settled;
    }
    match (repaired(file, judged), answered(file, judged)) {
        (Some((check, _)), None) => return Complaint::Ask(check),
        (_, Some(ComplaintNow::Gone)) => return Complaint::Settled,
        (_, _) => {}
    }
    let leaves = |at: &Position| at.ruling.decision == Decision::Leave;
    let named = |at: &Position| story::named(&file.told(), at.cylinder) == Some(true);
    let left = positions.iter().any(|at| named(at) && leaves(at));
    if left || positions.iter().all(leaves) { Complaint::Unexplained } else { Complaint::Explained }
}

/// The newest repair of something that all share: its check found it at fault, and then as it should be.
fn repaired(file: &JobFile, judged: &Judged) -> Option<(EngineTest, Moment)> {
    let read = |sheet: &SheetRecord| sheet.readings.iter().map(|one| one.signed.moment()).max();
    let says = |verdict: &Result<Verdict, CalcError>| {
        verdict.as_ref().ok().and_then(|verdict| verdict.shared.as_ref()).map(|said| said.code)
    };
    let sheets: Vec<(EngineTest, Moment, bool)> = file
        .sheets
        .iter()
        .zip(&judged.sheets)
        .filter_map(|(sheet, verdict)| {
            let code = says(verdict)?;
            (code.is_fault() || code.is_good()).then_some((
                sheet.check,
                read(sheet)?,
                code.is_fault(),
            ))
        })
        .collect();
    let good = sheets.iter().filter(|(check, at, fault)| {
        let before = sheets.iter().rfind(|(held, when, _)| held == check && when < at);
        !fault && before.is_some_and(|(.., fault)| *fault)
    });
    good.map(|(check, at, _)| (*check, *at)).max_by_key(|(_, at)| *at)
}
