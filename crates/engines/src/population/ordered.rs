//! Engines that are asked for: faults as they are named, everything else drawn.

use super::{MadeJob, Population, Put, World};
use crate::draw::Draw;
use crate::engine::{MadeEngine, Running};
use cobaltine_core::engine::FuelSystem;
use cobaltine_core::intake::Story;
use cobaltine_core::work::Lately;

/// An engine that is asked for.
#[derive(Debug, Clone, PartialEq)]
pub struct Order {
    /// What feeds it.
    pub fuel: FuelSystem,
    /// How many in a row.
    pub cylinders: u32,
    /// Hours run.
    pub hours: f64,
    /// What is wrong with it.
    pub faults: Vec<Put>,
    /// What changed lately.
    pub lately: Vec<Lately>,
    /// The library knows the family, with limits.
    pub limit: bool,
}

impl Population {
    /// The engine of an order: what the order leaves open is drawn from this seed.
    pub fn made_to(&self, seed: u64, order: &Order) -> MadeJob {
        let draw = &mut Draw::new(seed, 0);
        let mut engine = MadeEngine::in_line(order.fuel, order.cylinders);
        self.make(&mut engine, draw, order.hours);
        for put in &order.faults {
            put.fault.put(&mut engine, put.cylinder, put.size);
        }
        engine.warm_c = draw.between(76.0, 90.0);
        let symptoms = self.told(&engine, draw);
        let story =
            Story { lately: order.lately.clone(), ..self.story(&engine, &order.faults, draw) };
        let return_limit = (order.limit && engine.is_diesel()).then(|| {
            let new = MadeEngine::sound(engine.fuel, engine.layout);
            let sound = new.returned_at(0, Running::Idle, new.wanted_kpa(Running::Idle), 80.0);
            (sound * self.library.limit_over_sound).round()
        });
        let (faults, hours) = (order.faults.clone(), order.hours);
        let (in_library, world) = (order.limit, World::First);
        MadeJob { seed, world, engine, faults, symptoms, story, hours, in_library, return_limit }
    }
}
