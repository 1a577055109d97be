//! What the trail of a job says of itself: when it was opened again, and whether the clock kept up.

use super::{Event, Injector, Intake, JobFile, Signed};
use crate::record::words;
use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// A step back from which it is named: less is the clock being put right.
const NAMED: SignedDuration = SignedDuration::from_secs(2);

/// A job that was closed and is open again.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Reopened {
    /// The same complaint came back.
    pub comeback: bool,
    /// Why, in words.
    pub reason: String,
    /// Who and when.
    pub signed: Signed,
}

/// The clock of the machine stepped back between two entries.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ClockStep {
    /// The time of the entry before.
    #[schema(value_type = String, format = DateTime)]
    pub before: Timestamp,
    /// The earlier time of the entry after it.
    #[schema(value_type = String, format = DateTime)]
    pub after: Timestamp,
    /// In a sentence.
    pub says: String,
}

/// A change of the intake: who, when, and in a file what was there before it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct IntakeChange {
    /// Identity.
    pub id: Uuid,
    /// The intake until then.
    pub intake: Intake,
    /// The injectors and their labels until then.
    pub injectors: Vec<Injector>,
    /// Who and when.
    pub signed: Signed,
}

/// The intake was changed: by whom, when, and what stood there before.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct IntakeStep {
    /// Who and when.
    pub signed: Signed,
    /// What was there before, a phrase for each field that is another now.
    pub was: Vec<String>,
}

impl JobFile {
    /// Every change of the intake, oldest first.
    pub fn intake_history(&self) -> Vec<IntakeStep> {
        let now = (&self.job.intake, &self.job.injectors);
        let next = self.changes.iter().skip(1).map(|one| (&one.intake, &one.injectors));
        let steps = self.changes.iter().zip(next.chain([now]));
        steps
            .map(|(change, (intake, injectors))| IntakeStep {
                signed: change.signed,
                was: was(change, intake, injectors),
            })
            .collect()
    }

    /// When it was last opened again after it was closed; none while it is closed, or never was.
    pub fn reopened(&self) -> Option<Reopened> {
        if self.closed().is_some() {
            return None;
        }
        self.events.iter().rev().find_map(|record| {
            let Event::Reopened { comeback, reason, .. } = &record.event else { return None };
            let (reason, signed) = (reason.clone(), record.signed);
            Some(Reopened { comeback: *comeback, reason, signed })
        })
    }

    /// The intake as it was told last: after a comeback with the symptoms that it came back with.
    pub fn told(&self) -> Intake {
        let back = self.events.iter().rev().find_map(|record| {
            let Event::Reopened { comeback: true, symptoms, .. } = &record.event else {
                return None;
            };
            (!symptoms.is_empty()).then(|| symptoms.clone())
        });
        let mut intake = self.job.intake.clone();
        if let Some(symptoms) = back {
            intake.symptoms = symptoms;
        }
        intake
    }

    /// Every signature of the job itself, in the order of the log.
    pub fn signatures(&self) -> Vec<Signed> {
        let mut all = vec![self.job.taken_in];
        all.extend(self.changes.iter().map(|one| one.signed));
        for test in &self.return_tests {
            all.push(test.signed);
            for run in &test.runs {
                all.push(run.signed);
                all.extend(run.readings.iter().map(|one| one.signed));
                all.extend(run.asides.iter().chain(&run.set_aside).map(|one| one.signed));
                all.extend(run.raw.iter().map(|one| one.signed));
            }
        }
        for sheet in &self.sheets {
            all.push(sheet.signed);
            all.extend(sheet.readings.iter().map(|one| one.signed));
            all.extend(sheet.traces.iter().map(|one| one.signed));
            all.extend(sheet.recordings.iter().map(|one| one.signed));
            all.extend(sheet.raw.iter().map(|one| one.signed));
        }
        all.extend(self.events.iter().map(|one| one.signed));
        all.extend(self.decisions.iter().map(|one| one.signed));
        all.extend(self.notes.iter().map(|one| one.signed));
        all.sort_by_key(Signed::moment);
        all
    }

    /// Where the clock stepped back between two entries that were made one after the other.
    pub fn clock_steps(&self) -> Vec<ClockStep> {
        let all = self.signatures();
        let steps = all.windows(2).filter_map(|pair| {
            let (before, after) = (pair[0].at, pair[1].at);
            let back = before.duration_since(after);
            (back >= NAMED).then(|| ClockStep { before, after, says: says(back) })
        });
        steps.collect()
    }
}

/// What stood in the fields that are others now.
fn was(change: &IntakeChange, intake: &Intake, injectors: &[Injector]) -> Vec<String> {
    let before = &change.intake;
    let text = |what: &str, before: &str, now: &str| {
        let shown = if before.trim().is_empty() { "empty" } else { before };
        (before != now).then(|| format!("{what}: {shown}"))
    };
    let other = |what: &str, differs: bool| differs.then(|| format!("{what}: otherwise"));
    let labels =
        |list: &[Injector]| -> Vec<String> { list.iter().map(|one| one.label.clone()).collect() };
    let engine = format!("{} cylinders", before.layout.cylinders);
    let layout = before.layout != intake.layout;
    let counted = layout && before.layout.cylinders != intake.layout.cylinders;
    [
        text("Customer", &before.customer, &intake.customer),
        text("Machine", &before.machine, &intake.machine),
        text(words::PLATE, &before.plate, &intake.plate),
        text("Promised for", &day(before.promised), &day(intake.promised)),
        text("Hours or distance", &before.usage, &intake.usage),
        text("Engine", &before.engine, &intake.engine),
        counted.then_some(engine),
        other("Engine layout", layout && !counted),
        other("Fuel system", before.fuel_system != intake.fuel_system),
        other("Injector family", before.family_id != intake.family_id),
        other("Symptoms", before.symptoms != intake.symptoms),
        text("Complaint", &before.complaint, &intake.complaint),
        other(words::BACKGROUND_COMPLAINT, before.story != intake.story),
        text("Labels", &labels(&change.injectors).join(", "), &labels(injectors).join(", ")),
    ]
    .into_iter()
    .flatten()
    .collect()
}

fn day(day: Option<Date>) -> String {
    day.map(|day| day.to_string()).unwrap_or_default()
}

fn says(back: SignedDuration) -> String {
    let seconds = back.as_secs();
    let by = match seconds {
        0..=119 => format!("{seconds} s"),
        120..=7199 => format!("{} min", seconds / 60),
        7200..=172_799 => format!("{} h", seconds / 3600),
        _ => format!("{} days", seconds / 86_400),
    };
    words::machines_clock_set_back(&by)
}

#[cfg(test)]
mod tests {
    use crate::engine::FuelSystem;
    use crate::record::Event;
    use crate::sample::{event, job};
    use crate::work::Symptom;

    #[test]
    fn a_clock_that_steps_back_is_named_and_what_came_after_stays_after() {
        let mut file = job(FuelSystem::DieselSolenoid, &[Symptom::RoughIdle]);
        let swap = |minute, seq| {
            let mut one = event(minute, Event::Swapped { one: 1, other: 2 });
            one.signed.seq = seq;
            one
        };
        file.job.taken_in.seq = 1;
        file.events = vec![swap(200, 2), swap(20, 3)];
        assert_eq!(file.clock_steps().len(), 1);
        assert!(file.clock_steps()[0].says.contains("set back by 3 h"));
        let between = file.events[0].signed.moment();
        assert_eq!(file.seats(Some(between))[0].label, "L2", "only the first swap was before");
        assert_eq!(file.seats(None)[0].label, "L1");
        assert!(file.swapped_since(between), "the second came after, whatever the clock said");
    }
}
