//! All SQL of the sessions: who is signed in, from where. Their keys are kept as hashes.

use serde_json::Value;
use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// After so many hours without a request a session is over.
pub const IDLE_HOURS: i32 = 24;

/// A session as it is kept.
#[derive(Debug, Clone)]
pub struct SessionRow {
    /// What its carrier keeps in it.
    pub data: Value,
    /// When it ends whatever happens.
    pub expires_at: OffsetDateTime,
}

/// A session as people see it.
#[derive(Debug, Clone)]
pub struct SeatRow {
    /// The hash of its key.
    pub id_hash: Vec<u8>,
    /// Whose.
    pub person_id: Uuid,
    /// At which bench.
    pub bench: String,
    /// From which address it began.
    pub address: String,
    /// Since when.
    pub begun_at: OffsetDateTime,
    /// When it was last used.
    pub seen_at: OffsetDateTime,
}

/// Keeps a session.
pub async fn put(db: impl PgExecutor<'_>, hash: &[u8], row: &SessionRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into session (id_hash, data, expires_at, person_id, bench, address)
         values ($1, $2, $3, ($2::jsonb ->> 'person')::uuid, coalesce($2 ->> 'bench', ''), coalesce($2 ->> 'address', ''))
         on conflict (id_hash) do update set data = excluded.data, expires_at = excluded.expires_at,
             person_id = excluded.person_id, bench = excluded.bench, address = excluded.address, seen_at = now()",
        hash,
        row.data,
        row.expires_at
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A session that is not over; that it is used is noted once a minute.
pub async fn load(db: impl PgExecutor<'_>, hash: &[u8]) -> Result<Option<SessionRow>, StoreError> {
    Ok(sqlx::query_as!(
        SessionRow,
        r#"with found as (
               select id_hash, data, expires_at, seen_at from session
               where id_hash = $1 and expires_at > now() and seen_at > now() - make_interval(hours => $2)),
           noted as (
               update session s set seen_at = now() from found
               where s.id_hash = found.id_hash and found.seen_at < now() - interval '1 minute')
           select data, expires_at from found"#,
        hash,
        IDLE_HOURS
    )
    .fetch_optional(db)
    .await?)
}

/// Ends a session.
pub async fn remove(db: impl PgExecutor<'_>, hash: &[u8]) -> Result<(), StoreError> {
    sqlx::query!("delete from session where id_hash = $1", hash).execute(db).await?;
    Ok(())
}

/// Ends somebody's session that was seen in the list.
pub async fn end(db: impl PgExecutor<'_>, hash: &[u8], of: Option<Uuid>) -> Result<(), StoreError> {
    let gone = sqlx::query!(
        "delete from session where id_hash = $1 and ($2::uuid is null or person_id = $2)",
        hash,
        of
    )
    .execute(db)
    .await?;
    if gone.rows_affected() == 0 { Err(StoreError::Gone(Row::Session)) } else { Ok(()) }
}

/// Ends all of somebody's sessions but one.
pub async fn end_others(db: impl PgExecutor<'_>, person: Uuid, but: &[u8]) -> Result<(), StoreError> {
    sqlx::query!("delete from session where person_id = $1 and id_hash <> $2", person, but)
        .execute(db)
        .await?;
    Ok(())
}

/// Forgets what is over.
pub async fn sweep(db: impl PgExecutor<'_>) -> Result<(), StoreError> {
    sqlx::query!(
        "delete from session where expires_at < now() or seen_at < now() - make_interval(hours => $1)",
        IDLE_HOURS
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The sessions of everybody or of one, the last used first.
pub async fn seats(db: impl PgExecutor<'_>, of: Option<Uuid>) -> Result<Vec<SeatRow>, StoreError> {
    Ok(sqlx::query_as!(
        SeatRow,
        r#"select id_hash, person_id as "person_id!", bench, address, begun_at, seen_at from session
           where person_id is not null and ($1::uuid is null or person_id = $1)
             and expires_at > now() and seen_at > now() - make_interval(hours => $2)
           order by seen_at desc"#,
        of,
        IDLE_HOURS
    )
    .fetch_all(db)
    .await?)
}
