//! What every handler has.

use std::sync::Arc;
use std::time::Duration;

use ipnet::IpNet;
use owl_instruments::address::Address;
use sqlx::{PgPool, PgTransaction};

use crate::database::Database;
use crate::dialect::Chosen;
use crate::metrics::Metrics;
use crate::people::actor;
use crate::picture_store::PictureStore;
use crate::reform::station::Station;
use crate::search::Past;
use crate::together::hub::Hub;
use crate::transistor::library::Library;

/// What every handler has.
#[derive(Debug, Clone)]
pub struct App {
    /// The database.
    pub db: Database,
    /// Where the bytes of pictures lie.
    pub pictures: PictureStore,
    /// The reforming bench.
    pub station: Arc<Station>,
    /// The transistors of the table and of the workshop.
    pub types: Arc<Library>,
    /// The words that the workshop has chosen.
    pub words: Arc<Chosen>,
    /// How often this server writes a backup, where it does.
    pub backups_every: Option<Duration>,
    /// What is counted for whoever watches the server.
    pub metrics: Arc<Metrics>,
    /// What the other benches do.
    pub hub: Arc<Hub>,
    /// What was reckoned from all tickets together.
    pub past: Arc<Past>,
    /// The networks in which instruments are asked; `None` for this machine and all private ones, where one person works
    /// alone.
    pub instruments: Option<Arc<[IpNet]>>,
}

impl App {
    /// On a database that is reached directly.
    #[must_use]
    pub fn new(pool: PgPool) -> Self {
        Self::on(Database::direct(pool))
    }

    /// On a database, with a reforming bench, a library of types and words of its own.
    #[must_use]
    pub fn on(db: Database) -> Self {
        Self {
            db,
            pictures: PictureStore::default(),
            station: Arc::default(),
            types: Arc::default(),
            words: Arc::default(),
            hub: Arc::default(),
            past: Arc::default(),
            metrics: Arc::default(),
            backups_every: None,
            instruments: None,
        }
    }

    /// Whether an instrument may be asked at an address.
    ///
    /// # Errors
    /// Says what would have to be allowed.
    pub fn may_ask(&self, address: Address) -> Result<(), String> {
        let ip = address.socket().ip().to_canonical();
        match &self.instruments {
            Some(allowed) if !allowed.iter().any(|n| n.contains(&ip)) => Err(format!(
                "{ip} is in no network that the owner allows for instruments (OWL_INSTRUMENT_NETWORK)"
            )),
            _ => Ok(()),
        }
    }

    /// Begins to write in the name of whoever asks: every row of the transaction carries it.
    ///
    /// # Errors
    /// When the database does not answer.
    pub async fn begin(&self) -> Result<PgTransaction<'static>, sqlx::Error> {
        match actor::now() {
            // Names are quoted where the statement is made.
            Some(actor) => self.db.begin_with(actor.begin()).await,
            None => self.db.begin().await,
        }
    }
}
