//! The rows of a job and its injectors.

use super::columns as rows;
use crate::StoreError;
use cobaltine_core::record::{Injector, Intake, Job};
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

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
           layout, family_id, symptoms, complaint, story, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
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
    .bind(serde_json::to_string(&intake.story)?)
    .bind(job.taken_in.by.to_string())
    .bind(rows::stamp(job.taken_in.at))
    .execute(&mut *connection)
    .await?;
    for injector in &job.injectors {
        insert_injector(connection, job.id, injector).await?;
    }
    Ok(())
}

pub(crate) async fn insert_injector(
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

pub(crate) async fn update_intake(
    connection: &mut SqliteConnection,
    id: Uuid,
    intake: &Intake,
) -> Result<(), StoreError> {
    sqlx::query(
        "UPDATE jobs SET revision = revision + 1, customer = ?, machine = ?, usage = ?, engine = ?,
           fuel_system = ?, layout = ?, family_id = ?, symptoms = ?, complaint = ?, story = ? WHERE id = ?",
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
    .bind(serde_json::to_string(&intake.story)?)
    .bind(id.to_string())
    .execute(connection)
    .await?;
    Ok(())
}

/// The job row with its injectors, if it is there.
pub(crate) async fn job_exists(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<bool, StoreError> {
    let row = sqlx::query("SELECT EXISTS (SELECT 1 FROM jobs WHERE id = ?) AS there")
        .bind(id.to_string())
        .fetch_one(connection)
        .await?;
    Ok(row.try_get("there")?)
}

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
            story: rows::json(&row, "story")?,
        },
        injectors,
        taken_in: rows::signed(&row)?,
    }))
}
