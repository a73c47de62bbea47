//! All SQL of explanations.

use owl_core::marking::disagreement::{Between, Explanation};
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// An explanation as stored.
#[derive(Debug, Clone)]
pub struct ExplanationRow {
    /// Its part.
    pub part_id: Uuid,
    /// Which two values disagreed.
    pub pair: Between,
    /// What the sheet said then.
    pub sheet: Option<f64>,
    /// What was marked then.
    pub marked: Option<f64>,
    /// What was measured then.
    pub measured: Option<f64>,
    /// The question as it was.
    pub question: String,
    /// The answer.
    pub answer: Explanation,
    /// What was added to it.
    pub note: String,
    /// When.
    pub answered_at: OffsetDateTime,
}

/// All explanations on some parts, oldest first.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<ExplanationRow>, StoreError> {
    Ok(sqlx::query_as!(
        ExplanationRow,
        "select part_id, e.pair, e.sheet, e.marked, e.measured, question, answer, e.note, answered_at
         from explanation e where part_id = any($1) order by ordinal",
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds an explanation, as of this moment.
pub async fn insert(db: &mut PgConnection, key: Uuid, e: &ExplanationRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into explanation (id, part_id, pair, sheet, marked, measured, question, answer, note, answered_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, clock_timestamp()) on conflict (id) do nothing",
        key,
        e.part_id,
        e.pair as _,
        e.sheet,
        e.marked,
        e.measured,
        e.question,
        e.answer as _,
        e.note
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Whether an explanation of a part is there already under that key.
pub async fn known(db: &mut PgConnection, key: Uuid, part: Uuid) -> Result<bool, StoreError> {
    let known = sqlx::query_scalar!(
        "select exists (select from explanation where id = $1 and part_id = $2) as \"known!\"",
        key,
        part
    );
    Ok(known.fetch_one(db).await?)
}
