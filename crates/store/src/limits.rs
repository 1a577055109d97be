//! Limits: read, revised, and taken in from a file after a look at what would change.

use crate::families::families_by_name;
use crate::library::{LibraryLine, LineKind, write_family, write_line};
use crate::rows;
use crate::{Store, StoreError};
use cobaltine_core::library::{
    FamilyDetail, FamilyKind, LibraryFamily, LimitCheck, LimitEntry, ReadRow,
};
use cobaltine_core::record::Signed;
use serde::{Deserialize, Serialize};
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use std::collections::{BTreeSet, HashMap};
use utoipa::ToSchema;
use uuid::Uuid;

const LIMIT: &str =
    "SELECT l.id, f.name AS family, l.check_id, l.condition, l.revision, l.lower, l.upper, l.typed,
       l.from_c, l.to_c, l.from_kpa, l.to_kpa, l.source, l.by_id, l.at
     FROM limits l JOIN families f ON f.id = l.family_id";
const NEWEST: &str =
    "l.revision = (SELECT MAX(revision) FROM limits n WHERE n.family_id = l.family_id
       AND n.check_id = l.check_id AND n.condition = l.condition)";

/// What a row of a file would do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Change {
    /// A limit that was not there.
    Adds,
    /// A newer revision of one that is.
    Revises,
    /// The very same.
    Same,
}

/// One row of a file beside what is here.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct RowChange {
    /// What it would do.
    pub change: Change,
    /// The family is new too.
    pub new_family: bool,
    /// As it would be kept.
    pub entry: LimitEntry,
    /// The window that is here now.
    pub before: Option<String>,
    /// The window that it would be.
    pub after: String,
}

/// What is here for one key of a limit.
type Key = (String, &'static str, String);

fn key(entry: &LimitEntry) -> Key {
    (entry.family.to_lowercase(), entry.check.name(), entry.condition.clone())
}

impl Store {
    /// All revisions of the limits of a family, newest first.
    ///
    /// # Errors
    /// The database error.
    pub async fn limits_of(&self, family: Uuid) -> Result<Vec<LimitEntry>, StoreError> {
        let sql = format!(
            "{LIMIT} WHERE l.family_id = ? ORDER BY l.check_id, l.condition, l.revision DESC LIMIT 2000"
        );
        let rows = rows::parts(sql).bind(family.to_string()).fetch_all(&self.pool).await?;
        let mut limits = rows.iter().map(limit).collect::<Result<Vec<_>, _>>()?;
        // In the order of work, not of the alphabet; the sort keeps the revisions together.
        limits.sort_by_key(|limit| LimitCheck::ALL.iter().position(|check| *check == limit.check));
        Ok(limits)
    }

    /// The newest limits of a family for one check.
    ///
    /// # Errors
    /// The database error.
    pub async fn newest_limits(
        &self,
        family: Uuid,
        check: LimitCheck,
    ) -> Result<Vec<LimitEntry>, StoreError> {
        let sql = format!(
            "{LIMIT} WHERE l.family_id = ? AND l.check_id = ? AND {NEWEST} ORDER BY l.condition"
        );
        let rows = rows::parts(sql)
            .bind(family.to_string())
            .bind(check.name())
            .fetch_all(&self.pool)
            .await?;
        rows.iter().map(limit).collect()
    }

    /// The newest limits of a family, of every check.
    ///
    /// # Errors
    /// The database error.
    pub async fn all_newest_limits(&self, family: Uuid) -> Result<Vec<LimitEntry>, StoreError> {
        let sql =
            format!("{LIMIT} WHERE l.family_id = ? AND {NEWEST} ORDER BY l.check_id, l.condition");
        let rows = rows::parts(sql).bind(family.to_string()).fetch_all(&self.pool).await?;
        rows.iter().map(limit).collect()
    }
}

/// Keeps these rows. A row that says what is here already changes nothing, so the same file
/// twice is the same as once.
pub(crate) async fn keep(
    connection: &mut SqliteConnection,
    read: &[ReadRow],
    signed: Option<Signed>,
) -> Result<Vec<RowChange>, StoreError> {
    let (changes, mut families) = compare(connection, read).await?;
    for (change, row) in changes.iter().zip(read) {
        if change.change == Change::Same {
            continue;
        }
        let name = &change.entry.family;
        let id = match families.get(&name.to_lowercase()) {
            Some(id) => *id,
            None => {
                let family = new_family(name, row.kind.unwrap_or_default());
                write_family(connection, &family).await?;
                families.insert(name.to_lowercase(), family.id);
                family.id
            }
        };
        // One that was approved elsewhere keeps its signature.
        insert(connection, id, &change.entry, change.entry.approved.or(signed)).await?;
    }
    Ok(changes)
}

fn new_family(name: &str, kind: FamilyKind) -> LibraryFamily {
    let detail = FamilyDetail { kind, ..FamilyDetail::default() };
    LibraryFamily { id: Uuid::now_v7(), name: name.to_owned(), revision: 1, detail }
}

/// Rows beside what is here of their families, and the families by name. Two queries, however many rows.
async fn compare(
    connection: &mut SqliteConnection,
    read: &[ReadRow],
) -> Result<(Vec<RowChange>, HashMap<String, Uuid>), StoreError> {
    let names: BTreeSet<&str> = read.iter().map(|row| row.entry.family.as_str()).collect();
    let held = newest_of(connection, &names).await?;
    let mut held: HashMap<Key, LimitEntry> =
        held.into_iter().map(|entry| (key(&entry), entry)).collect();
    let names = read.iter().map(|row| row.entry.family.as_str());
    let families = families_by_name(connection, names).await?;
    let mut changes = Vec::with_capacity(read.len());
    for row in read {
        let mut entry = row.entry.clone();
        let before = held.get(&key(&entry));
        let change = match before {
            None => Change::Adds,
            Some(before) if before.says_the_same(&entry) => Change::Same,
            Some(_) => Change::Revises,
        };
        let first = entry.revision.max(1);
        entry.revision =
            before.map_or(first, |b| b.revision + u32::from(change == Change::Revises));
        if entry.id.is_nil() {
            entry.id = Uuid::now_v7();
        }
        let window = before.map(LimitEntry::window);
        // A later row of the same file stands on the earlier one.
        held.insert(key(&entry), entry.clone());
        changes.push(RowChange {
            change,
            new_family: !families.contains_key(&entry.family.to_lowercase()),
            before: window,
            after: entry.window(),
            entry,
        });
    }
    Ok((changes, families))
}

async fn insert(
    connection: &mut SqliteConnection,
    family: Uuid,
    entry: &LimitEntry,
    signed: Option<Signed>,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO limits (id, family_id, check_id, condition, revision, lower, upper, typed, from_c, to_c,
           from_kpa, to_kpa, source, by_id, at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
    )
    .bind(entry.id.to_string())
    .bind(family.to_string())
    .bind(entry.check.name())
    .bind(&entry.condition)
    .bind(i64::from(entry.revision))
    .bind(entry.lower)
    .bind(entry.upper)
    .bind(&entry.typed)
    .bind(entry.from_c)
    .bind(entry.to_c)
    .bind(entry.from_kpa)
    .bind(entry.to_kpa)
    .bind(&entry.source)
    .bind(signed.map(|s| s.by.to_string()))
    .bind(signed.map(|s| rows::stamp(s.at)))
    .execute(&mut *connection)
    .await?;
    write_limit_line(connection, family, entry).await
}

/// Writes the line of the newest revision of a limit.
pub(crate) async fn write_limit_line(
    connection: &mut SqliteConnection,
    family: Uuid,
    entry: &LimitEntry,
) -> Result<(), StoreError> {
    let line = LibraryLine {
        kind: LineKind::Limit,
        id: family,
        title: entry.family.clone(),
        says: format!("{}: {}", entry.check.word(), entry.window()),
        note: format!("{}, revision {}", entry.source, entry.revision),
    };
    let key = format!("limit:{family}:{}:{}", entry.check.name(), entry.condition);
    write_line(connection, &key, &line, &entry.condition).await
}

/// The newest revision of every limit.
pub(crate) async fn newest(
    connection: &mut SqliteConnection,
) -> Result<Vec<LimitEntry>, StoreError> {
    let sql =
        format!("{LIMIT} WHERE {NEWEST} ORDER BY f.name COLLATE NOCASE, l.check_id, l.condition");
    let rows = rows::parts(sql).fetch_all(connection).await?;
    rows.iter().map(limit).collect()
}

/// The same of families by name.
pub(crate) async fn newest_of(
    connection: &mut SqliteConnection,
    names: &BTreeSet<&str>,
) -> Result<Vec<LimitEntry>, StoreError> {
    let sql = format!(
        "{LIMIT} WHERE f.name COLLATE NOCASE IN (SELECT value FROM json_each(?)) AND {NEWEST}
         ORDER BY f.name COLLATE NOCASE, l.check_id, l.condition"
    );
    let names = serde_json::to_string(names)?;
    let rows = rows::parts(sql).bind(names).fetch_all(connection).await?;
    rows.iter().map(limit).collect()
}

fn limit(row: &SqliteRow) -> Result<LimitEntry, StoreError> {
    let approved = match rows::maybe_id(row, "by_id")? {
        Some(_) => Some(rows::signed(row)?),
        None => None,
    };
    Ok(LimitEntry {
        id: rows::id(row, "id")?,
        family: row.try_get("family")?,
        check: rows::name(row, "check_id")?,
        condition: row.try_get("condition")?,
        revision: u32::try_from(rows::count(row, "revision")?).unwrap_or(u32::MAX),
        lower: row.try_get("lower")?,
        upper: row.try_get("upper")?,
        typed: row.try_get("typed")?,
        from_c: row.try_get("from_c")?,
        to_c: row.try_get("to_c")?,
        from_kpa: row.try_get("from_kpa")?,
        to_kpa: row.try_get("to_kpa")?,
        source: row.try_get("source")?,
        approved,
    })
}
