//! Files taken apart to the entries that make them.

use super::Entry;
use crate::record::{
    IntakeChange, Job, JobFile, RawStretch, RunRecord, SheetRecord, TestRecord, place_after,
};
use crate::tests::bench::SessionRecord;
use jiff::Timestamp;
use uuid::Uuid;

/// The log of a job in its order, without its bench sessions. Rows of an older file get places in
/// the order of their times; a row that stands after another in its list stays after it.
pub fn of_job(file: &JobFile) -> Vec<Entry> {
    let mut lists = vec![List::of(intake(file))];
    for test in &file.return_tests {
        let began = test.signed.at;
        let bare = TestRecord { runs: Vec::new(), ..test.clone() };
        lists.push(List::of(vec![Entry::Test(bare)]));
        for run in &test.runs {
            let bare = RunRecord {
                readings: Vec::new(),
                set_aside: None,
                asides: Vec::new(),
                raw: Vec::new(),
                ..run.clone()
            };
            let mut list = vec![Entry::Run { test: test.id, run: bare }];
            let readings = run.readings.iter().cloned();
            list.extend(readings.map(|reading| Entry::Reading { run: run.id, reading }));
            lists.push(List::after(began, list));
            lists.push(raw(run.id, run.signed.at, &run.raw));
            let aside = run.asides.iter().chain(&run.set_aside).cloned();
            let aside = aside.map(|aside| Entry::Aside { run: run.id, aside });
            lists.push(List::after(began.max(run.signed.at), aside.collect()));
        }
    }
    for sheet in &file.sheets {
        let bare = SheetRecord {
            readings: Vec::new(),
            traces: Vec::new(),
            recordings: Vec::new(),
            raw: Vec::new(),
            ..sheet.clone()
        };
        let mut list = vec![Entry::Sheet(bare)];
        let cells = sheet.readings.iter().cloned();
        list.extend(cells.map(|cell| Entry::Cell { sheet: sheet.id, cell }));
        lists.push(List::of(list));
        let traces = sheet.traces.iter().cloned();
        let traces = traces.map(|trace| Entry::Trace { sheet: sheet.id, trace });
        lists.push(List::after(sheet.signed.at, traces.collect()));
        let recordings = sheet.recordings.iter().cloned();
        let recordings =
            recordings.map(|recording| Entry::Recording { sheet: sheet.id, recording });
        lists.push(List::after(sheet.signed.at, recordings.collect()));
        lists.push(raw(sheet.id, sheet.signed.at, &sheet.raw));
    }
    lists.push(List::of(file.events.iter().cloned().map(Entry::Event).collect()));
    lists.push(List::of(file.decisions.iter().cloned().map(Entry::Decision).collect()));
    lists.push(List::of(file.notes.iter().cloned().map(Entry::Note).collect()));
    in_order(lists)
}

/// What an instrument showed meanwhile, after the run or the check that it belongs to.
fn raw(of: Uuid, began: Timestamp, stretches: &[RawStretch]) -> List {
    let stretches = stretches.iter().cloned();
    List::after(began, stretches.map(|stretch| Entry::Raw { of, stretch }).collect())
}

/// The log of a bench session in its order.
pub fn of_session(session: &SessionRecord) -> Vec<Entry> {
    let bare = SessionRecord { rounds: Vec::new(), cells: Vec::new(), ..session.clone() };
    let mut lists = vec![
        List::of(vec![Entry::Session(bare)]),
        List::of(session.rounds.iter().cloned().map(Entry::Round).collect()),
    ];
    for round in &session.rounds {
        let cells = session.cells.iter().filter(|cell| cell.round == round.id).cloned();
        lists.push(List::after(round.signed.at, cells.map(Entry::Tube).collect()));
    }
    in_order(lists)
}

/// The first intake and what it was changed to, each as it was from then on.
fn intake(file: &JobFile) -> Vec<Entry> {
    let mut then = (&file.job.intake, &file.job.injectors);
    let mut list = Vec::new();
    for change in file.changes.iter().rev() {
        let (intake, injectors) = (then.0.clone(), then.1.clone());
        let (id, signed) = (change.id, change.signed);
        list.push(Entry::IntakeChanged(IntakeChange { id, intake, injectors, signed }));
        then = (&change.intake, &change.injectors);
    }
    list.push(Entry::TakenIn(Job {
        revision: file.job.revision.saturating_sub(file.changes.len() as u64),
        intake: then.0.clone(),
        injectors: then.1.clone(),
        ..file.job.clone()
    }));
    list.reverse();
    list
}

/// Entries that are in order, none of them before this time.
struct List {
    after: Option<Timestamp>,
    entries: Vec<Entry>,
}

impl List {
    fn of(entries: Vec<Entry>) -> Self {
        Self { after: None, entries }
    }

    fn after(at: Timestamp, entries: Vec<Entry>) -> Self {
        Self { after: Some(at), entries }
    }
}

/// Lists that are each in order, as one; entries without a place get one.
fn in_order(lists: Vec<List>) -> Vec<Entry> {
    let all = lists.iter().flat_map(|list| &list.entries);
    let places = all.clone().all(|entry| entry.signed().seq > 0);
    let mut keyed = Vec::new();
    for list in lists {
        let mut last = list.after;
        for entry in list.entries {
            // What stands later in its list came later, whatever the clock said.
            let own = entry.signed().moment();
            let at = last.map_or(own.at, |last| own.at.max(last));
            last = Some(at);
            keyed.push((if places { own.seq } else { 0 }, at, entry.rank(), entry));
        }
    }
    keyed.sort_by_key(|(seq, at, rank, _)| (*seq, *at, *rank));
    // What is taken in or begun comes first, whatever its time says.
    if let Some(head) = keyed.iter().position(|(.., rank, _)| *rank == 0) {
        keyed[..=head].rotate_right(1);
    }
    let mut place = 0;
    keyed
        .into_iter()
        .map(|(_, at, _, mut entry)| {
            if !places {
                place = place_after(place, at);
                entry.signed_mut().seq = place;
            }
            entry
        })
        .collect()
}
