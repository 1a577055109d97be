//! From verdicts to findings: what counts of every check of a job in one list, bound to injector and cylinder.
//!
//! A lane says a code, and the code is all that is read here. What it is worth by now, for its injector
//! and for its cylinder, is settled in [`crate::standing`].

use super::finding::{Finding, NewReads};
use super::weights::Weights;
use crate::codes::{SlotState, SlotView, coding, mirrored};
use crate::judged::Judged;
use crate::judgement::words;
use crate::record::{Event, EventRecord, JobFile, Moment, Seat};
use crate::said::{Code, Lack, Said};
use crate::standing::{Source, Standing, Stood, Test, Verdicts};
use crate::tests::engine::EngineTest;
use crate::tests::outcomes;
use crate::tests::property::Of;
use crate::tests::swap::SwapSays;
use crate::work::Lately;
use uuid::Uuid;

/// Everything that was found, oldest first.
pub(super) fn collect(weights: &Weights, file: &JobFile, judged: &Judged) -> Vec<Finding> {
    let mut found = Found { weights, file, list: Vec::new() };
    judged.with_verdicts(|verdicts| found.read(judged, verdicts));
    found.swaps(judged);
    found.newest_swaps(judged);
    found.codes();
    let mut list = found.list;
    list.sort_by_key(|one| one.at);
    new_as_before(file, &mut list);
    read_twice(&mut list);
    list
}

struct Found<'a> {
    weights: &'a Weights,
    file: &'a JobFile,
    list: Vec<Finding>,
}

/// Who says it and when.
#[derive(Clone, Copy)]
struct From<'a> {
    /// The check where its code does not tell.
    check: &'a str,
    at: Moment,
    says: &'a str,
    would: &'a str,
}

impl Found<'_> {
    fn push(&mut self, from: From<'_>, said: &Said, cylinder: Option<u32>, injector: Option<Uuid>) {
        let check = self.weights.check_of(said.code).map_or(from.check, |row| row.id.as_str());
        self.list.push(Finding {
            code: said.code,
            check: check.to_owned(),
            cylinder,
            injector,
            at: from.at,
            says: from.says.to_owned(),
            would: if said.code.is_open() { from.would.to_owned() } else { String::new() },
            sigmas: said.sigmas,
            lacks: said.lacks.clone(),
            quality: without_slip(said).quality(),
            of_injector: true,
            of_cylinder: true,
            as_before: None,
        });
    }

    /// Every lane that was read, with what it is worth by now.
    fn read(&mut self, judged: &Judged, verdicts: Verdicts<'_>) {
        let seats = self.file.seats(None);
        for one in judged.stood.iter().filter(|one| one.said.code != Code::NOT_READ) {
            let (Some(verdict), Some(check)) = (verdicts.of(one.source), self.check(one)) else {
                continue;
            };
            let lane = verdicts.lane(one);
            let says = match lane {
                Some(lane) => lane.sentence.as_str(),
                None if matches!(one.source, Source::Return(_)) => {
                    verdict.advice.first().map_or("", String::as_str)
                }
                None => verdict.headline.as_str(),
            };
            let would = lane.and_then(|lane| lane.would_change.first()).map_or("", String::as_str);
            let from = From { check: &check, at: one.at(), says, would };
            // What all show is said once, of all; what was said of each before is over.
            let for_all = lane.is_some()
                && verdict.shared.as_ref().is_some_and(|said| said.code.is_fault())
                && one.said.code.weighs();
            let noted = Said::new(Code::NOTED);
            let said = if for_all { &noted } else { &one.said };
            if one.here == Standing::InDoubt {
                self.in_doubt(judged, one, from);
                continue;
            }
            let (cylinder, injector, of_injector, of_cylinder) = whose(one, &seats);
            self.push(from, said, cylinder, injector);
            if let Some(last) = self.list.last_mut() {
                (last.of_injector, last.of_cylinder) = (of_injector, of_cylinder);
            }
        }
    }

    /// The check in the weights that a lane is of; none for a test that prepares and finds nothing.
    fn check(&self, one: &Stood) -> Option<String> {
        let (own, outcomes) = match one.test {
            Test::Engine(EngineTest::ReturnTest) if one.place.is_none() => {
                return Some("crank_total".to_owned());
            }
            Test::Engine(test) => (test.name(), test.outcomes()),
            Test::Bench(test) => (test.name(), test.outcomes()),
        };
        let row = outcomes.first().and_then(|code| self.weights.check_of(*code));
        match (one.test, row) {
            (Test::Bench(_), None) => None,
            (Test::Bench(_), Some(row)) => Some(row.id.clone()),
            (Test::Engine(_), _) => Some(own.to_owned()),
        }
    }

    /// Two readings contradict each other: said once, by the newest of them.
    fn in_doubt(&mut self, judged: &Judged, one: &Stood, from: From<'_>) {
        let newer = judged.stood.iter().any(|other| {
            other.here == Standing::InDoubt
                && other.test == one.test
                && (other.injector, other.cylinder) == (one.injector, one.cylinder)
                && other.at() > one.at()
        });
        if newer {
            return;
        }
        let (says, would) = (one.contradiction(), Standing::InDoubt.back());
        let said = Said::new(Code::CONTRADICTORY);
        self.push(From { says: &says, would, ..from }, &said, one.cylinder, one.injector);
    }

    fn swaps(&mut self, judged: &Judged) {
        for swap in &judged.swaps {
            let (place, injector) = match swap.says {
                // What sound ones differ by goes along as well.
                _ if swap.slight => (Code::NOTED, Code::NOTED),
                SwapSays::Follows => (outcomes::SWAP_LEFT, outcomes::SWAP_FOLLOWS),
                SwapSays::Stays => (outcomes::SWAP_STAYS, outcomes::SWAP_CLEARED),
                SwapSays::Unclear => (Code::TOO_CLOSE, Code::TOO_CLOSE),
            };
            let from = |check| From { check, at: swap.at, says: &swap.headline, would: &swap.next };
            self.push(from("swap_place"), &place.into(), Some(swap.from), None);
            let moved = Some(swap.injector).filter(|id| !id.is_nil());
            self.push(from("swap_injector"), &injector.into(), None, moved);
            if swap.says == SwapSays::Stays && !swap.slight {
                // The one that came there shows what the place does to it: it is cleared as well,
                // and what was read of it there is the place's, not its own.
                let came = Some(swap.other).filter(|id| !id.is_nil());
                self.push(from("swap_injector"), &injector.into(), None, came);
                for one in &mut self.list {
                    let there = one.cylinder == Some(swap.from) && one.injector == came;
                    if there && one.at > swap.at && one.check == swap.check {
                        one.of_injector = false;
                    }
                }
            }
        }
    }

    /// Of several swaps the newest holds, and work on the injector since ends what one said of it.
    fn newest_swaps(&mut self, judged: &Judged) {
        let of_swap = |one: &Finding| ["swap_place", "swap_injector"].contains(&one.check.as_str());
        let swaps: Vec<(String, Option<u32>, Option<Uuid>, Moment)> = self
            .list
            .iter()
            .filter(|one| of_swap(one))
            .map(|one| (one.check.clone(), one.cylinder, one.injector, one.at))
            .collect();
        for one in self.list.iter_mut().filter(|one| of_swap(one)) {
            let newer = swaps.iter().any(|(check, cylinder, injector, at)| {
                *check == one.check
                    && (*cylinder, *injector) == (one.cylinder, one.injector)
                    && *at > one.at
            });
            let worked = judged.stood.iter().any(|stood| {
                let work = matches!(
                    stood.of_injector,
                    Some(
                        Standing::BeforeCleaning | Standing::BeforeSetting | Standing::BeforeRepair
                    )
                );
                work && stood.injector == one.injector && stood.at() > one.at
            });
            one.of_injector = !newer && !worked;
            one.of_cylinder = !newer;
        }
    }

    /// Injectors whose code the control unit was not given, on one that asks for codes.
    fn codes(&mut self) {
        let intake = &self.file.job.intake;
        if !intake.fuel_system.coded() {
            return;
        }
        let fitted = self.file.events.iter().filter_map(|record| {
            let Event::Replaced { injector, .. } = &record.event else { return None };
            Some((injector.id, record.signed.moment()))
        });
        let fitted: Vec<(Uuid, Moment)> = fitted.collect();
        let read = |record: &EventRecord| matches!(record.event, Event::CodesRead { .. });
        let read = self.file.events.iter().rfind(|one| read(one)).map(|one| one.signed.moment());
        let Some(last) = self.file.moved_at().or(read) else { return };
        let slots = coding(self.file).slots;
        if self.file.moved_at().is_none() && mirrored(&slots) {
            let from = From {
                check: "coded",
                at: last,
                says: words::CODES_MIRRORED,
                would: words::WHICH_END,
            };
            for seat in self.file.seats(None) {
                let (cylinder, injector) = (Some(seat.cylinder), Some(seat.injector));
                self.push(from, &Said::new(Code::DOUBTFUL), cylinder, injector);
            }
            return;
        }
        for seat in self.file.seats(None) {
            let new = fitted.iter().rfind(|(id, _)| *id == seat.injector);
            let code = match new {
                Some(_) => outcomes::NEW_UNCODED,
                None if seat.cylinder != seat.came_from => outcomes::MOVED_UNCODED,
                None => {
                    self.as_found(&slots, &seat, last);
                    continue;
                }
            };
            // A code that was read back in its slot has arrived.
            let fits = slots
                .iter()
                .any(|slot| slot.cylinder == seat.cylinder && slot.state == SlotState::Fits);
            let out = if intake.story.lately.contains(&Lately::InjectorsOut) {
                words::INJECTORS_OUT_BEFORE_TOO
            } else {
                ""
            };
            let says = match (fits, new) {
                (true, _) => words::trim_code_cylinder_read(seat.cylinder),
                (false, Some(_)) => words::new_injector_went_into(seat.cylinder),
                (false, None) => {
                    words::injector_cylinder_came_trim(seat.cylinder, seat.came_from, out)
                }
            };
            let said = Said::new(if fits { outcomes::CODE_FITS } else { code });
            let at = new.map_or(last, |(_, at)| *at);
            let from = From { check: "coded", at, says: &says, would: "" };
            self.push(from, &said, Some(seat.cylinder), Some(seat.injector));
        }
    }

    /// An injector that did not move in this job: what the control unit holds for it, as it was read.
    fn as_found(&mut self, slots: &[SlotView], seat: &Seat, at: Moment) {
        let Some(slot) = slots.iter().find(|slot| slot.cylinder == seat.cylinder) else { return };
        let code = match slot.state {
            SlotState::Fits => outcomes::CODE_FITS,
            SlotState::Differs | SlotState::Elsewhere | SlotState::Empty => outcomes::MOVED_UNCODED,
            SlotState::NotKnown | SlotState::NotRead | SlotState::NotCaptured => return,
        };
        let says = words::trim_code_as_found(seat.cylinder, &slot.says);
        let from = From { check: "coded", at, says: &says, would: "" };
        self.push(from, &Said::new(code), Some(seat.cylinder), Some(seat.injector));
    }
}

/// Cylinder and injector that a reading is about by now, and for which of them it counts. What is of the
/// injector goes with it into its cylinder of now, what is of the cylinder is of whoever sits there.
fn whose(one: &Stood, seats: &[Seat]) -> (Option<u32>, Option<Uuid>, bool, bool) {
    let counts = |half: Option<Standing>| half.is_some_and(Standing::counts);
    let (injector, cylinder) = (counts(one.of_injector), counts(one.of_cylinder));
    match one.of() {
        Of::All => (None, None, one.here.counts(), one.here.counts()),
        Of::Both => (one.cylinder, one.injector, injector, cylinder),
        Of::Injector => {
            let sits = seats.iter().find(|seat| Some(seat.injector) == one.injector);
            let here = sits.map(|seat| seat.cylinder).or(one.cylinder);
            (here, one.injector, injector, injector && sits.is_some())
        }
        Of::Cylinder => {
            let sits = seats.iter().find(|seat| Some(seat.cylinder) == one.cylinder);
            (one.cylinder, sits.map(|seat| seat.injector), cylinder, cylinder)
        }
    }
}

/// The reading, as it is once its unit and its decimal are sure.
fn without_slip(said: &Said) -> Said {
    let mut said = said.clone();
    said.lacks.retain(|lack| *lack != Lack::LikeSlip);
    said
}

/// What looked like a slip of the pen and was read again as before is none; until then it says nothing.
fn read_twice(list: &mut [Finding]) {
    for i in 0..list.len() {
        let one = &list[i];
        let before = |other: &Finding| {
            other.check == one.check
                && other.code == one.code
                && other.injector == one.injector
                && other.at < one.at
        };
        if one.lacks.contains(&Lack::LikeSlip) && list.iter().any(before) {
            list[i].lacks.retain(|lack| *lack != Lack::LikeSlip);
        } else if list[i].lacks.contains(&Lack::LikeSlip) {
            list[i].quality *= Lack::LikeSlip.leaves();
        }
    }
}

/// The newest fault that all share, as far as it still stands.
pub(super) fn shared_fault(findings: &[Finding]) -> Option<&Finding> {
    let held = findings.iter().filter(|one| one.of_cylinder && one.of_injector);
    held.filter(|one| one.cylinder.is_none() && one.code.is_fault()).max_by_key(|one| one.at)
}

/// A new injector that reads as odd, the same way, as the one did that it took the place of.
fn new_as_before(file: &JobFile, list: &mut [Finding]) {
    for record in &file.events {
        let Event::Replaced { injector, .. } = &record.event else { continue };
        let place = Some(injector.cylinder);
        for i in 0..list.len() {
            let now = &list[i];
            if now.injector != Some(injector.id) || !now.code.weighs() {
                continue;
            }
            let before = list.iter().rfind(|one| {
                one.check == now.check && one.cylinder == place && one.at <= record.signed.moment()
            });
            let same = before.is_some_and(|one| one.code == now.code);
            let worse = before.is_some_and(|one| !one.code.departs() && one.code.weighs());
            let new = if same { NewReads::Alike } else { NewReads::Worse };
            list[i].as_before = Some(new).filter(|_| (same || worse) && now.code.departs());
        }
    }
}

/// The injector of each cylinder by now.
pub(super) fn sitting(file: &JobFile) -> Vec<(u32, Uuid)> {
    file.seats(None).into_iter().map(|seat| (seat.cylinder, seat.injector)).collect()
}
