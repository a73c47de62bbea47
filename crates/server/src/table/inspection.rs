//! All SQL of inspections of bought transistors.

use owl_core::stored::Stored;
use owl_core::transistor::inspect::{InspectionVerdict, StoredAnswer};
use sqlx::PgExecutor;
use sqlx::types::Json;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// An inspection as stored.
#[derive(Debug, Clone)]
pub struct InspectionRow {
    /// Its id, chosen by the client.
    pub id: Uuid,
    /// The type that is printed on it.
    pub type_number: String,
    /// Where it was bought.
    pub bought_from: String,
    /// What was seen.
    pub answers: Json<Stored<Vec<StoredAnswer>>>,
    /// What that says.
    pub verdict: InspectionVerdict,
    /// What else was said.
    pub note: String,
    /// When; the database says it.
    pub inspected_at: OffsetDateTime,
}

/// The last fifty, newest first.
pub async fn newest(db: impl PgExecutor<'_>) -> Result<Vec<InspectionRow>, StoreError> {
    Ok(sqlx::query_as!(
        InspectionRow,
        "select id, type_number, bought_from, answers, verdict, note, inspected_at from inspection
         order by ordinal desc limit 50"
    )
    .fetch_all(db)
    .await?)
}

/// Adds one, unless it is there already.
pub async fn insert(db: impl PgExecutor<'_>, row: &InspectionRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into inspection (id, type_number, bought_from, answers, verdict, note)
         values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing",
        row.id,
        row.type_number,
        row.bought_from,
        &row.answers as _,
        row.verdict as _,
        row.note
    )
    .execute(db)
    .await?;
    Ok(())
}
