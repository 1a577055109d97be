//! The fitting card: what has to be done to each injector that goes back in, and what was found.
//!
//! Steps go by the kind of fuel system; each is ticked by name, for one cylinder or for all that
//! were out. Torque comes from the library's family, else from the maker's book as it was typed.
//!
//! # Source
//! House rules of the trade; the maker's instructions come first.

mod card;
mod tightening;
mod words;

pub use crate::work::{FitStep, Trouble};
pub use card::{FitTick, Fitting, FittingStep, PartDue, TroubleFound, fitting};
pub use tightening::{Tightening, stages_said, tightening};

use crate::caution::{self, Caution};
use crate::engine::FuelSystem;

/// What is shown before the card.
fn cautions(fuel: FuelSystem) -> Vec<Caution> {
    let mut found = vec![caution::DEPRESSURISE];
    match fuel {
        FuelSystem::PetrolPort => found.push(caution::VAPOUR),
        FuelSystem::PetrolDirect => found.extend([caution::VAPOUR, caution::CHARGE]),
        FuelSystem::DieselPiezo => found.extend([caution::JET, caution::CHARGE]),
        FuelSystem::DieselSolenoid => found.push(caution::JET),
        FuelSystem::ExhaustDoser => found.push(caution::HOT),
    }
    found
}

#[cfg(test)]
mod tests;
