//! Cautions: shown where the step is, before the step, and again on the printed plan.
//!
//! Each names the hazard, what to do, and who may do it. The program is an aid to trained
//! people; it never overrides the maker's instructions, local codes or the law.

mod words;

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
        let high = fuel.high_pressure();
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

const TRAINED: &str = words::TRAINED_STAFF_MAKERS_INSTRUCTIONS;
const LICENSED: &str = words::STAFF_TRAINED_HIGH_VOLTAGE;

macro_rules! cautions {
    ($($name:ident: $hazard:expr, $action:expr, $who:expr;)*) => {
        $(
            #[doc = concat!("`", stringify!($name), "`.")]
            pub const $name: Caution = Caution { hazard: $hazard, action: $action, who: $who };
        )*

        /// Every caution that a step may carry.
        pub const ALL: &[Caution] = &[$($name),*];
    };
}

cautions! {
    JET: words::FUEL_JET_PIERCES_SKIN,
        words::NEVER_LOOSEN_LINE_RUNNING, TRAINED;
    VAPOUR: words::PETROL_VAPOUR_FIRE_EXPLOSION,
        words::VENTILATE_NO_IGNITION_SOURCE, TRAINED;
    SPARK: words::SPARK_NEAR_PETROL_VAPOUR,
        words::NO_OPEN_FUEL_LINE, TRAINED;
    COUNTER: words::PIEZO_INJECTOR_OPEN_RETURN,
        words::KEEP_COUNTER_PRESSURE_RETURN, TRAINED;
    RUNNING: words::ENGINE_RUNNING_INDOORS_EXHAUST,
        words::EXTRACTION_WHEELS_CHOCKED_NEUTRAL, TRAINED;
    CRANKING: words::CRANKING_ENGINE_MOVING_PARTS,
        words::FUEL_IGNITION_OFF_TEST, TRAINED;
    CHARGE: words::DANGEROUS_VOLTAGE_STORED_CHARGE,
        words::DE_ENERGISE_WAIT_LONG, LICENSED;
    WASHED: words::RAW_FUEL_PISTONS_HYDRAULIC,
        words::PULSE_OUT_ENGINE_POSSIBLE, TRAINED;
    DEPRESSURISE: words::LINES_MAY_STILL_HOLD,
        words::DEPRESSURISE_BEFORE_OPENING_CATCH, TRAINED;
    MOUTH: words::INHALED_FUEL_DAMAGES_LUNGS,
        words::NEVER_SUCK_FUEL_MOUTH, words::APPLIES_EVERYONE;
    IGNITION_ON: words::CONNECTOR_OFF_IGNITION_LIVE,
        words::ONLY_FAMILY_ALLOWS_OTHERWISE, TRAINED;
    HOT: words::HOT_FUEL_HOT_PARTS,
        words::GLOVES_EYE_PROTECTION_LET, TRAINED;
    COIL: words::WRONG_DRIVER_DESTROYS_COIL,
        words::SET_VOLTAGE_CURRENT_FAMILY, TRAINED;
    BENCH: words::TEST_BENCH_FUEL_MIST,
        words::GUARD_CLOSED_EXTRACTION_EYE, TRAINED;
    SPRAY: words::HIGH_PRESSURE_SPRAY_PIERCES,
        words::STAY_BEHIND_SHIELD_NO, TRAINED;
    BATH: words::FLAMMABLE_SOLVENT_HEATED_BATH,
        words::WATER_BASED_CLEANER_ONLY, TRAINED;
    ACID: words::ACID_BURNS_SKIN_ATTACKS,
        words::BEST_AVOIDED_LOCAL_PRACTICE, TRAINED;
    REGENERATION: words::REGENERATION_EXHAUST_GETS_RED,
        words::OUTDOORS_HOT_GAS_EXTRACTION, TRAINED;
    ROAD: words::RELEARN_DRIVE_ROAD_TRAFFIC,
        words::TRAFFIC_LAW_COMES_BEFORE, words::LICENSED_DRIVER_ROAD_PERMITTED;
    CODING: words::LOW_VOLTAGE_WHILE_TRIM,
        words::SUPPORT_CHARGER_IGNITION_ENGINE, TRAINED;
    WASTE: words::WASTE_FUEL_HARMS_WATER,
        words::COLLECT_SAMPLES_TEST_FUEL, words::APPLIES_EVERYONE;
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
