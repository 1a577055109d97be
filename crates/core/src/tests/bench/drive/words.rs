//! The sentences of `drive`, and nothing else.

use std::fmt::Display;

pub(super) const PEAK_HOLD_V: &str = "peak and hold, 12 V, 4 A";
pub(super) const PEAK_HOLD_V_2: &str = "peak and hold, 12 V, 2 A";
pub(super) const CHOOSE_BENCH_DRIVER_BEFORE: &str =
    "Choose the bench driver before the first pulse: it is checked against what each family takes.";
pub(super) const MARKED_CONNECTOR: &str = "as marked on the connector";
pub(super) const PEAK_CURRENT_DIFFERENT: &str = "Peak current, if different";
pub(super) const CHOOSE_DRIVER_BEFORE_FIRST: &str = "Choose the driver before the first pulse.";
pub(super) fn not_pulse_more(name: impl Display, bad: impl Display, bad2: impl Display) -> String {
    format!("Do not pulse: {name} is more than {bad} {bad2}.")
}

pub(super) fn no_rating_file(name: impl Display, unsure: impl Display) -> String {
    format!("{name}: no rating on file for {unsure}.")
}

pub(super) fn within_each_injector_takes(name: impl Display) -> String {
    format!("{name}: within what each injector takes.")
}

pub(super) const BATTERY_HAND_PULSES_HALF: &str = "From a battery by hand: pulses of half a second at most, few of them; let the coil cool between.";
pub(super) const START_WEAKEST_DRIVER_OPEN: &str =
    "Start with the weakest driver that can open it, and feel whether the coil warms.";
pub(super) const POLARITY_NOT_CHECKED: &str = "Polarity not checked.";
pub(super) const DRIVER_WOULD_DESTROY_COIL: &str = "This driver would destroy the coil.";
pub(super) const DRIVER_WITHIN_FAMILY_TAKES: &str = "A driver within what the family takes.";
pub(super) const NO_CURRENT_RATING_FILE: &str = "No current rating on file for this family.";
pub(super) fn needs_peak_hold_peak(who: impl Display) -> String {
    format!("{who} needs peak and hold; its peak current is missing.")
}

pub(super) const PEAK_CURRENT_LIBRARY_UNTIL: &str =
    "The peak current in the library; until then the weakest driver that opens it.";
pub(super) const LOW_IMPEDANCE_COIL_PLAIN: &str =
    "A low-impedance coil on a plain driver draws more than it can take.";
pub(super) fn needs_peak_hold(who: impl Display) -> String {
    format!("{who} needs peak and hold.")
}

pub(super) const PEAK_HOLD_DRIVER_SERIES: &str = "A peak-and-hold driver, or a series resistor.";
pub(super) const WITHIN_FAMILY_TAKES: &str = "Within what the family takes.";
pub(super) const NO_RATING_FILE_FAMILY: &str =
    "No rating on file for this family or for this driver.";
pub(super) const PEAK_VOLTAGE_FAMILY_VOLTAGE: &str =
    "Peak voltage of the family, or voltage of the driver, is missing.";
pub(super) const ENTER_BOTH_FAMILY_LIBRARY: &str =
    "Enter both: the family in the library, the driver in the fields here.";
