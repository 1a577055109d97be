//! One injector: what it is made of, and what follows from that at any pulse and pressure.
//!
//! Dirt and wear are kept apart, so that it is known what a cleaning can bring back.
//!
//! # Source
//! [`crate::physics`]; the nominal figures are typical sizes of each kind, of no maker.

use crate::physics::{
    Clearance, DeadTime, Fluid, clearance_ml_min, orifice_ml_min, resistance_ohm, series_area,
};
use cobaltine_core::engine::FuelSystem;

/// What all injectors of one kind share.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nominal {
    /// Effective area of its holes, mm².
    pub area_mm2: f64,
    /// How it opens.
    pub dead: DeadTime,
    /// Over which the flow builds up after opening, ms.
    pub foot_ms: f64,
    /// Coil at 20 °C, Ω; of a piezo stack none.
    pub coil_ohm: f64,
    /// Stack, µF; 0 without one.
    pub stack_uf: f64,
    /// Peak of the current that a boosted driver forces, A; none behind a plain switch.
    pub peak_a: Option<f64>,
    /// Pressure that it works at while idling, kPa.
    pub idle_kpa: f64,
    /// Pressure under load, kPa.
    pub load_kpa: f64,
    /// Pulse while idling, ms.
    pub idle_ms: f64,
    /// Pulse under load, ms.
    pub load_ms: f64,
}

/// The nominal figures of a kind.
pub fn nominal(fuel: FuelSystem) -> Nominal {
    let dead =
        |usual_ms, volts, kpa, power, per_mpa| DeadTime { usual_ms, volts, kpa, power, per_mpa };
    match fuel {
        FuelSystem::PetrolPort => Nominal {
            area_mm2: 0.14,
            dead: dead(0.9, 14.0, 300.0, 1.4, 0.3),
            foot_ms: 0.2,
            coil_ohm: 14.2,
            stack_uf: 0.0,
            peak_a: None,
            idle_kpa: 300.0,
            load_kpa: 300.0,
            idle_ms: 2.6,
            load_ms: 9.0,
        },
        FuelSystem::PetrolDirect => Nominal {
            area_mm2: 0.073,
            dead: dead(0.34, 65.0, 10_000.0, 1.2, 0.006),
            foot_ms: 0.08,
            coil_ohm: 1.7,
            stack_uf: 0.0,
            peak_a: Some(11.0),
            idle_kpa: 6_000.0,
            load_kpa: 15_000.0,
            idle_ms: 0.9,
            load_ms: 3.2,
        },
        FuelSystem::DieselSolenoid => Nominal {
            area_mm2: 0.187,
            dead: dead(0.33, 65.0, 30_000.0, 1.2, 0.0005),
            foot_ms: 0.06,
            coil_ohm: 0.42,
            stack_uf: 0.0,
            peak_a: Some(20.0),
            idle_kpa: 30_000.0,
            load_kpa: 120_000.0,
            idle_ms: 0.55,
            load_ms: 1.05,
        },
        FuelSystem::DieselPiezo => Nominal {
            area_mm2: 0.187,
            dead: dead(0.16, 110.0, 30_000.0, 1.2, 0.0005),
            foot_ms: 0.05,
            coil_ohm: 0.0,
            stack_uf: 5.2,
            peak_a: Some(8.0),
            idle_kpa: 30_000.0,
            load_kpa: 140_000.0,
            idle_ms: 0.38,
            load_ms: 0.85,
        },
        FuelSystem::ExhaustDoser => Nominal {
            area_mm2: 0.125,
            dead: dead(1.2, 14.0, 610.0, 1.3, 0.2),
            foot_ms: 0.25,
            coil_ohm: 12.4,
            stack_uf: 0.0,
            peak_a: None,
            idle_kpa: 610.0,
            load_kpa: 610.0,
            idle_ms: 20.0,
            load_ms: 60.0,
        },
    }
}

/// What a cleaning can take away.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Dirt {
    /// Share of the hole area that deposits close.
    pub holes: f64,
    /// Share of the basket that is closed: beyond a half it is felt at much flow.
    pub basket: f64,
    /// Opening later by gum, ms.
    pub late_ms: f64,
    /// Seat held open, mg/min.
    pub seat_mg_min: f64,
    /// Spray disturbed, from 0 to 1.
    pub spray: f64,
}

/// An injector as it is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Injector {
    /// Its kind.
    pub fuel: FuelSystem,
    /// Hole area against nominal: as made, and wider by wear.
    pub holes: f64,
    /// Opening later or sooner than nominal, ms: as made, worn, or set wrongly.
    pub late_ms: f64,
    /// Scatter from shot to shot, share of a short pulse.
    pub scatter: f64,
    /// What its seat lets out, mg/min at working pressure.
    pub seat_mg_min: f64,
    /// Coil at 20 °C, Ω; infinite when open.
    pub coil_ohm: f64,
    /// Stack, µF.
    pub stack_uf: f64,
    /// Insulation to the body, MΩ.
    pub body_mohm: f64,
    /// Gap of guide and piston, µm.
    pub guide_um: f64,
    /// Leak area of a control valve that does not close, mm².
    pub valve_mm2: f64,
    /// Lift against the right one.
    pub lift: f64,
    /// Spray worn, from 0 to 1.
    pub spray: f64,
    /// Exhaust gas past its washer, mm² of the cylinder's leak.
    pub gas_mm2: f64,
    /// What the unit adds for a code that is not its own, mm³ for a stroke.
    pub code_mm3: f64,
    /// What a cleaning can take away.
    pub dirt: Dirt,
}

/// Pulses at idle that the fuel behind a basket feeds, before what comes through it is all there is (model of
/// our own).
const BEHIND_PULSES: f64 = 1.5;
/// Free area of a clean basket against the holes.
const BASKET: f64 = 6.0;
/// Effective area of the control orifice of a common-rail injector, mm².
const CONTROL_MM2: f64 = 0.062;
/// Guides of a common-rail injector.
const GUIDES: f64 = 2.0;

impl Injector {
    /// Exactly nominal.
    pub fn new(fuel: FuelSystem) -> Self {
        let kind = nominal(fuel);
        Self {
            fuel,
            holes: 1.0,
            late_ms: 0.0,
            scatter: 0.01,
            seat_mg_min: 0.0,
            coil_ohm: kind.coil_ohm,
            stack_uf: kind.stack_uf,
            body_mohm: 400.0,
            guide_um: 2.6,
            valve_mm2: 0.0,
            lift: 1.0,
            spray: 0.0,
            gas_mm2: 0.0,
            code_mm3: 0.0,
            dirt: Dirt::default(),
        }
    }

    /// Effective area that fuel passes, mm².
    fn area_mm2(&self) -> f64 {
        let kind = nominal(self.fuel);
        let holes = kind.area_mm2 * self.holes * (1.0 - self.dirt.holes);
        series_area(holes, kind.area_mm2 * BASKET * (1.0 - self.dirt.basket))
    }

    /// Held fully open, ml/min.
    pub fn static_ml_min(&self, kpa: f64, density: f64) -> f64 {
        orifice_ml_min(self.area_mm2(), kpa, density)
    }

    /// From pulse to opening, ms.
    pub fn dead_ms(&self, volts: f64, kpa: f64) -> f64 {
        let kind = nominal(self.fuel);
        let lift = match self.fuel {
            // A control valve that lifts less lets the pressure go later.
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo => 0.25 * (1.0 - self.lift),
            FuelSystem::PetrolPort | FuelSystem::PetrolDirect | FuelSystem::ExhaustDoser => 0.0,
        };
        (kind.dead.at(volts, kpa) + self.late_ms + self.dirt.late_ms + lift * kind.dead.usual_ms)
            .max(0.02)
    }

    /// What one pulse delivers, mm³: pulse in ms, at this voltage and pressure, density in kg/m³.
    pub fn delivered_mm3(&self, pulse_ms: f64, volts: f64, kpa: f64, density: f64) -> f64 {
        if !self.moves() {
            return 0.0;
        }
        let kind = nominal(self.fuel);
        let open = pulse_ms - self.dead_ms(volts, kpa);
        if open <= 0.0 {
            return 0.0;
        }
        // The flow builds up over the foot; after that what was lost there is missing for good.
        let full = open * open / (open + kind.foot_ms);
        let lifted = if open > 2.0 * kind.foot_ms { self.lift.min(1.0) } else { 1.0 };
        // What stands behind a basket feeds a short pulse; a long one draws through it.
        let clear = Self { dirt: Dirt { basket: 0.0, ..self.dirt }, ..*self };
        let (free, held) = (clear.static_ml_min(kpa, density), self.static_ml_min(kpa, density));
        let drawn = open / (open + BEHIND_PULSES * kind.idle_ms);
        let ms3 = (free + (held - free) * drawn) / 60.0;
        ms3 * full * lifted.mul_add(0.6, 0.4)
    }

    /// It opens when it is driven.
    pub fn moves(&self) -> bool {
        let coil = self.coil_ohm.is_finite() && self.body_mohm > 0.002;
        coil && (nominal(self.fuel).stack_uf == 0.0 || self.stack_uf > 0.5)
    }

    /// What leaks back without any pulse, ml/min: rail pressure in kPa, fuel at this temperature in °C.
    pub fn standing_ml_min(&self, kpa: f64, fluid: &Fluid, celsius: f64) -> f64 {
        let guide = Clearance {
            diameter_mm: 4.0,
            length_mm: 15.0,
            gap_um: self.guide_um,
            eccentricity: 0.4,
        };
        let past = clearance_ml_min(&guide, kpa, fluid.viscosity_mpas(celsius));
        GUIDES * past + orifice_ml_min(self.valve_mm2, kpa, fluid.density(celsius))
    }

    /// What it gives back while it works, ml/min: what leaks, and what every pulse lets through the valve.
    pub fn return_ml_min(
        &self,
        pulses_min: f64,
        pulse_ms: f64,
        kpa: f64,
        fluid: &Fluid,
        celsius: f64,
    ) -> f64 {
        let control = orifice_ml_min(CONTROL_MM2, kpa, fluid.density(celsius));
        let open = if self.moves() { pulse_ms * pulses_min / 60_000.0 } else { 0.0 };
        // A pilot for each pulse opens the valve as well.
        self.standing_ml_min(kpa, fluid, celsius) + control * open * self.lift * 1.4
    }

    /// Coil as a meter without error would show it, Ω.
    pub fn coil_at(&self, celsius: f64) -> f64 {
        resistance_ohm(self.coil_ohm, celsius)
    }

    /// What its seat lets out, mg/min.
    pub fn drips_mg_min(&self) -> f64 {
        self.seat_mg_min + self.dirt.seat_mg_min
    }

    /// How bad its spray is, from 0 to 1.
    pub fn spray_bad(&self) -> f64 {
        (self.spray + self.dirt.spray).min(1.0)
    }

    /// After a cleaning that takes this share of the dirt away.
    pub fn cleaned(self, share: f64) -> Self {
        let left = (1.0 - share).max(0.0);
        let dirt = Dirt {
            holes: self.dirt.holes * left,
            // Baskets are renewed with every cleaning.
            basket: 0.0,
            late_ms: self.dirt.late_ms * left,
            seat_mg_min: self.dirt.seat_mg_min * left,
            spray: self.dirt.spray * left,
        };
        Self { dirt, ..self }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::physics::Liquid;

    const PORT: FuelSystem = FuelSystem::PetrolPort;
    const RAIL: FuelSystem = FuelSystem::DieselSolenoid;

    #[test]
    fn a_sound_one_gives_back_what_practice_sees_and_a_worn_guide_stands_far_out() {
        let diesel = Fluid::new(Liquid::Diesel);
        let back =
            |one: Injector, rpm: f64| one.return_ml_min(rpm / 2.0, 0.55, 30_000.0, &diesel, 80.0);
        let sound = back(Injector::new(RAIL), 800.0);
        assert!((8.0..25.0).contains(&sound), "{sound}");
        assert!(back(Injector::new(RAIL), 1500.0) > sound, "raised speed gives back more");
        let worn = back(Injector { guide_um: 5.2, ..Injector::new(RAIL) }, 800.0);
        assert!((2.0..6.0).contains(&(worn / sound)), "twice the gap: {}", worn / sound);
        let seat = Injector { valve_mm2: 0.002, ..Injector::new(RAIL) };
        assert!(seat.standing_ml_min(30_000.0, &diesel, 80.0) > 20.0, "it leaks standing still");
    }

    #[test]
    fn dirt_in_the_holes_costs_the_same_share_everywhere_a_basket_most_when_much_flows() {
        let at = |one: &Injector, pulse| one.delivered_mm3(pulse, 14.0, 300.0, 745.0);
        let sound = Injector::new(PORT);
        let dirty = Injector { dirt: Dirt { holes: 0.2, ..Dirt::default() }, ..sound };
        let late = Injector { dirt: Dirt { late_ms: 0.3, ..Dirt::default() }, ..sound };
        let share = |one: &Injector, pulse| at(one, pulse) / at(&sound, pulse);
        assert!((share(&dirty, 2.0) - share(&dirty, 9.0)).abs() < 1e-9);
        assert!(share(&late, 2.0) < 0.75 && share(&late, 9.0) > 0.95, "short pulses lose most");
        assert!(at(&dirty.cleaned(1.0), 5.0) > at(&dirty, 5.0));
        let basket = Injector { dirt: Dirt { basket: 0.92, ..Dirt::default() }, ..sound };
        let (idle, load) = (share(&basket, 2.6), share(&basket, 9.0));
        assert!(idle > 0.8 && load < idle - 0.1, "a basket is felt when much flows: {idle} {load}");
        let worn = Injector { holes: 1.2, ..sound };
        assert!((at(&worn.cleaned(1.0), 5.0) - at(&worn, 5.0)).abs() < 1e-12, "wear is not dirt");
    }

    #[test]
    fn an_open_coil_a_cracked_stack_and_a_coil_to_the_body_open_nothing() {
        let sound = Injector::new(FuelSystem::DieselPiezo);
        assert!(sound.moves());
        for dead in [
            Injector { coil_ohm: f64::INFINITY, ..Injector::new(PORT) },
            Injector { stack_uf: 0.2, ..sound },
            Injector { body_mohm: 0.001, ..sound },
        ] {
            assert_eq!(dead.delivered_mm3(5.0, 14.0, 300.0, 745.0), 0.0);
        }
    }
}
