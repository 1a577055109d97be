//! What is wrong with the shape of a job's file, before anything in it is done again.

use super::{of_job, of_session, session};
use crate::entry::words;
use crate::limits::{self, FieldProblem};
use crate::record::{JOB_FORMAT, JOB_VERSION, JobFile, label_problems};
use std::collections::HashSet;
use uuid::Uuid;

impl JobFile {
    /// Everything wrong with the shape of the file, each with the place in it. Whether its rows can
    /// follow one another, [`replay`](crate::job::replay) says.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        if self.format != JOB_FORMAT || self.version != JOB_VERSION {
            found.push(FieldProblem::new(
                "format",
                words::version_version_needed(&self.format, self.version, JOB_FORMAT, JOB_VERSION),
            ));
        }
        found.extend(
            self.job
                .intake
                .problems()
                .into_iter()
                .map(|p| FieldProblem::new(format!("job.intake.{}", p.field), p.message)),
        );
        if !(1..=limits::NUMBER).contains(&self.job.number) || self.job.revision > limits::NUMBER {
            found.push(FieldProblem::new("job.number", format!("1 to {}.", limits::NUMBER)));
        }
        if !found.is_empty() {
            return found;
        }
        self.check_rows(&mut found);
        if found.is_empty() {
            self.check_logs(&mut found);
        }
        found
    }

    fn check_rows(&self, found: &mut Vec<FieldProblem>) {
        let tests = self.return_tests.iter();
        let runs = tests.clone().flat_map(|test| &test.runs);
        let sheets = self.sheets.iter();
        let most = |counts: &mut dyn Iterator<Item = usize>| counts.max().unwrap_or_default();
        for (field, count, bound) in [
            ("changes", self.changes.len(), limits::CHANGES),
            ("events", self.events.len(), limits::EVENTS),
            ("return_tests", self.return_tests.len(), limits::RETURN_TESTS),
            ("runs", most(&mut tests.map(|test| test.runs.len())), limits::RUNS),
            ("readings", most(&mut runs.map(|run| run.readings.len())), limits::RUN_READINGS),
            ("sheets", self.sheets.len(), limits::SHEETS),
            ("cells", most(&mut sheets.clone().map(|s| s.readings.len())), limits::SHEET_CELLS),
            ("traces", most(&mut sheets.clone().map(|s| s.traces.len())), limits::TRACES),
            ("recordings", most(&mut sheets.map(|s| s.recordings.len())), limits::RECORDINGS),
            ("bench", self.bench.len(), limits::SESSIONS),
            ("decisions", self.decisions.len(), limits::EVENTS),
            ("notes", self.notes.len(), limits::EVENTS),
            ("people", self.people.len(), limits::PEOPLE),
        ] {
            if count > bound {
                let says = words::found_maximum(count, bound);
                found.push(FieldProblem::new(field, says));
            }
        }
        let names = self.people.iter();
        found.extend(
            names.filter_map(|one| limits::text_problem("people", &one.name, limits::NAME)),
        );
        let labels: Vec<String> = self.job.injectors.iter().map(|i| i.label.clone()).collect();
        found.extend(
            label_problems(&labels, &self.job.intake.layout)
                .into_iter()
                .map(|p| FieldProblem::new("job.injectors", p.message)),
        );
        let mut cylinders: Vec<u32> = self.job.injectors.iter().map(|i| i.cylinder).collect();
        cylinders.sort_unstable();
        if cylinders != (1..=self.job.intake.layout.cylinders).collect::<Vec<_>>() {
            found.push(FieldProblem::new("job.injectors", words::ENTER_ONE_INJECTOR_EACH));
        }
        let mut injectors: Vec<Uuid> = self.job.injectors.iter().map(|one| one.id).collect();
        injectors.sort_unstable();
        injectors.dedup();
        if injectors.len() != self.job.injectors.len() {
            found.push(FieldProblem::new("job.injectors", words::INJECTOR_APPEARS_TWICE));
        }
        if self.bench.iter().any(|s| !s.injectors.iter().any(|one| self.is_ours(one))) {
            found.push(FieldProblem::new("bench", words::SESSION_HOLDS_NO_INJECTOR));
        }
    }

    /// Every entry by itself: identity, place, time, signature, texts and numbers.
    fn check_logs(&self, found: &mut Vec<FieldProblem>) {
        let people: HashSet<Uuid> = self.people.iter().map(|p| p.id).collect();
        let mut ids = HashSet::new();
        let job = ("job", of_job(self));
        let sessions = self.bench.iter().map(|session| ("bench", of_session(session)));
        for (of, log) in std::iter::once(job).chain(sessions) {
            let mut last = 0;
            for entry in &log {
                let (id, signed) = (entry.id(), entry.signed());
                let place = format!("{of}, {id}");
                let mut say = |says: String| found.push(FieldProblem::new(&*place, says));
                if !ids.insert(id) {
                    say(words::ID_USED_TWICE.to_owned());
                }
                if signed.seq <= last || signed.seq > limits::PLACE {
                    say(words::LOG_POSITIONS_MUST_RISE.to_owned());
                }
                if !people.contains(&signed.by) {
                    say(words::signed_who_not_list(signed.by));
                }
                for problem in entry.problems() {
                    say(format!("{}: {}", problem.field, problem.message));
                }
                last = signed.seq;
            }
            let whole =
                if of == "job" { super::job(log).map(drop) } else { session(log).map(drop) };
            if let Err(torn) = whole {
                found.push(FieldProblem::new(of, words::rows_cannot_put_order(&torn)));
            }
        }
    }
}
