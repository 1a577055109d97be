//! The sentences of `plan`, and nothing else.

use std::fmt::Display;

// replan

pub(super) fn already_points(word: impl Display, cylinders: impl Display) -> String {
    format!("The {word} already points to {cylinders}.")
}

pub(super) const UNTIL_COMPARISON_POINTS_ONE: &str = "Until a comparison points to one.";
pub(super) const ONE_CYLINDER_AFFECTED_BAD: &str =
    "One cylinder affected: bad fuel hits all of them.";
pub(super) const SWAP_SHOWS_NOT_INJECTOR: &str = "The swap shows that it is not the injector.";
pub(super) const SWAP_SHOWS_INJECTOR: &str = "The swap shows that it is the injector.";
pub(super) fn low_compression_mechanical_not(compared: impl Display) -> String {
    format!("{compared}: low compression. Mechanical, not its injector.")
}

pub(super) const JUDGE_NO_INJECTOR_BEFORE: &str = "; judge no injector before that";
pub(super) fn fix_first_repeat_check(says: impl Display, waits: impl Display) -> String {
    format!("Fix first: {says} Then repeat the check{waits}.")
}

pub(super) fn points_swap_tell_injector(word: impl Display, cylinders: impl Display) -> String {
    format!("The {word} points to {cylinders}: swap to tell injector from cylinder.")
}

pub(super) const NO_COMPLAINT_MEASURE_BEFORE: &str =
    "No complaint: measure before, clean, and measure again.";
pub(super) const ALL_CYLINDERS_AFFECTED_LAST: &str = "All cylinders affected, or the last fill is suspect: check what they share before removing any injector.";
pub(super) const ONE_CYLINDER_AFFECTED_SUSPECT: &str =
    "One cylinder affected: suspect that cylinder, not yet its injector.";
pub(super) const HARD_STARTING_CHECK_FUEL: &str =
    "Hard starting: check fuel supply, air and rail pressure before any comparison.";
pub(super) const SEVERAL_AFFECTED: &str =
    "Several cylinders affected: what they share first, then each against the ones that are not.";
pub(super) const AFFECTED_CYLINDERS_UNKNOWN_CHEAP: &str =
    "Affected cylinders unknown: cheap shared checks first, then compare.";

// steps

pub(super) const NONE_STORED_MECHANICAL_FAULT: &str =
    "None stored. A mechanical fault may store none.";
pub(super) const READ_FAULT_CODES_STORED: &str = "Read fault codes and stored trim codes";
pub(super) const SCAN_TOOL_SUPPORT_CHARGER: &str = "Scan tool, support charger";
pub(super) const SWAP_TWO_INJECTORS_REPEAT: &str = "Swap two injectors and repeat the test";
pub(super) const NEW_SEALING_WASHERS_SEALS: &str = "New sealing washers and seals, torque spanner";
pub(super) const BENCH_LEAK_SPRAY_FLOW: &str = "Bench: leak, spray, flow; clean and repeat";
pub(super) const BENCH_FILTER_BASKETS_SEALS: &str =
    "Bench, filter baskets, seals, caps, test fluid";
pub(super) const TAKES_FIVE_MINUTES_WRITE: &str =
    "Takes five minutes. Write down the stored trim codes before anything moves.";
pub(super) const FAULT_CODES_READ_ELSEWHERE: &str = "Fault codes read elsewhere, before the visit.";
pub(super) const TELLS_INJECTOR_LINE_WIRING: &str =
    "Tells the injector from its line, wiring and cylinder.";
pub(super) const NOTHING_FOLLOW_CAUSE_PROVEN: &str =
    "Nothing to follow, or a cause proven elsewhere.";
pub(super) const CHECK_CLEAN_BENCH_WORK: &str =
    "Check and clean is bench work: flow before, clean, flow after.";
pub(super) const ONLY_BENCH_SHOWS_SPRAY: &str = "Only a bench shows spray, leak and flow.";
pub(super) const CAUSE_FOUND_OUTSIDE_INJECTOR: &str = "A cause found outside the injector.";

// plan

pub(super) const ADDED_HAND: &str = "Added by hand.";
pub(super) const DONE_TICKED_HAND: &str = "Done, ticked by hand.";
