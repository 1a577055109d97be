//! The sentences of `piezo_stack`, and nothing else.

pub(super) const DE_ENERGISED_WAITED_CONNECTORS: &str = "De-energised and waited, connectors off: capacitance across the pins of each, all at the same temperature.";
pub(super) const CAPACITANCE_METER_INSULATION_TESTER: &str = "Capacitance meter; insulation tester";
pub(super) const CRACKED_LAYERS_READ_LOW: &str =
    "Cracked layers read low, moisture reads high: check insulation to body next.";
