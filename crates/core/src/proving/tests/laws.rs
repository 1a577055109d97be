//! What holds of the second half whatever happens in which order.

use super::{look, tell};
use crate::codes::{Capture, SlotCode, SlotState, coding};
use crate::engine::FuelSystem;
use crate::fitting::{FitStep, fitting};
use crate::proving::{Counter, ItemState, Learned, ProveId, Told};
use crate::record::{DecisionRecord, Event, Injector, JobFile, Part, Placing};
use crate::sample::passport;
use crate::sample::{at, event, job};
use crate::work::Decision;
use proptest::prelude::*;
use std::collections::BTreeSet;
use uuid::Uuid;

/// Something that may happen, with numbers to choose by.
type Step = (u8, u32, u32, bool);

fn steps() -> impl Strategy<Value = Vec<Step>> {
    proptest::collection::vec((0..12_u8, 1..=4_u32, 1..=4_u32, any::<bool>()), 0..40)
}

/// The event that a step stands for in the job as it is by then.
fn happens(file: &JobFile, n: usize, (kind, one, other, good): Step) -> Event {
    let at = |list: usize| (one as usize + 4 * other as usize) % list;
    let code = |c: u32| format!("CODE{c}");
    match kind {
        0 if one != other => Event::Swapped { one, other },
        1 => {
            let seats = file.seats(None);
            let turned = seats
                .iter()
                .map(|seat| Placing { injector: seat.injector, cylinder: seat.cylinder % 4 + 1 });
            Event::Placed { seats: turned.collect() }
        }
        2 => {
            let (id, label) = (Uuid::from_u128(1000 + n as u128), format!("N{n}"));
            Event::Replaced { injector: Injector { id, cylinder: one, label }, part: Part::New }
        }
        3 => {
            let step = FitStep::ALL[at(FitStep::ALL.len())];
            Event::Fitted { step, cylinders: vec![one], done: good }
        }
        4 => {
            let item = ProveId::ALL[at(ProveId::ALL.len())];
            let told = Told::ALL[at(Told::ALL.len())];
            Event::Proved { item, told, note: "as seen".to_owned() }
        }
        5 => {
            let percent = if good { 0.0 } else { 1.5 };
            let learned = vec![Learned { cylinder: one, percent }];
            let counters = vec![Counter { band: "coast".to_owned(), done: other, needed: 4 }];
            Event::LearnedRead { cleared: good, learned, counters, by_hand: false }
        }
        6 => {
            let slots =
                (1..=4).map(|c| SlotCode { cylinder: c, code: good.then(|| code(c % other + 1)) });
            Event::CodesRead { slots: slots.collect(), by_hand: false }
        }
        7 => {
            let sits = file.seats(None).into_iter().find(|seat| seat.cylinder == one).unwrap();
            Event::CodeCaptured {
                injector: sits.injector,
                code: code(other),
                how: Capture::Scanned,
            }
        }
        8 => {
            Event::WriteBegun { writes: vec![SlotCode { cylinder: one, code: Some(code(other)) }] }
        }
        9 => {
            let mut cylinders: Vec<u32> = (1..=4).collect();
            cylinders.rotate_left(one as usize % 4);
            Event::UnitNumbered { cylinders }
        }
        10 if good => Event::Closed { exceptions: Vec::new() },
        10 => {
            Event::Reopened { comeback: one > 2, reason: "again".to_owned(), symptoms: Vec::new() }
        }
        _ => Event::Cleared { how: "cranked".to_owned() },
    }
}

fn after(steps: &[Step]) -> JobFile {
    let mut file = job(FuelSystem::DieselSolenoid, &[]);
    file.decisions = (1..=4)
        .map(|cylinder| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision: Decision::Leave,
            reason: "as measured".to_owned(),
            proposed: None,
            signed: at(1),
        })
        .collect();
    for (n, step) in steps.iter().enumerate() {
        let what = happens(&file, n, *step);
        file.events.push(event(n as i64 + 2, what));
    }
    file
}

proptest! {
    /// An injector sits in one cylinder, a cylinder holds one injector.
    #[test]
    fn there_is_one_injector_in_each_cylinder_whatever_moves(steps in steps()) {
        let seats = after(&steps).seats(None);
        let cylinders: Vec<u32> = seats.iter().map(|seat| seat.cylinder).collect();
        prop_assert_eq!(cylinders, [1, 2, 3, 4]);
        let injectors: BTreeSet<Uuid> = seats.iter().map(|seat| seat.injector).collect();
        prop_assert_eq!(injectors.len(), 4);
    }

    /// Nothing open, failed or in doubt is ever closed, and nothing left out is ever called proven.
    #[test]
    fn what_is_open_keeps_the_job_open_and_an_exception_keeps_it_from_being_proven(steps in steps()) {
        let proof = look(&after(&steps));
        let any = |state: ItemState| proof.items.iter().any(|item| item.state == state);
        if proof.closing.closed.is_none() {
            let open = any(ItemState::Open) || any(ItemState::Failed) || any(ItemState::Unsure);
            prop_assert_eq!(proof.closing.refused.is_some(), open);
            prop_assert_eq!(proof.closing.proven, !any(ItemState::LeftOut));
        }
        prop_assert_eq!(proof.next.is_some(), any(ItemState::Open) || any(ItemState::Failed) || any(ItemState::Unsure));
    }

    /// What the program sees for itself becomes good by nobody's word.
    #[test]
    fn no_word_makes_good_what_has_to_be_seen(steps in steps()) {
        let mut file = after(&steps);
        let before = look(&file);
        for id in [ProveId::Fitting, ProveId::Codes, ProveId::FailedTest] {
            tell(&mut file, 100, id, Told::Good);
        }
        let told = look(&file);
        for (one, other) in before.items.iter().zip(&told.items).filter(|(one, _)| one.seen) {
            let good = |state| state == ItemState::Good;
            prop_assert_eq!(good(one.state), good(other.state), "{:?}", one.id);
        }
    }

    /// A tick taken back leaves the card as it was, for an injector that was out anyway.
    #[test]
    fn a_tick_taken_back_leaves_no_trace(steps in steps(), cylinder in 1..=4_u32) {
        let mut file = after(&steps);
        file.events.push(event(90, Event::Swapped { one: cylinder, other: cylinder % 4 + 1 }));
        let before = fitting(&file, &[]);
        let open = before.steps.iter().find(|step| !step.ticks.iter().any(|t| t.cylinder == cylinder));
        prop_assume!(open.is_some());
        let step = open.unwrap().step;
        for done in [true, false] {
            file.events.push(event(91, Event::Fitted { step, cylinders: vec![cylinder], done }));
        }
        prop_assert_eq!(fitting(&file, &[]), before);
    }

    /// A slot is called good only when it was read, by the count that holds, since it was last written,
    /// and holds the code of what sits there.
    #[test]
    fn no_slot_fits_that_was_not_read_by_the_count_that_holds(steps in steps()) {
        let file = after(&steps);
        let counted = file.events.iter().rposition(|e| matches!(e.event, Event::UnitNumbered { .. }));
        for slot in coding(&file).slots.iter().filter(|slot| slot.state == SlotState::Fits) {
            let of = |slots: &[SlotCode]| slots.iter().any(|one| one.cylinder == slot.cylinder);
            let read = file.events.iter().rposition(|e| matches!(&e.event, Event::CodesRead { slots, .. } if of(slots)));
            let wrote = file.events.iter().rposition(|e| matches!(&e.event, Event::WriteBegun { writes } if of(writes)));
            prop_assert!(read > wrote && read > counted, "{:?}", slot);
            prop_assert_eq!(&slot.stored, &slot.own);
        }
    }

    /// Jobs make the same passport in whatever order they are found.
    #[test]
    fn a_passport_does_not_depend_on_the_order_of_jobs(one in steps(), other in steps()) {
        let (first, mut second) = (after(&one), after(&other));
        (second.job.id, second.job.number) = (Uuid::from_u128(2), 2);
        second.job.taken_in = at(500);
        let id = first.job.injectors[0].id;
        let there = passport(id, "L1", &[first.clone(), second.clone()]);
        prop_assert_eq!(passport(id, "L1", &[second, first]), there);
    }
}
