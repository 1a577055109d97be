//! The shelf of tested injectors, and the sets that are kept.
//!
//! Lines are made by the core when the shelf is read, for those jobs in which something was written
//! since: typing a tube costs one mark.

mod sets;

pub use sets::KeptSet;
pub(crate) use sets::{insert_set, kept_set};

use crate::job_file::job_file;
use crate::rows;
use crate::words;
use crate::writing::PIECE;
use crate::{Store, StoreError};
use cobaltine_core::matching::MOST;
use cobaltine_core::record::JobFile;
use cobaltine_core::shelf::{ShelfFeature, Tested};
use cobaltine_core::tests::bench::BenchKind;
use serde::Serialize;
use sqlx::{Row, SqliteConnection};
use std::time::Instant;
use utoipa::ToSchema;
use uuid::Uuid;

/// What a line of the shelf is made by: up with everything that makes it otherwise.
pub(crate) const VERSION: i64 = 3;
/// Longest page of the shelf.
const LONGEST_PAGE: u32 = 60;
/// Injectors that may be compared: of one family on one kind of bench.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct ShelfFamily {
    /// The bench that they go on.
    pub kind: BenchKind,
    /// Its name; empty when it is not known.
    pub family: String,
    /// How many stand there.
    pub count: u64,
}

/// Which part of the shelf.
#[derive(Debug, Clone)]
pub struct ShelfQuery {
    /// The bench that they go on.
    pub kind: BenchKind,
    /// Their family; empty when it is not known.
    pub family: String,
    /// Those of one job only.
    pub job: Option<Uuid>,
}

/// A page of the shelf.
#[derive(Debug, Clone, PartialEq)]
pub struct ShelfPage {
    /// By job and cylinder.
    pub lines: Vec<Tested>,
    /// How many there are in all.
    pub total: u64,
    /// How many have each feature, in the order of the features.
    pub measured: Vec<(ShelfFeature, u64)>,
    /// Those that are held back.
    pub held_back: u64,
}

impl Store {
    /// Families on the shelf, those with most injectors first.
    ///
    /// # Errors
    /// The database error; what a computation refuses.
    pub async fn shelf_families(&self, job: Option<Uuid>) -> Result<Vec<ShelfFamily>, StoreError> {
        self.freshen().await?;
        let found = sqlx::query(
            "SELECT kind, MIN(family) AS family, COUNT(*) AS n FROM shelf
             WHERE ?1 IS NULL OR job_id = ?1 GROUP BY kind, family ORDER BY n DESC, family",
        )
        .bind(job.map(|id| id.to_string()))
        .fetch_all(&self.pool)
        .await?;
        let one = |row: &sqlx::sqlite::SqliteRow| {
            Ok(ShelfFamily {
                kind: rows::name(row, "kind")?,
                family: row.try_get("family")?,
                count: rows::count(row, "n")?,
            })
        };
        found.iter().map(one).collect()
    }

    /// A page of the shelf.
    ///
    /// # Errors
    /// The database error; what a computation refuses.
    pub async fn shelf_page(
        &self,
        query: &ShelfQuery,
        page: u32,
        per_page: u32,
    ) -> Result<ShelfPage, StoreError> {
        self.freshen().await?;
        let per_page = per_page.clamp(1, LONGEST_PAGE);
        let job = query.job.map(|id| id.to_string());
        let lines = sqlx::query(
            "SELECT line FROM shelf WHERE kind = ?1 AND family = ?2 AND (?3 IS NULL OR job_id = ?3)
             ORDER BY job_number, cylinder LIMIT ?4 OFFSET ?5",
        )
        .bind(query.kind.name())
        .bind(&query.family)
        .bind(&job)
        .bind(i64::from(per_page))
        .bind(i64::from(page.saturating_sub(1)) * i64::from(per_page))
        .fetch_all(&self.pool)
        .await?;
        let sums = sqlx::query(
            "SELECT COUNT(*) AS n, COUNT(line ->> '$.held_back') AS held FROM shelf
             WHERE kind = ?1 AND family = ?2 AND (?3 IS NULL OR job_id = ?3)",
        )
        .bind(query.kind.name())
        .bind(&query.family)
        .bind(&job)
        .fetch_one(&self.pool)
        .await?;
        let measured = sqlx::query(
            "SELECT v.value ->> '$.feature' AS feature, COUNT(*) AS n
             FROM shelf s, json_each(s.line, '$.values') v
             WHERE s.kind = ?1 AND s.family = ?2 AND (?3 IS NULL OR s.job_id = ?3) GROUP BY 1",
        )
        .bind(query.kind.name())
        .bind(&query.family)
        .bind(&job)
        .fetch_all(&self.pool)
        .await?;
        let mut counts = Vec::new();
        for row in &measured {
            counts.push((rows::name(row, "feature")?, rows::count(row, "n")?));
        }
        counts.sort_unstable();
        Ok(ShelfPage {
            lines: lines.iter().map(|row| rows::json(row, "line")).collect::<Result<_, _>>()?,
            total: rows::count(&sums, "n")?,
            measured: counts,
            held_back: rows::count(&sums, "held")?,
        })
    }

    /// The whole of it, as many as can be matched at once.
    ///
    /// # Errors
    /// More than that; the database error; what a computation refuses.
    pub async fn whole_shelf(&self, query: &ShelfQuery) -> Result<Vec<Tested>, StoreError> {
        self.freshen().await?;
        let found = sqlx::query(
            "SELECT line FROM shelf WHERE kind = ?1 AND family = ?2 AND (?3 IS NULL OR job_id = ?3)
             ORDER BY job_number, cylinder LIMIT ?4",
        )
        .bind(query.kind.name())
        .bind(&query.family)
        .bind(query.job.map(|id| id.to_string()))
        .bind(MOST as i64 + 1)
        .fetch_all(&self.pool)
        .await?;
        if found.len() > MOST {
            let says = words::more_injectors_match_one(MOST);
            return Err(StoreError::Conflict(says));
        }
        found.iter().map(|row| rows::json(row, "line")).collect()
    }

    /// Makes the lines of stale jobs anew. With none of them this is one read.
    pub(crate) async fn freshen(&self) -> Result<(), StoreError> {
        self.settle_to_read().await?;
        while sqlx::query(STALE).fetch_optional(&self.pool).await?.is_some() {
            // After many jobs came in, this is work of seconds: others write in between.
            let mut tx = self.write().await?;
            freshen_until(&mut tx, Instant::now() + PIECE).await?;
            tx.commit_quietly().await?;
        }
        Ok(())
    }
}

const STALE: &str = "SELECT job_id FROM shelf_stale LIMIT 1";

/// Makes the lines of stale jobs anew.
pub(crate) async fn freshen(connection: &mut SqliteConnection) -> Result<(), StoreError> {
    while freshen_one(connection).await? {}
    Ok(())
}

/// The same for as long as there is time, for one job at least.
async fn freshen_until(
    connection: &mut SqliteConnection,
    until: Instant,
) -> Result<(), StoreError> {
    while freshen_one(connection).await? && Instant::now() < until {}
    Ok(())
}

async fn freshen_one(connection: &mut SqliteConnection) -> Result<bool, StoreError> {
    let Some(row) = sqlx::query(STALE).fetch_optional(&mut *connection).await? else {
        return Ok(false);
    };
    let job = rows::id(&row, "job_id")?;
    let file = job_file(connection, job).await?;
    write(connection, &file).await?;
    sqlx::query("DELETE FROM shelf_stale WHERE job_id = ?")
        .bind(job.to_string())
        .execute(connection)
        .await?;
    Ok(true)
}

/// The lines of one job.
async fn write(connection: &mut SqliteConnection, file: &JobFile) -> Result<(), StoreError> {
    let job = file.job.id.to_string();
    // A job that cannot be judged stands on no shelf; its own views say why.
    let judged = file.judged().ok().filter(|_| file.job.exercise.is_none());
    let tested = judged.and_then(|judged| file.tested(&judged).ok()).unwrap_or_default();
    sqlx::query("DELETE FROM shelf WHERE job_id = ?").bind(&job).execute(&mut *connection).await?;
    sqlx::query(
        "INSERT OR REPLACE INTO shelf (injector_id, job_id, kind, family, job_number, cylinder, line)
         SELECT value ->> '$.injector', ?1, value ->> '$.kind', COALESCE(value ->> '$.family', ''),
                value ->> '$.job_number', value ->> '$.cylinder', value
         FROM json_each(?2)",
    )
    .bind(&job)
    .bind(serde_json::to_string(&tested)?)
    .execute(connection)
    .await?;
    Ok(())
}

/// Something was written in a job: its lines have to be made anew, if it was on a bench.
pub(crate) async fn outdate(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT OR IGNORE INTO shelf_stale (job_id)
         SELECT ?1 WHERE EXISTS (SELECT 1 FROM bench_jobs WHERE job_id = ?1)",
    )
    .bind(job.to_string())
    .execute(connection)
    .await?;
    Ok(())
}
