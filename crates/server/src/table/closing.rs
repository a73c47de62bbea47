//! All SQL of closing.

use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// How a ticket was closed.
#[derive(Debug, Clone)]
pub struct ClosingRow {
    /// When; none while it is open.
    pub closed_at: Option<OffsetDateTime>,
    /// What the owner is to watch.
    pub closing: String,
}

/// A soak test as stored.
#[derive(Debug, Clone)]
pub struct SoakRow {
    /// Its id.
    pub id: Uuid,
    /// How long it is to run, in seconds.
    pub planned_s: f64,
    /// How often somebody looks, in seconds.
    pub every_s: f64,
    /// When it was begun.
    pub begun_at: OffsetDateTime,
}

/// A look at a set on soak.
#[derive(Debug, Clone)]
pub struct CheckRow {
    /// Of which soak test.
    pub soak_id: Uuid,
    /// Whether all was well.
    pub well: bool,
    /// What was seen.
    pub seen: String,
    /// When.
    pub checked_at: OffsetDateTime,
}

/// How a ticket was closed.
pub async fn closing(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<ClosingRow, StoreError> {
    sqlx::query_as!(ClosingRow, "select closed_at, closing from ticket where id = $1", ticket)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Ticket))
}

/// Closes a ticket, or opens it again.
pub async fn close(
    db: impl PgExecutor<'_>,
    ticket: Uuid,
    closed: bool,
    words: &str,
) -> Result<(), StoreError> {
    let done = sqlx::query!(
        "update ticket set closing = $3, closed_at = case when $2 then coalesce(closed_at, clock_timestamp()) end where id = $1",
        ticket,
        closed,
        words
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 0 { Err(StoreError::Gone(Row::Ticket)) } else { Ok(()) }
}

/// The soak tests of a ticket, oldest first.
pub async fn soaks(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<Vec<SoakRow>, StoreError> {
    Ok(sqlx::query_as!(
        SoakRow,
        "select id, planned_s, every_s, begun_at from soak where ticket_id = $1 order by ordinal",
        ticket
    )
    .fetch_all(db)
    .await?)
}

/// All looks of a ticket's soak tests, oldest first.
pub async fn checks(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<Vec<CheckRow>, StoreError> {
    Ok(sqlx::query_as!(
        CheckRow,
        "select soak_id, well, seen, checked_at from soak_check c join soak s on s.id = c.soak_id
         where s.ticket_id = $1 order by c.ordinal",
        ticket
    )
    .fetch_all(db)
    .await?)
}

/// Begins a soak test, as of this moment.
pub async fn begin(db: impl PgExecutor<'_>, ticket: Uuid, s: &SoakRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into soak (id, ticket_id, planned_s, every_s) values ($1, $2, $3, $4) on conflict (id) do nothing",
        s.id,
        ticket,
        s.planned_s,
        s.every_s
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The ticket of a soak test.
pub async fn ticket_of(db: impl PgExecutor<'_>, soak: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("select ticket_id from soak where id = $1", soak)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Soak))
}

/// Writes a look down, as of this moment.
pub async fn check(
    db: impl PgExecutor<'_>,
    key: Uuid,
    soak: Uuid,
    well: bool,
    seen: &str,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into soak_check (id, soak_id, well, seen, checked_at) values ($1, $2, $3, $4, clock_timestamp())
         on conflict (id) do nothing",
        key,
        soak,
        well,
        seen
    )
    .execute(db)
    .await?;
    Ok(())
}
