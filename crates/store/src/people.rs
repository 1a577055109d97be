//! The people of the workshop.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::limits::NAME;
use cobaltine_core::record::{Person, Retired, Signed};
use jiff::Timestamp;
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

impl Store {
    /// Everyone, by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn people(&self) -> Result<Vec<Person>, StoreError> {
        let rows = sqlx::query("SELECT * FROM people ORDER BY name COLLATE NOCASE")
            .fetch_all(&self.pool)
            .await?;
        rows.iter().map(person).collect()
    }

    /// One person.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn person(&self, id: Uuid) -> Result<Person, StoreError> {
        if let Some(person) = self.shared.held.person(id) {
            return Ok(person);
        }
        let row = sqlx::query("SELECT * FROM people WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        let person = person(&row.ok_or(StoreError::NotFound("person"))?)?;
        self.shared.held.remember_person(&person);
        Ok(person)
    }

    /// Adds a person; the same person again changes nothing.
    ///
    /// # Errors
    /// An empty, long or taken name.
    pub async fn add_person(
        &self,
        act: &Act,
        person: &Person,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        let name = person.name.trim();
        if name.is_empty() || name.chars().count() > NAME {
            let message = words::enter_name_characters(NAME);
            return Err(StoreError::field("name", message));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let here = sqlx::query("SELECT name FROM people WHERE id = ?")
            .bind(person.id.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        if let Some(here) = here {
            let same = here.try_get::<String, _>("name")? == name;
            return if same { Ok(()) } else { Err(StoreError::Reused) };
        }
        let taken = sqlx::query("SELECT 1 FROM people WHERE name = ? COLLATE NOCASE AND id <> ?")
            .bind(name)
            .bind(person.id.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        if taken.is_some() {
            return Err(StoreError::field("name", words::already_here(name)));
        }
        add_person(&mut tx, &Person::new(person.id, name)).await?;
        acts::done(&mut tx, act, at).await?;
        tx.commit().await?;
        Ok(())
    }
    /// Retires a person, merges the name into another one, or brings it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; a field of those that cannot be changed so.
    pub async fn change_person(
        &self,
        act: &Act,
        id: Uuid,
        change: PersonChange,
        signed: Signed,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let people = everyone(&mut tx).await?;
        let can_be_chosen = |id: Uuid| people.iter().any(|p| p.id == id && p.retired.is_none());
        if !people.iter().any(|person| person.id == id) {
            return Err(StoreError::NotFound("person"));
        }
        let (retired, same_as) = match change {
            PersonChange::Back => (false, None),
            PersonChange::Retired => (true, None),
            PersonChange::SameAs(other) => (true, Some(other)),
        };
        if retired && id == signed.by {
            return Err(StoreError::field("person", words::CHOOSE_ANOTHER_NAME_FIRST));
        }
        if same_as.is_some_and(|other| other == id || !can_be_chosen(other)) {
            return Err(StoreError::field("same_as", words::CHOOSE_NAME_STILL_USED));
        }
        sqlx::query(
            "UPDATE people SET retired_at = ?2, retired_by = ?3, same_as = ?4 WHERE id = ?1",
        )
        .bind(id.to_string())
        .bind(retired.then(|| rows::stamp(signed.at)))
        .bind(retired.then(|| signed.by.to_string()))
        .bind(same_as.map(|other| other.to_string()))
        .execute(&mut *tx)
        .await?;
        // Whoever was this person goes on as the other one, too.
        if let Some(other) = same_as {
            sqlx::query("UPDATE people SET same_as = ?2 WHERE same_as = ?1")
                .bind(id.to_string())
                .bind(other.to_string())
                .execute(&mut *tx)
                .await?;
        }
        acts::done(&mut tx, act, signed.at).await?;
        // Jobs are held with their people: all are let go of.
        tx.commit().await
    }
}

/// What becomes of a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PersonChange {
    /// It can be chosen again.
    Back,
    /// The person left.
    Retired,
    /// It is another name of this person.
    SameAs(Uuid),
}

async fn everyone(connection: &mut SqliteConnection) -> Result<Vec<Person>, StoreError> {
    let rows = sqlx::query("SELECT * FROM people").fetch_all(connection).await?;
    rows.iter().map(person).collect()
}

/// One that is here already stays as it is.
pub(crate) async fn add_person(
    connection: &mut SqliteConnection,
    person: &Person,
) -> Result<(), StoreError> {
    sqlx::query(
        "INSERT INTO people (id, name, retired_at, same_as) VALUES (?, ?, ?, ?)
         ON CONFLICT DO NOTHING",
    )
    .bind(person.id.to_string())
    .bind(&person.name)
    .bind(person.retired.map(|retired| rows::stamp(retired.at)))
    .bind(person.retired.and_then(|retired| retired.same_as).map(|id| id.to_string()))
    .execute(connection)
    .await?;
    Ok(())
}

pub(crate) fn person(row: &SqliteRow) -> Result<Person, StoreError> {
    let at: Option<String> = row.try_get("retired_at")?;
    let at = at.map(|at| rows::time(&at)).transpose()?;
    let same_as = rows::maybe_id(row, "same_as")?;
    Ok(Person {
        id: rows::id(row, "id")?,
        name: row.try_get("name")?,
        retired: at.map(|at| Retired { at, same_as }),
    })
}
