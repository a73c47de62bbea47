//! What every handler has.

use std::sync::Arc;

use sqlx::PgPool;

use crate::reform::station::Station;
use crate::transistor::library::Library;

/// What every handler has.
#[derive(Debug, Clone)]
pub struct App {
    /// The database.
    pub pool: PgPool,
    /// The reforming bench.
    pub station: Arc<Station>,
    /// The transistors of the table and of the workshop.
    pub types: Arc<Library>,
}

impl App {
    /// On a database, with a reforming bench and a library of types of its own.
    #[must_use]
    pub fn new(pool: PgPool) -> Self {
        Self { pool, station: Arc::default(), types: Arc::default() }
    }
}
