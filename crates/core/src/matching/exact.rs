//! Small shelves, every choice tried: the most sets, then the least spread.

use super::{Packing, Solved, Span};
use std::collections::BTreeMap;

/// Sets and spread that a mask of free units gives, and the set that it begins with.
type Best = (usize, f64, Option<u32>);

pub(super) fn solve(packing: &Packing) -> Solved {
    let all = (1_u32 << packing.units.len()) - 1;
    let mut known = BTreeMap::new();
    best(packing, all, &mut known);
    let (mut sets, mut free) = (Vec::new(), all);
    while free != 0 {
        let (.., set) = known[&free];
        match set {
            Some(set) => {
                sets.push((0..packing.units.len()).filter(|unit| set & (1 << unit) != 0).collect());
                free &= !set;
            }
            // Its lowest unit is left over.
            None => free &= free - 1,
        }
    }
    Solved { bound: sets.len(), sets, exact: true, stopped: false }
}

fn best(packing: &Packing, free: u32, known: &mut BTreeMap<u32, Best>) -> (usize, f64) {
    if free == 0 {
        return (0, 0.0);
    }
    if let Some((sets, spread, _)) = known.get(&free) {
        return (*sets, *spread);
    }
    let first = free.trailing_zeros() as usize;
    let rest = free & (free - 1);
    let (sets, spread) = best(packing, rest, known);
    let mut found: Best = (sets, spread, None);
    let mut complete = Vec::new();
    grow(packing, first, rest, &mut complete);
    for (set, width) in complete {
        let (sets, spread) = best(packing, free & !set, known);
        let (sets, spread) = (sets + 1, spread + width);
        if sets > found.0 || (sets == found.0 && spread < found.1) {
            found = (sets, spread, Some(set));
        }
    }
    known.insert(free, found);
    (found.0, found.1)
}

/// Every complete set that holds `first` and units of `rest`, with its width.
fn grow(packing: &Packing, first: usize, rest: u32, complete: &mut Vec<(u32, f64)>) {
    let unit = &packing.units[first];
    let mut stack = vec![(1_u32 << first, Span::of(unit), unit.members.len(), rest)];
    while let Some((set, span, count, left)) = stack.pop() {
        if count == packing.size {
            complete.push((set, span.width()));
            continue;
        }
        let mut open = left;
        while open != 0 {
            let next = open.trailing_zeros() as usize;
            open &= open - 1;
            let unit = &packing.units[next];
            if count + unit.members.len() <= packing.size && span.takes(unit) {
                let mut wider = span.clone();
                wider.add(unit);
                stack.push((set | 1 << next, wider, count + unit.members.len(), open));
            }
        }
    }
}
