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
    /// How many bytes.
    pub bytes: i64,
    /// Their sum.
    pub sha256: &'a [u8],
    /// The bytes themselves, where no store holds them.
    pub content: Option<&'a [u8]>,
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

/// How many bytes all of them have.
pub async fn bytes_in_all(db: impl PgExecutor<'_>) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("select coalesce(sum(bytes), 0)::bigint as \"n!\" from attachment")
        .fetch_one(db)
        .await?)
}

/// Adds an attachment.
pub async fn insert(db: impl PgExecutor<'_>, a: &NewRow<'_>) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into attachment (id, ticket_id, part_id, name, media, width, height, content, small, bytes, sha256)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) on conflict (id) do nothing",
        a.id,
        a.ticket_id,
        a.part_id,
        a.name,
        a.media,
        a.size.map(|s| s.0),
        a.size.map(|s| s.1),
        a.content,
        a.small,
        a.bytes,
        a.sha256
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A file to be handed out.
#[derive(Debug)]
pub struct FileRow {
    /// What it is called.
    pub name: String,
    /// What it is.
    pub media: String,
    /// The sum of the whole one's bytes.
    pub sha256: Vec<u8>,
    /// Its bytes; `None` where the store has them.
    pub content: Option<Vec<u8>>,
}

/// The file of an attachment, or its small copy where it has one.
pub async fn file(db: impl PgExecutor<'_>, id: Uuid, small: bool) -> Result<FileRow, StoreError> {
    sqlx::query_as!(
        FileRow,
        r#"select name, case when $2 and small is not null then 'image/jpeg' else media end as "media!", sha256,
                  case when $2 and small is not null then small else content end as content
           from attachment where id = $1"#,
        id,
        small
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Attachment))
}

/// Gives an attachment its bytes.
pub async fn put_content(db: impl PgExecutor<'_>, id: Uuid, content: &[u8]) -> Result<(), StoreError> {
    sqlx::query!("update attachment set content = $2 where id = $1", id, content).execute(db).await?;
    Ok(())
}

/// The sums of all files that lie in the store.
pub async fn stored(db: impl PgExecutor<'_>) -> Result<Vec<Vec<u8>>, StoreError> {
    Ok(sqlx::query_scalar!("select distinct sha256 from attachment where content is null order by sha256")
        .fetch_all(db)
        .await?)
}

/// Whether a file of this sum lies in the store for a row.
pub async fn is_stored(db: impl PgExecutor<'_>, sha256: &[u8]) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        "select exists (select from attachment where content is null and sha256 = $1) as \"is!\"",
        sha256
    )
    .fetch_one(db)
    .await?)
}

/// Gives all attachments of a sum, whose bytes no row holds, their bytes.
pub async fn put_content_of(
    db: impl PgExecutor<'_>,
    sha256: &[u8],
    content: &[u8],
) -> Result<(), StoreError> {
    sqlx::query!("update attachment set content = $2 where sha256 = $1 and content is null", sha256, content)
        .execute(db)
        .await?;
    Ok(())
}

/// The attachments whose rows hold other bytes than their sum says.
pub async fn damaged(db: impl PgExecutor<'_>) -> Result<Vec<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!(
        "select id from attachment where sha256(content) <> sha256 or octet_length(content) <> bytes"
    )
    .fetch_all(db)
    .await?)
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
