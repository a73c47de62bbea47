//! All SQL of the tests of junctions.

use owl_core::part::StoredJunctions;
use owl_core::stored::Stored;
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A test as stored.
#[derive(Debug, Clone)]
pub struct JunctionRow {
    /// The part.
    pub part_id: Uuid,
    /// The six readings, as they were asked about.
    pub question: Json<Stored<StoredJunctions>>,
    /// When.
    pub taken_at: OffsetDateTime,
}

/// All tests of some parts' junctions, oldest first.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<JunctionRow>, StoreError> {
    Ok(sqlx::query_as!(
        JunctionRow,
        "select part_id, question, taken_at from junction_test j where part_id = any($1) order by j.ordinal",
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds a test, as of this moment; says whether it was new.
pub async fn insert(
    db: &mut PgConnection,
    key: Uuid,
    part_id: Uuid,
    question: StoredJunctions,
) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into junction_test (id, part_id, question, taken_at) values ($1, $2, $3, clock_timestamp())
         on conflict (id) do nothing",
        key,
        part_id,
        Json(Stored(question)) as _
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}
