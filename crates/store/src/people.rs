//! The people of the workshop.

use crate::rows::columns as rows;
use crate::{Store, StoreError};
use cobaltine_core::record::Person;
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Longest name of a person.
const LONGEST_NAME: usize = 80;
impl Store {
    /// Everyone, by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn people(&self) -> Result<Vec<Person>, StoreError> {
        let rows =
            sqlx::query("SELECT id, name FROM people ORDER BY name COLLATE NOCASE LIMIT 500")
                .fetch_all(&self.pool)
                .await?;
        rows.iter().map(person).collect()
    }

    /// One person.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn person(&self, id: Uuid) -> Result<Person, StoreError> {
        let row = sqlx::query("SELECT id, name FROM people WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        person(&row.ok_or(StoreError::NotFound("person"))?)
    }

    /// Adds a person; the same person again changes nothing.
    ///
    /// # Errors
    /// An empty, long or taken name.
    pub async fn add_person(&self, person: &Person) -> Result<(), StoreError> {
        let name = person.name.trim();
        if name.is_empty() || name.chars().count() > LONGEST_NAME {
            let message = format!("A name of 1 to {LONGEST_NAME} characters is needed.");
            return Err(StoreError::field("name", message));
        }
        let mut tx = self.pool.begin_with("BEGIN IMMEDIATE").await?;
        let taken = sqlx::query("SELECT 1 FROM people WHERE name = ? COLLATE NOCASE AND id <> ?")
            .bind(name)
            .bind(person.id.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        if taken.is_some() {
            return Err(StoreError::field("name", format!("{name} is already here.")));
        }
        add_person(&mut tx, &Person { id: person.id, name: name.to_owned() }).await?;
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
