//! Cautions: shown where the step is, before the step, and again on the printed plan.
//!
//! Each names the hazard, what to do, and who may do it. The program is an aid to trained
//! people; it never overrides the maker's instructions, local codes or the law.

use serde::Serialize;
use utoipa::ToSchema;

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

    #[test]
    fn every_caution_names_hazard_action_and_who_and_is_short_enough_to_be_read() {
        for caution in ALL {
            for part in [caution.hazard, caution.action, caution.who] {
                assert!(part.ends_with('.') && part.len() <= 190, "{part}");
            }
        }
    }
}
