//! All SQL of safety lists.

use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A line that was ticked.
#[derive(Debug, Clone)]
pub struct TickRow {
    /// Which line.
    pub line: String,
    /// By whom.
    pub who: String,
    /// In which session at the bench.
    pub session: Uuid,
    /// What was measured for it, in the base unit.
    pub value: Option<f64>,
    /// When.
    pub ticked_at: OffsetDateTime,
}

/// All ticks of a ticket, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<TickRow>, StoreError> {
    Ok(sqlx::query_as!(
        TickRow,
        "select line, who, session, value, ticked_at from safety_tick where ticket_id = $1 order by ticked_at, id",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// Adds a tick, as of this moment.
pub async fn insert(
    db: impl PgExecutor<'_>,
    key: Uuid,
    ticket_id: Uuid,
    t: &TickRow,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into safety_tick (id, ticket_id, line, who, session, value, ticked_at)
         values ($1, $2, $3, $4, $5, $6, clock_timestamp()) on conflict (id) do nothing",
        key,
        ticket_id,
        t.line,
        t.who,
        t.session,
        t.value
    )
    .execute(db)
    .await?;
    Ok(())
}
