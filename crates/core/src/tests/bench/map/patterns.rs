//! What a map says as a whole: which points are off in which direction, the part that is likely
//! worn, and the work. A pattern is a direction to look, never a verdict on a part.
//!
//! # Source
//! House rule of the diesel bench.

use super::AtPoint;
use crate::calc::decide::LimitState;
use crate::said::Code;
use crate::tests::bench::ctx::Ctx;
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
    says: "Low at every point.",
    part: "feed restricted: inlet filter, too little lift, or the rail pressure of the bench",
    work: "Inlet filter and lift first; a master injector on the bench when others are low too.",
};
const ALL_HIGH: Seen = Seen {
    code: outcomes::MAP_HIGH,
    word: "high everywhere",
    says: "High at every point.",
    part: "too much lift, or a worn nozzle",
    work: "Lift set by shims, then the map again; a nozzle that stays high is renewed.",
};
const STANDING: Seen = Seen {
    code: outcomes::MAP_RETURN_HIGH,
    word: "return high standing still",
    says: "High return standing still: it leaks without being driven.",
    part: "valve seat",
    work: "Valve seat and valve renewed or lapped, then static return again.",
};
const FULL_LOW: Seen = Seen {
    code: outcomes::MAP_LOW_FULL,
    word: "low only at full load",
    says: "Low at full load alone: it opens, but passes too little.",
    part: "nozzle holes coked, or too little needle lift",
    work: "Nozzle cleaned in the bath; low again, nozzle renewed.",
};
const FULL_LOW_RETURN: Seen = Seen {
    code: outcomes::MAP_LOW_FULL_RETURN,
    word: "low at full load, return high",
    says: "Low at full load while the return is high: what should be injected goes back.",
    part: "clearance of the control piston or its guide, or the valve seat",
    work: "Valve set renewed; clearance cannot be adjusted away. The nozzle is not the first part.",
};
const IDLE_HIGH: Seen = Seen {
    code: outcomes::MAP_HIGH_IDLE,
    word: "high at idle",
    says: "High at idle and short pulses: it closes late.",
    part: "nozzle seat or needle, or too large an air gap",
    work: "Air gap set by shims; nozzle renewed when it stays high.",
};
const SHORT_LOW: Seen = Seen {
    code: outcomes::MAP_LOW_SHORT,
    word: "low at short pulses",
    says: "Low at short pulses alone: it opens late or not at all.",
    part: "armature sticking, or too small an air gap",
    work: "Armature and guide cleaned, air gap set by shims.",
};
const LATE: Seen = Seen {
    code: outcomes::MAP_LATE,
    word: "opens late",
    says: "The opening delay lies above its window.",
    part: "armature, spring or air gap",
    work: "Coil value against the set, then air gap.",
};
const LOAD_RETURN: Seen = Seen {
    code: outcomes::MAP_RETURN_LOAD,
    word: "return high under load",
    says: "High return while it works, not standing still.",
    part: "clearance of the control piston or its guide",
    work: "Valve set renewed; clearance cannot be adjusted away.",
};

/// A pulse up to this is a short one, ms (house rule).
const SHORT_MS: f64 = 0.6;

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Class {
    Standing,
    Short,
    Middle,
    Full,
}

fn class(points: &[Point], row: u32) -> Class {
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
    let only = |of: &[Class], class: Class| !of.is_empty() && of.iter().all(|c| *c == class);
    let returned = |standing: bool| {
        states.iter().any(|(class, cell, state)| {
            *cell == "returned"
                && *state == LimitState::Above
                && (*class == Class::Standing) == standing
        })
    };
    let late = states.iter().any(|(_, cell, s)| *cell == "delay" && *s == LimitState::Above);
    let all = delivered.len() >= 3;
    let full_low = only(&low, Class::Full);
    let flows_back = returned(false) || returned(true);
    [
        (full_low && flows_back, FULL_LOW_RETURN),
        (returned(true), STANDING),
        (all && low.len() == delivered.len(), ALL_LOW),
        (all && high.len() == delivered.len(), ALL_HIGH),
        (full_low && !flows_back, FULL_LOW),
        (only(&high, Class::Short), IDLE_HIGH),
        (only(&low, Class::Short), SHORT_LOW),
        (returned(false) && !returned(true) && !full_low, LOAD_RETURN),
        (late, LATE),
    ]
    .into_iter()
    .filter_map(|(seen, pattern)| seen.then_some(pattern))
    .collect()
}
