//! Whether what was found explains what was complained of: until it does, the search goes on.
//!
//! What was put right explains it when the person who drives says that it is gone: asked after the work,
//! *gone, better or same*. After a repair of what all share it is asked before any injector is left or taken
//! out; after work at an injector or its place it is asked with the road test, and what was left until then is
//! looked at again when the complaint is still there. A second sheet of a check is no repair. A cylinder that
//! was named, by a person or by a stored code, is not explained by a fault elsewhere.
//!
//! # Source
//! House rule.

use super::story;
use super::{Position, Why};
use crate::calc::CalcError;
use crate::judged::Judged;
use crate::record::{DecisionRecord, Event, JobFile, Moment, SheetRecord, WriteEnd};
use crate::tests::Verdict;
use crate::tests::engine::EngineTest;
use crate::work::{ComplaintNow, Decision};

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

/// What was said last of the complaint after work, and since the newest repair of what all share.
pub(super) fn answered(file: &JobFile, judged: &Judged) -> Option<ComplaintNow> {
    let (when, answer) = file.complaint_told()?;
    let open = repaired(file, judged).is_some_and(|(_, at)| at > when);
    // Without any work there was nothing to ask after.
    (worked(file, judged).is_some_and(|at| at < when) && !open).then_some(answer)
}

/// How the complaint of a job stands with what is decided.
pub(super) fn complaint(file: &JobFile, judged: &Judged, positions: &[Position]) -> Complaint {
    if !file.told().complains() {
        return Complaint::Settled;
    }
    match (repaired(file, judged), answered(file, judged)) {
        (Some((check, at)), None) if file.complaint_told().is_none_or(|(when, _)| when < at) => {
            return Complaint::Ask(check);
        }
        (_, Some(ComplaintNow::Gone)) => return Complaint::Settled,
        (_, _) => {}
    }
    // What was decided and is to be proven explains it, until it is told that the complaint is still there.
    let told = file.complaint_left().filter(|_| answered(file, judged).is_some());
    let deed = |at: &Position| {
        let held = file.decisions.iter().rfind(|one| one.cylinder == at.cylinder);
        held.filter(at_place).map(|one| told.is_some_and(|(when, _)| one.signed.moment() < when))
    };
    let moved = |at: &Position| {
        let mut here = judged.seats.iter().filter(|seat| seat.cylinder == at.cylinder);
        here.any(|seat| !file.sits_as_it_came(seat))
    };
    let nothing = |at: &Position| match deed(at) {
        Some(in_vain) => in_vain,
        // A code that has to be written because an injector moved is behind nothing that was told before.
        None => {
            at.ruling.decision == Decision::Leave || (at.ruling.why == Why::Uncoded && moved(at))
        }
    };
    let named = |at: &Position| story::named(&file.told(), at.cylinder) == Some(true);
    let left = positions.iter().any(|at| named(at) && nothing(at));
    if left || positions.iter().all(nothing) {
        Complaint::Unexplained
    } else {
        Complaint::Explained
    }
}

/// Something was to be done at this place.
fn at_place(one: &&DecisionRecord) -> bool {
    one.decision.works() || one.decision == Decision::LookElsewhere
}

/// The first work after which there is something to ask: a repair, a part, a cleaning, codes written, or what was
/// decided to be put right at a place.
fn worked(file: &JobFile, judged: &Judged) -> Option<Moment> {
    let done = file.happened().filter_map(|record| {
        let work = matches!(
            &record.event,
            Event::Replaced { .. } | Event::WriteEnded(WriteEnd { good: true, .. })
        );
        work.then_some(record.signed.moment())
    });
    let deeds = file.seats(None).into_iter().flat_map(|seat| file.deeds_here(seat.injector));
    let decided = file.decisions.iter().filter(at_place);
    done.chain(deeds.map(|(_, signed)| signed.moment()))
        .chain(decided.map(|one| one.signed.moment()))
        .chain(repaired(file, judged).map(|(_, at)| at))
        .min()
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
