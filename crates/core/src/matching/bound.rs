//! No more sets than this: prices on injectors so that every set that holds costs at least 1.
//!
//! If each injector has a price and no set within the tolerances costs less than 1, then all
//! prices together are an upper bound (linear programming duality; staying together and pins are
//! left out of it, which can only raise it). Prices are improved on a list of sets by primal-dual
//! steps; the cheapest sets that hold, found exactly, join the list; any prices give a bound once
//! divided by the cheapest set.

use super::{Packing, SLACK};

/// Rounds of pricing, and primal-dual steps of each.
pub(super) const ROUNDS: usize = 24;
const STEPS: usize = 400;

/// Prices under way.
pub(super) struct Bound {
    /// One point for each injector, in tolerances.
    points: Vec<Vec<f64>>,
    /// By the first feature, lowest first.
    order: Vec<usize>,
    size: usize,
    columns: Vec<Vec<usize>>,
    x: Vec<f64>,
    y: Vec<f64>,
    /// The lowest bound so far.
    pub most: f64,
}

impl Bound {
    pub(super) fn new(packing: &Packing) -> Self {
        // Each member of a unit by itself: its own values are inside the unit's box.
        let mut points = Vec::new();
        for unit in &packing.units {
            let middle: Vec<f64> =
                unit.low.iter().zip(&unit.high).map(|(l, h)| f64::midpoint(*l, *h)).collect();
            points.extend(unit.members.iter().map(|_| middle.clone()));
        }
        let mut order: Vec<usize> = (0..points.len()).collect();
        order.sort_by(|a, b| points[*a][0].total_cmp(&points[*b][0]));
        let n = points.len();
        let y = vec![1.0 / packing.size as f64; n];
        let most = n as f64 / packing.size as f64;
        Self { points, order, size: packing.size, columns: Vec::new(), x: Vec::new(), y, most }
    }

    /// One round: the cheapest sets join, prices are improved, the bound is taken.
    pub(super) fn round(&mut self) {
        let (cheapest, sets) = self.price();
        let Some(cheapest) = cheapest else {
            self.most = 0.0;
            return;
        };
        let total: f64 = self.y.iter().sum();
        self.most = self.most.min(total / cheapest.max(1e-12));
        for set in sets {
            if !self.columns.contains(&set) {
                self.columns.push(set);
                self.x.push(0.0);
            }
        }
        self.improve();
    }

    /// Primal-dual steps over the known sets; the mean of the later half stands.
    fn improve(&mut self) {
        let mut degree = vec![0.0_f64; self.points.len()];
        for column in &self.columns {
            column.iter().for_each(|i| degree[*i] += 1.0);
        }
        let tau = 1.0 / self.size as f64;
        let mut mean = vec![0.0; self.points.len()];
        for step in 0..STEPS {
            let mut load = vec![0.0; self.points.len()];
            for (column, x) in self.columns.iter().zip(&mut self.x) {
                let cost: f64 = column.iter().map(|i| self.y[*i]).sum();
                let next = (*x + tau * (1.0 - cost)).max(0.0);
                let ahead = 2.0 * next - *x;
                *x = next;
                column.iter().for_each(|i| load[*i] += ahead);
            }
            for ((y, load), degree) in self.y.iter_mut().zip(&load).zip(&degree) {
                *y = if *degree == 0.0 { 0.0 } else { (*y + (load - 1.0) / degree).max(0.0) };
            }
            if step >= STEPS / 2 {
                mean.iter_mut().zip(&self.y).for_each(|(mean, y)| *mean += y);
            }
        }
        mean.iter_mut().for_each(|mean| *mean /= (STEPS - STEPS / 2) as f64);
        self.y = mean;
    }

    /// The price of the cheapest set that holds, and the cheapest one for each lowest member.
    fn price(&self) -> (Option<f64>, Vec<Vec<usize>>) {
        let mut cheapest: Option<f64> = None;
        let mut sets = Vec::new();
        for (at, first) in self.order.iter().enumerate() {
            let edge = self.points[*first][0];
            let inside = self.order[at..].iter().copied();
            let inside: Vec<usize> =
                inside.take_while(|i| self.points[*i][0] <= edge + 1.0 + SLACK).collect();
            let mut best: (f64, Vec<usize>) = (f64::INFINITY, Vec::new());
            self.narrow(1, &inside, Some(*first), &mut best);
            if best.1.is_empty() {
                continue;
            }
            cheapest = Some(cheapest.map_or(best.0, |held| held.min(best.0)));
            best.1.sort_unstable();
            sets.push(best.1);
        }
        (cheapest, sets)
    }

    /// The cheapest `size` of these that fit in the features from `k` on, and hold `first`: each of
    /// them in turn is the lowest in feature `k`.
    fn narrow(
        &self,
        k: usize,
        among: &[usize],
        first: Option<usize>,
        best: &mut (f64, Vec<usize>),
    ) {
        if among.len() < self.size {
            return;
        }
        let mut by_price = among.to_vec();
        by_price.sort_by(|a, b| self.y[*a].total_cmp(&self.y[*b]));
        let mut cheap: Vec<usize> = by_price[..self.size].to_vec();
        if let Some(first) = first
            && !cheap.contains(&first)
        {
            cheap[self.size - 1] = first;
        }
        let price: f64 = cheap.iter().map(|i| self.y[*i]).sum();
        if price >= best.0 {
            return;
        }
        let features = self.points[0].len();
        // All that is left fits already, or there is no further feature: the cheapest stand.
        let fits = |set: &[usize]| {
            (k..features).all(|f| {
                let values = set.iter().map(|i| self.points[*i][f]);
                let (low, high) = values
                    .fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
                high - low <= 1.0 + SLACK
            })
        };
        if fits(&cheap) {
            *best = (price, cheap);
            return;
        }
        if k >= features {
            return;
        }
        let mut along = among.to_vec();
        along.sort_by(|a, b| self.points[*a][k].total_cmp(&self.points[*b][k]));
        for (at, low) in along.iter().enumerate() {
            let edge = self.points[*low][k];
            // The one that must be in it has to lie in the window too.
            if first
                .is_some_and(|f| self.points[f][k] < edge || self.points[f][k] > edge + 1.0 + SLACK)
            {
                continue;
            }
            let window = along[at..].iter().copied();
            let window: Vec<usize> =
                window.take_while(|i| self.points[*i][k] <= edge + 1.0 + SLACK).collect();
            self.narrow(k + 1, &window, first, best);
        }
    }
}
