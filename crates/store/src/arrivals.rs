//! A workshop file in. It is staged beside the database and looked at whole in a copy that is thrown
//! away, by the same code that takes it in, while everyone works on. Then it is switched in a piece at a
//! time, none of them holding up others for long. What was begun to be switched in is brought to its end,
//! at the next start where it must be.

mod switching;
mod watch;

pub use watch::Watch;

use crate::acts::{self, Act};
use crate::folder::DATABASE;
use crate::workshop::take::{self, at_line};
use crate::workshop::{Line, Lines, WorkshopImported, WorkshopLine};
use crate::writing::breathe;
use crate::{Store, StoreError, backup, options_of, rows, words};
use cobaltine_core::record::{Injector, Signed};
use sqlx::sqlite::SqliteRow;
use sqlx::{ConnectOptions, Connection, Row, SqliteConnection};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::time::Instant;
use uuid::Uuid;
use watch::SWITCHING;

impl Arrival {
    /// Who asked for it.
    pub fn by(&self) -> Uuid {
        self.signed.by
    }

    /// What was asked for.
    pub fn act(&self) -> &Act {
        &self.act
    }
}

/// Takes away what is of no more use; where it cannot be now, it is at the next start.
fn discard(file: &Path) {
    if let Err(error) = std::fs::remove_file(file) {
        tracing::warn!(%error, file = %file.display(), "still there");
    }
}

/// Folders of staged files and of those that wait to be fetched, beside the database.
const STAGED: &str = "arriving";
const LEAVING: &str = "leaving";
/// Lines that are read ahead.
const AHEAD: usize = 32;

/// A file that is being switched in.
#[derive(Debug)]
pub struct Arrival {
    act: Act,
    signed: Signed,
    lines: u64,
    done: WorkshopImported,
}

impl Store {
    /// Where the file of an import is staged. It is taken away when the import has come to its end.
    ///
    /// # Errors
    /// The file system's.
    pub fn staged(&self, import: Uuid) -> Result<PathBuf, StoreError> {
        let folder = self.shared.folder.at(STAGED);
        std::fs::create_dir_all(&folder)?;
        Ok(folder.join(format!("{import}.jsonl")))
    }

    /// Where an export is written until it is fetched. What a program that ended left is taken away at
    /// the next start.
    ///
    /// # Errors
    /// The file system's.
    pub fn leaving(&self, export: Uuid) -> Result<PathBuf, StoreError> {
        let folder = self.shared.folder.at(LEAVING);
        std::fs::create_dir_all(&folder)?;
        Ok(folder.join(export.to_string()))
    }

    /// Takes in the workshop file that was staged under the id of this act: all of it or nothing. What
    /// is here already stays as it is. None when it was stopped.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] with the number of the line and what is wrong with it.
    pub async fn import_workshop(
        &self,
        act: &Act,
        signed: Signed,
        watch: &Watch,
    ) -> Result<Option<WorkshopImported>, StoreError> {
        let file = self.staged(act.id)?;
        if acts::done_before(&mut *self.pool.acquire().await?, act).await? {
            discard(&file);
            return Ok(Some(self.arrived(act.id).await?));
        }
        let begun = self.begin(act, &file, signed, watch).await;
        let Ok(Some(arrival)) = begun else {
            discard(&file);
            return begun.map(|_| None);
        };
        self.switch_in(arrival, watch).await.map(Some)
    }

    /// Looks at a file, and says beside the data that it will be in. None when it was stopped.
    async fn begin(
        &self,
        act: &Act,
        file: &Path,
        signed: Signed,
        watch: &Watch,
    ) -> Result<Option<Arrival>, StoreError> {
        if let Some(why) = self.read_only() {
            return Err(StoreError::ReadOnly(why.to_owned()));
        }
        let Some(lines) = self.look_through(act.id, file, signed, watch).await? else {
            return Ok(None);
        };
        if !watch.becomes(SWITCHING) {
            return Ok(None);
        }
        let mut tx = self.write().await?;
        acts::done(&mut tx, act, signed.at).await?;
        sqlx::query("INSERT INTO arrivals VALUES (?, ?, ?, ?, 0, 0, 0, '[]', NULL)")
            .bind(act.id.to_string())
            .bind(signed.by.to_string())
            .bind(rows::stamp(signed.at))
            .bind(lines as i64)
            .execute(&mut *tx)
            .await?;
        tx.commit_quietly().await?;
        let done = WorkshopImported::default();
        Ok(Some(Arrival { act: act.clone(), signed, lines, done }))
    }

    /// What an import did that was begun before.
    async fn arrived(&self, id: Uuid) -> Result<WorkshopImported, StoreError> {
        let row = sqlx::query("SELECT * FROM arrivals WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        done(&row.ok_or(StoreError::NotFound("import"))?)
    }

    /// What was being switched in when the program ended. What else was staged then is taken away: asked
    /// before anything is staged anew.
    ///
    /// # Errors
    /// Those of the database and the file system.
    pub async fn arrivals(&self) -> Result<Vec<Arrival>, StoreError> {
        if self.read_only().is_some() {
            return Ok(Vec::new());
        }
        let open = sqlx::query(
            "SELECT a.*, c.content FROM arrivals a JOIN commands c ON c.id = a.id
             WHERE a.ended_at IS NULL",
        )
        .fetch_all(&self.pool)
        .await?;
        let open = open.iter().map(arrival).collect::<Result<Vec<_>, _>>()?;
        self.clear_staged(&open)?;
        Ok(open)
    }

    /// Brings it to its end.
    ///
    /// # Errors
    /// When the file that was staged is not what it was.
    pub async fn take_up(
        &self,
        arrival: Arrival,
        watch: &Watch,
    ) -> Result<WorkshopImported, StoreError> {
        watch.becomes(SWITCHING);
        let taken = self.switch_in(arrival, watch).await;
        taken.inspect_err(|error| {
            tracing::error!(%error, "an import could not be brought to its end");
        })
    }

    /// Takes away what nobody goes on with.
    fn clear_staged(&self, open: &[Arrival]) -> Result<(), StoreError> {
        if let Ok(left) = std::fs::read_dir(self.shared.folder.at(LEAVING)) {
            left.flatten().try_for_each(|file| std::fs::remove_file(file.path()))?;
        }
        let Ok(files) = std::fs::read_dir(self.shared.folder.at(STAGED)) else { return Ok(()) };
        for file in files.flatten().map(|file| file.path()) {
            let stem = file.file_stem().map(|stem| stem.to_string_lossy().into_owned());
            if !open.iter().any(|one| Some(one.act.id.to_string()) == stem) {
                std::fs::remove_file(file)?;
            }
        }
        Ok(())
    }

    /// Takes the whole file into a copy of the database that nobody else sees. The lines that it has;
    /// none when it was stopped.
    async fn look_through(
        &self,
        id: Uuid,
        file: &Path,
        signed: Signed,
        watch: &Watch,
    ) -> Result<Option<u64>, StoreError> {
        let bytes = std::fs::metadata(file)?.len();
        watch.at(0, bytes);
        let copy = file.with_file_name(format!("{id}.sqlite"));
        let _ = std::fs::remove_file(&copy);
        backup::copy(&self.shared.folder.at(DATABASE), &copy).await?;
        let looked = look_in(&copy, file, signed, watch).await;
        discard(&copy);
        looked
    }
}

fn done(row: &SqliteRow) -> Result<WorkshopImported, StoreError> {
    Ok(WorkshopImported {
        lines: rows::count(row, "done")?,
        new_jobs: rows::count(row, "new_jobs")?,
        same_jobs: rows::count(row, "same_jobs")?,
        left_out: rows::json(row, "left_out")?,
        rules: true,
    })
}

fn arrival(row: &SqliteRow) -> Result<Arrival, StoreError> {
    let act = Act { id: rows::id(row, "id")?, content: row.try_get("content")? };
    let (signed, lines) = (rows::signed(row)?, rows::count(row, "lines")?);
    Ok(Arrival { act, signed, lines, done: done(row)? })
}

async fn look_in(
    copy: &Path,
    file: &Path,
    signed: Signed,
    watch: &Watch,
) -> Result<Option<u64>, StoreError> {
    // Nothing of it is kept: it need not survive anything.
    let open = options_of(copy)
        .journal_mode(sqlx::sqlite::SqliteJournalMode::Off)
        .synchronous(sqlx::sqlite::SqliteSynchronous::Off)
        .optimize_on_close(false, None);
    let mut scratch = open.connect().await?;
    let looked = lines_in(&mut scratch, file, signed, watch).await;
    scratch.close().await?;
    looked
}

async fn lines_in(
    scratch: &mut SqliteConnection,
    file: &Path,
    signed: Signed,
    watch: &Watch,
) -> Result<Option<u64>, StoreError> {
    let (_, bytes) = watch.progress();
    let mut lines = Lines::open(file)?;
    let mut done = WorkshopImported::default();
    let mut owners: HashMap<Uuid, Uuid> = HashMap::new();
    sqlx::query("BEGIN").execute(&mut *scratch).await?;
    loop {
        let read;
        (lines, read) = lines.ahead(AHEAD).await?;
        if read.is_empty() {
            return Ok(Some(done.lines));
        }
        let begun = Instant::now();
        for Line { at, read } in read {
            if watch.is_stopped() {
                return Ok(None);
            }
            if let WorkshopLine::Job(file) = &read {
                let job = file.job.id;
                let twice = |one: &Injector| *owners.entry(one.id).or_insert(job) != job;
                if file.job.injectors.iter().any(twice) {
                    let says = words::INJECTOR_ROW_FILE_BELONGS;
                    return Err(at_line(StoreError::Conflict(says.to_owned()), at));
                }
            }
            let taken = take::looked_at(&mut *scratch, &read, signed, &mut done).await;
            taken.map_err(|error| at_line(error, at))?;
            done.lines += 1;
        }
        watch.at(lines.bytes(), bytes);
        breathe(begun).await;
    }
}
