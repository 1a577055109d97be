//! Large shelves: sets are made greedily, scarce injectors first, then parts are taken apart and
//! put together again for as long as steps are left or until the bound is met.

use super::bound::{Bound, ROUNDS};
use super::{Packing, Progress, Solved, Span};
use std::ops::ControlFlow;

/// Steps of taking apart and putting together.
const STEPS: usize = 6000;
/// Steps between two looks at the bound.
const BETWEEN: usize = STEPS / ROUNDS;
/// Sets that are taken apart at once.
const APART: usize = 6;

/// Small, seeded, good enough to shuffle with (xorshift64*).
struct Dice(u64);

impl Dice {
    fn next(&mut self) -> u64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        self.0.wrapping_mul(0x2545_F491_4F6C_DD1D)
    }

    fn below(&mut self, n: usize) -> usize {
        if n == 0 { 0 } else { (self.next() >> 33) as usize % n }
    }

    fn share(&mut self) -> f64 {
        (self.next() >> 11) as f64 / (1_u64 << 53) as f64
    }
}

struct Search<'a> {
    packing: &'a Packing,
    /// Who fits with whom, nearest first.
    mates: Vec<Vec<usize>>,
    dice: Dice,
}

pub(super) fn solve(
    packing: &Packing,
    seed: u64,
    told: &mut dyn FnMut(Progress) -> ControlFlow<()>,
) -> Solved {
    let mut search = Search::new(packing, seed);
    let mut bound = Bound::new(packing);
    let whole = |bound: &Bound| (bound.most + 1e-6).floor() as usize;
    let all: Vec<usize> = (0..packing.units.len()).collect();
    let mut sets = search.pack(&all, 0.0);
    let mut best = sets.clone();
    let mut stopped = false;
    for step in 0..STEPS {
        if step % BETWEEN == 0 {
            bound.round();
            let progress = Progress {
                step,
                steps: STEPS,
                sets: best.len(),
                bound: whole(&bound).max(best.len()),
            };
            if told(progress).is_break() {
                stopped = true;
                break;
            }
        }
        if best.len() >= whole(&bound) {
            break;
        }
        search.again(&mut sets);
        let better = sets.len() > best.len()
            || (sets.len() == best.len() && search.spread(&sets) < search.spread(&best) - 1e-12);
        if better {
            best.clone_from(&sets);
        }
    }
    search.tighten(&mut best);
    Solved { bound: whole(&bound).max(best.len()), sets: best, exact: false, stopped }
}

impl<'a> Search<'a> {
    fn new(packing: &'a Packing, seed: u64) -> Self {
        let n = packing.units.len();
        let apart = |one: usize, other: usize| {
            let mut span = Span::of(&packing.units[one]);
            span.add(&packing.units[other]);
            span.width()
        };
        let mates = (0..n)
            .map(|one| {
                let fits = (0..n).filter(|other| *other != one && packing.fit(one, *other));
                let mut fits: Vec<(usize, f64)> =
                    fits.map(|other| (other, apart(one, other))).collect();
                fits.sort_by(|a, b| a.1.total_cmp(&b.1).then(a.0.cmp(&b.0)));
                fits.into_iter().map(|(other, _)| other).collect()
            })
            .collect();
        Self { packing, mates, dice: Dice(seed.wrapping_mul(2).wrapping_add(1)) }
    }

    fn spread(&self, sets: &[Vec<usize>]) -> f64 {
        sets.iter().map(|set| self.packing.width(set)).sum()
    }

    /// Sets of these units: the one with the fewest mates left is served first. `noise` from 0
    /// (always the same) to 1 mixes the order.
    fn pack(&mut self, units: &[usize], noise: f64) -> Vec<Vec<usize>> {
        let n = self.packing.units.len();
        let mut free = vec![false; n];
        units.iter().for_each(|unit| free[*unit] = true);
        let mut left = vec![0_usize; n];
        for unit in units {
            left[*unit] = self.mates[*unit].iter().filter(|mate| free[**mate]).count();
        }
        let mut sets = Vec::new();
        let mut open: Vec<usize> = units.to_vec();
        while !open.is_empty() {
            let key =
                |unit: usize, dice: &mut Dice| left[unit] as f64 * (1.0 + noise * dice.share());
            let mut first = (f64::INFINITY, 0);
            for unit in open.iter().copied().filter(|unit| free[*unit]) {
                let scarce = key(unit, &mut self.dice);
                if scarce < first.0 {
                    first = (scarce, unit);
                }
            }
            if first.0.is_infinite() {
                break;
            }
            let seed = first.1;
            let made = self.grow(seed, &free, &left, noise);
            let gone = made.clone().unwrap_or_else(|| vec![seed]);
            for unit in &gone {
                free[*unit] = false;
                for mate in &self.mates[*unit] {
                    left[*mate] = left[*mate].saturating_sub(1);
                }
            }
            sets.extend(made);
            open.retain(|unit| free[*unit]);
        }
        sets
    }

    /// A set around a unit: tried nearest first, then scarcest first; what uses up scarce ones wins.
    fn grow(
        &mut self,
        seed: usize,
        free: &[bool],
        left: &[usize],
        noise: f64,
    ) -> Option<Vec<usize>> {
        let mates: Vec<usize> = self.mates[seed].iter().copied().filter(|m| free[*m]).collect();
        let mut best: Option<(f64, Vec<usize>)> = None;
        for way in 0..3 {
            let mut order = mates.clone();
            match way {
                0 => {}
                1 => order.sort_by_key(|mate| left[*mate]),
                _ => {
                    let keys: Vec<(f64, usize)> = order
                        .iter()
                        .enumerate()
                        .map(|(i, mate)| {
                            (
                                i as f64 * (1.0 + 2.0 * noise * self.dice.share())
                                    + left[*mate] as f64,
                                *mate,
                            )
                        })
                        .collect();
                    let mut keys = keys;
                    keys.sort_by(|a, b| a.0.total_cmp(&b.0));
                    order = keys.into_iter().map(|(_, mate)| mate).collect();
                }
            }
            let mut span = Span::of(&self.packing.units[seed]);
            let (mut set, mut count) = (vec![seed], self.packing.units[seed].members.len());
            for mate in order {
                let unit = &self.packing.units[mate];
                if count == self.packing.size {
                    break;
                }
                if count + unit.members.len() <= self.packing.size && span.takes(unit) {
                    span.add(unit);
                    count += unit.members.len();
                    set.push(mate);
                }
            }
            if count == self.packing.size {
                let scarce: f64 = set.iter().map(|unit| left[*unit] as f64).sum();
                let cost = scarce * (1.0 + 0.3 * noise * self.dice.share()) + span.width();
                if best.as_ref().is_none_or(|(held, _)| cost < *held) {
                    best = Some((cost, set));
                }
            }
        }
        best.map(|(_, set)| set)
    }

    /// Takes apart the sets around a unit that is left over, and packs what is free there again.
    fn again(&mut self, sets: &mut Vec<Vec<usize>>) {
        let n = self.packing.units.len();
        let mut of = vec![usize::MAX; n];
        for (s, set) in sets.iter().enumerate() {
            set.iter().for_each(|unit| of[*unit] = s);
        }
        let spare: Vec<usize> = (0..n).filter(|unit| of[*unit] == usize::MAX).collect();
        let around =
            if spare.is_empty() { self.dice.below(n) } else { spare[self.dice.below(spare.len())] };
        let most = 2 + self.dice.below(APART - 1);
        let mut apart: Vec<usize> = Vec::new();
        let mates = self.mates[around].clone();
        for _ in 0..4 * most {
            if apart.len() >= most || mates.is_empty() {
                break;
            }
            // Near ones more often than far ones.
            let at = (self.dice.share().powi(2) * mates.len() as f64) as usize;
            let set = of[mates[at]];
            if set != usize::MAX && !apart.contains(&set) {
                apart.push(set);
            }
        }
        if apart.is_empty() {
            return;
        }
        let mut pool: Vec<usize> = apart.iter().flat_map(|s| sets[*s].iter().copied()).collect();
        let touched: Vec<usize> = spare
            .iter()
            .copied()
            .filter(|unit| self.mates[*unit].iter().any(|mate| pool.contains(mate)))
            .collect();
        pool.extend(touched);
        let before: Vec<Vec<usize>> = apart.iter().map(|s| sets[*s].clone()).collect();
        let noise = self.dice.share();
        let made = self.pack(&pool, noise);
        let sideways = made.len() == before.len()
            && (self.spread(&made) <= self.spread(&before) || self.dice.share() < 0.5);
        if made.len() > before.len() || sideways {
            apart.sort_unstable_by(|a, b| b.cmp(a));
            apart.iter().for_each(|s| drop(sets.swap_remove(*s)));
            sets.extend(made);
        }
    }

    /// Exchanges single units, between sets and with those left over, while that narrows them.
    fn tighten(&self, sets: &mut [Vec<usize>]) {
        for _ in 0..3 {
            let mut better = false;
            for one in 0..sets.len() {
                for other in one + 1..sets.len() {
                    better |= self.exchange(sets, one, other);
                }
            }
            if !better {
                break;
            }
        }
    }

    /// The best exchange of two single units of two sets, if it narrows both together.
    fn exchange(&self, sets: &mut [Vec<usize>], one: usize, other: usize) -> bool {
        let width = |set: &[usize]| self.packing.width(set);
        let near = sets[other].iter().any(|unit| self.mates[sets[one][0]].contains(unit));
        if !near {
            return false;
        }
        let now = width(&sets[one]) + width(&sets[other]);
        let mut best = (now - 1e-9, None);
        for a in 0..sets[one].len() {
            for b in 0..sets[other].len() {
                let (mut left, mut right) = (sets[one].clone(), sets[other].clone());
                std::mem::swap(&mut left[a], &mut right[b]);
                let alike = self.packing.members(&left) == self.packing.size;
                let (l, r) = (width(&left), width(&right));
                if alike && l <= 1.0 && r <= 1.0 && l + r < best.0 {
                    best = (l + r, Some((left, right)));
                }
            }
        }
        let Some((left, right)) = best.1 else { return false };
        sets[one] = left;
        sets[other] = right;
        true
    }
}
