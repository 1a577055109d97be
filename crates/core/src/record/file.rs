//! The job as one open file: everything that is kept of it, readable without this program.

use super::{
    DecisionRecord, Event, EventRecord, FieldProblem, IntakeChange, Job, Note, Person, Reading,
    ReadingKind, RunRecord, SheetRecord, TestRecord, label_problems,
};
use crate::entry;
use crate::limits;
use crate::tests::bench::SessionRecord;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use utoipa::ToSchema;
use uuid::Uuid;

/// Says what the file is.
pub const JOB_FORMAT: &str = "cobaltine.job";
/// Version of the shape below.
pub const JOB_VERSION: u32 = 1;
/// One job with everything that belongs to it. The JSON Schema ships with the program.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct JobFile {
    /// Always `cobaltine.job`.
    pub format: String,
    /// Always 1.
    pub version: u32,
    /// As taken in.
    pub job: Job,
    /// What the intake was before it was changed, oldest first.
    #[serde(default)]
    pub changes: Vec<IntakeChange>,
    /// Return tests, oldest first.
    pub return_tests: Vec<TestRecord>,
    /// Checks that were read cell by cell, oldest first.
    #[serde(default)]
    pub sheets: Vec<SheetRecord>,
    /// Bench sessions that hold an injector of this job, oldest first; whole, as a set of two jobs
    /// is compared as one.
    #[serde(default)]
    pub bench: Vec<SessionRecord>,
    /// What happened besides readings, oldest first.
    #[serde(default)]
    pub events: Vec<EventRecord>,
    /// Decisions, oldest first.
    pub decisions: Vec<DecisionRecord>,
    /// Notes, oldest first.
    pub notes: Vec<Note>,
    /// Everyone who signed a row.
    pub people: Vec<Person>,
    /// Name of the injector family, when it is known.
    pub family: Option<String>,
}

impl JobFile {
    /// Everything wrong with the file, each with the place in it. An empty list means that
    /// it can be stored as it is.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        if self.format != JOB_FORMAT || self.version != JOB_VERSION {
            found.push(FieldProblem::new(
                "format",
                format!(
                    "This is \"{}\" version {}; {JOB_FORMAT} version {JOB_VERSION} is read.",
                    self.format, self.version
                ),
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
            self.check_references(&mut found);
        }
        for (t, test) in self.return_tests.iter().enumerate() {
            if found.is_empty()
                && let Err(error) = test.verdict(&self.job.intake.layout)
            {
                found.push(FieldProblem::new(format!("return_tests[{t}]"), format!("{error}.")));
            }
        }
        found
    }

    /// Rows that name what the engine does not have.
    pub(crate) fn dangling(&self) -> Vec<FieldProblem> {
        let mut found = Vec::new();
        self.check_references(&mut found);
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
            ("traces", most(&mut sheets.map(|s| s.traces.len())), limits::TRACES),
            ("bench", self.bench.len(), limits::SESSIONS),
            ("decisions", self.decisions.len(), limits::EVENTS),
            ("notes", self.notes.len(), limits::EVENTS),
            ("people", self.people.len(), limits::PEOPLE),
        ] {
            if count > bound {
                let says = format!("{count} are here; {bound} are the most.");
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
            found.push(FieldProblem::new(
                "job.injectors",
                "One injector is needed for each cylinder.",
            ));
        }
        for (s, sheet) in self.sheets.iter().enumerate() {
            found.extend(sheet.problems(&format!("sheets[{s}]"), &self.job.intake.layout));
        }
        for (s, session) in self.bench.iter().enumerate() {
            found.extend(session.problems(&format!("bench[{s}]")));
        }
        let mut numbers = HashSet::new();
        for (t, test) in self.return_tests.iter().enumerate() {
            numbers.clear();
            for run in &test.runs {
                if !numbers.insert(run.number) {
                    found.push(FieldProblem::new(
                        format!("return_tests[{t}].runs"),
                        format!("Run {} is there twice.", run.number),
                    ));
                }
            }
        }
    }

    fn readings(&self) -> impl Iterator<Item = (usize, &RunRecord, &Reading)> {
        self.return_tests.iter().enumerate().flat_map(|(t, test)| {
            test.runs.iter().flat_map(move |run| run.readings.iter().map(move |r| (t, run, r)))
        })
    }

    /// Every entry by itself: identity, place, time, signature, texts and numbers.
    fn check_logs(&self, found: &mut Vec<FieldProblem>) {
        let people: HashSet<Uuid> = self.people.iter().map(|p| p.id).collect();
        let mut ids = HashSet::new();
        let job = ("job", entry::of_job(self));
        let sessions = self.bench.iter().map(|session| ("bench", entry::of_session(session)));
        for (of, log) in std::iter::once(job).chain(sessions) {
            let mut last = 0;
            for entry in &log {
                let (id, signed) = (entry.id(), entry.signed());
                let place = format!("{of}, {id}");
                let mut say = |says: String| found.push(FieldProblem::new(&*place, says));
                if !ids.insert(id) {
                    say("This id is used twice.".to_owned());
                }
                if signed.seq <= last || signed.seq > limits::PLACE {
                    say("Places in a log rise from row to row.".to_owned());
                }
                if !people.contains(&signed.by) {
                    say(format!("Signed by {}, who is not among the people.", signed.by));
                }
                for problem in entry.problems() {
                    say(format!("{}: {}", problem.field, problem.message));
                }
                last = signed.seq;
            }
            let whole =
                if of == "job" { entry::job(log).map(drop) } else { entry::session(log).map(drop) };
            if let Err(torn) = whole {
                found.push(FieldProblem::new(
                    of,
                    format!("The rows cannot be put in order: {torn}."),
                ));
            }
        }
    }

    /// What a row names has to be there.
    fn check_references(&self, found: &mut Vec<FieldProblem>) {
        let layout = &self.job.intake.layout;
        for sheet in &self.sheets {
            let known: HashSet<Uuid> = sheet.readings.iter().map(|r| r.id).collect();
            if sheet.readings.iter().filter_map(|r| r.corrects).any(|id| !known.contains(&id)) {
                let says = "A correction names a reading that is not here.";
                found.push(FieldProblem::new("sheets", says));
            }
        }
        if self.bench.iter().any(|s| !s.injectors.iter().any(|one| one.job == self.job.id)) {
            found.push(FieldProblem::new("bench", "A session holds no injector of this job."));
        }
        let mut injectors: HashSet<Uuid> = self.job.injectors.iter().map(|one| one.id).collect();
        if injectors.len() != self.job.injectors.len() {
            found.push(FieldProblem::new("job.injectors", "An injector is there twice."));
        }
        for event in &self.events {
            if let Event::Replaced { injector, .. } = &event.event
                && !injectors.insert(injector.id)
            {
                let says = "An injector is fitted that is here already.";
                found.push(FieldProblem::new("events", says));
            }
            if let Event::CodeCaptured { injector, .. } = &event.event
                && !injectors.contains(injector)
            {
                let says = "A code of an injector that is not here.";
                found.push(FieldProblem::new("events", says));
            }
            let problems = event.event.problems(layout).into_iter();
            found.extend(
                problems.map(|p| FieldProblem::new(format!("events.{}", p.field), p.message)),
            );
        }
        for decision in &self.decisions {
            found.extend(self.no_such_cylinder("decisions", Some(decision.cylinder)));
        }
        for (t, run, reading) in self.readings() {
            let place = format!("return_tests[{t}], run {}", run.number);
            found.extend(self.no_such_cylinder(&place, reading.cylinder));
            found.extend(misplaced(&place, run, reading));
        }
    }

    fn no_such_cylinder(&self, place: &str, cylinder: Option<u32>) -> Option<FieldProblem> {
        let cylinder = cylinder?;
        let known = (1..=self.job.intake.layout.cylinders).contains(&cylinder);
        (!known)
            .then(|| FieldProblem::new(place, format!("The engine has no cylinder {cylinder}.")))
    }
}

/// A reading whose shape does not fit its kind, or that corrects what is not there.
fn misplaced(place: &str, run: &RunRecord, reading: &Reading) -> Option<FieldProblem> {
    let problem = |text: &str| Some(FieldProblem::new(place, text));
    if !reading.value.is_finite() || reading.value < 0.0 {
        return problem("A reading is below zero or no number.");
    }
    if (reading.kind == ReadingKind::RunTime) && reading.cylinder.is_some() {
        return problem("The length of a run belongs to no cylinder.");
    }
    let needs_cylinder =
        matches!(reading.kind, ReadingKind::Level | ReadingKind::Overflow | ReadingKind::Mark);
    if (reading.kind == ReadingKind::Mark) != reading.mark_ml.is_some() {
        return problem("A mark that was reached, and only that, needs its volume.");
    }
    if reading.mark_ml.is_some_and(|mark| !(mark.0 > 0.0 && mark.0.is_finite())) {
        return problem("A mark must be above zero.");
    }
    if needs_cylinder && reading.cylinder.is_none() {
        return problem("A level or an overflow needs its cylinder.");
    }
    if reading.kind != ReadingKind::Level
        && reading.kind != ReadingKind::Void
        && reading.value <= 0.0
    {
        return problem("A time must be above zero.");
    }
    let Some(corrects) = reading.corrects else {
        return (reading.kind == ReadingKind::Void)
            .then(|| FieldProblem::new(place, "Something taken back must name the reading."));
    };
    let earlier = run.readings.iter().take_while(|r| r.id != reading.id).find(|r| r.id == corrects);
    match earlier {
        Some(old) if old.cylinder == reading.cylinder => None,
        Some(_) | None => problem("A correction must name an earlier reading of the same column."),
    }
}
