//! The job as one open file: everything that is kept of it, readable without this program.

use super::{
    DecisionRecord, Event, EventRecord, FieldProblem, Job, Note, Person, Reading, ReadingKind,
    RunRecord, SheetRecord, TestRecord,
};
use crate::bench::SessionRecord;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use utoipa::ToSchema;
use uuid::Uuid;

/// Says what the file is.
pub const JOB_FORMAT: &str = "cobaltine.job";
/// Version of the shape below.
pub const JOB_VERSION: u32 = 1;
/// The most rows of one kind in a file; a job of a lifetime has a few hundred.
const MOST_ROWS: usize = 5000;

/// Highest number of a job, and highest revision.
const MOST_NUMBER: u64 = 1_000_000_000;

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
        if !(1..=MOST_NUMBER).contains(&self.job.number) || self.job.revision > MOST_NUMBER {
            found.push(FieldProblem::new("job.number", format!("1 to {MOST_NUMBER}.")));
        }
        if !found.is_empty() {
            return found;
        }
        self.check_rows(&mut found);
        if found.is_empty() {
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

    fn check_rows(&self, found: &mut Vec<FieldProblem>) {
        let counts = [
            ("events", self.events.len()),
            ("return_tests", self.return_tests.len()),
            (
                "sheets",
                self.sheets.len() + self.sheets.iter().map(|s| s.readings.len()).sum::<usize>(),
            ),
            ("bench", self.bench.iter().map(|s| 1 + s.cells.len() / 4).sum::<usize>()),
            ("decisions", self.decisions.len()),
            ("notes", self.notes.len()),
            ("people", self.people.len()),
            ("readings", self.readings().count()),
        ];
        for (field, count) in counts.into_iter().filter(|(_, count)| *count > MOST_ROWS) {
            found
                .push(FieldProblem::new(field, format!("{count} rows; {MOST_ROWS} are the most.")));
        }
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

    fn check_references(&self, found: &mut Vec<FieldProblem>) {
        let people: HashSet<Uuid> = self.people.iter().map(|p| p.id).collect();
        let mut ids = HashSet::new();
        let mut twice = |id: Uuid, place: &str, found: &mut Vec<FieldProblem>| {
            if !ids.insert(id) {
                found.push(FieldProblem::new(place, format!("The id {id} is used twice.")));
            }
        };
        let mut signers = vec![("job.taken_in", self.job.taken_in.by)];
        for sheet in &self.sheets {
            twice(sheet.id, "sheets", found);
            signers.push(("sheets", sheet.signed.by));
            for reading in &sheet.readings {
                twice(reading.id, "sheets", found);
                signers.push(("sheets", reading.signed.by));
            }
            let known: HashSet<Uuid> = sheet.readings.iter().map(|r| r.id).collect();
            if sheet.readings.iter().filter_map(|r| r.corrects).any(|id| !known.contains(&id)) {
                found.push(FieldProblem::new(
                    "sheets",
                    "A correction names a reading that is not here.",
                ));
            }
        }
        for session in &self.bench {
            twice(session.id, "bench", found);
            signers.push(("bench", session.signed.by));
            signers.extend(session.rounds.iter().map(|round| ("bench", round.signed.by)));
            signers.extend(session.cells.iter().map(|cell| ("bench", cell.signed.by)));
            let ours = session.injectors.iter().any(|one| one.job == self.job.id);
            if !ours {
                found.push(FieldProblem::new("bench", "A session holds no injector of this job."));
            }
        }
        for test in &self.return_tests {
            twice(test.id, "return_tests", found);
            signers.push(("return_tests", test.signed.by));
            for run in &test.runs {
                twice(run.id, "runs", found);
                signers.push(("runs", run.signed.by));
                signers.extend(run.set_aside.iter().map(|s| ("runs", s.signed.by)));
            }
        }
        let mut injectors: HashSet<Uuid> = self.job.injectors.iter().map(|one| one.id).collect();
        if injectors.len() != self.job.injectors.len() {
            found.push(FieldProblem::new("job.injectors", "An injector is there twice."));
        }
        for event in &self.events {
            twice(event.id, "events", found);
            signers.push(("events", event.signed.by));
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
            found.extend(
                event
                    .event
                    .problems(&self.job.intake.layout)
                    .into_iter()
                    .map(|p| FieldProblem::new(format!("events.{}", p.field), p.message)),
            );
        }
        for decision in &self.decisions {
            twice(decision.id, "decisions", found);
            signers.push(("decisions", decision.signed.by));
            found.extend(self.no_such_cylinder("decisions", Some(decision.cylinder)));
        }
        for note in &self.notes {
            twice(note.id, "notes", found);
            signers.push(("notes", note.signed.by));
        }
        for (t, run, reading) in self.readings() {
            let place = format!("return_tests[{t}], run {}", run.number);
            twice(reading.id, &place, found);
            signers.push(("readings", reading.signed.by));
            found.extend(self.no_such_cylinder(&place, reading.cylinder));
            found.extend(misplaced(&place, run, reading));
        }
        for (place, by) in signers.into_iter().filter(|(_, by)| !people.contains(by)) {
            found.push(FieldProblem::new(
                place,
                format!("Signed by {by}, who is not among the people."),
            ));
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
