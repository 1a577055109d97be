//! How what is wrong shows: straight lines and plain shares, none of the formulas of [`crate::physics`].
//!
//! # Source
//! Model of our own, in the orders of size of the trade.

use crate::engine::{MadeEngine, Place};
use crate::injector::{Injector, nominal};
use cobaltine_core::engine::FuelSystem;

/// An engine as it shows.
pub(super) struct Shows<'a>(pub &'a MadeEngine);

/// What an injector passes held open, of a new one's.
pub(super) fn flow(one: &Injector) -> f64 {
    let through = (1.0 - 2.1 * (one.dirt.basket - 0.8).max(0.0)).max(0.2);
    one.holes * (1.0 - one.dirt.holes) * through
}

/// What it passes in a short pulse, of a new one's.
pub(super) fn short(one: &Injector) -> f64 {
    let usual = nominal(one.fuel).dead.usual_ms;
    let late = (one.late_ms + one.dirt.late_ms) / usual;
    let coil = nominal(one.fuel).coil_ohm;
    let weak = if coil > 0.0 && one.coil_ohm < 0.8 * coil { 0.9 } else { 1.0 };
    let basket = flow(one) / (one.holes * (1.0 - one.dirt.holes)).max(0.05);
    // A short pulse hardly sees a basket, and sees every delay.
    let held = flow(one) / basket * basket.sqrt();
    (held * (1.0 - 0.55 * late) * (0.4 + 0.6 * one.lift) * weak).max(0.0)
}

/// It opens at all.
pub(super) fn opens(one: &Injector) -> bool {
    let stack = nominal(one.fuel).stack_uf;
    one.coil_ohm.is_finite()
        && one.body_mohm > 0.004
        && (stack == 0.0 || one.stack_uf > 0.15 * stack)
}

/// What leaks past it standing still, of a new one's return at idle.
pub(super) fn standing(one: &Injector) -> f64 {
    let gap = one.guide_um / 2.6;
    0.35 * gap * gap * gap.sqrt() + 620.0 * one.valve_mm2
}

/// mg a minute past its seat.
pub(super) fn drips(one: &Injector) -> f64 {
    0.9 * (one.seat_mg_min + one.dirt.seat_mg_min)
}

/// How bad it sprays.
pub(super) fn spray(one: &Injector) -> f64 {
    one.spray.max(one.dirt.spray)
}

impl Shows<'_> {
    pub(super) fn diesel(&self) -> bool {
        self.0.is_diesel()
    }

    fn boosted(&self) -> bool {
        nominal(self.0.fuel).peak_a.is_some()
    }

    pub(super) fn place(&self, cylinder: usize) -> &Place {
        &self.0.places[cylinder]
    }

    /// ml/min of a sound one at idle, of this engine.
    pub(super) fn usual_return(&self) -> f64 {
        match self.0.fuel {
            FuelSystem::DieselPiezo => 21.0,
            FuelSystem::DieselSolenoid => 16.0,
            FuelSystem::PetrolPort | FuelSystem::PetrolDirect | FuelSystem::ExhaustDoser => 0.0,
        }
    }

    /// What flows back at a cylinder, of a sound one's.
    pub(super) fn returns(&self, cylinder: usize) -> f64 {
        let one = self.0.injector(cylinder);
        let driven = opens(one) && self.driven(cylinder);
        standing(one) + if driven { 0.65 * one.lift } else { 0.0 }
    }

    /// Current reaches it.
    pub(super) fn driven(&self, cylinder: usize) -> bool {
        let place = self.place(cylinder);
        place.leg_ohm.is_finite() && place.driver > 0.2 && self.0.shared.power > 0.4
    }

    /// What its wires and driver leave of a short pulse.
    pub(super) fn drive(&self, cylinder: usize) -> f64 {
        if !self.driven(cylinder) {
            return 0.0;
        }
        let place = self.place(cylinder);
        let of_ohm = if self.boosted() { 0.16 } else { 0.09 };
        let wire = (1.0 - of_ohm * (place.leg_ohm - 0.15).max(0.0)).max(0.0);
        wire * (0.5 + 0.5 * place.driver) * (0.3 + 0.7 * self.0.shared.power)
    }

    /// What a cylinder gets idling, of what it should get.
    pub(super) fn gets(&self, cylinder: usize) -> f64 {
        let one = self.0.injector(cylinder);
        if !opens(one) {
            return 0.0;
        }
        let shared = &self.0.shared;
        let line = self.place(cylinder).line;
        let rail = if self.diesel() { self.held() } else { shared.feed };
        let code = one.code_mm3 / 7.0;
        let gets = short(one) * self.drive(cylinder) * line * rail + code;
        (gets + 0.004 * drips(one)).max(0.0) * (1.0 - 0.15 * shared.water)
    }

    /// Compression of a cylinder, of a sound one's.
    pub(super) fn tight(&self, cylinder: usize) -> f64 {
        let leak = self.place(cylinder).leak_mm2 - 0.35 + self.0.injector(cylinder).gas_mm2;
        (1.0 - 0.052 * leak.max(0.0)).max(0.1)
    }

    /// How it pulls.
    pub(super) fn pulls(&self, cylinder: usize) -> f64 {
        let gets = self.gets(cylinder);
        let air = 1.0 - 0.3 * self.0.shared.mixture;
        let burns =
            if self.diesel() { gets.min(1.3) } else { 1.0 - 1.6 * (gets * air - 1.0).abs() };
        let spark = if self.diesel() { 1.0 } else { self.place(cylinder).spark };
        let tight = (1.0 - 1.5 * (1.0 - self.tight(cylinder))).max(0.0);
        let sprayed = 1.0 - 0.2 * spray(self.0.injector(cylinder));
        burns.max(0.0) * spark * tight * sprayed * (1.0 - 0.25 * self.0.shared.foreign)
    }

    /// What the pump holds, of what is wanted, while it idles.
    pub(super) fn held(&self) -> f64 {
        (3.4 * self.pump() / self.taken()).min(1.0)
    }

    /// The same on the starter.
    pub(super) fn start_pressure(&self) -> f64 {
        (2.1 * self.pump() / self.taken()).min(1.0)
    }

    fn pump(&self) -> f64 {
        let shared = &self.0.shared;
        shared.pump * (0.4 + 0.6 * shared.feed) * (1.0 - 0.7 * shared.air)
    }

    /// What injectors take and give back, of sound ones.
    fn taken(&self) -> f64 {
        let all = self.0.seats.len();
        let back: f64 = (0..all).map(|cylinder| self.returns(cylinder)).sum();
        if self.diesel() { 0.4 + 0.6 * back / all as f64 } else { 1.0 }
    }
}
