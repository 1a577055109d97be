//! The instruments of the workshop.

use crate::acts::Act;
use crate::listed::Listed;
use crate::{Store, StoreError};
use cobaltine_core::instrument::Instrument;
use cobaltine_core::record::Signed;
use uuid::Uuid;

impl Listed for Instrument {
    const TABLE: &'static str = "instruments";
    const ONE: &'static str = "instrument";

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
        Self { name: self.name.trim().to_owned(), revision, ..self.clone() }
    }
}

impl Store {
    /// All instruments, by name.
    ///
    /// # Errors
    /// The database error.
    pub async fn instruments(&self) -> Result<Vec<Instrument>, StoreError> {
        self.all_listed().await
    }

    /// One instrument.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub async fn instrument(&self, id: Uuid) -> Result<Instrument, StoreError> {
        self.one_listed(id).await
    }

    /// Keeps an instrument: a new one with revision 0, or a change of the revision that is named.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] by field; [`StoreError::Conflict`] when it was changed meanwhile.
    pub async fn keep_instrument(
        &self,
        act: &Act,
        new: &Instrument,
        signed: Signed,
    ) -> Result<Instrument, StoreError> {
        self.keep_listed(act, new, new.problems(), signed).await
    }

    /// Adds instruments that are not there yet: the demo.
    ///
    /// # Errors
    /// The database error.
    pub async fn add_instruments(&self, all: &[Instrument]) -> Result<(), StoreError> {
        self.add_listed(all).await
    }
}
