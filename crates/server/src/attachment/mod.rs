//! Photographs and circuit sheets of a ticket or of a part.

mod picture;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::{HeaderName, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::body::{Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::attachment::NewRow;
use crate::text::checked_text;

/// The largest file that is taken, in megabytes.
pub const LARGEST_MB: usize = 20;
/// The most of a ticket.
const MOST: usize = 60;

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
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub added_at: OffsetDateTime,
}

/// The attachments of a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/attachments", operation_id = "list_attachments", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Vec<AttachmentView>), (status = 404, body = Problem)))]
pub async fn list(State(app): State<App>, Id(id): Id) -> Result<Json<Vec<AttachmentView>>, ApiError> {
    crate::table::ticket::find(&app.pool, id).await?;
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
    crate::table::ticket::find(&app.pool, id).await?;
    let bytes = crate::csv_file::within(body, LARGEST_MB * 1024).await?;
    if crate::table::attachment::of_ticket(&app.pool, id).await?.len() >= MOST {
        return Err(ApiError::field("file", format!("a ticket keeps at most {MOST} of them")));
    }
    let mut db = app.pool.acquire().await?;
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
    let row = |media, size, content, small| NewRow {
        id: what.key,
        ticket_id: id,
        part_id,
        name: &name,
        media,
        size,
        content,
        small,
    };
    if picture::is_pdf(&bytes) {
        crate::table::attachment::insert(&app.pool, &row("application/pdf", None, &bytes, None)).await?;
    } else {
        // Unpacking takes a second of sums: not on the threads that serve.
        let kept = tokio::task::spawn_blocking(move || picture::kept(&bytes))
            .await
            .map_err(|e| ApiError::Internal(e.to_string()))??;
        let side = |n: u32| i32::try_from(n).unwrap_or(i32::MAX);
        let size = Some((side(kept.width), side(kept.height)));
        crate::table::attachment::insert(&app.pool, &row(kept.media, size, &kept.content, Some(&kept.small)))
            .await?;
    }
    Ok((StatusCode::CREATED, Json(views(&app, id).await?)))
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
    let (name, media, bytes) = crate::table::attachment::bytes(&app.pool, id, q.small).await?;
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

/// Takes a file away.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/attachments/{id}", operation_id = "remove_attachment", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Vec<AttachmentView>), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<Json<Vec<AttachmentView>>, ApiError> {
    let ticket = crate::table::attachment::remove(&app.pool, id).await?;
    Ok(Json(views(&app, ticket).await?))
}

async fn views(app: &App, ticket: Uuid) -> Result<Vec<AttachmentView>, ApiError> {
    let rows = crate::table::attachment::of_ticket(&app.pool, ticket).await?;
    Ok(rows
        .into_iter()
        .map(|r| AttachmentView {
            id: r.id,
            picture: r.media.starts_with("image/"),
            name: r.name,
            part: r.part,
            width: r.width,
            height: r.height,
            added_at: r.added_at,
        })
        .collect())
}
