//! What is read at the engine of an exercise: with the noise of good instruments, and with what the learner
//! left out on the way. The same act reads the same, for everyone who takes up the case.
//!
//! # Source
//! [`cobaltine_engines::reading`]; what an unpurged hose or a rail that was primed once loses is a model of
//! our own.

use crate::bay::Bay;
use crate::case::{Case, CaseError, steady_hand};
use cobaltine_core::record::{JobFile, ReadingKind, RunRecord, SheetRecord, TestRecord};
use cobaltine_core::start::StartId;
use cobaltine_core::tests::bench::SessionRecord;
use cobaltine_core::tests::engine::EngineTest;
use cobaltine_core::work::{Phase, Regime};
use cobaltine_engines::draw::Draw;
use cobaltine_engines::engine::Running;
use cobaltine_engines::reading::{BenchRead, Hand, Reads, after_pulses};
use uuid::Uuid;

/// How often a rail comes up short that was primed only once, and how far.
const SHORT_PRIME: (f64, f64) = (0.35, 0.93);
/// Cells that repeat the first reading at the end: never taken along with the others.
const AGAIN: [&str; 2] = ["bracket_start", "bracket_end"];

/// A reading to be kept: its cell, the cylinder, the value.
pub type CellRead = (String, Option<u32>, f64);

/// A reading of a run: the cylinder (none for its length), what it is, the value.
pub type RunRead = (Option<u32>, ReadingKind, f64);

/// What is read for a sheet: one cell, or everything that it still lacks.
///
/// # Errors
/// Files that cannot be used.
pub fn of_sheet(
    case: &Case,
    file: &JobFile,
    sheet: &SheetRecord,
    one: Option<(&str, Option<u32>)>,
) -> Result<Vec<CellRead>, CaseError> {
    let bay = Bay::of(case, file);
    let person = steady_hand()?;
    let same = file.sheets.iter().filter(|held| held.check == sheet.check);
    let nth = same.take_while(|held| held.id != sheet.id).count() as u64;
    let often = |cell: &str, cylinder: Option<u32>| {
        let read = sheet.readings.iter().filter(|r| r.cell == cell && r.cylinder == cylinder);
        read.filter(|r| r.value.is_some()).count() as u64
    };
    let read = |again: u64| -> Vec<CellRead> {
        let mut hand = Hand::new(&bay.engine, &person, case.job.seed);
        let Some(read) = hand.sheet(sheet.check, nth + 8 * again) else { return Vec::new() };
        let set = read.set.into_iter().map(|(cell, value)| (cell.to_owned(), None, value));
        let each = read.each.into_iter();
        let each = each.map(|(cell, c, value)| (cell.to_owned(), Some(c), value));
        let mut cells: Vec<CellRead> = set.chain(each).collect();
        if sheet.check == EngineTest::PressureDrop && again == 0 {
            short_primes(&bay, case.job.seed + nth, &mut cells);
        }
        cells
    };
    if let Some((cell, cylinder)) = one {
        let cells = read(often(cell, cylinder));
        return Ok(cells.into_iter().filter(|(c, at, _)| c == cell && *at == cylinder).collect());
    }
    let standing = sheet.standing();
    let held = |cell: &str, cylinder: Option<u32>| {
        standing.iter().any(|r| r.cell == cell && r.cylinder == cylinder && r.value.is_some())
    };
    let open = |one: &CellRead| !AGAIN.contains(&one.0.as_str()) && !held(&one.0, one.1);
    Ok(read(0).into_iter().filter(open).collect())
}

/// Rails that were primed once and came up short: after the first cylinder, now and then.
fn short_primes(bay: &Bay, seed: u64, cells: &mut [CellRead]) {
    for cylinder in 2..=bay.engine.seats.len() as u32 {
        let draw = &mut Draw::new(seed, 6000 + u64::from(cylinder));
        if !draw.happens(SHORT_PRIME.0) {
            continue;
        }
        let at = |cells: &[CellRead], name: &str| {
            cells.iter().position(|(cell, c, _)| cell == name && *c == Some(cylinder))
        };
        let (Some(start), Some(end)) = (at(cells, "start"), at(cells, "end")) else { continue };
        let short = (cells[start].2 * SHORT_PRIME.1).round();
        let seat = cylinder as usize - 1;
        cells[start].2 = short;
        cells[end].2 = after_pulses(&bay.engine, seat, short, bay.engine.volts(seat)).round();
    }
}

/// What a run of a return test reads: its length and every bottle that it covers.
///
/// # Errors
/// Files that cannot be used.
pub fn of_run(
    case: &Case,
    file: &JobFile,
    test: &TestRecord,
    run: &RunRecord,
) -> Result<Vec<RunRead>, CaseError> {
    let bay = Bay::of(case, file);
    let person = steady_hand()?;
    let setup = &test.setup;
    let running = match (setup.regime, run.phase) {
        (Regime::Cranking, _) => Running::Cranking,
        (_, Some(Phase::Raised)) => Running::Raised,
        (Regime::IdleOnly | Regime::Stepped, Some(Phase::Idle | Phase::IdleAgain) | None) => {
            Running::Idle
        }
    };
    let covers = run.covers(&file.job.intake.layout);
    let draw = &mut Draw::new(case.job.seed, 4000 + run_number(file, run.id));
    let unpurged = without(test, run, StartId::HosesPurged);
    let short = unpurged.then(|| covers[draw.below(covers.len())]);
    let air = without(test, run, StartId::RailBlanked);
    let (capacity, mark) = (setup.capacity_ml.0, setup.graduation_ml.0);
    let seconds = setup.planned_s.0.round();
    let timed = seconds + draw.normal(0.0, person.stopwatch_s);
    let kpa = bay.engine.rail_kpa(running);
    let mut read = vec![(None, ReadingKind::RunTime, seconds)];
    for cylinder in covers {
        let seat = cylinder as usize - 1;
        let rate = bay.engine.returned_at(seat, running, kpa, bay.celsius());
        let mut rate = rate * draw.normal(1.0, 0.012);
        if air {
            rate *= draw.between(0.75, 0.95);
        }
        let lost = if short == Some(cylinder) { draw.between(1.0, 4.0) } else { 0.0 };
        let full = (capacity + lost) / rate.max(1e-9) * 60.0;
        if full < timed {
            read.push((Some(cylinder), ReadingKind::Overflow, full.round().max(1.0)));
        } else if let Some(to) = setup.mark_ml {
            let at = (to.0 + lost) / rate.max(1e-9) * 60.0;
            if at <= seconds {
                read.push((Some(cylinder), ReadingKind::Mark, at.round().max(1.0)));
            }
        } else {
            let ml = (rate * timed / 60.0 - lost).max(0.0) + draw.triangular(mark / 2.0);
            let half = mark / 2.0;
            let level = ((ml.max(0.0) / half).round() * half).min(capacity);
            read.push((Some(cylinder), ReadingKind::Level, level));
        }
    }
    Ok(read)
}

/// A start condition that was asked for and not ticked.
pub(crate) fn without(test: &TestRecord, run: &RunRecord, start: StartId) -> bool {
    let asked = TestRecord::start(test.setup.regime).contains(&start);
    asked && run.ticked.as_ref().is_some_and(|ticked| !ticked.contains(&start))
}

/// How many runs of the job were begun before this one.
fn run_number(file: &JobFile, run: Uuid) -> u64 {
    let runs = file.return_tests.iter().flat_map(|test| &test.runs);
    runs.take_while(|held| held.id != run).count() as u64
}

/// Everything that the bench reads in a round: of those that hang on its rail.
///
/// # Errors
/// Files that cannot be used.
pub fn of_round(
    case: &Case,
    file: &JobFile,
    session: &SessionRecord,
    round: Uuid,
) -> Result<Vec<BenchRead>, CaseError> {
    let mut bay = Bay::of(case, file);
    let person = steady_hand()?;
    // The bench has no cylinders: its tubes are the seats.
    let tubes = session.injectors.iter().filter_map(|one| bay.place_of(one.injector));
    bay.engine.seats = tubes.collect();
    let before = file.bench.iter().take_while(|held| held.id != session.id);
    let rounds: usize = before.map(|held| held.rounds.len()).sum();
    let nth = rounds + session.rounds.iter().take_while(|held| held.id != round).count();
    let read = Hand::new(&bay.engine, &person, case.job.seed).on_bench(nth as u64);
    let held = |one: &BenchRead| {
        session.cells.iter().any(|cell| {
            cell.round == round
                && cell.test == one.test
                && cell.cell == one.cell
                && cell.row == one.row
                && cell.tag == one.tag
        })
    };
    let fits = |one: &BenchRead| one.test.fits(session.setup.kind) && !held(one);
    Ok(read.into_iter().filter(fits).collect())
}

/// A value as it is written down: to four digits behind the point, as no instrument here shows more.
pub fn typed(value: f64) -> String {
    let text = format!("{value:.4}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text.is_empty() || text == "-0" { "0".to_owned() } else { text.to_owned() }
}
