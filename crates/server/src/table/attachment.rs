//! All SQL of attachments.

use serde::{Deserialize, Serialize};
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// An attachment without its bytes.
#[derive(Debug, Clone)]
pub struct AttachmentRow {
    /// Its id.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// What it is.
    pub media: String,
    /// The part that it shows.
    pub part: Option<String>,
    /// Its width in pixels.
    pub width: Option<i32>,
    /// Its height in pixels.
    pub height: Option<i32>,
    /// The parts that are marked on it.
    pub markers: Json<Vec<MarkedRow>>,
    /// When.
    pub added_at: OffsetDateTime,
}

/// A part that is marked on a picture, by its name.
#[derive(Debug, Clone, Deserialize)]
pub struct MarkedRow {
    /// The part.
    pub part: String,
    /// From the left, as a share of the width.
    pub x: f64,
    /// From the top, as a share of the height.
    pub y: f64,
}

/// A part that is marked on a picture.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct MarkerRow {
    /// The part.
    pub part_id: Uuid,
    /// From the left, as a share of the width.
    pub x: f64,
    /// From the top, as a share of the height.
    pub y: f64,
}

/// A new attachment.
#[derive(Debug)]
pub struct NewRow<'a> {
    /// Its id.
    pub id: Uuid,
    /// Of which ticket.
    pub ticket_id: Uuid,
    /// The part that it shows.
    pub part_id: Option<Uuid>,
    /// What it is called.
    pub name: &'a str,
    /// What it is.
    pub media: &'a str,
    /// Width and height in pixels.
    pub size: Option<(i32, i32)>,
    /// The bytes.
    pub content: &'a [u8],
    /// The small copy.
    pub small: Option<&'a [u8]>,
}

/// All attachments of a ticket, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<Vec<AttachmentRow>, StoreError> {
    Ok(sqlx::query_as!(
        AttachmentRow,
        r#"select a.id, a.name, media, p.name as "part?", width, height,
                  (select coalesce(jsonb_agg(jsonb_build_object('part', q.name, 'x', m->'x', 'y', m->'y') order by n), '[]')
                   from jsonb_array_elements(a.markers) with ordinality as e (m, n)
                   join part q on q.id = (m->>'part_id')::uuid) as "markers!: _", added_at
           from attachment a left join part p on p.id = a.part_id where a.ticket_id = $1 order by added_at, a.id"#,
        ticket
    )
    .fetch_all(db)
    .await?)
}

/// How many a ticket has.
pub async fn count(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("select count(*) as \"n!\" from attachment where ticket_id = $1", ticket)
        .fetch_one(db)
        .await?)
}

/// What all of them take on the disk, in bytes.
pub async fn bytes_in_all(db: impl PgExecutor<'_>) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("select pg_total_relation_size('attachment') as \"n!\"").fetch_one(db).await?)
}

/// Adds an attachment.
pub async fn insert(db: impl PgExecutor<'_>, a: &NewRow<'_>) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into attachment (id, ticket_id, part_id, name, media, width, height, content, small)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (id) do nothing",
        a.id,
        a.ticket_id,
        a.part_id,
        a.name,
        a.media,
        a.size.map(|s| s.0),
        a.size.map(|s| s.1),
        a.content,
        a.small
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The bytes of an attachment, or of its small copy where it has one.
pub async fn bytes(
    db: impl PgExecutor<'_>,
    id: Uuid,
    small: bool,
) -> Result<(String, String, Vec<u8>), StoreError> {
    let row = sqlx::query!(
        r#"select name, case when $2 and small is not null then 'image/jpeg' else media end as "media!",
                  case when $2 and small is not null then small else content end as "bytes!"
           from attachment where id = $1"#,
        id,
        small
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Attachment))?;
    Ok((row.name, row.media, row.bytes))
}

/// Marks a part on a picture, at one place; `None` takes its mark away. The ticket that the picture is of.
pub async fn mark(
    db: &mut PgConnection,
    id: Uuid,
    part: Uuid,
    place: Option<MarkerRow>,
) -> Result<(), StoreError> {
    let row = sqlx::query!(
        r#"select markers as "markers!: Json<Vec<MarkerRow>>" from attachment where id = $1 for update"#,
        id
    )
    .fetch_optional(&mut *db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Attachment))?;
    let mut all = row.markers.0;
    all.retain(|m| m.part_id != part);
    all.extend(place);
    sqlx::query!("update attachment set markers = $2 where id = $1", id, Json(all) as _).execute(db).await?;
    Ok(())
}

/// The ticket of an attachment, and whether it is a picture.
pub async fn ticket_of(db: impl PgExecutor<'_>, id: Uuid) -> Result<(Uuid, bool), StoreError> {
    let row = sqlx::query!(
        r#"select ticket_id, media like 'image/%' as "picture!" from attachment where id = $1"#,
        id
    );
    let row = row.fetch_optional(db).await?.ok_or_else(|| StoreError::Gone(Row::Attachment))?;
    Ok((row.ticket_id, row.picture))
}

/// Takes an attachment away; the ticket that it was of.
pub async fn remove(db: impl PgExecutor<'_>, id: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("delete from attachment where id = $1 returning ticket_id", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Attachment))
}
