//! Injectors from elsewhere: one that hung on the bench for another job takes what was read there along
//! into the engine that it is fitted in.

use crate::job_file::session;
use crate::{StoreError, rows};
use cobaltine_core::entry::Entry;
use cobaltine_core::record::Event;
use sqlx::SqliteConnection;
use uuid::Uuid;

/// Joins the bench sessions of every injector that these entries fit; whether there were any.
pub(crate) async fn join(
    connection: &mut SqliteConnection,
    job: Uuid,
    entries: &[Entry],
) -> Result<bool, StoreError> {
    let mut any = false;
    for entry in entries {
        let Entry::Event(record) = entry else { continue };
        let Event::Replaced { injector, .. } = &record.event else { continue };
        let hung = sqlx::query(
            "SELECT DISTINCT b.session_id FROM lives l JOIN bench_jobs b ON b.job_id = l.job_id
             WHERE l.injector_id = ? AND l.job_id <> ?",
        )
        .bind(injector.id.to_string())
        .bind(job.to_string())
        .fetch_all(&mut *connection)
        .await?;
        for row in &hung {
            let id = rows::id(row, "session_id")?;
            let held = session(connection, id).await?.0;
            if held.injectors.iter().any(|one| one.injector == injector.id) {
                shares(connection, job, id).await?;
                any = true;
            }
        }
    }
    Ok(any)
}

/// A session is read together with this job.
pub(crate) async fn shares(
    connection: &mut SqliteConnection,
    job: Uuid,
    session: Uuid,
) -> Result<(), StoreError> {
    sqlx::query("INSERT OR IGNORE INTO bench_jobs (job_id, session_id) VALUES (?, ?)")
        .bind(job.to_string())
        .bind(session.to_string())
        .execute(connection)
        .await?;
    Ok(())
}
