//! All SQL of deeds: what was done last on a ticket, and taking it back.

use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// How many deeds can be taken back.
const DEEP: i64 = 10;

/// A deed that can be taken back.
#[derive(Debug, Clone)]
pub struct DeedRow {
    /// Its number.
    pub id: i64,
    /// In words.
    pub what: String,
    /// The part that it was done to.
    pub part_id: Option<Uuid>,
    /// When.
    pub done_at: OffsetDateTime,
}

/// Begins a deed: what this transaction writes from here on is taken back with it. Deeds beyond the last ten are forgotten.
pub async fn begin(
    db: &mut PgConnection,
    ticket: Uuid,
    part: Option<Uuid>,
    what: &str,
) -> Result<(), StoreError> {
    let what: String = what.chars().take(300).collect();
    let id = sqlx::query_scalar!(
        "insert into deed (ticket_id, what, part_id) values ($1, $2, $3) returning id",
        ticket,
        what,
        part
    )
    .fetch_one(&mut *db)
    .await?;
    sqlx::query!(
        "delete from deed where id in (select id from deed where ticket_id = $1 and id not in (
             select id from deed d where d.ticket_id = $1
               and (d.id = $2 or exists (select from deed_row where deed_id = d.id))
             order by id desc limit $3) for update skip locked)",
        ticket,
        id,
        DEEP
    )
    .execute(&mut *db)
    .await?;
    sqlx::query_scalar!("select set_config('owl.deed', $1, true)", id.to_string()).fetch_one(db).await?;
    Ok(())
}

/// Forgets the deeds on the demo's tickets: what they did stays.
pub async fn forget(db: impl PgExecutor<'_>) -> Result<(), StoreError> {
    sqlx::query!("delete from deed where ticket_id in (select id from ticket where demo)")
        .execute(db)
        .await?;
    Ok(())
}

/// What can be taken back next on a ticket: the last deed that wrote something and was not taken back.
pub async fn last(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<Option<DeedRow>, StoreError> {
    Ok(sqlx::query_as!(
        DeedRow,
        "select id, what, part_id, done_at from deed d where ticket_id = $1 and undone_at is null
           and exists (select from deed_row where deed_id = d.id)
         order by id desc limit 1",
        ticket
    )
    .fetch_optional(db)
    .await?)
}

/// Whether a deed was taken back already.
pub async fn is_undone(db: impl PgExecutor<'_>, ticket: Uuid, id: i64) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        "select exists (select from deed where id = $1 and ticket_id = $2 and undone_at is not null) as \"known!\"",
        id,
        ticket
    )
    .fetch_one(db)
    .await?)
}

/// Whether a deed decided on something, or fitted it: more than measuring is taken back with it.
pub async fn decides(db: impl PgExecutor<'_>, id: i64) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from deed_row where deed_id = $1
             and tab in ('decision', 'fitting', 'fitting_piece', 'withdrawal', 'change', 'lot', 'ticket')) as "so!""#,
        id
    )
    .fetch_one(db)
    .await?)
}

/// Takes a deed back; the parts of the ticket that it wrote to and that are still there. `None` where something else has
/// changed since what it wrote.
pub async fn undo(db: &mut PgConnection, id: i64) -> Result<Option<Vec<Uuid>>, StoreError> {
    match sqlx::query!("select undo_deed($1)", id).execute(&mut *db).await {
        Ok(_) => {}
        Err(sqlx::Error::Database(e)) if e.code().as_deref() == Some("OW001") => return Ok(None),
        Err(e) => return Err(e.into()),
    }
    let parts = sqlx::query_scalar!(
        r#"select distinct p.id as "id!" from deed_row r join part p
             on p.id = (coalesce(r.after, r.before) ->> case when r.tab = 'part' then 'id' else 'part_id' end)::uuid
             or r.tab = 'proof' and p.id = (select part_id from change c where c.id = (coalesce(r.after, r.before) ->> 'change_id')::uuid)
             or r.tab = 'withdrawal' and p.id = (select part_id from fitting f where f.id = (coalesce(r.after, r.before) ->> 'fitting_id')::uuid)
           where r.deed_id = $1"#,
        id
    )
    .fetch_all(db)
    .await?;
    Ok(Some(parts))
}
