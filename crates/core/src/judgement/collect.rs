//! From verdicts to findings: every check of a job in one list, bound to injector and cylinder.
//!
//! Of the same check at the same place the newest holds. A lane that cannot carry a decision is
//! kept too, without a code: it asks to be measured again.

use super::finding::{Code, Finding};
use crate::bench::{BenchLane, BenchTest, SessionRecord};
use crate::checks::Outcome;
use crate::checks::return_test::LaneVerdict;
use crate::checks::sheet::{SheetId, SheetLane, SheetVerdict};
use crate::checks::swap::SwapSays;
use crate::codes::{SlotState, coding};
use crate::mark::Mark;
use crate::places::coded;
use crate::record::{Event, JobFile, Judged, ReadingKind, SheetRecord};
use crate::work::{Decision, Lately};
use jiff::Timestamp;
use uuid::Uuid;

/// How far above the top of its window a coil is open and not only high (house rule).
const OPEN_TIMES: f64 = 5.0;

/// Everything that was found, oldest first.
pub(super) fn collect(file: &JobFile, judged: &Judged) -> Vec<Finding> {
    let mut found = Vec::new();
    returns(file, judged, &mut found);
    for (record, verdict) in file.sheets.iter().zip(&judged.sheets) {
        if let Ok(verdict) = verdict {
            sheet(file, record, verdict, &mut found);
        }
    }
    swaps(file, judged, &mut found);
    moved(file, &mut found);
    for session in &file.bench {
        bench(file, session, &mut found);
    }
    newest(found)
}

/// The newest of each check at each place. What a check says of all takes the place of what it said
/// of each before, and the other way round.
fn newest(mut found: Vec<Finding>) -> Vec<Finding> {
    found.sort_by_key(|one| one.at);
    let key = |one: &Finding| (one.check.clone(), one.cylinder, one.injector);
    let mut held: Vec<Finding> = Vec::new();
    for one in found {
        held.retain(|before| {
            let other_way = before.cylinder.is_none() != one.cylinder.is_none();
            let older = before.check == one.check && before.at < one.at;
            key(before) != key(&one) && !(other_way && older)
        });
        held.push(one);
    }
    held
}

/// A lane of a check made into a finding at this moment.
struct At<'a> {
    file: &'a JobFile,
    check: &'a str,
    at: Timestamp,
}

impl At<'_> {
    fn lane(&self, cylinder: u32, code: Option<Code>, says: &str, would: &[String]) -> Finding {
        Finding {
            code,
            check: self.check.to_owned(),
            cylinder: Some(cylinder),
            injector: self.file.injector_at(Some(cylinder), self.at),
            at: self.at,
            says: says.to_owned(),
            would: would.first().cloned().unwrap_or_default(),
        }
    }

    fn all(&self, code: Option<Code>, says: &str) -> Finding {
        Finding {
            code,
            check: self.check.to_owned(),
            cylinder: None,
            injector: None,
            at: self.at,
            says: says.to_owned(),
            would: String::new(),
        }
    }
}

fn returns(file: &JobFile, judged: &Judged, found: &mut Vec<Finding>) {
    for (test, verdict) in file.return_tests.iter().zip(&judged.verdicts) {
        let readings = test.counting().flat_map(|run| &run.readings);
        let levels = readings.filter(|r| r.kind != ReadingKind::RunTime);
        let Some(at) = levels.map(|r| r.signed.at).max() else { continue };
        let at = At { file, check: "return_test", at };
        for lane in verdict.lanes.iter().filter(|l| l.mark != Mark::NotMeasured) {
            let code = match lane.mark {
                Mark::TooMuch => Some(Code::ReturnHigh),
                Mark::Look => Some(Code::ReturnRaised),
                Mark::Inside => Some(Code::ReturnAlike),
                Mark::TooLittle => Some(Code::ReturnLow),
                Mark::Undecided | Mark::Questioned | Mark::NotMeasured => None,
            };
            found.push(at.lane(lane.cylinder, code, &lane.sentence, &open(lane)));
        }
    }
}

/// What the return test itself still asks for, where it would not replace on what it has.
fn open(lane: &LaneVerdict) -> Vec<String> {
    if lane.proposal.decision == Decision::MeasureAgain {
        return vec![lane.proposal.reason.clone()];
    }
    Vec::new()
}

fn sheet(file: &JobFile, record: &SheetRecord, verdict: &SheetVerdict, found: &mut Vec<Finding>) {
    let Some(at) = record.readings.iter().map(|r| r.signed.at).max() else { return };
    let at = At { file, check: record.check.name(), at };
    let lanes: Vec<&SheetLane> =
        verdict.lanes.iter().filter(|lane| lane.mark != Mark::NotMeasured).collect();
    if let Some(code) = shared(record.check, verdict, &lanes) {
        found.push(at.all(code, &verdict.headline));
        // What all plugs show is said once, of all.
        if record.check == SheetId::Supply {
            return;
        }
    }
    for lane in lanes {
        if let Some((check, code)) = of_lane(record, verdict, lane) {
            let at = At { check, ..at };
            // A doubt over the whole check condemns nobody, and clears nobody.
            if !verdict.doubt.is_empty() {
                let would = std::slice::from_ref(&verdict.doubt);
                found.push(at.lane(lane.cylinder, None, &lane.sentence, would));
                continue;
            }
            found.push(at.lane(lane.cylinder, code, &lane.sentence, &lane.would_change));
        }
    }
}

/// What a check says of all cylinders at once; none where it speaks of each, or was not read.
fn shared(check: SheetId, verdict: &SheetVerdict, lanes: &[&SheetLane]) -> Option<Option<Code>> {
    let by = |fault, hint, clear| match verdict.outcome {
        Outcome::Open => None,
        Outcome::Fault => Some(Some(fault)),
        Outcome::Hint => Some(hint),
        Outcome::Clear => Some(Some(clear)),
    };
    match check {
        SheetId::FuelSample => by(Code::FuelBad, Some(Code::FuelDoubtful), Code::FuelGood),
        SheetId::SuctionAir => by(Code::AirDrawn, Some(Code::AirSome), Code::AirNone),
        SheetId::LowPressure => by(Code::FeedOff, None, Code::FeedGood),
        SheetId::RailRelief => by(Code::ReliefRuns, None, Code::ReliefDry),
        SheetId::SharedCauses => by(Code::SharedFault, None, Code::SharedGood),
        SheetId::Supply => {
            let all = |word: &str| lanes.len() > 1 && lanes.iter().all(|lane| lane.word == word);
            let read = lanes.len() == verdict.lanes.len();
            [
                ("none", Code::SupplyNoneAnywhere),
                ("low", Code::SupplyCommonLow),
                ("present", Code::SupplyPresent),
            ]
            .into_iter()
            .find_map(|(word, code)| (read && all(word)).then_some(Some(code)))
        }
        SheetId::Compression
        | SheetId::Indicator
        | SheetId::CoilResistance
        | SheetId::PiezoStack
        | SheetId::Insulation
        | SheetId::PressureDrop
        | SheetId::DiBalance
        | SheetId::Cutout => None,
    }
}

/// The row of the weights that a lane belongs to, and its finding there.
fn of_lane(
    record: &SheetRecord,
    verdict: &SheetVerdict,
    lane: &SheetLane,
) -> Option<(&'static str, Option<Code>)> {
    let by =
        |high: Option<Code>, low: Option<Code>, look: Option<Code>, alike: Code| match lane.mark {
            Mark::TooMuch => high,
            Mark::TooLittle => low,
            Mark::Look => look,
            Mark::Inside => Some(alike),
            Mark::Undecided | Mark::Questioned | Mark::NotMeasured => None,
        };
    Some(match record.check {
        SheetId::Compression => {
            let cranked = verdict.unit == "relative";
            if cranked {
                let code = by(None, Some(Code::CompressionHint), None, Code::CompressionEven);
                ("compression_crank", code)
            } else {
                let code = by(None, Some(Code::CompressionLow), None, Code::CompressionAlike);
                ("compression", code)
            }
        }
        SheetId::Supply => {
            let code = match lane.word.as_str() {
                "none" => Some(Code::SupplyNone),
                "low" => Some(Code::SupplyLow),
                "present" => Some(Code::SupplyPresent),
                _ => None,
            };
            ("supply", code)
        }
        SheetId::Indicator => {
            let code = match lane.word.as_str() {
                "dark" => Some(Code::LampDark),
                "silent" => Some(Code::Silent),
                "moves" => Some(Code::Moves),
                "lit" => Some(Code::Lit),
                _ => None,
            };
            ("indicator", code)
        }
        SheetId::CoilResistance => {
            let top = verdict.window.and_then(|[_, upper]| upper);
            let open = lane.value.zip(top).is_some_and(|(ohm, top)| ohm > OPEN_TIMES * top);
            let high = if open { Code::CoilOpen } else { Code::CoilHigh };
            let code = by(Some(high), Some(Code::CoilLow), Some(Code::CoilOdd), Code::CoilGood);
            ("coil_resistance", code)
        }
        SheetId::PiezoStack => {
            let off = Some(Code::StackOff);
            ("piezo_stack", by(off, off, None, Code::StackGood))
        }
        SheetId::Insulation => {
            let leaks = Some(Code::InsulationLeaks);
            ("insulation", by(leaks, leaks, None, Code::InsulationGood))
        }
        SheetId::Cutout => match lane.word.as_str() {
            "weak fuel" => ("cutout_beside", Some(Code::CutWeakFuel)),
            "mechanical" => ("cutout_beside", Some(Code::CutMechanical)),
            _ => ("cutout", by(None, Some(Code::CutWeak), None, Code::CutAlike)),
        },
        SheetId::DiBalance => {
            let code = by(Some(Code::DiMore), Some(Code::DiLess), None, Code::DiAlike);
            ("di_balance", code)
        }
        SheetId::PressureDrop => {
            let code = by(Some(Code::DropHigh), Some(Code::DropLow), None, Code::DropAlike);
            ("pressure_drop", code)
        }
        SheetId::FuelSample
        | SheetId::SuctionAir
        | SheetId::LowPressure
        | SheetId::RailRelief
        | SheetId::SharedCauses => return None,
    })
}

fn swaps(file: &JobFile, judged: &Judged, found: &mut Vec<Finding>) {
    for swap in &judged.swaps {
        let (from, to) = (swap.from, swap.to);
        let pairs = [(from, to), (to, from)].map(|(one, other)| Event::Swapped { one, other });
        let Some(event) = file.events.iter().rfind(|e| pairs.contains(&e.event)) else { continue };
        let (place, injector) = match swap.says {
            SwapSays::Follows => (Some(Code::SwapLeft), Some(Code::SwapFollows)),
            SwapSays::Stays => (Some(Code::SwapStays), Some(Code::SwapCleared)),
            SwapSays::Unclear => (None, None),
        };
        let next = std::slice::from_ref(&swap.next);
        let at = |check| At { file, check, at: event.signed.at };
        let mut stays = at("swap_place").lane(swap.from, place, &swap.headline, next);
        stays.injector = None;
        let moves = at("swap_injector").lane(swap.to, injector, &swap.headline, next);
        found.extend([stays, moves]);
    }
}

/// Injectors that sit where they did not come in, on a control unit that asks for their codes.
fn moved(file: &JobFile, found: &mut Vec<Finding>) {
    let intake = &file.job.intake;
    let coded = coded(intake.fuel_system);
    let Some(last) = file.moved_at().filter(|_| coded) else { return };
    let at = At { file, check: "moved", at: last };
    // A code that was read back in its new slot has arrived.
    let arrived = |cylinder: u32| {
        let slots = coding(file).slots;
        slots.iter().any(|slot| slot.cylinder == cylinder && slot.state == SlotState::Fits)
    };
    let moved = file.seats(None).into_iter().filter(|seat| seat.cylinder != seat.came_from);
    for seat in moved.filter(|seat| !arrived(seat.cylinder)) {
        let out = if intake.story.lately.contains(&Lately::InjectorsOut) {
            " Injectors were out before, too."
        } else {
            ""
        };
        let says = format!(
            "The injector in cylinder {} came from {}: its code stands in the other slot.{out}",
            seat.cylinder, seat.came_from
        );
        found.push(at.lane(seat.cylinder, Some(Code::MovedUncoded), &says, &[]));
    }
}

fn bench(file: &JobFile, session: &SessionRecord, found: &mut Vec<Finding>) {
    let seats = file.seats(None);
    let judged = session.judged(&[]);
    for held in &judged.verdicts {
        let Some(verdict) = &held.verdict else { continue };
        let read = session.cells.iter().filter(|cell| cell.round == held.round);
        let round = session.rounds.iter().find(|round| round.id == held.round);
        let Some(at) = read.map(|c| c.signed.at).max().or(round.map(|r| r.signed.at)) else {
            continue;
        };
        for tagged in session.injectors.iter().filter(|one| one.job == file.job.id) {
            let lane = verdict.lanes.iter().find(|lane| lane.tag == tagged.tag);
            let Some(lane) = lane.filter(|lane| lane.mark != Mark::NotMeasured) else { continue };
            let Some((check, code)) = of_bench(held.test, lane) else { continue };
            let seat = seats.iter().find(|seat| seat.injector == tagged.injector);
            let at = At { file, check, at };
            let cylinder = seat.map_or(tagged.cylinder, |seat| seat.cylinder);
            let mut one = at.lane(cylinder, code, &lane.sentence, &lane.would_change);
            one.injector = Some(tagged.injector);
            found.push(one);
        }
    }
}

/// The finding of a lane on the bench; none for tests that only prepare or release.
fn of_bench(test: BenchTest, lane: &BenchLane) -> Option<(&'static str, Option<Code>)> {
    let word = lane.word.as_str();
    let unsure = matches!(lane.mark, Mark::Undecided | Mark::Questioned);
    Some(match (test, lane.mark) {
        (BenchTest::Visual, mark) => {
            let code = match mark {
                Mark::Questioned if word == "seen" => Some(Code::SeenWorn),
                Mark::Look => Some(Code::SeenDirty),
                Mark::Inside => Some(Code::SeenSound),
                Mark::TooMuch
                | Mark::TooLittle
                | Mark::Undecided
                | Mark::Questioned
                | Mark::NotMeasured => None,
            };
            ("bench_visual", code)
        }
        (BenchTest::Leak, _) if unsure => ("bench_leak", None),
        (BenchTest::Leak, Mark::TooMuch) => ("bench_leak", Some(Code::BenchDrips)),
        (BenchTest::Leak, _) => ("bench_leak", Some(Code::BenchTight)),
        (BenchTest::Spray, _) if unsure => ("bench_spray", None),
        (BenchTest::Spray, Mark::TooMuch) => ("bench_spray", Some(Code::SprayRunsOn)),
        (BenchTest::Spray, Mark::TooLittle) => ("bench_spray", Some(Code::SprayJet)),
        (BenchTest::Spray, Mark::Look) => ("bench_spray", Some(Code::SprayOff)),
        (BenchTest::Spray, _) => ("bench_spray", Some(Code::SprayEven)),
        (BenchTest::Flow, _) if unsure => ("bench_flow", None),
        (BenchTest::Flow, Mark::TooLittle) if word == "low when short" => {
            ("bench_flow", Some(Code::FlowLessShort))
        }
        (BenchTest::Flow, Mark::TooLittle) => ("bench_flow", Some(Code::FlowLess)),
        (BenchTest::Flow, Mark::TooMuch) => ("bench_flow", Some(Code::FlowMore)),
        (BenchTest::Flow, Mark::Inside) => ("bench_flow", Some(Code::FlowAlike)),
        (BenchTest::Sweep, Mark::TooLittle) => ("bench_sweep", Some(Code::OpensLate)),
        (BenchTest::Sweep, Mark::Look) => ("bench_sweep", Some(Code::OpensEarly)),
        (BenchTest::Sweep, Mark::Inside) => ("bench_sweep", Some(Code::OpensAlike)),
        (BenchTest::Sweep, _) => ("bench_sweep", None),
        (BenchTest::Cleaning, Mark::TooMuch) => ("bench_cleaning", Some(Code::WornAfterCleaning)),
        (BenchTest::Cleaning, Mark::TooLittle) if word == "no more cycles" => {
            ("bench_cleaning", Some(Code::NoMoreCycles))
        }
        (BenchTest::Cleaning, Mark::TooLittle) => ("bench_cleaning", Some(Code::StillRestricted)),
        (BenchTest::Cleaning, Mark::Inside) => ("bench_cleaning", Some(Code::CameBack)),
        (BenchTest::Cleaning, _) => ("bench_cleaning", None),
        (BenchTest::Map, _) if unsure => ("bench_map", None),
        (BenchTest::Map, Mark::Inside) => ("bench_map", Some(Code::MapWithin)),
        (BenchTest::Map, _) => ("bench_map", map(word, lane.mark)),
        (BenchTest::Doser, _) if unsure => ("bench_doser", None),
        (BenchTest::Doser, Mark::TooMuch) if word.contains("leak") => {
            ("bench_doser", Some(Code::DoserLeaks))
        }
        (BenchTest::Doser, Mark::TooMuch) => ("bench_doser", Some(Code::DoserHigh)),
        (BenchTest::Doser, Mark::TooLittle) => ("bench_doser", Some(Code::DoserLow)),
        (BenchTest::Doser, Mark::Inside) => ("bench_doser", Some(Code::DoserWithin)),
        (BenchTest::Flow | BenchTest::Doser, _) => return None,
        (
            BenchTest::Drive
            | BenchTest::SupplyOffset
            | BenchTest::Lift
            | BenchTest::Parts
            | BenchTest::TrimCode,
            _,
        ) => return None,
    })
}

/// A pattern of the map in its word.
fn map(word: &str, mark: Mark) -> Option<Code> {
    if word.starts_with("return high") {
        Some(Code::MapReturnHigh)
    } else if word == "opens late" || word == "low at short pulses" {
        Some(Code::MapLate)
    } else if word.starts_with("low") || mark == Mark::TooLittle {
        Some(Code::MapLow)
    } else if word.starts_with("high") || mark == Mark::TooMuch {
        Some(Code::MapHigh)
    } else {
        None
    }
}

/// The injector of each cylinder by now.
pub(super) fn sitting(file: &JobFile) -> Vec<(u32, Uuid)> {
    file.seats(None).into_iter().map(|seat| (seat.cylinder, seat.injector)).collect()
}
