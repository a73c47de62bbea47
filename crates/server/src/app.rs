//! What every handler has.

use std::sync::Arc;

use sqlx::PgPool;

use crate::dialect::Chosen;
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
    /// The words that the workshop has chosen.
    pub words: Arc<Chosen>,
}

impl App {
    /// On a database, with a reforming bench, a library of types and words of its own.
    #[must_use]
    pub fn new(pool: PgPool) -> Self {
        Self { pool, station: Arc::default(), types: Arc::default(), words: Arc::default() }
    }
}
