//! The sentences of `cobaltine`, and nothing else.

use std::fmt::Display;

// demo

pub(super) fn not_program(name: impl Display) -> String {
    format!("{name} is not part of the program")
}

// main

pub(super) fn rows_each_written(rows: impl Display, jobs: impl Display) -> String {
    format!("{rows} rows, each as it was written; {jobs} open jobs made anew, the same")
}
pub(super) fn backed_up(at: impl Display, jobs: impl Display, rows: impl Display) -> String {
    format!("{at}: {jobs} jobs, {rows} rows, checked")
}
pub(super) fn restored(data: impl Display, at: impl Display, jobs: impl Display) -> String {
    format!("{data}: {jobs} jobs as of {at}, checked")
}
pub(super) const LOOK_INTO_THESE: &str = "Check the lines marked with !.";

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

pub(super) fn first_owner(
    scheme: impl Display,
    address: impl Display,
    token: impl Display,
) -> String {
    format!("Make the owner's account (one use, one hour): {scheme}://{address}/join#{token}")
}
pub(super) fn no_certificate(error: impl Display) -> String {
    format!("The certificate or its key cannot be used: {error}")
}
pub(super) const DEMO_ON_THIS_MACHINE: &str =
    "The demo opens only on the machine that it runs on. Run cobaltine demo there.";
pub(super) fn certificate_made(cert: impl Display, key: impl Display) -> String {
    format!("{cert} and {key}, for TLS. Browsers ask about it once. Keep the key private.")
}
pub(super) const NOT_OVER_A_KEY: &str = "A file of that name is there already; nothing was made.";
pub(super) fn owner_link(token: impl Display) -> String {
    format!("Start the program, then open /join#{token} within one hour (one use).")
}
pub(super) const OPEN_IS_FOR_ONE_MACHINE: &str = "--open is for one person on this machine. Listen on 127.0.0.1, or leave --open away and use accounts.";
pub(super) const BEYOND_NEEDS_TLS: &str = "Passwords could be read on the network. Give a certificate and its key (--tls-cert, --tls-key), or listen on 127.0.0.1.";

// settings

pub(super) fn not_settings_file(name: impl Display) -> String {
    format!("{name} is not a settings file")
}

// score

pub(super) const SCORE_TITLE: &str = "Made-up engines: the judgement measured";
pub(super) fn score_lead(jobs: impl Display) -> String {
    format!(
        "{jobs} jobs with known faults. Every technician takes the same readings from the same engines."
    )
}
pub(super) const SCORE_FOUND: &str = "Faults found against good injectors condemned";
pub(super) const SCORE_ODDS: &str = "Stated odds against what was true";
pub(super) const SCORE_WORST: &str = "Jobs worth reading";
pub(super) const SCORE_OPEN: &str = "To open one: import worst.jsonl into an empty folder (cobaltine import-workshop --data FOLDER --by 00000000-0000-0000-0000-000000000000 worst.jsonl), then serve that folder.";
pub(super) const SCORE_X: &str = "faults found, of a hundred";
pub(super) const SCORE_Y: &str = "good injectors condemned, of a hundred";
pub(super) const SCORE_STATED: &str = "stated odds";
pub(super) const SCORE_TRUE: &str = "true";

pub(super) fn score_heading() -> String {
    format!(
        "{:<26} {:>6} {:>7} {:>7} {:>7} {:>7} {:>7} {:>7} {:>7} {:>7} {:>6} {:>6}\n",
        "technician",
        "jobs",
        "found%",
        "ours%",
        "cond%",
        "ours%",
        "undec%",
        "min",
        "cost",
        "back%",
        "unsafe",
        "loops%"
    )
}

pub(super) fn score_odds(
    brier: impl Display,
    reliability: impl Display,
    resolution: impl Display,
) -> String {
    format!(
        "Brier {brier:.4}, reliability {reliability:.4} (small is good), resolution {resolution:.4} (large is good)\n\
         stated    statements  stated%   true%\n"
    )
}

pub(super) fn jobs_done(done: impl Display, jobs: impl Display, left: impl Display) -> String {
    format!("{done} of {jobs} jobs, {left} s left   ")
}

pub(super) const INTERVALS: [&str; 3] = ["return flow", "coil resistance", "delivery on the bench"];
pub(super) fn intervals_held(word: impl Display, count: impl Display, share: f64) -> String {
    format!("{word}: {count} values stated ± 2 u, {share:.1} % hold the true one\n")
}

pub(super) fn score_written(
    jobs: impl Display,
    seconds: impl Display,
    out: impl Display,
) -> String {
    format!("{jobs} jobs in {seconds:.0} s; report in {out}")
}

pub(super) fn not_score_row(folder: impl Display) -> String {
    format!("{folder} does not hold the results of a run")
}

pub(super) fn not_shift_file(path: impl Display) -> String {
    format!("{path} is not a file of shifts")
}

// recordings

pub(super) fn no_such_fault(name: impl Display) -> String {
    format!("\"{name}\" is no fault of such an engine. See crates/engines/src/fault.rs.")
}
pub(super) fn recordings_written(folder: impl Display, rpm: impl Display) -> String {
    format!("Recordings of four injectors at {rpm} rpm and 14 V, and of the starter: {folder}")
}
pub(super) fn no_such_fuel(name: impl Display) -> String {
    format!(
        "\"{name}\" is no fuel system. Choose petrol_port, petrol_direct, diesel_solenoid, diesel_piezo or exhaust_doser."
    )
}
pub(super) fn no_such_instrument(name: impl Display, known: impl Display) -> String {
    format!("\"{name}\" is no kind of instrument. Known are {known}.")
}
pub(super) fn no_such_cylinder(at: impl Display, of: impl Display) -> String {
    format!("Cylinder {at} is not there: this engine has {of}.")
}
pub(super) fn stands_in_world(
    name: impl Display,
    kind: impl Display,
    address: impl Display,
) -> String {
    format!("{name} ({kind}), simulated, at {address}")
}
pub(super) fn instrument_stands(kind: impl Display, address: impl Display) -> String {
    format!("{kind}, simulated, at {address} (docs/instruments.md)")
}
