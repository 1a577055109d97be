//! Where the instruments of the workshop are reached.

use crate::acts::Act;
use crate::listed::Listed;
use crate::{Store, StoreError};
use cobaltine_core::connection::Connection;
use cobaltine_core::record::Signed;
use uuid::Uuid;

impl Listed for Connection {
    const TABLE: &'static str = "connections";
    const ONE: &'static str = "connection";

    fn id(&self) -> Uuid {
        self.id
    }
    fn name(&self) -> &str {
        &self.name
    }
    fn revision(&self) -> u64 {
        self.revision
    }
    fn kept(&self, revision: u64) -> Self {
        let (name, address) = (self.name.trim().to_owned(), self.address.trim().to_owned());
        Self { name, address, revision, ..self.clone() }
    }
}

impl Store {
    /// All connections, by name; those that were taken off the list are not among them.
    ///
    /// # Errors
    /// The database error.
    pub async fn connections(&self) -> Result<Vec<Connection>, StoreError> {
        let all: Vec<Connection> = self.all_listed().await?;
        Ok(all.into_iter().filter(|one| !one.removed).collect())
    }

    /// One connection.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], also where it was taken off the list.
    pub async fn connection(&self, id: Uuid) -> Result<Connection, StoreError> {
        let one: Connection = self.one_listed(id).await?;
        if one.removed { Err(StoreError::NotFound("connection")) } else { Ok(one) }
    }

    /// Keeps a connection: a new one with revision 0, or a change of the revision that is named;
    /// `anywhere` where the settings allow more than this machine and private networks.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when it was changed meanwhile.
    pub async fn keep_connection(
        &self,
        act: &Act,
        new: &Connection,
        anywhere: bool,
        signed: Signed,
    ) -> Result<Connection, StoreError> {
        self.keep_listed(act, new, new.problems(anywhere), signed).await
    }

    /// Writes these as they are: those of the demo's own world, whose ports are others at each start.
    ///
    /// # Errors
    /// The database error.
    pub async fn add_connections(&self, all: &[Connection]) -> Result<(), StoreError> {
        self.add_listed(all).await
    }
}
