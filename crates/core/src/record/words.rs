//! The sentences of `record`, and nothing else.

use std::fmt::Display;

// problems

pub(super) const LETTERS_DIGITS_SIGNS_MAXIMUM: &str = "Letters, digits and signs. Maximum 64.";
pub(super) fn enter_cylinders_each_once(cylinders: impl Display) -> String {
    format!("Enter cylinders from 1 to {cylinders}, each once.")
}

pub(super) const ENTER_FEW_WORDS: &str = "Enter a few words.";
pub(super) fn maximum_characters(event_text: impl Display) -> String {
    format!("Maximum {event_text} characters.")
}

pub(super) fn enter_two_cylinders(cylinders: impl Display) -> String {
    format!("Enter two cylinders from 1 to {cylinders}.")
}

pub(super) const LETTERS_DIGITS_MAXIMUM: &str = "Letters and digits. Maximum 64.";
pub(super) fn enter_each_cylinder_once(cylinders: impl Display) -> String {
    format!("Enter each cylinder from 1 to {cylinders} once.")
}

pub(super) const ENTER_TWO_MORE_INJECTORS: &str =
    "Enter two or more injectors, each to its own cylinder.";
pub(super) const ENTER_STAGES_EACH_TORQUE: &str =
    "Enter 1 to 8 stages, each with a torque or an angle above zero.";
pub(super) const ENTER_NUMBERS_MAXIMUM_COUNTERS: &str = "Enter numbers. Maximum 16 counters.";
pub(super) const ENTER_TIME_ONE_SECOND: &str = "Enter a time from one second to one week.";

// rejudge

pub(super) fn cylinder_now(place: impl Display, word: impl Display, word2: impl Display) -> String {
    format!("Cylinder {place}: {word} then, {word2} now.")
}

pub(super) fn assessed_again_now(limit_note: impl Display, limit_note2: impl Display) -> String {
    format!("Assessed again. Then: {limit_note} Now: {limit_note2}")
}

pub(super) fn workshop_rules_revision_now(
    rules_then: impl Display,
    rules_now: impl Display,
) -> String {
    format!(" Workshop rules: revision {rules_then} then, {rules_now} now.")
}

pub(super) const NO_INJECTORS_RESULT_WOULD: &str = "No injector's result would change.";

// review

pub(super) fn decided_again(decided: impl Display) -> String {
    format!("{decided} decided again.")
}

pub(super) const RETURN_TEST: &str = "of the return test";
pub(super) const INJECTORS_CHANGED_PLACES: &str = "Injectors changed places.";
pub(super) const NO_DECISION_YET_NOTHING: &str = "No decision yet, so nothing to review.";
pub(super) const SECOND_PERSON_MUST_SIGN: &str =
    "A second person must sign, not the one who decided.";

// seats

pub(super) const INJECTOR_NOT_PART_ENGINE: &str =
    "An injector that is not part of this engine cannot be placed in it.";
pub(super) const TWO_INJECTORS_WOULD_ONE: &str =
    "Two injectors would be in one cylinder: check the strip again; someone moved one meanwhile.";

// sheet

pub(super) fn overdue_calibration(name: impl Display) -> String {
    format!("{name} was overdue for calibration.")
}

// slips

pub(super) fn run_not_read(
    number: impl Display,
    word: impl Display,
    unread: impl Display,
) -> String {
    format!("Run {number}: {word} {unread} not read.")
}

pub(super) fn run_bottle_read_ml(
    number: impl Display,
    cylinder: impl Display,
    value: impl Display,
    value2: impl Display,
) -> String {
    format!(
        "Run {number}: bottle {cylinder} was read at {value} ml, then at {value2} ml: was it still filling? Pull all hoses together before reading the levels."
    )
}

pub(super) fn run_bottle_others_decimal(
    number: impl Display,
    cylinder: impl Display,
    how: impl Display,
) -> String {
    format!("Run {number}: bottle {cylinder} is {how} the others: decimal point slipped?")
}

// stands

pub(super) fn since_decision_decide_again(parts: impl Display) -> String {
    format!("Since this decision: {parts}. Decide again.")
}

pub(super) fn decided_otherwise(cylinder: u32) -> String {
    format!("Cylinder {cylinder} was decided otherwise. Enter why its injector is replaced.")
}

pub(super) fn replaced_undecided(cylinder: u32) -> String {
    format!("Cylinder {cylinder} is not decided yet. Enter why its injector is replaced.")
}

// trail

pub(super) const BACKGROUND_COMPLAINT: &str = "Background of the complaint";
pub(super) fn machines_clock_set_back(by: impl Display) -> String {
    format!(
        "This machine's clock was set back by {by} between two entries. Their order is kept; times before and after do not compare."
    )
}

// record

pub(super) fn due_calibration(name: impl Display, since: impl Display) -> String {
    format!("{name} was due for calibration on {since}.")
}

pub(super) const PLATE: &str = "Plate or hull number";
