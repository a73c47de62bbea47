//! The record to be read: one page for the owner, everything for the next technician. HTML with a style for the printer;
//! a browser makes a PDF of it.

mod owner;
mod page;
mod technician;

use axum::extract::State;
use axum::http::{HeaderName, HeaderValue, header};
use axum::response::{IntoResponse, Response};
use time::OffsetDateTime;
use uuid::Uuid;

use crate::app::App;
use crate::body::Id;
use crate::change::wire::ChangesView;
use crate::closing::wire::ClosingView;
use crate::error::{ApiError, Problem};
use crate::table::workshop::Named;
use crate::ticket::wire::TicketView;
use crate::tray::view::parts_in;
use crate::tray::wire::PartView;

/// What both reports are made of.
pub(super) struct ReportData {
    pub workshop: Named,
    pub ticket: TicketView,
    pub parts: Vec<PartView>,
    pub changes: ChangesView,
    pub closing: ClosingView,
    pub today: OffsetDateTime,
}

async fn told(app: &App, id: Uuid) -> Result<ReportData, ApiError> {
    let workshop = crate::table::workshop::named(&app.db).await?;
    let ticket = crate::ticket::view(app, id).await?;
    let changes = crate::change::view(app, id).await?;
    let closing = crate::closing::view(app, id).await?;
    let mut tx = app.db.snapshot().await?;
    let row = crate::table::ticket::find(&mut *tx, id).await?;
    let parts = parts_in(&mut tx, &row).await?;
    Ok(ReportData { workshop, ticket, parts, changes, closing, today: OffsetDateTime::now_utc() })
}

/// A page for the owner: what was done and why, what to watch, cautions.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/report/owner", operation_id = "owner_report", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/html"), (status = 404, body = Problem)))]
pub async fn for_owner(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    Ok(html(owner::page(&told(&app, id).await?)))
}

/// Everything, for the next technician.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/report/technician", operation_id = "technician_report", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/html"), (status = 404, body = Problem)))]
pub async fn for_technician(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let told = told(&app, id).await?;
    Ok(html(technician::page(&app, id, &told).await?))
}

fn html(page: String) -> Response {
    let policy = (HeaderName::from_static("content-security-policy"), HeaderValue::from_static(page::POLICY));
    let media = (header::CONTENT_TYPE, HeaderValue::from_static("text/html; charset=utf-8"));
    ([policy, media], page).into_response()
}

/// `26 November 2026`.
pub(super) fn day(at: OffsetDateTime) -> String {
    format!("{} {} {}", at.day(), at.month(), at.year())
}

/// `26 Nov, 14:07` in the workshop's record: the time of the server's clock, UTC.
pub(super) fn moment(at: OffsetDateTime) -> String {
    let month: String = at.month().to_string().chars().take(3).collect();
    format!("{} {month} {:02}:{:02}", at.day(), at.hour(), at.minute())
}
