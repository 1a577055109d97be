//! A job from a file is done again, command by command: what a person would be refused here, a
//! file cannot bring in. What comes out has to be what the file says.

use super::{
    BenchCommand, Command, NewReading, NewRun, Refused, apply, apply_bench, take_in, take_up,
};
use crate::entry::{self, Entry, of_job, of_session};
use crate::job::words;
use crate::library::TorqueStage;
use crate::limits;
use crate::record::{Event, EventRecord, FieldProblem, JobFile, RunRecord};
use crate::tests::bench::SessionRecord;
use uuid::Uuid;

/// Does everything again that the file says was done; `torque` is how the library tightens it.
///
/// # Errors
/// The first row that could not have been written here, and why.
pub fn replay(file: &JobFile, torque: &[TorqueStage]) -> Result<(), FieldProblem> {
    let mut log: Vec<(Option<Uuid>, Entry)> = of_job(file).into_iter().map(|e| (None, e)).collect();
    for session in &file.bench {
        log.extend(of_session(session).into_iter().map(|entry| (Some(session.id), entry)));
    }
    // A stable sort: what has the same place in two logs stays in the order of the file.
    log.sort_by_key(|(_, entry)| entry.signed().moment());
    let headless = || FieldProblem::new("job", words::FILE_DOES_NOT_START);
    let first = log.iter().position(|(of, _)| of.is_none()).ok_or_else(headless)?;
    let first = log.remove(first).1;
    let mut now = begun(&first).map_err(|refused| cannot(&first, refused))?;
    now.people.clone_from(&file.people);
    now.family.clone_from(&file.family);
    for (of, entry) in log {
        let done = match of {
            None => again(&now, &entry, torque),
            Some(of) => again_at_bench(&now, of, &entry),
        };
        done.map_err(|refused| cannot(&entry, refused))?;
        let (id, pushed) = (entry.id(), push(&mut now, of, entry));
        pushed.map_err(|torn| FieldProblem::new(format!("row {id}"), format!("{torn}.")))?;
    }
    let begun = now.bench.iter().flat_map(|session| session.problems("bench"));
    begun.take(1).map(Err).next().unwrap_or(Ok(()))
}

fn cannot(entry: &Entry, refused: Refused) -> FieldProblem {
    let why = if let Refused::Invalid(problems) = &refused {
        let each = problems.iter().map(|one| format!("{}: {}", one.field, one.message));
        each.collect::<Vec<_>>().join(" ")
    } else {
        refused.to_string()
    };
    let says = words::could_not_been_recorded(&why);
    FieldProblem::new(format!("{}, {}", list(entry), entry.id()), says)
}

/// The list of a file that an entry stands in.
fn list(entry: &Entry) -> &'static str {
    match entry {
        Entry::TakenIn(_) => "job",
        Entry::IntakeChanged(_) => "changes",
        Entry::Test(_) => "return_tests",
        Entry::Run { .. } | Entry::Aside { .. } => "return_tests.runs",
        Entry::Reading { .. } => "return_tests.runs.readings",
        Entry::Sheet(_) => "sheets",
        Entry::Cell { .. } => "sheets.readings",
        Entry::Trace { .. } => "sheets.traces",
        Entry::Recording { .. } => "sheets.recordings",
        Entry::Raw { .. } => "raw",
        Entry::Event(_) => "events",
        Entry::Decision(_) => "decisions",
        Entry::Note(_) => "notes",
        Entry::Session(_) => "bench",
        Entry::Round(_) => "bench.rounds",
        Entry::Tube(_) => "bench.cells",
    }
}

fn begun(first: &Entry) -> Result<JobFile, Refused> {
    let Entry::TakenIn(job) = first else { return Err(Refused::NotFound("job")) };
    let labels: Vec<String> = job.injectors.iter().map(|one| one.label.clone()).collect();
    let (intake, signed) = (job.intake.clone(), job.taken_in);
    match job.exercise.clone() {
        Some(exercise) => take_up(job.id, job.number, intake, &labels, exercise, signed)?,
        None => take_in(job.id, job.number, intake, &labels, signed)?,
    };
    entry::job([first.clone()]).map_err(|torn| Refused::Conflict(format!("{torn}.")))
}

/// The same again, with the same result.
fn again(now: &JobFile, entry: &Entry, torque: &[TorqueStage]) -> Result<(), Refused> {
    let signed = *entry.signed();
    let command = command(now, entry, torque).ok_or(Refused::NotFound("job"))?;
    let done = apply(now, command, signed)?;
    if done.iter().any(|one| same(now, one, entry)) {
        return Ok(());
    }
    Err(Refused::conflict(words::RESULT_RECORDED_DIFFERS_ENTRY))
}

/// Which command makes such an entry; none for what no job can hold.
fn command(now: &JobFile, entry: &Entry, torque: &[TorqueStage]) -> Option<Command> {
    Some(match entry.clone() {
        Entry::IntakeChanged(change) => Command::ChangeIntake {
            id: change.id,
            revision: now.job.revision,
            intake: Box::new(change.intake),
            labels: change.injectors.into_iter().map(|one| one.label).collect(),
        },
        Entry::Test(test) => Command::SetUpTest { id: test.id, setup: Box::new(test.setup) },
        Entry::Run { test, run } => Command::BeginRun(NewRun {
            id: run.id,
            test,
            timer: run.started_at.is_some(),
            phase: run.phase,
            bank: run.bank,
            ticked: run.ticked,
            caught_by: run.caught_by,
        }),
        Entry::Reading { run, reading } => Command::Read(NewReading {
            id: reading.id,
            run,
            cylinder: reading.cylinder,
            kind: reading.kind,
            value: Some(reading.value),
            typed: reading.typed,
            corrects: reading.corrects,
            why: reading.why,
            shown_by: reading.shown_by,
        }),
        Entry::Aside { run, aside } if aside.back => Command::CountRun { run },
        Entry::Aside { run, aside } => Command::SetRunAside { run, reason: aside.reason },
        Entry::Sheet(sheet) => Command::BeginSheet(Box::new(sheet)),
        Entry::Cell { sheet, cell } => Command::KeepCell { sheet, cell },
        Entry::Trace { sheet, trace } => Command::KeepTrace { sheet, trace },
        Entry::Recording { sheet, recording } => Command::KeepRecording { sheet, recording },
        Entry::Raw { of, stretch } => Command::KeepRaw { of, stretch },
        Entry::Event(EventRecord { id, event: Event::Closed { .. }, .. }) => {
            Command::Close { id, torque: torque.to_vec() }
        }
        Entry::Event(record) => Command::Happened(record),
        Entry::Decision(decision) => Command::Decide(vec![decision]),
        Entry::Note(note) => Command::Note(note),
        Entry::TakenIn(_) | Entry::Session(_) | Entry::Round(_) | Entry::Tube(_) => return None,
    })
}

/// What was made here is what stands there. Injectors that a change of the intake added may be
/// called otherwise, a closing may name more that was left out than it would have to, and older versions
/// counted runs that were begun by mistake.
fn same(now: &JobFile, made: &Entry, there: &Entry) -> bool {
    match (made, there) {
        (Entry::IntakeChanged(made), Entry::IntakeChanged(there)) => {
            let seats = |change: &crate::record::IntakeChange| {
                change.injectors.iter().map(|one| (one.cylinder, one.label.clone())).collect()
            };
            let (made, there): (Vec<_>, Vec<_>) = (seats(made), seats(there));
            made == there
        }
        (
            Entry::Event(EventRecord { event: Event::Closed { exceptions: made }, .. }),
            Entry::Event(EventRecord { event: Event::Closed { exceptions: there }, .. }),
        ) => made.iter().all(|one| there.contains(one)),
        (Entry::Run { test: of, run: made }, Entry::Run { test, run: there }) => {
            let runs =
                now.return_tests.iter().find(|held| held.id == *of).map_or(0, |t| t.runs.len());
            of == test
                && *made == RunRecord { number: made.number, ..there.clone() }
                && (made.number..=runs as u32 + 1).contains(&there.number)
        }
        (made, there) => made == there,
    }
}

fn again_at_bench(now: &JobFile, of: Uuid, entry: &Entry) -> Result<(), Refused> {
    if matches!(entry, Entry::Session(_)) {
        // What it begins with is looked at with its first round.
        return super::room(now.bench.len(), limits::SESSIONS, "bench sessions");
    }
    let held = now.bench.iter().find(|held| held.id == of).ok_or(Refused::NotFound("session"))?;
    let command = if let Entry::Round(round) = entry {
        BenchCommand::BeginRound(round.clone())
    } else if let Entry::Tube(cell) = entry {
        BenchCommand::KeepTube(cell.clone())
    } else {
        return Err(Refused::NotFound("session"));
    };
    if apply_bench(held, command)?.iter().any(|one| one == entry) {
        return Ok(());
    }
    Err(Refused::conflict(words::RESULT_RECORDED_DIFFERS_ENTRY))
}

fn push(now: &mut JobFile, of: Option<Uuid>, entry: Entry) -> Result<(), entry::Torn> {
    let Some(of) = of else { return now.push(entry) };
    if let Entry::Session(session) = entry {
        now.bench.push(SessionRecord { rounds: Vec::new(), cells: Vec::new(), ..session });
        return Ok(());
    }
    let loose = entry::Torn::Loose(entry.id());
    now.bench.iter_mut().find(|held| held.id == of).ok_or(loose)?.push(entry)
}

/// Versions before the log let a closed job be written on without a word. Such a file gets the
/// word: the job counts as open from the closing on, signed by who closed it, and says why.
pub fn mark_older(file: &mut JobFile) {
    if file.signatures().iter().all(|signed| signed.seq > 0) {
        return;
    }
    let mut closed: Option<Uuid> = None;
    let mut went_on = Vec::new();
    for entry in of_job(file) {
        let event = if let Entry::Event(held) = &entry { Some(&held.event) } else { None };
        match (event, closed) {
            (Some(Event::Reopened { .. }), _) => closed = None,
            (Some(Event::WriteEnded(_) | Event::CodesRead { .. }), _) | (_, None) => {}
            (_, Some(closing)) => {
                went_on.push(closing);
                closed = None;
            }
        }
        if matches!(event, Some(Event::Closed { .. })) {
            closed = Some(entry.id());
        }
    }
    for closing in went_on {
        let Some(place) = file.events.iter().position(|held| held.id == closing) else { continue };
        let event =
            Event::Reopened { comeback: false, reason: WROTE_ON.to_owned(), symptoms: Vec::new() };
        let mark = EventRecord { id: marked(closing), event, signed: file.events[place].signed };
        file.events.insert(place + 1, mark);
    }
}

const WROTE_ON: &str = words::EARLIER_VERSION_PROGRAM_WENT;

/// The same mark for the same closing, whoever takes the file in.
fn marked(closing: Uuid) -> Uuid {
    const MARK: u128 = 0x9E4E_D000;
    Uuid::from_u128(closing.as_u128() ^ MARK)
}
