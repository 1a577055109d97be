//! A return test: bottles under the hoses for a time.

use super::{Hand, Slip};
use crate::engine::Running;

/// What a bottle holds, ml.
pub const CAPACITY_ML: f64 = 100.0;
/// Distance of its marks, ml.
pub const MARK_ML: f64 = 2.0;

/// What stands in a bottle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum RunLevel {
    /// ml.
    Level(f64),
    /// It was full after so many seconds.
    FullAfter(f64),
}

/// One run.
#[derive(Debug, Clone, PartialEq)]
pub struct ReturnRun {
    /// As the stopwatch says, s.
    pub seconds: f64,
    /// Temperature that was noted, °C.
    pub celsius: f64,
    /// Bottle by bottle, cylinder 1 first.
    pub levels: Vec<RunLevel>,
}

/// The nth run of a return test, from 0: idling for so many seconds, or cranking.
pub(super) fn returned(hand: &mut Hand<'_>, nth: u64, seconds: f64, cranking: bool) -> ReturnRun {
    let draw = &mut hand.draws(if cranking { 41 } else { 40 }, nth);
    let person = hand.person;
    let cold = hand.slips(draw, person.cold, Slip::Cold);
    let unpurged = hand.slips(draw, person.unpurged, Slip::Unpurged);
    let disturbed = hand.slips(draw, person.disturbed, Slip::Disturbed);
    let foam = hand.slips(draw, person.not_settled, Slip::NotSettled);
    let running = if cranking { Running::Cranking } else { Running::Idle };
    let celsius = if cold { 45.0 } else { hand.engine.warm_c };
    let kpa = hand.engine.rail_kpa(running);
    let timed = seconds + draw.normal(0.0, person.stopwatch_s);
    let short = if unpurged { Some(draw.below(hand.engine.seats.len())) } else { None };
    let odd = if disturbed { Some(draw.below(hand.engine.seats.len())) } else { None };
    let mut levels = Vec::new();
    for cylinder in hand.cylinders() {
        let rate = hand.engine.returned_at(cylinder, running, kpa, celsius);
        let rate = rate * draw.normal(1.0, 0.012);
        let mut ml = rate * timed / 60.0;
        if short == Some(cylinder) {
            ml = (ml - draw.between(1.0, 4.0)).max(0.0);
        }
        if odd == Some(cylinder) {
            ml *= draw.between(0.75, 1.3);
        }
        if ml > CAPACITY_ML {
            let full = CAPACITY_ML / rate * 60.0 + draw.normal(0.0, 0.6);
            levels.push(RunLevel::FullAfter(full.clamp(1.0, seconds).round()));
            continue;
        }
        let foamed = if foam { draw.between(0.0, 2.0) } else { 0.0 };
        let read = ml + foamed + draw.triangular(person.half_mark * MARK_ML);
        // Between two marks a half can be told.
        levels.push(RunLevel::Level((read.max(0.0) / (MARK_ML / 2.0)).round() * MARK_ML / 2.0));
    }
    let mut values: Vec<f64> = levels
        .iter()
        .map(|level| match level {
            RunLevel::Level(ml) => *ml,
            RunLevel::FullAfter(_) => f64::NAN,
        })
        .collect();
    hand.written(draw, &mut values);
    for (level, value) in levels.iter_mut().zip(&values) {
        if let (RunLevel::Level(ml), true) = (&mut *level, value.is_finite()) {
            *ml = value.min(CAPACITY_ML);
        }
    }
    ReturnRun { seconds: seconds.round(), celsius: hand.engine.warm_c.round(), levels }
}
