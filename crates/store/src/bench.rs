//! Bench sessions: begun with injectors of one or several jobs, round after round.

use crate::rows::bench::{find, insert_cells, insert_round, insert_session};
use crate::rows::columns as rows;
use crate::rows::jobs::job_exists;
use crate::stock::{Move, move_shim, shims};
use crate::{Store, StoreError, board};
use cobaltine_core::bench::{
    BenchCell, BenchKind, BenchSetup, BenchTest, Round, RoundStage, SessionRecord, Shim, Spot,
};
use cobaltine_core::mark::Mark;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use sqlx::SqliteConnection;
use utoipa::ToSchema;
use uuid::Uuid;

/// The most readings of one session, corrections included.
pub(crate) const MOST_CELLS: usize = 20_000;
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
    /// Begins a session. The same again changes nothing.
    ///
    /// # Errors
    /// An injector that is not in its job; what is wrong with the set-up, by field.
    pub async fn begin_session(
        &self,
        session: &SessionRecord,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        if let Some(held) = find(&mut tx, session.id).await? {
            return Ok((held, shims(&mut tx).await?));
        }
        let mut session = session.clone();
        session.number = next_number(&mut tx).await?;
        let problems = session.problems("session");
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        write_session(&mut tx, &session).await?;
        let answer = refreshed(&mut tx, session.id, session.signed.at).await?;
        tx.commit().await?;
        Ok(answer)
    }

    /// A session with the shims on hand.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn session(&self, id: Uuid) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin().await?;
        let session = find(&mut tx, id).await?.ok_or(StoreError::NotFound("bench session"))?;
        Ok((session, shims(&mut tx).await?))
    }

    /// What holds for a session, without its readings.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn bench_setup(&self, id: Uuid) -> Result<BenchSetup, StoreError> {
        let row = sqlx::query("SELECT setup FROM bench_sessions WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        rows::json(&row.ok_or(StoreError::NotFound("bench session"))?, "setup")
    }

    /// Begins a round; its number within the stage is counted here.
    ///
    /// # Errors
    /// Places that do not hold each injector once; too many rounds.
    pub async fn begin_round(
        &self,
        session: Uuid,
        round: &Round,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let mut held =
            find(&mut tx, session).await?.ok_or(StoreError::NotFound("bench session"))?;
        if held.rounds.iter().any(|one| one.id == round.id) {
            return Ok((held, shims(&mut tx).await?));
        }
        let mut round = round.clone();
        round.number = 1 + held.rounds.iter().filter(|r| r.stage == round.stage).count() as u32;
        held.rounds.push(round.clone());
        let problems = held.problems("session");
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        insert_round(&mut tx, session, &round).await?;
        let answer = refreshed(&mut tx, session, round.signed.at).await?;
        tx.commit().await?;
        Ok(answer)
    }

    /// Keeps a reading. The same id again changes nothing; one that was read already has to be
    /// named as the one that is corrected. A shim that is fitted leaves the drawer.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when someone else read it in the meantime, or when the drive that
    /// was chosen is too high to pulse anything; a shim that is not in stock.
    pub async fn keep_bench_cell(
        &self,
        session: Uuid,
        cell: &BenchCell,
    ) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let held = find(&mut tx, session).await?.ok_or(StoreError::NotFound("bench session"))?;
        if held.cells.iter().any(|one| one.id == cell.id) {
            return Ok((held, shims(&mut tx).await?));
        }
        let before = check(&held, cell)?;
        let stage = held.rounds.iter().find(|r| r.id == cell.round).map(|r| r.stage);
        if cell.test == BenchTest::Lift
            && cell.cell == "shim"
            && stage == Some(RoundStage::Adjusted)
        {
            fit_shim(&mut tx, &held, before, cell).await?;
        }
        insert_cells(&mut tx, session, std::slice::from_ref(cell)).await?;
        let answer = refreshed(&mut tx, session, cell.signed.at).await?;
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
        let of = "FROM bench_sessions WHERE ?1 IS NULL
                  OR id IN (SELECT session_id FROM bench_jobs WHERE job_id = ?1)";
        let total = sqlx::query(&format!("SELECT COUNT(*) AS n {of}"))
            .bind(&job)
            .fetch_one(&self.pool)
            .await?;
        let found = sqlx::query(&format!(
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

/// Writes a session with its rounds and readings: from a request or from a job file.
pub(crate) async fn write_session(
    connection: &mut SqliteConnection,
    session: &SessionRecord,
) -> Result<(), StoreError> {
    insert_session(connection, session).await?;
    for round in &session.rounds {
        insert_round(connection, session.id, round).await?;
    }
    insert_cells(connection, session.id, &session.cells).await
}

/// A free number; the one that a session from elsewhere has, when nobody has it here.
pub(crate) async fn next_number(connection: &mut SqliteConnection) -> Result<u64, StoreError> {
    let row = sqlx::query("SELECT COALESCE(MAX(number), 0) + 1 AS n FROM bench_sessions")
        .fetch_one(connection)
        .await?;
    rows::count(&row, "n")
}

/// Writes the line of a session, and the cards of its jobs; gives what a view needs.
pub(crate) async fn refreshed(
    connection: &mut SqliteConnection,
    id: Uuid,
    at: Timestamp,
) -> Result<(SessionRecord, Vec<Shim>), StoreError> {
    let session = find(connection, id).await?.ok_or(StoreError::NotFound("bench session"))?;
    let stock = shims(connection).await?;
    let line = line_of(&session, &stock, at);
    let held = sqlx::query("SELECT line FROM bench_sessions WHERE id = ?")
        .bind(id.to_string())
        .fetch_one(&mut *connection)
        .await?;
    // A reading that moves no mark and no word leaves the cards of its jobs as they are: eighty
    // tubes are typed one after the other, and a card costs more than a reading.
    let held = rows::json::<BenchLine>(&held, "line").ok();
    let before = held.as_ref().map(|held| held.changed_at);
    let same = held.is_some_and(|held| BenchLine { changed_at: at, ..held } == line);
    let before = before.filter(|_| same);
    sqlx::query("UPDATE bench_sessions SET line = ?, changed_at = ? WHERE id = ?")
        .bind(serde_json::to_string(&line)?)
        .bind(rows::stamp(at))
        .bind(id.to_string())
        .execute(&mut *connection)
        .await?;
    let mut of: Vec<Uuid> = session.injectors.iter().map(|one| one.job).collect();
    of.sort_unstable();
    of.dedup();
    for job in of {
        let touched = match before {
            Some(before) => board::touch(connection, job, before, at).await?,
            None => false,
        };
        if !touched && job_exists(connection, job).await? {
            board::refresh(connection, job, at).await?;
        }
    }
    Ok((session, stock))
}

fn line_of(session: &SessionRecord, stock: &[Shim], changed_at: Timestamp) -> BenchLine {
    let judged = session.judged(stock);
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
            .map_or_else(|| "Nothing read yet.".to_owned(), |(_, v)| v.headline.clone()),
        marks: speaks.map_or_else(
            || vec![Mark::NotMeasured; session.injectors.len()],
            |(_, v)| v.lanes.iter().map(|lane| lane.mark).collect(),
        ),
        changed_at,
    }
}

/// What a reading has to fit; gives the one that stood there before.
fn check<'a>(
    held: &'a SessionRecord,
    cell: &BenchCell,
) -> Result<Option<&'a BenchCell>, StoreError> {
    if !held.rounds.iter().any(|round| round.id == cell.round) {
        return Err(StoreError::NotFound("round"));
    }
    if cell.tag.is_some_and(|tag| !held.injectors.iter().any(|one| one.tag == tag)) {
        return Err(StoreError::field("tag", "No injector with this tag hangs here."));
    }
    if !cell.test.fits(held.setup.kind) {
        return Err(StoreError::field("test", "This bench has no such test."));
    }
    if held.cells.len() >= MOST_CELLS {
        return Err(StoreError::Conflict("This session holds no more readings.".to_owned()));
    }
    let spot = Spot { cell: &cell.cell, row: cell.row, tag: cell.tag };
    let before = held.standing(cell.round, cell.test, spot);
    if before.map(|one| one.id) != cell.corrects {
        return Err(StoreError::Conflict(
            "Someone else read this tube in the meantime. Look again; what you typed is kept."
                .to_owned(),
        ));
    }
    if let Some(refused) = held.drive_refused().filter(|_| cell.test.pulses()) {
        return Err(StoreError::Conflict(refused));
    }
    Ok(before)
}

/// The shim that goes in leaves the drawer; one that was only mistyped goes back. The one that is
/// in already, measured again, moves nothing.
async fn fit_shim(
    connection: &mut SqliteConnection,
    held: &SessionRecord,
    before: Option<&BenchCell>,
    cell: &BenchCell,
) -> Result<(), StoreError> {
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
