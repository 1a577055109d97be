//! The library: search, families, engines and test plans. Limits have a file of their own.
//!
//! A line for each entry is written when the entry changes, with its words beside it; a search
//! reads lines only, however many there are.

use crate::acts::{self, Act};
use crate::board::fts_phrase;
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::library::{ItemDetail, LibraryFamily, LibraryItem};
use cobaltine_core::record::Signed;
use cobaltine_core::tests::preset::PresetOf;
use serde::{Deserialize, Serialize};
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest page of a search.
const LONGEST_PAGE: u32 = 100;

/// What a line of the library is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum LineKind {
    /// A family of injectors.
    Family,
    /// A limit.
    Limit,
    /// An engine.
    Engine,
    /// A bench test plan.
    TestPlan,
    /// Settings of a check that come back.
    Preset,
}

/// One line of a search.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct LibraryLine {
    /// What it is about.
    pub kind: LineKind,
    /// The family of a family or a limit; the engine or plan itself otherwise.
    pub id: Uuid,
    /// Its name.
    pub title: String,
    /// What it says.
    pub says: String,
    /// Where that comes from, or what kind it is.
    pub note: String,
}

/// A page of a search.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct LibraryPage {
    /// Lines of this page.
    pub lines: Vec<LibraryLine>,
    /// Lines that fit, over all pages; counted up to a thousand.
    pub total: u64,
    /// There are more than could be counted quickly.
    pub more: bool,
    /// All entries of the library.
    pub entries: u64,
}

/// What is asked of the library.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct LibraryQuery {
    /// Words to find, each as a beginning.
    pub words: String,
    /// Only lines of this kind.
    pub kind: Option<LineKind>,
    /// From 0.
    pub page: u32,
    /// At most 100.
    pub per_page: u32,
}

/// Counting stops here: nobody reads beyond, and a count of everything costs a scan.
const MOST_COUNTED: u64 = 1000;

impl Store {
    /// A page of a search.
    ///
    /// # Errors
    /// The database error.
    pub async fn library(&self, query: &LibraryQuery) -> Result<LibraryPage, StoreError> {
        let mut tx = self.pool.begin().await?;
        let kind = query.kind.map(rows::named).transpose()?;
        let words = fts_phrase(&query.words);
        let from =
            if words.is_some() { words::LIBRARY_WORDS_W_JOIN } else { words::LIBRARY_LINES_L_NULL };
        let count = format!("SELECT COUNT(*) AS total FROM (SELECT 1 FROM {from} LIMIT ?3)");
        let counted = rows::parts(count)
            .bind(&words)
            .bind(&kind)
            .bind(MOST_COUNTED as i64 + 1)
            .fetch_one(&mut *tx)
            .await?;
        let counted = rows::count(&counted, "total")?;
        let per_page = query.per_page.clamp(1, LONGEST_PAGE);
        // Words that fit thousands of lines are not sorted: the first that are found will do.
        let order = if words.is_some() { "w.rowid" } else { "l.sort" };
        let page = format!("SELECT l.line FROM {from} ORDER BY {order} LIMIT ?3 OFFSET ?4");
        let lines = rows::parts(page)
            .bind(&words)
            .bind(&kind)
            .bind(i64::from(per_page))
            .bind(i64::from(query.page) * i64::from(per_page))
            .fetch_all(&mut *tx)
            .await?;
        let entries = sqlx::query("SELECT COUNT(*) AS entries FROM library_lines")
            .fetch_one(&mut *tx)
            .await?;
        Ok(LibraryPage {
            lines: lines.iter().map(|row| rows::json(row, "line")).collect::<Result<_, _>>()?,
            total: counted.min(MOST_COUNTED),
            more: counted > MOST_COUNTED,
            entries: rows::count(&entries, "entries")?,
        })
    }

    /// One family with what is known of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn library_family(&self, id: Uuid) -> Result<LibraryFamily, StoreError> {
        let row = sqlx::query("SELECT id, name, revision, detail FROM families WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        family(&row.ok_or(StoreError::NotFound("family"))?)
    }

    /// The test plan of a family; of several the first by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn plan_of_family(&self, family: &str) -> Result<Option<Uuid>, StoreError> {
        let found = sqlx::query(
            "SELECT id FROM items WHERE kind = 'test_plan'
             AND json_extract(detail, '$.family') = ? COLLATE NOCASE ORDER BY name LIMIT 1",
        )
        .bind(family.trim())
        .fetch_optional(&self.pool)
        .await?;
        found.map(|row| rows::id(&row, "id")).transpose()
    }

    /// One engine, test plan or preset.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn library_item(&self, id: Uuid) -> Result<LibraryItem, StoreError> {
        let row = sqlx::query("SELECT id, name, revision, detail FROM items WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        item(&row.ok_or(StoreError::NotFound("library entry"))?)
    }

    /// Keeps a family: a new one with revision 0, or a change of the revision that is named.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when it was changed meanwhile.
    pub async fn keep_family(
        &self,
        act: &Act,
        new: &LibraryFamily,
        signed: Signed,
    ) -> Result<LibraryFamily, StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            drop(tx);
            return self.library_family(new.id).await;
        }
        let kept = keep_family(&mut tx, new, signed).await?;
        acts::done(&mut tx, act, signed.at).await?;
        Self::rules_changed(&mut tx, Some(new.id)).await?;
        tx.commit().await?;
        self.list_stale().await?;
        Ok(kept)
    }

    /// Keeps an engine or a test plan, as [`Self::keep_family`].
    ///
    /// # Errors
    /// As there.
    pub async fn keep_item(
        &self,
        act: &Act,
        new: &LibraryItem,
        signed: Signed,
    ) -> Result<LibraryItem, StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            drop(tx);
            return self.library_item(new.id).await;
        }
        let kept = keep_item(&mut tx, new, signed).await?;
        acts::done(&mut tx, act, signed.at).await?;
        Self::rules_changed(&mut tx, None).await?;
        tx.commit().await?;
        self.list_stale().await?;
        Ok(kept)
    }
}

/// Puts an old state into the history and says what the next revision is.
pub(crate) async fn next_revision(
    connection: &mut SqliteConnection,
    table: &'static str,
    id: Uuid,
    given: u64,
    signed: Signed,
) -> Result<u64, StoreError> {
    let held = rows::parts(format!("SELECT name, revision, detail FROM {table} WHERE id = ?"))
        .bind(id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    let Some(held) = held else {
        return if given == 0 { Ok(1) } else { Err(StoreError::NotFound("library entry")) };
    };
    let revision = rows::count(&held, "revision")?;
    if revision != given {
        return Err(StoreError::Conflict(words::changed_meanwhile_now_revision(revision, given)));
    }
    sqlx::query(
        "INSERT INTO history (of_id, revision, name, detail, by_id, at) VALUES (?, ?, ?, ?, ?, ?)",
    )
    .bind(id.to_string())
    .bind(revision as i64)
    .bind(held.try_get::<String, _>("name")?)
    .bind(held.try_get::<String, _>("detail")?)
    .bind(signed.by.to_string())
    .bind(rows::stamp(signed.at))
    .execute(connection)
    .await?;
    Ok(revision + 1)
}

pub(crate) async fn keep_family(
    connection: &mut SqliteConnection,
    new: &LibraryFamily,
    signed: Signed,
) -> Result<LibraryFamily, StoreError> {
    let problems = new.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let name = new.name.trim();
    let taken = sqlx::query("SELECT 1 FROM families WHERE name = ? COLLATE NOCASE AND id <> ?")
        .bind(name)
        .bind(new.id.to_string())
        .fetch_optional(&mut *connection)
        .await?;
    if taken.is_some() {
        return Err(StoreError::field("name", words::already_library(name)));
    }
    let revision = next_revision(connection, "families", new.id, new.revision, signed).await?;
    let kept = LibraryFamily { name: name.to_owned(), revision, ..new.clone() };
    write_family(connection, &kept).await?;
    Ok(kept)
}

/// Writes a family as it is, with its line.
pub(crate) async fn write_family(
    connection: &mut SqliteConnection,
    family: &LibraryFamily,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO families (id, name, fuel_system, revision, detail) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET name = excluded.name, fuel_system = excluded.fuel_system,
           revision = excluded.revision, detail = excluded.detail",
    )
    .bind(family.id.to_string())
    .bind(&family.name)
    .bind(rows::named(family.detail.kind.fuel_system())?)
    .bind(family.revision as i64)
    .bind(serde_json::to_string(&family.detail)?)
    .execute(&mut *connection)
    .await?;
    let detail = &family.detail;
    let mut says = Vec::new();
    says.extend(detail.drive_voltage_v.map(|v| format!("driven with {v} V")));
    says.extend(detail.service_life_h.map(|h| format!("service life {h} h")));
    says.extend(detail.code.as_ref().map(|code| format!("trim code of {}", code.length)));
    says.extend(
        detail
            .cleaning
            .map(|yes| if yes { "cleaning allowed" } else { "cleaning not allowed" }.to_owned()),
    );
    let says = if says.is_empty() { "nothing specified".to_owned() } else { says.join(", ") };
    let line = LibraryLine {
        kind: LineKind::Family,
        id: family.id,
        title: family.name.clone(),
        says,
        note: detail.kind.word().to_lowercase(),
    };
    write_line(connection, &format!("family:{}", family.id), &line, &detail.note).await
}

pub(crate) async fn keep_item(
    connection: &mut SqliteConnection,
    new: &LibraryItem,
    signed: Signed,
) -> Result<LibraryItem, StoreError> {
    let problems = new.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    let revision = next_revision(connection, "items", new.id, new.revision, signed).await?;
    let kept = LibraryItem { name: new.name.trim().to_owned(), revision, ..new.clone() };
    write_item(connection, &kept).await?;
    Ok(kept)
}

/// Writes an engine or a plan as it is, with its line.
pub(crate) async fn write_item(
    connection: &mut SqliteConnection,
    item: &LibraryItem,
) -> Result<(), StoreError> {
    let (kind, says, note) = match &item.detail {
        ItemDetail::Engine { layout, note, .. } => (
            LineKind::Engine,
            format!(
                "{} cylinders in {}",
                layout.cylinders,
                if layout.banks == 2 { "two banks" } else { "a row" }
            ),
            note,
        ),
        ItemDetail::TestPlan { family, points, note } => {
            (LineKind::TestPlan, format!("{} points for {family}", points.len()), note)
        }
        ItemDetail::Preset { check, cells, note } => {
            let of = PresetOf::named(check);
            let says = of.map(|of| format!("{}: {}", of.title(), of.says(cells).join(", ")));
            (LineKind::Preset, says.unwrap_or_else(|| check.clone()), note)
        }
    };
    sqlx::query(
        "INSERT INTO items (id, kind, name, revision, detail) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET kind = excluded.kind, name = excluded.name,
           revision = excluded.revision, detail = excluded.detail",
    )
    .bind(item.id.to_string())
    .bind(rows::named(kind)?)
    .bind(&item.name)
    .bind(item.revision as i64)
    .bind(serde_json::to_string(&item.detail)?)
    .execute(&mut *connection)
    .await?;
    let line =
        LibraryLine { kind, id: item.id, title: item.name.clone(), says, note: note.clone() };
    write_line(connection, &format!("item:{}", item.id), &line, "").await
}

/// Writes the line of an entry anew, with everything that it can be found by.
pub(crate) async fn write_line(
    connection: &mut SqliteConnection,
    key: &str,
    line: &LibraryLine,
    more_words: &str,
) -> Result<(), StoreError> {
    let kind = rows::named(line.kind)?;
    let row = sqlx::query(
        "INSERT INTO library_lines (key, kind, sort, line) VALUES (?, ?, ?, ?)
         ON CONFLICT (key) DO UPDATE SET kind = excluded.kind, sort = excluded.sort, line = excluded.line
         RETURNING line_id",
    )
    .bind(key)
    .bind(&kind)
    .bind(format!("{}\u{1}{}\u{1}{}", line.title.to_lowercase(), kind, line.says))
    .bind(serde_json::to_string(line)?)
    .fetch_one(&mut *connection)
    .await?;
    let words = format!("{} {} {} {more_words}", line.title, line.says, line.note);
    sqlx::query("INSERT OR REPLACE INTO library_words (rowid, words) VALUES (?, ?)")
        .bind(row.try_get::<i64, _>("line_id")?)
        .bind(words)
        .execute(connection)
        .await?;
    Ok(())
}

pub(crate) fn family(row: &SqliteRow) -> Result<LibraryFamily, StoreError> {
    Ok(LibraryFamily {
        id: rows::id(row, "id")?,
        name: row.try_get("name")?,
        revision: rows::count(row, "revision")?,
        detail: rows::json(row, "detail")?,
    })
}

pub(crate) fn item(row: &SqliteRow) -> Result<LibraryItem, StoreError> {
    Ok(LibraryItem {
        id: rows::id(row, "id")?,
        name: row.try_get("name")?,
        revision: rows::count(row, "revision")?,
        detail: rows::json(row, "detail")?,
    })
}
