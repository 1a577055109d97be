//! The sentences of `calculators`, and nothing else.

use std::fmt::Display;

// coil temperature

pub(super) const CORRECTS_WARM_COILS_READING: &str =
    "Corrects a warm coil's reading to 20 °C and shows what the meter can resolve.";
pub(super) const LAST_DIGIT_METER: &str = "Last digit of the meter";
pub(super) const COPPER_COILS_CHECK_PIEZO: &str =
    "For copper coils. Check piezo stacks by capacitance and insulation.";
pub(super) const COPPER_RISES_PER_KELVIN: &str = "Copper rises 0.393 % per kelvin";

// duty at speed

pub(super) const SHARE_TIME_INJECTOR_OPEN: &str =
    "Share of the time an injector is open at a given speed.";
pub(super) const PULSE_FILLS_WHOLE_PERIOD: &str =
    "The pulse fills the whole period: the injector never closes and cannot deliver more.";
pub(super) fn above_no_reserve_injector(reserve: impl Display) -> String {
    format!(
        "Above {reserve} % there is no reserve, and the injector may not close fully (workshop rule)."
    )
}

pub(super) const PULSE_PULSE: &str = "from pulse to pulse";
pub(super) const ONE_TURN_CYCLE: &str = "One turn is a cycle";
pub(super) const TWO_TURNS_CYCLE: &str = "Two turns are a cycle";

// flow at pressure

pub(super) const FLOW_ANOTHER_PRESSURE: &str = "Flow at another pressure";
pub(super) const MEASURED_FLOW_CONVERTED_ANOTHER: &str =
    "A measured flow converted to another pressure drop and another fluid.";
pub(super) const SQUARE_ROOT_PRESSURE_DROP: &str = "By the square root of the pressure drop";
pub(super) const PRESSURE_DROP_ACROSS_INJECTOR: &str = "Pressure drop across the injector: rail minus the pressure it sprays into, not the gauge alone.";

// pulse change

pub(super) const PULSE_AFTER_CHANGE_INJECTOR: &str = "Pulse after a change of injector";
pub(super) const PULSE_DELIVERS_SAME_ANOTHER: &str =
    "The pulse that delivers the same with another injector; flow and dead time both count.";
pub(super) const VALID_ONE_PRESSURE_SUPPLY: &str =
    "Valid at one pressure, and at the supply voltage that both dead times belong to.";
pub(super) const DEAD_TIME_SUPPLY_VOLTAGE: &str = "A dead time at this supply voltage is unknown and taken as 0: at short pulses the result can be far off. Measure it with a pulse sweep first.";
pub(super) const PULSE_NEW_ONE: &str = "pulse with the new one";
pub(super) const OPEN_TIME_RATIO_FLOWS: &str =
    "Open time by the ratio of the flows, plus the new dead time";

// pulse quantity

pub(super) const ONE_PULSE_DELIVERS_MUCH: &str =
    "What one pulse delivers, and how much that is per minute at a given speed.";
pub(super) const DEAD_TIME_VOLTAGE: &str = "Dead time at voltage";
pub(super) const PULSE_NO_LONGER_DEAD: &str = "a pulse no longer than the dead time opens nothing";
pub(super) const STATIC_FLOW_OVER_TIME: &str =
    "Static flow over the time that the injector is open";
pub(super) const VALID_LINEAR_RANGE_VERY: &str =
    "Valid in the linear range; very short pulses deliver less.";
pub(super) const ONE_PULSE_EVERY_TWO: &str = "One pulse every two revolutions";

// residual fuel

pub(super) const FUEL_LEFT_CYLINDER: &str = "Fuel left in a cylinder";
pub(super) const FUEL_LEFT_PISTON_PLACE: &str =
    "Fuel left on the piston by in-place pulsing, against the clearance volume.";
pub(super) const RUNS_SINCE_CLEARED: &str = "Runs since it was cleared";
pub(super) const RAW_FUEL_WASHES_BORE: &str =
    "Raw fuel washes the bore: do a clear-flood crank before starting anyway.";
pub(super) const CLEAR_FLOOD_CRANK_BEFORE: &str =
    "Clear-flood crank before starting; spark plugs out if in doubt.";
pub(super) const STOP_LIQUID_DOES_NOT: &str = "Stop. Liquid does not compress: spark plugs out and crank it clear first, or remove the injector.";
pub(super) const CLEARANCE_VOLUME: &str = "of the clearance volume";
pub(super) fn caution_stop_workshop_rule(caution: impl Display, stop: impl Display) -> String {
    format!("Caution from {caution} %, stop from {stop} % (workshop rule).")
}

// run time

pub(super) const LENGTH_RETURN_RUN: &str = "Length of a return run";
pub(super) const LONG_BOTTLES_MUST_FILL: &str = "How long bottles must fill before a difference shows, and whether the worst one overflows first.";
pub(super) const HEALTHY_ONE_LEAKS_OFF: &str = "A healthy one leaks off";
pub(super) const WORST_BOTTLE_FILLS_FIRST: &str =
    "The worst bottle fills first. Note the time each reaches a mark, or use larger bottles.";
pub(super) const HEALTHY_BOTTLE_HOLDS: &str = "a healthy bottle then holds";
pub(super) const WORST_FULL_AFTER: &str = "the worst is 9/10 full after";
pub(super) fn between_two_bottles_shows(difference: impl Display) -> String {
    format!("So that {difference} % between two bottles shows: 90 % power at 95 % confidence")
}

pub(super) const EXPECTED_RATE: &str = "At the expected rate";

// sizing

pub(super) const STATIC_FLOW_EACH_INJECTOR: &str =
    "The static flow each injector needs for a given power.";
pub(super) const FUEL_POWER_SHARED_BETWEEN: &str =
    "Fuel for the power, shared between the injectors, within the duty";
pub(super) const VALID_ENGINES_OWN_PRESSURE: &str = "Valid at the engine's own pressure drop, not the data sheet's: convert with \"Flow at another pressure\".";

// torque

pub(super) const TIGHTENING_STAGES_N_M: &str =
    "Tightening stages in N·m, in·lb and ft·lb, and the angle in flats of the head.";
pub(super) const FLATS_HEXAGON: &str = "flats of a hexagon";
pub(super) const HEXAGON_FLAT_EVERY: &str = "A hexagon has a flat every 60°";
pub(super) const ANGLE_TIGHTENED_BOLTS_STRETCH: &str =
    "Angle-tightened bolts stretch: fit new ones where the maker asks for it.";
pub(super) const MAKERS_FIGURE_COMES_FIRST: &str =
    "The maker's figure comes first. Start the bolt by hand.";

// units

pub(super) const ONE_VALUE_EVERY_UNIT: &str =
    "One value in every unit of its kind. Density converts volume flow to mass flow.";
pub(super) const ADD_UNIT_AFTER_NUMBER: &str = "add a unit after the number, such as 43.5 psi";
pub(super) fn density_kg_m(density: impl Display) -> String {
    format!("With a density of {density} kg/m³")
}

pub(super) const ENTER_DENSITY_CONVERT_BETWEEN: &str =
    "Enter the density to convert between volume and mass.";

// viscosity

pub(super) const LEAK_OFF_RATE_ANOTHER: &str = "Leak-off rate at another temperature";
pub(super) const COLD_ENGINES_LEAK_OFF: &str =
    "What a cold engine's leak-off would be when warm. An estimate, never a measurement.";
pub(super) const LAMINAR_LEAKAGE_PROPORTIONAL_VISCOSITY: &str =
    "Laminar leakage is proportional to 1 ÷ viscosity (Walther, ASTM D341)";
pub(super) const ESTIMATE_FILM_TEMPERATURE_INSIDE: &str = "An estimate: the film temperature inside the injector is not known. Repeat the test warm before condemning an injector.";
pub(super) const RATE_OTHER_TEMPERATURE: &str = "Rate at the other temperature";
