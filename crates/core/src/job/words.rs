//! The sentences of `job`, and nothing else.

use std::fmt::Display;

// bench

pub(super) const SESSION_CANNOT_HOLD_MORE: &str = "This session cannot hold more readings.";
pub(super) const NO_INJECTOR_TAG_BENCH: &str = "No injector with this tag is on this bench.";
pub(super) const BENCH_NO_SUCH_TEST: &str = "This bench has no such test.";
pub(super) fn no_cell_here(cell: impl Display) -> String {
    format!("No cell \"{cell}\" here.")
}

pub(super) const SOMEONE_ELSE_READ_TUBE: &str =
    "Someone else read this tube meanwhile. Look again; your entry is kept.";

// exercise

pub(super) const NO_EXERCISE: &str = "This job is no exercise. Open one from the trainer.";
pub(super) const INTAKE_OF_EXERCISE_STAYS: &str =
    "The intake of an exercise stays as it is: everyone gets the same engine.";
pub(super) const EXERCISE_HAS_ENDED: &str = "This exercise has ended. Start the case again.";

// raw

pub(super) const STRETCHES: &str = "stretches of a trace";
pub(super) const TRACE_IS_NOT_WHAT_IT_SAYS: &str = "This trace holds other points than it says.";

// decide

pub(super) const ENTER_DECISION_LEAST_ONE: &str = "Enter a decision for at least one injector.";
pub(super) fn engine_cylinders(cylinders: impl Display) -> String {
    format!("This engine has cylinders 1 to {cylinders}.")
}

// engine test

pub(super) const RUN_JOB_STILL_GOING: &str =
    "A run of this job is still going. Stop or exclude it first.";
pub(super) const INJECTORS_SWAPPED_AFTER_TEST: &str = "Injectors were swapped after this test was set up. Set up another; both are shown side by side.";
pub(super) const CHOOSE_PHASE_RUN: &str = "Choose the phase of this run.";
pub(super) const ONLY_STEPPED_TEST_PHASES: &str = "Only a stepped test has phases.";
pub(super) const ENGINE_NO_SUCH_BANK: &str = "This engine has no such bank.";
pub(super) fn maximum_runs_one_test(n: impl Display) -> String {
    format!("Maximum {n} runs in one test. Set up another.")
}

pub(super) const ENTER_SHORT_REASON_EXCLUDING: &str = "Enter a short reason for excluding it.";
pub(super) fn run_already_excluded(reason: impl Display) -> String {
    format!("This run is already excluded: {reason}")
}

pub(super) const RUN_CANNOT_HOLD_MORE: &str = "This run cannot hold more readings.";
pub(super) const TEST_NO_TIMED_MARK: &str = "This test has no timed mark: read the levels.";
pub(super) const STILL_FILLING_STOP_RUN: &str =
    "Still filling: stop the run first, then read the bottles together.";
pub(super) const ENTER_NUMBER: &str = "Enter a number.";
pub(super) const READING_CANNOT_BELOW_ZERO: &str = "A reading cannot be below zero.";
pub(super) fn more_bottle_holds_ml(capacity: impl Display) -> String {
    format!("More than the bottle holds ({capacity} ml). If it overflowed, enter when it was full.")
}

pub(super) const ENTER_TIME_ABOVE_ZERO: &str = "Enter a time above zero.";
pub(super) const RUN_HAD_ENDED: &str = "The run had ended by then.";
pub(super) fn bottle_full_s_run(cylinder: impl Display, value: impl Display) -> String {
    format!(
        "Bottle {cylinder} was full at {value} s: the run cannot have ended before. Correct that bottle first."
    )
}

pub(super) fn run_covers_bank(covered: impl Display) -> String {
    format!("This run covers the bank of {covered}.")
}

pub(super) const COLUMN_READING_CORRECT_ONE: &str =
    "This column has a reading. Correct that one instead.";
pub(super) const SOMEONE_ELSE_CORRECTED_READING: &str =
    "Someone else corrected this reading meanwhile. Look again.";
pub(super) const ENTER_REASON_CORRECTION_OLD: &str =
    "Enter a reason for the correction; the old reading is kept.";
pub(super) const MACHINES_CLOCK_SET_BACK: &str =
    "This machine's clock was set back during the run: enter the time from your own watch.";

// events

pub(super) fn maximum_timers_once_remove(n: impl Display) -> String {
    format!("Maximum {n} timers at once; remove one first.")
}

pub(super) const RUN_STILL_GOING_STOP: &str =
    "A run is still going. Stop it before swapping injectors.";
pub(super) const ENGINE_NO_SUCH_INJECTOR: &str = "This engine has no such injector.";
pub(super) const INJECTOR_ALREADY_STRIP_MOVE: &str =
    "This injector is already on the strip: move it instead.";
pub(super) const ENTER_DONE_SPARK_PLUGS: &str =
    "Enter what was done: spark plugs out and clear-flood cranked, or something else.";
pub(super) const NO_SUCH_CLEARING_RECORD: &str = "No such clearing on record.";
pub(super) const JOB_NOT_CLOSED: &str = "The job is not closed.";
pub(super) const CLOSE_JOB_PROVE_STAGE: &str = "Close the job in its Prove stage.";
pub(super) const PLAN_NO_SUCH_STEP: &str = "The plan has no such step.";

// intake

pub(super) const CHANGES_INTAKE: &str = "changes of the intake";
pub(super) fn already_read_does_not(check: impl Display) -> String {
    format!("{check} was already read and does not apply to that fuel system. Book in a new job.")
}

pub(super) const READINGS_EXIST_NUMBER_CYLINDERS: &str =
    "Readings exist, so the number of cylinders is fixed. Book in a new job.";
pub(super) const BANK_ALREADY_RUN_ALONE: &str =
    "A bank was already run alone, so the number of banks is fixed. Book in a new job.";
pub(super) const ENTRIES_EXIST_CYLINDER_INJECTOR: &str = "Entries exist for a cylinder or injector that this engine would not have, so the number of cylinders is fixed. Book in a new job.";

// replay

pub(super) const FILE_DOES_NOT_START: &str = "The file does not start with a job.";
pub(super) fn could_not_been_recorded(why: impl Display) -> String {
    format!("This could not have been recorded here. {why}")
}

pub(super) const RESULT_RECORDED_DIFFERS_ENTRY: &str =
    "The result recorded there differs from what this entry produces.";
pub(super) const EARLIER_VERSION_PROGRAM_WENT: &str =
    "An earlier version of the program went on recording after the job was closed.";

// sheet

pub(super) const CHECK_DOES_NOT_APPLY: &str =
    "This check does not apply to the fuel system of this job.";
pub(super) const ENTER_EACH_CYLINDER_ENGINE: &str = "Enter each cylinder of this engine once.";
pub(super) const CHECK_CANNOT_HOLD_MORE: &str = "This check cannot hold more traces.";
pub(super) const RECORDING_OF_ANOTHER_CHECK: &str =
    "This check takes another kind of recording: sound for Listening, current for Current ramp.";
pub(super) const CHECK_CANNOT_HOLD_MORE_READINGS: &str = "This check cannot hold more readings.";
pub(super) const SOMEONE_ELSE_READ_CELL: &str =
    "Someone else read this cell meanwhile. Look again; your entry is kept.";
pub(super) const INJECTORS_SWAPPED_AFTER_SET: &str =
    "Injectors were swapped after this set began. Start a new set; this one is kept.";
pub(super) const STOP_TOO_MUCH_FUEL: &str = "Stop: too much fuel in this cylinder to pulse again. Spark plugs out, clear-flood crank, record it.";

// job

pub(super) fn no_id(what: impl Display) -> String {
    format!("No {what} with this id.")
}

pub(super) const SOMEONE_CHANGED_JOB_WHILE: &str =
    "Someone changed this job while you had it open. Nothing was overwritten.";
pub(super) const CHECK_MARKED_FIELDS: &str = "Check the marked fields.";
pub(super) const JOB_CLOSED_REOPEN_REASON: &str =
    "This job is closed. Reopen it with a reason first.";

pub(super) const NO_SUCH_SWAP: &str = "No such swap on record.";
pub(super) const SWAP_STANDS: &str =
    "Readings or decisions follow this swap. Record another swap instead.";
