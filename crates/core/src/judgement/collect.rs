//! From verdicts to findings: every check of a job in one list, bound to injector and cylinder.
//!
//! A lane says a code, and the code is all that is read here. Of the same check the newest holds,
//! for the cylinder and for the injector by themselves: an injector that was moved keeps what was
//! read of it, a cylinder keeps what was read there. What was read before an injector was cleaned
//! or adjusted, or before a fault that all share was put right, speaks of the state before.

use super::finding::Finding;
use super::weights::{CheckRow, Weights};
use crate::codes::{SlotState, SlotView, coding};
use crate::judged::Judged;
use crate::judgement::words;
use crate::record::{Event, EventRecord, JobFile, Moment, ReadingKind, Seat, SheetRecord};
use crate::said::{Code, Lack, Said};
use crate::tests::Verdict;
use crate::tests::bench::{BenchTest, RoundStage, SessionRecord};
use crate::tests::outcomes;
use crate::tests::swap::SwapSays;
use crate::work::Lately;
use uuid::Uuid;

/// Everything that was found, oldest first.
pub(super) fn collect(weights: &Weights, file: &JobFile, judged: &Judged) -> Vec<Finding> {
    let mut found = Found { weights, file, list: Vec::new() };
    found.returns(judged);
    for (record, verdict) in file.sheets.iter().zip(&judged.sheets) {
        if let Ok(verdict) = verdict {
            found.sheet(record, verdict);
        }
    }
    found.swaps(judged);
    found.codes();
    for (session, judged) in file.bench.iter().zip(&judged.benches) {
        found.bench(session, judged);
    }
    let mut list = found.list;
    list.sort_by_key(|one| one.at);
    held(weights, file, &mut list);
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
        if said.code == Code::NOT_READ {
            return;
        }
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
            quality: said.quality(),
            of_injector: true,
            of_cylinder: true,
            as_before: false,
        });
    }

    fn lane(&mut self, from: From<'_>, said: &Said, cylinder: u32) {
        let injector = self.file.injector_at(Some(cylinder), from.at);
        self.push(from, said, Some(cylinder), injector);
    }

    fn returns(&mut self, judged: &Judged) {
        for (test, verdict) in self.file.return_tests.iter().zip(&judged.verdicts) {
            let readings = test.counting().flat_map(|run| &run.readings);
            let levels = readings.filter(|r| r.kind != ReadingKind::RunTime);
            let Some(at) = levels.map(|r| r.signed.moment()).max() else { continue };
            for lane in &verdict.lanes {
                let would = lane.would_change.first().map_or("", String::as_str);
                let from = From { check: "return_test", at, says: &lane.sentence, would };
                self.lane(from, &lane.said, lane.place);
            }
            if let Some(said) = &verdict.shared {
                let from = From {
                    check: "crank_total",
                    at,
                    says: verdict.advice.first().map_or("", String::as_str),
                    would: "",
                };
                self.push(from, said, None, None);
            }
        }
    }

    fn sheet(&mut self, record: &SheetRecord, verdict: &Verdict) {
        let Some(at) = record.readings.iter().map(|r| r.signed.moment()).max() else { return };
        let check = record.check.name();
        if let Some(said) = &verdict.shared {
            let from = From { check, at, says: &verdict.headline, would: "" };
            self.push(from, said, None, None);
        }
        let for_all = verdict.shared.as_ref().is_some_and(|said| said.code.is_fault());
        for lane in &verdict.lanes {
            let would = lane.would_change.first().map_or("", String::as_str);
            let from = From { check, at, says: &lane.sentence, would };
            if for_all && lane.said.code.weighs() {
                // What all show is said once, of all; what was said of each before is over.
                self.lane(from, &Said::new(Code::NOTED), lane.place);
            } else {
                self.lane(from, &lane.said, lane.place);
            }
        }
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

    fn bench(&mut self, session: &SessionRecord, judged: &crate::tests::bench::BenchJudged) {
        let seats = self.file.seats(None);
        for held in &judged.verdicts {
            // A test without outcomes prepares, and finds nothing.
            let says = held.test.outcomes().first().and_then(|code| self.weights.check_of(*code));
            let (Some(verdict), Some(row)) = (&held.verdict, says) else { continue };
            let check = row.id.as_str();
            let read = session.cells.iter().filter(|cell| cell.round == held.round);
            let round = session.rounds.iter().find(|round| round.id == held.round);
            let Some(at) =
                read.map(|c| c.signed.moment()).max().or(round.map(|r| r.signed.moment()))
            else {
                continue;
            };
            for tagged in session.injectors.iter().filter(|one| one.job == self.file.job.id) {
                let Some(lane) = verdict.lanes.iter().find(|lane| lane.place == tagged.tag) else {
                    continue;
                };
                let seat = seats.iter().find(|seat| seat.injector == tagged.injector);
                let cylinder = seat.map_or(tagged.cylinder, |seat| seat.cylinder);
                let would = lane.would_change.first().map_or("", String::as_str);
                let from = From { check, at, says: &lane.sentence, would };
                self.push(from, &lane.said, Some(cylinder), Some(tagged.injector));
            }
        }
    }
}

/// What looked like a slip of the pen and was read again as before is none.
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
            list[i].quality /= Lack::LikeSlip.leaves();
        }
    }
}

/// Marks what newer readings, work and repairs have made past.
fn held(weights: &Weights, file: &JobFile, list: &mut [Finding]) {
    new_as_before(file, list);
    read_twice(list);
    let fixed = fixed_at(list);
    for i in 0..list.len() {
        let one = &list[i];
        let newer = |other: &&Finding| other.check == one.check && other.at > one.at;
        let row = weights.checks().iter().find(|row| row.id == one.check);
        let mut of_injector = one.of_injector;
        let mut of_cylinder = one.of_cylinder;
        for other in list.iter().filter(newer) {
            if one.cylinder.is_none() && one.injector.is_none() {
                let shared = other.cylinder.is_none() && other.injector.is_none();
                of_cylinder &= !shared;
                of_injector &= !shared;
            }
            of_injector &= one.injector.is_none() || other.injector != one.injector;
            of_cylinder &= one.cylinder.is_none() || other.cylinder != one.cylinder;
        }
        let lasts = row.is_some_and(|row| row.lasts);
        let worked = one.injector.and_then(|id| worked_at(file, id));
        of_injector &= lasts || worked.is_none_or(|at| one.at >= at);
        // A running engine on a fault that all share says nothing of one place.
        if fixed.is_some_and(|at| one.at < at) && row.is_some_and(is_of_the_engine) {
            of_injector &= one.cylinder.is_none();
            of_cylinder &= one.cylinder.is_none();
        }
        list[i].of_injector = of_injector;
        list[i].of_cylinder = of_cylinder;
    }
}

fn is_of_the_engine(row: &CheckRow) -> bool {
    row.running && !row.shared
}

/// When a fault that all share was last found to be gone by the check that had found it.
fn fixed_at(list: &[Finding]) -> Option<Moment> {
    let shared = list.iter().filter(|one| one.cylinder.is_none() && one.injector.is_none());
    let good = shared.clone().filter(|one| one.code.is_good());
    good.filter(|good| {
        let before = shared.clone().filter(|one| one.check == good.check && one.at < good.at);
        before.max_by_key(|one| one.at).is_some_and(|one| one.code.is_fault())
    })
    .map(|good| good.at)
    .max()
}

/// The newest fault that all share, as far as it still stands.
pub(super) fn shared_fault(findings: &[Finding]) -> Option<&Finding> {
    let held = findings.iter().filter(|one| one.of_cylinder && one.of_injector);
    held.filter(|one| one.cylinder.is_none() && one.code.is_fault()).max_by_key(|one| one.at)
}

/// When this injector was last cleaned or adjusted on a bench.
fn worked_at(file: &JobFile, injector: Uuid) -> Option<Moment> {
    let of = |session: &SessionRecord| {
        let tag = session.injectors.iter().find(|one| one.injector == injector)?.tag;
        let round = session.rounds.iter().rfind(|round| {
            let mut cells =
                session.cells.iter().filter(|cell| cell.round == round.id && cell.tag == Some(tag));
            match round.stage {
                RoundStage::Cleaned => !cells.any(|cell| {
                    cell.test == BenchTest::Cleaning
                        && cell.cell == "left_out"
                        && cell.value == Some(1.0)
                }),
                RoundStage::Adjusted => {
                    cells.any(|cell| matches!(cell.test, BenchTest::Lift | BenchTest::Parts))
                }
                RoundStage::Received | RoundStage::Final => false,
            }
        })?;
        Some(round.signed.moment())
    };
    file.bench.iter().filter_map(of).max()
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
            list[i].as_before = same && now.code.departs();
        }
    }
}

/// The injector of each cylinder by now.
pub(super) fn sitting(file: &JobFile) -> Vec<(u32, Uuid)> {
    file.seats(None).into_iter().map(|seat| (seat.cylinder, seat.injector)).collect()
}
