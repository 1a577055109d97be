//! Passports: the jobs that an injector was in, found by its identity or by its label; and how the
//! decisions about a family turned out.

use crate::job_file::job_file;
use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::calc::CalcError;
use cobaltine_core::judged::Judged;
use cobaltine_core::passport::{Counted, Life, Passport, passport, turned};
use cobaltine_core::record::{Injector, JobFile};
use cobaltine_core::work::Decision;
use serde::Serialize;
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use std::collections::HashSet;
use utoipa::ToSchema;
use uuid::Uuid;

/// What a life is made by: up with everything that makes it otherwise.
pub(crate) const VERSION: i64 = 3;
/// The most jobs of one passport, and the longest page.
const MOST_JOBS: usize = 60;
const LONGEST_PAGE: u32 = 60;

/// One injector of a search.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PassportLine {
    /// Its identity in the newest of its jobs.
    pub injector: Uuid,
    /// The newest of its jobs.
    pub job: Uuid,
    /// Its label.
    pub label: String,
    /// In so many jobs.
    pub jobs: u64,
    /// Number of the newest.
    pub number: u64,
    /// What that is.
    pub machine: String,
}

/// A page of injectors that have a label, by label.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PassportPage {
    /// The injectors of this page.
    pub lines: Vec<PassportLine>,
    /// All that fit the question.
    pub total: u64,
}

/// How often a decision held.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct DecisionTurned {
    /// What was decided.
    pub decision: Decision,
    /// Injectors of closed jobs.
    pub injectors: u64,
    /// Of them, those of a job that came back.
    pub came_back: u64,
}

impl Store {
    /// The passport of an injector.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; what a computation refuses.
    pub async fn passport(&self, injector: Uuid) -> Result<Passport, StoreError> {
        self.settle_to_read().await?;
        let mut tx = self.pool.begin().await?;
        let held = sqlx::query("SELECT label FROM lives WHERE injector_id = ? LIMIT 1")
            .bind(injector.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        let label: String = held.ok_or(StoreError::NotFound("injector"))?.try_get("label")?;
        // The very one first, where a job holds another of the same label too.
        let found = sqlx::query(
            "SELECT l.injector_id, l.job_id, l.life FROM lives l JOIN jobs j ON j.id = l.job_id
             WHERE l.injector_id = ?1 OR (?2 <> '' AND l.label = ?2)
             ORDER BY j.at DESC, l.injector_id <> ?1 LIMIT ?3",
        )
        .bind(injector.to_string())
        .bind(&label)
        .bind(2 * MOST_JOBS as i64)
        .fetch_all(&mut *tx)
        .await?;
        let (mut lives, mut jobs) = (Vec::new(), HashSet::new());
        for row in &found {
            let job = rows::id(row, "job_id")?;
            if jobs.len() < MOST_JOBS && jobs.insert(job) {
                lives.push(life(&mut tx, row, job).await?);
            }
        }
        Ok(passport(injector, &label, lives))
    }

    /// Injectors whose label begins so, by label.
    ///
    /// # Errors
    /// The database error.
    pub async fn passports(
        &self,
        begins: &str,
        page: u32,
        per_page: u32,
    ) -> Result<PassportPage, StoreError> {
        self.settle_to_read().await?;
        let per_page = per_page.clamp(1, LONGEST_PAGE);
        // What is typed is no pattern.
        let like: String = begins
            .trim()
            .chars()
            .take(80)
            .flat_map(|c| if matches!(c, '%' | '_' | '\\') { vec!['\\', c] } else { vec![c] })
            .chain(['%'])
            .collect();
        let total = sqlx::query(
            "SELECT COUNT(DISTINCT label) AS total FROM lives WHERE label <> '' AND label LIKE ? ESCAPE '\\'",
        )
        .bind(&like)
        .fetch_one(&self.pool)
        .await?;
        // MAX picks the row of the newest job for the other columns.
        let found = sqlx::query(
            "SELECT l.injector_id, l.job_id, l.label, COUNT(DISTINCT l.job_id) AS jobs, MAX(j.at) AS at,
                    j.number, j.machine
             FROM lives l JOIN jobs j ON j.id = l.job_id
             WHERE l.label <> '' AND l.label LIKE ?1 ESCAPE '\\'
             GROUP BY l.label ORDER BY l.label LIMIT ?2 OFFSET ?3",
        )
        .bind(&like)
        .bind(i64::from(per_page))
        .bind(i64::from(page) * i64::from(per_page))
        .fetch_all(&self.pool)
        .await?;
        let line = |row: &SqliteRow| {
            Ok(PassportLine {
                injector: rows::id(row, "injector_id")?,
                job: rows::id(row, "job_id")?,
                label: row.try_get("label")?,
                jobs: rows::count(row, "jobs")?,
                number: rows::count(row, "number")?,
                machine: row.try_get("machine")?,
            })
        };
        Ok(PassportPage {
            lines: found.iter().map(line).collect::<Result<_, StoreError>>()?,
            total: rows::count(&total, "total")?,
        })
    }

    /// How decisions about a family turned out, most frequent first.
    ///
    /// # Errors
    /// The database error.
    pub async fn turned_out(&self, family: Uuid) -> Result<Vec<DecisionTurned>, StoreError> {
        self.settle_to_read().await?;
        let found = sqlx::query(
            "SELECT decision, COUNT(*) AS injectors, SUM(came_back) AS came_back FROM outcomes
             WHERE family_id = ? GROUP BY decision ORDER BY injectors DESC, decision",
        )
        .bind(family.to_string())
        .fetch_all(&self.pool)
        .await?;
        let one = |row: &SqliteRow| {
            Ok(DecisionTurned {
                decision: rows::name(row, "decision")?,
                injectors: rows::count(row, "injectors")?,
                came_back: rows::count(row, "came_back")?,
            })
        };
        found.iter().map(one).collect()
    }

    /// Injectors of a family that were left in or cleaned, and how many of their jobs came back.
    ///
    /// # Errors
    /// The database error.
    pub async fn counted(&self, family: Option<Uuid>) -> Result<Counted, StoreError> {
        let Some(family) = family else { return Ok(Counted::default()) };
        self.settle_to_read().await?;
        let row = sqlx::query(
            "SELECT COUNT(*) AS left_in, COUNT(DISTINCT CASE WHEN came_back THEN job_id END) AS comebacks
             FROM outcomes WHERE family_id = ? AND decision IN ('leave', 'clean')",
        )
        .bind(family.to_string())
        .fetch_one(&self.pool)
        .await?;
        let count = |name| rows::count(&row, name).map(|n| u32::try_from(n).unwrap_or(u32::MAX));
        Ok(Counted { left_in: count("left_in")?, comebacks: count("comebacks")? })
    }
}

/// A job in the life of an injector: as it was made, or from the job while it is not.
async fn life(
    connection: &mut SqliteConnection,
    row: &SqliteRow,
    job: Uuid,
) -> Result<Life, StoreError> {
    if let Some(made) = row.try_get::<Option<String>, _>("life")? {
        return Ok(serde_json::from_str(&made)?);
    }
    let file = job_file(connection, job).await?;
    let injector = rows::id(row, "injector_id")?;
    let held = file.every_injector().find(|one| one.id == injector);
    let held = held.ok_or(StoreError::NotFound("injector"))?;
    let made = lived(&file, &file.judged().map_err(refused)?, held)?;
    // The same as it will be read: times of day, and no places.
    Ok(serde_json::from_str(&made)?)
}

fn lived(file: &JobFile, judged: &Judged, injector: &Injector) -> Result<String, StoreError> {
    let life = Life::of(file, judged, injector).map_err(refused)?;
    Ok(serde_json::to_string(&life)?)
}

fn refused(error: CalcError) -> StoreError {
    StoreError::Conflict(format!("{error}."))
}

/// Writes the lines of a job anew.
pub(crate) async fn refresh(
    connection: &mut SqliteConnection,
    file: &JobFile,
    judged: Option<&Judged>,
) -> Result<(), StoreError> {
    let job = file.job.id.to_string();
    let mut all = Vec::new();
    for one in file.every_injector() {
        let life = judged.map(|judged| lived(file, judged, one)).transpose()?;
        all.push((one.id, one.label.trim(), life));
    }
    sqlx::query("DELETE FROM lives WHERE job_id = ?").bind(&job).execute(&mut *connection).await?;
    sqlx::query(
        "INSERT OR IGNORE INTO lives (injector_id, job_id, label, life)
         SELECT value ->> 0, ?1, value ->> 1, value ->> 2 FROM json_each(?2)",
    )
    .bind(&job)
    .bind(serde_json::to_string(&all)?)
    .execute(&mut *connection)
    .await?;
    sqlx::query("DELETE FROM outcomes WHERE job_id = ?")
        .bind(&job)
        .execute(&mut *connection)
        .await?;
    let Some(family) = file.job.intake.family_id else { return Ok(()) };
    for one in turned(file) {
        sqlx::query(
            "INSERT INTO outcomes (job_id, cylinder, family_id, decision, came_back) VALUES (?, ?, ?, ?, ?)",
        )
        .bind(&job)
        .bind(i64::from(one.cylinder))
        .bind(family.to_string())
        .bind(rows::named(one.decision)?)
        .bind(one.came_back)
        .execute(&mut *connection)
        .await?;
    }
    Ok(())
}
