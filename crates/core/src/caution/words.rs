//! The sentences of `caution`, and nothing else.

pub(super) const TRAINED_STAFF_MAKERS_INSTRUCTIONS: &str =
    "Trained staff; maker's instructions and local regulations first.";
pub(super) const STAFF_TRAINED_HIGH_VOLTAGE: &str =
    "Staff trained for high voltage on vehicles, licensed where local regulations require it.";
pub(super) const FUEL_JET_PIERCES_SKIN: &str = "Fuel jet pierces skin.";
pub(super) const NEVER_LOOSEN_LINE_RUNNING: &str = "Never loosen a line on a running engine: stop, wait for pressure to fall. Keep fingers away from leaks. A jet wound needs a surgeon at once.";
pub(super) const PETROL_VAPOUR_FIRE_EXPLOSION: &str = "Petrol vapour: fire and explosion.";
pub(super) const VENTILATE_NO_IGNITION_SOURCE: &str =
    "Ventilate. No ignition source. Extinguisher of the right class at hand. Catch every spill.";
pub(super) const SPARK_NEAR_PETROL_VAPOUR: &str =
    "Spark near petrol vapour; high voltage at the coil.";
pub(super) const NO_OPEN_FUEL_LINE: &str = "No open fuel line or spill near a spark. Ignition off before touching a coil; never pull one off a running engine.";
pub(super) const PIEZO_INJECTOR_OPEN_RETURN: &str =
    "Piezo injector with open return: destroyed at once, sprays fuel.";
pub(super) const KEEP_COUNTER_PRESSURE_RETURN: &str =
    "Keep counter-pressure in the return; never run one open where the family says so.";
pub(super) const ENGINE_RUNNING_INDOORS_EXHAUST: &str =
    "Engine running indoors: exhaust gas, belts, roll-away.";
pub(super) const EXTRACTION_WHEELS_CHOCKED_NEUTRAL: &str =
    "Extraction on. Wheels chocked, neutral or park, brake on. No loose clothing.";
pub(super) const CRANKING_ENGINE_MOVING_PARTS: &str =
    "Cranking engine: moving parts, cylinders may fire.";
pub(super) const FUEL_IGNITION_OFF_TEST: &str = "Fuel and ignition off where the test allows it. Hands and clothing clear. Nobody in front of open spark plug holes.";
pub(super) const DANGEROUS_VOLTAGE_STORED_CHARGE: &str =
    "Dangerous voltage and stored charge at direct-injection and piezo injectors.";
pub(super) const DE_ENERGISE_WAIT_LONG: &str =
    "De-energise and wait as long as the maker says. Never unplug an injector on a running engine.";
pub(super) const RAW_FUEL_PISTONS_HYDRAULIC: &str =
    "Raw fuel on the pistons: hydraulic lock and washed bores.";
pub(super) const PULSE_OUT_ENGINE_POSSIBLE: &str = "Pulse out of the engine if possible. Otherwise few pulses, then a clear-flood crank with the spark plugs out before starting.";
pub(super) const LINES_MAY_STILL_HOLD: &str = "Lines may still hold fuel under pressure.";
pub(super) const DEPRESSURISE_BEFORE_OPENING_CATCH: &str = "Depressurise before opening. Catch the fuel. Leak check before starting and with the engine running.";
pub(super) const INHALED_FUEL_DAMAGES_LUNGS: &str = "Inhaled fuel damages the lungs.";
pub(super) const NEVER_SUCK_FUEL_MOUTH: &str =
    "Never suck fuel by mouth. Use a hand primer or vacuum pump.";
pub(super) const APPLIES_EVERYONE: &str = "Applies to everyone.";
pub(super) const CONNECTOR_OFF_IGNITION_LIVE: &str =
    "Connector off with ignition on: live pins, and a fault code is stored.";
pub(super) const ONLY_FAMILY_ALLOWS_OTHERWISE: &str = "Only where the family allows it. Otherwise ignition off, wait, and measure the wires end to end.";
pub(super) const HOT_FUEL_HOT_PARTS: &str = "Hot fuel and hot parts: burns.";
pub(super) const GLOVES_EYE_PROTECTION_LET: &str =
    "Gloves and eye protection. Let it cool before removing hoses.";
pub(super) const WRONG_DRIVER_DESTROYS_COIL: &str =
    "The wrong driver destroys a coil in a second; it can burst.";
pub(super) const SET_VOLTAGE_CURRENT_FAMILY: &str =
    "Set voltage and current for the family before the first pulse. Connect with the driver off.";
pub(super) const TEST_BENCH_FUEL_MIST: &str =
    "Test bench: fuel mist, moving belts, fluid under pressure.";
pub(super) const GUARD_CLOSED_EXTRACTION_EYE: &str =
    "Guard closed, extraction on, eye and hand protection. Release pressure before opening a line.";
pub(super) const HIGH_PRESSURE_SPRAY_PIERCES: &str =
    "High-pressure spray pierces skin and ignites.";
pub(super) const STAY_BEHIND_SHIELD_NO: &str =
    "Stay behind the shield. No ignition source. Never put a finger into a spray or a drip.";
pub(super) const FLAMMABLE_SOLVENT_HEATED_BATH: &str = "Flammable solvent in a heated bath: fire.";
pub(super) const WATER_BASED_CLEANER_ONLY: &str =
    "Water-based cleaner only in a heated bath. Gloves, eye protection, ventilation, cover on.";
pub(super) const ACID_BURNS_SKIN_ATTACKS: &str = "Acid burns skin and attacks nozzles and coils.";
pub(super) const BEST_AVOIDED_LOCAL_PRACTICE: &str = "Best avoided. Where local practice uses acid: full protection, compatible metal, neutralise, rinse, licensed disposal.";
pub(super) const REGENERATION_EXHAUST_GETS_RED: &str = "Regeneration: exhaust gets red hot.";
pub(super) const OUTDOORS_HOT_GAS_EXTRACTION: &str =
    "Outdoors or with hot-gas extraction. Nothing flammable nearby. Nobody near the tailpipe.";
pub(super) const RELEARN_DRIVE_ROAD_TRAFFIC: &str = "Relearn drive: road traffic.";
pub(super) const TRAFFIC_LAW_COMES_BEFORE: &str =
    "Traffic law comes before any counter. The driver drives; a second person reads the counters.";
pub(super) const LICENSED_DRIVER_ROAD_PERMITTED: &str =
    "Licensed driver, on a road where it is permitted.";
pub(super) const LOW_VOLTAGE_WHILE_TRIM: &str =
    "Low voltage while a trim code is being written can kill the ECU.";
pub(super) const SUPPORT_CHARGER_IGNITION_ENGINE: &str = "Support charger on, ignition on, engine off, loads off, doors shut. Wait for the end, then read back.";
pub(super) const WASTE_FUEL_HARMS_WATER: &str = "Waste fuel harms water and soil.";
pub(super) const COLLECT_SAMPLES_TEST_FUEL: &str =
    "Collect samples, test fuel and rags for licensed disposal.";
