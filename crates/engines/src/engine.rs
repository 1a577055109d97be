//! The engine around its injectors: places with their wires, lines, compression and spark, and what all
//! share: fuel, feed, pump, voltage, mixture.
//!
//! # Source
//! [`crate::physics`] for pressures and flows; how an engine runs on what it gets is a model of our own.

use crate::injector::{Injector, nominal};
use crate::physics::{Cylinder, Fluid, Liquid, compression_kpa, settled_kpa};
use cobaltine_core::engine::{BankNumbering, EngineEnd, FuelSystem, Layout};

/// A cylinder with what belongs to it whichever injector sits there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Place {
    /// What leaks past rings, valves and gasket, mm².
    pub leak_mm2: f64,
    /// Resistance of its wires, Ω; infinite when open.
    pub leg_ohm: f64,
    /// Its driver, from 0 (dead) to 1.
    pub driver: f64,
    /// Its line, free share from 0 to 1.
    pub line: f64,
    /// Its spark, from 0 to 1; of no matter for a diesel.
    pub spark: f64,
}

/// What all cylinders share.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shared {
    /// Share of a fuel that does not belong in it.
    pub foreign: f64,
    /// Water, from 0 to 1.
    pub water: f64,
    /// Air in the suction line, from 0 to 1.
    pub air: f64,
    /// Feed pressure against the right one.
    pub feed: f64,
    /// Supply voltage at the injectors against the right one.
    pub power: f64,
    /// What the high-pressure pump and its valves give against the right one.
    pub pump: f64,
    /// Intake leak, sensor or spark of all, from 0 to 1.
    pub mixture: f64,
}

/// How it runs while something is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Running {
    /// On the starter.
    Cranking,
    /// Idling.
    Idle,
    /// Raised speed without load.
    Raised,
    /// Under load.
    Load,
}

/// A made-up engine.
#[derive(Debug, Clone, PartialEq)]
pub struct MadeEngine {
    /// What feeds it.
    pub fuel: FuelSystem,
    /// Cylinders, banks, numbering.
    pub layout: Layout,
    /// Injectors, each with an identity that goes along.
    pub injectors: Vec<Injector>,
    /// Which injector sits in each cylinder, cylinder 1 first.
    pub seats: Vec<usize>,
    /// Places, cylinder 1 first.
    pub places: Vec<Place>,
    /// What all share.
    pub shared: Shared,
    /// Coolant and fuel at the injectors while it is warm, °C.
    pub warm_c: f64,
    /// Compression ratio.
    pub ratio: f64,
    /// Cranking speed with a sound battery, rpm.
    pub cranks_rpm: f64,
}

fn liquid(fuel: FuelSystem) -> Liquid {
    match fuel {
        FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => {
            Liquid::Diesel
        }
        FuelSystem::PetrolPort | FuelSystem::PetrolDirect => Liquid::Petrol,
    }
}

impl Place {
    /// As it should be.
    pub fn sound() -> Self {
        Self { leak_mm2: 0.35, leg_ohm: 0.12, driver: 1.0, line: 1.0, spark: 1.0 }
    }
}

impl Shared {
    /// As it should be.
    pub fn sound() -> Self {
        Self { foreign: 0.0, water: 0.0, air: 0.0, feed: 1.0, power: 1.0, pump: 1.0, mixture: 0.0 }
    }
}

impl MadeEngine {
    /// Four cylinders in a row, nothing wrong with them.
    pub fn four(fuel: FuelSystem) -> Self {
        Self::in_line(fuel, 4)
    }

    /// So many cylinders in a row, nothing wrong with them.
    pub fn in_line(fuel: FuelSystem, cylinders: u32) -> Self {
        let layout = Layout {
            cylinders,
            banks: 1,
            first_at: EngineEnd::Pulley,
            numbering: BankNumbering::BankByBank,
        };
        Self::sound(fuel, layout)
    }

    /// With nominal injectors and nothing wrong.
    pub fn sound(fuel: FuelSystem, layout: Layout) -> Self {
        let cylinders = layout.cylinders as usize;
        let diesel = matches!(fuel, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo);
        Self {
            fuel,
            injectors: vec![Injector::new(fuel); cylinders],
            seats: (0..cylinders).collect(),
            places: vec![Place::sound(); cylinders],
            shared: Shared::sound(),
            warm_c: 82.0,
            ratio: if diesel { 16.5 } else { 10.2 },
            cranks_rpm: 225.0,
            layout,
        }
    }

    /// The injector in a cylinder, counted from 0.
    pub fn injector(&self, cylinder: usize) -> &Injector {
        &self.injectors[self.seats[cylinder]]
    }

    /// It burns diesel.
    pub fn is_diesel(&self) -> bool {
        matches!(self.fuel, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo)
    }

    /// What is in the tank.
    pub fn fluid(&self) -> Fluid {
        Fluid::new(liquid(self.fuel)).of_thickness(1.0 - 0.35 * self.shared.foreign)
    }

    /// Speed, rpm.
    pub fn rpm(&self, running: Running) -> f64 {
        match running {
            Running::Cranking => self.cranks_rpm * self.shared.power.min(1.0).sqrt(),
            Running::Idle => 800.0,
            Running::Raised => 1500.0,
            Running::Load => 2200.0,
        }
    }

    fn pulse_ms(&self, running: Running) -> f64 {
        let kind = nominal(self.fuel);
        match running {
            Running::Cranking => kind.idle_ms * 1.6,
            Running::Idle | Running::Raised => kind.idle_ms,
            Running::Load => kind.load_ms,
        }
    }

    /// Pressure that is asked for, kPa.
    pub fn wanted_kpa(&self, running: Running) -> f64 {
        let kind = nominal(self.fuel);
        match running {
            Running::Cranking | Running::Idle => kind.idle_kpa,
            Running::Raised => kind.idle_kpa * if self.is_diesel() { 1.25 } else { 1.0 },
            Running::Load => kind.load_kpa,
        }
    }

    /// What flows back from one cylinder's injector, ml/min at this pressure and temperature.
    pub fn returned_at(&self, cylinder: usize, running: Running, kpa: f64, celsius: f64) -> f64 {
        let pulses = self.rpm(running) / 2.0;
        let place = &self.places[cylinder];
        let driven = if place.leg_ohm.is_finite() && place.driver > 0.2 { pulses } else { 0.0 };
        self.injector(cylinder).return_ml_min(
            driven,
            self.pulse_ms(running),
            kpa,
            &self.fluid(),
            celsius,
        )
    }

    /// Pressure in the rail, kPa: what the pump can hold against all that is taken.
    pub fn rail_kpa(&self, running: Running) -> f64 {
        let wanted = self.wanted_kpa(running);
        let feed = self.shared.feed.clamp(0.05, 1.0);
        if !self.is_diesel() && self.fuel != FuelSystem::PetrolDirect {
            let sags = 1.0 - 0.25 * self.shared.air;
            return wanted * self.shared.feed * sags;
        }
        let air = 1.0 - 0.75 * self.shared.air;
        // ml a minute at this speed; a sound pump has a good half to spare at idle.
        let pump = 0.62 * self.rpm(running) * self.shared.pump * feed.sqrt() * air;
        let taken = if self.is_diesel() {
            let back: f64 = (0..self.seats.len())
                .map(|cylinder| self.returned_at(cylinder, running, wanted, self.warm_c))
                .sum();
            back + self.injected_ml_min(running)
        } else {
            self.injected_ml_min(running)
        };
        settled_kpa(wanted, pump, taken)
    }

    /// What nominal injectors would inject, ml/min.
    fn injected_ml_min(&self, running: Running) -> f64 {
        let kind = nominal(self.fuel);
        let density = self.fluid().density(60.0);
        let one = Injector::new(self.fuel).delivered_mm3(
            self.pulse_ms(running),
            kind.dead.volts,
            self.wanted_kpa(running),
            density,
        );
        one * self.rpm(running) / 2.0 * self.seats.len() as f64 / 1000.0
    }

    /// Voltage that is left for one injector, V.
    pub fn volts(&self, cylinder: usize) -> f64 {
        let kind = nominal(self.fuel);
        let place = &self.places[cylinder];
        if !place.leg_ohm.is_finite() {
            return 0.0;
        }
        let given = kind.dead.volts * self.shared.power;
        let over = (place.leg_ohm - 0.12).max(0.0);
        match kind.peak_a {
            // A boosted driver forces its current: the wire takes what that current loses in it.
            Some(peak) => (given - peak * over).max(0.0),
            // Behind a plain switch, wire and coil share the voltage.
            None => given * kind.coil_ohm / (kind.coil_ohm + over),
        }
    }

    /// What one cylinder gets for a stroke, mm³.
    pub fn gets_mm3(&self, cylinder: usize, running: Running) -> f64 {
        let place = &self.places[cylinder];
        let volts = self.volts(cylinder) * (0.75 + 0.25 * place.driver.min(1.0));
        let kind = nominal(self.fuel);
        if volts < 0.35 * kind.dead.volts || place.driver < 0.2 {
            return 0.0;
        }
        let kpa = self.rail_kpa(running) * place.line.powi(2).max(0.02);
        let density = self.fluid().density(60.0);
        let one = self.injector(cylinder);
        let plain = one.delivered_mm3(self.pulse_ms(running), volts, kpa, density);
        let coded = if plain > 0.0 { plain + one.code_mm3 } else { 0.0 };
        coded.max(0.0) * (1.0 - 0.2 * self.shared.water)
    }

    /// What one cylinder gets against what it should get.
    pub fn share(&self, cylinder: usize, running: Running) -> f64 {
        let sound = Injector::new(self.fuel);
        let kind = nominal(self.fuel);
        let density = Fluid::new(liquid(self.fuel)).density(60.0);
        let right = sound.delivered_mm3(
            self.pulse_ms(running),
            kind.dead.volts,
            self.wanted_kpa(running),
            density,
        );
        self.gets_mm3(cylinder, running) / right
    }

    /// Compression of a cylinder, kPa; the washer of an injector is part of its leak.
    pub fn compression(&self, cylinder: usize) -> f64 {
        let leak_mm2 = self.places[cylinder].leak_mm2 + self.injector(cylinder).gas_mm2;
        let of = Cylinder { ratio: self.ratio, swept_cm3: 500.0, leak_mm2 };
        compression_kpa(&of, self.rpm(Running::Cranking))
    }

    /// How a cylinder pulls against a sound one, from 0.
    pub fn pulls(&self, cylinder: usize, running: Running) -> f64 {
        let tight = Cylinder { ratio: self.ratio, swept_cm3: 500.0, leak_mm2: 0.35 };
        let squeeze = self.compression(cylinder) / compression_kpa(&tight, self.cranks_rpm);
        let share = self.share(cylinder, running);
        let spray = 1.0 - 0.25 * self.injector(cylinder).spray_bad();
        if self.is_diesel() {
            // More fuel pulls more, until there is no air for it; too little squeeze fires nothing.
            let fires = ((squeeze - 0.45) / 0.35).clamp(0.0, 1.0);
            return share.min(1.5) * fires * spray * (1.0 - 0.3 * self.shared.foreign);
        }
        let mixed = share * (1.0 - 0.35 * self.shared.mixture);
        let burns = if mixed < 0.9 { 1.0 - (0.9 - mixed) / 0.4 } else { 1.0 - (mixed - 1.2) / 0.9 };
        burns.clamp(0.0, 1.0)
            * squeeze.clamp(0.0, 1.05)
            * self.places[cylinder].spark.clamp(0.0, 1.0)
            * spray
            * (1.0 - 0.3 * self.shared.foreign)
    }

    /// Pressure in the rail while cranking against what is needed to start.
    pub fn start_pressure(&self) -> f64 {
        self.rail_kpa(Running::Cranking) / self.wanted_kpa(Running::Cranking)
    }

    /// Exchanges the injectors of two cylinders.
    pub fn swap(&mut self, one: usize, other: usize) {
        self.seats.swap(one, other);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fault::{At, Fault};
    #[test]
    fn a_sound_engine_gets_what_it_should_starts_and_pulls_alike() {
        for fuel in FuelSystem::ALL {
            let engine = MadeEngine::four(fuel);
            for running in [Running::Idle, Running::Load] {
                for cylinder in 0..4 {
                    assert!((engine.share(cylinder, running) - 1.0).abs() < 0.02, "{fuel:?}");
                    assert!(engine.pulls(cylinder, running) > 0.95, "{fuel:?}");
                }
            }
            assert!((engine.start_pressure() - 1.0).abs() < 1e-9, "{fuel:?}");
        }
    }

    #[test]
    fn every_fault_is_felt_somewhere_and_the_larger_the_more() {
        for fuel in FuelSystem::ALL {
            for fault in Fault::ALL.into_iter().filter(|fault| fault.fits(fuel)) {
                let with = |size: f64| {
                    let mut engine = MadeEngine::four(fuel);
                    fault.put(&mut engine, 2, size);
                    engine
                };
                let (sound, gross) = (MadeEngine::four(fuel), with(1.0));
                assert_ne!(sound, gross, "{fault:?}");
                let others = [0, 1, 3].iter().all(|c| gross.injector(*c) == sound.injector(*c));
                assert!(others, "{fault:?} is put into one injector alone");
                if fault.at() == At::All {
                    assert_eq!(sound.injectors, gross.injectors, "{fault:?}");
                }
            }
        }
    }

    #[test]
    fn worn_guides_eat_the_pressure_that_it_needs_to_start() {
        let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
        for cylinder in 0..4 {
            Fault::Guide.put(&mut engine, cylinder, 1.2);
        }
        assert!(engine.start_pressure() < 0.9, "{}", engine.start_pressure());
        let mut one = MadeEngine::four(FuelSystem::DieselSolenoid);
        Fault::Guide.put(&mut one, 1, 0.4);
        assert!(one.start_pressure() > 0.99);
    }

    #[test]
    fn what_a_fault_is_bound_to_goes_along_or_stays() {
        let mut engine = MadeEngine::four(FuelSystem::PetrolPort);
        Fault::Deposits.put(&mut engine, 0, 1.0);
        Fault::Wire.put(&mut engine, 3, 0.6);
        engine.swap(0, 3);
        assert!(engine.injector(3).dirt.holes > 0.0 && engine.injector(0).dirt.holes == 0.0);
        assert!(engine.places[3].leg_ohm > 1.0);
    }

    #[test]
    fn the_rail_gives_no_more_than_the_pump_brings() {
        let mut engine = MadeEngine::four(FuelSystem::DieselSolenoid);
        Fault::Pressure.put(&mut engine, 0, 1.2);
        Fault::Valve.put(&mut engine, 2, 1.5);
        let wanted = engine.wanted_kpa(Running::Load);
        let settled = engine.rail_kpa(Running::Load);
        let back: f64 =
            (0..4).map(|c| engine.returned_at(c, Running::Load, wanted, engine.warm_c)).sum();
        let taken = back + engine.injected_ml_min(Running::Load);
        let pump = 0.62 * engine.rpm(Running::Load) * engine.shared.pump;
        assert!(settled <= wanted && (taken * settled / wanted - pump.min(taken)).abs() < 1e-6);
    }
}
