//! Placement: which injector goes to which cylinder, when banks or cylinders differ.
//!
//! Every bank with a lambda probe is brought to its own middle, so injectors have to be alike within
//! a bank; a cylinder that is known to want more or less (its *want*, a share) gets the one that
//! passes more or less. Wanted is the smallest spread of `value ÷ (1 + want)` in the widest bank;
//! as long as the bench cannot tell two placings apart, the one that moves fewer injectors is
//! proposed, and "leave them where they are" is an ordinary answer.
//!
//! # Source
//! House rule. Within a bank sorting both sides alike gives the smallest spread (rearrangement
//! inequality); over banks every division is tried.

mod spares;
mod words;

pub use spares::{Spare, spares};

use crate::engine::{FuelSystem, Layout};
use crate::quantity::signed_percent;
use crate::record::{JobFile, Seat};
use crate::shelf::{ShelfFeature, Tested};
use crate::words::cylinders;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// Two readings that are compared: this many standard uncertainties are doubt (95 %, one-sided).
const DOUBT: f64 = 1.645;
/// A cylinder may want this much more or less.
pub const WIDEST_WANT: f64 = 0.25;

/// What a cylinder wants, other than the rest.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Want {
    /// Cylinder number.
    pub cylinder: u32,
    /// Share: 0.03 wants 3 % more.
    pub share: f64,
}

/// One injector in one cylinder.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Placed {
    /// The cylinder that it goes to.
    pub cylinder: u32,
    /// The injector.
    pub injector: Uuid,
    /// Its label.
    pub label: String,
    /// The cylinder that it sits in now.
    pub sits: u32,
    /// Its value; none when it stays because it was not measured or does not go back.
    pub value: Option<f64>,
    /// What the cylinder gets against the middle of its bank, its want taken off: a share.
    pub share: Option<f64>,
    /// Why it is there, in a sentence.
    pub says: String,
}

/// Where everything goes.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Placement {
    /// What it goes by.
    pub feature: ShelfFeature,
    /// By cylinder number.
    pub placed: Vec<Placed>,
    /// Spread of the widest bank as they sit: largest against smallest, minus 1.
    pub apart_now: f64,
    /// The same as proposed.
    pub apart: f64,
    /// What the bench cannot tell apart: a share.
    pub doubt: f64,
    /// How many change their cylinder.
    pub moves: usize,
    /// In a sentence or two.
    pub says: String,
    /// What to do about codes; empty where the family has none or nothing moves.
    pub codes: String,
}

/// One injector that may be moved.
#[derive(Debug, Clone, Copy)]
struct Unit {
    injector: Uuid,
    sits: u32,
    /// Logarithm of its value.
    log: f64,
    u: f64,
}

/// Proposes a placing by this feature. `None` when fewer than two can be placed.
pub fn places(
    file: &JobFile,
    tested: &[Tested],
    feature: ShelfFeature,
    wants: &[Want],
) -> Option<Placement> {
    let intake = &file.job.intake;
    let seats = file.seats(None);
    let of: HashMap<Uuid, &Tested> = tested.iter().map(|one| (one.injector, one)).collect();
    let units = seats.iter().filter_map(|seat| {
        let one = of.get(&seat.injector).filter(|one| one.held_back.is_none())?;
        let value = one.value(feature).filter(|value| value.value > 0.0)?;
        let u = value.u / value.value;
        Some(Unit { injector: seat.injector, sits: seat.cylinder, log: value.value.ln(), u })
    });
    let units: Vec<Unit> = units.collect();
    let open: Vec<u32> = units.iter().map(|unit| unit.sits).collect();
    if units.len() < 2 {
        return None;
    }
    let want = |cylinder: u32| {
        let held = wants.iter().find(|want| want.cylinder == cylinder);
        held.map_or(0.0, |want| want.share.clamp(-WIDEST_WANT, WIDEST_WANT).ln_1p())
    };
    let banks: Vec<Vec<u32>> = banks(&intake.layout, &open);
    let engine = Engine { banks: &banks, want: &want };
    let stay: Vec<u32> = open.clone();
    let doubt = DOUBT * std::f64::consts::SQRT_2 * units.iter().map(|u| u.u).fold(0.0, f64::max);
    let now = engine.apart(&units, &stay);
    let candidates = engine.candidates(&units);
    let best = candidates.iter().map(|to| engine.apart(&units, to)).fold(now, f64::min);
    // Of all that the bench cannot tell from the best one: fewest moves, then least spread.
    let moved = |to: &[u32]| units.iter().zip(to).filter(|(unit, to)| unit.sits != **to).count();
    let good = std::iter::once(&stay).chain(&candidates).filter(|to| {
        let apart = engine.apart(&units, to);
        apart <= best + doubt + 1e-12
    });
    let chosen = good.min_by(|one, other| {
        let key = |to: &[u32]| engine.apart(&units, to);
        moved(one).cmp(&moved(other)).then(key(one).total_cmp(&key(other)))
    })?;
    let apart = engine.apart(&units, chosen);
    let moves = moved(chosen);
    let placed = placed(&engine, &units, chosen, &seats, &of, feature);
    Some(Placement {
        feature,
        codes: codes(intake.fuel_system, &placed),
        says: says(&placed, (now.exp_m1(), apart.exp_m1(), doubt), moves, feature),
        apart_now: now.exp_m1(),
        apart: apart.exp_m1(),
        doubt,
        moves,
        placed,
    })
}

/// Cylinders that are open, bank by bank.
fn banks(layout: &Layout, open: &[u32]) -> Vec<Vec<u32>> {
    let banks = layout.strip().into_iter();
    let banks = banks.map(|bank| bank.into_iter().filter(|c| open.contains(c)).collect());
    banks.filter(|bank: &Vec<u32>| !bank.is_empty()).collect()
}

struct Engine<'a> {
    banks: &'a [Vec<u32>],
    want: &'a dyn Fn(u32) -> f64,
}

impl Engine<'_> {
    /// Spread of the widest bank when each unit goes to this cylinder: a logarithm.
    fn apart(&self, units: &[Unit], to: &[u32]) -> f64 {
        let range = |bank: &Vec<u32>| {
            let inside = units.iter().zip(to).filter(|(_, to)| bank.contains(to));
            let got = inside.map(|(unit, to)| unit.log - (self.want)(*to));
            let (low, high) =
                got.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
            if high >= low { high - low } else { 0.0 }
        };
        self.banks.iter().map(range).fold(0.0, f64::max)
    }

    /// For every division over the banks: sorted alike within each, and once with those that are in
    /// their bank already left at their place.
    fn candidates(&self, units: &[Unit]) -> Vec<Vec<u32>> {
        let first = self.banks.first().map_or(0, Vec::len);
        let divisions: Vec<u32> = if self.banks.len() == 2 {
            (0..1_u32 << units.len()).filter(|mask| mask.count_ones() as usize == first).collect()
        } else {
            vec![(1_u32 << units.len()) - 1]
        };
        let mut found = Vec::new();
        for mask in divisions {
            for sorted in [true, false] {
                let mut to = vec![0; units.len()];
                for (bank, cylinders) in self.banks.iter().enumerate() {
                    let inside = (0..units.len()).filter(|i| (mask >> i & 1 == 1) == (bank == 0));
                    let inside: Vec<usize> = inside.collect();
                    self.fill(units, &inside, cylinders, sorted, &mut to);
                }
                found.push(to);
            }
        }
        found
    }

    /// The one that passes most to the cylinder that wants most; among cylinders that want alike
    /// each stays where it sits if it can.
    fn fill(
        &self,
        units: &[Unit],
        inside: &[usize],
        cylinders: &[u32],
        sorted: bool,
        to: &mut [u32],
    ) {
        let mut open: Vec<u32> = cylinders.to_vec();
        let mut rest: Vec<usize> = inside.to_vec();
        if !sorted {
            rest.retain(|i| {
                let stays = open.contains(&units[*i].sits);
                if stays {
                    to[*i] = units[*i].sits;
                    open.retain(|c| *c != units[*i].sits);
                }
                !stays
            });
        }
        rest.sort_by(|a, b| units[*a].log.total_cmp(&units[*b].log));
        open.sort_by(|a, b| (self.want)(*a).total_cmp(&(self.want)(*b)).then(a.cmp(b)));
        let mut from = 0;
        while from < open.len() {
            let alike = |c: &&u32| ((self.want)(**c) - (self.want)(open[from])).abs() < 1e-12;
            let count = open[from..].iter().take_while(alike).count();
            let mut seats: Vec<u32> = open[from..from + count].to_vec();
            let group = &rest[from..from + count];
            for i in group.iter().filter(|i| seats.contains(&units[**i].sits)).collect::<Vec<_>>() {
                to[*i] = units[*i].sits;
                seats.retain(|c| *c != units[*i].sits);
            }
            let movers =
                group.iter().filter(|i| !open[from..from + count].contains(&units[**i].sits));
            movers.zip(seats).for_each(|(i, seat)| to[*i] = seat);
            from += count;
        }
    }
}

fn placed(
    engine: &Engine<'_>,
    units: &[Unit],
    to: &[u32],
    seats: &[Seat],
    of: &HashMap<Uuid, &Tested>,
    feature: ShelfFeature,
) -> Vec<Placed> {
    let middle = |cylinder: u32| {
        let bank = engine.banks.iter().find(|bank| bank.contains(&cylinder))?;
        let inside = units.iter().zip(to).filter(|(_, to)| bank.contains(to));
        let got: Vec<f64> = inside.map(|(unit, to)| unit.log - (engine.want)(*to)).collect();
        Some(got.iter().sum::<f64>() / got.len() as f64)
    };
    let one = |seat: &Seat| {
        let at = units.iter().position(|unit| unit.injector == seat.injector);
        let cylinder = at.map_or(seat.cylinder, |at| to[at]);
        let value = of.get(&seat.injector).and_then(|one| one.value(feature)).map(|v| v.value);
        let share = at.and_then(|at| {
            Some((units[at].log - (engine.want)(cylinder) - middle(cylinder)?).exp_m1())
        });
        let held = of.get(&seat.injector).and_then(|one| one.held_back.as_deref());
        let want = (engine.want)(cylinder).exp_m1();
        let wants = if want.abs() > 1e-9 {
            format!("wants {}", signed_percent(want))
        } else {
            String::new()
        };
        let says = match (share, held) {
            (None, Some(held)) => words::not_refitted(held),
            (None, None) => words::NOT_MEASURED_STAYS.to_owned(),
            (Some(_), _) if cylinder == seat.cylinder => words(&["stays", &wants]),
            (Some(_), _) => words(&[&format!("from cylinder {}", seat.cylinder), &wants]),
        };
        Placed {
            cylinder,
            injector: seat.injector,
            label: seat.label.clone(),
            sits: seat.cylinder,
            value,
            share,
            says,
        }
    };
    let mut placed: Vec<Placed> = seats.iter().map(one).collect();
    placed.sort_by_key(|one| one.cylinder);
    placed
}

fn says(
    placed: &[Placed],
    (now, apart, doubt): (f64, f64, f64),
    moves: usize,
    feature: ShelfFeature,
) -> String {
    let percent = |share: f64| format!("{:.1} %", 100.0 * share);
    let open: Vec<u32> = placed.iter().filter(|p| p.share.is_none()).map(|p| p.cylinder).collect();
    let mut says = if moves == 0 {
        words::leave_place_bank_spread(percent(now), feature.word(), percent(doubt))
    } else {
        words::move_bank_spread_now(
            moves,
            percent(apart),
            feature.word(),
            percent(now),
            percent(doubt),
        )
    };
    if !open.is_empty() {
        says.push_str(&words::not_placed(cylinders(&open)));
    }
    says
}

/// Those that say something.
fn words(parts: &[&str]) -> String {
    let said: Vec<&str> = parts.iter().copied().filter(|part| !part.is_empty()).collect();
    said.join(", ")
}

fn codes(fuel: FuelSystem, placed: &[Placed]) -> String {
    let moved: Vec<String> = placed
        .iter()
        .filter(|one| one.cylinder != one.sits)
        .map(|one| format!("{} → {}", one.sits, one.cylinder))
        .collect();
    if moved.is_empty() || !fuel.coded() {
        return String::new();
    }
    words::trim_codes_move_write(moved.join(", "))
}

#[cfg(test)]
mod tests;
