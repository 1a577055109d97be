//! Cautions: shown where the step is, before the step, and again on the printed plan.
//!
//! Each names the hazard, what to do, and who may do it. The program is an aid to trained
//! people; it never overrides the maker's instructions, local codes or the law.

use crate::engine::FuelSystem;
use serde::Serialize;
use utoipa::ToSchema;

/// Work whose hazards depend on how the engine is fuelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Work {
    /// Two injectors change places.
    Swap,
    /// The return test on the engine.
    Return,
    /// The rail relief valve, running.
    RailRelief,
    /// Balance by pressure drop.
    PressureDrop,
    /// Balance from the scan tool.
    DiBalance,
    /// A measurement with a connector off and the ignition on.
    ConnectorOff,
    /// The spark exchanged with a neighbour.
    Spark,
    /// A leak check of petrol on the bench.
    Leak,
}

impl Work {
    /// Every kind of such work.
    pub const ALL: [Self; 8] = [
        Self::Swap,
        Self::Return,
        Self::RailRelief,
        Self::PressureDrop,
        Self::DiBalance,
        Self::ConnectorOff,
        Self::Spark,
        Self::Leak,
    ];

    /// What this fuel system adds to the cautions of the work.
    pub fn cautions(self, fuel: FuelSystem) -> Vec<Caution> {
        let petrol = matches!(fuel, FuelSystem::PetrolPort | FuelSystem::PetrolDirect);
        let charged = matches!(fuel, FuelSystem::PetrolDirect | FuelSystem::DieselPiezo);
        let high = matches!(
            fuel,
            FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::PetrolDirect
        );
        let when = |wanted: bool, caution: Caution| wanted.then_some(caution);
        let of: [Option<Caution>; 5] = match self {
            Self::Swap => [
                Some(DEPRESSURISE),
                when(high, JET),
                when(charged, CHARGE),
                when(petrol, VAPOUR),
                when(petrol, SPARK),
            ],
            Self::Return => [
                when(fuel == FuelSystem::DieselPiezo, COUNTER),
                when(fuel == FuelSystem::DieselPiezo, CHARGE),
                None,
                None,
                None,
            ],
            Self::RailRelief => {
                [Some(RUNNING), Some(JET), when(petrol, VAPOUR), when(petrol, SPARK), None]
            }
            Self::PressureDrop => [
                Some(VAPOUR),
                when(high, RUNNING),
                when(high, JET),
                when(charged, CHARGE),
                when(petrol, SPARK),
            ],
            Self::DiBalance => {
                [Some(RUNNING), Some(JET), when(charged, CHARGE), when(petrol, VAPOUR), None]
            }
            Self::ConnectorOff => [Some(IGNITION_ON), when(charged, CHARGE), None, None, None],
            Self::Spark => [Some(SPARK), when(petrol, VAPOUR), when(charged, CHARGE), None, None],
            Self::Leak => [when(petrol, VAPOUR), None, None, None, None],
        };
        of.into_iter().flatten().collect()
    }
}

/// These, and what is added, each once.
pub(crate) fn with(cautions: &[Caution], more: &[Caution]) -> Vec<Caution> {
    let mut all = cautions.to_vec();
    for one in more {
        if !all.contains(one) {
            all.push(*one);
        }
    }
    all
}

/// One caution.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct Caution {
    /// What can hurt.
    pub hazard: &'static str,
    /// What to do about it.
    pub action: &'static str,
    /// Who may do this step.
    pub who: &'static str,
}

const TRAINED: &str = "Trained people; the maker's instructions and local codes come first.";
const LICENSED: &str =
    "People trained for high voltage on vehicles, where local codes ask for a licence.";

macro_rules! cautions {
    ($($name:ident: $hazard:literal, $action:literal, $who:expr;)*) => {
        $(
            #[doc = $hazard]
            pub const $name: Caution = Caution { hazard: $hazard, action: $action, who: $who };
        )*

        /// Every caution that a step may carry.
        pub const ALL: &[Caution] = &[$($name),*];
    };
}

cautions! {
    JET: "A jet of fuel goes through skin.",
        "Never loosen a line on a running engine; stop, wait for the pressure to fall. No finger near a leak: a jet wound needs a surgeon at once, even a small one.", TRAINED;
    VAPOUR: "Petrol vapour burns.",
        "Ventilate, no ignition source, extinguisher of the right class at hand, catch every spill.", TRAINED;
    SPARK: "Spark beside petrol vapour, and high voltage at the coil.",
        "No open fuel line and no spill near a spark. Ignition off before a coil is touched; never pull one off a running engine.", TRAINED;
    COUNTER: "Piezo injectors run with their return open are destroyed, and spray fuel.",
        "Keep the counter-pressure in the return; never run them open where the family says so.", TRAINED;
    RUNNING: "Running engine indoors: exhaust, belts, roll-away.",
        "Extraction on, wheels chocked, neutral or park, brake on, no loose clothing.", TRAINED;
    CRANKING: "Cranking engine, cylinders that may fire.",
        "Fuel and ignition off where the test allows it, hands and clothing clear, nobody in front of open plug holes.", TRAINED;
    CHARGE: "Dangerous voltage and stored charge at direct-injection and piezo drives.",
        "De-energise and wait as long as the maker says. Never unplug an injector on a running engine.", LICENSED;
    WASHED: "Raw fuel on the pistons locks an engine and washes its bores.",
        "Out of the engine where that can be; otherwise few pulses, and a clear-flood crank with the plugs out before starting.", TRAINED;
    DEPRESSURISE: "Fuel under pressure in lines that look dead.",
        "Depressurise before opening, catch the fuel, leak check before the start and running.", TRAINED;
    MOUTH: "Fuel in lungs.",
        "Never draw fuel by mouth: hand primer or vacuum pump.", "Holds for everyone near it.";
    IGNITION_ON: "Connector off with the ignition on: fault stored, voltage at the pins.",
        "Only where the family allows it; otherwise ignition off, wait, and measure the wires end to end.", TRAINED;
    HOT: "Hot fuel, hot parts.",
        "Gloves and eye protection; let it cool before hoses come off.", TRAINED;
    COIL: "A wrong drive destroys a coil in a second and can burst it.",
        "Set voltage and current for the family before the first pulse; plug in with the drive off.", TRAINED;
    BENCH: "Fuel mist, moving belts, fluid under pressure at the bench.",
        "Guard closed, extraction on, eyes and hands covered; the pressure down before a line is opened.", TRAINED;
    SPRAY: "A spray at pressure goes through skin and burns.",
        "Behind the shield only, no ignition source; never a finger into a spray or a drip.", TRAINED;
    BATH: "A heated bath with a flammable solvent in it.",
        "Water-based cleaner only in a heated bath; gloves, eye protection, ventilation, cover on.", TRAINED;
    ACID: "Acids burn, and eat nozzles and coils.",
        "Better left alone. Where local practice uses one: full protection, metal that stands it, neutralise, rinse, dispose.", TRAINED;
    REGENERATION: "An exhaust that burns itself free glows.",
        "Outdoors or with extraction for hot gas, nothing that burns around, nobody near the tail pipe.", TRAINED;
    ROAD: "A learning drive is traffic.",
        "Traffic law comes before any counter; a second person reads the instruments, the driver drives.", "A licensed driver, on a road that allows it.";
    CODING: "A supply that sags while a code is written can kill the control unit.",
        "Support charger on, ignition on, engine off, loads off, no door; wait for the end, then read back.", TRAINED;
    WASTE: "Waste fuel harms water and soil.",
        "Collect samples, test fuel and rags for licensed disposal.", "Holds for everyone near it.";
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::tests::engine::EngineTest;

    #[test]
    fn what_can_hurt_is_named_on_each_fuel_system_where_it_can_and_not_where_it_cannot() {
        use FuelSystem::{DieselPiezo, DieselSolenoid, ExhaustDoser, PetrolDirect, PetrolPort};
        let all = [DieselSolenoid, DieselPiezo, PetrolPort, PetrolDirect, ExhaustDoser];
        // Work, caution, and the fuel systems on which it has to stand.
        let table: &[(Work, Caution, &[FuelSystem])] = &[
            (Work::Swap, CHARGE, &[DieselPiezo, PetrolDirect]),
            (Work::Swap, VAPOUR, &[PetrolPort, PetrolDirect]),
            (Work::Swap, SPARK, &[PetrolPort, PetrolDirect]),
            (Work::Swap, JET, &[DieselSolenoid, DieselPiezo, PetrolDirect]),
            (Work::RailRelief, VAPOUR, &[PetrolPort, PetrolDirect]),
            (Work::RailRelief, RUNNING, &all),
            (Work::RailRelief, JET, &all),
            (Work::PressureDrop, VAPOUR, &all),
            (Work::PressureDrop, RUNNING, &[DieselSolenoid, DieselPiezo, PetrolDirect]),
            (Work::PressureDrop, JET, &[DieselSolenoid, DieselPiezo, PetrolDirect]),
            (Work::DiBalance, RUNNING, &all),
            (Work::DiBalance, JET, &all),
            (Work::Leak, VAPOUR, &[PetrolPort, PetrolDirect]),
            (Work::Return, COUNTER, &[DieselPiezo]),
            (Work::ConnectorOff, IGNITION_ON, &all),
            (Work::Spark, SPARK, &all),
        ];
        for (work, caution, on) in table {
            for fuel in all {
                let named = work.cautions(fuel).contains(caution);
                assert_eq!(named, on.contains(&fuel), "{work:?} {fuel:?}: {}", caution.hazard);
            }
        }
        // The checks show them: what a step of the plan and a form of a check carry is the same list.
        for id in EngineTest::sheets() {
            for fuel in all.into_iter().filter(|fuel| id.fits(*fuel)) {
                let shown = id.cautions(fuel);
                let more = id.work().map(|work| work.cautions(fuel)).unwrap_or_default();
                assert!(more.iter().all(|one| shown.contains(one)), "{id:?} {fuel:?}");
            }
        }
        assert!(!EngineTest::Indicator.fits(DieselSolenoid), "no lamp on a common rail");
        assert!(
            !EngineTest::Indicator.fits(PetrolDirect) && !EngineTest::Indicator.fits(DieselPiezo)
        );
    }

    #[test]
    fn every_caution_names_hazard_action_and_who_and_is_short_enough_to_be_read() {
        for caution in ALL {
            for part in [caution.hazard, caution.action, caution.who] {
                assert!(part.ends_with('.') && part.len() <= 190, "{part}");
            }
        }
    }
}
