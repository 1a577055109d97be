//! What was done and what is proven, in words for whoever pays for it: no marks, no abbreviations.
//!
//! # Source
//! Everything comes from the record of the job; nothing is promised that is not on it.

mod words;

use crate::codes::{SlotState, coding};
use crate::fitting::Fitting;
use crate::judged::Judged;
use crate::mark::Mark;
use crate::proving::{ItemState, PlaceProof, Proof, ProveId, Repeat, condemned_by};
use crate::record::{Event, JobFile, Part};
use crate::standing::Stood;
use crate::tests::property::Deed;
use crate::words::{by_number, cylinders, list};
use crate::work::Decision;
use serde::Serialize;
use utoipa::ToSchema;

/// The customer's page in sentences.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Plain {
    /// What was done.
    pub done: Vec<String>,
    /// What is proven, and how.
    pub proven: Vec<String>,
    /// What is not, and why.
    pub open: Vec<String>,
    /// How the job stands, in a sentence.
    pub stands: String,
}

/// The customer's page of a job.
pub fn plain(file: &JobFile, judged: &Judged, fitting: &Fitting, proof: &Proof) -> Plain {
    let settled = |state: ItemState| proof.items.iter().filter(move |one| one.state == state);
    let mut proven: Vec<String> = proof.repeats.iter().filter_map(repeated).collect();
    let figures = proof.figures.iter().filter(|one| one.state == ItemState::Good);
    proven.extend(figures.map(|one| one.says.clone()));
    proven.extend(settled(ItemState::Good).filter_map(|one| proven_words(one.id)));
    let begun = !fitting.out.is_empty() || file.ever_refitted();
    let mut open = Vec::new();
    if begun || proof.closing.closed.is_some() {
        let states = [ItemState::LeftOut, ItemState::Failed, ItemState::Unsure, ItemState::Open];
        for one in states.into_iter().flat_map(settled) {
            let says = if one.says.is_empty() { words::NOT_DONE_YET } else { one.says.as_str() };
            open.push(format!("{}: {says}", one.title));
        }
    }
    let stands = match (&proof.closing.closed, &proof.closing.came_back, begun) {
        (Some(_), _, _) => proof.says.clone(),
        (None, Some(reason), _) => words::came_back(reason),
        (None, None, true) => words::WORK_NOT_FINISHED_YET.to_owned(),
        (None, None, false) => words::FINDINGS_ONLY_NO_INJECTOR.to_owned(),
    };
    Plain { done: done(file, judged, fitting), proven, open, stands }
}

/// How an item is told to a customer; none for what is told elsewhere or says nothing to them.
fn proven_words(id: ProveId) -> Option<String> {
    let says = match id {
        ProveId::Codes => words::CONTROL_UNIT_HOLDS_RIGHT,
        ProveId::LeakOff => words::NO_FUEL_JOINT_LEAKED,
        ProveId::LeakRunning => words::NO_FUEL_JOINT_LEAKED_ENGINE,
        ProveId::Cleared => words::LEARNED_VALUES_OLD_INJECTORS,
        ProveId::Drive => words::CONTROL_UNIT_RELEARNED_INJECTORS,
        ProveId::Regeneration => words::EXHAUST_COMPLETED_ONE_SELF,
        ProveId::Rescan => words::NO_FAULT_CODE_RETURNED,
        ProveId::RoadTest => words::ROAD_TESTED_UNDER_CONDITIONS,
        ProveId::Fitting | ProveId::Bleed | ProveId::Start | ProveId::FailedTest => return None,
    };
    Some(says.to_owned())
}

/// A test by which a repair was proven, with the places that it proves.
fn repeated(repeat: &Repeat) -> Option<String> {
    let proven = repeat.lanes.iter().filter(|lane| lane.proof == Some(PlaceProof::Proven));
    let unit = if repeat.unit.is_empty() { String::new() } else { format!(" {}", repeat.unit) };
    let changed: Vec<String> = proven
        .map(|lane| words::cylinder_went(lane.cylinder, &lane.before, &lane.after, &unit))
        .collect();
    let says = || words::repeated_under_same_conditions(&repeat.test, changed.join(", "));
    (!changed.is_empty()).then(says)
}

fn done(file: &JobFile, judged: &Judged, fitting: &Fitting) -> Vec<String> {
    let newest =
        |c: u32| file.decisions.iter().rfind(|one| one.cylinder == c).map(|one| one.decision);
    let with = |decision: Decision| -> Vec<u32> {
        let all = 1..=file.job.intake.layout.cylinders;
        all.filter(|c| newest(*c) == Some(decision)).collect()
    };
    let mut says = Vec::new();
    let mut replaced = Vec::new();
    for record in &file.events {
        let Event::Replaced { injector, part } = &record.event else { continue };
        replaced.push(injector.cylinder);
        let kind = match part {
            Part::New => "a new injector",
            Part::Reconditioned => "a reconditioned injector",
            Part::Tested => "a tested injector",
        };
        let label = if injector.label.is_empty() {
            String::new()
        } else {
            format!(" ({})", injector.label)
        };
        let why = condemned_by(file, judged, record);
        let why =
            why.map_or_else(String::new, |(test, shown)| words::because(test.title(), &shown));
        says.push(words::cylinder_fitted(injector.cylinder, kind, &label, &why));
    }
    let was = |says: &mut Vec<String>, decision, words: &str| {
        let of: Vec<u32> = with(decision).into_iter().filter(|c| !replaced.contains(c)).collect();
        if !of.is_empty() {
            says.push(format!("{}: {words}", cylinders(&of)));
        }
    };
    was(&mut says, Decision::Replace, words::REPLACE_INJECTOR);
    let seats = file.seats(None);
    let seat = |cylinder: u32| seats.iter().find(|seat| seat.cylinder == cylinder);
    // What was decided is told as done once it was done.
    let cleaned = |c: u32| {
        let deeds = seat(c).map(|seat| file.deeds_here(seat.injector)).unwrap_or_default();
        deeds.iter().any(|(deed, _)| *deed == Deed::Cleaning)
    };
    let (did, wanted): (Vec<u32>, Vec<u32>) = with(Decision::Clean)
        .into_iter()
        .filter(|c| !replaced.contains(c))
        .partition(|c| cleaned(*c));
    for (of, words) in [(did, words::CLEANED), (wanted, words::CLEAN_INJECTOR)] {
        if !of.is_empty() {
            says.push(format!("{}: {words}", cylinders(&of)));
        }
    }
    was(&mut says, Decision::Adjust, words::INJECTOR_RECONDITIONED_ADJUSTED);
    was(&mut says, Decision::RepairHarness, words::REPAIR_WIRING_INJECTOR_STAYS);
    was(&mut says, Decision::LookElsewhere, words::INJECTOR_SOUND_CAUSE_LIES);
    // Left alone after a measurement is one thing, left alone without one another.
    let read = |c: u32| {
        // What condemned it was not repeated since: another check that passes is no answer.
        if judged.now.mark(c) == Mark::NotMeasured {
            return None;
        }
        let of = judged.stood.iter().filter(|one| seat(c).is_some_and(|seat| one.is_of(seat)));
        of.filter(|one| one.here.counts() && one.said.code.weighs()).map(Stood::is_bad).max()
    };
    let (blind, measured): (Vec<u32>, Vec<u32>) =
        with(Decision::Leave).into_iter().partition(|c| read(*c).is_none());
    let (off, measured): (Vec<u32>, Vec<u32>) =
        measured.into_iter().partition(|c| read(*c) == Some(true));
    let (open, blind): (Vec<u32>, Vec<u32>) = blind
        .into_iter()
        .partition(|c| judged.stood.iter().any(|one| seat(*c).is_some_and(|seat| one.is_of(seat))));
    let mut left = |of: Vec<u32>, words: &str| {
        let of: Vec<u32> = of.into_iter().filter(|c| !replaced.contains(c)).collect();
        if !of.is_empty() {
            says.push(format!("{}: {words}", cylinders(&of)));
        }
    };
    left(measured, words::NO_FAULT_FOUND_LEFT);
    left(off, words::LEFT_ALTHOUGH_OFF);
    left(open, words::LEFT_INCONCLUSIVE);
    left(blind, words::NOT_MEASURED_LEFT_PLACE);
    let moved = file.seats(None).into_iter().filter(|seat| seat.came_from != seat.cylinder);
    let moved: Vec<String> =
        moved.map(|seat| words::one_cylinder(seat.came_from, seat.cylinder)).collect();
    if !moved.is_empty() {
        says.push(words::injectors_swapped(moved.join(", ")));
    }
    if fitting.done && !fitting.out.is_empty() {
        let parts: Vec<&str> = fitting.parts.iter().map(|part| part.name.as_str()).collect();
        let parts = if parts.is_empty() {
            String::new()
        } else {
            format!(" with new parts ({})", parts.join(", "))
        };
        says.push(words::injectors_fitted(
            by_number(fitting.out.len(), "cylinder", "cylinders"),
            list(&fitting.out),
            &parts,
        ));
    }
    let coding = coding(file);
    let stored = coding.slots.iter().filter(|slot| {
        slot.state == SlotState::Fits && slot.found.is_some() && slot.found != slot.stored
    });
    let stored: Vec<u32> = stored.map(|slot| slot.cylinder).collect();
    if !stored.is_empty() {
        says.push(words::injector_code_stored_control(cylinders(&stored)));
    }
    says
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::engine::FuelSystem;
    use crate::fitting::{FitStep, fitting};
    use crate::proving::proof;
    use crate::record::{DecisionRecord, Injector};
    use crate::sample::{at, event, job, return_test};
    use uuid::Uuid;

    fn look(file: &JobFile) -> Plain {
        let judged = file.judged().unwrap();
        plain(file, &judged, &fitting(file, &[]), &proof(file, &judged, &[]))
    }

    #[test]
    fn what_was_done_is_told_and_what_was_only_decided_is_not_told_as_done() {
        let mut file = job(FuelSystem::DieselSolenoid, &[]);
        let decided = |cylinder, decision| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision,
            reason: "as measured".to_owned(),
            proposed: None,
            signed: at(5),
        };
        file.decisions = vec![
            decided(1, Decision::Replace),
            decided(2, Decision::Replace),
            decided(3, Decision::Leave),
            decided(4, Decision::Leave),
        ];
        // Three of the four were measured, and nothing is wrong with them.
        file.return_tests = vec![return_test(82.0, &[&[20.0, 21.0, 20.0]])];
        let before = look(&file);
        assert_eq!(
            before.done,
            [
                "Cylinders 1 and 2: replace the injector.",
                "Cylinder 3: no fault found; left in place.",
                "Cylinder 4: not measured; left in place."
            ]
        );
        let new = Injector { id: Uuid::from_u128(50), cylinder: 2, label: "N-50".to_owned() };
        file.events.push(event(10, Event::Replaced { injector: new, part: Part::New }));
        for step in FitStep::ALL {
            let cylinders = vec![1, 2];
            file.events.push(event(11, Event::Fitted { step: *step, cylinders, done: true }));
        }
        let after = look(&file);
        assert_eq!(after.done[0], "Cylinder 2: a new injector (N-50) was fitted.");
        assert_eq!(after.done[1], "Cylinder 1: replace the injector.");
        assert!(
            after
                .done
                .last()
                .unwrap()
                .starts_with("The injectors of cylinders 1 and 2 were fitted with")
        );
        assert!(
            after.open.iter().any(|one| one.starts_with("Road test: Not done yet.")),
            "{:?}",
            after.open
        );
        assert_eq!(after.stands, "The work is not finished yet.");
    }
}
