//! The sentences of `work`, and nothing else.

use std::fmt::Display;

// fit step

pub(super) const PULL_STRAIGHT_MAKERS_PULLER: &str =
    "Pull straight with the maker's puller; never pry at the body or the coil.";
pub(super) const FIND_BEFORE_FITTING_NEW: &str =
    "Find it before fitting the new one: two seals leak.";
pub(super) const REPAIR_THREAD_BEFORE_TIGHTENING: &str =
    "Repair the thread before tightening anything in it.";
pub(super) const CUT_CLEAN_SEAT_RIGHT: &str =
    "Cut or clean the seat with the right tool, or it burns through again.";
pub(super) const RENEW_BENT_NICKED_LINE: &str = "Renew a bent or nicked line; never bend it back.";
pub(super) const DESCRIBE_SETTLE_BEFORE_FITTING: &str =
    "Describe it, and settle it before fitting.";
pub(super) const BORE_SEAT_CLEAN: &str = "Bore and seat clean";
pub(super) const GRAIN_OLD_WASHER_UNDER: &str =
    "a grain or an old washer under it leaks and burns the seat";
pub(super) const WASHER_SEALS_ONCE_ONE: &str = "a washer seals once; one, never two";
pub(super) const DRY_RING_ROLLS_TEARS: &str = "a dry ring rolls and tears unseen";
pub(super) const NEW_COMBUSTION_SEAL_SIZED: &str = "New combustion seal, sized, dry";
pub(super) const STRETCHED_MUST_SHRINK_BACK: &str =
    "it is stretched on and must shrink back before fitting; no oil on it";
pub(super) const ANGLE_TIGHTENED_BOLTS_STRETCH: &str =
    "angle-tightened bolts stretch: use once only";
pub(super) const BOLT_STARTED_HAND: &str = "Bolt started by hand";
pub(super) const HAND_YOU_FEEL_CROSSED: &str =
    "by hand you feel a crossed thread; anti-seize only where the maker allows, never on the tip";
pub(super) const CLAMP_TIGHTENED_STAGES: &str = "Clamp tightened in stages";
pub(super) const TOO_LOOSE_BLOWS_TOO: &str = "too loose blows by, too tight bends the body";
pub(super) const LINE_STRAIGHT_TIGHTENED_TORQUE: &str = "Line straight, tightened to torque";
pub(super) const LINE_BENT_FIT_BREAKS: &str =
    "a line bent to fit breaks; hold against it with a second spanner";
pub(super) const RETURN_CLIP_HOME_TUGGED: &str = "Return clip home, tugged";
pub(super) const HALF_CLOSED_CLIP_DRAWS: &str =
    "a half-closed clip draws air or drips on a hot engine";
pub(super) const RETAINING_CLIP_HOME_TUGGED: &str = "Retaining clip home, tugged";
pub(super) const RAIL_PRESSURE_LIFTS_UNRETAINED: &str =
    "rail pressure lifts an unretained injector";
pub(super) const HALF_LATCHED_CONNECTOR_WORKS: &str =
    "a half-latched connector works until the first bump";

// proof item

pub(super) const FITTED_STEP_STEP: &str = "Fitted, step by step";
pub(super) const TRIM_CODES_READ_BACK: &str = "Trim codes read back";
pub(super) const LEAK_CHECK_ENGINE_OFF: &str = "Leak check, engine off";
pub(super) const FAULT_CODES_READ_AGAIN: &str = "Fault codes read again";
pub(super) const FAILED_TEST_REPEATED: &str = "The failed test, repeated";
pub(super) const EVERY_REMOVED_INJECTOR_EVERY: &str =
    "Every removed injector has every step of its fitting card ticked.";
pub(super) const EVERY_CYLINDER_HOLDS_TRIM: &str =
    "Every cylinder holds the trim code of its own injector, read back.";
pub(super) const HAND_PRIMER_TANKS_OWN: &str = "Hand primer or the tank's own pump until no bubbles come. Never by mouth, never by cranking alone.";
pub(super) const PRIME_PRESSURE_WAIT_CHECK: &str =
    "Prime to pressure, wait, check every joint with a lamp and a dry rag.";
pub(super) const SHORT_CRANK_LET_SETTLE: &str =
    "Short crank, let it settle, listen at each cylinder. Note what you hear.";
pub(super) const LAMP_CARDBOARD_NEVER_HAND: &str =
    "Lamp and cardboard, never a hand. Tighten nothing on a running engine.";
pub(super) const IGNITION_ENGINE_OFF_READ: &str =
    "Ignition on, engine off; read back that every value is zero.";
pub(super) const REPEAT_EACH_KIND_RUN: &str =
    "Repeat each kind of run until its counter is full; a second person reads them.";
pub(super) const LET_DOSER_REGENERATE_ONCE: &str =
    "Let the doser regenerate once; check that temperature and pressure follow.";
pub(super) const READ_AGAIN_AFTER_DRIVE: &str =
    "Read again after the drive. A fault code that returns is a finding.";
pub(super) const UNDER_CONDITIONS_COMPLAINT_NOTE: &str =
    "Under the conditions of the complaint. Note what you felt.";
pub(super) const COMPLAINT_GONE: &str = "The complaint is gone.";
pub(super) const COMPLAINT_BETTER: &str =
    "The complaint is better, and still there: the search goes on.";
pub(super) const COMPLAINT_SAME: &str = "The complaint is the same: the search goes on.";
pub(super) const SAME_TEST_UNDER_SAME: &str = "The same test under the same conditions as before.";

// work

pub(super) fn return_run_running(run: impl Display) -> String {
    format!("return run {run} is running")
}

pub(super) fn codes_not_known(cylinders: impl Display) -> String {
    let which = cylinders.to_string().to_lowercase();
    format!("codes not known: {which}. Read the ECU.")
}
pub(super) fn bottle_not_read_yet(which: impl Display) -> String {
    format!("bottle {which} not read yet")
}

pub(super) const RETURN_TEST_NOT_STARTED: &str = "return test not started";
pub(super) const BOOKED_NOTHING_MEASURED: &str = "booked in, nothing measured";
pub(super) fn decide_again(overtaken: impl Display) -> String {
    format!("decide {overtaken} again: something changed since")
}

pub(super) const ALL_INJECTORS_DECIDED_REPORT: &str = "all injectors decided, report ready";

pub(super) fn cancelled(reason: impl Display) -> String {
    format!("cancelled: {reason}")
}
