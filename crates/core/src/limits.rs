//! One set of limits: what may be typed may be imported, and what is accepted can be exported and
//! imported again.
//!
//! # Source
//! House rules, wide enough for every job that was ever seen and narrow enough that a file of one
//! stays readable by people and by [`JOB_BYTES`].

mod words;

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One thing wrong with one field, in words that can stand beside it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct FieldProblem {
    /// Name of the field, as sent.
    pub field: String,
    /// What to do.
    pub message: String,
}

impl FieldProblem {
    /// A problem with this field.
    pub fn new(field: impl Into<String>, message: impl Into<String>) -> Self {
        Self { field: field.into(), message: message.into() }
    }
}

/// Longest text of a short field: a customer, a machine, a label.
pub const SHORT_TEXT: usize = 120;
/// Longest text of an event and of the reason of a correction.
pub const EVENT_TEXT: usize = 300;
/// Longest free text: a complaint, a note, the reason of a decision.
pub const LONG_TEXT: usize = 2000;
/// Longest text that is typed into a cell.
pub const TYPED_TEXT: usize = 120;
/// Longest name of a person.
pub const NAME: usize = 80;

/// The most events, decisions and notes of one job, each.
pub const EVENTS: usize = 2000;
/// The most changes of the intake of one job.
pub const CHANGES: usize = 200;
/// The most timers of a job that run at once.
pub const TIMERS: usize = 24;
/// The most return tests of one job, runs of one test, readings of one run with its corrections.
pub const RETURN_TESTS: usize = 60;
/// The most runs of one return test; the trade does one or three.
pub const RUNS: usize = 12;
/// The most readings of one run, corrections included.
pub const RUN_READINGS: usize = 300;
/// The most checks of one job that are read cell by cell.
pub const SHEETS: usize = 60;
/// The most cells of one check, corrections included.
pub const SHEET_CELLS: usize = 2000;
/// The most traces of one check.
pub const TRACES: usize = 12;
/// Sounds and currents of one check.
pub const RECORDINGS: usize = 60;
/// Stretches of the raw trace of one run or check: more than an hour of them.
pub const STRETCHES: usize = 400;
/// Gaps of one stretch.
pub const GAPS: usize = 200;
/// Longest packed stretch, bytes.
pub const PACKED: usize = 200_000;
/// Rows and columns of the picture of a sound.
pub const PICTURE_ROWS: usize = 32;
/// See [`PICTURE_ROWS`].
pub const PICTURE_COLUMNS: usize = 400;
/// The most points of a trace: what a screen can show.
pub const TRACE_POINTS: usize = 20_000;
/// The most bench sessions in which injectors of one job hang.
pub const SESSIONS: usize = 12;
/// The most readings of one bench session, corrections included.
pub const TUBES: usize = 20_000;
/// The most people who sign in one job.
pub const PEOPLE: usize = 500;
/// Times that one run is set aside and counted again.
pub const ASIDES: usize = 20;

/// The most that the log of a job, or of a bench session, may hold: a file of both stays importable.
pub const LOG_BYTES: usize = 12 * 1024 * 1024;
/// Largest job file: a log of its own and one for each of its sessions.
pub const JOB_BYTES: usize = (SESSIONS + 2) * LOG_BYTES;

/// Highest number of a job or of a session, and highest revision.
pub const NUMBER: u64 = 1_000_000_000;
/// Highest place in a log; a browser still counts it exactly.
pub const PLACE: u64 = 9_000_000_000_000_000;
/// Largest size of any number that was read.
pub const VALUE: f64 = 1e12;

/// Seconds since the epoch in which something can have been signed: the years 1990 to 2189.
const SIGNED_S: std::ops::Range<i64> = 631_152_000..6_942_585_600;

/// What is wrong with a time, in words; nothing for one that a workshop can have lived through.
pub fn time_problem(at: Timestamp) -> Option<String> {
    (!SIGNED_S.contains(&at.as_second())).then(|| words::outside_years_workshop_signs(at))
}

/// What is wrong with a number that was read; nothing for one that can be kept.
pub fn number_problem(value: f64) -> Option<&'static str> {
    (!value.is_finite() || value.abs() > VALUE).then_some(words::NUMBER_CANNOT_SAVED)
}

/// What is wrong with the length of a text.
pub fn too_long(field: &str, text: &str, most: usize) -> Option<FieldProblem> {
    let length = text.chars().count();
    (length > most).then(|| FieldProblem::new(field, words::characters_maximum(length, most)))
}

/// What is wrong with a text that is needed.
pub fn text_problem(field: &str, text: &str, most: usize) -> Option<FieldProblem> {
    if text.trim().is_empty() {
        return Some(FieldProblem::new(field, words::ENTER_FEW_WORDS));
    }
    too_long(field, text, most)
}

/// What is wrong with a list that grows: it holds this many, and one more is asked for.
pub fn full(held: usize, most: usize, what: &str) -> Option<String> {
    (held >= most).then(|| words::maximum_one_job(most, what))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn times_at_the_edge_of_the_calendar_are_refused_in_words() {
        for edge in [Timestamp::MIN, Timestamp::MAX, Timestamp::UNIX_EPOCH] {
            assert!(time_problem(edge).is_some_and(|says| says.contains("check the clock")));
        }
        assert_eq!(time_problem("2031-05-20T08:00:00Z".parse().unwrap()), None);
    }

    #[test]
    fn a_text_is_needed_and_has_a_length() {
        assert!(text_problem("note", " \n", 10).is_some());
        assert!(text_problem("note", &"ä".repeat(11), 10).is_some());
        assert_eq!(text_problem("note", &"ä".repeat(10), 10), None);
        assert!(number_problem(f64::NAN).is_some() && number_problem(-1e13).is_some());
        assert_eq!(number_problem(0.0), None);
    }
}
