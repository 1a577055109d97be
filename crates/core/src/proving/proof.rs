//! The proof of a job: every item with how it stands, and whether the job may be closed.

use super::figure::{self, FigureProof};
use super::learn::{self, Learning};
use super::repeat::{PlaceState, Repeat, Repeated, Span, repeats};
use crate::caution::Caution;
use crate::codes::coding;
use crate::fitting::fitting;
use crate::judged::Judged;
use crate::library::TorqueStage;
use crate::named::named;
use crate::proving::words;
use crate::record::{Event, EventRecord, JobFile, Moment, Signed};
use crate::words::cylinders;
use crate::work::Decision;
use crate::work::{ProveId, Told};
use serde::Serialize;
use utoipa::ToSchema;

named! {
    /// How an item stands.
    ItemState {
        Open = open,
        Good = good,
        Failed = failed,
        Unsure = unsure,
        LeftOut = left_out,
    }
}

/// One item.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ProofItem {
    /// Which.
    pub id: ProveId,
    /// As read on the list.
    pub title: String,
    /// What to do.
    pub how: String,
    /// Before it is done.
    pub cautions: Vec<Caution>,
    /// How it stands.
    pub state: ItemState,
    /// In a sentence.
    pub says: String,
    /// Who told so, and when.
    pub signed: Option<Signed>,
    /// The program sees for itself; nobody ticks it as good.
    pub seen: bool,
    /// Who passes it says what was seen.
    pub needs_words: bool,
    /// It is told by what became of the complaint: gone, better or the same.
    pub asks_complaint: bool,
}

/// Whether the job is closed, or may be.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Closing {
    /// Closed by whom and when.
    pub closed: Option<Signed>,
    /// Why it is not gone on with; empty where it is open or was closed by its proof.
    pub cancelled: String,
    /// Nothing was left out: closed, or to be closed, as proven.
    pub proven: bool,
    /// What was left out with a reason.
    pub exceptions: Vec<String>,
    /// Why it cannot be closed now.
    pub refused: Option<String>,
    /// What changed since it was closed.
    pub since: Vec<String>,
    /// It was closed before and came back: the reason of the newest time.
    pub came_back: Option<String>,
}

/// The proof of a job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Proof {
    /// In the order of work.
    pub items: Vec<ProofItem>,
    /// Every test that showed a fault that was decided on, before and after.
    pub repeats: Vec<Repeat>,
    /// Places that were decided on or worked on, each with how its repair is proven.
    pub places: Vec<PlaceState>,
    /// Figures of the complaint, before and after.
    pub figures: Vec<FigureProof>,
    /// What the unit has learned since.
    pub learning: Option<Learning>,
    /// What comes next: the first item that is not settled.
    pub next: Option<ProveId>,
    /// In a sentence: what the eye has to read first.
    pub says: String,
    /// Whether the job is closed, or may be.
    pub closing: Closing,
}

/// How a job was closed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Closed<'a> {
    /// By whom, and when.
    pub signed: Signed,
    /// What was left out of the proof.
    pub left_out: &'a [ProveId],
    /// Why it is not gone on with; none where it was closed by its proof.
    pub cancelled: Option<&'a str>,
}

impl Closed<'_> {
    /// Proven, with nothing left out.
    pub fn proven(&self) -> bool {
        self.left_out.is_empty() && self.cancelled.is_none()
    }
}

fn span(file: &JobFile) -> Span {
    let reopened = file.came_back_at();
    let fresh = |at: &Moment| reopened.is_none_or(|reopened| *at >= reopened);
    let of = |wanted: fn(&Event) -> bool| {
        let found = file.events.iter().filter(move |record| wanted(&record.event));
        found.map(|record| record.signed.moment()).filter(fresh)
    };
    let works = of(is_work);
    let decided = file.decisions.iter().map(|one| one.signed.moment()).filter(fresh).max();
    let works = works.min();
    let began = works.or(decided);
    let settled = of(Event::moves).filter(|at| began.is_none_or(|began| *at >= began)).max();
    let settled = settled.max(began).max(reopened);
    Span { settled, worked: works.is_some(), since: reopened }
}

fn is_work(event: &Event) -> bool {
    matches!(
        event,
        Event::Fitted { done: true, .. } | Event::Replaced { .. } | Event::WriteBegun { .. }
    )
}

/// The proof of a job; `family` is what the library knows of its tightening.
pub fn proof(file: &JobFile, judged: &Judged, family: &[TorqueStage]) -> Proof {
    let span = span(file);
    let fuel = file.job.intake.fuel_system;
    let repeated = repeats(file, judged, &span);
    let figures = figure::of(file, &span);
    let (repeat_state, repeat_says) = figure::with(&repeated, &figures);
    let Repeated { repeats, places, .. } = repeated;
    let items: Vec<ProofItem> = ProveId::ALL
        .iter()
        .filter(|id| id.fits(fuel))
        .map(|id| {
            let seen = match id {
                ProveId::Fitting => {
                    let card = fitting(file, family);
                    Some((
                        if card.done { ItemState::Good } else { ItemState::Open },
                        card.says,
                        None,
                    ))
                }
                ProveId::Codes => Some(codes(file)),
                ProveId::FailedTest => Some((repeat_state, repeat_says.clone(), None)),
                ProveId::Cleared => cleared(file, &span),
                ProveId::Drive => drive(file, &span),
                ProveId::Bleed
                | ProveId::LeakOff
                | ProveId::Start
                | ProveId::LeakRunning
                | ProveId::Regeneration
                | ProveId::Rescan => None,
                ProveId::RoadTest => complaint_left(file, &span),
            };
            item(file, *id, seen, &span)
        })
        .collect();
    let open = |one: &&ProofItem| !matches!(one.state, ItemState::Good | ItemState::LeftOut);
    let next = items.iter().find(open).map(|one| one.id);
    let closing = closing(file, &items);
    let says = says(&items, &closing);
    let learning = learn::newest(file, span.settled).map(|(_, learning)| learning);
    Proof { items, repeats, places, figures, learning, next, says, closing }
}

type Seen = (ItemState, String, Option<Signed>);

/// What a person told of an item stands, unless the program sees something newer.
fn item(file: &JobFile, id: ProveId, seen: Option<Seen>, span: &Span) -> ProofItem {
    let told = file.events.iter().rev().find_map(|record| {
        let Event::Proved { item, told, note } = &record.event else { return None };
        (*item == id).then_some((record.signed, *told, note))
    });
    let stale = told.filter(|(signed, ..)| span.settled.is_some_and(|at| signed.moment() < at));
    let told = told.filter(|_| stale.is_none());
    let (state, says, signed) = match (seen, told) {
        // Only an exception outweighs what the program sees, and only while that is not good.
        (Some((ItemState::Good, says, by)), _) => (ItemState::Good, says, by),
        (_, Some((signed, Told::LeftOut, note))) => {
            (ItemState::LeftOut, format!("Skipped: {note}"), Some(signed))
        }
        // What the program has read outweighs a tick, and one without a sentence is no proof of what has
        // to be seen on a scan tool or on the road.
        (Some(seen), Some((_, Told::Good, _))) => seen,
        (None, Some((_, Told::Good, note))) if id.needs_words() && note.trim().is_empty() => {
            (ItemState::Open, words::SAY_WHAT_WAS_SEEN.to_owned(), None)
        }
        (_, Some((signed, told, note))) if !id.is_seen() => {
            let state = if told == Told::Good { ItemState::Good } else { ItemState::Failed };
            (state, note.clone(), Some(signed))
        }
        (Some(seen), _) => seen,
        (None, _) if stale.is_some() => {
            (ItemState::Open, words::DONE_BEFORE_WORK_BEGAN.to_owned(), None)
        }
        (None, _) => (ItemState::Open, String::new(), None),
    };
    ProofItem {
        id,
        title: id.title().to_owned(),
        how: id.how().to_owned(),
        cautions: id.cautions(),
        state,
        says,
        signed,
        seen: id.is_seen(),
        needs_words: id.needs_words(),
        asks_complaint: id == ProveId::RoadTest && file.told().complains(),
    }
}

/// The complaint was asked after since the work, and it is still there.
fn complaint_left(file: &JobFile, span: &Span) -> Option<Seen> {
    let (at, answer) = file.complaint_left()?;
    let stale = span.settled.is_some_and(|settled| at < settled);
    (!stale).then(|| (ItemState::Failed, answer.says().to_owned(), None))
}

/// Cylinders that were worked on hold the codes of their injectors. One that nobody touched needs no capture.
fn codes(file: &JobFile) -> Seen {
    use crate::codes::SlotState;
    let coding = coding(file);
    let touched = file.recoded();
    let known = |state: SlotState| !matches!(state, SlotState::NotRead | SlotState::NotCaptured);
    let mut held = coding
        .slots
        .iter()
        .filter(|slot| touched.contains(&slot.cylinder) || known(slot.state))
        .peekable();
    if held.peek().is_none() {
        return (ItemState::Good, words::NO_CODE_TOUCHED.to_owned(), None);
    }
    let fits = held.all(|slot| slot.state == SlotState::Fits);
    let state = if fits { ItemState::Good } else { ItemState::Open };
    let says = if fits { words::CODES_READ_BACK.to_owned() } else { coding.says };
    (state, says, None)
}

fn cleared(file: &JobFile, span: &Span) -> Option<Seen> {
    let (record, zero) = learn::cleared(file, span.settled)?;
    let (state, says) = if zero {
        (ItemState::Good, words::CLEARED_READ_BACK_EVERY)
    } else {
        (ItemState::Failed, words::CLEARED_BUT_VALUES_READ)
    };
    Some((state, says.to_owned(), Some(record.signed)))
}

/// Counters mean something only when they were read after clearing.
fn drive(file: &JobFile, span: &Span) -> Option<Seen> {
    let (wiped, _) = learn::cleared(file, span.settled)?;
    let (record, learning) = learn::newest(file, Some(wiped.signed.moment()))?;
    let left: Vec<String> = learning
        .counters
        .iter()
        .filter(|counter| counter.done < counter.needed)
        .map(|counter| format!("{} {}", counter.needed - counter.done, counter.band))
        .collect();
    let (state, says) = if left.is_empty() && !learning.counters.is_empty() {
        (ItemState::Good, words::EVERY_RELEARN_COUNTER_FULL.to_owned())
    } else {
        (ItemState::Open, words::runs_still_missing(left.join(", ")))
    };
    Some((state, says, Some(record.signed)))
}

fn closing(file: &JobFile, items: &[ProofItem]) -> Closing {
    let left_out = items.iter().filter(|one| one.state == ItemState::LeftOut);
    let exceptions: Vec<String> =
        left_out.map(|one| format!("{}: {}", one.title, one.says)).collect();
    let closed = file.closed();
    let came_back = file.events.iter().rev().find_map(|record| {
        let Event::Reopened { comeback: true, reason, .. } = &record.event else { return None };
        Some(reason.clone())
    });
    match closed {
        Some(closed) => Closing {
            proven: closed.proven(),
            exceptions: closed.left_out.iter().map(|id| id.title().to_owned()).collect(),
            cancelled: closed.cancelled.unwrap_or_default().to_owned(),
            since: crate::record::since(file, closed.signed.moment()),
            closed: Some(closed.signed),
            refused: None,
            came_back,
        },
        None => Closing {
            closed: None,
            cancelled: String::new(),
            proven: exceptions.is_empty(),
            exceptions,
            refused: refused(file, items),
            since: Vec::new(),
            came_back,
        },
    }
}

fn refused(file: &JobFile, items: &[ProofItem]) -> Option<String> {
    let held = |cylinder: &u32| file.decisions.iter().rfind(|one| one.cylinder == *cylinder);
    let all = 1..=file.job.intake.layout.cylinders;
    let undecided: Vec<u32> =
        all.filter(|c| held(c).is_none_or(|one| one.decision == Decision::MeasureAgain)).collect();
    if !undecided.is_empty() {
        return Some(words::not_decided_yet(cylinders(&undecided)));
    }
    if let Some(moved) = crate::record::overtaken(file).first() {
        return Some(format!("Cylinder {}: {}", moved.cylinder, moved.says));
    }
    let open =
        items.iter().filter(|one| !matches!(one.state, ItemState::Good | ItemState::LeftOut));
    let open: Vec<String> = open.map(|one| one.title.to_lowercase()).collect();
    (!open.is_empty()).then(|| words::still_open_complete_skip(open.join("; ")))
}

fn says(items: &[ProofItem], closing: &Closing) -> String {
    if closing.closed.is_some() {
        return if closing.proven {
            words::CLOSED_PROVEN.to_owned()
        } else {
            let left: Vec<String> =
                closing.exceptions.iter().map(|one| one.to_lowercase()).collect();
            words::closed_exceptions_not_proven(left.join("; "))
        };
    }
    let with = |state: ItemState| items.iter().find(|one| one.state == state);
    if let Some(failed) = with(ItemState::Failed) {
        return format!("{} failed. {}", failed.title, failed.says);
    }
    let open = items.iter().filter(|one| matches!(one.state, ItemState::Open | ItemState::Unsure));
    let settled = items.iter().filter(|one| one.state == ItemState::Good).count();
    match (open.clone().next(), &closing.refused) {
        (Some(next), _) => words::proven_next(settled, items.len(), next.title.to_lowercase()),
        (None, Some(why)) => why.clone(),
        (None, None) if closing.proven => words::EVERYTHING_PROVEN_CLOSE_JOB.to_owned(),
        (None, None) => words::JOB_CLOSED_EXCEPTIONS_NOT.to_owned(),
    }
}

impl JobFile {
    /// When the job last came back: what was proven before is proven of work that did not hold.
    pub fn came_back_at(&self) -> Option<Moment> {
        self.events.iter().rev().find_map(|record| {
            let back = matches!(record.event, Event::Reopened { comeback: true, .. });
            back.then_some(record.signed.moment())
        })
    }

    /// Fitting, coding or proving has begun and the job did not come back since.
    pub fn refit_begun(&self) -> bool {
        span(self).worked
    }

    /// Something was fitted, replaced or written at any time, before a comeback too.
    pub(crate) fn ever_refitted(&self) -> bool {
        self.events.iter().any(|record| is_work(&record.event))
    }

    /// How the job was closed, and by whom; none while it is open.
    pub fn closed(&self) -> Option<Closed<'_>> {
        let since = self.events.iter().rev();
        let open = |record: &&EventRecord| matches!(record.event, Event::Reopened { .. });
        since.take_while(|record| !open(record)).find_map(|record| {
            let signed = record.signed;
            if let Event::Closed { exceptions } = &record.event {
                Some(Closed { signed, left_out: exceptions, cancelled: None })
            } else if let Event::Cancelled { reason } = &record.event {
                Some(Closed { signed, left_out: &[], cancelled: Some(reason) })
            } else {
                None
            }
        })
    }
}
