//! Jobs: taking in, changing the intake, and reading a whole job back.

use crate::{Store, StoreError, board, decisions, people, return_tests, rows};
use cobaltine_core::record::{
    Injector, Intake, JOB_FORMAT, JOB_VERSION, Job, JobFile, Person, Signed, label_problems,
};
use sqlx::{Row, SqliteConnection};
use std::collections::BTreeSet;
use uuid::Uuid;

/// A job as it comes over the counter.
#[derive(Debug, Clone, PartialEq)]
pub struct TakeIn {
    /// Made by the one who asks, so that asking twice makes one job.
    pub id: Uuid,
    /// Machine, engine, complaint.
    pub intake: Intake,
    /// Labels of the injectors, cylinder 1 first; missing ones are empty.
    pub labels: Vec<String>,
}

impl TakeIn {
    fn check(&self) -> Result<(), StoreError> {
        let mut problems = self.intake.problems();
        problems.extend(label_problems(&self.labels, &self.intake.layout));
        if problems.is_empty() { Ok(()) } else { Err(StoreError::Invalid(problems)) }
    }

    fn label(&self, cylinder: u32) -> String {
        self.labels.get(cylinder as usize - 1).map_or_else(String::new, |l| l.trim().to_owned())
    }
}

impl Store {
    /// Takes a job in. The same job again is answered as the first time.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when the id belongs to another job.
    pub async fn take_in(&self, new: &TakeIn, signed: Signed) -> Result<JobFile, StoreError> {
        new.check()?;
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        if let Some(held) = find_job(&mut tx, new.id).await? {
            if held.intake != new.intake {
                let text = "This id already belongs to another job; nothing was written.";
                return Err(StoreError::Conflict(text.to_owned()));
            }
            return job_file(&mut tx, new.id).await;
        }
        let number = next_number(&mut tx).await?;
        let injectors = (1..=new.intake.layout.cylinders)
            .map(|cylinder| Injector { id: Uuid::now_v7(), cylinder, label: new.label(cylinder) })
            .collect();
        let job = Job {
            id: new.id,
            number,
            revision: 1,
            intake: new.intake.clone(),
            injectors,
            taken_in: signed,
        };
        insert_job(&mut tx, &job).await?;
        let file = board::refresh(&mut tx, new.id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// Changes the intake, if nobody else did since `revision`.
    ///
    /// # Errors
    /// [`StoreError::Stale`] with the job as it is now; [`StoreError::Invalid`]; the number of
    /// cylinders can not change once something was measured.
    pub async fn change_intake(
        &self,
        change: &TakeIn,
        revision: u64,
        signed: Signed,
    ) -> Result<JobFile, StoreError> {
        change.check()?;
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let held = find_job(&mut tx, change.id).await?.ok_or(StoreError::NotFound("job"))?;
        if held.revision != revision {
            return Err(StoreError::Stale(Box::new(held)));
        }
        let cylinders = change.intake.layout.cylinders;
        if cylinders != held.intake.layout.cylinders {
            if return_tests::exist(&mut tx, change.id).await? {
                return Err(StoreError::field(
                    "layout",
                    "Something was measured already, so the number of cylinders stays. Take in a new job.",
                ));
            }
            sqlx::query("DELETE FROM injectors WHERE job_id = ?")
                .bind(change.id.to_string())
                .execute(&mut *tx)
                .await?;
            for cylinder in 1..=cylinders {
                let injector = Injector { id: Uuid::now_v7(), cylinder, label: String::new() };
                insert_injector(&mut tx, change.id, &injector).await?;
            }
        }
        for cylinder in 1..=cylinders {
            sqlx::query("UPDATE injectors SET label = ? WHERE job_id = ? AND cylinder = ?")
                .bind(change.label(cylinder))
                .bind(change.id.to_string())
                .bind(i64::from(cylinder))
                .execute(&mut *tx)
                .await?;
        }
        update_intake(&mut tx, change.id, &change.intake).await?;
        let file = board::refresh(&mut tx, change.id, signed.at).await?;
        tx.commit().await?;
        Ok(file)
    }

    /// A job with everything that belongs to it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn job(&self, id: Uuid) -> Result<JobFile, StoreError> {
        let mut tx = self.pool.begin().await?;
        job_file(&mut tx, id).await
    }
}

pub(crate) async fn next_number(connection: &mut SqliteConnection) -> Result<u64, StoreError> {
    let row = sqlx::query("SELECT COALESCE(MAX(number), 0) + 1 AS next FROM jobs")
        .fetch_one(connection)
        .await?;
    rows::count(&row, "next")
}

pub(crate) async fn insert_job(
    connection: &mut SqliteConnection,
    job: &Job,
) -> Result<(), StoreError> {
    let intake = &job.intake;
    sqlx::query(
        "INSERT INTO jobs (id, number, revision, customer, machine, usage, engine, fuel_system,
           layout, family_id, symptoms, complaint, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(job.id.to_string())
    .bind(job.number as i64)
    .bind(job.revision as i64)
    .bind(&intake.customer)
    .bind(&intake.machine)
    .bind(&intake.usage)
    .bind(&intake.engine)
    .bind(rows::named(intake.fuel_system)?)
    .bind(serde_json::to_string(&intake.layout)?)
    .bind(intake.family_id.map(|id| id.to_string()))
    .bind(serde_json::to_string(&intake.symptoms)?)
    .bind(&intake.complaint)
    .bind(job.taken_in.by.to_string())
    .bind(job.taken_in.at.to_string())
    .execute(&mut *connection)
    .await?;
    for injector in &job.injectors {
        insert_injector(connection, job.id, injector).await?;
    }
    Ok(())
}

async fn insert_injector(
    connection: &mut SqliteConnection,
    job: Uuid,
    injector: &Injector,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO injectors (id, job_id, cylinder, label) VALUES (?, ?, ?, ?)")
        .bind(injector.id.to_string())
        .bind(job.to_string())
        .bind(i64::from(injector.cylinder))
        .bind(&injector.label)
        .execute(connection)
        .await?;
    Ok(())
}

async fn update_intake(
    connection: &mut SqliteConnection,
    id: Uuid,
    intake: &Intake,
) -> Result<(), StoreError> {
    sqlx::query(
        "UPDATE jobs SET revision = revision + 1, customer = ?, machine = ?, usage = ?, engine = ?,
           fuel_system = ?, layout = ?, family_id = ?, symptoms = ?, complaint = ? WHERE id = ?",
    )
    .bind(&intake.customer)
    .bind(&intake.machine)
    .bind(&intake.usage)
    .bind(&intake.engine)
    .bind(rows::named(intake.fuel_system)?)
    .bind(serde_json::to_string(&intake.layout)?)
    .bind(intake.family_id.map(|id| id.to_string()))
    .bind(serde_json::to_string(&intake.symptoms)?)
    .bind(&intake.complaint)
    .bind(id.to_string())
    .execute(connection)
    .await?;
    Ok(())
}

/// The job row with its injectors, if it is there.
pub(crate) async fn find_job(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<Option<Job>, StoreError> {
    let row = sqlx::query("SELECT * FROM jobs WHERE id = ?")
        .bind(id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    let Some(row) = row else { return Ok(None) };
    let injectors =
        sqlx::query("SELECT id, cylinder, label FROM injectors WHERE job_id = ? ORDER BY cylinder")
            .bind(id.to_string())
            .fetch_all(connection)
            .await?;
    let injectors = injectors
        .iter()
        .map(|row| {
            Ok(Injector {
                id: rows::id(row, "id")?,
                cylinder: rows::cylinder(row)?.unwrap_or_default(),
                label: row.try_get("label")?,
            })
        })
        .collect::<Result<Vec<_>, StoreError>>()?;
    Ok(Some(Job {
        id,
        number: rows::count(&row, "number")?,
        revision: rows::count(&row, "revision")?,
        intake: Intake {
            customer: row.try_get("customer")?,
            machine: row.try_get("machine")?,
            usage: row.try_get("usage")?,
            engine: row.try_get("engine")?,
            fuel_system: rows::name(&row, "fuel_system")?,
            layout: rows::json(&row, "layout")?,
            family_id: rows::maybe_id(&row, "family_id")?,
            symptoms: rows::json(&row, "symptoms")?,
            complaint: row.try_get("complaint")?,
        },
        injectors,
        taken_in: rows::signed(&row)?,
    }))
}

/// Reads a whole job.
pub(crate) async fn job_file(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<JobFile, StoreError> {
    let job = find_job(connection, id).await?.ok_or(StoreError::NotFound("job"))?;
    let return_tests = return_tests::of_job(connection, id).await?;
    let decisions = decisions::of_job(connection, id).await?;
    let notes = decisions::notes_of_job(connection, id).await?;
    let mut signers = BTreeSet::from([job.taken_in.by]);
    for test in &return_tests {
        signers.insert(test.signed.by);
        for run in &test.runs {
            signers.insert(run.signed.by);
            signers.extend(run.readings.iter().map(|reading| reading.signed.by));
            signers.extend(run.set_aside.iter().map(|aside| aside.signed.by));
        }
    }
    signers.extend(decisions.iter().map(|decision| decision.signed.by));
    signers.extend(notes.iter().map(|note| note.signed.by));
    let family = match job.intake.family_id {
        Some(family) => sqlx::query("SELECT name FROM families WHERE id = ?")
            .bind(family.to_string())
            .fetch_optional(&mut *connection)
            .await?
            .map(|row| row.try_get("name"))
            .transpose()?,
        None => None,
    };
    Ok(JobFile {
        format: JOB_FORMAT.to_owned(),
        version: JOB_VERSION,
        job,
        return_tests,
        decisions,
        notes,
        people: named(connection, &signers).await?,
        family,
    })
}

async fn named(
    connection: &mut SqliteConnection,
    ids: &BTreeSet<Uuid>,
) -> Result<Vec<Person>, StoreError> {
    let list = serde_json::to_string(ids)?;
    let rows = sqlx::query(
        "SELECT id, name FROM people WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id",
    )
    .bind(list)
    .fetch_all(connection)
    .await?;
    rows.iter().map(people::person).collect()
}
