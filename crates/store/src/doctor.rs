//! What a helper would ask first, looked up in one go. Reads only, also while a program serves the folder.

use crate::folder::DATABASE;
use crate::{StoreError, backups, checks, read_alone, rows, words};
use cobaltine_core::instrument::Instrument;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp};
use sqlx::{ConnectOptions, Connection, Row};
use std::fs;
use std::path::Path;

/// Room on the disk below which it is said, as a multiple of the database: a backup needs once as much,
/// a check as well.
const ROOM: u64 = 3;
/// A backup that is older than this is said.
const OLD: SignedDuration = SignedDuration::from_hours(48);

/// One line of what was looked up.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DoctorLine {
    /// What was looked at.
    pub what: &'static str,
    /// What was found.
    pub found: String,
    /// Nothing has to be done about it.
    pub fine: bool,
}

fn line(what: &'static str, found: String, fine: bool) -> DoctorLine {
    DoctorLine { what, found, fine }
}

/// Looks up versions, sizes, room, clock, instruments, backups and the last check.
///
/// # Errors
/// The database error; the file system's.
pub async fn doctor(
    data: &Path,
    backups_at: &Path,
    at: Timestamp,
) -> Result<Vec<DoctorLine>, StoreError> {
    let mut from = read_alone(&data.join(DATABASE)).connect().await?;
    let mut lines = Vec::new();
    let sqlite: String =
        sqlx::query("SELECT sqlite_version()").fetch_one(&mut from).await?.try_get(0)?;
    let versions = words::versions(env!("CARGO_PKG_VERSION"), &sqlite);
    lines.push(line(words::PROGRAM, versions, true));
    let (has, ours) = (checks::applied(&mut from).await?, checks::newest());
    lines.push(line(words::SCHEMA, words::schema_of(has, ours), has == ours));
    let size = |end: &str| {
        fs::metadata(data.join(format!("{DATABASE}{end}")))
            .map(|file| file.len())
            .unwrap_or_default()
    };
    let (database, log) = (size(""), size("-wal"));
    lines.push(line(words::SIZE, words::sizes(mib(database), mib(log)), true));
    let room = fs4::available_space(data)?;
    lines.push(line(words::ROOM_LEFT, words::mebibytes(mib(room)), room > ROOM * database));
    let newest: Option<String> = sqlx::query("SELECT MAX(at) AS at FROM commands")
        .fetch_one(&mut from)
        .await?
        .try_get("at")?;
    let newest = newest.map(|text| rows::time(&text)).transpose()?;
    let behind = newest.filter(|newest| *newest > at + SignedDuration::from_mins(5));
    let clock = match behind {
        Some(newest) => words::clock_behind(at, newest),
        None => at.to_string(),
    };
    lines.push(line(words::CLOCK, clock, behind.is_none()));
    let today = TimeZone::system().to_datetime(at).date();
    let instruments = sqlx::query("SELECT detail FROM instruments").fetch_all(&mut from).await?;
    let mut due = Vec::new();
    for row in &instruments {
        let one: Instrument = rows::json(row, "detail")?;
        if one.overdue(today).is_some() {
            due.push(one.name);
        }
    }
    let says = if due.is_empty() { words::NONE_DUE.to_owned() } else { due.join(", ") };
    lines.push(line(words::INSTRUMENTS_DUE, says, due.is_empty()));
    let last = backups(backups_at)?.into_iter().next();
    let (says, fine) = match &last {
        Some(last) => {
            let age = at.duration_since(last.manifest.at);
            (words::backup_of(last.manifest.at, mib(last.manifest.bytes)), age < OLD)
        }
        None => (words::NO_BACKUP_YET.to_owned(), false),
    };
    lines.push(line(words::LAST_BACKUP, says, fine));
    let (says, fine) = match checks::last(data)? {
        Some((text, good)) => (text, good),
        None => (words::NO_CHECK_YET.to_owned(), false),
    };
    lines.push(line(words::LAST_CHECK, says, fine));
    from.close().await?;
    Ok(lines)
}

fn mib(bytes: u64) -> u64 {
    bytes >> 20
}
