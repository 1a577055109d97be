//! The library in from a file: a look at what would change, then all of it or nothing.

use crate::library::{LineKind, keep_family, write_family, write_item};
use crate::limits::{Change, keep};
use crate::rows::columns as rows;
use crate::{Store, StoreError};
use cobaltine_core::library::{FamilyDetail, ItemDetail, LibraryFamily, LibraryItem, ReadRow};
use cobaltine_core::record::Signed;
use serde::Serialize;
use sqlx::{Row, SqliteConnection};
use std::collections::HashMap;
use utoipa::ToSchema;
use uuid::Uuid;

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
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        // Done and taken back: what is shown is what the import does, by the same code.
        let changes = take_in(&mut tx, families, read, items, None).await?;
        tx.rollback().await?;
        Ok(changes)
    }

    /// Takes the entries of a file in: all of them or none. What is here already stays as it is.
    ///
    /// # Errors
    /// As [`Self::preview_library`].
    pub async fn import_library(
        &self,
        families: &[LibraryFamily],
        read: &[ReadRow],
        items: &[LibraryItem],
        signed: Option<Signed>,
    ) -> Result<Vec<LibraryChange>, StoreError> {
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let changes = take_in(&mut tx, families, read, items, signed).await?;
        tx.commit().await?;
        Ok(changes)
    }
}

pub(crate) async fn take_in(
    connection: &mut SqliteConnection,
    families: &[LibraryFamily],
    read: &[ReadRow],
    items: &[LibraryItem],
    signed: Option<Signed>,
) -> Result<Vec<LibraryChange>, StoreError> {
    let mut changes = Vec::with_capacity(families.len() + read.len() + items.len());
    for family in families {
        changes.push(take_family(connection, family, signed).await?);
    }
    for row in keep(connection, read, signed).await? {
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
        changes.push(take_item(connection, item).await?);
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
        let revision = held.map_or(item.revision.max(1), |revision| revision + 1);
        write_item(connection, &LibraryItem { revision, ..item.clone() }).await?;
    }
    let kind = match item.detail {
        ItemDetail::Engine { .. } => LineKind::Engine,
        ItemDetail::TestPlan { .. } => LineKind::TestPlan,
    };
    let title = item.name.clone();
    Ok(LibraryChange { kind, title, change, new_family: false, before: None, after: String::new() })
}

/// Families by lower-case name.
pub(crate) async fn families_by_name(
    connection: &mut SqliteConnection,
) -> Result<HashMap<String, Uuid>, StoreError> {
    let rows = sqlx::query("SELECT id, name FROM families").fetch_all(connection).await?;
    rows.iter()
        .map(|row| Ok((row.try_get::<String, _>("name")?.to_lowercase(), rows::id(row, "id")?)))
        .collect()
}
