//! The sessions of the workshop as the session layer asks for them.

use async_trait::async_trait;
use cobaltine_store::{Store, StoreError};
use tower_sessions::cookie::time::OffsetDateTime;
use tower_sessions::session::{Id, Record};
use tower_sessions::session_store::{Error, Result};

/// Sessions beside the data.
#[derive(Debug, Clone)]
pub(crate) struct SignInStore(pub Store);

fn backend(error: StoreError) -> Error {
    Error::Backend(error.to_string())
}

fn now() -> i64 {
    OffsetDateTime::now_utc().unix_timestamp()
}

impl SignInStore {
    async fn keep(&self, record: &Record, new: bool) -> Result<bool> {
        let said = serde_json::to_string(&record.data).map_err(|e| Error::Encode(e.to_string()))?;
        let ends_at = record.expiry_date.unix_timestamp();
        let kept = self.0.sign_ins().keep(&record.id.to_string(), &said, ends_at, new).await;
        kept.map_err(backend)
    }
}

#[async_trait]
impl tower_sessions::SessionStore for SignInStore {
    async fn create(&self, record: &mut Record) -> Result<()> {
        while !self.keep(record, true).await? {
            record.id = Id::default();
        }
        Ok(())
    }

    async fn save(&self, record: &Record) -> Result<()> {
        self.keep(record, false).await.map(drop)
    }

    async fn load(&self, id: &Id) -> Result<Option<Record>> {
        let found = self.0.sign_ins().look(&id.to_string(), now()).await.map_err(backend)?;
        let Some(said) = found else { return Ok(None) };
        let data = serde_json::from_str(&said).map_err(|e| Error::Decode(e.to_string()))?;
        // The layer counts from the last change; the sign-in says itself when it ends.
        let expiry_date = OffsetDateTime::now_utc() + crate::access::KEPT;
        Ok(Some(Record { id: *id, data, expiry_date }))
    }

    async fn delete(&self, id: &Id) -> Result<()> {
        self.0.sign_ins().end(&id.to_string(), now()).await.map_err(backend)
    }
}
