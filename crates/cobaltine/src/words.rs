//! The sentences of `cobaltine`, and nothing else.

use std::fmt::Display;

// demo

pub(super) fn not_program(name: impl Display) -> String {
    format!("{name} is not part of the program")
}

// main

pub(super) fn rows_each_written(rows: impl Display) -> String {
    format!("{rows} rows, each as it was written")
}

pub(super) fn lines_new_jobs_already(
    lines: impl Display,
    new_jobs: impl Display,
    same_jobs: impl Display,
) -> String {
    format!("{lines} lines, {new_jobs} new jobs, {same_jobs} already here")
}

pub(super) fn not_job_file(path: impl Display) -> String {
    format!("{path} is not a job file")
}

pub(super) fn already_here_nothing(id: impl Display) -> String {
    format!("{id} was already here, nothing to do")
}

// serving

pub(super) fn not_log_level(log: impl Display) -> String {
    format!("\"{log}\" is not a log level")
}

pub(super) fn taken_choose_another_address(listen: impl Display) -> String {
    format!("{listen} is taken; choose another address with --listen")
}

pub(super) fn control_unit_stand(listener: impl Display) -> String {
    format!("The simulated ECU is at {listener}")
}

// settings

pub(super) fn not_settings_file(name: impl Display) -> String {
    format!("{name} is not a settings file")
}
