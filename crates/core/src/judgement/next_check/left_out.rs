//! Checks that a person left out, and those that are still open.

use super::super::cause::Cause;
use super::Ask;
use crate::record::{Event, EventRecord};

/// Chance of something odd with which a check can show a cause (house rule).
const SHOWS: f64 = 0.3;

impl Ask<'_> {
    /// A person left this step out, or its repeat, and nothing of it was read since.
    pub(super) fn declined(&self, step: &str) -> bool {
        let of_step = |record: &&EventRecord| {
            matches!(
                &record.event,
                Event::StepSkipped { step: held, .. } | Event::StepBack { step: held }
                    if held.0 == step
            )
        };
        let told = self.file.events.iter().rfind(of_step);
        let Some(record) = told.filter(|one| matches!(one.event, Event::StepSkipped { .. })) else {
            return false;
        };
        let at = record.signed.moment();
        let file = self.file;
        let sheets = file.sheets.iter().filter(|sheet| sheet.check.name() == step);
        let runs = file.return_tests.iter().filter(|_| step == "return_test");
        let tubes = file.bench.iter().filter(|_| step == "bench");
        let read = sheets.flat_map(|sheet| &sheet.readings).map(|one| one.signed);
        let read = read.chain(runs.flat_map(|test| &test.runs).map(|run| run.signed));
        let read = read.chain(tubes.flat_map(|session| &session.cells).map(|cell| cell.signed));
        !read.into_iter().any(|signed| signed.moment() > at)
    }

    /// A check on the engine that could show one of these causes at a place, and has not been made there.
    pub(in crate::judgement) fn could_show(&self, causes: &[Cause], place: usize) -> Option<usize> {
        let all = 0..self.weights.checks().len();
        let shows = |at: &usize| {
            let (check, table) = self.weights.check(*at);
            let departs = |cause: &Cause| {
                let alike = |code| check.alike.contains(code);
                let of = check.outcomes.iter().zip(table.alone(*cause));
                let odd: f64 = of.filter(|(code, _)| !alike(code)).map(|(_, p)| p).sum();
                table.moves(*cause) && odd >= SHOWS
            };
            !check.shared
                && !check.exchanges
                && !["bench", "codes"].contains(&check.step.as_str())
                && causes.iter().any(departs)
                && !self.places.tired[place].contains(&check.id.as_str())
                && self.still_open(&check.id, place)
        };
        all.filter(shows).min_by(|one, other| self.weighed(*one).total_cmp(&self.weighed(*other)))
    }

    /// A check that can be made, was not left out, and has not spoken at a place.
    pub(in crate::judgement) fn still_open(&self, id: &str, place: usize) -> bool {
        let check = self.weights.checks().iter().find(|check| check.id == id);
        check.zip(self.places.gathered.get(place)).is_some_and(|(check, gathered)| {
            self.can(check) && !self.declined(&check.step) && self.untold(check, gathered)
        })
    }
}
