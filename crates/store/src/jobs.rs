//! Jobs: taking in, changing the intake, and reading a whole job back.

use crate::job_file::job_file;
use crate::rows::jobs::{find_job, insert_injector, insert_job, next_number, update_intake};
use crate::rows::{bench, return_tests, sheets};
use crate::{Store, StoreError, board};
use cobaltine_core::record::{Injector, Intake, Job, JobFile, Signed, label_problems};
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
    /// Every job, oldest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn job_ids(&self) -> Result<Vec<Uuid>, StoreError> {
        let found =
            sqlx::query("SELECT id FROM jobs ORDER BY at, id").fetch_all(&self.pool).await?;
        found.iter().map(|row| crate::rows::columns::id(row, "id")).collect()
    }

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
            if return_tests::exist(&mut tx, change.id).await?
                || sheets::exist(&mut tx, change.id).await?
                || bench::exist(&mut tx, change.id).await?
            {
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
