//! The types: those of the table and the workshop's own, kept in memory and read again when a row has changed.

use std::collections::HashMap;
use std::sync::{Arc, PoisonError, RwLock};

use owl_core::transistor::Device;
use owl_core::transistor::device::{devices, meant};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::aside::aside;
use crate::database::Database;
use crate::error::ApiError;
use crate::table::device::{self, DeviceRow};

/// All types at one moment.
#[derive(Debug, Default)]
pub struct Types {
    devices: Vec<Device>,
    by_name: HashMap<String, usize>,
    own: HashMap<String, (Uuid, i32)>,
}

impl Types {
    fn of(rows: &[DeviceRow]) -> Result<Self, ApiError> {
        let mut types = Self::default();
        for d in devices() {
            types.by_name.insert(d.type_number.to_ascii_uppercase(), types.devices.len());
            types.devices.push(d.clone());
        }
        for row in rows {
            let d = row.device()?;
            let name = d.type_number.to_ascii_uppercase();
            types.own.insert(name.clone(), (row.id, row.version));
            match types.by_name.get(&name) {
                Some(i) => types.devices[*i] = d,
                None => {
                    types.by_name.insert(name, types.devices.len());
                    types.devices.push(d);
                }
            }
        }
        Ok(types)
    }

    /// All of them, a corrected one in the place of the table's.
    #[must_use]
    pub fn devices(&self) -> &[Device] {
        &self.devices
    }

    /// The type of exactly that number.
    #[must_use]
    pub fn called(&self, type_number: &str) -> Option<&Device> {
        self.by_name.get(&type_number.trim().to_ascii_uppercase()).and_then(|i| self.devices.get(*i))
    }

    /// The type that a print means.
    #[must_use]
    pub fn meant(&self, type_number: &str) -> Option<&Device> {
        meant(type_number, |t| self.called(t))
    }

    /// The workshop's own row of that number, with its version.
    #[must_use]
    pub fn own(&self, type_number: &str) -> Option<(Uuid, i32)> {
        self.own.get(&type_number.to_ascii_uppercase()).copied()
    }
}

/// The types in memory, with the revision of the rows from which they come.
#[derive(Debug, Default)]
pub struct Library(RwLock<Option<(i64, Arc<Types>)>>);

impl Library {
    /// All types as they are now: asks whether a row has changed, and reads them again only then.
    ///
    /// # Errors
    /// [`ApiError::Database`] without a database.
    pub async fn all(&self, db: &Database) -> Result<Arc<Types>, ApiError> {
        self.within(&mut *db.snapshot().await?).await
    }

    /// The same, in a transaction that is under way: whoever holds one connection asks for no second, or all wait for all.
    ///
    /// # Errors
    /// [`ApiError::Database`] without a database.
    pub async fn within(&self, db: &mut PgConnection) -> Result<Arc<Types>, ApiError> {
        let now = device::revision(&mut *db).await?;
        if let Some((revision, types)) = &*self.0.read().unwrap_or_else(PoisonError::into_inner)
            && *revision == now
        {
            return Ok(types.clone());
        }
        let rows = device::own(&mut *db).await?;
        let types = Arc::new(aside(move || Types::of(&rows)).await??);
        *self.0.write().unwrap_or_else(PoisonError::into_inner) = Some((now, types.clone()));
        Ok(types)
    }
}
