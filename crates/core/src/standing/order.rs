//! Of several readings of one property, which one counts.

use super::deeds::{Done, done, ends, moves, taken_out};
use super::read::between;
use super::{Standing, Stood, Test};
use crate::mark::Mark;
use crate::record::{EventRecord, JobFile, Moment, Seat, Signed};
use crate::said::Lack;
use crate::tests::property::{Deed, Of};
use std::collections::BTreeMap;
use uuid::Uuid;

/// A reading is of an injector wherever it sits, of a cylinder whatever sits there, or of both together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Subject {
    Injector(Uuid),
    Cylinder(u32),
    Pair(Uuid, u32),
    All,
}

/// Settles the standing of all, which stand in the order of the log.
pub(super) fn settle(file: &JobFile, all: &mut [Stood], until: Option<Moment>) {
    let then = |signed: &Signed| until.is_none_or(|until| signed.moment() <= until);
    let (mut done, mut moves, seats) = (done(file, all), moves(file), file.seats(until));
    done.retain(|one| then(&one.signed));
    moves.retain(|one| then(&one.signed));
    let halves: [fn(&Stood) -> Option<Subject>; 3] = [
        |one| one.of_injector.and(one.injector).map(Subject::Injector),
        |one| one.of_cylinder.and(one.cylinder).map(Subject::Cylinder),
        |one| match one.of() {
            Of::Injector => one.injector.map(Subject::Injector),
            Of::Cylinder => one.cylinder.map(Subject::Cylinder),
            Of::Both => one.injector.zip(one.cylinder).map(|(i, c)| Subject::Pair(i, c)),
            Of::All => Some(Subject::All),
        },
    ];
    for (half, of) in halves.into_iter().enumerate() {
        let mut by: BTreeMap<(Test, Subject), Vec<usize>> = BTreeMap::new();
        for (at, one) in all.iter().enumerate() {
            if let Some(subject) = of(one).filter(|_| half != 0 || one.place.is_some()) {
                by.entry((one.test, subject)).or_default().push(at);
            }
        }
        for of_one in by.into_values() {
            for (at, standing, since) in sequence(all, &of_one, &done, &moves, half) {
                let one = &mut all[at];
                match half {
                    0 => one.of_injector = Some(standing),
                    1 => one.of_cylinder = Some(standing),
                    _ => (one.here, one.since) = (standing, since),
                }
            }
        }
    }
    for one in all.iter_mut() {
        place(one, &moves, &seats);
    }
}

/// The standing of each of one property, oldest first.
fn sequence(
    all: &[Stood],
    of_one: &[usize],
    done: &[Done],
    moves: &[&EventRecord],
    half: usize,
) -> Vec<(usize, Standing, Option<Signed>)> {
    let mut settled: Vec<(usize, Standing, Option<Signed>)> = Vec::new();
    // Places in `settled` of those that count, and of two that say different things.
    let (mut counting, mut doubt): (Vec<usize>, Vec<usize>) = (Vec::new(), Vec::new());
    for &at in of_one {
        let one = &all[at];
        let work = ends(done, one).find(|done| half != 1 || done.injector.is_none());
        if let Some(work) = work {
            settled.push((at, before(work.deed), Some(work.signed)));
            continue;
        }
        let here = settled.len();
        settled.push((at, Standing::Counts, None));
        if !doubt.is_empty() {
            // The third decides, if it can.
            let decides = one.is_bad() || one.mark == Mark::Inside;
            if decides && doubt.iter().all(|held| covers(one, &all[settled[*held].0])) {
                for held in doubt.drain(..) {
                    (settled[held].1, settled[held].2) = (Standing::Superseded, Some(one.signed));
                }
                counting.push(here);
                continue;
            }
        }
        let mut kept = Vec::new();
        for held in counting.drain(..) {
            let old = &all[settled[held].0];
            if !covers(one, old) {
                kept.push(held);
            } else if disagree(old, one, moves) {
                doubt.push(held);
                (settled[held].1, settled[held].2) = (Standing::InDoubt, Some(one.signed));
            } else {
                (settled[held].1, settled[held].2) = (Standing::Superseded, Some(one.signed));
            }
        }
        counting = kept;
        if doubt.is_empty() {
            counting.push(here);
        } else {
            (settled[here].1, settled[here].2) = (Standing::InDoubt, Some(one.signed));
            doubt.push(here);
        }
    }
    settled
}

/// What a newer reading was read in covers all in which the older one was off, or all of it where it was not.
fn covers(new: &Stood, old: &Stood) -> bool {
    let off = old.rows.iter().filter(|(_, off)| *off);
    let wanted: Vec<&String> = match off.clone().next() {
        Some(_) => off.map(|(row, _)| row).collect(),
        None => return true,
    };
    new.rows.is_empty() || wanted.iter().all(|row| new.rows.iter().any(|(held, _)| held == *row))
}

/// A reading failed, and one that is no better says that nothing is wrong, without work in between.
fn disagree(old: &Stood, new: &Stood, moves: &[&EventRecord]) -> bool {
    let same = old.injector == new.injector && old.cylinder == new.cylinder;
    let moved = moves.iter().any(|one| between(one.signed.moment(), old.at(), new.at()));
    // What all share is put right before its check is repeated: the program asks for it so.
    let put_right = matches!(new.test, Test::Engine(test) if test.comes_first());
    let firm = old.said.code.weighs() && !old.said.lacks.contains(&Lack::LikeSlip);
    same && !moved
        && !put_right
        && firm
        && old.is_bad()
        && new.mark == Mark::Inside
        && new.said.quality() <= old.said.quality()
}

fn before(deed: Deed) -> Standing {
    match deed {
        Deed::Cleaning => Standing::BeforeCleaning,
        Deed::Setting => Standing::BeforeSetting,
        Deed::Repair => Standing::BeforeRepair,
    }
}

/// What it is worth for the place as it is now, by who sits there.
fn place(one: &mut Stood, moves: &[&EventRecord], seats: &[Seat]) {
    let sits = |injector: Uuid| seats.iter().find(|seat| seat.injector == injector);
    let Some(injector) = one.injector.filter(|_| one.of_injector.is_some()) else { return };
    let seat = sits(injector);
    if seat.is_none() {
        one.of_injector = Some(Standing::Gone);
    }
    let of_place = one.of_cylinder.is_some();
    let there = seat.is_some_and(|seat| !of_place || one.cylinder == Some(seat.cylinder));
    if there {
        return;
    }
    let out = one.cylinder.and_then(|cylinder| taken_out(moves, cylinder, one.at()));
    let (standing, since) = match out {
        Some((true, signed)) if of_place => (Standing::BeforeNewPart, Some(signed)),
        Some((false, signed)) if of_place && seat.is_some() => (Standing::BeforeSwap, Some(signed)),
        Some((_, signed)) => (Standing::Gone, Some(signed)),
        // Read on the bench after it was taken out.
        None => (Standing::Gone, moves.last().map(|record| record.signed)),
    };
    (one.here, one.since) = (standing, since);
}
