//! The sentences of `calc`, and nothing else.

use std::fmt::Display;

// bench flow

pub(super) const GIVE_BOTH_DENSITIES_TEST: &str =
    "give both densities, of the test fluid and of the reference fluid, or neither";
pub(super) const FLOW_REFERENCE: &str = "the flow at reference";

// code check

pub(super) const TOO_LONG_TOO_SHORT: &str = "too long or too short";
pub(super) const CHARACTER_FAMILY_DOES_NOT: &str = "a character that this family does not use";
pub(super) const CHECK_CHARACTERS_NOT_FIT: &str = "the check characters do not fit";
pub(super) const CHARACTERS_CODE: &str = "characters in a code";
pub(super) const CHARACTERS_ALPHABET: &str = "characters in the alphabet";

// coil

pub(super) const ACCURACY_PERCENT: &str = "the accuracy in percent";
pub(super) const ACCURACY_DIGITS: &str = "the accuracy in digits";
pub(super) const UNCERTAINTY_TEMPERATURE: &str = "the uncertainty of the temperature";
pub(super) fn c_coil_would_no(temp_c: impl Display) -> String {
    format!("at {temp_c} °C this coil would have no resistance; check the temperature")
}

pub(super) fn reading_ohm_below_leads(measured: impl Display, lead: impl Display) -> String {
    format!(
        "the reading of {measured} ohm is below the leads alone ({lead} ohm); zero the meter again"
    )
}

pub(super) fn leads_ohm_more_tenth(lead: impl Display) -> String {
    format!(
        "Leads of {lead} ohm are more than a tenth of the reading: use four wires or a milliohm meter."
    )
}

pub(super) fn leads_up_ohm_would(unknown: impl Display) -> String {
    format!(
        "Leads of up to {unknown} ohm would change the result: hold the probes together and zero the meter."
    )
}

// compare set

pub(super) const SUM_VALUES: &str = "the sum of the values";

// convert

pub(super) fn not_measure_same_thing(from: impl Display, to: impl Display) -> String {
    format!("{from} and {to} do not measure the same thing; pick two units of one kind")
}

pub(super) const BETWEEN_VOLUME_FLOW_MASS: &str =
    "between volume flow and mass flow the density of the fluid is needed";

// cutout

pub(super) const SPEED_ALL_CYLINDERS: &str = "the speed with all cylinders";
pub(super) fn speed_cylinder_cut(i: impl Display) -> String {
    format!("the speed with cylinder {i} cut")
}

// decide

pub(super) const DEGREES_FREEDOM: &str = "the degrees of freedom";
pub(super) fn confidence_must_lie_between(confidence: impl Display) -> String {
    format!("the confidence must lie between 0.5 and 1, got {confidence}")
}

pub(super) const ENTER_LOWER_LIMIT_UPPER: &str = "enter a lower limit, an upper limit, or both";
pub(super) fn lower_limit_above_upper(low: impl Display, high: impl Display) -> String {
    format!("the lower limit {low} is above the upper limit {high}")
}

// drift

pub(super) fn drift_looked_values_most(most_values: impl Display, n: impl Display) -> String {
    format!("drift is looked for in {most_values} values at most, got {n}")
}

pub(super) const RANGE_VALUES: &str = "the range of the values";

// duty

pub(super) const FIRINGS_PER_CYCLE: &str = "the firings per cycle";
pub(super) fn engine_four_stroke_two(other: impl Display) -> String {
    format!("an engine is a four-stroke (4) or a two-stroke (2), got {other}")
}

// error

pub(super) fn not_usable_number(what: impl Display) -> String {
    format!("{what} is not a usable number")
}

pub(super) fn must_above_zero_got(what: impl Display, got: impl Display) -> String {
    format!("{what} must be above zero, got {got}")
}

pub(super) fn cannot_below_zero_got(what: impl Display, got: impl Display) -> String {
    format!("{what} cannot be below zero, got {got}")
}

pub(super) fn least_needed_got(
    least: impl Display,
    what: impl Display,
    got: impl Display,
) -> String {
    format!("at least {least} {what} needed, got {got}")
}

pub(super) fn input_wrong_shape(detail: impl Display) -> String {
    format!("the input has the wrong shape: {detail}")
}

// match sets

pub(super) const MEMBERS_SET: &str = "members in a set";

// mod

pub(super) fn list_too_long_maximum(list: impl Display, longest_list: impl Display) -> String {
    format!("a list of {list} is too long: maximum {longest_list}")
}

// pressure drop

pub(super) const TIME_INJECTOR_OPEN: &str = "the time that the injector is open";
pub(super) const SUM_CONSTANTS: &str = "the sum of the constants";
pub(super) fn cylinder_end_pressure_kpa(
    cylinder: impl Display,
    end: impl Display,
    start: impl Display,
) -> String {
    format!(
        "cylinder {cylinder}: end pressure {end} kPa is above start pressure {start} kPa; were they swapped?"
    )
}

// pulse rescale

pub(super) const STATIC_FLOW_OLD_INJECTOR: &str = "the static flow of the old injector";
pub(super) const STATIC_FLOW_NEW_INJECTOR: &str = "the static flow of the new injector";
pub(super) const DEAD_TIME_OLD_INJECTOR: &str = "the dead time of the old injector";
pub(super) const DEAD_TIME_NEW_INJECTOR: &str = "the dead time of the new injector";
pub(super) fn pulse_ms_no_longer(pulse: impl Display, old_offset: impl Display) -> String {
    format!(
        "a pulse of {pulse} ms is no longer than the old injector's dead time of {old_offset} ms: nothing was injected"
    )
}

// pulse sweep

pub(super) fn number_pulses_ms(pulse_ms: impl Display) -> String {
    format!("the number of pulses at {pulse_ms} ms")
}

pub(super) fn volume_ms(pulse_ms: impl Display) -> String {
    format!("the volume at {pulse_ms} ms")
}

pub(super) fn ms_appears_twice_keep(pulse_ms: impl Display) -> String {
    format!("{pulse_ms} ms appears twice; keep one or average them")
}

pub(super) const QUANTITY_PER_PULSE: &str = "a quantity per pulse";
pub(super) const UNCERTAINTY_PER_PULSE: &str = "an uncertainty per pulse";

// reference interval

pub(super) const VALUES_PROVEN_GOOD_INJECTORS: &str = "values of proven-good injectors";
pub(super) fn must_lie_between_got(what: impl Display, value: impl Display) -> String {
    format!("{what} must lie between 0 and 1, got {value}")
}

// residual fuel

pub(super) fn compression_ratio_must_above(ratio: impl Display) -> String {
    format!("the compression ratio must be above 1, got {ratio}")
}

// return flow

pub(super) fn cylinder_both_level_overflow(cylinder: impl Display) -> String {
    format!("cylinder {cylinder} has both a level and an overflow time; keep the one that was read")
}

pub(super) fn cylinder_needs_level_time(cylinder: impl Display) -> String {
    format!(
        "cylinder {cylinder} needs a level with a time, or the time at which its bottle was full"
    )
}

pub(super) fn cylinder_ml_more_bottle(
    cylinder: impl Display,
    volume: impl Display,
    capacity: impl Display,
) -> String {
    format!(
        "cylinder {cylinder}: {volume} ml is more than the bottle holds ({capacity} ml); give the time at which it was full"
    )
}

pub(super) const SUM_RATES: &str = "the sum of the rates";

// return plan

pub(super) const DIFFERENCE_SHOW: &str = "the difference to show";
pub(super) const TIME_WORST_BOTTLE: &str = "the time of the worst bottle";

// shim

pub(super) const UNCERTAINTY_LIFT: &str = "the uncertainty of the lift";
pub(super) const SHIM_STOCK: &str = "a shim in stock";
pub(super) const GAIN_NO_SHIM_CHANGES: &str =
    "with a gain of 0 no shim changes the lift; measure with two shims first";

// sizing

pub(super) const NUMBER_INJECTORS: &str = "the number of injectors";
pub(super) fn injector_cannot_open_more(duty: impl Display) -> String {
    format!("an injector cannot be open for more than all of the time: a duty of {duty} is above 1")
}

// supply

pub(super) const VOLTAGE_COUNTS_NONE: &str = "the voltage that counts as none";
pub(super) fn voltage_cylinder(cylinder: impl Display) -> String {
    format!("the voltage of cylinder {cylinder}")
}

// trim

pub(super) fn nominal_measured_limits_must(n: impl Display, measured_mm3: impl Display) -> String {
    format!(
        "nominal, measured and limits must match in number: {n} nominal, {measured_mm3} measured"
    )
}

pub(super) const NUMBER_STEPS: &str = "a number of steps";
pub(super) fn limits_point_upper_end(
    i: impl Display,
    upper: impl Display,
    lower: impl Display,
) -> String {
    format!("limits of point {i}: the upper end ({upper}) is below the lower end ({lower})")
}

// viscosity factor

pub(super) fn temperature_must_lie_between(name: impl Display, t: impl Display) -> String {
    format!("the {name} temperature must lie between -40 and 150 °C, got {t}")
}

pub(super) const TWO_KNOWN_VISCOSITIES_MUST: &str =
    "the two known viscosities must be at two temperatures";
pub(super) fn known_viscosity_must_above(nu: impl Display) -> String {
    format!("a known viscosity must be above 0.3 mm²/s, got {nu}")
}
