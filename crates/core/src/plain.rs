//! What was done and what is proven, in words for whoever pays for it: no marks, no abbreviations.
//!
//! # Source
//! Everything comes from the record of the job; nothing is promised that is not on it.

use crate::codes::{SlotState, coding};
use crate::fitting::Fitting;
use crate::proving::{ItemState, Proof, ProveId};
use crate::record::{Event, JobFile, Part};
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

/// The customer's page of a job; `measured` are the cylinders at which something was measured.
pub fn plain(file: &JobFile, fitting: &Fitting, proof: &Proof, measured: &[u32]) -> Plain {
    let settled = |state: ItemState| proof.items.iter().filter(move |one| one.state == state);
    let mut proven: Vec<String> = repeat(proof).into_iter().collect();
    proven.extend(settled(ItemState::Good).filter_map(|one| proven_words(one.id)));
    let begun = !fitting.out.is_empty() || file.refit_begun();
    let mut open = Vec::new();
    if begun || proof.closing.closed.is_some() {
        let states = [ItemState::LeftOut, ItemState::Failed, ItemState::Unsure, ItemState::Open];
        for one in states.into_iter().flat_map(settled) {
            let says = if one.says.is_empty() { "Not done yet." } else { one.says.as_str() };
            open.push(format!("{}: {says}", one.title));
        }
    }
    let stands = match (&proof.closing.closed, begun) {
        (Some(_), _) => proof.says.clone(),
        (None, true) => "The work is not closed yet.".to_owned(),
        (None, false) => "This is a finding; no work on the injectors is on record.".to_owned(),
    };
    Plain { done: done(file, fitting, measured), proven, open, stands }
}

/// How an item is told to a customer; none for what is told elsewhere or says nothing to them.
fn proven_words(id: ProveId) -> Option<String> {
    let says = match id {
        ProveId::Codes => {
            "The control unit holds the right code for every cylinder; it was read back."
        }
        ProveId::LeakOff => "No joint leaked under pressure with the engine off.",
        ProveId::LeakRunning => "No joint leaked with the engine running.",
        ProveId::Cleared => "The control unit forgot what it had learned of the old injectors.",
        ProveId::Drive => "The control unit has relearned the injectors.",
        ProveId::Regeneration => "The exhaust completed one self-cleaning cycle.",
        ProveId::Rescan => "No fault came back when the fault codes were read again.",
        ProveId::RoadTest => "It was driven under the conditions of the complaint.",
        ProveId::Fitting | ProveId::Bleed | ProveId::Start | ProveId::FailedTest => return None,
    };
    Some(says.to_owned())
}

fn repeat(proof: &Proof) -> Option<String> {
    let good =
        proof.items.iter().any(|one| one.id == ProveId::FailedTest && one.state == ItemState::Good);
    let repeat = proof.repeat.as_ref().filter(|one| good && one.after_at.is_some())?;
    let changed: Vec<String> = repeat
        .lanes
        .iter()
        .filter(|lane| lane.before_mark != lane.after_mark)
        .map(|lane| {
            let unit =
                if repeat.unit.is_empty() { String::new() } else { format!(" {}", repeat.unit) };
            format!("cylinder {} went from {} to {}{unit}", lane.cylinder, lane.before, lane.after)
        })
        .collect();
    Some(format!("{} repeated under the same conditions: {}.", repeat.test, changed.join(", ")))
}

fn done(file: &JobFile, fitting: &Fitting, measured: &[u32]) -> Vec<String> {
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
        says.push(format!("Cylinder {}: {kind}{label} was fitted.", injector.cylinder));
    }
    let was = |says: &mut Vec<String>, decision, words: &str| {
        let of: Vec<u32> = with(decision).into_iter().filter(|c| !replaced.contains(c)).collect();
        if !of.is_empty() {
            says.push(format!("{}: {words}", cylinders(&of)));
        }
    };
    was(&mut says, Decision::Replace, "the injector is to be replaced.");
    was(&mut says, Decision::Clean, "cleaned.");
    was(&mut says, Decision::Adjust, "reconditioned and adjusted.");
    was(&mut says, Decision::RepairHarness, "the wiring is to be repaired; the injector stays.");
    was(&mut says, Decision::LookElsewhere, "the injector is sound; the cause lies elsewhere.");
    // Left alone after a measurement is one thing, left alone without one another.
    let (measured, blind): (Vec<u32>, Vec<u32>) =
        with(Decision::Leave).into_iter().partition(|c| measured.contains(c));
    let mut left = |of: Vec<u32>, words: &str| {
        let of: Vec<u32> = of.into_iter().filter(|c| !replaced.contains(c)).collect();
        if !of.is_empty() {
            says.push(format!("{}: {words}", cylinders(&of)));
        }
    };
    left(measured, "no fault found; left in place.");
    left(blind, "not measured; left in place.");
    let moved = file.seats(None).into_iter().filter(|seat| seat.came_from != seat.cylinder);
    let moved: Vec<String> = moved
        .map(|seat| format!("the one from cylinder {} to {}", seat.came_from, seat.cylinder))
        .collect();
    if !moved.is_empty() {
        says.push(format!("Injectors changed places: {}.", moved.join(", ")));
    }
    if fitting.done && !fitting.out.is_empty() {
        let parts: Vec<&str> = fitting.parts.iter().map(|part| part.name.as_str()).collect();
        let parts = if parts.is_empty() {
            String::new()
        } else {
            format!(" with new parts ({})", parts.join(", "))
        };
        says.push(format!(
            "The injectors of {} {} were fitted{parts}.",
            by_number(fitting.out.len(), "cylinder", "cylinders"),
            list(&fitting.out)
        ));
    }
    let coding = coding(file);
    let stored = coding.slots.iter().filter(|slot| {
        slot.state == SlotState::Fits && slot.found.is_some() && slot.found != slot.stored
    });
    let stored: Vec<u32> = stored.map(|slot| slot.cylinder).collect();
    if !stored.is_empty() {
        says.push(format!(
            "{}: the code of the injector was stored in the control unit.",
            cylinders(&stored)
        ));
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
    use crate::sample::{at, event, job};
    use uuid::Uuid;

    fn look(file: &JobFile) -> Plain {
        plain(file, &fitting(file, &[]), &proof(file, &file.judged().unwrap(), &[]), &[3])
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
        let before = look(&file);
        assert_eq!(
            before.done,
            [
                "Cylinders 1 and 2: the injector is to be replaced.",
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
        assert_eq!(after.done[1], "Cylinder 1: the injector is to be replaced.");
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
        assert_eq!(after.stands, "The work is not closed yet.");
    }
}
