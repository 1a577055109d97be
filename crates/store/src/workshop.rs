//! The whole workshop as one open file: a JSON object a line, so that it can be read and written a
//! line at a time; the last line counts the others, so that a truncated file is known as one.
//!
//! `docs/workshop-file.md` describes it. An import is one transaction: all of it or nothing.

mod take;

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{KeptSet, ProfileLine, RuleRecord, Store, StoreError, profile};
use cobaltine_core::customer::Customer;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::LibraryFile;
use cobaltine_core::record::{JobFile, Person, Signed};
use cobaltine_core::tests::bench::{BenchKind, Shim};
use serde::{Deserialize, Serialize};
use sqlx::Row;
use take::{at_line, take};
use utoipa::ToSchema;
use uuid::Uuid;

/// Says what the file is.
pub const WORKSHOP_FORMAT: &str = "cobaltine.workshop";
/// Version of the lines below.
pub const WORKSHOP_VERSION: u32 = 1;

/// One line of the file.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "line", content = "of", rename_all = "snake_case", deny_unknown_fields)]
pub enum WorkshopLine {
    /// The first.
    Workshop {
        /// Always `cobaltine.workshop`.
        format: String,
        /// Always 1.
        version: u32,
    },
    /// Someone of the workshop.
    Person(Person),
    /// The workshop itself, for the head of its reports.
    Profile(ProfileLine),
    /// A customer as it is now.
    Customer(Customer),
    /// An instrument as it is now.
    Instrument(Instrument),
    /// A change of a house rule; in the order of their revisions.
    Rule(RuleRecord),
    /// The house's own weights of judgement, newest.
    Weights(WeightsLine),
    /// Families, newest limits, engines, plans.
    Library(LibraryFile),
    /// Shims on hand.
    Shims(Shim),
    /// A job with everything that belongs to it.
    Job(Box<JobFile>),
    /// A set that is kept together.
    KeptSet(KeptSetLine),
    /// The last: so many lines came before it.
    End {
        /// Count.
        lines: u64,
    },
}

/// Weights of judgement.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightsLine {
    /// The file.
    pub text: String,
    /// Why the house does it so.
    pub reason: String,
    /// Who and when.
    pub signed: Signed,
}

/// A kept set with its place on the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeptSetLine {
    /// Which bench its injectors belong on.
    pub kind: BenchKind,
    /// Their family; empty when it is not known.
    pub family: String,
    /// The set.
    pub set: KeptSet,
}

/// What an import did.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct WorkshopImported {
    /// Lines that were read.
    pub lines: u64,
    /// Jobs that are new here.
    pub new_jobs: u64,
    /// Jobs that were here already, the very same.
    pub same_jobs: u64,
}

/// An export that is under way.
#[derive(Debug)]
pub struct WorkshopExport {
    store: Store,
    /// Lines that are ready, last first.
    ready: Vec<WorkshopLine>,
    /// Jobs that are still to come, newest first.
    jobs: Vec<Uuid>,
    sets: bool,
    written: u64,
    over: bool,
}

impl Store {
    /// Begins an export.
    ///
    /// # Errors
    /// The database error.
    pub async fn export_workshop(&self) -> Result<WorkshopExport, StoreError> {
        let mut ready = vec![WorkshopLine::Workshop {
            format: WORKSHOP_FORMAT.to_owned(),
            version: WORKSHOP_VERSION,
        }];
        ready.extend(self.people().await?.into_iter().map(WorkshopLine::Person));
        ready.extend(profile::line(self.profile().await?).map(WorkshopLine::Profile));
        ready.extend(self.every_customer().await?.into_iter().map(WorkshopLine::Customer));
        ready.extend(self.instruments().await?.into_iter().map(WorkshopLine::Instrument));
        ready.extend(self.rule_changes().await?.into_iter().map(WorkshopLine::Rule));
        let weights = self.weights_file().await?;
        ready.extend(weights.signed.map(|signed| {
            WorkshopLine::Weights(WeightsLine {
                text: weights.text,
                reason: weights.reason,
                signed,
            })
        }));
        ready.push(WorkshopLine::Library(self.library_file().await?));
        ready.extend(self.shims().await?.into_iter().map(WorkshopLine::Shims));
        ready.reverse();
        let mut jobs = self.job_ids().await?;
        jobs.reverse();
        let (store, sets) = (self.clone(), true);
        Ok(WorkshopExport { store, ready, jobs, sets, written: 0, over: false })
    }

    /// Takes a workshop file in: all of it or nothing. What is here already stays as it is.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] with the number of the line and what is wrong with it.
    pub async fn import_workshop(
        &self,
        act: &Act,
        text: &str,
        signed: Signed,
    ) -> Result<WorkshopImported, StoreError> {
        let mut tx = self.write_settled().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(WorkshopImported::default());
        }
        let mut done = WorkshopImported::default();
        let mut ended = false;
        for (at, line) in text.lines().enumerate().filter(|(_, line)| !line.trim().is_empty()) {
            let here = |problem: &str| StoreError::field(&format!("line {}", at + 1), problem);
            if ended {
                return Err(here(words::NOTHING_MAY_FOLLOW_LAST));
            }
            let read: WorkshopLine = serde_json::from_str(line)
                .map_err(|error| here(&words::not_line_workshop_file(&error)))?;
            match (&read, done.lines) {
                (WorkshopLine::Workshop { format, version }, 0) => {
                    if format != WORKSHOP_FORMAT || *version != WORKSHOP_VERSION {
                        let says = words::version_needed(WORKSHOP_FORMAT, WORKSHOP_VERSION);
                        return Err(here(&says));
                    }
                }
                (WorkshopLine::Workshop { .. }, _) => {
                    return Err(here(words::ANOTHER_FILE_STARTS_HERE));
                }
                (_, 0) => return Err(here(words::FIRST_LINE_MUST_SAY)),
                (WorkshopLine::End { lines }, before) => {
                    if *lines != before {
                        let says = words::lines_written_here(lines, before);
                        return Err(here(&says));
                    }
                    ended = true;
                }
                (_, _) => {
                    take(&mut tx, &read, signed, &mut done).await.map_err(|e| at_line(e, at + 1))?
                }
            }
            done.lines += 1;
        }
        if !ended {
            let says = words::FILE_INCOMPLETE_LAST_LINE;
            return Err(StoreError::field("end", says));
        }
        acts::done(&mut tx, act, signed.at).await?;
        tx.commit().await?;
        self.read_units().await?;
        Ok(done)
    }
}

impl WorkshopExport {
    /// The next line; none after the last.
    ///
    /// # Errors
    /// The database error.
    pub async fn next(&mut self) -> Result<Option<String>, StoreError> {
        if self.over {
            return Ok(None);
        }
        let line = if let Some(line) = self.ready.pop() {
            line
        } else if let Some(job) = self.jobs.pop() {
            WorkshopLine::Job(Box::new(self.store.job(job).await?))
        } else if std::mem::take(&mut self.sets) {
            self.ready = self.store.all_sets().await?;
            self.ready.reverse();
            return Box::pin(self.next()).await;
        } else {
            self.over = true;
            WorkshopLine::End { lines: self.written }
        };
        self.written += 1;
        Ok(Some(format!("{}\n", serde_json::to_string(&line)?)))
    }
}

impl Store {
    /// Every set that stands, oldest first, with its place on the shelf.
    async fn all_sets(&self) -> Result<Vec<WorkshopLine>, StoreError> {
        let found = sqlx::query(
            "SELECT s.*, (SELECT json_group_array(m.injector_id) FROM kept_set_members m
                          WHERE m.set_id = s.id) AS members
             FROM kept_sets s WHERE s.apart_at IS NULL ORDER BY s.number",
        )
        .fetch_all(&self.pool)
        .await?;
        let one = |row: &sqlx::sqlite::SqliteRow| {
            Ok(WorkshopLine::KeptSet(KeptSetLine {
                kind: rows::name(row, "kind")?,
                family: row.try_get("family")?,
                set: crate::shelf::kept_set(row)?,
            }))
        };
        found.iter().map(one).collect()
    }
}
