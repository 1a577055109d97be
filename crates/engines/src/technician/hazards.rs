//! Steps that could hurt, and when: a readable table, and how each row is seen at an engine.
//!
//! # Source
//! The file `hazards.toml`, row by row with its reason; a fifth of the clearance volume as the house's rule
//! for fuel that stands in a cylinder.

use crate::engine::MadeEngine;
use crate::injector::nominal;
use cobaltine_core::tests::engine::EngineTest;
use serde::Deserialize;
use thiserror::Error;

/// The file that ships with the program.
pub const SHIPPED: &str = include_str!("../../hazards.toml");
/// Share of the clearance volume that nobody compresses.
const STOP: f64 = 0.2;
/// Swept volume of a made-up cylinder, ml.
const SWEPT_ML: f64 = 500.0;

/// A file that cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("hazards file: {0}")]
pub struct HazardsError(String);

/// One way in which a step can hurt.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Hazard {
    when: When,
    /// Steps that it is about; none: every one.
    steps: Vec<String>,
    /// Why it hurts.
    pub reason: String,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
enum When {
    NotForThisKind,
    WrongFuel,
    FuelInCylinder,
    NothingSaid,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct File {
    hazard: Vec<Hazard>,
}

/// Every row of the file.
///
/// # Errors
/// A file that cannot be used.
pub fn hazards(text: &str) -> Result<Vec<Hazard>, HazardsError> {
    let file: File = toml::from_str(text).map_err(|error| HazardsError(error.to_string()))?;
    Ok(file.hazard)
}

/// A step as it is named, and what is known when it is.
#[derive(Debug, Clone, Copy)]
pub struct Named<'a> {
    /// The step.
    pub step: &'a str,
    /// What the program weighs its danger as, in a few words; empty for none worth naming.
    pub danger: &'a str,
    /// The fuel sample showed another fuel or water, and nothing was put right since.
    pub wrong_fuel: bool,
    /// How long any one cylinder was pulsed into since it was cleared, s.
    pub pulsed_s: f64,
}

impl Hazard {
    /// The step hurts now.
    pub fn holds(&self, engine: &MadeEngine, named: Named<'_>) -> bool {
        let check = EngineTest::parse(named.step);
        let meant = self.steps.is_empty() || self.steps.iter().any(|step| step == named.step);
        meant
            && match self.when {
                When::NotForThisKind => check.is_some_and(|check| !check.fits(engine.fuel)),
                When::WrongFuel => named.wrong_fuel && engine.fuel.high_pressure(),
                When::FuelInCylinder => {
                    let flow = nominal(engine.fuel).area_mm2 * PORT_ML_MIN_MM2;
                    let clearance = SWEPT_ML / (engine.ratio - 1.0);
                    named.pulsed_s / 60.0 * flow > STOP * clearance
                }
                When::NothingSaid => {
                    let cautions = check.map(|check| check.cautions(engine.fuel));
                    !named.danger.is_empty() && cautions.is_some_and(|cautions| cautions.is_empty())
                }
            }
    }
}

/// What a square millimetre passes at 300 kPa, ml/min.
const PORT_ML_MIN_MM2: f64 = 1_700.0;

#[cfg(test)]
mod tests {
    use super::*;
    use cobaltine_core::engine::FuelSystem;

    #[test]
    fn every_row_is_seen_when_it_holds_and_only_then() {
        let all = hazards(SHIPPED).unwrap();
        assert!(all.iter().all(|row| row.reason.len() > 40));
        let piezo = MadeEngine::four(FuelSystem::DieselPiezo);
        let port = MadeEngine::four(FuelSystem::PetrolPort);
        let calm = Named { step: "cutout", danger: "", wrong_fuel: false, pulsed_s: 0.0 };
        let held = |engine: &MadeEngine, named: Named<'_>| -> Vec<When> {
            all.iter().filter(|row| row.holds(engine, named)).map(|row| row.when).collect()
        };
        assert_eq!(held(&piezo, calm), []);
        assert_eq!(held(&piezo, Named { step: "indicator", ..calm }), [When::NotForThisKind]);
        assert_eq!(held(&piezo, Named { wrong_fuel: true, ..calm }), [When::WrongFuel]);
        let drop = Named { step: "pressure_drop", ..calm };
        // 240 ml/min for 0.3 s is 1.2 ml, of 54 ml clearance; ten such series are a fifth of it.
        assert_eq!(held(&port, Named { pulsed_s: 0.3, ..drop }), []);
        assert_eq!(held(&port, Named { pulsed_s: 3.0, ..drop }), [When::FuelInCylinder]);
        // Every step that is weighed as dangerous says what can hurt.
        for check in EngineTest::ALL {
            let step = check.name();
            let fits = FuelSystem::ALL.into_iter().filter(|fuel| check.fits(*fuel));
            for engine in fits.map(MadeEngine::four) {
                assert_eq!(held(&engine, Named { step, danger: "jet", ..calm }), [], "{step}");
            }
        }
    }
}
