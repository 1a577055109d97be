//! Review: second person must sign signs the decisions or returns them with remarks; what changed since.
//!
//! # Source
//! House rule: nobody signs off their own decision.

use super::{Event, JobFile, Moment, Signed};
use crate::record::words;
use crate::words::{by_number, cylinders};
use jiff::{SignedDuration, Timestamp};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// The newest review of a job.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Review {
    /// Signed, or returned.
    pub signed: bool,
    /// In words; may be empty when signed.
    pub remarks: String,
    /// Who.
    pub by: Uuid,
    /// When.
    #[schema(value_type = String, format = DateTime)]
    pub at: Moment,
    /// What changed since; a signature holds for what was there.
    pub since: Vec<String>,
}

/// The newest review, if there is one.
pub fn review(file: &JobFile) -> Option<Review> {
    let (record, signed, remarks) = file.events.iter().rev().find_map(|record| {
        if let Event::Reviewed { signed, remarks } = &record.event {
            Some((record, *signed, remarks.clone()))
        } else {
            None
        }
    })?;
    let at = record.signed.moment();
    Some(Review { signed, remarks, by: record.signed.by, at, since: since(file, at) })
}

/// What changed in a job after this moment.
pub fn since(file: &JobFile, at: Moment) -> Vec<String> {
    let mut says = Vec::new();
    let mut decided: Vec<u32> =
        file.decisions.iter().filter(|d| d.signed.moment() > at).map(|d| d.cylinder).collect();
    decided.sort_unstable();
    decided.dedup();
    if !decided.is_empty() {
        says.push(words::decided_again(cylinders(&decided)));
    }
    let levels = file.return_tests.iter().flat_map(|t| &t.runs).flat_map(|run| &run.readings);
    let levels = levels.filter(|r| r.signed.moment() > at).count();
    let cells =
        file.sheets.iter().flat_map(|s| &s.readings).filter(|r| r.signed.moment() > at).count();
    let bench = file.bench.iter().flat_map(|s| &s.cells).filter(|c| c.signed.moment() > at).count();
    for (count, what) in
        [(levels, words::RETURN_TEST), (cells, "of other checks"), (bench, "on the bench")]
    {
        if count > 0 {
            let readings = by_number(count, "reading", "readings");
            says.push(format!("{count} new {readings} {what}."));
        }
    }
    let mut since = file.happened().filter(|e| e.signed.moment() > at);
    if since.any(|e| e.event.moves()) {
        says.push(words::INJECTORS_CHANGED_PLACES.to_owned());
    }
    says
}

impl JobFile {
    /// Why this signature cannot review the job; none when it can. Two names of one person are one.
    pub fn review_refused(&self, signed: Signed) -> Option<&'static str> {
        if self.decisions.is_empty() {
            return Some(words::NO_DECISION_YET_NOTHING);
        }
        let newest = (1..=self.job.intake.layout.cylinders)
            .filter_map(|cylinder| self.decisions.iter().rfind(|d| d.cylinder == cylinder));
        newest
            .into_iter()
            .any(|decision| self.person_behind(decision.signed.by, signed) == signed.by)
            .then_some(words::SECOND_PERSON_MUST_SIGN)
    }
}

impl JobFile {
    /// Whoever signs was let in by one who decided here, within a day: two accounts in one hand.
    pub fn let_in_by_decider(&self, signed: Signed, vouched: Option<(Uuid, Timestamp)>) -> bool {
        let Some((by, at)) = vouched else { return false };
        let lately = signed.at.duration_since(at) < SignedDuration::from_hours(24);
        lately && self.decisions.iter().any(|d| self.person_behind(d.signed.by, signed) == by)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::engine::FuelSystem;
    use crate::record::{DecisionRecord, Person, Retired};
    use crate::sample::{at, event, job, return_test};
    use crate::work::{Decision, Symptom};

    #[test]
    fn a_second_person_signs_and_what_came_after_it_is_named() {
        let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle]);
        let (one, other) = (Uuid::from_u128(1), Uuid::from_u128(2));
        let review_by = |file: &JobFile, by| file.review_refused(Signed { by, ..at(20) });
        assert_eq!(review_by(&file, other), Some(words::NO_DECISION_YET_NOTHING));
        let decided = |cylinder, minute, by| DecisionRecord {
            id: Uuid::now_v7(),
            cylinder,
            decision: Decision::Leave,
            reason: "sound".to_owned(),
            proposed: None,
            signed: Signed { by, ..at(minute) },
        };
        file.decisions = vec![decided(2, 5, other), decided(2, 8, one)];
        assert_eq!(review_by(&file, one), Some(words::SECOND_PERSON_MUST_SIGN));
        assert_eq!(review_by(&file, other), None, "what was decided before was decided anew");
        let merged = |minute| Person {
            retired: Some(Retired { at: at(minute).at, same_as: Some(other) }),
            ..Person::new(one, "One")
        };
        file.people = vec![merged(19)];
        assert_eq!(review_by(&file, other), Some(words::SECOND_PERSON_MUST_SIGN), "one person");
        file.people = vec![merged(21)];
        assert_eq!(
            review_by(&file, other),
            None,
            "names that were merged later reach nothing back"
        );
        let let_in = |by: u128, hours| {
            let at = at(20).at - SignedDuration::from_hours(hours);
            file.let_in_by_decider(
                Signed { by: other, ..crate::sample::at(20) },
                Some((Uuid::from_u128(by), at)),
            )
        };
        assert_eq!((let_in(1, 23), let_in(1, 25), let_in(9, 1)), (true, false, false));
        assert_eq!(review(&file), None);
        let signs = Event::Reviewed { signed: true, remarks: String::new() };
        file.events = vec![event(10, signs)];
        file.return_tests = vec![return_test(82.0, &[&[20.0, 21.0, 22.0, 20.0]])];
        assert_eq!(review(&file).unwrap().since, Vec::<String>::new(), "it was read before");
        file.decisions.push(decided(4, 12, one));
        file.decisions.push(decided(2, 13, one));
        file.events.push(event(14, Event::Swapped { one: 1, other: 2 }));
        for reading in &mut file.return_tests[0].runs[0].readings {
            reading.signed = at(15);
        }
        assert_eq!(
            review(&file).unwrap().since,
            [
                "Cylinders 2 and 4 decided again.",
                "5 new readings of the return test.",
                "Injectors changed places."
            ]
        );
    }
}
