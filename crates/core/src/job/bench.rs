//! Bench sessions: round after round, tube after tube.

use super::{Refused, sound};
use crate::entry::Entry;
use crate::job::words;
use crate::limits;
use crate::tests::bench::{BenchCell, Round, SessionRecord, Spot};
use std::collections::HashSet;

/// What a person does at the bench.
#[derive(Debug, Clone, PartialEq)]
pub enum BenchCommand {
    /// Begins another full set of readings.
    BeginRound(Round),
    /// Reads a tube, or a cell of a row or of the round.
    KeepTube(BenchCell),
    /// Takes readings from a file: all of them, in the place of those that stood.
    TakeFile(Vec<BenchCell>),
}

/// What a person does at the bench, as entries of the log; nothing is written.
///
/// # Errors
/// [`Refused`], with what to do about it.
pub fn apply_bench(held: &SessionRecord, command: BenchCommand) -> Result<Vec<Entry>, Refused> {
    let entries = match command {
        BenchCommand::BeginRound(round) => begin_round(held, round)?,
        BenchCommand::KeepTube(cell) => {
            fits(held, &cell)?;
            room(held, 1)?;
            if let Some(refused) = held.drive_refused().filter(|_| cell.test.pulses()) {
                return Err(Refused::Conflict(refused));
            }
            vec![Entry::Tube(cell)]
        }
        BenchCommand::TakeFile(cells) => take_file(held, cells)?,
    };
    sound(entries)
}

fn begin_round(held: &SessionRecord, mut round: Round) -> Result<Vec<Entry>, Refused> {
    round.number = 1 + held.rounds.iter().filter(|r| r.stage == round.stage).count() as u32;
    let mut then = SessionRecord { cells: Vec::new(), ..held.clone() };
    then.rounds.push(round.clone());
    let problems = then.problems("session");
    if !problems.is_empty() {
        return Err(Refused::Invalid(problems));
    }
    Ok(vec![Entry::Round(round)])
}

fn room(held: &SessionRecord, more: usize) -> Result<(), Refused> {
    if held.cells.len() + more > limits::TUBES {
        return Err(Refused::conflict(words::SESSION_CANNOT_HOLD_MORE));
    }
    Ok(())
}

fn spot(cell: &BenchCell) -> Spot<'_> {
    Spot { cell: &cell.cell, row: cell.row, tag: cell.tag }
}

/// The cell is there, and what stood in it is named.
fn fits(held: &SessionRecord, cell: &BenchCell) -> Result<(), Refused> {
    if !held.rounds.iter().any(|round| round.id == cell.round) {
        return Err(Refused::NotFound("round"));
    }
    if cell.tag.is_some_and(|tag| !held.injectors.iter().any(|one| one.tag == tag)) {
        return Err(Refused::field("tag", words::NO_INJECTOR_TAG_BENCH));
    }
    if !cell.test.fits(held.setup.kind) {
        return Err(Refused::field("test", words::BENCH_NO_SUCH_TEST));
    }
    if cell.test.read(spot(cell), &held.setup, "1").is_none() {
        let says = words::no_cell_here(&cell.cell);
        return Err(Refused::field("typed", says));
    }
    let before = held.standing(cell.round, cell.test, spot(cell));
    if before.map(|one| one.id) != cell.corrects {
        return Err(Refused::conflict(words::SOMEONE_ELSE_READ_TUBE));
    }
    Ok(())
}

fn take_file(held: &SessionRecord, mut cells: Vec<BenchCell>) -> Result<Vec<Entry>, Refused> {
    room(held, cells.len())?;
    if let Some(refused) = held.drive_refused() {
        return Err(Refused::Conflict(refused));
    }
    let rounds: HashSet<_> = held.rounds.iter().map(|round| round.id).collect();
    for cell in &mut cells {
        if !rounds.contains(&cell.round) {
            return Err(Refused::NotFound("round"));
        }
        cell.corrects = held.standing(cell.round, cell.test, spot(cell)).map(|before| before.id);
    }
    Ok(cells.into_iter().map(Entry::Tube).collect())
}
