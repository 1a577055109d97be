//! What a job waits for, as its row of the board says it: the most pressing thing alone.
//!
//! # Source
//! House rule.

use super::{Stage, words};
use crate::mark::Mark;
use crate::words::{cylinders, list};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How a job stands, for the board: where, in words, and how urgently.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Waits {
    /// The stage in which something waits.
    pub stage: Stage,
    /// What it waits for, a short phrase.
    pub words: String,
    /// How it should read at a glance.
    pub tone: Tone,
}

/// How a waiting line reads at a glance.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tone {
    /// Something runs.
    Running,
    /// A person has to act.
    Waiting,
    /// A measurement has to be repeated or made sharper.
    Unsure,
    /// Nothing is open.
    Done,
}

/// What is known of a job when it is asked what it waits for.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Progress<'a> {
    /// Whether the fuel system has a return to test.
    pub has_return: bool,
    /// Cylinders whose stored trim code nobody knows: a writing was begun and never read back.
    pub codes_unknown: &'a [u32],
    /// A run whose timer runs: its number.
    pub running: Option<u32>,
    /// Cylinders of the last run without a reading.
    pub unread: &'a [u32],
    /// Mark and cylinder of each injector, strip order.
    pub marks: &'a [(u32, Mark)],
    /// The sentence of the verdict, when there is one.
    pub headline: Option<&'a str>,
    /// Cylinders with a decision.
    pub decided: &'a [u32],
    /// Cylinders whose decision is to measure again.
    pub again: &'a [u32],
    /// Stage and words of what comes next.
    pub next: Option<(Stage, String)>,
    /// Cylinders whose decision has to be made again: something changed since.
    pub overtaken: &'a [u32],
    /// What the proof says, once fitting, coding or proving has begun.
    pub proving: Option<&'a str>,
    /// Closed: as proven, or with exceptions.
    pub closed: Option<bool>,
    /// Why it is not gone on with.
    pub cancelled: Option<&'a str>,
}

/// Says what a job waits for.
pub fn waits(progress: &Progress<'_>) -> Waits {
    let line = |stage, tone, words: String| Waits { stage, words, tone };
    if let Some(reason) = progress.cancelled {
        return line(Stage::Prove, Tone::Done, words::cancelled(reason));
    }
    if let Some(proven) = progress.closed {
        let words = if proven { "closed as proven" } else { "closed with exceptions" };
        return line(Stage::Prove, Tone::Done, words.to_owned());
    }
    // An engine with half a code in it runs, and is wrong: before anything else.
    if !progress.codes_unknown.is_empty() {
        let words = words::codes_not_known(cylinders(progress.codes_unknown));
        return line(Stage::Refit, Tone::Waiting, words);
    }
    if let Some(run) = progress.running {
        return line(Stage::OnEngine, Tone::Running, words::return_run_running(run));
    }
    // What was measured before something changed has a sentence, and no mark any more.
    let marked = progress.marks.iter().any(|(_, mark)| *mark != Mark::NotMeasured);
    let measured = marked || progress.headline.is_some();
    if !progress.unread.is_empty() {
        let which = list(progress.unread);
        return line(Stage::OnEngine, Tone::Waiting, words::bottle_not_read_yet(&which));
    }
    if !measured {
        if let Some((stage, words)) = &progress.next {
            return line(*stage, Tone::Waiting, words.clone());
        }
        return if progress.has_return {
            line(Stage::OnEngine, Tone::Waiting, words::RETURN_TEST_NOT_STARTED.to_owned())
        } else {
            line(Stage::TakeIn, Tone::Waiting, words::BOOKED_NOTHING_MEASURED.to_owned())
        };
    }
    if !progress.overtaken.is_empty() {
        let words = words::decide_again(list(progress.overtaken));
        return line(Stage::Decide, Tone::Unsure, words);
    }
    let cylinders: Vec<u32> = progress.marks.iter().map(|(cylinder, _)| *cylinder).collect();
    let open: Vec<u32> =
        cylinders.iter().copied().filter(|c| !progress.decided.contains(c)).collect();
    if open.is_empty() {
        return if let ([], Some(says)) = (progress.again, progress.proving) {
            line(Stage::Prove, Tone::Waiting, says.to_owned())
        } else if progress.again.is_empty() {
            line(Stage::Refit, Tone::Done, words::ALL_INJECTORS_DECIDED_REPORT.to_owned())
        } else {
            let which = list(progress.again);
            line(Stage::OnEngine, Tone::Unsure, format!("retest cylinder {which}"))
        };
    }
    let unsure = progress.marks.iter().any(|(cylinder, mark)| {
        open.contains(cylinder) && matches!(mark, Mark::Undecided | Mark::Questioned)
    });
    let tone = if unsure { Tone::Unsure } else { Tone::Waiting };
    let words = progress
        .headline
        .map_or_else(|| format!("{} of {} to decide", open.len(), cylinders.len()), str::to_owned);
    line(Stage::Decide, tone, words)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_board_says_the_most_pressing_thing_first() {
        let marks = [(1, Mark::Inside), (2, Mark::Undecided)];
        let fresh = Progress { has_return: true, ..Progress::default() };
        assert_eq!(waits(&fresh).words, "return test not started");
        let running =
            Progress { running: Some(2), unread: &[1, 2], marks: &marks, ..fresh.clone() };
        assert_eq!(waits(&running).tone, Tone::Running);
        let written = Progress { codes_unknown: &[2, 3], ..running.clone() };
        assert_eq!(waits(&written).words, "codes not known: cylinders 2 and 3. Read the ECU.");
        let reading = Progress { running: None, ..running };
        assert_eq!(waits(&reading).words, "bottle 1 and 2 not read yet");
        let open = Progress { unread: &[], headline: Some("2 is too close to call"), ..reading };
        assert_eq!((waits(&open).stage, waits(&open).tone), (Stage::Decide, Tone::Unsure));
        let repeat = Progress { decided: &[1, 2], again: &[2], ..open.clone() };
        assert_eq!(waits(&repeat).words, "retest cylinder 2");
        let done = Progress { again: &[], ..repeat };
        assert_eq!(waits(&done).tone, Tone::Done);
        let fitting = Progress { proving: Some("7 of 11 proven."), ..done };
        assert_eq!((waits(&fitting).stage, waits(&fitting).tone), (Stage::Prove, Tone::Waiting));
        let moved = Progress { overtaken: &[2], proving: None, ..fitting.clone() };
        assert_eq!(waits(&moved).words, "decide 2 again: something changed since");
        let closed = Progress { closed: Some(false), ..fitting };
        assert_eq!(waits(&closed).words, "closed with exceptions");
    }
}
