//! The return test: set up, run by run, bottle by bottle.

use super::{NewReading, NewRun, Refused, room};
use crate::entry::Entry;
use crate::job::words;
use crate::limits;
use crate::record::{
    JobFile, Reading, ReadingKind, RunRecord, SetAside, Signed, TestRecord, TestSetup,
};
use crate::tests::engine::EngineTest;
use crate::words::list;
use crate::work::Regime;
use jiff::Timestamp;
use uuid::Uuid;

pub(super) fn set_up(
    file: &JobFile,
    id: Uuid,
    setup: TestSetup,
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    room(file.return_tests.len(), limits::RETURN_TESTS, "return tests")?;
    let test = TestRecord { id, setup, runs: Vec::new(), signed };
    refuse_unworkable(&test, file, "setup")?;
    Ok(vec![Entry::Test(test)])
}

/// What no verdict can be made of is not kept: the file of such a job could not be read again.
fn refuse_unworkable(test: &TestRecord, file: &JobFile, field: &str) -> Result<(), Refused> {
    let verdict = test.verdict(&file.job.intake.layout);
    verdict.map(drop).map_err(|error| Refused::field(field, format!("{error}.")))
}

pub(super) fn begin_run(
    file: &JobFile,
    new: NewRun,
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    let tests = &file.return_tests;
    if tests.iter().flat_map(|test| &test.runs).any(RunRecord::is_running) {
        return Err(Refused::conflict(words::RUN_JOB_STILL_GOING));
    }
    let test = tests.iter().find(|test| test.id == new.test);
    let test = test.ok_or(Refused::NotFound("return test"))?;
    if file.changed_since(test.signed.moment(), EngineTest::ReturnTest.property()) {
        return Err(Refused::conflict(words::INJECTORS_SWAPPED_AFTER_TEST));
    }
    let stepped = test.setup.regime == Regime::Stepped;
    if stepped != new.phase.is_some() {
        let says = if stepped { words::CHOOSE_PHASE_RUN } else { words::ONLY_STEPPED_TEST_PHASES };
        return Err(Refused::field("phase", says));
    }
    let banks = file.job.intake.layout.banks;
    if new.bank.is_some_and(|bank| banks < 2 || bank >= banks) {
        return Err(Refused::field("bank", words::ENGINE_NO_SUCH_BANK));
    }
    if test.runs.len() >= limits::RUNS {
        let says = words::maximum_runs_one_test(limits::RUNS);
        return Err(Refused::Conflict(says));
    }
    let run = RunRecord {
        id: new.id,
        number: test.next_number(),
        started_at: new.timer.then_some(signed.at),
        readings: Vec::new(),
        set_aside: None,
        asides: Vec::new(),
        caught_by: new.caught_by,
        raw: Vec::new(),
        phase: new.phase,
        bank: new.bank,
        ticked: new.ticked,
        signed,
    };
    Ok(vec![Entry::Run { test: test.id, run }])
}

fn find(file: &JobFile, run: Uuid) -> Result<(&TestRecord, &RunRecord), Refused> {
    let found = file
        .return_tests
        .iter()
        .find_map(|test| test.runs.iter().find(|held| held.id == run).map(|run| (test, run)));
    found.ok_or(Refused::NotFound("run"))
}

pub(super) fn set_aside(
    file: &JobFile,
    run: Uuid,
    reason: &str,
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    let (_, held) = find(file, run)?;
    let reason = reason.trim().to_owned();
    if reason.is_empty() {
        return Err(Refused::field("reason", words::ENTER_SHORT_REASON_EXCLUDING));
    }
    match &held.set_aside {
        Some(aside) if aside.reason == reason => Ok(Vec::new()),
        Some(aside) => Err(Refused::Conflict(words::run_already_excluded(&aside.reason))),
        None => {
            let nth = held.asides.len() as u32;
            Ok(vec![Entry::Aside { run, aside: SetAside { reason, back: false, nth, signed } }])
        }
    }
}

/// A run that was set aside by a wrong tap counts again; one that counts is left as it is.
pub(super) fn count_again(
    file: &JobFile,
    run: Uuid,
    signed: Signed,
) -> Result<Vec<Entry>, Refused> {
    let (_, held) = find(file, run)?;
    if held.set_aside.is_none() {
        return Ok(Vec::new());
    }
    room(held.asides.len(), limits::ASIDES, "exclusions")?;
    let nth = held.asides.len() as u32 + 1;
    let aside = SetAside { reason: String::new(), back: true, nth, signed };
    Ok(vec![Entry::Aside { run, aside }])
}

pub(super) fn read(file: &JobFile, new: NewReading, signed: Signed) -> Result<Vec<Entry>, Refused> {
    let (test, run) = find(file, new.run)?;
    let value = checked_value(&new, file, test, run, signed.at)?;
    let reading = Reading {
        id: new.id,
        cylinder: new.cylinder,
        kind: new.kind,
        value,
        mark_ml: test.setup.mark_ml.filter(|_| new.kind == ReadingKind::Mark),
        typed: new.typed,
        corrects: new.corrects,
        why: new.why,
        shown_by: new.shown_by,
        signed,
    };
    let mut then = test.clone();
    if let Some(run) = then.runs.iter_mut().find(|held| held.id == run.id) {
        run.readings.push(reading.clone());
    }
    refuse_unworkable(&then, file, "typed")?;
    Ok(vec![Entry::Reading { run: run.id, reading }])
}

/// The value to keep, or what is wrong with it.
fn checked_value(
    new: &NewReading,
    file: &JobFile,
    test: &TestRecord,
    run: &RunRecord,
    now: Timestamp,
) -> Result<f64, Refused> {
    if run.readings.len() >= limits::RUN_READINGS {
        return Err(Refused::conflict(words::RUN_CANNOT_HOLD_MORE));
    }
    fits_column(new, file, run)?;
    let typed = |says: &str| Err(Refused::field("typed", says));
    if new.kind == ReadingKind::Mark && test.setup.mark_ml.is_none() {
        return typed(words::TEST_NO_TIMED_MARK);
    }
    if new.kind == ReadingKind::Level && run.is_running() {
        return typed(words::STILL_FILLING_STOP_RUN);
    }
    fits_standing(new, run)?;
    let value = match (new.kind, new.value, run.started_at) {
        (ReadingKind::Void, _, _) => 0.0,
        (_, Some(value), _) => value,
        (ReadingKind::Overflow | ReadingKind::Mark | ReadingKind::RunTime, None, Some(started))
            if run.is_running() =>
        {
            run.elapsed(started, now)?
        }
        (_, None, _) => return typed(words::ENTER_NUMBER),
    };
    if value < 0.0 {
        return typed(words::READING_CANNOT_BELOW_ZERO);
    }
    let capacity = test.setup.capacity_ml.0;
    if new.kind == ReadingKind::Level && value > capacity * (1.0 + 1e-12) {
        return typed(&words::more_bottle_holds_ml(capacity));
    }
    if new.kind.is_time() && value <= 0.0 {
        return typed(words::ENTER_TIME_ABOVE_ZERO);
    }
    let timed = matches!(new.kind, ReadingKind::Overflow | ReadingKind::Mark);
    if timed && run.seconds().is_some_and(|seconds| value > seconds) {
        return typed(words::RUN_HAD_ENDED);
    }
    let last = run.standing().filter(|r| r.kind != ReadingKind::RunTime && r.kind.is_time());
    let last = last.max_by(|a, b| a.value.total_cmp(&b.value));
    if let Some(last) = last.filter(|r| new.kind == ReadingKind::RunTime && r.value > value) {
        return typed(&words::bottle_full_s_run(
            last.cylinder.unwrap_or_default(),
            crate::quantity::trimmed(last.value),
        ));
    }
    Ok(value)
}

/// The column that it belongs to.
fn fits_column(new: &NewReading, file: &JobFile, run: &RunRecord) -> Result<(), Refused> {
    let covered = run.covers(&file.job.intake.layout);
    let corrected = run.readings.iter().find(|r| Some(r.id) == new.corrects);
    let fits = match new.kind {
        ReadingKind::Level | ReadingKind::Overflow | ReadingKind::Mark => {
            new.cylinder.is_some_and(|c| covered.contains(&c))
        }
        ReadingKind::RunTime => new.cylinder.is_none(),
        ReadingKind::Void => corrected.is_some_and(|held| held.cylinder == new.cylinder),
    };
    if fits {
        return Ok(());
    }
    let says = match run.bank {
        None => words::engine_cylinders(file.job.intake.layout.cylinders),
        Some(_) => words::run_covers_bank(list(&covered)),
    };
    Err(Refused::field("cylinder", says))
}

/// What stands in its column has to be named, and why it is corrected.
fn fits_standing(new: &NewReading, run: &RunRecord) -> Result<(), Refused> {
    let standing = match new.kind {
        ReadingKind::Void => run.standing().find(|r| Some(r.id) == new.corrects),
        ReadingKind::Level | ReadingKind::Overflow | ReadingKind::Mark | ReadingKind::RunTime => {
            run.standing().find(|r| {
                r.cylinder == new.cylinder
                    && (r.kind == ReadingKind::RunTime) == (new.kind == ReadingKind::RunTime)
            })
        }
    };
    match (standing.map(|r| r.id), new.corrects) {
        (held, named) if held == named => {}
        (Some(_), None) => {
            return Err(Refused::conflict(words::COLUMN_READING_CORRECT_ONE));
        }
        (_, _) => {
            return Err(Refused::conflict(words::SOMEONE_ELSE_CORRECTED_READING));
        }
    }
    if new.corrects.is_some() && new.why.as_deref().is_none_or(|why| why.trim().is_empty()) {
        return Err(Refused::field("why", words::ENTER_REASON_CORRECTION_OLD));
    }
    Ok(())
}

impl ReadingKind {
    /// A number of seconds.
    fn is_time(self) -> bool {
        matches!(self, Self::Overflow | Self::Mark | Self::RunTime)
    }
}

impl RunRecord {
    /// How long the run has been going by the program's clock, s. A clock that stepped back while it
    /// ran cannot say.
    fn elapsed(&self, started: Timestamp, now: Timestamp) -> Result<f64, Refused> {
        let before = self.readings.iter().map(|r| r.signed.at).fold(started, Ord::max);
        if now < before {
            return Err(Refused::field("typed", words::MACHINES_CLOCK_SET_BACK));
        }
        Ok(now.duration_since(started).as_secs_f64().max(0.1))
    }
}
