//! What each injector gives in a pulse.

use crate::record::{JobFile, Seat};
use crate::shelf::{ShelfFeature, Tested};

/// A cylinder with what its injector gives.
pub(super) struct Gives {
    pub cylinder: u32,
    pub flow: f64,
    pub u_flow: f64,
    pub dead: f64,
    pub u_dead: f64,
    pub swept: bool,
}

impl Gives {
    /// mm³ in a pulse of this many ms, and its standard uncertainty.
    pub fn in_pulse(&self, ms: f64) -> (f64, f64) {
        let open = (ms - self.dead).max(0.0);
        let per_ms = self.flow / 60.0;
        let u = (open * self.u_flow / 60.0).hypot(per_ms * self.u_dead);
        (per_ms * open, u)
    }
}

/// Those that go back and whose flow and dead time are known, where they sit.
pub(super) fn given(file: &JobFile, tested: &[Tested]) -> Vec<Gives> {
    let back = |seat: &Seat| {
        let one = tested.iter().find(|one| one.injector == seat.injector)?;
        gives(seat.cylinder, one).filter(|_| one.held_back.is_none())
    };
    file.seats(None).iter().filter_map(back).collect()
}

pub(super) fn gives(cylinder: u32, one: &Tested) -> Option<Gives> {
    let flow = one.value(ShelfFeature::StaticFlow)?;
    if let Some(dead) = one.value(ShelfFeature::DeadTime) {
        let (flow, u_flow) = (flow.value, flow.u);
        return Some(Gives {
            cylinder,
            flow,
            u_flow,
            dead: dead.value,
            u_dead: dead.u,
            swept: true,
        });
    }
    let short = one.value(ShelfFeature::ShortPulse)?;
    let (pulse, q) = (short.pulse_ms?, short.value);
    let dead = pulse - 60.0 * q / flow.value;
    let u_dead = (60.0 * short.u / flow.value).hypot(60.0 * q * flow.u / flow.value.powi(2));
    // A short pulse that gives more than its share of the static flow tells no dead time.
    let swept = false;
    (dead >= 0.0).then_some(Gives {
        cylinder,
        flow: flow.value,
        u_flow: flow.u,
        dead,
        u_dead,
        swept,
    })
}
