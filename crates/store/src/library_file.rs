//! The library in from a file: a look at what would change, then all of it or nothing.

use crate::acts::{self, Act};
use crate::library::{LineKind, family, item, keep_family, keep_item, write_family, write_item};
use crate::limits::{self, Change, keep};
use crate::rows;
use crate::words;
use crate::writing::PIECE;
use crate::{Store, StoreError};
use cobaltine_core::library::{
    FamilyDetail, ItemDetail, LibraryFamily, LibraryFile, LibraryItem, ReadRow,
};
use cobaltine_core::record::Signed;
use serde::Serialize;
use sqlx::{Row, SqliteConnection};
use std::time::Instant;
use utoipa::ToSchema;

/// What one entry of a file does, or would do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct LibraryChange {
    /// What it is about.
    pub kind: LineKind,
    /// Its name, or its family's.
    pub title: String,
    /// What happens to it.
    pub change: Change,
    /// Its family is new too.
    pub new_family: bool,
    /// What is here now.
    pub before: Option<String>,
    /// What will be.
    pub after: String,
}

/// Rows that are written at once.
pub(crate) const ROWS: usize = 20;

/// Families, limits and items that are written at once.
type Piece<'a> = (&'a [LibraryFamily], &'a [ReadRow], &'a [LibraryItem]);

/// The tables of the library once more, in the place of those on disk.
const COPY: [&str; 10] = [
    "CREATE TEMP TABLE families AS SELECT * FROM main.families",
    "CREATE UNIQUE INDEX temp.families_id ON families (id)",
    "CREATE TEMP TABLE limits AS SELECT * FROM main.limits",
    "CREATE UNIQUE INDEX temp.limits_id ON limits (id)",
    "CREATE INDEX temp.limits_of ON limits (family_id, check_id, condition, revision)",
    "CREATE TEMP TABLE items AS SELECT * FROM main.items",
    "CREATE UNIQUE INDEX temp.items_id ON items (id)",
    "CREATE TEMP TABLE library_lines (line_id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, kind TEXT, sort TEXT, line TEXT)",
    "INSERT INTO temp.library_lines SELECT line_id, key, kind, sort, line FROM main.library_lines",
    "CREATE VIRTUAL TABLE temp.library_words USING fts5 (words)",
];

impl Store {
    /// What the entries of a file would change; nothing is written.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for families and items that cannot be kept.
    pub async fn preview_library(
        &self,
        families: &[LibraryFamily],
        read: &[ReadRow],
        items: &[LibraryItem],
    ) -> Result<Vec<LibraryChange>, StoreError> {
        // Done to a copy that only this connection sees, and thrown away: what is shown is what the
        // import does, by the same code, and nobody who writes has to wait for it.
        let mut tx = self.pool.begin().await?;
        for statement in COPY {
            sqlx::query(statement).execute(&mut *tx).await?;
        }
        let changes = take_in(&mut tx, families, read, items, None, None).await?;
        tx.rollback().await?;
        Ok(changes)
    }

    /// Takes the entries of a file in: all of them or none. What is here already stays as it is. They are
    /// looked at whole, then written a piece at a time; what a program that ended left out comes in with
    /// the next try.
    ///
    /// # Errors
    /// As [`Self::preview_library`].
    pub async fn import_library(
        &self,
        act: &Act,
        families: &[LibraryFamily],
        read: &[ReadRow],
        items: &[LibraryItem],
        signed: Option<Signed>,
    ) -> Result<Vec<LibraryChange>, StoreError> {
        let changes = self.preview_library(families, read, items).await?;
        if acts::done_before(&mut *self.pool.acquire().await?, act).await? {
            // What it did is here; nothing of it would be new.
            return Ok(changes);
        }
        let none: Piece<'_> = (&[], &[], &[]);
        let pieces = families.chunks(ROWS).map(|some| (some, none.1, none.2));
        let pieces = pieces.chain(read.chunks(ROWS).map(|some| (none.0, some, none.2)));
        let pieces = pieces.chain(items.chunks(ROWS).map(|some| (none.0, none.1, some)));
        let pieces: Vec<_> = pieces.collect();
        let mut done = 0;
        while done < pieces.len() {
            let piece = self.take_piece(&pieces[done..], signed).await;
            done += match piece {
                // Some are in by now: nobody is told that none are.
                Err(error) if error.is_fault() && done > 0 => {
                    let says = words::part_of_library(done * ROWS, changes.len(), &error);
                    return Err(StoreError::Conflict(says));
                }
                taken => taken?,
            };
        }
        let mut tx = self.write().await?;
        // Asked twice at once, the other one may have come to its end with the same rows.
        if let Some(signed) = signed
            && !acts::done_before(&mut tx, act).await?
        {
            acts::done(&mut tx, act, signed.at).await?;
        }
        Self::rules_changed(&mut tx, None).await?;
        tx.commit().await?;
        self.list_stale().await?;
        Ok(changes)
    }

    /// As many of these as fit into one short turn: how many that is.
    async fn take_piece(
        &self,
        pieces: &[Piece<'_>],
        signed: Option<Signed>,
    ) -> Result<usize, StoreError> {
        let (mut tx, until, mut taken) = (self.write().await?, Instant::now() + PIECE, 0);
        for (families, read, items) in pieces {
            take_in(&mut tx, families, read, items, signed, signed).await?;
            taken += 1;
            if Instant::now() > until {
                break;
            }
        }
        tx.commit().await?;
        Ok(taken)
    }
}

/// Takes the entries of a file in. `signed` stands in the history of what is changed, `approver`
/// beside limits that nobody approved yet; a file that carries its approvals has none.
pub(crate) async fn take_in(
    connection: &mut SqliteConnection,
    families: &[LibraryFamily],
    read: &[ReadRow],
    items: &[LibraryItem],
    signed: Option<Signed>,
    approver: Option<Signed>,
) -> Result<Vec<LibraryChange>, StoreError> {
    let mut changes = Vec::with_capacity(families.len() + read.len() + items.len());
    for family in families {
        changes.push(take_family(connection, family, signed).await?);
    }
    for row in keep(connection, read, approver).await? {
        changes.push(LibraryChange {
            kind: LineKind::Limit,
            title: row.entry.family.clone(),
            change: row.change,
            new_family: row.new_family,
            before: row.before,
            after: format!("{}: {}", row.entry.check.word(), row.after),
        });
    }
    for item in items {
        changes.push(take_item(connection, item, signed).await?);
    }
    Ok(changes)
}

async fn take_family(
    connection: &mut SqliteConnection,
    family: &LibraryFamily,
    signed: Option<Signed>,
) -> Result<LibraryChange, StoreError> {
    let problems = family.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let held = sqlx::query(
        "SELECT id, revision, detail FROM families WHERE name = ?1 COLLATE NOCASE OR id = ?2
             ORDER BY id = ?2 DESC LIMIT 1",
    )
    .bind(family.name.trim())
    .bind(family.id.to_string())
    .fetch_optional(&mut *connection)
    .await?;
    let change = match held {
        None => {
            let revision = family.revision.max(1);
            write_family(connection, &LibraryFamily { revision, ..family.clone() }).await?;
            Change::Adds
        }
        Some(held) if rows::json::<FamilyDetail>(&held, "detail")? == family.detail => Change::Same,
        Some(held) => {
            let revised = LibraryFamily {
                id: rows::id(&held, "id")?,
                revision: rows::count(&held, "revision")?,
                ..family.clone()
            };
            match signed {
                Some(signed) => keep_family(connection, &revised, signed).await.map(drop)?,
                None => write_family(connection, &revised).await?,
            }
            Change::Revises
        }
    };
    Ok(LibraryChange {
        kind: LineKind::Family,
        title: family.name.clone(),
        change,
        new_family: change == Change::Adds,
        before: None,
        after: String::new(),
    })
}

async fn take_item(
    connection: &mut SqliteConnection,
    item: &LibraryItem,
    signed: Option<Signed>,
) -> Result<LibraryChange, StoreError> {
    let problems = item.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let held = sqlx::query("SELECT name, revision, detail FROM items WHERE id = ?")
        .bind(item.id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    let change = match &held {
        None => Change::Adds,
        Some(held)
            if held.try_get::<String, _>("name")? == item.name
                && rows::json::<ItemDetail>(held, "detail")? == item.detail =>
        {
            Change::Same
        }
        Some(_) => Change::Revises,
    };
    if change != Change::Same {
        let held = held.as_ref().map(|row| rows::count(row, "revision")).transpose()?;
        match (held, signed) {
            // What was there before stays in the history, with who changed it.
            (Some(revision), Some(signed)) => {
                let revised = LibraryItem { revision, ..item.clone() };
                keep_item(connection, &revised, signed).await.map(drop)?;
            }
            (held, _) => {
                let revision = held.map_or(item.revision.max(1), |revision| revision + 1);
                write_item(connection, &LibraryItem { revision, ..item.clone() }).await?;
            }
        }
    }
    let kind = match item.detail {
        ItemDetail::Engine { .. } => LineKind::Engine,
        ItemDetail::TestPlan { .. } => LineKind::TestPlan,
        ItemDetail::Preset { .. } => LineKind::Preset,
    };
    let title = item.name.clone();
    Ok(LibraryChange { kind, title, change, new_family: false, before: None, after: String::new() })
}

impl Store {
    /// Everything, as a file.
    ///
    /// # Errors
    /// The database error.
    pub async fn library_file(&self) -> Result<LibraryFile, StoreError> {
        let (families, items) = self.families_and_items().await?;
        let limits = limits::newest(&mut *self.pool.acquire().await?).await?;
        Ok(LibraryFile::new(families, limits, items))
    }

    /// The same without the limits.
    pub(crate) async fn families_and_items(
        &self,
    ) -> Result<(Vec<LibraryFamily>, Vec<LibraryItem>), StoreError> {
        let mut tx = self.pool.begin().await?;
        let families = sqlx::query(
            "SELECT id, name, revision, detail FROM families ORDER BY name COLLATE NOCASE",
        )
        .fetch_all(&mut *tx)
        .await?;
        let items = sqlx::query(
            "SELECT id, name, revision, detail FROM items ORDER BY kind, name COLLATE NOCASE",
        )
        .fetch_all(&mut *tx)
        .await?;
        Ok((
            families.iter().map(family).collect::<Result<_, _>>()?,
            items.iter().map(item).collect::<Result<_, _>>()?,
        ))
    }
}
