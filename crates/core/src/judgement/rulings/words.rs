//! Words of decisions: what a rule is called, what a decision is called among several, and what
//! the practice adds to the work.

use super::Why;
use crate::engine::FuelSystem;
use crate::work::Decision;
use std::fmt::Display;

/// The rule in a few words.
pub(in crate::judgement) fn rule_word(why: Why) -> &'static str {
    match why {
        Why::SharedFault => "shared cause",
        Why::NewAsBad => "new part reads like the old one",
        Why::Contradiction => "contradiction",
        Why::HarnessLeg => "wiring",
        Why::Mechanical => "mechanical",
        Why::Driver => "driver",
        Why::Ignition => "ignition",
        Why::LineRestricted => "line",
        Why::SeatGas => "seat",
        Why::PlaceUnclear => "location",
        Why::LiftOff => "lift",
        Why::ShimAgainst => "doubtful shim change",
        Why::AllAlikeOff => "all off alike",
        Why::RunOdd => "doubtful run",
        Why::RepeatDiffers => "contradictory readings",
        Why::CannotDecide => "instrument too coarse",
        Why::Doubtful => "doubt",
        Why::MoreRuns => "more runs first",
        Why::CoilDead => "coil",
        Why::Worn | Why::WornAfterCleaning | Why::MapWorn => "worn",
        Why::CleaningSpent => "cleaning exhausted",
        Why::Restricted => "dirt",
        Why::TipLeak | Why::TipLeakAgain => "leak",
        Why::Slow | Why::SlowAgain => "slow",
        Why::NeedsOwnEvidence => "own evidence first",
        Why::InjectorUnclear => "injector",
        Why::OppositeInSet => "source first",
        Why::Uncoded => "code",
        Why::NothingAgainst => "no fault found",
        Why::ComplaintGone => "complaint gone",
        Why::NothingMeasured => "not measured",
        Why::NotEnough => "not enough evidence",
    }
}

/// What a decision is called in a sentence about several.
pub(in crate::judgement) fn verb(decision: Decision) -> &'static str {
    match decision {
        Decision::Leave => "leave",
        Decision::Clean => "clean",
        Decision::Adjust => "recondition",
        Decision::Recode => "recode",
        Decision::Match => "match",
        Decision::Replace => "replace or recondition",
        Decision::RepairHarness => "repair the wiring of",
        Decision::LookElsewhere => "look elsewhere for",
        Decision::MeasureAgain => "retest",
    }
}

/// What belongs to the work besides.
pub(super) fn afterwards(decision: Decision, fuel: FuelSystem) -> Vec<String> {
    let says = |lines: &[&str]| lines.iter().map(|line| (*line).to_owned()).collect();
    let fitted = "Clean rail, bore and seat. New seals and washers. Leak check before starting and with the engine running.";
    let coding =
        "Write its trim code, read it back, clear learned values and do the relearn drive.";
    let rough = "Expect rough running before the trim code is written and relearned.";
    match decision {
        Decision::Replace | Decision::Adjust if fuel.coded() => says(&[fitted, coding, rough]),
        Decision::Replace | Decision::Adjust => says(&[fitted]),
        Decision::Clean => says(&[fitted, "Repeat the same test under the same conditions."]),
        Decision::Recode => says(&[rough]),
        Decision::Leave
        | Decision::Match
        | Decision::RepairHarness
        | Decision::LookElsewhere
        | Decision::MeasureAgain => Vec::new(),
    }
}

// doubt

/// What takes the place of once more.
pub(super) const SAME_AGAIN_CANNOT: &str = "Once more the same way cannot settle it: finer marks or a longer run, a limit, or a known good injector.";
pub(super) fn also_check_again(says: &str) -> String {
    format!("Found here too: {says} Check again after the repair.")
}

pub(super) const DOUBTFUL_READING_REPEATED: &str = "The doubtful reading, repeated.";
pub(super) fn enough_suspect_not_yet(says: impl Display) -> String {
    format!("{says} Enough to suspect, not yet to replace: more runs.")
}

pub(super) const MISSING_RUNS: &str = "The missing runs.";
pub(super) const NOTHING_MEASURED_HERE_YET: &str =
    "Nothing measured here yet can support a decision.";
pub(super) fn most_likely_sound_but(belief: impl Display) -> String {
    format!("Most likely sound, {belief:.0} %, but not certain enough to leave alone yet.")
}

pub(super) fn no_leading_cause_likeliest(
    first: impl Display,
    p: impl Display,
    weights: impl Display,
) -> String {
    format!("No leading cause: the likeliest is {first} at {p:.0} %; {weights:.0} % needed to act.")
}

pub(super) fn not_enough_evidence_likely(
    first: impl Display,
    p: impl Display,
    weights: impl Display,
    first2: impl Display,
) -> String {
    format!("Not enough evidence: {first}, likely, {p:.0} %; {weights:.0} % needed to act.{first2}")
}

// place

pub(super) fn two_readings_contradict_each(says: impl Display, says2: impl Display) -> String {
    format!("Two readings contradict each other. {says} But: {says2}")
}

pub(super) const COIL_RESISTANCE_AGAIN_LEADS: &str =
    "Coil resistance again with leads zeroed and connector cleaned, cold and warm.";
pub(super) fn not_injector(
    causes: impl Display,
    causes2: impl Display,
    found: impl Display,
) -> String {
    format!("Not the injector: {causes} or {causes2}.{found}")
}

pub(super) const COIL_GOOD: &str = " Its coil is good.";
pub(super) const LAMP_LIGHTS_PROVES_NOTHING: &str = " A lamp that lights there proves nothing.";
pub(super) fn wiring_not_injector(found: impl Display, lit: impl Display) -> String {
    format!("The wiring, not the injector.{found}{lit}")
}

pub(super) const SUPPLY_VOLTAGE_UNDER_LOAD: &str =
    "Supply voltage under load, or the wires end to end, after the repair.";
pub(super) fn no_control_signal_driver(found: impl Display, good: impl Display) -> String {
    format!(
        "No control signal: driver or control wire.{found}{good} The injector is not condemned for it."
    )
}

pub(super) const KNOWN_GOOD_INJECTOR_CONNECTED: &str =
    "A known good injector connected there: silent too means the driver.";
pub(super) fn cleaning_tells(cause: &str, percent: f64, says: impl Display) -> String {
    format!(
        "Most likely its dirt ({cause}, {percent:.0} %), and no check is left that tells more: clean it, then the same test tells.{says}"
    )
}
pub(super) fn spark_to_be_shown(percent: f64, found: impl Display) -> String {
    format!(
        "Most likely its spark, {percent:.0} %: exchange coil, plug or lead with a neighbour; a misfire that goes along shows it.{found}"
    )
}
pub(super) fn could_show(percent: f64, title: &str) -> String {
    format!(
        "Most likely sound, {percent:.0} %, but not left yet: {title} could show what the complaint suggests."
    )
}
pub(super) fn spark_as_likely(percent: f64, says: &str) -> String {
    format!(
        "Spark, {percent:.0} %. {says} Fit another coil, plug or lead there, then see whether it still misfires."
    )
}
pub(super) fn spark_not_injector_coil(found: impl Display) -> String {
    format!("Spark, not the injector: coil, spark plug or lead.{found}")
}

pub(super) const SAME_TEST_AFTER_EXCHANGE: &str = "The same test after the exchange.";
pub(super) fn line_rail_port_not(found: impl Display) -> String {
    format!("The line or its rail port, not the injector.{found}")
}

pub(super) const FLOW_AFTER_LINE_CLEARED: &str = "Its flow after the line was cleared.";
pub(super) fn combustion_gas_past_seat(found: impl Display) -> String {
    format!("Combustion gas past the seat: clean bore and seat, new washer, correct torque.{found}")
}

pub(super) const COMPRESSION_BORE_AFTER_REFITTING: &str = "Compression and bore after refitting.";
pub(super) fn low_compression_another_mechanical(found: impl Display) -> String {
    format!(
        "Low compression or another mechanical fault.{found} Low compression does not point to its injector."
    )
}

pub(super) const COMPRESSION_GAUGE_AFTER_REPAIR: &str = "Compression by gauge after the repair.";
pub(super) fn lift_out_limits_set(says: impl Display) -> String {
    format!(
        "Lift is out of limits. {says} Set it, then run the full plan again; no trim code before that."
    )
}

pub(super) const LIFT_AFTER_NEXT_SHIM: &str = "The lift after the next shim change.";

// remedy

pub(super) fn restricted_cleaning_no_longer(says: impl Display) -> String {
    format!("Restricted, and cleaning no longer improves it. {says}")
}

pub(super) const RECONDITIONING_INSTEAD_AVAILABLE: &str =
    "Reconditioning instead, where available.";
pub(super) fn electrically_dead(cause: impl Display, found: impl Display) -> String {
    format!("Electrically dead: {cause}.{found}")
}

pub(super) const READING_AGAIN_LEADS_ZEROED: &str =
    "The reading again with leads zeroed, at a known temperature.";
pub(super) fn likely_no_further_cycle(cause: impl Display, says: impl Display) -> String {
    format!("Likely {cause}. {says} No further cycle.")
}

pub(super) fn likely_recondition_map_valve(cause: impl Display, found: impl Display) -> String {
    format!(
        "Likely {cause}.{found} Recondition from its map: valve, seat, lift; otherwise replace."
    )
}

pub(super) fn still_leaks_tip_after(found: impl Display) -> String {
    format!("Still leaks at the tip after cleaning.{found}")
}

pub(super) const LEAK_CHECK_AGAIN: &str = "The leak check again.";
pub(super) fn leaks_tip_dirt_seat(found: impl Display) -> String {
    format!("Leaks at the tip: dirt on the seat can be cleaned, wear cannot.{found}")
}

pub(super) const LEAK_CHECK_AFTER_CLEANING: &str = "The leak check after cleaning.";
pub(super) fn still_opens_late_after(found: impl Display) -> String {
    format!("Still opens late after cleaning: spring or armature.{found}")
}

pub(super) const PULSE_SWEEP_AGAIN: &str = "The pulse sweep again.";
pub(super) fn opens_late_varnish_cleaned(found: impl Display) -> String {
    format!("Opens late: varnish can be cleaned.{found}")
}

pub(super) const PULSE_SWEEP_AFTER_CLEANING: &str = "The pulse sweep after cleaning.";
pub(super) const OTHERS_SET_FLOW_TOO: &str =
    " Others in the set flow too much: find the source of contamination before fitting new parts.";
pub(super) fn restricted_cleaning_help(found: impl Display, source: impl Display) -> String {
    format!("Restricted: cleaning can help.{found}{source}")
}

pub(super) const RETEST_AFTER_CLEANING_DIRT: &str =
    "Retest after cleaning: dirt clears, wear does not.";
pub(super) fn opens_late_armature_spring(cause: impl Display) -> String {
    format!("Opens late: armature, spring or air gap.{cause}")
}

pub(super) const MAP_AFTER_WORK: &str = "The map after the work.";
pub(super) fn shows(title: impl Display) -> String {
    format!(" {title} shows how.")
}

pub(super) const COMPARED_AGAIN_AFTER_CLEANING: &str =
    "Comparing again once the others are settled, or a limit for this family.";
pub(super) fn too_much_while_others_too_little(word: impl Display, found: impl Display) -> String {
    format!(
        "Perhaps {word}: but others of the set are not as they should be, and beside them a sound one seems to flow too much. Settle those first, then compare again.{found}"
    )
}
pub(super) const OTHERS_SET_OFF_OTHER: &str = " Others in the set are off the other way: find the source of contamination before fitting new parts.";
pub(super) fn injector_most_likely_but(
    first: impl Display,
    first2: impl Display,
    tells: impl Display,
) -> String {
    format!("The injector, most likely {first}, but nothing measured that on it.{first2}{tells}")
}

pub(super) fn injector_fault_not_yet(
    first: impl Display,
    second: impl Display,
    first2: impl Display,
    tells: impl Display,
    source: impl Display,
) -> String {
    format!("The injector, fault not yet clear: {first} or {second}.{first2}{tells}{source}")
}

// rulings

pub(super) fn best_next(title: impl Display) -> String {
    format!("{title}.")
}

pub(super) const CHECK_INJECTOR_ALONE: &str = "A check of this injector alone.";
pub(super) fn also_injector(cause: impl Display, cause2: impl Display) -> String {
    format!("Also its injector: {cause}.{cause2}")
}

pub(super) fn shared_cause_not_one(cause: impl Display, found: impl Display) -> String {
    format!(
        "A shared cause, not one injector: {cause}.{found} Fix that, then retest; no injector is judged before that."
    )
}

pub(super) const SAME_CHECKS_AFTER_FIX: &str = "The same checks after the fix.";
pub(super) fn new_injector_reads_worse(says: impl Display) -> String {
    format!(
        "The new injector reads worse than the one it replaced. {says} Part number, washer, trim code and fitting first."
    )
}
pub(super) fn new_injector_reads_like(says: impl Display) -> String {
    format!(
        "The new injector reads like the old one. {says} Check part number, washer and fitting first; then line, wiring and compression."
    )
}

pub(super) const PART_COMPARED_FAMILY_SWAP: &str =
    "The part compared with its family, and a swap with a neighbour.";
pub(super) fn stored_trim_code_not(found: impl Display) -> String {
    format!(
        "Stored trim code is not its own.{found} Write its code to its cylinder, read back, check."
    )
}

pub(super) const STORED_TRIM_CODE_READ: &str = "The stored trim code read back, matching the body.";
pub(super) fn no_measurement_counts_against(says: impl Display) -> String {
    format!("No measurement counts against it. {says}")
}
pub(super) const UNIT_OR_DECIMAL: &str =
    "Unit or decimal point in doubt: not judged until it is read again.";
pub(super) fn one_reading_once_more(says: impl Display) -> String {
    format!("One reading alone points to it: once more before an injector is bought. {says}")
}
pub(super) const SAME_CHECK_AGAIN: &str = "The same check again.";
pub(super) const COMPLAINT_GONE: &str = "The complaint is gone since the shared cause was put right. Nothing read speaks against this injector.";
pub(super) const COMES_BACK: &str = "The complaint coming back.";
pub(super) fn takes_nothing_insulation(says: impl Display) -> String {
    format!("Restricted or electrically dead: insulation to the body before any cleaning. {says}")
}
