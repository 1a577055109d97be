//! The people of the workshop, and the families of the library with their limits.

use crate::rows::columns as rows;
use crate::{Store, StoreError};
use cobaltine_core::checks::Limit;
use cobaltine_core::record::{Family, Person};
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use uuid::Uuid;

/// Longest name of a person or a family.
const LONGEST_NAME: usize = 80;
/// The most families that a choice shows at once.
const MOST_FAMILIES: i64 = 200;

const FAMILY: &str =
    "SELECT f.id, f.name, f.fuel_system, l.revision, l.upper_ml_min, l.from_c, l.to_c, l.source
     FROM families f LEFT JOIN return_limits l ON l.family_id = f.id
      AND l.revision = (SELECT MAX(revision) FROM return_limits WHERE family_id = f.id)";

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

    /// Families by name, each with its newest limit.
    ///
    /// # Errors
    /// The database error.
    pub async fn families(&self) -> Result<Vec<Family>, StoreError> {
        let sql = format!("{FAMILY} ORDER BY f.name COLLATE NOCASE LIMIT ?");
        let rows = sqlx::query(&sql).bind(MOST_FAMILIES).fetch_all(&self.pool).await?;
        rows.iter().map(family).collect()
    }

    /// One family with its newest limit.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn family(&self, id: Uuid) -> Result<Family, StoreError> {
        let sql = format!("{FAMILY} WHERE f.id = ?");
        let row = sqlx::query(&sql).bind(id.to_string()).fetch_optional(&self.pool).await?;
        family(&row.ok_or(StoreError::NotFound("family"))?)
    }

    /// Adds families; one that is there already keeps its row and gets a newer limit only.
    ///
    /// # Errors
    /// The database error.
    pub async fn add_families(&self, families: &[Family]) -> Result<(), StoreError> {
        let mut tx = self.pool.begin().await?;
        for family in families {
            sqlx::query("INSERT INTO families (id, name, fuel_system) VALUES (?, ?, ?) ON CONFLICT DO NOTHING")
                .bind(family.id.to_string())
                .bind(&family.name)
                .bind(rows::named(family.fuel_system)?)
                .execute(&mut *tx)
                .await?;
            if let Some(limit) = &family.return_limit {
                sqlx::query(
                    "INSERT INTO return_limits (family_id, revision, upper_ml_min, from_c, to_c, source)
                     VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
                )
                .bind(family.id.to_string())
                .bind(i64::from(limit.revision))
                .bind(limit.upper_ml_min)
                .bind(limit.from_c)
                .bind(limit.to_c)
                .bind(&limit.source)
                .execute(&mut *tx)
                .await?;
            }
        }
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

fn family(row: &SqliteRow) -> Result<Family, StoreError> {
    let revision: Option<i64> = row.try_get("revision")?;
    let return_limit = match revision {
        Some(revision) => Some(Limit {
            upper_ml_min: row.try_get("upper_ml_min")?,
            from_c: row.try_get("from_c")?,
            to_c: row.try_get("to_c")?,
            source: row.try_get("source")?,
            revision: u32::try_from(revision).unwrap_or(u32::MAX),
        }),
        None => None,
    };
    Ok(Family {
        id: rows::id(row, "id")?,
        name: row.try_get("name")?,
        fuel_system: rows::name(row, "fuel_system")?,
        return_limit,
    })
}
