//! The sentences of `suction_air`, and nothing else.

pub(super) const AIR_SUCTION_LINE: &str = "Air in the suction line";
pub(super) const CLEAR_HOSE_BEFORE_PUMP: &str =
    "A clear hose before the pump: look while running, then again after standing for a while.";
pub(super) const CLEAR_HOSE_CLAMPS_HAND: &str = "Clear hose and clamps, hand primer";
pub(super) const STREAM_BUBBLES: &str = "a stream of bubbles";
pub(super) const DRAINS_BACK_ONCE: &str = "drains back at once";
pub(super) const RAN_DRY_FILTER_CHANGED: &str = "It ran dry or the filter was changed: air first.";
pub(super) const CLEAR_HOSE_STAYS_FULL: &str = "A clear hose that stays full.";
pub(super) const FUEL_DRAINS_BACK_PARKED: &str =
    "Fuel that drains back when parked causes a long crank.";
pub(super) const CRANK_JUST_LONG_AFTER: &str = "Crank just as long after standing only a minute.";
pub(super) const FEW_BUBBLES_WATCH_WHETHER: &str =
    "A few bubbles: watch whether they clear; a new filter needs a while.";
pub(super) const AIR_DRAWN_WHILE_RUNNING: &str =
    "Air is drawn in while running: joints, seals, filter and tank pick-up before any injector.";
pub(super) const FUEL_DRAINS_BACK_SLOWLY: &str =
    "Fuel drains back slowly: a non-return valve or a seal. It causes a long crank after standing.";
pub(super) const FUEL_DRAINS_BACK_PARKED_CAUSES: &str =
    "Fuel drains back when parked: this causes the long crank, not an injector.";
pub(super) const FIT_CLEAR_HOSE_LOOK: &str = "Fit the clear hose and look while running.";
pub(super) const NO_AIR_SUCTION_LINE: &str =
    "No air in the suction line, running or after standing.";
