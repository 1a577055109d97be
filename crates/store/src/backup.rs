//! Backups: a consistent copy of the database while it is written to, looked at, packed, and named by
//! its sums. One that was interrupted has no name, and is never taken for one.
//!
//! A backup is a folder: `manifest.json` and `database.sqlite.gz`. It is made beside the folder that
//! is served, or by another process: reading alone, it waits for nobody and nobody waits for it.

use crate::folder::{self, DATABASE};
use crate::{StoreError, checks, log, read_alone, words};
use flate2::Compression;
use flate2::read::GzDecoder;
use flate2::write::GzEncoder;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use sqlx::{ConnectOptions, Connection, SqlitePool};
use std::fs::File;
use std::io::{BufReader, BufWriter, ErrorKind};
use std::path::{Path, PathBuf};
use utoipa::ToSchema;

const FORMAT: u32 = 1;
const MANIFEST: &str = "manifest.json";
const PACKED: &str = "database.sqlite.gz";
/// What is not finished ends so.
const PART: &str = "part";

/// What a backup says of itself.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Manifest {
    /// Of this file: 1.
    pub format: u32,
    /// Version of the program that made it.
    pub program: String,
    /// Newest step of its database.
    pub schema: i64,
    /// When, ISO 8601, UTC.
    #[schema(value_type = String, format = DateTime)]
    pub at: Timestamp,
    /// Jobs in it.
    pub jobs: u64,
    /// Rows of its log.
    pub rows: u64,
    /// Hash of the last of them.
    pub tail: String,
    /// SHA-256 of the database.
    pub database: String,
    /// SHA-256 of the packed file.
    pub packed: String,
    /// Bytes of the packed file.
    pub bytes: u64,
}

/// A backup that is whole.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Backup {
    /// Its folder.
    pub path: PathBuf,
    /// What it says of itself.
    pub manifest: Manifest,
}

/// The backups of a folder, newest first; what was interrupted is none.
///
/// # Errors
/// The file system's.
pub fn backups(at: &Path) -> Result<Vec<Backup>, StoreError> {
    let entries = match std::fs::read_dir(at) {
        Ok(entries) => entries,
        Err(error) if error.kind() == ErrorKind::NotFound => return Ok(Vec::new()),
        Err(error) => return Err(error.into()),
    };
    let mut found = Vec::new();
    for entry in entries {
        let path = entry?.path();
        if path.extension().is_none_or(|end| end != PART)
            && let Ok(manifest) = read(&path)
        {
            found.push(Backup { path, manifest });
        }
    }
    found.sort_by_key(|one| std::cmp::Reverse(one.manifest.at));
    Ok(found)
}

fn read(backup: &Path) -> Result<Manifest, StoreError> {
    Ok(serde_json::from_slice(&std::fs::read(backup.join(MANIFEST))?)?)
}

/// Makes a backup of a data folder, also while a program serves it, and keeps the newest `keep`.
///
/// # Errors
/// [`StoreError::Damaged`] when the database did not pass its check: then nothing was made, and the
/// backups from before stay. The file system's.
pub async fn back_up(
    data: &Path,
    to: &Path,
    keep: usize,
    at: Timestamp,
) -> Result<Backup, StoreError> {
    std::fs::create_dir_all(to)?;
    let name = at.strftime("cobaltine-%Y%m%dT%H%M%S%.3fZ").to_string();
    let part = to.join(format!("{name}.{PART}"));
    clear_parts(to)?;
    std::fs::create_dir(&part)?;
    let made = made(data, &part, at).await;
    let done = made.and_then(|manifest| {
        let path = to.join(&name);
        std::fs::rename(&part, &path)?;
        sync(to)?;
        Ok(Backup { path, manifest })
    });
    if done.is_err() {
        let _ = std::fs::remove_dir_all(&part);
        return done;
    }
    for old in backups(to)?.into_iter().skip(keep.max(1)) {
        // First no backup any more, then gone: one that is half removed is none.
        let gone = old.path.with_extension(PART);
        std::fs::rename(&old.path, &gone)?;
        std::fs::remove_dir_all(&gone)?;
    }
    done
}

/// Copies a folder that a newer program is about to change, and keeps every such copy.
pub(crate) async fn before_upgrade(pool: &SqlitePool, data: &Path) -> Result<(), StoreError> {
    let applied = checks::applied(&mut *pool.acquire().await?).await?;
    if applied == 0 || applied == checks::newest() {
        return Ok(());
    }
    let to = data.join(format!("before-{}", env!("CARGO_PKG_VERSION")));
    let made = back_up(data, &to, usize::MAX, Timestamp::now()).await?;
    tracing::info!(at = %made.path.display(), "copied");
    Ok(())
}

/// What an interrupted backup has left.
fn clear_parts(at: &Path) -> Result<(), StoreError> {
    for entry in std::fs::read_dir(at)? {
        let path = entry?.path();
        let ours = path.file_name().is_some_and(|n| n.to_string_lossy().starts_with("cobaltine-"));
        if ours && path.extension().is_some_and(|end| end == PART) {
            std::fs::remove_dir_all(&path)?;
        }
    }
    Ok(())
}

async fn made(data: &Path, part: &Path, at: Timestamp) -> Result<Manifest, StoreError> {
    let plain = part.join("database.sqlite");
    let source = data.join(DATABASE);
    if !source.exists() {
        return Err(StoreError::Damaged(words::DATABASE_GONE.to_owned()));
    }
    copy(&source, &plain).await?;
    let (jobs, rows, tail, schema) = looked_at(&plain).await?;
    let packed = part.join(PACKED);
    let to = packed.clone();
    let (database, packed) = beside(move || {
        let database = folder::sum(&plain)?;
        pack(&plain, &to)?;
        std::fs::remove_file(&plain)?;
        Ok((database, folder::sum(&to)?))
    })
    .await?;
    let bytes = std::fs::metadata(part.join(PACKED))?.len();
    let program = env!("CARGO_PKG_VERSION").to_owned();
    let manifest =
        Manifest { format: FORMAT, program, schema, at, jobs, rows, tail, database, packed, bytes };
    folder::replace(&part.join(MANIFEST), &serde_json::to_vec_pretty(&manifest)?)?;
    sync(part)?;
    Ok(manifest)
}

/// A copy as it is at this moment, also while others write; they do not wait for it.
pub(crate) async fn copy(source: &Path, to: &Path) -> Result<(), StoreError> {
    let mut from = read_alone(source).connect().await?;
    let into = sqlx::query("VACUUM INTO ?1").bind(to.to_string_lossy().into_owned());
    into.execute(&mut from).await?;
    Ok(from.close().await?)
}

/// Looks at a database that nobody has open, to the last row of its log.
async fn looked_at(file: &Path) -> Result<(u64, u64, String, i64), StoreError> {
    let mut copy = read_alone(file).connect().await?;
    if let Some(torn) = folder::torn(&mut copy, false).await? {
        return Err(StoreError::Damaged(torn));
    }
    let schema = checks::applied(&mut copy).await?;
    // An older program had no log to look at.
    let (rows, tail) = if schema < checks::LOGGED {
        (0, String::new())
    } else {
        let check = log::check(&mut copy).await?;
        if let Some(broken) = check.broken {
            return Err(StoreError::Damaged(broken));
        }
        (check.rows, log::last_hash(&mut copy).await?)
    };
    let jobs = sqlx::query("SELECT COUNT(*) AS jobs FROM jobs").fetch_one(&mut copy).await?;
    let jobs = crate::rows::count(&jobs, "jobs")?;
    copy.close().await?;
    Ok((jobs, rows, tail, schema))
}

/// Restores a backup into a folder that is empty or not there. All of it is looked at before it gets its
/// name; where anything is wrong, the folder is as it was.
///
/// # Errors
/// [`StoreError::Conflict`] when the folder is not empty; [`StoreError::Newer`];
/// [`StoreError::Damaged`] when the backup is not what it says.
pub async fn restore(backup: &Path, data: &Path) -> Result<Manifest, StoreError> {
    let manifest = match read(backup) {
        Ok(manifest) => manifest,
        Err(StoreError::Io(error)) if error.kind() == ErrorKind::NotFound => {
            return Err(StoreError::Damaged(words::NO_BACKUP_HERE.to_owned()));
        }
        Err(error) => return Err(StoreError::Damaged(error.to_string())),
    };
    if manifest.format > FORMAT || manifest.schema > checks::newest() {
        return Err(StoreError::Newer);
    }
    let was_there = data.exists();
    if was_there && std::fs::read_dir(data)?.next().is_some() {
        return Err(StoreError::Conflict(words::RESTORE_INTO_EMPTY.to_owned()));
    }
    std::fs::create_dir_all(data)?;
    let done = restored(backup, data, &manifest).await;
    if done.is_err() {
        let _ = std::fs::remove_dir_all(data);
        if was_there {
            std::fs::create_dir(data)?;
        }
    }
    done.map(|()| manifest)
}

async fn restored(backup: &Path, data: &Path, manifest: &Manifest) -> Result<(), StoreError> {
    let (packed, part) = (backup.join(PACKED), data.join(format!("database.{PART}")));
    let (to, says) = (part.clone(), manifest.clone());
    beside(move || {
        let damaged = |why: &str| StoreError::Damaged(why.to_owned());
        if folder::sum(&packed)? != says.packed {
            return Err(damaged(words::BACKUP_CHANGED));
        }
        let mut from = GzDecoder::new(BufReader::new(File::open(&packed)?));
        let mut file = File::create(&to)?;
        std::io::copy(&mut from, &mut file)?;
        file.sync_all()?;
        if folder::sum(&to)? == says.database {
            Ok(())
        } else {
            Err(damaged(words::BACKUP_CHANGED))
        }
    })
    .await?;
    let (_, rows, tail, _) = looked_at(&part).await?;
    if (rows, &tail) != (manifest.rows, &manifest.tail) {
        return Err(StoreError::Damaged(words::BACKUP_CHANGED.to_owned()));
    }
    folder::restored(data, &manifest.database, &tail)?;
    std::fs::rename(&part, data.join(DATABASE))?;
    sync(data)
}

fn pack(from: &Path, to: &Path) -> Result<(), StoreError> {
    let mut from = BufReader::new(File::open(from)?);
    let mut packer = GzEncoder::new(BufWriter::new(File::create(to)?), Compression::fast());
    std::io::copy(&mut from, &mut packer)?;
    let file = packer.finish()?.into_inner().map_err(|error| error.into_error())?;
    file.sync_all()?;
    Ok(())
}

/// Makes names durable.
fn sync(folder: &Path) -> Result<(), StoreError> {
    // Where folders cannot be opened as files, their names are durable by themselves.
    if let Ok(folder) = File::open(folder) {
        let _ = folder.sync_all();
    }
    Ok(())
}

/// Work of seconds, off the threads that answer.
async fn beside<T: Send + 'static>(
    work: impl FnOnce() -> Result<T, StoreError> + Send + 'static,
) -> Result<T, StoreError> {
    tokio::task::spawn_blocking(work).await.map_err(std::io::Error::other)?
}
