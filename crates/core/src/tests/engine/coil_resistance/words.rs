//! The sentences of `coil_resistance`, and nothing else.

use std::fmt::Display;

pub(super) const CONNECTORS_OFF_METER_ZEROED: &str = "Connectors off, meter zeroed, no fingers across the probes: read each coil, and the coil temperature.";
pub(super) const METER_MILLIOHM_METER_BELOW: &str =
    "Meter (milliohm meter below 1 Ω); contact thermometer";
pub(super) const ZERO_LEADS_FIRST_READ: &str = "Zero the leads first, then read each coil.";
pub(super) fn winding_open(opened: impl Display) -> String {
    format!("{opened}: winding open.")
}

pub(super) const ALL_COILS_OFF_SAME: &str =
    "All coils off by the same share: check temperature, family, meter and leads first.";
pub(super) const METER_CANNOT_DECIDE_COILS: &str = "This meter cannot decide these coils.";
pub(super) fn all_coils_line(read: impl Display) -> String {
    format!("All {read} coils in line.")
}

pub(super) fn read_unlike_others(odd: impl Display, odd2: impl Display) -> String {
    format!("{odd} read{odd2} unlike the others.")
}

pub(super) fn inconclusive_measurement(unsure: impl Display) -> String {
    format!("{unsure}: inconclusive with this measurement.")
}

pub(super) fn out_limits(outside: impl Display) -> String {
    format!("{outside}: out of limits.")
}

pub(super) const LIMIT_APPLIES_C_WITHOUT: &str =
    "The limit applies at 20 °C: without the coil temperature it is not used.";
pub(super) const NO_LIMIT_APPLIES_HERE: &str = "No limit applies here.";
pub(super) fn odd_one_out_others(n: impl Display) -> String {
    format!("Odd one out: {n:.0} % from the others")
}

pub(super) fn coils_below_meter_shows(resolution: impl Display) -> String {
    format!(
        "Coils below 1 Ω on a meter that shows {resolution} Ω: it cannot decide them. Use a four-wire milliohm meter."
    )
}

pub(super) fn no_meter_chosen_last(n: impl Display) -> String {
    format!("No meter chosen: a last digit of {n} Ω, 1 % and 2 digits are assumed.")
}

pub(super) const WINDING_JOINT_PIN_OPEN: &str = ": winding, joint or pin is open.";
pub(super) const OFF_LIKE_ALL_OTHERS: &str = ", off like all the others.";
pub(super) const TOO_HIGH_EVEN_ALLOWING: &str =
    ", too high even allowing for meter error: joint, pin or coil going open.";
pub(super) const TOO_LOW_EVEN_ALLOWING: &str =
    ", too low even allowing for meter error: shorted turns.";
pub(super) const INCONCLUSIVE_METER: &str = ": inconclusive with this meter.";
pub(super) const METER_TOO_COARSE_TELL: &str =
    ": this meter is too coarse to tell these coils apart.";
pub(super) const UNLIKE_OTHERS: &str = ", unlike the others.";
pub(super) const COPPER_RISES_PER_KELVIN: &str = "Copper rises 0.393 % per kelvin";
pub(super) const TEMPERATURE_NOT_READ_NOT: &str = "Temperature not read: not corrected to 20 °C";
pub(super) fn against_agreeing_others(share: impl Display) -> String {
    format!("{share} against the agreeing others")
}

pub(super) const FINER_METER_FOUR_WIRES: &str = "A finer meter, four wires, or zeroed leads.";
pub(super) const COIL_TEMPERATURE_FAMILY_LIBRARY: &str =
    "Coil temperature, family in the library, a second meter, zeroed leads.";
