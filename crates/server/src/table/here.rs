//! Who looks at which ticket.

use uuid::Uuid;

use super::error::StoreError;
use crate::database::Database;

/// Without a word from its server for so long somebody is taken for gone, in seconds.
const GONE_SECONDS: f64 = 16.0;

/// Somebody at a ticket.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HereRow {
    /// The person, where people sign in.
    pub person_id: Option<Uuid>,
    /// The name.
    pub person: String,
    /// At which bench.
    pub bench: String,
}

/// Somebody's page comes to a ticket, or says that it is still there.
///
/// # Errors
/// When there is no such ticket, or the database does not answer.
pub async fn come(
    db: &Database,
    page: Uuid,
    server: Uuid,
    ticket: Uuid,
    who: &HereRow,
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into here (page, server, ticket_id, person_id, person, bench)
         select $1, $2, id, $4, $5, $6 from ticket where id = $3
         on conflict (page) do update
         set server = $2, ticket_id = excluded.ticket_id, person_id = $4, person = $5, bench = $6, seen_at = clock_timestamp()",
        page,
        server,
        ticket,
        who.person_id,
        who.person,
        who.bench
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A page leaves, if it is still at that server.
///
/// # Errors
/// When the database does not answer.
pub async fn leave(db: &Database, page: Uuid, server: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from here where page = $1 and server = $2", page, server).execute(db).await?;
    Ok(())
}

/// All pages of a server leave.
///
/// # Errors
/// When the database does not answer.
pub async fn leave_server(db: &Database, server: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from here where server = $1", server).execute(db).await?;
    Ok(())
}

/// A server's heartbeat: its pages are still here, those of silent servers are not.
///
/// # Errors
/// When the database does not answer.
pub async fn beat(db: &Database, server: Uuid) -> Result<(), StoreError> {
    sqlx::query!(
        "with mine as (update here set seen_at = clock_timestamp() where server = $1),
         gone as (delete from here where server <> $1 and seen_at < clock_timestamp() - make_interval(secs => $2))
         select pg_notify('owl', 'B ' || $1::text || ' -')",
        server,
        GONE_SECONDS
    )
    .fetch_one(db)
    .await?;
    Ok(())
}

/// Who else is at a ticket, first come first.
///
/// # Errors
/// When the database does not answer.
pub async fn others(db: &Database, ticket: Uuid, page: Uuid) -> Result<Vec<HereRow>, StoreError> {
    Ok(sqlx::query_as!(
        HereRow,
        "select person_id, person, bench from here
         where ticket_id = $1 and page <> $2 and seen_at > clock_timestamp() - make_interval(secs => $3)
         order by begun_at, page limit 50",
        ticket,
        page,
        GONE_SECONDS
    )
    .fetch_all(db)
    .await?)
}
