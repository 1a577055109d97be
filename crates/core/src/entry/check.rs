//! What is wrong with an entry by itself: the same for what is typed and for what is imported.

use super::Entry;
use crate::connection::ShownBy;
use crate::entry::words;
use crate::limits::{
    self, EVENT_TEXT, LONG_TEXT, SHORT_TEXT, TYPED_TEXT, number_problem, text_problem,
    time_problem, too_long,
};
use crate::record::{FieldProblem, Found, label_problems};

impl Entry {
    /// Lengths, numbers and times that cannot be kept, in words for their fields.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found: Vec<FieldProblem> = Vec::new();
        let number =
            |value: f64| number_problem(value).map(|says| FieldProblem::new("typed", says));
        match self {
            Self::TakenIn(job) => {
                found.extend(job.intake.problems());
                found.extend(job.exercise.iter().flat_map(|exercise| exercise.problems()));
            }
            Self::IntakeChanged(change) => {
                found.extend(change.intake.problems());
                let labels: Vec<String> =
                    change.injectors.iter().map(|i| i.label.clone()).collect();
                found.extend(label_problems(&labels, &change.intake.layout));
            }
            Self::Reading { reading, .. } => {
                found.extend(too_long("typed", &reading.typed, TYPED_TEXT));
                found.extend(number(reading.value));
                found.extend(reading.shown_by.iter().find_map(ShownBy::problem));
                let why = reading.why.as_deref().unwrap_or_default();
                found.extend(if reading.corrects.is_some() {
                    text_problem("why", why, EVENT_TEXT)
                } else {
                    too_long("why", why, EVENT_TEXT)
                });
            }
            Self::Aside { aside, .. } if aside.back => {}
            Self::Aside { aside, .. } => {
                found.extend(text_problem("reason", &aside.reason, EVENT_TEXT));
            }
            Self::Cell { cell, .. } => {
                found.extend(too_long("typed", &cell.typed, TYPED_TEXT));
                found.extend(cell.value.and_then(number));
                found.extend(cell.shown_by.iter().find_map(ShownBy::problem));
            }
            Self::Tube(cell) => {
                found.extend(too_long("typed", &cell.typed, TYPED_TEXT));
                found.extend(cell.value.and_then(number));
                found.extend(cell.samples.and_then(|samples| number(samples.scatter)));
                found.extend(cell.shown_by.iter().find_map(ShownBy::problem));
            }
            Self::Trace { trace, .. } => {
                found.extend(too_long("name", &trace.name, SHORT_TEXT));
                if trace.points.len() > limits::TRACE_POINTS {
                    found.push(FieldProblem::new("points", words::TRACE_TOO_LONG_MORE));
                }
                found.extend(trace.points.iter().flatten().find_map(|value| number(*value)));
            }
            Self::Recording { recording, .. } => {
                found.extend(too_long("name", &recording.name, SHORT_TEXT));
                found.extend(recording.shown_by.iter().find_map(ShownBy::problem));
                let figures = recording.figures.iter();
                found.extend(figures.filter_map(|one| too_long("typed", &one.typed, TYPED_TEXT)));
                let (points, rows): (_, &[String]) = match &recording.found {
                    Found::Sound(heard) => (&heard.envelope, &heard.picture),
                    Found::Ramp(ramp) => (&ramp.picture, &[]),
                    Found::Cranking(cranked) => (&cranked.read.picture, &[]),
                };
                let wide = rows.len() > limits::PICTURE_ROWS
                    || rows.iter().any(|row| row.chars().count() > limits::PICTURE_COLUMNS);
                if wide || points.len() > limits::TRACE_POINTS {
                    found.push(FieldProblem::new("points", words::TRACE_TOO_LONG_MORE));
                }
                found.extend(points.iter().flatten().find_map(|value| number(*value)));
            }
            Self::Raw { stretch, .. } => {
                found.extend(stretch.shown_by.problem());
                let whys = stretch.gaps.iter();
                found.extend(whys.filter_map(|gap| too_long("why", &gap.why, EVENT_TEXT)));
                let long = stretch.gaps.len() > limits::GAPS;
                if long || stretch.packed.len() > limits::PACKED {
                    found.push(FieldProblem::new("packed", words::TRACE_TOO_LONG_MORE));
                }
            }
            Self::Decision(decision) => {
                found.extend(text_problem("reason", &decision.reason, LONG_TEXT));
                let proposed = decision.proposed.iter();
                found.extend(proposed.filter_map(|p| too_long("proposed", &p.reason, LONG_TEXT)));
            }
            Self::Note(note) => found.extend(text_problem("text", &note.text, LONG_TEXT)),
            Self::Run { run, .. } => {
                found.extend(run.caught_by.iter().find_map(ShownBy::problem));
            }
            Self::Test(_) | Self::Sheet(_) | Self::Event(_) | Self::Session(_) | Self::Round(_) => {
            }
        }
        found.extend(time_problem(self.signed().at).map(|says| FieldProblem::new("at", says)));
        found
    }
}
