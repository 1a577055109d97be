//! The sentences of `shared_causes`, and nothing else.

pub(super) const SHARED_ALL_CYLINDERS: &str = "Shared by all cylinders";
pub(super) const INTAKE_LEAKS_AFTER_AIR: &str = "Intake leaks after the air meter, exhaust back pressure, common earth and relay, speed and rail signals.";
pub(super) const SMOKE_TESTER_NON_FLAMMABLE: &str =
    "Smoke tester or non-flammable leak spray, scan tool";
pub(super) const COMMON_EARTH_RELAY: &str = "Common earth and relay";
pub(super) const SPEED_RAIL_SIGNALS: &str = "Speed and rail signals";
pub(super) const NOT_KNOWN_ONE_CYLINDER: &str =
    "Not known to be one cylinder: check what they share.";
pub(super) const ONE_CYLINDER_NAMED_OTHERS: &str = "One cylinder named, the others healthy.";
pub(super) const INTAKE_DRAWS_AIR_AFTER: &str =
    "Intake draws air after the meter: all cylinders run lean or rough.";
pub(super) const EXHAUST_RESTRICTED_ALL_CYLINDERS: &str =
    "Exhaust is restricted: all cylinders run badly, none is at fault alone.";
pub(super) const COMMON_EARTH_RELAY_FAULT: &str =
    "Common earth or relay at fault: every injector is driven badly.";
pub(super) const SPEED_RAIL_SIGNAL_IMPLAUSIBLE: &str =
    "Speed or rail signal implausible: the ECU injects by it.";
pub(super) const CHECK_ALL_CYLINDERS_SHARE: &str =
    "Check what all cylinders share before suspecting one.";
pub(super) const NO_FAULT_FOUND_ALL: &str = "No fault found in what all cylinders share.";
pub(super) const FIX_FIRST_INJECTORS_JUDGED: &str =
    "Fix this first; injectors are judged after it.";
