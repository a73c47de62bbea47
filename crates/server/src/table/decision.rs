//! All SQL of decisions.

use owl_core::stored::Stored;
use owl_core::verdict::{Outcome, School, StoredReason};
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A decision as stored.
#[derive(Debug, Clone)]
pub struct DecisionRow {
    /// Its part.
    pub part_id: Uuid,
    /// What the verdict was.
    pub offered: Outcome,
    /// What was decided.
    pub decided: Outcome,
    /// Why, where it was decided otherwise.
    pub why: String,
    /// Whose limits decided.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// The workshop's copy of that school, by its name then; empty for the school as it is.
    pub policy: String,
    /// The verdict's reasons as they were.
    pub reasons: Json<Stored<Vec<StoredReason>>>,
    /// When.
    pub decided_at: OffsetDateTime,
}

/// All decisions on some parts, oldest first.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<DecisionRow>, StoreError> {
    Ok(sqlx::query_as!(
        DecisionRow,
        "select part_id, offered, decided, why, d.school, d.tight, d.policy, reasons, decided_at
         from decision d where part_id = any($1) order by ordinal",
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds a decision, as of this moment; says whether it was new.
pub async fn insert(
    db: &mut PgConnection,
    key: Uuid,
    d: &DecisionRow,
    reading_id: Option<Uuid>,
) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into decision (id, part_id, offered, decided, why, school, tight, policy, reasons, reading_id,
                               decided_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, clock_timestamp()) on conflict (id) do nothing",
        key,
        d.part_id,
        d.offered as _,
        d.decided as _,
        d.why,
        d.school as _,
        d.tight,
        d.policy,
        &d.reasons as _,
        reading_id
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Whether a decision of a part is there already under that key.
pub async fn known(db: &mut PgConnection, key: Uuid, part: Uuid) -> Result<bool, StoreError> {
    let known = sqlx::query_scalar!(
        "select exists (select from decision where id = $1 and part_id = $2) as \"known!\"",
        key,
        part
    );
    Ok(known.fetch_one(db).await?)
}
