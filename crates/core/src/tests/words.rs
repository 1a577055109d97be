//! The sentences of `tests`, and nothing else.

use std::fmt::Display;

// can decide

pub(super) const LENGTH_RUN: &str = "the length of the run";
pub(super) fn cannot_decide_u_no(
    name: impl Display,
    limits: impl Display,
    u: impl Display,
    unit: impl Display,
) -> String {
    format!("{name} cannot decide {limits}: with u = {u} {unit} no reading could be called within.")
}

pub(super) fn decides_only_part_called(
    name: impl Display,
    limits: impl Display,
    digits: impl Display,
) -> String {
    format!(
        "{name} decides {limits} only in part: {digits} can be called within, the rest stays inconclusive."
    )
}

pub(super) fn decide_called_within(
    name: impl Display,
    limits: impl Display,
    digits: impl Display,
) -> String {
    format!("{name} can decide {limits}: {digits} can be called within.")
}

pub(super) fn overflowing_bottle_says_least(full: impl Display, above: impl Display) -> String {
    format!(
        "An overflowing bottle says \"at least {full}\", and {above} would be needed to call it above: make the run shorter or use larger bottles."
    )
}

pub(super) fn run_enough(clock: impl Display) -> String {
    format!("A run of {clock} is enough.")
}

pub(super) fn run_enough_bottles_ml(clock: impl Display, volume: impl Display) -> String {
    format!("A run of {clock} is enough, in bottles of {volume:.0} ml or more.")
}

pub(super) const LAST_DIGIT: &str = "a last digit of";
pub(super) fn enough(what: impl Display, resolution: impl Display, kind: impl Display) -> String {
    format!("{what} {resolution} {kind} is enough.")
}

pub(super) fn neither_longer_run_nor(accuracy_pct: impl Display) -> String {
    format!(
        "Neither a longer run nor finer marks are enough: ±{accuracy_pct} % of reading is too much. Use a more accurate instrument."
    )
}

// complaint

pub(super) const FINDS_ODD_ONE_OUT: &str =
    "Finds the odd one out in minutes, without opening a line.";
pub(super) const WIRING_FAULT_FUSE_ALREADY: &str = "A wiring fault or fuse already found.";

// electrical

pub(super) const NO_SUPPLY_VOLTAGE_ANY: &str =
    "No supply voltage at any connector: fuse, relay or common feed.";
pub(super) const NO_LAMP_LIGHTS_ANYWHERE: &str =
    "No lamp lights anywhere: check speed signal and ECU earth before any driver.";
pub(super) const COIL_RESISTANCE_STACK: &str = "coil resistance or stack";
pub(super) fn cylinder_no_supply_voltage(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder}: no supply voltage while others have it. Check its wiring end to end, then its connector."
    )
}

pub(super) fn cylinder_lights_lamp_but(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder} lights a lamp but supply voltage is low: a few strands. Check its wiring."
    )
}

pub(super) fn cylinder_wire_open_too(cylinder: impl Display) -> String {
    format!("Cylinder {cylinder}: a wire is open or has too much resistance.")
}

pub(super) fn cylinder_wires_good_but(cylinder: impl Display) -> String {
    format!("Cylinder {cylinder}: wires good but no drive current. ECU driver or its signal.")
}

pub(super) fn cylinder_voltage_drop_pins(cylinder: impl Display) -> String {
    format!("Cylinder {cylinder}: voltage drop. Pins and connector first, then its wiring.")
}

pub(super) fn cylinder_no_control_signal(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder}: no control signal. Control wire, pin, then driver. Silence alone does not condemn the injector."
    )
}

pub(super) fn cylinder_injector_leaks_body(
    cylinder: impl Display,
    sentence: impl Display,
) -> String {
    format!("Cylinder {cylinder}: {sentence} The injector leaks to its body.")
}

pub(super) fn cylinder_clean_connector_read(
    cylinder: impl Display,
    sentence: impl Display,
) -> String {
    format!(
        "Cylinder {cylinder}: {sentence} Clean the connector and read again; if unchanged, it is the injector."
    )
}

pub(super) fn cylinder_supply_signal_good(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder} has supply, signal and a good coil but no movement: it is sticking."
    )
}

pub(super) fn cylinder_silent_prove_supply(cylinder: impl Display) -> String {
    format!(
        "Cylinder {cylinder} is silent: prove supply voltage under load and coil before condemning the injector."
    )
}

pub(super) const DRIVER_CONTROL_WIRE: &str = "driver or control wire";
pub(super) const DRIVERS_CONTROL_WIRES: &str = "drivers or control wires";
pub(super) const CHECK_FUSE_RELAY_COMMON: &str = "Check the fuse, the relay and the common feed.";
pub(super) const ALL_LAMPS_DARK_SPEED: &str = "All lamps dark: speed signal or ECU earth first.";
pub(super) const NO_ELECTRICAL_OUTLIER_FOUND: &str = "No electrical outlier found.";
pub(super) fn no_outlier_far_still(missing: impl Display) -> String {
    format!("No outlier so far; still open: {missing}.")
}

pub(super) fn check(who: &str, what: &str) -> String {
    format!("{who}: check the {what}.")
}

// house reference

pub(super) fn workshops_own_reference(
    lower: impl Display,
    upper: impl Display,
    unit: impl Display,
    coverage: impl Display,
    confidence: impl Display,
) -> String {
    format!(
        "This workshop's own reference, not a maker's limit: {lower} to {upper} {unit} covers {coverage} % of good injectors with {confidence} % confidence."
    )
}

pub(super) fn proven_good_injectors(
    n: impl Display,
    first: impl Display,
    last: impl Display,
    outliers: impl Display,
    mean: f64,
    k: f64,
    s: f64,
) -> String {
    format!(
        "{n} proven-good injectors from {first} to {last}, {outliers}; mean {mean:.1} ± {k:.2} × {s:.2}."
    )
}

// side by side

pub(super) const TWO_TESTS_USED_DIFFERENT: &str = "The two tests used different regimes.";
pub(super) fn read_c_c(first: impl Display, second: impl Display) -> String {
    format!("As read: {first} and {second}.")
}

pub(super) fn estimate_second_c_corrected(
    second: impl Display,
    first: impl Display,
    factor: impl Display,
) -> String {
    format!(
        "Estimate: the second, at {second}, corrected to {first} by × {factor:.2}; film temperature unknown."
    )
}

pub(super) const TEMPERATURE_ONE_TWO_NOT: &str =
    "Temperature of one of the two was not measured, so they are not compared.";

// slip

pub(super) fn typed_as(one: impl Display, other: impl Display) -> String {
    format!("{one} typed as {other}?")
}
pub(super) const K_TYPED: &str = "kΩ typed as Ω?";
pub(super) const M_TYPED: &str = "mΩ typed as Ω?";
pub(super) const MINUTES_TYPED_SECONDS: &str = "minutes typed as seconds?";
pub(super) const LITRES_TYPED_ML: &str = "litres typed as ml?";

// swap

pub(super) fn swap_inconclusive(why: impl Display) -> String {
    format!("Swap inconclusive: {why}.")
}

pub(super) const REPEAT_TEST_UNDER_SAME: &str =
    "Repeat the test under the same conditions; compare patterns, not decimals.";
pub(super) const NOTHING_STOOD_OUT_BEFORE: &str =
    "nothing stood out before, so nothing could follow";
pub(super) fn fault_followed_injector_cylinder(from: impl Display, to: impl Display) -> String {
    format!("The fault followed the injector from cylinder {from} to {to}: it is the injector.")
}

pub(super) const TEST_BENCH_DECIDE_TRIM: &str =
    "Test it on the bench, or decide on it; its trim code moved with it and must be written there.";
pub(super) const DIFFERENCE_TOO_SMALL_FAULT: &str = "Too small a difference to be a fault by itself: sound injectors differ as much. Test on the bench.";
pub(super) fn fault_stayed_cylinder_line(from: impl Display) -> String {
    format!(
        "The fault stayed with cylinder {from}: line, wiring or the cylinder, not the injector."
    )
}

pub(super) const CHECK_LINE_WIRING_COMPRESSION: &str =
    "Check line, wiring and compression of that cylinder.";
pub(super) const BOTH_STAND_OUT_NOW: &str = "both stand out now";
pub(super) const NEITHER_STANDS_OUT_NOW: &str =
    "neither stands out now; a nozzle wiped clean or a joint remade can do that";
pub(super) const ONE_TWO_NOT_READ: &str = "one of the two was not read again";
pub(super) fn cylinder_before_against_agreeing(from: impl Display) -> String {
    format!("Cylinder {from} before, against the agreeing others")
}

pub(super) fn injector_now_sits_cylinder(to: impl Display) -> String {
    format!("Its injector now sits in cylinder {to}")
}

pub(super) fn cylinder_now_other_injector(from: impl Display) -> String {
    format!("Cylinder {from} now, with the other injector")
}

pub(super) const HALF_EARLIER_DIFFERENCE_MORE: &str =
    "Half of the earlier difference or more counts as still there, less as gone (workshop rule).";

// verdict

pub(super) const NOT_READ_YET: &str = "Not read yet.";

// preset

pub(super) fn no_such_setting(cell: impl Display) -> String {
    format!("This check has no setting named {cell}.")
}
