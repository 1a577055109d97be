//! Return tests, their runs, and the append-only readings.

use crate::job_file::job_file;
use crate::rows::return_tests::{
    insert_reading, insert_run, insert_set_aside, insert_test, job_of_run, job_of_test,
};
use crate::{Store, StoreError, board};
use cobaltine_core::record::{
    JobFile, Reading, ReadingKind, RunRecord, SetAside, Signed, TestRecord, TestSetup,
};
use cobaltine_core::start::StartId;
use cobaltine_core::work::{Phase, Regime, join};
use jiff::Timestamp;
use uuid::Uuid;

/// The most runs of one test; the trade does one or three.
const MOST_RUNS: usize = 12;
/// The most readings of one run, corrections included.
const MOST_READINGS: usize = 300;

/// A test to set up.
#[derive(Debug, Clone, PartialEq)]
pub struct NewTest {
    /// Made by the one who asks.
    pub id: Uuid,
    /// The job that it belongs to.
    pub job_id: Uuid,
    /// Conditions, rules and limit.
    pub setup: TestSetup,
}

/// A run to begin.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRun {
    /// Made by the one who asks.
    pub id: Uuid,
    /// The test that it belongs to.
    pub test_id: Uuid,
    /// Start of the program's timer; none for a run timed elsewhere.
    pub started_at: Option<Timestamp>,
    /// The phase, in a stepped test.
    pub phase: Option<Phase>,
    /// The bank that is run alone.
    pub bank: Option<u32>,
    /// Start conditions that were ticked.
    pub ticked: Option<Vec<StartId>>,
}

/// A reading to keep.
#[derive(Debug, Clone, PartialEq)]
pub struct NewReading {
    /// Made by the one who asks.
    pub id: Uuid,
    /// The run that it belongs to.
    pub run_id: Uuid,
    /// Cylinder; none for the length of the run.
    pub cylinder: Option<u32>,
    /// What was read.
    pub kind: ReadingKind,
    /// ml or s; none to let the program's timer say how long the run has been going.
    pub value: Option<f64>,
    /// As typed.
    pub typed: String,
    /// The reading that this one takes the place of.
    pub corrects: Option<Uuid>,
    /// Why.
    pub why: Option<String>,
}

impl Store {
    /// Sets a return test up. The same again changes nothing.
    ///
    /// # Errors
    /// No such job; the id belongs to another test.
    pub async fn add_test(&self, new: &NewTest, signed: Signed) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let file = job_file(&mut tx, new.job_id).await?;
        match file.return_tests.iter().find(|test| test.id == new.id) {
            Some(held) if held.setup == new.setup => return Ok(file),
            Some(_) => {
                let text = "This test was set up with other values already; nothing was changed.";
                return Err(StoreError::Conflict(text.to_owned()));
            }
            None => {}
        }
        let test = TestRecord { id: new.id, setup: new.setup.clone(), runs: Vec::new(), signed };
        insert_test(&mut tx, new.job_id, &test).await?;
        let file = board::refresh(&mut tx, new.job_id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Begins a run. The same again changes nothing.
    ///
    /// # Errors
    /// No such test; another run is still going; too many runs.
    pub async fn begin_run(&self, new: &NewRun, signed: Signed) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let job_id = job_of_test(&mut tx, new.test_id).await?;
        let file = job_file(&mut tx, job_id).await?;
        let tests = &file.return_tests;
        if tests.iter().flat_map(|test| &test.runs).any(|run| run.id == new.id) {
            return Ok(file);
        }
        if tests.iter().flat_map(|test| &test.runs).any(RunRecord::is_running) {
            return Err(StoreError::Conflict(
                "A run of this job is still going. Stop it first, or set it aside.".to_owned(),
            ));
        }
        let test = tests.iter().find(|test| test.id == new.test_id);
        check_run(new, &file, test.ok_or(StoreError::NotFound("return test"))?)?;
        let runs = test.map_or(0, |t| t.runs.len());
        if runs >= MOST_RUNS {
            return Err(StoreError::Conflict(format!(
                "{MOST_RUNS} runs are the most of one test. Set up another."
            )));
        }
        let run = RunRecord {
            id: new.id,
            number: runs as u32 + 1,
            started_at: new.started_at,
            readings: Vec::new(),
            set_aside: None,
            phase: new.phase,
            bank: new.bank,
            ticked: new.ticked.clone(),
            signed,
        };
        insert_run(&mut tx, new.test_id, &run).await?;
        let file = board::refresh(&mut tx, job_id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Keeps a run but lets it not count, with the reason.
    ///
    /// # Errors
    /// No such run; no reason.
    pub async fn set_run_aside(
        &self,
        run: Uuid,
        reason: &str,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        let reason = reason.trim();
        if reason.is_empty() || reason.chars().count() > 300 {
            return Err(StoreError::field("reason", "Say in a few words why it does not count."));
        }
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let job_id = job_of_run(&mut tx, run).await?;
        insert_set_aside(&mut tx, run, &SetAside { reason: reason.to_owned(), signed }).await?;
        let file = board::refresh(&mut tx, job_id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Keeps a reading. The same id again changes nothing; a correction must name the
    /// reading that stands.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] beside the field, [`StoreError::Conflict`] when the column was
    /// read by someone else in the meantime.
    pub async fn add_reading(
        &self,
        new: &NewReading,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let job_id = job_of_run(&mut tx, new.run_id).await?;
        let file = job_file(&mut tx, job_id).await?;
        let place = file.return_tests.iter().find_map(|test| {
            test.runs.iter().find(|run| run.id == new.run_id).map(|run| (test, run))
        });
        let (test, run) = place.ok_or(StoreError::NotFound("run"))?;
        if run.readings.iter().any(|reading| reading.id == new.id) {
            return Ok(file);
        }
        let value = checked_value(new, &file, test, run, signed.at)?;
        let injector = file.own_injector_at(new.cylinder, signed.at);
        let reading = Reading {
            id: new.id,
            cylinder: new.cylinder,
            kind: new.kind,
            value,
            mark_ml: test.setup.mark_ml.filter(|_| new.kind == ReadingKind::Mark),
            typed: new.typed.clone(),
            corrects: new.corrects,
            why: new.why.clone(),
            signed,
        };
        insert_reading(&mut tx, new.run_id, injector, &reading).await?;
        let file = board::refresh(&mut tx, job_id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }
}

/// What stands against beginning this run.
fn check_run(new: &NewRun, file: &JobFile, test: &TestRecord) -> Result<(), StoreError> {
    if file.swapped_since(test.signed.at) {
        return Err(StoreError::Conflict(
            "Injectors changed places since this test was set up. Set up another; the two stand side by side."
                .to_owned(),
        ));
    }
    let stepped = test.setup.regime == Regime::Stepped;
    if stepped != new.phase.is_some() {
        return Err(StoreError::field(
            "phase",
            if stepped {
                "Say which phase this run is."
            } else {
                "Only a stepped test has phases."
            },
        ));
    }
    let banks = file.job.intake.layout.banks;
    if new.bank.is_some_and(|bank| banks < 2 || bank >= banks) {
        return Err(StoreError::field("bank", "This engine has no such bank."));
    }
    Ok(())
}

/// The value to keep, or what is wrong with it.
fn checked_value(
    new: &NewReading,
    file: &JobFile,
    test: &TestRecord,
    run: &RunRecord,
    now: Timestamp,
) -> Result<f64, StoreError> {
    if run.readings.len() >= MOST_READINGS {
        return Err(StoreError::Conflict("This run holds no more readings.".to_owned()));
    }
    let cylinders = file.job.intake.layout.cylinders;
    let covered = run.covers(&file.job.intake.layout);
    let fits = match new.kind {
        ReadingKind::Level | ReadingKind::Overflow | ReadingKind::Mark => {
            new.cylinder.is_some_and(|c| covered.contains(&c))
        }
        ReadingKind::RunTime => new.cylinder.is_none(),
        ReadingKind::Void => new.corrects.is_some(),
    };
    if !fits {
        return Err(StoreError::field(
            "cylinder",
            match run.bank {
                None => format!("This engine has cylinders 1 to {cylinders}."),
                Some(_) => format!("This run covers the bank of {}.", join(&covered)),
            },
        ));
    }
    if new.kind == ReadingKind::Mark && test.setup.mark_ml.is_none() {
        return Err(StoreError::field("typed", "This test times no mark: read the levels."));
    }
    if new.kind == ReadingKind::Level && run.is_running() {
        return Err(StoreError::field(
            "typed",
            "It is still rising: stop the run first, then read the bottles together.",
        ));
    }
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
            return Err(StoreError::Conflict(
                "This column was read already. Correct that reading instead.".to_owned(),
            ));
        }
        (_, _) => {
            return Err(StoreError::Conflict(
                "The reading to be corrected has been corrected by someone else. Look again."
                    .to_owned(),
            ));
        }
    }
    if new.corrects.is_some() && new.why.as_deref().is_none_or(|why| why.trim().is_empty()) {
        return Err(StoreError::field("why", "Say why it is corrected; the old reading is kept."));
    }
    let value = match (new.kind, new.value, run.started_at) {
        (ReadingKind::Void, _, _) => 0.0,
        (_, Some(value), _) => value,
        (ReadingKind::Overflow | ReadingKind::Mark | ReadingKind::RunTime, None, Some(started))
            if run.is_running() =>
        {
            now.duration_since(started).as_secs_f64().max(0.1)
        }
        (_, None, _) => return Err(StoreError::field("typed", "Type a number.")),
    };
    let capacity = test.setup.capacity_ml.0;
    if new.kind == ReadingKind::Level && value > capacity * (1.0 + 1e-12) {
        return Err(StoreError::field(
            "typed",
            format!(
                "More than the bottle holds ({capacity} ml). If it ran over, enter when it was full."
            ),
        ));
    }
    let seconds = run.seconds();
    let timed = matches!(new.kind, ReadingKind::Overflow | ReadingKind::Mark);
    if timed && seconds.is_some_and(|seconds| value > seconds) {
        return Err(StoreError::field("typed", "The run had ended by then."));
    }
    Ok(value)
}
