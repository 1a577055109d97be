//! Checks that said the same of a place twice: once more by the same means carries the same error, and
//! settles nothing.
//!
//! # Source
//! House rule: a proposal on the same facts is made twice at most; then finer means, a longer run, a limit or
//! a known good one, another check, or the decision with its odds.

use super::weights::Weights;
use crate::judged::Judged;
use crate::record::{JobFile, Seat};
use crate::said::{Code, Lack};
use crate::standing::{Source, Standing, Stood, Test};

/// A check that has said its last word at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Tired {
    pub cylinder: u32,
    /// By its name in the weights.
    pub check: String,
}

/// Every check that said the same twice, place by place, since anything was done there.
pub(super) fn tired(weights: &Weights, file: &JobFile, judged: &Judged) -> Vec<Tired> {
    let mut found: Vec<Tired> = Vec::new();
    for seat in &judged.seats {
        let since = |one: &&Stood| {
            let still =
                one.here.counts() || matches!(one.here, Standing::Superseded | Standing::InDoubt);
            one.place.is_some() && one.is_of(seat) && still && one.said.code != Code::NOT_READ
        };
        for (at, one) in judged.stood.iter().enumerate().filter(|(_, one)| since(one)) {
            let before =
                judged.stood[..at].iter().filter(since).rfind(|held| held.test == one.test);
            let same = before.is_some_and(|before| before.said.code == one.said.code);
            // One that lacks runs has not said its last word.
            let few = |lack: &Lack| matches!(lack, Lack::OneRun | Lack::FewRuns);
            let same = same && !one.said.lacks.iter().any(few);
            let enough = one.said.code != Code::ALL_ALIKE_OFF && enough_runs(file, judged, one);
            if (same || enough) && last(judged, seat, one) {
                let check = check(weights, one.test);
                found.extend(check.map(|check| Tired { cylinder: seat.cylinder, check }));
            }
        }
    }
    found
}

/// It is the newest of its test at this place.
fn last(judged: &Judged, seat: &Seat, one: &Stood) -> bool {
    let newest = judged.stood.iter().rfind(|held| held.test == one.test && held.is_of(seat));
    newest.is_some_and(|newest| newest.at() == one.at())
}

/// As many runs as a decision to replace asks for, and more than one, in one return test.
fn enough_runs(file: &JobFile, judged: &Judged, one: &Stood) -> bool {
    let Source::Return(at) = one.source else { return false };
    let wanted = file.return_tests[at].setup.rules.runs_to_replace;
    let made = judged.verdicts.get(at).map_or(0, |verdict| verdict.runs);
    made >= wanted.max(2)
}

fn check(weights: &Weights, test: Test) -> Option<String> {
    match test {
        Test::Engine(test) => Some(test.name().to_owned()),
        Test::Bench(test) => {
            let first = test.outcomes().first()?;
            weights.check_of(*first).map(|row| row.id.clone())
        }
    }
}
