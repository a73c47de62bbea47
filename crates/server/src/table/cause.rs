//! All SQL of causes.

use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// An answer to the question why a part failed, as stored.
#[derive(Debug, Clone)]
pub struct CauseRow {
    /// The part that failed.
    pub part_id: Uuid,
    /// The part that did it, where it is one on the tray.
    pub culprit_id: Option<Uuid>,
    /// In words.
    pub answer: String,
    /// When.
    pub answered_at: OffsetDateTime,
}

/// All causes on some parts, oldest first.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<CauseRow>, StoreError> {
    Ok(sqlx::query_as!(
        CauseRow,
        "select part_id, culprit_id, answer, answered_at from cause c where part_id = any($1) order by ordinal",
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds an answer, as of this moment; says whether it was new.
pub async fn insert(db: &mut PgConnection, key: Uuid, c: &CauseRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into cause (id, part_id, culprit_id, answer, answered_at)
         values ($1, $2, $3, $4, clock_timestamp()) on conflict (id) do nothing",
        key,
        c.part_id,
        c.culprit_id,
        c.answer
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}
