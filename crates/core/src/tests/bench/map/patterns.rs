//! What a map says as a whole: which points are off in which direction, the part that is likely
//! worn, and the work. A pattern is a direction to look, never a verdict on a part.
//!
//! # Source
//! House rule of the diesel bench.

use super::AtPoint;
use crate::calc::decide::LimitState;
use crate::said::Code;
use crate::tests::bench::ctx::Ctx;
use crate::tests::bench::map::words;
use crate::tests::bench::plan::Point;
use crate::tests::outcomes;

/// A pattern that was seen.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Seen {
    /// What it says to the rules.
    pub code: Code,
    /// In a few words.
    pub word: &'static str,
    /// In a sentence.
    pub says: &'static str,
    /// The part that is likely worn.
    pub part: &'static str,
    /// The work.
    pub work: &'static str,
}

const ALL_LOW: Seen = Seen {
    code: outcomes::MAP_LOW_ALL,
    word: "low everywhere",
    says: words::LOW_EVERY_POINT,
    part: words::RESTRICTED_FEED_INLET_FILTER,
    work: words::CHECK_INLET_FILTER_LIFT,
};
const ALL_HIGH: Seen = Seen {
    code: outcomes::MAP_HIGH,
    word: "too much flow",
    says: words::HIGH_EVERY_POINT,
    part: words::TOO_MUCH_LIFT_WORN,
    work: words::SET_LIFT_SHIMS_REPEAT,
};
const STANDING: Seen = Seen {
    code: outcomes::MAP_RETURN_HIGH,
    word: "high static leak-off",
    says: words::HIGH_STATIC_LEAK_OFF,
    part: "valve seat",
    work: words::RENEW_LAP_VALVE_SEAT,
};
const FULL_LOW: Seen = Seen {
    code: outcomes::MAP_LOW_FULL,
    word: words::LOW_ONLY_FULL_LOAD,
    says: words::LOW_FULL_LOAD_ONLY,
    part: words::NOZZLE_HOLES_COKED_TOO,
    work: words::CLEAN_NOZZLE_BATH_STILL,
};
const FULL_LOW_RETURN: Seen = Seen {
    code: outcomes::MAP_LOW_FULL_RETURN,
    word: words::LOW_FULL_LOAD_HIGH,
    says: words::LOW_FULL_LOAD_HIGH_LEAK,
    part: words::CLEARANCE_CONTROL_PISTON_GUIDE,
    work: words::RENEW_VALVE_SET_CLEARANCE,
};
const IDLE_HIGH: Seen = Seen {
    code: outcomes::MAP_HIGH_IDLE,
    word: "high at idle",
    says: words::HIGH_IDLE_SHORT_PULSES,
    part: words::NOZZLE_SEAT_NEEDLE_TOO,
    work: words::SET_AIR_GAP_SHIMS,
};
const SHORT_LOW: Seen = Seen {
    code: outcomes::MAP_LOW_SHORT,
    word: words::LOW_SHORT_PULSES,
    says: words::LOW_SHORT_PULSES_ONLY,
    part: words::ARMATURE_STICKING_TOO_SMALL,
    work: words::CLEAN_ARMATURE_GUIDE_SET,
};
const LATE: Seen = Seen {
    code: outcomes::MAP_LATE,
    word: "opens late",
    says: words::OPENING_DELAY_ABOVE_LIMIT,
    part: words::ARMATURE_SPRING_AIR_GAP,
    work: words::COIL_VALUE_AGAINST_SET,
};
const LOAD_RETURN: Seen = Seen {
    code: outcomes::MAP_RETURN_LOAD,
    word: words::HIGH_LEAK_OFF_UNDER,
    says: words::HIGH_LEAK_OFF_WHILE,
    part: words::CLEARANCE_CONTROL_PISTON_GUIDE_2,
    work: words::RENEW_VALVE_SET_CLEARANCE_CANNOT,
};

/// A pulse up to this is a short one, ms (house rule).
const SHORT_MS: f64 = 0.6;

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Class {
    Standing,
    Short,
    Middle,
    Full,
}

/// The class of a row of the plan.
pub(super) fn class(points: &[Point], row: u32) -> Class {
    let work = |p: &Point| p.pulse_ms.unwrap_or(0.0) * p.rail_kpa.unwrap_or(0.0);
    let most = points.iter().map(work).fold(0.0, f64::max);
    let Some(point) = points.get(row as usize - 1) else { return Class::Middle };
    match point.pulse_ms {
        None => Class::Standing,
        Some(_) if work(point) >= most => Class::Full,
        Some(ms) if ms <= SHORT_MS => Class::Short,
        Some(_) => Class::Middle,
    }
}

/// The patterns of one injector, the most telling first.
pub(super) fn patterns(ctx: &Ctx<'_>, points: &[AtPoint], tag: u32) -> Vec<Seen> {
    let plan = &ctx.session.setup.points;
    let states: Vec<(Class, &str, LimitState)> = points
        .iter()
        .filter(|p| p.tag == tag)
        .flat_map(|p| p.of.iter().filter_map(move |q| Some((class(plan, p.row), q.cell, q.state?))))
        .collect();
    let delivered: Vec<_> = states.iter().filter(|(_, cell, _)| *cell == "delivered").collect();
    let off = |state: LimitState| -> Vec<Class> {
        delivered.iter().filter(|(.., s)| *s == state).map(|(c, ..)| *c).collect()
    };
    let (low, high) = (off(LimitState::Below), off(LimitState::Above));
    let returned = |standing: bool| {
        states.iter().any(|(class, cell, state)| {
            *cell == "returned"
                && *state == LimitState::Above
                && (*class == Class::Standing) == standing
        })
    };
    let late = states.iter().any(|(_, cell, s)| *cell == "delay" && *s == LimitState::Above);
    let all = delivered.len() >= 3;
    // What a smaller or a larger area does grows with the quantity, what a late or an early opening does is
    // most at a short pulse; points between follow either. Wide windows hide it where it is least.
    let at = |of: &[Class], class: Class| of.contains(&class);
    let full = |of: &[Class], other: &[Class]| {
        at(of, Class::Full) && !at(of, Class::Short) && other.is_empty()
    };
    let short = |of: &[Class], other: &[Class]| {
        at(of, Class::Short) && !at(of, Class::Full) && other.is_empty()
    };
    let full_low = full(&low, &high);
    let every = |of: &[Class], other: &[Class]| {
        all && at(of, Class::Short) && at(of, Class::Full) && other.is_empty()
    };
    let flows_back = returned(false) || returned(true);
    [
        (full_low && flows_back, FULL_LOW_RETURN),
        (returned(true), STANDING),
        (every(&low, &high), ALL_LOW),
        // One number alone may belong to the next tube.
        (every(&high, &low) || (full(&high, &low) && high.len() > 1), ALL_HIGH),
        (full_low && !flows_back, FULL_LOW),
        (short(&high, &low), IDLE_HIGH),
        (short(&low, &high), SHORT_LOW),
        (returned(false) && !returned(true) && !full_low, LOAD_RETURN),
        (late, LATE),
    ]
    .into_iter()
    .filter_map(|(seen, pattern)| seen.then_some(pattern))
    .collect()
}
