//! The sentences of `judgement`, and nothing else.

use std::fmt::Display;

// collect

pub(super) const INJECTORS_OUT_BEFORE_TOO: &str = " Injectors were out before, too.";
pub(super) fn trim_code_cylinder_read(cylinder: impl Display) -> String {
    format!("The trim code of cylinder {cylinder} was read back.")
}

pub(super) fn new_injector_went_into(cylinder: impl Display) -> String {
    format!(
        "A new injector went into cylinder {cylinder}; its trim code was not written and read back."
    )
}

pub(super) fn trim_code_as_found(cylinder: impl Display, slot: impl Display) -> String {
    format!("As found, cylinder {cylinder}: {slot}")
}

pub(super) fn injector_cylinder_came_trim(
    cylinder: impl Display,
    came_from: impl Display,
    out: impl Display,
) -> String {
    format!(
        "The injector in cylinder {cylinder} came from {came_from}: its trim code is stored in the other position.{out}"
    )
}

// cost

pub(super) fn counted_here_family_left(
    comebacks: impl Display,
    noun: impl Display,
    left_in: impl Display,
) -> String {
    format!("Counted here: {comebacks} {noun} for {left_in} of this family that were left in")
}

pub(super) const OLD_KIND: &str = "Old for its kind";
pub(super) const YOUNG_KIND: &str = "Young for its kind";
pub(super) const AGE_NOT_GIVEN_TREATED: &str = "Age not given; treated as medium";
pub(super) fn cheaper_each_full_set(
    cheaper: impl Display,
    apart: impl Display,
    odds: impl Display,
    at: impl Display,
) -> String {
    format!(
        "{cheaper} is cheaper by {apart} at {odds:.0} % each; from {at:.0} % the full set pays."
    )
}

pub(super) const NO_OLD_INJECTOR_LEFT: &str =
    "No old injector is left in: choose between labour and new parts.";
pub(super) fn cheaper_whatever_odds(cheaper: impl Display, apart: impl Display) -> String {
    format!("{cheaper} is cheaper by {apart}, whatever the odds.")
}

// next check

pub(super) const RUNNING_ENGINE_HIGH_PRESSURE: &str = "running engine or high pressure";
pub(super) const FUEL_JET_VAPOUR_HIGH: &str = "fuel jet, vapour or high voltage at hand";
pub(super) fn no_list_instruments(word: impl Display) -> String {
    format!("no {word} in the list of instruments.")
}

pub(super) fn every_out_calibration(word: impl Display) -> String {
    format!("every {word} is out of calibration.")
}

pub(super) fn mainly_tests_expected_avoid(
    cause: impl Display,
    settled: impl Display,
    open: impl Display,
) -> String {
    format!(
        "Mainly tests: {cause}. Expected to avoid {settled:.2} of {open:.2} wrong decisions open now."
    )
}

pub(super) fn fix_repeat_check_nothing(says: impl Display) -> String {
    format!("{says} Fix it, then repeat this check; nothing else is worth measuring first.")
}

pub(super) fn decision_waits(of: impl Display) -> String {
    format!("The decision on {of} waits for it.")
}

// rank

pub(super) const OTHER_CAUSES_FIT_SAME: &str = "Other causes fit the same findings as well.";
pub(super) const OTHER_CAUSES_FIT_FINDINGS: &str = "Other causes fit the findings less well.";
pub(super) const COMPLAINT_NEEDS_CAUSE: &str =
    "The complaint needs a cause, and less is left elsewhere.";
pub(super) const SELDOM_TOLD_WITHOUT: &str =
    "A complaint is seldom told of an engine with nothing wrong.";
pub(super) const ONLY_ONE_STATE_TRUE: &str =
    "Only one state is true: what another cause explains counts less for this one.";
pub(super) const NONE_CAUSES_PRESENT: &str = "None of the causes present.";
pub(super) const READINGS_ALL_CYLINDERS_TOGETHER: &str = "Readings of all cylinders together";
pub(super) const SHARED_FAULT_SHOWS_ALL: &str = "A shared fault shows at all of them.";

// step

pub(super) const FIX_FIRST_REPEAT_CHECK: &str = "Fix first, then repeat the check";
pub(super) fn fix_first_repeat(title: impl Display) -> String {
    format!("Fix first, then repeat: {title}")
}

pub(super) const NO_REMAINING_CHECK_WOULD: &str =
    "No remaining check would help: a person decides, or leaves it open.";
pub(super) const READINGS_SUPPORT_DECISION_EVERY: &str =
    "The readings support a decision on every injector.";
pub(super) fn came_back_proof_had(names: impl Display) -> String {
    format!("It came back, and its proof had skipped: {names}.")
}

// story

pub(super) const FEW_HOURS_KILOMETRES: &str = "few hours or kilometres";
pub(super) const MANY_HOURS_KILOMETRES: &str = "many hours or kilometres";

// check

pub(super) const PERCENTAGES_LEAVE_BELOW_ACT: &str = "percentages with leave below act needed";
pub(super) const YOUNG_BELOW_OLD_NEEDED: &str = "young below old needed, in hours and in km";
pub(super) const MINUTES_REASON_NEEDED: &str = "minutes from 0, and a reason, needed";
pub(super) const PRIOR_NEEDED_EACH_FUEL: &str = "a prior from 0 to 60 needed for each fuel system";
pub(super) const WORD_REASON_NEEDED: &str = "a word and a reason needed";
pub(super) fn unknown_name_known(n: impl Display) -> String {
    format!("unknown name; known are {n}")
}

pub(super) const FACTORS_REASON_NEEDED: &str = "factors from 0.05 to 20, and a reason, needed";
pub(super) fn column_needed_no_reading(code: impl Display, p: impl Display) -> String {
    format!("column {code}: {p}; 0.01 to 99.99 needed, as no reading is complete proof")
}

pub(super) fn adds_up_needed(sum: impl Display) -> String {
    format!("adds up to {sum}; 100 needed")
}

pub(super) const ROW_SOUND_ONE_CAUSE: &str = "a row for sound and one for a cause needed";
pub(super) const ALIKE_MUST_NAME_OUTCOMES: &str = "alike must name outcomes of this check";
pub(super) const TITLE_GROUP_MINUTES_ABOVE: &str =
    "a title, a group, minutes above 0, a hazard from 0 to 3 and a quality up to 1 needed";

// weights

pub(super) const CHECKS_THEIR_OUTCOMES_MANY: &str = "
# ---------------------------------------------------------------- checks, their outcomes, and how many of 100 show each
# hazard: 0 none, 1 care, 2 running engine or high pressure, 3 fuel jet or charge at hand.
";
pub(super) const ROWS_WORKSHOP_EACH_REPLACES: &str =
    "# Rows of this workshop. Each replaces the shipped row of the same name; all others keep
# following the shipped ones. For example, without the # in front:
#
# [bounds]
# leave = 15
#
# [[check]]
# id = \"return_test\"
# [check.rows]
# worn = { of = [15, 12, 69, 4], why = \"as counted here\" }
";
pub(super) fn no_test_outcome(name: impl Display) -> String {
    format!("no test has an outcome \"{name}\"")
}

pub(super) fn bytes_maximum(text: impl Display, largest: impl Display) -> String {
    format!("{text} bytes; maximum {largest}.")
}

pub(super) const NO_CHECK_OUTCOME_ROW: &str = "no check has this outcome; a row is needed";

// judgement

pub(super) fn methods_differ(check: impl Display, apart: impl Display) -> String {
    format!("{check}: the methods differ on {apart}")
}

pub(super) const CYLINDER_NAMED: &str = "this cylinder named as affected";
pub(super) const OTHER_CYLINDER_NAMED: &str = "another cylinder named as affected, not this one";

pub(super) const HOW_OFTEN: &str = "How often each cause is there";
pub(super) const WHAT_IS_TOLD: &str = "What is told about the job";
pub(super) const NO_SUCH_WEIGHTS: &str = "no such row";
pub(super) fn numbers_needed(count: usize) -> String {
    format!("{count} numbers needed")
}

pub(super) fn decided(what: &str) -> String {
    format!("Decided: {}{}", what[..1].to_lowercase(), &what[1..])
}

pub(super) fn decided_and_open(decided: &str, open: &str) -> String {
    format!("{} Proposed: {}{}", self::decided(decided), open[..1].to_lowercase(), &open[1..])
}

// the complaint

pub(super) const ASK_COMPLAINT: &str = "Ask: is the complaint gone?";
pub(super) fn put_right_ask(check: impl Display) -> String {
    format!("{check}: put right. Run the engine and ask before any injector is left or taken out.")
}
pub(super) fn swap_and_mark(one: u32, other: u32) -> String {
    format!("Swap the injectors of cylinders {one} and {other}, both marked")
}
pub(super) const SHARED_CANCELS: &str =
    "what all cylinders share cancels where they are compared: no row for it";
pub(super) const CODES_MIRRORED: &str =
    "Every stored trim code belongs to the injector at the other end.";
pub(super) const WHICH_END: &str =
    "Which end is cylinder 1: check the numbering before any code is written.";
pub(super) fn capped_by_slips(why: &str, slip: f64) -> String {
    format!("{why} At its most: {slip} of 100 sound ones read so by a slip, however far off.")
}
pub(super) fn exchange_with(title: &str, one: u32, other: u32) -> String {
    format!("{title}: cylinder {one} with {other}")
}
pub(super) const GONE_WITH_REPAIR: &str = "The complaint went with the repair.";
