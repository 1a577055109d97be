//! Taking in, and correcting what was taken in: what was there before stays on record.

use super::{Refused, room, sound};
use crate::entry::Entry;
use crate::exercise::Exercise;
use crate::job::words;
use crate::limits;
use crate::record::{Injector, Intake, IntakeChange, Job, JobFile, Signed, label_problems};
use uuid::Uuid;

/// The first entry of a job.
///
/// # Errors
/// What is wrong, field by field.
pub fn take_in(
    id: Uuid,
    number: u64,
    intake: Intake,
    labels: &[String],
    signed: Signed,
) -> Result<Entry, Refused> {
    taken(id, number, intake, labels, None, signed)
}

/// The first entry of a job on a made-up engine.
///
/// # Errors
/// What is wrong, field by field.
pub fn take_up(
    id: Uuid,
    number: u64,
    intake: Intake,
    labels: &[String],
    exercise: Exercise,
    signed: Signed,
) -> Result<Entry, Refused> {
    taken(id, number, intake, labels, Some(exercise), signed)
}

fn taken(
    id: Uuid,
    number: u64,
    intake: Intake,
    labels: &[String],
    exercise: Option<Exercise>,
    signed: Signed,
) -> Result<Entry, Refused> {
    refuse(&intake, labels)?;
    let injectors = fitted(id, &[], &intake, labels);
    let job = Job { id, number, revision: 1, intake, injectors, exercise, taken_in: signed };
    Ok(sound(vec![Entry::TakenIn(job)])?.remove(0))
}

pub(super) fn change(
    file: &JobFile,
    id: Uuid,
    revision: u64,
    intake: Intake,
    labels: &[String],
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    if file.job.exercise.is_some() {
        return Err(Refused::conflict(words::INTAKE_OF_EXERCISE_STAYS));
    }
    if file.job.revision != revision {
        return Err(Refused::Stale(Box::new(file.job.clone())));
    }
    room(file.changes.len(), limits::CHANGES, words::CHANGES_INTAKE)?;
    refuse(&intake, labels)?;
    let injectors = fitted(id, &file.job.injectors, &intake, labels);
    if let Some(says) = lost(file, &intake, &injectors) {
        return Err(Refused::field("layout", says));
    }
    let unfit = file.sheets.iter().find(|sheet| !sheet.check.fits(intake.fuel_system));
    if let Some(sheet) = unfit {
        let says = words::already_read_does_not(sheet.check.title());
        return Err(Refused::field("fuel_system", says));
    }
    Ok(vec![Entry::IntakeChanged(IntakeChange { id, intake, injectors, signed })])
}

/// Everything that is wrong, not only the first thing.
fn refuse(intake: &Intake, labels: &[String]) -> Result<(), Refused> {
    let mut problems = intake.problems();
    problems.extend(label_problems(labels, &intake.layout));
    if problems.is_empty() { Ok(()) } else { Err(Refused::Invalid(problems)) }
}

/// One injector for each cylinder: those that are known stay who they are, others are new. Their
/// identities follow from the one of the command, so that the same command makes the same.
fn fitted(id: Uuid, known: &[Injector], intake: &Intake, labels: &[String]) -> Vec<Injector> {
    (1..=intake.layout.cylinders)
        .map(|cylinder| {
            let held = known.iter().find(|one| one.cylinder == cylinder);
            let new = Uuid::from_u128(id.as_u128().wrapping_add(u128::from(cylinder)));
            let label = labels.get(cylinder as usize - 1).map(|label| label.trim().to_owned());
            Injector {
                id: held.map_or(new, |one| one.id),
                cylinder,
                label: label.unwrap_or_default(),
            }
        })
        .collect()
}

/// What stands against another engine: something on record would belong to nothing.
fn lost(file: &JobFile, intake: &Intake, injectors: &[Injector]) -> Option<String> {
    let (now, then) = (&file.job.intake.layout, &intake.layout);
    let measured =
        !file.return_tests.is_empty() || !file.sheets.is_empty() || !file.bench.is_empty();
    if now.cylinders != then.cylinders && measured {
        return Some(words::READINGS_EXIST_NUMBER_CYLINDERS.to_owned());
    }
    let banked = file.return_tests.iter().flat_map(|test| &test.runs).any(|run| run.bank.is_some());
    if now.banks != then.banks && banked {
        return Some(words::BANK_ALREADY_RUN_ALONE.to_owned());
    }
    if now.cylinders == then.cylinders {
        return None;
    }
    let changed = JobFile {
        job: Job { intake: intake.clone(), injectors: injectors.to_vec(), ..file.job.clone() },
        ..file.clone()
    };
    changed.dangling().then(|| words::ENTRIES_EXIST_CYLINDER_INJECTOR.to_owned())
}
