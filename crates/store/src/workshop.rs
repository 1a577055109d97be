//! The whole workshop as one open file: a JSON object a line, so that it can be read and written a
//! line at a time; the last line counts the others, so that a truncated file is known as one.
//!
//! `docs/workshop-file.md` describes it. How it comes in stands in `arrivals.rs`.

pub(crate) mod take;

use crate::limits::newest_of;
use crate::rows;
use crate::words;
use crate::{KeptSet, ProfileLine, RuleRecord, Store, StoreError, profile};
use cobaltine_core::connection::Connection;
use cobaltine_core::customer::Customer;
use cobaltine_core::instrument::Instrument;
use cobaltine_core::library::LibraryFile;
use cobaltine_core::record::{FieldProblem, JobFile, Person, Signed};
use cobaltine_core::tests::bench::{BenchKind, Shim};
use serde::{Deserialize, Serialize};
use sqlx::Row;
use std::fs::File;
use std::io::{BufRead, BufReader, Read};
use std::path::Path;
use utoipa::ToSchema;
use uuid::Uuid;

/// Says what the file is.
pub const WORKSHOP_FORMAT: &str = "cobaltine.workshop";
/// Version of the lines below.
pub const WORKSHOP_VERSION: u32 = 1;

/// Families whose limits stand in one line of a large library.
const FAMILIES_A_LINE: usize = 100;
/// Bytes that are read ahead, at least one line.
const AHEAD: u64 = 1 << 20;
/// A line is cut off after so many bytes, which makes it one that cannot be read.
const LONGEST_LINE: u64 = 32 << 20;

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
    /// Where an instrument is reached.
    Connection(Connection),
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
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct WorkshopImported {
    /// Lines that were read.
    pub lines: u64,
    /// Jobs that are new here.
    pub new_jobs: u64,
    /// Jobs that were here already, the very same.
    pub same_jobs: u64,
    /// Lines that do not go with what others wrote while the file was looked at, and why.
    pub left_out: Vec<FieldProblem>,
    /// Something was added that other jobs are judged by.
    #[serde(skip)]
    pub(crate) rules: bool,
}

/// A line with its number in the file.
#[derive(Debug)]
pub(crate) struct Line {
    pub at: usize,
    pub read: WorkshopLine,
}

/// The lines of a file, in the order in which they have to stand.
#[derive(Debug)]
pub(crate) struct Lines {
    file: BufReader<File>,
    /// Number of the line that was read last, lines that count, and bytes.
    at: usize,
    lines: u64,
    bytes: u64,
    ended: bool,
}

impl Lines {
    pub fn open(file: &Path) -> Result<Self, StoreError> {
        let file = BufReader::new(File::open(file)?);
        Ok(Self { file, at: 0, lines: 0, bytes: 0, ended: false })
    }

    /// What was read of the file.
    pub fn bytes(&self) -> u64 {
        self.bytes
    }

    /// The next lines, read off the threads that answer; none after the last.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] with the number of the line.
    pub async fn ahead(mut self, most: usize) -> Result<(Self, Vec<Line>), StoreError> {
        let read = move || {
            let (mut lines, begun) = (Vec::new(), self.bytes);
            while lines.len() < most && self.bytes - begun < AHEAD {
                match self.next()? {
                    Some(line) => lines.push(line),
                    None => break,
                }
            }
            Ok((self, lines))
        };
        tokio::task::spawn_blocking(read).await.map_err(std::io::Error::other)?
    }

    fn next(&mut self) -> Result<Option<Line>, StoreError> {
        let mut text = Vec::new();
        loop {
            text.clear();
            let read = (&mut self.file).take(LONGEST_LINE).read_until(b'\n', &mut text)?;
            self.at += 1;
            self.bytes += read as u64;
            if read == 0 {
                let says = words::FILE_INCOMPLETE_LAST_LINE;
                return if self.ended { Ok(None) } else { Err(StoreError::field("end", says)) };
            }
            if !text.trim_ascii().is_empty() {
                break;
            }
        }
        let here = |problem: &str| StoreError::field(&format!("line {}", self.at), problem);
        if self.ended {
            return Err(here(words::NOTHING_MAY_FOLLOW_LAST));
        }
        let read: WorkshopLine = serde_json::from_slice(&text)
            .map_err(|error| here(&words::not_line_workshop_file(&error)))?;
        match (&read, self.lines) {
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
                    return Err(here(&words::lines_written_here(lines, before)));
                }
                self.ended = true;
            }
            (_, _) => {}
        }
        self.lines += 1;
        Ok(Some(Line { at: self.at, read }))
    }
}

/// A line that stands, or that is read when its turn comes.
#[derive(Debug)]
enum Ready {
    Line(WorkshopLine),
    /// Limits of these families.
    Limits(Vec<String>),
}

/// An export that is under way.
#[derive(Debug)]
pub struct WorkshopExport {
    store: Store,
    /// Lines that are ready, last first.
    ready: Vec<Ready>,
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
        ready.extend(self.all_listed().await?.into_iter().map(WorkshopLine::Connection));
        ready.extend(self.rule_changes().await?.into_iter().map(WorkshopLine::Rule));
        let weights = self.weights_file().await?;
        ready.extend(weights.signed.map(|signed| {
            WorkshopLine::Weights(WeightsLine {
                text: weights.text,
                reason: weights.reason,
                signed,
            })
        }));
        let mut ready: Vec<Ready> = ready.into_iter().map(Ready::Line).collect();
        ready.extend(self.library_lines().await?);
        let shims = self.shims().await?.into_iter().map(WorkshopLine::Shims);
        ready.extend(shims.map(Ready::Line));
        ready.reverse();
        let mut jobs = self.job_ids().await?;
        jobs.reverse();
        let (store, sets) = (self.clone(), true);
        Ok(WorkshopExport { store, ready, jobs, sets, written: 0, over: false })
    }
}

impl WorkshopExport {
    /// Lines that were written, and about how many there are.
    pub fn progress(&self) -> (u64, u64) {
        (self.written, self.written + (self.ready.len() + self.jobs.len()) as u64)
    }

    /// The next line; none after the last.
    ///
    /// # Errors
    /// The database error.
    pub async fn next(&mut self) -> Result<Option<String>, StoreError> {
        if self.over {
            return Ok(None);
        }
        let line = if let Some(ready) = self.ready.pop() {
            match ready {
                Ready::Line(line) => line,
                Ready::Limits(names) => {
                    let names = names.iter().map(String::as_str).collect();
                    let limits = newest_of(&mut *self.store.pool.acquire().await?, &names).await?;
                    WorkshopLine::Library(LibraryFile::new(Vec::new(), limits, Vec::new()))
                }
            }
        } else if let Some(job) = self.jobs.pop() {
            WorkshopLine::Job(Box::new(self.store.job(job).await?))
        } else if std::mem::take(&mut self.sets) {
            let sets = self.store.all_sets().await?;
            self.ready = sets.into_iter().rev().map(Ready::Line).collect();
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
    /// The library: one line where it is small; a large one in lines that are read and written one at a
    /// time, families first, as the limits name them.
    async fn library_lines(&self) -> Result<Vec<Ready>, StoreError> {
        let names = sqlx::query("SELECT name FROM families ORDER BY name COLLATE NOCASE")
            .fetch_all(&self.pool)
            .await?;
        let names: Vec<String> =
            names.iter().map(|row| row.try_get("name")).collect::<Result<_, _>>()?;
        let line = |file| Ready::Line(WorkshopLine::Library(file));
        if names.len() <= FAMILIES_A_LINE {
            return Ok(vec![line(self.library_file().await?)]);
        }
        let (families, items) = self.families_and_items().await?;
        let limits = names.chunks(FAMILIES_A_LINE).map(|some| Ready::Limits(some.to_vec()));
        let mut lines = vec![line(LibraryFile::new(families, Vec::new(), Vec::new()))];
        lines.extend(limits);
        lines.push(line(LibraryFile::new(Vec::new(), Vec::new(), items)));
        Ok(lines)
    }

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
