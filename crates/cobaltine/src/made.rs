//! A made-up engine as it is asked for on the command line: its fuel, and what is wrong with it.

use crate::words;
use anyhow::{Context, bail};
use cobaltine_core::engine::FuelSystem;
use cobaltine_engines::engine::MadeEngine;
use cobaltine_engines::fault::Fault;

/// What is asked for.
#[derive(Debug, clap::Args)]
pub(crate) struct Made {
    /// How the engine is fuelled, as files call it: petrol_port, diesel_solenoid, exhaust_doser.
    #[arg(long, default_value = "petrol_port")]
    pub fuel: String,
    /// The same one makes the same readings on any machine.
    #[arg(long, default_value_t = 1)]
    pub seed: u64,
    /// Something that is wrong, as the population file calls it: gum, coil_open, wire, guide.
    #[arg(long)]
    pub fault: Option<String>,
    /// Its cylinders, in a row.
    #[arg(long, default_value_t = 4, value_parser = clap::value_parser!(u32).range(2..=12))]
    pub cylinders: u32,
    /// The cylinder that has it.
    #[arg(long, default_value_t = 3, value_parser = clap::value_parser!(u32).range(1..=12))]
    pub at: u32,
    /// How much of it: 0.2 is barely to be noticed, 1 is gross.
    #[arg(long, default_value_t = 0.7)]
    pub size: f64,
}

impl Made {
    /// The engine.
    pub fn engine(&self) -> anyhow::Result<MadeEngine> {
        let fuel = serde_json::from_value::<FuelSystem>(self.fuel.as_str().into());
        let fuel = fuel.with_context(|| words::no_such_fuel(&self.fuel))?;
        let mut engine = MadeEngine::in_line(fuel, self.cylinders);
        if self.at > self.cylinders {
            bail!(words::no_such_cylinder(self.at, self.cylinders));
        }
        if let Some(name) = &self.fault {
            let named = serde_json::from_value::<Fault>(name.as_str().into());
            let fault = named.with_context(|| words::no_such_fault(name))?;
            if !fault.fits(fuel) {
                bail!(words::no_such_fault(name));
            }
            fault.put(&mut engine, self.at as usize - 1, self.size);
        }
        Ok(engine)
    }
}
