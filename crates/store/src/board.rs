//! The board: every job as its strip and what it waits for, written when a job changes.

mod card;

use crate::held::JobState;
use crate::rows;
use crate::torque::torque_of;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::engine::EngineEnd;
use cobaltine_core::mark::Mark;
use cobaltine_core::record::JobFile;
use cobaltine_core::work::{Stage, Symptom, Tone, Waits};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use sqlx::{Row, SqliteConnection};
use utoipa::ToSchema;
use uuid::Uuid;

/// What a card is made by: up with everything that makes it say something else.
pub(crate) const VERSION: i64 = 4;
/// Longest page of the board.
const LONGEST_PAGE: u32 = 100;

/// One column of a small strip.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BoardLane {
    /// Cylinder number.
    pub cylinder: u32,
    /// State.
    pub mark: Mark,
}

/// One job on the board.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BoardCard {
    /// Job.
    pub id: Uuid,
    /// Number for people.
    pub number: u64,
    /// What it is.
    pub machine: String,
    /// Engine.
    pub engine: String,
    /// Whose.
    pub customer: String,
    /// Complaint in standard terms.
    pub symptoms: Vec<Symptom>,
    /// Complaint in words, shortened.
    pub complaint: String,
    /// Columns, bank by bank, as the strip draws them.
    pub banks: Vec<Vec<BoardLane>>,
    /// Which end is cylinder 1.
    pub first_at: EngineEnd,
    /// Where it stands.
    pub waits: Waits,
    /// The one next step, as plan and Decide name it; empty once nothing is open.
    #[serde(default)]
    pub next: String,
    /// Timers that run or rang, soonest first.
    #[serde(default)]
    pub timers: Vec<BoardTimer>,
    /// Why it is open again after it was closed; empty when it never was.
    #[serde(default)]
    pub reopened: String,
    /// Plate or hull number of the machine; may be empty.
    #[serde(default)]
    pub plate: String,
    /// The day that it was promised for, while it is open.
    #[serde(default)]
    #[schema(value_type = Option<String>, format = Date)]
    pub promised: Option<Date>,
    /// When it was booked in.
    #[serde(default)]
    #[schema(value_type = Option<String>, format = DateTime)]
    pub booked: Option<Timestamp>,
    /// Who wrote to it last.
    #[serde(default)]
    pub by: String,
    /// Nothing is open in it any more.
    #[serde(default)]
    pub closed: bool,
}

/// One timer on the board.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BoardTimer {
    /// What it is for.
    pub word: String,
    /// When it rings.
    #[schema(value_type = String, format = DateTime)]
    pub ends_at: Timestamp,
    /// Where it leads back to.
    pub stage: Stage,
    /// The event to take it off by; none for a run, which ends when it is stopped.
    pub id: Option<Uuid>,
}

/// What part of the board is asked for.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct BoardQuery {
    /// Words to find, each as a beginning.
    pub words: String,
    /// Only jobs that read so.
    pub tone: Option<Tone>,
    /// From 0.
    pub page: u32,
    /// Rows of a page, at most 100.
    pub per_page: u32,
}

/// How far projections are made anew after a change of the rules.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Rebuilding {
    /// Jobs that are still to be done.
    pub left: usize,
    /// Of so many.
    pub of: usize,
}

/// One page of the board, last changed first.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BoardPage {
    /// The jobs of this page.
    pub cards: Vec<BoardCard>,
    /// Jobs that fit the question, over all pages.
    pub total: u64,
    /// Jobs with a timer, on any page; soonest end first, eight at the most.
    pub running: Vec<BoardCard>,
    /// Jobs on which a person has to act.
    pub waiting: u64,
    /// Jobs whose measurement cannot carry a decision.
    pub unsure: u64,
    /// All jobs.
    pub jobs: u64,
    /// How far cards are made anew after a change of rules or library; none when all are.
    #[serde(default)]
    pub rebuilding: Option<Rebuilding>,
}

impl Store {
    /// A page of the board: indexed look-ups only, whatever the number of jobs.
    ///
    /// # Errors
    /// The database error.
    pub async fn board(&self, query: &BoardQuery) -> Result<BoardPage, StoreError> {
        self.settle_to_read().await?;
        let mut tx = self.pool.begin().await?;
        let tone = query.tone.map(rows::named).transpose()?;
        let words = fts_phrase(&query.words);
        let (from, mut binds) = match (&words, &tone) {
            (Some(words), _) => (
                "board WHERE job_id IN (SELECT job_id FROM board_words WHERE board_words MATCH ?)
                 AND (?2 IS NULL OR tone = ?2)",
                vec![Some(words.clone()), tone.clone()],
            ),
            (None, Some(tone)) => (words::BOARD_TONE, vec![Some(tone.clone())]),
            (None, None) => ("board", vec![]),
        };
        let tones = sqlx::query("SELECT tone, jobs FROM board_tones").fetch_all(&mut *tx).await?;
        let mut of_tone = Vec::with_capacity(tones.len());
        for row in &tones {
            of_tone.push((rows::name::<Tone>(row, "tone")?, rows::count(row, "jobs")?));
        }
        let reading = |tone: Option<Tone>| -> u64 {
            let fit = of_tone.iter().filter(|(held, _)| tone.is_none_or(|tone| *held == tone));
            fit.map(|(_, jobs)| jobs).sum()
        };
        let total = if words.is_some() {
            let count = format!("SELECT COUNT(*) AS total FROM {from}");
            let mut counting = rows::parts(count);
            for bind in &binds {
                counting = counting.bind(bind);
            }
            rows::count(&counting.fetch_one(&mut *tx).await?, "total")?
        } else {
            reading(query.tone)
        };

        let per_page = query.per_page.clamp(1, LONGEST_PAGE);
        let page = format!(
            "SELECT card FROM {from} ORDER BY changed_at DESC, job_id DESC LIMIT {per_page} OFFSET {}",
            u64::from(query.page) * u64::from(per_page)
        );
        let mut paging = rows::parts(page);
        for bind in binds.drain(..) {
            paging = paging.bind(bind);
        }
        let cards = paging.fetch_all(&mut *tx).await?;
        let running = sqlx::query(
            "SELECT card FROM board WHERE timers > 0 ORDER BY changed_at DESC, job_id DESC LIMIT 8",
        )
        .fetch_all(&mut *tx)
        .await?;
        let mut running = running
            .iter()
            .map(|row| rows::json(row, "card"))
            .collect::<Result<Vec<BoardCard>, _>>()?;
        running.sort_by_key(|card| card.timers.first().map(|timer| timer.ends_at));
        Ok(BoardPage {
            rebuilding: self.rebuilding(),
            cards: cards.iter().map(|row| rows::json(row, "card")).collect::<Result<_, _>>()?,
            total,
            running,
            waiting: reading(Some(Tone::Waiting)),
            unsure: reading(Some(Tone::Unsure)),
            jobs: reading(None),
        })
    }
}

/// Each word as a beginning, quoted, so that nothing typed is read as search syntax.
pub(crate) fn fts_phrase(words: &str) -> Option<String> {
    let words: Vec<String> = words
        .split_whitespace()
        .take(8)
        // `AB-123` is two words of the index, one after the other.
        .map(|word| {
            let parts = word.split(|c: char| !c.is_alphanumeric()).filter(|part| !part.is_empty());
            parts.collect::<Vec<_>>().join(" ")
        })
        .filter(|word| !word.is_empty())
        .map(|word| format!("\"{word}\"*"))
        .collect();
    (!words.is_empty()).then(|| words.join(" "))
}

/// When the card of a job says that it was changed.
pub(crate) async fn changed_at(
    connection: &mut SqliteConnection,
    job: Uuid,
) -> Result<Option<Timestamp>, StoreError> {
    let row = sqlx::query("SELECT changed_at FROM board WHERE job_id = ?")
        .bind(job.to_string())
        .fetch_optional(connection)
        .await?;
    row.map(|row| rows::time(&row.try_get::<String, _>("changed_at")?)).transpose()
}

/// Notes on the line of a job whether it is closed.
pub(crate) async fn mark_closed(
    connection: &mut SqliteConnection,
    file: &JobFile,
) -> Result<(), StoreError> {
    sqlx::query("UPDATE jobs SET closed = ?1 WHERE id = ?2 AND closed <> ?1")
        .bind(file.closed().is_some())
        .bind(file.job.id.to_string())
        .execute(connection)
        .await?;
    Ok(())
}

pub(crate) async fn write_card(
    connection: &mut SqliteConnection,
    state: &JobState,
    changed_at: Timestamp,
) -> Result<(), StoreError> {
    let file = &state.file;
    // Tightening alone decides whether a new bolt is due; a job that is not fitted needs none of it.
    let torque = match file.refit_begun() {
        true => torque_of(connection, file.job.intake.family_id).await?,
        false => Vec::new(),
    };
    let card = card::card(state, &torque);
    let id = file.job.id.to_string();
    sqlx::query(
        "INSERT INTO board (job_id, changed_at, tone, card, timers) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (job_id) DO UPDATE SET changed_at = excluded.changed_at,
           tone = excluded.tone, card = excluded.card, timers = excluded.timers",
    )
    .bind(&id)
    .bind(rows::stamp(changed_at))
    .bind(rows::named(card.waits.tone)?)
    .bind(serde_json::to_string(&card)?)
    .bind(card.timers.len() as i64)
    .execute(&mut *connection)
    .await?;
    let words = format!(
        "{} {} {} {} {}",
        card.number, card.machine, card.engine, card.customer, card.complaint
    );
    let held: Option<i64> = sqlx::query("SELECT rowid FROM board WHERE job_id = ?")
        .bind(&id)
        .fetch_one(&mut *connection)
        .await?
        .try_get(0)?;
    sqlx::query("INSERT OR REPLACE INTO board_words (rowid, job_id, words) VALUES (?, ?, ?)")
        .bind(held)
        .bind(&id)
        .bind(words)
        .execute(connection)
        .await?;
    Ok(())
}
