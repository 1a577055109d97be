//! The sentences of `supply`, and nothing else.

use std::fmt::Display;

pub(super) const SUPPLY_VOLTAGE_CONNECTORS: &str = "Supply voltage at the connectors";
pub(super) const BATTERY_FEED_IGNITION_EACH: &str = "Battery feed: ignition on, each connector off in turn, supply pin against earth (ground). Both wires from the ECU: ignition off and waited, each wire end to end, then drive current by clamp.";
pub(super) const METER_BACK_PROBE_PINS: &str = "Meter, back-probe pins, a load such as a lamp";
pub(super) const WIRES_END_END: &str = "Wires, end to end";
pub(super) const NONE_ANYWHERE_FUSE_ONE: &str =
    "None anywhere: a fuse. One missing: its wiring. Neither is an injector.";
pub(super) const NOTHING_EVERY_ELECTRICAL_VERDICT: &str =
    "Nothing: every electrical verdict rests on it.";
pub(super) const SWITCHED_BATTERY_FEED: &str = "a switched battery feed";
pub(super) const ECU_BOTH_WIRES: &str = "the ECU, both wires";
pub(super) const READ_BATTERY_FIRST_EACH: &str =
    "Read the battery first: each connector is compared with it.";
pub(super) const READ_EACH_CONNECTOR_AGAINST: &str = "Read each connector against earth (ground).";
pub(super) const NO_SUPPLY_VOLTAGE_ANY: &str =
    "No supply voltage at any connector: fuse, relay or common feed.";
pub(super) fn no_supply_voltage_check(gone: impl Display) -> String {
    format!("{gone}: no supply voltage. Check its wiring or connector.")
}

pub(super) const ALL_CONNECTORS_LOW_ALIKE: &str =
    "All connectors low alike: a shared resistance, or the battery's own earth.";
pub(super) fn low_resistance_wiring_connector(low: impl Display) -> String {
    format!("{low}: low. Resistance in its wiring or connector.")
}

pub(super) fn supply_voltage_present_all(read: impl Display) -> String {
    format!("Supply voltage present at all {read} connectors read.")
}

pub(super) const READ_WITHOUT_LOAD_PROVES: &str = "Read without a load this proves little: a few strands carry a meter. Load the circuit and read again.";
pub(super) fn v_present(volts: impl Display) -> String {
    format!("{volts} V present.")
}

pub(super) fn v_voltage_drop(lost: impl Display) -> String {
    format!("{lost:.2} V voltage drop.")
}

pub(super) const NO_VOLTAGE: &str = "No voltage.";
pub(super) fn below_v_counts_none(none: impl Display) -> String {
    format!("Below {none} V counts as none (workshop rule)")
}

pub(super) fn wiring_may_lose_v(drop: impl Display) -> String {
    format!("Wiring may lose {drop} V (workshop rule)")
}

pub(super) const READING_UNDER_LOAD: &str = "A reading under load.";
pub(super) const SAME_PIN_AGAIN_CONNECTOR: &str =
    "The same pin again with the connector cleaned, then the wiring end to end.";
pub(super) const BOTH_WIRES_COME_ECU: &str = "Both wires come from the ECU: 0 V at rest is normal. Ignition off, wait, then each wire end to end.";
pub(super) fn wires_good(whole: impl Display) -> String {
    format!("{whole}: wires good.")
}

pub(super) fn wire_open_too_much(open: impl Display) -> String {
    format!("{open}: a wire is open or has too much resistance.")
}

pub(super) fn wires_good_no_drive(silent: impl Display) -> String {
    format!("{silent}: wires good, no drive current.")
}

pub(super) const WIRES_GOOD_NEXT_INSULATION: &str =
    "Wires good: next, insulation of the wiring to the body, then drive current by clamp.";
pub(super) fn wire_most_end_end(most: impl Display) -> String {
    format!(
        "A wire has at most {most} Ω end to end (workshop rule); an injector driven by the ECU shows no voltage at rest"
    )
}

pub(super) const WIRE_MOVED_WARMED_WHILE: &str = "The wire moved and warmed while measured.";
pub(super) fn end_end_open_too(ohm: impl Display) -> String {
    format!("{ohm} Ω end to end: open, or too much resistance.")
}

pub(super) const NO_DRIVE_CURRENT_CONTROL: &str =
    "No drive current: control wire, ECU driver or its signal.";
pub(super) fn end_end(ohm: impl Display) -> String {
    format!("{ohm} Ω end to end.")
}

pub(super) fn drive_current_driven(amps: impl Display) -> String {
    format!("{amps} A drive current: it is driven.")
}

pub(super) const BOTH_WIRES_COME_ECU_VOLTAGE: &str =
    "Both wires come from the ECU: a voltage at rest cannot be judged.";
