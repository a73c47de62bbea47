//! Photographs and circuit sheets of a ticket or of a part.

pub(crate) mod picture;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use tokio::sync::Semaphore;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::aside::aside;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::picture_store;
use crate::table::attachment::{MarkedRow, MarkerRow, NewRow};
use crate::text::checked_text;

/// The largest file that is taken, in megabytes.
pub const LARGEST_MB: usize = 20;
/// The most of a ticket.
pub(crate) const MOST: u16 = 60;
/// So much is kept in all.
const MOST_GB_IN_ALL: i64 = 50;
/// So many pictures are unpacked at once: each takes up to a quarter of a gigabyte.
static UNPACKED_AT_ONCE: Semaphore = Semaphore::const_new(2);

/// What a file is called and what it shows.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct AttachmentName {
    /// Chosen by the client, so that sending twice keeps once.
    key: Uuid,
    /// What it is called.
    name: Option<String>,
    /// The part that it shows, by name.
    part: Option<String>,
}

/// Which copy.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichCopy {
    /// The small one, for a list.
    #[serde(default)]
    small: bool,
}

/// An attachment.
#[derive(Debug, Serialize, ToSchema)]
pub struct AttachmentView {
    /// Its id.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// Whether it is a picture; otherwise a PDF.
    pub picture: bool,
    /// The part that it shows.
    pub part: Option<String>,
    /// Its width in pixels.
    pub width: Option<i32>,
    /// Its height in pixels.
    pub height: Option<i32>,
    /// The parts that are marked on it.
    pub markers: Vec<MarkerView>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub added_at: OffsetDateTime,
}

/// A part that is marked on a picture.
#[derive(Debug, Serialize, ToSchema)]
pub struct MarkerView {
    /// The part, by name.
    pub part: String,
    /// From the left, as a share of the width.
    pub x: f64,
    /// From the top, as a share of the height.
    pub y: f64,
}

/// Where a part is marked on a picture.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MarkerBody {
    /// The part, by name.
    #[schema(min_length = 1, max_length = 20)]
    pub part: String,
    /// From the left, as a share of the width; null takes the mark away.
    pub x: Option<f64>,
    /// From the top, as a share of the height.
    pub y: Option<f64>,
}

/// The attachments of a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/attachments", operation_id = "list_attachments", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Vec<AttachmentView>), (status = 404, body = Problem)))]
pub async fn list(State(app): State<App>, Id(id): Id) -> Result<Json<Vec<AttachmentView>>, ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    Ok(Json(views(&app, id).await?))
}

/// Adds a file: JPEG, PNG or WebP by its content, or a PDF. What a camera wrote beside a picture is taken off.
///
/// # Errors
/// 404, 413, 422 with what is wrong.
#[utoipa::path(post, path = "/api/tickets/{id}/attachments", operation_id = "add_attachment", tag = "tickets",
    params(("id" = Uuid, Path), AttachmentName),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses(
    (status = 201, body = Vec<AttachmentView>), (status = 404, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(id): Id,
    Query(what): Query<AttachmentName>,
    body: HttpBody,
) -> Result<(StatusCode, Json<Vec<AttachmentView>>), ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    let bytes = crate::csv_file::within(body, LARGEST_MB * 1024).await?;
    let mut db = app.db.snapshot().await?;
    let part_id = match what.part.as_deref().map(str::trim).filter(|p| !p.is_empty()) {
        None => None,
        Some(name) => Some(
            crate::table::change::part_of(&mut db, id, name)
                .await?
                .ok_or_else(|| ApiError::field("part", format!("there is no {name} on the tray")))?,
        ),
    };
    drop(db);
    let name = checked_text("name", what.name.as_deref().unwrap_or(""), 120)?;
    let name = if name.is_empty() { "without a name".to_owned() } else { name };
    let (media, size, content, small);
    if picture::is_pdf(&bytes) {
        (media, size, content, small) = ("application/pdf", None, bytes, None);
    } else {
        // Unpacking takes a second of sums and much memory: not on the threads that serve, and few at once.
        let turn = UNPACKED_AT_ONCE.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
        let kept = aside(move || {
            let _turn = turn;
            picture::kept(&bytes)
        })
        .await??;
        let side = |n: u32| i32::try_from(n).unwrap_or(i32::MAX);
        size = Some((side(kept.width), side(kept.height)));
        (media, content, small) = (kept.media, kept.content, Some(kept.small));
    }
    if app.pictures.is_set() {
        // A store is given nothing that no row could follow.
        room(&app, id).await?.rollback().await?;
    }
    let sum = picture_store::sum(&content);
    let held = app.pictures.keep(&sum, &content).await?;
    let mut tx = room(&app, id).await?;
    let row = NewRow {
        id: what.key,
        ticket_id: id,
        part_id,
        name: &name,
        media,
        size,
        bytes: i64::try_from(content.len()).unwrap_or(i64::MAX),
        sha256: &sum,
        content: held,
        small: small.as_deref(),
    };
    crate::table::attachment::insert(&mut *tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(views(&app, id).await?)))
}

/// Begins to write a file down where there is room for it: on its ticket, which is held so that two at once do not take
/// the last place both, and in all.
async fn room(app: &App, ticket: Uuid) -> Result<sqlx::PgTransaction<'static>, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::ticket::lock(&mut tx, ticket).await?;
    if crate::table::attachment::count(&mut *tx, ticket).await? >= i64::from(MOST) {
        return Err(ApiError::field("file", format!("a ticket keeps at most {MOST} of them")));
    }
    room_in_all(&mut *tx).await?;
    Ok(tx)
}

/// Whether the workshop has room for its pictures and files.
///
/// # Errors
/// 422 where it has not.
pub(crate) async fn room_in_all(db: impl sqlx::PgExecutor<'_>) -> Result<(), ApiError> {
    if crate::table::attachment::bytes_in_all(db).await? > MOST_GB_IN_ALL * 1_000_000_000 {
        let why = format!("the workshop keeps at most {MOST_GB_IN_ALL} GB of pictures and files");
        return Err(ApiError::field("file", why));
    }
    Ok(())
}

/// The file itself, or its small copy.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/attachments/{id}", operation_id = "read_attachment", tag = "tickets",
    params(("id" = Uuid, Path), WhichCopy), responses(
    (status = 200, body = Vec<u8>, content_type = "application/octet-stream"), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn read(
    State(app): State<App>,
    Id(id): Id,
    Query(q): Query<WhichCopy>,
) -> Result<Response, ApiError> {
    let (name, media, bytes) = content(&app, id, q.small).await?;
    let media = HeaderValue::from_str(&media).map_err(|e| ApiError::Internal(e.to_string()))?;
    // A PDF is handed over, not shown: it can carry scripts.
    let shown = if media == "application/pdf" {
        let plain: String =
            name.chars().map(|c| if c.is_ascii_alphanumeric() || c == '.' { c } else { '-' }).collect();
        format!("attachment; filename=\"{plain}\"")
    } else {
        "inline".to_owned()
    };
    let shown = HeaderValue::from_str(&shown).map_err(|e| ApiError::Internal(e.to_string()))?;
    let policy = HeaderValue::from_static("default-src 'none'; sandbox");
    let headers = [
        (header::CONTENT_TYPE, media),
        (header::CONTENT_DISPOSITION, shown),
        (HeaderName::from_static("content-security-policy"), policy),
    ];
    Ok((headers, bytes).into_response())
}

/// What a file is called, what it is, and its bytes, wherever they lie.
///
/// # Errors
/// 404; 502 when the store of the pictures is away.
pub(crate) async fn content(app: &App, id: Uuid, small: bool) -> Result<(String, String, Vec<u8>), ApiError> {
    let file = crate::table::attachment::file(&app.db, id, small).await?;
    let content = match file.content {
        Some(content) => content,
        None => app.pictures.read(&file.sha256).await?,
    };
    Ok((file.name, file.media, content))
}

/// Marks a part on a picture, at one place; without a place its mark is taken away.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(put, path = "/api/attachments/{id}/markers", operation_id = "mark_attachment", tag = "tickets", params(("id" = Uuid, Path)),
    request_body = MarkerBody, responses(
    (status = 200, body = Vec<AttachmentView>), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn mark(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<MarkerBody>,
) -> Result<Json<Vec<AttachmentView>>, ApiError> {
    let (ticket, picture) = crate::table::attachment::ticket_of(&app.db, id).await?;
    if !picture {
        return Err(ApiError::field("part", "only a picture is marked"));
    }
    let mut tx = app.begin().await?;
    let part_id = crate::table::change::part_of(&mut tx, ticket, body.part.trim())
        .await?
        .ok_or_else(|| ApiError::field("part", format!("there is no {} on the tray", body.part.trim())))?;
    let place = match (body.x, body.y) {
        (None, None) => None,
        (Some(x), Some(y)) if (0.0..=1.0).contains(&x) && (0.0..=1.0).contains(&y) => {
            Some(MarkerRow { part_id, x, y })
        }
        _ => return Err(ApiError::field("x", "a mark lies on the picture: both from 0 to 1")),
    };
    crate::table::attachment::mark(&mut tx, id, part_id, place).await?;
    tx.commit().await?;
    Ok(Json(views(&app, ticket).await?))
}

/// Takes a file away.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/attachments/{id}", operation_id = "remove_attachment", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Vec<AttachmentView>), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<Json<Vec<AttachmentView>>, ApiError> {
    let mut tx = app.begin().await?;
    let ticket = crate::table::attachment::remove(&mut *tx, id).await?;
    tx.commit().await?;
    Ok(Json(views(&app, ticket).await?))
}

async fn views(app: &App, ticket: Uuid) -> Result<Vec<AttachmentView>, ApiError> {
    let rows = crate::table::attachment::of_ticket(&app.db, ticket).await?;
    let marker = |m: MarkedRow| MarkerView { part: m.part, x: m.x, y: m.y };
    Ok(rows
        .into_iter()
        .map(|r| AttachmentView {
            id: r.id,
            picture: r.media.starts_with("image/"),
            name: r.name,
            part: r.part,
            width: r.width,
            height: r.height,
            markers: r.markers.0.into_iter().map(marker).collect(),
            added_at: r.added_at,
        })
        .collect())
}
