//! Sessions of the carrier that is used for them ([`tower_sessions`]), kept in our own table, their keys as hashes.

use async_trait::async_trait;
use sha2::{Digest, Sha256};
use tower_sessions::SessionStore;
use tower_sessions::session::{Id, Record};
use tower_sessions::session_store::{Error, Result};

use crate::database::Database;
use crate::table::error::StoreError;
use crate::table::session::{self, SessionRow};

/// The table of sessions.
#[derive(Debug, Clone)]
pub struct Sessions(pub Database);

/// What is kept of a session's key.
#[must_use]
pub fn hash(id: &Id) -> [u8; 32] {
    Sha256::digest(id.0.to_be_bytes()).into()
}

fn failed(e: impl std::fmt::Display) -> Error {
    Error::Backend(e.to_string())
}

#[async_trait]
impl SessionStore for Sessions {
    async fn create(&self, record: &mut Record) -> Result<()> {
        // 128 bits of the system's source do not come twice.
        self.save(record).await
    }

    async fn save(&self, record: &Record) -> Result<()> {
        let data = serde_json::to_value(&record.data).map_err(|e| Error::Encode(e.to_string()))?;
        let row = SessionRow { data, expires_at: record.expiry_date };
        session::put(&self.0, &hash(&record.id), &row).await.map_err(failed)
    }

    async fn load(&self, id: &Id) -> Result<Option<Record>> {
        let row: std::result::Result<_, StoreError> = session::load(&self.0, &hash(id)).await;
        let Some(row) = row.map_err(failed)? else { return Ok(None) };
        let data = serde_json::from_value(row.data).map_err(|e| Error::Decode(e.to_string()))?;
        Ok(Some(Record { id: *id, data, expiry_date: row.expires_at }))
    }

    async fn delete(&self, id: &Id) -> Result<()> {
        session::remove(&self.0, &hash(id)).await.map_err(failed)
    }
}
