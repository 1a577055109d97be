//! The codes of a job as they stand: slot by slot what is stored, what belongs there, and what is
//! not known.

use super::SlotCode;
use crate::codes::words;
use crate::record::{Event, EventRecord, JobFile, Moment, Seat, WriteEnd};
use crate::words::cylinders;
use crate::work::Decision;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// How a slot stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SlotState {
    /// Read back, and it is the code of the injector that sits there.
    Fits,
    /// Another code is stored.
    Differs,
    /// The code of an injector that sits elsewhere.
    Elsewhere,
    /// Nothing is stored.
    Empty,
    /// A write was begun and never read back.
    NotKnown,
    /// The unit was not read yet.
    NotRead,
    /// The code of the injector was not captured.
    NotCaptured,
}

/// One cylinder.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct SlotView {
    /// Cylinder number.
    pub cylinder: u32,
    /// The number that the control unit has for it.
    pub number: u32,
    /// The injector that sits there.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// The cylinder that it came in.
    pub came_from: u32,
    /// As first read: the code as found.
    pub found: Option<String>,
    /// As last read.
    pub stored: Option<String>,
    /// The code of the injector.
    pub own: Option<String>,
    /// How it stands.
    pub state: SlotState,
    /// In a sentence.
    pub says: String,
}

/// Every code stands with the injector at the other end: more likely counted from the wrong end than exchanged.
pub fn mirrored(slots: &[SlotView]) -> bool {
    let turned = slots.iter().rev().map(|slot| slot.own.as_deref());
    let stored = slots.iter().map(|slot| slot.stored.as_deref());
    let fits = slots.iter().all(|slot| slot.state == SlotState::Fits);
    slots.len() >= 3 && !fits && turned.zip(stored).all(|(own, held)| own.is_some() && own == held)
}

/// One code that has to be written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Write {
    /// Cylinder.
    pub cylinder: u32,
    /// What is stored there as last read.
    pub from: Option<String>,
    /// What belongs there.
    pub to: String,
}

/// A write that was begun and has no end that was read back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Unfinished {
    /// The event that began it.
    pub id: Uuid,
    /// What was to be written.
    pub writes: Vec<SlotCode>,
    /// What was stored there before, to put back.
    pub before: Vec<SlotCode>,
    /// What happened, in a sentence.
    pub says: String,
}

/// All of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Coding {
    /// The control unit knows injectors by codes.
    pub coded: bool,
    /// By cylinder number.
    pub slots: Vec<SlotView>,
    /// What has to be written, by cylinder.
    pub plan: Vec<Write>,
    /// A write without an end.
    pub unfinished: Option<Unfinished>,
    /// What the newest write, when it did not end well, took away: to be put back.
    pub put_back: Vec<SlotCode>,
    /// The unit was read at least once.
    pub read: bool,
    /// In a sentence: what the eye has to read first.
    pub says: String,
    /// Two injectors with the same code, and the like.
    pub warnings: Vec<String>,
}

/// The newest write that was begun, with what was stored before it.
struct Begun<'a> {
    event: &'a EventRecord,
    writes: &'a [SlotCode],
    before: BTreeMap<u32, Option<&'a str>>,
}

/// What events say about codes.
#[derive(Default)]
struct Told<'a> {
    found: Option<&'a [SlotCode]>,
    stored: BTreeMap<u32, Option<&'a str>>,
    own: BTreeMap<Uuid, &'a str>,
    begun: Option<Begun<'a>>,
    /// Slots that were written and not read since, with the time of the write.
    unknown: BTreeMap<u32, Moment>,
    end: Option<&'a WriteEnd>,
}

/// How the codes of a job stand.
pub fn coding(file: &JobFile) -> Coding {
    let told = told(file);
    let seats = file.seats(None);
    let numbers = file.unit_numbers();
    let mut slots: Vec<SlotView> = seats.iter().map(|seat| slot(seat, &seats, &told)).collect();
    for slot in &mut slots {
        let at = numbers.iter().position(|cylinder| *cylinder == slot.cylinder);
        slot.number = at.map_or(slot.cylinder, |at| at as u32 + 1);
    }
    let plan: Vec<Write> = slots
        .iter()
        .filter(|slot| match slot.state {
            SlotState::Differs | SlotState::Elsewhere | SlotState::Empty | SlotState::NotKnown => {
                true
            }
            SlotState::Fits | SlotState::NotRead | SlotState::NotCaptured => false,
        })
        .filter_map(|slot| {
            let (from, to) = (slot.stored.clone(), slot.own.clone()?);
            Some(Write { cylinder: slot.cylinder, from, to })
        })
        .collect();
    let put_back = put_back(&told);
    let unfinished = told.begun.as_ref().filter(|_| !told.unknown.is_empty()).map(|begun| {
        let Begun { event, writes, before } = begun;
        let of = |slot: &u32| before.get(slot).copied().flatten().map(str::to_owned);
        let open: Vec<u32> = told.unknown.keys().copied().collect();
        let why = told
            .end
            .map(|end| end.says.clone())
            .unwrap_or_else(|| words::WRITE_NEVER_FINISHED_RECORD.to_owned());
        Unfinished {
            id: event.id,
            writes: writes.to_vec(),
            before: writes
                .iter()
                .map(|one| SlotCode { cylinder: one.cylinder, code: of(&one.cylinder) })
                .collect(),
            says: words::stored_code_unknown_read(&why, cylinders(&open)),
        }
    });
    let read = told.found.is_some();
    let coded = file.job.intake.fuel_system.coded();
    Coding {
        says: says(coded, &slots, &plan, unfinished.as_ref(), read, &file.recoded()),
        warnings: warnings(&slots),
        coded,
        slots,
        plan,
        unfinished,
        put_back,
        read,
    }
}

/// Codes that stood there before the newest write and do not any more, where it did not end well.
fn put_back(told: &Told<'_>) -> Vec<SlotCode> {
    let Some(Begun { before, .. }) = &told.begun else { return Vec::new() };
    if told.end.is_some_and(|end| end.good) {
        return Vec::new();
    }
    let changed = before.iter().filter(|(slot, code)| {
        code.is_some() && (told.unknown.contains_key(slot) || told.stored.get(slot) != Some(code))
    });
    let one = |(slot, code): (&u32, &Option<&str>)| SlotCode {
        cylinder: *slot,
        code: code.map(str::to_owned),
    };
    changed.map(one).collect()
}

fn told(file: &JobFile) -> Told<'_> {
    let mut told = Told::default();
    for record in &file.events {
        let event = &record.event;
        if let Event::CodesRead { slots, .. } = event {
            told.found.get_or_insert(slots);
            for one in slots {
                told.stored.insert(one.cylinder, one.code.as_deref());
                told.unknown.remove(&one.cylinder);
            }
        } else if let Event::CodeCaptured { injector, code, .. } = event {
            told.own.insert(*injector, code);
        } else if let Event::WriteBegun { writes } = event {
            let before = told.stored.clone();
            told.begun = Some(Begun { event: record, writes, before });
            told.end = None;
            told.unknown.extend(writes.iter().map(|one| (one.cylinder, record.signed.moment())));
        } else if let Event::WriteEnded(end) = event {
            told.end = Some(end);
        } else if matches!(event, Event::UnitNumbered { .. }) {
            // What was read or written by another count says nothing about these cylinders.
            let own = std::mem::take(&mut told.own);
            told = Told { own, ..Told::default() };
        }
    }
    told
}

fn slot(seat: &Seat, seats: &[Seat], told: &Told<'_>) -> SlotView {
    let cylinder = seat.cylinder;
    let stored = told.stored.get(&cylinder).copied();
    let own = told.own.get(&seat.injector).copied();
    let found = told.found.and_then(|found| found.iter().find(|one| one.cylinder == cylinder));
    let other = |code: &str| {
        seats.iter().find(|held| {
            held.injector != seat.injector && told.own.get(&held.injector) == Some(&code)
        })
    };
    let (state, says) = match (told.unknown.contains_key(&cylinder), stored, own) {
        (true, ..) => (SlotState::NotKnown, words::WRITTEN_BUT_NOT_READ.to_owned()),
        (false, _, None) => (SlotState::NotCaptured, words::TRIM_CODE_NOT_CAPTURED.to_owned()),
        (false, None, Some(_)) => (SlotState::NotRead, words::ECU_NOT_READ_YET.to_owned()),
        (false, Some(None), Some(_)) => (SlotState::Empty, words::NO_TRIM_CODE_STORED.to_owned()),
        (false, Some(Some(stored)), Some(own)) if stored == own => {
            (SlotState::Fits, words::READ_BACK_TRIM_CODE.to_owned())
        }
        (false, Some(Some(stored)), Some(_)) => match other(stored) {
            Some(held) => (SlotState::Elsewhere, words::trim_code_injector_cylinder(held.cylinder)),
            None => (SlotState::Differs, words::DIFFERENT_TRIM_CODE_STORED.to_owned()),
        },
    };
    SlotView {
        cylinder,
        number: cylinder,
        injector: seat.injector,
        label: seat.label.clone(),
        came_from: seat.came_from,
        found: found.and_then(|one| one.code.clone()),
        stored: stored.flatten().map(str::to_owned),
        own: own.map(str::to_owned),
        state,
        says,
    }
}

fn says(
    coded: bool,
    slots: &[SlotView],
    plan: &[Write],
    unfinished: Option<&Unfinished>,
    read: bool,
    touched: &[u32],
) -> String {
    if !coded {
        return words::KIND_ECU_USES_NO.to_owned();
    }
    if let Some(open) = unfinished {
        return open.says.clone();
    }
    if !read {
        return words::READ_STORED_TRIM_CODES.to_owned();
    }
    // Where somebody worked, only the codes of those are asked for.
    let open = slots.iter().filter(|slot| slot.state == SlotState::NotCaptured);
    let open: Vec<u32> = open.map(|slot| slot.cylinder).collect();
    let wanted = |c: &u32| touched.is_empty() || touched.contains(c);
    let missing: Vec<u32> = open.iter().copied().filter(wanted).collect();
    let to_write: Vec<u32> = plan.iter().map(|one| one.cylinder).collect();
    match (to_write.as_slice(), missing.as_slice()) {
        ([], []) if open.is_empty() => words::EVERY_CYLINDER_TRIM_CODE.to_owned(),
        ([], []) => words::EVERY_CYLINDER_WORKED_ON.to_owned(),
        ([], missing) => words::capture_trim_code(cylinders(missing).to_lowercase()),
        (write, []) => words::written(cylinders(write)),
        (write, missing) => {
            words::written_trim_code_still(cylinders(write), cylinders(missing).to_lowercase())
        }
    }
}

impl JobFile {
    /// Cylinders that hold another injector than they came with, were written to, or are to be recoded.
    pub(crate) fn recoded(&self) -> Vec<u32> {
        let moved = self.seats(None).into_iter().filter(|seat| !self.sits_as_it_came(seat));
        let mut all: Vec<u32> = moved.map(|seat| seat.cylinder).collect();
        for record in &self.events {
            if let Event::WriteBegun { writes } = &record.event {
                all.extend(writes.iter().map(|one| one.cylinder));
            }
        }
        let newest = |c: &u32| self.decisions.iter().rfind(|one| one.cylinder == *c);
        let decided = (1..=self.job.intake.layout.cylinders)
            .filter(|c| newest(c).is_some_and(|one| one.decision == Decision::Recode));
        all.extend(decided);
        all.sort_unstable();
        all.dedup();
        all
    }
}

fn warnings(slots: &[SlotView]) -> Vec<String> {
    if mirrored(slots) {
        return vec![words::CODES_FROM_THE_OTHER_END.to_owned()];
    }
    let mut by: BTreeMap<&str, Vec<u32>> = BTreeMap::new();
    for slot in slots {
        if let Some(own) = slot.own.as_deref() {
            by.entry(own).or_default().push(slot.cylinder);
        }
    }
    by.into_iter()
        .filter(|(_, of)| of.len() > 1)
        .map(|(code, of)| words::same_trim_code_unlikely(cylinders(&of), code))
        .collect()
}
