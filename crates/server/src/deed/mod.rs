//! What was done last on a ticket, and taking it back with one key, ten steps deep.

use axum::Json;
use axum::extract::State;
use owl_core::people::Permission;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::people::actor::needs;
use crate::table::deed::{DeedRow, decides, is_undone, last, undo as take_back};
use crate::tray::touched;

/// What can be taken back next.
#[derive(Debug, Serialize, ToSchema)]
pub struct DeedsView {
    /// The last deed; null where nothing can be taken back.
    pub last: Option<DeedView>,
}

/// A deed.
#[derive(Debug, Serialize, ToSchema)]
pub struct DeedView {
    /// Its number.
    pub id: i64,
    /// In words, mostly as they were typed.
    pub what: String,
    /// The part that it was done to; null of a valve's volts.
    pub part_id: Option<Uuid>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub done_at: OffsetDateTime,
}

impl From<DeedRow> for DeedView {
    fn from(d: DeedRow) -> Self {
        Self { id: d.id, what: d.what, part_id: d.part_id, done_at: d.done_at }
    }
}

/// Which deed is to be taken back.
#[derive(Debug, Deserialize, ToSchema)]
pub struct UndoDeed {
    /// The last one, as it was seen.
    pub deed: i64,
}

/// What can be taken back next on a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/deeds", operation_id = "last_deed", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = DeedsView), (status = 404, body = Problem)))]
pub async fn read(State(app): State<App>, Id(id): Id) -> Result<Json<DeedsView>, ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    Ok(Json(DeedsView { last: last(&app.db, id).await?.map(DeedView::from) }))
}

/// Takes the last deed back: all that it wrote is as it was. Sent twice it is taken back once.
///
/// # Errors
/// 404, 409 when another was done since, or something else has changed what it wrote.
#[utoipa::path(post, path = "/api/tickets/{id}/deeds/undo", operation_id = "undo_deed", tag = "tickets", params(("id" = Uuid, Path)),
    request_body = UndoDeed, responses(
    (status = 200, body = DeedsView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn undo(
    State(app): State<App>,
    Id(ticket): Id,
    Body(q): Body<UndoDeed>,
) -> Result<Json<DeedsView>, ApiError> {
    let held = |detail: &str| ApiError::Conflict { detail: detail.to_owned(), changed: vec![] };
    let mut tx = app.begin().await?;
    crate::table::ticket::lock(&mut tx, ticket).await?;
    if !is_undone(&mut *tx, ticket, q.deed).await? {
        let deed = last(&mut *tx, ticket).await?.filter(|d| d.id == q.deed);
        let deed = deed.ok_or_else(|| held("something else was done since: look at what is undone next"))?;
        if decides(&mut *tx, deed.id).await? {
            needs(Permission::Decide)?;
        }
        let parts = take_back(&mut tx, deed.id)
            .await?
            .ok_or_else(|| held("what this did was changed since by something else, and cannot be undone"))?;
        for part in parts {
            touched(&mut tx, part).await?;
        }
    }
    let next = last(&mut *tx, ticket).await?.map(DeedView::from);
    tx.commit().await?;
    Ok(Json(DeedsView { last: next }))
}
