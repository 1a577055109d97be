//! The people of the workshop.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{Store, StoreError};
use cobaltine_core::limits::NAME;
use cobaltine_core::record::Person;
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
        let rows = sqlx::query("SELECT id, name FROM people ORDER BY name COLLATE NOCASE")
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
        let row = sqlx::query("SELECT id, name FROM people WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        let person = person(&row.ok_or(StoreError::NotFound("person"))?)?;
        // Nobody is ever renamed or taken off the list.
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
        add_person(&mut tx, &Person { id: person.id, name: name.to_owned() }).await?;
        acts::done(&mut tx, act, at).await?;
        tx.commit().await?;
        Ok(())
    }
}

pub(crate) async fn add_person(
    connection: &mut SqliteConnection,
    person: &Person,
) -> Result<(), StoreError> {
    sqlx::query("INSERT INTO people (id, name) VALUES (?, ?) ON CONFLICT DO NOTHING")
        .bind(person.id.to_string())
        .bind(&person.name)
        .execute(connection)
        .await?;
    Ok(())
}

pub(crate) fn person(row: &SqliteRow) -> Result<Person, StoreError> {
    Ok(Person { id: rows::id(row, "id")?, name: row.try_get("name")? })
}
