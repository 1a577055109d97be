//! What was read, lane by lane, from the log: of whom, where, when and by whom.
//!
//! A lane is as old as the first reading of each of its cells: a correction is of the moment of what it
//! corrects. What is added to a test after a newer one of its kind was begun is older than that.

use super::{Source, Standing, Stood, Test, Verdicts, is_bad};
use crate::mark::Mark;
use crate::record::{JobFile, Moment, Reading, ReadingKind, Seat, SheetRecord, Signed, TestRecord};
use crate::said::{Code, Said};
use crate::tests::bench::{BenchCell, BenchTest, SessionRecord};
use crate::tests::engine::EngineTest;
use crate::tests::property::Of;
use crate::tests::{Lane, Verdict};
use uuid::Uuid;

/// Every lane in which something was read, oldest first.
pub(super) fn all(file: &JobFile, verdicts: Verdicts<'_>) -> Vec<Stood> {
    let mut found = Vec::new();
    for (at, test) in file.return_tests.iter().enumerate() {
        let until = file.return_tests.get(at + 1).map(|next| next.signed);
        let Some(verdict) = verdicts.returns.get(at) else { continue };
        let begun =
            test.counting().map(|run| run.signed.moment()).chain([test.signed.moment()]).max();
        let seats = file.seats(begun);
        let engine = Engine { file, test: EngineTest::ReturnTest, source: Source::Return(at) };
        let read = |cylinder| of_test(test, cylinder);
        found.extend(engine.lanes(verdict, &seats, until, read));
    }
    for (at, sheet) in file.sheets.iter().enumerate() {
        let Some(verdict) = verdicts.sheets.get(at).copied().flatten() else { continue };
        let later = file.sheets[at + 1..].iter().find(|next| next.check == sheet.check);
        let seats = file.seats(Some(sheet.signed.moment()));
        let engine = Engine { file, test: sheet.check, source: Source::Sheet(at) };
        let read = |cylinder| of_sheet(sheet, cylinder);
        found.extend(engine.lanes(verdict, &seats, later.map(|next| next.signed), read));
    }
    for (nth, session) in file.bench.iter().enumerate() {
        found.extend(bench(file, session, nth, verdicts));
    }
    found.sort_by_key(Stood::at);
    found
}

/// A test on the engine.
struct Engine<'a> {
    file: &'a JobFile,
    test: EngineTest,
    source: Source,
}

impl Engine<'_> {
    fn lanes(
        &self,
        verdict: &Verdict,
        seats: &[Seat],
        until: Option<Signed>,
        read: impl Fn(Option<u32>) -> Option<Signed>,
    ) -> Vec<Stood> {
        let whole = read(None);
        let mut found: Vec<Stood> = Vec::new();
        for lane in verdict.lanes.iter().filter(|lane| is_read(lane)) {
            let Some(signed) = read(Some(lane.place)).or(whole) else { continue };
            let sat = seats.iter().find(|seat| seat.cylinder == lane.place);
            let signed = not_after(signed, until);
            found.push(Stood {
                cylinder: Some(lane.place),
                injector: sat.map(|seat| seat.injector),
                ..self.stood(signed, Some(lane.place), lane.mark, &lane.said, rows(verdict, lane))
            });
        }
        let all = self.file.job.intake.layout.strip().concat();
        let newest = all.into_iter().filter_map(|c| read(Some(c))).chain(whole);
        if let (Some(said), Some(signed)) =
            (&verdict.shared, newest.max_by_key(|signed| signed.moment()))
        {
            let signed = not_after(signed, until);
            let mark = if said.code.is_fault() { Mark::TooLittle } else { Mark::Inside };
            found.push(self.stood(signed, None, mark, said, Vec::new()));
        }
        found
    }

    fn stood(
        &self,
        signed: Signed,
        place: Option<u32>,
        mark: Mark,
        said: &Said,
        rows: Vec<(String, bool)>,
    ) -> Stood {
        let test = Test::Engine(self.test);
        new(test, self.source, signed, place, mark, said, rows)
    }
}

#[allow(clippy::too_many_arguments, reason = "the fields of one record")]
fn new(
    test: Test,
    source: Source,
    signed: Signed,
    place: Option<u32>,
    mark: Mark,
    said: &Said,
    rows: Vec<(String, bool)>,
) -> Stood {
    let of = test.property().of;
    let some = |is: bool| (is && place.is_some()).then_some(Standing::Counts);
    Stood {
        test,
        source,
        place,
        cylinder: None,
        injector: None,
        signed,
        mark,
        said: said.clone(),
        rows,
        of_injector: some(matches!(of, Of::Injector | Of::Both)),
        of_cylinder: some(matches!(of, Of::Cylinder | Of::Both)),
        here: Standing::Counts,
        since: None,
    }
}

fn is_read(lane: &Lane) -> bool {
    lane.mark != Mark::NotMeasured || lane.said.code != Code::NOT_READ
}

fn rows(verdict: &Verdict, lane: &Lane) -> Vec<(String, bool)> {
    let of = verdict.rows.iter().filter_map(|row| {
        let here = row.lanes.iter().find(|one| one.place == lane.place)?;
        (here.mark != Mark::NotMeasured).then(|| (row.name.clone(), is_bad(here.mark)))
    });
    of.collect()
}

/// Everything of a test is older than the next one of its kind.
fn not_after(signed: Signed, until: Option<Signed>) -> Signed {
    match until {
        Some(until) if until.moment() <= signed.moment() => {
            let Moment { at, seq } = until.moment().just_before();
            Signed { at, seq, ..signed }
        }
        Some(_) | None => signed,
    }
}

/// The reading that a chain of corrections began with.
fn first<'a, R>(
    all: &'a [R],
    of: &'a R,
    id: fn(&R) -> Uuid,
    corrects: fn(&R) -> Option<Uuid>,
) -> &'a R {
    let mut held = of;
    while let Some(before) = corrects(held).and_then(|named| all.iter().find(|r| id(r) == named)) {
        held = before;
    }
    held
}

/// When a bottle was read last; none of the length of the run alone.
fn of_test(test: &TestRecord, cylinder: Option<u32>) -> Option<Signed> {
    let cylinder = cylinder?;
    let read = test.counting().flat_map(|run| {
        let of = run.standing().filter(|r| r.cylinder == Some(cylinder));
        let first = |r: &Reading| {
            let first = first(&run.readings, r, |r| r.id, |r| r.corrects);
            (first.kind != ReadingKind::Void).then_some(first.signed)
        };
        of.filter_map(first).collect::<Vec<_>>()
    });
    read.max_by_key(Signed::moment)
}

/// When a cell of this cylinder was read last, or of the whole set without one.
fn of_sheet(sheet: &SheetRecord, cylinder: Option<u32>) -> Option<Signed> {
    let standing = sheet.standing().into_iter();
    let read = standing.filter(|r| r.cylinder == cylinder && r.value.is_some());
    let first = |r| first(&sheet.readings, r, |r| r.id, |r| r.corrects).signed;
    read.map(first).max_by_key(Signed::moment)
}

fn bench(
    file: &JobFile,
    session: &SessionRecord,
    nth: usize,
    verdicts: Verdicts<'_>,
) -> Vec<Stood> {
    let mut found = Vec::new();
    let judged = verdicts.benches.get(nth).map_or(&[][..], |judged| &judged.verdicts);
    for (at, held) in judged.iter().enumerate() {
        let Some(verdict) = &held.verdict else { continue };
        let Some(place) = session.rounds.iter().position(|round| round.id == held.round) else {
            continue;
        };
        let (round, until) = (&session.rounds[place], session.rounds.get(place + 1));
        for tagged in session.injectors.iter().filter(|one| file.is_ours(one)) {
            let lane = verdict.lanes.iter().find(|lane| lane.place == tagged.tag);
            let Some(lane) = lane.filter(|lane| is_read(lane)) else { continue };
            let of = |test: Option<BenchTest>, tag| {
                let cells = session.cells.iter().filter(|cell| {
                    cell.round == round.id
                        && test.is_none_or(|test| cell.test == test)
                        && cell.tag == tag
                        && cell.value.is_some()
                });
                let first =
                    |cell: &BenchCell| first(&session.cells, cell, |c| c.id, |c| c.corrects).signed;
                cells.map(first).max_by_key(Signed::moment)
            };
            // What follows from another test of the round is as old as what it was read from.
            let own = of(Some(held.test), Some(tagged.tag));
            let signed = own.or_else(|| of(None, Some(tagged.tag))).unwrap_or(round.signed);
            let signed = not_after(signed, until.map(|round| round.signed));
            let (source, place) = (Source::Bench(nth, at), Some(tagged.tag));
            let test = Test::Bench(held.test);
            let rows = rows(verdict, lane);
            found.push(Stood {
                // The cylinder of another engine says nothing here.
                cylinder: Some(tagged.cylinder).filter(|_| tagged.job == file.job.id),
                injector: Some(tagged.injector),
                ..new(test, source, signed, place, lane.mark, &lane.said, rows)
            });
        }
    }
    found
}

/// Moments compare by their place in the log.
pub(super) fn between(at: Moment, from: Moment, to: Moment) -> bool {
    at > from && at <= to
}
