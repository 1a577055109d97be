//! The sentences of `indicator`, and nothing else.

use std::fmt::Display;

pub(super) const CONTROL_SIGNAL_MOVEMENT: &str = "Control signal and movement";
pub(super) const NOID_LIGHT_CONTROL_SIDE: &str = "Noid light on the control side while cranking or idling; then field probe or stethoscope at each body.";
pub(super) const NOID_LIGHT_VOLTAGE_FIELD: &str =
    "Noid light for this voltage, field probe or stethoscope";
pub(super) const BEFORE_CONDEMNING_ONE_NOT: &str =
    "Before condemning one for not clicking, prove it is being driven.";
pub(super) const NO_SUPPLY_VOLTAGE_ANYWHERE: &str = "No supply voltage anywhere.";
pub(super) const CONNECT_NOID_LIGHT_EACH: &str =
    "Connect the noid light to each control pin while cranking or idling.";
pub(super) const DARK_EVERYWHERE_ECU_SPEED: &str =
    "Dark everywhere: ECU, its speed signal or its earth, not the injectors.";
pub(super) const EVERY_LAMP_LIGHTS: &str =
    "Every lamp lights: driven as far as a lamp shows. Movement was not heard of all of them.";
pub(super) const EVERY_INJECTOR_TRIED_SHOWS: &str =
    "Every injector tried shows movement; it proves no more than that.";
pub(super) fn driven_but_silent(odd: impl Display) -> String {
    format!("{odd}: driven but silent.")
}

pub(super) fn dark_no_control_signal(dark: impl Display) -> String {
    format!("{dark}: dark, no control signal.")
}

pub(super) const GOOD_FEED_SPEED_SIGNAL: &str =
    "With a good feed: speed signal and ECU earth before any driver.";
pub(super) const BEFORE_CONDEMNING_INJECTOR_NOT: &str = "Before condemning an injector for not clicking, prove it is driven: control wire, pin and driver first.";
pub(super) const LAMP_LIGHTS_FEW_STRANDS: &str =
    "A lamp lights on a few strands: also read supply voltage under load and coil resistance.";
pub(super) const DARK_BUT_SOMETHING_MOVES: &str =
    "Dark, but something moves: check the noid light and its clip.";
pub(super) const NO_CONTROL_SIGNAL_CONTROL: &str =
    "No control signal: control wire, pin or driver, whatever the injector is like.";
pub(super) const SILENT_STUCK_OPEN_DRIVEN: &str =
    "Silent: stuck, open, or driven too weakly. Coil resistance tells them apart.";
pub(super) const SOMETHING_MOVES_MUCH_FLOWS: &str =
    "Something moves; how much it flows is not known.";
pub(super) const LIT_PROVES_LITTLE_FEW: &str = "Lit proves little: a few strands can light it.";
pub(super) const NOID_LIGHT_FIELD_PROBE: &str = "Noid light, field probe and stethoscope answer one question, so they count once. Dark is proof, lit is not.";
pub(super) const SUPPLY_VOLTAGE_UNDER_LOAD: &str =
    "Supply voltage under load, and coil resistance against the others.";
