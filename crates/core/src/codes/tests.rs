//! Codes as they stand after everything that can go wrong.

use super::*;
use crate::engine::FuelSystem;
use crate::judgement::tests::judge_file;
use crate::record::{Event, JobFile, WriteEnd};
use crate::sample::{event, job};
use crate::tests::outcomes;
use proptest::prelude::*;
use uuid::Uuid;

fn read(codes: [&str; 4]) -> Event {
    let slots = (1..).zip(codes).map(|(cylinder, code)| SlotCode {
        cylinder,
        code: (!code.is_empty()).then(|| code.to_owned()),
    });
    Event::CodesRead { slots: slots.collect(), by_hand: false }
}

fn own(injector: u128, code: &str) -> Event {
    let injector = Uuid::from_u128(injector);
    Event::CodeCaptured { injector, code: code.to_owned(), how: Capture::TypedTwice }
}

fn begun(cylinder: u32, code: &str) -> Event {
    Event::WriteBegun { writes: vec![SlotCode { cylinder, code: Some(code.to_owned()) }] }
}

fn after(events: Vec<Event>) -> JobFile {
    let mut file = job(FuelSystem::DieselSolenoid, &[]);
    file.events = (1..).zip(events).map(|(minute, one)| event(minute, one)).collect();
    file
}

fn all_own() -> Vec<Event> {
    vec![own(1, "AA"), own(2, "BB"), own(3, "CC"), own(4, "DD")]
}

fn states(file: &JobFile) -> Vec<SlotState> {
    coding(file).slots.iter().map(|slot| slot.state).collect()
}

#[test]
fn codes_are_read_first_captured_and_compared() {
    use SlotState::{Differs, Empty, Fits, NotCaptured, NotRead};
    let nothing = coding(&after(Vec::new()));
    assert!(nothing.says.starts_with("Read the stored trim codes first"), "{}", nothing.says);
    assert_eq!(
        states(&after(vec![own(1, "AA")])),
        [NotRead, NotCaptured, NotCaptured, NotCaptured]
    );
    let file = after([vec![read(["AA", "XX", "CC", ""])], all_own()].concat());
    assert_eq!(states(&file), [Fits, Differs, Fits, Empty]);
    let now = coding(&file);
    assert_eq!(now.says, "Cylinders 2 and 4 to be written.");
    let plan: Vec<(u32, Option<&str>, &str)> =
        now.plan.iter().map(|w| (w.cylinder, w.from.as_deref(), w.to.as_str())).collect();
    assert_eq!(plan, [(2, Some("XX"), "BB"), (4, None, "DD")]);
    let port = JobFile { events: Vec::new(), ..job(FuelSystem::PetrolPort, &[]) };
    assert!(!coding(&port).coded);
}

#[test]
fn a_code_goes_where_its_injector_goes() {
    let mut events = [vec![read(["AA", "BB", "CC", "DD"])], all_own()].concat();
    events.push(Event::Swapped { one: 1, other: 3 });
    let file = after(events);
    use SlotState::{Elsewhere, Fits};
    assert_eq!(states(&file), [Elsewhere, Fits, Elsewhere, Fits]);
    let now = coding(&file);
    assert_eq!(now.slots[0].says, "The trim code of the injector in cylinder 3 is stored here.");
    assert_eq!(now.plan.len(), 2);
    assert_eq!((now.plan[0].cylinder, now.plan[0].to.as_str()), (1, "CC"));
    // Until it is read back where it belongs, judgement knows that a code is not its own.
    let uncoded = |file: &JobFile| {
        let findings = judge_file(file).findings;
        findings.iter().filter(|one| one.code == outcomes::MOVED_UNCODED).count()
    };
    assert_eq!(uncoded(&file), 2);
    let mut written = file.clone();
    written.events.push(event(20, read(["CC", "BB", "AA", "DD"])));
    assert_eq!((states(&written), uncoded(&written)), (vec![Fits; 4], 0));
}

#[test]
fn a_write_counts_only_when_it_was_read_back() {
    let mut events = [vec![read(["AA", "XX", "CC", "DD"])], all_own()].concat();
    events.push(begun(2, "BB"));
    let open = after(events.clone());
    assert_eq!(states(&open)[1], SlotState::NotKnown);
    let now = coding(&open);
    let unfinished = now.unfinished.unwrap();
    assert!(unfinished.says.contains("never finished on record"), "{}", unfinished.says);
    assert!(unfinished.says.ends_with("Cylinder 2: stored code unknown. Read the ECU."));
    assert_eq!(unfinished.before[0].code.as_deref(), Some("XX"), "to put back");
    let id = open.events.last().unwrap().id;
    let end = WriteEnd { of: id, good: false, says: "The unit does not answer.".to_owned() };
    events.push(Event::WriteEnded(end));
    let ended = coding(&after(events.clone()));
    assert_eq!(ended.slots[1].state, SlotState::NotKnown, "an end that was not read back is none");
    assert!(ended.says.starts_with("The unit does not answer. Cylinder 2: stored code unknown"));
    events.push(read(["AA", "", "CC", "DD"]));
    let back = coding(&after(events));
    assert_eq!((back.slots[1].state, back.unfinished), (SlotState::Empty, None));
    assert_eq!(back.slots[1].found.as_deref(), Some("XX"), "as found stays as found");
}

#[test]
fn the_same_code_twice_is_asked_about() {
    let file = after(vec![own(1, "AA"), own(2, "AA")]);
    let warned = coding(&file).warnings;
    assert_eq!(
        warned,
        ["Cylinders 1 and 2 have the same trim code AA: unlikely. Recheck the bodies."]
    );
}

#[test]
fn a_code_without_a_pattern_is_kept_and_said_to_be_unchecked() {
    let free = read_code(" ab-12.c ", None);
    assert_eq!((free.code.as_str(), free.problem.as_str(), free.unchecked), ("AB12C", "", true));
    assert!(!read_code("ä!", None).problem.is_empty());
    let pattern = CodePattern {
        length: 8,
        alphabet: "0123456789ABCDEFGHJKMNPQRSTVWXYZ".to_owned(),
        check: Some("iso7064_mod97_10".to_owned()),
    };
    let short = read_code("C1EGJ", Some(&pattern));
    assert_eq!(short.problem, "5 characters; a trim code of this family has 8.");
    let letter = read_code("CIEGJH44", Some(&pattern));
    assert_eq!(letter.problem, "I cannot occur in a trim code of this family.");
    assert_eq!(letter.suggestions.first().map(String::as_str), Some("C1EGJH44"));
}

proptest! {
    /// Whatever stands in the unit afterwards: it is called good only when every slot that was
    /// written holds what was written, and every other holds what it held.
    #[test]
    fn nothing_is_called_good_that_is_not(
        before in proptest::collection::vec("[AB]{0,1}", 4),
        after in proptest::collection::vec("[ABC]{0,1}", 4),
        to in proptest::collection::btree_map(1..=4_u32, "[BC]", 1..=3),
    ) {
        let codes = |of: &[String]| -> Vec<SlotCode> {
            (1..).zip(of).map(|(cylinder, code)| SlotCode {
                cylinder, code: (!code.is_empty()).then(|| code.clone()),
            }).collect()
        };
        let writes: Vec<SlotCode> = to
            .iter()
            .map(|(cylinder, code)| SlotCode { cylinder: *cylinder, code: Some(code.clone()) })
            .collect();
        let out = compared(&codes(&before), &writes, &codes(&after));
        let right = (1..=4_u32).zip(before.iter().zip(&after)).all(|(cylinder, (before, after))| {
            after == to.get(&cylinder).unwrap_or(before)
        });
        prop_assert_eq!(out.good, right, "{}", out.says);
        for (cylinder, code) in &to {
            if after[*cylinder as usize - 1] != *code {
                prop_assert!(out.says.contains(&format!("ylinder {cylinder}")), "{}", out.says);
            }
        }
    }
}
