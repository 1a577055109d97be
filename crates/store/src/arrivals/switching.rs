//! A file that was looked at is switched in, a piece at a time: none holds up others for long.

use super::watch::Watch;
use super::{Arrival, discard};
use crate::library_file::{self, ROWS};
use crate::transfer::at_home;
use crate::workshop::take::{self, at_line, limits};
use crate::workshop::{Line, Lines, WorkshopImported, WorkshopLine};
use crate::writing::{PIECE, breathe};
use crate::{Store, StoreError, rows};
use cobaltine_core::library::{LibraryFamily, LibraryItem, ReadRow};
use cobaltine_core::record::{FieldProblem, JobFile, Signed};
use jiff::Timestamp;
use sqlx::SqliteConnection;
use std::collections::VecDeque;
use std::time::{Duration, Instant};

/// Portions that are read ahead.
const AHEAD: usize = 32;
/// What could not be taken in any more is named in this number.
const NAMED: usize = 20;
/// Before another try, where the disk is full or busy.
const MOMENT: Duration = Duration::from_secs(1);

/// A part of a line that is taken in at once.
#[derive(Debug)]
struct Portion {
    at: usize,
    /// The line is in with it.
    last: bool,
    what: What,
}

#[derive(Debug)]
enum What {
    Job(Box<JobFile>),
    Library(Vec<LibraryFamily>, Vec<ReadRow>, Vec<LibraryItem>),
    Line(Box<WorkshopLine>),
}

impl Store {
    /// Goes on with what was begun, to its end.
    pub(super) async fn switch_in(
        &self,
        mut arrival: Arrival,
        watch: &Watch,
    ) -> Result<WorkshopImported, StoreError> {
        let file = self.staged(arrival.act.id)?;
        let mut lines = Lines::open(&file)?;
        let mut ready = VecDeque::new();
        let mut before = arrival.done.lines;
        loop {
            watch.at(arrival.done.lines, arrival.lines);
            while ready.len() < AHEAD {
                let read;
                (lines, read) = lines.ahead(AHEAD).await?;
                if read.is_empty() {
                    break;
                }
                for line in read {
                    if before > 0 {
                        before -= 1;
                        continue;
                    }
                    Self::portions(line, &mut ready)?;
                }
            }
            let Some(next) = ready.front() else { break };
            if matches!(&next.what, What::Line(line) if matches!(**line, WorkshopLine::KeptSet(_)))
            {
                // What stands together is looked for on the shelf.
                self.freshen().await?;
            }
            let begun = Instant::now();
            match self.piece(&mut arrival, &mut ready).await {
                Ok(()) => breathe(begun).await,
                Err(StoreError::DiskFull | StoreError::Disk(_) | StoreError::Busy) => {
                    tokio::time::sleep(MOMENT).await;
                }
                Err(error) => return Err(error),
            }
        }
        let mut tx = self.write().await?;
        sqlx::query("UPDATE arrivals SET ended_at = ? WHERE id = ?")
            .bind(rows::stamp(Timestamp::now()))
            .bind(arrival.act.id.to_string())
            .execute(&mut *tx)
            .await?;
        if arrival.done.rules {
            Self::rules_changed(&mut tx, None).await?;
        }
        tx.commit().await?;
        self.list_stale().await?;
        self.read_units().await?;
        discard(&file);
        Ok(arrival.done)
    }

    /// A line, in portions that are taken in at once.
    fn portions(line: Line, into: &mut VecDeque<Portion>) -> Result<(), StoreError> {
        let Line { at, read } = line;
        let mut portion = |last, what| into.push_back(Portion { at, last, what });
        if let WorkshopLine::Job(file) = read {
            portion(true, What::Job(file));
        } else if let WorkshopLine::Library(file) = read {
            let rows = limits(&file).map_err(|error| at_line(error, at))?;
            for some in file.families.chunks(ROWS) {
                portion(false, What::Library(some.to_vec(), Vec::new(), Vec::new()));
            }
            for some in rows.chunks(ROWS) {
                portion(false, What::Library(Vec::new(), some.to_vec(), Vec::new()));
            }
            // The last of them, also where it has none.
            let mut items = file.items;
            while items.len() > ROWS {
                let rest = items.split_off(ROWS);
                portion(false, What::Library(Vec::new(), Vec::new(), items));
                items = rest;
            }
            portion(true, What::Library(Vec::new(), Vec::new(), items));
        } else {
            portion(true, What::Line(Box::new(read)));
        }
        Ok(())
    }

    /// As many portions as fit into one short turn; where it fails nothing of them is in, and they wait
    /// for the next.
    async fn piece(
        &self,
        arrival: &mut Arrival,
        ready: &mut VecDeque<Portion>,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let (until, mut done, mut taken) = (Instant::now() + PIECE, arrival.done.clone(), 0);
        for portion in ready.iter() {
            if taken > 0 && Instant::now() > until {
                break;
            }
            if let What::Job(job) = &portion.what {
                tx = tx.to(job.job.id);
            } else {
                tx = tx.for_all();
            }
            // Somebody may have written what does not go with it since the whole was looked at: that
            // line is left out, and named.
            sqlx::query("SAVEPOINT line").execute(&mut *tx).await?;
            match portion.take(&mut tx, arrival.signed, &mut done).await {
                Ok(()) => {
                    sqlx::query("RELEASE line").execute(&mut *tx).await?;
                }
                Err(error) if error.is_fault() => return Err(error),
                Err(error) => {
                    tracing::warn!(%error, "left out");
                    sqlx::query("ROLLBACK TO line").execute(&mut *tx).await?;
                    sqlx::query("RELEASE line").execute(&mut *tx).await?;
                    done.leave_out(at_line(error, portion.at));
                }
            }
            done.lines += u64::from(portion.last);
            taken += 1;
        }
        sqlx::query(
            "UPDATE arrivals SET done = ?, new_jobs = ?, same_jobs = ?, left_out = ? WHERE id = ?",
        )
        .bind(done.lines as i64)
        .bind(done.new_jobs as i64)
        .bind(done.same_jobs as i64)
        .bind(serde_json::to_string(&done.left_out)?)
        .bind(arrival.act.id.to_string())
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        ready.drain(..taken);
        arrival.done = done;
        Ok(())
    }
}

impl Portion {
    async fn take(
        &self,
        connection: &mut SqliteConnection,
        signed: Signed,
        done: &mut WorkshopImported,
    ) -> Result<(), StoreError> {
        match &self.what {
            // What its family is called here may have come in with a line before it.
            What::Job(file) => {
                let looked = at_home(connection, file).await?;
                take::job(connection, looked, signed, done).await
            }
            What::Library(families, rows, items) => {
                let signed = Some(signed);
                let changes =
                    library_file::take_in(connection, families, rows, items, signed, None).await?;
                done.rules |= changes.iter().any(|one| one.change != crate::Change::Same);
                Ok(())
            }
            What::Line(line) => take::line(connection, line, signed, done).await,
        }
    }
}

impl WorkshopImported {
    fn leave_out(&mut self, error: StoreError) {
        let says = error.to_string();
        let problems = if let StoreError::Invalid(problems) = error {
            problems
        } else {
            vec![FieldProblem::new("line", says)]
        };
        self.left_out.extend(problems);
        self.left_out.truncate(NAMED);
    }
}
