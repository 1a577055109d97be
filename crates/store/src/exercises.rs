//! Exercises: jobs on made-up engines. They stand in a list of their own, and in none of the others.

use crate::{Store, StoreError, rows};
use cobaltine_core::exercise::{Exercise, SkillMark};
use cobaltine_core::record::JobFile;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;
use utoipa::ToSchema;
use uuid::Uuid;

/// What a line is made by: up with everything that makes it otherwise.
pub(crate) const VERSION: i64 = 1;
/// Longest page.
const LONGEST_PAGE: u32 = 100;

/// One exercise as the trainer lists it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct ExerciseLine {
    /// The job.
    pub job: Uuid,
    /// The case, whose it is, who set it.
    pub exercise: Exercise,
    /// What the engine sits in.
    pub machine: String,
    /// When it was taken up.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// One mark for each skill; none while it goes on.
    pub marks: Option<Vec<SkillMark>>,
}

/// A page of exercises, newest first.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ExercisePage {
    /// The exercises of this page.
    pub lines: Vec<ExerciseLine>,
    /// All of them.
    pub total: u64,
}

impl Store {
    /// Exercises, newest first: those of one person, or of everybody.
    ///
    /// # Errors
    /// The database error.
    pub async fn exercises(
        &self,
        learner: Option<Uuid>,
        page: u32,
        per_page: u32,
    ) -> Result<ExercisePage, StoreError> {
        self.settle_to_read().await?;
        let per_page = per_page.clamp(1, LONGEST_PAGE);
        let of = match learner {
            Some(_) => "FROM exercises WHERE learner = ?1",
            None => "FROM exercises WHERE ?1 IS NULL",
        };
        let learner = learner.map(|id| id.to_string());
        let total = rows::parts(format!("SELECT COUNT(*) AS n {of}"))
            .bind(&learner)
            .fetch_one(&self.pool)
            .await?;
        let found = rows::parts(format!(
            "SELECT line {of} ORDER BY at DESC, job_id DESC LIMIT ?2 OFFSET ?3"
        ))
        .bind(&learner)
        .bind(i64::from(per_page))
        .bind(i64::from(page) * i64::from(per_page))
        .fetch_all(&self.pool)
        .await?;
        Ok(ExercisePage {
            lines: found.iter().map(|row| rows::json(row, "line")).collect::<Result<_, _>>()?,
            total: rows::count(&total, "n")?,
        })
    }
}

/// Writes the line of an exercise; of any other job there is none.
pub(crate) async fn refresh(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<(), StoreError> {
    let Some(exercise) = file.job.exercise.clone() else { return Ok(()) };
    let learner = exercise.learner.to_string();
    let at = file.job.taken_in.at;
    let line = ExerciseLine {
        job: file.job.id,
        exercise,
        machine: file.job.intake.machine.clone(),
        at,
        marks: file.marks().map(<[_]>::to_vec),
    };
    sqlx::query(
        "INSERT INTO exercises (job_id, learner, at, line) VALUES (?, ?, ?, ?)
         ON CONFLICT (job_id) DO UPDATE SET line = excluded.line",
    )
    .bind(file.job.id.to_string())
    .bind(learner)
    .bind(rows::stamp(at))
    .bind(serde_json::to_string(&line)?)
    .execute(connection)
    .await?;
    Ok(())
}
