//! Cylinders, banks, and the physical order in which the strip draws them.
//!
//! The strip is drawn as one stands beside the engine with the pulley (belt) end on
//! the left and the flywheel on the right. Which end the maker calls cylinder 1 differs,
//! and so does the way two banks are counted; both are asked at intake, because a code or a
//! verdict in the wrong cylinder is worse than none.

mod words;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// The most cylinders a job can hold.
pub const MOST_CYLINDERS: u32 = 12;

/// An end of the engine.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum EngineEnd {
    /// The belt or pulley end, drawn on the left.
    #[default]
    Pulley,
    /// The flywheel end, drawn on the right.
    Flywheel,
}

/// How two banks are counted.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BankNumbering {
    /// Through the first bank, then through the second: 1 2 3 | 4 5 6.
    #[default]
    BankByBank,
    /// From side to side: 1 3 5 | 2 4 6.
    Alternating,
}

/// What feeds the injectors and how.
#[derive(
    Debug, Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum FuelSystem {
    /// Diesel, common rail, solenoid injectors.
    #[default]
    DieselSolenoid,
    /// Diesel, common rail, piezo injectors.
    DieselPiezo,
    /// Petrol, port injection.
    PetrolPort,
    /// Petrol, direct injection.
    PetrolDirect,
    /// Doser injector of an exhaust after-treatment burner.
    ExhaustDoser,
}

impl FuelSystem {
    /// Every system.
    pub const ALL: [Self; 5] = [
        Self::DieselSolenoid,
        Self::DieselPiezo,
        Self::PetrolPort,
        Self::PetrolDirect,
        Self::ExhaustDoser,
    ];

    /// Whether the control unit knows each injector by a code.
    pub fn coded(self) -> bool {
        match self {
            Self::DieselSolenoid | Self::DieselPiezo | Self::PetrolDirect => true,
            Self::PetrolPort | Self::ExhaustDoser => false,
        }
    }

    /// A pump of its own builds its pressure, and the fuel lubricates it.
    pub fn high_pressure(self) -> bool {
        match self {
            Self::DieselSolenoid | Self::DieselPiezo | Self::PetrolDirect => true,
            Self::PetrolPort | Self::ExhaustDoser => false,
        }
    }

    /// Whether a return (leak-off) test means anything here.
    pub fn has_return(self) -> bool {
        match self {
            Self::DieselSolenoid | Self::DieselPiezo => true,
            Self::PetrolPort | Self::PetrolDirect | Self::ExhaustDoser => false,
        }
    }
}

/// The layout of an engine.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Layout {
    /// 1 to 12.
    pub cylinders: u32,
    /// 1 or 2.
    pub banks: u32,
    /// Which end is cylinder 1.
    pub first_at: EngineEnd,
    /// How two banks are counted; without meaning for one bank.
    pub numbering: BankNumbering,
}

/// Why a layout cannot be.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum LayoutError {
    /// None, or more than the strip can hold.
    #[error("{}", words::engine_here_cylinders_got(MOST_CYLINDERS, .0))]
    Cylinders(u32),
    /// Neither one nor two banks.
    #[error("{}", words::one_two_banks_got(.0))]
    Banks(u32),
    /// Two banks of different length.
    #[error("{}", words::two_banks_need_even(.0))]
    Uneven(u32),
}

impl Layout {
    /// Whether each cylinder is there once and no other.
    pub fn is_each_once(&self, cylinders: &[u32]) -> bool {
        let mut sorted = cylinders.to_vec();
        sorted.sort_unstable();
        sorted.into_iter().eq(1..=self.cylinders)
    }

    /// Checks the layout.
    ///
    /// # Errors
    /// Too many or no cylinders, banks other than one or two, an odd number over two banks.
    pub fn check(&self) -> Result<(), LayoutError> {
        if !(1..=MOST_CYLINDERS).contains(&self.cylinders) {
            return Err(LayoutError::Cylinders(self.cylinders));
        }
        if !(1..=2).contains(&self.banks) {
            return Err(LayoutError::Banks(self.banks));
        }
        if self.banks == 2 && !self.cylinders.is_multiple_of(2) {
            return Err(LayoutError::Uneven(self.cylinders));
        }
        Ok(())
    }

    /// Cylinder numbers as they stand from the pulley to the flywheel, bank by bank.
    ///
    /// ```
    /// use cobaltine_core::engine::{BankNumbering, EngineEnd, Layout};
    /// let engine = Layout {
    ///     cylinders: 6, banks: 2, first_at: EngineEnd::Flywheel, numbering: BankNumbering::Alternating,
    /// };
    /// assert_eq!(engine.strip(), vec![vec![5, 3, 1], vec![6, 4, 2]]);
    /// ```
    pub fn strip(&self) -> Vec<Vec<u32>> {
        let banks = self.banks.max(1);
        let per_bank = self.cylinders / banks;
        (0..banks)
            .map(|bank| {
                let mut numbers: Vec<u32> = (0..per_bank)
                    .map(|place| match self.numbering {
                        BankNumbering::BankByBank => bank * per_bank + place + 1,
                        BankNumbering::Alternating => place * banks + bank + 1,
                    })
                    .collect();
                match self.first_at {
                    EngineEnd::Pulley => {}
                    EngineEnd::Flywheel => numbers.reverse(),
                }
                numbers
            })
            .collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_layout_draws_each_cylinder_once() {
        for cylinders in 1..=MOST_CYLINDERS {
            for banks in 1..=2 {
                for first_at in [EngineEnd::Pulley, EngineEnd::Flywheel] {
                    for numbering in [BankNumbering::BankByBank, BankNumbering::Alternating] {
                        let layout = Layout { cylinders, banks, first_at, numbering };
                        if layout.check().is_err() {
                            assert_eq!((banks, cylinders % 2), (2, 1));
                            continue;
                        }
                        let mut seen: Vec<u32> = layout.strip().concat();
                        seen.sort_unstable();
                        assert_eq!(seen, (1..=cylinders).collect::<Vec<_>>());
                    }
                }
            }
        }
    }
}
