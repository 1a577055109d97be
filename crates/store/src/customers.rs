//! Customers with their machines and earlier jobs.

use crate::acts::{self, Act};
use crate::rows;
use crate::words;
use crate::{BoardCard, Store, StoreError};
use cobaltine_core::customer::Customer;
use serde::Serialize;
use sqlx::sqlite::SqliteRow;
use sqlx::{Row, SqliteConnection};
use utoipa::ToSchema;
use uuid::Uuid;

/// Customers of a page.
const PER_PAGE: u32 = 50;
/// Jobs of one customer that are shown, newest first.
const JOBS: i64 = 200;

/// One customer in the list.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CustomerLine {
    /// Who.
    pub customer: Customer,
    /// Jobs so far.
    pub jobs: u64,
}

/// A page of customers, by name.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CustomerPage {
    /// Those of this page.
    pub lines: Vec<CustomerLine>,
    /// Those that fit, over all pages.
    pub total: u64,
    /// Lines of a page.
    pub per_page: u32,
}

/// One machine of a customer.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CustomerMachine {
    /// As booked in.
    pub machine: String,
    /// Its plate or hull number; may be empty.
    pub plate: String,
    /// Its jobs, newest first.
    pub jobs: Vec<BoardCard>,
}

/// A customer with machines and jobs.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CustomerLife {
    /// Who.
    pub customer: Customer,
    /// The machine of the newest job first.
    pub machines: Vec<CustomerMachine>,
}

impl Store {
    /// A page of customers whose name or telephone holds these words.
    ///
    /// # Errors
    /// The database error.
    pub async fn customers(&self, q: &str, page: u32) -> Result<CustomerPage, StoreError> {
        let like = format!("%{}%", q.trim().replace(['%', '_', '\\'], ""));
        let total = sqlx::query(
            "SELECT COUNT(*) AS total FROM customers WHERE name LIKE ?1 OR phone LIKE ?1",
        )
        .bind(&like)
        .fetch_one(&self.pool)
        .await?;
        let found = sqlx::query(
            "SELECT c.*, (SELECT COUNT(*) FROM jobs j WHERE j.customer_id = c.id) AS jobs
             FROM customers c WHERE c.name LIKE ?1 OR c.phone LIKE ?1
             ORDER BY c.name COLLATE NOCASE, c.id LIMIT ?2 OFFSET ?3",
        )
        .bind(&like)
        .bind(PER_PAGE)
        .bind(i64::from(page) * i64::from(PER_PAGE))
        .fetch_all(&self.pool)
        .await?;
        let line = |row: &SqliteRow| {
            Ok::<_, StoreError>(CustomerLine {
                customer: read(row)?,
                jobs: rows::count(row, "jobs")?,
            })
        };
        Ok(CustomerPage {
            lines: found.iter().map(line).collect::<Result<_, _>>()?,
            total: rows::count(&total, "total")?,
            per_page: PER_PAGE,
        })
    }

    /// Every customer: for an export.
    pub(crate) async fn every_customer(&self) -> Result<Vec<Customer>, StoreError> {
        let found = sqlx::query("SELECT * FROM customers ORDER BY name COLLATE NOCASE, id")
            .fetch_all(&self.pool)
            .await?;
        found.iter().map(read).collect()
    }

    /// One customer with machines and jobs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn customer(&self, id: Uuid) -> Result<CustomerLife, StoreError> {
        self.settle_to_read().await?;
        let row = sqlx::query("SELECT * FROM customers WHERE id = ?")
            .bind(id.to_string())
            .fetch_optional(&self.pool)
            .await?;
        let customer = read(&row.ok_or(StoreError::NotFound("customer"))?)?;
        let cards = sqlx::query(
            "SELECT b.card FROM jobs j JOIN board b ON b.job_id = j.id
             WHERE j.customer_id = ? ORDER BY j.at DESC LIMIT ?",
        )
        .bind(id.to_string())
        .bind(JOBS)
        .fetch_all(&self.pool)
        .await?;
        let mut machines: Vec<CustomerMachine> = Vec::new();
        for row in &cards {
            let card: BoardCard = rows::json(row, "card")?;
            let same = |held: &&mut CustomerMachine| {
                held.machine == card.machine && held.plate == card.plate
            };
            match machines.iter_mut().find(same) {
                Some(held) => held.jobs.push(card),
                None => machines.push(CustomerMachine {
                    machine: card.machine.clone(),
                    plate: card.plate.clone(),
                    jobs: vec![card],
                }),
            }
        }
        Ok(CustomerLife { customer, machines })
    }

    /// Adds one that is not there yet: the demo.
    ///
    /// # Errors
    /// The database error.
    pub async fn add_customer(&self, customer: &Customer) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        write(&mut tx, customer).await?;
        tx.commit().await
    }

    /// Keeps a customer: a new one with revision 0, or a change of the revision that is named.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when it was changed meanwhile.
    pub async fn keep_customer(
        &self,
        act: &Act,
        new: &Customer,
        at: jiff::Timestamp,
    ) -> Result<(), StoreError> {
        let problems = new.problems();
        if !problems.is_empty() {
            return Err(StoreError::Invalid(problems));
        }
        let mut tx = self.write().await?;
        if acts::done_before(&mut tx, act).await? {
            return Ok(());
        }
        let held = sqlx::query("SELECT revision FROM customers WHERE id = ?")
            .bind(new.id.to_string())
            .fetch_optional(&mut *tx)
            .await?;
        let held = held.map(|row| rows::count(&row, "revision")).transpose()?.unwrap_or(0);
        if held != new.revision {
            return Err(StoreError::Conflict(words::CUSTOMER_CHANGED.to_owned()));
        }
        write(&mut tx, &Customer { revision: held + 1, ..new.clone() }).await?;
        acts::done(&mut tx, act, at).await?;
        tx.commit().await?;
        Ok(())
    }
}

fn read(row: &SqliteRow) -> Result<Customer, StoreError> {
    Ok(Customer {
        id: rows::id(row, "id")?,
        revision: rows::count(row, "revision")?,
        name: row.try_get("name")?,
        phone: row.try_get("phone")?,
        address: row.try_get("address")?,
    })
}

/// One that is here already stays as it is, unless this is a later revision of it.
pub(crate) async fn write(
    connection: &mut SqliteConnection,
    customer: &Customer,
) -> Result<(), StoreError> {
    let problems = customer.problems();
    if !problems.is_empty() {
        return Err(StoreError::Invalid(problems));
    }
    sqlx::query(
        "INSERT INTO customers (id, revision, name, phone, address) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (id) DO UPDATE SET revision = excluded.revision, name = excluded.name,
           phone = excluded.phone, address = excluded.address
           WHERE excluded.revision > customers.revision",
    )
    .bind(customer.id.to_string())
    .bind(customer.revision as i64)
    .bind(customer.name.trim())
    .bind(customer.phone.trim())
    .bind(customer.address.trim())
    .execute(connection)
    .await?;
    Ok(())
}
