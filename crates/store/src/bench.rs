//! Bench sessions: begun with injectors of one or several jobs, round after round. Which reading is
//! possible is decided by [`cobaltine_core::job`]; here its entries are added to the log.

use crate::acts::{self, Act};
use crate::elsewhere::shares;
use crate::job_file::session as session_file;
use crate::rows;
use crate::stock::{Move, move_shim, shims};
use crate::words;
use crate::writing::Write;
use crate::{Store, StoreError, log};
use cobaltine_core::entry::{self, Entry};
use cobaltine_core::job::{BenchCommand, apply_bench};
use cobaltine_core::limits::{LOG_BYTES, SESSIONS};
use cobaltine_core::mark::Mark;
use cobaltine_core::record::Signed;
use cobaltine_core::tests::bench::{
    BenchCell, BenchKind, BenchSetup, BenchTest, Round, RoundStage, SessionRecord, Shim, Spot,
};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest page of sessions.
const LONGEST_PAGE: u32 = 60;

/// One session in a list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BenchLine {
    /// Session.
    pub id: Uuid,
    /// Number for people.
    pub number: u64,
    /// What it is for.
    pub kind: BenchKind,
    /// Numbers of the jobs whose injectors hang there.
    pub jobs: Vec<u64>,
    /// The newest round.
    pub round: String,
    /// The test that speaks, where there is one.
    pub speaks: Option<BenchTest>,
    /// As it is called.
    pub test: String,
    /// What it says.
    pub headline: String,
    /// Mark of each injector, by tag.
    pub marks: Vec<Mark>,
    /// When something was last written.
    #[schema(value_type = String, format = DateTime)]
    pub changed_at: Timestamp,
}

/// A page of sessions, newest first.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BenchPage {
    /// Sessions.
    pub lines: Vec<BenchLine>,
    /// How many there are in all.
    pub total: u64,
}

impl Store {
    /// Begins a session. The same command again is answered as the first time.
    ///
    /// # Errors
    /// An injector that is not in its job; what is wrong with the set-up, by field; a closed job.
    pub async fn begin_session(
        &self,
        act: &Act,
        session: &SessionRecord,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.write().await?.to(session.id);
        if acts::done_before(&mut tx, act).await? {
            return Ok((session_file(&mut tx, session.id).await?.0, shims(&mut tx).await?));
        }
        let mut session = session.clone();
        session.number = next_number(&mut tx).await?;
        let problems = session.problems("session");
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        refuse_closed(&mut tx, &session, None).await?;
        refuse_crowded(&mut tx, &session).await?;
        write_line(&mut tx, &session).await?;
        log::append(&mut tx, session.id, &mut entry::of_session(&session)).await?;
        acts::done(&mut tx, act, session.signed.at).await?;
        let session = session_file(&mut tx, session.id).await?.0;
        let stock = outdated(&mut tx, &session, session.signed).await?;
        tx.commit().await?;
        Ok((session, stock))
    }

    /// A session with the shims on hand.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn session(&self, id: Uuid) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin().await?;
        Ok((session_file(&mut tx, id).await?.0, shims(&mut tx).await?))
    }

    /// What holds for a session, without its readings.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn bench_setup(&self, id: Uuid) -> Result<BenchSetup, StoreError> {
        let row = sqlx::query("SELECT entry FROM log WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        let row = row.ok_or(StoreError::NotFound("bench session"))?;
        let Entry::Session(session) = rows::json(&row, "entry")? else {
            return Err(StoreError::NotFound("bench session"));
        };
        Ok(session.setup)
    }

    /// Does what a person asks at the bench. The same command again is answered as the first time. A
    /// shim that is fitted leaves the drawer.
    ///
    /// # Errors
    /// What [`apply_bench`] refuses; a closed job; a shim that is not in stock.
    pub async fn apply_bench(
        &self,
        session: Uuid,
        act: &Act,
        command: BenchCommand,
        signed: Signed,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.write().await?.to(session);
        let answer = at_bench(&mut tx, session, act, command, signed).await?;
        tx.commit().await?;
        Ok(answer)
    }

    /// Sessions, newest first; those of one job when it is named.
    ///
    /// # Errors
    /// The database error.
    pub async fn sessions(
        &self,
        job: Option<Uuid>,
        page: u32,
        per_page: u32,
    ) -> Result<BenchPage, StoreError> {
        let per_page = per_page.clamp(1, LONGEST_PAGE);
        let job = job.map(|id| id.to_string());
        let of = match job {
            Some(_) => {
                "FROM bench_sessions
                 WHERE id IN (SELECT session_id FROM bench_jobs WHERE job_id = ?1)"
            }
            // Those of exercises stand with their job alone.
            None => {
                "FROM bench_sessions WHERE ?1 IS NULL AND id NOT IN
                 (SELECT b.session_id FROM bench_jobs b JOIN exercises e ON e.job_id = b.job_id)"
            }
        };
        let total = rows::parts(format!("SELECT COUNT(*) AS n {of}"))
            .bind(&job)
            .fetch_one(&self.pool)
            .await?;
        let found = rows::parts(format!(
            "SELECT line {of} ORDER BY changed_at DESC, id DESC LIMIT ?2 OFFSET ?3"
        ))
        .bind(&job)
        .bind(i64::from(per_page))
        .bind(i64::from(page.saturating_sub(1)) * i64::from(per_page))
        .fetch_all(&self.pool)
        .await?;
        Ok(BenchPage {
            lines: found.iter().map(|row| rows::json(row, "line")).collect::<Result<_, _>>()?,
            total: rows::count(&total, "n")?,
        })
    }
}

/// A command at the bench inside of a transaction.
pub(crate) async fn at_bench(
    tx: &mut Write,
    session: Uuid,
    act: &Act,
    command: BenchCommand,
    signed: Signed,
) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
    let (mut held, bytes) = session_file(tx, session).await?;
    if acts::done_before(tx, act).await? {
        return Ok((held, shims(tx).await?));
    }
    let tag = if let BenchCommand::KeepTube(cell) = &command { cell.tag } else { None };
    refuse_closed(tx, &held, tag).await?;
    if bytes > LOG_BYTES {
        let says = words::SESSION_FULL_BEGIN_ANOTHER;
        return Err(StoreError::Conflict(says.to_owned()));
    }
    let mut entries = apply_bench(&held, command)?;
    for entry in &entries {
        if let Entry::Tube(cell) = entry {
            fit_shim(tx, &held, cell).await?;
        }
    }
    log::append(tx, session, &mut entries).await?;
    acts::done(tx, act, signed.at).await?;
    for entry in entries {
        held.push(entry)?;
    }
    let stock = outdated(tx, &held, signed).await?;
    Ok((held, stock))
}

/// The line by which a session is found.
pub(crate) async fn write_line(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO bench_sessions (id, number, kind, by_id, at, line, changed_at)
         VALUES (?, ?, ?, ?, ?, '{}', ?)",
    )
    .bind(session.id.to_string())
    .bind(session.number as i64)
    .bind(session.setup.kind.name())
    .bind(session.signed.by.to_string())
    .bind(rows::stamp(session.signed.at))
    .bind(rows::stamp(session.signed.at))
    .execute(&mut *connection)
    .await?;
    for one in &session.injectors {
        shares(connection, one.job, session.id).await?;
    }
    Ok(())
}

/// Nothing is read of an injector whose job is closed, nor of a rail on which every job is.
async fn refuse_closed(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
    tag: Option<u32>,
) -> Result<(), StoreError> {
    let named = session.injectors.iter().filter(|one| tag.is_none_or(|tag| one.tag == tag));
    let jobs: Vec<Uuid> = named.map(|one| one.job).collect();
    let row = sqlx::query(
        "SELECT COUNT(*) AS known, COALESCE(SUM(closed), 0) AS closed, MIN(CASE WHEN closed THEN number END) AS number
         FROM jobs WHERE id IN (SELECT value FROM json_each(?))",
    )
    .bind(serde_json::to_string(&jobs)?)
    .fetch_one(connection)
    .await?;
    let (known, closed) = (rows::count(&row, "known")?, rows::count(&row, "closed")?);
    let beginning = session.cells.is_empty() && tag.is_none();
    if closed > 0 && (closed == known || beginning) {
        let number = rows::count(&row, "number")?;
        return Err(StoreError::Conflict(words::job_closed_reopen_reason(number)));
    }
    Ok(())
}

/// A job hangs in so many sessions at the most: its file carries all of them.
async fn refuse_crowded(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
) -> Result<(), StoreError> {
    let jobs: Vec<Uuid> = session.injectors.iter().map(|one| one.job).collect();
    let row = sqlx::query(
        "SELECT COALESCE(MAX(n), 0) AS most FROM (SELECT COUNT(*) AS n FROM bench_jobs
         WHERE job_id IN (SELECT value FROM json_each(?)) GROUP BY job_id)",
    )
    .bind(serde_json::to_string(&jobs)?)
    .fetch_one(connection)
    .await?;
    if rows::count(&row, "most")? >= SESSIONS as u64 {
        return Err(StoreError::Conflict(words::maximum_bench_sessions_one(SESSIONS)));
    }
    Ok(())
}

/// A free number; the one that a session from elsewhere has, when nobody has it here.
pub(crate) async fn next_number(connection: &mut SqliteConnection) -> Result<u64, StoreError> {
    let row = sqlx::query("SELECT COALESCE(MAX(number), 0) + 1 AS n FROM bench_sessions")
        .fetch_one(connection)
        .await?;
    rows::count(&row, "n")
}

/// Writes the line of a session and marks its jobs; gives the shims on hand.
async fn outdated(
    tx: &mut Write,
    session: &SessionRecord,
    signed: Signed,
) -> Result<Vec<Shim>, StoreError> {
    let stock = say(tx, session, signed.at).await?;
    // Those that it hung for, and those that one of its injectors was fitted in since.
    let jobs = sqlx::query("SELECT job_id FROM bench_jobs WHERE session_id = ?")
        .bind(session.id.to_string())
        .fetch_all(&mut **tx)
        .await?;
    for row in &jobs {
        tx.stale(rows::id(row, "job_id")?, signed.at, Some(signed.by)).await?;
    }
    Ok(stock)
}

/// Writes what a session says by now on its line; gives the shims on hand.
pub(crate) async fn say(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
    at: Timestamp,
) -> Result<Vec<Shim>, StoreError> {
    let stock = shims(connection).await?;
    sqlx::query("UPDATE bench_sessions SET line = ?, changed_at = ? WHERE id = ?")
        .bind(serde_json::to_string(&line_of(session, &stock, at))?)
        .bind(rows::stamp(at))
        .bind(session.id.to_string())
        .execute(connection)
        .await?;
    Ok(stock)
}

fn line_of(session: &SessionRecord, stock: &[Shim], changed_at: Timestamp) -> BenchLine {
    let judged = session.speaking(stock);
    let speaks = judged.speaks();
    let mut jobs: Vec<u64> = session.injectors.iter().map(|one| one.job_number).collect();
    jobs.sort_unstable();
    jobs.dedup();
    BenchLine {
        id: session.id,
        number: session.number,
        kind: session.setup.kind,
        jobs,
        round: session.rounds.last().map(Round::word).unwrap_or_default(),
        speaks: speaks.map(|(test, _)| test),
        test: speaks.map(|(test, _)| test.title().to_owned()).unwrap_or_default(),
        headline: speaks
            .map_or_else(|| words::NOTHING_READ_YET.to_owned(), |(_, v)| v.headline.clone()),
        marks: speaks.map_or_else(
            || vec![Mark::NotMeasured; session.injectors.len()],
            |(_, v)| v.lanes.iter().map(|lane| lane.mark).collect(),
        ),
        changed_at,
    }
}

/// The shim that goes in leaves the drawer; one that was only mistyped goes back. The one that is
/// in already, measured again, moves nothing.
async fn fit_shim(
    connection: &mut SqliteConnection,
    held: &SessionRecord,
    cell: &BenchCell,
) -> Result<(), StoreError> {
    let stage = held.rounds.iter().find(|r| r.id == cell.round).map(|r| r.stage);
    let fits = cell.test == BenchTest::Lift && cell.cell == "shim";
    if !fits || stage != Some(RoundStage::Adjusted) {
        return Ok(());
    }
    let before = held.cells.iter().find(|one| Some(one.id) == cell.corrects);
    let fit = cell.tag.map(|tag| (held.id, tag));
    let rounds = held.rounds.iter().take_while(|round| round.id != cell.round);
    let spot = Spot { cell: &cell.cell, row: cell.row, tag: cell.tag };
    let fitted: Vec<f64> =
        rounds.filter_map(|round| held.standing(round.id, cell.test, spot)?.value).collect();
    let goes_in = |size: &f64| fitted.last() != Some(size);
    let of = |size_um, moved| Move { id: Uuid::now_v7(), size_um, moved, fit, signed: cell.signed };
    if let Some(back) = before.and_then(|one| one.value).filter(goes_in) {
        move_shim(connection, &of(back, 1)).await?;
    }
    if let Some(size_um) = cell.value.filter(goes_in) {
        move_shim(connection, &of(size_um, -1)).await?;
    }
    Ok(())
}
